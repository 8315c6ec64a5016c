#include "math/algebra_text.h"

#include <algorithm>
#include <cctype>

namespace fernleaf {
namespace {

// 12.50 as 1250/100, so that nothing is rounded.
std::string exact(const std::string& digits) {
    const size_t point = digits.find('.');
    if (point == std::string::npos) return digits;
    std::string all = digits.substr(0, point) + digits.substr(point + 1);
    all.erase(0, std::min(all.find_first_not_of('0'), all.size() - 1));
    return "(" + all + "/1" + std::string(digits.size() - point - 1, '0') + ")";
}

const char* half_turn(AngleUnit unit) { return unit == AngleUnit::degree ? "180" : "200"; }

// What the program calls otherwise than known_functions() does.
const std::map<std::string, std::string>& names_back() {
    static const std::map<std::string, std::string> names = {
        {"asin", "arcsin"}, {"acos", "arccos"}, {"atan", "arctan"}, {"log", "ln"}, {"comb", "binomial"}};
    return names;
}

// Reads what the program tells: numbers, names, calls, lists, and conditions.
class AnswerParser {
public:
    AnswerParser(const std::string& text, const std::map<std::string, std::string>& meant)
        : text_(text), meant_(meant) {}

    std::optional<AlgebraAnswer> all() {
        auto out = any();
        skip();
        if (wrong_ || at_ != text_.size()) return {};
        return out;
    }

private:
    void skip() {
        while (at_ < text_.size() && text_[at_] == ' ') ++at_;
    }
    bool take(const std::string& what) {
        skip();
        if (text_.compare(at_, what.size(), what) != 0) return false;
        at_ += what.size();
        return true;
    }
    bool take_word(const std::string& word) {
        skip();
        const size_t end = at_ + word.size();
        if (text_.compare(at_, word.size(), word) != 0 ||
            (end < text_.size() && std::isalnum(static_cast<unsigned char>(text_[end]))))
            return false;
        at_ = end;
        return true;
    }
    char next() {
        skip();
        return at_ < text_.size() ? text_[at_] : '\0';
    }
    template <typename Part>
    AlgebraAnswer joined(AlgebraAnswer::Kind kind, const char* word, Part part) {
        AlgebraAnswer first = (this->*part)();
        if (!take_word(word)) return first;
        AlgebraAnswer out{kind, {}, {std::move(first)}};
        do out.parts.push_back((this->*part)());
        while (!wrong_ && take_word(word));
        return out;
    }
    AlgebraAnswer any() { return joined(AlgebraAnswer::Kind::any, "or", &AnswerParser::together); }
    AlgebraAnswer together() { return joined(AlgebraAnswer::Kind::all, "and", &AnswerParser::relation); }

    AlgebraAnswer relation() {
        AlgebraAnswer left = sum();
        for (const char* sign : {"<=", ">=", "!=", "=", "<", ">"})
            if (take(sign)) return value({MathKind::relation, sign, {std::move(left.value), sum().value}});
        return left;
    }
    static AlgebraAnswer value(MathTree tree) { return {AlgebraAnswer::Kind::value, std::move(tree), {}}; }
    bool is_value(const AlgebraAnswer& a) {
        if (a.kind != AlgebraAnswer::Kind::value) wrong_ = true;
        return !wrong_;
    }

    AlgebraAnswer sum() {
        if (++depth_ > kDeepestMath) wrong_ = true;
        AlgebraAnswer first = product();
        std::vector<MathTree> parts;
        while (!wrong_) {
            const bool plus = take("+"), minus = !plus && take("-");
            if (!plus && !minus) break;
            if (parts.empty()) parts.push_back(first.value);
            MathTree part = product().value;
            parts.push_back(minus ? math_of(MathKind::negative, {std::move(part)}) : std::move(part));
        }
        --depth_;
        if (parts.empty()) return first;
        return is_value(first) ? value(math_of(MathKind::sum, std::move(parts))) : first;
    }

    AlgebraAnswer product() {
        AlgebraAnswer first = negated();
        MathTree left = first.value;
        bool more = false;
        while (!wrong_) {
            if (next() == '*' && text_.compare(at_, 2, "**") != 0 && take("*")) {
                MathTree right = negated().value;
                if (left.kind == MathKind::product)
                    left.parts.push_back(std::move(right));
                else
                    left = math_of(MathKind::product, {std::move(left), std::move(right)});
            } else if (take("/")) {
                left = math_of(MathKind::quotient, {std::move(left), negated().value});
            } else {
                break;
            }
            more = true;
        }
        if (!more) return first;
        return is_value(first) ? value(std::move(left)) : first;
    }

    AlgebraAnswer negated() {
        if (++depth_ > kDeepestMath) wrong_ = true;
        AlgebraAnswer out;
        if (!wrong_ && take("-"))
            out = value(math_of(MathKind::negative, {negated().value}));
        else if (!wrong_ && take("+"))
            out = negated();
        else
            out = power();
        --depth_;
        return out;
    }

    AlgebraAnswer power() {
        AlgebraAnswer base = primary();
        if (wrong_ || !take("^")) return base;
        return is_value(base) ? value(math_of(MathKind::power, {std::move(base.value), negated().value})) : base;
    }

    AlgebraAnswer listed(char close) {
        AlgebraAnswer out{AlgebraAnswer::Kind::list, {}, {}};
        if (next() == close) return ++at_, out;
        do out.parts.push_back(any());
        while (!wrong_ && take(","));
        if (!take(std::string(1, close))) wrong_ = true;
        return out;
    }

    AlgebraAnswer primary() {
        if (wrong_ || ++depth_ > kDeepestMath) wrong_ = true;
        AlgebraAnswer out;
        const char c = next();
        if (wrong_) {
        } else if (c == '(') {
            ++at_;
            out = any();
            if (!take(")")) wrong_ = true;
        } else if (c == '[') {
            ++at_;
            out = listed(']');
        } else if (std::isdigit(static_cast<unsigned char>(c)) || c == '.') {
            out = number();
        } else if (std::isalpha(static_cast<unsigned char>(c))) {
            out = word();
        } else {
            wrong_ = true;
        }
        while (!wrong_ && text_.compare(at_, 1, "!") == 0 && text_.compare(at_, 2, "!=") != 0) {
            ++at_;
            out.value = math_call("factorial", {std::move(out.value)});
        }
        --depth_;
        return out;
    }

    AlgebraAnswer number() {
        const size_t begin = at_;
        while (at_ < text_.size() && (std::isdigit(static_cast<unsigned char>(text_[at_])) || text_[at_] == '.')) ++at_;
        MathTree digits = math_number(text_.substr(begin, at_ - begin));
        if (digits.text.ends_with('.')) digits.text += '0';
        if (at_ >= text_.size() || (text_[at_] != 'e' && text_[at_] != 'E')) return value(std::move(digits));
        ++at_;
        const bool minus = text_.compare(at_, 1, "-") == 0;
        if (minus || text_.compare(at_, 1, "+") == 0) ++at_;
        const size_t power = at_;
        while (at_ < text_.size() && std::isdigit(static_cast<unsigned char>(text_[at_]))) ++at_;
        MathTree exponent = math_number(text_.substr(power, at_ - power));
        if (minus) exponent = math_of(MathKind::negative, {std::move(exponent)});
        MathTree scale = math_of(MathKind::power, {math_number("10"), std::move(exponent)});
        return value(math_of(MathKind::product, {std::move(digits), std::move(scale)}));
    }

    AlgebraAnswer word() {
        const size_t begin = at_;
        while (at_ < text_.size() && (std::isalnum(static_cast<unsigned char>(text_[at_])) || text_[at_] == '_')) ++at_;
        std::string name = text_.substr(begin, at_ - begin);
        if (name == "list" && next() == '[') {
            ++at_;
            return listed(']');
        }
        if (next() == '(') {
            ++at_;
            AlgebraAnswer arguments = listed(')');
            if (const auto other = names_back().find(name); other != names_back().end()) name = other->second;
            if (!known_function(name)) wrong_ = true;
            MathTree out = math_call(name, {});
            for (AlgebraAnswer& part : arguments.parts) out.parts.push_back(std::move(part.value));
            if (name != "exp" || out.parts.size() != 1) return value(std::move(out));
            // As people write it.
            if (out.parts[0] == math_number("1")) return value(math_name("e"));
            return value(math_of(MathKind::power, {math_name("e"), std::move(out.parts[0])}));
        }
        if (const auto meant = meant_.find(name); meant != meant_.end()) return value(math_name(meant->second));
        static const std::set<std::string> own = {"pi", "e", "i", "infinity"};
        if (!own.contains(name)) wrong_ = true;
        return value(math_name(name));
    }

    const std::string& text_;
    const std::map<std::string, std::string>& meant_;
    size_t at_ = 0, depth_ = 0;
    bool wrong_ = false;
};

}  // namespace

std::string AlgebraText::name_of(const std::string& name) {
    const auto known = sent_.find(name);
    if (known != sent_.end()) return known->second;
    std::string sent = "v" + std::to_string(sent_.size() + 1);
    sent_[name] = sent, meant_[sent] = name;
    return sent;
}

std::string AlgebraText::list(const std::vector<MathTree>& parts, const char* between) {
    std::string out;
    for (size_t i = 0; i < parts.size(); ++i) out += (i > 0 ? between : "") + of(parts[i]);
    return out;
}

std::string AlgebraText::of(const MathTree& tree) {
    const auto& p = tree.parts;
    switch (tree.kind) {
        case MathKind::number:
            return exact(tree.text);
        case MathKind::unit:
        case MathKind::name:
            if (tree.text == "pi" || tree.text == "e" || tree.text == "i" || tree.text == "infinity") return tree.text;
            return name_of(tree.text);
        case MathKind::sum:
            return "(" + list(p, "+") + ")";
        case MathKind::product:
            return "(" + list(p, "*") + ")";
        case MathKind::quotient:
            return "(" + of(p[0]) + "/" + of(p[1]) + ")";
        case MathKind::power:
            return "((" + of(p[0]) + ")^(" + of(p[1]) + "))";
        case MathKind::negative:
            return "(-" + of(p[0]) + ")";
        case MathKind::call:
            return call(tree);
        case MathKind::relation:
            return of(p[0]) + (tree.text == "~" ? "=" : tree.text) + of(p[1]);
        case MathKind::asked:
            return of(p[0]);
        case MathKind::all_of:
        case MathKind::matrix:
        case MathKind::row:
            return "[" + list(p, ",") + "]";
    }
    return {};
}

std::string AlgebraText::call(const MathTree& tree) {
    const auto& p = tree.parts;
    const std::string& f = tree.text;
    const MathFunction& known = *known_function(f);
    if (known.trigonometric && !known.inverse) {
        // What says that it is in degrees is turned by degrees().
        const bool plain = unit_ == AngleUnit::radian || holds_degrees(p[0]);
        return std::string(known.algebra) + "(" + of(p[0]) +
               (plain ? ")" : std::string("*pi/") + half_turn(unit_) + ")");
    }
    if (known.inverse)
        return "(" + std::string(known.algebra) + "(" + of(p[0]) + ")" +
               (unit_ == AngleUnit::radian ? ")" : std::string("*") + half_turn(unit_) + "/pi)");
    if (*known.algebra != '\0') return std::string(known.algebra) + "(" + list(p, ",") + ")";
    if (f == "log") return "(ln(" + of(p[0]) + ")/ln(" + (p.size() == 2 ? of(p[1]) : "10") + "))";
    if (f == "root") {
        const bool odd = p[0].kind == MathKind::number && p[0].text.find('.') == std::string::npos &&
                         (p[0].text.back() - '0') % 2 == 1;
        return odd ? "surd(" + of(p[1]) + "," + of(p[0]) + ")" : "((" + of(p[1]) + ")^(1/(" + of(p[0]) + ")))";
    }
    if (f == "mod") return "irem(" + of(p[0]) + "," + of(p[1]) + ")";
    if (f == "percent") return "(" + of(p[0]) + "/100)";
    if (f == "degrees") return "(" + of(p[0]) + "*pi/180)";
    if (f == "integral") return "integrate(" + list(p, ",") + ")";
    if (f == "derivative") return "diff(" + list(p, ",") + ")";
    if (f == "limit") return "limit(" + list(p, ",") + ")";
    if (f == "limit_above") return "limit(" + list(p, ",") + ",1)";
    if (f == "limit_below") return "limit(" + list(p, ",") + ",-1)";
    if (f == "sum_over") return "sum(" + list(p, ",") + ")";
    if (f == "product_over") return "product(" + list(p, ",") + ")";
    return "(" + of(p[0]) + ")";
}

bool holds_degrees(const MathTree& tree) {
    return (tree.kind == MathKind::call && tree.text == "degrees") || std::ranges::any_of(tree.parts, holds_degrees);
}

std::optional<AlgebraAnswer> AlgebraText::read(const std::string& text) const {
    return AnswerParser(text, meant_).all();
}

}  // namespace fernleaf
