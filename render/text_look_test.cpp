#include "render/text_look.h"

#include <gtest/gtest.h>

#include "render/page_painter.h"

namespace fernleaf {
namespace {

TextBlock block(std::vector<Paragraph> paragraphs, double width = 80) {
    TextBlock b;
    b.at = {20, 30};
    b.width_mm = width;
    b.paragraphs = std::move(paragraphs);
    lay_out(b);
    return b;
}

int inked(const QImage& image, const QRect& part, const QColor& paper) {
    int n = 0;
    for (int y = part.top(); y <= part.bottom(); ++y)
        for (int x = part.left(); x <= part.right(); ++x) n += image.pixelColor(x, y) != paper;
    return n;
}

TEST(TextLook, WordsAreDrawnWhereTheyAreSaidToStand) {
    Page page;
    page.info.paper = Paper::plain;
    page.texts = {block({{{{"frost at", {}}}}, {{{"dawn", {}}}}})};
    ASSERT_EQ(page.texts[0].words.size(), 3U);
    EXPECT_EQ(page.texts[0].words[2].line, 1);
    QImage image(1480, 2100, QImage::Format_RGB32);
    QPainter painter(&image);
    painter.scale(10, 10);
    paint_paper(painter, page.info, light_page());
    const PageScheme scheme = light_page();
    paint_elements(painter, page, {scheme, {}, Box::of(0, 0, 148, 210)});
    painter.end();
    int within = 0;
    for (const PlacedWord& word : page.texts[0].words) {
        const QRect at =
            QRectF(word.box.left * 10 - 2, word.box.top * 10, word.box.width() * 10 + 4, word.box.height() * 10)
                .toRect();
        const int ink = inked(image, at, light_page().paper);
        EXPECT_GT(ink, 300) << word.text;
        within += ink;
    }
    EXPECT_EQ(inked(image, image.rect(), light_page().paper), within) << "nothing is drawn elsewhere";
}

TEST(TextLook, LinesKeepTheirPitchAndParagraphsTheirRoom) {
    TextBlock b;
    b.pitch_mm = 9;
    b.paragraphs = {{{{"one", {}}}}, {{{"two", {}}}}, {{{"three", {}}}}};
    b.paragraphs[2].before_mm = 5;
    lay_out(b);
    ASSERT_EQ(b.words.size(), 3U);
    EXPECT_NEAR(b.words[1].box.top - b.words[0].box.top, 9, 0.15);
    EXPECT_NEAR(b.words[2].box.top - b.words[1].box.top, 14, 0.15);
    lay_out_level(b);
    EXPECT_NEAR(b.words[0].box.centre().y, 4.5, 1e-6);
    lay_out(b);
    EXPECT_NEAR(b.words[0].box.centre().y, 4.5, 1e-6) << "and stays there";
}

TEST(TextLook, BreaksLinesAtTheBlocksWidth) {
    const TextBlock narrow = block({{{{"the grafts on row three have taken well", {}}}}}, 30);
    EXPECT_GT(narrow.words.back().line, 1);
    for (const PlacedWord& word : narrow.words) EXPECT_LE(word.box.right, 20 + 30 + 0.01) << word.text;
    EXPECT_GT(narrow.height_mm, 2.5 * narrow.words[0].box.height());
}

TEST(TextLook, ADocumentGivesBackWhatItWasMadeOf) {
    TextStyle loud{"Fernleaf Sans", 6, true, true, true, true, 0x8A3B6B, 0xEBCB6B, true};
    std::vector<Paragraph> paragraphs = {{{{"Frost ", {}}, {"at dawn", loud}}, Align::centre, ListKind::none, 2},
                                         {{{"saw", {}}}, Align::left, ListKind::bullet},
                                         {{{"wax", {}}}, Align::left, ListKind::number},
                                         {{{"tape", {}}}, Align::left, ListKind::check},
                                         {{{"string", {}}}, Align::left, ListKind::checked},
                                         {{{"", {}}}, Align::right},
                                         {{{"end", {}}}, Align::justified, ListKind::none, 0, 4, 3}};
    const TextBlock b = block(paragraphs);
    EXPECT_EQ(paragraphs_of(*document_of(b, light_page())), paragraphs);
    EXPECT_EQ(paragraphs_of(*document_of(b, dark_page())), paragraphs) << "colours are kept as they were chosen";
}

TEST(TextLook, MeasuresAsItSets) {
    TextStyle large;
    large.size_mm = 8;
    const TextBlock b = block({{{{"Hallow", large}}}});
    EXPECT_NEAR(text_width("Hallow", large), b.words[0].box.width(), 0.2);
}

TEST(Paper, EveryKindIsPrintedAndOnlyWhereItsOwnIs) {
    Sheet sheet;
    sheet.width_mm = 100, sheet.height_mm = 140, sheet.spacing_mm = 10;
    const auto marks = [&](Paper paper) {
        sheet.paper = paper;
        QImage image(400, 560, QImage::Format_RGB32);
        QPainter painter(&image);
        painter.scale(4, 4);
        paint_paper(painter, sheet, light_page());
        painter.end();
        return inked(image, image.rect(), light_page().paper);
    };
    EXPECT_EQ(marks(Paper::plain), 0);
    const int ruled = marks(Paper::ruled);
    EXPECT_GT(ruled, 1000);
    EXPECT_GT(marks(Paper::margined), ruled);
    EXPECT_GT(marks(Paper::squared), ruled + 500);
    EXPECT_GT(marks(Paper::dotted), 100);
    EXPECT_LT(marks(Paper::dotted), marks(Paper::squared));
    EXPECT_GT(marks(Paper::staves), 1000);
}

TEST(Paper, OfADarkColourTurnsInkLight) {
    const PageScheme night = scheme_on(light_page(), 0x1B2430);
    EXPECT_TRUE(night.dark);
    EXPECT_GT(shown_colour(0x1E2A44, night).lightnessF(), 0.6F);
    EXPECT_FALSE(scheme_on(dark_page(), 0xF3E9C8).dark) << "paper of its own colour stays as it is";
    EXPECT_TRUE(scheme_on(dark_page(), kUsualPaper).dark);
}

}  // namespace
}  // namespace fernleaf
