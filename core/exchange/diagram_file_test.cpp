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

}  // namespace
}  // namespace fernleaf
