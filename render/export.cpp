#include "render/export.h"

#include <algorithm>

#include "base/file.h"
#include "exchange/diagram_file.h"
#include "exchange/inkml.h"
#include "exchange/plain_text.h"
#include "exchange/table_file.h"
#include "render/pdf.h"

namespace fernleaf {

const std::vector<std::string>& export_endings() {
    static const std::vector<std::string> endings = {".pdf", ".txt", ".inkml", ".dot", ".mmd", ".graphml", ".csv"};
    return endings;
}

Status export_pages(const Library& library, const std::vector<PageId>& pages, const std::filesystem::path& path,
                    const CancelToken& cancel, const Progress& progress) {
    const std::string ending = path.extension();
    if (std::ranges::find(export_endings(), ending) == export_endings().end())
        return Error{"\"" + path.filename().string() +
                     "\" does not end in a format that can be written: .pdf, .txt, .inkml, .dot, .mmd, "
                     ".graphml or .csv."};
    std::vector<PageWithReading> loaded;
    for (const PageId id : pages) {
        auto page = library.load_page(id);
        if (!page) return page.error();
        auto reading = library.reading(id);
        if (!reading) return reading.error();
        loaded.push_back({*std::move(page), *std::move(reading)});
    }
    if (loaded.empty()) return Error{"There are no pages to export."};
    if (ending == ".pdf") {
        const auto notebook = library.notebook(loaded.front().page.info.notebook);
        const FileSource files = [&](const std::string& hash) { return library.file(hash); };
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
    if (ending != ".txt" && ending != ".inkml") {
        std::vector<DrawingReading> drawings;
        for (const Reading& reading : readings) drawings.push_back(read_drawing(reading));
        const std::string text = diagram_text(drawings, ending);
        if (text.empty())
            return Error{"There is no diagram on these pages: no figures with a line from one to another."};
        return write_whole(path, text);
    }
    return write_whole(path, ending == ".txt" ? plain_text(readings) : write_inkml(ink));
}

}  // namespace fernleaf
