// What in a reading can be used elsewhere: telephone numbers, mail and web addresses, dates and times.
//
//   for (const Useful& u : useful_in(reading, {2026, 3, 14})) offer(u);
#pragma once

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "document/page.h"
#include "transcript/reading.h"

namespace fernleaf {

struct Date {
    int year = 0;
    int month = 0;  // 1 to 12
    int day = 0;    // 1 to 31
    friend bool operator==(const Date&, const Date&) = default;
};

struct Time {
    int hour = 0;  // 0 to 23
    int minute = 0;
    friend bool operator==(const Time&, const Time&) = default;
};

enum class UsefulKind { telephone, mail, web, moment };

struct Useful {
    UsefulKind kind = UsefulKind::telephone;
    std::string text;   // as it stands in the line
    std::string value;  // what to dial, write to or open; empty for a moment
    std::optional<Date> date = {};
    std::optional<Time> time = {};
    int line = 0;  // of the reading
    int first_word = 0;
    int last_word = 0;
};

// In the order of the reading. written: when the page was; a date without a year is the one nearest to it, not long
// before. Day and month stand in this order where both are numbers, as in most of the world, unless only the other
// order makes a date.
std::vector<Useful> useful_in(const Reading& reading, Date written);

// The same for a page that is read again and again: lines that say what they said are not looked through again.
//
//   UsefulFinder finder;
//   finder.look(reading, written);   // as often as the reading changes
//   finder.found();
class UsefulFinder {
public:
    void look(const Reading& reading, Date written);
    const std::vector<Useful>& found() const { return found_; }
    // What a word of the reading is part of; null: of nothing.
    const Useful* at(int line, int word) const;

private:
    std::vector<Useful> found_;
    std::map<std::string, std::vector<Useful>> known_;  // by the line's text
    Date written_;
};

// Whether there is such a day.
bool valid(Date date);

}  // namespace fernleaf
