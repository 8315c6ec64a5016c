#include "tools/selection_editing.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QMimeData>
#include <QSettings>
#include <algorithm>
#include <cmath>
#include <set>

#include "drawing/links.h"
#include "drawing/words_within.h"
#include "exchange/inkml.h"
#include "render/page_picture.h"
#include "render/text_look.h"
#include "tools/pasted_table.h"

namespace fernleaf {
namespace {

constexpr double kNudgeMm = 0.5, kFarNudgeMm = 5;
constexpr double kPictureDpi = 300;
constexpr int kLargestPicturePx = 8000;
constexpr qsizetype kLargestPasteBytes = 64'000'000;
constexpr qsizetype kLongestPastedText = 20'000;
constexpr double kPastedMarginMm = 8;
constexpr double kPastedWidthMm = 90;
const QString kInkType = QStringLiteral("application/inkml+xml");
const QString kElementsType = QStringLiteral("application/x-fernleaf-elements+json");

// What was copied, put into words only when somebody asks: ink as InkML for everyone, type and pictures as we keep
// them.
class Copied : public QMimeData {
public:
    Copied(Elements elements, const QString& text) : elements_(std::move(elements)) {
        if (!text.isEmpty()) setText(text);
    }
    bool hasFormat(const QString& type) const override { return own().contains(type) || QMimeData::hasFormat(type); }
    QStringList formats() const override { return own() + QMimeData::formats(); }

protected:
    QVariant retrieveData(const QString& type, QMetaType as) const override {
        if (!own().contains(type)) return QMimeData::retrieveData(type, as);
        if (type == kElementsType) return QByteArray::fromStdString(encode_elements(elements_));
        Page page;
        page.strokes = elements_.strokes;
        return QByteArray::fromStdString(write_inkml({page}));
    }

private:
    QStringList own() const {
        QStringList types;
        if (!elements_.strokes.empty()) types << kInkType;
        if (elements_.count() > elements_.strokes.size()) types << kElementsType;
        return types;
    }
    Elements elements_;
};

}  // namespace

void copy_to_clipboard(const Elements& elements, const QString& text) {
    QGuiApplication::clipboard()->setMimeData(new Copied(elements, text));
}

bool snap_to_guides() { return QSettings().value("guides", true).toBool(); }
bool snap_to_grid() { return QSettings().value("grid", false).toBool(); }

void set_snapping(bool guides, bool grid) {
    QSettings settings;
    settings.setValue("guides", guides);
    settings.setValue("grid", grid);
}

void SelectionEditing::repaint() { surface_.refresh(selection_.painted(surface_.view())); }

void SelectionEditing::select(const std::vector<ElementId>& ids, int taps) {
    repaint();
    if (crop_.open()) surface_.refresh_all();
    crop_.close();
    const bool was_empty = selection_.empty() && !selection_.area();
    selection_.choose(surface_.session().page() && !ids.empty() ? picked(*surface_.session().page(), ids) : Elements{});
    repaint();
    taps_ = taps;
    if (!was_empty || !selection_.empty()) emit changed();
}

void SelectionEditing::select_area(const std::vector<Point>& outline) {
    const Page* page = surface_.session().page();
    if (!page) return;
    Box drawn;
    for (const Point p : outline) drawn.include(p);
    const Picture* under = nullptr;
    for (const Picture& picture : page->pictures)
        if (drawn_box(picture).contains(drawn.centre()) && (!under || z_of(picture) > z_of(*under))) under = &picture;
    if (!under) return;
    select({});
    selection_.choose_area({under->id, outline});
    repaint();
    emit changed();
}

void SelectionEditing::paint(QPainter& painter) const {
    if (crop_.open())
        crop_.paint(painter, surface_.view(), surface_.tiles().scene().decoded());
    else
        selection_.paint(painter, surface_.view());
}

void SelectionEditing::select_all() {
    if (!surface_.session().page()) return;
    std::vector<ElementId> ids;
    for_each_element(*surface_.session().page(), [&]<typename E>(const E& e) {
        if (!ElementTraits<E>::locked(e)) ids.push_back(e.id);
    });
    select(ids);
}

void SelectionEditing::clear() {
    taps_ = 0;
    if (!selection_.empty() || selection_.area()) select({});
}

void SelectionEditing::replace(Elements elements, const char* label) {
    Edit edit{label, {}, selection_.chosen()};
    edit.replacements = renew(elements, [this] { return surface_.session().editing().new_id(); });
    for (TextBlock& t : elements.texts) lay_out(t);
    const std::vector<ElementId> ids = ids_of(elements);
    edit.added = std::move(elements);
    const int taps = taps_;  // changing it clears what is chosen
    surface_.session().editing().change(std::move(edit));
    select(ids, taps);
    surface_.refresh_all();
}

void SelectionEditing::move(const Affine& by, const char* label) {
    if (selection_.empty() || selection_.locked() || !surface_.session().editing().may_change_page()) return;
    Elements moved = stretched(selection_.chosen(), by);
    for (Stroke& s : moved.strokes) s.pen.width_mm = std::clamp(s.pen.width_mm, 0.05F, 10.0F);
    replace(std::move(moved), label);
}

void SelectionEditing::change_pens(const std::function<Pen(Pen)>& change, const char* label) {
    if (selection_.empty() || !surface_.session().editing().may_change_page()) return;
    Elements changed = selection_.chosen();
    for (Stroke& s : changed.strokes) s.pen = change(s.pen);
    for (FairShape& s : changed.shapes) {
        Pen pen;
        pen.width_mm = static_cast<float>(s.width_mm);
        pen.colour = s.colour;
        pen = change(pen);
        s.width_mm = pen.width_mm;
        s.colour = pen.colour;
    }
    for (FairTable& t : changed.tables) {
        Pen pen;
        pen.width_mm = static_cast<float>(t.width_mm);
        t.width_mm = change(pen).width_mm;
    }
    replace(std::move(changed), label);
}

void SelectionEditing::recolour(uint32_t colour) {
    if (selection_.empty() || !surface_.session().editing().may_change_page()) return;
    Elements changed = selection_.chosen();
    set_colour(changed, colour);
    replace(std::move(changed), "Change colour");
}

void SelectionEditing::reorder(bool to_front) {
    if (selection_.empty() || !surface_.session().editing().may_change_page()) return;
    Elements changed = selection_.chosen();
    const Elements& all = *surface_.session().page();
    // Before all: numbers not given to any element yet. Behind all: below the lowest, and below 0, which means the id.
    for_each_list(changed, [&]<typename E>(std::vector<E>& chosen) {
        if (chosen.empty()) return;
        const int64_t lowest = std::min<int64_t>(z_of(all.of<E>().front()), 0) - std::ssize(chosen) - 1;
        for (int64_t n = 0; E & e : chosen)
            e.z = to_front ? counter_of(surface_.session().editing().new_id()) : lowest + ++n;
    });
    replace(std::move(changed), to_front ? "Bring to the front" : "Send to the back");
}

bool SelectionEditing::may_group() const {
    const Elements& chosen = selection_.chosen();
    std::set<int64_t> groups;
    for_each_element(chosen, [&](const auto& e) { groups.insert(e.group); });
    return chosen.count() > 1 && (groups.size() > 1 || groups.contains(0));
}

bool SelectionEditing::grouped() const { return any_grouped(selection_.chosen()); }

void SelectionEditing::group() {
    if (!may_group() || !surface_.session().editing().may_change_page()) return;
    Elements changed = selection_.chosen();
    set_group(changed, surface_.session().editing().new_id());
    replace(std::move(changed), "Group");
}

void SelectionEditing::ungroup() {
    if (!grouped() || !surface_.session().editing().may_change_page()) return;
    Elements changed = selection_.chosen();
    set_group(changed, 0);
    replace(std::move(changed), "Ungroup");
}

void SelectionEditing::change_dividers(const std::function<void(Divider&)>& change) {
    if (selection_.empty() || !surface_.session().editing().may_change_page()) return;
    Elements changed = selection_.chosen();
    for (Divider& d : changed.dividers) change(d);
    replace(std::move(changed), "Change the divider");
}

void SelectionEditing::lock(bool locked) {
    if (selection_.chosen().pictures.empty() || !surface_.session().editing().may_change_page()) return;
    Elements changed = selection_.chosen();
    for (Picture& p : changed.pictures) p.locked = locked;
    replace(std::move(changed), locked ? "Lock" : "Unlock");
}

bool SelectionEditing::may_crop() const {
    const Elements& chosen = selection_.chosen();
    return chosen.count() == 1 && chosen.pictures.size() == 1 && !selection_.locked();
}

void SelectionEditing::crop() {
    if (crop_.open()) return close_crop();
    if (!may_crop() || !surface_.session().editing().may_change_page()) return;
    crop_.show(selection_.chosen().pictures.front());
    emit changed();
    surface_.refresh_all();
}

// Each pull is a step of undo; the frame goes on with what came of it.
void SelectionEditing::keep_crop() {
    if (crop_.picture() == selection_.chosen().pictures.front()) return;
    Elements part;
    part.pictures = {crop_.picture()};
    replace(std::move(part), "Crop");
    if (may_crop()) crop_.show(selection_.chosen().pictures.front());
    emit changed();
    surface_.refresh_all();
}

void SelectionEditing::close_crop() {
    crop_.close();
    emit changed();
    surface_.refresh_all();
}

// Arrows move the right and the lower side, with Alt the left and the upper one.
bool SelectionEditing::crop_key(QKeyEvent* event) {
    const bool far = event->modifiers() & Qt::ShiftModifier, other = event->modifiers() & Qt::AltModifier;
    const double step = far ? kFarNudgeMm : kNudgeMm;
    const auto nudge = [&](Grip side, double by) {
        crop_.nudge(side, by);
        keep_crop();
        return true;
    };
    switch (event->key()) {
        case Qt::Key_Left:
            return nudge(other ? Grip::left : Grip::right, other ? step : -step);
        case Qt::Key_Right:
            return nudge(other ? Grip::left : Grip::right, other ? -step : step);
        case Qt::Key_Up:
            return nudge(other ? Grip::top : Grip::bottom, other ? step : -step);
        case Qt::Key_Down:
            return nudge(other ? Grip::top : Grip::bottom, other ? -step : step);
        case Qt::Key_Return:
        case Qt::Key_Enter:
        case Qt::Key_Escape:
            close_crop();
            return true;
        default:
            return false;
    }
}

void SelectionEditing::remove(const char* label) {
    if (selection_.empty() || selection_.locked() || !surface_.session().editing().may_change_page()) return;
    Elements gone = selection_.chosen();
    clear();
    surface_.session().editing().change({label, {}, std::move(gone)});
}

void SelectionEditing::copy() {
    if (selection_.empty()) return;
    QStringList lines;
    for (const ReadLine& line : surface_.session().reading().lines) {
        QStringList words;
        for (const ReadWord& word : line.words)
            if (!word.strokes.empty() && selection_.contains(word.strokes.front()))
                words << QString::fromStdString(word.text);
        if (!words.isEmpty()) lines << words.join(' ');
    }
    for_each_element(selection_.chosen(), [&]<typename E>(const E& e) {
        if (const std::string text = ElementTraits<E>::plain_text(e); !text.empty())
            lines << QString::fromStdString(text);
    });
    auto* copied = new Copied(selection_.chosen(), lines.join('\n'));
    if (selection_.table()) put_table(*copied, surface_.session().reading(), selection_.table()->id);
    QGuiApplication::clipboard()->setMimeData(copied);
}

void SelectionEditing::cut() {
    if (selection_.empty() || !surface_.session().editing().may_change_page()) return;
    copy();
    remove("Cut");
}

void SelectionEditing::copy_as_picture() {
    if (selection_.empty()) return;
    const Box box = selection_.box().grown(1);
    const double px = std::min(kPictureDpi / kMmPerInch, kLargestPicturePx / std::max(box.width(), box.height()));
    QImage image(static_cast<int>(std::ceil(box.width() * px)), static_cast<int>(std::ceil(box.height() * px)),
                 QImage::Format_ARGB32_Premultiplied);
    image.fill(light_page().paper);
    QPainter painter(&image);
    painter.scale(px, px);
    painter.translate(-box.left, -box.top);
    paint_elements(painter, selection_.chosen(), {light_page(), surface_.tiles().scene().decoded(), box});
    painter.end();
    QGuiApplication::clipboard()->setImage(image);
}

void SelectionEditing::copy_as_svg() {
    if (selection_.empty()) return;
    const std::string svg = svg_of(selection_.chosen(), selection_.box().grown(1), surface_.tiles().scene().decoded());
    auto* data = new QMimeData;
    data->setData(QStringLiteral("image/svg+xml"), QByteArray::fromStdString(svg));
    data->setText(QString::fromStdString(svg));
    QGuiApplication::clipboard()->setMimeData(data);
}

void SelectionEditing::set_in_type(TypePlace place, const std::string& language) {
    std::vector<StrokeId> ink;
    for (const Stroke& s : selection_.chosen().strokes) ink.push_back(s.id);
    if (!ink.empty()) surface_.session().typesetting().set_in_type({place, ink, language});
}

void SelectionEditing::change_shapes(const std::function<void(FairShape&)>& change, const char* label) {
    if (selection_.empty() || !surface_.session().editing().may_change_page()) return;
    Elements changed = selection_.chosen();
    for (FairShape& s : changed.shapes) change(s);
    if (changed != selection_.chosen()) replace(std::move(changed), label);
}

void SelectionEditing::reshape(const FairShape& shape) {
    change_shapes([&](FairShape& s) { s = shape; }, "Change a figure");
}

void SelectionEditing::align(Alignment alignment) {
    if (selection_.locked() || !surface_.session().editing().may_change_page()) return;
    Elements tidy = aligned(selection_.chosen(), alignment);
    if (tidy != selection_.chosen()) replace(std::move(tidy), "Align");
}

void SelectionEditing::distribute(bool across) {
    if (selection_.locked() || !surface_.session().editing().may_change_page()) return;
    Elements even = distributed(selection_.chosen(), across);
    if (even != selection_.chosen()) replace(std::move(even), "Distribute");
}

namespace {

std::vector<FairShape> figures_in(const Elements& chosen) {
    std::vector<FairShape> out;
    for (const FairShape& s : chosen.shapes)
        if (is_closed(s.shape.kind)) out.push_back(s);
    // From the left, or from above where one is above the other.
    std::ranges::sort(out, {}, [](const FairShape& s) {
        const Point middle = drawn_box(s).centre();
        return middle.x + 2 * middle.y;
    });
    return out;
}

}  // namespace

bool SelectionEditing::may_link() const { return figures_in(selection_.chosen()).size() == 2; }

void SelectionEditing::link() {
    if (!may_link() || !surface_.session().editing().may_change_page()) return;
    PageEditing& editing = surface_.session().editing();
    const std::vector<FairShape> figures = figures_in(selection_.chosen());
    Edit edit{"Link"};
    std::vector<FairShape> ends = figures;
    for (size_t i = 0; i < ends.size(); ++i)
        if (ends[i].key == 0) {  // from before links could hold
            ends[i].z = z_of(figures[i]);
            ends[i].key = ends[i].id = editing.new_id();
            edit.removed.shapes.push_back(figures[i]);
            edit.added.shapes.push_back(ends[i]);
        }
    FairShape link = linked(ends[0], ends[1]);
    link.id = editing.new_id();
    edit.added.shapes.push_back(link);
    editing.change(std::move(edit));
    select({link.id});
    surface_.refresh_all();
}

void SelectionEditing::draw_fair() {
    std::vector<StrokeId> ink;
    for (const Stroke& s : selection_.chosen().strokes) ink.push_back(s.id);
    if (!ink.empty()) surface_.session().drawing().draw_fair(ink);
}

bool SelectionEditing::made_from_ink() const {
    bool out = false;
    for_each_element(selection_.chosen(), [&]<typename E>(const E& e) {
        if constexpr (FromInk<E>) out = out || !e.ink.empty();
    });
    return out;
}

void SelectionEditing::back_to_ink() {
    if (made_from_ink()) surface_.session().typesetting().back_to_ink(ids_of(selection_.chosen()));
}

void SelectionEditing::paste() {
    if (!surface_.session().page() || !surface_.session().editing().may_change_page()) return;
    const QMimeData* copied = QGuiApplication::clipboard()->mimeData();
    if (!copied) return;
    const Point at = surface_.place_for_new();
    const QByteArray ink = copied->data(kInkType), elements = copied->data(kElementsType);
    if (ink.size() > kLargestPasteBytes || elements.size() > kLargestPasteBytes)
        return surface_.session().messages().tell_problem(tr("What was copied is too large to be put here."));
    if (!ink.isEmpty() || !elements.isEmpty()) return surface_.session().transfers().paste(ink, elements, at);
    // Spreadsheets offer a picture of their cells as well.
    if (copied->hasText() && copied->text().size() > kLongestPastedText)
        return surface_.session().messages().tell_problem(tr("That text is too long for a page."));
    if (const auto rows = rows_copied(*copied)) return paste_table(*rows, at);
    if (copied->hasImage())
        return surface_.session().pictures().add_picture(qvariant_cast<QImage>(copied->imageData()), at);
    if (copied->hasText() && !copied->text().trimmed().isEmpty()) return paste_text(copied->text(), at);
    surface_.session().messages().tell(tr("There is nothing to paste: no ink, no picture and no text was copied."));
}

void SelectionEditing::paste_table(const TableRows& rows, Point at) {
    const double page_mm = surface_.session().page()->info.width_mm;
    Elements table = table_elements(rows, {kPastedMarginMm, at.y}, page_mm - 2 * kPastedMarginMm);
    lay_out_fresh(table);
    const double by = std::clamp(at.x, kPastedMarginMm,
                                 std::max(kPastedMarginMm, page_mm - kPastedMarginMm - width_of(table.tables[0])));
    table = transformed(std::move(table), Affine::shift({by - kPastedMarginMm, 0}));
    for (TextBlock& text : table.texts) lay_out(text);
    for_each_element(table, [&](auto& e) { e.id = surface_.session().editing().new_id(); });
    surface_.session().editing().add(std::move(table), "Paste");
}

void SelectionEditing::paste_text(const QString& text, Point at) {
    TextBlock block;
    const double edge = surface_.session().page()->info.width_mm - kPastedMarginMm;
    block.id = surface_.session().editing().new_id();
    block.width_mm = std::min(kPastedWidthMm, surface_.session().page()->info.width_mm - 2 * kPastedMarginMm);
    block.at = {std::max(kPastedMarginMm, std::min(at.x, edge - block.width_mm)), at.y};
    for (const QString& line : text.split('\n')) block.paragraphs.push_back({{{line.trimmed().toStdString(), {}}}});
    lay_out(block);
    surface_.session().editing().add({{}, {}, {std::move(block)}}, "Paste");
}

bool SelectionEditing::key(QKeyEvent* event) {
    if (crop_.open() && crop_key(event)) return true;
    if (event->matches(QKeySequence::Paste)) return paste(), true;
    if (event->matches(QKeySequence::SelectAll)) return select_all(), true;
    if (selection_.area() && event->key() == Qt::Key_Escape) return clear(), true;
    if (selection_.empty()) return false;
    if (event->matches(QKeySequence::Copy)) return copy(), true;
    if (event->matches(QKeySequence::Cut)) return cut(), true;
    const double step = event->modifiers() & Qt::ShiftModifier ? kFarNudgeMm : kNudgeMm;
    const auto nudge = [&](double x, double y) { move(Affine::shift({x * step, y * step}), "Move"); };
    switch (event->key()) {
        case Qt::Key_Up:
            return nudge(0, -1), true;
        case Qt::Key_Down:
            return nudge(0, 1), true;
        case Qt::Key_Left:
            return nudge(-1, 0), true;
        case Qt::Key_Right:
            return nudge(1, 0), true;
        case Qt::Key_Delete:
        case Qt::Key_Backspace:
            return remove(), true;
        case Qt::Key_Escape:
            return clear(), true;
        default:
            return false;
    }
}

}  // namespace fernleaf
