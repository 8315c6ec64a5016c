#include "window/formula_dialog.h"

#include <QVBoxLayout>

#include "desk/text_of.h"
#include "leaves/formula_card.h"
#include "look/dialog_parts.h"
#include "look/theme.h"
#include "math/math_text.h"
#include "math/parse_math.h"

namespace fernleaf {
namespace {

constexpr int kTypePx = 26, kWidePx = 420, kHighPx = 96;

}  // namespace

FormulaDialog::FormulaDialog(bool decimal_comma, QWidget* parent)
    : QDialog(parent), decimal_comma_(decimal_comma), field_(new QLineEdit), picture_(new QLabel), wrong_(new QLabel) {
    setWindowTitle(tr("Insert a formula"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 18, 22, 18);
    column->setSpacing(12);
    column->addWidget(dialog_heading(tr("Insert a formula")));
    field_->setPlaceholderText(tr("LaTeX or plain math, such as x^2 − 16 = 0"));
    field_->setAccessibleName(tr("Formula"));
    field_->setMinimumWidth(kWidePx);
    column->addWidget(field_);
    picture_->setAlignment(Qt::AlignCenter);
    picture_->setFixedHeight(kHighPx);
    column->addWidget(picture_);
    wrong_->setWordWrap(true);
    wrong_->setMinimumHeight(2 * wrong_->fontMetrics().height());
    wrong_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    column->addWidget(wrong_);
    insert_ = deciding_foot(*this, *column, tr("Insert"));
    connect(field_, &QLineEdit::textChanged, this, &FormulaDialog::look_at_typed);
    connect(insert_, &QPushButton::clicked, this, &QDialog::accept);
    look_at_typed();
}

std::string FormulaDialog::latex() const { return latex_of_typed(field_->text().toStdString(), decimal_comma_); }

void FormulaDialog::look_at_typed() {
    const std::string typed = field_->text().trimmed().toStdString(), set = latex();
    insert_->setEnabled(!typed.empty() && !set.empty());
    picture_->setPixmap(set.empty() ? QPixmap()
                                    : formula_picture(set, kTypePx, theme().text, devicePixelRatioF(), kWidePx));
    // What makes no sense can be set, but not worked out.
    const auto tree = parse_math(typed, decimal_comma_);
    wrong_->setText(typed.empty() || tree ? QString() : text_of(tree.error()));
}

}  // namespace fernleaf
