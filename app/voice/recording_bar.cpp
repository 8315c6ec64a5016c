#include "voice/recording_bar.h"

#include <QHBoxLayout>
#include <QPainter>
#include <algorithm>

#include "desk/tracks_desk.h"
#include "look/theme.h"

namespace fernleaf {
namespace {

constexpr int kMeterPx = 150, kMeterSteps = 18, kHeightPx = 46;
constexpr double kLeastLoud = 0.3;  // of the meter's range: the room

}  // namespace

RecordingBar::RecordingBar(RecordingDesk& recording, QWidget* parent) : QWidget(parent), recording_(recording) {
    setObjectName(QStringLiteral("recordingBar"));
    setFixedHeight(kHeightPx);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(46, 0, 14, 0);
    row->setSpacing(12);
    says_ = new QLabel;
    time_ = new QLabel;
    for (QLabel* label : {says_, time_}) {
        QFont font = label->font();
        font.setPixelSize(15);
        font.setWeight(QFont::DemiBold);
        label->setFont(font);
        row->addWidget(label);
    }
    row->addSpacing(kMeterPx + 20);
    row->addStretch();
    pause_ = new QPushButton;
    end_ = new QPushButton(tr("Stop recording"));
    end_->setToolTip(tr("Stop recording  (Ctrl+Shift+R)"));
    // Writing goes on after a click.
    for (QPushButton* b : {pause_, end_}) {
        b->setFocusPolicy(Qt::TabFocus);
        row->addWidget(b);
    }
    connect(pause_, &QPushButton::clicked, &recording_, [this] { recording_.pause(!recording_.paused()); });
    connect(end_, &QPushButton::clicked, &recording_, &RecordingDesk::end);
    connect(&recording_, &RecordingDesk::changed, this, &RecordingBar::show_state);
    connect(&recording_, &RecordingDesk::heard, this, [this] {
        time_->setText(clock_text(recording_.length_ms()));
        update();
    });
    show_state();
}

void RecordingBar::show_state() {
    setVisible(recording_.recording());
    if (!recording_.recording()) return;
    says_->setText(recording_.paused() ? tr("Recording paused") : tr("Recording"));
    time_->setText(clock_text(recording_.length_ms()));
    pause_->setText(recording_.paused() ? tr("Resume") : tr("Pause"));
    restyle();
}

void RecordingBar::restyle() {
    const Theme& t = theme();
    const QString on = t.dark ? t.on_act.name() : QStringLiteral("#FDFCF8");
    setStyleSheet(
        QStringLiteral("QLabel { color: %1; } QPushButton { color: %1; background: transparent; border: 1px solid "
                       "%1; border-radius: 6px; padding: 5px 14px; font-weight: 600; } QPushButton:hover, "
                       "QPushButton:focus { background: rgba(255, 255, 255, 40); }")
            .arg(on));
    update();
}

void RecordingBar::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    painter.fillRect(rect(), t.unsure);
    const QColor on = t.dark ? t.on_act : QColor(0xFD, 0xFC, 0xF8);
    painter.setPen(Qt::NoPen);
    painter.setBrush(on);
    const double middle = height() / 2.0;
    if (recording_.paused()) {
        painter.drawRect(QRectF(20, middle - 7, 4, 14));
        painter.drawRect(QRectF(28, middle - 7, 4, 14));
    } else {
        painter.drawEllipse(QPointF(26, middle), 7, 7);
    }
    const double left = time_->geometry().right() + 24;
    const double loud = std::clamp((recording_.level() - kLeastLoud) / (1 - kLeastLoud), 0.0, 1.0);
    for (int i = 0; i < kMeterSteps; ++i) {
        QColor step = on;
        if (recording_.paused() || i >= loud * kMeterSteps) step.setAlpha(70);
        painter.setBrush(step);
        painter.drawRoundedRect(QRectF(left + i * (static_cast<double>(kMeterPx) / kMeterSteps), middle - 8, 5, 16), 2,
                                2);
    }
}

}  // namespace fernleaf
