#include "leaves/figure_card.h"

#include <QCoreApplication>
#include <QKeySequence>
#include <QVBoxLayout>
#include <array>

#include "look/theme.h"

namespace fernleaf {

QString name_on_screen(ShapeKind kind) {
    static constexpr std::array<const char*, kShapeKinds> kNames{
        QT_TRANSLATE_NOOP("Figure", "line"),
        QT_TRANSLATE_NOOP("Figure", "bent line"),
        QT_TRANSLATE_NOOP("Figure", "arrow"),
        QT_TRANSLATE_NOOP("Figure", "double arrow"),
        QT_TRANSLATE_NOOP("Figure", "arc"),
        QT_TRANSLATE_NOOP("Figure", "curve"),
        QT_TRANSLATE_NOOP("Figure", "circle"),
        QT_TRANSLATE_NOOP("Figure", "ellipse"),
        QT_TRANSLATE_NOOP("Figure", "square"),
        QT_TRANSLATE_NOOP("Figure", "rectangle"),
        QT_TRANSLATE_NOOP("Figure", "rounded rectangle"),
        QT_TRANSLATE_NOOP("Figure", "triangle"),
        QT_TRANSLATE_NOOP("Figure", "diamond"),
        QT_TRANSLATE_NOOP("Figure", "parallelogram"),
        QT_TRANSLATE_NOOP("Figure", "trapezoid"),
        QT_TRANSLATE_NOOP("Figure", "pentagon"),
        QT_TRANSLATE_NOOP("Figure", "hexagon"),
        QT_TRANSLATE_NOOP("Figure", "star"),
        QT_TRANSLATE_NOOP("Figure", "polygon"),
        QT_TRANSLATE_NOOP("Figure", "brace"),
    };
    return QCoreApplication::translate("Figure", kNames[static_cast<size_t>(kind)]);
}

FigureCard::FigureCard(QWidget* parent) : LeafCard(parent) {
    setObjectName(QStringLiteral("figureCard"));
    setFixedWidth(268);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(12, 10, 12, 10);
    column->setSpacing(6);
    title_ = new QLabel;
    title_->setWordWrap(true);
    list_ = new ChoiceList;
    hint_ = new QLabel;
    hint_->setWordWrap(true);
    column->addWidget(title_);
    column->addWidget(list_);
    column->addWidget(hint_);
    connect(list_, &ChoiceList::taken, this, &FigureCard::take);
    hide();
}

void FigureCard::show_figure(const ReadShape& shape, bool read_only, Of of) {
    const bool may_correct = of == Of::ink || of == Of::corrected;
    const ShapeCandidate& best = shape.best();
    const QString name = QStringLiteral("<span style='font-weight:600'>%1</span>").arg(name_on_screen(best.shape.kind));
    title_->setText(of == Of::fair        ? tr("Drawn fair: %1").arg(name)
                    : of == Of::corrected ? tr("Corrected to %1").arg(name)
                                          : tr("Read as %1 · %2 % sure").arg(name).arg(qRound(100 * best.certainty)));
    choices_.clear();
    std::vector<Choice> rows;
    for (size_t i = 1; i < shape.candidates.size() && choices_.size() < kMostAlternatives && may_correct; ++i) {
        const ShapeCandidate& other = shape.candidates[i];
        choices_.emplace_back(other.shape.kind);
        rows.push_back({QString::number(choices_.size()), name_on_screen(other.shape.kind),
                        other.certainty < 0.005 ? tr("unlikely") : tr("%1 %").arg(qRound(100 * other.certainty))});
    }
    if (may_correct) {
        choices_.emplace_back(Other::words);
        rows.push_back({QStringLiteral("W"), tr("Read as words"), {}});
        choices_.emplace_back(Other::ink);
        rows.push_back({QStringLiteral("I"), tr("Leave as ink"), {}});
    }
    list_->set(std::move(rows), false, !read_only);
    may_take_ = !read_only;
    const QString keys = read_only        ? tr("This library is read-only.")
                         : of == Of::fair ? tr("To change it or turn it back to ink, choose it with the lasso.")
                         : of == Of::picture
                             ? tr("To change it, lift its ink from the picture.")
                             : tr("Press a key to choose · <span style='font-weight:600'>Esc</span> to close");
    hint_->setText(
        QStringLiteral("<span style='color:%1; font-size:11px'>%2</span>").arg(theme().quiet_text.name(), keys));
    layout()->activate();
    adjustSize();
    show();
    raise();
}

bool FigureCard::key(int key) {
    if (!may_take_) return false;
    const QString name = QKeySequence(key).toString();
    const auto& rows = list_->choices();
    for (size_t i = 0; i < rows.size(); ++i)
        if (rows[i].key == name) return take(static_cast<int>(i)), true;
    return false;
}

void FigureCard::take(int choice) {
    const auto& chosen = choices_[static_cast<size_t>(choice)];
    if (const auto* kind = std::get_if<ShapeKind>(&chosen))
        emit kind_taken(*kind);
    else if (std::get<Other>(chosen) == Other::ink)
        emit ink_wanted();
    else
        emit words_wanted();
}

}  // namespace fernleaf
