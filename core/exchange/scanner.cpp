#include "exchange/scanner.h"

#include <algorithm>
#include <charconv>
#include <chrono>
#include <cstring>
#include <optional>
#include <string_view>

#include "base/helper_process.h"
#include "paper/picture_file.h"

namespace fernleaf {
namespace {

constexpr int kListenMs = 100;
constexpr std::chrono::seconds kGrace(5);  // for the scanner to be stopped in an orderly way
constexpr int kLetGoMs = 1000;             // and to be let go of

// What the helper tells (tools/scan/main.cpp), one message after another.
class Telling {
public:
    explicit Telling(HelperProcess& helper) : helper_(helper) {}

    struct Message {
        std::string_view kind;  // device, progress, sheet, done or error; empty: the helper ended without one
        std::vector<std::string> fields = {};
        cv::Mat sheet = {};  // CV_8UC3
    };

    // The next one; nothing when it is not there after a while.
    std::optional<Message> next() {
        if (auto message = taken()) return message;
        if (helper_.hear(heard_, kListenMs) == HelperProcess::Heard::end) return Message{};
        return taken();
    }

    // The helper has told all; it lets go of the scanner, and is ended if it can't.
    void let_go() {
        std::string rest;
        for (int waited = 0; waited < kLetGoMs; waited += kListenMs)
            if (helper_.hear(rest, kListenMs) == HelperProcess::Heard::end) return;
    }

private:
    std::optional<Message> taken() {
        const size_t end = heard_.find('\n');
        if (end == std::string::npos) return std::nullopt;
        std::vector<std::string> fields;
        for (size_t at = 0; at <= end;) {
            const size_t stop = std::min(heard_.find('\t', at), end);
            fields.push_back(heard_.substr(at, stop - at));
            at = stop + 1;
        }
        for (const std::string_view kind : {"device", "progress", "sheet", "done", "error"}) {
            if (fields[0] != kind) continue;
            Message message{kind, {fields.begin() + 1, fields.end()}};
            size_t after = end + 1;
            if (kind == "sheet") {
                const auto size = size_of(message);
                if (!size) return Message{};
                const size_t bytes = 3 * static_cast<size_t>(size->area());
                if (heard_.size() - after < bytes) return std::nullopt;
                message.sheet = cv::Mat(*size, CV_8UC3);
                std::memcpy(message.sheet.data, heard_.data() + after, bytes);
                after += bytes;
            }
            heard_.erase(0, after);
            return message;
        }
        return Message{};
    }

    static std::optional<cv::Size> size_of(const Message& message) {
        cv::Size size;
        for (size_t i = 0; i < 2; ++i) {
            if (i >= message.fields.size()) return std::nullopt;
            const std::string& field = message.fields[i];
            int& side = i == 0 ? size.width : size.height;
            if (std::from_chars(field.data(), field.data() + field.size(), side).ec != std::errc()) return std::nullopt;
        }
        if (size.width < 1 || size.height < 1 ||
            static_cast<double>(size.width) * size.height > 1e6 * kLargestPictureMegapixels)
            return std::nullopt;
        return size;
    }

    HelperProcess& helper_;
    std::string heard_;
};

const Error kGone{"The scanner service stopped working. Scan the rest."};

// 0 to 1; the desktop's language, which std::atof listens to, says nothing of how the helper writes numbers.
double part_of(const std::string& field) {
    double part = 0;
    std::from_chars(field.data(), field.data() + field.size(), part);
    return std::clamp(part, 0.0, 1.0);
}

double dpi_of(const Telling::Message& message) {
    double dpi = 0;
    if (message.fields.size() > 2)
        std::from_chars(message.fields[2].data(), message.fields[2].data() + message.fields[2].size(), dpi);
    return dpi;
}

Error told(const Telling::Message& message) {
    return message.kind == "error" && !message.fields.empty() ? Error{message.fields[0]} : kGone;
}

}  // namespace

Result<std::vector<ScannerInfo>> scanners() {
    const auto helper = HelperProcess::start("fernleaf-scan", {"list"});
    if (!helper) return helper.error();
    Telling telling(**helper);
    std::vector<ScannerInfo> out;
    while (true) {
        const auto message = telling.next();
        if (!message) continue;
        if (message->kind == "device" && message->fields.size() == 2) {
            out.push_back({message->fields[0], message->fields[1]});
            continue;
        }
        telling.let_go();
        if (message->kind == "done") return out;
        return told(*message);
    }
}

Result<size_t> scan(const ScanWish& wish, const std::function<Status(const ScannedSheet&)>& take,
                    const CancelToken& cancel, const Progress& progress) {
    std::vector<std::string> arguments{"scan", wish.device, std::to_string(wish.dpi), wish.colour ? "colour" : "grey",
                                       wish.feeder ? "feeder" : "glass"};
    for (const auto& [name, value] : wish.options) arguments.emplace_back(name).append("=").append(value);
    const auto helper = HelperProcess::start("fernleaf-scan", arguments);
    if (!helper) return helper.error();
    Telling telling(**helper);
    size_t count = 0;
    std::optional<Error> failed;  // here: it was cancelled, or a sheet could not be kept
    std::optional<std::chrono::steady_clock::time_point> stopped;  // when the helper was asked to stop
    while (!stopped || std::chrono::steady_clock::now() - *stopped < kGrace) {
        if (cancel.cancelled() && !failed) failed = Error{"The scan was cancelled."};
        if (failed && !stopped) {
            (*helper)->ask_to_stop();
            stopped = std::chrono::steady_clock::now();
        }
        const auto message = telling.next();
        if (!message) continue;
        if (message->kind == "progress" && message->fields.size() == 1) {
            if (progress && !failed) progress(part_of(message->fields[0]));
        } else if (message->kind == "sheet") {
            if (failed) continue;
            if (Status status = take({message->sheet, dpi_of(*message)}); !status)
                failed = status.error();
            else
                ++count;
        } else {
            telling.let_go();
            if (failed) return *failed;
            if (message->kind == "done") return count;
            return told(*message);
        }
    }
    return *failed;
}

}  // namespace fernleaf
