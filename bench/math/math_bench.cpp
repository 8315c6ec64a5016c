// Formulas: how well they are read from ink, and the data that the networks for it are trained on. They are made by
// chance (tools/drawn_formula.h) and written in hands.
//
//   math_bench HANDS formulas [--count N] [--seed N] [--careless X] [--kept-out] [--failures N]
//   math_bench HANDS taught [--count N] [--seed N]
//   math_bench HANDS found --lines TEXTS [--within] [--count N] [--seed N]
//   math_bench HANDS forms|places --to FILE [--count N] [--seed N]
//
// HANDS: a directory of hands (*.json). --within: equations stand behind words of their line, not by themselves.
// --kept-out: signs that hands lack are written in the forms that no training
// sees. forms and places write records for training/formula_nets.py: 16 bits with the label, then 32-bit floats.
#include <algorithm>
#include <array>
#include <chrono>
#include <cstdio>
#include <filesystem>
#include <fstream>
#include <functional>
#include <map>
#include <optional>
#include <string>

#include "bench/options.h"
#include "demo/chance.h"
#include "demo/drawn_formula.h"
#include "demo/drawn_sign.h"
#include "math/formula_parts.h"
#include "math/formula_reading.h"
#include "math/formula_skills.h"
#include "math/sign_form.h"
#include "math/sign_groups.h"
#include "math/sign_memory.h"
#include "paper/page_reading.h"
#include "reading/models_directory.h"

using namespace fernleaf;

namespace {

struct Bench {
    std::vector<Hand> hands;
    size_t count = 100, failures = 0;
    unsigned seed = 1;
    double careless = 1;
    bool kept_out = false, within = false;
    std::string to;
    std::vector<std::string> texts;
};

struct Drawn {
    std::string latex;
    WrittenFormula formula;
    std::vector<Stroke> strokes;
    double x_height_mm = 0;
};

bool is_whole(const WrittenFormula& f) {
    if (f.kind == WrittenFormula::Kind::sign && f.strokes.empty()) return false;  // the hand lacks it
    return std::ranges::all_of(f.parts, is_whole);
}

Drawn drawn_formula(const Bench& bench, const Hand& hand, std::mt19937& random) {
    Drawn out;
    Chance chance(random);
    while (out.strokes.empty() || out.strokes.size() > kMostFormulaStrokes || !is_whole(out.formula)) {
        out.latex = some_formula(random);
        out.formula = *written_formula(out.latex);
        out.x_height_mm = chance.between(1.8, 4);
        const FormulaManner manner{out.x_height_mm, bench.careless * chance.between(0.5, 1.3), bench.kept_out, {}};
        out.strokes = draw_formula(out.formula, hand, manner, {20, 40}, random);
    }
    return out;
}

Drawn drawn_formula(const Bench& bench, std::mt19937& random) {
    return drawn_formula(bench, bench.hands[random() % bench.hands.size()].another(random), random);
}

using Signs = std::map<std::vector<size_t>, std::string>;  // by their strokes, rising

void gather(const WrittenFormula& f, Signs& signs) {
    std::vector<size_t> strokes = f.strokes;
    std::ranges::sort(strokes);
    if (!strokes.empty())
        signs[strokes] = f.kind == WrittenFormula::Kind::fraction ? "\\frac"
                         : f.kind == WrittenFormula::Kind::root   ? "\\sqrt"
                                                                  : f.latex;
    for (const WrittenFormula& part : f.parts) gather(part, signs);
}

std::vector<const Stroke*> pointers(const std::vector<Stroke>& strokes) {
    std::vector<const Stroke*> out;
    for (const Stroke& s : strokes) out.push_back(&s);
    return out;
}

void write_record(std::ofstream& out, size_t label, std::span<const float> numbers) {
    const auto short_label = static_cast<uint16_t>(label);
    out.write(reinterpret_cast<const char*>(&short_label), sizeof short_label);
    out.write(reinterpret_cast<const char*>(numbers.data()), static_cast<std::streamsize>(numbers.size_bytes()));
}

size_t label_of(const std::string& latex) {
    const size_t sign = *sign_named(latex == "\\frac" ? "-" : latex);
    for (size_t i = 0; i < math_signs().size(); ++i)
        if (std::ranges::find(twins_of(i), sign) != twins_of(i).end()) return i;
    return sign;
}

// Written by somebody who leans, stretches and turns all they write.
void disfigure(std::vector<Stroke>& strokes, Chance& chance) {
    const double lean = chance.normal(0.16), wide = std::exp(chance.normal(0.14)), turn = chance.normal(0.07);
    for (Stroke& s : strokes)
        for (InkPoint& p : s.points.change())
            p.at = {wide * (p.at.x - lean * p.at.y) - turn * p.at.y, p.at.y + turn * p.at.x};
}

void write_forms(const Bench& bench) {
    std::ofstream out(bench.to, std::ios::binary);
    for (size_t i = 0; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 1000003 + static_cast<unsigned>(i));
        Drawn drawn = drawn_formula(bench, random);
        Chance chance(random);
        if (!bench.kept_out) disfigure(drawn.strokes, chance);
        const auto all = pointers(drawn.strokes);
        const double usual = usual_size(all);
        Signs signs;
        gather(drawn.formula, signs);
        for (const std::vector<size_t>& group : sign_groups(all, usual)) {
            std::vector<const Stroke*> members;
            for (const size_t k : group) members.push_back(all[k]);
            const auto sign = signs.find(group);
            if (sign == signs.end() && chance.one_in(3)) continue;
            write_record(out, sign == signs.end() ? math_signs().size() : label_of(sign->second),
                         sign_form(members, usual));
        }
        // Some more, so that rare ones are seen as often.
        Hand other;
        for (int k = 0; k < 20; ++k) {
            const std::string latex = math_signs()[random() % math_signs().size()].latex;
            if (latex == "\\sqrt") continue;
            WrittenFormula sign{WrittenFormula::Kind::sign, latex};
            const Hand hand = bench.hands[random() % bench.hands.size()].another(random);
            const FormulaManner manner{
                drawn.x_height_mm * chance.between(0.6, 1.1), bench.careless, bench.kept_out, {}};
            std::vector<Stroke> strokes = draw_formula(sign, hand, manner, {0, 0}, random);
            if (!bench.kept_out) disfigure(strokes, chance);
            if (!strokes.empty()) write_record(out, label_of(latex), sign_form(pointers(strokes), usual));
        }
    }
}

// Puts a formula together as it was meant, telling each step.
class Putting {
public:
    using Step = std::function<void(const FormulaPart&, const FormulaPart&, Place)>;
    Putting(const std::vector<Stroke>& strokes, Step step) : strokes_(strokes), step_(std::move(step)) {}

    FormulaPart part(const WrittenFormula& f) {
        switch (f.kind) {
            case WrittenFormula::Kind::sign:
                return sign(f, f.latex);
            case WrittenFormula::Kind::name:
            case WrittenFormula::Kind::row:
                return row(f);
            case WrittenFormula::Kind::fraction: {
                const FormulaPart bar = sign(f, "-"), over = part(f.parts[0]), under = part(f.parts[1]);
                step_(bar, over, Place::over);
                step_(bar, under, Place::under);
                return keep(joined(joined(bar, over, Place::over), under, Place::under));
            }
            case WrittenFormula::Kind::root: {
                const FormulaPart root = sign(f, "\\sqrt"), body = part(f.parts[0]);
                step_(root, body, Place::inside);
                return keep(joined(root, body, Place::inside));
            }
            case WrittenFormula::Kind::scripts: {
                FormulaPart base = part(f.parts[0]);
                for (const size_t which : {size_t{2}, size_t{1}}) {
                    if (f.parts[which].parts.empty()) continue;
                    const FormulaPart script = part(f.parts[which]);
                    const bool bound =
                        script.box.centre().x < base.box.right &&
                        (which == 2 ? script.box.bottom < base.nucleus.top : script.box.top > base.nucleus.bottom) &&
                        (may_stand(base, script, Place::under) || may_stand(base, script, Place::over));
                    const Place place = which == 2 ? (bound ? Place::over : Place::power)
                                        : bound    ? Place::under
                                                   : Place::index;
                    step_(base, script, place);
                    base = keep(joined(base, script, place));
                }
                return base;
            }
            case WrittenFormula::Kind::accent:
            case WrittenFormula::Kind::grid:  // none of the formulas that are drawn has one
            case WrittenFormula::Kind::line:
                break;
        }
        return {};
    }

    std::vector<FormulaPart> parts;  // all that came about

private:
    const FormulaPart& keep(FormulaPart p) {
        parts.push_back(std::move(p));
        kept_ = parts.back();
        return kept_;
    }
    FormulaPart sign(const WrittenFormula& f, const std::string& latex) {
        Box box;
        FormulaInk ink;
        for (const size_t s : f.strokes) box.include(strokes_[s].box()), ink.set(s);

        return keep(sign_part(*sign_named(latex), box, ink));
    }
    FormulaPart row(const WrittenFormula& f) {
        std::vector<FormulaPart> all;
        for (const WrittenFormula& p : f.parts) all.push_back(part(p));
        if (all.empty()) return {};
        // From each place on, as rows are when they grow.
        for (size_t from = 1; from < all.size(); ++from) {
            FormulaPart row = all[from];
            for (size_t i = from + 1; i < std::min(all.size(), from + 4); ++i) {
                step_(row, all[i], Place::right);
                row = keep(joined(row, all[i], Place::right));
            }
        }
        FormulaPart whole = all[0];
        for (size_t i = 1; i < all.size(); ++i) {
            step_(whole, all[i], Place::right);
            whole = keep(joined(whole, all[i], Place::right));
        }
        return whole;
    }

    const std::vector<Stroke>& strokes_;
    Step step_;
    FormulaPart kept_;
};

constexpr auto kNoPlace = static_cast<size_t>(Place::none);

// A sign taken for another that looks like it but is of another height; mostly nothing.
std::optional<FormulaPart> mistaken(const FormulaPart& part, std::mt19937& random) {
    static constexpr std::array<std::array<const char*, 2>, 22> kAlike{
        {{"x", "X"},       {"z", "Z"},       {"s", "S"}, {"c", "C"},      {"u", "U"},      {"v", "V"},
         {"w", "W"},       {"k", "K"},       {"0", "o"}, {"0", "\\circ"}, {".", "\\cdot"}, {".", "'"},
         {"x", "\\times"}, {"9", "q"},       {"9", "g"}, {"p", "P"},      {"y", "Y"},      {"-", "."},
         {",", "'"},       {"6", "\\delta"}, {"2", "z"}, {"l", "e"}}};
    if (part.kind != FormulaPart::Kind::sign || random() % 3 != 0) return std::nullopt;
    const std::string latex = math_signs()[static_cast<size_t>(part.first_sign)].latex;
    std::vector<const char*> others;
    for (const auto& [one, other] : kAlike) {
        if (latex == one) others.push_back(other);
        if (latex == other) others.push_back(one);
    }
    if (others.empty()) return std::nullopt;
    return sign_part(*sign_named(others[random() % others.size()]), part.box, part.ink);
}

void write_places(const Bench& bench) {
    std::ofstream out(bench.to, std::ios::binary);
    for (size_t i = 0; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 1000003 + static_cast<unsigned>(i));
        Drawn drawn = drawn_formula(bench, random);
        struct Step {
            FormulaPart a, b;
        };
        std::vector<Step> steps;
        Putting putting(drawn.strokes, [&](const FormulaPart& a, const FormulaPart& b, Place place) {
            write_record(out, static_cast<size_t>(place), place_numbers(a, b));
            // The same taken for a sign of like form that stands elsewhere: a point for a product's dot.
            if (const auto wrong = mistaken(b, random)) write_record(out, kNoPlace, place_numbers(a, *wrong));
            if (const auto wrong = mistaken(a, random)) write_record(out, kNoPlace, place_numbers(*wrong, b));
            steps.push_back({a, b});
        });
        putting.part(drawn.formula);
        // And pairs that are none.
        const std::vector<FormulaPart>& parts = putting.parts;
        size_t wanted = 2 * steps.size() + 2;
        for (size_t k = 0; k < 60 * wanted && wanted > 0; ++k) {
            const FormulaPart &a = parts[random() % parts.size()], &b = parts[random() % parts.size()];
            if ((a.ink & b.ink).any()) continue;
            const double unit = std::max(a.unit, b.unit);
            if (b.box.left > a.box.right + 5 * unit || b.box.right < a.box.left - unit ||
                b.box.top > a.box.bottom + 2 * unit || b.box.bottom < a.box.top - 2 * unit)
                continue;
            // Of a part that stands so, its beginning does, too, and what is the end of the line it stands behind.
            const bool stands = std::ranges::any_of(steps, [&](const Step& s) {
                const bool begins = (b.ink & ~s.b.ink).none() && std::abs(b.box.left - s.b.box.left) < 0.1 * s.b.unit;
                const bool same_line =
                    (a.ink & ~s.a.ink).none() && std::abs(a.baseline - s.a.baseline) < 0.15 * s.a.unit;
                return begins && same_line;
            });
            if (stands) continue;
            write_record(out, kNoPlace, place_numbers(a, b));
            --wanted;
        }
    }
}

// Names of functions letter by letter, as they are written.
std::vector<std::string> tokens(const std::string& latex) {
    std::vector<std::string> out;
    for (size_t i = 0; i < latex.size();) {
        if (latex[i] == ' ') {
            ++i;
            continue;
        }
        size_t end = i + 1;
        if (latex[i] == '\\') {
            while (end < latex.size() && std::isalpha(static_cast<unsigned char>(latex[end]))) ++end;
            if (end == i + 1) ++end;
        }
        const std::string token = latex.substr(i, end - i);
        i = end;
        if (token.size() > 1 && !sign_named(token) && token != "\\frac" && token != "\\sqrt")
            for (const char c : token.substr(1)) out.emplace_back(1, c);
        else
            out.push_back(token);
    }
    return out;
}

void formulas_table(const Bench& bench, const FormulaWeights& weights) {
    size_t right = 0, one_wrong = 0, signs_all = 0, signs_right = 0, grouped = 0, all_signs = 0, structure = 0;
    double worst_ms = 0, ms_of_twenty = 0;
    size_t twenty = 0;
    std::map<std::string, size_t> taken;
    for (size_t i = 0; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 1000003 + static_cast<unsigned>(i));
        Drawn drawn = drawn_formula(bench, random);
        const auto begin = std::chrono::steady_clock::now();
        const FormulaReading reading = read_formula(drawn.strokes, weights);
        const double ms = std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count();
        worst_ms = std::max(worst_ms, ms);
        Signs signs, read;
        gather(drawn.formula, signs);
        if (signs.size() >= 17 && signs.size() <= 23) ms_of_twenty += ms, ++twenty;
        for (const ReadSign& s : reading.signs) read[s.strokes] = s.latex;
        size_t here = 0;
        for (const auto& [strokes, latex] : signs) {
            const auto found = read.find(strokes);
            grouped += found != read.end();
            here += found != read.end() && found->second == latex;
            if (found != read.end() && found->second != latex) ++taken[latex + " as " + found->second];
            if (found == read.end()) {
                std::string instead;
                for (const ReadSign& other : reading.signs)
                    if (std::ranges::any_of(other.strokes,
                                            [&](size_t k) { return std::ranges::binary_search(strokes, k); }))
                        instead += " " + other.latex + "/" + std::to_string(other.strokes.size());
                ++taken[latex + "/" + std::to_string(strokes.size()) + " in" + instead];
            }
        }
        signs_all += signs.size(), signs_right += here;
        const auto meant = tokens(drawn.latex), got = tokens(reading.latex);
        // Written with one sign for another, or one left out.
        size_t wrong = 0;
        if (meant.size() == got.size()) {
            for (size_t k = 0; k < meant.size(); ++k) wrong += meant[k] != got[k];
        } else {
            wrong = 2;
        }
        right += wrong == 0, one_wrong += wrong <= 1;
        if (here == signs.size()) ++all_signs, structure += wrong == 0;
        if (wrong > 0 && i < bench.failures) std::printf("  %-48s %s\n", drawn.latex.c_str(), reading.latex.c_str());
    }
    const auto share = [](size_t part, size_t all) {
        return 100.0 * static_cast<double>(part) / static_cast<double>(std::max<size_t>(1, all));
    };
    std::printf("formulas %zu: wholly right %.1f %%, at most one sign wrong %.1f %%\n", bench.count,
                share(right, bench.count), share(one_wrong, bench.count));
    std::printf("signs %zu: grouped %.1f %%, right %.1f %%; structure right where signs are %.1f %%\n", signs_all,
                share(grouped, signs_all), share(signs_right, signs_all), share(structure, all_signs));
    std::printf("of 17 to 23 signs %.1f ms, worst of all %.1f ms\n",
                ms_of_twenty / static_cast<double>(std::max<size_t>(1, twenty)), worst_ms);
    std::vector<std::pair<size_t, std::string>> order;
    for (const auto& [what, times] : taken) order.emplace_back(times, what);
    std::ranges::sort(order, std::greater{});
    for (size_t i = 0; i < std::min<size_t>(order.size(), 24); ++i)
        std::printf("%s %zu%s", order[i].second.c_str(), order[i].first, i % 8 == 7 ? "\n" : ", ");
    std::printf("\n");
}

// What became of ink that was meant as a formula, and what it reads as by itself.
void tell_missed(const Reading& reading, const std::string& latex, const std::vector<StrokeId>& ink,
                 const FormulaReading& by_itself) {
    const auto is_its = [&](StrokeId id) { return std::ranges::binary_search(ink, id); };
    std::printf("  %s\n", latex.c_str());
    size_t held = 0;
    for (const ReadLine& line : reading.lines) {
        size_t here = static_cast<size_t>(std::ranges::count_if(line.ink, is_its));
        if (line.kind == RegionKind::text)
            for (const ReadWord& word : line.words)
                here += static_cast<size_t>(std::ranges::count_if(word.strokes, is_its));
        for (const ReadShape& shape : line.shapes)
            here += static_cast<size_t>(std::ranges::count_if(shape.strokes, is_its));
        held += here;
        static constexpr std::array kKinds{"text", "drawing", "picture", "math", "divider", "table"};
        if (here > 0)
            std::printf("      %zu of %zu in %s “%s” %.2f\n", here, ink.size(), kKinds[static_cast<size_t>(line.kind)],
                        line.text().c_str(), line.certainty);
    }
    if (held < ink.size()) std::printf("      %zu in no line\n", ink.size() - held);
    std::printf("      reads as %s %.2f\n", by_itself.latex.c_str(), by_itself.certainty);
}

// People write ten formulas, whose signs that are misread are corrected, and ten more: how these are read before and
// after.
void taught_table(const Bench& bench, const FormulaWeights& weights) {
    constexpr size_t kFormulas = 10;
    size_t corrected = 0;
    std::array<size_t, 2> right{}, signs_right{};
    size_t all = 0, all_signs = 0;
    for (size_t i = 0; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 1000003 + static_cast<unsigned>(i));
        const Hand hand = bench.hands[random() % bench.hands.size()].another(random);
        SignMemory taught;
        StrokeId last_id = 0;
        for (size_t f = 0; f < 2 * kFormulas; ++f) {
            Drawn drawn = drawn_formula(bench, hand, random);
            for (Stroke& s : drawn.strokes) s.id = ++last_id;
            const auto strokes = pointers(drawn.strokes);
            const double usual = usual_size(strokes);
            std::vector<TaughtSign> said;
            Signs signs;
            gather(drawn.formula, signs);
            for (const bool after : {false, true}) {
                if (after && f < kFormulas) continue;
                const FormulaReading reading = read_formula(drawn.strokes, weights, {}, {}, after ? &taught : nullptr);
                Signs read;
                for (const ReadSign& s : reading.signs) read[s.strokes] = s.latex;
                for (const auto& [ink, latex] : signs) {
                    const auto found = read.find(ink);
                    const bool same = found != read.end() && found->second == latex;
                    if (f >= kFormulas) {
                        signs_right[after] += same;
                    } else if (!same && latex != "\\frac") {
                        std::vector<const Stroke*> members;
                        for (const size_t k : ink) members.push_back(strokes[k]);
                        said.push_back({{members[0]->id}, sign_form(members, usual), label_of(latex)});
                    }
                }
                if (f >= kFormulas) right[after] += tokens(drawn.latex) == tokens(reading.latex);
            }
            if (f >= kFormulas)
                ++all, all_signs += signs.size();
            else
                taught.take({drawn.strokes[0].id}, said), corrected += said.size();
        }
    }
    const auto share = [](size_t part, size_t whole) {
        return 100.0 * static_cast<double>(part) / static_cast<double>(std::max<size_t>(1, whole));
    };
    std::printf(
        "people %zu, %.1f signs corrected each; of %zu formulas wholly right %.1f → %.1f %%, signs right %.1f → "
        "%.1f %%\n",
        bench.count, static_cast<double>(corrected) / static_cast<double>(bench.count), all, share(right[0], all),
        share(right[1], all), share(signs_right[0], all_signs), share(signs_right[1], all_signs));
}

// As many words of a text as stand before a formula.
std::string first_words(const std::string& text) {
    constexpr size_t kLetters = 10;
    const size_t end = text.find(' ', std::min(text.size(), kLetters));
    return text.substr(0, end);
}

// Pages of lines of words, every third of them a formula: which strokes are found to be formulas.
int found_table(const Bench& bench) {
    const auto reader = Reader::load(models_directory());
    auto skills = FormulaSkills::load(models_directory());
    const auto weights = load_formula_weights(models_directory());
    if (!weights || !reader || !(*reader)->load_language("en") || !skills) {
        std::fprintf(stderr, "math_bench: the reader's data is missing\n");
        return 1;
    }
    size_t right = 0, of_formulas = 0, told = 0, of_words = 0, lost = 0, formulas = 0, whole = 0;
    double ms = 0;
    for (size_t i = 0; i < bench.count; ++i) {
        std::mt19937 random(bench.seed * 1000003 + static_cast<unsigned>(i));
        Chance chance(random);
        const Hand& hand = bench.hands[random() % bench.hands.size()];
        Page page;
        page.info.width_mm = 210, page.info.height_mm = 297;
        std::vector<bool> is_formula;
        std::vector<std::vector<StrokeId>> meant;
        std::vector<std::string> latex;
        const double x_height = chance.between(2, 2.8);
        double y = 25;
        const auto add = [&](std::vector<Stroke> ink, size_t words) {  // words: of the strokes
            Box box;
            for (const Stroke& s : ink) box.include(s.box());
            const double down = y - box.top;
            if (words < ink.size()) meant.emplace_back();
            for (size_t k = 0; k < ink.size(); ++k) {
                Stroke& s = ink[k];
                const bool formula = k >= words;
                for (InkPoint& p : s.points.change()) p.at.y += down;
                s.id = static_cast<StrokeId>(page.strokes.size() + 1);
                is_formula.push_back(formula);
                if (formula) meant.back().push_back(s.id);
                page.strokes.push_back(std::move(s));
            }
            y += box.height() + chance.between(2, 4);
        };
        for (int line = 0; line < 12 && y < 270; ++line) {
            if (line % 3 == 2) {
                WrittenFormula formula;
                std::vector<Stroke> ink, words;
                Box before;
                if (bench.within)
                    words = hand.write(first_words(some_text(hand, bench.texts, random)), {20, 0}, {x_height, {}, 0, 1},
                                       random);
                for (const Stroke& s : words) before.include(s.box());
                const double left = words.empty() ? 25 : before.right + 1.5 * x_height;
                while (ink.empty() || !is_whole(formula)) {
                    const std::string some = some_formula(random);
                    if (bench.within && some.find('=') == std::string::npos) continue;
                    formula = *written_formula(some);
                    if (latex.size() > meant.size()) latex.pop_back();
                    latex.push_back(some);
                    ink = draw_formula(formula, hand, {x_height * 1.1, bench.careless * 0.8, bench.kept_out, {}},
                                       {left, 0}, random);
                }
                const size_t of_those = words.size();
                words.insert(words.end(), ink.begin(), ink.end());
                add(std::move(words), of_those), ++formulas;
            } else {
                std::vector<Stroke> ink =
                    hand.write(some_text(hand, bench.texts, random), {20, 0}, {x_height, {}, 0, 1}, random);
                const size_t all = ink.size();
                add(std::move(ink), all);
            }
        }
        const auto begin = std::chrono::steady_clock::now();
        const Reading reading = read_page(page, {}, **reader, {}, {}, {}, {}, {}, nullptr, nullptr, skills->get());
        ms += std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - begin).count();
        for (const ReadLine& line : reading.lines) {
            if (line.kind != RegionKind::math) continue;
            size_t here = 0;
            for (const StrokeId id : line.ink) here += !is_formula[static_cast<size_t>(id - 1)];
            told += line.ink.size(), right += line.ink.size() - here, lost += here;
            if (here > 0 && i < bench.failures)
                std::printf("  %zu of %zu strokes are words: %s %.2f\n", here, line.ink.size(), line.text().c_str(),
                            line.certainty);
            std::vector<StrokeId> ink = line.ink;
            std::ranges::sort(ink);
            const auto found = std::ranges::find(meant, ink);
            whole += found != meant.end();
            if (found != meant.end()) found->clear();
        }
        for (size_t f = 0; f < meant.size() && i < bench.failures; ++f) {
            if (meant[f].empty()) continue;
            std::vector<Stroke> ink;
            for (const StrokeId id : meant[f]) ink.push_back(page.strokes[static_cast<size_t>(id - 1)]);
            tell_missed(reading, latex[f], meant[f], read_formula(ink, **weights));
        }
        for (const bool formula : is_formula) formula ? ++of_formulas : ++of_words;
    }
    const auto share = [](size_t part, size_t all) {
        return static_cast<double>(part) / static_cast<double>(std::max<size_t>(1, all));
    };
    std::printf(
        "found among words: precision %.3f, recall %.3f by stroke; %zu of %zu formulas whole; words lost %.2f %% of "
        "%zu strokes; %.0f ms a page\n",
        share(right, told), share(right, of_formulas), whole, formulas, 100 * share(lost, of_words), of_words,
        ms / static_cast<double>(bench.count));
    return 0;
}

}  // namespace

int main(int argc, char** argv) {
    std::vector<std::string> words(argv + 1, argv + argc);
    const auto option = [&](const char* name) { return take_option(words, name); };
    Bench bench;
    if (const std::string n = option("--count"); !n.empty()) bench.count = std::stoul(n);
    if (const std::string n = option("--seed"); !n.empty()) bench.seed = static_cast<unsigned>(std::stoul(n));
    if (const std::string n = option("--failures"); !n.empty()) bench.failures = std::stoul(n);
    if (const std::string n = option("--careless"); !n.empty()) bench.careless = std::stod(n);
    bench.to = option("--to");
    if (std::ifstream in(option("--lines")); in)
        for (std::string line; std::getline(in, line);)
            if (!line.empty()) bench.texts.push_back(line);
    bench.kept_out = std::erase(words, "--kept-out") > 0;
    bench.within = std::erase(words, "--within") > 0;
    if (words.size() != 2) {
        std::fprintf(stderr,
                     "usage: math_bench HANDS formulas|taught|found|forms|places [--to FILE] [--lines TEXTS] [--count "
                     "N] [--seed N]\n"
                     "                  [--careless X] [--kept-out] [--failures N]\n");
        return 2;
    }
    bench.hands = hands_in(words[0]);
    if (bench.hands.empty()) {
        std::fprintf(stderr, "math_bench: no hands there\n");
        return 1;
    }
    if (words[1] == "found") return bench.texts.empty() ? 2 : found_table(bench);
    if (words[1] == "forms") write_forms(bench);
    if (words[1] == "places") write_places(bench);
    if (words[1] == "formulas" || words[1] == "taught") {
        const auto weights = load_formula_weights(models_directory());
        if (!weights) {
            std::fprintf(stderr, "math_bench: %s\n", weights.error().message.c_str());
            return 1;
        }
        words[1] == "taught" ? taught_table(bench, **weights) : formulas_table(bench, **weights);
    }
    return 0;
}
