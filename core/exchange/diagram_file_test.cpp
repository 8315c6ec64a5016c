#include "exchange/diagram_file.h"

#include <gtest/gtest.h>

#include <pugixml.hpp>

namespace fernleaf {
namespace {

ReadWord word(const std::string& text, double x, double y) {
    ReadWord out;
    out.text = text;
    out.box = Box::of(x, y, 10, 4);
    return out;
}

// A diamond above a box, a line with two heads between them and a word beside it.
Reading flow() {
    Reading out;
    out.lines.resize(2);
    const auto add = [&](StrokeId id, Shape shape) {
        out.lines[0].shapes.push_back({{id}, {{std::move(shape), 0.9, 0.1}}});
    };
    add(1, {ShapeKind::diamond, {{30, 10}, {50, 20}, {30, 30}, {10, 20}}});
    add(2, {ShapeKind::rectangle, {{10, 60}, {50, 60}, {50, 76}, {10, 76}}});
    add(3, {ShapeKind::double_arrow, {{30, 31}, {30, 59}}});
    out.lines[1].words = {word("Cold?", 25, 18), word("say\"so\"", 25, 66), word("yes", 33, 44)};
    return out;
}

TEST(DiagramFile, MermaidHasItsSignsForFiguresAndLinks) {
    const Reading reading = flow();
    EXPECT_EQ(diagram_text({read_drawing(reading)}, ".mmd"),
              "flowchart TD\n"
              "  n1{\"Cold?\"}\n"
              "  n2[\"say#quot;so#quot;\"]\n"
              "  n1 <--> |\"yes\"| n2\n");
}

TEST(DiagramFile, GraphmlIsXmlWithNodesAndEdges) {
    const Reading reading = flow();
    pugi::xml_document document;
    ASSERT_TRUE(document.load_string(diagram_text({read_drawing(reading)}, ".graphml").c_str()));
    const pugi::xml_node graph = document.child("graphml").child("graph");
    EXPECT_EQ(std::distance(graph.children("node").begin(), graph.children("node").end()), 2);
    EXPECT_EQ(std::distance(graph.children("edge").begin(), graph.children("edge").end()), 2) << "there and back";
    EXPECT_STREQ(graph.find_child_by_attribute("node", "id", "n2").child_value("data"), "say\"so\"");
}

TEST(DiagramFile, DotHasFiguresLinksAndQuotedLabels) {
    Reading reading = flow();
    EXPECT_EQ(diagram_text({read_drawing(reading)}, ".dot"),
              "digraph {\n"
              "  n1 [label=\"Cold?\", shape=diamond];\n"
              "  n2 [label=\"say\\\"so\\\"\", shape=box];\n"
              "  n1 -> n2 [label=\"yes\", dir=both];\n"
              "}\n");
    reading.lines[0].shapes[2].candidates[0].shape.kind = ShapeKind::line;
    EXPECT_EQ(diagram_text({read_drawing(reading)}, ".dot"),
              "graph {\n"
              "  n1 [label=\"Cold?\", shape=diamond];\n"
              "  n2 [label=\"say\\\"so\\\"\", shape=box];\n"
              "  n1 -- n2 [label=\"yes\"];\n"
              "}\n");
}

TEST(DiagramFile, DotComesOncePerDiagramAndNotForLooseDrawings) {
    const Reading reading = flow(), none;
    const std::string one = diagram_text({read_drawing(reading), read_drawing(none)}, ".dot");
    EXPECT_TRUE(one.starts_with("digraph {")) << one;
    EXPECT_EQ(diagram_text({read_drawing(reading), read_drawing(reading)}, ".dot"), one + "\n" + one);
    EXPECT_TRUE(diagram_text({read_drawing(none)}, ".dot").empty());
}

// A map of words without frames about one in a ring.
Reading map() {
    Reading out;
    out.lines.resize(2);
    out.lines[0].shapes.push_back({{1}, {{{ShapeKind::ellipse, {{70, 80}, {90, 90}, {70, 100}, {50, 90}}}, 0.9, 0.1}}});
    const auto spoke = [&](StrokeId id, Point from, Point to) {
        out.lines[0].shapes.push_back({{id}, {{{ShapeKind::line, {from, to}}, 0.9, 0.1}}});
    };
    spoke(2, {89, 87}, {120, 70}), spoke(3, {51, 87}, {22, 70}), spoke(4, {125, 65}, {126, 42});
    out.lines[1].words = {word("tree", 65, 88), word("row<3>", 121, 67), word("wax", 11, 68), word("tape", 121, 36)};
    return out;
}

TEST(DiagramFile, AMapIsAnOutlineFromItsMiddle) {
    const Reading reading = map();
    EXPECT_EQ(diagram_text({read_drawing(reading)}, ".md"), "- tree\n  - wax\n  - row<3>\n    - tape\n");
    pugi::xml_document document;
    ASSERT_TRUE(document.load_string(diagram_text({read_drawing(reading)}, ".opml").c_str()));
    const pugi::xml_node root = document.child("opml").child("body").child("outline");
    EXPECT_STREQ(root.attribute("text").value(), "tree");
    EXPECT_STREQ(root.last_child().attribute("text").value(), "row<3>");
    EXPECT_STREQ(root.last_child().first_child().attribute("text").value(), "tape");
}

TEST(DiagramFile, AnOutlineOfAFlowSaysItsLinksAndEndsInARing) {
    Reading reading = flow();
    EXPECT_EQ(diagram_text({read_drawing(reading)}, ".md"), "- Cold?\n  - yes: say\"so\"\n");
    // Both lead to one another: each stands there once.
    reading.lines[0].shapes[2].candidates[0].shape = {ShapeKind::arrow, {{30, 31}, {30, 59}}};
    reading.lines[0].shapes.push_back({{4}, {{{ShapeKind::arrow, {{12, 59}, {14, 24}}}, 0.9, 0.1}}});
    EXPECT_EQ(diagram_text({read_drawing(reading)}, ".md"), "- Cold?\n  - yes: say\"so\"\n");
}

}  // namespace
}  // namespace fernleaf
