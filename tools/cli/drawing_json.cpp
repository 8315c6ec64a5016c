#include "cli/drawing_json.h"

#include "cli/reading_json.h"
#include "exchange/diagram_file.h"

namespace fernleaf {
namespace {

using Json = nlohmann::json;

constexpr double kWorthTelling = 0.01;  // of an alternative

Json shape_json(const ShapeCandidate& best, const std::vector<ShapeCandidate>& others,
                const std::vector<StrokeId>& strokes, size_t first_stroke) {
    Json points = Json::array(), counted = Json::array(), alternatives = Json::array();
    for (const Point& p : best.shape.points) points.push_back(point_json(p));
    for (const StrokeId id : strokes) counted.push_back(first_stroke + static_cast<size_t>(id - 1));
    for (const ShapeCandidate& other : others)
        if (other.certainty >= kWorthTelling)
            alternatives.push_back(
                {{"kind", name_of(other.shape.kind)}, {"certainty", certainty_json(other.certainty)}});
    return {{"kind", name_of(best.shape.kind)},
            {"points_mm", points},
            {"angle", degrees_json(angle_of(best.shape))},
            {"certainty", certainty_json(best.certainty)},
            {"strokes", counted},
            {"alternatives", alternatives}};
}

Json words_json(const std::vector<const ReadWord*>& words) {
    Json out = Json::array();
    for (const ReadWord* word : words) out.push_back(word_json(*word));
    return out;
}

// What a node of a diagram is called: as its figure, or none.
Json node_kind(const DrawnNode& node) {
    if (!node.figure) return "none";
    return node.figure->shape.kind == ShapeKind::rounded_rectangle ? "rounded" : name_of(node.figure->shape.kind);
}

}  // namespace

Json drawing_json(const DrawingReading& drawing, size_t first_stroke) {
    Json shapes = Json::array(), nodes = Json::array(), edges = Json::array();
    Box box;
    const auto name = [](size_t node) { return "n" + std::to_string(node + 1); };
    const auto add = [&](const ShapeCandidate& best, const std::vector<ShapeCandidate>& others,
                         const std::vector<StrokeId>& strokes) {
        shapes.push_back(shape_json(best, others, strokes, first_stroke));
        for (const auto& line : outline_of(best.shape))
            for (const Point& p : line) box.include(p);
    };
    for (size_t i = 0; i < drawing.nodes.size(); ++i) {
        const DrawnNode& node = drawing.nodes[i];
        if (node.figure) add(*node.figure, node.others, node.strokes);
        box.include(node.box);
        nodes.push_back({{"id", name(i)},
                         {"kind", node_kind(node)},
                         {"text", node.text()},
                         {"box_mm", box_json(node.box)},
                         {"words", words_json(node.words)}});
    }
    for (const DrawnLink& link : drawing.links) {
        add(link.line, link.others, link.strokes);
        const char* arrow = link.heads == LinkHeads::none ? "none" : link.heads == LinkHeads::to ? "to" : "both";
        edges.push_back({{"from", name(link.from)},
                         {"to", name(link.to)},
                         {"arrow", arrow},
                         {"text", link.text()},
                         {"words", words_json(link.words)}});
    }
    for (const ReadShape& shape : drawing.loose)
        add(shape.best(), {shape.candidates.begin() + 1, shape.candidates.end()}, shape.strokes);
    Json out{{"kind", drawing.is_diagram() ? "diagram" : "drawing"},
             {"box_mm", box_json(box)},
             {"lines", Json::array()},
             {"shapes", shapes}};
    if (drawing.is_diagram()) out["nodes"] = nodes, out["edges"] = edges, out["dot"] = diagram_text({drawing}, ".dot");
    return out;
}

}  // namespace fernleaf
