// The page drawn in tiles. Tiles of a new scale are drawn by a worker; until they come, those of the last scale stand
// in, stretched. Edits touch up the tiles they lie on at once, on the UI thread.
#pragma once

#include <QImage>
#include <QObject>
#include <map>
#include <memory>
#include <set>

#include "store/job_thread.h"
#include "tools/ink_scene.h"

namespace fernleaf {

class TileStore : public QObject {
    Q_OBJECT

public:
    static constexpr int kTilePx = 384;

    explicit TileStore(QObject* parent = nullptr);
    ~TileStore() override;

    void show(InkScene scene);  // another page, or other colours: everything is drawn anew
    void set_images(std::shared_ptr<const PictureImages> images);
    void apply(const Edit& edit);
    // The sheet has another size or paper.
    void set_sheet(const Sheet& sheet, const PageScheme& scheme);
    const InkScene& scene() const { return scene_; }
    bool waits() const { return !asked_.empty(); }  // for tiles that were asked for

    // Draws what is ready of a region (leaf px) and asks for what is not. scale: device px for a mm.
    void paint(QPainter& painter, const QRectF& region, QPointF origin, double scale, double device_ratio);

signals:
    void ready(const QRectF& mm);  // a tile came

private:
    using Place = std::pair<int, int>;
    struct Layer {
        double scale = 0;  // device px for a mm
        std::map<Place, QImage> tiles;
    };

    void request(Place place);
    void draw_anew(const QRectF& mm);
    std::shared_ptr<const InkScene> snapshot();
    QRectF tile_mm(Place place, double scale) const;
    static QImage drawn(const InkScene& scene, const QRectF& mm, double scale);
    void drop_waiting();

    InkScene scene_;
    std::shared_ptr<const InkScene> snapshot_;  // of it, for the worker; none since it changed
    Layer now_, before_;
    std::set<Place> asked_;
    std::set<Place> stale_;  // asked for before an edit that touched them
    int generation_ = 0;     // jobs of another one are void
    std::shared_ptr<std::atomic<int>> current_ = std::make_shared<std::atomic<int>>(0);
    std::unique_ptr<JobThread> worker_;
};

}  // namespace fernleaf
