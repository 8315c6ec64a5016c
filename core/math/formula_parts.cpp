#include "math/formula_parts.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <string_view>

namespace fernleaf {
namespace {

// A root's index, of its sign's height: how high it is at most, how far down, above and before the sign it may stand.
constexpr double kIndexHeight = 0.65, kIndexFoot = 0.75, kIndexAbove = 0.2, kIndexBefore = 0.35;
// An arrow over a letter: of the line's unit how far into it and above it it may stand, of the letter's width how wide
// it is, of the wider one's how far aside.
constexpr double kArrowInto = 0.15, kArrowAbove = 1.2, kArrowWidth = 1.6, kArrowLeast = 0.5, kArrowAside = 0.4;

using Kind = FormulaPart::Kind;

// Of a small letter's height: how high signs of each kind stand, and how far below the baseline they begin.
constexpr double kTall = 1.75, kTailed = 1.6, kTail = 0.6, kBoth = 2.3, kBelow = 0.45;
constexpr double kMostNumber = 6;

const MathSign* sign_of(int sign) { return sign < 0 ? nullptr : &math_signs()[static_cast<size_t>(sign)]; }

bool is(int sign, SignKind kind) {
    const MathSign* s = sign_of(sign);
    return s && s->kind == kind;
}

bool is_minus(int sign) {
    static const int minus = static_cast<int>(*sign_named("-"));
    return sign == minus;
}

// lim, min and max have bounds under them.
bool names_operation(const FormulaPart& part) {
    const std::string_view name(part.name.data());
    return name == "lim" || name == "min" || name == "max";
}

// A point, an operation or a relation by itself is no power and no index.
bool is_only_between(const FormulaPart& part) {
    return part.kind == Kind::sign && (is(part.first_sign, SignKind::point) || is(part.first_sign, SignKind::binary) ||
                                       is(part.first_sign, SignKind::relation));
}

float number(double value) { return static_cast<float>(std::clamp(value, -kMostNumber, kMostNumber)); }
double ratio(double a, double b) { return std::log(std::max(a, 1e-3) / std::max(b, 1e-3)); }

std::array<char, 8> with_letter(std::array<char, 8> letters, char next) {
    size_t count = std::strlen(letters.data());
    if (count + 1 == letters.size()) std::shift_left(letters.begin(), letters.end(), 1), --count;
    letters[count] = next, letters[count + 1] = 0;
    return letters;
}

}  // namespace

FormulaPart sign_part(size_t sign, const Box& box, const FormulaInk& ink) {
    FormulaPart out;
    out.ink = ink;
    out.box = out.first = out.last = out.nucleus = box;
    out.first_sign = out.last_sign = static_cast<int>(sign);
    const MathSign& s = math_signs()[sign];
    const double high = std::max(box.height(), 0.1), middle = box.centre().y;
    out.told = 1;
    switch (s.height) {
        case SignHeight::small:
            out.unit = high, out.baseline = box.bottom;
            break;
        case SignHeight::tall:
            out.unit = high / kTall, out.baseline = box.bottom;
            break;
        case SignHeight::tailed:
            out.unit = high / kTailed, out.baseline = box.bottom - kTail * out.unit;
            break;
        case SignHeight::both:
            out.unit = high / kBoth, out.baseline = box.bottom - kBelow * out.unit;
            if (s.kind != SignKind::letter) out.told = 0;
            break;
        case SignHeight::middle:
            out.unit = std::max({box.width(), box.height(), 0.1}), out.baseline = middle + out.unit / 2, out.told = 0;
            break;
        case SignHeight::low:
            out.unit = 2 * std::max({box.width(), box.height(), 0.3}), out.baseline = box.bottom, out.told = 0;
            break;
        case SignHeight::high:
            out.unit = 2 * std::max({box.width(), box.height(), 0.2}), out.baseline = box.top + kTall * out.unit,
            out.told = 0;
            break;
    }
    if (s.kind == SignKind::letter && s.latex[0] >= 'a' && s.latex[0] <= 'z') out.name[0] = out.tail[0] = s.latex[0];
    out.open = s.kind == SignKind::open;
    out.reversed = s.kind == SignKind::close;
    return out;
}

bool may_stand(const FormulaPart& a, const FormulaPart& b, Place place) {
    if (b.kind == Kind::dividend) return false;
    const MathSign* sign = sign_of(a.last_sign);
    const bool bare_root = a.kind == Kind::sign && is(a.last_sign, SignKind::root);
    const bool bare_b = b.kind == Kind::sign && is(b.first_sign, SignKind::root);
    if (bare_b) return false;
    switch (place) {
        case Place::right:
            return a.kind != Kind::dividend && b.kind != Kind::row && !bare_root;
        case Place::power:
        case Place::index:
            if (a.kind == Kind::row || a.kind == Kind::dividend || bare_root || is_only_between(b)) return false;
            // The power comes first, so that what has both is made in one way.
            if (a.has_index || (place == Place::power && a.has_power)) return false;
            if (!sign) return a.kind == Kind::root && place == Place::power;
            return sign->kind == SignKind::digit || sign->kind == SignKind::letter || sign->kind == SignKind::close ||
                   sign->kind == SignKind::operation || sign->kind == SignKind::bar || a.kind == Kind::root;
        case Place::over:
            if (a.kind == Kind::root) return !a.has_root_index && !is_only_between(b);
            if (is_arrow_over(b, a)) return true;
            return a.kind == Kind::sign && (is_minus(a.last_sign) || is(a.last_sign, SignKind::operation));
        case Place::under:
            return a.kind == Kind::dividend || names_operation(a) ||
                   (a.kind != Kind::row && !a.has_index && is(a.first_sign, SignKind::operation));
        case Place::inside:
            return bare_root;
        case Place::none:
            break;
    }
    return false;
}

bool is_arrow_over(const FormulaPart& arrow, const FormulaPart& letter) {
    static const int to = static_cast<int>(*sign_named("\\to"));
    if (arrow.kind != Kind::sign || arrow.first_sign != to) return false;
    if (letter.kind != Kind::sign || !is(letter.first_sign, SignKind::letter)) return false;
    const Box &over = arrow.box, &under = letter.box;
    const double middle = std::abs(over.centre().x - under.centre().x);
    return over.bottom < under.top + kArrowInto * letter.unit && over.bottom > under.top - kArrowAbove * letter.unit &&
           over.width() < kArrowWidth * under.width() + letter.unit && over.width() > kArrowLeast * under.width() &&
           middle < kArrowAside * std::max(over.width(), under.width());
}

bool stands_in_hook(const Box& hook, const Box& body, const Box& b) {
    const double height = hook.height();
    return b.height() < kIndexHeight * height && b.bottom < hook.top + kIndexFoot * height &&
           b.bottom > hook.top - kIndexAbove * height && b.centre().x > hook.left - kIndexBefore * height &&
           b.right < std::max(body.left, hook.left + kIndexBefore * height);
}

FormulaPart joined(const FormulaPart& a, const FormulaPart& b, Place place) {
    FormulaPart out = a;
    out.ink |= b.ink;
    out.box.include(b.box);
    out.by = place;
    if (place != Place::right && place != Place::power) out.name = {}, out.tail = {};
    switch (place) {
        case Place::right: {
            out.kind = Kind::row;
            const double all = a.told + b.told;
            if (all > 0) {
                out.baseline = (a.told * a.baseline + b.told * b.baseline) / all;
                out.unit = std::exp((a.told * std::log(a.unit) + b.told * std::log(b.unit)) / all);
            }
            out.told = std::min(a.told + b.told, 6);  // the line may climb
            out.last = b.box, out.nucleus = b.nucleus;
            const size_t spelt = std::strlen(a.name.data());
            const bool spells = spelt > 0 && spelt < 3 && b.name[0] != 0 && b.name[1] == 0;
            out.name = {};
            if (spells) out.name = a.name, out.name[spelt] = b.name[0];
            out.tail = b.name[0] != 0 && b.name[1] == 0 ? with_letter(a.tail, b.name[0]) : decltype(out.tail){};
            out.last_sign = b.last_sign;
            out.has_power = out.has_index = false;
            const int closed = std::min(a.open, b.reversed);
            out.open = a.open - closed + b.open, out.reversed = a.reversed + b.reversed - closed;
            break;
        }
        case Place::power:
        case Place::index:
            out.kind = Kind::scripts;
            out.last = out.box;
            (place == Place::power ? out.has_power : out.has_index) = true;
            break;
        case Place::over:
        case Place::under:
            if (is_arrow_over(b, a)) {
                out.kind = Kind::vector;
                out.first = out.last = out.box;
            } else if (a.kind == Kind::root) {
                out.has_root_index = true;
                out.first = out.last = out.nucleus = out.box;
            } else if (is_minus(a.first_sign) && a.kind != Kind::scripts) {
                const bool whole = a.kind == Kind::dividend;
                out.kind = whole ? Kind::fraction : Kind::dividend;
                out.nucleus = a.nucleus;
                if (whole) {
                    // The bar stands where a minus would.
                    out.baseline = a.nucleus.centre().y + a.unit / 2, out.told = 1;
                    out.first = out.last = out.nucleus = out.box;
                    out.first_sign = out.last_sign = -1;
                } else {
                    out.unit = b.unit;
                }
                out.open = out.reversed = 0;
            } else {
                out.kind = Kind::scripts;
                out.last = out.box;
                (place == Place::over ? out.has_power : out.has_index) = true;
            }
            break;
        case Place::inside:
            out.kind = Kind::root;
            out.baseline = b.baseline, out.unit = b.unit, out.told = b.told;
            out.first = out.last = out.nucleus = out.box;
            out.open = out.reversed = 0;
            break;
        case Place::none:
            break;
    }
    return out;
}

PlaceNumbers place_numbers(const FormulaPart& a, const FormulaPart& b) {
    PlaceNumbers out{};
    const double unit = std::max(a.unit, 0.1);
    const Box &whole = a.box, &beside = a.last;
    size_t at = 0;
    for (const double value :
         {(b.baseline - a.baseline) / unit, ratio(b.unit, a.unit), (b.box.left - beside.right) / unit,
          (b.box.top - beside.top) / unit, (b.box.bottom - beside.bottom) / unit,
          (b.first.centre().y - beside.top) / std::max(beside.height(), 0.3 * unit),
          (b.box.centre().x - whole.centre().x) / std::max(whole.width(), unit), (b.box.left - whole.left) / unit,
          (b.box.right - whole.right) / unit, ratio(beside.height(), unit), ratio(b.box.height(), unit),
          ratio(b.box.width(), unit), ratio(whole.width(), unit), (b.box.top - whole.bottom) / unit,
          (whole.top - b.box.bottom) / unit})
        out[at++] = number(value);
    const auto tell = [&](int sign) {
        if (const MathSign* s = sign_of(sign)) {
            out[at + static_cast<size_t>(s->height)] = 1;
            out[at + kSignHeights + static_cast<size_t>(s->kind)] = 1;
        }
        at += kSignHeights + kSignKinds;
    };
    tell(a.last_sign), tell(b.first_sign);
    out[at++] = a.kind == Kind::row, out[at++] = a.kind == Kind::scripts;
    out[at++] = b.kind == Kind::row, out[at++] = a.told == 0;
    return out;
}

}  // namespace fernleaf
