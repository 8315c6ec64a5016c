#include <array>
#include <cstdio>
#include <opencv2/imgcodecs.hpp>

#include "bench/paper/sheets.h"
#include "bench/paper/tables.h"
#include "paper/upright.h"

namespace fernleaf {
namespace {

constexpr std::array kNames{"written page", "printed page", "both by turns", "form", "whiteboard", "note"};

cv::Mat draw_thing(size_t kind, size_t i, const PaperBench& bench, std::mt19937& random) {
    const Hand& hand = bench.hands[i % bench.hands.size()];
    switch (kind) {
        case 3:
            return draw_form(hand, i % kFormLayouts, random).pixels;
        case 4:
            return draw_board(hand, bench.texts, random).pixels;
        case 5:
            return draw_note(hand, bench.texts, i % kNoteKinds, random).pixels;
        default:
            return draw_sheet(hand, bench.texts, static_cast<Content>(kind), random).pixels;
    }
}

}  // namespace

void turned_table(const PaperBench& bench, const Reader& reader) {
    std::printf("photographs that lie upright or turned by quarters, set upright wrongly; of those not upright\n");
    size_t all = 0, wrong = 0, all_lying = 0, wrong_lying = 0;
    for (size_t kind = 0; kind < kNames.size(); ++kind) {
        size_t pages = 0, bad = 0, lying = 0, bad_lying = 0;
        for (size_t i = bench.first; i < bench.count; ++i) {
            std::mt19937 random(bench.seed * 100000 + static_cast<unsigned>(1000 * kind + i));
            const PhotographedPage photo =
                found_in_photograph(draw_thing(kind, i, bench, random), *bench.camera, random);
            if (photo.page.empty()) continue;
            // Half of them lie as they are to be read.
            const int turned = random() % 2 == 0 ? 0 : 1 + static_cast<int>(random() % 3);
            cv::Mat page = photo.page;
            if (turned > 0)
                cv::rotate(photo.page, page,
                           turned == 1   ? cv::ROTATE_90_CLOCKWISE
                           : turned == 2 ? cv::ROTATE_180
                                         : cv::ROTATE_90_COUNTERCLOCKWISE);
            const int turns = upright_turns(page, reader, {});
            const bool failed = (turned + turns) % 4 != 0;
            ++pages, bad += failed, lying += turned > 0, bad_lying += failed && turned > 0;
            if (failed && !bench.failures.empty())
                cv::imwrite((bench.failures / ("turned" + std::to_string(kind) + "_" + std::to_string(i) + "_by" +
                                               std::to_string(turned) + "_set" + std::to_string(turns) + ".png"))
                                .string(),
                            page);
        }
        std::printf("%-16s %3zu of %3zu   %3zu of %3zu\n", kNames[kind], bad, pages, bad_lying, lying);
        std::fflush(stdout);
        all += pages, wrong += bad, all_lying += lying, wrong_lying += bad_lying;
    }
    std::printf("%-16s %3zu of %3zu   %3zu of %3zu\n", "all", wrong, all, wrong_lying, all_lying);
}

}  // namespace fernleaf
