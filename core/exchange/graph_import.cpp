#include "exchange/graph_import.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <pugixml.hpp>
#include <sstream>

#include "base/json.h"
#include "base/text.h"
#include "drawing/arranging.h"
#include "drawing/drawing_reading.h"
#include "drawing/graphviz.h"
#include "drawing/links.h"

namespace fernleaf {
namespace {

constexpr size_t kMostBytes = 4'000'000;
constexpr int kDeepestOutline = 100;  // outlines, graphs in nodes
constexpr double kNodeTypeMm = 4.2, kLetterShare = 0.52, kLineShare = 1.35;
constexpr double kWidestTextMm = 46, kPaddingMm = 3.5;
constexpr double kGraphMarginMm = 12, kMostPageMm = 1900;
constexpr double kLabelMm = 14;  // of a link's words, wide at least

struct GraphNode {
    std::string text;
    ShapeKind kind = ShapeKind::rounded_rectangle;
};

struct GraphEdge {
    size_t from = 0, to = 0;
    LinkHeads heads = LinkHeads::to;
    std::string text = {};
};

struct Graph {
    std::vector<GraphNode> nodes;
    std::vector<GraphEdge> edges;
    Arrangement arrangement = Arrangement::down;
};

const Error kTooMany{"it has more than " + std::to_string(kMostGraphNodes) +
                     " nodes, which is more than a page can show"};

// The shape of a figure as DOT and GraphML files name it.
ShapeKind kind_named(const std::string& name) {
    static const std::map<std::string, ShapeKind> others{
        {"box", ShapeKind::rectangle},       {"rect", ShapeKind::rectangle},      {"oval", ShapeKind::ellipse},
        {"trapezium", ShapeKind::trapezoid}, {"doublecircle", ShapeKind::circle}, {"point", ShapeKind::circle},
        {"Mdiamond", ShapeKind::diamond}};
    if (const auto found = others.find(name); found != others.end()) return found->second;
    const auto kind = shape_kind(name);
    return kind && is_closed(*kind) && *kind != ShapeKind::polygon ? *kind : ShapeKind::rounded_rectangle;
}

// In one line: breaks and tags of labels are gone.
std::string tidy(const std::string& text) {
    std::string out;
    bool tag = false, blank = true;
    for (size_t i = 0; i < text.size(); ++i) {
        char c = text[i];
        if (c == '<' && text.find('>', i) != std::string::npos) tag = true;
        if (!tag) {
            const bool escape = c == '\\' && i + 1 < text.size();
            if (escape) {
                ++i;
                c = std::string("nlr").find(text[i]) != std::string::npos ? ' ' : text[i];
            }
            if (c == '\n' || c == '\r' || c == '\t') c = ' ';
            if (c != ' ' || !blank) out += c;
            blank = c == ' ';
        }
        if (c == '>') tag = false;
    }
    while (!out.empty() && out.back() == ' ') out.pop_back();
    return valid_utf8(out) ? out : std::string("?");
}

Result<Graph> from_dot(const std::string& bytes, const CancelToken& cancel) {
    const auto said = graphviz("dot", "json", bytes, {.time_ms = 10'000}, cancel);
    if (!said) return said.error();
    const Error damaged{"it is no DOT that graphviz can read"};
    try {
        const Json json = Json::parse(*said);
        Graph out;
        std::map<int64_t, size_t> by_id;
        for (const Json& object : json.value("objects", Json::array())) {
            if (!object.contains("pos") || !object.contains("width")) continue;  // a group of nodes
            if (out.nodes.size() == kMostGraphNodes) return kTooMany;
            by_id[object.at("_gvid").get<int64_t>()] = out.nodes.size();
            std::string label = object.value("label", std::string("\\N"));
            if (label == "\\N") label = object.at("name").get<std::string>();
            const std::string shape = object.value("shape", std::string("ellipse"));
            const bool rounded = object.value("style", std::string()).find("rounded") != std::string::npos;
            out.nodes.push_back({tidy(label), rounded && kind_named(shape) == ShapeKind::rectangle
                                                  ? ShapeKind::rounded_rectangle
                                                  : kind_named(shape)});
        }
        const bool directed = json.value("directed", true);
        for (const Json& edge : json.value("edges", Json::array())) {
            const auto from = by_id.find(edge.at("tail").get<int64_t>()),
                       to = by_id.find(edge.at("head").get<int64_t>());
            if (from == by_id.end() || to == by_id.end()) continue;
            const std::string dir = edge.value("dir", std::string(directed ? "forward" : "none"));
            GraphEdge made{from->second, to->second,
                           dir == "none"   ? LinkHeads::none
                           : dir == "both" ? LinkHeads::both
                                           : LinkHeads::to,
                           tidy(edge.value("label", std::string()))};
            if (dir == "back") std::swap(made.from, made.to);
            out.edges.push_back(std::move(made));
        }
        if (json.value("rankdir", std::string()) == "LR") out.arrangement = Arrangement::across;
        return out;
    } catch (const std::exception&) {
        return damaged;
    }
}

std::string data_of(pugi::xml_node element, const std::map<std::string, std::string>& names,
                    const std::vector<std::string>& wanted) {
    for (const std::string& name : wanted)
        for (pugi::xml_node data = element.child("data"); data; data = data.next_sibling("data")) {
            const auto found = names.find(data.attribute("key").value());
            if (found != names.end() && found->second == name && *data.child_value() != '\0') return data.child_value();
        }
    return {};
}

struct GraphmlReader {
    std::map<std::string, std::string> names;  // of keys
    std::map<std::string, size_t> nodes;       // by id
    Graph graph = {};
    std::vector<std::pair<pugi::xml_node, bool>> edges = {};  // with whether its graph is directed

    bool read(pugi::xml_node from, int depth) {
        const bool directed = std::string_view(from.attribute("edgedefault").value()) != "undirected";
        for (pugi::xml_node child : from.children()) {
            const std::string_view name = child.name();
            if (name == "edge") edges.emplace_back(child, directed);
            if (name == "node") {
                if (graph.nodes.size() == kMostGraphNodes) return false;
                const std::string id = child.attribute("id").value();
                std::string text = data_of(child, names, {"label", "name", "text", "description"});
                nodes[id] = graph.nodes.size();
                graph.nodes.push_back({tidy(text.empty() ? id : text), kind_named(data_of(child, names, {"shape"}))});
            }
            if ((name == "graph" || name == "node") && depth < kDeepestOutline && !read(child, depth + 1)) return false;
        }
        return true;
    }
};

Result<Graph> from_graphml(pugi::xml_node root) {
    GraphmlReader reader{{}, {}};
    for (pugi::xml_node key = root.child("key"); key; key = key.next_sibling("key")) {
        const std::string id = key.attribute("id").value(), name = key.attribute("attr.name").value();
        reader.names[id] = name.empty() ? id : name;
    }
    if (!reader.read(root, 0)) return kTooMany;
    // There and back in two edges is one link with heads at both ends.
    for (const auto& [edge, directed] : reader.edges) {
        const auto from = reader.nodes.find(edge.attribute("source").value()),
                   to = reader.nodes.find(edge.attribute("target").value());
        if (from == reader.nodes.end() || to == reader.nodes.end()) continue;
        const bool heads = edge.attribute("directed") ? edge.attribute("directed").as_bool() : directed;
        GraphEdge made{from->second, to->second, heads ? LinkHeads::to : LinkHeads::none,
                       tidy(data_of(edge, reader.names, {"label", "name", "text"}))};
        const auto back = std::ranges::find_if(reader.graph.edges, [&](const GraphEdge& e) {
            return e.heads == LinkHeads::to && e.from == made.to && e.to == made.from && e.text == made.text;
        });
        if (heads && back != reader.graph.edges.end())
            back->heads = LinkHeads::both;
        else
            reader.graph.edges.push_back(std::move(made));
    }
    return std::move(reader.graph);
}

bool add_outline_nodes(Graph& graph, pugi::xml_node from, std::optional<size_t> parent, int depth) {
    for (pugi::xml_node outline = from.child("outline"); outline; outline = outline.next_sibling("outline")) {
        if (graph.nodes.size() == kMostGraphNodes) return false;
        const size_t node = graph.nodes.size();
        const char* text = outline.attribute("text").value();
        graph.nodes.push_back({tidy(*text != '\0' ? text : outline.attribute("title").value()),
                               parent ? ShapeKind::rounded_rectangle : ShapeKind::ellipse});
        if (parent) graph.edges.push_back({*parent, node, LinkHeads::none});
        if (depth < kDeepestOutline && !add_outline_nodes(graph, outline, node, depth + 1)) return false;
    }
    return true;
}

Result<Graph> from_opml(pugi::xml_node root) {
    constexpr size_t kRings = 40;  // nodes: more stand better in layers
    Graph out;
    if (!add_outline_nodes(out, root.child("body"), std::nullopt, 0)) return kTooMany;
    out.arrangement = out.nodes.size() <= kRings ? Arrangement::radial : Arrangement::across;
    return out;
}

// The width and height words need, in lines of some breadth, mm.
Point room_for(const std::string& text) {
    const double letter = kNodeTypeMm * kLetterShare,
                 wide = letter * static_cast<double>(std::max<size_t>(2, decode_utf8(text).size()));
    const double lines = std::ceil(wide / kWidestTextMm);
    return {lines > 1 ? kWidestTextMm : wide + letter,
            std::max(1.0, lines > 1 ? lines + 1 : 1.0) * kNodeTypeMm * kLineShare};
}

Box figure_box(const GraphNode& node) {
    const Point room = room_for(node.text);
    const double roomy = node.kind == ShapeKind::diamond || node.kind == ShapeKind::triangle ? 1.9
                         : node.kind == ShapeKind::ellipse || node.kind == ShapeKind::circle ||
                                 node.kind == ShapeKind::hexagon || node.kind == ShapeKind::star ||
                                 node.kind == ShapeKind::pentagon
                             ? 1.45
                             : 1.15;
    double w = roomy * room.x + 2 * kPaddingMm, h = roomy * room.y + 2 * kPaddingMm;
    if (node.kind == ShapeKind::circle || node.kind == ShapeKind::square) w = h = std::max(w, h);
    return Box::of(0, 0, w, h);
}

TextBlock words_at(const std::string& text, Point middle, double width, double size_mm) {
    TextBlock out;
    const double lines = std::ceil(kLetterShare * size_mm * static_cast<double>(decode_utf8(text).size()) / width);
    out.width_mm = width;
    out.at = middle - Point{width / 2, std::max(1.0, lines) * size_mm * kLineShare / 2};
    TextStyle style;
    style.size_mm = size_mm;
    out.paragraphs = {{{{text, style}}, Align::centre}};
    return out;
}

}  // namespace

bool looks_like_graph(const std::string& bytes) {
    std::string begin = bytes.substr(0, 4000);
    // Comments and blanks before it.
    size_t at = begin.starts_with("\xEF\xBB\xBF") ? 3 : 0;
    for (;;) {
        at = begin.find_first_not_of(" \t\r\n", at);
        if (at == std::string::npos) return false;
        const auto skip = [&](const char* open, const char* close) {
            if (begin.compare(at, std::char_traits<char>::length(open), open) != 0) return false;
            const size_t end = begin.find(close, at + 1);
            at = end == std::string::npos ? begin.size() : end + std::char_traits<char>::length(close);
            return true;
        };
        if (!(skip("//", "\n") || skip("#", "\n") || skip("/*", "*/") || skip("<?", "?>") || skip("<!--", "-->")))
            break;
    }
    const std::string rest = begin.substr(at);
    if (rest.starts_with("<")) return rest.starts_with("<graphml") || rest.starts_with("<opml");
    for (const char* word : {"strict", "graph", "digraph"}) {
        const size_t length = std::char_traits<char>::length(word);
        if (rest.starts_with(word) && rest.size() > length &&
            (std::isspace(static_cast<unsigned char>(rest[length])) || rest[length] == '{'))
            return rest.find('{') != std::string::npos;
    }
    return false;
}

Result<FilledPage> graph_page(const std::string& bytes, const CancelToken& cancel) {
    if (bytes.size() > kMostBytes) return Error{"the graph is too large: more than 4 MB"};
    Result<Graph> graph = Error{""};
    pugi::xml_document document;
    if (bytes.find("<graphml") != std::string::npos || bytes.find("<opml") != std::string::npos) {
        if (const auto parsed = document.load_buffer(bytes.data(), bytes.size(), pugi::parse_default); !parsed)
            return Error{std::string("it is damaged XML: ") + parsed.description()};
        const pugi::xml_node root = document.document_element();
        graph = std::string_view(root.name()) == "opml" ? from_opml(root) : from_graphml(root);
    } else {
        graph = from_dot(bytes, cancel);
    }
    if (!graph) return graph.error();
    if (graph->nodes.empty()) return Error{"there are no nodes in it"};

    std::vector<Box> boxes;
    std::vector<std::pair<size_t, size_t>> pairs;
    for (const GraphNode& node : graph->nodes) boxes.push_back(figure_box(node));
    for (const GraphEdge& edge : graph->edges) pairs.emplace_back(edge.from, edge.to);
    const auto middles = arranged_middles(boxes, pairs, graph->arrangement, cancel);
    if (!middles) return middles.error();
    Box all;
    for (size_t i = 0; i < boxes.size(); ++i) {
        boxes[i] = shifted(boxes[i], (*middles)[i] - boxes[i].centre());
        all.include(boxes[i]);
    }
    if (std::max(all.width(), all.height()) > kMostPageMm) return Error{"the graph is larger than a page can be"};
    FilledPage page;
    page.info.paper = Paper::plain;
    page.info.width_mm = std::max(page.info.width_mm, all.width() + 2 * kGraphMarginMm);
    page.info.height_mm = std::max(page.info.height_mm, all.height() + 2 * kGraphMarginMm);
    const Point by{(page.info.width_mm - all.width()) / 2 - all.left, kGraphMarginMm - all.top};
    int64_t key = 0;
    for (size_t i = 0; i < boxes.size(); ++i) {
        const Box box = shifted(boxes[i], by);
        FairShape figure;
        figure.key = ++key;
        figure.shape =
            as_kind({ShapeKind::rectangle,
                     {{box.left, box.top}, {box.right, box.top}, {box.right, box.bottom}, {box.left, box.bottom}}},
                    graph->nodes[i].kind);
        if (figure.shape.kind == ShapeKind::rounded_rectangle) figure.shape.radius = std::min(3.0, box.height() / 3);
        page.content.shapes.push_back(std::move(figure));
        if (!graph->nodes[i].text.empty())
            page.content.texts.push_back(
                words_at(graph->nodes[i].text, box.centre(), room_for(graph->nodes[i].text).x, kNodeTypeMm));
    }
    for (const GraphEdge& edge : graph->edges) {
        if (edge.from == edge.to) continue;  // a link leads from one figure to another
        FairShape link = linked(page.content.shapes[edge.from], page.content.shapes[edge.to]);
        if (edge.heads == LinkHeads::none) link.shape.kind = ShapeKind::line;
        if (edge.heads == LinkHeads::both) link.shape.kind = ShapeKind::double_arrow;
        if (!edge.text.empty()) {
            const std::vector<Point>& p = link.shape.points;
            const double size = 0.85 * kNodeTypeMm;
            page.content.texts.push_back(words_at(edge.text, (p.front() + p.back()) * 0.5 + Point{kLabelMm / 2, 0},
                                                  std::max(kLabelMm, 0.85 * room_for(edge.text).x), size));
        }
        page.content.shapes.push_back(std::move(link));
    }
    return page;
}

}  // namespace fernleaf
