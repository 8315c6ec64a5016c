#include "exchange/diagram_file.h"

#include <algorithm>
#include <pugixml.hpp>
#include <sstream>
#include <utility>

namespace fernleaf {
namespace {

std::string name_of_node(size_t node) { return "n" + std::to_string(node + 1); }

std::string quoted(const std::string& text) {
    std::string out = "\"";
    for (const char c : text) {
        if (c == '"' || c == '\\') out += '\\';
        out += c;
    }
    return out + '"';
}

// DOT knows most figures by our names.
std::string dot_shape(const DrawnNode& node) {
    if (!node.figure) return "plaintext";
    switch (node.figure->shape.kind) {
        case ShapeKind::rectangle:
        case ShapeKind::rounded_rectangle:
            return "box";
        case ShapeKind::trapezoid:
            return "trapezium";
        default:
            return std::string(name_of(node.figure->shape.kind));
    }
}

std::string dot_text(const DrawingReading& drawing) {
    const bool directed =
        std::ranges::any_of(drawing.links, [](const DrawnLink& l) { return l.heads != LinkHeads::none; });
    std::string out = directed ? "digraph {\n" : "graph {\n";
    for (size_t i = 0; i < drawing.nodes.size(); ++i) {
        const DrawnNode& node = drawing.nodes[i];
        out += "  " + name_of_node(i) + " [label=" + quoted(node.text()) + ", shape=" + dot_shape(node);
        if (node.figure && node.figure->shape.kind == ShapeKind::rounded_rectangle) out += ", style=rounded";
        out += "];\n";
    }
    for (const DrawnLink& link : drawing.links) {
        out += "  n" + std::to_string(link.from + 1) + (directed ? " -> n" : " -- n") + std::to_string(link.to + 1);
        std::string marks;
        if (!link.words.empty()) marks = "label=" + quoted(link.text());
        if (directed && link.heads == LinkHeads::none) marks += std::string(marks.empty() ? "" : ", ") + "dir=none";
        if (link.heads == LinkHeads::both) marks += std::string(marks.empty() ? "" : ", ") + "dir=both";
        out += (marks.empty() ? "" : " [" + marks + "]") + ";\n";
    }
    return out + "}\n";
}

// What stands about a node's text in Mermaid.
std::pair<const char*, const char*> brackets(const DrawnNode& node) {
    if (!node.figure) return {"[", "]"};
    switch (node.figure->shape.kind) {
        case ShapeKind::circle:
            return {"((", "))"};
        case ShapeKind::ellipse:
            return {"([", "])"};
        case ShapeKind::rounded_rectangle:
            return {"(", ")"};
        case ShapeKind::diamond:
            return {"{", "}"};
        case ShapeKind::parallelogram:
            return {"[/", "/]"};
        case ShapeKind::trapezoid:
            return {"[/", "\\]"};
        case ShapeKind::hexagon:
            return {"{{", "}}"};
        default:
            return {"[", "]"};
    }
}

// In double quotes, which Mermaid writes as an entity.
std::string in_quotes(const std::string& text) {
    std::string out = "\"";
    for (const char c : text) {
        if (c == '"')
            out += "#quot;";
        else
            out += c;
    }
    return out + '"';
}

std::string mermaid_text(const DrawingReading& drawing) {
    std::string out = "flowchart TD\n";
    for (size_t i = 0; i < drawing.nodes.size(); ++i) {
        const auto [open, close] = brackets(drawing.nodes[i]);
        out += "  " + name_of_node(i) + open + in_quotes(drawing.nodes[i].text()) + close + '\n';
    }
    for (const DrawnLink& link : drawing.links) {
        const char* line = link.heads == LinkHeads::none ? " --- " : link.heads == LinkHeads::to ? " --> " : " <--> ";
        out += "  " + name_of_node(link.from) + line;
        if (!link.words.empty()) out += "|" + in_quotes(link.text()) + "| ";
        out += name_of_node(link.to) + '\n';
    }
    return out;
}

void add_key(pugi::xml_node root, const char* id, const char* of) {
    pugi::xml_node key = root.append_child("key");
    key.append_attribute("id") = id;
    key.append_attribute("for") = of;
    key.append_attribute("attr.name") = id;
    key.append_attribute("attr.type") = "string";
}

void add_data(pugi::xml_node to, const char* key, const std::string& value) {
    pugi::xml_node data = to.append_child("data");
    data.append_attribute("key") = key;
    data.text() = value.c_str();
}

std::string graphml_text(const std::vector<const DrawingReading*>& drawings) {
    pugi::xml_document document;
    pugi::xml_node root = document.append_child("graphml");
    root.append_attribute("xmlns") = "http://graphml.graphdrawing.org/xmlns";
    add_key(root, "label", "all");
    add_key(root, "shape", "node");
    for (size_t d = 0; d < drawings.size(); ++d) {
        const std::string prefix = drawings.size() > 1 ? "g" + std::to_string(d + 1) : "";
        pugi::xml_node graph = root.append_child("graph");
        graph.append_attribute("id") = ("g" + std::to_string(d + 1)).c_str();
        graph.append_attribute("edgedefault") = "directed";
        for (size_t i = 0; i < drawings[d]->nodes.size(); ++i) {
            const DrawnNode& drawn = drawings[d]->nodes[i];
            pugi::xml_node node = graph.append_child("node");
            node.append_attribute("id") = (prefix + name_of_node(i)).c_str();
            add_data(node, "label", drawn.text());
            if (drawn.figure) add_data(node, "shape", std::string(name_of(drawn.figure->shape.kind)));
        }
        // A link with a head at both ends is two that lead either way.
        for (const DrawnLink& link : drawings[d]->links)
            for (const bool back : {false, true}) {
                if (back && link.heads != LinkHeads::both) continue;
                pugi::xml_node edge = graph.append_child("edge");
                edge.append_attribute("source") = (prefix + name_of_node(back ? link.to : link.from)).c_str();
                edge.append_attribute("target") = (prefix + name_of_node(back ? link.from : link.to)).c_str();
                if (link.heads == LinkHeads::none) edge.append_attribute("directed") = "false";
                if (!link.words.empty()) add_data(edge, "label", link.text());
            }
    }
    std::ostringstream out;
    document.save(out, "  ");
    return out.str();
}

// A node of a diagram in an outline, and what is below it.
struct Branch {
    size_t node = 0;
    std::string link;  // the words of the link that leads to it
    std::vector<Branch> below;
};

std::vector<Branch> branches_of(const DrawingReading& drawing) {
    const size_t count = drawing.nodes.size();
    std::vector<std::vector<std::pair<size_t, const DrawnLink*>>> next(count);
    std::vector<size_t> in(count), degree(count);
    for (const DrawnLink& link : drawing.links) {
        next[link.from].emplace_back(link.to, &link);
        if (link.heads == LinkHeads::to)
            ++in[link.to];
        else
            next[link.to].emplace_back(link.from, &link);  // either way
        ++degree[link.from], ++degree[link.to];
    }
    std::vector<size_t> order(count);
    for (size_t i = 0; i < count; ++i) order[i] = i;
    const bool directed =
        std::ranges::any_of(drawing.links, [](const DrawnLink& l) { return l.heads == LinkHeads::to; });
    std::ranges::stable_sort(order, [&](size_t a, size_t b) {
        if (directed) return in[a] < in[b];
        // Of equals one with a frame: words about it have none.
        return std::pair(degree[a], drawing.nodes[a].figure.has_value()) >
               std::pair(degree[b], drawing.nodes[b].figure.has_value());
    });
    std::vector<bool> told(count);
    // Breadth first, so that a node stands under the nearest that leads to it; built from the last backwards.
    std::vector<Branch> roots;
    for (const size_t root : order) {
        if (told[root] || degree[root] == 0) continue;
        struct Found {
            size_t node, parent;
            const DrawnLink* link;
        };
        std::vector<Found> found{{root, 0, nullptr}};
        told[root] = true;
        for (size_t i = 0; i < found.size(); ++i)
            for (const auto& [to, link] : next[found[i].node])
                if (!told[to]) told[to] = true, found.push_back({to, i, link});
        std::vector<Branch> made(found.size());
        for (size_t i = found.size(); i-- > 0;) {
            made[i].node = found[i].node;
            if (found[i].link) made[i].link = found[i].link->text();
            std::ranges::reverse(made[i].below);
            if (i > 0) made[found[i].parent].below.push_back(std::move(made[i]));
        }
        roots.push_back(std::move(made[0]));
    }
    return roots;
}

// In one line; what its link says first.
std::string said_of(const DrawingReading& drawing, const Branch& branch) {
    const std::string text = drawing.nodes[branch.node].text();
    return branch.link.empty() ? text : branch.link + ": " + text;
}

void add_list(std::string& out, const DrawingReading& drawing, const std::vector<Branch>& branches, size_t depth) {
    for (const Branch& branch : branches) {
        out += std::string(2 * depth, ' ') + "- " + said_of(drawing, branch) + '\n';
        add_list(out, drawing, branch.below, depth + 1);
    }
}

void add_outlines(pugi::xml_node to, const DrawingReading& drawing, const std::vector<Branch>& branches) {
    for (const Branch& branch : branches) {
        pugi::xml_node outline = to.append_child("outline");
        outline.append_attribute("text") = said_of(drawing, branch).c_str();
        add_outlines(outline, drawing, branch.below);
    }
}

std::string opml_text(const std::vector<const DrawingReading*>& drawings) {
    pugi::xml_document document;
    pugi::xml_node root = document.append_child("opml");
    root.append_attribute("version") = "2.0";
    root.append_child("head").append_child("title");
    pugi::xml_node body = root.append_child("body");
    for (const DrawingReading* drawing : drawings) add_outlines(body, *drawing, branches_of(*drawing));
    std::ostringstream out;
    document.save(out, "  ");
    return out.str();
}

std::string list_text(const DrawingReading& drawing) {
    std::string out;
    add_list(out, drawing, branches_of(drawing), 0);
    return out;
}

}  // namespace

std::string diagram_text(const std::vector<DrawingReading>& drawings, std::string_view ending) {
    std::vector<const DrawingReading*> diagrams;
    for (const DrawingReading& drawing : drawings)
        if (drawing.is_diagram()) diagrams.push_back(&drawing);
    if (diagrams.empty()) return {};
    if (ending == ".graphml") return graphml_text(diagrams);
    if (ending == ".opml") return opml_text(diagrams);
    std::string out;
    for (const DrawingReading* diagram : diagrams)
        out += (out.empty() ? "" : "\n") + (ending == ".mmd"  ? mermaid_text(*diagram)
                                            : ending == ".md" ? list_text(*diagram)
                                                              : dot_text(*diagram));
    return out;
}

}  // namespace fernleaf
