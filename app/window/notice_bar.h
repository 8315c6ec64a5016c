// One message across the top of the spread: what went wrong and what to do, or what was done. Stays until it is closed,
// or a few seconds when it is good news.
#pragma once

#include <QFrame>
#include <QLabel>
#include <QTimer>
#include <QToolButton>

namespace fernleaf {

class NoticeBar : public QFrame {
    Q_OBJECT

public:
    explicit NoticeBar(QWidget* parent = nullptr);
    void show_problem(const QString& text);
    void show_notice(const QString& text);
    QString text() const { return text_->text(); }
    void restyle();

private:
    void show_text(const QString& text, bool problem);

    QLabel* text_;
    QToolButton* close_;
    QTimer timer_;
    bool problem_ = false;
};

}  // namespace fernleaf
