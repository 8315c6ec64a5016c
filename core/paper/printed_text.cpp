#include "paper/printed_text.h"

#include <tesseract/baseapi.h>
#include <tesseract/resultiterator.h>

#include <array>
#include <cmath>
#include <map>
#include <mutex>
#include <opencv2/imgproc.hpp>

#include "base/text.h"
#include "reading/one_thread.h"

namespace fernleaf {
namespace {

// Of tesseract's data, by ISO 639-1.
const std::map<std::string, std::string> kNames{
    {"ca", "cat"}, {"cs", "ces"}, {"cy", "cym"}, {"da", "dan"}, {"de", "deu"}, {"en", "eng"},
    {"es", "spa"}, {"et", "est"}, {"eu", "eus"}, {"fi", "fin"}, {"fr", "fra"}, {"ga", "gle"},
    {"hr", "hrv"}, {"hu", "hun"}, {"id", "ind"}, {"is", "isl"}, {"it", "ita"}, {"lt", "lit"},
    {"lv", "lav"}, {"nl", "nld"}, {"no", "nor"}, {"pl", "pol"}, {"pt", "por"}, {"ro", "ron"},
    {"sk", "slk"}, {"sl", "slv"}, {"sv", "swe"}, {"tr", "tur"}, {"vi", "vie"}};

constexpr int kMarginPx = 12;  // of paper about a line: letters at the border are read badly
constexpr int kLineDpi = 300;
constexpr double kBlank = 200;  // grey level: a line without anything darker is blank

}  // namespace

class PrintReader::Engine {
public:
    std::vector<WordReading> read(const cv::Mat& line, const std::vector<std::string>& languages) {
        const std::lock_guard lock(mutex_);
        if (!ready_for(languages)) return {};
        const OneThread one;
        cv::Mat padded(line.rows + 2 * kMarginPx, line.cols + 2 * kMarginPx, CV_8U, cv::Scalar(255));
        line.copyTo(padded(cv::Rect(kMarginPx, kMarginPx, line.cols, line.rows)));
        tesseract_.SetImage(padded.data, padded.cols, padded.rows, 1, static_cast<int>(padded.step));
        tesseract_.SetSourceResolution(kLineDpi);
        std::vector<WordReading> out;
        if (tesseract_.Recognize(nullptr) != 0) return out;
        const std::unique_ptr<tesseract::ResultIterator> words(tesseract_.GetIterator());
        if (!words) return out;
        do {
            const std::unique_ptr<char[]> text(words->GetUTF8Text(tesseract::RIL_WORD));
            int left = 0, top = 0, right = 0, bottom = 0;
            if (!text || trimmed(text.get()).empty() ||
                !words->BoundingBox(tesseract::RIL_WORD, &left, &top, &right, &bottom))
                continue;
            out.push_back({text.get(),
                           std::clamp(words->Confidence(tesseract::RIL_WORD) / 100.0, 0.0, 1.0),
                           static_cast<double>(left - kMarginPx),
                           static_cast<double>(right - kMarginPx),
                           {}});
        } while (words->Next(tesseract::RIL_WORD));
        tesseract_.Clear();
        return out;
    }

private:
    // Data for some of the languages is better than for none; English is what is always installed.
    bool ready_for(const std::vector<std::string>& languages) {
        if (languages == languages_) return ready_;
        languages_ = languages;
        std::string wanted;
        for (const std::string& code : languages)
            if (const auto name = kNames.find(code); name != kNames.end())
                wanted += (wanted.empty() ? "" : "+") + name->second;
        for (const std::string& names : {wanted, std::string("eng")}) {
            ready_ = !names.empty() && tesseract_.Init(nullptr, names.c_str(), tesseract::OEM_LSTM_ONLY) == 0;
            if (ready_) break;
        }
        if (ready_) {
            tesseract_.SetPageSegMode(tesseract::PSM_SINGLE_LINE);
            tesseract_.SetVariable("debug_file", "/dev/null");
        }
        return ready_;
    }

    std::mutex mutex_;
    tesseract::TessBaseAPI tesseract_;
    std::vector<std::string> languages_;
    bool ready_ = false;
};

PrintReader::PrintReader() : engine_(std::make_unique<Engine>()) {}
PrintReader::~PrintReader() = default;

std::vector<WordReading> PrintReader::read(const cv::Mat& line, const std::vector<std::string>& languages) {
    double darkest = 255;
    if (!line.empty()) cv::minMaxLoc(line, &darkest);
    // On blank paper tesseract makes words of nothing.
    return darkest > kBlank ? std::vector<WordReading>() : engine_->read(line, languages);
}

Result<std::unique_ptr<PrintSkills>> PrintSkills::load(const std::filesystem::path& models) {
    auto teller = PrintTeller::load(models);
    if (!teller) return teller.error();
    return std::make_unique<PrintSkills>(*std::move(teller));
}

namespace {

constexpr double kChangeCost = 3.5;  // of the logarithm of odds: to go from writing to print or back within a line
// Writing read as print is worse than print read as writing, which the reader can do, too; and lifting leaves it.
constexpr double kPrintCost = 2;
// What the network sees as unclearly as that on most of a page is no writing: half of the lines of photographed hands
// have over 0.9, half of those of photographs without writing 0.13 (docs/paper.md).
constexpr double kLeastEvidence = 0.25;
constexpr size_t kLeastPattern = 60;    // words
constexpr double kTellingShare = 0.12;  // of the words
constexpr double kEnlarged = 2;         // tesseract reads best at letters of some 30 px
constexpr int kBesideColumns = 4;       // about printed words, taken along
constexpr double kSamePlace = 12;       // columns: so near begin and end words that are the same

// The likeliest kinds of a line's words. odds: the logarithms of the odds that each is printed.
std::vector<bool> kinds_of(const std::vector<double>& odds) {
    const size_t n = odds.size();
    std::vector<std::array<double, 2>> best(n);
    std::vector<std::array<int, 2>> from(n);
    for (size_t i = 0; i < n; ++i) {
        const double p = std::clamp(1 / (1 + std::exp(-odds[i])), 0.002, 0.998);
        for (const int kind : {0, 1}) {
            const double here = std::log(kind == 1 ? p : 1 - p);
            double same = 0, other = -kChangeCost;
            if (i > 0)
                same = best[i - 1][static_cast<size_t>(kind)],
                other = best[i - 1][static_cast<size_t>(1 - kind)] - kChangeCost;
            from[i][static_cast<size_t>(kind)] = other > same ? 1 - kind : kind;
            best[i][static_cast<size_t>(kind)] = here + std::max(same, other);
        }
        if (i == 0) best[0] = {std::log(1 - p), std::log(p)};
    }
    std::vector<bool> out(n);
    int kind = n > 0 && best[n - 1][1] > best[n - 1][0] ? 1 : 0;
    for (size_t i = n; i-- > 0;) out[i] = kind == 1, kind = from[i][static_cast<size_t>(kind)];
    return out;
}

double mean_certainty(const std::vector<WordReading>& words, size_t begin, size_t end) {
    double sum = 0;
    for (size_t i = begin; i < end; ++i) sum += words[i].certainty;
    return end > begin ? sum / static_cast<double>(end - begin) : 0;
}

// Puts tesseract's reading in the place of words that are printed. out: as the reader read it, all written.
void read_printed(const LinePicture& picture, const std::vector<bool>& kinds, PrintReader& print,
                  const ReadSettings& settings, AnyLineReading& out) {
    const std::vector<WordReading> written = std::move(out.line.words);
    out.line.words.clear();
    out.printed.clear();
    for (size_t begin = 0; begin < written.size();) {
        size_t end = begin + 1;
        while (end < written.size() && kinds[end] == kinds[begin]) ++end;
        std::vector<WordReading> words(written.begin() + static_cast<std::ptrdiff_t>(begin),
                                       written.begin() + static_cast<std::ptrdiff_t>(end));
        bool printed = kinds[begin];
        if (printed) {
            const int left = begin == 0 ? 0 : std::max(0, static_cast<int>(written[begin].begin) - kBesideColumns);
            const int right = end == written.size() ? picture.pixels.cols
                                                    : std::min(picture.pixels.cols,
                                                               static_cast<int>(written[end - 1].end) + kBesideColumns);
            cv::Mat large;
            cv::resize(255 - picture.pixels.colRange(left, std::max(left + 1, right)), large, {}, kEnlarged, kEnlarged,
                       cv::INTER_CUBIC);
            std::vector<WordReading> read = print.read(large, settings.languages);
            // Where tesseract can make nothing of it, it was no print.
            printed = !read.empty() && mean_certainty(read, 0, read.size()) > 0.5 * mean_certainty(written, begin, end);
            if (printed) {
                for (WordReading& word : read) {
                    word.begin = left + word.begin / kEnlarged;
                    word.end = left + word.end / kEnlarged;
                    // What the reader saw there stays to be chosen.
                    for (const WordReading& other : words)
                        if (std::abs(other.begin - word.begin) < kSamePlace &&
                            std::abs(other.end - word.end) < kSamePlace && other.text != word.text)
                            word.alternatives.push_back(
                                {other.text, std::min({other.certainty, word.certainty, 1 - word.certainty})});
                }
                words = std::move(read);
            }
        }
        out.printed.insert(out.printed.end(), words.size(), printed);
        std::ranges::move(words, std::back_inserter(out.line.words));
        begin = end;
    }
    out.line.certainty = certainty_of(out.line.words);
}

// Of half of all letters on a page at least.
double evidence_of_page(const std::vector<AnyLineReading>& lines) {
    std::vector<std::pair<double, double>> evidence;  // letters
    double all = 0, sum = 0;
    for (const AnyLineReading& line : lines) {
        double letters = 0;
        for (const WordReading& word : line.line.words) letters += static_cast<double>(word.text.size());
        if (letters > 0) evidence.emplace_back(line.line.evidence, letters);
        all += letters;
    }
    std::ranges::sort(evidence);
    for (const auto& [value, letters] : evidence)
        if (2 * (sum += letters) >= all) return value;
    return 1;
}

// A chessboard's or a cloth's signs, each like the next: of many words hardly one has two letters or digits that
// differ.
bool is_pattern(const std::vector<AnyLineReading>& lines) {
    size_t words = 0, telling = 0;
    for (const AnyLineReading& line : lines)
        for (const WordReading& word : line.line.words) {
            const std::u32string text = decode_utf8(word.text);
            const auto first = std::ranges::find_if(text, [](char32_t c) { return is_letter(c) || is_digit(c); });
            ++words;
            telling += std::any_of(first, text.end(),
                                   [&](char32_t c) { return c != *first && (is_letter(c) || is_digit(c)); });
        }
    return words >= kLeastPattern && static_cast<double>(telling) < kTellingShare * static_cast<double>(words);
}

}  // namespace

std::vector<AnyLineReading> read_scanned(const ScannedPage& page, const Reader& reader, PrintSkills* print,
                                         const ReadSettings& settings, const CancelToken& cancel,
                                         const Progress& progress) {
    const std::vector<ScanLine>& lines = page.lines;
    std::vector<AnyLineReading> out(lines.size());
    std::vector<std::vector<double>> odds(lines.size());
    std::vector<double> of_page;
    // With print each line is gone over twice, and the second time takes less.
    const double whole = (print ? 1.3 : 1) * static_cast<double>(lines.size());
    for (size_t i = 0; i < lines.size() && !cancel.cancelled(); ++i) {
        if (lines[i].drawing) continue;
        cv::Mat seen;
        out[i].line = reader.read(lines[i].picture, settings, print ? &seen : nullptr);
        const std::vector<WordReading>& words = out[i].line.words;
        out[i].printed.assign(words.size(), false);
        if (print) {
            const std::vector<std::vector<BaselineOffset>> offsets = offsets_about_words(page, lines[i], words);
            for (size_t w = 0; w < words.size(); ++w)
                odds[i].push_back(print->teller.printed(word_rows(seen, words[w]), offsets[w]));
            of_page.insert(of_page.end(), odds[i].begin(), odds[i].end());
        }
        if (progress) progress(static_cast<double>(i + 1) / whole);
    }
    if (evidence_of_page(out) < kLeastEvidence || is_pattern(out)) return std::vector<AnyLineReading>(lines.size());
    if (!print) return out;
    const double prior = page_prior(of_page);
    for (size_t i = 0; i < lines.size() && !cancel.cancelled(); ++i) {
        for (double& o : odds[i]) o += prior - kPrintCost;
        const std::vector<bool> kinds = kinds_of(odds[i]);
        if (std::ranges::count(kinds, true) > 0) read_printed(lines[i].picture, kinds, print->reader, settings, out[i]);
        if (progress) progress((static_cast<double>(lines.size()) + 0.3 * static_cast<double>(i + 1)) / whole);
    }
    return out;
}

}  // namespace fernleaf
