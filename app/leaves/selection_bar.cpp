#include "leaves/selection_bar.h"

#include <QMenu>
#include <QPainter>
#include <algorithm>

#include "leaves/tool_tray.h"
#include "look/theme.h"

namespace fernleaf {
namespace {

constexpr double kWidthStep = 1.25;
constexpr int kGapPx = 8;

}  // namespace

SelectionBar::SelectionBar(InkLeaf& leaf, const ToolTray& tray, const LeafView& view)
    : LeafCard(&leaf), leaf_(leaf), tray_(tray), view_(view) {
    setObjectName(QStringLiteral("selectionBar"));
    row_ = new QHBoxLayout(this);
    row_->setContentsMargins(6, 4, 6, 4);
    row_->setSpacing(1);
    const auto widths = [this](double factor) {
        leaf_.change_pens(
            [factor](Pen pen) {
                pen.width_mm = std::clamp(static_cast<float>(pen.width_mm * factor), kThinnestPenMm, kBroadestPenMm);
                return pen;
            },
            "Change width");
    };
    colour_ = add(QStringLiteral("colour"), tr("Colour"));
    connect(colour_, &QToolButton::clicked, this, &SelectionBar::offer_colours);
    connect(add(QStringLiteral("thinner"), tr("Thinner")), &QToolButton::clicked, this,
            [widths] { widths(1 / kWidthStep); });
    connect(add(QStringLiteral("thicker"), tr("Thicker")), &QToolButton::clicked, this,
            [widths] { widths(kWidthStep); });
    connect(add(QStringLiteral("to-front"), tr("Bring to the front")), &QToolButton::clicked, this,
            [this] { leaf_.reorder_selection(true); });
    connect(add(QStringLiteral("to-back"), tr("Send to the back")), &QToolButton::clicked, this,
            [this] { leaf_.reorder_selection(false); });
    row_->addSpacing(6);
    connect(add(QStringLiteral("copy"), tr("Copy  (Ctrl+C)")), &QToolButton::clicked, &leaf_, &InkLeaf::copy_selection);
    connect(add(QStringLiteral("cut"), tr("Cut  (Ctrl+X)")), &QToolButton::clicked, &leaf_, &InkLeaf::cut_selection);
    connect(add(QStringLiteral("picture"), tr("Copy as a picture")), &QToolButton::clicked, &leaf_,
            &InkLeaf::copy_as_picture);
    connect(add(QStringLiteral("bin"), tr("Delete  (Del)")), &QToolButton::clicked, &leaf_,
            [this] { leaf_.delete_selection(); });
    connect(&leaf_, &InkLeaf::selection_changed, this, &SelectionBar::place);
    connect(&view_, &LeafView::changed, this, &SelectionBar::place);
    restyle();
    hide();
}

QToolButton* SelectionBar::add(const QString& icon_name, const QString& tip) {
    auto* button = new QToolButton;
    button->setProperty("icon_name", icon_name);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setIconSize({22, 22});
    button->setFixedSize(34, 34);
    button->setStyleSheet(QStringLiteral("padding: 0;"));
    row_->addWidget(button);
    buttons_.push_back(button);
    return button;
}

void SelectionBar::offer_colours() {
    QMenu menu(this);
    for (const uint32_t colour : tray_.tools().palette) {
        QPixmap patch(22, 22);
        patch.fill(Qt::transparent);
        QPainter painter(&patch);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(QPen(theme().line, 1));
        painter.setBrush(shown_colour(colour, theme().page));
        painter.drawEllipse(QRectF(2, 2, 18, 18));
        painter.end();
        menu.addAction(patch, QColor::fromRgb(colour).name(), this, [this, colour] {
            leaf_.change_pens(
                [colour](Pen pen) {
                    pen.colour = colour;
                    return pen;
                },
                "Change colour");
        });
    }
    menu.exec(colour_->mapToGlobal(QPoint(0, colour_->height() + 4)));
}

// Below what is chosen, or above it where there is no room; always within the leaf.
void SelectionBar::place() {
    const bool wanted = !leaf_.selection().empty() && !leaf_.selection().changing();
    setVisible(wanted);
    if (!wanted) return;
    adjustSize();
    const QRectF frame = leaf_.selection().painted(view_);
    double top = frame.bottom() + kGapPx;
    if (top + height() > tray_.y() - kGapPx) top = frame.top() - kGapPx - height();
    const double most = tray_.y() - kGapPx - height();
    move(static_cast<int>(
             std::clamp(frame.center().x() - width() / 2.0, 6.0, std::max(6.0, leaf_.width() - width() - 6.0))),
         static_cast<int>(std::clamp(top, 6.0, std::max(6.0, most))));
    raise();
}

void SelectionBar::restyle() {
    for (QToolButton* b : buttons_) b->setIcon(icon(b->property("icon_name").toString()));
    update();
}

}  // namespace fernleaf
