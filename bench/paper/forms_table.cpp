#include <QFont>
#include <QFontMetricsF>
#include <QImage>
#include <QPainter>
#include <array>
#include <cstdio>
#include <opencv2/imgproc.hpp>

#include "bench/paper/things.h"

namespace fernleaf {
namespace {

constexpr double kPxPerMm = 200 / 25.4;
constexpr double kWidthMm = 210;

// How a form asks: an answer behind its label on a rule, in a box, or on nothing; two fields in a row; labels above
// boxes; a table of labels.
enum class Layout { rules, boxes, bare, two_in_a_row, labels_above, table };
constexpr std::array kNames{"on rules", "in boxes", "without rules", "two in a row", "labels above", "table of labels"};

constexpr std::array kLabels{"Device",  "Place",     "Ordered by", "Date of test", "Inspector", "Serial number",
                             "Remarks", "Row",       "Owner",      "Telephone",    "Result",    "Next visit",
                             "Weight",  "Condition", "Variety",    "Price agreed"};
constexpr std::array kAnswers{"water pump",   "north orchard", "Ines Moreno",    "14 March",
                              "Tobias Okoro", "4471",          "needs new seal", "seven",
                              "Hallow Hill",  "555 0147",      "passed",         "after harvest",
                              "32 kg",        "a little worn", "early Juno",     "18 a box"};

}  // namespace

DrawnThing draw_form(const Hand& hand, size_t which, std::mt19937& random) {
    const auto layout = static_cast<Layout>(which);
    const auto between = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    const auto px = [](double mm) { return static_cast<int>(mm * kPxPerMm); };
    DrawnThing out;
    const bool two = layout == Layout::two_in_a_row, above = layout == Layout::labels_above;
    const double pitch = above ? between(16, 20) : between(11, 15);
    const int rows = above ? 8 : 10;
    const double height_mm = 48 + pitch * rows + 24;
    const cv::Size size(px(kWidthMm), px(height_mm));
    out.pixels = cv::Mat(size, CV_8UC3, cv::Scalar(250, 252, 252));
    QImage image(out.pixels.data, size.width, size.height, static_cast<qsizetype>(out.pixels.step),
                 QImage::Format_BGR888);
    QFont face(QString::fromStdString(kUsualFaces[random() % kUsualFaces.size()]));
    WritingStyle style;
    style.x_height_mm = between(2, 2.5);
    style.pen.width_mm = static_cast<float>(between(0.3, 0.4));
    style.pen.colour = random() % 2 == 0 ? 0x1C3F94 : 0x1E2A44;
    std::vector<Stroke> ink;
    QPainter painter(&image);
    painter.setPen(QColor(25, 25, 28));
    const auto print = [&](const QString& text, double x, double y, double size_mm) {
        face.setPixelSize(px(size_mm));
        painter.setFont(face);
        painter.drawText(QPointF(x * kPxPerMm, y * kPxPerMm), text);
        out.truth += text.toStdString() + ' ';
        return QFontMetricsF(face).horizontalAdvance(text) / kPxPerMm;
    };
    const auto write = [&](const std::string& text, double x, double y) {
        const std::vector<Stroke> strokes = hand.write(text, {x, y}, style, random);
        ink.insert(ink.end(), strokes.begin(), strokes.end());
        out.truth += text + ' ';
    };
    const double left = between(14, 22), label_mm = between(3.4, 4.2);
    print("Test sheet for orchard devices", left, 22, 6);
    const double answers = between(left + 42, left + 70);  // where the answers begin
    const double across = (kWidthMm - left - 14) / 2;      // of two fields in a row
    const QString ends = random() % 3 == 0 ? QString() : QStringLiteral(":");
    size_t next = random() % kLabels.size();
    for (int row = 0; row < rows; ++row) {
        const double y = 42 + pitch * row;
        for (int field = 0; field < (two ? 2 : 1); ++field) {
            const size_t at = next++ % kLabels.size();
            std::string answer = kAnswers[at];
            if (!hand.can_write(answer)) answer = "north field";
            const QString label = QString::fromLatin1(kLabels[at]) + ends;
            const double x = left + field * across;
            const double to = two ? x + across - 6 : kWidthMm - 16;
            const double from = above ? x : two ? x + 34 : answers;
            painter.setPen(QPen(QColor(90, 90, 95), 2));
            if (layout == Layout::rules || two) painter.drawLine(px(from), px(y + 1.4), px(to), px(y + 1.4));
            if (layout == Layout::boxes) painter.drawRect(px(from), px(y - 7), px(to) - px(from), px(9.5));
            if (above) painter.drawRect(px(x), px(y + 1.5), px(to) - px(x), px(10));
            if (layout == Layout::table)
                painter.drawRect(px(x - 2), px(y - pitch * 0.7), px(to + 2) - px(x - 2), px(pitch));
            if (layout == Layout::table)
                painter.drawLine(px(from - 3), px(y - pitch * 0.7), px(from - 3), px(y + pitch * 0.3));
            painter.setPen(QColor(25, 25, 28));
            print(label, x, y, above ? 2.8 : label_mm);
            write(answer, from + between(1, 12), above ? y + 9 : y - 0.3);
        }
    }
    print("Return this sheet to the shed by the end of the month.", left, height_mm - 12, 2.9);
    painter.end();
    draw_ink(out.pixels, ink, kPxPerMm);
    return out;
}

void forms_table(const PaperBench& bench, const Reader& reader, PrintSkills& print) {
    std::printf("CER of forms filled in by hand, flat / photographed; %% of their ink in lines of writing\n");
    ThingErrors all;
    for (size_t layout = 0; layout < kFormLayouts; ++layout)
        all.add(read_things(bench, reader, print, kNames[layout], static_cast<unsigned>(layout),
                            [&](const Hand& hand, std::mt19937& random) { return draw_form(hand, layout, random); }));
    all.print("all");
}

}  // namespace fernleaf
