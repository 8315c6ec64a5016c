// What was written on which day.
#include <algorithm>
#include <map>

#include "base/local_day.h"
#include "sound/heard_times.h"
#include "store/library.h"
#include "store/records.h"

namespace fernleaf {
namespace {

// Conditions on rows of `written` and `page`.
std::string narrowed(const DayFilter& filter) {
    std::string out;
    if (filter.notebook != 0) out += " AND p.notebook = " + std::to_string(filter.notebook);
    if (filter.by_pen) out += " AND w.pen <> ''";
    if (const std::string tag = std::to_string(filter.tag); filter.tag != 0)
        out += " AND (EXISTS (SELECT 1 FROM page_tag t WHERE t.page = p.id AND t.tag = " + tag +
               ") OR EXISTS (SELECT 1 FROM notebook_tag t WHERE t.notebook = n.id AND t.tag = " + tag + "))";
    return out;
}

constexpr char kOnPages[] =
    " FROM written w JOIN page p ON p.id = w.page JOIN notebook n ON n.id = p.notebook WHERE p.binned = 0 AND n.binned "
    "= 0";

}  // namespace

void Library::count_written(PageId page, const std::vector<Stroke>& strokes, const std::vector<Stroke>& instead_of,
                            const std::string& pen) {
    struct Written {
        int64_t strokes = 0, first = 0, last = 0;
    };
    std::map<int64_t, Written> days;
    for (const Stroke& s : strokes) {
        if (s.start_ms <= 0) continue;
        // What is only changed was written before.
        if (std::ranges::find(instead_of, s.start_ms, &Stroke::start_ms) != instead_of.end()) continue;
        Written& day = days[local_day(s.start_ms)];
        day.first = day.strokes == 0 ? s.start_ms : std::min(day.first, s.start_ms);
        day.last = std::max(day.last, s.start_ms);
        ++day.strokes;
    }
    Statement add = db_->prepare(
        "INSERT INTO written (page, day, pen, strokes, first, last) VALUES (?, ?, ?, ?, ?, ?) ON CONFLICT (page, day, "
        "pen) DO UPDATE SET strokes = strokes + excluded.strokes, first = min(first, excluded.first), last = max(last, "
        "excluded.last)");
    for (const auto& [day, written] : days) {
        add.reset().bind(page).bind(day).bind(pen);
        add.bind(written.strokes).bind(written.first).bind(written.last).run();
    }
}

Result<std::vector<WrittenDay>> Library::days(const DayFilter& filter) const {
    const Turn turn(mutex_, db_);
    std::vector<WrittenDay> out;
    const std::vector<VoiceTrack> tracks = tracks_locked();
    const HeardTimes heard(tracks);
    Statement s = db_->prepare(std::string("SELECT w.day, w.page, sum(w.strokes), min(w.first), max(w.last)") +
                               kOnPages + narrowed(filter) + " GROUP BY w.day, w.page ORDER BY w.day DESC");
    while (s.step()) {
        if (filter.sound && !heard.meets(s.integer(3), s.integer(4))) continue;
        if (out.empty() || out.back().day != s.integer(0)) out.push_back({s.integer(0)});
        ++out.back().pages;
        out.back().strokes += static_cast<size_t>(s.integer(2));
    }
    std::map<int64_t, int64_t> recorded;
    for (const VoiceTrack& t : tracks)
        for (const TrackPiece& p : t.pieces) recorded[local_day(p.began_ms)] += p.length_ms;
    for (WrittenDay& day : out)
        if (const auto found = recorded.find(day.day); found != recorded.end()) day.recorded_ms = found->second;
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<std::vector<DayPage>> Library::written_on(int64_t day, const DayFilter& filter) const {
    const Turn turn(mutex_, db_);
    std::vector<DayPage> out;
    const HeardTimes heard(tracks_locked());
    Statement s = db_->prepare(
        std::string("SELECT w.page, p.notebook, n.title, p.number, min(w.first), max(w.last), sum(w.strokes), "
                    "max(w.pen)") +
        kOnPages + " AND w.day = ?" + narrowed(filter) + " GROUP BY w.page ORDER BY max(w.last) DESC");
    s.bind(day);
    while (s.step()) {
        DayPage page;
        page.page = s.integer(0), page.notebook = s.integer(1);
        page.notebook_title = s.text(2);
        page.page_number = static_cast<int>(s.integer(3));
        page.first_ms = s.integer(4), page.last_ms = s.integer(5);
        page.strokes = static_cast<size_t>(s.integer(6));
        page.by_pen = !s.text(7).empty();
        page.sound = heard.meets(page.first_ms, page.last_ms);
        if (filter.sound && !page.sound) continue;
        out.push_back(std::move(page));
    }
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<std::unordered_map<NotebookId, int64_t>> Library::last_written() const {
    const Turn turn(mutex_, db_);
    std::unordered_map<NotebookId, int64_t> out;
    Statement s = db_->prepare(
        "SELECT p.notebook, max(w.last) FROM written w JOIN page p ON p.id = w.page WHERE p.binned = 0 GROUP BY "
        "p.notebook");
    while (s.step()) out[s.integer(0)] = s.integer(1);
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

}  // namespace fernleaf
