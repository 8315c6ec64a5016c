#include "scan/sane_scanner.h"

#include <sane/sane.h>
#include <sane/saneopts.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdlib>
#include <cstring>
#include <optional>

#include "paper/picture_file.h"

namespace fernleaf::sane {

class Device {
public:
    explicit Device(SANE_Handle handle) : handle_(handle) {}
    ~Device() {
        sane_cancel(handle_);
        sane_close(handle_);
    }
    Device(const Device&) = delete;
    Device& operator=(const Device&) = delete;

    SANE_Handle handle() const { return handle_; }

    // Sets an option as near as the device allows. False when it has none of this name, or not now.
    bool set(const std::string& name, const std::string& value) const {
        const auto option = find(name);
        if (!option) return false;
        const SANE_Option_Descriptor& d = *sane_get_option_descriptor(handle_, *option);
        std::vector<char> bytes(static_cast<size_t>(d.size), 0);
        if (d.type == SANE_TYPE_STRING) {
            if (value.size() + 1 > bytes.size()) return false;
            std::ranges::copy(value, bytes.begin());
        } else {
            SANE_Word word = 0;
            if (d.type == SANE_TYPE_BOOL) {
                word = value == "yes" || value == "1" ? SANE_TRUE : SANE_FALSE;
            } else {
                double number = 0;
                try {
                    number = std::stod(value);
                } catch (const std::exception&) {
                    return false;
                }
                word = word_of(d, nearest(d, number));
            }
            if (bytes.size() < sizeof word) return false;
            std::memcpy(bytes.data(), &word, sizeof word);
        }
        return sane_control_option(handle_, *option, SANE_ACTION_SET_VALUE, bytes.data(), nullptr) == SANE_STATUS_GOOD;
    }

    // Sets it to the first of its values that has one of these words in it.
    bool choose(const std::string& name, const std::vector<std::string>& words) const {
        const auto option = find(name);
        if (!option) return false;
        const SANE_Option_Descriptor& d = *sane_get_option_descriptor(handle_, *option);
        if (d.type != SANE_TYPE_STRING || d.constraint_type != SANE_CONSTRAINT_STRING_LIST) return false;
        for (const std::string& word : words)
            for (const SANE_String_Const* value = d.constraint.string_list; *value; ++value)
                if (std::string(*value).find(word) != std::string::npos) return set(name, *value);
        return false;
    }

    // What a numeric option stands at; 0 when there is none of this name.
    double number(const std::string& name) const {
        const auto option = find(name);
        if (!option) return 0;
        const SANE_Option_Descriptor& d = *sane_get_option_descriptor(handle_, *option);
        SANE_Word word = 0;
        if ((d.type != SANE_TYPE_INT && d.type != SANE_TYPE_FIXED) || d.size != sizeof word ||
            sane_control_option(handle_, *option, SANE_ACTION_GET_VALUE, &word, nullptr) != SANE_STATUS_GOOD)
            return 0;
        return number_of(d, word);
    }

    // All of its glass.
    void take_all() const {
        for (const char* name : {SANE_NAME_SCAN_TL_X, SANE_NAME_SCAN_TL_Y}) set(name, "-1000000");
        for (const char* name : {SANE_NAME_SCAN_BR_X, SANE_NAME_SCAN_BR_Y}) set(name, "1000000");
    }

private:
    std::optional<SANE_Int> find(const std::string& name) const {
        for (SANE_Int i = 1; const SANE_Option_Descriptor* d = sane_get_option_descriptor(handle_, i); ++i)
            if (d->name && name == d->name && SANE_OPTION_IS_ACTIVE(d->cap) && SANE_OPTION_IS_SETTABLE(d->cap))
                return i;
        return std::nullopt;
    }
    static double number_of(const SANE_Option_Descriptor& d, SANE_Word word) {
        return d.type == SANE_TYPE_FIXED ? SANE_UNFIX(word) : word;
    }
    static SANE_Word word_of(const SANE_Option_Descriptor& d, double number) {
        return d.type == SANE_TYPE_FIXED ? SANE_FIX(number) : static_cast<SANE_Word>(std::lround(number));
    }
    static double nearest(const SANE_Option_Descriptor& d, double number) {
        if (d.constraint_type == SANE_CONSTRAINT_RANGE)
            return std::clamp(number, number_of(d, d.constraint.range->min), number_of(d, d.constraint.range->max));
        if (d.constraint_type != SANE_CONSTRAINT_WORD_LIST) return number;
        double best = number_of(d, d.constraint.word_list[1]);
        for (SANE_Word i = 1; i <= d.constraint.word_list[0]; ++i)
            if (const double one = number_of(d, d.constraint.word_list[i]);
                std::abs(one - number) < std::abs(best - number))
                best = one;
        return best;
    }

    SANE_Handle handle_;
};

namespace {

constexpr size_t kMostSheetsInFeeder = 500;
constexpr int kChunkBytes = 1 << 16;

const Error kNoSane{"The scanner service can't be started. Check that the SANE backends are installed."};

Error error_of(SANE_Status status) {
    switch (status) {
        case SANE_STATUS_DEVICE_BUSY:
            return Error{"The scanner is busy. Close other programs that use it and scan again."};
        case SANE_STATUS_JAMMED:
            return Error{"Paper is jammed in the scanner. Free it and scan the rest."};
        case SANE_STATUS_NO_DOCS:
            return Error{"There is no paper in the scanner's feeder. Lay sheets in and scan again."};
        case SANE_STATUS_COVER_OPEN:
            return Error{"The scanner's cover is open. Close it and scan again."};
        case SANE_STATUS_ACCESS_DENIED:
            return Error{"You may not use this scanner. Ask for the right to, or log in where it is shared."};
        case SANE_STATUS_INVAL:
            return Error{"There is no such scanner. Choose another, or connect it and look again."};
        case SANE_STATUS_IO_ERROR:
            return Error{"The scanner does not answer any more. Check its cable and power and scan the rest."};
        default:
            return Error{std::string("The scanner failed: ") + sane_strstatus(status) + ". Scan again."};
    }
}

// One frame's bytes; how many it will have is a guess where the scanner is drawn by hand.
Status read_frame(const Device& device, const SANE_Parameters& p, std::vector<SANE_Byte>& out,
                  const CancelToken& cancel, const Progress& progress) {
    const double expected = p.lines > 0 ? static_cast<double>(p.lines) * p.bytes_per_line : 0;
    std::array<SANE_Byte, kChunkBytes> chunk{};
    while (true) {
        if (cancel.cancelled()) return Error{"The scan was cancelled."};
        SANE_Int got = 0;
        const SANE_Status status = sane_read(device.handle(), chunk.data(), kChunkBytes, &got);
        if (status == SANE_STATUS_EOF) return Done{};
        if (status != SANE_STATUS_GOOD) return error_of(status);
        out.insert(out.end(), chunk.begin(), chunk.begin() + got);
        // A pixel has a byte at least, or an eighth of one.
        if (static_cast<double>(out.size()) > 6e6 * kLargestPictureMegapixels)
            return Error{"The scan is too large. Choose fewer dots an inch."};
        if (progress && expected > 0) progress(std::min(1.0, static_cast<double>(out.size()) / expected));
    }
}

int samples_of(SANE_Frame frame) { return frame == SANE_FRAME_RGB ? 3 : 1; }

// The value of a sample, 0 to 255.
uchar sample(const SANE_Parameters& p, const SANE_Byte* line, int index) {
    if (p.depth == 1) return (line[index / 8] >> (7 - index % 8) & 1) != 0 ? 0 : 255;  // set bits are black
    if (p.depth == 16) {
        uint16_t value = 0;
        std::memcpy(&value, line + 2 * static_cast<std::ptrdiff_t>(index), 2);
        return static_cast<uchar>(value >> 8);
    }
    return line[index];
}

void put(const SANE_Parameters& p, const std::vector<SANE_Byte>& bytes, cv::Mat& pixels) {
    const int lines = static_cast<int>(bytes.size() / static_cast<size_t>(p.bytes_per_line));
    if (pixels.empty()) pixels = cv::Mat(lines, p.pixels_per_line, CV_8UC3, cv::Scalar::all(255));
    for (int y = 0; y < std::min(lines, pixels.rows); ++y) {
        const SANE_Byte* line = bytes.data() + static_cast<std::ptrdiff_t>(y) * p.bytes_per_line;
        for (int x = 0; x < std::min(p.pixels_per_line, pixels.cols); ++x) {
            auto& px = pixels.at<cv::Vec3b>(y, x);
            if (p.format == SANE_FRAME_RGB)
                px = {sample(p, line, 3 * x + 2), sample(p, line, 3 * x + 1), sample(p, line, 3 * x)};
            else if (p.format == SANE_FRAME_GRAY)
                px = cv::Vec3b::all(sample(p, line, x));
            else
                px[p.format == SANE_FRAME_RED ? 2 : p.format == SANE_FRAME_GREEN ? 1 : 0] = sample(p, line, x);
        }
    }
}

// A sheet; nothing when the feeder is empty.
Result<std::optional<cv::Mat>> one_sheet(const Device& device, const CancelToken& cancel, const Progress& progress) {
    cv::Mat pixels;
    for (bool last = false; !last;) {
        const SANE_Status begun = sane_start(device.handle());
        if (begun == SANE_STATUS_NO_DOCS) return std::optional<cv::Mat>();
        if (begun != SANE_STATUS_GOOD) return error_of(begun);
        SANE_Parameters p{};
        if (const SANE_Status status = sane_get_parameters(device.handle(), &p); status != SANE_STATUS_GOOD)
            return error_of(status);
        if (p.bytes_per_line < (p.pixels_per_line * samples_of(p.format) * p.depth + 7) / 8 || p.pixels_per_line < 1)
            return error_of(SANE_STATUS_UNSUPPORTED);
        std::vector<SANE_Byte> bytes;
        if (Status status = read_frame(device, p, bytes, cancel, progress); !status) return status.error();
        put(p, bytes, pixels);
        last = p.last_frame != SANE_FALSE;
    }
    if (pixels.empty()) return error_of(SANE_STATUS_IO_ERROR);
    return std::optional(pixels);
}

}  // namespace

Service::Service() : ready_(sane_init(nullptr, nullptr) == SANE_STATUS_GOOD) {}

Service::~Service() {
    device_.reset();
    if (ready_) sane_exit();
}

Result<std::vector<ScannerInfo>> Service::scanners() const {
    const SANE_Device** devices = nullptr;
    if (!ready_ || sane_get_devices(&devices, SANE_FALSE) != SANE_STATUS_GOOD) return kNoSane;
    std::vector<ScannerInfo> out;
    for (; *devices; ++devices)
        out.push_back({(*devices)->name, std::string((*devices)->vendor) + " " + (*devices)->model});
    return out;
}

Result<size_t> Service::scan(const ScanWish& wish, const std::function<Status(const ScannedSheet&)>& take,
                             const CancelToken& cancel, const Progress& progress) {
    if (!ready_) return kNoSane;
    SANE_Handle handle = nullptr;
    if (const SANE_Status status = sane_open(wish.device.c_str(), &handle); status != SANE_STATUS_GOOD)
        return error_of(status);
    device_ = std::make_unique<Device>(handle);
    const Device& device = *device_;
    if (wish.feeder && !device.choose(SANE_NAME_SCAN_SOURCE, {"ADF", "Feeder", "feeder"}))
        return Error{"This scanner has no feeder. Scan from its glass."};
    if (!wish.feeder) device.choose(SANE_NAME_SCAN_SOURCE, {"Flatbed", "Normal"});
    // Where it has neither, it scans as it can.
    device.choose(SANE_NAME_SCAN_MODE,
                  wish.colour ? std::vector<std::string>{"Color", "Colour"} : std::vector<std::string>{"Gray", "Grey"});
    device.set("depth", "8");
    device.set(SANE_NAME_SCAN_RESOLUTION, std::to_string(wish.dpi));
    device.take_all();
    for (const auto& [name, value] : wish.options)
        if (!device.set(name, value)) {
            Error error{"The scanner can't set "};
            error.message.append(name).append(" to ").append(value).append(".");
            return error;
        }
    size_t count = 0;
    do {
        const auto sheet = one_sheet(device, cancel, progress);
        if (!sheet) return sheet.error();
        if (!*sheet && count == 0) return error_of(SANE_STATUS_NO_DOCS);
        if (!*sheet) break;
        if (Status status = take({**sheet, device.number(SANE_NAME_SCAN_RESOLUTION)}); !status) return status.error();
        ++count;
    } while (wish.feeder && count < kMostSheetsInFeeder);
    return count;
}

}  // namespace fernleaf::sane
