#include "tools/tile_store.h"

#include <cmath>

namespace fernleaf {
namespace {

constexpr size_t kMostTiles = 160;  // about 90 MB
// Larger edits are drawn by the worker: the ink that stands until then is a few frames old.
constexpr size_t kMostAtOnce = 60, kMostPointsAtOnce = 10000;

bool large(const Edit& edit) {
    size_t points = 0;
    for (const Elements* side : {&edit.added, &edit.removed})
        for (const Stroke& s : side->strokes) points += s.points.size();
    return edit.added.count() + edit.removed.count() > kMostAtOnce || points > kMostPointsAtOnce;
}

}  // namespace

TileStore::TileStore(QObject* parent) : QObject(parent), worker_(std::make_unique<JobThread>()) {}

TileStore::~TileStore() {
    drop_waiting();
    worker_.reset();
}

void TileStore::drop_waiting() {
    *current_ = ++generation_;
    asked_.clear();
    stale_.clear();
}

void TileStore::show(InkScene scene) {
    drop_waiting();
    scene_ = std::move(scene);
    snapshot_.reset();
    now_ = {};
    before_ = {};
}

void TileStore::set_images(std::shared_ptr<const PictureImages> images) {
    drop_waiting();
    scene_.images = std::move(images);
    snapshot_.reset();
    now_.tiles.clear();
    before_.tiles.clear();
    emit ready({0, 0, scene_.sheet.width_mm, scene_.sheet.height_mm});
}

void TileStore::set_sheet(const Sheet& sheet, const PageScheme& scheme) {
    if (sheet == scene_.sheet) return;
    drop_waiting();
    scene_.sheet = sheet;
    scene_.scheme = scheme_on(scheme, sheet.colour);
    snapshot_.reset();
    now_.tiles.clear();
    before_.tiles.clear();
    emit ready({0, 0, sheet.width_mm, sheet.height_mm});
}

QRectF TileStore::tile_mm(Place place, double scale) const {
    const double side = kTilePx / scale;
    return {place.first * side, place.second * side, side, side};
}

QImage TileStore::drawn(const InkScene& scene, const QRectF& mm, double scale) {
    QImage image(kTilePx, kTilePx, QImage::Format_ARGB32_Premultiplied);
    image.fill(Qt::transparent);
    QPainter painter(&image);
    painter.scale(scale, scale);
    painter.translate(-mm.topLeft());
    scene.draw(painter, box_of(mm));
    return image;
}

void TileStore::apply(const Edit& edit) {
    scene_.apply(edit);
    snapshot_.reset();
    const Box box = touched_by(edit);
    if (box.empty()) return;
    const QRectF mm = rect_of(box);
    if (large(edit)) return draw_anew(mm);
    const Elements& added = edit.added;
    const bool one_stroke = edit.removed.empty() && added.count() == 1 && added.strokes.size() == 1;
    const StrokeId newest = scene_.shapes.empty() ? 0 : scene_.shapes.back()->id();
    for (Layer* layer : {&now_, &before_})
        for (auto& [place, image] : layer->tiles) {
            const QRectF tile = tile_mm(place, layer->scale);
            if (!tile.intersects(mm)) continue;
            QPainter painter(&image);
            painter.scale(layer->scale, layer->scale);
            painter.translate(-tile.topLeft());
            if (one_stroke && added.strokes[0].id == newest && !lies_under(added.strokes[0].pen)) {
                // The usual case, a stroke upon all others, needs nothing drawn again.
                painter.setRenderHint(QPainter::Antialiasing);
                painter.setPen(Qt::NoPen);
                scene_.shapes.back()->draw(painter, scene_.scheme, box_of(tile));
            } else {
                const double px = 1 / layer->scale;  // soft edges reach into the next pixel
                const QRectF part = mm.adjusted(-px, -px, px, px).intersected(tile);
                painter.setClipRect(part);
                painter.setCompositionMode(QPainter::CompositionMode_Source);
                painter.fillRect(part, Qt::transparent);
                painter.setCompositionMode(QPainter::CompositionMode_SourceOver);
                scene_.draw(painter, box_of(part));
            }
        }
    for (const Place& place : asked_)
        if (tile_mm(place, now_.scale).intersects(mm)) stale_.insert(place);
}

// The tiles that a region meets, by the worker; those that are there stay until theirs come.
void TileStore::draw_anew(const QRectF& mm) {
    std::erase_if(before_.tiles, [&](const auto& tile) { return tile_mm(tile.first, before_.scale).intersects(mm); });
    for (const auto& [place, image] : now_.tiles) {
        if (!tile_mm(place, now_.scale).intersects(mm)) continue;
        if (asked_.contains(place))
            stale_.insert(place);
        else
            request(place);
    }
    for (const Place& place : asked_)
        if (!now_.tiles.contains(place) && tile_mm(place, now_.scale).intersects(mm)) stale_.insert(place);
}

// Drawing threads share one copy of the scene for as long as it does not change.
std::shared_ptr<const InkScene> TileStore::snapshot() {
    if (!snapshot_) snapshot_ = std::make_shared<const InkScene>(scene_);
    return snapshot_;
}

void TileStore::request(Place place) {
    if (!asked_.insert(place).second) return;
    const QRectF mm = tile_mm(place, now_.scale);
    worker_->post(
        [this, place, mm, scale = now_.scale, scene = snapshot(), generation = generation_, current = current_] {
            if (*current != generation) return;
            QImage image = drawn(*scene, mm, scale);
            QMetaObject::invokeMethod(
                this,
                [this, place, mm, generation, image = std::move(image)] {
                    if (generation != generation_) return;
                    asked_.erase(place);
                    if (stale_.erase(place) > 0) return request(place);
                    now_.tiles[place] = image;
                    emit ready(mm);
                },
                Qt::QueuedConnection);
        });
}

void TileStore::paint(QPainter& painter, const QRectF& region, QPointF origin, double scale, double device_ratio) {
    if (scene_.sheet.width_mm <= 0) return;
    const double device_scale = scale * device_ratio;
    if (device_scale != now_.scale) {
        drop_waiting();
        if (now_.tiles.size() >= before_.tiles.size() / 2 || before_.tiles.empty()) before_ = std::move(now_);
        now_ = {device_scale, {}};
    }
    if (now_.tiles.size() > kMostTiles) now_.tiles.clear();
    const double side = kTilePx / device_ratio;  // leaf px
    const QRectF sheet(origin, QSizeF(scene_.sheet.width_mm, scene_.sheet.height_mm) * scale);
    const QRectF shown = region.intersected(sheet);
    if (shown.isEmpty()) return;
    painter.save();
    painter.setClipRect(shown);
    const auto index = [side](double from, double at) { return static_cast<int>(std::floor((at - from) / side)); };
    bool missing = false;
    for (int ty = index(origin.y(), shown.top()); ty <= index(origin.y(), shown.bottom() - 1e-6); ++ty)
        for (int tx = index(origin.x(), shown.left()); tx <= index(origin.x(), shown.right() - 1e-6); ++tx)
            if (!now_.tiles.contains({tx, ty})) missing = true, request({tx, ty});
    if (missing) {
        painter.save();
        painter.translate(origin);
        painter.scale(scale, scale);
        paint_paper(painter, scene_.sheet, scene_.scheme);
        for (const auto& [place, image] : before_.tiles) painter.drawImage(tile_mm(place, before_.scale), image);
        painter.restore();
    }
    for (int ty = index(origin.y(), shown.top()); ty <= index(origin.y(), shown.bottom() - 1e-6); ++ty)
        for (int tx = index(origin.x(), shown.left()); tx <= index(origin.x(), shown.right() - 1e-6); ++tx) {
            const auto tile = now_.tiles.find({tx, ty});
            if (tile == now_.tiles.end()) continue;
            const QPointF at(origin.x() + tx * side, origin.y() + ty * side);
            if (device_ratio == 1)
                painter.drawImage(at, tile->second);
            else
                painter.drawImage(QRectF(at, QSizeF(side, side)), tile->second);
        }
    painter.restore();
}

}  // namespace fernleaf
