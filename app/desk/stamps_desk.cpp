#include "desk/stamps_desk.h"

#include <QCoreApplication>
#include <QPainter>
#include <algorithm>

#include "base/text.h"
#include "desk/shipped_stamps.h"
#include "desk/text_of.h"
#include "ink/drawn_by_rule.h"
#include "render/text_look.h"

namespace fernleaf {
namespace {

constexpr int kPicturePx = 112, kEdgePx = 8;  // at twice the size in which they are shown
constexpr double kLeastMm = 10;               // that a picture shows of the page: small pieces stay small
constexpr float kPenMm = 0.6F;

QImage picture_of(const Elements& piece, const PageScheme& scheme, const FileSource& files) {
    QImage image(kPicturePx, kPicturePx, QImage::Format_ARGB32_Premultiplied);
    image.fill(Qt::transparent);
    Page page;
    static_cast<Elements&>(page) = piece;
    const PictureImages images = load_pictures(page, files, kPicturePx);
    const Box box = drawn_box(piece);
    const double scale = (kPicturePx - 2 * kEdgePx) / std::max({kLeastMm, box.width(), box.height()});
    QPainter painter(&image);
    painter.translate(kPicturePx / 2.0, kPicturePx / 2.0);
    painter.scale(scale, scale);
    painter.translate(-box.centre().x, -box.centre().y);
    paint_elements(painter, piece, {scheme, images, box});
    return image;
}

void number(Elements& piece) {
    ElementId id = 0;
    for_each_element(piece, [&](auto& e) { e.id = ++id; });
}

}  // namespace

void StampsDesk::refresh(const PageScheme& scheme) {
    scheme_ = scheme;
    disk_.ask(
        this,
        [this, scheme]() -> Result<std::vector<ShownStamp>> {
            auto own = library_.stamps();
            if (!own) return own.error();
            std::vector<ShownStamp> out;
            for (Stamp& stamp : *own) out.push_back({std::move(stamp), {}, {}});
            Pen pen;
            pen.width_mm = kPenMm;
            for (const ShippedStamp& shipped : shipped_stamps())
                if (auto strokes = strokes_by_rule(shipped.drawing, pen)) {
                    ShownStamp& shown = out.emplace_back();
                    shown.stamp.name = QCoreApplication::translate("Stamps", shipped.name).toStdString();
                    shown.stamp.content.strokes = *std::move(strokes);
                    shown.words = QCoreApplication::translate("Stamps", shipped.words);
                }
            const FileSource files = [this](const std::string& hash) { return library_.file(hash); };
            for (ShownStamp& shown : out) {
                number(shown.stamp.content);
                for (TextBlock& text : shown.stamp.content.texts) lay_out(text);
                shown.picture = picture_of(shown.stamp.content, scheme, files);
            }
            return out;
        },
        [this](Result<std::vector<ShownStamp>>& stamps) {
            if (!stamps) return messages_.tell_problem(stamps.error());
            stamps_ = *std::move(stamps);
            emit changed();
        });
}

std::vector<size_t> StampsDesk::found(const QString& typed) const {
    const std::vector<std::string> wanted = fold_words(typed.toStdString());
    const auto says = [&](const std::string& text) {
        const std::vector<std::string> has = fold_words(text);
        return std::ranges::all_of(wanted, [&](const std::string& word) {
            return std::ranges::any_of(has, [&](const std::string& one) { return one.starts_with(word); });
        });
    };
    std::vector<size_t> out, by_words;
    for (size_t i = 0; i < stamps_.size(); ++i) {
        const std::string& name = stamps_[i].stamp.name;
        if (says(name))
            out.push_back(i);
        else if (says(name + ' ' + stamps_[i].words.toStdString()))
            by_words.push_back(i);
    }
    out.insert(out.end(), by_words.begin(), by_words.end());
    return out;
}

void StampsDesk::add(const Stamp& stamp, const QString& told) {
    disk_.ask(
        this, [this, stamp] { return library_.add_stamp(stamp); },
        [this, told](const Result<StampId>& id) {
            if (!id) return messages_.tell_problem(id.error());
            if (!told.isEmpty()) messages_.tell(told);
            refresh(scheme_);
        });
}

void StampsDesk::keep(Elements piece, const QString& name) {
    if (piece.empty() || !editing_.may_change()) return;
    for_each_element(piece, []<typename E>(E& e) {
        e.id = 0, e.z = 0;
        // What it was made from stays on its page.
        if (std::vector<ElementId>* ink = ElementTraits<E>::made_from(e)) ink->clear();
    });
    add({0, name.toStdString(), std::move(piece)}, tr("Stamp “%1” added.").arg(name));
}

void StampsDesk::place(size_t stamp, Point middle) {
    if (!document_.page() || stamp >= stamps_.size() || !editing_.may_change_page()) return;
    Elements piece = stamps_[stamp].stamp.content;
    for_each_element(piece, [](auto& e) { e.z = 0; });
    if (piece.count() > 1) set_group(piece, 1);  // one thing; it gets a number of its own on the page
    // Those that come with Fernleaf are drawings that stay as they are drawn; one's own may be words.
    const auto kind = stamps_[stamp].stamp.id == 0 ? std::optional(InkClass::shape) : std::nullopt;
    editing_.put(std::move(piece), middle, document_.page()->info.id, "Place a stamp", kind);
}

void StampsDesk::rename(size_t stamp, const QString& name) {
    if (stamp >= stamps_.size() || stamps_[stamp].stamp.id == 0 || !editing_.may_change()) return;
    disk_.ask(
        this,
        [this, id = stamps_[stamp].stamp.id, name = name.toStdString()] { return library_.rename_stamp(id, name); },
        [this](const Status& status) {
            if (!status) return messages_.tell_problem(status.error());
            refresh(scheme_);
        });
}

void StampsDesk::remove(size_t stamp) {
    if (stamp >= stamps_.size() || stamps_[stamp].stamp.id == 0 || !editing_.may_change()) return;
    Stamp gone = stamps_[stamp].stamp;
    disk_.ask(
        this, [this, id = gone.id] { return library_.remove_stamp(id); },
        [this, gone](const Status& status) {
            if (!status) return messages_.tell_problem(status.error());
            messages_.tell_undoable(tr("Stamp deleted."), [this, gone] { add(gone, {}); });
            refresh(scheme_);
        });
}

}  // namespace fernleaf
