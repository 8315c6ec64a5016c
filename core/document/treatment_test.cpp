#include "document/treatment.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

Treatment treated_sheet() {
    Treatment out;
    out.outline = SheetOutline{{{{1.5, 2}, {300, 5}, {310.25, 400}, {-4, 390}}}, {{{0.02, -0.01}, {}, {0.1, 0}, {}}}};
    out.quarter_turns = 3, out.turn_deg = -2.5, out.aspect = 1.25, out.look = Look::grey, out.without_rules = true;
    out.dpi = 300, out.lifted = {{0.1, 0.25, 0.30001, 0.5}, {0, 0, 1, 1}};
    return out;
}

TEST(Treatment, ATreatmentComesBackAsItWentIn) {
    EXPECT_EQ(encode_treatment({}), "") << "pictures left as they are need nothing";
    EXPECT_TRUE(decode_treatment("")->untouched());
    EXPECT_EQ(*decode_treatment(encode_treatment(treated_sheet())), treated_sheet());
    Treatment turned;
    turned.quarter_turns = 1;
    EXPECT_EQ(*decode_treatment(encode_treatment(turned)), turned);
}

TEST(Treatment, ATreatmentThatCanNotBeIsRefused) {
    const std::string good = encode_treatment(treated_sheet());
    for (size_t cut = 1; cut < good.size(); ++cut) EXPECT_FALSE(decode_treatment(good.substr(0, cut)));
    const auto with = [](auto change) {
        Treatment t = treated_sheet();
        change(t);
        return decode_treatment(encode_treatment(t));
    };
    EXPECT_TRUE(with([](Treatment&) {}));
    EXPECT_FALSE(with(
        [](Treatment& t) { std::swap(t.outline->corners[0], t.outline->corners[2]), t.outline->corners[1] = {}; }));
    EXPECT_FALSE(with([](Treatment& t) { t.turn_deg = 400; }));
    EXPECT_FALSE(with([](Treatment& t) { t.aspect = 1e300; }));
    EXPECT_FALSE(with([](Treatment& t) { t.aspect = -1; }));
    EXPECT_FALSE(with([](Treatment& t) { t.look = static_cast<Look>(9); }));
    EXPECT_FALSE(with([](Treatment& t) { t.dpi = -1; }));
    EXPECT_FALSE(with([](Treatment& t) { t.lifted[1] = {0.5, 0, 0.25, 1}; })) << "a box that ends before it begins";
    EXPECT_FALSE(decode_treatment("[3]"));
}

}  // namespace
}  // namespace fernleaf
