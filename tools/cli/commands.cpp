#include "cli/commands.h"

#include <atomic>
#include <charconv>
#include <fstream>
#include <iomanip>
#include <iostream>
#include <map>
#include <nlohmann/json.hpp>
#include <thread>

#include "base/barrier.h"
#include "base/parallel.h"
#include "base/text.h"
#include "cli/library_at.h"
#include "cli/readers.h"
#include "cli/reading_json.h"
#include "demo/demo_library.h"
#include "drawing/drawing_reading.h"
#include "exchange/bundle.h"
#include "exchange/import.h"
#include "exchange/plain_text.h"
#include "exchange/scanner.h"
#include "exchange/tray.h"
#include "paper/page_reading.h"
#include "paper/sheet_picture.h"
#include "paper/upright.h"
#include "reading/models_directory.h"
#include "reading/reader.h"
#include "render/export.h"
#include "render/text_look.h"

namespace fernleaf {
namespace {

using Json = nlohmann::json;

constexpr char kImportTitle[] = "Imported";

Status read_pages(Library& library, const std::vector<PageId>& pages, const Reader& reader,
                  const ReadSettings& settings, PrintSkills* print, FormulaSkills* formulas) {
    const FileSource files = [&](const std::string& hash) { return library.file(hash); };
    Status out = Done{};
    for (const PageId id : pages) {
        const auto page = library.load_page(id);
        if (!page) return page.error();
        ReadSettings with = settings;
        if (with.working.earlier_values)
            if (auto formulas_before = library.formulas_before(id)) with.earlier_formulas = *std::move(formulas_before);
        const auto reading = guarded([&]() -> Result<Reading> {
            return read_page(*page, files, reader, with, {}, {}, {}, {}, print, nullptr, formulas);
        });
        Status status = reading ? library.save_reading(id, *reading, kWholeNow, outline_lines(read_drawing(*reading)))
                                : library.reading_failed(id);
        if (!reading) out = reading.error();
        if (!status) return status;
    }
    return out;
}

// Readers for several threads: each has one of its own, made when there is work for it.
class Readers {
public:
    explicit Readers(std::unique_ptr<Reader> first) {
        all_.push_back({std::move(first), print_skills(), formula_skills()});
    }
    const Reader& first() const { return *all_[0].reader; }
    PrintSkills* print() const { return all_[0].print.get(); }

    // Reads pages with what their notebook asks for.
    Status read(Library& library, const std::vector<PageId>& pages, const Preferences& preferences) {
        const size_t wanted = std::min<size_t>(std::max(1U, std::thread::hardware_concurrency()), pages.size());
        while (all_.size() < wanted) {
            auto reader = Reader::load(models_directory());
            if (!reader) return reader.error();
            all_.push_back({*std::move(reader), print_skills(), formula_skills()});
        }
        std::vector<Status> done(wanted, Status(Done{}));
        std::atomic<size_t> next = 0;
        in_parallel(
            wanted,
            [&](size_t n) {
                const ReadSettings settings = all_[n].reader->prepared(preferences);
                for (size_t i = next++; i < pages.size() && done[n]; i = next++)
                    done[n] = read_pages(library, {pages[i]}, *all_[n].reader, settings, all_[n].print.get(),
                                         all_[n].formulas.get());
            },
            wanted);
        for (const Status& status : done)
            if (!status) return status;
        return Done{};
    }

private:
    struct One {
        std::unique_ptr<Reader> reader;
        std::unique_ptr<PrintSkills> print;
        std::unique_ptr<FormulaSkills> formulas;
    };
    std::vector<One> all_;
};

}  // namespace

std::vector<int> page_numbers(const std::string& list) {
    std::vector<int> numbers;
    for (size_t at = 0; at <= list.size();) {
        const size_t comma = std::min(list.find(',', at), list.size());
        const char* end = list.data() + comma;
        int first = 0;
        auto [rest, problem] = std::from_chars(list.data() + at, end, first);
        int last = first;
        if (problem == std::errc() && rest != end && *rest == '-') {
            const auto range = std::from_chars(rest + 1, end, last);
            rest = range.ptr, problem = range.ec;
        }
        if (problem != std::errc() || rest != end || first < 1 || last < first || last > 1'000'000) return {};
        for (int n = first; n <= last; ++n) numbers.push_back(n);
        at = comma + 1;
    }
    return numbers;
}

namespace {

void tell_brought(const Library& library, const std::filesystem::path& input, size_t pages, NotebookId into) {
    const auto notebook = library.notebook(into);
    std::cout << input.string() << ": " << pages << (pages == 1 ? " page" : " pages") << " in "
              << (notebook ? notebook->title : std::string()) << '\n';
}

}  // namespace

int bundle_command(const LibraryOptions& options) {
    const auto library = existing_library(options.library);
    if (!library) return fail(library.error());
    const auto notebook = notebook_titled(**library, options.notebook);
    if (!notebook) return fail(notebook.error());
    const auto passphrase = passphrase_in(options.passphrase_file);
    if (!passphrase) return fail(passphrase.error());
    const Status written = write_bundle(**library, notebook->id, options.to, *passphrase);
    return written ? kAllDone : fail(written.error());
}

int import_command(const LibraryOptions& options) {
    const auto library = Library::open(options.library);
    if (!library) return fail(library.error());
    if ((*library)->why_read_only()) return fail({*(*library)->why_read_only()});
    Notebook notebook;
    notebook.title = options.notebook.empty() ? kImportTitle : options.notebook;
    if (const auto known = notebook_titled(**library, notebook.title)) notebook = *known;
    auto reader = ready_reader(notebook.languages);
    if (!reader) return fail(reader.error());
    Readers readers(*std::move(reader));
    const auto passphrase = passphrase_in(options.passphrase_file);
    if (!passphrase) return fail(passphrase.error());
    int status = kAllDone;
    for (const auto& input : options.inputs) {
        if (is_bundle(input)) {
            const auto brought = add_bundle(**library, input, options.notebook, *passphrase);
            if (!brought) {
                status = fail(brought.error());
                continue;
            }
            const auto preferences = (*library)->preferences(brought->notebook);
            if (!preferences) return fail(preferences.error());
            if (Status read = readers.read(**library, brought->pages, *preferences); !read) status = fail(read.error());
            tell_brought(**library, input, brought->pages.size(), brought->notebook);
            continue;
        }
        ReadSettings looking;
        looking.languages = notebook.languages;
        auto source = guarded([&] {
            return read_source(input, PictureUse::sheets, {}, {},
                               [&](const cv::Mat& page) { return upright_turns(page, readers.first(), looking); });
        });
        if (!source) {
            status = fail(source.error());
            continue;
        }
        set_resolution(*source, options.dpi);
        for (FilledPage& page : source->pages) lay_out_fresh(page.content);
        const bool addressed = source->all_addressed();
        if (notebook.id == 0 && !addressed) {  // not before there is something to put in
            const auto id = (*library)->add_notebook(notebook);
            if (!id) return fail(id.error());
            notebook.id = *id;
        }
        const auto pages = add_source(**library, notebook.id, *std::move(source));
        if (!pages) {
            status = fail({input.filename().string() + ": " + pages.error().message});
            continue;
        }
        // What a pen captured is in notebooks of its own.
        const auto first = (*library)->load_page(pages->front());
        if (!first) return fail(first.error());
        const auto preferences = (*library)->preferences(first->info.notebook);
        if (!preferences) return fail(preferences.error());
        if (Status read = readers.read(**library, *pages, *preferences); !read) status = fail(read.error());
        tell_brought(**library, input, pages->size(), first->info.notebook);
    }
    return status;
}

int list_command(const LibraryOptions& options) {
    const auto library = existing_library(options.library);
    if (!library) return fail(library.error());
    const auto notebooks = (*library)->notebooks();
    if (!notebooks) return fail(notebooks.error());
    Json all = Json::array();
    for (const Notebook& notebook : *notebooks) {
        const auto contents = (*library)->contents(notebook.id);
        if (!contents) return fail(contents.error());
        if (!options.json)
            std::cout << notebook.title << " (" << contents->size() << (contents->size() == 1 ? " page" : " pages")
                      << ", " << language_list(notebook.languages) << ")\n";
        Json pages = Json::array();
        for (const PageSummary& page : *contents) {
            if (options.json)
                pages.push_back({{"id", page.info.id},
                                 {"number", page.info.number},
                                 {"size_mm", {page.info.width_mm, page.info.height_mm}},
                                 {"created_ms", page.info.created_ms},
                                 {"title", page.info.title},
                                 {"first_line", page.first_line}});
            else
                std::cout << "  " << page.info.number << "  id " << page.info.id << "  " << page.first_line << '\n';
        }
        all.push_back({{"title", notebook.title},
                       {"id", notebook.id},
                       {"language", language_list(notebook.languages)},
                       {"pages", pages}});
    }
    if (options.json) std::cout << Json{{"notebooks", all}}.dump(1) << '\n';
    return kAllDone;
}

int find_command(const LibraryOptions& options) {
    const auto query = parse_query(options.query);
    if (!query) return fail(query.error());
    const auto library = existing_library(options.library);
    if (!library) return fail(library.error());
    const auto hits = (*library)->find(*query, static_cast<size_t>(options.limit));
    if (!hits) return fail(hits.error());
    Json all = Json::array();
    for (const Hit& hit : *hits) {
        if (!options.json) {
            std::cout << hit.notebook_title << " / " << hit.page_number << " / " << hit.line << " / " << std::fixed
                      << std::setprecision(2) << hit.certainty << '\n';
            continue;
        }
        Json boxes = Json::array();
        for (const Box& box : hit.boxes) boxes.push_back(box_json(box));
        all.push_back({{"notebook", hit.notebook_title},
                       {"page", hit.page_number},
                       {"page_id", hit.page},
                       {"line", hit.line},
                       {"certainty", hit.certainty},
                       {"boxes_mm", boxes}});
    }
    if (options.json) std::cout << Json{{"hits", all}}.dump(1) << '\n';
    return kAllDone;
}

int export_command(const LibraryOptions& options) {
    const auto library = existing_library(options.library);
    if (!library) return fail(library.error());
    if (options.to.extension() == ".fernleaf") {
        if (options.notebook.empty() || !options.pages.empty())
            return fail({"A bundle holds a whole notebook: name it with --notebook, without --pages."});
        return bundle_command(options);
    }
    std::vector<PageId> pages;
    if (options.notebook.empty()) {
        pages = {options.page};
    } else {
        const auto notebook = notebook_titled(**library, options.notebook);
        if (!notebook) return fail(notebook.error());
        auto chosen = pages_numbered(**library, *notebook, page_numbers(options.pages));
        if (!chosen) return fail(chosen.error());
        pages = *std::move(chosen);
    }
    if (Status status = export_pages(**library, pages, options.to, options.drawings); !status)
        return fail(status.error());
    return kAllDone;
}

int scan_command(const ScanOptions& options) {
    std::string device = options.device;
    if (options.list || device.empty()) {
        const auto there = scanners();
        if (!there) return fail(there.error());
        if (options.list)
            for (const ScannerInfo& one : *there) std::cout << one.device << '\t' << one.name << '\n';
        if (there->empty()) return fail({"No scanner was found. Connect one, or name it with --device."});
        if (options.list) return kAllDone;
        device = there->front().device;
    }
    const auto library = Library::open(options.library);
    if (!library) return fail(library.error());
    if ((*library)->why_read_only()) return fail({*(*library)->why_read_only()});
    ReadSettings settings;
    settings.languages = language_codes(options.languages);
    const auto reader = ready_reader(settings.languages);
    if (!reader) return fail(reader.error());
    size_t count = 0;
    const auto keep = [&](const ScannedSheet& sheet) -> Status {
        const auto entry = lay_in_tray(**library, sheet, "Scan " + std::to_string(count + 1));
        if (!entry) return entry.error();
        ++count;
        // Looked at right away, as the window does.
        const auto looked = find_sheets_of(
            **library, *entry, sheet, [&](const cv::Mat& page) { return upright_turns(page, **reader, settings); });
        return looked ? Status(Done{}) : Status(looked.error());
    };
    const auto scanned = scan({device, options.dpi, !options.grey, options.feeder}, keep);
    if (count > 0) std::cout << count << (count == 1 ? " sheet waits" : " sheets wait") << " in the intake tray\n";
    return scanned ? kAllDone : fail(scanned.error());
}

namespace {

// Reads what is left unread, each page with what its notebook asks for.
Status read_the_rest(Library& library) {
    const auto unread = library.unread();
    if (!unread) return unread.error();
    if (unread->empty()) return Done{};
    auto reader = Reader::load(models_directory());
    if (!reader) return reader.error();
    Readers readers(*std::move(reader));
    std::map<NotebookId, std::vector<PageId>> by_notebook;
    for (const PageId id : *unread) {
        const auto page = library.load_page(id);
        if (!page) return page.error();
        by_notebook[page->info.notebook].push_back(id);
    }
    for (const auto& [notebook, pages] : by_notebook) {
        const auto preferences = library.preferences(notebook);
        if (!preferences) return preferences.error();
        if (Status read = readers.read(library, pages, *preferences); !read) return read;
    }
    return Done{};
}

}  // namespace

int check_command(const LibraryOptions& options) {
    std::string beside;
    if (options.repair) {
        // Only what is wrong is mended: a library that is well stays as it is.
        bool well = false;
        if (const auto library = existing_library(options.library); library) {
            const auto wrong = (*library)->check();
            well = wrong && wrong->empty();
        }
        if (!well) {
            const auto mended = Library::repair(options.library);
            if (!mended) return fail(mended.error());
            beside = *mended;
        }
    }
    const auto library = existing_library(options.library);
    if (!library) return fail(library.error());
    if (options.repair)
        if (Status read = read_the_rest(**library); !read) return fail(read.error());
    if (!beside.empty())
        std::cout << "saved what could be saved; the library as it was is beside it as " << beside << '\n';
    const auto wrong = (*library)->check();
    if (!wrong) return fail(wrong.error());
    const auto unread = (*library)->unread();
    if (!unread) return fail(unread.error());
    for (const std::string& finding : *wrong) std::cout << finding << '\n';
    for (const PageId page : *unread) std::cout << "page " << page << ": not read yet\n";
    if (!wrong->empty() || !unread->empty()) return kSomeFailed;
    std::cout << "ok\n";
    return kAllDone;
}

int demo_command(const LibraryOptions& options) {
    const auto library = Library::open(options.library);
    if (!library) return fail(library.error());
    if ((*library)->why_read_only()) return fail({*(*library)->why_read_only()});
    const auto made = make_demo_library(**library);
    if (!made) return fail(made.error());
    auto reader = ready_reader({});
    if (!reader) return fail(reader.error());
    Readers readers(*std::move(reader));
    for (const auto& [languages, pages] : *made) {
        Preferences preferences;
        preferences.languages = languages;
        if (Status status = readers.read(**library, pages, preferences); !status) return fail(status.error());
    }
    return kAllDone;
}

}  // namespace fernleaf
