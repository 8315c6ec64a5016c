#include "document/elements.h"

#include <gtest/gtest.h>

#include <numbers>
#include <random>

namespace fernleaf {
namespace {

TextBlock text() {
    TextBlock t;
    t.id = 5;
    t.at = {10, 10}, t.width_mm = 40, t.height_mm = 10, t.pitch_mm = 6;
    t.paragraphs = {{{{"frost", {}}}}};
    return t;
}

Picture picture() { return {7, "hash", "a.png", 0, Box::of(100, 10, 30, 20)}; }

TEST(Moving, ScalesTypeWithItsBlock) {
    const auto t = transformed(Elements{{}, {}, {text()}}, Affine::scale(2, 2, {10, 10})).texts[0];
    EXPECT_EQ(t.at, (Point{10, 10}));
    EXPECT_EQ(t.width_mm, 80);
    EXPECT_EQ(t.pitch_mm, 12);
    EXPECT_EQ(t.paragraphs[0].runs[0].style.size_mm, 2 * TextStyle{}.size_mm);
}

TEST(Moving, StretchingABlockKeepsItsType) {
    const auto t = transformed(Elements{{}, {}, {text()}}, Affine::scale(1.5, 1, {10, 10})).texts[0];
    EXPECT_EQ(t.width_mm, 60);
    EXPECT_EQ(t.paragraphs, text().paragraphs);
}

TEST(Moving, ABlockSetFromInkRemembersWhereTheInkWouldBe) {
    TextBlock set = text();
    set.ink = {1, 2};
    const Affine turn = Affine::turn(0.4, {30, 20}), shift = Affine::shift({5, -3});
    const auto moved = transformed(transformed(Elements{{}, {}, {set}}, turn), shift).texts[0];
    EXPECT_EQ(moved.transform_since_set, turn.then(shift));
    const auto stretched = transformed(Elements{{}, {}, {set}}, Affine::scale(2, 1, {0, 0})).texts[0];
    EXPECT_EQ(stretched.transform_since_set, Affine::shift({10, 0}))
        << "set in another width, its ink is only carried along";
    EXPECT_EQ(transformed(Elements{{}, {}, {text()}}, shift).texts[0].transform_since_set, Affine());
}

TEST(Moving, TurnsBlocksAndPicturesAboutAPlace) {
    const Affine quarter = Affine::turn(std::numbers::pi / 2, {0, 0});
    const Elements e = transformed(Elements{{}, {picture()}, {text()}}, quarter);
    EXPECT_NEAR(e.texts[0].angle, 90, 1e-9);
    EXPECT_NEAR(e.texts[0].box().centre().x, -15, 1e-9);
    EXPECT_NEAR(e.texts[0].box().centre().y, 30, 1e-9);
    EXPECT_NEAR(e.pictures[0].angle, 90, 1e-9);
    EXPECT_NEAR(e.pictures[0].box.width(), 30, 1e-9);
    EXPECT_NEAR(drawn_box(e.pictures[0]).width(), 20, 1e-9);
    const Elements round = transformed(transformed(e, quarter), Affine::turn(std::numbers::pi, {0, 0}));
    EXPECT_NEAR(std::abs(round.texts[0].angle), 0, 1e-9);
    EXPECT_NEAR(round.texts[0].at.x, 10, 1e-9);
}

TEST(Moving, ALassoTakesWhatMostlyLiesInItButNoLockedPicture) {
    Elements all{{}, {picture()}, {text()}};
    const std::vector<Point> left = {{5, 5}, {55, 5}, {55, 30}, {5, 30}};
    const std::vector<Point> everything = {{0, 0}, {200, 0}, {200, 100}, {0, 100}};
    const std::vector<Point> corner = {{5, 5}, {25, 5}, {25, 30}, {5, 30}};
    EXPECT_EQ(ids_of(within(all, left)), (std::vector<int64_t>{5}));
    EXPECT_EQ(ids_of(within(all, everything)), (std::vector<int64_t>{7, 5}));
    EXPECT_TRUE(within(all, corner).empty());
    all.pictures[0].locked = true;
    EXPECT_EQ(ids_of(within(all, everything)), (std::vector<int64_t>{5}));
}

TEST(Moving, ATurnedPictureIsCoveredAsItLies) {
    Picture p = picture();  // 30 by 20 about (115, 20)
    EXPECT_TRUE(covers(p, {128, 20}));
    EXPECT_FALSE(covers(p, {115, 33}));
    p.angle = 90;
    EXPECT_FALSE(covers(p, {128, 20}));
    EXPECT_TRUE(covers(p, {115, 33}));
    EXPECT_TRUE(covers(text(), {30, 15}));
    EXPECT_FALSE(covers(text(), {30, 25}));
}

TEST(Moving, ACroppedPictureStaysWhereItLies) {
    for (const double angle : {0.0, 30.0, -90.0}) {
        Picture whole = picture();
        whole.angle = angle;
        const Picture part = cropped(whole, {0.25, 0.5, 1, 1});
        EXPECT_NEAR(part.box.width(), 22.5, 1e-9);
        EXPECT_NEAR(part.box.height(), 10, 1e-9);
        // The lower right corner, seen on the page, is the same.
        const auto corner = [](const Picture& p) {
            return Affine::turn(p.angle * std::numbers::pi / 180, p.box.centre())({p.box.right, p.box.bottom});
        };
        EXPECT_NEAR(distance(corner(part), corner(whole)), 0, 1e-9) << angle;
        const Picture back = cropped(part, {0, 0, 1, 1});
        EXPECT_NEAR(back.box.left, whole.box.left, 1e-9);
        EXPECT_NEAR(back.box.bottom, whole.box.bottom, 1e-9);
    }
    EXPECT_EQ(cropped(picture(), {-3, -3, 5, 5}), picture());
    EXPECT_NEAR(cropped(picture(), {0.5, 0.5, 0.2, 0.2}).crop.width(), 0.01, 1e-9);
}

TEST(Moving, AShiftKeepsWordsKnownAndOtherChangesLeaveThemToBeSet) {
    TextBlock t = text();
    t.words = {{"frost", Box::of(10, 11, 12, 5), 0}};
    EXPECT_EQ(transformed(Elements{{}, {}, {t}}, Affine::shift({3, 4})).texts[0].words[0].box, Box::of(13, 15, 12, 5));
    EXPECT_EQ(transformed(Elements{{}, {}, {t}}, Affine::scale(2, 2, {0, 0})).texts[0].words, t.words);
}

TEST(Moving, RenewedElementsKeepTheirPlacesAmongTheOthers) {
    Stroke first, second;
    first.id = 3, second.id = 4, second.z = 1;
    Elements e{{first, second}, {picture()}, {text()}};
    int64_t next = 100;
    const auto replacements = renew(e, [&] { return next++; });
    EXPECT_EQ(replacements, (std::vector<std::pair<StrokeId, StrokeId>>{{3, 100}, {4, 101}}));
    EXPECT_EQ(ids_of(e), (std::vector<int64_t>{100, 101, 102, 103}));
    EXPECT_EQ(e.strokes[0].z, 3);
    EXPECT_EQ(e.strokes[1].z, 1) << "a place given before stays";
    EXPECT_EQ(e.pictures[0].z, 7);
    EXPECT_EQ(e.texts[0].z, 5);
    EXPECT_TRUE(z_less(e.strokes[1], e.strokes[0]));
}

TEST(Moving, PicksByIdAcrossKinds) {
    Stroke s;
    s.id = 3, s.points = {{{1, 1}}};
    const Elements all{{s}, {picture()}, {text()}};
    EXPECT_EQ(ids_of(picked(all, {5, 3, 99})), (std::vector<int64_t>{3, 5}));
    EXPECT_TRUE(picked(all, {}).empty());
    EXPECT_EQ(all.count(), 3U);
    EXPECT_FALSE(drawn_box(all).empty());
    EXPECT_TRUE(drawn_box(all).contains({129, 29}));
    EXPECT_TRUE(drawn_box(Elements{}).empty());
}

TEST(Elements, CopiedOnesComeBackWithoutIdsAndUnlocked) {
    Picture copied{7, "hash", "näme.png", 2, Box::of(1, 2, 30, 40), 45, {0.1, 0.2, 0.8, 0.9}, true, 11};
    copied.treatment.quarter_turns = 1;
    Divider rule;
    rule.id = 9, rule.middle = {70, 45}, rule.form = RuleForm::wavy;
    TextBlock typed = text();
    typed.z = 4;
    const auto back = decode_elements(encode_elements({{}, {copied}, {typed}, {rule}}));
    ASSERT_TRUE(back);
    copied.id = typed.id = rule.id = 0;
    copied.locked = false, copied.z = typed.z = 0;
    EXPECT_EQ(*back, (Elements{{}, {copied}, {typed}, {rule}}));
}

TEST(Elements, DamagedJsonIsRefusedAndNeverCrashes) {
    const std::string good = encode_elements({{}, {picture()}, {text()}, {{}}});
    for (size_t cut = 0; cut < good.size(); ++cut) EXPECT_FALSE(decode_elements(good.substr(0, cut)));
    std::mt19937 random(5);
    for (int i = 0; i < 5000; ++i) {
        std::string bytes = good;
        bytes[random() % bytes.size()] = static_cast<char>(random());
        if (const auto elements = decode_elements(bytes)) static_cast<void>(validation_error(*elements));
    }
    EXPECT_FALSE(decode_elements(R"([{"kind": 77, "body": "{}"}])")) << "of no kind that is known";
    EXPECT_FALSE(decode_elements(R"({"texts": [7]})"));
}

TEST(Elements, TheHighestAtAPlaceIsFoundAcrossKinds) {
    TextBlock below = text(), above = text();
    below.id = 5, above.id = 6;
    Divider rule;
    rule.id = 8, rule.middle = {30, 15}, rule.length_mm = 30, rule.z = 3;
    Elements all{{}, {}, {below, above}, {rule}};
    EXPECT_EQ(element_at(all, {30, 15}, 1), 6) << "the rule lies below both, though its kind comes later";
    all.dividers[0].z = 9;
    EXPECT_EQ(element_at(all, {30, 15}, 1), 8);
    Picture under = picture();
    under.id = 99, under.box = Box::of(0, 0, 100, 100);
    all.pictures = {under};
    EXPECT_EQ(element_at(all, {30, 15}, 1), 8) << "pictures lie below all else";
    EXPECT_EQ(element_at(all, {90, 90}, 1), 99);
    EXPECT_EQ(element_at(all, {300, 300}, 1), 0);
    std::vector<ElementId> drawn;
    for_each_in_layer(all, PaintLayer::objects, [&](const auto& e) { drawn.push_back(e.id); });
    EXPECT_EQ(drawn, (std::vector<ElementId>{5, 6, 8}));
}

TEST(Groups, AreKeptByEveryKindAndTakenTogether) {
    Elements all;
    all.strokes = {Stroke{0, {}, 0, 0, {{{{1, 2}}, {{3, 4}}}}}};
    all.strokes[0].id = 1;
    all.texts.resize(1), all.shapes.resize(1), all.pictures.resize(1), all.dividers.resize(1), all.tables.resize(1);
    ElementId id = 0;
    for_each_element(all, [&](auto& e) { e.id = ++id; });
    EXPECT_EQ(with_groups(all, {2}), (std::vector<ElementId>{2}));
    set_group(all, 77);
    EXPECT_TRUE(any_grouped(all));
    EXPECT_EQ(with_groups(all, {2}).size(), 6U);
    all.pictures[0].locked = true;
    EXPECT_EQ(with_groups(all, {1}).size(), 5U) << "what is locked stays";
    const auto stroke = ElementTraits<Stroke>::decode(ElementTraits<Stroke>::encode(all.strokes[0]));
    ASSERT_TRUE(stroke);
    EXPECT_EQ(stroke->group, 77);
    all.texts[0].group = 5;
    renew_groups(all, [&] { return ++id; });
    EXPECT_NE(all.shapes[0].group, 77);
    EXPECT_EQ(all.shapes[0].group, all.strokes[0].group);
    EXPECT_NE(all.texts[0].group, all.shapes[0].group);
    set_group(all, 0);
    EXPECT_FALSE(any_grouped(all));
}

}  // namespace
}  // namespace fernleaf
