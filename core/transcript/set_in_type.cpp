#include "transcript/set_in_type.h"

#include <algorithm>
#include <array>
#include <map>
#include <unordered_map>

#include "base/quantile.h"
#include "ink/ringed.h"
#include "ink/underline.h"

namespace fernleaf {
namespace {

constexpr double kTypeToInk = 0.86;      // of the type's body to the height of a written line, loops included
constexpr double kTypeToPitch = 0.72;    // at most, of the distance between lines
constexpr double kSmallestShrink = 0.6;  // of type that is too wide for its place
constexpr double kUsualPitch = 1.3;      // of lines whose distance is not known, to the type's body
constexpr double kLeastSizeMm = 1.8, kMostSizeMm = 30;
constexpr double kHeadingHeight = 1.35, kLargeHeadingHeight = 1.8;  // to the page's usual line
constexpr double kIndentMm = 3;                                     // less is unsteadiness
constexpr double kApart = 1.8;                       // lines farther apart than so many pitches are not one block
constexpr double kHighlighted = 0.5;                 // share of a word's width
constexpr double kBoxInk = 0.7;                      // and it has this share of the frame's length at least
constexpr double kBoxEdge = 0.08, kBoxShare = 0.85;  // a drawn box: so much of its ink lies so near its frame

struct Piece {  // the chosen words of one line
    std::vector<const ReadWord*> words;
    Box box;
    bool whole = true;  // all that is written in its line
    ListKind list = ListKind::none;
    int heading = 0;
    std::vector<const ReadWord*> sign;  // the list sign's
    const Ringed* head = nullptr;       // the letter that makes it a heading
};

class Setter {
public:
    Setter(const Page& page, const Reading& reading, const std::set<StrokeId>* chosen, const MeasureText& measure)
        : page_(page), reading_(reading), chosen_(chosen), measure_(measure) {
        for (const Stroke& s : page.strokes) strokes_[s.id] = &s;
        underlines_ = underlines_in(page.strokes);
        ringed_ = ringed_in(page.strokes);
        std::vector<double> heights;
        for (const ReadLine& line : reading.lines)
            if (line.kind == RegionKind::text && !line.words.empty()) heights.push_back(line.box.height());
        usual_ = std::max(1.0, median(heights));
    }

    TypesettingResult set() {
        using Place = std::pair<int, int>;  // a region, or a cell of one
        std::map<Place, std::vector<Piece>> regions;
        std::vector<Place> order;
        for (const ReadLine& line : reading_.lines) {
            if (line.kind != RegionKind::text) continue;
            Piece piece = piece_of(line);
            if (piece.words.empty()) continue;
            const Place place(line.region, line.cell);
            if (!regions.contains(place)) order.push_back(place);
            regions[place].push_back(std::move(piece));
        }
        for (const Place& place : order) set_region(std::move(regions[place]));
        return std::move(out_);
    }

private:
    bool is_chosen(const ReadWord& word) const {
        if (word.strokes.empty()) return false;
        if (!chosen_) return true;
        const auto in = std::ranges::count_if(word.strokes, [&](StrokeId id) { return chosen_->contains(id); });
        return 2 * in > std::ssize(word.strokes);
    }

    Piece piece_of(const ReadLine& line) const {
        Piece piece;
        bool taken = false;
        for (const ReadWord& word : line.words) {
            // A word joined to its neighbour in one stroke has none of its own, and goes with it.
            if (!word.strokes.empty() || word.block != 0) taken = is_chosen(word);
            if (taken) {
                piece.words.push_back(&word);
                piece.box.include(word.box);
            } else {
                piece.whole = false;
            }
        }
        if (piece.words.empty() || !piece.whole) return piece;
        if (piece.words.size() > 1) {
            piece.list = list_of(*piece.words[0]);
            if (piece.list != ListKind::none) {
                piece.sign = {piece.words[0]};
                piece.words.erase(piece.words.begin());
            }
        }
        if (line.heading != 0) {
            piece.heading = line.heading;
            double nearest = line.box.height();
            for (const Ringed& r : ringed_) {
                const double off = std::abs(page_.strokes[r.ring].box().centre().y - line.box.centre().y);
                if (off < nearest) piece.head = &r, nearest = off;
            }
        } else if (piece.list == ListKind::none && piece.box.height() > kHeadingHeight * usual_)
            piece.heading = piece.box.height() > kLargeHeadingHeight * usual_ ? 1 : 2;
        return piece;
    }

    // A square drawn before a line, to be ticked off.
    bool is_box(const ReadWord& word) const {
        if (word.strokes.empty() || word.strokes.size() > 4) return false;
        const Box& b = word.box;
        const double size = std::max(b.width(), b.height());
        if (size < 0.35 * usual_ || std::min(b.width(), b.height()) < 0.7 * size) return false;
        size_t all = 0, near_edge = 0;
        double ink = 0;  // mm
        std::array<size_t, 4> sides{};
        for (const StrokeId id : word.strokes) {
            const auto found = strokes_.find(id);
            if (found == strokes_.end()) return false;
            ink += path_length(*found->second);
            for (const InkPoint& p : found->second->points) {
                const std::array away = {p.at.x - b.left, b.right - p.at.x, p.at.y - b.top, b.bottom - p.at.y};
                ++all;
                bool edge = false;
                for (size_t side = 0; side < 4; ++side)
                    if (away[side] < kBoxEdge * size) ++sides[side], edge = true;
                near_edge += edge;
            }
        }
        return ink > kBoxInk * 2 * (b.width() + b.height()) &&
               static_cast<double>(near_edge) >= kBoxShare * static_cast<double>(all) &&
               std::ranges::all_of(sides, [](size_t n) { return n > 0; });
    }

    ListKind list_of(const ReadWord& word) const {
        static const std::set<std::string> bullets = {"-", "–", "—", "•", "·", "*", "→", "~"};
        if (bullets.contains(word.text)) return ListKind::bullet;
        const std::string& t = word.text;
        const bool digits = t.size() >= 2 && t.size() <= 3 && (t.back() == '.' || t.back() == ')') &&
                            std::all_of(t.begin(), t.end() - 1, [](char c) { return c >= '0' && c <= '9'; });
        if (digits) return ListKind::number;
        return is_box(word) ? ListKind::check : ListKind::none;
    }

    void set_region(std::vector<Piece> pieces) {
        std::ranges::stable_sort(pieces, {}, [](const Piece& p) { return p.box.centre().y; });
        std::vector<double> distances;
        for (size_t i = 1; i < pieces.size(); ++i)
            distances.push_back(pieces[i].box.centre().y - pieces[i - 1].box.centre().y);
        const double pitch = median(distances);
        std::vector<Piece> block;
        for (Piece& piece : pieces) {
            // Part of a line is set by itself, among what stays ink.
            const bool apart = !block.empty() &&
                               (!piece.whole || !block.back().whole ||
                                piece.box.centre().y - block.back().box.centre().y > kApart * std::max(pitch, usual_));
            if (apart) set_block(std::exchange(block, {}), pitch);
            block.push_back(std::move(piece));
        }
        if (!block.empty()) set_block(block, pitch);
    }

    TextStyle style_of(const ReadWord& word, double size) const {
        TextStyle style;
        style.size_mm = size;
        std::map<uint32_t, double> colours;
        for (const StrokeId id : word.strokes)
            if (const auto found = strokes_.find(id); found != strokes_.end())
                colours[found->second->pen.colour] += path_length(*found->second) + 0.1;
        if (!colours.empty())
            style.colour = std::ranges::max_element(colours, {}, [](const auto& c) { return c.second; })->first;
        for (const Stroke* band : bands_over(word.box)) style.highlight = band->pen.colour;
        return style;
    }

    std::vector<const Stroke*> bands_over(const Box& word) const {
        std::vector<const Stroke*> bands;
        for (const Stroke& s : page_.strokes) {
            if (!lies_under(s.pen)) continue;
            const Box box = s.box().grown(s.pen.width_mm / 2);
            const double shared = std::min(box.right, word.right) - std::max(box.left, word.left);
            if (box.meets(word) && shared > kHighlighted * word.width()) bands.push_back(&s);
        }
        return bands;
    }

    void set_block(const std::vector<Piece>& pieces, double pitch) {
        Box box;
        std::vector<double> heights;
        for (const Piece& p : pieces) {
            box.include(p.box);
            heights.push_back(p.box.height());
        }
        double size = kTypeToInk * median(heights);
        if (pitch > 0 && pieces.size() > 1) size = std::min(size, kTypeToPitch * pitch);
        size = std::clamp(size, kLeastSizeMm, kMostSizeMm);
        // No line of type may need more than its ink had.
        double widest = 0;
        for (const Piece& p : pieces)
            if (!p.words.empty() && p.box.width() > 0)
                widest = std::max(widest, width_of(p, size) / std::max(p.box.width(), 0.5 * box.width()));
        if (widest > 1) size = std::max(kLeastSizeMm, size * std::max(kSmallestShrink, 1 / widest));

        TextBlock block;
        const double line_mm = pitch > 0 && pieces.size() > 1 ? pitch : kUsualPitch * size;
        block.pitch_mm = line_mm;
        block.at = {box.left, pieces.front().box.centre().y - line_mm / 2};
        // Type that is to stay in one line gets room to spare: faces differ from machine to machine.
        const double edge = page_.info.width_mm - 2;
        block.width_mm = std::max(5.0, std::min(std::max(box.width(), 1.03 * widest_line(pieces, size) + 1),
                                                std::max(box.width(), edge - box.left)));
        double flow = block.at.y;  // where the next paragraph would begin by itself
        for (size_t i = 0; i < pieces.size();) {
            Paragraph paragraph;
            const Piece& first = pieces[i];
            paragraph.list = first.list;
            paragraph.heading = first.heading;
            const double left = first.sign.empty() ? first.box.left : first.sign[0]->box.left;
            const double indent = left - box.left, spare = box.right - first.box.right;
            if (indent > kIndentMm && std::abs(indent - spare) < kIndentMm && pieces.size() > 1)
                paragraph.align = Align::centre;
            else if (indent > kIndentMm)
                paragraph.indent_mm = indent;
            const double top = first.box.centre().y - line_mm / 2;
            paragraph.before_mm = std::max(0.0, top - flow);
            double x = 0;
            int lines = 1;
            for (size_t k = i;; ++k) {
                for (const ReadWord* word : pieces[k].words) {
                    TextStyle style = style_of(*word, first.heading != 0 ? heading_size(first, line_mm) : size);
                    style.bold = word->bold || first.heading != 0;
                    style.italic = word->italic;
                    style.unsure = !word->corrected && word->certainty < kSureEnough;
                    const double wide = measure_(word->text + ' ', style);
                    if (x > 0 && x + wide > block.width_mm - paragraph.indent_mm) x = 0, ++lines;
                    x += wide;
                    add_word(paragraph, word->text, style);
                }
                take_ink(pieces[k], block);
                if (k + 1 >= pieces.size() || !runs_on(pieces[k], pieces[k + 1], box)) {
                    i = k + 1;
                    break;
                }
            }
            flow += paragraph.before_mm + lines * line_mm;
            block.paragraphs.push_back(std::move(paragraph));
        }
        if (!has_text(block)) return;
        for (const StrokeId id : block.ink) out_.ink.push_back(*strokes_.at(id));
        out_.blocks.push_back(std::move(block));
    }

    static double heading_size(const Piece& piece, double line_mm) {
        return std::clamp(std::min(kTypeToInk * piece.box.height(), 0.85 * line_mm * (piece.heading == 1 ? 1.4 : 1.2)),
                          kLeastSizeMm, kMostSizeMm);
    }

    double width_of(const Piece& piece, double size) const {
        TextStyle style;
        style.size_mm = size;
        std::string text;
        for (const ReadWord* word : piece.words) text += (text.empty() ? "" : " ") + word->text;
        return measure_(text, style);
    }

    double widest_line(const std::vector<Piece>& pieces, double size) const {
        double widest = 0;
        for (const Piece& p : pieces) widest = std::max(widest, width_of(p, size));
        return widest;
    }

    static bool runs_on(const Piece& line, const Piece& next, const Box& block) {
        if (next.list != ListKind::none || line.heading != 0 || next.heading != 0) return false;
        if (next.box.left - block.left > kIndentMm && line.list == ListKind::none) return false;
        const double space = 0.4 * line.box.height();
        return !next.words.empty() && line.box.right + space + next.words[0]->box.width() > block.right;
    }

    static void add_word(Paragraph& paragraph, const std::string& text, const TextStyle& style) {
        auto& runs = paragraph.runs;
        if (!runs.empty() && runs.back().style == style) {
            runs.back().text += ' ' + text;
            return;
        }
        if (!runs.empty()) runs.back().text += ' ';
        runs.push_back({text, style});
    }

    void take_ink(const Piece& piece, TextBlock& block) {
        const auto take = [&](const Stroke& s) {
            if (!taken_.insert(s.id).second) return;
            block.ink.push_back(s.id);
        };
        for (const auto* words : {&piece.sign, &piece.words})
            for (const ReadWord* word : *words) {
                for (const StrokeId id : word->strokes)
                    if (const auto found = strokes_.find(id); found != strokes_.end()) take(*found->second);
                for (const Stroke* band : bands_over(word->box)) take(*band);
            }
        if (piece.head) {
            take(page_.strokes[piece.head->ring]);
            for (const size_t i : piece.head->inside) take(page_.strokes[i]);
        }
        for (const Underline& u : underlines_) {
            const auto gone =
                std::ranges::count_if(u.over, [&](size_t i) { return taken_.contains(page_.strokes[i].id); });
            if (2 * gone > std::ssize(u.over)) take(page_.strokes[u.stroke]);
        }
    }

    const Page& page_;
    const Reading& reading_;
    const std::set<StrokeId>* chosen_;
    const MeasureText& measure_;
    std::unordered_map<StrokeId, const Stroke*> strokes_;
    std::vector<Underline> underlines_;
    std::vector<Ringed> ringed_;
    std::set<StrokeId> taken_;
    double usual_ = 6;
    TypesettingResult out_;
};

}  // namespace

TypesettingResult set_in_type(const Page& page, const Reading& reading, const std::set<StrokeId>* chosen,
                              const MeasureText& measure) {
    return Setter(page, reading, chosen, measure).set();
}

}  // namespace fernleaf
