#include "exchange/table_import.h"

#include <iconv.h>

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <cstdint>
#include <numeric>
#include <utility>

#include "base/text.h"

namespace fernleaf {
namespace {

constexpr double kTypeMm = 3.6, kLetterMm = 0.5 * kTypeMm, kLineMm = 1.35 * kTypeMm;
constexpr double kNarrowestMm = 14, kMarginMm = 15;

// Empty where it can't be converted.
std::string converted(const std::string& bytes, const char* from) {
    const iconv_t how = iconv_open("UTF-8", from);
    if (std::bit_cast<intptr_t>(how) == -1) return {};
    std::string in = bytes, out(4 * bytes.size() + 4, '\0');
    char *read = in.data(), *write = out.data();
    size_t left = in.size(), room = out.size();
    const size_t result = iconv(how, &read, &left, &write, &room);
    iconv_close(how);
    if (result == static_cast<size_t>(-1)) return {};
    out.resize(out.size() - room);
    return out;
}

std::string in_utf8(const std::string& bytes) {
    if (bytes.starts_with("\xEF\xBB\xBF")) return bytes.substr(3);
    if (bytes.starts_with("\xFF\xFE")) return converted(bytes.substr(2), "UTF-16LE");
    if (bytes.starts_with("\xFE\xFF")) return converted(bytes.substr(2), "UTF-16BE");
    return valid_utf8(bytes) ? bytes : converted(bytes, "WINDOWS-1252");
}

// What the first row has most of, outside quotation marks.
char separator_in(const std::string& text) {
    std::array<size_t, 3> count{};
    constexpr std::string_view kSeparators = "\t;,";
    bool quoted = false;
    for (const char c : text) {
        if (c == '"') quoted = !quoted;
        if (!quoted && (c == '\n' || c == '\r')) break;
        if (const size_t i = kSeparators.find(c); !quoted && i != std::string_view::npos) ++count[i];
    }
    return kSeparators[static_cast<size_t>(std::ranges::max_element(count) - count.begin())];
}

// Rows as they are, at most so many.
TableRows raw_rows(const std::string& text, size_t most) {
    const char separator = separator_in(text);
    TableRows out;
    std::vector<std::string> row;
    std::string field;
    bool quoted = false;
    const auto end_field = [&] { row.push_back(trimmed(std::exchange(field, {}))); };
    const auto end_row = [&] {
        end_field();
        if (row.size() > 1 || !row.front().empty()) out.push_back(std::move(row));
        row.clear();
    };
    for (size_t i = 0; i < text.size() && out.size() <= most; ++i) {
        const char c = text[i];
        if (quoted) {
            if (c != '"')
                field += c;
            else if (i + 1 < text.size() && text[i + 1] == '"')
                field += text[++i];
            else
                quoted = false;
        } else if (c == '"' && trimmed(field).empty()) {
            quoted = true;
            field.clear();
        } else if (c == separator) {
            end_field();
        } else if (c == '\n' || c == '\r') {
            if (c == '\r' && i + 1 < text.size() && text[i + 1] == '\n') ++i;
            end_row();
        } else {
            field += c;
        }
    }
    if (!field.empty() || !row.empty()) end_row();
    return out;
}

bool is_number(const std::string& text) {
    return text.find_first_of("0123456789") != std::string::npos &&
           text.find_first_not_of("0123456789.,+-% ") == std::string::npos;
}

// The letters of its longest line, and its lines where so many letters have room.
size_t longest_line(const std::string& text) {
    size_t most = 0, now = 0;
    for (const char32_t c : decode_utf8(text)) most = std::max(most, now = c == U'\n' ? 0 : now + 1);
    return most;
}
double lines_in(const std::string& text, double letters) {
    double lines = 0, now = 0;
    for (const char32_t c : decode_utf8(text))
        if (c == U'\n')
            lines += std::max(1.0, std::ceil(now / letters)), now = 0;
        else
            ++now;
    return lines + std::max(1.0, std::ceil(now / letters));
}

double height_of_row(const std::vector<std::string>& row, const std::vector<double>& columns_mm) {
    double lines = 1;
    for (size_t c = 0; c < row.size(); ++c)
        lines = std::max(lines, lines_in(row[c], std::max(2.0, (columns_mm[c] - 2 * kCellMarginMm) / kLetterMm)));
    return lines * kLineMm + 2 * kCellMarginMm;
}

// As wide as their longest words need, in all so wide.
std::vector<double> widths_of(const TableRows& rows, double width_mm) {
    std::vector<double> wanted(rows.front().size(), kNarrowestMm);
    for (const auto& row : rows)
        for (size_t c = 0; c < row.size(); ++c)
            wanted[c] =
                std::max(wanted[c], kLetterMm * static_cast<double>(longest_line(row[c]) + 1) + 2 * kCellMarginMm);
    const double all = std::accumulate(wanted.begin(), wanted.end(), 0.0);
    if (all <= width_mm) return wanted;
    // What needs less than an even share has it; the others share the rest by the root of their needs.
    const double even = width_mm / static_cast<double>(wanted.size());
    double rest = width_mm, roots = 0;
    for (const double mm : wanted) mm <= even ? rest -= mm : roots += std::sqrt(mm);
    for (double& mm : wanted)
        if (mm > even) mm = std::max(kLeastCellMm, rest * std::sqrt(mm) / roots);
    return wanted;
}

struct Columns {
    std::vector<double> mm;
    std::vector<bool> numbers;  // in all rows but the first
};

Columns columns_for(const TableRows& rows, double width_mm) {
    Columns out{widths_of(rows, width_mm), std::vector<bool>(rows.front().size(), rows.size() > 1)};
    for (size_t r = 1; r < rows.size(); ++r)
        for (size_t c = 0; c < rows[r].size(); ++c)
            out.numbers[c] = out.numbers[c] && (rows[r][c].empty() || is_number(rows[r][c]));
    return out;
}

TextBlock words_in_cell(const std::string& words, Point corner, double width_mm, Align align, bool bold) {
    TextBlock text;
    text.at = corner + Point{kCellMarginMm, kCellMarginMm};
    text.width_mm = std::max(1.0, width_mm - 2 * kCellMarginMm);
    TextStyle style;
    style.size_mm = kTypeMm;
    style.bold = bold;
    std::string line;
    const auto end_line = [&] { text.paragraphs.push_back({{{std::exchange(line, {}), style}}, align}); };
    for (const char letter : words)
        if (letter == '\n')
            end_line();
        else if (letter != '\r')
            line += letter;
    end_line();
    return text;
}

Elements set_rows(const TableRows& rows, Point at, const Columns& columns) {
    Elements out;
    FairTable table;
    table.at = at;
    table.head = rows.size() > 1;
    table.columns_mm = columns.mm;
    double y = at.y;
    for (size_t r = 0; r < std::min(rows.size(), kMostTableRows); ++r) {
        double x = at.x;
        for (size_t c = 0; c < rows[r].size(); ++c) {
            const Align align = columns.numbers[c] ? Align::right : Align::left;
            if (!rows[r][c].empty())
                out.texts.push_back(words_in_cell(rows[r][c], {x, y}, columns.mm[c], align, r == 0 && table.head));
            x += columns.mm[c];
        }
        table.rows_mm.push_back(height_of_row(rows[r], columns.mm));
        y += table.rows_mm.back();
    }
    out.tables.push_back(std::move(table));
    return out;
}

}  // namespace

bool looks_like_table(const std::string& bytes, std::string_view ending) {
    if (bytes.empty() || bytes.front() == '<' || bytes.find('\0') < 2) return false;
    if (ending == ".csv" || ending == ".tsv") return true;
    constexpr size_t kLookedAt = 100'000, kFewestRows = 3;
    TableRows rows = raw_rows(in_utf8(bytes.substr(0, kLookedAt)), kMostRowsRead);
    if (bytes.size() > kLookedAt && !rows.empty()) rows.pop_back();  // it may be cut
    // A letter's first lines have commas, too; a header has no empty fields.
    return rows.size() >= kFewestRows && rows.front().size() > 1 &&
           std::ranges::none_of(rows.front(), [](const std::string& field) { return field.empty(); }) &&
           std::ranges::all_of(rows, [&](const auto& row) { return row.size() == rows.front().size(); });
}

Result<TableRows> rows_in(const std::string& bytes) {
    const std::string text = in_utf8(bytes);
    if (text.empty()) return Error{"it is no text in UTF-8, UTF-16 or Windows-1252"};
    if (text.find('\0') != std::string::npos) return Error{"it is no text"};
    TableRows rows = raw_rows(text, kMostRowsRead);
    if (rows.empty()) return Error{"the table has no rows"};
    if (rows.size() > kMostRowsRead) return Error{"the table has more than 20,000 rows"};
    size_t most = 0;
    for (const auto& row : rows) most = std::max(most, row.size());
    if (most > kMostTableColumns) return Error{"the table has more than 100 columns"};
    for (auto& row : rows) row.resize(most);
    return rows;
}

Elements table_elements(const TableRows& rows, Point at, double width_mm) {
    return set_rows(rows, at, columns_for(rows, width_mm));
}

Result<std::vector<FilledPage>> table_pages(const std::string& bytes) {
    const auto rows = rows_in(bytes);
    if (!rows) return rows.error();
    std::vector<FilledPage> out;
    FilledPage blank;
    blank.info.paper = Paper::plain;
    const double narrowest = kNarrowestMm * static_cast<double>(rows->front().size()) + 2 * kMarginMm;
    blank.info.width_mm = std::max(blank.info.width_mm, narrowest);
    const double width = blank.info.width_mm - 2 * kMarginMm, height = blank.info.height_mm - 2 * kMarginMm;
    const Columns columns = columns_for(*rows, width);
    const double head = height_of_row(rows->front(), columns.mm);
    for (size_t next = 1; next < rows->size() || out.empty();) {
        TableRows some{rows->front()};
        double used = head;
        while (next < rows->size() && some.size() < kMostTableRows) {
            const double mm = height_of_row((*rows)[next], columns.mm);
            if (used + mm > height && some.size() > 1) break;
            used += mm;
            some.push_back((*rows)[next++]);
        }
        FilledPage page = blank;
        page.info.height_mm = std::max(page.info.height_mm, used + 2 * kMarginMm);
        page.content = set_rows(some, {kMarginMm, kMarginMm}, columns);
        out.push_back(std::move(page));
    }
    return out;
}

}  // namespace fernleaf
