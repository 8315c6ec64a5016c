#include "window/notice_bar.h"

#include <QHBoxLayout>

#include "look/theme.h"

namespace fernleaf {
namespace {

constexpr int kGoodNewsMs = 5000;

}  // namespace

NoticeBar::NoticeBar(QWidget* parent) : QFrame(parent) {
    setObjectName(QStringLiteral("noticeBar"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(16, 8, 8, 8);
    text_ = new QLabel;
    text_->setWordWrap(true);
    text_->setTextFormat(Qt::PlainText);
    text_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    row->addWidget(text_, 1);
    close_ = new QToolButton;
    close_->setToolTip(tr("Close"));
    close_->setAccessibleName(tr("Close this message"));
    row->addWidget(close_, 0, Qt::AlignTop);
    connect(close_, &QToolButton::clicked, this, &QWidget::hide);
    timer_.setSingleShot(true);
    timer_.setInterval(kGoodNewsMs);
    connect(&timer_, &QTimer::timeout, this, &QWidget::hide);
    hide();
}

void NoticeBar::show_problem(const QString& text) {
    timer_.stop();
    show_text(text, true);
}

void NoticeBar::show_notice(const QString& text) {
    timer_.start();
    show_text(text, false);
}

void NoticeBar::show_text(const QString& text, bool problem) {
    problem_ = problem;
    text_->setText(text);
    restyle();
    show();
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
