#include "paper/examples.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "base/edit_distance.h"
#include "base/text.h"
#include "ink/grouping.h"
#include "paper/scan_lines.h"
#include "paper/sheet_picture.h"

namespace fernleaf {
namespace {

constexpr double kAlikeEnough = 0.3;  // of the characters; the hand may be read badly as yet
constexpr int kMarginPx = kLineMarginPx;

cv::Mat picture_of_ink(const Page& page, const std::vector<StrokeId>& ids) {
    const std::set<StrokeId> wanted(ids.begin(), ids.end());
    std::vector<Stroke> strokes;
    for (const Stroke& s : page.strokes)
        if (wanted.contains(s.id)) strokes.push_back(s);
    if (strokes.empty()) return {};
    std::vector<const Stroke*> pointers;
    for (const Stroke& s : strokes) pointers.push_back(&s);
    const auto lines = group_lines(strokes);
    return draw_line(pointers, lines.size() == 1 ? lines[0].slope : 0).pixels;
}

// The lines of a page's pictures, each picture looked at once.
class Scans {
public:
    Scans(const Page& page, const FileSource& files) : page_(page), files_(files) {}

    // The part of a scan's line that lies in a box on the page.
    cv::Mat part(const Box& box) {
        const auto picture =
            std::ranges::find_if(page_.pictures, [&](const Picture& p) { return p.box.contains(box.centre()); });
        if (picture == page_.pictures.end()) return {};
        const Scan& scan = of(*picture);
        const double mm = picture->box.width() / scan.width_px;
        const auto px = [&](double x) { return (x - picture->box.left) / mm; };
        const double middle = (box.centre().y - picture->box.top) / mm;
        for (const ScanLine& line : scan.lines) {
            if (line.drawing || middle < line.box_px.y || middle > line.box_px.y + line.box_px.height) continue;
            if (px(box.centre().x) < line.box_px.x || px(box.centre().x) > line.box_px.x + line.box_px.width) continue;
            const auto column = [&](double x) {
                const double at = (px(x) - line.box_px.x - line.picture.left) * line.picture.scale;
                return static_cast<int>(std::lround(at));
            };
            const int begin = std::clamp(column(box.left) - kMarginPx, 0, line.picture.pixels.cols);
            const int end = std::clamp(column(box.right) + kMarginPx, begin, line.picture.pixels.cols);
            if (end > begin) return line.picture.pixels.colRange(begin, end).clone();
        }
        return {};
    }

private:
    struct Scan {
        std::vector<ScanLine> lines;  // none where the picture can't be read
        int width_px = 1;
    };
    const Scan& of(const Picture& picture) {
        const auto [at, fresh] = known_.try_emplace(picture.id);
        if (!fresh) return at->second;
        if (const auto bytes = files_(picture.file))
            if (const auto pixels = picture_to_read(*bytes, picture))
                at->second = {scan_page(*pixels).lines, pixels->cols};
        return at->second;
    }

    const Page& page_;
    const FileSource& files_;
    std::map<PictureId, Scan> known_;
};

double likeness(const std::string& a, const std::string& b) {
    const std::u32string x = decode_utf8(fold(a));
    const std::u32string y = decode_utf8(fold(b));
    const size_t longest = std::max({x.size(), y.size(), size_t{1}});
    return 1 - static_cast<double>(edit_distance(x, y)) / static_cast<double>(longest);
}

}  // namespace

std::optional<Example> example_of(const Page& page, const FileSource& files, const ReadWord& word) {
    cv::Mat pixels = word.strokes.empty() ? Scans(page, files).part(word.box) : picture_of_ink(page, word.strokes);
    if (pixels.empty()) return {};
    return Example{std::move(pixels), word.text};
}

std::vector<Example> copied_lines(const Page& page, const FileSource& files, const Reading& reading,
                                  const std::vector<std::string>& text) {
    std::vector<const ReadLine*> lines;
    for (const ReadLine& line : reading.lines)
        if (!line.words.empty()) lines.push_back(&line);
    // The pairs, in order on both sides, that are most alike in sum.
    const size_t n = lines.size();
    const size_t m = text.size();
    std::vector<std::vector<double>> best(n + 1, std::vector<double>(m + 1, 0));
    std::vector<std::vector<double>> alike(n, std::vector<double>(m, 0));
    for (size_t i = 1; i <= n; ++i)
        for (size_t j = 1; j <= m; ++j) {
            alike[i - 1][j - 1] = likeness(lines[i - 1]->text(), text[j - 1]);
            const double pair = alike[i - 1][j - 1] >= kAlikeEnough ? alike[i - 1][j - 1] : 0;
            best[i][j] = std::max({best[i - 1][j], best[i][j - 1], best[i - 1][j - 1] + pair});
        }
    std::vector<Example> out;
    Scans scans(page, files);
    for (size_t i = n, j = m; i > 0 && j > 0;) {
        if (best[i][j] == best[i - 1][j]) {
            --i;
        } else if (best[i][j] == best[i][j - 1]) {
            --j;
        } else {
            const ReadLine& line = *lines[i - 1];
            std::vector<StrokeId> strokes;
            for (const ReadWord& word : line.words)
                strokes.insert(strokes.end(), word.strokes.begin(), word.strokes.end());
            cv::Mat pixels = strokes.empty() ? scans.part(line.box) : picture_of_ink(page, strokes);
            if (!pixels.empty()) out.push_back({std::move(pixels), text[j - 1]});
            --i, --j;
        }
    }
    std::ranges::reverse(out);
    return out;
}

const std::vector<std::string>& lines_to_copy() {
    static const std::vector<std::string> kLines{
        "Quiet wind over the hill, frost by Dawn.",       "Jack and Zoe mixed five kegs of cider.",
        "Boxes: 12 pears, 30 plums, 45 apples.",          "And why did Xaver graft my quince tree?",
        "Old Yard, Monday 6.47 or 9.58: logged rain.",    "The lazy fox jumped past Ruth's big yew; Why?",
        "Call No. 555-0139 (Ines, East) & bring gloves!", "Under North Gate: K, P, S, L, V, F, H, U.",
    };
    return kLines;
}

}  // namespace fernleaf
