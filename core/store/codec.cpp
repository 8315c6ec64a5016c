#include "store/codec.h"

#include <sodium.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <nlohmann/json.hpp>
#include <stdexcept>

namespace fernleaf {
namespace {

constexpr double kPerMm = 100;
constexpr unsigned char kVersion = 1;
constexpr unsigned char kHasPressure = 1;
constexpr unsigned char kHasTilt = 2;

void put(std::string& out, uint64_t value) {
    for (; value >= 0x80; value >>= 7) out.push_back(static_cast<char>(value | 0x80));
    out.push_back(static_cast<char>(value));
}

void put_signed(std::string& out, int64_t value) {
    put(out, static_cast<uint64_t>(value) << 1 ^ static_cast<uint64_t>(value >> 63));
}

class Cursor {
public:
    explicit Cursor(std::string_view bytes) : bytes_(bytes) {}
    uint64_t number() {
        uint64_t value = 0;
        for (int shift = 0; shift < 64; shift += 7) {
            const auto b = byte();
            value |= static_cast<uint64_t>(b & 0x7F) << shift;
            if (b < 0x80) return value;
        }
        good_ = false;
        return 0;
    }
    int64_t signed_number() {
        const uint64_t v = number();
        return static_cast<int64_t>(v >> 1) ^ -static_cast<int64_t>(v & 1);
    }
    unsigned char byte() {
        if (at_ >= bytes_.size()) {
            good_ = false;
            return 0;
        }
        return static_cast<unsigned char>(bytes_[at_++]);
    }
    bool good() const { return good_; }
    bool at_end() const { return at_ == bytes_.size(); }

private:
    std::string_view bytes_;
    size_t at_ = 0;
    bool good_ = true;
};

int64_t hundredths(double mm) { return std::llround(mm * kPerMm); }
int pressure_step(float p) { return static_cast<int>(std::lround(std::clamp(p, 0.0F, 1.0F) * 255)); }
int tilt_step(float t) { return static_cast<int>(std::lround(std::clamp(t, -90.0F, 90.0F))); }

using Json = nlohmann::json;

constexpr int64_t kFarthest = 10'000'000;  // hundredths of a mm: 100 m

// Numbers from outside: what is no whole number, or beyond its bounds, is damage. Throws, as Json does.
int64_t whole(const Json& j, int64_t least, int64_t most) {
    if (!j.is_number_integer()) throw std::out_of_range("no whole number");
    if (j.is_number_unsigned() && j.get<uint64_t>() > static_cast<uint64_t>(INT64_MAX))
        throw std::out_of_range("number");
    const auto value = j.get<int64_t>();
    if (value < least || value > most) throw std::out_of_range("number out of bounds");
    return value;
}

int small(const Json& j, int least = 0, int most = 1'000'000'000) { return static_cast<int>(whole(j, least, most)); }

int small_or(const Json& j, const char* name, int otherwise) {
    return j.contains(name) ? small(j[name], -1'000'000'000) : otherwise;
}

uint32_t colour_in(const Json& j) { return static_cast<uint32_t>(whole(j, 0, UINT32_MAX)); }

double share(const Json& j) { return std::clamp(j.get<double>(), 0.0, 1.0); }

std::vector<int64_t> ids_of(const Json& j) {
    std::vector<int64_t> out;
    for (const Json& id : j) out.push_back(whole(id, INT64_MIN, INT64_MAX));
    return out;
}

Json json_of(const Box& box) { return {box.left, box.top, box.right, box.bottom}; }

Box box_from(const Json& j) { return {j.at(0), j.at(1), j.at(2), j.at(3)}; }

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

Json json_of(const Sheet& s) {
    return {{"width", s.width_mm},     {"height", s.height_mm}, {"paper", static_cast<int>(s.paper)},
            {"spacing", s.spacing_mm}, {"colour", s.colour},    {"picture", s.picture},
            {"endless", s.endless}};
}

Sheet sheet_from(const Json& j) {
    Sheet s;
    s.width_mm = j.at("width"), s.height_mm = j.at("height");
    s.paper = static_cast<Paper>(small(j.at("paper"), 0, 6));
    s.spacing_mm = j.at("spacing");
    s.colour = colour_in(j.at("colour"));
    s.picture = j.at("picture");
    s.endless = j.at("endless");
    return s;
}

std::string text_of(const Json& j) { return j.dump(-1, ' ', false, Json::error_handler_t::replace); }

}  // namespace

std::string encode_points(const std::vector<InkPoint>& points) {
    const int middle = pressure_step(0.5F);
    const bool pressure =
        std::ranges::any_of(points, [&](const InkPoint& p) { return pressure_step(p.pressure) != middle; });
    const bool tilt = std::ranges::any_of(points, [](const InkPoint& p) { return p.tilt_x != 0 || p.tilt_y != 0; });
    std::string out;
    out.push_back(static_cast<char>(kVersion));
    out.push_back(static_cast<char>((pressure ? kHasPressure : 0) | (tilt ? kHasTilt : 0)));
    put(out, points.size());
    int64_t x = 0, y = 0, time = 0;
    for (const InkPoint& p : points) {
        put_signed(out, hundredths(p.at.x) - x);
        put_signed(out, hundredths(p.at.y) - y);
        put_signed(out, p.time_ms - time);
        x = hundredths(p.at.x), y = hundredths(p.at.y), time = p.time_ms;
        if (pressure) out.push_back(static_cast<char>(pressure_step(p.pressure)));
        if (tilt) put_signed(out, tilt_step(p.tilt_x)), put_signed(out, tilt_step(p.tilt_y));
    }
    return out;
}

Result<std::vector<InkPoint>> decode_points(std::string_view bytes) {
    const Error damaged{"A stroke in the library is damaged."};
    Cursor in(bytes);
    if (in.byte() != kVersion) return damaged;
    const unsigned char flags = in.byte();
    const uint64_t count = in.number();
    if (count > bytes.size()) return damaged;  // a point takes three bytes at least
    std::vector<InkPoint> points(count);
    int64_t x = 0, y = 0, time = 0;
    for (InkPoint& p : points) {
        // Differences are bounded before they are added, so that no sum runs over.
        for (int64_t* sum : {&x, &y, &time}) {
            const int64_t step = in.signed_number(), most = sum == &time ? UINT32_MAX : 2 * kFarthest;
            if (step < -most || step > most) return damaged;
            *sum += step;
        }
        if (std::abs(x) > kFarthest || std::abs(y) > kFarthest || time < 0 || time > UINT32_MAX) return damaged;
        p.at = {static_cast<double>(x) / kPerMm, static_cast<double>(y) / kPerMm};
        p.time_ms = static_cast<uint32_t>(time);
        p.pressure = static_cast<float>((flags & kHasPressure) != 0 ? in.byte() : pressure_step(0.5F)) / 255.0F;
        if ((flags & kHasTilt) != 0) {
            p.tilt_x = static_cast<float>(in.signed_number());
            p.tilt_y = static_cast<float>(in.signed_number());
        }
    }
    if (!in.good() || !in.at_end()) return damaged;
    return points;
}

Stroke quantised(Stroke stroke) {
    for (InkPoint& p : stroke.points.change()) {
        p.at = {static_cast<double>(hundredths(p.at.x)) / kPerMm, static_cast<double>(hundredths(p.at.y)) / kPerMm};
        p.pressure = static_cast<float>(pressure_step(p.pressure)) / 255.0F;
        p.tilt_x = static_cast<float>(tilt_step(p.tilt_x));
        p.tilt_y = static_cast<float>(tilt_step(p.tilt_y));
    }
    return stroke;
}

std::string encode_words(const std::vector<ReadWord>& words) {
    auto list = Json::array();
    for (const ReadWord& word : words) {
        Json j{{"text", word.text}, {"certainty", word.certainty}, {"box", json_of(word.box)}};
        if (!word.strokes.empty()) j["strokes"] = word.strokes;
        for (const Alternative& a : word.alternatives) j["alternatives"].push_back({a.text, a.certainty});
        if (word.corrected) j["corrected"] = true;
        if (word.block != 0) j["block"] = {word.block, word.block_word};
        if (word.italic) j["italic"] = true;
        if (word.bold) j["bold"] = true;
        list.push_back(std::move(j));
    }
    return text_of(list);
}

Result<std::vector<ReadWord>> decode_words(const std::string& json) {
    try {
        std::vector<ReadWord> words;
        for (const auto& j : Json::parse(json)) {
            ReadWord word;
            word.text = j.at("text");
            word.certainty = share(j.at("certainty"));
            word.box = box_from(j.at("box"));
            if (j.contains("strokes")) word.strokes = ids_of(j["strokes"]);
            if (j.contains("alternatives"))
                for (const auto& a : j["alternatives"]) word.alternatives.push_back({a.at(0), share(a.at(1))});
            word.corrected = j.value("corrected", false);
            if (j.contains("block"))
                word.block = whole(j["block"].at(0), 0, INT64_MAX), word.block_word = small(j["block"].at(1));
            word.italic = j.value("italic", false);
            word.bold = j.value("bold", false);
            words.push_back(std::move(word));
        }
        return words;
    } catch (const std::exception&) {
        return Error{"A reading in the library is damaged."};
    }
}

std::string encode_text(const TextBlock& text) {
    Json j{{"at", {text.at.x, text.at.y}}, {"width", text.width_mm}, {"height", text.height_mm}};
    if (text.order != 0) j["order"] = text.order;
    if (text.angle != 0) j["angle"] = text.angle;
    if (text.pitch_mm != 0) j["pitch"] = text.pitch_mm;
    if (text.fill) j["fill"] = *text.fill;
    for (const Paragraph& p : text.paragraphs) j["paragraphs"].push_back(json_of(p));
    if (const auto& from = text.ink; !from.empty()) j["ink"] = from;
    if (const Affine& c = text.carried; c != Affine()) j["carried"] = {c.xx, c.xy, c.dx, c.yx, c.yy, c.dy};
    for (const PlacedWord& w : text.words) j["words"].push_back({w.text, json_of(w.box), w.line});
    return text_of(j);
}

Result<TextBlock> decode_text(const std::string& json) {
    try {
        const Json j = Json::parse(json);
        TextBlock text;
        text.at = {j.at("at").at(0), j.at("at").at(1)};
        text.width_mm = j.at("width");
        text.height_mm = j.at("height");
        if (j.contains("order")) text.order = whole(j["order"], INT64_MIN, INT64_MAX);
        text.angle = j.value("angle", 0.0);
        text.pitch_mm = j.value("pitch", 0.0);
        if (j.contains("fill")) text.fill = colour_in(j["fill"]);
        if (j.contains("paragraphs"))
            for (const Json& p : j["paragraphs"]) text.paragraphs.push_back(paragraph_from(p));
        if (const auto from = j.find("ink"); from != j.end()) text.ink = ids_of(*from);
        if (const auto c = j.find("carried"); c != j.end())
            text.carried = {c->at(0), c->at(1), c->at(2), c->at(3), c->at(4), c->at(5)};
        if (j.contains("words"))
            for (const Json& w : j["words"]) text.words.push_back({w.at(0), box_from(w.at(1)), small(w.at(2))});
        return text;
    } catch (const std::exception&) {
        return Error{"A block of text in the library is damaged."};
    }
}

std::string encode_treatment(const Treatment& treatment) {
    if (treatment.untouched()) return {};
    Json j{{"turns", treatment.quarter_turns},
           {"angle", treatment.turn_deg},
           {"aspect", treatment.aspect},
           {"look", static_cast<int>(treatment.look)},
           {"without_rules", treatment.without_rules}};
    if (treatment.outline) {
        for (const Point& p : treatment.outline->corners) j["corners"].push_back({p.x, p.y});
        if (!treatment.outline->straight())
            for (const Bow& bow : treatment.outline->bows) j["bows"].push_back({bow.even, bow.odd});
    }
    if (treatment.dpi != 0) j["dpi"] = treatment.dpi;
    for (const Box& b : treatment.lifted) j["lifted"].push_back(json_of(b));
    return text_of(j);
}

Result<Treatment> decode_treatment(const std::string& json) {
    Treatment out;
    if (json.empty()) return out;
    const Error damaged{"What is done to a picture in the library is damaged."};
    try {
        const Json j = Json::parse(json);
        out.quarter_turns = small(j.at("turns"), 0, 3);
        out.turn_deg = j.at("angle");
        out.aspect = j.at("aspect");
        out.look = static_cast<Look>(small(j.at("look"), 0, static_cast<int>(Look::black_white)));
        out.without_rules = j.at("without_rules");
        if (!(std::abs(out.turn_deg) <= 45) || !(out.aspect == 0 || (out.aspect >= 0.05 && out.aspect <= 20)))
            return damaged;
        if (j.contains("corners")) {
            out.outline.emplace();
            for (size_t i = 0; i < 4; ++i) {
                out.outline->corners[i] = {j["corners"].at(i).at(0), j["corners"].at(i).at(1)};
                if (j.contains("bows")) out.outline->bows[i] = {j["bows"].at(i).at(0), j["bows"].at(i).at(1)};
            }
            if (!sound(*out.outline)) return damaged;
        }
        out.dpi = small_or(j, "dpi", 0);
        if (out.dpi < 0 || out.dpi > 10000) return damaged;
        if (j.contains("lifted"))
            for (const Json& b : j["lifted"]) {
                out.lifted.push_back(box_from(b));
                if (out.lifted.back().empty()) return damaged;
            }
        return out;
    } catch (const std::exception&) {
        return damaged;
    }
}

std::string encode_elements(const Elements& elements) {
    Json j{{"texts", Json::array()}, {"pictures", Json::array()}};
    for (const TextBlock& t : elements.texts) j["texts"].push_back(encode_text(t));
    for (const Picture& p : elements.pictures)
        j["pictures"].push_back({{"file", p.file},
                                 {"name", p.name},
                                 {"frame", p.frame},
                                 {"box", json_of(p.box)},
                                 {"angle", p.angle},
                                 {"crop", json_of(p.crop)},
                                 {"treatment", encode_treatment(p.treatment)}});
    return text_of(j);
}

Result<Elements> decode_elements(const std::string& json) {
    const Error damaged{"What was copied is damaged."};
    try {
        Elements out;
        const Json j = Json::parse(json);
        for (const Json& t : j.at("texts")) {
            auto text = decode_text(t.get<std::string>());
            if (!text) return damaged;
            out.texts.push_back(*std::move(text));
        }
        for (const Json& p : j.at("pictures")) {
            auto treatment = decode_treatment(p.value("treatment", std::string()));
            if (!treatment) return damaged;
            out.pictures.push_back({0, p.at("file"), p.at("name"), small(p.at("frame")), box_from(p.at("box")),
                                    p.at("angle"), box_from(p.at("crop")), false, 0, *treatment});
        }
        return out;
    } catch (const std::exception&) {
        return damaged;
    }
}

std::string encode_sheet_change(const SheetChange& change) {
    return text_of({{"before", json_of(change.before)}, {"after", json_of(change.after)}});
}

Result<SheetChange> decode_sheet_change(const std::string& json) {
    try {
        const Json j = Json::parse(json);
        return SheetChange{sheet_from(j.at("before")), sheet_from(j.at("after"))};
    } catch (const std::exception&) {
        return Error{"A change of paper in the library is damaged."};
    }
}

std::string sha256(std::string_view bytes) {
    std::array<unsigned char, crypto_hash_sha256_BYTES> digest{};
    crypto_hash_sha256(digest.data(), reinterpret_cast<const unsigned char*>(bytes.data()), bytes.size());
    std::string out;
    for (const unsigned char b : digest) {
        constexpr char kHex[] = "0123456789abcdef";
        out.push_back(kHex[b >> 4]);
        out.push_back(kHex[b & 15]);
    }
    return out;
}

}  // namespace fernleaf
