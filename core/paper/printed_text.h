// Reads printed text, by the library tesseract, and tells where in a line it stands.
//
//   auto print = PrintSkills::load("models");
//   std::vector<AnyLineReading> lines = read_scanned(scan_page(pixels), reader, print->get(), settings);
#pragma once

#include <memory>
#include <opencv2/core.hpp>
#include <string>
#include <vector>

#include "base/cancel.h"
#include "paper/print_teller.h"
#include "paper/scan_lines.h"
#include "reading/reader.h"

namespace fernleaf {

class PrintReader {
public:
    PrintReader();
    ~PrintReader();

    // Words of one line, with their columns in it and no alternatives; nothing where tesseract or its data for the
    // languages is missing. line: CV_8UC1, dark letters on light paper. Safe to call from several threads; calls run
    // one after the other.
    std::vector<WordReading> read(const cv::Mat& line, const std::vector<std::string>& languages);

private:
    class Engine;
    std::unique_ptr<Engine> engine_;
};

// What it takes to read pages with print on them.
struct PrintSkills {
    explicit PrintSkills(PrintTeller how) : teller(std::move(how)) {}
    PrintTeller teller;
    PrintReader reader;
    static Result<std::unique_ptr<PrintSkills>> load(const std::filesystem::path& models);
};

// A word of a line, and whether it was taken for print.
struct AnyLineReading {
    LineReading line;
    std::vector<bool> printed;
};

// Reads the lines of a page, which may be written, printed, or both by turns: written words by the reader, printed ones
// by tesseract. What stands for print alone is weighed along the line (Viterbi 1967): a word is of its neighbours' kind
// unless it clearly is not; and over the page (page_prior). Without print all is read as handwriting. One reading a
// line: drawings, and lines that were not come to when it was cancelled, have no words.
std::vector<AnyLineReading> read_scanned(const ScannedPage& page, const Reader& reader, PrintSkills* print,
                                         const ReadSettings& settings, const CancelToken& cancel = {},
                                         const Progress& progress = {});

}  // namespace fernleaf
