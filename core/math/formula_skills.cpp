#include "math/formula_skills.h"

#include <algorithm>
#include <array>
#include <cctype>
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
#include "math/quantities.h"
#include "math/sign_form.h"
#include "math/working_out.h"
#include "math/written_math.h"

namespace fernleaf {
namespace {

constexpr size_t kDoubtfulSigns = 6, kMostAlternatives = 5;
constexpr size_t kMostRemembered = 2000;
constexpr size_t kLettersOfWord = 3;                              // fewer stand in formulas, too
constexpr size_t kLettersSpelt = 4;                               // beside one another: a word, sign by sign
constexpr double kSureOfWord = 0.5;                               // what is read with less may be signs
constexpr double kSureOfShortWord = 0.8;                          // of two letters, which may be signs as well
constexpr double kMostlyDigits = 0.6;                             // of what a line says,
constexpr size_t kRowOfDigits = 5;                                // if it says so many
constexpr double kUnclear = 0.2;                                  // certainty of a line that may be no words at all
constexpr double kSureOfFormula = 0.2, kSureWithoutSense = 0.55;  // certainty of one that is found,
constexpr double kSureOfUnclear = 0.5;                            // and where only the words' unclearness tells of one
constexpr double kSureOfNumbers = 0.7;                            // of each word of a line of them
constexpr double kTogether = 0.5;              // of a line's height: between the parts of a formula in several
constexpr double kNextLine = 1.5;              // likewise, to the next line of a derivation
constexpr double kOfTall = 0.6;                // a stroke's share of its line's height
constexpr double kLeastLineMm = 5;             // of a line that is but a dash
constexpr double kLongest = 20, kHighest = 6;  // strokes beside it that may belong to it
constexpr double kLeastCertainty = 1e-6;
constexpr double kFlat = 0.12, kLeastBarMm = 3;  // a fraction's bar: height to width
constexpr double kLevel = 0.3, kLikeLength = 0.6, kLeastEquality = 0.08,
                 kBarsApart = 1;  // of a sign of equality's bars
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

// Words of a line that a formula takes the place of: from the first to before the last; all of them, mostly.
struct LinePart {
    size_t line = 0, from = 0, to = 0;
};

// Lines or parts of such that may be a formula or part of one, and ink beside them.
struct Candidate {
    std::vector<LinePart> parts;
    std::unordered_set<StrokeId> ink;
    Box box;
    double height = 0;  // of a line
    Operation operation = Operation::none;
    size_t read = 0;            // strokes that were read as words
    bool within_words = false;  // beside others of its line
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
            a.parts.insert(a.parts.end(), b.parts.begin(), b.parts.end());
            a.ink.insert(b.ink.begin(), b.ink.end());
            a.box.include(b.box), a.operation = std::max(a.operation, b.operation);
            a.read += b.read, a.within_words |= b.within_words;
            all.erase(all.begin() + static_cast<std::ptrdiff_t>(j));
            j = i + 1;  // it may reach others now
        }
}

// Whether a word stands in formulas as well: numbers, signs, letters, units, names of functions.
bool may_stand_in_formula(const ReadWord& word) {
    size_t letters = 0;
    std::string run;
    for (const char32_t c : decode_utf8(word.text)) {
        if (c == U':' || c == U';') return false;
        letters += is_letter(c);
        if (is_letter(c)) run += encode_utf8({&c, 1});
    }
    const bool function = std::ranges::find(written_functions(), run) != written_functions().end();
    return letters < 2 || is_unit(run) || function ||
           (letters < kLettersOfWord && letters < decode_utf8(word.text).size());
}

using StrokesById = std::unordered_map<StrokeId, const Stroke*>;

// Two level strokes of like length over one another with nothing else between: a sign of equality, whatever it was read
// as.
bool is_equality(const Box& upper, const Box& lower, double height) {
    const double width = std::max(upper.width(), lower.width()), least = std::min(upper.width(), lower.width());
    const double shared = std::min(upper.right, lower.right) - std::max(upper.left, lower.left);
    const double apart = lower.centre().y - upper.centre().y;
    const auto level = [](const Box& box) { return box.height() <= kLevel * box.width(); };
    return level(upper) && level(lower) && least >= kLikeLength * width && shared >= kLikeLength * width &&
           width <= height && width >= kLeastEquality * height && apart > 0 && apart <= kBarsApart * width;
}

bool holds_equality(const ReadWord& word, double height, const StrokesById& strokes) {
    std::vector<Box> boxes;
    for (const StrokeId id : word.strokes)
        if (const auto found = strokes.find(id); found != strokes.end()) boxes.push_back(found->second->box());
    for (const Box& upper : boxes)
        for (const Box& lower : boxes) {
            if (!is_equality(upper, lower, height)) continue;
            Box both = upper;
            both.include(lower);
            const auto meeting = std::ranges::count_if(boxes, [&](const Box& box) { return box.meets(both); });
            if (meeting == 2) return true;
        }
    return false;
}

// The words about a sign of equality in a line that says words besides; none: it has no such sign, or several.
std::optional<LinePart> part_with_equality(const ReadLine& line, size_t number, const StrokesById& strokes) {
    const double height = std::max(line.box.height(), kLeastLineMm);
    const auto equals = [&](const ReadWord& word) {
        const bool reads_so = word.text.find('=') != std::string::npos && may_stand_in_formula(word);
        return reads_so || holds_equality(word, height, strokes);
    };
    const auto at = std::ranges::find_if(line.words, equals);
    if (at == line.words.end()) return {};
    auto from = at, to = at + 1;
    while (from != line.words.begin() && may_stand_in_formula(*(from - 1))) --from;
    while (to != line.words.end() && may_stand_in_formula(*to)) ++to;
    // "Need a 3 + 4": a letter before a number is a word.
    const auto is_letters = [](const ReadWord& word) { return std::ranges::all_of(decode_utf8(word.text), is_letter); };
    while (from != at && is_letters(*from) && !(from + 1)->text.empty() && is_digit((from + 1)->text[0])) ++from;
    if (std::any_of(to, line.words.end(), equals)) return {};
    return LinePart{number, static_cast<size_t>(from - line.words.begin()),
                    static_cast<size_t>(to - line.words.begin())};
}

// A line without short words at its ends that are read with certainty and stand in no formula: "so", "or".
LinePart without_short_words(const ReadLine& line, size_t number) {
    const auto is_sure = [](const ReadWord& word) {
        const std::u32string letters = decode_utf8(word.text);
        return word.certainty >= kSureOfShortWord && std::ranges::all_of(letters, is_letter) && letters.size() > 1 &&
               !may_stand_in_formula(word);
    };
    LinePart part{number, 0, line.words.size()};
    while (part.from + 1 < part.to && is_sure(line.words[part.from])) ++part.from;
    while (part.from + 1 < part.to && is_sure(line.words[part.to - 1])) --part.to;
    return part;
}

std::vector<Candidate> candidates_in(const Reading& reading, const std::vector<Stroke>& strokes,
                                     const std::unordered_set<StrokeId>& spoken_of) {
    std::vector<Candidate> out;
    StrokesById by_id;
    for (const Stroke& s : strokes) by_id[s.id] = &s;
    for (size_t i = 0; i < reading.lines.size(); ++i) {
        const ReadLine& line = reading.lines[i];
        if (line.kind != RegionKind::text || line.cell >= 0 || line.heading != 0 || line.words.empty()) continue;
        const bool words = says_words(line);
        const auto part = words ? part_with_equality(line, i, by_id) : std::optional(without_short_words(line, i));
        if (!part) continue;
        Candidate candidate{
            {*part}, {}, {}, std::max(line.box.height(), kLeastLineMm), words ? Operation::clear : operation_in(line)};
        bool of_ink = true;
        for (size_t w = part->from; w < part->to; ++w) {
            const ReadWord& word = line.words[w];
            of_ink &= word.block == 0;
            candidate.ink.insert(word.strokes.begin(), word.strokes.end());
            candidate.box.include(word.box);
        }
        const bool spoken = std::ranges::any_of(candidate.ink, [&](StrokeId id) { return spoken_of.contains(id); });
        candidate.read = candidate.ink.size();
        candidate.within_words = part->to - part->from < line.words.size();
        if (!candidate.within_words) candidate.box = line.box;
        if (of_ink && !candidate.ink.empty() && !spoken) out.push_back(std::move(candidate));
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

struct FoundFormula {
    ReadLine line;
    std::vector<LinePart> instead_of;
};

// Some words of a line by themselves. Its signature is another than that of them all, so that it is never taken for
// these.
ReadLine only_words(const ReadLine& line, size_t from, size_t to) {
    ReadLine out = line;
    out.words.assign(line.words.begin() + static_cast<std::ptrdiff_t>(from),
                     line.words.begin() + static_cast<std::ptrdiff_t>(to));
    out.input_signature = mixed(mixed(line.input_signature, from), to) >> 1;
    out.box = {};
    for (const ReadWord& word : out.words) out.box.include(word.box);
    return out;
}

// Formulas stand where the first of the lines stood that they were read as before, as regions of their own; what else a
// line says stands before and after.
void put_in_place(Reading& reading, std::vector<FoundFormula> formulas) {
    if (formulas.empty()) return;
    std::map<size_t, std::pair<LinePart, const ReadLine*>> instead;  // by line; the formula stands in the place of one
    std::vector<ReadLine> lines;
    for (FoundFormula& found : formulas) {
        std::ranges::sort(found.instead_of, {}, &LinePart::line);
        for (const LinePart& part : found.instead_of) instead[part.line] = {part, nullptr};
        lines.push_back(found.line);
        // Ink that was in no line has no place of its own.
        if (!found.instead_of.empty()) instead[found.instead_of.front().line].second = &found.line;
    }
    std::vector<ReadLine> before = std::exchange(reading.lines, {});
    int number = 0, earlier = 0;
    const auto add = [&](ReadLine line, int region, bool alone) {
        if (!reading.lines.empty() && (alone || region != earlier)) ++number;
        earlier = alone ? -1 : region;
        line.region = number;
        reading.lines.push_back(std::move(line));
    };
    for (size_t i = 0; i < before.size(); ++i) {
        const ReadLine& line = before[i];
        const auto found = instead.find(i);
        if (found == instead.end()) {
            add(line, line.region, false);
            continue;
        }
        const auto& [part, formula] = found->second;
        if (part.from > 0) add(only_words(line, 0, part.from), line.region, false);
        if (formula) add(*formula, line.region, true);
        if (part.to < line.words.size()) add(only_words(line, part.to, line.words.size()), line.region, false);
    }
    leave_out_of_drawings(reading, lines);
    for (FoundFormula& found : formulas)
        if (found.instead_of.empty()) insert_regions(reading, {std::move(found.line)});
}

LinePart whole_line(const Reading& reading, size_t line) { return {line, 0, reading.lines[line].words.size()}; }

// Whether it is more than a number or a name: something that is said, asked, or built.
bool is_telling(const MathTree& tree) {
    return holds(tree, MathKind::relation) || holds(tree, MathKind::asked) || holds(tree, MathKind::quotient) ||
           holds(tree, MathKind::power) || holds(tree, MathKind::call);
}

// Whether it is an equation, or asks for more than what a name is.
bool says_equal(const MathTree& tree) {
    return tree.kind == MathKind::relation || (tree.kind == MathKind::asked && tree.parts[0].kind != MathKind::name);
}

// Whether letters stand beside one another as in a word that was read sign by sign.
bool spells_word(const std::string& latex) {
    size_t run = 0;
    for (size_t i = 0; i < latex.size(); ++i) {
        const auto is_letter_at = [&](size_t k) {
            return k < latex.size() && std::isalpha(static_cast<unsigned char>(latex[k])) != 0;
        };
        if (latex[i] == '\\') {
            // A command, names of functions among them.
            while (is_letter_at(i + 1)) ++i;
            run = 0;
        } else {
            run = is_letter_at(i) ? run + 1 : latex[i] == ' ' ? run : 0;
        }
        if (run >= kLettersSpelt) return true;
    }
    return false;
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
        case MathKind::unit:
            return false;
        case MathKind::relation:
            // V = πr²h tells something once the names have values.
            return value_given(tree) == nullptr;
        default:
            return true;
    }
}

// Where in LaTeX its first relation stands that is in no group; npos: there is none.
size_t first_relation(const std::string& latex) {
    int depth = 0;
    for (size_t i = 0; i < latex.size(); ++i) {
        depth += latex[i] == '{', depth -= latex[i] == '}';
        if (depth != 0) continue;
        if (latex[i] == '=' || latex[i] == '<' || latex[i] == '>') return i;
        for (const std::string_view sign : {"\\le", "\\ge", "\\ne", "\\approx"}) {
            const size_t end = i + sign.size();
            if (latex.compare(i, sign.size(), sign) == 0 &&
                (end >= latex.size() || !std::isalpha(static_cast<unsigned char>(latex[end]))))
                return i;
        }
    }
    return std::string::npos;
}

// Whether a formula begins with its sign of a relation below another one, which it goes on with.
bool goes_on_below(const ReadLine& above, const ReadLine& below) {
    const auto is_read = [](const ReadLine& line) {
        return line.kind == RegionKind::math && line.words.size() == 1 && !line.words[0].corrected;
    };
    if (!is_read(above) || !is_read(below) || first_relation(below.words[0].text) != 0) return false;
    const double height = std::max(above.box.height(), below.box.height());
    const double gap = below.box.top - above.box.bottom;
    return gap > -kTogether * height && gap < kNextLine * height && below.box.left < above.box.right &&
           below.box.right > above.box.left;
}

// Two lines of a derivation set below one another by their signs.
std::string set_below(const std::string& above, const std::string& below) {
    static const std::string kBegin = "\\begin{aligned}", kEnd = "\\end{aligned}";
    std::string rows = above;
    if (above.starts_with(kBegin)) {
        rows = above.substr(kBegin.size(), above.size() - kBegin.size() - kEnd.size());
    } else if (const size_t at = first_relation(above); at != std::string::npos) {
        rows.insert(at, "&");
    } else {
        rows += "&";
    }
    return kBegin + rows + "\\\\&" + below + kEnd;
}

void join_derivations(Reading& reading) {
    for (size_t i = 0; i + 1 < reading.lines.size();) {
        ReadLine &above = reading.lines[i], &below = reading.lines[i + 1];
        if (!goes_on_below(above, below)) {
            ++i;
            continue;
        }
        ReadWord &word = above.words[0], &next = below.words[0];
        std::vector<Alternative> alternatives;
        for (const Alternative& a : word.alternatives)
            alternatives.push_back({set_below(a.text, next.text), a.certainty * next.certainty});
        for (const Alternative& a : next.alternatives)
            alternatives.push_back({set_below(word.text, a.text), a.certainty * word.certainty});
        std::ranges::stable_sort(alternatives, std::greater{}, &Alternative::certainty);
        if (alternatives.size() > kMostAlternatives) alternatives.resize(kMostAlternatives);
        word.alternatives = std::move(alternatives);
        word.text = set_below(word.text, next.text);
        word.certainty = above.certainty = std::min(word.certainty, next.certainty);
        above.box.include(below.box), word.box = above.box;
        above.input_signature = mixed(above.input_signature, below.input_signature) >> 1;
        std::ranges::copy(below.ink, std::back_inserter(above.ink));
        word.strokes = above.ink;
        // Either all signs are known or none is.
        if (above.signs.empty() || below.signs.empty()) above.signs.clear(), below.signs.clear();
        std::ranges::move(below.signs, std::back_inserter(above.signs));
        reading.lines.erase(reading.lines.begin() + static_cast<std::ptrdiff_t>(i) + 1);
    }
}

}  // namespace

bool may_be_formula(const ReadLine& line) {
    return line.kind == RegionKind::text && line.cell < 0 && !line.words.empty() &&
           (says_words(line) ? part_with_equality(line, 0, {}).has_value() : operation_in(line) != Operation::none);
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
        const auto tree = parse_math(said.text, decimal_comma);
        const bool equal = tree && says_equal(*tree);
        std::vector<LinePart> parts;
        bool whole = true;  // lines, or words beside one another that say an equation
        for (size_t i = 0; i < reading.lines.size(); ++i) {
            const ReadLine& line = reading.lines[i];
            if (line.kind != RegionKind::text) continue;
            LinePart part{i, line.words.size(), 0};
            size_t inside = 0;
            for (size_t w = 0; w < line.words.size(); ++w) {
                const auto& of = line.words[w].strokes;
                const auto said_of = static_cast<size_t>(std::ranges::count_if(of, is_said));
                whole &= said_of == 0 || said_of == of.size();
                if (said_of > 0) part.from = std::min(part.from, w), part.to = w + 1, ++inside;
            }
            if (inside == 0) continue;
            whole &= inside == part.to - part.from && (equal || inside == line.words.size()) && line.cell < 0;
            parts.push_back(part);
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
        put_in_place(reading, {{std::move(line), std::move(parts)}});
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
    std::vector<FoundFormula> found;
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
        std::vector<LinePart> parts;
        for (const size_t i : column.lines) parts.push_back(whole_line(reading, i));
        found.push_back({std::move(line), std::move(parts)});
    }
    put_in_place(reading, std::move(found));
}

}  // namespace

FormulaReading FormulaSkills::reading_of(const std::vector<Stroke>& ink, const std::vector<Correction>& corrections,
                                         const CancelToken& cancel) {
    std::vector<const Stroke*> strokes;
    for (const Stroke& s : ink) strokes.push_back(&s);
    const std::vector<SaidSign> said = said_signs(ink, corrections);
    learn(ink, said);
    uint64_t key = ink_key(strokes);
    for (const SaidSign& sign : said) {
        key = mixed(key, sign.sign);
        for (const size_t i : sign.strokes) key = mixed(key, i);
    }
    if (const auto known = readings_.find(key); known != readings_.end()) return known->second;
    if (readings_.size() > kMostRemembered) readings_.clear();
    auto grid = read_grid(ink, *weights_, cancel, said, &taught_);
    FormulaReading fresh = grid ? *std::move(grid) : read_formula(ink, *weights_, cancel, said, &taught_);
    if (!cancel.cancelled()) readings_[key] = fresh;  // what was broken off would stay so
    return fresh;
}

void FormulaSkills::learn(const std::vector<Stroke>& ink, const std::vector<SaidSign>& said) {
    if (said.empty() && taught_.empty()) return;
    std::vector<const Stroke*> all;
    std::unordered_set<StrokeId> ids;
    for (const Stroke& s : ink) all.push_back(&s), ids.insert(s.id);
    const double usual = usual_size(all);
    std::vector<TaughtSign> taught;
    for (const SaidSign& sign : said) {
        std::vector<const Stroke*> members;
        std::vector<StrokeId> strokes;
        for (const size_t i : sign.strokes) members.push_back(all[i]), strokes.push_back(ink[i].id);
        std::ranges::sort(strokes);
        // What was said last comes first.
        if (std::ranges::find(taught, strokes, &TaughtSign::strokes) == taught.end())
            taught.push_back({std::move(strokes), sign_form(members, usual), sign.sign});
    }
    if (taught_.take(ids, taught)) readings_.clear();  // other ink may read otherwise now
}

void FormulaSkills::learn(const Reading& reading, const std::vector<Stroke>& strokes,
                          const std::vector<Correction>& corrections) {
    for (const ReadLine& line : reading.lines) {
        if (line.kind != RegionKind::math) continue;
        const std::unordered_set<StrokeId> ids(line.ink.begin(), line.ink.end());
        std::vector<Stroke> ink;
        for (const Stroke& s : strokes)
            if (ids.contains(s.id) && !s.points.empty()) ink.push_back(s);
        if (!ink.empty()) learn(ink, said_signs(ink, corrections));
    }
}

void FormulaSkills::find(Reading& reading, const std::vector<Stroke>& strokes,
                         const std::vector<Correction>& corrections, bool decimal_comma, const CancelToken& cancel) {
    take_said(reading, strokes, corrections, decimal_comma);
    std::unordered_set<StrokeId> spoken_of;
    std::unordered_set<StrokeId> of_signs;  // a person corrected them: what they stand in is a formula
    for (const Correction& c : corrections)
        (c.kind == InkClass::sign ? of_signs : spoken_of).insert(c.strokes.begin(), c.strokes.end());
    take_columns(reading, strokes, spoken_of);
    std::vector<Candidate> candidates = candidates_in(reading, strokes, spoken_of);
    if (std::ranges::all_of(candidates, [](const Candidate& c) { return c.operation == Operation::none; })) return;
    gather_loose(candidates, loose_in(reading, strokes, spoken_of));
    std::vector<FoundFormula> found;
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
        if (!said && candidate.within_words && !(tree && says_equal(*tree))) continue;
        if (!said && spells_word(formula.latex)) continue;
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
        if (candidate.parts.size() == 1 && ink.size() == candidate.read) {
            const LinePart& part = candidate.parts[0];
            prefer_line(line, only_words(reading.lines[part.line], part.from, part.to), decimal_comma);
        }
        found.push_back({std::move(line), candidate.parts});
    }
    put_in_place(reading, std::move(found));
    join_derivations(reading);
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
        const auto read = parse_math(line.words[0].text, decimal_comma);
        if (!read) continue;
        const MathTree tree = with_units(*read, values.by_name());
        const MathTree* given = value_given(tree);
        // A name's value is shown where it had to be found; what is said besides, V = 3·4 = 12, is checked.
        const MathTree asked = given ? without_name(tree) : tree;
        const bool is_plain =
            given && tree.parts.size() == 2 && (given->kind == MathKind::number || is_quantity(*given));
        const bool finds = given && !is_plain && std::ranges::all_of(unknowns_in(asked), [&](const std::string& n) {
                               return values.hold(n);
                           });
        if (asks(tree) || finds) {
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
        values.take(*read);
    }
}

}  // namespace fernleaf
