#include "drawing/arranging.h"

#include <gtest/gtest.h>

#include <cstdlib>
#include <filesystem>
#include <fstream>

#include "drawing/links.h"
#include "drawing/test_ink.h"
#include "drawing/test_type.h"

namespace fernleaf {
namespace {

FairShape figure(ElementId id, double x, double y) {
    FairShape out;
    out.id = id, out.key = id;
    out.shape = {ShapeKind::rectangle, {{x, y}, {x + 24, y}, {x + 24, y + 12}, {x, y + 12}}};
    return out;
}

ReadLine shapes_of(const Page& page) {
    ReadLine out;
    out.kind = RegionKind::drawing;
    for (const FairShape& s : page.shapes) out.shapes.push_back({{s.id}, {{s.shape, 1, 0}}});
    return out;
}

// A chain of three boxes in disorder, a word in the first, and something that has nothing to do with it.
Page chain() {
    Page page;
    page.info.width_mm = 148, page.info.height_mm = 210;
    page.shapes = {figure(1, 100, 120), figure(2, 20, 20), figure(3, 60, 160)};
    for (const auto& [a, b] : {std::pair(0, 1), std::pair(1, 2)}) {
        FairShape link = linked(page.shapes[static_cast<size_t>(a)], page.shapes[static_cast<size_t>(b)]);
        link.id = 10 + a;
        page.shapes.push_back(link);
    }
    page.strokes = {drawn({{106, 124}, {112, 128}}, 20), drawn({{20, 190}, {60, 190}}, 21)};
    return page;
}

const FairShape& by_key(const Page& page, int64_t key) { return *std::ranges::find(page.shapes, key, &FairShape::key); }

TEST(Arranging, AChainStandsInLayersWithItsWordsAndNothingElseMoves) {
    Page page = chain();
    const Reading reading{{shapes_of(page)}};
    auto edit = arranged(page, reading, {}, Arrangement::down, Ids{});
    ASSERT_TRUE(edit) << edit.error().message;
    hold_links(*edit, page, reading, Ids{5000});
    const Page before = page;
    apply(page, *edit);
    const Box first = drawn_box(by_key(page, 1)), second = drawn_box(by_key(page, 2)),
              third = drawn_box(by_key(page, 3));
    EXPECT_LT(first.bottom, second.top);
    EXPECT_LT(second.bottom, third.top);
    EXPECT_NEAR(first.centre().x, third.centre().x, 0.5);
    ASSERT_EQ(page.strokes.size(), 2U);
    EXPECT_EQ(std::ranges::count(page.strokes, StrokeId{21}, &Stroke::id), 1) << "it stays";
    const auto word = std::ranges::find_if(page.strokes, [](const Stroke& s) { return s.id != 21; });
    EXPECT_TRUE(first.contains(word->box().centre()));
    for (const FairShape& link : page.shapes) {
        if (!is_line(link.shape.kind)) continue;
        EXPECT_LT(distance_to(outline_of(by_key(page, link.from.figure).shape), link.shape.points.front()), 1e-6);
        EXPECT_LT(distance_to(outline_of(by_key(page, link.to.figure).shape), link.shape.points.back()), 1e-6);
    }
    const Box sheet = Box::of(0, 0, 148, 210);
    for (const Box& b : {first, second, third})
        EXPECT_TRUE(sheet.contains({b.left, b.top}) && sheet.contains({b.right, b.bottom}));
    apply(page, edit->reversed());
    EXPECT_EQ(page.shapes.size(), before.shapes.size());
    EXPECT_EQ(drawn_box(by_key(page, 1)), drawn_box(by_key(before, 1))) << "one step of undo";
}

TEST(Arranging, AcrossAndInRings) {
    const Page page = chain();
    const Reading reading{{shapes_of(page)}};
    Page across = page;
    apply(across, *arranged(page, reading, {}, Arrangement::across, Ids{}));
    EXPECT_LT(drawn_box(by_key(across, 1)).right, drawn_box(by_key(across, 2)).left);
    Page radial = page;
    apply(radial, *arranged(page, reading, {}, Arrangement::radial, Ids{}));
    const Point middle = drawn_box(by_key(radial, 2)).centre();
    EXPECT_NEAR(distance(middle, drawn_box(by_key(radial, 1)).centre()),
                distance(middle, drawn_box(by_key(radial, 3)).centre()), 1)
        << "what most links lead to is in the middle";
}

TEST(Arranging, WordsWithoutAFrameAreNodesAsWell) {
    Page page;
    page.info.width_mm = 148, page.info.height_mm = 210;
    page.shapes = {figure(1, 60, 90)};
    ReadLine drawing;
    Reading reading{{{}}};
    for (int i = 0; i < 4; ++i) {
        const Box words = Box::of(i % 2 == 0 ? 10 : 110, 20 + 50.0 * i, 20, 5);
        page.strokes.push_back(drawn({{words.left, words.top}, {words.right, words.bottom}}, 30 + i));
        FairShape line;
        line.id = 40 + i;
        line.shape = {ShapeKind::line, {on_border(page.shapes[0].shape, words.centre(), {72, 96}), words.centre()}};
        line.from.figure = 1;
        page.shapes.push_back(line);
        ReadLine said;
        said.box = words;
        said.words = {{"row", 0.9, words, {30 + i}, {}, false}};
        reading.lines.push_back(said);
    }
    reading.lines[0] = shapes_of(page);
    auto edit = arranged(page, reading, {}, Arrangement::radial, Ids{});
    ASSERT_TRUE(edit) << edit.error().message;
    hold_links(*edit, page, reading, Ids{5000});
    apply(page, *edit);
    for (const FairShape& line : page.shapes) {
        if (!is_line(line.shape.kind)) continue;
        double nearest = 1e9;
        for (const Stroke& s : page.strokes) {
            const Box b = s.box();
            const Point p = line.shape.points.back();
            nearest = std::min(nearest, std::hypot(std::max({b.left - p.x, 0.0, p.x - b.right}),
                                                   std::max({b.top - p.y, 0.0, p.y - b.bottom})));
        }
        EXPECT_LT(nearest, 3) << "it ends at its words";
    }
}

TEST(Arranging, WithoutADiagramOrWithoutGraphvizIsAClearError) {
    EXPECT_FALSE(arranged({}, {}, {}, Arrangement::down, Ids{}));
    const Page page = chain();
    const Reading reading{{shapes_of(page)}};
    const std::string path = std::getenv("PATH");
    const auto folder = std::filesystem::temp_directory_path() / ("fernleaf-path-" + std::to_string(::getpid()));
    std::filesystem::create_directory(folder);
    setenv("PATH", folder.c_str(), 1);
    const auto missing = arranged(page, reading, {}, Arrangement::down, Ids{});
    {
        std::ofstream(folder / "dot") << "#!/bin/sh\necho node n0 nonsense\n";
        std::filesystem::permissions(folder / "dot", std::filesystem::perms::owner_all);
    }
    const auto nonsense = arranged(page, reading, {}, Arrangement::down, Ids{});
    setenv("PATH", path.c_str(), 1);
    std::filesystem::remove_all(folder);
    ASSERT_FALSE(missing);
    EXPECT_NE(missing.error().message.find("graphviz"), std::string::npos) << missing.error().message;
    EXPECT_FALSE(nonsense);
}

}  // namespace
}  // namespace fernleaf
