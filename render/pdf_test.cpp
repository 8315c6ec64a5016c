#include "render/pdf.h"

#include <gtest/gtest.h>
#include <unistd.h>

#include <QProcess>
#include <QRegularExpression>
#include <fstream>

#include "paper/picture_file.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

class PdfTest : public testing::Test {
protected:
    PdfTest() : path_(fs::temp_directory_path() / ("fernleaf pdf ü " + std::to_string(getpid()) + ".pdf")) {}
    ~PdfTest() override { fs::remove(path_); }

    static PageWithReading page(const std::vector<std::string>& words) {
        PageWithReading out;
        Stroke s;
        s.points = {{{20, 30}}, {{60, 34}}};
        out.page.strokes = {s};
        ReadLine line;
        double x = 20;
        for (const std::string& w : words) {
            line.words.push_back({w, 0.9, Box::of(x, 40, 14, 6), {}, {}, false});
            x += 18;
        }
        out.reading.lines = {line};
        return out;
    }
    QString tool(const QString& program, const QStringList& arguments) const {
        QProcess process;
        process.start(program, arguments);
        EXPECT_TRUE(process.waitForFinished()) << program.toStdString() << " is not installed";
        return QString::fromUtf8(process.readAllStandardOutput());
    }
    fs::path path_;
};

const FileSource kNoFiles = [](const std::string&) -> Result<std::string> { return Error{"none"}; };

TEST_F(PdfTest, WordsAreFoundAtTheirInk) {
    ASSERT_TRUE(write_pdf(path_, {page({"fifty", "Öl", "café"}), page({"second"})}, kNoFiles, "Press house"));
    const QString boxes = tool("pdftotext", {"-bbox", QString::fromStdString(path_.string()), "-"});
    const QRegularExpression pattern(
        "<word xMin=\"([\\d.]+)\" yMin=\"([\\d.]+)\" xMax=\"([\\d.]+)\" yMax=\"([\\d.]+)\">([^<]+)</word>");
    QStringList found;
    double x = 20;
    for (auto it = pattern.globalMatch(boxes); it.hasNext();) {
        const auto match = it.next();
        found << match.captured(5);
        if (match.captured(5) == "second") continue;
        const double mm = kMmPerInch / kPointsPerInch;
        EXPECT_NEAR(match.captured(1).toDouble() * mm, x, 1) << match.captured(5).toStdString();
        EXPECT_NEAR(match.captured(2).toDouble() * mm, 40, 1);
        EXPECT_NEAR(match.captured(3).toDouble() * mm, x + 14, 1);
        EXPECT_NEAR(match.captured(4).toDouble() * mm, 46, 1);
        x += 18;
    }
    EXPECT_EQ(found, (QStringList{"fifty", "Öl", "café", "second"})) << boxes.toStdString();
}

TEST_F(PdfTest, TheInkIsDrawnAndTheTextIsNot) {
    ASSERT_TRUE(write_pdf(path_, {page({"fifty"})}, kNoFiles, "Press house"));
    std::ifstream in(path_, std::ios::binary);
    const auto pixels = decode_picture(std::string(std::istreambuf_iterator<char>(in), {}), 0);
    ASSERT_TRUE(pixels) << pixels.error().message;
    const double px = 200 / kMmPerInch;
    const auto at = [&](double x, double y) {
        return pixels->at<cv::Vec3b>(static_cast<int>(y * px), static_cast<int>(x * px));
    };
    EXPECT_LT(at(40, 32)[2], 90);
    for (double xx = 20; xx < 34; xx += 0.1)
        for (double y = 40.7; y < 46; y += 0.1) EXPECT_GT(at(xx, y)[0], 200) << xx << " " << y;
}

TEST_F(PdfTest, AnEndlessPageBecomesSheetsWithTheirOwnWords) {
    PageWithReading p = page({"first"});
    p.page.info.endless = true;
    Stroke low = p.page.strokes.at(0);
    for (InkPoint& point : low.points.change()) point.at.y += 500;
    p.page.strokes.push_back(low);
    ReadLine line = p.reading.lines.at(0);
    line.words[0].text = "last";
    line.words[0].box.top += 500, line.words[0].box.bottom += 500;
    p.reading.lines.push_back(line);
    make_room_below(p.page);
    ASSERT_TRUE(write_pdf(path_, {p}, kNoFiles, "Press house"));
    std::ifstream in(path_, std::ios::binary);
    const auto sheets = probe_picture(std::string(std::istreambuf_iterator<char>(in), {}));
    ASSERT_TRUE(sheets);
    EXPECT_EQ(sheets->size(), 3U);
    for (const SheetSize& sheet : *sheets) EXPECT_NEAR(sheet.width_mm, 148, 0.5) << "as large as it was written";
    const QString text = tool("pdftotext", {QString::fromStdString(path_.string()), "-"});
    EXPECT_EQ(text.count("first"), 1);
    EXPECT_EQ(text.count("last"), 1);
    EXPECT_LT(text.indexOf("first"), text.indexOf('\f'));
    EXPECT_GT(text.indexOf("last"), text.lastIndexOf('\f', -2));
}

TEST_F(PdfTest, FailureLeavesNoFile) {
    EXPECT_FALSE(write_pdf("no such folder/x.pdf", {page({"a"})}, kNoFiles, "t"));
    EXPECT_FALSE(write_pdf(path_, {}, kNoFiles, "t"));
    CancelSource cancel;
    cancel.cancel();
    EXPECT_FALSE(write_pdf(path_, {page({"a"})}, kNoFiles, "t", cancel.token()));
    EXPECT_FALSE(fs::exists(path_));
}

}  // namespace
}  // namespace fernleaf
