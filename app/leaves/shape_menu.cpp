#include "leaves/shape_menu.h"

#include <QCoreApplication>
#include <algorithm>
#include <array>
#include <utility>

#include "leaves/colour_menu.h"
#include "leaves/figure_card.h"

namespace fernleaf {
namespace {

constexpr double kTint = 0.18, kHalf = 0.5;
constexpr std::array kKinds{
    ShapeKind::rectangle, ShapeKind::rounded_rectangle, ShapeKind::square,   ShapeKind::ellipse,
    ShapeKind::circle,    ShapeKind::diamond,           ShapeKind::triangle, ShapeKind::parallelogram,
    ShapeKind::trapezoid, ShapeKind::pentagon,          ShapeKind::hexagon,  ShapeKind::star};

bool is_figure(const FairShape& s) { return is_closed(s.shape.kind); }
bool is_link(const FairShape& s) { return is_line(s.shape.kind); }

// Menus within menus for what is chosen.
class ShapeMenu {
    Q_DECLARE_TR_FUNCTIONS(ShapeMenu)

public:
    ShapeMenu(QMenu& menu, SelectionEditing& choosing) : menu_(menu), choosing_(choosing) {}

    void offer(const std::vector<uint32_t>& palette) {
        const auto& shapes = choosing_.selection().chosen().shapes;
        if (std::ranges::any_of(shapes, is_figure)) offer_figures(palette);
        if (std::ranges::any_of(shapes, is_link)) offer_lines();
        QMenu* border = menu_.addMenu(std::ranges::any_of(shapes, is_figure) ? tr("Border") : tr("Line"));
        for (const auto& [form, name] :
             {std::pair(BorderForm::solid, tr("Solid")), std::pair(BorderForm::dashed, tr("Dashed")),
              std::pair(BorderForm::dotted, tr("Dotted"))})
            add(
                border, name, [form = form](const FairShape& s) { return s.form == form; },
                [form = form](FairShape& s) { s.form = form; }, "Change the border");
    }

private:
    void offer_figures(const std::vector<uint32_t>& palette) {
        QMenu* kinds = menu_.addMenu(tr("Figure"));
        for (const ShapeKind kind : kKinds)
            add(
                kinds, name_on_screen(kind), [kind](const FairShape& s) { return s.shape.kind == kind; },
                [kind](FairShape& s) {
                    if (is_figure(s) && s.shape.kind != kind) s.shape = as_kind(s.shape, kind);
                },
                "Change a figure");
        QMenu* fill = menu_.addMenu(tr("Fill"));
        for (const auto& [strength, name] : {std::pair(0.0, tr("None")), std::pair(kTint, tr("Light")),
                                             std::pair(kHalf, tr("Medium")), std::pair(1.0, tr("Solid"))})
            add(
                fill, name,
                [strength = strength](const FairShape& s) { return is_figure(s) && s.fill_strength == strength; },
                [strength = strength](FairShape& s) {
                    if (!is_figure(s)) return;
                    if (s.fill_strength == 0) s.fill = s.colour;  // until another is chosen
                    s.fill_strength = strength;
                },
                "Fill");
        fill->addSeparator();
        add_colours(*fill, palette, [&choosing = choosing_](std::optional<uint32_t> colour) {
            choosing.change_shapes(
                [colour](FairShape& s) {
                    if (!is_figure(s)) return;
                    s.fill = *colour;
                    if (s.fill_strength == 0) s.fill_strength = kTint;
                },
                "Fill");
        });
        const auto& shapes = choosing_.selection().chosen().shapes;
        if (!std::ranges::any_of(shapes, &is_rounded)) return;
        QMenu* corners = menu_.addMenu(tr("Corners"));
        for (const auto& [share, name] : {std::pair(0.1, tr("Slightly rounded")), std::pair(0.25, tr("Rounded")),
                                          std::pair(0.5, tr("Fully rounded"))})
            add(
                corners, name, [](const FairShape&) { return false; },
                [share = share](FairShape& s) {
                    if (!is_rounded(s)) return;
                    const std::vector<Point>& p = s.shape.points;
                    s.shape.radius = share * std::min(distance(p[0], p[1]), distance(p[1], p[2]));
                },
                "Round corners");
    }

    void offer_lines() {
        const auto& shapes = choosing_.selection().chosen().shapes;
        if (std::ranges::any_of(shapes, &FairShape::holds)) {
            QMenu* way = menu_.addMenu(tr("Route"));
            for (const auto& [routing, name] :
                 {std::pair(Routing::straight, tr("Straight")), std::pair(Routing::elbow, tr("Right-angled")),
                  std::pair(Routing::curved, tr("Curved"))})
                add(
                    way, name, [routing = routing](const FairShape& s) { return s.holds() && s.routing == routing; },
                    [routing = routing](FairShape& s) {
                        if (s.holds()) s.routing = routing;
                    },
                    "Change a link");
        }
        QMenu* heads = menu_.addMenu(tr("Arrowheads"));
        const auto of_heads = [](const FairShape& s, ShapeKind kind) {
            return kind == ShapeKind::line ? s.shape.kind == kind || s.shape.kind == ShapeKind::polyline
                                           : s.shape.kind == kind;
        };
        for (const auto& [kind, name] :
             {std::pair(ShapeKind::line, tr("None")), std::pair(ShapeKind::arrow, tr("At the end")),
              std::pair(ShapeKind::double_arrow, tr("At both ends"))})
            add(
                heads, name, [kind = kind, of_heads](const FairShape& s) { return of_heads(s, kind); },
                [kind = kind](FairShape& s) {
                    if (!is_link(s)) return;
                    s.shape.kind = kind == ShapeKind::line && s.shape.points.size() > 2 ? ShapeKind::polyline : kind;
                },
                "Change arrowheads");
        menu_.addAction(tr("Reverse direction"), &choosing_, [&choosing = choosing_] {
            choosing.change_shapes(
                [](FairShape& s) {
                    if (!is_link(s)) return;
                    std::ranges::reverse(s.shape.points);
                    std::swap(s.from, s.to);
                },
                "Reverse direction");
        });
    }

    static bool is_rounded(const FairShape& s) { return s.shape.kind == ShapeKind::rounded_rectangle; }

    template <typename Is, typename Change>
    void add(QMenu* menu, const QString& name, const Is& is, const Change& change, const char* label) {
        QAction* action = menu->addAction(
            name, &choosing_, [&choosing = choosing_, change, label] { choosing.change_shapes(change, label); });
        action->setCheckable(true);
        action->setChecked(std::ranges::any_of(choosing_.selection().chosen().shapes, is));
    }

    QMenu& menu_;
    SelectionEditing& choosing_;
};

}  // namespace

void offer_shapes(QMenu& menu, SelectionEditing& choosing, const std::vector<uint32_t>& palette) {
    ShapeMenu(menu, choosing).offer(palette);
}

void offer_arranging(QMenu& menu, SelectionEditing& choosing, DrawingDesk& drawing) {
    menu.addAction(icon(QStringLiteral("to-front")), ShapeMenu::tr("Bring to the front"), &choosing,
                   [&choosing] { choosing.reorder(true); });
    menu.addAction(icon(QStringLiteral("to-back")), ShapeMenu::tr("Send to the back"), &choosing,
                   [&choosing] { choosing.reorder(false); });
    menu.addSeparator();
    menu.addAction(ShapeMenu::tr("Group"), QKeySequence(Qt::ALT | Qt::Key_G), &choosing,
                   [&choosing] { choosing.group(); })
        ->setEnabled(choosing.may_group());
    menu.addAction(ShapeMenu::tr("Ungroup"), QKeySequence(Qt::ALT | Qt::SHIFT | Qt::Key_G), &choosing,
                   [&choosing] { choosing.ungroup(); })
        ->setEnabled(choosing.grouped());
    menu.addSeparator();
    const size_t pieces = count_pieces(choosing.selection().chosen());
    if (!choosing.selection().chosen().shapes.empty()) {
        // Of one figure alone the diagram it is part of is meant.
        const std::vector<ElementId> of = pieces > 1 ? ids_of(choosing.selection().chosen()) : std::vector<ElementId>();
        const auto arrange = [&](const QString& name, Arrangement arrangement) {
            menu.addAction(name, &choosing, [&drawing, of, arrangement] { drawing.arrange(of, arrangement); });
        };
        arrange(ShapeMenu::tr("Arrange in layers, top to bottom"), Arrangement::down);
        arrange(ShapeMenu::tr("Arrange in layers, left to right"), Arrangement::across);
        arrange(ShapeMenu::tr("Arrange in rings"), Arrangement::radial);
        menu.addSeparator();
    }
    for (const auto& [alignment, name] : {std::pair(Alignment::left, ShapeMenu::tr("Align left edges")),
                                          std::pair(Alignment::centre, ShapeMenu::tr("Align centres")),
                                          std::pair(Alignment::right, ShapeMenu::tr("Align right edges")),
                                          std::pair(Alignment::top, ShapeMenu::tr("Align top edges")),
                                          std::pair(Alignment::middle, ShapeMenu::tr("Align middles")),
                                          std::pair(Alignment::bottom, ShapeMenu::tr("Align bottom edges"))}) {
        if (alignment == Alignment::top) menu.addSeparator();
        menu.addAction(name, &choosing, [&choosing, alignment = alignment] { choosing.align(alignment); })
            ->setEnabled(pieces > 1);
    }
    menu.addSeparator();
    menu.addAction(ShapeMenu::tr("Distribute left to right"), &choosing, [&choosing] { choosing.distribute(true); })
        ->setEnabled(pieces > 2);
    menu.addAction(ShapeMenu::tr("Distribute top to bottom"), &choosing, [&choosing] { choosing.distribute(false); })
        ->setEnabled(pieces > 2);
    menu.addSeparator();
    QAction* guides = menu.addAction(ShapeMenu::tr("Snap to guides while moving"), &choosing,
                                     [](bool on) { set_snapping(on, snap_to_grid()); });
    QAction* grid = menu.addAction(ShapeMenu::tr("Snap to the paper's grid"), &choosing,
                                   [](bool on) { set_snapping(snap_to_guides(), on); });
    guides->setCheckable(true), guides->setChecked(snap_to_guides());
    grid->setCheckable(true), grid->setChecked(snap_to_grid());
}

}  // namespace fernleaf
