#include "leaves/pen_card.h"

#include <QButtonGroup>
#include <QColorDialog>
#include <QHBoxLayout>
#include <QMenu>
#include <QPainter>
#include <QVBoxLayout>
#include <cmath>

#include "look/theme.h"

namespace fernleaf {
namespace {

constexpr int kColumns = 8;
constexpr int kWidthSteps = 100;
constexpr int kOpacityLeast = 15, kOpacityMost = 100;  // %

const char* const kKindIcons[] = {"ballpoint", "fountain", "pencil", "highlighter"};
const char* const kKindNames[] = {QT_TRANSLATE_NOOP("PenCard", "Ballpoint: a steady line"),
                                  QT_TRANSLATE_NOOP("PenCard", "Fountain pen: pressure and pace shape the line"),
                                  QT_TRANSLATE_NOOP("PenCard", "Pencil: leaning broadens it, pressure darkens it"),
                                  QT_TRANSLATE_NOOP("PenCard", "Highlighter: a band under the ink")};

// Widths are told apart by their ratio, not by their difference.
float width_at_step(int step) {
    const double width =
        kThinnestPenMm * std::pow(kBroadestPenMm / kThinnestPenMm, static_cast<double>(step) / kWidthSteps);
    return static_cast<float>(width < 1 ? std::round(width * 20) / 20 : std::round(width * 10) / 10);
}

int step_of_width(double width) {
    return static_cast<int>(
        std::lround(kWidthSteps * std::log(width / kThinnestPenMm) / std::log(kBroadestPenMm / kThinnestPenMm)));
}

QIcon colour_icon(uint32_t colour, bool chosen) {
    QPixmap pixmap(44, 44);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    painter.setRenderHint(QPainter::Antialiasing);
    if (chosen) {
        painter.setPen(QPen(theme().act, 3));
        painter.drawEllipse(QPointF(22, 22), 20, 20);
    }
    painter.setPen(QPen(theme().line, 1.5));
    painter.setBrush(shown_colour(colour, theme().page));
    painter.drawEllipse(QPointF(22, 22), 15.5, 15.5);
    return pixmap;
}

}  // namespace

PenCard::PenCard(QWidget* parent) : LeafCard(parent) {
    setObjectName(QStringLiteral("penCard"));
    setFixedWidth(312);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 10);
    column->setSpacing(9);

    auto* kinds = new QHBoxLayout;
    kinds->setSpacing(4);
    auto* group = new QButtonGroup(this);
    for (int i = 0; i < 4; ++i) {
        auto* button = new QToolButton;
        button->setCheckable(true);
        button->setFixedSize(66, 40);
        button->setIconSize({26, 26});
        button->setToolTip(tr(kKindNames[i]));
        button->setAccessibleName(tr(kKindNames[i]));
        group->addButton(button);
        kinds->addWidget(button);
        kinds_.push_back(button);
        connect(button, &QToolButton::clicked, this, [this, i] {
            TrayPen pen = pen_;
            const bool was_band = pen.kind == PenKind::highlighter;
            pen.kind = static_cast<PenKind>(i);
            const bool band = pen.kind == PenKind::highlighter;
            if (band != was_band) {  // what suits a pen doesn't suit a highlighter
                pen.opacity = band ? 0.5F : 1;
                pen.width_mm = band ? 4.0F : 0.5F;
                pen.tip = band ? Tip::chisel : Tip::round;
                pen.by_pressure = !band;
                pen.sets_in_type = false;
            }
            change(pen);
        });
    }
    column->addLayout(kinds);

    swatch_ = new Swatch;
    column->addWidget(swatch_);

    const auto slider = [&](const QString& name, QLabel** value, int least, int most) {
        auto* row = new QHBoxLayout;
        auto* label = new QLabel(name);
        label->setFixedWidth(62);
        auto* made = new QSlider(Qt::Horizontal);
        made->setRange(least, most);
        made->setMinimumHeight(22);  // room for the handle
        made->setAccessibleName(name);
        *value = new QLabel;
        (*value)->setFixedWidth(58);
        (*value)->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
        row->addWidget(label);
        row->addWidget(made, 1);
        row->addWidget(*value);
        column->addLayout(row);
        return made;
    };
    width_ = slider(tr("Width"), &width_label_, 0, kWidthSteps);
    opacity_ = slider(tr("Strength"), &opacity_label_, kOpacityLeast, kOpacityMost);
    connect(width_, &QSlider::valueChanged, this, [this](int step) {
        TrayPen pen = pen_;
        pen.width_mm = width_at_step(step);
        change(pen);
    });
    connect(opacity_, &QSlider::valueChanged, this, [this](int percent) {
        TrayPen pen = pen_;
        pen.opacity = static_cast<float>(percent) / 100;
        change(pen);
    });

    colours_ = new QGridLayout;
    colours_->setSpacing(1);
    colours_->setContentsMargins(0, 0, 0, 0);
    column->addLayout(colours_);

    pressure_ = new QCheckBox(tr("Pressure acts"));
    chisel_ = new QCheckBox(tr("Chisel tip"));
    connect(pressure_, &QCheckBox::toggled, this, [this](bool on) {
        TrayPen pen = pen_;
        pen.by_pressure = on;
        change(pen);
    });
    connect(chisel_, &QCheckBox::toggled, this, [this](bool on) {
        TrayPen pen = pen_;
        pen.tip = on ? Tip::chisel : Tip::round;
        change(pen);
    });

    sets_ = new QCheckBox(tr("Set in type when the pen pauses"));
    connect(sets_, &QCheckBox::toggled, this, [this](bool on) {
        TrayPen pen = pen_;
        pen.sets_in_type = on;
        change(pen);
    });
    column->addWidget(sets_);

    auto* foot = new QHBoxLayout;
    foot->setSpacing(2);
    foot->addWidget(pressure_);
    foot->addWidget(chisel_);
    foot->addStretch();
    const auto button = [&](const char* icon_name, const QString& tip) {
        auto* made = new QToolButton;
        made->setProperty("icon_name", QString::fromLatin1(icon_name));
        made->setIconSize({20, 20});
        made->setFixedSize(30, 30);
        made->setStyleSheet(QStringLiteral("padding: 0;"));
        made->setToolTip(tip);
        made->setAccessibleName(tip);
        foot->addWidget(made);
        return made;
    };
    left_ = button("previous", tr("Move left in the tray"));
    right_ = button("next", tr("Move right in the tray"));
    copy_ = button("add-pen", tr("Add a copy of this pen to the tray"));
    remove_ = button("bin", tr("Remove this pen from the tray"));
    column->addLayout(foot);
    connect(left_, &QToolButton::clicked, this, [this] { emit move_wanted(index_, -1); });
    connect(right_, &QToolButton::clicked, this, [this] { emit move_wanted(index_, 1); });
    connect(copy_, &QToolButton::clicked, this, [this] { emit copy_wanted(index_); });
    connect(remove_, &QToolButton::clicked, this, [this] { emit removal_wanted(index_); });
    restyle();
    hide();
}

void PenCard::restyle() {
    for (size_t i = 0; i < kinds_.size(); ++i) kinds_[i]->setIcon(icon(QString::fromLatin1(kKindIcons[i])));
    for (QToolButton* b : {left_, right_, copy_, remove_}) b->setIcon(icon(b->property("icon_name").toString()));
    if (!palette_.empty()) fill_palette();
    swatch_->update();
}

void PenCard::show_pen(const Tools& tools, int index) {
    pen_ = tools.pens[static_cast<size_t>(index)];
    palette_ = tools.palette;
    index_ = index;
    left_->setEnabled(index > 0);
    right_->setEnabled(index + 1 < static_cast<int>(tools.pens.size()));
    copy_->setEnabled(tools.pens.size() < kMostPens);
    remove_->setEnabled(tools.pens.size() > 1);
    show_state();
    adjustSize();
    show();
    raise();
    kinds_[static_cast<size_t>(pen_.kind)]->setFocus(Qt::PopupFocusReason);
}

void PenCard::show_state() {
    showing_ = true;
    const bool band = pen_.kind == PenKind::highlighter;
    kinds_[static_cast<size_t>(pen_.kind)]->setChecked(true);
    width_->setValue(step_of_width(pen_.width_mm));
    width_label_->setText(tr("%1 mm").arg(static_cast<double>(pen_.width_mm), 0, 'f', 2));
    opacity_->setValue(qRound(100 * pen_.opacity));
    opacity_label_->setText(tr("%1 %").arg(qRound(100 * pen_.opacity)));
    pressure_->setChecked(pen_.by_pressure);
    chisel_->setChecked(pen_.tip == Tip::chisel);
    pressure_->setVisible(!band);
    chisel_->setVisible(band);
    sets_->setChecked(pen_.sets_in_type);
    sets_->setVisible(!band);
    fill_palette();
    swatch_->set_pen(pen_);
    showing_ = false;
}

void PenCard::change(const TrayPen& pen) {
    if (showing_ || pen == pen_) return;
    pen_ = pen;
    show_state();
    emit pen_changed(index_, pen_);
}

void PenCard::fill_palette() {
    // Buttons are kept while their number stays, so that the one with the focus keeps it.
    const int wanted = static_cast<int>(palette_.size()) + 1;
    while (colours_->count() > wanted) {
        QLayoutItem* item = colours_->takeAt(colours_->count() - 1);
        item->widget()->hide();
        item->widget()->deleteLater();
        delete item;
    }
    while (colours_->count() < wanted) {
        const int place = colours_->count();
        auto* button = new QToolButton;
        button->setFixedSize(34, 34);
        button->setStyleSheet(QStringLiteral("padding: 0;"));
        button->setIconSize({28, 28});
        button->setContextMenuPolicy(Qt::CustomContextMenu);
        colours_->addWidget(button, place / kColumns, place % kColumns);
        connect(button, &QToolButton::clicked, this, [this, place] {
            if (place >= static_cast<int>(palette_.size())) return mix_colour();
            TrayPen pen = pen_;
            pen.colour = palette_[static_cast<size_t>(place)];
            change(pen);
        });
        connect(button, &QWidget::customContextMenuRequested, this, [this, place, button](const QPoint& at) {
            if (place >= static_cast<int>(palette_.size()) || palette_.size() < 2) return;
            QMenu menu(this);
            menu.addAction(tr("Remove this colour from the palette"), this, [this, place] {
                palette_.erase(palette_.begin() + place);
                fill_palette();
                emit palette_changed(palette_);
            });
            menu.exec(button->mapToGlobal(at));
        });
    }
    for (int i = 0; i < wanted; ++i) {
        auto* button = qobject_cast<QToolButton*>(colours_->itemAt(i)->widget());
        if (i < static_cast<int>(palette_.size())) {
            const uint32_t colour = palette_[static_cast<size_t>(i)];
            const QString name = QColor::fromRgb(colour).name();
            button->setIcon(colour_icon(colour, colour == pen_.colour));
            button->setToolTip(tr("Colour %1").arg(name));
            button->setAccessibleName(tr("Colour %1").arg(name));
        } else {
            button->setIcon(icon(QStringLiteral("another")));
            button->setToolTip(tr("Another colour"));
            button->setAccessibleName(tr("Another colour"));
        }
    }
}

void PenCard::mix_colour() {
    const QColor colour = QColorDialog::getColor(QColor::fromRgb(pen_.colour), this, tr("Another colour"));
    if (!colour.isValid()) return;
    const uint32_t rgb = colour.rgb() & 0xFFFFFFU;
    if (std::ranges::find(palette_, rgb) == palette_.end()) {
        if (palette_.size() >= kMostColours) palette_.pop_back();
        palette_.push_back(rgb);
        emit palette_changed(palette_);
    }
    TrayPen pen = pen_;
    pen.colour = rgb;
    change(pen);
    fill_palette();
}

}  // namespace fernleaf
