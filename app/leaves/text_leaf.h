// What the page says, in type, each line at the height of its ink. Words can be chosen and corrected here.
#pragma once

#include <QHash>
#include <QWidget>

#include "desk/session.h"
#include "leaves/leaf_view.h"
#include "leaves/word_card.h"

namespace fernleaf {

class TextLeaf : public QWidget {
    Q_OBJECT

public:
    TextLeaf(Session& session, LeafView& view, QWidget* parent = nullptr);

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
        double font_px = 16;
        QString text;
        bool unsure = false, corrected = false, useful = false, italic = false, bold = false;
        // Whether it looks like another on the leaf.
        bool same(const SetWord& o) const {
            return box == o.box && font_px == o.font_px && text == o.text && unsure == o.unsure &&
                   corrected == o.corrected && useful == o.useful && italic == o.italic && bold == o.bold;
        }
    };
    void lay_out();
    void show_news();
    double advance(const QString& word, int px, bool italic = false, bool bold = false);
    void place_card();
    void take(const QString& text);
    void choose(WordPlace place);
    WordPlace word_at(QPointF px) const;
    WordPlace beside(WordPlace from, int dx, int dy) const;
    QRectF sheet() const;

    Session& session_;
    LeafView& view_;
    WordCard* card_;
    std::vector<SetWord> words_;
    QHash<std::pair<int, QString>, double> advances_;  // px, of words by size and style
    struct Caption {
        QRectF box;
        QString text;
        friend bool operator==(const Caption&, const Caption&) = default;
    };
    std::vector<Caption> captions_;
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
