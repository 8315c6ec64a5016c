#include "leaves/selection_bar.h"

#include <QFileDialog>
#include <QMenu>
#include <QSettings>
#include <algorithm>
#include <array>

#include "desk/session.h"
#include "leaves/colour_menu.h"
#include "leaves/copy_menu.h"
#include "leaves/menu_below.h"
#include "leaves/shape_menu.h"
#include "leaves/table_menu.h"
#include "leaves/tool_tray.h"
#include "look/language_name.h"
#include "look/theme.h"

namespace fernleaf {
namespace {

constexpr double kWidthStep = 1.25;
constexpr int kGapPx = 8;

}  // namespace

SelectionBar::SelectionBar(Session& session, InkLeaf& leaf, const ToolTray& tray, const PageViewport& view)
    : LeafCard(&leaf),
      session_(session),
      leaf_(leaf),
      tray_(tray),
      view_(view),
      plot_card_(new PlotCard(leaf.plot(), &leaf)) {
    setObjectName(QStringLiteral("selectionBar"));
    row_ = new QHBoxLayout(this);
    row_->setContentsMargins(6, 4, 6, 4);
    row_->setSpacing(1);
    const auto widths = [this](double factor) {
        leaf_.choosing().change_pens(
            [factor](Pen pen) {
                pen.width_mm = std::clamp(static_cast<float>(pen.width_mm * factor), kThinnestPenMm, kBroadestPenMm);
                return pen;
            },
            "Change width");
    };
    colour_ = add(QStringLiteral("colour"), tr("Colour"));
    connect(colour_, &QToolButton::clicked, this, &SelectionBar::offer_colours);
    thinner_ = add(QStringLiteral("thinner"), tr("Thinner"));
    connect(thinner_, &QToolButton::clicked, this, [widths] { widths(1 / kWidthStep); });
    thicker_ = add(QStringLiteral("thicker"), tr("Thicker"));
    connect(thicker_, &QToolButton::clicked, this, [widths] { widths(kWidthStep); });
    type_ = add(QStringLiteral("set-in-type"), tr("Set in type, or say what it is …"));
    connect(type_, &QToolButton::clicked, this, &SelectionBar::offer_type);
    fair_ = add(QStringLiteral("draw-fair"), tr("Draw fair  (Ctrl+Shift+D)"));
    connect(fair_, &QToolButton::clicked, &leaf_.choosing(), &SelectionEditing::draw_fair);
    back_ = add(QStringLiteral("back-to-ink"), tr("Back to ink"));
    connect(back_, &QToolButton::clicked, &leaf_.choosing(), &SelectionEditing::back_to_ink);
    lock_ = add(QStringLiteral("lock"), tr("Lock: keep the picture from being moved"));
    connect(lock_, &QToolButton::clicked, this, [this] { leaf_.choosing().lock(!leaf_.selection().locked()); });
    crop_ = add(QStringLiteral("crop"), tr("Crop the picture"));
    crop_->setCheckable(true);
    connect(crop_, &QToolButton::clicked, &leaf_.choosing(), &SelectionEditing::crop);
    paper_ = add(QStringLiteral("lift-ink"), tr("Lift ink or change the look …"));
    connect(paper_, &QToolButton::clicked, this, &SelectionBar::offer_paper);
    rule_ = add(QStringLiteral("divider"), tr("Kind of rule …"));
    connect(rule_, &QToolButton::clicked, this, &SelectionBar::offer_rules);
    keep_file_ = add(QStringLiteral("export"), tr("Save the file as …"));
    connect(keep_file_, &QToolButton::clicked, this, &SelectionBar::save_file);
    shape_ = add(QStringLiteral("figure"), tr("Figure, border, fill …"));
    connect(shape_, &QToolButton::clicked, this, [this] {
        offer(shape_, [this](QMenu& menu) { offer_shapes(menu, leaf_.choosing(), tray_.tools().palette); });
    });
    table_ = add(QStringLiteral("table"), tr("Rows, columns, sorting …"));
    connect(table_, &QToolButton::clicked, this, [this] {
        offer(table_, [this](QMenu& menu) {
            offer_table(menu, leaf_.table());
            menu.addSeparator();
            menu.addAction(tr("Plot"), this, &SelectionBar::plot_table);
        });
    });
    plot_ = add(QStringLiteral("plot"), tr("Curves and range …"));
    plot_->setCheckable(true);
    connect(plot_, &QToolButton::clicked, this, [this](bool on) { leaf_.plot().look_into(on); });
    connect(&leaf_.plot(), &ChosenPlot::changed, this, &SelectionBar::show_plot);
    connect(plot_card_, &LeafCard::closed, this, [this] { leaf_.plot().look_into(false); });
    link_ = add(QStringLiteral("link"), tr("Link the two figures  (Ctrl+Shift+L)"));
    connect(link_, &QToolButton::clicked, &leaf_.choosing(), &SelectionEditing::link);
    arrange_ = add(QStringLiteral("align-pieces"), tr("Arrange or align …"));
    connect(arrange_, &QToolButton::clicked, this, [this] {
        offer(arrange_, [this](QMenu& menu) { offer_arranging(menu, leaf_.choosing(), session_.drawing()); });
    });
    row_->addSpacing(6);
    connect(add(QStringLiteral("copy"), tr("Copy  (Ctrl+C)")), &QToolButton::clicked, &leaf_.choosing(),
            &SelectionEditing::copy);
    connect(add(QStringLiteral("cut"), tr("Cut  (Ctrl+X)")), &QToolButton::clicked, &leaf_.choosing(),
            &SelectionEditing::cut);
    QToolButton* copies = add(QStringLiteral("picture"), tr("Copy or keep as a stamp …"));
    connect(copies, &QToolButton::clicked, this,
            [this, copies] { offer(copies, [this](QMenu& menu) { offer_copies(menu, session_, leaf_.choosing()); }); });
    connect(add(QStringLiteral("bin"), tr("Delete  (Del)")), &QToolButton::clicked, &leaf_,
            [this] { leaf_.choosing().remove(); });
    connect(&leaf_.choosing(), &SelectionEditing::changed, this, &SelectionBar::place);
    connect(&view_, &PageViewport::changed, this, &SelectionBar::place);
    restyle();
    hide();
}

QToolButton* SelectionBar::add(const QString& icon_name, const QString& tip) {
    auto* button = new QToolButton;
    button->setProperty("icon_name", icon_name);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setIconSize({22, 22});
    button->setFixedSize(34, 34);
    button->setStyleSheet(QStringLiteral("padding: 0;"));
    row_->addWidget(button);
    buttons_.push_back(button);
    return button;
}

void SelectionBar::offer_colours() {
    QMenu menu(this);
    add_colours(menu, tray_.tools().palette,
                [this](std::optional<uint32_t> colour) { leaf_.choosing().recolour(*colour); });
    show_below(menu, *colour_);
}

void SelectionBar::offer_type() {
    QMenu menu(this);
    menu.addAction(tr("In place of the ink"), this, [this] { leaf_.choosing().set_in_type(TypePlace::in_place); });
    menu.addAction(tr("Beside the ink"), this, [this] { leaf_.choosing().set_in_type(TypePlace::beside); });
    menu.addAction(tr("Copy as text"), this, [this] { leaf_.choosing().set_in_type(TypePlace::clipboard); });
    QMenu* other = menu.addMenu(tr("Read in another language"));
    for (const std::string& code : session_.readings().languages())
        other->addAction(language_name(code), this,
                         [this, code] { leaf_.choosing().set_in_type(TypePlace::in_place, code); });
    menu.addSeparator();
    const auto say = [this](InkClass kind) {
        std::vector<StrokeId> ink;
        for (const Stroke& s : leaf_.selection().chosen().strokes) ink.push_back(s.id);
        session_.correcting().say_kind(ink, kind);
    };
    menu.addAction(tr("This is text: read it"), this, [say] { say(InkClass::text); });
    menu.addAction(tr("This is one line: read it by itself"), this, [say] { say(InkClass::one_line); });
    menu.addAction(tr("This is a table: read it cell by cell"), this, [say] { say(InkClass::table); });
    menu.addAction(tr("This is math: read it as a formula"), this, [say] { say(InkClass::math); });
    menu.addAction(tr("This is a drawing: don't read it"), this, [say] { say(InkClass::drawing); });
    show_below(menu, *type_);
}

void SelectionBar::offer_paper() {
    const Elements& chosen = leaf_.selection().chosen();
    const std::optional<PictureArea> area = leaf_.selection().area();
    if (!area && chosen.pictures.size() != 1) return;
    const PictureId id = area ? area->picture : chosen.pictures[0].id;
    QMenu menu(this);
    const auto lift = [this, id, within = area ? area->outline : std::vector<Point>()](bool print_too) {
        leaf_.choosing().clear();  // another picture takes its place
        session_.pictures().lift_ink(id, print_too, within);
    };
    menu.addAction(tr("Lift handwriting"), this, [lift] { lift(false); });
    menu.addAction(tr("Lift handwriting and print"), this, [lift] { lift(true); });
    if (area) return show_below(menu, *paper_);
    const Treatment treatment = chosen.pictures[0].treatment;
    QAction* back = menu.addAction(tr("Put the ink back"), this, [this, id] { session_.pictures().put_ink_back(id); });
    back->setEnabled(!treatment.lifted.empty());
    menu.addSeparator();
    const auto treat = [this, id](const Treatment& changed) {
        session_.pictures().treat_picture(id, changed);
        leaf_.choosing().select({});  // the picture that took its place is another
    };
    for (const auto& [look, name] :
         {std::pair(Look::clean, tr("Clean, inks in their colours")), std::pair(Look::grey, tr("Grey")),
          std::pair(Look::black_white, tr("Black and white")), std::pair(Look::original, tr("As it came"))}) {
        Treatment changed = treatment;
        changed.look = look;
        QAction* action = menu.addAction(name, this, [treat, changed] { treat(changed); });
        action->setCheckable(true);
        action->setChecked(treatment.look == look);
    }
    menu.addSeparator();
    Treatment changed = treatment;
    changed.without_rules = !treatment.without_rules;
    QAction* rules = menu.addAction(tr("Remove rules and holes"), this, [treat, changed] { treat(changed); });
    rules->setCheckable(true);
    rules->setChecked(treatment.without_rules);
    show_below(menu, *paper_);
}

void SelectionBar::save_file() {
    const Elements chosen = leaf_.choosing().selection().chosen();
    if (chosen.cards.size() != 1) return;
    const QString folder = QSettings().value("folder").toString();
    const QString path = QFileDialog::getSaveFileName(
        this, tr("Save the file"),
        (folder.isEmpty() ? QString() : folder + '/') + QString::fromStdString(chosen.cards.front().name));
    if (!path.isEmpty()) session_.cards().save(chosen.cards.front(), path);
}

void SelectionBar::offer_rules() {
    const Elements& chosen = leaf_.selection().chosen();
    if (chosen.dividers.empty()) return;
    const Divider now = chosen.dividers.front();
    QMenu menu(this);
    const auto offer = [&](const QString& name, bool is, const std::function<void(Divider&)>& change) {
        QAction* action = menu.addAction(name, this, [this, change] { leaf_.choosing().change_dividers(change); });
        action->setCheckable(true);
        action->setChecked(is);
    };
    for (const auto& [form, name] :
         {std::pair(RuleForm::plain, tr("Plain")), std::pair(RuleForm::twofold, tr("Double")),
          std::pair(RuleForm::dashed, tr("Dashed")), std::pair(RuleForm::dotted, tr("Dotted")),
          std::pair(RuleForm::wavy, tr("Wavy"))})
        offer(name, now.form == form, [form = form](Divider& d) { d.form = form; });
    menu.addSeparator();
    for (const auto& [mm, name] :
         {std::pair(0.2, tr("Fine")), std::pair(0.4, tr("Medium")), std::pair(1.0, tr("Bold"))})
        offer(name, now.thickness_mm == mm, [mm = mm](Divider& d) { d.thickness_mm = mm; });
    show_below(menu, *rule_);
}

void SelectionBar::offer(QToolButton* button, const std::function<void(QMenu&)>& fill) {
    QMenu menu(this);
    fill(menu);
    show_below(menu, *button);
}

// Below what is chosen, or above it where there is no room; always within the leaf.
void SelectionBar::place() {
    const bool part_of_picture = leaf_.selection().area().has_value();
    const bool wanted = (!leaf_.selection().empty() || part_of_picture) && !leaf_.selection().changing();
    setVisible(wanted);
    if (!wanted) return;
    for (QToolButton* b : buttons_) b->setVisible(!part_of_picture);
    const Elements& chosen = leaf_.selection().chosen();
    const bool ink = !chosen.strokes.empty(), locked = leaf_.selection().locked();
    colour_->setVisible(has_colour(chosen));
    const bool lines = ink || !chosen.shapes.empty() || !chosen.tables.empty();
    thinner_->setVisible(lines);
    thicker_->setVisible(lines);
    type_->setVisible(ink);
    fair_->setVisible(ink);
    back_->setVisible(leaf_.choosing().made_from_ink());
    shape_->setVisible(!chosen.shapes.empty());
    table_->setVisible(leaf_.table().table() != nullptr);
    plot_->setVisible(leaf_.plot().plot() != nullptr);
    link_->setVisible(leaf_.choosing().may_link());
    lock_->setVisible(!chosen.pictures.empty());
    crop_->setVisible(leaf_.choosing().may_crop());
    keep_file_->setVisible(chosen.count() == 1 && chosen.cards.size() == 1 && !chosen.cards.front().file.empty());
    rule_->setVisible(!chosen.dividers.empty() && chosen.count() == chosen.dividers.size());
    paper_->setVisible(part_of_picture || (chosen.count() == 1 && chosen.pictures.size() == 1));
    paper_->setToolTip(part_of_picture ? tr("Lift ink …") : tr("Lift ink or change the look …"));
    crop_->setChecked(leaf_.choosing().cropping());
    crop_->setToolTip(leaf_.choosing().cropping() ? tr("Done with cropping  (Enter)") : tr("Crop the picture"));
    lock_->setToolTip(locked ? tr("Unlock: let the picture be moved") : tr("Lock: keep the picture from being moved"));
    lock_->setChecked(locked);
    adjustSize();
    const QRectF frame = leaf_.selection().painted(view_);
    double top = frame.bottom() + kGapPx;
    if (top + height() > tray_.y() - kGapPx) top = frame.top() - kGapPx - height();
    const double most = tray_.y() - kGapPx - height();
    move(static_cast<int>(
             std::clamp(frame.center().x() - width() / 2.0, 6.0, std::max(6.0, leaf_.width() - width() - 6.0))),
         static_cast<int>(std::clamp(top, 6.0, std::max(6.0, most))));
    raise();
    if (leaf_.plot().looked_into()) show_plot();
}

void SelectionBar::plot_table() {
    const FairTable* table = leaf_.table().table();
    if (!table) return;
    const Reading& reading = session_.reading();
    for (const TableWords& words : tables_of(reading))
        if (words.table->rules == std::vector{table->id}) return session_.math().plot_table(words, drawn_box(*table));
    session_.messages().tell(tr("The table is still being read. Try again in a moment."));
}

// Beside the plot, above or below it, where there is room; else where it hides the least of it.
void SelectionBar::show_plot() {
    const bool wanted = leaf_.plot().looked_into();
    plot_->setChecked(wanted);
    if (!wanted) return plot_card_->hide();
    plot_card_->show_plot(session_.read_only());
    const QRectF frame = leaf_.selection().painted(view_) | QRectF(geometry());
    const QSizeF card = plot_card_->size();
    const QRectF leaf(kGapPx, kGapPx, leaf_.width() - 2 * kGapPx, tray_.y() - 2 * kGapPx);
    const auto within = [&](QPointF at) {
        return QRectF({std::clamp(at.x(), leaf.left(), std::max(leaf.left(), leaf.right() - card.width())),
                       std::clamp(at.y(), leaf.top(), std::max(leaf.top(), leaf.bottom() - card.height()))},
                      card);
    };
    const std::array places{
        within({frame.right() + kGapPx, frame.top()}), within({frame.left() - kGapPx - card.width(), frame.top()}),
        within({frame.left(), frame.top() - kGapPx - card.height()}), within({frame.left(), frame.bottom() + kGapPx})};
    const auto hidden = [&](const QRectF& place) {
        const QRectF both = place & frame;
        return both.width() * both.height();
    };
    plot_card_->move(std::ranges::min_element(places, {}, hidden)->topLeft().toPoint());
}

void SelectionBar::restyle() {
    for (QToolButton* b : buttons_) b->setIcon(icon(b->property("icon_name").toString()));
    update();
}

}  // namespace fernleaf
