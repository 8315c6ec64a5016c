// Formulas of a page: what regions of math say, and what they come to.
//
//   auto skills = FormulaSkills::load(models_directory());
//   (*skills)->read(reading, page.strokes, {});    // words and signs of lines of kind math
//   (*skills)->work_out(reading, false);           // results, down the page
#pragma once

#include <filesystem>
#include <map>
#include <memory>
#include <string>
#include <unordered_map>
#include <vector>

#include "base/cancel.h"
#include "document/working_manner.h"
#include "math/formula_reading.h"
#include "transcript/reading.h"

namespace fernleaf {

// Whether 3,5 is a number for who writes in these languages; the first tells.
bool writes_decimal_comma(const std::vector<std::string>& languages);

// Whether a line of words may be a formula, hold one or be part of one: it says nothing in words, and something tells
// of an operation, or there is a sign of equality among its words.
bool may_be_formula(const ReadLine& line);

// Used by one thread at a time.
class FormulaSkills {
public:
    // Fails where the weights are missing or damaged.
    static Result<std::unique_ptr<FormulaSkills>> load(const std::filesystem::path& directory);

    // Lines of words that are formulas become lines of math: what has no words but signs of operations or relations,
    // or a fraction's bar, and reads as a formula that makes sense; lines that belong together, as the parts of a
    // fraction do, become one. An equation among words is parted from these; one that
    // begins with its sign below another goes on with it. What a person spoke of stays as it was
    // said. Strokes have ids. decimal_comma: whether 3,5 is a number.
    void find(Reading& reading, const std::vector<Stroke>& strokes, const std::vector<Correction>& corrections,
              bool decimal_comma, const CancelToken& cancel = {});

    // Lines of math that have no word yet get theirs, from the strokes that are shown for them; signs that a person
    // corrected are what was said.
    void read(Reading& reading, const std::vector<Stroke>& strokes, const std::vector<Correction>& corrections,
              const CancelToken& cancel = {});

    // What each line of math comes to, with the values that those above it give to names, and earlier_formulas before
    // them. Starts a process for each that was not worked out before.
    void work_out(Reading& reading, bool decimal_comma, const CancelToken& cancel = {},
                  const WorkingManner& manner = {}, const std::vector<std::string>& earlier_formulas = {});

    // What was corrected of signs on a page teaches how its writer makes them. reading: the page's; find() and read()
    // learn by themselves.
    void learn(const Reading& reading, const std::vector<Stroke>& strokes, const std::vector<Correction>& corrections);

private:
    explicit FormulaSkills(std::shared_ptr<const FormulaWeights> weights) : weights_(std::move(weights)) {}

    FormulaReading reading_of(const std::vector<Stroke>& ink, const std::vector<Correction>& corrections,
                              const CancelToken& cancel);
    void learn(const std::vector<Stroke>& ink, const std::vector<SaidSign>& said);

    std::shared_ptr<const FormulaWeights> weights_;
    std::unordered_map<uint64_t, FormulaReading> readings_;  // by where the ink is and what was said
    SignMemory taught_;
    std::map<std::string, std::string> results_;  // by formula, values and manner
};

}  // namespace fernleaf
