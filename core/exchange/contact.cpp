#include "exchange/contact.h"

#include <cstdio>

#include "base/text.h"

namespace fernleaf {
namespace {

constexpr size_t kLongestLine = 75;  // bytes, as both standards ask

std::string escaped(const std::string& text) {
    std::string out;
    for (const char c : text) {
        if (c == '\n')
            out += "\\n";
        else if (c == '\\' || c == ',' || c == ';')
            out += std::string("\\") + c;
        else if (static_cast<unsigned char>(c) >= 0x20)
            out += c;
    }
    return out;
}

// Folded where it is too long, never within a letter.
std::string line(const std::string& text) {
    std::string out;
    size_t length = 0;
    for (const char32_t c : decode_utf8(text)) {
        const std::string letter = encode_utf8(std::u32string(1, c));
        if (length + letter.size() > kLongestLine) out += "\r\n ", length = 1;
        out += letter;
        length += letter.size();
    }
    return out + "\r\n";
}

std::string day(Date d) {
    char text[16];
    std::snprintf(text, sizeof text, "%04d%02d%02d", d.year % 10000, d.month % 100, d.day % 100);
    return text;
}

std::string clock(Time t) {
    char text[16];
    std::snprintf(text, sizeof text, "T%02d%02d00", t.hour % 100, t.minute % 100);
    return text;
}

}  // namespace

std::string write_vcard(const std::string& name, const Useful& useful) {
    const std::string shown = trimmed(name).empty() ? useful.value : trimmed(name);
    std::string out = "BEGIN:VCARD\r\nVERSION:4.0\r\n" + line("FN:" + escaped(shown));
    if (useful.kind == UsefulKind::mail)
        out += line("EMAIL:" + escaped(useful.value));
    else
        out += line("TEL;VALUE=uri:tel:" + useful.value);
    return out + "END:VCARD\r\n";
}

std::string write_event(const std::string& about, const Useful& useful, Date otherwise, const std::string& stamp) {
    const Date date = useful.date.value_or(otherwise);
    std::string out = "BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//Fernleaf//EN\r\nBEGIN:VEVENT\r\n";
    out += line("UID:" + stamp + "-" + day(date) + "@fernleaf.invalid") + line("DTSTAMP:" + stamp);
    if (useful.time)
        out += line("DTSTART:" + day(date) + clock(*useful.time)) + line("DURATION:PT1H");
    else
        out += line("DTSTART;VALUE=DATE:" + day(date));
    out += line("SUMMARY:" + escaped(trimmed(about).empty() ? useful.text : trimmed(about)));
    return out + "END:VEVENT\r\nEND:VCALENDAR\r\n";
}

}  // namespace fernleaf
