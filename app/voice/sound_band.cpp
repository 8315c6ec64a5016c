#include "voice/sound_band.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>

#include "look/theme.h"
#include "sound/loudness.h"

namespace fernleaf {
namespace {

constexpr double kSidePx = 6, kBarPx = 3, kWrittenPx = 7;
constexpr int64_t kKeyStepMs = 5000;
constexpr double kReachPx = 5;  // of a bookmark

}  // namespace

SoundBand::SoundBand(ListeningDesk& listening, QWidget* parent) : QWidget(parent), listening_(listening) {
    setObjectName(QStringLiteral("soundBand"));
    setMinimumSize(120, 44);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setAccessibleName(tr("Position"));
    connect(&listening_, &ListeningDesk::moved, this, [this] { update(); });
    connect(&listening_, &ListeningDesk::changed, this, [this] { update(); });
    connect(&listening_, &ListeningDesk::opened, this, [this] { update(); });
}

double SoundBand::x_of(int64_t position_ms) const {
    const auto all = static_cast<double>(std::max<int64_t>(1, listening_.length_ms()));
    return kSidePx + (width() - 2 * kSidePx) * static_cast<double>(position_ms) / all;
}

int64_t SoundBand::position_at(double x) const {
    const double part = std::clamp((x - kSidePx) / std::max(1.0, width() - 2 * kSidePx), 0.0, 1.0);
    return static_cast<int64_t>(part * static_cast<double>(listening_.length_ms()));
}

void SoundBand::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    const int64_t length = listening_.length_ms(), now = listening_.position_ms();
    painter.setPen(QPen(hasFocus() ? t.act : t.line, hasFocus() ? 1.6 : 1));
    painter.setBrush(t.card);
    painter.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 6, 6);
    if (length <= 0) return;
    const double middle = (height() - kWrittenPx) / 2, reach = middle - 4;
    painter.setPen(Qt::NoPen);
    const std::string& levels = listening_.levels();
    QColor to_come = t.quiet_text;
    to_come.setAlpha(120);
    if (levels.empty()) {  // ink alone: a line
        painter.setBrush(to_come);
        painter.drawRoundedRect(QRectF(kSidePx, middle - 1.5, width() - 2 * kSidePx, 3), 1.5, 1.5);
        painter.setBrush(t.act);
        painter.drawRoundedRect(QRectF(kSidePx, middle - 1.5, x_of(now) - kSidePx, 3), 1.5, 1.5);
    } else {
        for (double x = kSidePx; x < width() - kSidePx; x += kBarPx) {
            const auto from = static_cast<size_t>(position_at(x) / kLoudnessMs);
            const size_t to = std::max(from + 1, static_cast<size_t>(position_at(x + kBarPx) / kLoudnessMs));
            int loud = 0;
            for (size_t i = from; i < std::min(to, levels.size()); ++i)
                loud = std::max(loud, static_cast<int>(static_cast<uint8_t>(levels[i])));
            // From -45 dB up: what is quieter is the room.
            const double part = std::max(0.04, (loud / 255.0 - 0.25) / 0.75);
            painter.setBrush(position_at(x) < now ? t.act : to_come);
            painter.drawRoundedRect(QRectF(x, middle - reach * part, kBarPx - 1, 2 * reach * part), 1, 1);
        }
    }
    painter.setBrush(t.text);
    double last = -10;
    for (const int64_t at : listening_.written_at()) {
        const double x = x_of(at);
        if (x < last + 2) continue;  // close together they are a line
        painter.drawRect(QRectF(x - 0.75, height() - kWrittenPx - 1, 1.5, kWrittenPx - 3));
        last = x;
    }
    if (const VoiceTrack* track = listening_.track()) {
        painter.setBrush(t.unsure);
        for (const Bookmark& b : track->bookmarks) {
            const auto position = position_of(*track, b.at_ms);
            if (!position) continue;
            const double x = x_of(*position);
            const QPointF flag[] = {{x, 3}, {x + 8, 6.5}, {x, 10}};
            painter.drawPolygon(flag, 3);
            painter.drawRect(QRectF(x - 0.75, 3, 1.5, height() - kWrittenPx - 4));
        }
    }
    painter.setBrush(t.act);
    const double x = x_of(now);
    painter.drawRect(QRectF(x - 1, 3, 2, height() - 6));
    painter.drawEllipse(QPointF(x, 6), 4, 4);
}

void SoundBand::mousePressEvent(QMouseEvent* event) {
    if (event->button() == Qt::LeftButton) listening_.seek(position_at(event->position().x()));
}

void SoundBand::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() & Qt::LeftButton) listening_.seek(position_at(event->position().x()));
}

void SoundBand::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
        case Qt::Key_Left:
            return listening_.step(-kKeyStepMs);
        case Qt::Key_Right:
            return listening_.step(kKeyStepMs);
        case Qt::Key_Home:
            return listening_.seek(0);
        case Qt::Key_End:
            return listening_.seek(listening_.length_ms());
        case Qt::Key_Space:
            return listening_.set_playing(!listening_.playing());
        default:
            QWidget::keyPressEvent(event);
    }
}

bool SoundBand::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip) return QWidget::event(event);
    const auto* help = static_cast<QHelpEvent*>(event);
    QString says = clock_text(position_at(help->pos().x()));
    if (const VoiceTrack* track = listening_.track())
        for (const Bookmark& b : track->bookmarks)
            if (const auto position = position_of(*track, b.at_ms);
                position && std::abs(x_of(*position) - help->pos().x()) < kReachPx && !b.name.empty())
                says += QStringLiteral(" · ") + QString::fromStdString(b.name);
    QToolTip::showText(help->globalPos(), says, this);
    return true;
}

}  // namespace fernleaf
