#include "exchange/formula_file.h"

#include <algorithm>

namespace fernleaf {
namespace {

// Words in a document's text.
std::string document_text(std::string_view words) {
    std::string out;
    for (const char c : words) {
        if (c == '^' || c == '~')
            out += std::string("\\") + c + "{}";
        else if (c == '\\')
            out += "\\textbackslash{}";
        else if (std::string_view("%#$&_{}").find(c) != std::string_view::npos)
            out += std::string("\\") + c;
        else
            out += c;
    }
    return out;
}

// What the editions of TeX that know no Unicode would stop at.
std::string with_commands(std::string text) {
    for (const auto& [sign, command] : {std::pair("≈", "$\\approx$"), std::pair("±", "$\\pm$"),
                                        std::pair("→", "$\\to$"), std::pair("−", "-"), std::pair("°", "$^\\circ$")}) {
        const std::string_view what = sign;
        for (size_t at = text.find(what); at != std::string::npos; at = text.find(what, at + 1))
            text.replace(at, what.size(), command);
    }
    return text;
}

}  // namespace

std::string document_latex(std::string_view formula) {
    std::string out;
    for (size_t i = 0; i < formula.size(); ++i) {
        const bool escape = (formula[i] == '%' || formula[i] == '#') && (i == 0 || formula[i - 1] != '\\');
        out += (escape ? "\\" : "") + std::string(1, formula[i]);
    }
    return out;
}

std::string formulas_tex(const std::vector<Reading>& pages) {
    std::string body;
    for (size_t page = 0; page < pages.size(); ++page) {
        bool begun = false;
        for (const ReadLine& line : pages[page].lines) {
            if (line.kind != RegionKind::math || line.words.empty()) continue;
            if (!begun) body += "\n% page " + std::to_string(page + 1) + "\n";
            begun = true;
            body += "\\[ " + document_latex(line.words[0].text);
            // That a sum was worked out rightly need not be said.
            if (!line.result.empty() && line.result != "true")
                body += " \\qquad \\text{" + with_commands(document_text(line.result)) + "}";
            body += " \\]\n";
        }
    }
    if (body.empty()) return {};
    return "\\documentclass{article}\n\\usepackage[utf8]{inputenc}\n\\usepackage{amsmath,amssymb}\n\\begin{document}"
           "\n" +
           body + "\n\\end{document}\n";
}

}  // namespace fernleaf
