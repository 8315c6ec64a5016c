// The helper that speaks with scanners, for exchange/scanner.h. On its standard output, a line a message, fields parted
// by tabs:
//
//   fernleaf-scan list                                                    device NAME TITLE …, done
//   fernleaf-scan scan DEVICE DPI colour|grey glass|feeder [NAME=VALUE…]  progress PART, sheet WIDTH HEIGHT DPI …, done
//
// or in the end error SENTENCE. A sheet's line is followed by its pixels, BGR, a byte each. SIGTERM stops the scanner
// and ends it.
#include <sys/prctl.h>

#include <atomic>
#include <charconv>
#include <csignal>
#include <cstdio>
#include <opencv2/core.hpp>
#include <string>
#include <string_view>

#include "scan/sane_scanner.h"

using namespace fernleaf;

namespace {

CancelSource& stopping() {
    static CancelSource one;
    return one;
}

std::string plain(std::string text) {
    for (char& c : text)
        if (c == '\t' || c == '\n') c = ' ';
    return text;
}

int tell_end(const Error* error) {
    if (error)
        std::printf("error\t%s\n", plain(error->message).c_str());
    else
        std::printf("done\n");
    std::fflush(stdout);
    return error ? 1 : 0;
}

int list() {
    const sane::Service service;
    const auto found = service.scanners();
    if (!found) return tell_end(&found.error());
    for (const ScannerInfo& one : *found)
        std::printf("device\t%s\t%s\n", plain(one.device).c_str(), plain(one.name).c_str());
    return tell_end(nullptr);
}

int scan_sheets(const std::vector<std::string>& words) {
    ScanWish wish{words[1], 300, words[3] == "colour", words[4] == "feeder", {}};
    std::from_chars(words[2].data(), words[2].data() + words[2].size(), wish.dpi);
    for (size_t i = 5; i < words.size(); ++i)
        if (const size_t sign = words[i].find('='); sign != std::string::npos)
            wish.options[words[i].substr(0, sign)] = words[i].substr(sign + 1);
    const auto take = [](const ScannedSheet& scanned) -> Status {
        const cv::Mat& sheet = scanned.pixels;
        std::printf("sheet\t%d\t%d\t%.2f\n", sheet.cols, sheet.rows, scanned.dpi);
        const cv::Mat whole = sheet.isContinuous() ? sheet : sheet.clone();
        std::fwrite(whole.data, 3, whole.total(), stdout);
        if (std::fflush(stdout) != 0) return Error{"Nobody listens any more."};
        return Done{};
    };
    const auto progress = [](double part) {
        std::printf("progress\t%.4f\n", part);
        std::fflush(stdout);
    };
    sane::Service service;
    const auto done = service.scan(wish, take, stopping().token(), progress);
    return tell_end(done ? nullptr : &done.error());
}

}  // namespace

int main(int argc, char** argv) {
    prctl(PR_SET_PDEATHSIG, SIGKILL);
    stopping();
    std::signal(SIGTERM, [](int) { stopping().cancel(); });
    const std::vector<std::string> words(argv + 1, argv + argc);
    if (words.size() == 1 && words[0] == "list") return list();
    if (words.size() >= 5 && words[0] == "scan") return scan_sheets(words);
    std::fputs("usage: fernleaf-scan list | scan DEVICE DPI colour|grey glass|feeder [NAME=VALUE...]\n", stderr);
    return 2;
}
