#include <cmath>
#include <map>
#include <pugixml.hpp>
#include <sstream>

#include "exchange/inkml.h"

namespace fernleaf {
namespace {

std::string number(double value, int decimals) {
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

std::string points_of(const Stroke& stroke) {
    std::string text;
    for (const InkPoint& p : stroke.points) {
        if (!text.empty()) text += ", ";
        text += number(p.at.x, 2) + ' ' + number(p.at.y, 2) + ' ' + number(p.pressure, 3) + ' ' +
                std::to_string(p.time_ms) + ' ' + number(p.tilt_x, 0) + ' ' + number(p.tilt_y, 0);
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

    std::map<std::pair<uint32_t, float>, std::string> brushes;
    int number_of_page = 0;
    for (const Page& page : pages) {
        const std::string suffix = std::to_string(++number_of_page);
        pugi::xml_node canvas = definitions.append_child("canvas");
        canvas.append_attribute("xml:id") = ("canvas" + suffix).c_str();
        pugi::xml_node extent = canvas.append_child("traceFormat");
        add_channel(extent, "X", "mm", "0", number(page.info.width_mm, 2));
        add_channel(extent, "Y", "mm", "0", number(page.info.height_mm, 2));
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
            auto [brush, fresh] =
                brushes.try_emplace({s.pen.colour, s.pen.width_mm}, "brush" + std::to_string(brushes.size() + 1));
            if (fresh) {
                pugi::xml_node node = definitions.append_child("brush");
                node.append_attribute("xml:id") = brush->second.c_str();
                pugi::xml_node colour = node.append_child("brushProperty");
                colour.append_attribute("name") = "color";
                colour.append_attribute("value") = colour_name(s.pen.colour).c_str();
                pugi::xml_node width = node.append_child("brushProperty");
                width.append_attribute("name") = "width";
                width.append_attribute("value") = number(s.pen.width_mm, 3).c_str();
                width.append_attribute("units") = "mm";
            }
            pugi::xml_node trace = group.append_child("trace");
            trace.append_attribute("brushRef") = ("#" + brush->second).c_str();
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
