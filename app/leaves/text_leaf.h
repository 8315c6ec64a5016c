// What the page says, in type, each line at the height of its ink. Words can be chosen and corrected here.
#pragma once

#include <QPixmap>
#include <QTimer>
#include <QWidget>
#include <string>
#include <unordered_map>
#include <vector>

#include "desk/session.h"
#include "leaves/type_case.h"
#include "leaves/word_card.h"
#include "tools/page_viewport.h"

namespace fernleaf {

class TextLeaf : public QWidget {
    Q_OBJECT

public:
    TextLeaf(Session& session, PageViewport& view, QWidget* parent = nullptr);

    void set_chosen(WordPlace place);  // opens the card on it; an invalid place closes it
    WordPlace chosen() const { return chosen_; }
    void set_alone(bool alone) { alone_ = alone, update(); }
    void choose_next_unsure(int direction);
    // The queue: the next unsure word after the chosen one, and behind the page's last the notebook's next page.
    void go_on_checking();
    WordCard* card() const { return card_; }
    QRectF place_of(WordPlace place) const;  // leaf px; null when it is not there

signals:
    void word_chosen(WordPlace place);

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
    struct SetWord {
        WordPlace place;
        QRectF box;  // px from the sheet's top left corner
        QPointF baseline;
        TypeCase::Style style;
        QString text;
        bool unsure = false, corrected = false, useful = false;
        // Whether it looks like another on the leaf.
        bool same(const SetWord& o) const {
            return box == o.box && style == o.style && text == o.text && unsure == o.unsure &&
                   corrected == o.corrected && useful == o.useful;
        }
    };
    // The words of a line as they are set at one size.
    struct MeasuredLine {
        struct Word {
            QString text;
            TypeCase::Style style;
            double wide = 0;  // px
        };
        std::vector<Word> words;
        double width = 0;  // px, spaces included
    };
    void set_in_type();
    bool measure_some();
    double type_px() const;
    void lay_out();
    void show_news();
    void draw_in_bands();
    void draw_next_band();
    static std::string measured_as(const ReadLine& line, int px);
    const MeasuredLine& measured(const ReadLine& line, int px);  // valid until the next call
    void place_card();
    void take(const QString& text);
    void choose(WordPlace place);
    WordPlace word_at(QPointF px) const;
    WordPlace beside(WordPlace from, int dx, int dy) const;
    QRectF sheet() const;
    const QPixmap& wave();

    Session& session_;
    PageViewport& view_;
    WordCard* card_;
    std::vector<SetWord> words_;
    TypeCase type_;
    QPixmap wave_;  // some of the line below unsure words
    QColor wave_colour_;
    std::unordered_map<std::string, MeasuredLine> measured_;  // by what a line says, its styles and its size
    struct Caption {
        QRectF box;
        QString text;
        friend bool operator==(const Caption&, const Caption&) = default;
    };
    std::vector<Caption> captions_;
    std::vector<QLineF> rules_;  // dividers, px of the sheet
    QTimer measuring_;           // until the next lines are measured
    QTimer band_pause_;          // until the next strip is drawn
    QRect band_;                 // the strip that waits to be drawn
    double laid_scale_ = 0;
    int laid_width_ = 0;
    WordPlace chosen_, hovered_;
    bool choose_unsure_after(WordPlace place);
    void find_useful();
    const Useful* useful_at(WordPlace place) const;
    void save_useful(const Useful& useful);
    UsefulFinder useful_;
    PageId to_check_ = 0;  // its first unsure word is chosen when it is open
    bool alone_ = false;
};

}  // namespace fernleaf
