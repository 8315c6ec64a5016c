#include "document/stroke/stroke_traits.h"

#include <gtest/gtest.h>

#include <limits>
#include <random>

namespace fernleaf {
namespace {

TEST(StrokeTraits, PointsComeBackAsTheyWentIn) {
    std::mt19937 random(4);
    std::uniform_real_distribution<double> place(-500, 500);
    std::uniform_real_distribution<float> unit(0, 1);
    Stroke s;
    for (int i = 0; i < 500; ++i)
        s.points.push_back({{place(random), place(random)},
                            unit(random),
                            90 * unit(random),
                            -90 * unit(random),
                            static_cast<uint32_t>(random() % 100'000)});
    s = ElementTraits<Stroke>::as_kept(s);
    const auto back = decode_points(encode_points(s.points));
    ASSERT_TRUE(back);
    EXPECT_EQ(*back, s.points);
}

TEST(StrokeTraits, AMouseStrokeIsSmall) {
    Stroke s;
    for (uint32_t i = 0; i < 100; ++i) s.points.push_back({{20 + 0.3 * i, 30}, 0.5F, 0, 0, 8 * i});
    EXPECT_LT(encode_points(s.points).size(), 350U);
}

TEST(StrokeTraits, DamagedBytesAreRefused) {
    Stroke s;
    s.points = {{{1, 2}}, {{3, 4}}};
    const std::string good = encode_points(s.points);
    for (size_t cut = 0; cut < good.size(); ++cut) EXPECT_FALSE(decode_points(good.substr(0, cut)));
    EXPECT_FALSE(decode_points(good + "x"));
    EXPECT_FALSE(decode_points(std::string("\x01\x00\xFF\xFF\xFF\xFF\xFF\xFF\xFF\xFF\x7F", 11)));
    std::mt19937 random(9);
    for (int i = 0; i < 20'000; ++i) {
        std::string bytes = good;
        bytes[random() % bytes.size()] = static_cast<char>(random());
        static_cast<void>(decode_points(bytes));  // must not crash, whatever it says
    }
}

TEST(StrokeTraits, AStrokeComesBackWithItsPen) {
    Stroke s;
    s.id = 7, s.z = -3, s.start_ms = 1'700'000'000'123;
    s.pen = {0x8A3B6B, 0.35F, PenKind::pencil, Tip::chisel, 0.7F, false};
    s.points = {{{1, 2}}, {{3.25, 4.5}}};
    s = ElementTraits<Stroke>::as_kept(s);
    const std::string bytes = ElementTraits<Stroke>::encode(s);
    auto back = ElementTraits<Stroke>::decode(bytes);
    ASSERT_TRUE(back);
    EXPECT_EQ(back->id, 0) << "ids and places are kept beside it";
    back->id = s.id, back->z = s.z;
    EXPECT_EQ(*back, s);
    for (size_t cut = 0; cut < bytes.size(); ++cut) EXPECT_FALSE(ElementTraits<Stroke>::decode(bytes.substr(0, cut)));
    for (const size_t at : {0U, 1U, 2U}) {  // version, kind, tip
        std::string other = bytes;
        other[at] = '\x60';
        EXPECT_FALSE(ElementTraits<Stroke>::decode(other)) << at;
    }
}

TEST(StrokeTraits, NumbersThatAreNoPlaceAreRefused) {
    Stroke s;
    s.points = {{{1, 2}}};
    s.pen.width_mm = std::numeric_limits<float>::quiet_NaN();
    EXPECT_TRUE(ElementTraits<Stroke>::validation_error(s));
    EXPECT_FALSE(ElementTraits<Stroke>::decode(ElementTraits<Stroke>::encode(s)));
}

}  // namespace
}  // namespace fernleaf
