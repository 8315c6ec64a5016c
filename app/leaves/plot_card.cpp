#include "leaves/plot_card.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QToolButton>
#include <algorithm>

#include "desk/math_desk.h"
#include "desk/text_of.h"
#include "look/theme.h"
#include "math/curves.h"

namespace fernleaf {
namespace {

constexpr int kCardPx = 268, kRangeFieldPx = 82, kSwatchPx = 12;

QString shown_number(double value, bool decimal_comma) {
    QString out = QString::number(value, 'g', 5).replace('-', QChar(0x2212));
    return decimal_comma ? out.replace('.', ',') : out;
}

std::optional<double> number_in(QString text, bool decimal_comma) {
    text = text.trimmed().replace(QChar(0x2212), '-');
    if (decimal_comma) text.replace(',', '.');
    bool is_number = false;
    const double out = text.toDouble(&is_number);
    return is_number ? std::optional(out) : std::nullopt;
}

}  // namespace

PlotCard::PlotCard(ChosenPlot& plot, QWidget* leaf)
    : LeafCard(leaf),
      plot_(plot),
      another_(new QLineEdit),
      wrong_(new QLabel),
      range_{new QLineEdit, new QLineEdit, new QLineEdit, new QLineEdit},
      fit_(new QPushButton(tr("Fit"))),
      marks_(new QCheckBox(tr("Mark zeros and extremes"))),
      hint_(new QLabel) {
    setObjectName(QStringLiteral("plotCard"));
    setFixedWidth(kCardPx);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 10, 12, 10);
    column->setSpacing(6);
    column->addWidget(new QLabel(QStringLiteral("<span style='font-weight:600'>%1</span>").arg(tr("Plot"))));
    rows_ = new QVBoxLayout;
    rows_->setSpacing(4);
    column->addLayout(rows_);
    another_->setPlaceholderText(tr("Add a formula, such as x^2 − 16"));
    another_->setAccessibleName(tr("Add a formula"));
    column->addWidget(another_);
    wrong_->setWordWrap(true);
    wrong_->hide();
    column->addWidget(wrong_);
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(6);
    grid->setVerticalSpacing(4);
    const std::array names{tr("Left end"), tr("Right end"), tr("Lower end"), tr("Upper end")};
    const std::array axes{tr("x from"), tr("y from")};
    for (size_t axis = 0; axis < axes.size(); ++axis) {
        const auto row = static_cast<int>(axis);
        grid->addWidget(new QLabel(axes[axis]), row, 0);
        grid->addWidget(range_[2 * axis], row, 1);
        grid->addWidget(new QLabel(tr("to")), row, 2);
        grid->addWidget(range_[2 * axis + 1], row, 3);
    }
    for (size_t i = 0; i < range_.size(); ++i) {
        range_[i]->setFixedWidth(kRangeFieldPx);
        range_[i]->setAccessibleName(names[i]);
        connect(range_[i], &QLineEdit::editingFinished, this, &PlotCard::take_range);
    }
    grid->setColumnStretch(4, 1);
    column->addLayout(grid);
    auto* foot = new QHBoxLayout;
    foot->addWidget(marks_);
    foot->addStretch();
    fit_->setProperty("secondary", true);
    fit_->setStyleSheet(QStringLiteral("padding: 4px 8px;"));
    fit_->setToolTip(tr("Fit the range to all curves"));
    foot->addWidget(fit_);
    column->addLayout(foot);
    hint_->setWordWrap(true);
    column->addWidget(hint_);
    connect(another_, &QLineEdit::returnPressed, this, [this] { take_formula(shown_.size()); });
    connect(fit_, &QPushButton::clicked, this,
            [this] { plot_.change([](Plot& p) { p.range = fitting_range(p); }, "Fit a plot's range"); });
    connect(marks_, &QCheckBox::clicked, this,
            [this](bool on) { plot_.change([on](Plot& p) { p.marks = on; }, "Mark places in a plot"); });
    hide();
}

void PlotCard::add_row() {
    const size_t number = shown_.size();
    Row row{new QWidget, new QLabel, new QLineEdit};
    auto* line = new QHBoxLayout(row.all);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(6);
    row.colour->setFixedSize(kSwatchPx, kSwatchPx);
    row.formula->setAccessibleName(tr("Formula"));
    auto* gone = new QToolButton;
    gone->setIcon(icon(QStringLiteral("close")));
    gone->setAutoRaise(true);
    gone->setToolTip(tr("Remove this curve"));
    gone->setAccessibleName(gone->toolTip());
    line->addWidget(row.colour);
    line->addWidget(row.formula);
    line->addWidget(gone);
    connect(row.formula, &QLineEdit::editingFinished, this, [this, number] { take_formula(number); });
    connect(gone, &QToolButton::clicked, this, [this, number] {
        plot_.change(
            [number](Plot& p) {
                if (number < p.curves.size()) p.curves.erase(p.curves.begin() + static_cast<std::ptrdiff_t>(number));
            },
            "Remove a curve");
    });
    rows_->addWidget(row.all);
    shown_.push_back(row);
}

void PlotCard::show_plot(bool read_only) {
    const Plot* plot = plot_.plot();
    if (!plot) return hide();
    while (shown_.size() < plot->curves.size()) add_row();
    while (shown_.size() > plot->curves.size()) {
        shown_.back().all->hide();
        shown_.back().all->deleteLater();
        shown_.pop_back();
    }
    wrong_->hide();
    for (size_t i = 0; i < shown_.size(); ++i) {
        const PlotCurve& curve = plot->curves[i];
        const QString text = QString::fromStdString(curve.formula);
        if (shown_[i].formula->text() != text) shown_[i].formula->setText(text);
        shown_[i].formula->setReadOnly(read_only);
        shown_[i].colour->setStyleSheet(
            QStringLiteral("background: %1; border-radius: 6px;").arg(shown_colour(curve.colour, theme().page).name()));
        if (const auto f = plotted_function(curve.formula, *plot); !f) complain(text_of(f.error()));
    }
    another_->setVisible(!read_only && plot->curves.size() < kMostCurves);
    const PlotRange& r = plot->range;
    const std::array numbers{r.left, r.right, r.bottom, r.top};
    for (size_t i = 0; i < range_.size(); ++i) {
        range_[i]->setText(shown_number(numbers[i], plot->decimal_comma));
        range_[i]->setReadOnly(read_only);
    }
    marks_->setChecked(plot->marks);
    marks_->setEnabled(!read_only && !plot->curves.empty());
    fit_->setEnabled(!read_only);
    hint_->setText(QStringLiteral("<span style='color:%1; font-size:11px'>%2</span>")
                       .arg(theme().quiet_text.name(), tr("Drag inside the plot to move the range; scroll to zoom.")));
    hint_->setVisible(!read_only);
    layout()->activate();
    adjustSize();
    show();
    raise();
}

// Enter takes what is in a field; it does not close the card, as it does with others.
void PlotCard::keyPressEvent(QKeyEvent* event) {
    if (event->key() != Qt::Key_Return && event->key() != Qt::Key_Enter) LeafCard::keyPressEvent(event);
}

void PlotCard::complain(const QString& what) {
    wrong_->setText(
        QStringLiteral("<span style='color:%1'>%2</span>").arg(theme().unsure.name(), what.toHtmlEscaped()));
    wrong_->show();
    layout()->activate();
    adjustSize();
}

// Of a curve that is there, or a further one. What can't be plotted is not taken.
void PlotCard::take_formula(size_t row) {
    const Plot* plot = plot_.plot();
    if (!plot) return;
    QLineEdit* field = row < shown_.size() ? shown_[row].formula : another_;
    const std::string formula = field->text().trimmed().toStdString();
    if (row < plot->curves.size() && plot->curves[row].formula == formula) return;
    if (formula.empty()) return row < plot->curves.size() ? show_plot(false) : void();
    if (formula.size() > kLongestPlotted) return complain(tr("This formula is too long to plot."));
    if (const auto f = plotted_function(formula, *plot); !f) return complain(text_of(f.error()));
    if (row < plot->curves.size()) {
        plot_.change([&](Plot& p) { p.curves[row].formula = formula; }, "Change a curve");
    } else {
        another_->clear();
        plot_.change([&](Plot& p) { add_curve(p, formula); }, "Add a curve");
    }
}

void PlotCard::take_range() {
    const Plot* plot = plot_.plot();
    if (!plot) return;
    std::array<double, 4> numbers{};
    for (size_t i = 0; i < range_.size(); ++i) {
        if (!range_[i]->isModified()) {
            const PlotRange& r = plot->range;
            numbers[i] = std::array{r.left, r.right, r.bottom, r.top}[i];
            continue;
        }
        const auto number = number_in(range_[i]->text(), plot->decimal_comma);
        if (!number) return complain(tr("“%1” is not a number.").arg(range_[i]->text()));
        numbers[i] = *number;
    }
    const PlotRange range{numbers[0], numbers[1], numbers[2], numbers[3]};
    if (!is_sound(range)) return complain(tr("The first number must be smaller than the second."));
    if (range != plot->range) plot_.change([&](Plot& p) { p.range = range; }, "Change a plot's range");
}

}  // namespace fernleaf
