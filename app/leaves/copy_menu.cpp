#include "leaves/copy_menu.h"

#include <QClipboard>
#include <QCoreApplication>
#include <QGuiApplication>
#include <QMimeData>
#include <algorithm>

#include "drawing/drawing_reading.h"
#include "exchange/diagram_file.h"
#include "exchange/table_file.h"
#include "leaves/formula_copies.h"

namespace fernleaf {
namespace {

constexpr qsizetype kNameWords = 4;

// What of the reading is of elements that are chosen.
Reading reading_of(const Reading& reading, const Selection& chosen) {
    const auto all_chosen = [&](const std::vector<StrokeId>& ids) {
        return !ids.empty() && std::ranges::all_of(ids, [&](StrokeId id) { return chosen.contains(id); });
    };
    Reading out = reading;
    for (ReadLine& line : out.lines) {
        std::erase_if(line.shapes, [&](const ReadShape& shape) { return !all_chosen(shape.strokes); });
        std::erase_if(line.words, [&](const ReadWord& word) {
            return !all_chosen(word.strokes) && !(word.block != 0 && chosen.contains(word.block));
        });
        if (line.table && !all_chosen(line.table->rules)) line.table.reset();
    }
    return out;
}

class CopyMenu {
    Q_DECLARE_TR_FUNCTIONS(CopyMenu)

public:
    CopyMenu(QMenu& menu, Session& session, SelectionEditing& choosing)
        : menu_(menu),
          session_(session),
          choosing_(choosing),
          reading_(reading_of(session.reading(), choosing.selection())) {}

    void offer() {
        menu_.addAction(tr("Keep as a stamp"), &choosing_,
                        [&session = session_, &choosing = choosing_, name = stamp_name()] {
                            session.stamps().keep(choosing.selection().chosen(), name);
                        });
        menu_.addSeparator();
        menu_.addAction(tr("Picture"), &choosing_, &SelectionEditing::copy_as_picture);
        menu_.addAction(tr("SVG drawing"), &choosing_, &SelectionEditing::copy_as_svg);
        std::vector<std::string> formulas;
        for (const ReadLine& line : reading_.lines)
            if (line.kind == RegionKind::math && !line.words.empty()) formulas.push_back(line.words[0].text);
        if (!formulas.empty()) {
            QMenu* as = menu_.addMenu(tr("%n formula(s) as", nullptr, static_cast<int>(formulas.size())));
            offer_formula_copies(*as, session_.messages(), formulas, session_.math().decimal_comma());
        }
        const DrawingReading drawing = read_drawing(reading_);
        if (drawing.is_diagram()) {
            menu_.addSeparator();
            for (const auto& [ending, name] :
                 {std::pair(".md", tr("Diagram as a list")), std::pair(".dot", tr("Diagram as DOT text")),
                  std::pair(".mmd", tr("Diagram as Mermaid text")), std::pair(".graphml", tr("Diagram as GraphML")),
                  std::pair(".opml", tr("Diagram as OPML"))})
                copy_text(name, diagram_text({drawing}, ending));
        }
        const std::vector<TableWords> tables = tables_of(reading_);
        if (tables.empty()) return;
        menu_.addSeparator();
        for (const auto& [ending, name] :
             {std::pair(".tsv", tr("Table for a spreadsheet")), std::pair(".csv", tr("Table as CSV")),
              std::pair(".md", tr("Table as Markdown"))}) {
            std::string text, html;
            for (const TableWords& table : tables) {
                text += (text.empty() ? "" : "\n") + table_text(table, ending);
                if (std::string_view(ending) == ".tsv") html += table_text(table, ".html");
            }
            copy_text(name, text, html);
        }
    }

private:
    // What it says, if anything.
    QString stamp_name() const {
        QStringList words;
        for (const ReadLine& line : reading_.lines)
            for (const ReadWord& word : line.words)
                if (words.size() < kNameWords) words << QString::fromStdString(word.text);
        return words.isEmpty() ? tr("My stamp") : words.join(' ');
    }
    void copy_text(const QString& name, const std::string& text, const std::string& html = {}) {
        menu_.addAction(name, &choosing_, [&session = session_, text, html] {
            auto* data = new QMimeData;
            data->setText(QString::fromStdString(text));
            if (!html.empty()) data->setHtml(QString::fromStdString(html));
            QGuiApplication::clipboard()->setMimeData(data);
            session.messages().tell(tr("Copied to the clipboard."));
        });
    }

    QMenu& menu_;
    Session& session_;
    SelectionEditing& choosing_;
    Reading reading_;
};

}  // namespace

void offer_copies(QMenu& menu, Session& session, SelectionEditing& choosing) {
    CopyMenu(menu, session, choosing).offer();
}

}  // namespace fernleaf
