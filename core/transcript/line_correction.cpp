// The words are aligned by their longest common subsequence (Wagner and Fischer 1974); between two words that stay are
// runs that differ. A run of as many words as were read is corrected word by word; any other is one correction of all
// of its ink, with a neighbour's where it has none.
#include "transcript/line_correction.h"

#include <algorithm>
#include <sstream>

namespace fernleaf {
namespace {

std::vector<std::string> words_of(const std::string& text) {
    std::istringstream in(text);
    std::vector<std::string> out;
    for (std::string word; in >> word;) out.push_back(word);
    return out;
}

struct Run {
    size_t read = 0, read_end = 0, said = 0, said_end = 0;
};

std::vector<Run> runs_that_differ(const std::vector<ReadWord>& read, const std::vector<std::string>& said) {
    const size_t n = read.size(), m = said.size();
    std::vector<std::vector<size_t>> common(n + 1, std::vector<size_t>(m + 1));  // from here to the ends
    for (size_t i = n; i-- > 0;)
        for (size_t j = m; j-- > 0;)
            common[i][j] =
                read[i].text == said[j] ? common[i + 1][j + 1] + 1 : std::max(common[i + 1][j], common[i][j + 1]);
    std::vector<Run> out;
    Run run;
    size_t i = 0, j = 0;
    const auto close = [&] {
        run.read_end = i, run.said_end = j;
        if (run.read != i || run.said != j) out.push_back(run);
    };
    while (i < n && j < m) {
        if (read[i].text == said[j]) {
            close();
            run = {++i, 0, ++j, 0};
        } else if (common[i + 1][j] >= common[i][j + 1]) {
            ++i;
        } else {
            ++j;
        }
    }
    i = n, j = m;
    close();
    return out;
}

}  // namespace

Result<std::vector<Correction>> corrections_of(const ReadLine& line, const std::string& text) {
    const std::vector<std::string> said = words_of(text);
    if (said.empty() || line.words.empty()) return Error{"Type what the line says."};
    std::vector<Correction> out;
    for (Run run : runs_that_differ(line.words, said)) {
        // Words that were not seen, and those that are none, go with the word before them, or the one behind.
        if (run.read == run.read_end || run.said == run.said_end) {
            if (run.read > 0 && run.said > 0)
                --run.read, --run.said;
            else
                ++run.read_end, ++run.said_end;
        }
        const bool each = run.read_end - run.read == run.said_end - run.said;
        Correction whole;
        for (size_t i = run.read; i < run.read_end; ++i) {
            const ReadWord& word = line.words[i];
            if (word.block != 0) return Error{"Typed words are changed where they stand on their page."};
            if (each) {
                out.push_back({word.strokes, word.box, said[run.said + i - run.read]});
                continue;
            }
            whole.strokes.insert(whole.strokes.end(), word.strokes.begin(), word.strokes.end());
            whole.box.include(word.box);
        }
        if (each) continue;
        for (size_t j = run.said; j < run.said_end; ++j) {
            if (!whole.text.empty()) whole.text += ' ';
            whole.text += said[j];
        }
        out.push_back(std::move(whole));
    }
    return out;
}

}  // namespace fernleaf
