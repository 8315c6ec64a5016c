#include "math/formula_skills.h"

#include <algorithm>
#include <array>
#include <set>
#include <string_view>
#include <unordered_set>

#include "base/text.h"
#include "ink/ink_key.h"
#include "math/formula_grids.h"
#include "math/formula_parts.h"
#include "math/math_text.h"
#include "math/number_columns.h"
#include "math/page_values.h"
#include "math/parse_math.h"
#include "math/working_out.h"
#include "math/written_math.h"

namespace fernleaf {
namespace {

constexpr size_t kDoubtfulSigns = 6, kMostAlternatives = 5;
constexpr size_t kMostRemembered = 2000;
constexpr size_t kLettersOfWord = 3;                              // fewer stand in formulas, too
constexpr double kSureOfWord = 0.5;                               // what is read with less may be signs
constexpr double kMostlyDigits = 0.6;                             // of what a line says,
constexpr size_t kRowOfDigits = 5;                                // if it says so many
constexpr double kUnclear = 0.2;                                  // certainty of a line that may be no words at all
constexpr double kSureOfFormula = 0.2, kSureWithoutSense = 0.55;  // certainty of one that is found,
constexpr double kSureOfUnclear = 0.5;                            // and where only the words' unclearness tells of one
constexpr double kSureOfNumbers = 0.7;                            // of each word of a line of them
constexpr double kTogether = 0.5;              // of a line's height: between the parts of a formula in several
constexpr double kOfTall = 0.6;                // a stroke's share of its line's height
constexpr double kLeastLineMm = 5;             // of a line that is but a dash
constexpr double kLongest = 20, kHighest = 6;  // strokes beside it that may belong to it
constexpr double kLeastCertainty = 1e-6;
constexpr double kFlat = 0.12, kLeastBarMm = 3;  // a fraction's bar: height to width
constexpr uint64_t kMathSeed = 0x6d61746857ULL;

// The formula with one sign otherwise, the likeliest first: they share what certainty the formula leaves, by how likely
// the other sign is beside the one that was read.
std::vector<Alternative> alternatives_of(const FormulaReading& reading) {
    std::vector<std::string> signs;
    std::vector<size_t> doubtful;
    for (const ReadSign& sign : reading.signs) doubtful.push_back(signs.size()), signs.push_back(sign.latex);
    std::ranges::sort(doubtful, {}, [&](size_t i) { return reading.signs[i].certainty; });
    if (doubtful.size() > kDoubtfulSigns) doubtful.resize(kDoubtfulSigns);
    std::vector<Alternative> out;
    for (const size_t i : doubtful)
        for (const SignAlternative& other : reading.signs[i].alternatives) {
            std::vector<std::string> changed = signs;
            changed[i] = other.latex;
            Alternative formula{latex_with(reading.pattern, changed),
                                other.certainty / std::max(reading.signs[i].certainty, kLeastCertainty)};
            if (formula.text != reading.latex) out.push_back(std::move(formula));
        }
    std::ranges::stable_sort(out, std::greater{}, &Alternative::certainty);
    double all = kLeastCertainty;
    for (const Alternative& a : out) all += a.certainty;
    for (Alternative& a : out) a.certainty *= (1 - reading.certainty) / all;
    if (out.size() > kMostAlternatives) out.resize(kMostAlternatives);
    return out;
}

void take(ReadLine& line, const FormulaReading& reading, const std::vector<Stroke>& ink) {
    line.signs.clear();
    line.words = {{reading.latex, reading.certainty, line.box, line.ink, alternatives_of(reading)}};
    line.certainty = reading.certainty;
    for (const ReadSign& sign : reading.signs) {
        ReadWord word{sign.latex, sign.certainty, sign.box, {}, {}, sign.said};
        for (const size_t i : sign.strokes) word.strokes.push_back(ink[i].id);
        for (const SignAlternative& other : sign.alternatives)
            word.alternatives.push_back({other.latex, other.certainty});
        line.signs.push_back(std::move(word));
    }
}

// Whether it says something in words: then it is no formula.
bool says_words(const ReadLine& line) {
    const auto length = [](const std::u32string& letters) {
        const bool function = std::ranges::find(written_functions(), encode_utf8(letters)) != written_functions().end();
        return function ? 0 : letters.size();
    };
    return std::ranges::any_of(line.words, [&](const ReadWord& word) {
        std::u32string letters;
        size_t most = 0;
        for (const char32_t c : decode_utf8(word.text)) {
            if (is_letter(c))
                letters += c;
            else
                most = std::max(most, length(letters)), letters.clear();
        }
        most = std::max(most, length(letters));
        return most >= kLettersOfWord &&
               (word.certainty >= kSureOfWord || (most > 2 * kLettersOfWord && line.certainty >= kUnclear));
    });
}

// What tells of an operation or a relation in a line: a minus may be a dash, or stand in a date; what can't be read as
// words may be signs that the reader of lines does not know.
enum class Operation { none, unclear, minus, clear };

// Whether most of what a line says are digits: of rows of numbers some are read unclearly, or as < and >.
bool is_mostly_digits(const ReadLine& line) {
    size_t digits = 0, all = 0;
    for (const ReadWord& word : line.words)
        for (const char32_t c : decode_utf8(word.text)) all += c != U' ', digits += is_digit(c);
    return digits >= kRowOfDigits && static_cast<double>(digits) >= kMostlyDigits * static_cast<double>(all);
}

Operation operation_in(const ReadLine& line) {
    const bool numbers = is_mostly_digits(line);
    Operation out = line.certainty < kUnclear && !numbers ? Operation::unclear : Operation::none;
    for (const ReadWord& word : line.words) {
        for (const char* sign : {"=", "+", "×", "÷", "±", "√", "≈", "≤", "≥", "≠", "→", "∫", "∑"})
            if (word.text.find(sign) != std::string::npos) return Operation::clear;
        if (!numbers && word.text.find_first_of("<>") != std::string::npos) return Operation::clear;
        for (const char* sign : {"-", "–", "−", "_"})
            if (word.text.find(sign) != std::string::npos) out = std::max(out, Operation::minus);
    }
    return out;
}

// A level stroke with ink over and under it.
bool has_bar(const std::vector<Stroke>& ink) {
    for (const Stroke& bar : ink) {
        const Box box = bar.box();
        if (box.width() < kLeastBarMm || box.height() > kFlat * box.width()) continue;
        bool over = false, under = false;
        for (const Stroke& other : ink) {
            const Point middle = other.box().centre();
            if (&other == &bar || middle.x < box.left || middle.x > box.right) continue;
            over |= other.box().bottom < box.centre().y && middle.y > box.top - 2 * box.width();
            under |= other.box().top > box.centre().y && middle.y < box.bottom + 2 * box.width();
        }
        if (over && under) return true;
    }
    return false;
}

// Lines that may be a formula or part of one, and ink beside them.
struct Candidate {
    std::vector<size_t> lines;
    std::unordered_set<StrokeId> ink;
    Box box;
    double height = 0;  // of a line
    Operation operation = Operation::none;
    size_t read = 0;  // strokes that were read as words
};

bool belong_together(const Candidate& a, const Candidate& b) {
    const double height = std::min(a.height, b.height);
    return std::max(a.box.top, b.box.top) - std::min(a.box.bottom, b.box.bottom) < kTogether * height &&
           std::max(a.box.left, b.box.left) < std::min(a.box.right, b.box.right) + std::max(a.height, b.height);
}

void join_candidates(std::vector<Candidate>& all) {
    for (size_t i = 0; i < all.size(); ++i)
        for (size_t j = i + 1; j < all.size();) {
            Candidate &a = all[i], &b = all[j];
            if (!belong_together(a, b)) {
                ++j;
                continue;
            }
            a.lines.insert(a.lines.end(), b.lines.begin(), b.lines.end());
            a.ink.insert(b.ink.begin(), b.ink.end());
            a.box.include(b.box), a.operation = std::max(a.operation, b.operation);
            all.erase(all.begin() + static_cast<std::ptrdiff_t>(j));
            j = i + 1;  // it may reach others now
        }
}

std::vector<Candidate> candidates_in(const Reading& reading, const std::unordered_set<StrokeId>& spoken_of) {
    std::vector<Candidate> out;
    for (size_t i = 0; i < reading.lines.size(); ++i) {
        const ReadLine& line = reading.lines[i];
        if (line.kind != RegionKind::text || line.cell >= 0 || line.heading != 0 || line.words.empty()) continue;
        Candidate candidate{{i}, {}, line.box, std::max(line.box.height(), kLeastLineMm), operation_in(line)};
        bool of_ink = true;
        for (const ReadWord& word : line.words) {
            of_ink &= word.block == 0;
            candidate.ink.insert(word.strokes.begin(), word.strokes.end());
        }
        const bool spoken = std::ranges::any_of(candidate.ink, [&](StrokeId id) { return spoken_of.contains(id); });
        candidate.read = candidate.ink.size();
        if (of_ink && !candidate.ink.empty() && !spoken && !says_words(line)) out.push_back(std::move(candidate));
    }
    join_candidates(out);
    return out;
}

// Strokes that are in no line of words: a fraction's bar is taken for an underline, a root for a drawing.
std::vector<std::pair<StrokeId, Box>> loose_in(const Reading& reading, const std::vector<Stroke>& strokes,
                                               const std::unordered_set<StrokeId>& spoken_of) {
    std::unordered_set<StrokeId> held;
    for (const ReadLine& line : reading.lines) {
        for (const ReadWord& word : line.words) held.insert(word.strokes.begin(), word.strokes.end());
        if (line.kind != RegionKind::drawing) held.insert(line.ink.begin(), line.ink.end());
        if (line.table) held.insert(line.table->rules.begin(), line.table->rules.end());
    }
    std::vector<std::pair<StrokeId, Box>> out;
    for (const Stroke& s : strokes)
        if (!held.contains(s.id) && !spoken_of.contains(s.id)) out.emplace_back(s.id, s.box());
    return out;
}

// Candidates with an operation take what stands close to them, and what that brings together.
void gather_loose(std::vector<Candidate>& candidates, std::vector<std::pair<StrokeId, Box>> loose) {
    for (bool more = true; more && !loose.empty();) {
        more = false;
        for (Candidate& c : candidates) {
            if (c.operation == Operation::none) continue;
            const size_t before = loose.size();
            std::erase_if(loose, [&](const auto& stroke) {
                const auto& [id, box] = stroke;
                if (!c.box.grown(kTogether * std::max(c.height, box.height())).meets(box) ||
                    box.width() > kLongest * c.height || box.height() > kHighest * c.height)
                    return false;
                c.ink.insert(id);
                c.box.include(box);
                c.height = std::max(c.height, kOfTall * box.height());
                return true;
            });
            more |= loose.size() < before;
        }
        join_candidates(candidates);
    }
}

// What became part of a formula is no part of a drawing any more.
void leave_out_of_drawings(Reading& reading, const std::vector<ReadLine>& formulas) {
    std::unordered_set<StrokeId> taken;
    for (const ReadLine& line : formulas) taken.insert(line.ink.begin(), line.ink.end());
    const auto is_taken = [&](StrokeId id) { return taken.contains(id); };
    for (ReadLine& line : reading.lines) {
        if (line.kind != RegionKind::drawing) continue;
        std::erase_if(line.ink, is_taken);
        std::erase_if(line.shapes,
                      [&](const ReadShape& shape) { return std::ranges::any_of(shape.strokes, is_taken); });
    }
    std::erase_if(reading.lines, [](const ReadLine& line) {
        return line.kind == RegionKind::drawing && line.ink.empty() && line.shapes.empty();
    });
}

// Formulas take the place of the lines that they were read as before.
void put_in_place(Reading& reading, std::vector<ReadLine> formulas, const std::unordered_set<size_t>& lines) {
    if (formulas.empty()) return;
    size_t at = 0;
    std::erase_if(reading.lines, [&](const ReadLine&) { return lines.contains(at++); });
    leave_out_of_drawings(reading, formulas);
    for (ReadLine& formula : formulas) insert_regions(reading, {std::move(formula)});
}

// Whether it is more than a number or a name: something that is said, asked, or built.
bool is_telling(const MathTree& tree) {
    return holds(tree, MathKind::relation) || holds(tree, MathKind::asked) || holds(tree, MathKind::quotient) ||
           holds(tree, MathKind::power) || holds(tree, MathKind::call);
}

// Of a line of numbers and what stands between them, its signs in LaTeX; none: there is something else in it.
std::vector<std::string> arithmetic_in(const ReadLine& line) {
    static const std::vector<std::pair<std::string_view, const char*>> signs{
        {"×", "\\times"}, {"÷", "\\div"}, {"·", "\\cdot"}, {"–", "-"}, {"−", "-"}, {"±", "\\pm"}, {"≈", "\\approx"}};
    std::vector<std::string> out;
    for (const ReadWord& word : line.words)
        for (size_t i = 0; i < word.text.size();) {
            const auto sign =
                std::ranges::find_if(signs, [&](const auto& s) { return word.text.substr(i).starts_with(s.first); });
            if (sign != signs.end()) {
                out.emplace_back(sign->second), i += sign->first.size();
            } else if (std::string_view("0123456789.,+-=/<>()").find(word.text[i]) != std::string_view::npos) {
                out.emplace_back(1, word.text[i++]);
            } else {
                return {};
            }
        }
    return out;
}

void prefer_line(ReadLine& formula, const ReadLine& line, bool decimal_comma) {
    std::vector<std::string> signs = arithmetic_in(line);
    const bool sure = std::ranges::all_of(line.words, [](const ReadWord& w) { return w.certainty >= kSureOfNumbers; });
    const bool each = signs.size() == formula.signs.size();
    const bool said = std::ranges::any_of(formula.signs, &ReadWord::corrected);
    if (signs.empty() || !sure || (said && !each)) return;
    for (size_t i = 0; i < signs.size() && said; ++i)
        if (formula.signs[i].corrected) signs[i] = formula.signs[i].text;
    std::string numbers;
    for (const std::string& sign : signs) numbers += sign + (sign.size() > 1 && sign[0] == '\\' ? " " : "");
    numbers = trimmed(numbers);
    ReadWord& word = formula.words[0];
    if (numbers == word.text || !parse_math(numbers, decimal_comma)) return;
    if (!said) word.alternatives.insert(word.alternatives.begin(), {word.text, word.certainty * (1 - line.certainty)});
    word.text = numbers;
    word.certainty = formula.certainty = line.certainty;
    // Sign by sign where they are the same strokes.
    if (!each) formula.signs.clear();
    for (size_t i = 0; i < formula.signs.size(); ++i) formula.signs[i].text = signs[i];
}

// Whether it has more than signs beside one another.
bool is_built(const std::string& latex) {
    return std::ranges::any_of(std::array{"=", "^", "_", "\\frac", "\\sqrt", "\\le", "\\ge", "\\to", "\\in"},
                               [&](const char* sign) { return latex.find(sign) != std::string::npos; });
}

// Whether it asks something: what a value or a name is needs no working out.
bool asks(const MathTree& tree) {
    switch (tree.kind) {
        case MathKind::number:
        case MathKind::name:
            return false;
        case MathKind::relation:
            // V = πr²h tells something once the names have values.
            return value_given(tree) == nullptr;
        default:
            return true;
    }
}

}  // namespace

bool may_be_formula(const ReadLine& line) {
    return line.kind == RegionKind::text && line.cell < 0 && !line.words.empty() &&
           operation_in(line) != Operation::none && !says_words(line);
}

bool writes_decimal_comma(const std::vector<std::string>& languages) {
    static const std::set<std::string> with_point{"en", "ga", "cy"};
    return !languages.empty() && !with_point.contains(languages.front());
}

Result<std::unique_ptr<FormulaSkills>> FormulaSkills::load(const std::filesystem::path& directory) {
    auto weights = load_formula_weights(directory);
    if (!weights) return weights.error();
    return std::unique_ptr<FormulaSkills>(new FormulaSkills(*std::move(weights)));
}

namespace {

ReadLine math_line(const std::vector<Stroke>& ink) {
    ReadLine out;
    out.kind = RegionKind::math;
    out.certainty = 1;
    uint64_t hash = kMathSeed;
    for (const Stroke& s : ink) {
        out.ink.push_back(s.id);
        out.box.include(s.box());
        hash = mixed(hash, static_cast<uint64_t>(s.id));
    }
    out.input_signature = hash >> 1;
    return out;
}

// Whether what a person said some ink says is a formula.
bool is_formula(const std::string& text, bool decimal_comma) {
    const auto tree = parse_math(text, decimal_comma);
    return tree ? is_telling(*tree) : is_built(text) && written_math(text);
}

// Ink that a person said is a formula is one where whole lines are.
void take_said(Reading& reading, const std::vector<Stroke>& strokes, const std::vector<Correction>& corrections,
               bool decimal_comma) {
    for (const Correction& said : corrections) {
        if (!said.is_of_word() || said.strokes.empty() || !is_formula(said.text, decimal_comma)) continue;
        const std::unordered_set<StrokeId> ids(said.strokes.begin(), said.strokes.end());
        const auto is_said = [&](StrokeId id) { return ids.contains(id); };
        std::unordered_set<size_t> lines;
        bool whole = true;
        for (size_t i = 0; i < reading.lines.size(); ++i) {
            const ReadLine& line = reading.lines[i];
            if (line.kind != RegionKind::text) continue;
            size_t inside = 0, all = 0;
            for (const ReadWord& word : line.words) {
                inside += static_cast<size_t>(std::ranges::count_if(word.strokes, is_said));
                all += word.strokes.size();
            }
            if (inside == 0) continue;
            lines.insert(i);
            whole &= inside == all && line.cell < 0;
        }
        std::vector<Stroke> ink;
        for (const Stroke& s : strokes)
            if (ids.contains(s.id)) ink.push_back(s);
        const bool math = std::ranges::any_of(reading.lines, [&](const ReadLine& line) {
            return line.kind == RegionKind::math && std::ranges::any_of(line.ink, is_said);
        });
        if (!whole || math || ink.empty()) continue;
        ReadLine line = math_line(ink);
        line.words = {{said.text, 1, line.box, line.ink, {}, true}};
        put_in_place(reading, {std::move(line)}, lines);
    }
}

// The signs that a person corrected of which all strokes are there; the last said comes first.
std::vector<SaidSign> said_signs(const std::vector<Stroke>& ink, const std::vector<Correction>& corrections) {
    std::vector<SaidSign> out;
    for (size_t last = corrections.size(); last > 0; --last) {
        const Correction& said = corrections[last - 1];
        const auto sign = said.kind == InkClass::sign ? sign_named(said.text) : std::nullopt;
        if (!sign) continue;
        SaidSign found{{}, *sign};
        for (size_t i = 0; i < ink.size(); ++i)
            if (std::ranges::find(said.strokes, ink[i].id) != said.strokes.end()) found.strokes.push_back(i);
        if (!found.strokes.empty() && found.strokes.size() == said.strokes.size()) out.push_back(std::move(found));
    }
    return out;
}

}  // namespace

namespace {

// Numbers over a line become one line of math.
void take_columns(Reading& reading, const std::vector<Stroke>& strokes, const std::unordered_set<StrokeId>& spoken_of) {
    std::vector<ReadLine> found;
    std::unordered_set<size_t> gone;
    for (const NumberColumn& column : number_columns(reading, loose_in(reading, strokes, spoken_of))) {
        std::unordered_set<StrokeId> ids{column.line};
        for (const size_t i : column.lines)
            for (const ReadWord& word : reading.lines[i].words) ids.insert(word.strokes.begin(), word.strokes.end());
        if (std::ranges::any_of(ids, [&](StrokeId id) { return spoken_of.contains(id); })) continue;
        std::vector<Stroke> ink;
        for (const Stroke& s : strokes)
            if (ids.contains(s.id)) ink.push_back(s);
        ReadLine line = math_line(ink);
        line.certainty = column.certainty;
        line.words = {{column.latex, column.certainty, line.box, line.ink, {}}};
        found.push_back(std::move(line));
        gone.insert(column.lines.begin(), column.lines.end());
    }
    put_in_place(reading, std::move(found), gone);
}

}  // namespace

FormulaReading FormulaSkills::reading_of(const std::vector<Stroke>& ink, const std::vector<Correction>& corrections,
                                         const CancelToken& cancel) {
    std::vector<const Stroke*> strokes;
    for (const Stroke& s : ink) strokes.push_back(&s);
    const std::vector<SaidSign> said = said_signs(ink, corrections);
    uint64_t key = ink_key(strokes);
    for (const SaidSign& sign : said) {
        key = mixed(key, sign.sign);
        for (const size_t i : sign.strokes) key = mixed(key, i);
    }
    if (const auto known = readings_.find(key); known != readings_.end()) return known->second;
    if (readings_.size() > kMostRemembered) readings_.clear();
    auto grid = read_grid(ink, *weights_, cancel, said);
    FormulaReading fresh = grid ? *std::move(grid) : read_formula(ink, *weights_, cancel, said);
    if (!cancel.cancelled()) readings_[key] = fresh;  // what was broken off would stay so
    return fresh;
}

void FormulaSkills::find(Reading& reading, const std::vector<Stroke>& strokes,
                         const std::vector<Correction>& corrections, bool decimal_comma, const CancelToken& cancel) {
    take_said(reading, strokes, corrections, decimal_comma);
    std::unordered_set<StrokeId> spoken_of;
    std::unordered_set<StrokeId> of_signs;  // a person corrected them: what they stand in is a formula
    for (const Correction& c : corrections)
        (c.kind == InkClass::sign ? of_signs : spoken_of).insert(c.strokes.begin(), c.strokes.end());
    take_columns(reading, strokes, spoken_of);
    std::vector<Candidate> candidates = candidates_in(reading, spoken_of);
    if (std::ranges::all_of(candidates, [](const Candidate& c) { return c.operation == Operation::none; })) return;
    gather_loose(candidates, loose_in(reading, strokes, spoken_of));
    std::vector<ReadLine> found;
    std::unordered_set<size_t> gone;
    for (const Candidate& candidate : candidates) {
        if (cancel.cancelled()) return;
        std::vector<Stroke> ink;
        for (const Stroke& s : strokes)
            if (candidate.ink.contains(s.id)) ink.push_back(s);
        if (ink.empty() || ink.size() > kMostFormulaStrokes ||
            (candidate.operation == Operation::none && !has_bar(ink)))
            continue;
        const FormulaReading formula = reading_of(ink, corrections, cancel);
        if (cancel.cancelled()) return;
        // Whichever sign parts the decimals: it is a formula, though perhaps one that is not worked out.
        auto tree = parse_math(formula.latex, decimal_comma);
        if (!tree) tree = parse_math(formula.latex, !decimal_comma);
        const bool said = std::ranges::any_of(ink, [&](const Stroke& s) { return of_signs.contains(s.id); });
        if (!said && candidate.operation == Operation::minus && !has_bar(ink) &&
            !(tree && (holds(*tree, MathKind::relation) || holds(*tree, MathKind::asked))))
            continue;
        // What makes sense need not be read as surely as what only looks so.
        const bool unclear = candidate.operation == Operation::unclear && !has_bar(ink);
        const bool adds = tree && candidate.operation == Operation::clear && holds(*tree, MathKind::sum) &&
                          formula.certainty >= kSureWithoutSense;
        const bool doubtful = unclear ? !tree || !is_telling(*tree) || formula.certainty < kSureOfUnclear
                              : tree  ? formula.certainty < kSureOfFormula || !is_telling(*tree)
                                      : formula.certainty < kSureWithoutSense || !is_built(formula.latex);
        if (said ? formula.latex.empty() : doubtful && !adds) continue;
        ReadLine line = math_line(ink);
        take(line, formula, ink);
        // Numbers in a line the reader of lines reads better, if it has seen all of them.
        if (candidate.lines.size() == 1 && ink.size() == candidate.read)
            prefer_line(line, reading.lines[candidate.lines[0]], decimal_comma);
        found.push_back(std::move(line));
        gone.insert(candidate.lines.begin(), candidate.lines.end());
    }
    put_in_place(reading, std::move(found), gone);
}

void FormulaSkills::read(Reading& reading, const std::vector<Stroke>& strokes,
                         const std::vector<Correction>& corrections, const CancelToken& cancel) {
    std::unordered_map<StrokeId, const Stroke*> by_id;
    for (ReadLine& line : reading.lines) {
        if (line.kind != RegionKind::math || !line.words.empty() || cancel.cancelled()) continue;
        if (by_id.empty())
            for (const Stroke& s : strokes) by_id[s.id] = &s;
        std::vector<Stroke> ink;
        for (const StrokeId id : line.ink)
            if (const auto found = by_id.find(id); found != by_id.end()) ink.push_back(*found->second);
        const FormulaReading formula = reading_of(ink, corrections, cancel);
        if (!formula.latex.empty()) take(line, formula, ink);
    }
}

void FormulaSkills::work_out(Reading& reading, bool decimal_comma, const CancelToken& cancel,
                             const WorkingManner& manner, const std::vector<std::string>& earlier_formulas) {
    PageValues values;
    for (const std::string& formula : earlier_formulas)
        if (const auto tree = parse_math(formula, decimal_comma)) values.take(*tree);
    if (results_.size() > kMostRemembered) results_.clear();
    WorkingSettings settings{manner, {}};
    const std::string how = std::to_string(static_cast<int>(manner.angle)) + '/' + std::to_string(manner.digits) +
                            (manner.exact ? "e" : "d") + ' ';
    for (ReadLine& line : reading.lines) {
        if (line.kind != RegionKind::math) continue;
        line.result.clear();
        if (line.words.empty() || cancel.cancelled()) continue;
        const auto tree = parse_math(line.words[0].text, decimal_comma);
        if (!tree) continue;
        const MathTree* given = value_given(*tree);
        // A name's value is shown where it had to be found.
        const bool finds =
            given && given->kind != MathKind::number &&
            std::ranges::all_of(unknowns_in(*given), [&](const std::string& n) { return values.hold(n); });
        if (asks(*tree) || finds) {
            const MathTree& asked = finds ? *given : *tree;
            const std::string key = how + math_text(asked) + values.told();
            auto found = results_.find(key);
            if (found == results_.end()) {
                settings.values = values.by_name();
                const WorkedOut out = fernleaf::work_out(asked, settings, cancel);
                if (cancel.cancelled()) continue;
                // That a + 1 is a + 1 says nothing.
                const MathTree& left = asked.kind == MathKind::asked ? asked.parts[0] : asked;
                const bool same = out.exact == math_text(left) && out.decimal.empty();
                found = results_.emplace(key, same ? std::string() : out.text()).first;
            }
            line.result = found->second;
        }
        values.take(*tree);
    }
}

}  // namespace fernleaf
