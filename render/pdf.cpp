#include "render/pdf.h"

#include <QFontMetricsF>
#include <QPdfWriter>
#include <QSaveFile>

#include "document/sheets.h"
#include "render/fonts.h"
#include "render/page_painter.h"

namespace fernleaf {
namespace {

constexpr int kDotsPerInch = 1200;
constexpr double kLetterHeightMm = 4;  // of the face's ascent and descent before a word is fitted to its box

// Every word is set at its own box: its width and height are stretched to those of the ink.
void add_words(QPainter& painter, const Reading& reading, const Box& sheet) {
    QFont font(kTextFace);
    font.setStyleStrategy(QFont::PreferNoShaping);  // a ligature could not be found by its letters
    font.setPixelSize(100);
    const QFontMetricsF metrics(font);
    painter.setFont(font);
    painter.setPen(Qt::transparent);
    for (const ReadLine& line : reading.lines) {
        if (line.kind != RegionKind::text) continue;
        for (const ReadWord& word : line.words) {
            const QString text = QString::fromStdString(word.text);
            const double natural = metrics.horizontalAdvance(text);
            // Typed words are text already; on a long page, what stands on another sheet is put there.
            if (word.block != 0 || !sheet.contains(word.box.centre()) || natural <= 0 || word.box.width() <= 0)
                continue;
            painter.save();
            const double height = word.box.height() > 0 ? word.box.height() : kLetterHeightMm;
            painter.translate(word.box.left, word.box.top);
            painter.scale(word.box.width() / natural, height / (metrics.ascent() + metrics.descent()));
            painter.drawText(QPointF(0, metrics.ascent()), text);
            painter.restore();
        }
    }
}

}  // namespace

Status write_pdf(const std::filesystem::path& path, const std::vector<PageWithReading>& pages, const FileSource& files,
                 const std::string& title, const CancelToken& cancel, const Progress& progress) {
    const auto failed = [&](const QString& reason) {
        return Error{"The PDF can't be written to " + path.string() + ": " + reason.toStdString() + "."};
    };
    if (pages.empty()) return failed(QStringLiteral("there are no pages to export"));
    QSaveFile file(QString::fromStdString(path.string()));
    if (!file.open(QIODevice::WriteOnly)) return failed(file.errorString());
    {
        QPdfWriter writer(&file);
        writer.setResolution(kDotsPerInch);
        writer.setTitle(QString::fromStdString(title));
        writer.setCreator(QStringLiteral("Fernleaf"));
        QPainter painter;
        for (size_t i = 0; i < pages.size(); ++i) {
            if (cancel.cancelled()) {
                if (painter.isActive()) painter.end();
                file.cancelWriting();
                return failed(QStringLiteral("the export was cancelled"));
            }
            const Page& page = pages[i].page;
            PageScheme white = light_page();
            white.paper = Qt::white;
            const PageScheme scheme = scheme_on(white, page.info.colour);
            const PictureImages images = load_pictures(page, files);
            for (const Box& sheet : sheets_of(page)) {
                writer.setPageSize(
                    QPageSize(QSizeF(sheet.width(), sheet.height()), QPageSize::Millimeter, {}, QPageSize::ExactMatch));
                writer.setPageMargins(QMarginsF(0, 0, 0, 0));
                if (painter.isActive() ? !writer.newPage() : !painter.begin(&writer))
                    return failed(QStringLiteral("the writer does not start"));
                painter.resetTransform();
                painter.scale(kDotsPerInch / kMmPerInch, kDotsPerInch / kMmPerInch);
                painter.translate(0, -sheet.top);
                painter.setClipRect(rect_of(sheet));
                paint_paper(painter, page.info, scheme, images);
                paint_elements(painter, page, {scheme, images, sheet});
                add_words(painter, pages[i].reading, sheet);
            }
            if (progress) progress(static_cast<double>(i + 1) / static_cast<double>(pages.size()));
        }
        painter.end();
    }
    if (!file.commit()) return failed(file.errorString());
    return Done{};
}

}  // namespace fernleaf
