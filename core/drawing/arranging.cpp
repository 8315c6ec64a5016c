#include "drawing/arranging.h"

#include <algorithm>
#include <array>
#include <locale>
#include <sstream>
#include <unordered_map>
#include <unordered_set>

#include "drawing/drawing_reading.h"
#include "drawing/graphviz.h"
#include "drawing/links.h"

namespace fernleaf {
namespace {

constexpr double kGapMm = 10, kLayerMm = 14, kRingMm = 30;
constexpr double kAboutWordsMm = 1.5;  // between words without a frame and the links that lead to them
constexpr double kMarginMm = 6;        // to the page's edges
constexpr size_t kMostNodes = 3000;

// As graphviz reads it: inches.
std::string graph_text(const std::vector<Box>& nodes, const std::vector<std::pair<size_t, size_t>>& links,
                       Arrangement arrangement) {
    std::ostringstream out;
    out.imbue(std::locale::classic());
    const bool radial = arrangement == Arrangement::radial;
    out << "digraph {\n  rankdir=" << (arrangement == Arrangement::across ? "LR" : "TB")
        << ";\n  nodesep=" << kGapMm / kMmPerInch << ";\n  ranksep=" << (radial ? kRingMm : kLayerMm) / kMmPerInch
        << ";\n  node [shape=box, fixedsize=true, label=\"\"];\n";
    if (radial) {
        // What most links lead to or away from is in the middle.
        std::vector<size_t> degree(nodes.size());
        for (const auto& [a, b] : links) ++degree[a], ++degree[b];
        out << "  overlap=scale;\n  root=n" << std::ranges::max_element(degree) - degree.begin() << ";\n";
    }
    for (size_t i = 0; i < nodes.size(); ++i)
        out << "  n" << i << " [width=" << nodes[i].width() / kMmPerInch
            << ", height=" << nodes[i].height() / kMmPerInch << "];\n";
    for (const auto& [a, b] : links) out << "  n" << a << " -> n" << b << ";\n";
    out << "}\n";
    return out.str();
}

// A node of the diagram and what goes along with it.
struct Piece {
    Box box;
    std::vector<ElementId> elements;
    const FairShape* figure = nullptr;  // null: words without a frame
};

Shape frame_of(const Box& box) {
    const Box b = box.grown(kAboutWordsMm);
    return {ShapeKind::rectangle, {{b.left, b.top}, {b.right, b.top}, {b.right, b.bottom}, {b.left, b.bottom}}};
}

Box box_about(const std::vector<Box>& boxes) {
    Box out;
    for (const Box& box : boxes) out.include(box);
    return out;
}

}  // namespace

Result<std::vector<Point>> arranged_middles(const std::vector<Box>& nodes,
                                            const std::vector<std::pair<size_t, size_t>>& links,
                                            Arrangement arrangement, const CancelToken& cancel) {
    if (nodes.empty()) return std::vector<Point>();
    if (nodes.size() > kMostNodes) return Error{"This diagram has too many figures to be arranged."};
    const std::string program = arrangement == Arrangement::radial ? "twopi" : "dot";
    const auto said = graphviz(program, "plain", graph_text(nodes, links, arrangement), {}, cancel);
    if (!said) return said.error();
    // Lines such as: node n0 1.5 2.25 1 0.5 ... ; y runs up.
    std::vector<Point> out(nodes.size(), Point{std::numeric_limits<double>::quiet_NaN(), 0});
    std::istringstream in(*said);
    in.imbue(std::locale::classic());
    for (std::string line; std::getline(in, line);) {
        std::istringstream words(line);
        words.imbue(std::locale::classic());
        std::string what, name;
        double x = 0, y = 0;
        if (!(words >> what) || what != "node" || !(words >> name >> x >> y) || name.size() < 2 || name.size() > 6)
            continue;
        const size_t node = std::strtoul(name.c_str() + 1, nullptr, 10);
        if (node < out.size()) out[node] = {x * kMmPerInch, -y * kMmPerInch};
    }
    if (std::ranges::any_of(out, [](Point p) { return !std::isfinite(p.x) || !std::isfinite(p.y); }))
        return Error{"The diagram could not be arranged: " + program + " gave no places."};
    return out;
}

Result<Edit> arranged(const Page& page, const Reading& reading, const std::set<ElementId>& chosen,
                      Arrangement arrangement, const std::function<ElementId()>& new_id, const CancelToken& cancel) {
    std::unordered_map<ElementId, const FairShape*> fair;
    for (const FairShape& s : page.shapes)
        if (chosen.empty() || chosen.contains(s.id)) fair[s.id] = &s;
    const auto fair_of = [&](const std::vector<StrokeId>& made_of) -> const FairShape* {
        const auto found = made_of.size() == 1 ? fair.find(made_of[0]) : fair.end();
        return found == fair.end() ? nullptr : found->second;
    };
    const DrawingReading drawing = read_drawing(reading);
    std::vector<Piece> pieces;
    std::vector<std::pair<size_t, size_t>> links;
    std::vector<const FairShape*> lines;
    std::unordered_map<size_t, size_t> piece_of;  // by node
    const auto piece = [&](size_t n) -> std::optional<size_t> {
        if (const auto known = piece_of.find(n); known != piece_of.end()) return known->second;
        const DrawnNode& node = drawing.nodes[n];
        Piece made;
        made.figure = fair_of(node.strokes);
        if (made.figure) {
            made.box = drawn_box(*made.figure);
            made.elements = ids_of(within(page, outline_of(made.figure->shape).front()));
            made.elements.push_back(made.figure->id);
        } else if (node.figure) {
            return std::nullopt;  // ink
        } else {
            made.box = node.box;
            for (const ReadWord* word : node.words) {
                made.elements.insert(made.elements.end(), word->strokes.begin(), word->strokes.end());
                if (word->block != 0) made.elements.push_back(word->block);
            }
        }
        piece_of[n] = pieces.size();
        pieces.push_back(std::move(made));
        return pieces.size() - 1;
    };
    for (const DrawnLink& link : drawing.links) {
        const FairShape* line = fair_of(link.strokes);
        if (!line) continue;
        const auto from = piece(link.from), to = piece(link.to);
        if (from && to) links.emplace_back(*from, *to), lines.push_back(line);
    }
    if (links.empty()) return Error{"There is nothing to arrange. Draw figures with links between them fair first."};
    std::vector<Box> boxes;
    for (const Piece& p : pieces) boxes.push_back(p.box);
    const auto middles = arranged_middles(boxes, links, arrangement, cancel);
    if (!middles) return middles.error();

    // Its upper left corner stays, as far as the page holds the rest.
    std::vector<Box> after;
    for (size_t i = 0; i < pieces.size(); ++i) after.push_back(shifted(boxes[i], (*middles)[i] - boxes[i].centre()));
    const Box was = box_about(boxes), is = box_about(after);
    Point by{was.left - is.left, was.top - is.top};
    by.x = std::max(kMarginMm - is.left, std::min(by.x, page.info.width_mm - kMarginMm - is.right));
    if (!page.info.endless)
        by.y = std::max(kMarginMm - is.top, std::min(by.y, page.info.height_mm - kMarginMm - is.bottom));

    Edit edit{"Arrange"};
    std::unordered_map<ElementId, Point> goes;
    for (size_t i = 0; i < pieces.size(); ++i) {
        after[i] = shifted(after[i], by);
        for (const ElementId id : pieces[i].elements) goes.try_emplace(id, after[i].centre() - boxes[i].centre());
    }
    for_each_element(static_cast<const Elements&>(page), [&]<typename E>(const E& e) {
        const auto to = goes.find(e.id);
        if (to == goes.end() || ElementTraits<E>::locked(e)) return;
        edit.removed.of<E>().push_back(e);
        edit.added.of<E>().push_back(ElementTraits<E>::transformed(e, Affine::shift(to->second)));
    });
    // Links hold on to figures by themselves; ends at words without a frame are brought along.
    for (size_t i = 0; i < links.size(); ++i) {
        const size_t a = links[i].first, b = links[i].second;
        if (pieces[a].figure && pieces[b].figure) continue;
        FairShape link = *lines[i];
        edit.removed.shapes.push_back(link);
        const auto end = [&](size_t piece_index, LinkEnd held) {
            return pieces[piece_index].figure ? held : LinkEnd{};
        };
        // As if the words had a frame.
        const Shape first = pieces[a].figure
                                ? ElementTraits<FairShape>::transformed(
                                      *pieces[a].figure, Affine::shift(after[a].centre() - boxes[a].centre()))
                                      .shape
                                : frame_of(after[a]);
        const Shape second = pieces[b].figure
                                 ? ElementTraits<FairShape>::transformed(
                                       *pieces[b].figure, Affine::shift(after[b].centre() - boxes[b].centre()))
                                       .shape
                                 : frame_of(after[b]);
        // Which end is where: the line may have been drawn either way.
        const Point front = link.shape.points.front(), back = link.shape.points.back();
        const bool round = distance(boxes[a].centre(), front) + distance(boxes[b].centre(), back) >
                           distance(boxes[a].centre(), back) + distance(boxes[b].centre(), front);
        const size_t from = round ? b : a, to = round ? a : b;
        link.from = end(from, link.from), link.to = end(to, link.to);
        const LinkEnd holds_from = link.from, holds_to = link.to;
        if (!pieces[from].figure) link.from = {-1, {0.5, 0.5}};
        if (!pieces[to].figure) link.to = {-1, {0.5, 0.5}};
        link = led(std::move(link), round ? &second : &first, round ? &first : &second);
        link.from = holds_from, link.to = holds_to;
        edit.added.shapes.push_back(std::move(link));
    }
    const auto renewed = renew(edit.added, new_id);
    edit.replacements.insert(edit.replacements.end(), renewed.begin(), renewed.end());
    return edit;
}

}  // namespace fernleaf
