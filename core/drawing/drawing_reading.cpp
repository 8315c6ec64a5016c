#include "drawing/drawing_reading.h"

#include <algorithm>
#include <iterator>

#include "drawing/pen_path.h"
#include "ink/selecting.h"

namespace fernleaf {
namespace {

constexpr double kReachShare = 0.3, kLeastReachMm = 3,
                 kMostReachMm = 12;                      // of a link: how short of a figure it may stop
constexpr double kWordsFarther = 2, kWordsBeyondMm = 1;  // than a figure words seem from a link's end
constexpr double kBesideMm = 8;                          // how far words stand from the link they are about, at most
constexpr double kRowShare = 0.5;  // of a node's height: nodes whose tops differ less stand in a row

std::string joined(const std::vector<const ReadWord*>& words) {
    std::string out;
    for (const ReadWord* w : words) out += (out.empty() ? "" : " ") + w->text;
    return out;
}

void in_reading_order(std::vector<const ReadWord*>& words) {
    std::ranges::stable_sort(words, {}, [](const ReadWord* w) { return w->box.centre().y; });
    for (size_t begin = 0; begin < words.size();) {
        size_t end = begin + 1;
        while (end < words.size() && words[end]->box.centre().y < words[begin]->box.bottom) ++end;
        std::sort(words.begin() + static_cast<std::ptrdiff_t>(begin), words.begin() + static_cast<std::ptrdiff_t>(end),
                  [](const ReadWord* a, const ReadWord* b) { return a->box.left < b->box.left; });
        begin = end;
    }
}

std::vector<ShapeCandidate> rest_of(const ReadShape& shape) {
    return {shape.candidates.begin() + 1, shape.candidates.end()};
}

double to_box(Point p, const Box& box) {
    return std::hypot(std::max({box.left - p.x, 0.0, p.x - box.right}),
                      std::max({box.top - p.y, 0.0, p.y - box.bottom}));
}

// Nodes and what leads to them, while they are found.
class Linking {
public:
    Linking(DrawingReading& out, const std::vector<const ReadWord*>& words) : out_(out) {
        for (const DrawnNode& node : out_.nodes) borders_.push_back(outline_of(node.figure->shape));
        for (const ReadWord* word : words) {
            const Point middle = word->box.centre();
            // The smallest figure about it: figures may stand in others.
            size_t best = out_.nodes.size();
            for (size_t i = 0; i < out_.nodes.size(); ++i)
                if (out_.nodes[i].box.contains(middle) && inside(borders_[i][0], middle) &&
                    (best == out_.nodes.size() || out_.nodes[i].box.width() < out_.nodes[best].box.width()))
                    best = i;
            if (best < out_.nodes.size())
                out_.nodes[best].words.push_back(word);
            else
                free_.push_back(word);
        }
    }

    // A line or an arrow that leads from one node to another; false if it does not.
    bool link(const ReadShape& read) {
        const Shape& shape = read.best().shape;
        if (is_closed(shape.kind) || shape.kind == ShapeKind::brace) return false;
        const std::vector<Point> line = outline_of(shape)[0];
        const double reach = std::clamp(kReachShare * path_length(line), kLeastReachMm, kMostReachMm);
        const auto from = at(line.front(), reach), to = at(line.back(), reach);
        if (!from || !to || *from == *to) return false;
        DrawnLink link{read.best(), rest_of(read), read.strokes, node(*from), node(*to), LinkHeads::none, {}};
        if (shape.kind == ShapeKind::arrow) link.heads = LinkHeads::to;
        if (shape.kind == ShapeKind::double_arrow) link.heads = LinkHeads::both;
        out_.links.push_back(std::move(link));
        return true;
    }

    // Words that are left stand beside the link that is nearest.
    void label_links() {
        std::vector<std::vector<std::vector<Point>>> outlines;
        std::vector<Box> near;
        for (const DrawnLink& link : out_.links) {
            outlines.push_back(outline_of(link.line.shape));
            near.push_back(box_of(link.line.shape).grown(kBesideMm));
        }
        for (const ReadWord* word : free_) {
            double nearest = kBesideMm;
            DrawnLink* best = nullptr;
            for (size_t i = 0; i < outlines.size(); ++i) {
                if (!near[i].meets(word->box)) continue;
                double away = distance_to(outlines[i], word->box.centre());
                for (const Point p : {Point{word->box.left, word->box.centre().y},
                                      {word->box.right, word->box.centre().y},
                                      {word->box.centre().x, word->box.top},
                                      {word->box.centre().x, word->box.bottom}})
                    away = std::min(away, distance_to(outlines[i], p));
                if (away < nearest) nearest = away, best = &out_.links[i];
            }
            if (best) best->words.push_back(word);
        }
    }

private:
    // What stands at a place: a node, or words of a line that are none yet.
    struct Place {
        size_t node;
        const ReadWord* word;
        friend bool operator==(const Place&, const Place&) = default;
    };

    std::optional<Place> at(Point p, double reach) const {
        std::optional<Place> out;
        double nearest = reach;
        for (size_t i = 0; i < out_.nodes.size(); ++i) {
            if (!out_.nodes[i].box.grown(reach).contains(p)) continue;
            const double away = out_.nodes[i].figure ? inside(borders_[i][0], p) ? 0.5 * distance_to(borders_[i], p)
                                                                                 : distance_to(borders_[i], p)
                                                     : to_box(p, out_.nodes[i].box);
            if (away < nearest) nearest = away, out = Place{i, nullptr};
        }
        // Words beside a link are mostly about it: they are what it leads to only where no figure is.
        if (out) nearest = std::max(0.0, nearest / kWordsFarther - kWordsBeyondMm);
        for (const ReadWord* word : free_)
            if (const double away = to_box(p, word->box); away < nearest) nearest = away, out = Place{0, word};
        return out;
    }

    // Words become a node with those beside them in their row.
    size_t node(const Place& place) {
        if (!place.word) return place.node;
        for (size_t i = 0; i < out_.nodes.size(); ++i)
            if (std::ranges::find(out_.nodes[i].words, place.word) != out_.nodes[i].words.end()) return i;
        DrawnNode node;
        node.words = {place.word}, node.box = place.word->box;
        for (bool grew = true; grew;) {
            grew = false;
            for (const ReadWord* word : free_) {
                if (std::ranges::find(node.words, word) != node.words.end()) continue;
                const bool row = word->box.centre().y > node.box.top && word->box.centre().y < node.box.bottom;
                const double gap = std::max(word->box.left - node.box.right, node.box.left - word->box.right);
                if (row && gap < node.box.height())
                    node.words.push_back(word), node.box.include(word->box), grew = true;
            }
        }
        for (const ReadWord* word : node.words) std::erase(free_, word);
        borders_.emplace_back();
        out_.nodes.push_back(std::move(node));
        return out_.nodes.size() - 1;
    }

    DrawingReading& out_;
    std::vector<std::vector<std::vector<Point>>> borders_;  // of figures; none of words
    std::vector<const ReadWord*> free_;
};

// From the top, rows from the left; links follow.
void set_in_order(DrawingReading& drawing) {
    std::vector<size_t> order(drawing.nodes.size());
    for (size_t i = 0; i < order.size(); ++i) order[i] = i;
    std::ranges::stable_sort(order, {}, [&](size_t i) { return drawing.nodes[i].box.top; });
    for (size_t begin = 0; begin < order.size();) {
        const Box& first = drawing.nodes[order[begin]].box;
        size_t end = begin + 1;
        while (end < order.size() && drawing.nodes[order[end]].box.top < first.top + kRowShare * first.height()) ++end;
        std::sort(order.begin() + static_cast<std::ptrdiff_t>(begin), order.begin() + static_cast<std::ptrdiff_t>(end),
                  [&](size_t a, size_t b) { return drawing.nodes[a].box.left < drawing.nodes[b].box.left; });
        begin = end;
    }
    std::vector<DrawnNode> nodes;
    std::vector<size_t> place(order.size());
    for (size_t i = 0; i < order.size(); ++i) place[order[i]] = i, nodes.push_back(std::move(drawing.nodes[order[i]]));
    drawing.nodes = std::move(nodes);
    for (DrawnLink& link : drawing.links) link.from = place[link.from], link.to = place[link.to];
    std::ranges::stable_sort(drawing.links, {}, [](const DrawnLink& l) { return std::pair(l.from, l.to); });
}

}  // namespace

std::string DrawnNode::text() const { return joined(words); }
std::string DrawnLink::text() const { return joined(words); }

const char* sign_of(LinkHeads heads) {
    switch (heads) {
        case LinkHeads::none:
            return "—";
        case LinkHeads::to:
            return "→";
        case LinkHeads::both:
            break;
    }
    return "↔";
}

std::vector<ReadLine> outline_lines(const DrawingReading& drawing) {
    std::vector<ReadLine> out;
    for (const DrawnLink& link : drawing.links) {
        const auto add = [&](size_t from, size_t to) {
            if (drawing.nodes[from].words.empty() || drawing.nodes[to].words.empty()) return;
            ReadLine line;
            line.kind = RegionKind::drawing;
            line.certainty = link.line.certainty;
            for (const size_t node : {from, to})
                for (const ReadWord* word : drawing.nodes[node].words) line.words.push_back(*word);
            // A sign is part of the word before it: words of both ends are neighbours.
            line.words[drawing.nodes[from].words.size() - 1].text += std::string(" ") + sign_of(link.heads);
            for (const ReadWord& word : line.words) line.box.include(word.box);
            out.push_back(std::move(line));
        };
        add(link.from, link.to);
        if (link.heads != LinkHeads::to) add(link.to, link.from);
    }
    return out;
}

DrawingReading read_drawing(const Reading& reading) {
    DrawingReading out;
    std::vector<const ReadWord*> words;
    std::vector<const ReadShape*> open;
    for (const ReadLine& line : reading.lines) {
        for (const ReadWord& word : line.words) words.push_back(&word);
        for (const ReadShape& shape : line.shapes) {
            if (!is_closed(shape.best().shape.kind)) {
                open.push_back(&shape);
                continue;
            }
            DrawnNode node;
            node.figure = shape.best(), node.others = rest_of(shape);
            node.box = box_of(node.figure->shape);
            node.strokes = shape.strokes;
            out.nodes.push_back(std::move(node));
        }
    }
    Linking linking(out, words);
    for (const ReadShape* shape : open)
        if (!linking.link(*shape)) out.loose.push_back(*shape);
    linking.label_links();
    for (DrawnNode& node : out.nodes) in_reading_order(node.words);
    for (DrawnLink& link : out.links) in_reading_order(link.words);
    set_in_order(out);
    return out;
}

DrawingReading without_links(DrawingReading drawing) {
    for (DrawnLink& link : drawing.links) {
        ReadShape line{std::move(link.strokes), {std::move(link.line)}};
        std::ranges::move(link.others, std::back_inserter(line.candidates));
        drawing.loose.push_back(std::move(line));
    }
    drawing.links.clear();
    std::erase_if(drawing.nodes, [](const DrawnNode& node) { return !node.figure; });
    return drawing;
}

}  // namespace fernleaf
