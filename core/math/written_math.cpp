#include "math/written_math.h"

#include <algorithm>
#include <cctype>
#include <map>
#include <utility>

#include "math/math_signs.h"
#include "math/quantities.h"

namespace fernleaf {
namespace {

using Kind = WrittenMath::Kind;

constexpr int kDeepest = 60;

bool names_function(std::string_view command) {
    return command.starts_with('\\') &&
           std::ranges::find(written_functions(), command.substr(1)) != written_functions().end();
}

const std::map<std::string, const char*, std::less<>>& unicode_signs() {
    static const std::map<std::string, const char*, std::less<>> signs{
        {"\\alpha", "α"},   {"\\beta", "β"},   {"\\gamma", "γ"}, {"\\delta", "δ"}, {"\\epsilon", "ε"}, {"\\theta", "θ"},
        {"\\lambda", "λ"},  {"\\mu", "μ"},     {"\\pi", "π"},    {"\\rho", "ρ"},   {"\\sigma", "σ"},   {"\\tau", "τ"},
        {"\\phi", "φ"},     {"\\omega", "ω"},  {"\\psi", "ψ"},   {"\\Delta", "Δ"}, {"\\Omega", "Ω"},   {"\\eta", "η"},
        {"\\partial", "∂"}, {"\\infty", "∞"},  {"-", "−"},       {"\\times", "×"}, {"\\div", "÷"},     {"\\pm", "±"},
        {"\\cdot", "·"},    {"\\ne", "≠"},     {"\\neq", "≠"},   {"\\le", "≤"},    {"\\leq", "≤"},     {"\\ge", "≥"},
        {"\\geq", "≥"},     {"\\approx", "≈"}, {"\\to", "→"},    {"\\in", "∈"},    {"\\int", "∫"},     {"\\oint", "∮"},
        {"\\sum", "∑"},     {"\\prod", "∏"},   {"\\circ", "°"},  {"\\{", "{"},     {"\\}", "}"},       {"'", "′"},
        {"\\%", "%"},       {"\\left", ""},    {"\\right", ""},  {"\\,", " "},     {"\\;", " "},       {"*", "·"}};
    return signs;
}

class LatexReading {
public:
    explicit LatexReading(std::string_view latex) : text_(latex) {}

    std::optional<WrittenMath> all() {
        WrittenMath out = row();
        if (failed_ || !next().empty()) return std::nullopt;
        return out;
    }

private:
    std::string token() {
        while (at_ < text_.size() && text_[at_] == ' ') ++at_;
        if (at_ >= text_.size()) return {};
        const size_t begin = at_++;
        if (text_[begin] == '\\') {
            while (at_ < text_.size() && std::isalpha(static_cast<unsigned char>(text_[at_]))) ++at_;
            if (at_ == begin + 1 && at_ < text_.size()) ++at_;
        } else {
            while (at_ < text_.size() && (static_cast<unsigned char>(text_[at_]) & 0xC0) == 0x80)
                ++at_;  // of one letter
        }
        return std::string(text_.substr(begin, at_ - begin));
    }
    std::string next() {
        const size_t before = at_;
        std::string out = token();
        at_ = before;
        return out;
    }

    WrittenMath group() {
        if (next() != "{") return atom();
        token();
        WrittenMath out = row();
        if (token() != "}") failed_ = true;
        return out;
    }

    // The letters between braces, as they are.
    std::string words() {
        while (at_ < text_.size() && text_[at_] == ' ') ++at_;
        const size_t begin = at_ + 1, end = text_.find('}', at_);
        if (at_ >= text_.size() || text_[at_] != '{' || end == std::string_view::npos) {
            failed_ = true;
            return {};
        }
        at_ = end + 1;
        return std::string(text_.substr(begin, end - begin));
    }

    static WrittenMath as_row(WrittenMath f) {
        return f.kind == Kind::row ? f : WrittenMath{Kind::row, {}, {std::move(f)}};
    }

    WrittenMath row() {
        WrittenMath out;
        if (++depth_ > kDeepest) failed_ = true;
        while (!failed_) {
            const std::string here = next();
            if (here.empty() || here == "}" || (here == "]" && in_root_index_)) break;
            if (here == "\\end" || (grids_ > 0 && (here == "&" || here == "\\\\" || here == "\\hline"))) break;
            WrittenMath part = atom();
            WrittenMath index, power;
            for (std::string sign = next(); sign == "^" || sign == "_"; sign = next()) {
                token();
                (sign == "^" ? power : index) = as_row(group());
                if (failed_) break;
            }
            if (!index.parts.empty() || !power.parts.empty())
                part = {Kind::scripts, {}, {std::move(part), std::move(index), std::move(power)}};
            out.parts.push_back(std::move(part));
        }
        --depth_;
        return out;
    }

    WrittenMath grid() {
        WrittenMath out{Kind::grid, words(), {}};
        const std::string name = out.latex;
        if (name == "array" && next() == "{") out.latex += "{" + words() + "}";
        ++grids_;
        const size_t braces = std::exchange(in_root_index_, false);
        while (!failed_ && next() != "\\end") {
            if (next() == "\\hline") {
                token();
                out.parts.push_back({Kind::line});
                continue;
            }
            WrittenMath cells{Kind::row, {}, {row()}};
            while (next() == "&") {
                token();
                cells.parts.push_back(row());
            }
            out.parts.push_back(std::move(cells));
            if (next() == "\\\\")
                token();
            else if (next() != "\\end" && next() != "\\hline")
                failed_ = true;
        }
        in_root_index_ = braces;
        --grids_;
        token();
        if (failed_ || words() != name) failed_ = true;
        return out;
    }

    WrittenMath atom() {
        const std::string here = token();
        if (here == "\\begin") return grid();
        if (here == "\\frac" || here == "\\dfrac" || here == "\\tfrac") {
            WrittenMath over = group(), under = group();
            return {Kind::fraction, {}, {std::move(over), std::move(under)}};
        }
        if (here == "\\sqrt") {
            WrittenMath index;
            if (next() == "[") {
                token();
                const bool before = std::exchange(in_root_index_, true);
                index = row();
                in_root_index_ = before;
                if (token() != "]") failed_ = true;
            }
            WrittenMath body = group();
            return {Kind::root, {}, {std::move(body), std::move(index)}};
        }
        if (here == "\\vec" || here == "\\hat" || here == "\\bar" || here == "\\overline")
            return {Kind::accent, here == "\\overline" ? "\\bar" : here, {group()}};
        if (here == "\\text" || here == "\\mathrm" || here == "\\operatorname") return {Kind::name, words()};
        if (names_function(here)) return {Kind::name, here};
        if (here == "{") {
            WrittenMath out = row();
            if (token() != "}") failed_ = true;
            return out;
        }
        if (here.empty() || here == "}" || here == "^" || here == "_") failed_ = true;
        return {Kind::sign, here};
    }

    std::string_view text_;
    size_t at_ = 0;
    int depth_ = 0, grids_ = 0;
    bool failed_ = false, in_root_index_ = false;
};

std::string escaped(const std::string& text) {
    std::string out;
    for (const char c : text) out += c == '<' ? "&lt;" : c == '>' ? "&gt;" : c == '&' ? "&amp;" : std::string(1, c);
    return out;
}

bool is_digit(const WrittenMath& f) {
    return f.kind == Kind::sign && f.latex.size() == 1 && std::isdigit(static_cast<unsigned char>(f.latex[0]));
}
bool is_point(const WrittenMath& f) { return f.kind == Kind::sign && (f.latex == "." || f.latex == ","); }

void add_mathml(const WrittenMath& f, std::string& out);

// Digits that stand together are one number.
void add_parts(const std::vector<WrittenMath>& parts, std::string& out) {
    for (size_t i = 0; i < parts.size();) {
        size_t end = i;
        std::string digits;
        while (end < parts.size() && (is_digit(parts[end]) || (is_point(parts[end]) && end > i &&
                                                               end + 1 < parts.size() && is_digit(parts[end + 1]))))
            digits += parts[end++].latex;
        if (end > i) {
            out += "<mn>" + digits + "</mn>";
            i = end;
        } else {
            add_mathml(parts[i++], out);
        }
    }
}

void add_row(const WrittenMath& f, std::string& out) {
    out += "<mrow>";
    add_parts(f.kind == Kind::row ? f.parts : std::vector<WrittenMath>{f}, out);
    out += "</mrow>";
}

void add_mathml(const WrittenMath& f, std::string& out) {
    switch (f.kind) {
        case Kind::row:
            add_row(f, out);
            break;
        case Kind::sign: {
            const auto sign = sign_named(f.latex);
            const bool letter = sign ? math_signs()[*sign].kind == SignKind::letter
                                     : f.latex.size() == 1 && std::isalpha(static_cast<unsigned char>(f.latex[0]));
            const char* element = is_digit(f) ? "mn" : letter ? "mi" : "mo";
            out += std::string("<") + element + ">" + escaped(shown(f)) + "</" + element + ">";
            break;
        }
        case Kind::name:
            out += "<mi>" + escaped(shown(f)) + "</mi>";
            break;
        case Kind::fraction:
            out += "<mfrac>";
            add_row(f.parts[0], out), add_row(f.parts[1], out);
            out += "</mfrac>";
            break;
        case Kind::scripts: {
            const bool index = !f.parts[1].parts.empty(), power = !f.parts[2].parts.empty();
            const bool over = has_bounds_over(f.parts[0]);
            const std::string element = index && power ? (over ? "munderover" : "msubsup")
                                        : index        ? (over ? "munder" : "msub")
                                                       : (over ? "mover" : "msup");
            out += "<" + element + ">";
            add_mathml(f.parts[0], out);
            if (index) add_row(f.parts[1], out);
            if (power) add_row(f.parts[2], out);
            out += "</" + element + ">";
            break;
        }
        case Kind::accent:
            out += "<mover accent=\"true\">";
            add_row(f.parts[0], out);
            out += std::string("<mo>") + (f.latex == "\\vec" ? "→" : f.latex == "\\hat" ? "^" : "¯") + "</mo></mover>";
            break;
        case Kind::root:
            out += f.parts[1].parts.empty() ? "<msqrt>" : "<mroot>";
            add_row(f.parts[0], out);
            if (!f.parts[1].parts.empty()) add_row(f.parts[1], out);
            out += f.parts[1].parts.empty() ? "</msqrt>" : "</mroot>";
            break;
        case Kind::grid: {
            const auto [open, close] = brackets_of(f);
            size_t columns = 0;
            std::string lines, columns_stand;
            for (size_t i = 0; i < f.parts.size(); ++i) {
                columns = std::max(columns, f.parts[i].parts.size());
                if (f.parts[i].kind != Kind::line && i > 0)
                    lines += f.parts[i - 1].kind == Kind::line ? "solid " : "none ";
            }
            for (size_t c = 0; c < columns; ++c)
                columns_stand += stands(f, c) == 'r' ? "right " : stands(f, c) == 'l' ? "left " : "center ";
            if (!open.empty()) out += "<mrow><mo>" + open + "</mo>";
            out += "<mtable columnalign=\"" + columns_stand + "\" rowlines=\"" + lines + "\">";
            for (const WrittenMath& row : f.parts) {
                if (row.kind == Kind::line) continue;
                out += "<mtr>";
                for (const WrittenMath& cell : row.parts) {
                    out += "<mtd>";
                    add_row(cell, out);
                    out += "</mtd>";
                }
                out += "</mtr>";
            }
            out += "</mtable>";
            if (!close.empty()) out += "<mo>" + close + "</mo>";
            if (!open.empty()) out += "</mrow>";
            break;
        }
        case Kind::line:
            break;
    }
}

}  // namespace

std::optional<WrittenMath> written_math(std::string_view latex) { return LatexReading(latex).all(); }

std::string shown(const WrittenMath& f) {
    if (f.kind == Kind::name) return f.latex.starts_with('\\') ? f.latex.substr(1) : f.latex;
    const auto found = unicode_signs().find(f.latex);
    return found == unicode_signs().end() ? f.latex : found->second;
}

std::vector<bool> parts_of_units(const WrittenMath& row) {
    std::vector<bool> out(row.parts.size());
    const auto letter = [&](size_t i) {
        const WrittenMath& base = row.parts[i].kind == Kind::scripts ? row.parts[i].parts[0] : row.parts[i];
        const bool one = base.kind == Kind::sign && base.latex.size() == 1 &&
                         std::isalpha(static_cast<unsigned char>(base.latex[0]));
        return one ? base.latex : std::string();
    };
    const auto is = [&](size_t i, bool (*kind)(char)) {
        const WrittenMath& part = row.parts[i];
        return part.kind == Kind::sign && part.latex.size() == 1 && kind(part.latex[0]);
    };
    constexpr size_t kLongest = 3;
    bool longer = false;
    for (size_t i = 1; i < row.parts.size();) {
        const bool behind = is(i - 1, [](char c) { return c >= '0' && c <= '9'; }) ||
                            (i > 1 && out[i - 2] && is(i - 1, [](char c) { return c == '/'; }));
        size_t taken = 0;
        std::string sign;
        for (size_t k = i; behind && k < std::min(row.parts.size(), i + kLongest) && !letter(k).empty(); ++k) {
            sign += letter(k);
            if (is_unit(sign)) taken = k - i + 1;
            if (row.parts[k].kind == Kind::scripts) break;
        }
        // Other letters behind them: these are multiplied.
        if (taken > 0 && i + taken < row.parts.size() && !letter(i + taken).empty()) taken = 0;
        std::fill_n(out.begin() + static_cast<std::ptrdiff_t>(i), taken, true);
        longer |= taken > 1;
        i += std::max<size_t>(1, taken);
    }
    return longer ? out : std::vector<bool>(row.parts.size());
}

std::pair<std::string, std::string> brackets_of(const WrittenMath& grid) {
    static const std::map<std::string, std::pair<std::string, std::string>, std::less<>> known{{"pmatrix", {"(", ")"}},
                                                                                               {"bmatrix", {"[", "]"}},
                                                                                               {"vmatrix", {"|", "|"}},
                                                                                               {"Bmatrix", {"{", "}"}},
                                                                                               {"cases", {"{", ""}}};
    const auto found = known.find(grid.latex);
    return found == known.end() ? std::pair<std::string, std::string>() : found->second;
}

char stands(const WrittenMath& grid, size_t column) {
    const std::string& name = grid.latex;
    if (const size_t brace = name.find('{'); brace != std::string::npos) {
        std::string columns = name.substr(brace + 1);
        std::erase_if(columns, [](char c) { return c != 'l' && c != 'c' && c != 'r'; });
        return column < columns.size() ? columns[column] : 'c';
    }
    if (name == "cases") return 'l';
    return name == "aligned" || name == "align" ? (column % 2 == 0 ? 'r' : 'l') : 'c';
}

bool has_bounds_over(const WrittenMath& base) {
    return (base.kind == Kind::sign && (base.latex == "\\sum" || base.latex == "\\prod")) ||
           (base.kind == Kind::name && (base.latex == "\\lim" || base.latex == "\\min" || base.latex == "\\max"));
}

std::string mathml(const WrittenMath& formula) {
    std::string out = R"(<math xmlns="http://www.w3.org/1998/Math/MathML">)";
    add_row(formula, out);
    return out + "</math>";
}

}  // namespace fernleaf
