#include "exchange/graph_import.h"

#include <gtest/gtest.h>

#include "document/shape/fair_shape.h"
#include "exchange/import.h"

namespace fernleaf {
namespace {

constexpr char kDot[] =
    "// a frost alarm\ndigraph frost {\n  a [label=\"read\\nsensor\", shape=box];\n  b [label=\"below 1°\", "
    "shape=diamond];\n"
    "  a -> b; b -> c [label=yes]; c -> a [dir=both]; c -> c;\n}\n";

std::vector<std::string> texts_of(const FilledPage& page) {
    std::vector<std::string> out;
    for (const TextBlock& t : page.content.texts) out.push_back(plain_text(t));
    for (std::string& t : out)
        while (!t.empty() && t.back() == '\n') t.pop_back();
    return out;
}

size_t lines_in(const FilledPage& page) {
    return static_cast<size_t>(
        std::ranges::count_if(page.content.shapes, [](const FairShape& s) { return is_line(s.shape.kind); }));
}

TEST(GraphImport, DotBecomesAFairDrawingWithLinksThatHold) {
    ASSERT_TRUE(looks_like_graph(kDot));
    const auto page = graph_page(kDot);
    ASSERT_TRUE(page) << page.error().message;
    const auto& shapes = page->content.shapes;
    ASSERT_EQ(shapes.size(), 6U) << "three figures, three links; none from a figure to itself";
    EXPECT_EQ(shapes[0].shape.kind, ShapeKind::rectangle);
    EXPECT_EQ(shapes[1].shape.kind, ShapeKind::diamond);
    EXPECT_EQ(shapes[2].shape.kind, ShapeKind::ellipse);
    EXPECT_EQ(texts_of(*page), (std::vector<std::string>{"read sensor", "below 1°", "c", "yes"}));
    EXPECT_EQ(std::ranges::count_if(shapes, [](const FairShape& s) { return s.shape.kind == ShapeKind::double_arrow; }),
              1);
    const Box sheet = Box::of(0, 0, page->info.width_mm, page->info.height_mm);
    for (const FairShape& s : shapes) {
        const Box box = drawn_box(s);
        EXPECT_TRUE(sheet.contains({box.left, box.top}) && sheet.contains({box.right, box.bottom}));
        if (!is_line(s.shape.kind)) continue;
        const auto& from = *std::ranges::find(shapes, s.from.figure, &FairShape::key);
        const auto& to = *std::ranges::find(shapes, s.to.figure, &FairShape::key);
        EXPECT_LT(distance_to(outline_of(from.shape), s.shape.points.front()), 1e-6);
        EXPECT_LT(distance_to(outline_of(to.shape), s.shape.points.back()), 1e-6);
    }
    EXPECT_LT(drawn_box(shapes[0]).bottom, drawn_box(shapes[1]).top) << "layered downwards";
}

TEST(GraphImport, GraphmlWithNestedGraphsAndOpmlOutlines) {
    const std::string graphml =
        "<?xml version='1.0'?><graphml xmlns='http://graphml.graphdrawing.org/xmlns'><key id='d0' for='node' "
        "attr.name='label'/><graph edgedefault='undirected'><node id='a'><data key='d0'>old &amp; new</data></node>"
        "<node id='b'><graph><node id='c'/></graph></node><edge source='a' target='c'/><edge source='a' target='gone'/>"
        "</graph></graphml>";
    ASSERT_TRUE(looks_like_graph(graphml));
    const auto page = graph_page(graphml);
    ASSERT_TRUE(page) << page.error().message;
    EXPECT_EQ(texts_of(*page), (std::vector<std::string>{"old & new", "b", "c"}));
    EXPECT_EQ(lines_in(*page), 1U);
    EXPECT_EQ(page->content.shapes.back().shape.kind, ShapeKind::line);
    const std::string opml =
        "\xEF\xBB\xBF<opml version='2.0'><body><outline text='tree'><outline text='wax'/><outline "
        "title='tape'/></outline></body></opml>";
    ASSERT_TRUE(looks_like_graph(opml));
    const auto map = graph_page(opml);
    ASSERT_TRUE(map) << map.error().message;
    EXPECT_EQ(texts_of(*map), (std::vector<std::string>{"tree", "wax", "tape"}));
    EXPECT_EQ(lines_in(*map), 2U);
}

TEST(GraphImport, OtherFilesAreNotTakenForGraphs) {
    for (const char* other : {"", "graphics are nice", "<ink xmlns='http://www.w3.org/2003/InkML'/>", "digraphs { }",
                              "# only a comment", "<svg/>", "strict"})
        EXPECT_FALSE(looks_like_graph(other)) << other;
    EXPECT_TRUE(looks_like_graph("strict graph{}"));
}

TEST(GraphImport, BadInputIsAClearError) {
    std::string many = "graph {";
    for (int i = 0; i < 1200; ++i) many += "n" + std::to_string(i) + ";";
    EXPECT_NE(graph_page(many + "}").error().message.find("more than"), std::string::npos);
    EXPECT_FALSE(graph_page("digraph { a -> "));
    EXPECT_FALSE(graph_page("graph {}")) << "no nodes";
    EXPECT_FALSE(graph_page(std::string(5'000'000, ' ') + "graph {a}"));
    EXPECT_FALSE(graph_page("<graphml><graph><node id='a'>"));
    // Entities that would grow are not followed.
    const auto bomb = graph_page(
        "<!DOCTYPE x [<!ENTITY a 'aaaaaaaaaa'><!ENTITY b '&a;&a;&a;&a;'>]><opml><body><outline "
        "text='&b;'/></body></opml>");
    const auto said = bomb ? texts_of(*bomb) : std::vector<std::string>();
    EXPECT_TRUE(said.empty() || said[0].size() <= 4);
    std::string deep = "<opml><body>";
    for (int i = 0; i < 100'000; ++i) deep += "<outline text='a'>";
    EXPECT_FALSE(graph_page(deep)) << "neither closed nor shallow";
    CancelSource cancel;
    cancel.cancel();
    EXPECT_FALSE(graph_page(kDot, cancel.token()));
}

}  // namespace
}  // namespace fernleaf
