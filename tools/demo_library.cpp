#include "demo/demo_library.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fstream>
#include <iomanip>
#include <iterator>
#include <nlohmann/json.hpp>
#include <opencv2/imgproc.hpp>
#include <sstream>

#include "demo/drawn_formula.h"
#include "demo/hand.h"
#include "demo/photo.h"
#include "ink/nib.h"
#include "math/curves.h"
#include "paper/raster_file.h"
#include "sound/sound_file.h"
#include "transcript/reading.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;
using Json = nlohmann::json;

constexpr double kSpacingMm = 8;
constexpr double kScanDpi = 150;
constexpr double kBoxToTickMm = 4.2;  // its side
constexpr uint32_t kSeed = 20260314;

fs::path demo_directory() { return FERNLEAF_DEMO_DIRECTORY; }

Result<Json> sources() {
    std::ifstream in(demo_directory() / "hallow-hill.json");
    Json json = Json::parse(in, nullptr, false);
    if (!json.is_object()) return Error{"The demonstration's source is missing or damaged."};
    return json;
}

uint32_t colour_of(const Json& json) {
    const auto text = json.get<std::string>();
    uint32_t colour = 0;
    std::from_chars(text.data() + 1, text.data() + text.size(), colour, 16);
    return colour;
}

CoverPattern pattern_of(const std::string& name) {
    constexpr const char* kNames[] = {"bands", "leaves", "rain", "rows", "rings", "hills"};
    const auto found = std::ranges::find(kNames, name);
    return found == std::end(kNames) ? CoverPattern::bands : static_cast<CoverPattern>(found - std::begin(kNames));
}

int64_t morning_of(const std::string& day) {
    std::tm time = {};
    std::istringstream(day) >> std::get_time(&time, "%Y-%m-%d");
    time.tm_hour = 9;
    return static_cast<int64_t>(::timegm(&time)) * 1000;
}

int64_t minute_ms(const Json& minutes) { return std::llround(minutes.get<double>() * 60'000); }

// A box to tick on a line of writing, drawn by hand.
std::vector<Stroke> drawn_box_to_tick(Point foot, bool ticked, const WritingStyle& style, std::mt19937& random) {
    std::uniform_real_distribution<double> off(-0.25, 0.25);
    const auto path = [&](const std::vector<Point>& corners) {
        Stroke out;
        out.pen = style.pen;
        out.start_ms = style.start_ms;
        constexpr int kPieces = 8;  // a side is drawn in
        for (size_t i = 0; i + 1 < corners.size(); ++i)
            for (int k = 0; k < kPieces; ++k) {
                const Point p = corners[i] + (corners[i + 1] - corners[i]) * (static_cast<double>(k) / kPieces);
                out.points.push_back({p, 0.5F, 0, 0, static_cast<uint32_t>(12 * out.points.size())});
            }
        out.points.push_back({corners.back(), 0.5F, 0, 0, static_cast<uint32_t>(12 * out.points.size())});
        return out;
    };
    const auto corner = [&](double x, double y) {
        return Point{foot.x + x * kBoxToTickMm + off(random), foot.y - (1 - y) * kBoxToTickMm + off(random)};
    };
    std::vector<Stroke> out{path({corner(0, 0), corner(0, 1), corner(1, 1), corner(1, 0), corner(0, 0)})};
    if (ticked) {
        out.push_back(path({corner(0.2, 0.5), corner(0.45, 0.85), corner(1.15, -0.2)}));
        out.back().start_ms += 900;
    }
    return out;
}

std::vector<Stroke> strokes_of(const Json& page, const Hand& hand, const PageInfo& info, std::mt19937& random) {
    WritingStyle style;
    style.x_height_mm = page.at("x_height").get<double>();
    style.pen = {colour_of(page.at("ink")), 0.45F};
    style.start_ms = info.created_ms;
    const bool ruled = info.paper == Paper::margined;
    std::vector<Stroke> strokes;
    const auto append = [&](std::vector<Stroke> more) {
        style.start_ms = Hand::end_of(more, style.start_ms) + 800;
        std::ranges::move(more, std::back_inserter(strokes));
    };
    double y = 2.5 * kSpacingMm;                                // the first rule
    const Json minutes = page.value("minutes", Json::array());  // after the first, at which lines were begun
    for (size_t number = 0; number < page.at("lines").size(); ++number) {
        const Json& line = page.at("lines")[number];
        if (number < minutes.size())
            style.start_ms = std::max(style.start_ms, info.created_ms + minute_ms(minutes[number]));
        const double lift = ruled ? 0.6 : 0;
        std::string text = line.get<std::string>();
        Point at{ruled ? 22.0 : 16.0, y - lift};
        for (const std::string box : {kOpenBox, kTickedBox}) {
            if (!text.starts_with(box + " ")) continue;
            append(drawn_box_to_tick(at, box == kTickedBox, style, random));
            text.erase(0, box.size() + 1);
            at.x += kBoxToTickMm + 3.5;
        }
        append(hand.write(text, at, style, random));
        y += kSpacingMm;
    }
    for (const Json& note : page.value("notes", Json::array()))
        append(hand.write(note.at("text").get<std::string>(), {note.at("x").get<double>(), note.at("y").get<double>()},
                          style, random));
    for (const Json& source : page.value("formulas", Json::array())) {
        auto formula = written_formula(source.at("latex").get<std::string>());
        if (!formula) continue;
        std::vector<Stroke> ink = draw_formula(*formula, hand, {1.1 * style.x_height_mm, 0.5, false, style.pen},
                                               {source.at("x").get<double>(), source.at("y").get<double>()}, random);
        for (Stroke& s : ink) style.start_ms += 500, s.start_ms = style.start_ms;
        append(std::move(ink));
    }
    for (const Json& line : page.value("drawing", Json::array())) {
        std::vector<Point> corners;
        for (const Json& corner : line) corners.push_back({corner[0].get<double>(), corner[1].get<double>()});
        append({drawn(corners, style.pen, style.start_ms, random)});
    }
    return strokes;
}

std::vector<Plot> plots_of(const Json& page) {
    std::vector<Plot> out;
    for (const Json& source : page.value("plots", Json::array())) {
        Plot plot;
        const Json& box = source.at("box");
        plot.box = Box::of(box[0], box[1], box[2], box[3]);
        plot.curves = {{source.at("formula")}};
        plot.marks = true;
        plot.range = fitting_range(plot);
        out.push_back(std::move(plot));
    }
    return out;
}

// What a flatbed scanner makes of a ruled sheet: uneven paper, soft edges, a little noise.
std::string scanned(const std::vector<Stroke>& strokes, const PageInfo& info) {
    const double px = kScanDpi / kMmPerInch;
    constexpr int kSuper = 3;
    const cv::Size size(static_cast<int>(info.width_mm * px), static_cast<int>(info.height_mm * px));
    cv::Mat sheet(size * kSuper, CV_8UC3, cv::Scalar(226, 238, 243));
    const double scale = px * kSuper;
    for (double y = 2.5 * kSpacingMm; y < info.height_mm; y += kSpacingMm)
        cv::line(sheet, {0, static_cast<int>(y * scale)}, {sheet.cols, static_cast<int>(y * scale)},
                 cv::Scalar(214, 206, 196), 3, cv::LINE_AA);
    draw_ink(sheet, strokes, scale);
    cv::Mat picture;
    cv::resize(sheet, picture, size, 0, 0, cv::INTER_AREA);
    cv::GaussianBlur(picture, picture, {}, 0.7);
    cv::RNG noise(kSeed);
    cv::Mat coarse(size / 40, CV_16SC1);
    cv::Mat grain(size, CV_16SC1), shade, noisy;
    noise.fill(grain, cv::RNG::NORMAL, 0, 5);
    noise.fill(coarse, cv::RNG::NORMAL, 0, 2);
    cv::resize(coarse, shade, size, 0, 0, cv::INTER_CUBIC);
    picture.convertTo(picture, CV_16SC3);
    shade += grain;
    cv::merge(std::vector<cv::Mat>(3, shade), noisy);  // paper is uneven in lightness, hardly in colour
    picture += noisy;
    picture.convertTo(picture, CV_8UC3);
    return encode_jpeg(picture, 88);
}

constexpr double kPhotoPxPerMm = 9;
constexpr char kDemoPen[] = "FL-0000";  // that is not paired any more

cv::Scalar bgr(uint32_t colour) {
    return {static_cast<double>(colour & 0xFF), static_cast<double>(colour >> 8 & 0xFF),
            static_cast<double>(colour >> 16 & 0xFF)};
}

// A sheet as it lay on the table: paper of a colour, with writing.
Result<cv::Mat> written_sheet(const Json& json, std::mt19937& random) {
    const auto hand = Hand::load(demo_directory() / "hands" / (json.at("hand").get<std::string>() + ".json"));
    if (!hand) return hand.error();
    const double width = json.at("size")[0], height = json.at("size")[1], spacing = json.at("spacing");
    const auto px = [](double mm) { return static_cast<int>(mm * kPhotoPxPerMm); };
    cv::Mat sheet(px(height), px(width), CV_8UC3, bgr(colour_of(json.at("paper"))));
    WritingStyle style;
    style.x_height_mm = json.at("x_height");
    style.pen = {colour_of(json.at("ink")), json.at("pen").get<float>()};
    double y = json.at("at")[1];
    if (json.value("rules", false))
        for (double rule = y + 1; rule < height; rule += spacing)
            cv::line(sheet, {0, px(rule)}, {sheet.cols, px(rule)}, bgr(0xB9C4CE), 2);
    for (const Json& line : json.at("lines")) {
        draw_ink(sheet, hand->write(line.get<std::string>(), {json.at("at")[0].get<double>(), y}, style, random),
                 kPhotoPxPerMm);
        y += spacing;
    }
    return sheet;
}

// A notebook of addressed paper, as a pen brought it.
Result<std::vector<PageId>> capture(Library& library, Notebook notebook, const Json& address,
                                    const std::vector<FilledPage>& pages) {
    std::vector<CapturedStroke> strokes;
    PageAddress at{address[0], address[1], 0};
    for (const FilledPage& page : pages) {
        ++at.page;
        for (const Stroke& s : page.content.strokes)
            for (CapturedStroke& part : captured(s, at)) {
                part.number = strokes.size() + 1;
                strokes.push_back(std::move(part));
            }
    }
    const auto kept = library.keep_captures(kDemoPen, strokes);
    if (!kept) return kept.error();
    std::vector<PageId> out;
    for (const KeptCaptures::OnPage& page : kept->pages) out.push_back(page.page);
    const auto made = library.load_page(out.front());
    if (!made) return made.error();
    notebook.id = made->info.notebook;
    notebook.sheet = made->info;
    if (Status status = library.change_notebook(notebook); !status) return status.error();
    return out;
}

// What was said while something was written: parts of a sound, and when each was said.
Status speak(Library& library, const Json& spoken) {
    const fs::path sound = demo_directory() / spoken.at("sound").get<std::string>();
    const auto listened = heard(sound);
    if (!listened) return listened.error();
    const int64_t began = morning_of(spoken.at("day"));
    const auto id = library.add_track(spoken.at("name"), sound, listened->levels, listened->length_ms, began);
    if (!id) return id.error();
    auto track = library.track(*id);
    if (!track) return track.error();
    const SoundId of = track->pieces.front().sound;
    track->pieces.clear();
    std::ifstream file(demo_directory() / spoken.at("parts").get<std::string>());
    for (const Json& part : Json::parse(file))
        track->pieces.push_back({of, part.at(0), part.at(1), began + part.at(2).get<int64_t>()});
    return library.change_track(*track);
}

Result<std::string> photograph(const Json& json, std::mt19937& random) {
    const std::map<std::string, Ground> grounds{
        {"wood", Ground::wood}, {"cloth", Ground::cloth}, {"desk", Ground::desk}};
    std::vector<cv::Mat> sheets;
    for (const Json& sheet : json.at("sheets")) {
        const auto pixels = written_sheet(sheet, random);
        if (!pixels) return pixels.error();
        sheets.push_back(*pixels);
    }
    View view;
    view.ground = grounds.at(json.at("ground"));
    view.tilt_deg = json.at("tilt");
    view.tilt_towards = json.at("towards");
    view.roll_deg = json.at("roll");
    view.fill = json.at("fill");
    view.shadow = json.at("shadow");
    view.curl = json.value("curl", 0.0);
    view.long_side_px = 2400;
    const Photo photo = take_photo(sheets, view, random);
    return encode_jpeg(photo.pixels, 86);
}

// Tags, and the folder that a notebook is in.
Status put_in_order(Library& library, const Json& source, const std::vector<PageId>& pages) {
    const auto first = library.load_page(pages.front());
    if (!first) return first.error();
    const NotebookId notebook = first->info.notebook;
    const auto tag = [&](const Json& from, TagMark mark) -> Status {
        const auto tags = library.tags_named(from.value("tags", std::vector<std::string>()));
        if (!tags) return tags.error();
        std::vector<TagMark> marks;
        for (const TagId id : *tags) {
            mark.tag = id;
            marks.push_back(mark);
        }
        const auto set = library.set_tags(marks, true);
        return set ? Status(Done{}) : Status(set.error());
    };
    if (Status status = tag(source, {0, 0, notebook}); !status) return status;
    for (size_t i = 0; i < pages.size(); ++i)
        if (Status status = tag(source.at("pages")[i], {0, pages[i]}); !status) return status;
    if (!source.contains("folder")) return Done{};
    const auto folders = library.folders();
    if (!folders) return folders.error();
    const std::string title = source["folder"];
    const auto known = std::ranges::find(*folders, title, &Folder::title);
    FolderId folder = known == folders->end() ? kNoFolder : known->id;
    if (folder == kNoFolder) {
        const auto made = library.add_folder(title, kNoFolder);
        if (!made) return made.error();
        folder = *made;
    }
    return library.place_notebook(notebook, folder, SIZE_MAX);
}

}  // namespace

Result<std::vector<DemoPage>> demo_texts() {
    const auto json = sources();
    if (!json) return json.error();
    std::vector<DemoPage> out;
    for (const Json& notebook : json->at("notebooks")) {
        int number = 0;
        for (const Json& page : notebook.at("pages")) {
            DemoPage text{notebook.at("title"), notebook.at("language"), ++number, page.value("scan", false), {}};
            for (const Json& line : page.at("lines"))
                if (!line.get<std::string>().empty()) text.lines.push_back(line);
            for (const Json& note : page.value("notes", Json::array())) text.lines.push_back(note.at("text"));
            out.push_back(std::move(text));
        }
    }
    return out;
}

Result<std::map<std::vector<std::string>, std::vector<PageId>>> make_demo_library(Library& library) {
    const auto known = library.notebooks();
    if (!known) return known.error();
    if (!known->empty())
        return Error{"The library " + library.directory().string() +
                     " has notebooks already; the demonstration needs an empty one."};
    const auto json = sources();
    if (!json) return json.error();
    std::mt19937 random(kSeed);
    std::map<std::vector<std::string>, std::vector<PageId>> made;
    for (const Json& source : json->at("notebooks")) {
        Notebook notebook;
        notebook.title = source.at("title");
        notebook.cover = colour_of(source.at("cover"));
        notebook.cover_pattern = pattern_of(source.value("pattern", ""));
        notebook.languages = language_codes(source.at("language"));
        Sheet& sheet = notebook.sheet;
        sheet.paper = source.at("paper") == "ruled" ? Paper::margined : Paper::plain;
        sheet.width_mm = source.at("size")[0];
        sheet.height_mm = source.at("size")[1];
        sheet.spacing_mm = kSpacingMm;
        std::vector<FilledPage> pages;
        for (const Json& page : source.at("pages")) {
            const auto hand = Hand::load(demo_directory() / "hands" / (page.at("hand").get<std::string>() + ".json"));
            if (!hand) return hand.error();
            FilledPage filled;
            filled.info = {sheet, 0, 0, 0, morning_of(page.at("day")), page.value("title", "")};
            // A page that came later has chances of its own, so that the ink of those before it stays what it was.
            std::mt19937 own(page.value("seed", kSeed));
            std::vector<Stroke> strokes = strokes_of(page, *hand, filled.info, page.contains("seed") ? own : random);
            if (page.value("scan", false)) {
                const auto file = library.add_file(scanned(strokes, filled.info));
                if (!file) return file.error();
                filled.info.paper = Paper::plain;
                filled.content.pictures = {
                    {0, *file, "school-walk.jpg", 0, Box::of(0, 0, sheet.width_mm, sheet.height_mm)}};
            } else {
                filled.content.strokes = std::move(strokes);
                filled.content.plots = plots_of(page);
            }
            pages.push_back(std::move(filled));
        }
        const auto add = [&]() -> Result<std::vector<PageId>> {
            if (source.contains("addressed")) return capture(library, notebook, source["addressed"], pages);
            const auto id = library.add_notebook(notebook);
            if (!id) return id.error();
            return library.add_filled_pages(*id, pages);
        };
        const auto ids = add();
        if (!ids) return ids.error();
        if (Status status = put_in_order(library, source, *ids); !status) return status.error();
        if (source.contains("spoken"))
            if (Status status = speak(library, source["spoken"]); !status) return status.error();
        auto& same = made[notebook.languages];
        same.insert(same.end(), ids->begin(), ids->end());
    }
    std::vector<IntakeEntry> waiting;
    for (const Json& source : json->at("photographs")) {
        const auto bytes = photograph(source, random);
        if (!bytes) return bytes.error();
        const auto file = library.add_file(*bytes);
        if (!file) return file.error();
        IntakeEntry entry;
        entry.file = *file;
        entry.name = source.at("name");
        entry.width_mm = 210, entry.height_mm = 297;  // until they are looked at
        waiting.push_back(std::move(entry));
    }
    if (Status status = library.add_to_intake(waiting); !status) return status.error();
    return made;
}

}  // namespace fernleaf
