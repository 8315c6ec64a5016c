// Formulas made into others on wish: solved for a name, factored, expanded, simplified.
#pragma once

#include <QObject>
#include <QString>
#include <string>
#include <vector>

#include "desk/desk.h"
#include "math/working_out.h"

namespace fernleaf {

// UI thread only.
class MathDesk : public Desk {
    Q_OBJECT

public:
    explicit MathDesk(const DeskParts& parts, QObject* parent = nullptr) : Desk(parts, parent) {}
    ~MathDesk() override { cancel_.cancel(); }

    // The names in a formula that it can be solved for; none where it can't be. formula: LaTeX or a plain form.
    std::vector<std::string> names_to_solve_for(const std::string& formula) const;
    // Whether there is anything to work out in it.
    bool understands(const std::string& formula) const;
    // Worked out on a job thread; reworked() comes once for the last that was asked.
    void rework(const std::string& formula, Rework how, const std::string& name = {});
    bool decimal_comma() const;

signals:
    void reworked(const QString& result);

private:
    CancelSource cancel_;
    int asked_ = 0;
};

// A result as it stands on the screen: "x = −4 or x = π".
QString shown_plainly(const std::string& result);

}  // namespace fernleaf
