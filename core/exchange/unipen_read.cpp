#include <algorithm>
#include <charconv>
#include <cmath>
#include <optional>

#include "exchange/unipen.h"

namespace fernleaf {
namespace {

constexpr size_t kLargestBytes = 256'000'000;
constexpr double kFarthestValue = 1e9;
constexpr double kUsualPerSecond = 100;
constexpr size_t kMostSheets = 2000;
constexpr float kUsualPressure = 0.5F;
constexpr uint32_t kLongestMs = 3'600'000;  // of a stroke

// What is between blanks, one after the other.
class Words {
public:
    explicit Words(std::string_view line) : rest_(line) {}
    std::string_view next() {
        const size_t from = std::min(rest_.size(), rest_.find_first_not_of(" \t\r,"));
        const size_t to = std::min(rest_.size(), rest_.find_first_of(" \t\r,", from));
        const std::string_view out = rest_.substr(from, to - from);
        rest_.remove_prefix(to);
        return out;
    }

private:
    std::string_view rest_;
};

std::optional<double> number_in(std::string_view word) {
    double out = 0;
    const auto [end, problem] = std::from_chars(word.data(), word.data() + word.size(), out);
    if (problem != std::errc() || end != word.data() + word.size() || !(std::abs(out) <= kFarthestValue)) return {};
    return out;
}

struct RawPoint {
    double x = 0, y = 0, pressure = 0, time_ms = 0;
};

class UnipenDocument {
public:
    explicit UnipenDocument(std::string_view bytes) : bytes_(bytes) {}

    Result<std::vector<InkSheet>> read() {
        size_t number = 0;
        while (!bytes_.empty()) {
            const size_t end = std::min(bytes_.size(), bytes_.find('\n'));
            ++number;
            if (const char* problem = line(bytes_.substr(0, end)))
                return Error{"The ink can't be read: " + std::string(problem) + " (line " + std::to_string(number) +
                             ")."};
            bytes_.remove_prefix(std::min(bytes_.size(), end + 1));
        }
        end_stroke();
        end_sheet();
        if (sheets_.empty()) return Error{"The ink can't be read: there is no stroke in it."};
        std::vector<InkSheet> out;
        for (auto& raw : sheets_) {
            InkSheet sheet = laid(raw);
            if (!per_mm_) scale_to_hand_size(sheet.strokes);
            if (!lay_on_sheet(sheet, {})) return Error{"The ink can't be read: it reaches farther than any page."};
            out.push_back(std::move(sheet));
        }
        return out;
    }

private:
    enum class Column { skipped, x, y, pressure, time };
    using RawStroke = std::vector<RawPoint>;

    // Null, or what is wrong.
    const char* line(std::string_view text) {
        Words words(text);
        const std::string_view first = words.next();
        if (first.empty()) return nullptr;
        if (first.front() == '.') return keyword(first, words);
        if (!down_) return nullptr;  // text of a keyword, or where the pen went through the air
        return point(text);
    }

    const char* keyword(std::string_view name, Words& words) {
        const auto value = [&] { return number_in(words.next()); };
        if (name == ".PEN_DOWN") {
            end_stroke();
            down_ = true;
        } else if (name == ".PEN_UP") {
            end_stroke();
        } else if (name == ".COORD") {
            end_stroke();
            columns_.clear();
            for (std::string_view word = words.next(); !word.empty(); word = words.next())
                columns_.push_back(word == "X"   ? Column::x
                                   : word == "Y" ? Column::y
                                   : word == "P" ? Column::pressure
                                   : word == "T" ? Column::time
                                                 : Column::skipped);
            if (std::ranges::count(columns_, Column::x) != 1 || std::ranges::count(columns_, Column::y) != 1)
                return "its coordinates have no X or no Y";
        } else if (name == ".X_POINTS_PER_MM" || name == ".X_POINTS_PER_INCH") {
            const auto resolution = value();
            if (!resolution || *resolution <= 0) return "its resolution is no number above zero";
            per_mm_ = name == ".X_POINTS_PER_MM" ? *resolution : *resolution / 25.4;
        } else if (name == ".POINTS_PER_SECOND") {
            const auto rate = value();
            if (!rate || *rate <= 0) return "its points per second are no number above zero";
            per_second_ = *rate;
        } else if (name == ".START_BOX" || name == ".START_SET") {
            end_stroke();
            end_sheet();
            if (sheets_.size() > kMostSheets) return "it has more sheets than can be brought in at once";
        } else {
            // Any other keyword ends what the pen wrote only when it is one of layout; labels may stand within.
            if (name == ".START_PAGE") end_stroke(), end_sheet();
            down_ = down_ && name == ".DT";
        }
        return nullptr;
    }

    const char* point(std::string_view text) {
        Words words(text);
        RawPoint p;
        p.pressure = kNoPressure;
        p.time_ms = stroke_.empty() ? 0 : 1000.0 * static_cast<double>(stroke_.size()) / per_second_;
        for (const Column column : columns_) {
            const std::string_view word = words.next();
            if (column == Column::skipped) continue;
            const auto value = number_in(word);
            if (!value) return "a coordinate is no number";
            switch (column) {
                case Column::x:
                    p.x = *value;
                    break;
                case Column::y:
                    p.y = *value;
                    break;
                case Column::pressure:
                    p.pressure = *value, hardest_ = std::max(hardest_, *value);
                    break;
                case Column::time:
                    p.time_ms = *value;
                    break;
                case Column::skipped:
                    break;
            }
        }
        if (++points_ > kMostInkPoints) return "it has more points than can be brought in at once";
        stroke_.push_back(p);
        return nullptr;
    }

    void end_stroke() {
        if (!stroke_.empty()) sheet_.push_back(std::move(stroke_));
        stroke_ = {};
        down_ = false;
    }
    void end_sheet() {
        if (!sheet_.empty()) sheets_.push_back(std::move(sheet_));
        sheet_ = {};
    }

    // In mm where the resolution is known, from the ink's own top left corner.
    InkSheet laid(const std::vector<RawStroke>& raw) const {
        double left = kFarthestValue, top = -kFarthestValue;
        for (const RawStroke& s : raw)
            for (const RawPoint& p : s) left = std::min(left, p.x), top = std::max(top, p.y);
        const double unit = per_mm_ ? 1 / *per_mm_ : 1;
        InkSheet out;
        for (const RawStroke& s : raw) {
            Stroke stroke;
            std::vector<InkPoint> points;
            uint32_t before = 0;
            for (const RawPoint& p : s) {
                const double since = std::clamp(p.time_ms - s.front().time_ms, 0.0, static_cast<double>(kLongestMs));
                before = std::max(before, static_cast<uint32_t>(since));
                const float pressure = p.pressure >= 0 && hardest_ > 0
                                           ? static_cast<float>(std::clamp(p.pressure / hardest_, 0.0, 1.0))
                                           : kUsualPressure;
                points.push_back({{(p.x - left) * unit, (top - p.y) * unit}, pressure, 0, 0, before});
            }
            stroke.points = std::move(points);
            out.strokes.push_back(std::move(stroke));
        }
        // Room about it, as a sheet has.
        if (per_mm_)
            for (Stroke& s : out.strokes)
                for (InkPoint& p : s.points.change()) p.at = p.at + Point{kRoomMm, kRoomMm};
        return out;
    }

    static constexpr double kNoPressure = -1, kRoomMm = 10;

    std::string_view bytes_;
    std::vector<Column> columns_{Column::x, Column::y};
    std::optional<double> per_mm_;
    double per_second_ = kUsualPerSecond, hardest_ = 0;
    bool down_ = false;
    size_t points_ = 0;
    RawStroke stroke_;
    std::vector<RawStroke> sheet_;
    std::vector<std::vector<RawStroke>> sheets_;
};

}  // namespace

bool looks_like_unipen(std::string_view bytes) {
    const std::string_view head = bytes.substr(0, 20'000);
    const size_t first = head.find_first_not_of(" \t\r\n");
    return first != std::string_view::npos && head[first] == '.' && head.find(".COORD") != std::string_view::npos;
}

Result<std::vector<InkSheet>> read_unipen(std::string_view bytes) {
    if (bytes.size() > kLargestBytes)
        return Error{"The ink can't be read: the file is larger than " + std::to_string(kLargestBytes / 1'000'000) +
                     " MB; split it."};
    return UnipenDocument(bytes).read();
}

}  // namespace fernleaf
