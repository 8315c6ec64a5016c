#include "window/notice_bar.h"

#include <QEvent>
#include <QHBoxLayout>

#include "look/theme.h"

namespace fernleaf {
namespace {

constexpr int kGoodNewsMs = 5000;
constexpr int kTakeBackMs = 12000;

}  // namespace

NoticeBar::NoticeBar(QWidget* over) : QFrame(over) {
    over->installEventFilter(this);
    setObjectName(QStringLiteral("noticeBar"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 8, 8, 8);
    text_ = new QLabel;
    text_->setWordWrap(true);
    text_->setTextFormat(Qt::PlainText);
    text_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    row->addWidget(text_, 1);
    button_ = new QPushButton;
    button_->setProperty("secondary", true);
    row->addWidget(button_, 0, Qt::AlignTop);
    connect(button_, &QPushButton::clicked, this, [this] {
        hide();
        if (const auto act = std::exchange(on_button_, {})) act();
    });
    close_ = new QToolButton;
    close_->setToolTip(tr("Close"));
    close_->setAccessibleName(tr("Close this message"));
    row->addWidget(close_, 0, Qt::AlignTop);
    connect(close_, &QToolButton::clicked, this, [this] {
        lasting_ = false;
        hide();
    });
    timer_.setSingleShot(true);
    connect(&timer_, &QTimer::timeout, this, &QWidget::hide);
    hide();
}

void NoticeBar::show_problem(const QString& text) {
    if (lasting_) return;
    timer_.stop();
    show_text(text, true);
}

void NoticeBar::show_notice(const QString& text) {
    if (lasting_) return;
    timer_.start(kGoodNewsMs);
    show_text(text, false);
}

void NoticeBar::show_lasting(const QString& text) {
    timer_.stop();
    show_text(text, true);
    lasting_ = true;
}

void NoticeBar::end_lasting() {
    if (std::exchange(lasting_, false)) hide();
}

void NoticeBar::show_undoable(const QString& text, std::function<void()> take_back) {
    if (lasting_) return;
    show_offer(text, tr("Undo"), std::move(take_back));
    timer_.start(kTakeBackMs);
}

void NoticeBar::show_offer(const QString& text, const QString& action, std::function<void()> do_it) {
    if (lasting_) return;
    timer_.stop();
    show_text(text, false);
    on_button_ = std::move(do_it);
    button_->setText(action);
    button_->show();
    place();
}

void NoticeBar::show_text(const QString& text, bool problem) {
    problem_ = problem;
    on_button_ = {};
    button_->hide();
    text_->setText(text);
    restyle();
    place();
    show();
}

bool NoticeBar::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::Resize) place();
    return QFrame::eventFilter(watched, event);
}

void NoticeBar::place() {
    const int width = parentWidget()->width();
    setGeometry(0, 0, width, std::max(heightForWidth(width), minimumSizeHint().height()));
    raise();
}

void NoticeBar::restyle() {
    const Theme& t = theme();
    const QColor edge = problem_ ? t.unsure : t.act;
    setStyleSheet(
        QStringLiteral(
            "#noticeBar { background: %1; border: none; border-left: 5px solid %2; border-bottom: 1px solid %3; }")
            .arg(t.card.name(), edge.name(), t.line.name()));
    close_->setIcon(icon(QStringLiteral("close")));
}

}  // namespace fernleaf
