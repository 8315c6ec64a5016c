// Diagrams as files of text: DOT, Mermaid, GraphML; and as outlines, OPML and Markdown lists.
//
//   std::string text = diagram_text({read_drawing(reading)}, ".dot");
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "drawing/drawing_reading.h"

namespace fernleaf {

// ending: ".dot", ".mmd", ".graphml", ".opml" or ".md". Each diagram is a graph of its own, in DOT and Mermaid one
// after another; drawings that link nothing are left out. Empty where there is none. An outline begins with what
// nothing leads to, or with what most links meet; every node stands in it once, under the first that leads to it.
std::string diagram_text(const std::vector<DrawingReading>& drawings, std::string_view ending);

}  // namespace fernleaf
