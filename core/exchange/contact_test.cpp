#include "exchange/contact.h"

#include <gtest/gtest.h>

namespace fernleaf {
namespace {

TEST(Contact, IsAVCard) {
    const Useful number{UsefulKind::telephone, "555-0142", "5550142"};
    EXPECT_EQ(write_vcard("Mirela Stan; press", number),
              "BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Mirela Stan\\; press\r\nTEL;VALUE=uri:tel:5550142\r\nEND:VCARD\r\n");
    const Useful mail{UsefulKind::mail, "ines@example.org", "ines@example.org"};
    EXPECT_NE(write_vcard("", mail).find("FN:ines@example.org\r\nEMAIL:ines@example.org\r\n"), std::string::npos);
}

TEST(Event, IsADayOrAnHour) {
    Useful moment{UsefulKind::moment, "7 May", {}, Date{2026, 5, 7}};
    std::string event = write_event("Frost watch, lower row", moment, {}, "20260314T120000Z");
    EXPECT_NE(event.find("DTSTART;VALUE=DATE:20260507\r\n"), std::string::npos);
    EXPECT_NE(event.find("SUMMARY:Frost watch\\, lower row\r\n"), std::string::npos);
    moment.time = Time{5, 30};
    moment.date.reset();
    event = write_event("", moment, {2026, 3, 14}, "20260314T120000Z");
    EXPECT_NE(event.find("DTSTART:20260314T053000\r\nDURATION:PT1H\r\n"), std::string::npos);
    EXPECT_NE(event.find("SUMMARY:7 May\r\n"), std::string::npos);
}

TEST(Event, LongLinesAreFoldedBetweenLetters) {
    std::string about;
    for (int i = 0; i < 60; ++i) about += "Öl ";
    const std::string event =
        write_event(about, {UsefulKind::moment, "x", {}, Date{2026, 5, 7}}, {}, "20260314T120000Z");
    size_t begin = 0;
    while (begin < event.size()) {
        const size_t end = event.find("\r\n", begin);
        ASSERT_NE(end, std::string::npos);
        EXPECT_LE(end - begin, 75U);
        EXPECT_NE(static_cast<unsigned char>(event[end - 1]), 0xC3U) << "a letter is cut";
        begin = end + 2;
    }
}

}  // namespace
}  // namespace fernleaf
