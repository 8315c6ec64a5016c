// Pictures on the open page: put there, shown, treated as paper, their ink lifted off and put back.
#pragma once

#include <QImage>
#include <QObject>
#include <QString>
#include <memory>
#include <string>

#include "desk/desk.h"
#include "render/page_painter.h"

namespace fernleaf {

struct LiftedInk;

// UI thread only, but for what is said to run on the reader's.
class PictureDesk : public Desk {
    Q_OBJECT

public:
    explicit PictureDesk(const DeskParts& parts, QObject* parent = nullptr);

    // Puts a picture there; its file or its pixels are kept in the library.
    void add_picture(const QString& path, Point middle);
    void add_picture(const QImage& image, Point middle);
    // Keeps a picture for paper; picture_kept() tells its file, or none when it can't be used.
    void keep_picture(const QString& path);
    // The handwriting on a picture of the open page becomes strokes, and goes from the picture as it is shown; on
    // request what seems printed, too. within: a closed line, mm; an empty one holds all of it.
    void lift_ink(PictureId picture, bool print_too = false, const std::vector<Point>& within = {});
    // And is on it again; strokes that were moved since stay.
    void put_ink_back(PictureId picture);
    // Another look of a picture: what is done to its file, not where it lies.
    void treat_picture(PictureId picture, const Treatment& treatment);

signals:
    void pictures_ready(std::shared_ptr<const PictureImages> images);
    void picture_kept(const std::string& file);

private:
    void load_images();
    // On the reader's thread.
    Result<LiftedInk> ink_on(const Page& page, const Picture& picture, bool print_too, const std::vector<Point>& within,
                             const CancelToken& cancel, const Progress& progress);
    void take_lifted(PageId page, const Picture& picture, bool part, LiftedInk& ink);
};

}  // namespace fernleaf
