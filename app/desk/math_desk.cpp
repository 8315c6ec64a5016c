#include "desk/math_desk.h"

#include <QRegularExpression>

#include "math/formula_skills.h"
#include "math/parse_math.h"

namespace fernleaf {

bool MathDesk::decimal_comma() const { return writes_decimal_comma(document_.notebook().languages); }

bool MathDesk::understands(const std::string& formula) const {
    return static_cast<bool>(parse_math(formula, decimal_comma()));
}

std::vector<std::string> MathDesk::names_to_solve_for(const std::string& formula) const {
    const auto tree = parse_math(formula, decimal_comma());
    if (!tree || tree->kind != MathKind::relation || tree->parts.size() != 2) return {};
    const std::set<std::string> names = unknowns_in(*tree);
    return {names.begin(), names.end()};
}

void MathDesk::rework(const std::string& formula, Rework how, const std::string& name) {
    const auto tree = parse_math(formula, decimal_comma());
    if (!tree) return messages_.tell_problem(tree.error());
    cancel_.cancel();
    cancel_ = CancelSource();
    reader_thread_.ask(
        this,
        [tree = *tree, how, name, settings = WorkingSettings{document_.notebook().working, {}},
         cancel = cancel_.token()]() -> Result<WorkedOut> {
            return fernleaf::reworked(tree, how, name, settings, cancel);
        },
        [this, asked = ++asked_](const Result<WorkedOut>& out) {
            if (asked != asked_) return;
            if (!out) return messages_.tell_problem(out.error());
            emit reworked(shown_plainly(out->text()));
        });
}

QString shown_plainly(const std::string& result) {
    QString text = QString::fromStdString(result);
    text.replace('-', QChar(0x2212));
    static const QRegularExpression pi(QStringLiteral("\\*?\\bpi\\b"));
    text.replace(pi, QStringLiteral("π"));
    return text.replace('*', QChar(0x00B7));
}

}  // namespace fernleaf
