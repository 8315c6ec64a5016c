#include "math/formula_reading.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <string_view>
#include <unordered_map>
#include <unordered_set>

#include "math/formula_parts.h"
#include "math/sign_form.h"
#include "math/sign_groups.h"

namespace fernleaf {
namespace {

using Kind = FormulaPart::Kind;

constexpr double kMostlyNone = 0.95;    // a group that is so likely no sign is left out
constexpr size_t kSignsOfGroup = 3;     // readings of a group that are looked into
constexpr double kLeastOfGroup = 0.04;  // of the likeliest
constexpr size_t kReadingsOfInk = 4;    // of the same strokes
constexpr size_t kPartsOfSize = 120;    // of as many strokes
constexpr double kFarBehind = 14;       // a part so much worse than the best of its strokes is dropped
constexpr double kPlaceWeight = 0.9, kSignWeight = 1.5;
constexpr double kLeastPlace = 0.004;
constexpr double kLeastHoped = -20;
constexpr double kTiny = 0.3, kTinySign = 0.03;  // of the usual size: what is so small is hardly a letter or a digit
constexpr double kTwin = 0.75, kTwinOther = 0.25, kTwinDot = 0.5;
constexpr float kFarRight = 4, kFarBelow = 3;  // of the unit: parts farther apart have nothing to do with one another
constexpr double kIntoIt = 1.1;                // how far before another's end a part may begin
constexpr double kAtTop = 0.6, kAtFoot = 0.3;  // what stands so far over or under a row belongs to it
constexpr double kUnclosed = -3;               // a bracket
constexpr double kIndexOfDigit = -2.5, kPowerOfDigit = -1, kScriptOfScript = -1;
constexpr double kRootIndex = -0.5, kArrowOver = -0.5;  // of what stands in a root's hook, and over a letter
constexpr double kSpelt = 5;                            // letters that spell a function are likelier than any others
constexpr size_t kAlternatives = 5;
constexpr char kSignBegins = 1, kSignEnds = 2;  // in a pattern

// How much rarer a sign is in formulas than others of its form: the network was taught all alike.
double rarity(size_t sign) {
    const MathSign& s = math_signs()[sign];
    const std::string_view name = s.latex;
    using enum SignKind;
    switch (s.kind) {
        case digit:
            return 0.4;
        case letter:
            if (std::string_view("xyabcn").find(name) != std::string_view::npos) return 0;
            if (name[0] == '\\') return name == "\\pi" ? -0.3 : -1;
            return name[0] >= 'a' ? -0.7 : -1.2;
        case bar:
            return -1.5;
        case open:
        case close:
            return name == "(" || name == ")" ? 0 : -1;
        case mark:
            return -0.8;
        default:
            return 0;
    }
}

// How much less likely it is that a sign of one kind stands behind one of another than usual.
double follows(int a, int b) {
    if (b >= 0 && a < 0) return math_signs()[static_cast<size_t>(b)].kind == SignKind::point ? -3 : 0;  // a fraction
    if (b < 0) return 0;
    const MathSign &first = math_signs()[static_cast<size_t>(a)], &second = math_signs()[static_cast<size_t>(b)];
    using enum SignKind;
    static const int minus = static_cast<int>(*sign_named("-")), plus_minus = static_cast<int>(*sign_named("\\pm"));
    const bool signs_number = b == minus || b == plus_minus;
    const auto opens = [](SignKind k) { return k == open || k == relation || k == binary || k == bar; };
    switch (second.kind) {
        case binary:
            if (first.kind == binary || first.kind == point) return -4;
            return opens(first.kind) && first.kind != bar && !signs_number ? -3 : 0;
        case relation:
            return first.kind == binary || first.kind == relation || first.kind == open || first.kind == point ? -4 : 0;
        case close:
            return first.kind == binary || first.kind == relation || first.kind == open ? -3 : 0;
        case point:
            return first.kind == digit ? 0.6 : first.kind == letter || first.kind == close ? -1.5 : -4;
        case mark:
            return first.kind == digit || first.kind == letter || first.kind == close || first.kind == mark ? 0 : -3;
        case digit:
            return first.kind == letter                         ? -1.5
                   : first.kind == close || first.kind == mark  ? -1
                   : first.kind == digit || first.kind == point ? 0.6
                                                                : 0;
        case letter:
            return first.kind == point ? -1.5 : 0;
        default:
            return first.kind == point ? -3 : 0;
    }
}

double begins(int sign) {
    if (sign < 0) return 0;
    static const int minus = static_cast<int>(*sign_named("-")), plus_minus = static_cast<int>(*sign_named("\\pm"));
    using enum SignKind;
    const SignKind kind = math_signs()[static_cast<size_t>(sign)].kind;
    return sign == minus || sign == plus_minus                   ? 0
           : kind == binary || kind == relation || kind == close ? -3
           : kind == point || kind == mark                       ? -3
                                                                 : 0;
}

double ends(int sign) {
    if (sign < 0) return 0;
    using enum SignKind;
    const SignKind kind = math_signs()[static_cast<size_t>(sign)].kind;
    return kind == binary || kind == open || kind == point ? -3 : 0;
}

// How rare it is that such a part has such a power or index.
double rarity_of(Place place, const FormulaPart& a, const FormulaPart& b) {
    const auto is_digit = [](int sign) {
        return sign >= 0 && math_signs()[static_cast<size_t>(sign)].kind == SignKind::digit;
    };
    double out = 0;
    if (place == Place::index && is_digit(a.last_sign)) out += kIndexOfDigit;
    if (place == Place::power && is_digit(a.last_sign) && is_digit(b.first_sign)) out += kPowerOfDigit;
    if ((place == Place::power || place == Place::index) && (b.has_power || b.has_index)) out += kScriptOfScript;
    return out;
}

// Whether the letters at its end are a function's name.
bool ends_with_function(const FormulaPart& part) {
    const std::string_view letters(part.tail.data());
    return std::ranges::any_of(written_functions(), [&](std::string_view name) { return letters.ends_with(name); });
}

// A row that is complete: a formula, or what stands in a fraction, a power, a root.
double completed(const FormulaPart& part) {
    static const int equals = static_cast<int>(*sign_named("="));
    return begins(part.first_sign) + (part.last_sign == equals ? 0 : ends(part.last_sign)) +
           kUnclosed * (part.open + part.reversed);
}

class Parsing {
public:
    Parsing(const std::vector<Stroke>& strokes, const FormulaWeights& weights, const CancelToken& cancel,
            const std::vector<SaidSign>& said, const SignMemory* taught)
        : weights_(weights), cancel_(cancel), said_(said), taught_(taught) {
        for (const Stroke& s : strokes) strokes_.push_back(&s), boxes_.push_back(s.box()), ids_.insert(s.id);
        usual_ = usual_size(strokes_);
        by_size_.resize(strokes.size() + 1);
    }

    FormulaReading read() {
        find_signs();
        hope();
        for (size_t size = 1; size <= strokes_.size(); ++size) {
            if (cancel_.cancelled()) return {};
            settle(size);
            for (const int32_t part : by_size_[size]) join_with_smaller(part, size);
        }
        return told(best());
    }

private:
    FormulaInk ink_of(const std::vector<size_t>& group) const {
        FormulaInk out;
        for (const size_t i : group) out.set(i);
        return out;
    }

    // What a person said is a sign is that and nothing else, nor is any of its strokes part of another.
    void take_said_signs() {
        for (const SaidSign& said : said_) {
            Box box;
            for (const size_t i : said.strokes) box.include(boxes_[i]);
            const FormulaInk its = ink_of(said.strokes);
            if (said.strokes.empty() || (its & spoken_of_).any()) continue;  // the first counts
            spoken_of_ |= its;
            alternatives_[its] = {{math_signs()[said.sign].latex, 1}};
            offer(sign_part(said.sign, box, its), said.strokes.size());
        }
    }

    void find_signs() {
        take_said_signs();
        for (const std::vector<size_t>& group : sign_groups(strokes_, usual_)) {
            if ((ink_of(group) & spoken_of_).any()) continue;
            std::vector<const Stroke*> members;
            Box box;
            for (const size_t i : group) members.push_back(strokes_[i]), box.include(boxes_[i]);
            const SignForm form = sign_form(members, usual_);
            std::vector<float> chances = weights_.signs.chances(form);
            if (taught_) taught_->lean(form, ids_, chances);
            if (chances.back() > kMostlyNone && group.size() > 1) continue;
            std::vector<SignAlternative>& known = alternatives_[ink_of(group)];
            std::vector<std::pair<double, size_t>> order;
            const bool tiny = std::max(box.width(), box.height()) < kTiny * usual_;
            for (size_t i = 0; i < math_signs().size(); ++i) {
                if (is_twin(i)) continue;
                const std::vector<size_t>& twins = twins_of(i);
                const auto add = [&](size_t sign, double share) {
                    const SignHeight height = math_signs()[sign].height;
                    const bool dot =
                        height == SignHeight::low || height == SignHeight::high || height == SignHeight::middle;
                    order.emplace_back(-chances[i] * share * (tiny && !dot ? kTinySign : 1), sign);
                };
                // Where a dot stands tells which it is; of letters the small ones are likelier.
                const bool dots = math_signs()[i].kind == SignKind::point;
                add(i, twins.empty() ? 1 : dots ? kTwinDot : kTwin);
                for (const size_t twin : twins) add(twin, dots ? kTwinDot : kTwinOther);
            }
            std::ranges::sort(order);
            // How sure it is which sign this is, if it is one.
            const double any = std::max(1.0 - chances.back(), 0.05);
            for (size_t i = 0; i < kAlternatives; ++i)
                known.push_back({math_signs()[order[i].second].latex, std::min(1.0, -order[i].first / any)});
            for (size_t i = 0; i < kSignsOfGroup + 1 && -order[i].first > kLeastOfGroup * -order[0].first; ++i) {
                FormulaPart part = sign_part(order[i].second, box, ink_of(group));
                part.score = kSignWeight * std::log(std::max(-order[i].first, 1e-6)) + rarity(order[i].second);
                offer(part, group.size());
            }
        }
    }

    void offer(const FormulaPart& part, size_t size) { offered_[size].push_back(part); }

    // The best share of a sign's score that each stroke can have.
    void hope() {
        hoped_.assign(strokes_.size(), kLeastHoped);
        for (const auto& [size, parts] : offered_)
            for (const FormulaPart& part : parts)
                for (size_t s = 0; s < strokes_.size(); ++s)
                    if (part.ink[s]) hoped_[s] = std::max(hoped_[s], part.score / static_cast<double>(size));
    }

    // Of the parts of so many strokes those that are gone on with.
    void settle(size_t size) {
        std::vector<FormulaPart> all = ranked(offered_[size]);
        offered_.erase(size);
        std::unordered_map<FormulaInk, std::vector<const FormulaPart*>> kept;
        size_t count = 0;
        const bool whole = size == strokes_.size();
        for (FormulaPart& part : all) {
            if (count == (whole ? kPartsOfSize * 4 : kPartsOfSize)) break;
            std::vector<const FormulaPart*>& same = kept[part.ink];
            if (!same.empty() && part.score < same.front()->score - kFarBehind) continue;
            size_t alike = 0;
            bool there = false;
            for (const FormulaPart* other : same) {
                alike += (other->kind == Kind::row) == (part.kind == Kind::row) &&
                         (other->kind == Kind::dividend) == (part.kind == Kind::dividend);
                there |= other->kind == part.kind && other->first_sign == part.first_sign &&
                         other->last_sign == part.last_sign && other->has_power == part.has_power &&
                         other->has_root_index == part.has_root_index && other->tail == part.tail &&
                         other->has_index == part.has_index && other->nucleus == part.nucleus;
            }
            if (there || alike >= kReadingsOfInk) continue;
            parts_.push_back(part);
            const auto f = [](double v) { return static_cast<float>(v); };
            reaches_.push_back({f(part.box.left), f(part.box.right), f(part.box.top), f(part.box.bottom),
                                f(std::max(part.unit, 0.2 * usual_))});
            same.push_back(&part);
            by_size_[size].push_back(static_cast<int32_t>(parts_.size() - 1));
            ++count;
        }
    }

    // The best first, beside what can be hoped for of their strokes: else parts of the easy end of a formula would
    // crowd out all of its difficult end.
    std::vector<FormulaPart> ranked(const std::vector<FormulaPart>& all) const {
        std::vector<std::pair<double, size_t>> order;
        for (size_t i = 0; i < all.size(); ++i) {
            double hoped = 0;
            for (size_t s = 0; s < strokes_.size(); ++s)
                if (all[i].ink[s]) hoped += hoped_[s];
            order.emplace_back(hoped - all[i].score, i);
        }
        std::ranges::stable_sort(order, {}, [](const auto& o) { return o.first; });
        std::vector<FormulaPart> out;
        out.reserve(all.size());
        for (const auto& [behind, i] : order) out.push_back(all[i]);
        return out;
    }

    // Parts as far as it takes to see that two are too far apart.
    struct Reach {
        float left, right, top, bottom, unit;
    };

    void join_with_smaller(int32_t index, size_t size) {
        const FormulaPart& part = parts_[static_cast<size_t>(index)];
        const Reach& own = reaches_[static_cast<size_t>(index)];
        const FormulaInk ink = part.ink;
        for (size_t other_size = 1; other_size <= size && size + other_size <= strokes_.size(); ++other_size)
            for (const int32_t other : by_size_[other_size]) {
                if (other_size == size && other >= index) break;
                const Reach& its = reaches_[static_cast<size_t>(other)];
                const float unit = std::max(own.unit, its.unit);
                if (std::max(own.left, its.left) - std::min(own.right, its.right) > kFarRight * unit ||
                    std::max(own.top, its.top) - std::min(own.bottom, its.bottom) > kFarBelow * unit)
                    continue;
                if ((ink & parts_[static_cast<size_t>(other)].ink).any()) continue;
                join(index, other, size + other_size);
                join(other, index, size + other_size);
            }
    }

    // Whether a stroke of neither stands between two parts of a row, or at the foot or the top of that place, as a
    // power does.
    bool parted(const FormulaPart& a, const FormulaPart& b) const {
        const double unit = std::max(a.unit, b.unit);
        const double top = std::min(a.nucleus.top, b.first.top) - kAtTop * unit,
                     bottom = std::max(a.nucleus.bottom, b.first.bottom) + kAtFoot * unit;
        const double left = a.last.right, right = b.box.left;
        for (size_t i = 0; i < boxes_.size(); ++i) {
            if (a.ink[i] || b.ink[i]) continue;
            const Point middle = boxes_[i].centre();
            const bool between = middle.x > left && middle.x < right && boxes_[i].width() < right - left + unit;
            if (between && middle.y > top && middle.y < bottom) return true;
        }
        return false;
    }

    void join(int32_t first, int32_t second, size_t size) {
        const FormulaPart &a = parts_[static_cast<size_t>(first)], &b = parts_[static_cast<size_t>(second)];
        // Whether the networks need to be asked at all.
        const double unit = std::max({a.unit, b.unit, 0.2 * usual_});
        const double behind = (b.box.left - a.last.right) / unit;
        const bool beside = behind > -kIntoIt && behind < kFarRight && b.box.right > a.nucleus.right - 0.2 * unit &&
                            b.box.centre().x > a.nucleus.centre().x;
        const double shared = std::min(a.box.right, b.box.right) - std::max(a.box.left, b.box.left);
        const bool stacked =
            shared > 0.3 * std::min(a.box.width(), b.box.width()) &&
            (b.box.bottom < a.box.centre().y + 0.3 * unit || b.box.top > a.box.centre().y - 0.3 * unit);
        const bool enclosed = b.box.left > a.box.left - 0.2 * unit && b.box.right < a.box.right + 1.5 * unit &&
                              b.box.bottom < a.box.bottom + unit && b.box.top > a.box.top - 0.5 * unit;
        const std::array<bool, kPlaces> possible{
            beside && may_stand(a, b, Place::right) && b.box.bottom > a.nucleus.top - 0.3 * unit &&
                b.box.top < a.nucleus.bottom + 0.5 * unit,
            beside && may_stand(a, b, Place::power),
            beside && may_stand(a, b, Place::index),
            stacked && a.kind != Kind::root && !is_arrow_over(b, a) && b.box.centre().y < a.nucleus.centre().y &&
                may_stand(a, b, Place::over),
            stacked && b.box.centre().y > a.nucleus.centre().y && may_stand(a, b, Place::under),
            enclosed && may_stand(a, b, Place::inside)};
        if (is_arrow_over(b, a)) offer_joined(first, second, Place::over, kArrowOver, size);
        if (a.kind == Kind::root && may_stand(a, b, Place::over)) {
            const Box& hook = parts_[static_cast<size_t>(a.made_of[0])].box;
            const Box& body = parts_[static_cast<size_t>(a.made_of[1])].box;
            if (stands_in_hook(hook, body, b.box))
                offer_joined(first, second, Place::over, kRootIndex + completed(b), size);
        }
        if (std::ranges::none_of(possible, std::identity{})) return;
        // A fraction's divisor is placed beside its bar, not beside what stands over that.
        const bool half = a.kind == Kind::dividend;
        const std::vector<float> chances =
            weights_.places.chances(place_numbers(half ? parts_[static_cast<size_t>(a.made_of[0])] : a, b));
        for (size_t i = 0; i < kPlaces; ++i) {
            if (!possible[i] || chances[i] < kLeastPlace) continue;
            const auto place = static_cast<Place>(i);
            if (place == Place::right && parted(a, b)) continue;
            double score = kPlaceWeight * std::log(chances[i]) + rarity_of(place, a, b);
            if (place == Place::right)
                score += a.has_power ? 0 : follows(a.last_sign, b.first_sign);
            else
                score += completed(b);
            offer_joined(first, second, place, score, size);
        }
    }

    void offer_joined(int32_t first, int32_t second, Place place, double score, size_t size) {
        const FormulaPart &a = parts_[static_cast<size_t>(first)], &b = parts_[static_cast<size_t>(second)];
        FormulaPart part = joined(a, b, place);
        part.score = a.score + b.score + score;
        if (place == Place::right && ends_with_function(part)) part.score += kSpelt;
        part.made_of = {first, second};
        part.by = place;
        offer(part, size);
    }

    // The likeliest part that holds all strokes; without one, the best that hold most.
    std::vector<int32_t> best() const {
        std::vector<int32_t> out;
        FormulaInk done;
        for (size_t size = strokes_.size(); size > 0 && done.count() < strokes_.size(); --size) {
            const auto score = [&](int32_t i) {
                const FormulaPart& part = parts_[static_cast<size_t>(i)];
                return part.score + completed(part);
            };
            std::vector<int32_t> order = by_size_[size];
            std::ranges::sort(order, std::greater{}, score);
            for (const int32_t i : order) {
                const FormulaPart& part = parts_[static_cast<size_t>(i)];
                if (part.kind == Kind::dividend || (part.ink & done).any()) continue;
                done |= part.ink;
                out.push_back(i);
            }
        }
        std::ranges::sort(out, {}, [&](int32_t i) { return parts_[static_cast<size_t>(i)].box.left; });
        return out;
    }

    // The items of a row from left to right.
    void items(int32_t index, std::vector<int32_t>& out) const {
        const FormulaPart& part = parts_[static_cast<size_t>(index)];
        if (part.kind != Kind::row) {
            out.push_back(index);
            return;
        }
        items(part.made_of[0], out);
        out.push_back(part.made_of[1]);
    }

    // latex: what it became, which of a fraction's bar is no minus. What stands for it in the pattern.
    std::string tell_sign(const FormulaPart& part, const char* latex, FormulaReading& reading) const {
        ReadSign read{latex, 0, part.box, {}, {}};
        for (size_t i = 0; i < strokes_.size(); ++i)
            if (part.ink[i]) read.strokes.push_back(i);
        read.said = (part.ink & spoken_of_).any();
        const char* name = math_signs()[static_cast<size_t>(part.first_sign)].latex;
        for (const SignAlternative& a : alternatives_.at(part.ink)) {
            if (a.latex == name)
                read.certainty = a.certainty;
            else
                read.alternatives.push_back(a);
        }
        reading.signs.push_back(std::move(read));
        return sign_place(reading.signs.size() - 1);
    }

    std::string latex_of(int32_t index, FormulaReading& reading) const {
        const FormulaPart& part = parts_[static_cast<size_t>(index)];
        const auto of = [&](size_t i) { return latex_of(part.made_of[i], reading); };
        switch (part.kind) {
            case Kind::sign: {
                const char* latex = math_signs()[static_cast<size_t>(part.first_sign)].latex;
                return tell_sign(part, latex, reading);
            }
            case Kind::row: {
                std::vector<int32_t> all;
                items(index, all);
                std::string out;
                for (size_t i = 0; i < all.size();) {
                    const size_t length = name_at(all, i);
                    if (length == 0) {
                        out += latex_of(all[i++], reading);
                        continue;
                    }
                    // What stands at the last letter belongs to the name.
                    std::string name, at_last;
                    for (size_t k = 0; k < length; ++k) {
                        const size_t letter = reading.signs.size();
                        const std::string item = latex_of(all[i + k], reading);
                        name += reading.signs[letter].latex, at_last = item.substr(item.find(kSignEnds) + 1);
                    }
                    (out += '\\').append(name).append(at_last);
                    i += length;
                }
                return out;
            }
            case Kind::scripts: {
                const bool up = part.by == Place::power || part.by == Place::over;
                const FormulaPart& before = parts_[static_cast<size_t>(part.made_of[0])];
                if (before.kind != Kind::scripts || up) {
                    const std::string base = of(0);
                    return base + (up ? "^{" : "_{") + of(1) + "}";
                }
                // An index is put to what has a power; written it stands before that.
                const std::string base = latex_of(before.made_of[0], reading),
                                  power = latex_of(before.made_of[1], reading);
                return base + "_{" + of(1) + "}^{" + power + "}";
            }
            case Kind::fraction: {
                const FormulaPart& dividend = parts_[static_cast<size_t>(part.made_of[0])];
                const std::string over = latex_of(dividend.made_of[1], reading);
                tell_sign(parts_[static_cast<size_t>(dividend.made_of[0])], "\\frac", reading);
                return "\\frac{" + over + "}{" + of(1) + "}";
            }
            case Kind::vector:
                tell_sign(parts_[static_cast<size_t>(part.made_of[1])], "\\vec", reading);
                return "\\vec{" + of(0) + "}";
            case Kind::root: {
                const bool has_index = part.by == Place::over;
                const FormulaPart& root = has_index ? parts_[static_cast<size_t>(part.made_of[0])] : part;
                tell_sign(parts_[static_cast<size_t>(root.made_of[0])], "\\sqrt", reading);
                const std::string body = latex_of(root.made_of[1], reading);
                return "\\sqrt" + (has_index ? "[" + of(1) + "]" : std::string()) + "{" + body + "}";
            }
            case Kind::dividend:
                break;
        }
        return {};
    }

    // How many items of a row, from one on, spell a function's name.
    size_t name_at(const std::vector<int32_t>& items_of_row, size_t from) const {
        for (const std::string_view name : written_functions()) {
            if (from + name.size() > items_of_row.size()) continue;
            bool all = true;
            for (size_t k = 0; k < name.size() && all; ++k) {
                const FormulaPart& part = parts_[static_cast<size_t>(items_of_row[from + k])];
                const bool last = k + 1 == name.size();
                all = (part.kind == Kind::sign || (last && part.kind == Kind::scripts)) && part.last_sign >= 0 &&
                      math_signs()[static_cast<size_t>(part.last_sign)].latex == std::string(1, name[k]);
            }
            if (all) return name.size();
        }
        return 0;
    }

    FormulaReading told(const std::vector<int32_t>& best) const {
        FormulaReading out;
        for (const int32_t i : best) out.pattern += latex_of(i, out);
        spell(out);
        // What could not be put together is hardly a formula.
        if (!best.empty()) out.certainty = certainty_of(out.signs) / static_cast<double>(best.size());
        return out;
    }

    const FormulaWeights& weights_;
    const CancelToken& cancel_;
    const std::vector<SaidSign>& said_;
    const SignMemory* taught_;
    FormulaInk spoken_of_;
    std::vector<const Stroke*> strokes_;
    std::unordered_set<StrokeId> ids_;
    std::vector<Box> boxes_;
    double usual_ = 1;
    std::unordered_map<FormulaInk, std::vector<SignAlternative>> alternatives_;  // the likeliest first
    std::map<size_t, std::vector<FormulaPart>> offered_;
    std::vector<FormulaPart> parts_;
    std::vector<Reach> reaches_;  // of the parts
    std::vector<double> hoped_;   // of the strokes
    std::vector<std::vector<int32_t>> by_size_;
};

}  // namespace

double certainty_of(const std::vector<ReadSign>& signs) {
    if (signs.empty()) return 0;
    double logarithms = 0;
    for (const ReadSign& sign : signs) logarithms += std::log(std::max(sign.certainty, 1e-6));
    return std::exp(logarithms / static_cast<double>(signs.size()));
}

void spell(FormulaReading& reading) {
    std::vector<std::string> signs;
    for (const ReadSign& sign : reading.signs) signs.push_back(sign.latex);
    reading.latex = latex_with(reading.pattern, signs);
}

std::string sign_place(size_t sign) { return kSignBegins + std::to_string(sign) + kSignEnds; }

std::string latex_with(const std::string& pattern, const std::vector<std::string>& signs) {
    std::string out;
    const auto is_letter = [](char c) { return std::isalpha(static_cast<unsigned char>(c)) != 0; };
    const auto add = [&](const std::string& what) {
        // A letter behind a command would be read as part of its name.
        size_t at = out.size();
        while (at > 0 && is_letter(out[at - 1])) --at;
        if (!what.empty() && is_letter(what[0]) && at > 0 && at < out.size() && out[at - 1] == '\\') out += ' ';
        out += what;
    };
    for (size_t i = 0; i < pattern.size();) {
        if (pattern[i] == kSignBegins) {
            const size_t end = pattern.find(kSignEnds, i);
            add(signs.at(std::stoul(pattern.substr(i + 1, end - i - 1))));
            i = end + 1;
        } else {
            size_t end = i + 1;
            if (pattern[i] == '\\')
                while (end < pattern.size() && is_letter(pattern[end])) ++end;
            add(pattern.substr(i, end - i));
            i = end;
        }
    }
    return out;
}

FormulaReading read_formula(const std::vector<Stroke>& strokes, const FormulaWeights& weights,
                            const CancelToken& cancel, const std::vector<SaidSign>& said, const SignMemory* taught) {
    if (strokes.empty() || strokes.size() > kMostFormulaStrokes ||
        std::ranges::any_of(strokes, [](const Stroke& s) { return s.points.empty(); }))
        return {};
    return Parsing(strokes, weights, cancel, said, taught).read();
}

}  // namespace fernleaf
