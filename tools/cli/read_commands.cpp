// Reading files, and teaching by them.
#include <stdlib.h>  // mkdtemp

#include <algorithm>
#include <functional>
#include <iomanip>
#include <iostream>
#include <map>
#include <nlohmann/json.hpp>
#include <optional>
#include <set>
#include <unordered_map>
#include <utility>

#include "base/barrier.h"
#include "base/file.h"
#include "cli/commands.h"
#include "cli/drawing_json.h"
#include "cli/readers.h"
#include "cli/reading_json.h"
#include "drawing/drawing_reading.h"
#include "exchange/bundle.h"
#include "exchange/diagram_file.h"
#include "exchange/import.h"
#include "exchange/plain_text.h"
#include "paper/examples.h"
#include "paper/lifted_ink.h"
#include "paper/sheet_picture.h"
#include "paper/upright.h"
#include "render/text_look.h"
#include "transcript/table_by_gaps.h"

namespace fernleaf {
namespace {

using Json = nlohmann::json;

constexpr uintmax_t kLargestHand = 10'000'000;  // bytes

// The sheets on the page of a source, counted from 1: a picture in which none was found is one.
std::vector<ShownSheet> shown_sheets(const Page& page, const SourceFile& source, int number) {
    std::vector<ShownSheet> out;
    if (source.pixels.size() < static_cast<size_t>(number)) return out;  // pictures on a page, not of one
    for (const Picture& picture : page.pictures) {
        const auto [w, h] = source.pixels[static_cast<size_t>(number - 1)];
        const double right = w, bottom = h;
        const auto& outline = picture.treatment.outline;
        ShownSheet sheet{picture.box, outline
                                          ? outline->corners
                                          : std::array<Point, 4>{{{0, 0}, {right, 0}, {right, bottom}, {0, bottom}}}};
        // Turned clockwise, what was at the bottom left comes to the top left.
        const int turns = picture.treatment.quarter_turns & 3;
        std::rotate(sheet.corners.begin(), sheet.corners.end() - turns, sheet.corners.end());
        out.push_back(sheet);
    }
    return out;
}

// What is wrong with a photograph, for whoever can take it again; it is read nevertheless.
void tell_faults(const std::string& name, int page, const Faults& faults) {
    const auto tell = [&](bool fault, const char* what) {
        if (fault) std::cerr << "fernleaf-cli: " << name << ", page " << page << ": " << what << '\n';
    };
    tell(faults.no_sheet, "no sheet was found; the whole picture is read");
    tell(faults.blurred, "the picture is blurred");
    tell(faults.low_resolution, "the writing has too few pixels; move closer, or scan at 200 dpi or more");
    tell(faults.glare, "light washes out part of the sheet; take the picture from another angle, without flash");
    tell(faults.screen, "this looks like a picture of a screen; a screenshot is easier to read");
    tell(faults.creased, "the sheet is crumpled; flatten it and take the picture again if words are misread");
}

// A page as it was read; source and files are those of its input.
struct PageRead {
    const Page& page;
    const Reading& reading;
    const SourceFile& source;
    const FileSource& files;
    int number;                     // in its input, counted from 1
    const DrawingReading& drawing;  // empty where nothing is drawn; its words are not in the reading
    size_t first_stroke;            // strokes of the input's pages before
};

// A page read: what is drawn apart from what is written.
struct DrawnAndRead {
    Reading all;  // whose words the drawing names
    DrawingReading drawing;
    Reading written;  // without them
};

// What a person says with --as of all ink.
std::vector<Correction> said_of(const Page& page, ReadAs as) {
    static const std::map<ReadAs, InkClass> kinds{{ReadAs::text, InkClass::text},
                                                  {ReadAs::math, InkClass::math},
                                                  {ReadAs::drawing, InkClass::drawing},
                                                  {ReadAs::table, InkClass::table}};
    const auto said = kinds.find(as);
    if (said == kinds.end() || page.strokes.empty()) return {};
    return {said_to_be(page.strokes, said->second)};
}

// What is written in a page's pictures as its ink: to be read as ink is.
Page with_ink_lifted(Page page, const FileSource& files, const Reader& reader, const ReadSettings& settings) {
    for (const Picture& picture : std::exchange(page.pictures, {})) {
        const auto bytes = files(picture.file);
        const auto pixels = bytes ? picture_to_read(*bytes, picture) : Result<cv::Mat>(bytes.error());
        if (!pixels) continue;
        // Printed signs are signs, too.
        for (Stroke& stroke : lift_ink(*pixels, picture, reader, nullptr, settings).strokes) {
            stroke.id = static_cast<StrokeId>(page.strokes.size()) + 1;
            page.strokes.push_back(std::move(stroke));
        }
    }
    return page;
}

// as: a drawing is told as its shapes, whatever they would link.
DrawnAndRead with_drawing(Reading reading, ReadAs as) {
    DrawnAndRead out;
    out.all = std::move(reading);
    out.drawing = read_drawing(out.all);
    if (as == ReadAs::drawing) out.drawing = without_links(std::move(out.drawing));
    std::set<const ReadWord*> taken;
    if (out.drawing.is_diagram()) {
        for (const DrawnNode& node : out.drawing.nodes) taken.insert(node.words.begin(), node.words.end());
        for (const DrawnLink& link : out.drawing.links) taken.insert(link.words.begin(), link.words.end());
    }
    for (const ReadLine& line : out.all.lines) {
        if (!line.shapes.empty()) continue;  // told as a drawing
        ReadLine rest = line;
        std::erase_if(rest.words,
                      [&, i = size_t{0}](const ReadWord&) mutable { return taken.contains(&line.words[i++]); });
        if (!rest.words.empty() || line.words.empty()) out.written.lines.push_back(std::move(rest));
    }
    // Of a picture, whose rules are taken out before it is read, rows and columns are told by gaps alone.
    const auto is_text = [](const ReadLine& line) { return line.kind == RegionKind::text && !line.words.empty(); };
    if (as == ReadAs::table &&
        std::ranges::none_of(out.written.lines, [](const ReadLine& l) { return l.table.has_value(); }) &&
        std::ranges::any_of(out.written.lines, is_text)) {
        std::erase_if(out.written.lines, [&](const ReadLine& line) { return !is_text(line); });
        out.written.lines = table_by_gaps(out.written.lines);
    }
    return out;
}

// What an input holds, the files its pictures name, and what was said of its pages.
struct Input {
    SourceFile source;
    FileSource files;
    std::vector<std::vector<Correction>> said = {};  // a list a page, or none at all
};

// A bundle's pages, unpacked into a library that goes away again.
Result<Input> bundle_input(const std::filesystem::path& path) {
    std::string name = (std::filesystem::temp_directory_path() / "fernleaf-read-XXXXXX").string();
    if (!::mkdtemp(name.data())) return Error{"No folder can be made in " + name + "."};
    // Held by whoever asks for its files.
    const std::shared_ptr<const std::string> directory(new std::string(name), [](const std::string* gone) {
        std::error_code ignored;
        std::filesystem::remove_all(*gone, ignored);
        delete gone;
    });
    auto opened = Library::open(name);
    if (!opened) return opened.error();
    const std::shared_ptr<Library> library = *std::move(opened);
    const auto brought = add_bundle(*library, path);
    if (!brought) return brought.error();
    Input out;
    for (const PageId id : brought->pages) {
        auto page = library->load_page(id);
        if (!page) return page.error();
        auto said = library->corrections(id);
        if (!said) return said.error();
        out.said.push_back(*std::move(said));
        const PageInfo info = page->info;
        out.source.pages.push_back({info, static_cast<Elements&&>(*std::move(page))});
    }
    out.files = [library, directory](const std::string& hash) { return library->file(hash); };
    return out;
}

Result<Input> input_at(const std::filesystem::path& path, int dpi, const Reader& reader, const ReadSettings& settings) {
    if (is_bundle(path)) return bundle_input(path);
    auto source = read_source(path, PictureUse::sheets, {}, {},
                              [&](const cv::Mat& page) { return upright_turns(page, reader, settings); });
    if (!source) return source.error();
    set_resolution(*source, dpi);
    Input out{*std::move(source), {}};
    const auto bytes = std::make_shared<const std::string>(out.source.picture_bytes);
    out.files = [bytes](const std::string&) -> Result<std::string> { return *bytes; };
    return out;
}

// Counts a page's elements from 1, in the order of the file, and tells what was said of its strokes by those numbers.
void number_elements(Page& page, std::vector<Correction>& said) {
    std::unordered_map<ElementId, ElementId> next;
    ElementId id = 0;
    for_each_element(page, [&](auto& e) {
        ++id;
        next[e.id] = id;
        e.id = id;
    });
    for (Correction& correction : said)
        for (StrokeId& stroke : correction.strokes) stroke = next.contains(stroke) ? next[stroke] : -1;
}

// Reads every page of an input. What of it can't be read is told, and the rest done.
int read_input(const std::filesystem::path& input, int dpi, ReadAs as, const Reader& reader,
               const ReadSettings& settings, PrintSkills* print, FormulaSkills* formulas,
               const std::function<void(const PageRead&)>& take) {
    auto opened = guarded([&] { return input_at(input, dpi, reader, settings); });
    if (!opened) return fail(opened.error());
    SourceFile* source = &opened->source;
    const FileSource& files = opened->files;
    for (FilledPage& page : source->pages) lay_out_fresh(page.content);
    int status = kAllDone, number = 0;
    size_t first_stroke = 0;
    for (FilledPage& filled : source->pages) {
        Page page{std::move(filled.content), filled.info};
        std::vector<Correction> said;
        if (!opened->said.empty()) said = std::move(opened->said[static_cast<size_t>(number)]);
        number_elements(page, said);
        std::ranges::move(said_of(page, as), std::back_inserter(said));
        const auto read = guarded([&]() -> Result<DrawnAndRead> {
            std::optional<Page> lifted;
            if (as == ReadAs::math && !page.pictures.empty() && page.strokes.empty())
                lifted = with_ink_lifted(page, files, reader, settings);
            const Page& shown = lifted ? *lifted : page;
            return with_drawing(read_page(shown, files, reader, settings, {}, lifted ? said_of(shown, as) : said, {},
                                          {}, print, nullptr, formulas),
                                as);
        });
        ++number;
        if (static_cast<size_t>(number) <= source->faults.size())
            tell_faults(input.filename().string(), number, source->faults[static_cast<size_t>(number - 1)]);
        if (read)
            take({page, read->written, *source, files, number, read->drawing, first_stroke});
        else
            status =
                fail({input.filename().string() + ", page " + std::to_string(number) + ": " + read.error().message});
        first_stroke += page.strokes.size();
    }
    return status;
}

// A hand that was learnt; none for an empty path.
Result<std::shared_ptr<const AdaptedModel>> hand_in(const std::filesystem::path& path, const Reader& reader) {
    if (path.empty()) return std::shared_ptr<const AdaptedModel>();
    std::error_code none;
    const std::filesystem::path real = std::filesystem::canonical(path, none);  // a person may name it by a link
    const auto bytes = read_regular(none ? path : real, kLargestHand);
    if (!bytes) return bytes.error();
    auto hand = reader.hand(*bytes);
    if (!hand) return Error{path.string() + ": " + hand.error().message};
    return hand;
}

}  // namespace

int read_command(const ReadOptions& options) {
    ReadSettings settings;
    settings.languages = language_codes(options.languages);
    const auto reader = ready_reader(settings.languages);
    if (!reader) return fail(reader.error());
    if (options.language_weight >= 0) settings.language_weight = options.language_weight;
    auto words = lines_of_file(options.words);
    if (!words) return fail(words.error());
    settings.words = *std::move(words);
    auto hand = hand_in(options.hand, **reader);
    if (!hand) return fail(hand.error());
    settings.hand = *std::move(hand);

    const std::unique_ptr<PrintSkills> print = print_skills();
    const std::unique_ptr<FormulaSkills> formulas = formula_skills();
    int status = kAllDone;
    bool first_page = true;
    Json pages = Json::array();
    for (const auto& input : options.inputs) {
        const auto show = [&](const PageRead& read) {
            if (options.json) {
                pages.push_back(page_json(read.reading, read.page.info,
                                          shown_sheets(read.page, read.source, read.number), input.string(),
                                          read.number, read.first_stroke));
                if (!read.drawing.nodes.empty() || !read.drawing.loose.empty())
                    pages.back()["regions"].push_back(drawing_json(read.drawing, read.first_stroke));
            } else {
                if (!first_page) std::cout << '\f';
                const std::string text = plain_text(read.reading);
                std::cout << text;
                if (read.drawing.is_diagram())
                    std::cout << (text.empty() ? "" : "\n") << diagram_text({read.drawing}, ".dot");
                std::cout << std::flush;
            }
            first_page = false;
        };
        if (read_input(input, options.dpi, options.as, **reader, settings, print.get(), formulas.get(), show) !=
            kAllDone)
            status = kSomeFailed;
    }
    if (options.json) std::cout << Json{{"pages", pages}}.dump(1) << '\n';
    return status;
}

int teach_command(const TeachOptions& options) {
    ReadSettings settings;
    settings.languages = language_codes(options.languages);
    const auto reader = ready_reader(settings.languages);
    if (!reader) return fail(reader.error());
    const auto text = lines_of_file(options.words);
    if (!text) return fail(text.error());
    auto before = hand_in(options.from, **reader);
    if (!before) return fail(before.error());
    settings.hand = *before;

    std::vector<Example> examples;
    const auto gather = [&](const PageRead& read) {
        for (Example& line : copied_lines(read.page, read.files, read.reading, *text))
            examples.push_back(std::move(line));
    };
    if (const int status =
            read_input(options.input, options.dpi, ReadAs::automatic, **reader, settings, nullptr, nullptr, gather);
        status != kAllDone)
        return status;
    if (!enough_to_teach(examples))
        return fail({options.input.filename().string() + ": " + std::to_string(examples.size()) + " of " +
                     std::to_string(text->size()) +
                     " lines were found in it, too few to learn from. Write about ten lines or more."});
    const auto rehearsal = (*reader)->rehearsal();
    if (!rehearsal) return fail(rehearsal.error());
    const Network& network = *before ? *(*before)->network : (*reader)->network();
    const auto taught = teach(network, examples, *rehearsal);
    if (!taught) return fail(taught.error());
    if (Status kept = write_whole(options.to.string(), encode_head(taught->head, *network.weights())); !kept)
        return fail(kept.error());
    std::cout << std::fixed << std::setprecision(1) << taught->examples
              << " lines, letters wrong in a hundred: " << taught->errors_before << " before, " << taught->errors_after
              << " now\n";
    if (!taught->better()) std::cerr << "The reader already reads this hand as well as it can from these lines.\n";
    return kAllDone;
}

}  // namespace fernleaf
