#include "reading/ink_reading.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>
#include <unordered_map>
#include <unordered_set>

#include "base/text.h"
#include "ink/grouping.h"
#include "ink/ringed.h"
#include "ink/underline.h"
#include "transcript/proof_mark.h"

namespace fernleaf {
namespace {

uint64_t signature_of(const std::vector<const Stroke*>& strokes, uint64_t seed) {
    std::vector<StrokeId> ids;
    for (const Stroke* s : strokes) ids.push_back(s->id);
    std::ranges::sort(ids);
    uint64_t hash = seed;
    for (const StrokeId id : ids) hash = mixed(hash, static_cast<uint64_t>(id));
    // Strokes without an id (from a file that is only read) are told apart by their place.
    for (const Stroke* s : strokes)
        if (s->id == 0)
            for (const InkPoint& p : s->points)
                hash = mixed(hash, static_cast<uint64_t>(std::llround(p.at.x * 1000)) ^
                                       static_cast<uint64_t>(std::llround(p.at.y * 1000)) << 24);
    return hash;
}

// Each stroke goes to the word its centre lies in; words that get none take the nearest stroke's place for their box.
std::vector<ReadWord> tie_to_strokes(const LineReading& reading, const LinePicture& picture,
                                     const std::vector<const Stroke*>& strokes) {
    std::vector<ReadWord> words;
    for (const WordReading& word : reading.words)
        words.push_back({word.text, word.certainty, {}, {}, word.alternatives, false});
    if (words.empty()) return words;
    for (const Stroke* stroke : strokes) {
        const Box box = stroke->box();
        size_t best = 0;
        double most = -1e9;
        for (size_t i = 0; i < words.size(); ++i) {
            const double begin = picture.source_x(reading.words[i].begin);
            const double end = picture.source_x(reading.words[i].end);
            const double shared = std::min(end, box.right) - std::max(begin, box.left);
            if (shared > most) most = shared, best = i;
        }
        words[best].box.include(box.grown(stroke->pen.width_mm / 2));
        words[best].strokes.push_back(stroke->id);
    }
    Box line;
    for (const Stroke* stroke : strokes) line.include(stroke->box());
    for (size_t i = 0; i < words.size(); ++i) {
        if (!words[i].box.empty()) continue;
        // Joined to its neighbour in one stroke: the columns alone tell its place.
        const double left = picture.source_x(reading.words[i].begin);
        const double right = picture.source_x(reading.words[i].end);
        const double middle = line.centre().y + picture.slope * ((left + right) / 2 - line.centre().x);
        words[i].box = {left, middle - line.height() / 2, right, middle + line.height() / 2};
    }
    return words;
}

}  // namespace

uint64_t signature(const ReadSettings& settings) {
    uint64_t hash = mixed(kFnvBasis, static_cast<uint64_t>(settings.language_weight * 1000));
    for (const std::string& language : settings.languages)
        for (const char c : language + ' ') hash = mixed(hash, static_cast<unsigned char>(c));
    uint64_t words = 0;  // the order of a list does not matter
    for (const std::string& word : settings.words) words += std::hash<std::string>{}(word);
    if (settings.hand) hash = mixed(hash, settings.hand->id);
    // SQLite's integers are signed: keep to 63 bits.
    return mixed(hash, words) >> 1;
}

namespace {

// Strokes that are read together, and what is known of them beforehand.
struct Share {
    std::vector<Stroke> strokes;
    std::optional<InkClass> kind;
};

// What a person spoke of by itself, and first all the rest.
std::vector<Share> shares_of(const std::vector<Stroke>& strokes, const std::vector<Correction>& corrections) {
    std::unordered_map<StrokeId, size_t> share_of;  // counted from 1
    for (size_t i = 0; i < corrections.size(); ++i)
        if (corrections[i].is_of_kind())
            for (const StrokeId id : corrections[i].strokes) share_of[id] = i + 1;
    std::vector<Share> shares(corrections.size() + 1);
    for (size_t i = 0; i < corrections.size(); ++i) shares[i + 1].kind = corrections[i].kind;
    for (const Stroke& s : strokes) {
        const auto found = s.id != 0 ? share_of.find(s.id) : share_of.end();
        shares[found == share_of.end() ? 0 : found->second].strokes.push_back(s);
    }
    return shares;
}

// What was said to be text, or a table, is grouped into lines, and formulas are parted; all else that was said is one
// thing.
std::vector<InkLine> lines_of(const Share& share) {
    if (share.kind == InkClass::math) return group_formulas(share.strokes);
    const bool lines = !share.kind || *share.kind == InkClass::text || *share.kind == InkClass::table;
    if (!lines) return {one_line(share.strokes)};
    return group_lines(share.strokes);
}

RegionKind kind_of(const InkLine& line, std::optional<InkClass> corrections) {
    if (corrections == InkClass::math) return RegionKind::math;
    if (corrections ? corrections == InkClass::drawing || corrections == InkClass::shape : line.drawing)
        return RegionKind::drawing;
    return RegionKind::text;
}

// A word is emphasised when most of its ink stands on a line or a wave. Strokes without an id can't be told apart.
void emphasise(std::vector<ReadLine>& lines, const std::vector<Stroke>& strokes,
               const std::vector<Underline>& underlines) {
    std::unordered_set<StrokeId> italic, bold;
    for (const Underline& u : underlines)
        for (const size_t i : u.over)
            if (strokes[i].id != 0) (u.wave ? bold : italic).insert(strokes[i].id);
    const auto most = [](const ReadWord& word, const std::unordered_set<StrokeId>& of) {
        return 2 * std::ranges::count_if(word.strokes, [&](StrokeId id) { return of.contains(id); }) >
               std::ssize(word.strokes);
    };
    for (ReadLine& line : lines)
        for (ReadWord& word : line.words) {
            word.italic = most(word, italic);
            word.bold = most(word, bold);
        }
}

// A ringed letter in the margin.
struct Head {
    ReadWord letter;  // with its ring
    int level = 0;
    std::vector<size_t> ink;  // indices into the strokes, the ring the last
};

std::vector<Head> heads_in(const std::vector<Stroke>& strokes, const Reader& reader, const ReadSettings& settings) {
    std::vector<Head> heads;
    for (const Ringed& ringed : ringed_in(strokes)) {
        std::vector<const Stroke*> inside;
        for (const size_t i : ringed.inside) inside.push_back(&strokes[i]);
        const LineReading reading = reader.read(draw_line(inside, 0), settings);
        if (reading.words.size() != 1) continue;
        const WordReading& word = reading.words[0];
        Head head{{word.text, word.certainty, strokes[ringed.ring].box(), {}, word.alternatives}, 0, ringed.inside};
        head.level = head_level(head.letter);
        if (head.level == 0) continue;
        head.ink.push_back(ringed.ring);
        for (const size_t i : head.ink) head.letter.strokes.push_back(strokes[i].id);
        heads.push_back(std::move(head));
    }
    return heads;
}

// Marks about words, which are not read as part of them; those that a person spoke of are not among them.
struct SetApart {
    std::vector<Underline> underlines;
    std::vector<Head> heads;
    std::unordered_set<size_t> ink;  // indices into the strokes
};

SetApart set_apart(const std::vector<Stroke>& strokes, const Reader& reader, const ReadSettings& settings,
                   const std::vector<Correction>& corrections) {
    std::unordered_set<StrokeId> spoken_of;
    for (const Correction& correction : corrections)
        if (correction.is_of_kind()) spoken_of.insert(correction.strokes.begin(), correction.strokes.end());
    SetApart out{underlines_in(strokes), heads_in(strokes, reader, settings), {}};
    std::erase_if(out.underlines, [&](const Underline& u) { return spoken_of.contains(strokes[u.stroke].id); });
    std::erase_if(out.heads, [&](const Head& h) { return spoken_of.contains(strokes[h.ink.back()].id); });
    for (const Underline& u : out.underlines) out.ink.insert(u.stroke);
    for (const Head& head : out.heads) out.ink.insert(head.ink.begin(), head.ink.end());
    return out;
}

// Makes headings of the lines beside which letters stand; a letter beside none is a line of its own.
void place_heads(Reading& reading, std::vector<Head> heads) {
    for (ReadLine& line : reading.lines) line.heading = 0;
    for (Head& head : heads) {
        ReadLine* beside = nullptr;
        double nearest = std::numeric_limits<double>::infinity();
        for (ReadLine& line : reading.lines) {
            if (line.kind != RegionKind::text) continue;
            const double off = std::abs(line.box.centre().y - head.letter.box.centre().y);
            const bool margin = head.letter.box.right < line.box.left || head.letter.box.left > line.box.right;
            if (margin && off < line.box.height() && off < nearest) beside = &line, nearest = off;
        }
        if (beside) {
            beside->heading = head.level;
            continue;
        }
        ReadLine alone;
        alone.box = head.letter.box;
        alone.certainty = head.letter.certainty;
        alone.words.push_back(std::move(head.letter));
        insert_regions(reading, {std::move(alone)});
    }
}

}  // namespace

std::vector<ReadLine> read_ink(const std::vector<Stroke>& all, const Reader& reader, const ReadSettings& settings,
                               const Reading& earlier, const CancelToken& cancel, const Progress& progress,
                               const std::vector<Correction>& corrections) {
    std::unordered_map<uint64_t, const ReadLine*> known;
    for (const ReadLine& line : earlier.lines) known[line.input_signature] = &line;

    SetApart apart = set_apart(all, reader, settings, corrections);
    std::vector<Stroke> rest;
    for (size_t i = 0; i < all.size() && !apart.ink.empty(); ++i)
        if (!apart.ink.contains(i)) rest.push_back(all[i]);
    const std::vector<Stroke>& strokes = apart.ink.empty() ? all : rest;

    Reading out;
    size_t done = 0;
    for (const Share& share : shares_of(strokes, corrections)) {
        if (share.strokes.empty()) continue;
        const uint64_t seed =
            share.kind ? mixed(signature(settings), 1 + static_cast<uint64_t>(*share.kind)) : signature(settings);
        std::vector<ReadLine> lines;
        for (const InkLine& group : lines_of(share)) {
            if (cancel.cancelled()) break;
            std::vector<const Stroke*> members;
            for (const size_t m : group.members) members.push_back(&share.strokes[m]);
            ReadLine line;
            line.input_signature = signature_of(members, seed) >> 1;
            if (const auto found = known.find(line.input_signature); found != known.end()) {
                line = *found->second;
                line.cell = -1;  // it may have stood in a table
            } else {
                line.kind = kind_of(group, share.kind);
                if (line.kind == RegionKind::text) {
                    const LinePicture picture = draw_line(members, group.slope);
                    const LineReading reading = reader.read(picture, settings);
                    line.words = tie_to_strokes(reading, picture, members);
                    line.certainty = reading.certainty;
                }
            }
            line.region = group.region;
            line.box = group.box;
            line.ink.clear();
            if (line.kind != RegionKind::text)
                for (const Stroke* stroke : members) line.ink.push_back(stroke->id);
            done += members.size();
            if (line.kind != RegionKind::text || !line.words.empty()) lines.push_back(std::move(line));
            if (progress) progress(static_cast<double>(done) / static_cast<double>(strokes.size()));
        }
        if (!share.kind)
            out.lines = std::move(lines);
        else
            insert_regions(out, std::move(lines));
    }
    emphasise(out.lines, all, apart.underlines);
    place_heads(out, std::move(apart.heads));
    return out.lines;
}

}  // namespace fernleaf
