// The command line as scripts meet it: the program itself is run.
#include <gtest/gtest.h>

#include <QFont>
#include <QImage>
#include <QPainter>
#include <QProcess>
#include <fstream>
#include <iterator>
#include <map>
#include <nlohmann/json.hpp>
#include <set>

#include "demo/hand.h"
#include "demo/photo.h"
#include "exchange/inkml.h"
#include "render/fonts.h"
#include "store/temporary_library.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;
using Json = nlohmann::json;

struct Ran {
    int status = -1;
    std::string out;
    std::string err;
};

Ran run(const QStringList& arguments) {
    QProcess process;
    process.start(FERNLEAF_CLI, arguments);
    EXPECT_TRUE(process.waitForFinished(120'000));
    return {process.exitStatus() == QProcess::NormalExit ? process.exitCode() : -1,
            process.readAllStandardOutput().toStdString(), process.readAllStandardError().toStdString()};
}

// One demonstration library for all tests of the suite: making it takes a while.
class Cli : public testing::Test {
protected:
    static void SetUpTestSuite() {
        folder_ = fs::temp_directory_path() / ("fernleaf cli ü " + std::to_string(getpid()));
        fs::create_directories(folder_);
        const Ran made = run({"demo", "--library", library()});
        ASSERT_EQ(made.status, 0) << made.err;
    }
    static void TearDownTestSuite() { fs::remove_all(folder_); }
    static QString path(const char* name) { return QString::fromStdString((folder_ / name).string()); }
    static QString library() { return path("library"); }
    static std::string contents(const char* name) {
        std::ifstream in(folder_ / name, std::ios::binary);
        return {std::istreambuf_iterator<char>(in), {}};
    }
    static fs::path folder_;
};
fs::path Cli::folder_;

TEST_F(Cli, ListsTheDemonstrationAndFindsItSound) {
    const Ran list = run({"list", "--library", library(), "--format", "json"});
    ASSERT_EQ(list.status, 0) << list.err;
    const Json json = Json::parse(list.out);
    EXPECT_GE(json["notebooks"].size(), 4U);
    EXPECT_EQ(json["notebooks"][0]["title"], "Grafting trials");
    EXPECT_EQ(run({"check", "--library", library()}).out, "ok\n");
    EXPECT_EQ(run({"demo", "--library", library()}).status, 1) << "a library in use is not filled again";
}

// A printed label sheet at 200 dots an inch.
QImage printed_sheet(const QStringList& lines) {
    QImage sheet(1100, 1500, QImage::Format_BGR888);
    sheet.fill(QColor(246, 244, 238));
    QPainter painter(&sheet);
    QFont font(kTextFace);
    font.setPixelSize(34);
    painter.setFont(font);
    painter.setPen(QColor(25, 25, 28));
    for (int i = 0; i < lines.size(); ++i) painter.drawText(120, 160 + 90 * i, lines[i]);
    return sheet;
}

const QStringList kLabels{"Pear, grafted in March", "Row seven, north side", "Water once a week"};

TEST_F(Cli, ReadsAPrintedSheet) {
    ASSERT_TRUE(printed_sheet(kLabels).save(path("labels.png")));
    const Ran read = run({"read", path("labels.png")});
    ASSERT_EQ(read.status, 0) << read.err;
    EXPECT_EQ(read.out, "Pear, grafted in March\nRow seven, north side\nWater once a week\n");
    EXPECT_EQ(read.err, "");
}

TEST_F(Cli, TellsWhereTheSheetLiesInAPhotographAndReadsItThere) {
    QImage sheet = printed_sheet(kLabels);
    const cv::Mat flat(sheet.height(), sheet.width(), CV_8UC3, sheet.bits(), static_cast<size_t>(sheet.bytesPerLine()));
    std::mt19937 random(4);
    View view;
    view.ground = Ground::dark;
    view.tilt_deg = 22, view.tilt_towards = 1, view.roll_deg = 8, view.shadow = 0.2;
    const Photo photo = take_photo({flat}, view, random);
    const QImage seen(photo.pixels.data, photo.pixels.cols, photo.pixels.rows,
                      static_cast<qsizetype>(photo.pixels.step), QImage::Format_BGR888);
    ASSERT_TRUE(seen.save(path("photo.jpg"), nullptr, 92));
    const Ran read = run({"read", path("photo.jpg"), "--format", "json"});
    ASSERT_EQ(read.status, 0) << read.err;
    const Json pages = Json::parse(read.out)["pages"];
    ASSERT_EQ(pages.size(), 1U);
    const Json& quad = pages[0]["regions"][0]["quad_px"];
    EXPECT_EQ(pages[0]["regions"][0]["kind"], "picture");
    ASSERT_EQ(quad.size(), 4U);
    for (size_t i = 0; i < 4; ++i) {
        EXPECT_NEAR(quad[i][0].get<double>(), photo.sheets[0].corners[i].x, 8) << i;
        EXPECT_NEAR(quad[i][1].get<double>(), photo.sheets[0].corners[i].y, 8) << i;
    }
    // Lying on its side, the sheet's corners still begin at the top left as it is read.
    cv::Mat aside;
    cv::rotate(photo.pixels, aside, cv::ROTATE_90_COUNTERCLOCKWISE);
    const QImage lying(aside.data, aside.cols, aside.rows, static_cast<qsizetype>(aside.step), QImage::Format_BGR888);
    ASSERT_TRUE(lying.save(path("lying.jpg"), nullptr, 92));
    const Json turned =
        Json::parse(run({"read", path("lying.jpg"), "--format", "json"}).out)["pages"][0]["regions"][0]["quad_px"];
    for (size_t i = 0; i < 4; ++i) {
        EXPECT_NEAR(turned[i][0].get<double>(), photo.sheets[0].corners[i].y, 8) << i;
        EXPECT_NEAR(turned[i][1].get<double>(), photo.pixels.cols - photo.sheets[0].corners[i].x, 8) << i;
    }
    EXPECT_LE(quad[0][0].dump().size(), 6U) << "tenths of a pixel, not more: " << quad[0][0].dump();
    std::string text;
    for (const Json& region : pages[0]["regions"])
        for (const Json& line : region["lines"]) text += line["text"].get<std::string>() + "\n";
    EXPECT_NE(text.find("grafted in March"), std::string::npos) << text;
}

TEST_F(Cli, WorksFormulasOutALineEach) {
    const Ran ran = run({"compute", "12+21", "-3+1", "x^2-16=0", "1/0", "\\frac{1}{3}"});
    EXPECT_EQ(ran.status, 0);
    EXPECT_EQ(ran.out, "33\n-2\nx = -4 or x = 4\nundefined: division by zero\n1/3 ≈ 0.333333\n");
    EXPECT_EQ(run({"compute", "\\sin 30", "--angle", "degree", "--exact"}).out, "1/2\n");
    EXPECT_EQ(run({"compute", "--with", "r=3", "--digits", "3", "\\pi r^2"}).out, "9*pi ≈ 28.3\n");
    const Ran wrong = run({"compute", "(1+2", "2+2"});
    EXPECT_EQ(wrong.status, 1);
    EXPECT_EQ(wrong.out, "\n4\n") << "the others are done";
    EXPECT_NE(wrong.err.find("A bracket is not closed."), std::string::npos);
    EXPECT_LT(run({"compute", QString(30'000, '(')}).err.size(), 200U) << "what is named is named in brief";
    EXPECT_EQ(run({"compute"}).status, 2);
    EXPECT_EQ(run({"compute", "2", "--with", "3"}).status, 2);
}

TEST_F(Cli, KeepsPagesAsTemplatesAndBeginsOthersWithThem) {
    const QString copy = path("templates");
    fs::copy(library().toStdString(), copy.toStdString(), fs::copy_options::recursive);
    const auto pages = [&] {
        const Json all = Json::parse(run({"list", "--library", copy, "--format", "json"}).out);
        for (const Json& n : all["notebooks"])
            if (n["title"] == "Saatgut") return n["pages"];
        return Json();
    };
    ASSERT_EQ(pages().size(), 1U);
    const QString id = QString::number(pages()[0]["id"].get<int64_t>());
    EXPECT_EQ(run({"template", "list", "--library", copy}).out, "");
    ASSERT_EQ(run({"template", "keep", "--library", copy, "--page", id, "--name", "Liste"}).status, 0);
    EXPECT_EQ(run({"template", "list", "--library", copy}).out, "Liste\n");
    const Ran used = run({"template", "use", "--library", copy, "--name", "Liste", "--notebook", "Saatgut"});
    EXPECT_EQ(used.status, 0) << used.err;
    EXPECT_EQ(pages().size(), 2U);
    EXPECT_EQ(run({"template", "use", "--library", copy, "--name", "Nichts", "--notebook", "Saatgut"}).status, 1);
    EXPECT_EQ(run({"template", "keep", "--library", copy, "--page", "4711", "--name", "x"}).status, 1);
    EXPECT_EQ(run({"template", "remove", "--library", copy, "--name", "Liste"}).status, 0);
    EXPECT_EQ(run({"template", "list", "--library", copy}).out, "");
    EXPECT_EQ(run({"template", "keep", "--library", copy}).status, 2);
}

TEST_F(Cli, BundlesANotebookAndBringsItBack) {
    const QString file = path("frost.fernleaf"), key = path("key.txt"), other = path("other library");
    std::ofstream(key.toStdString()) << "frost in may\nnot this line\n";
    ASSERT_EQ(
        run({"bundle", "--library", library(), "--notebook", "Saatgut", "--to", file, "--passphrase-file", key}).status,
        0);
    const Ran locked = run({"import", "--library", other, file});
    EXPECT_EQ(locked.status, 1);
    EXPECT_NE(locked.err.find("it is locked"), std::string::npos) << locked.err;
    const Ran brought = run({"import", "--library", other, file, "--passphrase-file", key});
    ASSERT_EQ(brought.status, 0) << brought.err;
    EXPECT_NE(brought.out.find("1 page in Saatgut"), std::string::npos) << brought.out;
    const auto hits = [](const QString& from) {
        Json found = Json::parse(run({"find", "--library", from, "--format", "json", "notebook:Saatgut"}).out)["hits"];
        std::vector<std::string> lines;
        for (const Json& hit : found) lines.push_back(hit["line"]);
        return lines;
    };
    EXPECT_EQ(hits(other), hits(library())) << "read anew, it says the same";
    EXPECT_EQ(run({"check", "--library", other}).out, "ok\n");
    EXPECT_EQ(run({"export", "--library", library(), "--notebook", "Saatgut", "--to", path("open.fernleaf")}).status,
              0);
    ASSERT_EQ(run({"export", "--library", library(), "--notebook", "Saatgut", "--to", path("saatgut.inkml")}).status,
              0);
    const Ran read = run({"read", path("open.fernleaf"), "--language", "de"});
    EXPECT_EQ(read.status, 0) << read.err;
    EXPECT_EQ(read.out, run({"read", path("saatgut.inkml"), "--language", "de"}).out);
    EXPECT_EQ(run({"read", file}).status, 1) << "it is locked";
    EXPECT_EQ(run({"export", "--library", library(), "--notebook", "Saatgut", "--pages", "1", "--to", file}).status, 1);
    EXPECT_EQ(run({"bundle", "--library", library(), "--notebook", "Nothing", "--to", file}).status, 1);
    EXPECT_EQ(run({"bundle", "--library", library(), "--notebook", "Saatgut"}).status, 2);
}

TEST_F(Cli, FindsFormulasReadsThemAndWorksThemOut) {
    const QString file = path("sums.inkml");
    ASSERT_EQ(run({"export", "--library", library(), "--notebook", "Press house", "--pages", "5", "--to", file}).status,
              0);
    const Ran text = run({"read", file});
    ASSERT_EQ(text.status, 0) << text.err;
    EXPECT_EQ(text.out.find("Sums of the press house\n\n420-273=147\n= true\n"), 0U) << text.out;
    EXPECT_NE(text.out.find("x^{2}+3x-28=0\n= x = -7 or x = 4\n"), std::string::npos) << text.out;
    EXPECT_NE(text.out.find("\\frac{"), std::string::npos) << text.out;
    const Json regions = Json::parse(run({"read", file, "--format", "json"}).out)["pages"][0]["regions"];
    const auto sum = std::ranges::find_if(regions, [](const Json& r) { return r["kind"] == "math"; });
    ASSERT_NE(sum, regions.end());
    EXPECT_EQ((*sum)["latex"], "420-273=147");
    EXPECT_EQ((*sum)["result"], "true");
    EXPECT_NE((*sum)["mathml"].get<std::string>().find("<mn>420</mn><mo>−</mo>"), std::string::npos);
    ASSERT_EQ((*sum)["symbols"].size(), 11U);
    const Json sign = (*sum)["symbols"][3];
    EXPECT_EQ(sign["latex"], "-");
    EXPECT_EQ(sign["strokes"].size(), 1U);
    EXPECT_GT(sign["certainty"].get<double>(), 0.2);
    EXPECT_GT(sign["alternatives"].size(), 0U);
    // Said to be text, it is words; said to be math, words are signs.
    EXPECT_EQ(run({"read", file, "--as", "text"}).out.find("= true"), std::string::npos);
    EXPECT_NE(run({"read", file, "--as", "math"}).out.find("420-273=147\n= true"), std::string::npos);
    // In a picture likewise.
    const QString picture = path("sums.png");
    ASSERT_EQ(
        run({"export", "--library", library(), "--notebook", "Press house", "--pages", "5", "--to", picture}).status,
        0);
    const std::string signs = run({"read", picture, "--as", "math"}).out;
    EXPECT_NE(signs.find("\\frac{"), std::string::npos) << signs;
    EXPECT_EQ(signs.find("Sums of"), std::string::npos) << signs;
}

TEST_F(Cli, ReadsATableAndTakesItAway) {
    const QString file = path("yields.inkml");
    ASSERT_EQ(run({"export", "--library", library(), "--notebook", "Press house", "--pages", "4", "--to", file}).status,
              0);
    const Ran text = run({"read", file});
    ASSERT_EQ(text.status, 0) << text.err;
    EXPECT_NE(text.out.find("\n\n| from | kg | "), std::string::npos) << text.out;
    const Json regions = Json::parse(run({"read", file, "--format", "json"}).out)["pages"][0]["regions"];
    const auto table = std::ranges::find_if(regions, [](const Json& r) { return r["kind"] == "table"; });
    ASSERT_NE(table, regions.end());
    ASSERT_EQ((*table)["rows"].size(), 5U);
    for (const Json& row : (*table)["rows"]) ASSERT_EQ(row.size(), 4U);
    const Json cell = (*table)["rows"][3][1];
    EXPECT_EQ(cell["text"], "510");
    EXPECT_EQ(cell["span"], (Json{1, 1}));
    EXPECT_NEAR(cell["box_mm"][0].get<double>(), 66, 1.5);
    ASSERT_EQ(run({"export", "--library", library(), "--notebook", "Press house", "--to", path("yields.csv")}).status,
              0);
    EXPECT_NE(contents("yields.csv").find("gate rows,380,239,63\r\n"), std::string::npos) << contents("yields.csv");
    const Ran none = run({"export", "--library", library(), "--notebook", "Frost watch", "--to", path("none.csv")});
    EXPECT_EQ(none.status, 1);
    EXPECT_NE(none.err.find("no table"), std::string::npos) << none.err;
    // Said to be a table, a page of two columns is one, ink or picture.
    const QString month = path("month.inkml");
    ASSERT_EQ(
        run({"export", "--library", library(), "--notebook", "Frost watch", "--pages", "4", "--to", month}).status, 0);
    EXPECT_NE(run({"read", month, "--as", "table"}).out.find(" | Hail: none |"), std::string::npos)
        << run({"read", month, "--as", "table"}).out;
    EXPECT_EQ(run({"read", file, "--as", "text"}).out.find("---"), std::string::npos);
}

TEST_F(Cli, AGraphIsReadAndBroughtInAsADrawing) {
    std::ofstream(path("alarm.dot").toStdString())
        << "digraph { a [label=\"read sensor\", shape=box]; a -> b; b [label=\"ring the bell\"]; }";
    const Ran text = run({"read", path("alarm.dot")});
    ASSERT_EQ(text.status, 0) << text.err;
    EXPECT_NE(text.out.find("[label=\"read sensor\", shape=box]"), std::string::npos) << text.out;
    EXPECT_NE(text.out.find("n1 -> n2;"), std::string::npos) << text.out;
    ASSERT_EQ(run({"import", "--library", library(), "--notebook", "Graphs", path("alarm.dot")}).status, 0);
    EXPECT_NE(run({"find", "--library", library(), "sensor notebook:graphs"}).out.find("read sensor"),
              std::string::npos);
    EXPECT_NE(run({"find", "--library", library(), "sensor -> ring"}).out.find("read sensor → ring the bell"),
              std::string::npos);
    EXPECT_TRUE(run({"find", "--library", library(), "bell -> read"}).out.empty()) << "it leads the other way";
    ASSERT_EQ(run({"export", "--library", library(), "--notebook", "Graphs", "--to", path("again.opml")}).status, 0);
    EXPECT_NE(contents("again.opml").find("ring the bell"), std::string::npos);
    std::ofstream(path("broken.dot").toStdString()) << "digraph { a -> ";
    const Ran broken = run({"read", path("broken.dot")});
    EXPECT_EQ(broken.status, 1);
    EXPECT_NE(broken.err.find("broken.dot"), std::string::npos) << broken.err;
}

TEST_F(Cli, ReadsADiagramAmongWords) {
    const QString file = path("frost.inkml");
    ASSERT_EQ(run({"export", "--library", library(), "--notebook", "Frost watch", "--pages", "2", "--to", file}).status,
              0);
    const Ran text = run({"read", file});
    ASSERT_EQ(text.status, 0) << text.err;
    EXPECT_NE(text.out.find("Frost alarm\n"), std::string::npos) << text.out;
    EXPECT_NE(text.out.find("digraph {"), std::string::npos) << text.out;
    EXPECT_EQ(text.out.find("ring the bell\n"), std::string::npos) << "in the diagram, not beside it: " << text.out;
    const Json regions = Json::parse(run({"read", file, "--format", "json"}).out)["pages"][0]["regions"];
    const auto diagram = std::ranges::find_if(regions, [](const Json& r) { return r["kind"] == "diagram"; });
    ASSERT_NE(diagram, regions.end());
    std::map<std::string, std::string> node;  // by its text
    for (const Json& n : (*diagram)["nodes"]) node[n["text"]] = n["kind"];
    EXPECT_EQ(node.size(), 4U);
    EXPECT_EQ(node["read sensor"], "rectangle");
    EXPECT_EQ(node["below 1 degree"], "diamond");
    EXPECT_EQ(node["wait an hour"], "none");
    ASSERT_EQ((*diagram)["edges"].size(), 3U);
    for (const Json& edge : (*diagram)["edges"]) EXPECT_EQ(edge["arrow"], "to");
    std::set<size_t> strokes;
    for (const Json& shape : (*diagram)["shapes"])
        for (const Json& stroke : shape["strokes"])
            EXPECT_TRUE(strokes.insert(stroke.get<size_t>()).second) << "of one shape only";
    EXPECT_EQ(strokes.size(), 9U);
    EXPECT_EQ((*diagram)["dot"], text.out.substr(text.out.find("digraph")));
    // And it is taken away as it was read.
    ASSERT_EQ(run({"export", "--library", library(), "--notebook", "Frost watch", "--pages", "1-4", "--to",
                   path("frost.dot")})
                  .status,
              0);
    EXPECT_EQ(contents("frost.dot"), text.out.substr(text.out.find("digraph")));
    const Ran none = run({"export", "--library", library(), "--notebook", "Press house", "--to", path("none.graphml")});
    EXPECT_EQ(none.status, 1);
    EXPECT_NE(none.err.find("no diagram"), std::string::npos) << none.err;
    EXPECT_FALSE(fs::exists(path("none.graphml").toStdString()));
    // Told to be text, all of it is read.
    EXPECT_EQ(run({"read", file, "--as", "text"}).out.find("digraph"), std::string::npos);
    EXPECT_EQ(run({"read", file, "--as", "drawing"}).out, "") << "shapes are told in JSON";
    const Json shapes =
        Json::parse(run({"read", file, "--as", "drawing", "--format", "json"}).out)["pages"][0]["regions"];
    EXPECT_TRUE(
        std::ranges::any_of(shapes, [](const Json& r) { return r["kind"] == "drawing" && !r["shapes"].empty(); }));
    EXPECT_EQ(run({"read", file, "--as", "sculpture"}).status, 2);
}

TEST_F(Cli, DrawsThePagesOfAPdfAsFinelyAsWished) {
    const QString pdf = QStringLiteral(FERNLEAF_SOURCE_DIR "/tests/sources/two-sheets.pdf");
    const auto width = [&](const QStringList& more) {
        const Ran read = run(QStringList{"read", pdf, "--format", "json"} + more);
        EXPECT_EQ(read.status, 0) << read.err;
        return Json::parse(read.out)["pages"][0]["regions"][0]["quad_px"][1][0].get<double>();
    };
    const double usual = width({});
    EXPECT_NEAR(width({"--dpi", "100"}), usual / 2, 1);
    EXPECT_NEAR(width({"--dpi", "200"}), usual, 1);
    EXPECT_EQ(run({"read", pdf, "--dpi", "9"}).status, 2);
    EXPECT_EQ(run({"import", "--library", library(), "--notebook", "Coarse", "--dpi", "90", pdf}).status, 0);
    EXPECT_NE(run({"list", "--library", library()}).out.find("Coarse (2 pages"), std::string::npos);
}

TEST_F(Cli, FindsHandwritingAndTellsWhere) {
    const Ran found = run({"find", "--library", library(), "frost", "--format", "json"});
    ASSERT_EQ(found.status, 0) << found.err;
    const Json hits = Json::parse(found.out)["hits"];
    ASSERT_GE(hits.size(), 2U);
    EXPECT_EQ(hits[0]["boxes_mm"][0].size(), 4U);
    const Ran text = run({"find", "--library", library(), "frost notebook:press"});
    EXPECT_EQ(text.out, "");
    EXPECT_EQ(run({"find", "--library", library(), "before:soon frost"}).status, 1);
}

TEST_F(Cli, WhatItExportsItReadsAgain) {
    ASSERT_EQ(run({"export", "--library", library(), "--notebook", "Press house", "--pages", "1,3", "--to",
                   path("out.inkml")})
                  .status,
              0);
    ASSERT_EQ(
        run({"export", "--library", library(), "--notebook", "Press house", "--pages", "1,3", "--to", path("out.txt")})
            .status,
        0);
    ASSERT_EQ(run({"export", "--library", library(), "--notebook", "Press house", "--to", path("out.pdf")}).status, 0);
    const Ran read = run({"read", path("out.inkml")});
    ASSERT_EQ(read.status, 0) << read.err;
    EXPECT_EQ(read.out, contents("out.txt"));
    EXPECT_TRUE(contents("out.pdf").starts_with("%PDF"));
    const Ran beyond =
        run({"export", "--library", library(), "--notebook", "Press house", "--pages", "9", "--to", path("x.txt")});
    EXPECT_EQ(beyond.status, 1);
    EXPECT_NE(beyond.err.find("no page 9"), std::string::npos);
}

TEST_F(Cli, ReadingAsJsonHasWordsWithBoxesAndAlternatives) {
    ASSERT_EQ(run({"export", "--library", library(), "--notebook", "Frost watch", "--pages", "2", "--to",
                   path("alarm.inkml")})
                  .status,
              0);
    const Ran read = run({"read", path("alarm.inkml"), "--format", "json"});
    const Json page = Json::parse(read.out)["pages"][0];
    EXPECT_EQ(page["page"], 1);
    EXPECT_EQ(page["size_mm"], Json({148.0, 210.0}));
    int diagrams = 0, words = 0;
    const auto count = [&](const Json& of) {
        for (const Json& word : of["words"]) {
            ++words;
            EXPECT_GT(word["box_mm"][2].get<double>(), 0);
            EXPECT_TRUE(word["alternatives"].is_array());
        }
    };
    for (const Json& region : page["regions"]) {
        diagrams += region["kind"] == "diagram";
        for (const Json& line : region["lines"]) count(line);
        if (region.contains("nodes"))
            for (const Json& node : region["nodes"]) count(node);
    }
    EXPECT_EQ(diagrams, 1);
    EXPECT_GE(words, 8);
}

TEST_F(Cli, ImportsTheGoodAndNamesTheBad) {
    const QString target = path("imported");
    const fs::path broken = fs::path(FERNLEAF_SOURCE_DIR) / "tests" / "broken";
    const Ran bad =
        run({"import", "--library", target, QString::fromStdString((broken / "inkml" / "cut.inkml").string())});
    EXPECT_EQ(bad.status, 1);
    EXPECT_EQ(Json::parse(run({"list", "--library", target, "--format", "json"}).out)["notebooks"].size(), 0U);
    Page page;
    page.strokes = {test_stroke(20, 30)};
    std::ofstream(folder_ / "gut.inkml") << write_inkml({page});
    const Ran mixed = run({"import", "--library", target, "--notebook", "Walks",
                           QString::fromStdString((broken / "pictures" / "huge.png").string()), path("gut.inkml")});
    EXPECT_EQ(mixed.status, 1);
    EXPECT_NE(mixed.err.find("huge.png"), std::string::npos);
    EXPECT_EQ(std::count(mixed.err.begin(), mixed.err.end(), '\n'), 1);
    EXPECT_EQ(Json::parse(run({"list", "--library", target, "--format", "json"}).out)["notebooks"][0]["pages"].size(),
              1U);
}

TEST_F(Cli, ScansIntoTheIntakeTray) {
    const QString scans = path("scans");
    const Ran scanned = run({"scan", "--library", scans, "--device", "test:0", "--dpi", "60", "--grey"});
    ASSERT_EQ(scanned.status, 0) << scanned.err;
    EXPECT_EQ(scanned.out, "1 sheet waits in the intake tray\n");
    const auto library = Library::open(scans.toStdString());
    ASSERT_TRUE(library);
    const auto tray = (*library)->intake();
    ASSERT_TRUE(tray);
    ASSERT_EQ(tray->size(), 1U);
    EXPECT_TRUE(tray->front().looked_at);
    const Ran none = run({"scan", "--library", path("none"), "--device", "nothing:0"});
    EXPECT_EQ(none.status, 1);
    EXPECT_NE(none.err.find("no such scanner"), std::string::npos) << none.err;
    EXPECT_EQ(run({"scan"}).status, 2);
}

// A page in one of the demonstration's hands, and what it says.
void write_page_to_learn(const fs::path& ink, const fs::path& words, size_t lines) {
    const Hand hand = *Hand::load(FERNLEAF_SOURCE_DIR "/demo/hands/lettre.json");
    const std::vector<std::string> texts{
        "quiet wind over the hill",     "frost by dawn in the orchard", "five kegs of cider are ready",
        "and why did he graft my tree", "the lazy fox jumped past it",  "rain on the old yard again",
        "the north gate must be shut",  "ask her about the new scions", "wax both ends before noon",
        "a dozen pears for the market", "cover the lower rows tonight", "we counted nine green buds"};
    std::mt19937 random(7);
    Page page;
    std::ofstream say(words);
    for (size_t i = 0; i < lines; ++i) {
        const auto strokes = hand.write(texts[i], {15, 20 + 12.0 * static_cast<double>(i)}, {}, random);
        page.strokes.insert(page.strokes.end(), strokes.begin(), strokes.end());
        say << texts[i] << '\n';
    }
    std::ofstream(ink) << write_inkml({page});
}

TEST_F(Cli, LearnsAHandAndReadsWithIt) {
    write_page_to_learn(folder_ / "own.inkml", folder_ / "own.txt", 12);
    const Ran taught = run({"teach", path("own.inkml"), path("own.txt"), "--to", path("own.fernhand")});
    ASSERT_EQ(taught.status, 0) << taught.err;
    EXPECT_TRUE(taught.out.starts_with("12 lines")) << taught.out;
    const Ran read = run({"read", path("own.inkml"), "--hand", path("own.fernhand")});
    EXPECT_EQ(read.status, 0) << read.err;
    EXPECT_NE(read.out.find("wax both ends"), std::string::npos) << read.out;
    const Ran further = run(
        {"teach", path("own.inkml"), path("own.txt"), "--from", path("own.fernhand"), "--to", path("more.fernhand")});
    EXPECT_EQ(further.status, 0) << further.err;
    EXPECT_TRUE(fs::exists(folder_ / "more.fernhand"));
}

TEST_F(Cli, TellsWhyAHandCantBeLearntOrUsed) {
    write_page_to_learn(folder_ / "short.inkml", folder_ / "short.txt", 2);
    const Ran few = run({"teach", path("short.inkml"), path("short.txt"), "--to", path("no.fernhand")});
    EXPECT_EQ(few.status, 1);
    EXPECT_NE(few.err.find("too few"), std::string::npos) << few.err;
    EXPECT_FALSE(fs::exists(folder_ / "no.fernhand"));
    EXPECT_EQ(run({"teach", path("short.inkml"), path("nowhere.txt"), "--to", path("no.fernhand")}).status, 1);
    const Ran wrong = run({"read", path("short.inkml"), "--hand", path("short.txt")});
    EXPECT_EQ(wrong.status, 1);
    EXPECT_NE(wrong.err.find("short.txt"), std::string::npos) << wrong.err;
    EXPECT_EQ(wrong.out, "");
    EXPECT_EQ(run({"teach", path("short.inkml")}).status, 2);
}

// Changes a library: one of its own.
TEST(CliKeeping, OrdersNotebooksAndTagsPages) {
    TemporaryLibrary made;
    made.library.reset();  // the command line is to have it
    const QString library = QString::fromStdString(made.directory.string());
    const auto keep = [&](QStringList arguments, int status = 0) {
        arguments << "--library" << library;
        const Ran ran = run(arguments);
        EXPECT_EQ(ran.status, status) << arguments.join(' ').toStdString() << ": " << ran.err;
        return ran;
    };
    keep({"notebook", "new", "--notebook", "Frost watch", "--folder", "Hallow Hill/Weather"});
    keep({"notebook", "new", "--notebook", "Frost watch"}, 1);
    keep({"notebook", "rename", "--notebook", "Frost watch", "--to", "Frost"});
    keep({"notebook", "move", "--notebook", "Frost", "--folder", "Hallow Hill"});
    keep({"tag", "add", "--notebook", "Frost", "cold, #alarm", "Rime"});
    keep({"tag", "add", "--notebook", "Frost", "--pages", "1", "first"});
    keep({"tag", "add", "--notebook", "Frost", "--pages", "9", "first"}, 1);
    keep({"tag", "add", "--notebook", "Frost", "?"}, 1);
    keep({"tag", "remove", "--notebook", "Frost", "rime"});
    EXPECT_EQ(keep({"tag", "list"}).out, "alarm\ncold\nfirst\nRime\n");
    EXPECT_EQ(keep({"tag", "list", "--notebook", "Frost"}).out, "alarm\ncold\n");
    const Json tags = Json::parse(keep({"tag", "list", "--notebook", "Frost", "--pages", "1", "--format", "json"}).out);
    EXPECT_EQ(tags["tags"], Json::parse(R"([{"name": "first", "pages": 1}])"));
    EXPECT_EQ(keep({"find", "tag:cold folder:hallow"}).out, "Frost / 1 /  / 1.00\n");
    EXPECT_EQ(keep({"find", "has:pears"}, 1).out, "");
    keep({"notebook", "archive", "--notebook", "Frost"});
    keep({"notebook", "unarchive", "--notebook", "Frost"});
    keep({"notebook", "bin", "--notebook", "Frost"});
    keep({"notebook", "archive", "--notebook", "Frost"}, 1);
    keep({"notebook", "restore", "--notebook", "Frost"});
    keep({"notebook", "restore", "--notebook", "Frost"}, 1);
    EXPECT_EQ(keep({"todo"}).out, "");
    keep({"notebook", "split", "--notebook", "Frost"}, 2);
    EXPECT_EQ(keep({"check"}).out, "ok\n");
}

TEST(CliKeeping, BacksUpAndRestores) {
    TemporaryLibrary made;
    made.library.reset();
    const QString library = QString::fromStdString(made.directory.string()), backups = library + "-backups",
                  other = library + "-restored";
    const auto keep = [&](const QStringList& arguments, int status = 0) {
        const Ran ran = run(arguments);
        EXPECT_EQ(ran.status, status) << arguments.join(' ').toStdString() << ": " << ran.err;
        return ran;
    };
    keep({"notebook", "new", "--library", library, "--notebook", "Frost watch"});
    keep({"backup", "--library", library, "--in", backups, "--verify"}, 1);
    EXPECT_NE(keep({"backup", "--library", library, "--in", backups}).out.find("1 notebook, 1 page, "),
              std::string::npos);
    EXPECT_EQ(keep({"backup", "--library", library, "--in", backups, "--verify"}).out, "ok\n");
    EXPECT_FALSE(keep({"backup", "--library", library, "--in", backups, "--list"}).out.empty());
    EXPECT_EQ(keep({"restore", "--library", library, "--in", backups, "--notebook", "Frost watch"}).out,
              "Frost watch (restored): 1 page\n");
    keep({"restore", "--library", library, "--in", backups, "--notebook", "None"}, 1);
    keep({"restore", "--library", library, "--in", backups, "--page", "1"});
    keep({"restore", "--library", library, "--in", backups}, 1);
    keep({"restore", "--library", other, "--in", backups});
    EXPECT_EQ(keep({"check", "--library", other, "--repair"}).out, "ok\n");
    keep({"restore", "--library", other + "2", "--in", backups, "--at", "2020-01-01"}, 1);
    keep({"restore", "--library", other + "2", "--in", backups, "--at", "yesterday"}, 1);
    for (const QString& path : {backups, other}) fs::remove_all(path.toStdString());
}

TEST_F(Cli, WrongUseHasItsOwnStatus) {
    EXPECT_EQ(run({}).status, 2);
    EXPECT_EQ(run({"read"}).status, 2);
    EXPECT_EQ(run({"read", "a.inkml", "--lean", "2"}).status, 2);
    EXPECT_EQ(run({"export", "--library", library(), "--to", path("x.txt")}).status, 2);
    EXPECT_EQ(
        run({"export", "--library", library(), "--notebook", "Press house", "--pages", "3-1", "--to", path("x.txt")})
            .status,
        2);
    EXPECT_EQ(run({"--help"}).status, 0);
    EXPECT_EQ(run({"list", "--library", path("nowhere")}).status, 1);
    EXPECT_FALSE(fs::exists(folder_ / "nowhere"));
}

// A pen that runs, with what it wrote away from the computer.
class RunPen {
public:
    RunPen(const fs::path& folder, const QStringList& more) : socket(folder / "walnut.sock") {
        process_.setProcessChannelMode(QProcess::ForwardedErrorChannel);
        process_.start(FERNLEAF_PEN,
                       QStringList{"--memory", QString::fromStdString((folder / "walnut.pen").string()), "--socket",
                                   QString::fromStdString(socket.string()), "--passcode", "4711"} +
                           more);
        EXPECT_TRUE(process_.waitForReadyRead(30'000));
    }
    ~RunPen() {
        process_.terminate();
        EXPECT_TRUE(process_.waitForFinished(30'000));
    }
    const fs::path socket;

private:
    QProcess process_;
};

TEST_F(Cli, TakesWhatAPenWroteOnceAndKnowsThePenAgain) {
    const QString ink = path("walk.inkml"), passcode = path("passcode.txt"), wrong = path("wrong.txt");
    {
        Page page;
        page.info.width_mm = 148, page.info.height_mm = 210;
        for (int i = 0; i < 30; ++i) page.strokes.push_back(test_stroke(20 + i, 30 + i));
        std::string bytes = write_inkml({page});
        bytes.insert(bytes.find("<traceFormat>", bytes.find("<canvas")),
                     "<annotation type=\"page address\">2 5 17</annotation>");
        std::ofstream(ink.toStdString()) << bytes;
        std::ofstream(passcode.toStdString()) << "4711\n";
        std::ofstream(wrong.toStdString()) << "0815\n";
    }
    TemporaryLibrary made;
    made.page();
    made.library.reset();
    const QString into = QString::fromStdString(made.directory.string());
    const RunPen pen(folder_, {"--away", ink});
    const QStringList sync{"pen", "sync", "--library", into, "--socket", QString::fromStdString(pen.socket.string())};
    EXPECT_NE(run(sync).err.find("asks for its passcode"), std::string::npos);
    EXPECT_NE(run(sync + QStringList{"--passcode-file", wrong}).err.find("9 tries left"), std::string::npos);
    const Ran first = run(sync + QStringList{"--passcode-file", passcode});
    EXPECT_EQ(first.status, 0) << first.err;
    EXPECT_EQ(first.out, "Walnut: 30 strokes on 1 page\n");
    EXPECT_EQ(run(sync).out, "Walnut: 0 strokes on 0 pages\n") << "paired, and all taken";
    EXPECT_EQ(run({"pen", "status", "--library", into}).out, "Walnut / FL-0001 / 30 strokes / battery 90 %\n");
    const Ran list = run({"list", "--library", into});
    EXPECT_NE(list.out.find("Field notebook 5"), std::string::npos) << list.out;
    EXPECT_EQ(run({"pen", "forget", "Walnut", "--library", into}).status, 0);
    EXPECT_EQ(run({"pen", "status", "--library", into}).out, "");
    EXPECT_NE(run(sync).err.find("asks for its passcode"), std::string::npos);
}

TEST_F(Cli, ImportsInkOnAddressedPaperOntoItsPagesOnce) {
    const QString ink = QStringLiteral(FERNLEAF_SOURCE_DIR "/demo/walk.inkml");
    TemporaryLibrary made;
    made.library.reset();
    const QString into = QString::fromStdString(made.directory.string());
    const Ran first = run({"import", "--library", into, ink});
    EXPECT_EQ(first.status, 0) << first.err;
    EXPECT_NE(first.out.find("2 pages in Field notebook 1"), std::string::npos) << first.out;
    const Ran again = run({"import", "--library", into, ink});
    EXPECT_EQ(again.status, 1);
    EXPECT_NE(again.err.find("walk.inkml: it is in the library already"), std::string::npos) << again.err;
    EXPECT_NE(run({"find", "--library", into, "weather"}).out.find("Field notebook 1 / 2"), std::string::npos);
    EXPECT_EQ(run({"check", "--library", into}).out, "ok\n");
}

TEST_F(Cli, SaysSoWhenNoPenIsThere) {
    const Ran none = run({"pen", "sync", "--library", library(), "--socket", path("none.sock")});
    EXPECT_EQ(none.status, 1);
    EXPECT_NE(none.err.find("No pen answers"), std::string::npos) << none.err;
    EXPECT_EQ(run({"pen", "sync"}).status, 2);
    EXPECT_EQ(run({"pen", "forget", "Walnut", "--library", library()}).status, 1);
}

}  // namespace
}  // namespace fernleaf
