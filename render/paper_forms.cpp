#include "render/paper_forms.h"

#include <QCoreApplication>
#include <QLocale>
#include <algorithm>
#include <cmath>

#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr double kThinMm = 0.15, kThickMm = 0.3;
constexpr double kEdgeMm = 10, kHeadMm = 20;  // left free at the sides; down to where a form begins
constexpr double kLetterMm = 2.6, kDotsPerMm = 20;
constexpr double kSlope = 0.57735026919;  // of isometric lines: 30 degrees

QString say(const char* text) { return QCoreApplication::translate("Paper", text); }

// What a form is drawn with: thin rules, thick frames, small print. Lengths in mm.
class Printer {
public:
    Printer(QPainter& painter, const Sheet& sheet, const PageScheme& scheme)
        : painter_(painter),
          step(std::clamp(sheet.spacing_mm, kLeastSpacingMm, kMostSpacingMm)),
          left(kEdgeMm),
          right(sheet.width_mm - kEdgeMm),
          top(kHeadMm),
          bottom(sheet.height_mm - kEdgeMm),
          thin_(scheme.rule),
          thick_(scheme.dark ? scheme.rule.lighter(170) : scheme.rule.darker(150)) {
        painter_.setRenderHint(QPainter::Antialiasing);
        painter_.setBrush(Qt::NoBrush);
    }

    void line(double x1, double y1, double x2, double y2, bool thick = false) {
        painter_.setPen(QPen(thick ? thick_ : thin_, thick ? kThickMm : kThinMm));
        painter_.drawLine(QPointF(x1, y1), QPointF(x2, y2));
    }
    // Of a grid: every so many-th is heavier, in the same colour.
    void grid_line(double x1, double y1, double x2, double y2, bool heavy) {
        painter_.setPen(QPen(thin_, heavy ? kThickMm : kThinMm / 2));
        painter_.drawLine(QPointF(x1, y1), QPointF(x2, y2));
    }
    void frame(double x1, double y1, double x2, double y2) {
        painter_.setPen(QPen(thick_, kThickMm));
        painter_.drawRect(QRectF(QPointF(x1, y1), QPointF(x2, y2)));
    }
    // Rules below one another, the first a step down.
    void rules(double x1, double x2, double from, double to) {
        for (double y = from + step; y <= to + 0.01; y += step) line(x1, y, x2, y);
    }
    void print(double x, double baseline, const QString& text) {
        QFont font(kInterfaceFace);
        font.setPixelSize(static_cast<int>(kLetterMm * kDotsPerMm));
        painter_.save();
        painter_.setPen(thick_);
        painter_.translate(x, baseline);
        painter_.scale(1 / kDotsPerMm, 1 / kDotsPerMm);
        painter_.setFont(font);
        painter_.drawText(QPointF(0, 0), text);
        painter_.restore();
    }
    // A word and the line to write on behind it.
    void blank(double x1, double x2, double baseline, const QString& text) {
        print(x1, baseline, text);
        const double word = QFontMetricsF(print_font()).horizontalAdvance(text) / kDotsPerMm;
        line(std::min(x2, x1 + word + 2), baseline + 1, x2, baseline + 1, true);
    }

private:
    static QFont print_font() {
        QFont font(kInterfaceFace);
        font.setPixelSize(static_cast<int>(kLetterMm * kDotsPerMm));
        return font;
    }
    QPainter& painter_;

public:
    const double step, left, right, top, bottom;

private:
    QColor thin_, thick_;
};

void week(Printer& p) {
    p.blank(p.left, p.right, p.top - 6, say("Week"));
    constexpr int kRows = 4;
    const double middle = (p.left + p.right) / 2, tall = (p.bottom - p.top) / kRows;
    const QLocale locale;
    for (int i = 0; i < 2 * kRows; ++i) {
        const double x = i < kRows ? p.left : middle, y = p.top + tall * (i % kRows);
        const int day = (static_cast<int>(locale.firstDayOfWeek()) - 1 + i) % 7 + 1;
        p.frame(x, y, i < kRows ? middle : p.right, y + tall);
        p.print(x + 2, y + 4.5, i < 7 ? locale.standaloneDayName(day, QLocale::LongFormat) : say("Notes"));
        p.rules(x + 2, (i < kRows ? middle : p.right) - 2, y + 5, y + tall - 2);
    }
}

void minutes(Printer& p) {
    const double middle = p.left + (p.right - p.left) * 0.65;
    p.blank(p.left, middle - 4, p.top - 6, say("Meeting"));
    p.blank(middle, p.right, p.top - 6, say("Date"));
    p.blank(p.left, p.right, p.top + 3, say("Present"));
    const double agenda = p.top + 12, notes = agenda + 5 * p.step, tasks = p.bottom - 6 * p.step;
    p.print(p.left, agenda, say("Agenda"));
    p.rules(p.left, p.right, agenda, notes - p.step);
    p.print(p.left, notes + 3, say("Notes"));
    p.rules(p.left, p.right, notes + 3, tasks - 3);
    // What is to be done, by whom, and by when.
    const double who = p.left + (p.right - p.left) * 0.6, when = p.left + (p.right - p.left) * 0.8;
    p.print(p.left + 2, tasks + p.step - 2, say("To do"));
    p.print(who + 2, tasks + p.step - 2, say("Who"));
    p.print(when + 2, tasks + p.step - 2, say("By when"));
    p.frame(p.left, tasks, p.right, p.bottom);
    p.rules(p.left, p.right, tasks, p.bottom - p.step / 2);
    p.line(who, tasks, who, p.bottom, true);
    p.line(when, tasks, when, p.bottom, true);
}

void questions(Printer& p) {
    p.blank(p.left, p.right, p.top - 6, say("Subject"));
    const double column = p.left + (p.right - p.left) * 0.3, summary = p.bottom - (p.bottom - p.top) * 0.18;
    p.frame(p.left, p.top, p.right, p.bottom);
    p.line(column, p.top, column, summary, true);
    p.line(p.left, summary, p.right, summary, true);
    p.print(p.left + 2, p.top + 4.5, say("Questions"));
    p.print(column + 2, p.top + 4.5, say("Notes"));
    p.print(p.left + 2, summary + 4.5, say("In brief"));
    p.rules(column, p.right, p.top + 4, summary - p.step / 2);
    p.rules(p.left, p.right, summary + 4, p.bottom - p.step / 2);
}

void grid(Printer& p, double x1, double y1, double x2, double y2, double step, int every) {
    const auto lines = [&](double from, double to, auto&& draw) {
        const int count = static_cast<int>((to - from) / step + 0.01);
        for (int i = 0; i <= count; ++i) draw(from + i * step, i % every == 0);
    };
    lines(x1, x2, [&](double x, bool heavy) { p.grid_line(x, y1, x, y2, heavy); });
    lines(y1, y2, [&](double y, bool heavy) { p.grid_line(x1, y, x2, y, heavy); });
}

void lab(Printer& p) {
    const double middle = p.left + (p.right - p.left) * 0.7;
    p.blank(p.left, middle - 4, p.top - 6, say("Experiment"));
    p.blank(middle, p.right, p.top - 6, say("Date"));
    p.blank(p.left, middle - 4, p.top + 3, say("Aim"));
    p.blank(middle, p.right, p.top + 3, say("No."));
    constexpr double kSquareMm = 5;
    const double across = std::floor((p.right - p.left) / kSquareMm) * kSquareMm;
    const double foot = p.bottom - 3 * p.step, tall = std::floor((foot - p.top - 8) / kSquareMm) * kSquareMm;
    grid(p, p.left, p.top + 8, p.left + across, p.top + 8 + tall, kSquareMm, 1);
    p.frame(p.left, p.top + 8, p.left + across, p.top + 8 + tall);
    p.blank(p.left, p.right, foot + p.step, say("Result"));
    p.blank(p.left, p.left + (p.right - p.left) * 0.48, p.bottom - 2, say("Written by"));
    p.blank(p.left + (p.right - p.left) * 0.52, p.right, p.bottom - 2, say("Seen by"));
}

void storyboard(Printer& p) {
    constexpr double kGap = 6;
    const int columns = p.right - p.left > p.bottom - p.top ? 3 : 2;
    const double across = (p.right - p.left - kGap * (columns - 1)) / columns, tall = across * 9 / 16;
    const double whole = tall + 3 * p.step + kGap;
    p.blank(p.left, p.right, p.top - 6, say("Story"));
    for (double y = p.top; y + whole - kGap <= p.bottom + 0.01; y += whole)
        for (int i = 0; i < columns; ++i) {
            const double x = p.left + i * (across + kGap);
            p.frame(x, y, x + across, y + tall);
            p.rules(x, x + across, y + tall, y + tall + 3 * p.step);
        }
}

void isometric(Printer& p, QPainter& painter, const Sheet& sheet) {
    painter.setClipRect(QRectF(0, 0, sheet.width_mm, sheet.height_mm),
                        painter.hasClipping() ? Qt::IntersectClip : Qt::ReplaceClip);
    // Upright lines stand where the slanting ones cross.
    const double between = p.step * std::sqrt(3.0) / 2, rise = sheet.width_mm * kSlope;
    for (double x = 0; x <= sheet.width_mm; x += between) p.line(x, 0, x, sheet.height_mm);
    for (double y = -std::ceil(rise / p.step) * p.step; y <= sheet.height_mm + rise; y += p.step) {
        p.line(0, y, sheet.width_mm, y + rise);
        p.line(0, y, sheet.width_mm, y - rise);
    }
}

void checklist(Printer& p) {
    p.blank(p.left, p.right, p.top - 6, say("List"));
    const double side = std::min(4.5, p.step * 0.55);
    for (double y = p.top + p.step; y <= p.bottom + 0.01; y += p.step) {
        p.frame(p.left, y - side - 1, p.left + side, y - 1);
        p.line(p.left + side + 3, y, p.right, y);
    }
}

void graph(Printer& p) {
    constexpr double kSquareMm = 5;
    constexpr int kFine = 5;
    const double x1 = p.left + kSquareMm, y2 = p.bottom - kSquareMm;
    const double across = std::floor((p.right - x1) / kSquareMm) * kSquareMm;
    const double tall = std::floor((y2 - p.top) / kSquareMm) * kSquareMm;
    p.blank(p.left, p.right, p.top - 6, say("Graph"));
    grid(p, x1, y2 - tall, x1 + across, y2, kSquareMm / kFine, kFine);
    constexpr double kHead = 1.6;
    p.line(x1, y2, x1, y2 - tall - 2 * kHead, true);
    p.line(x1, y2, x1 + across + 2 * kHead, y2, true);
    for (const double side : {-kHead, kHead}) {
        p.line(x1, y2 - tall - 2 * kHead, x1 + side / 2, y2 - tall - kHead, true);
        p.line(x1 + across + 2 * kHead, y2, x1 + across + kHead, y2 + side / 2, true);
    }
}

void addresses(Printer& p) {
    const double tall = 4 * p.step + 4, middle = (p.left + p.right) / 2;
    for (double y = p.top - 8; y + tall <= p.bottom + 0.01; y += tall + 4) {
        p.frame(p.left, y, p.right, y + tall);
        p.blank(p.left + 3, p.right - 3, y + p.step - 1, say("Name"));
        p.blank(p.left + 3, p.right - 3, y + 2 * p.step - 1, say("Address"));
        p.line(p.left + 3, y + 3 * p.step, p.right - 3, y + 3 * p.step, true);
        p.blank(p.left + 3, middle - 2, y + 4 * p.step - 1, say("Telephone"));
        p.blank(middle + 2, p.right - 3, y + 4 * p.step - 1, say("Mail"));
    }
}

}  // namespace

void paint_form(QPainter& painter, const Sheet& sheet, const PageScheme& scheme) {
    painter.save();
    Printer p(painter, sheet, scheme);
    switch (sheet.paper) {
        case Paper::week:
            week(p);
            break;
        case Paper::minutes:
            minutes(p);
            break;
        case Paper::questions:
            questions(p);
            break;
        case Paper::lab:
            lab(p);
            break;
        case Paper::storyboard:
            storyboard(p);
            break;
        case Paper::isometric:
            isometric(p, painter, sheet);
            break;
        case Paper::checklist:
            checklist(p);
            break;
        case Paper::graph:
            graph(p);
            break;
        case Paper::addresses:
            addresses(p);
            break;
        default:
            break;
    }
    painter.restore();
}

}  // namespace fernleaf
