// Reads a line: picture in, words with certainty and alternatives out.
//
//   auto reader = Reader::load("models");
//   LineReading line = (*reader)->read(draw_line(strokes, slope), settings);
//
// The network scores the columns, the decoder finds the best text, a Viterbi alignment ties it back to columns, and
// each word is then decoded once more by itself, which gives its alternatives and how sure the reader is of it.
#pragma once

#include <filesystem>
#include <map>
#include <memory>
#include <string>
#include <vector>

#include "base/result.h"
#include "page/page.h"
#include "reading/decoder.h"
#include "reading/network.h"
#include "reading/raster.h"

namespace fernleaf {

struct ReadSettings {
    std::string language = "en";
    double lean = 0.6;  // what measures best, see docs/reading.md
    WordList words;
};

struct WordReading {
    std::string text;
    double certainty = 0;
    double begin = 0;  // columns of the line picture
    double end = 0;
    std::vector<Alternative> alternatives;
};

struct LineReading {
    std::vector<WordReading> words;
    double certainty = 0;  // of the least certain words, roughly: the geometric mean
};

class Reader {
public:
    // models: the directory with reader.onnx.gz, reader.json and language/. A language whose data is missing is an
    // error of load_language, not of this.
    static Result<std::unique_ptr<Reader>> load(const std::filesystem::path& models);

    // Makes a language ready. Reading in a language that is not ready is literal.
    Status load_language(const std::string& code);
    std::vector<std::string> languages() const;  // those whose data is there

    // Safe to call from several threads.
    LineReading read(const LinePicture& line, const ReadSettings& settings) const;

private:
    Reader(std::unique_ptr<Network> network, std::filesystem::path models)
        : network_(std::move(network)), models_(std::move(models)) {}

    std::unique_ptr<Network> network_;
    std::filesystem::path models_;
    std::map<std::string, Language> ready_;
};

}  // namespace fernleaf
