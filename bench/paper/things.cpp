#include "bench/paper/things.h"

#include <cstdio>
#include <opencv2/imgcodecs.hpp>

namespace fernleaf {

InkShare ink_share(const ScannedPage& page) {
    InkShare out;
    for (const InkPiece& piece : page.ink.pieces) out.all += piece.area;
    for (const ScanLine& line : page.lines)
        for (const size_t piece : line.pieces) out.written += line.drawing ? 0 : page.ink.pieces[piece].area;
    return out;
}

void ThingErrors::print(const std::string& name) const {
    std::printf("%-20s %5.1f / %5.1f   %6.2f / %6.2f\n", name.c_str(), flat.cer(), taken.cer(), flat_ink.percent(),
                taken_ink.percent());
    std::fflush(stdout);
}

ThingErrors read_things(const PaperBench& bench, const Reader& reader, PrintSkills& print, const std::string& name,
                        unsigned kind, const std::function<DrawnThing(const Hand&, std::mt19937&)>& draw) {
    ThingErrors out;
    for (size_t i = bench.first; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 100000 + 100 * kind + static_cast<unsigned>(i));
        const DrawnThing thing = draw(bench.hands[i % bench.hands.size()], random);
        if (thing.truth.empty()) continue;
        const PhotographedPage photo = found_in_photograph(thing.pixels, *bench.camera, random);
        const std::string on_flat = read_as_page(thing.pixels, reader, print);
        const std::string on_photo = photo.page.empty() ? "" : read_as_page(photo.page, reader, print);
        ThingErrors one;
        one.flat.add(thing.truth, on_flat), one.taken.add(thing.truth, on_photo);
        one.flat_ink = ink_share(scan_page(thing.pixels));
        if (!photo.page.empty()) one.taken_ink = ink_share(scan_page(photo.page));
        out.add(one);
        if (bench.failures.empty()) continue;
        const std::string file = (bench.failures / (name + " " + std::to_string(i))).string();
        std::fprintf(stderr, "%s %zu %.1f %.1f\n  %s\n  %s\n  %s\n", name.c_str(), i, one.flat.cer(), one.taken.cer(),
                     thing.truth.c_str(), on_flat.c_str(), on_photo.c_str());
        cv::imwrite(file + ".png", thing.pixels);
        cv::imwrite(file + "_taken.jpg", photo.shot.photo.pixels);
        if (!photo.page.empty()) cv::imwrite(file + "_photo.png", photo.page);
    }
    out.print(name);
    return out;
}

}  // namespace fernleaf
