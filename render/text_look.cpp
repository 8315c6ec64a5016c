#include "render/text_look.h"

#include <QAbstractTextDocumentLayout>
#include <QFontMetricsF>
#include <QTextBlock>
#include <QTextCursor>
#include <QTextList>
#include <cmath>

#include "drawing/words_within.h"
#include "render/page_painter.h"

namespace fernleaf {
namespace {

constexpr int kListIndentMm = 6;
// What a format holds besides what it shows.
enum Property {
    chosen_colour = QTextFormat::UserProperty + 1,
    chosen_highlight,
    heading_level,
    chosen_size,
    unsure_word
};

double units(double mm) { return mm * kTextUnitsPerMm; }

QFont font_of(const TextStyle& style) {
    QFont font(QString::fromStdString(style.family));
    font.setPixelSize(std::max(1, static_cast<int>(std::lround(units(style.size_mm)))));
    font.setWeight(style.bold ? QFont::DemiBold : QFont::Normal);  // as is shipped: Qt would smear a bolder one
    font.setItalic(style.italic);
    font.setHintingPreference(QFont::PreferNoHinting);
    return font;
}

Qt::Alignment alignment_of(Align align) {
    switch (align) {
        case Align::left:
            break;
        case Align::centre:
            return Qt::AlignHCenter;
        case Align::right:
            return Qt::AlignRight;
        case Align::justified:
            return Qt::AlignJustify;
    }
    return Qt::AlignLeft;
}

Align align_of(Qt::Alignment alignment) {
    if (alignment & Qt::AlignHCenter) return Align::centre;
    if (alignment & Qt::AlignRight) return Align::right;
    if (alignment & Qt::AlignJustify) return Align::justified;
    return Align::left;
}

QTextListFormat list_format(ListKind kind) {
    QTextListFormat format;
    format.setStyle(kind == ListKind::number ? QTextListFormat::ListDecimal : QTextListFormat::ListDisc);
    format.setIndent(1);
    return format;
}

QTextBlockFormat block_format(const TextBlock& block, const Paragraph& p, bool first) {
    QTextBlockFormat format;
    format.setAlignment(alignment_of(p.align));
    format.setLeftMargin(units(p.indent_mm));
    format.setTopMargin(first ? 0 : units(p.before_mm));
    if (block.pitch_mm > 0) format.setLineHeight(units(block.pitch_mm), QTextBlockFormat::FixedHeight);
    if (p.heading != 0) format.setProperty(heading_level, p.heading);
    if (p.list == ListKind::check) format.setMarker(QTextBlockFormat::MarkerType::Unchecked);
    if (p.list == ListKind::checked) format.setMarker(QTextBlockFormat::MarkerType::Checked);
    return format;
}

void place_words(TextBlock& block, const QTextDocument& document) {
    block.words.clear();
    const auto* layout = document.documentLayout();
    const Point middle = Box::of(block.at.x, block.at.y, block.width_mm, block.height_mm).centre();
    int line_number = -1;
    for (QTextBlock b = document.begin(); b.isValid(); b = b.next()) {
        const QPointF origin = layout->blockBoundingRect(b).topLeft();
        const QString text = b.text();
        for (int l = 0; l < b.layout()->lineCount(); ++l) {
            const QTextLine line = b.layout()->lineAt(l);
            const int end = line.textStart() + line.textLength();
            ++line_number;
            for (int at = line.textStart(); at < end;) {
                while (at < end && text[at].isSpace()) ++at;
                const int begin = at;
                while (at < end && !text[at].isSpace()) ++at;
                if (at == begin) break;
                const double left = line.cursorToX(begin), right = line.cursorToX(at);
                const QFontMetricsF metrics(font_of(style_of(QTextCursor(b).charFormat())));
                const double top = origin.y() + line.y() + line.ascent() - metrics.ascent();
                const Box box =
                    Box::of(block.at.x + (origin.x() + left) / kTextUnitsPerMm, block.at.y + top / kTextUnitsPerMm,
                            (right - left) / kTextUnitsPerMm, (metrics.ascent() + metrics.descent()) / kTextUnitsPerMm);
                block.words.push_back(
                    {text.mid(begin, at - begin).toStdString(), turned(box, block.angle, middle), line_number});
            }
        }
    }
}

}  // namespace

QTextCharFormat format_of(const TextStyle& style, const PageScheme& scheme) {
    QTextCharFormat format;
    format.setFont(font_of(style));
    format.setFontUnderline(style.underline);
    format.setFontStrikeOut(style.strike);
    format.setForeground(shown_colour(style.colour, scheme));
    format.setProperty(chosen_colour, style.colour);
    format.setProperty(chosen_size, style.size_mm);
    if (style.highlight) {
        QColor band = QColor::fromRgb(*style.highlight);
        band.setAlphaF(scheme.dark ? 0.35F : 0.55F);
        format.setBackground(band);
        format.setProperty(chosen_highlight, *style.highlight);
    }
    if (style.unsure) format.setProperty(unsure_word, true);
    return format;
}

TextStyle style_of(const QTextCharFormat& format) {
    TextStyle style;
    const QFont font = format.font();
    if (!format.fontFamilies().toStringList().isEmpty())
        style.family = format.fontFamilies().toStringList().front().toStdString();
    if (format.hasProperty(chosen_size))
        style.size_mm = format.doubleProperty(chosen_size);
    else if (font.pixelSize() > 0)
        style.size_mm = font.pixelSize() / kTextUnitsPerMm;
    style.bold = font.bold();
    style.italic = font.italic();
    style.underline = format.fontUnderline();
    style.strike = format.fontStrikeOut();
    if (format.hasProperty(chosen_colour)) style.colour = format.property(chosen_colour).toUInt();
    style.unsure = format.boolProperty(unsure_word);
    if (format.hasProperty(chosen_highlight)) style.highlight = format.property(chosen_highlight).toUInt();
    return style;
}

std::unique_ptr<QTextDocument> document_of(const TextBlock& block, const PageScheme& scheme) {
    auto document = std::make_unique<QTextDocument>();
    document->setDocumentMargin(0);
    document->setUseDesignMetrics(true);
    document->setIndentWidth(units(kListIndentMm));
    document->setTextWidth(units(block.width_mm));
    QTextCursor cursor(document.get());
    QTextList* list = nullptr;
    ListKind of = ListKind::none;
    bool first = true;
    for (const Paragraph& p : block.paragraphs) {
        const QTextBlockFormat format = block_format(block, p, first);
        // An empty paragraph is as high as its neighbours.
        const TextStyle style = p.runs.empty() ? TextStyle{} : p.runs.front().style;
        const QTextCharFormat characters = format_of(style, scheme);
        if (first)
            cursor.setBlockFormat(format), cursor.setBlockCharFormat(characters);
        else
            cursor.insertBlock(format, characters);
        first = false;
        // Marks to tick off share a list with dots.
        const ListKind kind = p.list == ListKind::check || p.list == ListKind::checked ? ListKind::bullet : p.list;
        if (kind == ListKind::none)
            list = nullptr;
        else if (!list || kind != of)
            list = cursor.createList(list_format(kind));
        else
            list->add(cursor.block());
        of = kind;
        for (const TextRun& run : p.runs)
            cursor.insertText(QString::fromStdString(run.text), format_of(run.style, scheme));
    }
    return document;
}

ListKind list_of(const QTextBlock& block) {
    const QTextList* list = block.textList();
    if (!list) return ListKind::none;
    switch (block.blockFormat().marker()) {
        case QTextBlockFormat::MarkerType::Checked:
            return ListKind::checked;
        case QTextBlockFormat::MarkerType::Unchecked:
            return ListKind::check;
        case QTextBlockFormat::MarkerType::NoMarker:
            break;
    }
    return list->format().style() == QTextListFormat::ListDecimal ? ListKind::number : ListKind::bullet;
}

int heading_of(const QTextBlock& block) { return block.blockFormat().intProperty(heading_level); }

void set_list(QTextCursor cursor, ListKind kind) {
    cursor.beginEditBlock();
    const int end = cursor.selectionEnd();
    QTextBlock block = cursor.document()->findBlock(cursor.selectionStart());
    QTextList* list = nullptr;
    for (; block.isValid() && block.position() <= end; block = block.next()) {
        QTextCursor at(block);
        QTextBlockFormat marker;
        marker.setMarker(kind == ListKind::check     ? QTextBlockFormat::MarkerType::Unchecked
                         : kind == ListKind::checked ? QTextBlockFormat::MarkerType::Checked
                                                     : QTextBlockFormat::MarkerType::NoMarker);
        if (QTextList* old = block.textList()) old->remove(block);
        at.mergeBlockFormat(marker);
        if (kind == ListKind::none) continue;
        const ListKind shape = kind == ListKind::number ? kind : ListKind::bullet;
        if (!list)
            list = at.createList(list_format(shape));
        else
            list->add(block);
    }
    cursor.endEditBlock();
}

void set_heading(QTextCursor cursor, int level) {
    QTextBlockFormat format;
    format.setProperty(heading_level, level);
    cursor.mergeBlockFormat(format);
}

std::vector<Paragraph> paragraphs_of(const QTextDocument& document) {
    std::vector<Paragraph> out;
    for (QTextBlock b = document.begin(); b.isValid(); b = b.next()) {
        Paragraph p;
        const QTextBlockFormat format = b.blockFormat();
        p.align = align_of(format.alignment());
        p.indent_mm = format.leftMargin() / kTextUnitsPerMm;
        p.before_mm = format.topMargin() / kTextUnitsPerMm;
        p.heading = heading_of(b);
        p.list = list_of(b);
        for (auto it = b.begin(); !it.atEnd(); ++it) {
            const QTextFragment fragment = it.fragment();
            if (!fragment.isValid()) continue;
            QString text = fragment.text();
            text.replace(QChar::LineSeparator, ' ');
            p.runs.push_back({text.toStdString(), style_of(fragment.charFormat())});
        }
        if (p.runs.empty()) p.runs.push_back({"", style_of(b.charFormat())});
        out.push_back(std::move(p));
    }
    return out;
}

void lay_out(TextBlock& block) {
    const auto document = document_of(block, light_page());
    block.height_mm = document->size().height() / kTextUnitsPerMm;
    place_words(block, *document);
}

void lay_out_fresh(Elements& elements) {
    lay_out_fresh(elements, [](TextBlock& block) { lay_out(block); });
}

void lay_out_level(TextBlock& block) {
    lay_out(block);
    if (block.words.empty()) return;
    const double meant = block.at.y + block.paragraphs.front().before_mm + block.pitch_mm / 2;
    const double by = meant - block.words.front().box.centre().y;
    block.at.y += by;
    for (PlacedWord& word : block.words) word.box.top += by, word.box.bottom += by;
}

void draw_text(QPainter& painter, const TextBlock& block, const PageScheme& scheme) {
    const auto document = document_of(block, scheme);
    const Point c = Box::of(block.at.x, block.at.y, block.width_mm, block.height_mm).centre();
    painter.save();
    painter.setRenderHints(QPainter::Antialiasing | QPainter::TextAntialiasing);
    painter.translate(c.x, c.y);
    painter.rotate(block.angle);
    painter.translate(block.at.x - c.x, block.at.y - c.y);
    if (block.fill)
        painter.fillRect(QRectF(-1, -1, block.width_mm + 2, block.height_mm + 2), QColor::fromRgb(*block.fill));
    painter.scale(1 / kTextUnitsPerMm, 1 / kTextUnitsPerMm);
    QAbstractTextDocumentLayout::PaintContext context;
    context.palette.setColor(QPalette::Text, shown_colour(TextStyle{}.colour, scheme));
    document->documentLayout()->draw(&painter, context);
    painter.restore();
}

double text_width(const std::string& text, const TextStyle& style) {
    return QFontMetricsF(font_of(style)).horizontalAdvance(QString::fromStdString(text)) / kTextUnitsPerMm;
}

}  // namespace fernleaf
