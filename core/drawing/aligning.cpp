#include "drawing/aligning.h"

#include <unordered_map>

namespace fernleaf {
namespace {

struct Pieces {
    std::vector<Box> boxes;
    std::unordered_map<ElementId, size_t> piece_of;
};

bool is_figure(const FairShape& shape) { return is_closed(shape.shape.kind); }

Pieces pieces_of(const Elements& chosen) {
    Pieces out;
    // The largest figures first: what stands in a figure that stands in another goes with the outer one.
    std::vector<const FairShape*> figures;
    for (const FairShape& s : chosen.shapes)
        if (is_figure(s)) figures.push_back(&s);
    std::ranges::stable_sort(figures, std::greater(),
                             [](const FairShape* s) { return drawn_box(*s).width() * drawn_box(*s).height(); });
    const auto add = [&](ElementId id, const Box& box) {
        out.piece_of[id] = out.boxes.size();
        out.boxes.push_back(box);
    };
    for (const FairShape* figure : figures) {
        if (out.piece_of.contains(figure->id)) continue;
        add(figure->id, drawn_box(*figure));
        for (const ElementId id : ids_of(within(chosen, outline_of(figure->shape).front())))
            out.piece_of.try_emplace(id, out.boxes.size() - 1);
    }
    for_each_element(chosen, [&]<typename E>(const E& e) {
        if constexpr (std::is_same_v<E, FairShape>)
            if (e.holds()) return;
        if (!out.piece_of.contains(e.id)) add(e.id, drawn_box(e));
    });
    return out;
}

Elements shifted_pieces(const Elements& chosen, const Pieces& pieces, const std::vector<Point>& by) {
    Elements out = chosen;
    for_each_element(out, [&]<typename E>(E& e) {
        const auto piece = pieces.piece_of.find(e.id);
        if (piece == pieces.piece_of.end()) return;
        e = ElementTraits<E>::transformed(std::move(e), Affine::shift(by[piece->second]));
    });
    return out;
}

}  // namespace

Elements aligned(const Elements& chosen, Alignment alignment) {
    const Pieces pieces = pieces_of(chosen);
    Box all;
    for (const Box& box : pieces.boxes) all.include(box);
    std::vector<Point> by;
    for (const Box& box : pieces.boxes) switch (alignment) {
            case Alignment::left:
                by.push_back({all.left - box.left, 0});
                break;
            case Alignment::centre:
                by.push_back({all.centre().x - box.centre().x, 0});
                break;
            case Alignment::right:
                by.push_back({all.right - box.right, 0});
                break;
            case Alignment::top:
                by.push_back({0, all.top - box.top});
                break;
            case Alignment::middle:
                by.push_back({0, all.centre().y - box.centre().y});
                break;
            case Alignment::bottom:
                by.push_back({0, all.bottom - box.bottom});
                break;
        }
    return shifted_pieces(chosen, pieces, by);
}

Elements distributed(const Elements& chosen, bool across) {
    const Pieces pieces = pieces_of(chosen);
    const size_t count = pieces.boxes.size();
    if (count < 3) return chosen;
    const auto begin = [&](size_t i) { return across ? pieces.boxes[i].left : pieces.boxes[i].top; };
    const auto size = [&](size_t i) { return across ? pieces.boxes[i].width() : pieces.boxes[i].height(); };
    std::vector<size_t> order(count);
    for (size_t i = 0; i < count; ++i) order[i] = i;
    std::ranges::stable_sort(order, {}, [&](size_t i) { return begin(i) + size(i) / 2; });
    double filled = 0;
    for (size_t i = 0; i < count; ++i) filled += size(i);
    const double whole = begin(order.back()) + size(order.back()) - begin(order.front());
    const double gap = (whole - filled) / static_cast<double>(count - 1);
    std::vector<Point> by(count);
    double at = begin(order.front());
    for (const size_t i : order) {
        (across ? by[i].x : by[i].y) = at - begin(i);
        at += size(i) + gap;
    }
    return shifted_pieces(chosen, pieces, by);
}

size_t count_pieces(const Elements& chosen) { return pieces_of(chosen).boxes.size(); }

}  // namespace fernleaf
