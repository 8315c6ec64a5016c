#include "desk/picture_desk.h"

#include <QBuffer>
#include <algorithm>

#include "desk/text_of.h"
#include "exchange/import.h"
#include "paper/lifted_ink.h"
#include "paper/sheet_picture.h"
#include "reading/reader.h"

namespace fernleaf {
namespace {

constexpr double kPictureDpi = 150;          // a picture without a size of its own
constexpr double kPictureShareOfPage = 0.6;  // no wider than this when it comes
constexpr int kMostPicturePx = 3000;         // pictures on screen are kept no larger

// Takes the place of a picture, with an id of its own.
Picture another(const Picture& picture, int64_t id) {
    Picture out = picture;
    out.z = z_of(picture);
    out.id = id;
    return out;
}

// What a person said of words in the picture holds for the ink that they became.
std::vector<Correction> corrections_of(const std::vector<Correction>& corrections, const Picture& picture,
                                       const std::vector<Stroke>& strokes) {
    std::vector<Correction> out;
    for (const Correction& c : corrections) {
        if (!c.strokes.empty() || !drawn_box(picture).contains(c.box.centre())) continue;
        Correction correction{{}, {}, c.text, c.kind};
        for (const Stroke& s : strokes)
            if (c.box.contains(s.box().centre())) {
                correction.strokes.push_back(s.id);
                correction.box.include(s.box());
            }
        if (!correction.strokes.empty()) out.push_back(std::move(correction));
    }
    return out;
}

}  // namespace

PictureDesk::PictureDesk(const DeskParts& parts, QObject* parent) : Desk(parts, parent) {
    connect(&document_, &PageDocument::opened, this, &PictureDesk::load_images);
    connect(&document_, &PageDocument::edited, this, [this](const Edit& edit) {
        if (!edit.added.pictures.empty() || edit.sheet) load_images();
    });
}

Result<LiftedInk> PictureDesk::ink_on(const Page& page, const Picture& picture, bool print_too,
                                      const std::vector<Point>& within, const CancelToken& cancel,
                                      const Progress& progress) {
    const auto bytes = library_.file(picture.file);
    if (!bytes) return bytes.error();
    Picture whole = picture;
    whole.treatment.lifted.clear();
    const auto pixels = picture_to_read(*bytes, whole);
    if (!pixels) return pixels.error();
    const auto preferences = library_.preferences(page.info.notebook);
    return fernleaf::lift_ink(*pixels, picture, *readings_.reader(), print_too ? nullptr : readings_.print(),
                              readings_.reader()->prepared(preferences ? *preferences : Preferences{}), within, cancel,
                              progress);
}

void PictureDesk::lift_ink(PictureId id, bool print_too, const std::vector<Point>& within) {
    if (!document_.page() || !editing_.may_change_page()) return;
    if (!readings_.can_read())
        return messages_.tell_problem(tr("The reader's data is missing here, so ink can't be told from print."));
    const auto picture = std::ranges::find(document_.page()->pictures, id, &Picture::id);
    if (picture == document_.page()->pictures.end()) return;
    tasks_.run_on(reader_thread_, tr("Lifting ink"),
                  [this, picture = *picture, print_too, within, mirror = readings_.mirror()](const CancelToken& cancel,
                                                                                             const Progress& progress) {
                      auto lifted = std::make_shared<Result<LiftedInk>>(
                          ink_on(*mirror, picture, print_too, within, cancel, progress));
                      QMetaObject::invokeMethod(
                          this,
                          [this, picture, part = !within.empty(), lifted, page = mirror->info.id,
                           cancelled = cancel.cancelled()] {
                              if (cancelled) return messages_.tell(tr("Cancelled. The picture is unchanged."));
                              if (!*lifted) return messages_.tell_problem(lifted->error());
                              take_lifted(page, picture, part, **lifted);
                          },
                          Qt::QueuedConnection);
                  });
}

void PictureDesk::take_lifted(PageId page, const Picture& picture, bool part, LiftedInk& ink) {
    // Moved, cropped or gone meanwhile: the ink would lie beside it.
    if (!document_.is_open(page) ||
        std::ranges::find(document_.page()->pictures, picture) == document_.page()->pictures.end())
        return messages_.tell(tr("The picture changed in the meantime. Lift its ink again."));
    if (ink.strokes.empty())
        return messages_.tell(part ? tr("No handwriting was found in that area. To lift print as well, choose “Lift "
                                        "handwriting and print”.")
                                   : tr("No handwriting was found in the picture. To lift print as well, choose “Lift "
                                        "handwriting and print”."));
    Edit edit{"Lift ink"};
    edit.removed.pictures = {picture};
    Picture bare = another(picture, editing_.new_id());
    bare.treatment.lifted.insert(bare.treatment.lifted.end(), ink.places.begin(), ink.places.end());
    edit.added.pictures = {std::move(bare)};
    for (Stroke& stroke : ink.strokes) {
        stroke.id = editing_.new_id();
        stroke = ElementTraits<Stroke>::as_kept(std::move(stroke));
    }
    edit.corrections_added = corrections_of(readings_.corrections(), picture, ink.strokes);
    const QString did =
        tr("Lifted %n stroke(s). The picture stays underneath.", nullptr, static_cast<int>(ink.strokes.size()));
    edit.added.strokes = std::move(ink.strokes);
    editing_.change_and_tell(std::move(edit), did);
}

void PictureDesk::put_ink_back(PictureId id) {
    if (!document_.page() || !editing_.may_change_page() || !readings_.can_read()) return;
    const auto found = std::ranges::find(document_.page()->pictures, id, &Picture::id);
    if (found == document_.page()->pictures.end() || found->treatment.lifted.empty()) return;
    Picture whole = *found;
    whole.treatment.lifted.clear();
    tasks_.run_on(
        reader_thread_, tr("Putting ink back"),
        [this, bare = *found, whole, mirror = readings_.mirror()](const CancelToken& cancel, const Progress& progress) {
            // Which strokes came from the picture is told by lifting them once more.
            auto lifted = std::make_shared<Result<LiftedInk>>(ink_on(*mirror, whole, true, {}, cancel, progress));
            QMetaObject::invokeMethod(
                this,
                [this, bare, whole, lifted, page = mirror->info.id, cancelled = cancel.cancelled()] {
                    if (cancelled) return messages_.tell(tr("Cancelled. The ink is unchanged."));
                    if (!*lifted) return messages_.tell_problem(lifted->error());
                    if (!document_.is_open(page) ||
                        std::ranges::find(document_.page()->pictures, bare) == document_.page()->pictures.end())
                        return messages_.tell(tr("The picture changed in the meantime. Try again."));
                    Edit edit{"Put ink back"};
                    edit.removed.pictures = {bare};
                    edit.added.pictures = {another(whole, editing_.new_id())};
                    std::vector<InkPoints> ways;
                    for (Stroke& s : (*lifted)->strokes)
                        ways.push_back(ElementTraits<Stroke>::as_kept(std::move(s)).points);
                    for (const Stroke& s : document_.page()->strokes)
                        if (std::ranges::find(ways, s.points) != ways.end()) edit.removed.strokes.push_back(s);
                    editing_.change_and_tell(
                        std::move(edit),
                        tr("The ink is back on the picture. Strokes you moved since then stay where they are."));
                },
                Qt::QueuedConnection);
        });
}

void PictureDesk::treat_picture(PictureId id, const Treatment& treatment) {
    if (!document_.page() || !editing_.may_change_page()) return;
    const auto picture = std::ranges::find(document_.page()->pictures, id, &Picture::id);
    if (picture == document_.page()->pictures.end() || picture->treatment == treatment) return;
    Edit edit{"Change the picture's look"};
    edit.removed.pictures = {*picture};
    edit.added.pictures = {another(*picture, editing_.new_id())};
    edit.added.pictures[0].treatment = treatment;
    editing_.change(std::move(edit));
}

void PictureDesk::keep_picture(const QString& path) {
    if (!editing_.may_change()) return emit picture_kept({});
    tasks_thread_.post([this, path] {
        const auto source = read_source(path.toStdString(), PictureUse::as_they_are);
        std::string hash;
        QString reason = source ? tr("it isn't a picture.") : text_of(source.error());
        if (source && !source->picture_bytes.empty()) {
            const auto file = library_.add_file(source->picture_bytes);
            if (file)
                hash = *file;
            else
                reason = text_of(file.error());
        }
        QMetaObject::invokeMethod(
            this,
            [this, path, hash, reason] {
                if (hash.empty()) messages_.tell_problem(tr("%1 can't be used as paper: %2").arg(path, reason));
                emit picture_kept(hash);
            },
            Qt::QueuedConnection);
    });
}

void PictureDesk::add_picture(const QImage& image, Point middle) {
    if (!document_.page() || !editing_.may_change_page()) return;
    if (image.isNull()) return messages_.tell_problem(tr("That picture can't be read."));
    tasks_thread_.post([this, image, middle, page = document_.page()->info.id,
                        share = kPictureShareOfPage * document_.page()->info.width_mm] {
        QByteArray png;
        QBuffer buffer(&png);
        buffer.open(QIODevice::WriteOnly);
        image.save(&buffer, "PNG");
        const auto file = library_.add_file(png.toStdString());
        const double width = std::min(share, image.width() / kPictureDpi * kMmPerInch);
        const Box box = Box::of(0, 0, width, width * image.height() / image.width());
        auto result = std::make_shared<Result<Elements>>(
            file ? Result<Elements>(Elements{{}, {{0, *file, "picture.png", 0, box}}, {}}) : file.error());
        QMetaObject::invokeMethod(
            this, [this, result, middle, page] { editing_.put(std::move(*result), middle, page, "Insert a picture"); },
            Qt::QueuedConnection);
    });
}

void PictureDesk::add_picture(const QString& path, Point middle) {
    if (!document_.page() || !editing_.may_change_page()) return;
    tasks_thread_.post([this, path, middle, page = document_.page()->info.id,
                        share = kPictureShareOfPage * document_.page()->info.width_mm] {
        const auto put = [&]() -> Result<Elements> {
            auto source = read_source(path.toStdString(), PictureUse::as_they_are);
            if (!source) return source.error();
            if (source->picture_bytes.empty()) return Error{"it is not a picture; import it as a page instead."};
            const auto file = library_.add_file(source->picture_bytes);
            if (!file) return file.error();
            Picture picture = source->pages.front().content.pictures.front();
            picture.file = *file;
            picture.locked = false;
            const double shrink = std::min(1.0, share / picture.box.width());
            picture.box = Box::of(0, 0, picture.box.width() * shrink, picture.box.height() * shrink);
            return Elements{{}, {picture}, {}};
        };
        auto result = std::make_shared<Result<Elements>>(put());
        QMetaObject::invokeMethod(
            this, [this, result, middle, page] { editing_.put(std::move(*result), middle, page, "Insert a picture"); },
            Qt::QueuedConnection);
    });
}

void PictureDesk::load_images() {
    if (document_.page()->pictures.empty() && document_.page()->info.paper != Paper::picture) return;
    Page copy;  // without its ink
    copy.info = document_.page()->info;
    copy.pictures = document_.page()->pictures;
    tasks_thread_.post([this, copy = std::move(copy)] {
        auto images = std::make_shared<const PictureImages>(load_pictures(
            copy, [this](const std::string& hash) { return library_.file(hash); }, kMostPicturePx));
        QMetaObject::invokeMethod(
            this,
            [this, id = copy.info.id, images = std::move(images)] {
                if (document_.is_open(id)) emit pictures_ready(images);
            },
            Qt::QueuedConnection);
    });
}

}  // namespace fernleaf
