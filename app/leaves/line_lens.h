// The line lens: a strip below the ink leaf that shows a piece of one line magnified. What is written large in it lands
// small on the page. It moves on by itself near its end, and to the next line at the margin. UI thread only.
#pragma once

#include <QLabel>
#include <QTimer>
#include <QToolButton>
#include <QWidget>

#include "leaves/ink_leaf.h"

namespace fernleaf {

class LineLens : public QWidget {
    Q_OBJECT

public:
    explicit LineLens(Session& session, QWidget* parent = nullptr);

    // What is written in it is written on the page the session has open.
    InkLeaf* leaf() const { return leaf_; }
    // The part of the page it shows, mm; empty while it is closed.
    Box area() const;
    void set_open(bool open);
    void go_to(Point mm);  // the line there
    void next_line();
    void previous_line();
    void move_on(int direction);  // by most of its width, along the line and at its ends to the next
    void restyle();

signals:
    void moved();
    void rested();  // the pen was lifted and did not come down again at once

protected:
    void resizeEvent(QResizeEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

private:
    void show_area();
    void written();
    double pitch() const;
    double margin() const;
    double width_mm() const;

    Session& session_;
    PageViewport view_;
    InkLeaf* leaf_;
    Point at_;   // mm: left edge and the line's rule
    QTimer on_;  // the pen rests before the lens moves
    QLabel* says_;
    std::vector<QToolButton*> buttons_;
};

}  // namespace fernleaf
