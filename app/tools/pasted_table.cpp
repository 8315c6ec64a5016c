#include "tools/pasted_table.h"

#include <QTextDocument>
#include <QTextFrame>
#include <QTextTable>

#include "exchange/table_file.h"

namespace fernleaf {
namespace {

const QTextTable* first_table(const QTextFrame* frame) {
    for (const QTextFrame* child : frame->childFrames()) {
        if (const auto* table = qobject_cast<const QTextTable*>(child)) return table;
        if (const QTextTable* within = first_table(child)) return within;
    }
    return nullptr;
}

// What is merged stands in its first place.
TableRows rows_of(const QTextTable& table) {
    TableRows out(static_cast<size_t>(table.rows()), std::vector<std::string>(static_cast<size_t>(table.columns())));
    for (int r = 0; r < table.rows(); ++r)
        for (int c = 0; c < table.columns(); ++c) {
            const QTextTableCell cell = table.cellAt(r, c);
            if (cell.row() != r || cell.column() != c) continue;
            QTextCursor words = cell.firstCursorPosition();
            words.setPosition(cell.lastCursorPosition().position(), QTextCursor::KeepAnchor);
            QString text = words.selectedText();
            text.replace(QChar::ParagraphSeparator, '\n').replace(QChar::LineSeparator, '\n');
            out[static_cast<size_t>(r)][static_cast<size_t>(c)] = text.trimmed().toStdString();
        }
    return out;
}

}  // namespace

std::optional<TableRows> rows_copied(const QMimeData& copied) {
    if (copied.hasHtml() && copied.html().contains(QLatin1String("<table"), Qt::CaseInsensitive)) {
        QTextDocument document;
        document.setHtml(copied.html());
        const QTextTable* table = first_table(document.rootFrame());
        if (table && table->rows() > 0 && table->columns() > 0 &&
            table->columns() <= static_cast<int>(kMostTableColumns))
            return rows_of(*table);
    }
    if (!copied.hasText() || !copied.text().contains('\t')) return {};
    auto rows = rows_in(copied.text().toStdString());
    return rows ? std::optional(*std::move(rows)) : std::nullopt;
}

void put_table(QMimeData& data, const Reading& reading, FairTableId table) {
    for (size_t i = 0; i < reading.lines.size(); ++i) {
        if (!reading.lines[i].table || reading.lines[i].table->rules != std::vector{table}) continue;
        const TableWords words = table_at(reading, i);
        data.setText(QString::fromStdString(table_text(words, ".tsv")));
        data.setHtml(QString::fromStdString(table_text(words, ".html")));
    }
}

}  // namespace fernleaf
