#include "paper/page_reading.h"

#include <cmath>

#include "paper/scan_lines.h"
#include "paper/sheet_picture.h"

namespace fernleaf {
namespace {

constexpr uint64_t kEdition = 2;  // of how pictures are read: with another, what was read before is read anew

// A picture's pixels never change, so one signature stands for all its lines.
uint64_t signature_of(const Picture& picture, uint64_t seed) {
    uint64_t hash = mixed(mixed(seed, kEdition), static_cast<uint64_t>(picture.id));
    for (const char c : picture.file) hash = mixed(hash, static_cast<unsigned char>(c));
    hash = mixed(hash, static_cast<uint64_t>(picture.frame));
    // Moved, turned or cropped it is another picture: its lines are elsewhere.
    for (const double value : {picture.box.left, picture.box.top, picture.box.right, picture.box.bottom, picture.angle,
                               picture.crop.left, picture.crop.top, picture.crop.right, picture.crop.bottom})
        hash = mixed(hash, static_cast<uint64_t>(std::llround(value * 1000)));
    // How it is straightened, too; how it is cleaned changes nothing in what is read.
    Treatment laid = picture.treatment;
    laid.look = Look::original, laid.without_rules = false;
    if (laid.untouched()) return hash >> 1;
    if (laid.outline)
        for (const Point& p : polygon(*laid.outline, 4))
            hash =
                mixed(mixed(hash, static_cast<uint64_t>(std::llround(p.x))), static_cast<uint64_t>(std::llround(p.y)));
    for (const double value : {static_cast<double>(laid.quarter_turns), laid.turn_deg, laid.aspect})
        hash = mixed(hash, static_cast<uint64_t>(std::llround(value * 1000)));
    return hash >> 1;
}

cv::Mat cropped(const cv::Mat& pixels, const Picture& picture) {
    const Box& c = picture.crop;
    const cv::Rect2d part(c.left * pixels.cols, c.top * pixels.rows, c.width() * pixels.cols, c.height() * pixels.rows);
    const cv::Rect inside = cv::Rect(part) & cv::Rect(0, 0, pixels.cols, pixels.rows);
    return inside.empty() ? pixels : pixels(inside);
}

std::vector<ReadLine> read_picture(const Picture& picture, const cv::Mat& pixels, const Reader& reader,
                                   const ReadSettings& settings, uint64_t source, const CancelToken& cancel,
                                   const Progress& progress, PrintSkills* print) {
    std::vector<ReadLine> out;
    const std::vector<ScanLine> lines = find_scan_lines(pixels);
    for (size_t i = 0; i < lines.size() && !cancel.cancelled(); ++i) {
        const ScanLine& scan = lines[i];
        const auto place = [&](double x, double y, double w, double h) {
            const double across = picture.box.width() / pixels.cols, down = picture.box.height() / pixels.rows;
            return turned(Box::of(picture.box.left + x * across, picture.box.top + y * down, w * across, h * down),
                          picture.angle, picture.box.centre());
        };
        ReadLine line;
        line.region = scan.region;
        line.source = source;
        line.kind = scan.drawing ? RegionKind::drawing : RegionKind::text;
        line.box = place(scan.box_px.x, scan.box_px.y, scan.box_px.width, scan.box_px.height);
        if (!scan.drawing) {
            const LineReading reading = print ? read_any_line(scan.picture, reader, *print, settings).line
                                              : reader.read(scan.picture, settings);
            line.certainty = reading.certainty;
            for (const WordReading& word : reading.words) {
                const double begin = scan.picture.source_x(word.begin);
                const double end = scan.picture.source_x(word.end);
                line.words.push_back({word.text,
                                      word.certainty,
                                      place(scan.box_px.x + begin, scan.box_px.y, end - begin, scan.box_px.height),
                                      {},
                                      word.alternatives,
                                      false});
            }
            if (line.words.empty()) continue;
        }
        out.push_back(std::move(line));
        if (progress) progress(static_cast<double>(i + 1) / static_cast<double>(lines.size()));
    }
    return out;
}

}  // namespace

Reading read_page(const Page& page, const FileSource& files, const Reader& reader, const ReadSettings& settings,
                  const Reading& before, const std::vector<Correction>& corrections, const CancelToken& cancel,
                  const Progress& progress, PrintSkills* print) {
    // Typed words are set among the others anew.
    Reading earlier = before;
    for (ReadLine& line : earlier.lines) std::erase_if(line.words, [](const ReadWord& w) { return w.block != 0; });
    std::vector<std::vector<ReadLine>> pictures;
    for (const Picture& picture : page.pictures) {
        if (cancel.cancelled()) break;
        const uint64_t source = signature_of(picture, signature(settings));
        std::vector<ReadLine> lines;
        for (const ReadLine& line : earlier.lines)
            if (line.source == source) lines.push_back(line);
        if (lines.empty()) {
            const auto bytes = files(picture.file);
            const auto pixels = bytes ? picture_to_read(*bytes, picture) : Result<cv::Mat>(bytes.error());
            if (pixels)
                lines =
                    read_picture(picture, cropped(*pixels, picture), reader, settings, source, cancel, progress, print);
        }
        pictures.push_back(std::move(lines));
    }
    Reading reading{read_ink(page.strokes, reader, settings, earlier, cancel, progress, corrections)};
    for (std::vector<ReadLine>& lines : pictures) insert_regions(reading, std::move(lines));
    apply_corrections(reading, corrections);
    add_typed(reading, page.texts);
    return reading;
}

}  // namespace fernleaf
