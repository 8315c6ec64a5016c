// Where a page's words stand on the text leaf: each line at the height of its ink, as large as the writing, and beside
// what is written beside it.
//
//   TextLayout layout;
//   while (!layout.measure_some(reading, scale)) hear_the_pen();   // a page may hold thousands of words
//   layout.lay_out(reading, {scale, width_px, page.width_mm}, useful);
//   for (const SetWord& word : layout.set().words) draw(word);
#pragma once

#include <QLineF>
#include <QPolygonF>
#include <QRectF>
#include <QString>
#include <memory>
#include <optional>
#include <span>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "desk/reading_scheduler.h"
#include "finding/useful.h"
#include "leaves/type_case.h"
#include "render/formula_look.h"

namespace fernleaf {

// A formula, and what it comes to beside it.
struct LaidOutFormula {
    FormulaLook look, result;      // of the result nothing where there is none
    double gap = 0;                // px between them
    bool wrong = false;            // of a sum that was worked out by hand
    std::vector<QRectF> signs;     // from the baseline's left end, those that can be chosen
    std::vector<QRectF> doubtful;  // of those of the reading
};

struct SetWord {
    ReadPlace place;
    QRectF box;  // px from the sheet's top left corner, as all below
    QPointF baseline;
    TypeCase::Style style;
    QString text;
    bool unsure = false, corrected = false, useful = false;
    std::shared_ptr<const LaidOutFormula> formula = {};  // null: text is set as it is
    // Whether it looks like another on the leaf.
    bool same(const SetWord& o) const {
        return box == o.box && style == o.style && text == o.text && unsure == o.unsure && corrected == o.corrected &&
               useful == o.useful && formula == o.formula;
    }
};

// What names a drawing, or math that is not set.
struct Caption {
    QRectF box;
    QString text;
    friend bool operator==(const Caption&, const Caption&) = default;
};

// A figure of a drawing as it was understood.
struct SetFigure {
    std::vector<QPolygonF> lines;
    bool unsure = false;
    ReadPlace place = {};  // none: a table
    QRectF box() const {
        QRectF out;
        for (const QPolygonF& line : lines) out |= line.boundingRect();
        return out;
    }
    friend bool operator==(const SetFigure&, const SetFigure&) = default;
};

// Ink of a drawing in which nothing was understood, as it is.
struct SetInk {
    QPolygonF line;
    uint32_t colour = 0;  // of the pen
    double width = 1;     // px
    friend bool operator==(const SetInk&, const SetInk&) = default;
};

// A plot, as it is on the page.
struct SetPlot {
    Plot plot;
    QPointF at;        // its top left corner
    double scale = 1;  // px a mm
    friend bool operator==(const SetPlot&, const SetPlot&) = default;
};

// All that stands on a leaf.
struct SetPage {
    std::vector<SetWord> words;
    std::vector<Caption> captions;
    std::vector<QLineF> rules;  // dividers
    std::vector<SetFigure> figures;
    std::vector<SetInk> ink;
    std::vector<SetPlot> plots;
    std::optional<Caption> outline;  // below a diagram: that it can be unfolded
    bool empty() const {
        return words.empty() && captions.empty() && rules.empty() && figures.empty() && ink.empty() && plots.empty();
    }
};

// Of a page of so many words no more are measured, or drawn, at once: some 4 ms, and 5 to 10.
constexpr size_t kMostWordsAtOnce = 200;
constexpr size_t kMostSetPoints = 20'000;  // on a leaf: drawings with more are named
constexpr double kSheetPaddingPx = 26;
constexpr int kCaptionPx = 14;

// The places that look otherwise in one than in the other; none when so much does that all is better drawn anew.
std::optional<std::vector<QRectF>> differences(const SetPage& before, const SetPage& now);

// UI thread only, as fonts are.
class TextLayout {
public:
    struct Sheet {
        double scale = 1;  // px a mm of the page
        double width_px = 0, width_mm = 0;
        bool diagram = false;                  // whether what is drawn is one
        std::span<const Stroke> strokes = {};  // the page's
        std::span<const Plot> plots = {};
    };

    // Measures some of the lines that are not measured yet at this scale; whether all are now.
    bool measure_some(const Reading& reading, double scale);
    void lay_out(const Reading& reading, const Sheet& sheet, const UsefulFinder& useful);
    // What stood there; nothing does now.
    SetPage take() { return std::exchange(set_, {}); }

    const SetPage& set() const { return set_; }
    const SetWord* find(ReadPlace place) const;
    const SetFigure* find_figure(ReadPlace place) const;
    ReadPlace word_at(QPointF px) const;     // or a sign of a formula
    QRectF sign_box(ReadPlace place) const;  // null: there is none
    // Whether a formula's signs can be chosen one by one.
    bool has_signs(ReadPlace formula) const;
    // Where on the page something on the leaf stands, mm.
    Point page_point(QPointF px) const;
    double scale() const { return sheet_.scale; }
    // The word a step away along the line (dx) or nearest above or below (dy), or the figure before or after one; the
    // first when there is none to go from.
    ReadPlace beside(ReadPlace from, int dx, int dy) const;
    TypeCase& type() { return type_; }

private:
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
    // A formula in the size, or smaller where it would be wider than the room, px.
    std::shared_ptr<const LaidOutFormula> formula(const ReadLine& line, int px);
    double width_of_formula(const ReadLine& line, double px);  // with what it comes to, in type of px
    // least_left: where what stands before it in its line ends, px.
    void set_formula(const ReadLine& line, int number, double px, double least_left);
    void set_plot(const Plot& plot);
    // False if there are none, or too many points to be shown at once.
    bool set_ink(const std::vector<StrokeId>& ids);
    ReadPlace figure_beside(ReadPlace from, int step) const;
    static std::string measured_as(const ReadLine& line, int px);
    const MeasuredLine& measured(const ReadLine& line, int px);  // valid until the next call

    SetPage set_;
    Sheet sheet_;
    TypeCase type_;
    std::unordered_map<std::string, MeasuredLine> measured_;  // by what a line says, its styles and its size
    std::unordered_map<std::string, std::shared_ptr<const LaidOutFormula>> formulas_;  // likewise
};

}  // namespace fernleaf
