#include "bench/paper/sheets.h"

#include <QFont>
#include <QFontMetricsF>
#include <QImage>
#include <QPainter>
#include <QString>
#include <array>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include "paper/page_reading.h"
#include "paper/sheet_finding.h"
#include "paper/straightening.h"

namespace fernleaf {
namespace {

constexpr double kDpi = 200;
constexpr double kPxPerMm = kDpi / kMmPerInch;
constexpr int kLongSidePx = 4000;  // twelve megapixels, as telephones take them

constexpr std::array<std::array<double, 2>, 5> kSizesMm{{{210, 297}, {148, 210}, {216, 279}, {297, 210}, {127, 203}}};
constexpr std::array<uint32_t, 6> kInks{0x1E2A44, 0x1C3F94, 0x202020, 0x8A1F2B, 0x1F5B3A, 0x4A4A52};

// Ink lets some of the paper's colour through: it takes its share of each part of the light.
uint32_t on_paper(uint32_t ink, const cv::Vec3b& paper) {
    const auto part = [&](int shift, int channel) { return ((ink >> shift & 255U) * paper[channel] / 255) << shift; };
    return part(16, 2) | part(8, 1) | part(0, 0);
}

}  // namespace

// None that print is told by (training/print_head.cpp).
const std::vector<std::string> kUsualFaces{"Nimbus Roman", "URW Bookman", "Nimbus Sans Narrow", "Fernleaf Sans",
                                           "Fernleaf Serif"};

DrawnSheet draw_sheet(const Hand& hand, const std::vector<std::string>& texts, Content content, std::mt19937& random,
                      const std::vector<std::string>& faces) {
    const auto between = [&](double low, double high) {
        return std::uniform_real_distribution<double>(low, high)(random);
    };
    const auto [width_mm, height_mm] = kSizesMm[random() % kSizesMm.size()];
    const cv::Size size(static_cast<int>(width_mm * kPxPerMm), static_cast<int>(height_mm * kPxPerMm));
    DrawnSheet out;
    out.width_mm = width_mm;
    const double white = between(232, 252);
    const double yellow = random() % 5 == 0 ? between(30, 80) : between(0, 12);
    out.pixels = cv::Mat(size, CV_8UC3, cv::Scalar(white - yellow, white - 0.15 * yellow, white));
    const double pitch = between(8, 10.5);
    const auto px = [](double mm) { return static_cast<int>(mm * kPxPerMm); };
    const unsigned rules = random() % 4;
    const cv::Scalar rule(between(190, 215), between(170, 200), between(150, 190));
    for (double y = 2.5 * pitch; rules >= 2 && y < height_mm - 5; y += rules == 3 ? pitch / 2 : pitch)
        cv::line(out.pixels, {0, px(y)}, {size.width, px(y)}, rule, 2);
    for (double x = pitch / 2; rules == 3 && x < width_mm; x += pitch / 2)
        cv::line(out.pixels, {px(x), 0}, {px(x), size.height}, rule, 2);

    WritingStyle style;
    style.x_height_mm = between(1.8, 2.6);
    out.ink = kInks[random() % kInks.size()];
    style.pen.colour = on_paper(out.ink, out.pixels.at<cv::Vec3b>(0, 0));
    style.pen.width_mm = static_cast<float>(between(0.25, 0.45));
    QFont face(QString::fromStdString(faces[random() % faces.size()]));
    face.setPixelSize(px(between(3.2, 4.6)));
    QImage image(out.pixels.data, size.width, size.height, static_cast<qsizetype>(out.pixels.step),
                 QImage::Format_BGR888);
    QPainter painter(&image);
    painter.setFont(face);
    painter.setPen(QColor(25, 25, 28));
    const double left = between(14, 24);
    size_t next = random() % texts.size();
    bool printed = content == Content::printed;
    for (double y = 2.5 * pitch; y < height_mm - 14; y += pitch) {
        if (content == Content::both) printed = random() % 2 == 0;
        const std::string& text = texts[next++ % texts.size()];
        DrawnLine line{text, {}, printed};
        if (printed) {
            const QString words = QString::fromStdString(text);
            const QRectF box = QFontMetricsF(face).boundingRect(words).translated(left * kPxPerMm, px(y));
            if (box.right() > size.width - px(10)) continue;
            painter.drawText(QPointF(left * kPxPerMm, px(y)), words);
            line.box = Box::of(box.x(), box.y(), box.width(), box.height());
        } else {
            if (!hand.can_write(text)) continue;
            const std::vector<Stroke> strokes = hand.write(text, {left, y - 0.6}, style, random);
            for (const Stroke& s : strokes) line.box.include(s.box());
            if (line.box.empty() || line.box.right > width_mm - 8) continue;
            draw_ink(out.pixels, strokes, kPxPerMm);
            out.strokes.insert(out.strokes.end(), strokes.begin(), strokes.end());
            line.box = {line.box.left * kPxPerMm, line.box.top * kPxPerMm, line.box.right * kPxPerMm,
                        line.box.bottom * kPxPerMm};
        }
        out.lines.push_back(std::move(line));
    }
    return out;
}

Shot photographed(const cv::Mat& sheet, const PaperCamera& camera, std::mt19937& random) {
    return camera.take({sheet}, true, kLongSidePx, random);
}

PhotographedPage found_in_photograph(const cv::Mat& sheet, const PaperCamera& camera, std::mt19937& random) {
    PhotographedPage out;
    out.shot = photographed(sheet, camera, random);
    const cv::Mat& pixels = out.shot.photo.pixels;
    const std::vector<FoundSheet> found = find_sheets(pixels, 1);
    if (!found.empty()) out.page = straightened(pixels, found[0].outline, flat_size(found[0].outline, pixels.size()));
    return out;
}

Reading reading_of(const cv::Mat& pixels, const Reader& reader, PrintSkills& print, double width_mm) {
    std::vector<unsigned char> png;
    cv::imencode(".png", pixels, png);
    const std::string bytes(png.begin(), png.end());
    Picture picture;
    picture.id = 1;
    picture.box = Box::of(0, 0, width_mm, width_mm * pixels.rows / pixels.cols);
    Page page;
    page.pictures = {picture};
    return read_page(
        page, [&](const std::string&) -> Result<std::string> { return bytes; }, reader, {}, {}, {}, {}, {}, &print);
}

std::string read_as_page(const cv::Mat& pixels, const Reader& reader, PrintSkills& print) {
    std::string text;
    const Reading reading = reading_of(pixels, reader, print);
    for (const ReadLine& line : reading.lines)
        for (const ReadWord& word : line.words) text += word.text + ' ';
    return text;
}

std::string truth_of(const DrawnSheet& sheet) {
    std::string out;
    for (const DrawnLine& line : sheet.lines) out += line.text + ' ';
    return out;
}

}  // namespace fernleaf
