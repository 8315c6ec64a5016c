#include "cli/reading_json.h"

#include <cmath>

#include "exchange/formula_file.h"
#include "exchange/table_file.h"
#include "math/written_math.h"

namespace fernleaf {
namespace {

using Json = nlohmann::json;

// To so many parts of one; divided last, so that 0.1 is printed as 0.1.
double rounded(double value, int parts) { return std::round(value * parts) / parts; }
double mm(double value) { return std::isfinite(value) ? rounded(value, 100) : 0; }
double share(double value) { return rounded(value, 10000); }

const char* kind_name(RegionKind kind) {
    switch (kind) {
        case RegionKind::text:
            return "text";
        case RegionKind::drawing:
            return "drawing";
        case RegionKind::picture:
            return "picture";
        case RegionKind::math:
            return "math";
        case RegionKind::divider:
            return "divider";
        case RegionKind::table:
            return "table";
    }
    return "text";
}

// Rows of cells; a cell that reaches over several places stands in the first of them.
Json rows_json(const TableWords& words) {
    Json rows = Json::array();
    for (int r = 0; r < words.table->rows; ++r) rows.push_back(Json::array());
    for (size_t i = 0; i < words.texts.size(); ++i) {
        const ReadCell& cell = words.table->cells[i];
        Json said = Json::array();
        for (const ReadWord* word : words.words[i]) said.push_back(word_json(*word));
        rows[static_cast<size_t>(cell.row)].push_back({{"text", words.texts[i]},
                                                       {"box_mm", box_json(cell.box)},
                                                       {"span", {cell.row_count, cell.column_count}},
                                                       {"words", said}});
    }
    return rows;
}

}  // namespace

Json word_json(const ReadWord& word) {
    Json alternatives = Json::array();
    for (const Alternative& a : word.alternatives)
        alternatives.push_back({{"text", a.text}, {"certainty", share(a.certainty)}});
    return {{"text", word.text},
            {"certainty", share(word.certainty)},
            {"box_mm", box_json(word.box)},
            {"alternatives", alternatives}};
}

Json point_json(Point p) { return Json::array({mm(p.x), mm(p.y)}); }

Json degrees_json(double value) { return rounded(value, 100); }

Json certainty_json(double value) { return share(value); }

Json box_json(const Box& box) { return Json::array({mm(box.left), mm(box.top), mm(box.width()), mm(box.height())}); }

namespace {

// first_stroke: how many strokes stand on the pages before; theirs are numbered from 1 here.
Json formula_json(const ReadLine& line, size_t first_stroke) {
    Json out{{"kind", kind_name(RegionKind::math)}, {"box_mm", box_json(line.box)}, {"lines", Json::array()}};
    if (line.words.empty()) return out;
    const ReadWord& formula = line.words[0];
    out["latex"] = document_latex(formula.text);
    if (const auto written = written_math(formula.text)) out["mathml"] = mathml(*written);
    if (!line.result.empty()) out["result"] = line.result;
    out["lines"].push_back({{"text", formula.text},
                            {"certainty", share(line.certainty)},
                            {"box_mm", box_json(line.box)},
                            {"words", Json::array({word_json(formula)})}});
    Json symbols = Json::array();
    for (const ReadWord& sign : line.signs) {
        Json strokes = Json::array(), alternatives = Json::array();
        for (const StrokeId id : sign.strokes) strokes.push_back(first_stroke + static_cast<size_t>(id) - 1);
        for (const Alternative& a : sign.alternatives)
            alternatives.push_back({{"latex", a.text}, {"certainty", share(a.certainty)}});
        symbols.push_back({{"latex", sign.text},
                           {"certainty", share(sign.certainty)},
                           {"box_mm", box_json(sign.box)},
                           {"strokes", strokes},
                           {"alternatives", alternatives}});
    }
    out["symbols"] = symbols;
    return out;
}

}  // namespace

Json page_json(const Reading& reading, const PageInfo& info, const std::vector<ShownSheet>& sheets,
               const std::string& source, int number, size_t first_stroke) {
    Json regions = Json::array();
    for (const ShownSheet& sheet : sheets) {
        Json quad = Json::array();
        for (const Point& corner : sheet.corners) quad.push_back({rounded(corner.x, 10), rounded(corner.y, 10)});
        regions.push_back({{"kind", kind_name(RegionKind::picture)},
                           {"box_mm", box_json(sheet.box)},
                           {"quad_px", quad},
                           {"lines", Json::array()}});
    }
    for (size_t i = 0; i < reading.lines.size();) {
        const ReadLine& first = reading.lines[i];
        if (first.kind == RegionKind::picture) {  // in which nothing was found; it is told above
            ++i;
            continue;
        }
        if (first.table) {
            regions.push_back({{"kind", kind_name(first.kind)},
                               {"box_mm", box_json(first.box)},
                               {"lines", Json::array()},
                               {"rows", rows_json(table_at(reading, i))}});
            for (++i; i < reading.lines.size() && reading.lines[i].region == first.region; ++i) {
            }
            continue;
        }
        if (first.kind == RegionKind::math) {
            regions.push_back(formula_json(first, first_stroke));
            ++i;
            continue;
        }
        Box box;
        Json lines = Json::array();
        for (;
             i < reading.lines.size() && reading.lines[i].region == first.region && reading.lines[i].kind == first.kind;
             ++i) {
            const ReadLine& line = reading.lines[i];
            box.include(line.box);
            if (line.kind != RegionKind::text) continue;
            Json words = Json::array();
            for (const ReadWord& word : line.words) words.push_back(word_json(word));
            lines.push_back({{"text", line.text()},
                             {"certainty", share(line.certainty)},
                             {"box_mm", box_json(line.box)},
                             {"words", words}});
        }
        regions.push_back({{"kind", kind_name(first.kind)}, {"box_mm", box_json(box)}, {"lines", lines}});
    }
    return {{"source", source},
            {"page", number},
            {"size_mm", {mm(info.width_mm), mm(info.height_mm)}},
            {"regions", regions}};
}

}  // namespace fernleaf
