#include "math/parse_math.h"

#include <algorithm>
#include <iterator>
#include <map>
#include <optional>
#include <utility>

#include "base/text.h"
#include "math/quantities.h"

namespace fernleaf {
namespace {

enum class TokenKind { number, letter, command, sign, open, close, end };

struct Token {
    TokenKind kind = TokenKind::end;
    std::string text;  // digits, a letter, a command's name, or the sign
};

// Nothing to be multiplied or to be read: how wide a space is, and how large a bracket.
const std::set<std::string> kSilent = {
    ",",        ";",   ":",   "!",    " ",    "quad", "qquad", "left",  "right", "displaystyle", "textstyle", "limits",
    "nolimits", "big", "Big", "bigl", "bigr", "Bigl", "Bigr",  "biggl", "biggr", "thinspace",    "space"};
const std::map<std::string, std::string> kSigns = {
    {"cdot", "*"},        {"times", "*"},     {"ast", "*"},       {"div", "/"},         {"le", "<="},
    {"leq", "<="},        {"leqslant", "<="}, {"ge", ">="},       {"geq", ">="},        {"geqslant", ">="},
    {"ne", "!="},         {"neq", "!="},      {"approx", "~"},    {"lt", "<"},          {"gt", ">"},
    {"pm", "+-"},         {"lbrace", "{"},    {"rbrace", "}"},    {"lvert", "|"},       {"rvert", "|"},
    {"vert", "|"},        {"mid", "|"},       {"to", "->"},       {"rightarrow", "->"}, {"prime", "'"},
    {"lfloor", "floor("}, {"rfloor", ")"},    {"lceil", "ceil("}, {"rceil", ")"},       {"land", "and"},
    {"wedge", "and"},     {"cr", "\\"}};
const std::map<std::string, std::string> kLetters = {
    {"−", "-"},    {"–", "-"},        {"·", "*"},   {"×", "*"},      {"⋅", "*"},   {"÷", "/"},
    {"≤", "<="},   {"≥", ">="},       {"≠", "!="},  {"≈", "~"},      {"±", "+-"},  {"→", "->"},
    {"√", "sqrt"}, {"∞", "infinity"}, {"π", "pi"},  {"°", "degree"}, {"²", "^2"},  {"³", "^3"},
    {"∫", "int"},  {"Σ", "sum"},      {"∑", "sum"}, {"Π", "prod"},   {"∏", "prod"}};
const std::set<std::string> kGreek = {"alpha", "beta",     "gamma", "delta",   "epsilon", "varepsilon", "zeta",  "eta",
                                      "theta", "vartheta", "iota",  "kappa",   "lambda",  "mu",         "nu",    "xi",
                                      "rho",   "sigma",    "tau",   "upsilon", "phi",     "varphi",     "chi",   "psi",
                                      "omega", "Gamma",    "Delta", "Theta",   "Lambda",  "Xi",         "Sigma", "Phi",
                                      "Psi",   "Omega",    "ell",   "hbar"};
const std::map<std::string, std::string> kFunctions = {{"asin", "arcsin"}, {"acos", "arccos"}, {"atan", "arctan"},
                                                       {"lg", "log"},      {"tg", "tan"},      {"ctg", "cot"}};
// Words that are no function, but are read as one thing in a plain form.
const std::set<std::string> kWords = {"pi", "infinity", "inf", "and", "int", "sum", "prod", "lim", "sqrt"};

bool is_ascii_letter(char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z'); }

// A function by this name or another that is usual for it; empty: none.
std::string function_named(const std::string& name) {
    if (const auto other = kFunctions.find(name); other != kFunctions.end()) return other->second;
    static const std::set<std::string> written = {"sin",    "cos",    "tan",  "cot",  "sec",   "csc",     "arcsin",
                                                  "arccos", "arctan", "sinh", "cosh", "tanh",  "exp",     "ln",
                                                  "log",    "sqrt",   "root", "abs",  "floor", "ceil",    "round",
                                                  "min",    "max",    "gcd",  "lcm",  "det",   "binomial"};
    return written.contains(name) ? name : std::string();
}

Result<std::vector<Token>> tokens_of(std::string_view text, bool decimal_comma) {
    std::vector<Token> out;
    const auto add = [&](TokenKind kind, std::string value) { out.push_back({kind, std::move(value)}); };
    for (size_t i = 0; i < text.size();) {
        const char c = text[i];
        const auto digit = [&](size_t k) { return k < text.size() && text[k] >= '0' && text[k] <= '9'; };
        if (c == ' ' || c == '\t' || c == '\n' || c == '\r' || c == '$' || c == '~') {
            ++i;
        } else if (digit(i) || (c == '.' && digit(i + 1))) {
            std::string number;
            bool point = false;
            for (; i < text.size(); ++i) {
                const bool sign = !point && (text[i] == '.' || (decimal_comma && text[i] == ',')) && digit(i + 1);
                if (sign)
                    number += '.', point = true;
                else if (digit(i))
                    number += text[i];
                else
                    break;
            }
            add(TokenKind::number, number.starts_with('.') ? "0" + number : number);
        } else if (c == '\\') {
            size_t end = i + 1;
            while (end < text.size() && is_ascii_letter(text[end])) ++end;
            if (end == i + 1 && end < text.size()) ++end;
            const std::string name(text.substr(i + 1, end - i - 1));
            i = end;
            if (name == "\\")
                add(TokenKind::sign, "\\");
            else if (name == "{" || name == "}" || name == "|")
                add(TokenKind::sign, name);
            else if (name == "%")
                add(TokenKind::sign, "%");
            else if (const auto sign = kSigns.find(name); sign != kSigns.end() && sign->second.ends_with('('))
                add(TokenKind::command, sign->second.substr(0, sign->second.size() - 1)), add(TokenKind::sign, "(");
            else if (sign != kSigns.end())
                add(TokenKind::sign, sign->second);
            else if (!kSilent.contains(name))
                add(TokenKind::command, name);
        } else if (is_ascii_letter(c)) {
            size_t end = i;
            while (end < text.size() && is_ascii_letter(text[end])) ++end;
            std::string word(text.substr(i, end - i));
            // The longest function or word that it begins with; else a letter.
            size_t taken = kGreek.contains(word) ? word.size() : 0;
            for (size_t n = word.size(); n > 1 && taken == 0; --n)
                if (const std::string part = word.substr(0, n); !function_named(part).empty() || kWords.contains(part))
                    taken = n;
            if (taken > 0)
                add(TokenKind::command, word.substr(0, taken));
            else
                add(TokenKind::letter, word.substr(0, taken = 1));
            i += taken;
        } else if (c == '{') {
            add(TokenKind::open, "{"), ++i;
        } else if (c == '}') {
            add(TokenKind::close, "}"), ++i;
        } else if (text.substr(i, 2) == "<=" || text.substr(i, 2) == ">=" || text.substr(i, 2) == "!=" ||
                   text.substr(i, 2) == "->") {
            add(TokenKind::sign, std::string(text.substr(i, 2))), i += 2;
        } else if (text.substr(i, 2) == "**") {
            add(TokenKind::sign, "^"), i += 2;
        } else if (std::string_view("+-*/^_=<>()[]|!%',;:&").find(c) != std::string_view::npos) {
            add(TokenKind::sign, std::string(1, c == ':' ? '/' : c)), ++i;
        } else {
            // A sign beyond ASCII.
            size_t end = i + 1;
            while (end < text.size() && (static_cast<unsigned char>(text[end]) & 0xC0) == 0x80) ++end;
            const std::string sign(text.substr(i, end - i));
            i = end;
            const auto known = kLetters.find(sign);
            const std::u32string letter = decode_utf8(sign);
            if (known != kLetters.end() && is_ascii_letter(known->second[0]))
                add(TokenKind::command, known->second);
            else if (known != kLetters.end() && known->second[0] == '^')
                add(TokenKind::sign, "^"), add(TokenKind::number, known->second.substr(1));
            else if (known != kLetters.end())
                add(TokenKind::sign, known->second);
            else if (letter.size() == 1 && (is_letter(letter[0]) || sign == "€" || sign == "£"))
                add(TokenKind::letter, sign);
            else
                return Error{"“" + sign + "” can't stand in a formula."};
        }
    }
    add(TokenKind::end, "");
    return out;
}

struct Wrong {
    std::string what;
};

class Parser {
public:
    explicit Parser(std::vector<Token> tokens) : tokens_(std::move(tokens)) {}

    MathTree all() {
        MathTree out = rows();
        if (!ended()) fail();
        return out;
    }

private:
    const Token& now() const { return tokens_[std::min(at_, tokens_.size() - 1)]; }
    const Token& ahead(size_t by) const { return tokens_[std::min(at_ + by, tokens_.size() - 1)]; }
    bool ended() const { return now().kind == TokenKind::end; }
    bool is(TokenKind kind, std::string_view text) const { return now().kind == kind && now().text == text; }
    bool sign(std::string_view text) const { return is(TokenKind::sign, text); }
    bool take(TokenKind kind, std::string_view text) {
        const bool there = is(kind, text);
        if (there) ++at_;
        return there;
    }
    bool take_sign(std::string_view text) { return take(TokenKind::sign, text); }
    void need(TokenKind kind, std::string_view text) {
        if (!take(kind, text))
            throw Wrong{ended() ? "Something is missing at the end: “" + std::string(text) + "”."
                                : "“" + std::string(text) + "” is missing before “" + now().text + "”."};
    }
    [[noreturn]] void fail() const {
        if (ended()) throw Wrong{"The formula ends too early."};
        if (now().kind == TokenKind::command) throw Wrong{"“\\" + now().text + "” is unknown or out of place."};
        throw Wrong{"“" + now().text + "” is out of place."};
    }
    // What is nested too deeply would end the program before it is told.
    struct Deeper {
        explicit Deeper(Parser& parser) : parser_(parser) {
            if (++parser_.depth_ > kDeepestMath) throw Wrong{"The formula is nested too deeply."};
        }
        ~Deeper() { --parser_.depth_; }
        Deeper(const Deeper&) = delete;
        Deeper& operator=(const Deeper&) = delete;
        Parser& parser_;
    };

    // Relations that hold together; one that begins with its sign goes on with the one above it.
    MathTree rows() {
        std::vector<MathTree> out{relation()};
        while (take_sign("\\") || take_sign(";") || take_sign(",") || take_sign("and") ||
               take(TokenKind::command, "and")) {
            if (ended() || is(TokenKind::command, "end")) break;
            if (matrices_ == 0) take_sign("&");
            if (relation_sign().empty())
                out.push_back(relation());
            else
                out.back() = gone_on(std::move(out.back()));
        }
        if (out.size() == 1) return std::move(out[0]);
        for (const MathTree& row : out)
            if (row.kind != MathKind::relation) throw Wrong{"Only equations and inequalities can stand together."};
        return math_of(MathKind::all_of, std::move(out));
    }

    // The sign of a relation that stands here; empty: none does.
    std::string relation_sign() const {
        static const std::set<std::string> kinds = {"=", "<", "<=", ">", ">=", "!=", "~"};
        return now().kind == TokenKind::sign && kinds.contains(now().text) ? now().text : std::string();
    }

    MathTree relation() {
        const Deeper deeper(*this);
        take_sign("&");  // where lines are set in columns
        return related({sum()}, {});
    }
    MathTree gone_on(MathTree left) {
        if (left.kind == MathKind::relation) return related(std::move(left.parts), left.text);
        if (left.kind == MathKind::asked) left = std::move(left.parts[0]);
        return related({std::move(left)}, {});
    }
    // What follows the sides of a relation that are read.
    MathTree related(std::vector<MathTree> sides, std::string signs) {
        for (;;) {
            if (matrices_ == 0) take_sign("&");
            const std::string kind = relation_sign();
            if (kind.empty()) break;
            ++at_;
            if (matrices_ == 0) take_sign("&");
            const bool nothing = ended() || sign("\\") || is(TokenKind::close, "}") || is(TokenKind::sign, ";");
            if (nothing && (kind == "=" || kind == "~") && sides.size() == 1)
                return math_of(MathKind::asked, std::move(sides));
            signs += (signs.empty() ? "" : " ") + kind;
            sides.push_back(sum());
        }
        if (sides.size() == 1) return std::move(sides[0]);
        return {MathKind::relation, signs, std::move(sides)};
    }

    MathTree sum() {
        const Deeper deeper(*this);
        std::vector<MathTree> parts{signed_term()};
        for (;;) {
            if (take_sign("+")) {
                parts.push_back(product());
            } else if (take_sign("-")) {
                parts.push_back(math_of(MathKind::negative, {product()}));
            } else if (take_sign("+-")) {
                MathTree left = parts.size() == 1 ? std::move(parts[0]) : math_of(MathKind::sum, std::move(parts));
                parts = {math_call("plus_minus", {std::move(left), product()})};
            } else {
                break;
            }
        }
        return parts.size() == 1 ? std::move(parts[0]) : math_of(MathKind::sum, std::move(parts));
    }

    MathTree signed_term() {
        const Deeper deeper(*this);
        if (take_sign("+")) return signed_term();
        if (take_sign("-")) return math_of(MathKind::negative, {signed_term_after_minus()});
        return product();
    }
    MathTree signed_term_after_minus() {
        const Deeper deeper(*this);
        return sign("-") || sign("+") ? signed_term() : product();
    }

    // Whether what follows is multiplied though no sign says so.
    bool goes_on() const {
        switch (now().kind) {
            case TokenKind::number:
            case TokenKind::open:
                return true;
            case TokenKind::letter:
                return integrals_ == 0 || now().text != "d" || ahead(1).kind != TokenKind::letter;
            case TokenKind::command:
                return now().text != "end" && now().text != "and" && now().text != "mod" && now().text != "bmod" &&
                       now().text != "pmod" && now().text != "mathrm_d";
            case TokenKind::sign:
                return now().text == "(" || now().text == "[" || (now().text == "|" && bars_ == 0) || now().text == "{";
            default:
                return false;
        }
    }

    MathTree product() {
        const Deeper deeper(*this);
        MathTree left = implied();
        for (;;) {
            if (take_sign("*")) {
                left = times(std::move(left), implied_signed());
            } else if (take_sign("/")) {
                left = math_of(MathKind::quotient, {std::move(left), implied_signed()});
            } else if (take(TokenKind::command, "mod") || take(TokenKind::command, "bmod")) {
                left = math_call("mod", {std::move(left), implied_signed()});
            } else {
                return left;
            }
        }
    }
    MathTree implied_signed() {
        const Deeper deeper(*this);
        if (take_sign("-")) return math_of(MathKind::negative, {implied_signed()});
        if (take_sign("+")) return implied_signed();
        return implied();
    }

    static MathTree times(MathTree left, MathTree right) {
        MathTree out = math_of(MathKind::product, {});
        for (MathTree* side : {&left, &right})
            if (side->kind == MathKind::product)
                std::ranges::move(side->parts, std::back_inserter(out.parts));
            else
                out.parts.push_back(std::move(*side));
        return out;
    }

    MathTree implied() {
        MathTree left = postfixed();
        std::vector<MathTree> larger;  // 1 h of 1 h 30 min
        while (goes_on()) {
            if (now().kind == TokenKind::number && goes_on_in_smaller_units(left))
                larger.push_back(std::exchange(left, postfixed()));
            else
                left = times(std::move(left), postfixed());
        }
        if (larger.empty()) return left;
        larger.push_back(std::move(left));
        return math_of(MathKind::sum, std::move(larger));
    }
    // Whether a number with a unit stands here, and the number that comes next has a smaller one of its kind.
    bool goes_on_in_smaller_units(const MathTree& left) const {
        if (left.kind != MathKind::product || left.parts[0].kind != MathKind::number) return false;
        std::string larger, smaller;
        for (size_t i = 1; i < left.parts.size(); ++i) {
            if (left.parts[i].kind != MathKind::name) return false;
            larger += left.parts[i].text;
        }
        for (size_t i = 1; ahead(i).kind == TokenKind::letter || (ahead(i).text == "min" && i == 1); ++i)
            smaller += ahead(i).text;
        return are_units_of_a_kind(larger, smaller);
    }

    MathTree postfixed() {
        MathTree base = primary();
        for (;;) {
            if (take_sign("!")) {
                base = math_call("factorial", {std::move(base)});
            } else if (take_sign("%")) {
                base = math_call("percent", {std::move(base)});
            } else if (take(TokenKind::command, "degree")) {
                base = degrees(std::move(base));
            } else if (sign("^") && (ahead(1).text == "circ" || ahead(1).text == "degree" ||
                                     (ahead(1).text == "{" && ahead(2).text == "circ"))) {
                ++at_;
                const bool braced = take(TokenKind::open, "{");
                ++at_;
                if (braced) need(TokenKind::close, "}");
                base = degrees(std::move(base));
            } else if (take_sign("^")) {
                if (take(TokenKind::letter, "T")) {
                    base = math_call("transpose", {std::move(base)});
                    continue;
                }
                base = math_of(MathKind::power, {std::move(base), exponent()});
            } else {
                return base;
            }
        }
    }

    // What a command takes: a group, or one thing; of digits the first, so that \frac12 is a half.
    MathTree argument() {
        const Deeper deeper(*this);
        if (take(TokenKind::open, "{")) {
            MathTree inner = rows();
            need(TokenKind::close, "}");
            return inner;
        }
        if (now().kind == TokenKind::number && now().text.size() > 1 && now().text.find('.') == std::string::npos) {
            std::string& digits = tokens_[at_].text;
            MathTree out = math_number(digits.substr(0, 1));
            digits.erase(0, 1);
            return out;
        }
        return primary();
    }

    // An angle, or a temperature.
    MathTree degrees(MathTree of) {
        if (take(TokenKind::letter, "C")) return times(std::move(of), math_name("°C"));
        return math_call("degrees", {std::move(of)});
    }

    // What something is raised to: a group, or one thing, all its digits; powers of powers are taken from the right.
    MathTree exponent() {
        const Deeper deeper(*this);
        MathTree out = small();
        return take_sign("^") ? math_of(MathKind::power, {std::move(out), exponent()}) : out;
    }
    MathTree small() {
        const Deeper deeper(*this);
        if (is(TokenKind::open, "{")) return argument();
        if (take_sign("-")) return math_of(MathKind::negative, {small()});
        return primary();
    }

    // The text between braces, as it is.
    std::string plain_argument() {
        if (!take(TokenKind::open, "{")) {
            if (ended()) fail();
            return tokens_[at_++].text;
        }
        std::string out;
        while (!is(TokenKind::close, "}")) {
            if (ended()) throw Wrong{"A brace is not closed."};
            out += tokens_[at_++].text;
        }
        ++at_;
        return out;
    }

    MathTree enclosed(const char* close) {
        const size_t bars = std::exchange(bars_, 0), integrals = std::exchange(integrals_, 0);
        MathTree inner = rows_or_list(close);
        bars_ = bars, integrals_ = integrals;
        return inner;
    }
    MathTree rows_or_list(const char* close) {
        MathTree inner = sum();
        if (!take_sign(close)) throw Wrong{"A bracket is not closed."};
        return inner;
    }

    MathTree primary() {
        const Deeper deeper(*this);
        const Token token = now();
        switch (token.kind) {
            case TokenKind::number:
                ++at_;
                return math_number(token.text);
            case TokenKind::letter:
                ++at_;
                return indexed(token.text);
            case TokenKind::open: {
                ++at_;
                MathTree inner = rows();
                need(TokenKind::close, "}");
                return inner;
            }
            case TokenKind::sign:
                ++at_;
                if (token.text == "(") return enclosed(")");
                if (token.text == "[") return enclosed("]");
                if (token.text == "{") return enclosed("}");
                if (token.text == "|") {
                    ++bars_;
                    MathTree inner = sum();
                    --bars_;
                    need(TokenKind::sign, "|");
                    return math_call("abs", {std::move(inner)});
                }
                --at_;
                fail();
            case TokenKind::command:
                ++at_;
                return command(token.text);
            default:
                fail();
        }
    }

    // A name with the index that follows it.
    MathTree indexed(const std::string& name) {
        if (!take_sign("_")) return math_name(name);
        return math_name(name + "_" + plain_argument());
    }

    MathTree command(const std::string& name) {
        if (name == "pi" || name == "infinity") return math_name(name);
        if (name == "infty" || name == "inf") return math_name("infinity");
        if (kGreek.contains(name)) return indexed(name.starts_with("var") ? name.substr(3) : name);
        if (name == "frac" || name == "dfrac" || name == "tfrac" || name == "cfrac") return fraction();
        if (name == "sqrt") return square_root();
        if (name == "binom" || name == "dbinom") {
            MathTree n = argument();
            return math_call("binomial", {std::move(n), argument()});
        }
        if (name == "int" || name == "iint" || name == "oint") return integral();
        if (name == "sum" || name == "prod") return series(name == "sum" ? "sum_over" : "product_over");
        if (name == "lim") return limit();
        if (name == "begin") return environment();
        if (name == "text" || name == "mathrm" || name == "operatorname" || name == "mathit" || name == "mathbf" ||
            name == "vec" || name == "overline" || name == "mathbb" || name == "textrm" || name == "hat" ||
            name == "bar") {
            const std::string word = plain_argument();
            if (const std::string function = function_named(word); !function.empty()) return call(function);
            if (word.empty()) fail();
            return indexed(word);
        }
        if (const std::string function = function_named(name); !function.empty()) return call(function);
        --at_;
        fail();
    }

    MathTree fraction() {
        // d/dx of what follows.
        const size_t begin = at_;
        if (auto by = derivative_head()) return *by;
        at_ = begin;
        MathTree above = argument();
        return math_of(MathKind::quotient, {std::move(above), argument()});
    }

    std::optional<MathTree> derivative_head() {
        int order = 1;
        const auto is_d = [&] { return take(TokenKind::letter, "d") || take(TokenKind::command, "partial"); };
        if (!take(TokenKind::open, "{") || !is_d()) return {};
        if (take_sign("^")) {
            const std::string power = plain_argument();
            if (power.empty() || power.size() > 2 || power.find_first_not_of("0123456789") != std::string::npos)
                return {};
            order = std::stoi(power);
        }
        if (!take(TokenKind::close, "}") || !take(TokenKind::open, "{") || !is_d() || now().kind != TokenKind::letter)
            return {};
        const std::string by = now().text;
        ++at_;
        if (take_sign("^")) static_cast<void>(plain_argument());
        if (!take(TokenKind::close, "}")) return {};
        MathTree of = implied();
        return math_call("derivative", {std::move(of), math_name(by), math_number(std::to_string(order))});
    }

    MathTree square_root() {
        std::optional<MathTree> index;
        if (take_sign("[")) {
            index = sum();
            need(TokenKind::sign, "]");
        }
        MathTree of = argument();
        if (!index) return math_call("sqrt", {std::move(of)});
        return math_call("root", {*std::move(index), std::move(of)});
    }

    MathTree call(const std::string& function) {
        // Minutes.
        if (function == "min" && !sign("(") && !sign("_")) return math_name(function);
        std::optional<MathTree> index, power;
        for (int k = 0; k < 2; ++k) {
            if (!index && take_sign("_"))
                index = small();
            else if (!power && take_sign("^"))
                power = exponent();
        }
        // sin^{-1} is the inverse, not a power.
        std::string name = function;
        const bool inverse = power && power->kind == MathKind::negative && power->parts[0] == math_number("1");
        if (inverse && (name == "sin" || name == "cos" || name == "tan")) name = "arc" + name, power.reset();
        std::vector<MathTree> arguments;
        if (take_sign("(")) {
            const size_t bars = std::exchange(bars_, 0), integrals = std::exchange(integrals_, 0);
            do arguments.push_back(sum());
            while (take_sign(",") || take_sign(";"));
            bars_ = bars, integrals_ = integrals;
            if (!take_sign(")")) throw Wrong{"A bracket is not closed."};
        } else {
            // Without brackets what is multiplied with it: sin 2x, but not sin x cos x.
            MathTree of = signed_argument();
            while (goes_on() && !(now().kind == TokenKind::command && !function_named(now().text).empty()))
                of = times(std::move(of), postfixed());
            arguments.push_back(std::move(of));
        }
        if (name == "log" && index) arguments.push_back(*std::move(index));
        const MathFunction* known = known_function(name);
        if (!known || arguments.size() < static_cast<size_t>(known->least) ||
            arguments.size() > static_cast<size_t>(known->most))
            throw Wrong{"“" + function + "” has too many or too few arguments."};
        MathTree out = math_call(name, std::move(arguments));
        if (power) out = math_of(MathKind::power, {std::move(out), *std::move(power)});
        return out;
    }
    MathTree signed_argument() {
        const Deeper deeper(*this);
        return take_sign("-") ? math_of(MathKind::negative, {signed_argument()}) : postfixed();
    }

    // The bounds of a series or an integral, in either order.
    std::pair<std::optional<MathTree>, std::optional<MathTree>> bounds() {
        std::optional<MathTree> low, high;
        for (int k = 0; k < 2; ++k) {
            if (!low && take_sign("_"))
                low = bound();
            else if (!high && take_sign("^"))
                high = bound();
        }
        return {std::move(low), std::move(high)};
    }
    MathTree bound() {
        if (!take(TokenKind::open, "{")) return small();
        MathTree inner = relation();
        need(TokenKind::close, "}");
        return inner;
    }

    MathTree integral() {
        auto [low, high] = bounds();
        if (low.has_value() != high.has_value()) throw Wrong{"An integral has two bounds, or none."};
        ++integrals_;
        MathTree of = is_differential() ? math_number("1") : sum();
        --integrals_;
        if (!is_differential()) throw Wrong{"An integral ends with d and what it is taken over, such as dx."};
        ++at_;
        const std::string over = now().text;
        ++at_;
        std::vector<MathTree> parts{std::move(of), math_name(over)};
        if (low) parts.push_back(*std::move(low)), parts.push_back(*std::move(high));
        return math_call("integral", std::move(parts));
    }
    bool is_differential() const {
        return is(TokenKind::letter, "d") && (ahead(1).kind == TokenKind::letter || kGreek.contains(ahead(1).text));
    }

    MathTree series(const char* name) {
        auto [low, high] = bounds();
        if (!low || !high || low->kind != MathKind::relation || low->text != "=" ||
            low->parts[0].kind != MathKind::name)
            throw Wrong{"A sum needs bounds, such as k = 1 below and n above."};
        MathTree of = product();
        return math_call(name, {std::move(of), low->parts[0], low->parts[1], *std::move(high)});
    }

    MathTree limit() {
        if (!take_sign("_")) throw Wrong{"A limit needs to say what goes where, such as x → 0."};
        const bool braced = take(TokenKind::open, "{");
        if (now().kind != TokenKind::letter && !kGreek.contains(now().text)) fail();
        const MathTree by = math_name(now().text);
        ++at_;
        need(TokenKind::sign, "->");
        MathTree to = signed_place();
        std::string name = "limit";
        if (take_sign("^")) {
            const std::string side = plain_argument();
            name = side == "+" ? "limit_above" : side == "-" ? "limit_below" : name;
        }
        if (braced) need(TokenKind::close, "}");
        MathTree of = product();
        return math_call(name, {std::move(of), by, std::move(to)});
    }
    // Where a limit goes; a power of + or - that follows is a side.
    MathTree signed_place() {
        const Deeper deeper(*this);
        if (take_sign("-")) return math_of(MathKind::negative, {signed_place()});
        if (take_sign("+")) return signed_place();
        MathTree out = primary();
        while (take_sign("/")) out = math_of(MathKind::quotient, {std::move(out), primary()});
        return out;
    }

    MathTree environment() {
        const std::string name = plain_argument();
        const bool cases =
            name == "cases" || name == "aligned" || name == "align" || name == "array" || name == "gathered";
        if (!cases && !name.ends_with("matrix")) throw Wrong{"“" + name + "” is not known."};
        if (!cases) return matrix(name);
        if (name == "array" && is(TokenKind::open, "{")) static_cast<void>(plain_argument());
        MathTree inner = has_line() ? column_sum() : rows();
        end(name);
        return inner;
    }
    // Whether a line is drawn across the environment that has begun.
    bool has_line() const {
        for (size_t i = 0; ahead(i).kind != TokenKind::end; ++i) {
            const Token& token = ahead(i);
            if (token.kind != TokenKind::command) continue;
            if (token.text == "end") return false;
            if (token.text == "hline") return true;
        }
        return false;
    }
    // Numbers below one another, a line, and what they come to; without that it is asked for.
    MathTree column_sum() {
        MathTree sum = math_of(MathKind::sum, {});
        while (!take(TokenKind::command, "hline")) {
            const bool minus = take_sign("-");
            if (!minus) take_sign("+");
            MathTree part = product();
            sum.parts.push_back(minus ? math_of(MathKind::negative, {std::move(part)}) : std::move(part));
            if (!take_sign("\\") && !is(TokenKind::command, "hline")) fail();
        }
        if (sum.parts.size() < 2) throw Wrong{"Above the line of a column there must be two numbers or more."};
        if (is(TokenKind::command, "end")) return math_of(MathKind::asked, {std::move(sum)});
        MathTree total = this->sum();
        return {MathKind::relation, "=", {std::move(sum), std::move(total)}};
    }
    MathTree matrix(const std::string& name) {
        ++matrices_;
        MathTree out = math_of(MathKind::matrix, {});
        do {
            if (is(TokenKind::command, "end")) break;
            MathTree row = math_of(MathKind::row, {});
            do row.parts.push_back(sum());
            while (take_sign("&"));
            out.parts.push_back(std::move(row));
        } while (take_sign("\\"));
        --matrices_;
        end(name);
        for (const MathTree& row : out.parts)
            if (row.parts.size() != out.parts[0].parts.size())
                throw Wrong{"The rows of a matrix are of different lengths."};
        return name == "vmatrix" ? math_call("det", {std::move(out)}) : out;
    }
    void end(const std::string& name) {
        take_sign("\\");
        need(TokenKind::command, "end");
        if (plain_argument() != name) throw Wrong{"“" + name + "” is not ended."};
    }

    std::vector<Token> tokens_;
    size_t at_ = 0, depth_ = 0, bars_ = 0, integrals_ = 0, matrices_ = 0;
};

}  // namespace

Result<MathTree> parse_math(std::string_view text, bool decimal_comma) {
    if (text.size() > kLongestMath) return Error{"The formula is too long."};
    if (!valid_utf8(text)) return Error{"The formula is no text in UTF-8."};
    auto tokens = tokens_of(text, decimal_comma);
    if (!tokens) return tokens.error();
    if (tokens->size() == 1) return Error{"There is no formula."};
    try {
        MathTree out = Parser(*std::move(tokens)).all();
        if (!is_sound(out)) return Error{"The formula is too large."};
        return out;
    } catch (const Wrong& wrong) {
        return Error{wrong.what};
    }
}

}  // namespace fernleaf
