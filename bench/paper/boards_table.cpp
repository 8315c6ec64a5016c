#include <array>
#include <cstdio>
#include <opencv2/imgproc.hpp>

#include "bench/paper/things.h"

namespace fernleaf {
namespace {

constexpr double kPxPerMm = 7;  // of a board drawn as a sheet of 300 mm
constexpr double kWidthMm = 300, kHeightMm = 190;
constexpr std::array<uint32_t, 4> kMarkers{0x20242C, 0x1B3FA8, 0xB3202C, 0x1C7A3A};

}  // namespace

// Its frame, its tray with pens and a wiper, ghosts of what was wiped off, a lamp's gleam.
DrawnThing draw_board(const Hand& hand, const std::vector<std::string>& texts, std::mt19937& random) {
    const auto between = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    const auto px = [](double mm) { return static_cast<int>(mm * kPxPerMm); };
    DrawnThing out;
    out.pixels = cv::Mat(px(kHeightMm), px(kWidthMm), CV_8UC3, cv::Scalar(236, 238, 236));
    cv::Mat& board = out.pixels;
    WritingStyle style;
    style.x_height_mm = between(4.5, 6);
    style.pen.width_mm = static_cast<float>(between(0.9, 1.4));
    const auto line = [&](const std::string& text, double y, uint32_t colour, bool ghost) {
        style.pen.colour = colour;
        const std::vector<Stroke> strokes = hand.write(text, {between(18, 26), y}, style, random);
        Box box;
        for (const Stroke& s : strokes) box.include(s.box());
        if (box.empty() || box.right > kWidthMm - 18) return false;
        if (!ghost) {
            draw_ink(board, strokes, kPxPerMm);
            out.truth += text + ' ';
            return true;
        }
        cv::Mat wiped = board.clone();
        draw_ink(wiped, strokes, kPxPerMm);
        cv::GaussianBlur(wiped, wiped, {}, 6);
        cv::addWeighted(wiped, 0.1, board, 0.9, 0, board);
        return true;
    };
    size_t next = random() % texts.size();
    for (int i = 0; i < 3; ++i) line(texts[next++ % texts.size()], between(30, 150), kMarkers[1], true);
    const double pitch = between(17, 24);
    for (double y = 28; y < kHeightMm - 34;) {
        const std::string& text = texts[next++ % texts.size()];
        if (hand.can_write(text) && line(text, y, kMarkers[random() % kMarkers.size()], false)) y += pitch;
    }
    // A gleam.
    const cv::Point at(px(between(60, 240)), px(between(20, 60)));
    cv::Mat gleam(board.size(), CV_8UC3, cv::Scalar::all(0));
    cv::ellipse(gleam, at, {px(26), px(9)}, between(-20, 20), 0, 360, cv::Scalar::all(between(20, 60)), cv::FILLED);
    cv::GaussianBlur(gleam, gleam, {}, 30);
    board += gleam;
    // The frame: bars with a light and a dark edge; and the tray, with what lies on it.
    const int bar = px(between(3.5, 7));
    const cv::Scalar metal(between(150, 190), between(150, 190), between(150, 190)), edge(60, 60, 64);
    for (const cv::Rect& r : {cv::Rect(0, 0, board.cols, bar), cv::Rect(0, board.rows - bar, board.cols, bar),
                              cv::Rect(0, 0, bar, board.rows), cv::Rect(board.cols - bar, 0, bar, board.rows)}) {
        cv::rectangle(board, r, metal, cv::FILLED);
        cv::rectangle(board, r, edge, 2);
    }
    const int top = board.rows - bar - px(5);
    if (random() % 2 == 0) {
        cv::rectangle(board, cv::Rect(px(40), top, board.cols - px(80), px(5)), metal * 0.85, cv::FILLED);
        for (int i = 0; i < 4; ++i) {
            const cv::Rect pen(px(60 + 40 * i + between(0, 10)), top - px(1), px(16), px(3));
            const uint32_t colour = kMarkers[static_cast<size_t>(i)];
            cv::rectangle(board, pen, cv::Scalar(colour & 255, colour >> 8 & 255, colour >> 16), cv::FILLED);
        }
    }
    return out;
}

void boards_table(const PaperBench& bench, const Reader& reader, PrintSkills& print) {
    std::printf("CER of whiteboards with frames, flat / photographed; %% of their ink in lines of writing\n");
    read_things(bench, reader, print, "whiteboards", 0,
                [&](const Hand& hand, std::mt19937& random) { return draw_board(hand, bench.texts, random); });
}

}  // namespace fernleaf
