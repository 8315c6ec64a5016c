#include <algorithm>
#include <cmath>
#include <pugixml.hpp>
#include <sstream>

#include "exchange/inkml.h"

namespace fernleaf {
namespace {

std::string decimal(double value, int decimals) {
    std::ostringstream out;
    out.imbue(std::locale::classic());
    out.precision(decimals);
    out << std::fixed << value;
    std::string text = out.str();
    if (text.find('.') != std::string::npos) {
        text.erase(text.find_last_not_of('0') + 1);
        if (text.back() == '.') text.pop_back();
    }
    return text == "-0" ? "0" : text;
}

void add_channel(pugi::xml_node format, const char* name, const char* units, const char* least,
                 const std::string& most) {
    pugi::xml_node channel = format.append_child("channel");
    channel.append_attribute("name") = name;
    channel.append_attribute("type") = "decimal";
    if (*units) channel.append_attribute("units") = units;
    if (*least) channel.append_attribute("min") = least;
    if (!most.empty()) channel.append_attribute("max") = most.c_str();
}

std::string colour_name(uint32_t colour) {
    char text[8];
    std::snprintf(text, sizeof text, "#%06X", colour & 0xFFFFFFU);
    return text;
}

void add_property(pugi::xml_node brush, const char* name, const std::string& value, const char* units = "") {
    pugi::xml_node property = brush.append_child("brushProperty");
    property.append_attribute("name") = name;
    property.append_attribute("value") = value.c_str();
    if (*units) property.append_attribute("units") = units;
}

// With the standard's own brush properties; a fountain pen and a pencil, for which it has none, carry an annotation.
void add_brush(pugi::xml_node definitions, const std::string& id, const Pen& pen) {
    pugi::xml_node brush = definitions.append_child("brush");
    brush.append_attribute("xml:id") = id.c_str();
    if (pen.kind == PenKind::fountain || pen.kind == PenKind::pencil) {
        pugi::xml_node note = brush.append_child("annotation");
        note.append_attribute("type") = "pen";
        note.append_child(pugi::node_pcdata).set_value(pen.kind == PenKind::fountain ? "fountain" : "pencil");
    }
    add_property(brush, "color", colour_name(pen.colour));
    add_property(brush, "width", decimal(pen.width_mm, 3), "mm");
    if (pen.opacity < 1) add_property(brush, "transparency", decimal(255 * (1 - pen.opacity), 0));
    if (pen.tip == Tip::chisel) add_property(brush, "tip", "rectangle");
    if (!pen.by_pressure) add_property(brush, "ignorePressure", "true");
    if (pen.kind == PenKind::highlighter) add_property(brush, "rasterOp", "maskPen");
}

std::string points_of(const Stroke& stroke) {
    std::string text;
    for (const InkPoint& p : stroke.points) {
        if (!text.empty()) text += ", ";
        text += decimal(p.at.x, 2) + ' ' + decimal(p.at.y, 2) + ' ' + decimal(p.pressure, 3) + ' ' +
                std::to_string(p.time_ms) + ' ' + decimal(p.tilt_x, 0) + ' ' + decimal(p.tilt_y, 0);
    }
    return text;
}

}  // namespace

std::string write_inkml(const std::vector<Page>& pages) {
    pugi::xml_document xml;
    pugi::xml_node declaration = xml.append_child(pugi::node_declaration);
    declaration.append_attribute("version") = "1.0";
    declaration.append_attribute("encoding") = "UTF-8";
    pugi::xml_node ink = xml.append_child("ink");
    ink.append_attribute("xmlns") = "http://www.w3.org/2003/InkML";
    pugi::xml_node definitions = ink.append_child("definitions");
    pugi::xml_node format = definitions.append_child("traceFormat");
    format.append_attribute("xml:id") = "pen";
    add_channel(format, "X", "mm", "", "");
    add_channel(format, "Y", "mm", "", "");
    add_channel(format, "F", "", "0", "1");
    add_channel(format, "T", "ms", "", "");
    add_channel(format, "OTx", "deg", "-90", "90");
    add_channel(format, "OTy", "deg", "-90", "90");

    std::vector<Pen> brushes;
    int number_of_page = 0;
    for (const Page& page : pages) {
        const std::string suffix = std::to_string(++number_of_page);
        pugi::xml_node canvas = definitions.append_child("canvas");
        canvas.append_attribute("xml:id") = ("canvas" + suffix).c_str();
        pugi::xml_node extent = canvas.append_child("traceFormat");
        add_channel(extent, "X", "mm", "0", decimal(page.info.width_mm, 2));
        add_channel(extent, "Y", "mm", "0", decimal(page.info.height_mm, 2));
        int64_t begin = 0;
        for (const Stroke& s : page.strokes)
            if (s.start_ms > 0 && (begin == 0 || s.start_ms < begin)) begin = s.start_ms;
        pugi::xml_node context = definitions.append_child("context");
        context.append_attribute("xml:id") = ("page" + suffix).c_str();
        context.append_attribute("traceFormatRef") = "#pen";
        context.append_attribute("canvasRef") = ("#canvas" + suffix).c_str();
        if (begin > 0) {
            pugi::xml_node stamp = definitions.append_child("timestamp");
            stamp.append_attribute("xml:id") = ("time" + suffix).c_str();
            stamp.append_attribute("time") = std::to_string(begin).c_str();
            context.append_attribute("timestampRef") = ("#time" + suffix).c_str();
        }
        pugi::xml_node group = ink.append_child("traceGroup");
        group.append_attribute("contextRef") = ("#page" + suffix).c_str();
        for (const Stroke& s : page.strokes) {
            const auto known = std::ranges::find(brushes, s.pen);
            const std::string brush = "brush" + std::to_string(known - brushes.begin() + 1);
            if (known == brushes.end()) {
                brushes.push_back(s.pen);
                add_brush(definitions, brush, s.pen);
            }
            pugi::xml_node trace = group.append_child("trace");
            trace.append_attribute("brushRef") = ("#" + brush).c_str();
            if (begin > 0 && s.start_ms > 0)
                trace.append_attribute("timeOffset") = std::to_string(s.start_ms - begin).c_str();
            trace.append_child(pugi::node_pcdata).set_value(points_of(s).c_str());
        }
    }
    std::ostringstream out;
    xml.save(out, " ");
    return out.str();
}

}  // namespace fernleaf
