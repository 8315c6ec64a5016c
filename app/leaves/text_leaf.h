// What the page says, in type, each line at the height of its ink. Words and figures can be chosen and corrected here.
// UI thread only.
#pragma once

#include <QPixmap>
#include <QTimer>
#include <QWidget>
#include <functional>

#include "desk/session.h"
#include "leaves/figure_card.h"
#include "leaves/formula_card.h"
#include "leaves/outline_card.h"
#include "leaves/plot_pictures.h"
#include "leaves/text_layout.h"
#include "leaves/word_card.h"
#include "tools/page_viewport.h"

namespace fernleaf {

class TextLeaf : public QWidget {
    Q_OBJECT

public:
    TextLeaf(Session& session, PageViewport& view, QWidget* parent = nullptr);

    void set_chosen(ReadPlace place);  // opens the card on it; an invalid place closes it
    ReadPlace chosen() const { return chosen_; }
    void set_alone(bool alone) { alone_ = alone, update(); }
    void choose_next_unsure(int direction);
    // The queue: the next unsure word after the chosen one, and behind the page's last the notebook's next page.
    void go_on_checking();
    WordCard* card() const { return card_; }
    FormulaCard* formula_card() const { return formula_card_; }
    FigureCard* figure_card() const { return figure_card_; }
    OutlineCard* outline_card() const { return outline_card_; }
    QRectF outline_place() const;  // where it is unfolded, leaf px; null where there is no diagram
    void unfold_outline(bool open);
    QRectF place_of(ReadPlace place) const;  // leaf px; null when it is not there

signals:
    void place_chosen(ReadPlace place);

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void leaveEvent(QEvent* event) override;
    bool focusNextPrevChild(bool next) override;

private:
    void set_in_type();
    void lay_out();
    void show_news();
    void draw_in_bands();
    void draw_next_band();
    bool choose_unsure_after(ReadPlace place);
    void find_useful();
    void look_at_drawing();
    void keep_useful(const Useful& useful);
    void place_card();
    void take(const QString& text);
    void choose(ReadPlace place);
    bool exists(ReadPlace place) const { return session_.word(place) || session_.shape(place); }
    bool unsure(ReadPlace place) const;
    std::vector<ReadPlace> places() const;
    ReadPlace place_at(QPointF leaf_px) const;
    QWidget* open_card() const;
    CorrectionCard* correction_card() const;            // the open one; null where none is
    const ReadLine* formula_at(ReadPlace place) const;  // null: there is none
    void offer_workings();
    void offer_plots();
    void hide_cards();
    void say_figure(const std::function<void(ReadPlace)>& say);
    QRectF sheet() const;
    void paint_formula(QPainter& painter, const SetWord& word);
    const QPixmap& wave();

    Session& session_;
    PageViewport& view_;
    WordCard* card_;
    FormulaCard* formula_card_;
    FigureCard* figure_card_;
    OutlineCard* outline_card_;
    bool diagram_ = false;  // what is drawn on the page is one
    TextLayout layout_;
    PlotPictures plot_pictures_;
    QPixmap wave_;  // some of the line below unsure words
    QColor wave_colour_;
    QTimer measuring_;   // until the next lines are measured
    QTimer band_pause_;  // until the next strip is drawn
    QRect band_;         // the strip that waits to be drawn
    double laid_scale_ = 0;
    int laid_width_ = 0;
    ReadPlace chosen_, hovered_;
    UsefulFinder useful_;
    PageId to_check_ = 0;  // its first unsure word is chosen when it is open
    bool alone_ = false;
};

}  // namespace fernleaf
