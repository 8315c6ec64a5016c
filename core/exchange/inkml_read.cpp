#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <cstring>
#include <map>
#include <optional>
#include <pugixml.hpp>
#include <sstream>

#include "base/text.h"
#include "exchange/inkml.h"

namespace fernleaf {
namespace {

constexpr int kDeepest = 64;
constexpr double kFarthestMm = 50'000;

enum class Meaning { skipped, x, y, force, time, tilt_x, tilt_y };

struct Channel {
    Meaning meaning = Meaning::skipped;
    std::string name;
    bool boolean = false;
    bool optional = false;        // intermittent: may be missing at a point's end
    std::optional<double> scale;  // to mm, ms or degrees; none: device units
    double least = 0;
    std::optional<double> most;
};

struct Format {
    std::vector<Channel> channels;
};

struct Canvas {
    std::string key;
    double width_mm = 0;
    double height_mm = 0;
    std::optional<PageAddress> address = {};
};

struct Context {
    Format format;
    Pen pen;
    Canvas canvas;
    int64_t start_ms = 0;
};

Format default_format() {
    Channel x, y;
    x.meaning = Meaning::x, x.name = "X";
    y.meaning = Meaning::y, y.name = "Y";
    return {{x, y}};
}

std::string local_name(pugi::xml_node node) {
    const std::string name = node.name();
    const size_t colon = name.find(':');
    return colon == std::string::npos ? name : name.substr(colon + 1);
}

std::optional<double> number(std::string_view text) {
    double value = 0;
    if (text.starts_with('+')) text.remove_prefix(1);
    const auto [end, problem] = std::from_chars(text.data(), text.data() + text.size(), value);
    if (problem != std::errc() || end != text.data() + text.size() || !std::isfinite(value)) return std::nullopt;
    return value;
}

const std::map<std::string_view, double> kLengths = {{"m", 1000},      {"cm", 10},       {"mm", 1},
                                                     {"um", 1e-3},     {"in", 25.4},     {"pt", 25.4 / 72},
                                                     {"pc", 25.4 / 6}, {"px", 25.4 / 96}};
const std::map<std::string_view, double> kTimes = {{"s", 1000}, {"ms", 1}, {"us", 1e-3}, {"ns", 1e-6}};
const std::map<std::string_view, double> kAngles = {{"deg", 1}, {"rad", 57.29577951308232}};

// Raised while the document is walked and caught in read_inkml: a refusal may come up many levels deep.
struct Refusal {
    std::string reason;
};
[[noreturn]] void refuse(std::string reason) { throw Refusal{std::move(reason)}; }

// Reads the points of one trace: values with their qualifiers, channel by channel.
class TraceText {
public:
    TraceText(std::string_view text, const Format& format)
        : text_(text), format_(format), state_(format.channels.size()) {}

    // Values of the next point in the format's order (NaN: not reported); false at the end.
    bool next(std::vector<double>& values) {
        skip_space();
        if (at_ >= text_.size()) return false;
        values.assign(format_.channels.size(), std::nan(""));
        size_t channel = 0;
        for (;; ++channel) {
            skip_space();
            if (at_ >= text_.size() || text_[at_] == ',') break;
            if (channel == format_.channels.size())
                refuse("a point has more values than the trace format has channels");
            values[channel] = value(channel);
        }
        if (at_ < text_.size()) ++at_;
        for (; channel < format_.channels.size(); ++channel)
            if (!format_.channels[channel].optional)
                refuse("a point has fewer values than the trace format has channels");
        return true;
    }

private:
    struct ChannelState {
        int order = 0;
        double last = 0;
        double speed = 0;
        bool started = false;
    };

    void skip_space() {
        while (at_ < text_.size() && std::strchr(" \t\r\n", text_[at_])) ++at_;
    }

    double value(size_t channel) {
        ChannelState& s = state_[channel];
        const char first = text_[at_];
        if (first == '!' || first == '\'' || first == '"') {
            s.order = first == '!' ? 0 : first == '\'' ? 1 : 2;
            ++at_;
            skip_space();
            if (at_ >= text_.size()) refuse("a trace ends after a qualifier");
        }
        if (text_[at_] == '*') {
            ++at_;
            if (!s.started) refuse("a trace repeats a value before there is one");
            if (s.order > 0) s.last += s.speed;
            return s.last;
        }
        if (text_[at_] == '?') {
            ++at_;
            return std::nan("");
        }
        if (format_.channels[channel].boolean && (text_[at_] == 'T' || text_[at_] == 'F'))
            return text_[at_++] == 'T' ? 1 : 0;
        const double given = literal();
        if (s.order == 0) {
            s.speed = s.started ? given - s.last : 0;
            s.last = given;
        } else if (!s.started) {
            refuse("a trace begins with a difference");
        } else {
            s.speed = s.order == 1 ? given : s.speed + given;
            s.last += s.speed;
        }
        s.started = true;
        return s.last;
    }

    double literal() {
        if (text_[at_] == '#') {
            uint64_t hex = 0;
            const char* begin = text_.data() + at_ + 1;
            const auto [end, problem] = std::from_chars(begin, text_.data() + text_.size(), hex, 16);
            if (problem != std::errc()) refuse("a trace holds something that is no number");
            at_ = static_cast<size_t>(end - text_.data());
            return static_cast<double>(hex);
        }
        if (text_[at_] == '+') ++at_;
        double value = 0;
        const char* begin = text_.data() + at_;
        const auto [end, problem] = std::from_chars(begin, text_.data() + text_.size(), value);
        if (problem != std::errc() || !std::isfinite(value) ||
            (end < text_.data() + text_.size() && !std::strchr(" \t\r\n,'\"!*?+-#", *end)))
            refuse("a trace holds something that is no number");
        at_ = static_cast<size_t>(end - text_.data());
        return value;
    }

    std::string_view text_;
    const Format& format_;
    std::vector<ChannelState> state_;
    size_t at_ = 0;
};

class Document {
public:
    explicit Document(pugi::xml_node ink) : ink_(ink) { collect_ids(ink, 0); }

    std::vector<InkSheet> read() {
        Context context;
        context.format = default_format();
        walk(ink_, context, 0);
        if (sheets_.empty()) refuse("it holds no ink");
        std::vector<InkSheet> out;
        for (Written& sheet : sheets_) out.push_back(placed(std::move(sheet)));
        return out;
    }

private:
    struct Written {
        Canvas canvas;
        InkSheet sheet;
        bool device_units = false;
    };

    void collect_ids(pugi::xml_node node, int depth) {
        if (depth > kDeepest) refuse("its elements are nested too deeply");
        for (const pugi::xml_node child : node.children()) {
            for (const char* name : {"xml:id", "id"})
                if (const pugi::xml_attribute id = child.attribute(name)) ids_.emplace(id.value(), child);
            collect_ids(child, depth + 1);
        }
    }

    pugi::xml_node referred(pugi::xml_attribute reference) {
        const std::string_view target = reference.value();
        if (!target.starts_with('#')) refuse("it refers to another file");
        const auto found = ids_.find(std::string(target.substr(1)));
        if (found == ids_.end()) refuse("it refers to \"" + std::string(target) + "\", which is not there");
        return found->second;
    }

    static pugi::xml_node child(pugi::xml_node node, std::string_view name) {
        for (const pugi::xml_node c : node.children())
            if (local_name(c) == name) return c;
        return {};
    }

    static Channel channel_of(pugi::xml_node node, bool optional) {
        Channel channel;
        channel.name = node.attribute("name").value();
        channel.optional = optional;
        const std::string_view type = node.attribute("type").as_string("decimal");
        channel.boolean = type == "boolean";
        const std::map<std::string_view, Meaning> meanings = {{"X", Meaning::x},        {"Y", Meaning::y},
                                                              {"F", Meaning::force},    {"T", Meaning::time},
                                                              {"OTx", Meaning::tilt_x}, {"OTy", Meaning::tilt_y}};
        if (const auto found = meanings.find(channel.name); found != meanings.end()) channel.meaning = found->second;
        if (channel.boolean) channel.meaning = Meaning::skipped;
        if (std::string_view(node.attribute("orientation").value()) == "-ve")
            refuse("channel " + channel.name + " runs backwards");
        const std::string_view unit = node.attribute("units").value();
        const auto* units = channel.meaning == Meaning::x || channel.meaning == Meaning::y             ? &kLengths
                            : channel.meaning == Meaning::time                                         ? &kTimes
                            : channel.meaning == Meaning::tilt_x || channel.meaning == Meaning::tilt_y ? &kAngles
                                                                                                       : nullptr;
        if (units && !unit.empty() && unit != "dev") {
            const auto found = units->find(unit);
            if (found == units->end())
                refuse("channel " + channel.name + " has the unit \"" + std::string(unit) +
                       "\", which Fernleaf does not know");
            channel.scale = found->second;
        }
        channel.least = number(node.attribute("min").value()).value_or(0);
        channel.most = number(node.attribute("max").value());
        return channel;
    }

    static Format format_of(pugi::xml_node node) {
        Format format;
        for (const pugi::xml_node c : node.children()) {
            if (local_name(c) == "channel") format.channels.push_back(channel_of(c, false));
            if (local_name(c) == "intermittentChannels")
                for (const pugi::xml_node i : c.children())
                    if (local_name(i) == "channel") format.channels.push_back(channel_of(i, true));
        }
        if (format.channels.empty()) return default_format();
        for (const Meaning needed : {Meaning::x, Meaning::y})
            if (std::ranges::count(format.channels, needed, &Channel::meaning) != 1)
                refuse("a trace format does not have exactly one X and one Y channel");
        return format;
    }

    // Device units become lengths where the source tells how many there are to one.
    static void apply_source(Format& format, pugi::xml_node source) {
        const pugi::xml_node properties = child(source, "channelProperties");
        for (const pugi::xml_node p : properties.children()) {
            if (std::string_view(p.attribute("name").value()) != "resolution") continue;
            const std::string_view per = p.attribute("units").value();
            const auto value = number(p.attribute("value").value());
            const auto unit = kLengths.find(per.starts_with("1/") ? per.substr(2) : std::string_view());
            if (!value || *value <= 0 || unit == kLengths.end()) continue;
            for (Channel& c : format.channels)
                if (c.name == p.attribute("channel").value() && !c.scale) c.scale = unit->second / *value;
        }
    }

    static Pen pen_of(pugi::xml_node brush, Pen pen) {
        for (const pugi::xml_node p : brush.children()) {
            const std::string_view name = p.attribute("name").value();
            const std::string_view value = p.attribute("value").value();
            if (name == "color" && value.size() == 7 && value[0] == '#') {
                uint32_t colour = 0;
                const auto [end, problem] = std::from_chars(value.data() + 1, value.data() + 7, colour, 16);
                if (problem == std::errc() && end == value.data() + 7) pen.colour = colour;
            }
            if (name == "width") {
                const auto unit = kLengths.find(std::string_view(p.attribute("units").value()));
                const auto width = number(value);
                if (width && unit != kLengths.end())
                    pen.width_mm = static_cast<float>(std::clamp(*width * unit->second, 0.05, 10.0));
            }
            if (name == "transparency")
                if (const auto clear = number(value))
                    pen.opacity = static_cast<float>(1 - std::clamp(*clear, 0.0, 255.0) / 255);
            if (name == "tip") pen.tip = value == "rectangle" ? Tip::chisel : Tip::round;
            if (name == "ignorePressure") pen.by_pressure = value != "true" && value != "1";
            if (name == "rasterOp" && value == "maskPen") pen.kind = PenKind::highlighter;
        }
        for (const pugi::xml_node note : brush.children()) {
            if (local_name(note) != "annotation" || std::string_view(note.attribute("type").value()) != "pen") continue;
            const std::string_view kind = note.child_value();
            if (kind == "fountain") pen.kind = PenKind::fountain;
            if (kind == "pencil") pen.kind = PenKind::pencil;
        }
        return pen;
    }

    static std::optional<PageAddress> address_of(pugi::xml_node canvas) {
        for (const pugi::xml_node note : canvas.children()) {
            if (local_name(note) != "annotation" || std::string_view(note.attribute("type").value()) != "page address")
                continue;
            std::istringstream words(note.child_value());
            std::array<int, 3> numbers{};  // a stream would take -1 for 65535
            if (words >> numbers[0] >> numbers[1] >> numbers[2] &&
                std::ranges::all_of(numbers, [](int n) { return n >= 0 && n <= UINT16_MAX; }))
                return PageAddress{static_cast<uint16_t>(numbers[0]), static_cast<uint16_t>(numbers[1]),
                                   static_cast<uint16_t>(numbers[2])};
        }
        return std::nullopt;
    }

    static Canvas canvas_of(pugi::xml_node node, const std::string& key) {
        Canvas canvas{key, 0, 0, address_of(node)};
        const pugi::xml_node format = child(node, "traceFormat");
        if (!format) return canvas;
        for (const pugi::xml_node c : format.children()) {
            const auto unit = kLengths.find(std::string_view(c.attribute("units").value()));
            const auto most = number(c.attribute("max").value());
            if (unit == kLengths.end() || !most || *most <= 0 || *most * unit->second > kFarthestMm) continue;
            const std::string_view name = c.attribute("name").value();
            if (name == "X") canvas.width_mm = *most * unit->second;
            if (name == "Y") canvas.height_mm = *most * unit->second;
        }
        return canvas;
    }

    static void check_transform(pugi::xml_node node) {
        for (const pugi::xml_node c : node.children())
            if (local_name(c) == "mapping" && std::string_view(c.attribute("type").as_string("unknown")) != "identity")
                refuse("it transforms coordinates by a mapping, which Fernleaf does not do");
    }

    Context refined(Context context, pugi::xml_node node, int depth = 0) {
        if (depth > kDeepest) refuse("its contexts refer to one another in a circle");
        const auto part = [&](const char* reference, std::string_view name) {
            if (const pugi::xml_attribute a = node.attribute(reference)) return referred(a);
            return child(node, name);
        };
        if (const pugi::xml_attribute other = node.attribute("contextRef"))
            context = refined(context, referred(other), depth + 1);
        const pugi::xml_node source = part("inkSourceRef", "inkSource");
        if (const pugi::xml_node own = child(source, "traceFormat")) context.format = format_of(own);
        if (const pugi::xml_node format = part("traceFormatRef", "traceFormat")) context.format = format_of(format);
        if (source) apply_source(context.format, source);
        if (const pugi::xml_node brush = part("brushRef", "brush")) context.pen = pen_of(brush, context.pen);
        if (const pugi::xml_node canvas = part("canvasRef", "canvas"))
            context.canvas = canvas_of(canvas, canvas.attribute("xml:id").value());
        if (const pugi::xml_node transform = part("canvasTransformRef", "canvasTransform")) check_transform(transform);
        if (const pugi::xml_node stamp = part("timestampRef", "timestamp"))
            context.start_ms =
                static_cast<int64_t>(std::clamp(number(stamp.attribute("time").value()).value_or(0), 0.0, 4e15));
        return context;
    }

    void walk(pugi::xml_node group, Context context, int depth) {
        if (depth > kDeepest) refuse("its trace groups are nested too deeply");
        for (const pugi::xml_node node : group.children()) {
            const std::string name = local_name(node);
            if (name == "context") context = refined(context, node);
            if (name == "traceFormat") context.format = format_of(node);  // not foreseen there, but common
            if (name == "traceGroup") walk(node, refined(context, node), depth + 1);
            if (name == "trace") trace(node, refined(context, node));
        }
    }

    void trace(pugi::xml_node node, const Context& context) {
        const std::string_view type = node.attribute("type").as_string("penDown");
        if (!node.attribute("continuation").empty() || !node.attribute("priorRef").empty())
            refuse("it continues a trace in another element, which Fernleaf does not read");
        if (type != "penDown") return;  // the pen above the paper leaves no ink
        Stroke stroke;
        stroke.pen = context.pen;
        const auto& channels = context.format.channels;
        std::string written;  // comments may stand between the points
        for (const pugi::xml_node part : node.children())
            if (part.type() == pugi::node_pcdata || part.type() == pugi::node_cdata) written += part.value();
        TraceText text(written, context.format);
        std::vector<double> values;
        std::optional<double> first_time;
        double strongest = 0;
        bool device = false;
        while (text.next(values)) {
            if (++points_ > kMostInkPoints)
                refuse("it has more than " + std::to_string(kMostInkPoints / 1'000'000) + " million points; split it");
            InkPoint p;
            for (size_t i = 0; i < channels.size(); ++i) {
                const Channel& c = channels[i];
                const double v = values[i];
                if (std::isnan(v)) {
                    if (c.meaning == Meaning::x || c.meaning == Meaning::y) refuse("a point has no place");
                    continue;
                }
                switch (c.meaning) {
                    case Meaning::x:
                        p.at.x = v * c.scale.value_or(1), device |= !c.scale;
                        break;
                    case Meaning::y:
                        p.at.y = v * c.scale.value_or(1), device |= !c.scale;
                        break;
                    case Meaning::force:
                        p.pressure = static_cast<float>(c.most && *c.most > c.least
                                                            ? std::clamp((v - c.least) / (*c.most - c.least), 0.0, 1.0)
                                                            : std::clamp(v, 0.0, 1e9));
                        strongest = std::max<double>(strongest, p.pressure);
                        break;
                    case Meaning::time: {
                        const double ms = v * c.scale.value_or(1);
                        if (!first_time) first_time = ms;
                        p.time_ms = static_cast<uint32_t>(std::clamp(ms - *first_time, 0.0, 4e9));
                        break;
                    }
                    case Meaning::tilt_x:
                        p.tilt_x = static_cast<float>(std::clamp(v * c.scale.value_or(1), -90.0, 90.0));
                        break;
                    case Meaning::tilt_y:
                        p.tilt_y = static_cast<float>(std::clamp(v * c.scale.value_or(1), -90.0, 90.0));
                        break;
                    case Meaning::skipped:
                        break;
                }
            }
            if (std::abs(p.at.x) > 1e9 || std::abs(p.at.y) > 1e9)
                refuse("a point lies farther away than any page reaches");
            stroke.points.push_back(p);
        }
        if (stroke.points.empty()) return;
        if (strongest > 1)  // a range of force that the file does not tell
            for (InkPoint& p : stroke.points.change()) p.pressure = static_cast<float>(p.pressure / strongest);
        if (context.start_ms > 0)
            stroke.start_ms =
                context.start_ms + static_cast<int64_t>(number(node.attribute("timeOffset").value()).value_or(0));
        auto sheet = std::ranges::find(sheets_, context.canvas.key, [](const Written& w) { return w.canvas.key; });
        if (sheet == sheets_.end()) sheet = sheets_.insert(sheets_.end(), {context.canvas, {}, false});
        sheet->device_units |= device;
        sheet->sheet.strokes.push_back(std::move(stroke));
    }

    static InkSheet placed(Written written) {
        InkSheet sheet = std::move(written.sheet);
        if (written.device_units) scale_to_hand_size(sheet.strokes);
        if (!lay_on_sheet(sheet, Box::of(0, 0, written.canvas.width_mm, written.canvas.height_mm)))
            refuse("its ink reaches farther than any page");
        sheet.address = written.canvas.address;
        return sheet;
    }

    pugi::xml_node ink_;
    std::map<std::string, pugi::xml_node> ids_;
    std::vector<Written> sheets_;
    size_t points_ = 0;
};

}  // namespace

bool looks_like_inkml(std::string_view bytes) {
    const std::string_view head = bytes.substr(0, 4000);
    return head.find("<ink") != std::string_view::npos || head.find(":ink") != std::string_view::npos ||
           head.find("InkML") != std::string_view::npos;
}

Result<std::vector<InkSheet>> read_inkml(std::string_view bytes) {
    const auto no = [](const std::string& reason) { return Error{"The ink can't be read: " + reason + "."}; };
    if (trimmed(bytes.substr(0, 1000)).empty()) return no("the file is empty");
    if (bytes.size() > kLargestInkmlBytes)
        return no("the file is larger than " + std::to_string(kLargestInkmlBytes / 1'000'000) + " MB; split it");
    if (bytes.find("<!ENTITY") != std::string_view::npos)
        return no("it declares entities, which can be used to exhaust a reader");
    pugi::xml_document xml;
    const pugi::xml_parse_result parsed =
        xml.load_buffer(bytes.data(), bytes.size(), pugi::parse_default | pugi::parse_trim_pcdata);
    if (!parsed) return no("it is not well-formed XML (" + std::string(parsed.description()) + ")");
    const pugi::xml_node root = xml.document_element();
    if (local_name(root) != "ink") return no("it is not InkML: its outermost element is \"" + local_name(root) + "\"");
    try {
        return Document(root).read();
    } catch (const Refusal& refusal) {
        return no(refusal.reason);
    }
}

}  // namespace fernleaf
