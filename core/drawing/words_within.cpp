#include "drawing/words_within.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <optional>
#include <set>
#include <tuple>
#include <unordered_map>

namespace fernleaf {
namespace {

constexpr double kMarginMm = 1.5;   // from a figure's border to the words in it
constexpr double kNearlyLevel = 1;  // degrees
constexpr double kLeastRoomMm = 4;  // wide: type in less is left as it is
constexpr double kEvenly = 0.01;    // sides that grow alike, but for this
constexpr int kMostSteps = 12;      // of growing: one that is as wide as high needs a few
constexpr double kTooHighMm = 0.05;

// The part of a figure's box that is within it: left, top, right, bottom, 0 to 1.
std::array<double, 4> share_within(ShapeKind kind) {
    switch (kind) {
        case ShapeKind::square:
        case ShapeKind::rectangle:
        case ShapeKind::rounded_rectangle:
            return {0, 0, 1, 1};
        case ShapeKind::circle:
        case ShapeKind::ellipse:
            return {0.146, 0.146, 0.854, 0.854};
        case ShapeKind::diamond:
            return {0.25, 0.25, 0.75, 0.75};
        case ShapeKind::triangle:
            return {0.25, 0.5, 0.75, 1};
        case ShapeKind::parallelogram:
        case ShapeKind::trapezoid:
            return {0.2, 0, 0.8, 1};
        case ShapeKind::pentagon:
        case ShapeKind::hexagon:
        case ShapeKind::polygon:
            return {0.15, 0.15, 0.85, 0.85};
        default:
            return {0, 0, 0, 0};
    }
}

// Whether the share above is meant for it as it lies; of figures of many corners any way is as good.
bool stands_level(const Shape& figure) {
    const std::vector<Point>& p = figure.points;
    const auto level = [](Point way) {
        return std::abs(std::remainder(std::atan2(way.y, way.x) * 180 / std::numbers::pi, 90.0)) < kNearlyLevel;
    };
    switch (figure.kind) {
        case ShapeKind::square:
        case ShapeKind::rectangle:
        case ShapeKind::rounded_rectangle:
        case ShapeKind::parallelogram:
        case ShapeKind::trapezoid:
            return level(p[1] - p[0]) || level(p[2] - p[1]);
        case ShapeKind::ellipse:
            return level(p[1] - p[3]);
        case ShapeKind::diamond:
            return level(p[2] - p[0]);
        case ShapeKind::triangle: {  // on one of its sides
            const double foot = box_of(figure).bottom, near = 0.02 * box_of(figure).height();
            return std::ranges::count_if(p, [&](Point corner) { return corner.y > foot - near; }) == 2;
        }
        default:
            return true;
    }
}

Point beginning_of(const TextBlock& text) {
    return text.words.empty() ? text.box().centre() : text.words.front().box.centre();
}

// The figure that type stands in: what begins in it may have become too high for it.
const FairShape* figure_of(const Elements& page, const TextBlock& text) {
    const FairShape* found = figure_about(page, beginning_of(text));
    return found ? found : figure_about(page, text.box().centre());
}

bool is_centred(const TextBlock& text) {
    return !text.paragraphs.empty() && text.paragraphs.front().align == Align::centre;
}

// The one block of type that stands in a figure, and nothing beside it; null: there is more, or none.
const TextBlock* only_words(const Elements& page, const FairShape& figure) {
    const TextBlock* found = nullptr;
    for (const TextBlock& text : page.texts) {
        if (figure_of(page, text) != &figure) continue;
        if (found || text.angle != 0) return nullptr;
        found = &text;
    }
    if (!found) return nullptr;
    const Box box = box_of(figure.shape);
    const bool more =
        std::ranges::any_of(page.strokes, [&](const Stroke& s) { return box.contains(s.box().centre()); });
    return more ? nullptr : found;
}

// Wraps the words of a figure, and lets it grow downward until they fit; about its middle if it is as wide as high.
void fit_figure(EditBuilder& builder, const FairShape& figure, const LayOut& lay_out) {
    const TextBlock* words = only_words(builder.now(), figure);
    if (!words || room_in(figure.shape).width() < kLeastRoomMm) return;
    TextBlock text = *words;
    FairShape grown = figure;
    const bool even = figure.shape.kind == ShapeKind::circle || figure.shape.kind == ShapeKind::square;
    for (int step = 0; step < kMostSteps; ++step) {
        const Box room = room_in(grown.shape);
        const double was = text.width_mm;
        text.width_mm = room.width();
        if (was != text.width_mm || step == 0) lay_out(text);
        if (text.height_mm <= room.height() + kTooHighMm) break;
        const Box box = box_of(grown.shape);
        const double by = text.height_mm / std::max(1.0, room.height());
        const double whole = (box.height() + (text.height_mm - room.height()) * box.height() /
                                                 std::max(1.0, room.height() + 2 * kMarginMm)) /
                             std::max(1.0, box.height());
        const double k = even ? std::sqrt(by) : whole;
        grown = ElementTraits<FairShape>::transformed(
            std::move(grown),
            even ? Affine::scale(k, k, box.centre()) : Affine::scale(1, k, {box.centre().x, box.top}));
        grown.width_mm = figure.width_mm;  // its border
    }
    const Box room = room_in(grown.shape);
    const double top = is_centred(text)
                           ? room.centre().y - text.height_mm / 2
                           : std::clamp(text.at.y, room.top, std::max(room.top, room.bottom - text.height_mm));
    text.at = {room.left, top};
    lay_out(text);
    builder.replace(*words, std::move(text));
    builder.replace(figure, std::move(grown));
}

}  // namespace

Box room_in(const Shape& figure) {
    if (!is_closed(figure.kind)) return {};
    if (!stands_level(figure)) return {};
    const auto [left, top, right, bottom] = share_within(figure.kind);
    const Box box = box_of(figure);
    const Box room = Box{box.left + left * box.width(), box.top + top * box.height(), box.left + right * box.width(),
                         box.top + bottom * box.height()}
                         .grown(-kMarginMm);
    return room.empty() ? Box{} : room;
}

const FairShape* figure_about(const Elements& page, Point p) {
    const FairShape* best = nullptr;
    double least = 0;
    for (const FairShape& figure : page.shapes) {
        if (!is_closed(figure.shape.kind)) continue;
        const Box box = box_of(figure.shape);
        const double area = box.width() * box.height();
        if (!box.contains(p) || (best && area >= least)) continue;
        const auto outline = outline_of(figure.shape);
        if (inside(outline.front(), p)) best = &figure, least = area;
    }
    return best;
}

void fit_words(Edit& edit, const Elements& page, const LayOut& lay_out, const std::function<ElementId()>& new_id) {
    // Type that was elsewhere on the page, and is no other now.
    const auto only_moved = [&](const TextBlock& text) {
        return std::ranges::any_of(edit.removed.texts, [&](const TextBlock& before) {
            return before.paragraphs == text.paragraphs && before.width_mm == text.width_mm;
        });
    };
    const auto same_size = [](const Box& a, const Box& b) {
        return std::abs(a.width() - b.width()) < kEvenly && std::abs(a.height() - b.height()) < kEvenly;
    };
    std::vector<ElementId> typed, figures, tables;
    for (const TextBlock& text : edit.added.texts)
        if (!only_moved(text)) typed.push_back(text.id);
    for (const FairShape& s : edit.added.shapes) {
        const auto before =
            std::ranges::find_if(edit.removed.shapes, [&](const FairShape& b) { return s.key != 0 && b.key == s.key; });
        if (before != edit.removed.shapes.end() && !same_size(box_of(before->shape), box_of(s.shape)))
            figures.push_back(s.id);
    }
    for (const FairTable& table : edit.added.tables) tables.push_back(table.id);
    if (typed.empty() && figures.empty() && tables.empty()) return;
    if (!typed.empty() && page.shapes.empty() && page.tables.empty() && edit.added.shapes.empty() &&
        edit.added.tables.empty())
        return;
    EditBuilder builder(edit, page, new_id);
    for (const ElementId id : typed) {
        const auto text = std::ranges::find(builder.now().texts, id, &TextBlock::id);
        const Point begins = beginning_of(*text);
        const auto table = std::ranges::find_if(builder.now().tables,
                                                [&](const FairTable& t) { return cell_at(t, begins).has_value(); });
        if (table != builder.now().tables.end())
            tables.push_back(table->id);
        else if (const FairShape* figure = figure_of(builder.now(), *text))
            figures.push_back(figure->id);
    }
    std::set<ElementId> done;
    for (const ElementId id : tables) {
        const auto table = std::ranges::find(builder.now().tables, id, &FairTable::id);
        if (table != builder.now().tables.end() && done.insert(id).second) fit_cells(builder, *table, lay_out);
    }
    for (const ElementId id : figures) {
        const auto figure = std::ranges::find(builder.now().shapes, id, &FairShape::id);
        if (figure != builder.now().shapes.end() && done.insert(id).second) fit_figure(builder, *figure, lay_out);
    }
}

void lay_out_fresh(Elements& elements, const LayOut& lay_out) {
    bool any = false;
    for (TextBlock& block : elements.texts)
        if (block.words.empty()) lay_out(block), any = true;
    if (!any || elements.tables.empty()) return;
    // They have no ids yet: numbers that tell them apart meanwhile.
    Edit edit{"Lay out", std::move(elements)};
    ElementId id = 0;
    for_each_element(edit.added, [&](auto& e) { e.id = ++id; });
    EditBuilder builder(edit, {}, [&] { return ++id; });
    for (const FairTable& table : std::vector<FairTable>(edit.added.tables)) fit_cells(builder, table, lay_out);
    for_each_element(edit.added, [](auto& e) { e.id = 0; });
    elements = std::move(edit.added);
}

Elements stretched(const Elements& chosen, const Affine& by) {
    Elements out = transformed(chosen, by);
    const double wider = std::hypot(by.xx, by.yx), taller = std::hypot(by.xy, by.yy);
    if (std::abs(wider - taller) < kEvenly * std::max(wider, taller)) return out;
    for (size_t i = 0; i < chosen.shapes.size(); ++i) out.shapes[i].width_mm = chosen.shapes[i].width_mm;
    // What stands in one figure, or in one cell of a table, goes along together.
    using Room = std::tuple<ElementId, int, int>;  // a figure, or a table, a row and a column
    const auto room_about = [&](Point p) -> std::optional<Room> {
        for (const FairTable& table : chosen.tables)
            if (const auto cell = cell_at(table, p)) return Room{table.id, cell->row, cell->column};
        const FairShape* figure = figure_about(chosen, p);
        return figure ? std::optional(Room{figure->id, 0, 0}) : std::nullopt;
    };
    std::map<Room, Box> contents;
    const auto each_within = [&](const auto& act) {
        const auto go_through = [&](const auto& before, auto& after) {
            for (size_t i = 0; i < before.size(); ++i)
                if (const auto room = room_about(drawn_box(before[i]).centre())) act(*room, before[i], after[i]);
        };
        go_through(chosen.strokes, out.strokes);
        go_through(chosen.texts, out.texts);
    };
    each_within([&](const Room& room, const auto& before, auto&) { contents[room].include(drawn_box(before)); });
    each_within([&]<typename E>(const Room& room, const E& before, E& after) {
        const Point middle = contents.at(room).centre();
        after = ElementTraits<E>::transformed(before, Affine::shift(by(middle) - middle));
    });
    return out;
}

}  // namespace fernleaf
