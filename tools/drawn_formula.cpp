#include "demo/drawn_formula.h"

#include <algorithm>
#include <cctype>
#include <set>

#include "demo/chance.h"
#include "demo/drawn_sign.h"

namespace fernleaf {
namespace {

using Kind = WrittenFormula::Kind;

// Names of functions are written letter by letter.
WrittenFormula to_write(const WrittenMath& f) {
    WrittenFormula out{f.kind, f.latex};
    for (const WrittenMath& part : f.parts) out.parts.push_back(to_write(part));
    if (f.kind == Kind::root) out.parts.resize(1);  // without an index
    if (f.kind == Kind::name) {
        out = {};
        for (const char c : shown(f)) out.parts.push_back({Kind::sign, std::string(1, c)});
    }
    return out;
}

// Strokes of a part, its left end at 0 and its baseline at 0, mm.
struct Laid {
    std::vector<Stroke> strokes;
    Box box;
    void move(Point by) {
        for (Stroke& s : strokes)
            for (InkPoint& p : s.points.change()) p.at = p.at + by;
        box = shifted(box, by);
    }
};

class Drawing {
public:
    Drawing(const Hand& hand, const FormulaManner& manner, std::mt19937& random)
        : hand_(hand), manner_(manner), random_(random), chance_(random) {
        tight_ = chance_.between(0.12, 0.35), script_ = chance_.between(0.55, 0.8);
    }

    Laid draw(WrittenFormula& f, double size) {
        switch (f.kind) {
            case Kind::name:  // a row by now
            case Kind::row:
                return row(f, size);
            case Kind::sign:
                return sign(f, size);
            case Kind::fraction:
                return fraction(f, size);
            case Kind::scripts:
                return scripts(f, size);
            case Kind::root:
                return root(f, size);
            case Kind::accent:  // none of the formulas that are drawn has one
            case Kind::grid:
            case Kind::line:
                break;
        }
        return {};
    }

private:
    double uneven(double deviation) { return chance_.normal(deviation * manner_.careless); }

    // Adds a part's strokes behind others; its places move with them.
    static void add(Laid& to, WrittenFormula& part, Laid laid) {
        shift(part, to.strokes.size());
        to.box.include(laid.box);
        std::ranges::move(laid.strokes, std::back_inserter(to.strokes));
    }
    static void shift(WrittenFormula& f, size_t by) {
        for (size_t& s : f.strokes) s += by;
        for (WrittenFormula& part : f.parts) shift(part, by);
    }

    Laid finished(std::vector<Stroke> strokes) {
        Laid out;
        for (const Stroke& s : strokes) out.box.include(s.box());
        out.strokes = std::move(strokes);
        return out;
    }

    Laid by_rule(const std::string& latex, double size) {
        const size_t all = sign_forms(latex), kept_out = all > 1 ? 1 : 0;
        const size_t form = manner_.kept_out_forms ? all - 1 : chance_.below(all - kept_out);
        std::vector<Stroke> strokes;
        for (std::vector<Point> path : sign_paths(latex, form, random_)) {
            for (Point& p : path) p = p * size;
            strokes.push_back(sampled(path, manner_.pen, 0, random_));
        }
        return finished(std::move(strokes));
    }

    Laid sign(WrittenFormula& f, double size) {
        static const std::map<std::string, std::string> letters{
            {"\\times", "×"}, {"\\div", "÷"},    {"\\pm", "±"}, {"\\cdot", "·"}, {"\\ne", "≠"},  {"\\le", "≤"},
            {"\\ge", "≥"},    {"\\approx", "≈"}, {"\\{", "{"},  {"\\}", "}"},    {"\\circ", "°"}};
        const auto found = letters.find(f.latex);
        const std::string letter = found == letters.end() ? f.latex : found->second;
        const bool in_hand = letter[0] != '\\' && hand_.can_write(letter);
        size *= std::exp(uneven(0.06));
        Laid out;
        if (sign_forms(f.latex) > 0 && (!in_hand || manner_.kept_out_forms || chance_.one_in(2))) {
            out = by_rule(f.latex, size);
        } else {
            out = finished(hand_.write(letter, {0, 0}, {size, manner_.pen, 0, manner_.careless}, random_));
        }
        if (out.box.empty()) return out;
        out.move({-out.box.left, uneven(0.05) * size});
        for (size_t i = 0; i < out.strokes.size(); ++i) f.strokes.push_back(i);
        return out;
    }

    // How far from the one before a part stands, of its size.
    double gap_before(const WrittenFormula& f) {
        static const std::set<std::string> wide{"=",        "\\ne", "<",    ">", "\\le", "\\ge",
                                                "\\approx", "\\to", "\\in", "+", "-",    "\\pm"};
        const double least = f.kind == Kind::sign && wide.contains(f.latex) ? 1.6 : 1;
        return tight_ * least * std::exp(uneven(0.3)) + 0.03;
    }

    Laid row(WrittenFormula& f, double size) {
        Laid out;
        double x = 0;
        bool wide_before = false;
        double drift = uneven(0.03);
        const bool name = f.parts.size() > 1 && std::ranges::all_of(f.parts, [](const WrittenFormula& p) {
                              return p.kind == Kind::sign && p.latex.size() == 1 &&
                                     std::islower(static_cast<unsigned char>(p.latex[0]));
                          });
        for (size_t i = 0; i < f.parts.size(); ++i) {
            WrittenFormula& part = f.parts[i];
            Laid laid = draw(part, size);
            if (laid.box.empty()) continue;
            double gap = gap_before(part);
            if (wide_before) gap = std::max(gap, tight_ * 1.3);
            if (name) gap *= 0.6;
            if (i > 0) x += gap * size;
            laid.move({x - laid.box.left, drift * x});
            x = laid.box.right;
            wide_before = gap > tight_ * 1.5;
            add(out, part, std::move(laid));
        }
        grow_brackets(f, out);
        return out;
    }

    // Brackets are as high as what stands between them.
    void grow_brackets(WrittenFormula& f, Laid& laid) {
        static const std::map<std::string, std::string> pairs{{"(", ")"}, {"[", "]"}, {"\\{", "\\}"}, {"|", "|"}};
        for (size_t i = 0; i < f.parts.size(); ++i) {
            const auto pair = pairs.find(f.parts[i].latex);
            if (f.parts[i].kind != Kind::sign || pair == pairs.end()) continue;
            int depth = 0;
            for (size_t j = i + 1; j < f.parts.size(); ++j) {
                const WrittenFormula& other = f.parts[j];
                const WrittenFormula& closing = other.kind == Kind::scripts ? other.parts[0] : other;
                if (closing.latex == pair->first && pair->first != "|") ++depth;
                if (closing.latex != pair->second || depth-- > 0) continue;
                Box inside;
                for (size_t k = i + 1; k < j; ++k) include(inside, f.parts[k], laid);
                if (!inside.empty() && inside.height() > 0) {
                    stretch(f.parts[i], laid, inside);
                    stretch(closing, laid, inside);
                }
                break;
            }
        }
    }
    static void include(Box& box, const WrittenFormula& f, const Laid& laid) {
        for (const size_t s : f.strokes) box.include(laid.strokes[s].box());
        for (const WrittenFormula& part : f.parts) include(box, part, laid);
    }
    void stretch(const WrittenFormula& bracket, Laid& laid, const Box& inside) {
        Box box;
        include(box, bracket, laid);
        const double margin = chance_.between(-0.05, 0.15) * inside.height();
        const double top = std::min(box.top, inside.top - margin),
                     bottom = std::max(box.bottom, inside.bottom + margin);
        if (box.height() <= 0) return;
        for (const size_t s : bracket.strokes)
            for (InkPoint& p : laid.strokes[s].points.change())
                p.at.y = top + (p.at.y - box.top) / box.height() * (bottom - top);
        laid.box.include(Box{box.left, top, box.right, bottom});
    }

    Laid fraction(WrittenFormula& f, double size) {
        const double smaller = chance_.between(0.8, 1);
        Laid over = draw(f.parts[0], size * smaller), under = draw(f.parts[1], size * smaller);
        const double width = std::max(over.box.width(), under.box.width()) * chance_.between(1.0, 1.25) +
                             chance_.between(0.1, 0.5) * size;
        const double y = -0.5 * size + uneven(0.1) * size, slope = uneven(0.02);
        over.move({width / 2 - over.box.centre().x + uneven(0.05) * width,
                   y - chance_.between(0.2, 0.55) * size - over.box.bottom});
        under.move({width / 2 - under.box.centre().x + uneven(0.05) * width,
                    y + chance_.between(0.2, 0.55) * size - under.box.top});
        std::vector<Point> bar;
        for (int i = 0; i <= 16; ++i)
            bar.push_back({width * i / 16, y + slope * width * (i / 16.0 - 0.5) + uneven(0.01) * size});
        Laid line = finished({sampled(bar, manner_.pen, 0, random_)});
        Laid out;
        const auto add_bar = [&] {
            f.strokes = {out.strokes.size()};
            out.box.include(line.box);
            out.strokes.push_back(line.strokes[0]);
        };
        const size_t order = chance_.below(8);  // the bar mostly between both, or first
        if (order == 0) add_bar();
        add(out, f.parts[0], std::move(over));
        if (order > 0) add_bar();
        add(out, f.parts[1], std::move(under));
        return out;
    }

    // Bounds stand over and under these, mostly.
    static bool has_bounds(const WrittenFormula& base) {
        if (base.kind != Kind::row) return base.latex == "\\sum" || base.latex == "\\prod";
        std::string name;
        for (const WrittenFormula& part : base.parts) name += part.latex;
        return name == "lim" || name == "min" || name == "max";
    }

    Laid scripts(WrittenFormula& f, double size) {
        Laid out;
        Laid base = draw(f.parts[0], size);
        const double small = size * script_ * chance_.between(0.9, 1.1);
        const bool integral = f.parts[0].latex == "\\int" || f.parts[0].latex == "\\oint";
        const bool bounds = has_bounds(f.parts[0]) && !chance_.one_in(f.parts[0].kind == Kind::row ? 50 : 4);
        const Box body = base.box;
        add(out, f.parts[0], std::move(base));
        for (size_t which : {size_t{1}, size_t{2}}) {
            if (f.parts[which].parts.empty()) continue;
            Laid script = draw(f.parts[which], small);
            const bool up = which == 2;
            const double gap = chance_.between(0.2, 0.5) * size;
            if (bounds) {
                script.move({body.centre().x - script.box.centre().x + uneven(0.12) * size,
                             up ? body.top - gap - script.box.bottom : body.bottom + gap - script.box.top});
            } else {
                // Raised so that its middle stands at the base's top, lowered to the baseline.
                const double middle =
                    up ? std::min(body.top, -0.9 * size) : std::max(0.0, integral ? body.bottom : 0.0);
                const double off = (up ? chance_.between(-0.35, 0.15) : chance_.between(-0.1, 0.35)) * size;
                const double beside = integral && !up ? body.left + 0.6 * body.width() : body.right;
                script.move({beside + chance_.between(0.05, 0.3) * size - script.box.left,
                             middle + off - script.box.centre().y});
            }
            add(out, f.parts[which], std::move(script));
        }
        return out;
    }

    Laid root(WrittenFormula& f, double size) {
        Laid body = draw(f.parts[0], size);
        const double foot = body.box.bottom + chance_.between(0, 0.2) * size,
                     top = body.box.top - chance_.between(0.15, 0.45) * size;
        const double height = foot - top, tick = chance_.between(0.35, 0.6) * size,
                     rise = chance_.between(0.25, 0.5) * size + 0.1 * height;
        body.move({tick + rise + chance_.between(0.02, 0.25) * size - body.box.left, 0});
        const double end = body.box.right + chance_.between(-0.15, 0.4) * size;
        const auto shaken = [&](Point p) { return p + Point{uneven(0.04) * size, uneven(0.04) * size}; };
        std::vector<Point> corners{shaken({0, foot - 0.4 * height}), shaken({0.3 * tick, foot - 0.45 * height}),
                                   shaken({tick, foot}), shaken({tick + rise, top}),
                                   shaken({end, top + uneven(0.06) * size})};
        std::vector<Point> path;
        for (size_t i = 0; i + 1 < corners.size(); ++i)
            for (int k = 0; k < 10; ++k) path.push_back(corners[i] + (corners[i + 1] - corners[i]) * (k / 10.0));
        path.push_back(corners.back());
        Laid sign;
        if (chance_.one_in(6)) {  // the line above is a stroke of its own
            sign = finished({sampled({path.begin(), path.begin() + 31}, manner_.pen, 0, random_),
                             sampled({path.begin() + 30, path.end()}, manner_.pen, 0, random_)});
        } else {
            sign = finished({sampled(path, manner_.pen, 0, random_)});
        }
        Laid out;
        const bool last = chance_.one_in(8);
        const auto add_sign = [&] {
            f.strokes.clear();
            for (const Stroke& s : sign.strokes) f.strokes.push_back(out.strokes.size()), out.strokes.push_back(s);
            out.box.include(sign.box);
        };
        if (!last) add_sign();
        add(out, f.parts[0], std::move(body));
        if (last) add_sign();
        return out;
    }

    const Hand& hand_;
    const FormulaManner& manner_;
    std::mt19937& random_;
    Chance chance_;
    double tight_ = 0.2, script_ = 0.7;
};

// Formulas by chance.
class Maker {
public:
    explicit Maker(std::mt19937& random) : chance_(random) {}

    std::string any() {
        switch (chance_.below(16)) {
            case 0:
            case 1:
                return sum_of_numbers();
            case 2:
                return term(2) + relation() + term(1);
            case 3:
            case 4:
                return polynomial() + "=" + (chance_.one_in(2) ? "0" : number());
            case 5:
                return letter() + "=" + fraction(2) + (chance_.one_in(2) ? operation() + term(1) : "");
            case 6:
                return integral();
            case 7:
                return series();
            case 8:
                return "\\lim_{" + (pick({"x", "n", "h", "t"})) + "\\to " + pick({"0", "\\infty", "1", "a"}) + "}" +
                       fraction(1);
            case 9:
                return function() + "=" + fraction(1);
            case 10:
                return letter() + "=\\frac{-b\\pm\\sqrt{b^{2}-4ac}}{2a}";
            case 11:
                return physics();
            case 12:
                return std::string("f(x)=") + term(2) + operation() + term(2);
            case 13:
                return root(1) + operation() + term(2) + relation() + term(1);
            case 14:
                return power() + operation() + power() + "=" + power();
            default:
                return term(2) + operation() + term(2) + (chance_.one_in(2) ? "=" + term(1) : "");
        }
    }

private:
    // A command ends before whatever comes next.
    std::string pick(std::initializer_list<const char*> of) {
        std::string out = of.begin()[chance_.below(of.size())];
        if (out[0] == '\\' && std::isalpha(static_cast<unsigned char>(out.back()))) out += ' ';
        return out;
    }
    std::string digits(size_t most) {
        std::string out;
        for (size_t i = 1 + chance_.below(most); i > 0; --i) out += static_cast<char>('0' + chance_.below(10));
        if (out.size() > 1 && out[0] == '0') out[0] = '1';
        return out;
    }
    std::string number() {
        std::string out = digits(3);
        if (chance_.one_in(5)) out += (chance_.one_in(3) ? "," : ".") + digits(2);
        return out;
    }
    std::string letter() {
        return chance_.one_in(5)
                   ? pick({"\\alpha", "\\beta", "\\gamma", "\\delta", "\\theta", "\\lambda", "\\mu", "\\pi", "\\rho",
                           "\\sigma", "\\tau", "\\phi", "\\omega", "\\psi", "\\Delta", "\\Omega", "\\epsilon"})
               : chance_.one_in(6) ? pick({"A", "B", "C", "D", "E", "F", "G", "H", "I", "J", "K", "L", "M",
                                           "N", "P", "Q", "R", "S", "T", "U", "V", "W", "X", "Y", "Z"})
                                   : pick({"x", "x", "x", "x", "x", "x", "y", "y", "y", "z", "z", "a", "a", "a", "b",
                                           "b", "b", "c", "c", "n", "n", "n", "k", "k", "t", "t", "m", "m", "r", "r",
                                           "i", "j", "d", "e", "f", "g", "h", "l", "p", "q", "s", "u", "v", "w"});
    }
    std::string operation() { return pick({"+", "+", "+", "-", "-", "-", "\\cdot", "\\times", "/", "\\div", "\\pm"}); }
    std::string relation() {
        return pick({"=", "=", "=", "=", "<", ">", "\\le", "\\ge", "\\ne", "\\approx", "\\to", "\\in"});
    }
    std::string simple() { return chance_.one_in(2) ? letter() : number(); }

    std::string power() {
        if (chance_.one_in(4))
            return digits(2) + "^{" + pick({"2", "3", "4", "10", "-1", "n", "x", "k", "-2", "x+1"}) + "}";
        const std::string base = letter();
        switch (chance_.below(6)) {
            case 0:
                return base + "^{" + digits(1) + letter() + "}";
            case 1:
                return base + "_{" + pick({"0", "1", "2", "i", "n", "k"}) + "}^{" + pick({"2", "3", "n"}) + "}";
            case 2:
                return base + "_{" + pick({"0", "1", "2", "3", "i", "n", "k", "m", "a"}) + "}";
            case 3:
                return base + "^{" + pick({"-1", "n-1", "n+1", "-2", "-x", "2x", "k", "x+y"}) + "}";
            default:
                return base + "^{" + pick({"2", "2", "2", "3", "4", "n", "5"}) + "}";
        }
    }
    std::string root(int deep) {
        return "\\sqrt{" + (deep > 0 ? term(deep) + (chance_.one_in(2) ? operation() + simple() : "") : simple()) + "}";
    }
    std::string fraction(int deep) {
        const auto part = [&] {
            return chance_.one_in(2) || deep == 0 ? simple() : term(deep - 1) + operation() + simple();
        };
        const std::string over = part();
        return "\\frac{" + over + "}{" + part() + "}";
    }
    std::string function() {
        return (pick({"\\sin", "\\cos", "\\tan", "\\ln", "\\log", "\\exp"})) +
               (chance_.one_in(3) ? letter() : "(" + term(1) + ")");
    }
    std::string term(int deep) {
        if (deep <= 0) return simple();
        switch (chance_.below(10)) {
            case 0:
                return fraction(deep - 1);
            case 1:
                return root(deep - 1);
            case 2:
                return "(" + term(deep - 1) + operation() + simple() + ")" + (chance_.one_in(3) ? "^{2}" : "");
            case 3:
                return function();
            case 4:
                return number() + letter();
            case 5:
            case 6:
                return power();
            case 7:
                return chance_.one_in(4) ? "|" + letter() + operation() + simple() + "|" : letter() + letter();
            case 8:
                return chance_.one_in(3) ? number() + pick({"%", "!", "^{\\circ}"}) : number() + power();
            default:
                return simple();
        }
    }
    std::string polynomial() {
        const std::string x = pick({"x", "x", "y", "t", "z", "n"});
        std::string out = (chance_.one_in(2) ? digits(2) : "") + x + "^{" + pick({"2", "2", "3", "4"}) + "}";
        if (!chance_.one_in(4)) out += (pick({"+", "-"})) + digits(2) + x;
        if (!chance_.one_in(4)) out += (pick({"+", "-"})) + number();
        return out;
    }
    std::string sum_of_numbers() {
        std::string out = number();
        for (size_t i = 1 + chance_.below(3); i > 0; --i)
            out += (pick({"+", "+", "-", "-", "\\cdot", "\\times", "\\div", "/"})) + number();
        return out + "=" + (chance_.one_in(3) ? "" : number());
    }
    std::string integral() {
        const std::string x = pick({"x", "x", "t", "y", "u"});
        std::string out = chance_.one_in(10) ? "\\oint " : "\\int ";
        if (!chance_.one_in(3))
            out += std::string("_{") + pick({"0", "1", "a", "-1", "-\\infty"}) + "}^{" +
                   pick({"1", "2", "\\pi", "b", "\\infty", "3"}) + "}";
        return out + (chance_.one_in(2) ? x + "^{" + digits(1) + "}" : term(1)) + "d" + x +
               (chance_.one_in(2) ? "=" + simple() : "");
    }
    std::string series() {
        const std::string k = pick({"k", "n", "i", "j"});
        return (pick({"\\sum", "\\sum", "\\prod"})) + "_{" + k + "=" + pick({"0", "1"}) + "}^{" +
               pick({"n", "\\infty", "10", "N", "5"}) + "}" + (chance_.one_in(2) ? fraction(1) : power());
    }
    std::string physics() {
        return pick({"F=ma",
                     "E=mc^{2}",
                     "v=\\frac{s}{t}",
                     "A=\\pi r^{2}",
                     "V=\\frac{4}{3}\\pi r^{3}",
                     "PV=nRT",
                     "U=RI",
                     "a^{2}+b^{2}=c^{2}",
                     "E=\\frac{1}{2}mv^{2}",
                     "s=\\frac{1}{2}gt^{2}",
                     "T=2\\pi\\sqrt{\\frac{l}{g}}",
                     "\\lambda=\\frac{h}{p}",
                     "V=\\pi r^{2}h",
                     "x_{1}+x_{2}=-\\frac{b}{a}",
                     "f'(x)=2x",
                     "\\frac{dy}{dx}=ky",
                     "\\frac{\\partial u}{\\partial t}=\\alpha u",
                     "\\sin^{2}x+\\cos^{2}x=1",
                     "y=mx+b",
                     "n!=n(n-1)!",
                     "\\rho=\\frac{m}{V}",
                     "x\\in[0,1]",
                     "A=\\{1,2,3\\}"});
    }

    Chance chance_;
};

}  // namespace

std::optional<WrittenFormula> written_formula(const std::string& latex) {
    const auto written = written_math(latex);
    if (!written) return std::nullopt;
    return to_write(*written);
}

std::vector<Stroke> draw_formula(WrittenFormula& formula, const Hand& hand, const FormulaManner& manner, Point at,
                                 std::mt19937& random) {
    Laid laid = Drawing(hand, manner, random).draw(formula, manner.x_height_mm);
    laid.move(at);
    return std::move(laid.strokes);
}

std::string some_formula(std::mt19937& random) { return Maker(random).any(); }

}  // namespace fernleaf
