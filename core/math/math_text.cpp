#include "math/math_text.h"

#include <map>

#include "base/text.h"
#include "math/parse_math.h"
#include "math/written_math.h"

namespace fernleaf {
namespace {

// How tightly a tree holds together, loosest first.
enum Binding { loose, relates, adds, multiplies, negates, raises, stands };

Binding binding_of(const MathTree& tree) {
    switch (tree.kind) {
        case MathKind::all_of:
            return loose;
        case MathKind::relation:
        case MathKind::asked:
            return relates;
        case MathKind::sum:
            return adds;
        case MathKind::product:
        case MathKind::quotient:
            return multiplies;
        case MathKind::negative:
            return negates;
        case MathKind::power:
            return raises;
        case MathKind::call:
            return tree.text == "plus_minus"                                                      ? adds
                   : tree.text == "mod"                                                           ? multiplies
                   : tree.text == "factorial" || tree.text == "percent" || tree.text == "degrees" ? raises
                                                                                                  : stands;
        default:
            return stands;
    }
}

class Writer {
public:
    explicit Writer(bool latex) : latex_(latex) {}

    std::string write(const MathTree& tree) const {
        const auto& p = tree.parts;
        switch (tree.kind) {
            case MathKind::number:
                return tree.text;
            case MathKind::name:
                return name(tree.text);
            case MathKind::unit:
                return latex_ ? "\\mathrm{" + tree.text + "}" : tree.text;
            case MathKind::sum: {
                std::string out = within(p[0], adds);
                for (size_t i = 1; i < p.size(); ++i)
                    out += p[i].kind == MathKind::negative ? " - " + within(p[i].parts[0], multiplies)
                                                           : " + " + within(p[i], multiplies);
                return out;
            }
            case MathKind::product: {
                std::string out;
                for (size_t i = 0; i < p.size(); ++i) {
                    const std::string part = within(p[i], i == 0 ? multiplies : negates);
                    if (i > 0)
                        out += is_of_unit(p[i]) ? latex_ ? "\\," : " "
                               : latex_         ? joined_in_latex(p[i - 1], p[i], part)
                                                : "*";
                    out += i > 0 && p[i].kind == MathKind::negative ? "(" + part + ")" : part;
                }
                return out;
            }
            case MathKind::quotient:
                if (latex_) return "\\frac{" + write(p[0]) + "}{" + write(p[1]) + "}";
                return within(p[0], multiplies) + "/" + within(p[1], raises);
            case MathKind::power:
                return within(p[0], stands) + "^" + (latex_ ? "{" + write(p[1]) + "}" : within(p[1], stands));
            case MathKind::negative:
                return "-" + within(p[0], multiplies);
            case MathKind::call:
                return call(tree);
            case MathKind::relation:
                return relation(tree);
            case MathKind::asked:
                return write(p[0]) + " =";
            case MathKind::all_of: {
                std::string out = latex_ ? "\\begin{cases}" : "";
                for (size_t i = 0; i < p.size(); ++i) out += (i == 0 ? "" : latex_ ? " \\\\ " : ", ") + write(p[i]);
                return out + (latex_ ? "\\end{cases}" : "");
            }
            case MathKind::matrix: {
                std::string out = latex_ ? "\\begin{pmatrix}" : "[";
                for (size_t i = 0; i < p.size(); ++i) out += (i == 0 ? "" : latex_ ? " \\\\ " : ", ") + write(p[i]);
                return out + (latex_ ? "\\end{pmatrix}" : "]");
            }
            case MathKind::row:
                return latex_ ? list(p, " & ") : "[" + list(p, ", ") + "]";
        }
        return {};
    }

private:
    std::string within(const MathTree& tree, Binding least) const {
        if (binding_of(tree) >= least) return write(tree);
        return (latex_ ? "\\left(" : "(") + write(tree) + (latex_ ? "\\right)" : ")");
    }
    static bool is_of_unit(const MathTree& tree) {
        return tree.kind == MathKind::unit || (tree.kind == MathKind::power && tree.parts[0].kind == MathKind::unit);
    }
    std::string list(const std::vector<MathTree>& parts, const char* between) const {
        std::string out;
        for (size_t i = 0; i < parts.size(); ++i) out += (i > 0 ? between : "") + write(parts[i]);
        return out;
    }
    // Letters and functions stand beside one another; numbers need a sign between them.
    static std::string joined_in_latex(const MathTree& left, const MathTree& right, const std::string& written) {
        const bool digit = !written.empty() && written[0] >= '0' && written[0] <= '9';
        const bool numbers = right.kind == MathKind::number || right.kind == MathKind::quotient || digit;
        return numbers || left.kind == MathKind::call ? " \\cdot " : " ";
    }
    std::string name(const std::string& text) const {
        const size_t low = text.find('_');
        const std::string base = text.substr(0, low);
        std::string out = base;
        if (latex_ && base == "infinity")
            out = "\\infty";
        else if (latex_ && base.size() > 1 && static_cast<unsigned char>(base[0]) < 0x80)
            out = is_greek(base) ? "\\" + base : "\\mathrm{" + base + "}";
        if (low != std::string::npos) out += latex_ ? "_{" + text.substr(low + 1) + "}" : text.substr(low);
        return out;
    }
    static bool is_greek(const std::string& name) {
        static const std::set<std::string> greek = {"alpha", "beta",  "gamma", "delta",  "epsilon", "zeta",   "eta",
                                                    "theta", "iota",  "kappa", "lambda", "mu",      "nu",     "xi",
                                                    "pi",    "rho",   "sigma", "tau",    "upsilon", "phi",    "chi",
                                                    "psi",   "omega", "Gamma", "Delta",  "Theta",   "Lambda", "Xi",
                                                    "Sigma", "Phi",   "Psi",   "Omega",  "ell",     "hbar"};
        return greek.contains(name);
    }

    std::string relation(const MathTree& tree) const {
        static const std::map<std::string, std::string> latex = {
            {"<=", "\\le"}, {">=", "\\ge"}, {"!=", "\\ne"}, {"~", "\\approx"}};
        std::string out = write(tree.parts[0]);
        size_t at = 0;
        for (size_t i = 1; i < tree.parts.size(); ++i) {
            const size_t end = std::min(tree.text.find(' ', at), tree.text.size());
            std::string sign = tree.text.substr(at, end - at);
            at = end + 1;
            if (const auto known = latex.find(sign); latex_ && known != latex.end()) sign = known->second;
            if (!latex_ && sign == "~") sign = "≈";
            out += " " + sign + " " + write(tree.parts[i]);
        }
        return out;
    }

    std::string call(const MathTree& tree) const {
        const auto& p = tree.parts;
        const std::string& f = tree.text;
        if (f == "factorial") return within(p[0], stands) + "!";
        if (f == "percent") return within(p[0], stands) + (latex_ ? "\\%" : "%");
        if (f == "degrees") return within(p[0], stands) + (latex_ ? "^{\\circ}" : "°");
        if (f == "mod") return within(p[0], multiplies) + (latex_ ? " \\bmod " : " mod ") + within(p[1], raises);
        if (f == "plus_minus") return within(p[0], adds) + (latex_ ? " \\pm " : " ± ") + within(p[1], multiplies);
        if (!latex_) return plain_call(tree);
        if (f == "sqrt") return "\\sqrt{" + write(p[0]) + "}";
        if (f == "root") return "\\sqrt[" + write(p[0]) + "]{" + write(p[1]) + "}";
        if (f == "abs") return "\\left|" + write(p[0]) + "\\right|";
        if (f == "floor" || f == "ceil") return "\\l" + f + " " + write(p[0]) + " \\r" + f;
        if (f == "binomial") return "\\binom{" + write(p[0]) + "}{" + write(p[1]) + "}";
        if (f == "transpose") return within(p[0], stands) + "^T";
        if (f == "log" && p.size() == 2) return "\\log_{" + write(p[1]) + "}\\left(" + write(p[0]) + "\\right)";
        if (f == "integral")
            return "\\int" + (p.size() == 4 ? "_{" + write(p[2]) + "}^{" + write(p[3]) + "}" : std::string()) + " " +
                   within(p[0], adds) + " \\, d" + write(p[1]);
        if (f == "sum_over" || f == "product_over")
            return std::string(f == "sum_over" ? "\\sum" : "\\prod") + "_{" + write(p[1]) + " = " + write(p[2]) +
                   "}^{" + write(p[3]) + "} " + within(p[0], multiplies);
        if (f == "derivative") {
            const std::string order = p.size() == 3 && p[2] != math_number("1") ? "^{" + write(p[2]) + "}" : "";
            return "\\frac{d" + order + "}{d" + write(p[1]) + order + "} " + within(p[0], negates);
        }
        if (f.starts_with("limit")) {
            const std::string side = f == "limit_above" ? "^{+}" : f == "limit_below" ? "^{-}" : "";
            return "\\lim_{" + write(p[1]) + " \\to " + write(p[2]) + side + "} " + within(p[0], multiplies);
        }
        const bool own = f == "round" || f == "lcm";
        return (own ? "\\operatorname{" + f + "}" : "\\" + f) + "\\left(" + list(p, ", ") + "\\right)";
    }

    std::string plain_call(const MathTree& tree) const {
        const auto& p = tree.parts;
        if (tree.text == "integral" && p.size() == 4)
            return "int_(" + write(p[2]) + ")^(" + write(p[3]) + ") " + within(p[0], multiplies) + " d" + write(p[1]);
        if (tree.text == "integral") return "int " + within(p[0], multiplies) + " d" + write(p[1]);
        return tree.text + "(" + list(p, ", ") + ")";
    }

    bool latex_;
};

}  // namespace

std::string math_text(const MathTree& tree) { return Writer(false).write(tree); }
std::string math_latex(const MathTree& tree) { return Writer(true).write(tree); }

std::string latex_of_typed(std::string_view typed, bool decimal_comma) {
    const std::string text = trimmed(std::string(typed));
    if (text.find('\\') == std::string::npos) {
        size_t letters = 0;
        bool plain = text.find_first_of("/*") != std::string::npos || text.find("^(") != std::string::npos ||
                     text.find("<=") != std::string::npos || text.find(">=") != std::string::npos;
        for (const char c : text) {
            const bool letter = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
            letters = letter ? letters + 1 : 0;
            plain |= letters == 2;
        }
        const auto tree = plain ? parse_math(text, decimal_comma) : Result<MathTree>(Error{});
        if (tree) return math_latex(*tree);
    }
    return written_math(text) ? text : std::string();
}

}  // namespace fernleaf
