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
#include "document/page.h"
#include "reading/decoder.h"
#include "reading/network.h"
#include "reading/raster.h"
#include "reading/teaching.h"
#include "transcript/reading.h"

namespace fernleaf {

// A person's hand as the reader has learnt it.
struct AdaptedModel {
    std::unique_ptr<Network> network;
    uint64_t id = 0;  // differs between hands and between states of one
};

struct ReadSettings {
    std::vector<std::string> languages{"en"};        // a word may be of any of these
    double language_weight = 0.6;                    // what measures best, see docs/reading.md
    std::vector<std::string> words;                  // a person's or a notebook's own, UTF-8
    std::shared_ptr<const AdaptedModel> hand;        // none: the reader as it was trained
    WorkingManner working = {};                      // of formulas
    std::vector<std::string> earlier_formulas = {};  // LaTeX, whose values count, too
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
    double evidence = 0;   // how clearly the network sees its letters: the geometric mean of their probabilities
};

// Of a line, from those of its words: their geometric mean; 0 without words.
double certainty_of(const std::vector<WordReading>& words);

class Reader {
public:
    // models: the directory with reader.weights.gz and language/. A language whose data is missing is an
    // error of load_language, not of this.
    static Result<std::unique_ptr<Reader>> load(const std::filesystem::path& models);

    // Makes a language ready. Reading in a language that is not ready is literal.
    Status load_language(const std::string& code);
    std::vector<std::string> languages() const;  // codes of those whose data is there

    // What to read with, from what a notebook prefers: makes its languages ready, as far as their data is there, and
    // its hand, as far as it was learnt by this reader. Not safe beside other calls.
    ReadSettings prepared(const Preferences& preferences);

    // A hand from the bytes that encode_head made.
    Result<std::shared_ptr<const AdaptedModel>> hand(const std::string& bytes) const;
    const Network& network() const { return *network_; }
    // Lines of other hands to rehearse while a hand is learnt; read from disk each time.
    Result<std::vector<Example>> rehearsal() const { return load_rehearsal(models_); }

    // Whether any of these languages, made ready before, lists a word.
    bool knows(const std::vector<std::string>& languages, const std::string& word) const;

    // Safe to call from several threads. seen: what the network sees in the line, see Network::log_probabilities.
    LineReading read(const LinePicture& line, const ReadSettings& settings, cv::Mat* seen = nullptr) const;

private:
    Reader(std::unique_ptr<Network> network, std::filesystem::path models)
        : network_(std::move(network)), models_(std::move(models)) {}

    std::unique_ptr<Network> network_;
    std::filesystem::path models_;
    std::map<std::string, Language> ready_;
    std::string newest_hand_bytes_;  // of newest_hand_, so that it is not made anew for every reading
    std::shared_ptr<const AdaptedModel> newest_hand_;
};

}  // namespace fernleaf
