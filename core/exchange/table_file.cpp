#include "exchange/table_file.h"

#include <algorithm>

namespace fernleaf {
namespace {

std::string replaced(std::string text, std::string_view what, std::string_view by) {
    for (size_t at = 0; (at = text.find(what, at)) != std::string::npos; at += by.size())
        text.replace(at, what.size(), by);
    return text;
}

std::string in_csv(const std::string& text) {
    if (text.find_first_of(",\"\r\n") == std::string::npos) return text;
    return '"' + replaced(text, "\"", "\"\"") + '"';
}

std::string in_html(const std::string& text) {
    return replaced(replaced(replaced(text, "&", "&amp;"), "<", "&lt;"), ">", "&gt;");
}

std::string in_markdown(const std::string& text) { return replaced(replaced(text, "\\", "\\\\"), "|", "\\|"); }

// Every place of the table; of merged cells only the first says something.
std::vector<std::vector<std::string>> places_of(const TableWords& words) {
    const ReadTable& table = *words.table;
    std::vector out(static_cast<size_t>(table.rows), std::vector<std::string>(static_cast<size_t>(table.columns)));
    for (size_t i = 0; i < table.cells.size(); ++i)
        out[static_cast<size_t>(table.cells[i].row)][static_cast<size_t>(table.cells[i].column)] = words.texts[i];
    return out;
}

template <typename Written>
std::string joined(const std::vector<std::string>& row, const char* between, const Written& written) {
    std::string out;
    for (size_t i = 0; i < row.size(); ++i) out += (i > 0 ? between : "") + written(row[i]);
    return out;
}

std::string html_of(const TableWords& words) {
    std::string out = "<table>\n";
    int row = -1;
    for (size_t i = 0; i < words.texts.size(); ++i) {
        const ReadCell& cell = words.table->cells[i];
        // A row whose cells all hang down from above has no cells of its own.
        for (; row < cell.row; ++row) out += row < 0 ? "<tr>" : "</tr>\n<tr>";
        const std::string tag = cell.row == 0 ? "th" : "td";
        out += '<' + tag;
        if (cell.row_count > 1) out += " rowspan=\"" + std::to_string(cell.row_count) + '"';
        if (cell.column_count > 1) out += " colspan=\"" + std::to_string(cell.column_count) + '"';
        out += '>' + in_html(words.texts[i]) + "</" + tag + '>';
    }
    return out + "</tr>\n</table>\n";
}

}  // namespace

TableWords table_at(const Reading& reading, size_t line) {
    const ReadLine& grid = reading.lines[line];
    TableWords out{&*grid.table, std::vector<std::string>(grid.table->cells.size()),
                   std::vector<std::vector<const ReadWord*>>(grid.table->cells.size())};
    for (size_t i = line + 1; i < reading.lines.size() && reading.lines[i].region == grid.region; ++i) {
        const ReadLine& one = reading.lines[i];
        const auto cell = static_cast<size_t>(one.cell);
        if (one.cell < 0 || cell >= out.texts.size() || one.words.empty()) continue;
        out.texts[cell] += (out.texts[cell].empty() ? "" : " ") + one.text();
        for (const ReadWord& word : one.words) out.words[cell].push_back(&word);
    }
    return out;
}

std::vector<TableWords> tables_of(const Reading& reading) {
    std::vector<TableWords> out;
    for (size_t i = 0; i < reading.lines.size(); ++i)
        if (reading.lines[i].table) out.push_back(table_at(reading, i));
    return out;
}

std::string table_text(const TableWords& table, std::string_view ending) {
    if (ending == ".html") return html_of(table);
    std::string out;
    bool head = true;
    for (const std::vector<std::string>& row : places_of(table)) {
        if (ending == ".csv") {
            out += joined(row, ",", in_csv) + "\r\n";
        } else if (ending == ".tsv") {
            out += joined(row, "\t", [](const std::string& text) { return text; }) + '\n';
        } else {
            out += "| " + joined(row, " | ", in_markdown) + " |\n";
            if (head) out += '|' + joined(row, "", [](const std::string&) { return std::string(" --- |"); }) + '\n';
            head = false;
        }
    }
    return out;
}

}  // namespace fernleaf
