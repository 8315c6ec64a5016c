// One message across the top of the spread: what went wrong and what to do, or what was done. Stays until it is closed,
// or a few seconds when it is good news. It lies over what it stands upon: a page that moved when a message came would
// move away under the pen. UI thread only.
#pragma once

#include <QFrame>
#include <QLabel>
#include <QPushButton>
#include <QTimer>
#include <QToolButton>
#include <functional>

namespace fernleaf {

class NoticeBar : public QFrame {
    Q_OBJECT

public:
    explicit NoticeBar(QWidget* over);
    void show_problem(const QString& text);
    void show_notice(const QString& text);
    // Stays until end_lasting(), or until it is closed: nothing less takes its place.
    void show_lasting(const QString& text);
    void end_lasting();
    // With a button that takes it back.
    void show_undoable(const QString& text, std::function<void()> take_back);
    // With a button that does something, until it is closed.
    void show_offer(const QString& text, const QString& action, std::function<void()> do_it);
    QString text() const { return text_->text(); }
    void restyle();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void place();
    void show_text(const QString& text, bool problem);

    QLabel* text_;
    QPushButton* button_;
    std::function<void()> on_button_;
    QToolButton* close_;
    QTimer timer_;
    bool problem_ = false, lasting_ = false;
};

}  // namespace fernleaf
