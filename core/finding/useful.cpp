#include "finding/useful.h"

#include <algorithm>
#include <array>
#include <regex>
#include <string_view>

#include "base/text.h"

namespace fernleaf {
namespace {

constexpr size_t kLeastDigits = 7, kMostDigits = 15;  // of a telephone number (ITU-T E.164 allows fifteen)
constexpr size_t kBareDigits = 9;                     // without any sign between them it takes more to be one
constexpr size_t kLongestLine = 1000;                 // bytes; expressions are matched recursively
constexpr size_t kTogether = 12;                      // letters between a date and its time
constexpr int kPastMonths = 6;                        // a date without a year lies no farther back

// The months' names, folded, in the languages that are read most; they are often cut short, to three letters at least.
constexpr std::array<std::array<std::string_view, 8>, 12> kMonths = {{
    {"january", "januar", "janvier", "enero", "gennaio", "januari", "janeiro", ""},
    {"february", "februar", "fevrier", "febrero", "febbraio", "februari", "fevereiro", ""},
    {"march", "marz", "maerz", "mars", "marzo", "maart", "marco", "mrz"},
    {"april", "avril", "abril", "aprile", "", "", "", ""},
    {"may", "mai", "mayo", "maggio", "mei", "maio", "", ""},
    {"june", "juni", "juin", "junio", "giugno", "junho", "", ""},
    {"july", "juli", "juillet", "julio", "luglio", "julho", "", ""},
    {"august", "aout", "agosto", "augustus", "", "", "", ""},
    {"september", "septembre", "septiembre", "settembre", "setembro", "", "", ""},
    {"october", "oktober", "octobre", "octubre", "ottobre", "outubro", "", ""},
    {"november", "novembre", "noviembre", "novembro", "", "", "", ""},
    {"december", "dezember", "decembre", "diciembre", "dicembre", "dezembro", "", ""},
}};
// Words that a month's name begins with and that are none.
constexpr std::array<std::string_view, 3> kNoMonths = {"set", "out", "dic"};

int month_of(const std::string& word) {
    const std::string name = fold(word);
    if (name.size() < 3 || std::ranges::find(kNoMonths, name) != kNoMonths.end()) return 0;
    for (size_t m = 0; m < kMonths.size(); ++m)
        for (const std::string_view full : kMonths[m])
            if (full.starts_with(name)) return static_cast<int>(m) + 1;
    return 0;
}

int days_in(int year, int month) {
    constexpr std::array<int, 12> kDays = {31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31};
    const bool leap = year % 4 == 0 && (year % 100 != 0 || year % 400 == 0);
    return kDays[static_cast<size_t>(month - 1)] + (month == 2 && leap ? 1 : 0);
}

int number(const std::ssub_match& match) { return match.matched && match.length() > 0 ? std::stoi(match.str()) : 0; }

std::optional<Date> date_of(int year, int month, int day, Date written) {
    if (year == 0) {
        year = written.year;
        if ((written.month - month) > kPastMonths) ++year;
    } else if (year < 100) {
        year += 2000;
    }
    const Date date{year, month, day};
    return valid(date) ? std::optional(date) : std::nullopt;
}

// Whether a line can hold anything at all: most hold neither a digit nor an at sign nor a point within a word.
bool may_hold(const std::string& text) {
    for (size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        if ((c >= '0' && c <= '9') || c == '@') return true;
        if (c == '.' && i > 0 && i + 1 < text.size() && text[i + 1] != ' ' && text[i + 1] != '.') return true;
    }
    return false;
}

struct Find {
    size_t begin = 0, end = 0;
    Useful useful;
};

class Line {
public:
    Line(const ReadLine& line, int number, Date written) : number_(number), written_(written) {
        for (const ReadWord& word : line.words) {
            if (!text_.empty()) text_ += ' ';
            begins_.push_back(text_.size());
            text_ += word.text;
        }
    }

    std::vector<Useful> all() {
        addresses();
        dates();
        times();
        telephones();
        std::ranges::sort(finds_, {}, &Find::begin);
        join_moments();
        std::vector<Useful> out;
        for (Find& f : finds_) {
            f.useful.line = number_;
            f.useful.text = text_.substr(f.begin, f.end - f.begin);
            f.useful.first_word = word_at(f.begin);
            f.useful.last_word = word_at(f.end - 1);
            out.push_back(std::move(f.useful));
        }
        return out;
    }

private:
    int word_at(size_t place) const {
        return static_cast<int>(std::ranges::upper_bound(begins_, place) - begins_.begin()) - 1;
    }

    template <typename Take>
    void each(const std::regex& pattern, Take take) {
        for (std::sregex_iterator it(text_.begin(), text_.end(), pattern), end; it != end; ++it) {
            const size_t from = static_cast<size_t>(it->position()), to = from + static_cast<size_t>(it->length());
            const auto over = [&](const Find& f) { return f.begin < to && from < f.end; };
            if (std::ranges::any_of(finds_, over)) continue;
            if (std::optional<Useful> useful = take(*it)) finds_.push_back({from, to, *std::move(useful)});
        }
    }

    void addresses() {
        static const std::regex mail(R"([A-Za-z0-9._%+-]+@[A-Za-z0-9-]+(\.[A-Za-z0-9-]+)*\.[A-Za-z]{2,})");
        each(mail, [](const std::smatch& m) { return Useful{UsefulKind::mail, {}, m.str()}; });
        static const std::regex web(
            R"(\b(https?://|www\.)[A-Za-z0-9-]+(\.[A-Za-z0-9-]+)+(/[^\s,;]*)?|\b[A-Za-z0-9-]+(\.[A-Za-z0-9-]+)*\.(org|com|net|info|edu|eu|de|fr|es|it|nl|at|ch|uk)\b(/[^\s,;]*)?)");
        each(web, [](const std::smatch& m) {
            const std::string text = m.str();
            return Useful{UsefulKind::web, {}, text.starts_with("http") ? text : "https://" + text};
        });
    }

    void dates() {
        const auto moment = [](std::optional<Date> date) -> std::optional<Useful> {
            if (!date) return {};
            return Useful{UsefulKind::moment, {}, {}, date};
        };
        static const std::regex iso(R"(\b(\d{4})-(\d{1,2})-(\d{1,2})\b)");
        each(iso,
             [&](const std::smatch& m) { return moment(date_of(number(m[1]), number(m[2]), number(m[3]), written_)); });
        static const std::regex numbers(R"(\b(\d{1,2})([./])(\d{1,2})\2(\d{4}|\d{2})?(?!\d))");
        each(numbers, [&](const std::smatch& m) {
            const int a = number(m[1]), b = number(m[3]), year = number(m[4]);
            if (m[2] == "/" && !m[4].matched) return moment({});  // a fraction
            const auto usual = date_of(year, b, a, written_);
            return moment(usual ? usual : date_of(year, a, b, written_));
        });
        static const std::regex day_first(
            R"(\b(\d{1,2})(?:st|nd|rd|th|\.|er)? ?(?:of |de )?([^\s\d.,:;]{3,})\.?(?:,? (\d{4}))?)");
        each(day_first, [&](const std::smatch& m) {
            const int month = month_of(m[2]);
            return moment(month == 0 ? std::nullopt : date_of(number(m[3]), month, number(m[1]), written_));
        });
        static const std::regex month_first(
            R"(([A-Za-z\x80-\xFF]{3,})\.? (\d{1,2})(?:st|nd|rd|th)?\b(?![.:]\d)(?:,? (\d{4}))?)");
        each(month_first, [&](const std::smatch& m) {
            const int month = month_of(m[1]);
            return moment(month == 0 ? std::nullopt : date_of(number(m[3]), month, number(m[2]), written_));
        });
    }

    void times() {
        static const std::regex clock(
            R"(\b(\d{1,2})(?:[:.](\d{2}))? ?(am|pm|a\.m\.|p\.m\.|Uhr|uhr|h)(?![A-Za-z])|\b(\d{1,2}):(\d{2})\b(?!:))");
        each(clock, [](const std::smatch& m) -> std::optional<Useful> {
            const bool marked = m[3].matched;
            Time time{number(m[marked ? 1 : 4]), number(m[marked ? 2 : 5])};
            const std::string mark = m[3];
            if (mark.starts_with('p') && time.hour < 12) time.hour += 12;
            if (mark.starts_with('a') && time.hour == 12) time.hour = 0;
            if (time.hour > 23 || time.minute > 59) return {};
            return Useful{UsefulKind::moment, {}, {}, {}, time};
        });
    }

    void telephones() {
        static const std::regex run(R"((\+|\b00|\(0|\b)\d[\d ()/.-]{4,}\d)");
        each(run, [](const std::smatch& m) -> std::optional<Useful> {
            std::string digits;
            const std::string text = m.str();
            bool separated = false;
            for (const char c : text) {
                if (c >= '0' && c <= '9') digits += c;
                separated = separated || c == '-' || c == ' ' || c == '/' || c == '(';
            }
            const bool abroad = text.starts_with('+');
            if (digits.size() < kLeastDigits || digits.size() > kMostDigits) return {};
            if (!abroad && !separated && (digits.size() < kBareDigits || digits[0] != '0')) return {};
            // Groups of three all along are thousands.
            static const std::regex thousands(R"(\d{1,3}([ .]\d{3})+)");
            if (!abroad && std::regex_match(text, thousands)) return {};
            return Useful{UsefulKind::telephone, {}, (abroad ? "+" : "") + digits};
        });
    }

    // A date and the time that stands by it are one moment.
    void join_moments() {
        for (size_t i = 1; i < finds_.size();) {
            Find &a = finds_[i - 1], &b = finds_[i];
            const bool moments = a.useful.kind == UsefulKind::moment && b.useful.kind == UsefulKind::moment;
            const bool differ = a.useful.date.has_value() != b.useful.date.has_value();
            if (!moments || !differ || b.begin - a.end > kTogether) {
                ++i;
                continue;
            }
            if (!a.useful.date) a.useful.date = b.useful.date;
            if (!a.useful.time) a.useful.time = b.useful.time;
            a.end = b.end;
            finds_.erase(finds_.begin() + static_cast<std::ptrdiff_t>(i));
        }
    }

    std::string text_;
    std::vector<size_t> begins_;
    std::vector<Find> finds_;
    int number_ = 0;
    Date written_;
};

}  // namespace

bool valid(Date date) {
    return date.year >= 1900 && date.year <= 2999 && date.month >= 1 && date.month <= 12 && date.day >= 1 &&
           date.day <= days_in(date.year, date.month);
}

std::vector<Useful> useful_in(const Reading& reading, Date written) {
    UsefulFinder finder;
    finder.look(reading, written);
    return finder.found();
}

const Useful* UsefulFinder::at(int line, int word) const {
    const auto found = std::ranges::find_if(
        found_, [&](const Useful& u) { return u.line == line && word >= u.first_word && word <= u.last_word; });
    return found == found_.end() ? nullptr : &*found;
}

void UsefulFinder::look(const Reading& reading, Date written) {
    if (written != written_) known_.clear();
    written_ = written;
    found_.clear();
    std::map<std::string, std::vector<Useful>> seen;
    for (size_t l = 0; l < reading.lines.size(); ++l) {
        if (reading.lines[l].kind != RegionKind::text) continue;
        const std::string text = reading.lines[l].text();
        if (text.size() > kLongestLine || !may_hold(text)) continue;
        auto& found = seen[text];
        if (const auto known = known_.find(text); known != known_.end())
            found = known->second;
        else
            found = Line(reading.lines[l], static_cast<int>(l), written).all();
        for (Useful& useful : found) {
            useful.line = static_cast<int>(l);
            found_.push_back(useful);
        }
    }
    known_ = std::move(seen);
}

}  // namespace fernleaf
