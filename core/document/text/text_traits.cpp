// Blocks of type as elements of a page.
#include <cmath>

#include "base/json.h"
#include "document/affine_json.h"
#include "document/text/text_block.h"
#include "document/turned_box.h"

namespace fernleaf {
namespace {

constexpr double kFillMm = 1.2;   // a block's fill reaches beyond its words
constexpr double kEvenly = 0.01;  // sides that grow alike, but for this
constexpr double kLeastSideMm = 2;
constexpr double kLeastTypeMm = 0.5, kMostTypeMm = 100;

Box straight(const TextBlock& text) { return Box::of(text.at.x, text.at.y, text.width_mm, text.height_mm); }

void grow_type(TextBlock& text, double by) {
    text.pitch_mm *= by;
    for (Paragraph& p : text.paragraphs) {
        p.indent_mm *= by;
        p.before_mm *= by;
        for (TextRun& run : p.runs) run.style.size_mm = std::clamp(run.style.size_mm * by, kLeastTypeMm, kMostTypeMm);
    }
}

Json json_of(const TextRun& run) {
    const TextStyle& s = run.style;
    Json j{{"text", run.text}, {"family", s.family}, {"size", s.size_mm}, {"colour", s.colour}};
    if (s.bold) j["bold"] = true;
    if (s.italic) j["italic"] = true;
    if (s.underline) j["underline"] = true;
    if (s.strike) j["strike"] = true;
    if (s.highlight) j["highlight"] = *s.highlight;
    if (s.unsure) j["unsure"] = true;
    return j;
}

TextRun run_from(const Json& j) {
    TextRun run{j.at("text"), {}};
    TextStyle& s = run.style;
    s.family = j.at("family");
    s.size_mm = j.at("size");
    s.colour = colour_in(j.at("colour"));
    s.bold = j.value("bold", false);
    s.italic = j.value("italic", false);
    s.underline = j.value("underline", false);
    s.strike = j.value("strike", false);
    if (j.contains("highlight")) s.highlight = colour_in(j["highlight"]);
    s.unsure = j.value("unsure", false);
    return run;
}

Json json_of(const Paragraph& p) {
    Json j{{"runs", Json::array()}};
    for (const TextRun& run : p.runs) j["runs"].push_back(json_of(run));
    if (p.align != Align::left) j["align"] = static_cast<int>(p.align);
    if (p.list != ListKind::none) j["list"] = static_cast<int>(p.list);
    if (p.heading != 0) j["heading"] = p.heading;
    if (p.indent_mm != 0) j["indent"] = p.indent_mm;
    if (p.before_mm != 0) j["before"] = p.before_mm;
    return j;
}

Paragraph paragraph_from(const Json& j) {
    Paragraph p;
    for (const Json& run : j.at("runs")) p.runs.push_back(run_from(run));
    // A later release may know more of these.
    p.align = static_cast<Align>(std::clamp(small_or(j, "align", 0), 0, 3));
    p.list = static_cast<ListKind>(std::clamp(small_or(j, "list", 0), 0, 4));
    p.heading = std::clamp(small_or(j, "heading", 0), 0, 3);
    p.indent_mm = j.value("indent", 0.0);
    p.before_mm = j.value("before", 0.0);
    return p;
}

}  // namespace

Box ElementTraits<TextBlock>::bounds(const TextBlock& text) { return text.box().grown(kFillMm); }

bool ElementTraits<TextBlock>::covers(const TextBlock& text, Point p, double) {
    return lies_on(straight(text).grown(kFillMm), text.angle, p);
}

bool ElementTraits<TextBlock>::mostly_inside(const TextBlock& text, const std::vector<Point>& polygon) {
    return fernleaf::mostly_inside(straight(text), text.angle, polygon);
}

TextBlock ElementTraits<TextBlock>::transformed(TextBlock text, const Affine& by) {
    const double wider = std::hypot(by.xx, by.yx), taller = std::hypot(by.xy, by.yy);
    const Point middle = by(straight(text).centre());
    const Point before = text.at;
    if (by == Affine::shift({by.dx, by.dy}))
        for (PlacedWord& w : text.words) w.box = shifted(w.box, {by.dx, by.dy});
    if (std::abs(wider - taller) < kEvenly) {
        if (std::abs(wider - 1) > 1e-9) grow_type(text, wider);
        text.width_mm = std::max(kLeastSideMm, text.width_mm * wider);
        text.height_mm *= wider;
        text.at = middle - Point{text.width_mm, text.height_mm} * 0.5;
        text.angle = turned_by(text.angle, by);
        if (!text.ink.empty()) text.transform_since_set = text.transform_since_set.then(by);
    } else {
        text.at = by(text.at);
        text.width_mm = std::max(kLeastSideMm, text.width_mm * wider);
        if (!text.ink.empty())
            text.transform_since_set = text.transform_since_set.then(Affine::shift(text.at - before));
    }
    return text;
}

void ElementTraits<TextBlock>::set_colour(TextBlock& text, uint32_t colour) {
    for (Paragraph& p : text.paragraphs)
        for (TextRun& run : p.runs) run.style.colour = colour;
}

std::optional<std::string> ElementTraits<TextBlock>::validation_error(const TextBlock& text) {
    if (is_place(text.at.x) && is_place(text.at.y) && is_place(text.width_mm) && is_place(text.height_mm) &&
        is_place(text.angle))
        return {};
    return "A block of text holds numbers that are no place on a page.";
}

std::string ElementTraits<TextBlock>::encode(const TextBlock& text) {
    Json j{{"at", {text.at.x, text.at.y}}, {"width", text.width_mm}, {"height", text.height_mm}};
    if (text.angle != 0) j["angle"] = text.angle;
    if (text.pitch_mm != 0) j["pitch"] = text.pitch_mm;
    if (text.fill) j["fill"] = *text.fill;
    for (const Paragraph& p : text.paragraphs) j["paragraphs"].push_back(json_of(p));
    if (const auto& from = text.ink; !from.empty()) j["ink"] = from;
    if (text.transform_since_set != Affine()) j["carried"] = json_of(text.transform_since_set);
    for (const PlacedWord& w : text.words) j["words"].push_back({w.text, json_of(w.box), w.line});
    if (text.group != 0) j["group"] = text.group;
    return text_of(j);
}

Result<TextBlock> ElementTraits<TextBlock>::decode(std::string_view bytes) {
    try {
        const Json j = Json::parse(bytes);
        TextBlock text;
        text.at = {j.at("at").at(0), j.at("at").at(1)};
        text.width_mm = j.at("width");
        text.height_mm = j.at("height");
        text.angle = j.value("angle", 0.0);
        text.pitch_mm = j.value("pitch", 0.0);
        if (j.contains("fill")) text.fill = colour_in(j["fill"]);
        if (j.contains("paragraphs"))
            for (const Json& p : j["paragraphs"]) text.paragraphs.push_back(paragraph_from(p));
        if (const auto from = j.find("ink"); from != j.end()) text.ink = ids_in(*from);
        if (const auto c = j.find("carried"); c != j.end()) text.transform_since_set = affine_from(*c);
        if (j.contains("words"))
            for (const Json& w : j["words"]) text.words.push_back({w.at(0), box_from(w.at(1)), small(w.at(2))});
        if (validation_error(text)) return Error{"A block of text in the library is damaged."};
        text.group = group_in(j);
        return text;
    } catch (const std::exception&) {
        return Error{"A block of text in the library is damaged."};
    }
}

}  // namespace fernleaf
