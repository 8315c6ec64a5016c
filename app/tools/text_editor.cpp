#include "tools/text_editor.h"

#include <QAbstractTextDocumentLayout>
#include <QKeyEvent>
#include <QScrollBar>
#include <QStyleOptionGraphicsItem>
#include <QTextCursor>
#include <QTextDocument>

#include "look/theme.h"
#include "render/text_look.h"

namespace fernleaf {
namespace {

constexpr int kKeepMs = 700;  // no more of what is typed than in this time is lost, whatever happens
constexpr double kFramePx = 7;

// The page's own frame shows where one writes; the item's would stand inside it.
class TextItem : public QGraphicsTextItem {
protected:
    void paint(QPainter* painter, const QStyleOptionGraphicsItem* option, QWidget* widget) override {
        QStyleOptionGraphicsItem plain = *option;
        plain.state &= ~(QStyle::State_HasFocus | QStyle::State_Selected);
        QGraphicsTextItem::paint(painter, &plain, widget);
    }
};

}  // namespace

TextEditor::TextEditor(QWidget* leaf, PageViewport& view) : QGraphicsView(leaf), view_(view) {
    setObjectName(QStringLiteral("textEditor"));
    setAccessibleName(tr("Text on the page"));
    setScene(&scene_);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setAlignment(Qt::AlignLeft | Qt::AlignTop);
    setStyleSheet(QStringLiteral("background: transparent;"));
    viewport()->setCursor(Qt::IBeamCursor);
    setAttribute(Qt::WA_NoMousePropagation);
    setRenderHints(QPainter::Antialiasing | QPainter::TextAntialiasing);
    pause_.setSingleShot(true);
    pause_.setInterval(kKeepMs);
    connect(&pause_, &QTimer::timeout, this, &TextEditor::paused);
    connect(&view_, &PageViewport::changed, this, &TextEditor::place);
    hide();
}

void TextEditor::open(const TextBlock& block, const PageScheme& scheme) {
    block_ = block;
    scheme_ = scheme;
    scene_.clear();
    item_ = new TextItem;
    QTextDocument* document = document_of(block, scheme).release();
    document->setParent(item_);
    item_->setDocument(document);
    item_->setTextInteractionFlags(Qt::TextEditorInteraction);
    item_->setDefaultTextColor(shown_colour(TextStyle{}.colour, scheme));
    scene_.addItem(item_);
    connect(document, &QTextDocument::contentsChanged, this, [this] {
        place();
        keep_soon();
    });
    connect(document, &QTextDocument::cursorPositionChanged, this, &TextEditor::touched);
    place();
    show();
    raise();
    setFocus();
    item_->setFocus();
    QTextCursor cursor = item_->textCursor();
    cursor.movePosition(QTextCursor::End);
    item_->setTextCursor(cursor);
    emit touched();
}

void TextEditor::put_cursor(QPointF leaf_px) {
    const QPointF at = item_->mapFromScene(leaf_px);
    QTextCursor cursor = item_->textCursor();
    cursor.setPosition(std::max(0, item_->document()->documentLayout()->hitTest(at, Qt::FuzzyHit)));
    item_->setTextCursor(cursor);
    emit touched();
}

void TextEditor::close_text() {
    if (!is_open()) return;
    pause_.stop();
    hide();
    parentWidget()->setFocus();
    emit closed();
}

void TextEditor::drop() {
    pause_.stop();
    hide();
}

TextBlock TextEditor::block() const {
    TextBlock now = block_;
    now.paragraphs = paragraphs_of(*item_->document());
    lay_out(now);
    return now;
}

void TextEditor::kept_as(const TextBlock& kept) {
    const bool elsewhere = kept.at != block_.at || kept.width_mm != block_.width_mm;
    block_.id = kept.id, block_.z = kept.z;
    block_.at = kept.at, block_.width_mm = kept.width_mm, block_.height_mm = kept.height_mm;
    if (!elsewhere) return;
    const QSignalBlocker quiet(item_->document());  // nothing was typed
    item_->document()->setTextWidth(kept.width_mm * kTextUnitsPerMm);
    place();
}

// The scene's unit is the leaf's pixel, so that the view shows just the part of it that it covers.
void TextEditor::place() {
    if (!item_) return;
    const double height = item_->document()->size().height() / kTextUnitsPerMm;
    const Point middle{block_.at.x + block_.width_mm / 2, block_.at.y + block_.height_mm / 2};
    QTransform to_leaf;
    to_leaf.translate(view_.origin().x(), view_.origin().y());
    to_leaf.scale(view_.scale(), view_.scale());
    to_leaf.translate(middle.x, middle.y);
    to_leaf.rotate(block_.angle);
    to_leaf.translate(block_.at.x - middle.x, block_.at.y - middle.y);
    const QRectF frame =
        to_leaf.mapRect(QRectF(0, 0, block_.width_mm, height)).adjusted(-kFramePx, -kFramePx, kFramePx, kFramePx);
    to_leaf.scale(1 / kTextUnitsPerMm, 1 / kTextUnitsPerMm);
    item_->setTransform(to_leaf);
    const QRect whole = frame.toAlignedRect();
    setSceneRect(whole);
    setGeometry(whole);
    horizontalScrollBar()->setValue(horizontalScrollBar()->minimum());
    verticalScrollBar()->setValue(verticalScrollBar()->minimum());
    emit moved();
}

void TextEditor::drawBackground(QPainter* painter, const QRectF& rect) {
    if (block_.fill) painter->fillRect(rect, QColor::fromRgb(*block_.fill));
    painter->setPen(QPen(theme().act, 1.4));
    painter->setBrush(Qt::NoBrush);
    painter->drawRoundedRect(QRectF(sceneRect()).adjusted(1.5, 1.5, -1.5, -1.5), 5, 5);
}

// The view hands Tab to its items before keyPressEvent().
bool TextEditor::event(QEvent* event) {
    if (in_cell_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Tab || key == Qt::Key_Backtab) {
            emit stepped(key == Qt::Key_Tab ? 1 : -1);
            return true;
        }
    }
    return QGraphicsView::event(event);
}

void TextEditor::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return close_text();
    const auto with = [&](Qt::Key key) { return event->modifiers() == Qt::ControlModifier && event->key() == key; };
    if (with(Qt::Key_B)) return change_style([](TextStyle& s) { s.bold = !s.bold; });
    if (with(Qt::Key_I)) return change_style([](TextStyle& s) { s.italic = !s.italic; });
    if (with(Qt::Key_U)) return change_style([](TextStyle& s) { s.underline = !s.underline; });
    // Enter on an item without words ends its list.
    QTextCursor cursor = item_->textCursor();
    const bool enter = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
    if (enter && cursor.block().text().isEmpty() && list() != ListKind::none) return set_list_kind(ListKind::none);
    QGraphicsView::keyPressEvent(event);
}

TextStyle TextEditor::style() const { return style_of(item_->textCursor().charFormat()); }

void TextEditor::change_style(const std::function<void(TextStyle&)>& change) {
    QTextCursor cursor = item_->textCursor();
    TextStyle now = style();
    change(now);
    if (!cursor.hasSelection()) {
        cursor.setCharFormat(format_of(now, scheme_));
        item_->setTextCursor(cursor);
        emit touched();
        return;
    }
    // Every run keeps what the change does not speak of; what it turns on or off follows the cursor's run.
    const TextStyle before = style();
    cursor.beginEditBlock();
    const int begin = cursor.selectionStart(), end = cursor.selectionEnd();
    for (int at = begin; at < end;) {
        QTextCursor run(item_->document());
        run.setPosition(at);
        run.movePosition(QTextCursor::NextCharacter, QTextCursor::KeepAnchor);
        TextStyle own = style_of(run.charFormat());
        if (now.family != before.family) own.family = now.family;
        if (now.size_mm != before.size_mm) own.size_mm = now.size_mm;
        if (now.bold != before.bold) own.bold = now.bold;
        if (now.italic != before.italic) own.italic = now.italic;
        if (now.underline != before.underline) own.underline = now.underline;
        if (now.strike != before.strike) own.strike = now.strike;
        if (now.colour != before.colour) own.colour = now.colour;
        if (now.highlight != before.highlight) own.highlight = now.highlight;
        run.setCharFormat(format_of(own, scheme_));
        at = std::max(at + 1, run.position());
    }
    cursor.endEditBlock();
    emit touched();
}

ListKind TextEditor::list() const { return list_of(item_->textCursor().block()); }

void TextEditor::set_list_kind(ListKind kind) {
    set_list(item_->textCursor(), kind);
    emit touched();
}

void TextEditor::set_paragraph_heading(int level) {
    set_heading(item_->textCursor(), level);
    emit touched();
}

Align TextEditor::align() const {
    const Qt::Alignment a = item_->textCursor().blockFormat().alignment();
    return a & Qt::AlignHCenter   ? Align::centre
           : a & Qt::AlignRight   ? Align::right
           : a & Qt::AlignJustify ? Align::justified
                                  : Align::left;
}

void TextEditor::set_align(Align align) {
    constexpr Qt::AlignmentFlag kFlags[] = {Qt::AlignLeft, Qt::AlignHCenter, Qt::AlignRight, Qt::AlignJustify};
    QTextBlockFormat format;
    format.setAlignment(kFlags[static_cast<int>(align)]);
    item_->textCursor().mergeBlockFormat(format);
    emit touched();
}

void TextEditor::set_fill(std::optional<uint32_t> fill) {
    block_.fill = fill;
    scene_.update();
    keep_soon();
}

// Not put off by typing on.
void TextEditor::keep_soon() {
    if (!pause_.isActive()) pause_.start();
}

void TextEditor::focusOutEvent(QFocusEvent* event) {
    QGraphicsView::focusOutEvent(event);
    if (!pause_.isActive()) return;
    pause_.stop();
    emit paused();
}

}  // namespace fernleaf
