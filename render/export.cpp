#include "render/export.h"

#include <algorithm>
#include <limits>

#include "base/file.h"
#include "drawing/fair_drawing.h"
#include "exchange/diagram_file.h"
#include "exchange/formula_file.h"
#include "exchange/inkml.h"
#include "exchange/plain_text.h"
#include "exchange/table_file.h"
#include "math/page_values.h"
#include "render/page_picture.h"
#include "render/pdf.h"

namespace fernleaf {

namespace {

void draw_fair(Page& page, const Reading& reading) {
    // Numbers that no element of a library has: the shapes are on no page but this.
    const auto next = [id = std::numeric_limits<ElementId>::max() / 2]() mutable { return ++id; };
    apply(page, edit_of(drawn_fair(page.strokes, reading, nullptr, page.shapes, next), next));
}

template <typename Fair>
Status turn_back_to_ink(Page& page, const Library& library) {
    for (const Fair& fair : std::vector<Fair>(page.of<Fair>())) {
        if (fair.ink.empty()) continue;  // it was never ink
        auto ink = library.strokes(fair.ink);
        if (!ink) return ink.error();
        Edit edit{"Back to ink"};
        edit.removed.of<Fair>() = {fair};
        edit.added.strokes = *std::move(ink);
        edit.added = transformed(std::move(edit.added), fair.transform_since_set);
        apply(page, edit);
    }
    return Done{};
}

Status turn_back_to_ink(Page& page, const Library& library) {
    const Status status = turn_back_to_ink<FairShape>(page, library);
    return status ? turn_back_to_ink<FairTable>(page, library) : status;
}

}  // namespace

const std::vector<std::string>& export_endings() {
    static const std::vector<std::string> endings = {".pdf", ".txt",     ".inkml", ".png", ".svg", ".dot",
                                                     ".mmd", ".graphml", ".opml",  ".csv", ".tex"};
    return endings;
}

Status export_pages(const Library& library, const std::vector<PageId>& pages, const std::filesystem::path& path,
                    DrawingsAs drawings, const CancelToken& cancel, const Progress& progress) {
    const std::string ending = path.extension();
    if (std::ranges::find(export_endings(), ending) == export_endings().end())
        return Error{"\"" + path.filename().string() +
                     "\" does not end in a format that can be written: .pdf, .txt, .inkml, .png, .svg, "
                     ".dot, .mmd, .graphml, .opml, .csv or .tex."};
    std::vector<PageWithReading> loaded;
    for (const PageId id : pages) {
        auto page = library.load_page(id);
        if (!page) return page.error();
        auto reading = library.reading(id);
        if (!reading) return reading.error();
        if (drawings == DrawingsAs::fair) draw_fair(*page, *reading);
        if (drawings == DrawingsAs::drawn)
            if (Status status = turn_back_to_ink(*page, library); !status) return status;
        give_values(page->plots, *reading);
        loaded.push_back({*std::move(page), *std::move(reading)});
    }
    if (loaded.empty()) return Error{"There are no pages to export."};
    const FileSource files = [&](const std::string& hash) { return library.file(hash); };
    if (ending == ".png" || ending == ".svg") {
        if (loaded.size() > 1) return Error{"A picture holds one page. Choose the page to export, or export a PDF."};
        return ending == ".png" ? write_png(path, loaded.front().page, files)
                                : write_svg(path, loaded.front().page, files);
    }
    if (ending == ".pdf") {
        const auto notebook = library.notebook(loaded.front().page.info.notebook);
        return write_pdf(path, loaded, files, notebook ? notebook->title : "", cancel, progress);
    }
    std::vector<Page> ink;
    std::vector<Reading> readings;
    for (PageWithReading& p : loaded) {
        add_list_signs(p.reading, p.page.texts);
        ink.push_back(std::move(p.page));
        readings.push_back(std::move(p.reading));
    }
    if (cancel.cancelled()) return Error{"The export was cancelled."};
    if (ending == ".csv") {
        std::string text;
        for (const Reading& reading : readings)
            for (const TableWords& table : tables_of(reading))
                text += (text.empty() ? "" : "\r\n") + table_text(table, ending);
        if (text.empty()) return Error{"There is no table on these pages: no rules with words between them."};
        return write_whole(path, text);
    }
    if (ending == ".tex") {
        const std::string text = formulas_tex(readings);
        if (text.empty()) return Error{"There is no formula on these pages."};
        return write_whole(path, text);
    }
    if (ending != ".txt" && ending != ".inkml") {
        std::vector<DrawingReading> read;
        for (const Reading& reading : readings) read.push_back(read_drawing(reading));
        const std::string text = diagram_text(read, ending);
        if (text.empty())
            return Error{"There is no diagram on these pages: no figures with a line from one to another."};
        return write_whole(path, text);
    }
    return write_whole(path, ending == ".txt" ? plain_text(readings) : write_inkml(ink));
}

}  // namespace fernleaf
