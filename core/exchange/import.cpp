#include "exchange/import.h"

#include <fstream>
#include <iterator>
#include <mutex>
#include <optional>

#include "base/parallel.h"
#include "exchange/graph_import.h"
#include "exchange/inkml.h"
#include "exchange/table_import.h"
#include "exchange/unipen.h"
#include "paper/picture_file.h"
#include "store/codec.h"

namespace fernleaf {
namespace {

Result<std::string> bytes_of(const std::filesystem::path& path) {
    std::error_code problem;
    if (!std::filesystem::exists(path, problem)) return Error{"there is no such file"};
    if (!std::filesystem::is_regular_file(path, problem)) return Error{"it is not a file"};
    if (std::filesystem::file_size(path, problem) > kLargestSourceBytes)
        return Error{"the file is larger than " + std::to_string(kLargestSourceBytes / 1'000'000) + " MB"};
    std::ifstream in(path, std::ios::binary);
    std::string bytes(std::istreambuf_iterator<char>(in), {});
    if (!in.good() && !in.eof()) return Error{"the file can't be read; check its permissions"};
    if (bytes.empty() && std::filesystem::file_size(path, problem) > 0)
        return Error{"the file can't be read; check its permissions"};
    if (bytes.empty()) return Error{"the file is empty"};
    return bytes;
}

Result<SourceFile> ink_pages(const std::string& bytes) {
    auto sheets = looks_like_unipen(bytes) ? read_unipen(bytes) : read_inkml(bytes);
    if (!sheets) return sheets.error();
    SourceFile out;
    for (InkSheet& sheet : *sheets) {
        FilledPage page;
        page.info.width_mm = sheet.width_mm;
        page.info.height_mm = sheet.height_mm;
        page.info.paper = Paper::plain;
        page.content.strokes = std::move(sheet.strokes);
        out.pages.push_back(std::move(page));
        out.addresses.push_back(sheet.address);
    }
    if (std::ranges::none_of(out.addresses, [](const auto& a) { return a.has_value(); })) out.addresses.clear();
    out.captured_as = "file " + sha256(bytes);
    return out;
}

Result<SourceFile> drawn_page(const std::string& bytes, const CancelToken& cancel) {
    auto page = graph_page(bytes, cancel);
    if (!page) return page.error();
    SourceFile out;
    out.pages.push_back(*std::move(page));
    return out;
}

Result<SourceFile> tabled_pages(const std::string& bytes) {
    auto pages = table_pages(bytes);
    if (!pages) return pages.error();
    SourceFile out;
    out.pages = *std::move(pages);
    return out;
}

void add_page(SourceFile& out, const std::string& name, int frame, const Suggestion& sheet, SourceFile::Pixels pixels) {
    FilledPage page;
    const SheetForPicture laid = sheet_for_picture(sheet.width_mm, sheet.height_mm);
    page.info.width_mm = laid.width_mm;
    page.info.height_mm = laid.height_mm;
    page.info.paper = Paper::plain;
    page.info.colour = kWhitePaper;
    Picture picture{0, "", name, frame, laid.picture};
    picture.treatment = sheet.treatment;
    page.content.pictures = {std::move(picture)};
    out.pages.push_back(std::move(page));
    out.pixels.push_back(pixels);
    out.faults.push_back(sheet.faults);
}

Result<SourceFile> picture_pages(std::string bytes, const std::string& name, PictureUse use, const CancelToken& cancel,
                                 const Progress& progress, const FindUpright& find) {
    const auto sheets = probe_picture(bytes);
    if (!sheets) return sheets.error();
    const Error cancelled{"the import was cancelled"};
    struct Frame {
        std::vector<Suggestion> sheets;
        SourceFile::Pixels pixels;
        std::optional<Error> error = {};
    };
    std::vector<Frame> frames(sheets->size());
    std::mutex one_at_a_time;  // for who is asked and told
    size_t done = 0;
    const FindUpright upright = find ? FindUpright([&](const cv::Mat& page) {
        const std::lock_guard lock(one_at_a_time);
        return find(page);
    })
                                     : FindUpright();
    const auto look = [&](size_t i) {
        Frame& frame = frames[i];
        const SheetSize& size = (*sheets)[i];
        if (picture_kind(bytes) == PictureKind::pdf) {
            frame.sheets = {{{}, size.width_mm, size.height_mm, {}}};
            frame.pixels = {size.width_px, size.height_px};
        } else {
            if (cancel.cancelled()) return;
            // A header may promise what the rest does not hold; and a camera's picture may lie on its side.
            const auto pixels = decode_picture(bytes, static_cast<int>(i));
            if (!pixels) {
                frame.error = pixels.error();
                return;
            }
            frame.pixels = {pixels->cols, pixels->rows};
            if (use == PictureUse::as_they_are)
                frame.sheets = {{{}, size.width_mm, size.width_mm * pixels->rows / pixels->cols, {}}};
            else
                for (const Suggestion& sheet : suggested(*pixels, scan_dpi(bytes, static_cast<int>(i))))
                    frame.sheets.push_back(set_upright(*pixels, sheet, upright));
        }
        const std::lock_guard lock(one_at_a_time);
        if (progress) progress(static_cast<double>(++done) / static_cast<double>(sheets->size()));
    };
    in_parallel(frames.size(), look);
    if (cancel.cancelled()) return cancelled;
    SourceFile out;
    for (size_t i = 0; i < frames.size(); ++i) {
        if (frames[i].error) return *frames[i].error;
        for (const Suggestion& sheet : frames[i].sheets)
            add_page(out, name, static_cast<int>(i), sheet, frames[i].pixels);
    }
    out.picture_bytes = std::move(bytes);
    return out;
}

Error named(const std::filesystem::path& path, const Error& error) {
    return Error{path.filename().string() + ": " + error.message};
}

}  // namespace

Result<SourceFile> read_source(const std::filesystem::path& path, PictureUse use, const CancelToken& cancel,
                               const Progress& progress, const FindUpright& find) {
    auto bytes = bytes_of(path);
    if (!bytes) return named(path, bytes.error());
    const bool picture = picture_kind(*bytes) != PictureKind::unknown, graph = !picture && looks_like_graph(*bytes);
    const bool ink = !picture && !graph && (looks_like_unipen(*bytes) || looks_like_inkml(*bytes));
    const bool table = !picture && !graph && !ink && looks_like_table(*bytes, path.extension().string());
    if (!picture && !graph && !ink && !table)
        return named(path, Error{"it is neither ink (InkML, UNIPEN) nor a picture or page (PNG, JPEG, TIFF, WebP, "
                                 "PDF), a graph (DOT, GraphML, OPML) or a table (CSV)"});
    auto source = picture ? picture_pages(*std::move(bytes), path.filename().string(), use, cancel, progress, find)
                  : graph ? drawn_page(*bytes, cancel)
                  : table ? tabled_pages(*bytes)
                          : ink_pages(*bytes);
    if (!source) return named(path, source.error());
    return source;
}

void set_resolution(SourceFile& source, int dpi) {
    if (picture_kind(source.picture_bytes) != PictureKind::pdf) return;
    for (FilledPage& page : source.pages)
        for (Picture& picture : page.content.pictures) picture.treatment.dpi = dpi == kUsualDpi ? 0 : dpi;
    for (SourceFile::Pixels& size : source.pixels) size = {size.width * dpi / kUsualDpi, size.height * dpi / kUsualDpi};
}

Result<std::vector<PageId>> add_source(Library& library, NotebookId notebook, SourceFile source) {
    if (!source.picture_bytes.empty()) {
        const auto hash = library.add_file(source.picture_bytes);
        if (!hash) return hash.error();
        for (FilledPage& page : source.pages)
            for (Picture& picture : page.content.pictures) picture.file = *hash;
    }
    if (source.addresses.empty()) return library.add_filled_pages(notebook, source.pages);
    std::vector<CapturedStroke> strokes;
    std::vector<FilledPage> others;
    for (size_t i = 0; i < source.pages.size(); ++i) {
        if (!source.addresses[i]) {
            others.push_back(std::move(source.pages[i]));
            continue;
        }
        for (const Stroke& stroke : source.pages[i].content.strokes)
            for (CapturedStroke& part : captured(stroke, *source.addresses[i])) {
                part.number = strokes.size() + 1;
                strokes.push_back(std::move(part));
            }
    }
    const auto kept = library.keep_captures(source.captured_as, strokes);
    if (!kept) return kept.error();
    if (kept->pages.empty()) return Error{"it is in the library already"};
    std::vector<PageId> out;
    for (const KeptCaptures::OnPage& page : kept->pages) out.push_back(page.page);
    if (others.empty()) return out;
    const auto added = library.add_filled_pages(notebook, others);
    if (!added) return added.error();
    out.insert(out.end(), added->begin(), added->end());
    return out;
}

}  // namespace fernleaf
