#include "leaves/formula_card.h"

#include <QHBoxLayout>
#include <QPainter>
#include <cmath>

#include "desk/text_of.h"
#include "look/theme.h"
#include "math/math_signs.h"
#include "math/math_text.h"
#include "math/parse_math.h"
#include "math/written_math.h"
#include "render/formula_look.h"

namespace fernleaf {
namespace {

constexpr int kRowTypePx = 17, kFieldTypePx = 19, kRoomPx = 236, kRowRoomPx = 168;

QString bold(const QString& text) {
    return QStringLiteral("<span style='font-weight:600'>%1</span>").arg(text.toHtmlEscaped());
}

// How a sign looks, of those that formulas are read in.
QString shown_sign(const std::string& latex) {
    if (latex == "\\frac") return FormulaCard::tr("fraction bar");
    if (latex == "\\sqrt") return QStringLiteral("√");
    const auto written = written_math(latex);
    if (!written || written->parts.size() != 1) return QString::fromStdString(latex);
    return QString::fromStdString(shown(written->parts[0]));
}

// The sign that is meant by what is typed: "×", "alpha" or "\alpha"; empty: none is.
QString sign_meant(const QString& typed) {
    const QString text = typed.trimmed();
    for (const QString& latex : {text, "\\" + text})
        if (sign_named(latex.toStdString())) return latex;
    for (const MathSign& sign : math_signs())
        if (shown_sign(sign.latex) == text) return QString::fromUtf8(sign.latex);
    return {};
}

}  // namespace

QPixmap formula_picture(const std::string& latex, int px, const QColor& colour, double device_pixel_ratio,
                        int most_wide_px) {
    const auto written = written_math(latex);
    if (!written) return {};
    FormulaLook look = formula_look(*written, px);
    if (look.width > most_wide_px) look = formula_look(*written, px * most_wide_px / look.width);
    const QSizeF size(std::ceil(look.width) + 2, std::ceil(look.ascent + look.descent) + 2);
    QPixmap out((size * device_pixel_ratio).toSize());
    out.setDevicePixelRatio(device_pixel_ratio);
    out.fill(Qt::transparent);
    QPainter painter(&out);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(1, 1 + look.ascent);
    painter.setPen(Qt::NoPen);
    painter.setBrush(colour);
    painter.drawPath(look.path);
    return out;
}

FormulaCard::FormulaCard(QWidget* parent)
    : CorrectionCard(QStringLiteral("formulaCard"), tr("What the formula says"), parent),
      typed_(new QLabel),
      row_(new QWidget),
      copy_(quiet_button(tr("Copy"))),
      work_out_(quiet_button(tr("Work out"))),
      plot_(quiet_button(tr("Plot"))),
      whole_(quiet_button(tr("Whole formula"))),
      result_(new QLabel) {
    typed_->setWordWrap(true);
    column()->addWidget(typed_);
    auto* row = new QHBoxLayout(row_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(4);
    for (QPushButton* b : {work_out_, plot_, copy_}) {
        b->setMenu(new QMenu(b));
        row->addWidget(b);
    }
    whole_->setToolTip(tr("Choose the whole formula  (Esc)"));
    row->addWidget(whole_);
    row->addStretch();
    connect(whole_, &QPushButton::clicked, this, &FormulaCard::whole_wanted);
    column()->addWidget(row_);
    result_->setWordWrap(true);
    result_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    column()->addWidget(result_);
    connect(field(), &QLineEdit::textChanged, this, &FormulaCard::look_at_typed);
}

void FormulaCard::show_formula(const ReadLine& line, bool read_only, bool decimal_comma) {
    const ReadWord& word = line.words[0];
    of_sign_ = false, decimal_comma_ = decimal_comma;
    before_ = QString::fromStdString(word.text);
    reworked_.clear();
    result_->hide(), typed_->hide(), whole_->hide();
    copy_->show(), work_out_->show(), plot_->setVisible(!read_only);
    const AlternativesAs as{[this](const std::string& other) {
                                return Choice{
                                    {},
                                    QString::fromStdString(other),
                                    {},
                                    formula_picture(other, kRowTypePx, theme().text, devicePixelRatioF(), kRowRoomPx)};
                            },
                            tr("unlikely")};
    show_what(word.block != 0  ? bold(tr("Formula set in type"))
              : word.corrected ? bold(tr("Corrected formula"))
                               : tr("%1 · %2 % sure").arg(bold(tr("Formula"))).arg(qRound(100 * word.certainty)),
              word.alternatives, as, before_,
              tr(" · <span style='font-weight:600'>type</span> LaTeX or plain math to replace · <span "
                 "style='font-weight:600'>→</span> for its symbols"),
              read_only);
}

void FormulaCard::show_sign(const ReadWord& sign, bool read_only) {
    of_sign_ = true;
    before_ = shown_sign(sign.text);
    result_->hide(), typed_->hide(), copy_->hide(), work_out_->hide(), plot_->hide();
    whole_->show();
    const AlternativesAs as{[](const std::string& other) { return Choice{{}, shown_sign(other), {}}; }, tr("unlikely")};
    show_what(
        sign.corrected ? tr("Corrected to %1").arg(bold(before_))
                       : tr("Symbol %1 · %2 % sure").arg(bold(before_)).arg(qRound(100 * sign.certainty)),
        sign.alternatives, as, before_,
        tr(" · <span style='font-weight:600'>type</span> to replace · <span style='font-weight:600'>← →</span> for "
           "the next symbol"),
        read_only);
}

void FormulaCard::show_reworked(const QString& result) {
    reworked_ = result;
    result_->setText(
        QStringLiteral("<span style='color:%1'>%2</span>").arg(theme().act.name(), result.toHtmlEscaped()));
    result_->show();
    fit();
}

// What is typed is shown as it would be set, and what is wrong with it as long as it is.
void FormulaCard::look_at_typed() {
    if (!isVisible()) return;
    const QString text = field()->text();
    typed_->clear();
    if (const QString latex = meant(text); !latex.isEmpty())
        typed_->setPixmap(
            formula_picture(latex.toStdString(), kFieldTypePx, theme().text, devicePixelRatioF(), kRoomPx));
    else if (of_sign_)
        typed_->setText(tr("Fernleaf doesn't read this symbol in formulas."));
    else if (const auto tree = parse_math(text.toStdString(), decimal_comma_); !tree)
        typed_->setText(text_of(tree.error()));
    else
        typed_->setText(tr("This can't be set as a formula."));
    typed_->setVisible(text != before_ && !text.trimmed().isEmpty());
    fit();
}

QString FormulaCard::meant(const QString& typed) const {
    if (of_sign_) return sign_meant(typed);
    return QString::fromStdString(latex_of_typed(typed.toStdString(), decimal_comma_));
}

}  // namespace fernleaf
