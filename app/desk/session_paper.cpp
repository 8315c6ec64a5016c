// What is done to pictures of paper that are on a page: other looks, their ink lifted off and put back.
#include "desk/session.h"
#include "desk/text_of.h"
#include "document/elements.h"
#include "look/counted.h"
#include "paper/lifted_ink.h"
#include "paper/sheet_picture.h"
#include "reading/reader.h"
#include "store/codec.h"

namespace fernleaf {
namespace {

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

Result<LiftedInk> Session::ink_on(const Page& page, const Picture& picture, bool print_too, const CancelToken& cancel,
                                  const Progress& progress) {
    const auto bytes = library_->file(picture.file);
    if (!bytes) return bytes.error();
    Picture whole = picture;
    whole.treatment.lifted.clear();
    const auto pixels = picture_to_read(*bytes, whole);
    if (!pixels) return pixels.error();
    const auto preferences = library_->preferences(page.info.notebook);
    return fernleaf::lift_ink(*pixels, picture, *reader_, print_too ? nullptr : print_.get(),
                              reader_->prepared(preferences ? *preferences : Preferences{}), cancel, progress);
}

void Session::lift_ink(PictureId id, bool print_too) {
    if (!page_ || !may_change()) return;
    if (!can_read_) return emit problem(tr("The reader's data is missing here, so ink can't be told from print."));
    const auto picture = std::ranges::find(page_->pictures, id, &Picture::id);
    if (picture == page_->pictures.end()) return;
    run_task(
        tr("Lifting ink"),
        [this, picture = *picture, print_too, mirror = mirror_](const CancelToken& cancel, const Progress& progress) {
            auto lifted = std::make_shared<Result<LiftedInk>>(ink_on(*mirror, picture, print_too, cancel, progress));
            QMetaObject::invokeMethod(
                this,
                [this, picture, lifted, page = mirror->info.id, cancelled = cancel.cancelled()] {
                    if (cancelled) return emit notice(tr("Cancelled; the picture is as it was."));
                    if (!*lifted) return emit problem(text_of(lifted->error()));
                    take_lifted(page, picture, **lifted);
                },
                Qt::QueuedConnection);
        },
        *reading_thread_);
}

void Session::take_lifted(PageId page, const Picture& picture, LiftedInk& ink) {
    // Moved, cropped or gone meanwhile: the ink would lie beside it.
    if (!page_ || page_->info.id != page || std::ranges::find(page_->pictures, picture) == page_->pictures.end())
        return emit notice(tr("The picture was changed meanwhile; lift its ink once more."));
    if (ink.strokes.empty())
        return emit notice(tr("No handwriting was found on the picture. What seems printed can be lifted, too."));
    Edit edit{"Lift ink"};
    edit.removed.pictures = {picture};
    Picture bare = another(picture, library_->new_element_id());
    bare.treatment.lifted.insert(bare.treatment.lifted.end(), ink.places.begin(), ink.places.end());
    edit.added.pictures = {std::move(bare)};
    for (Stroke& stroke : ink.strokes) {
        stroke.id = library_->new_element_id();
        stroke = ElementTraits<Stroke>::as_kept(std::move(stroke));
    }
    edit.corrections_added = corrections_of(corrections_, picture, ink.strokes);
    const QString count = counted(static_cast<qsizetype>(ink.strokes.size()), tr("stroke"), tr("strokes"));
    edit.added.strokes = std::move(ink.strokes);
    change_and_tell(std::move(edit), tr("Lifted %1; the picture stays underneath.").arg(count));
}

void Session::put_ink_back(PictureId id) {
    if (!page_ || !may_change() || !can_read_) return;
    const auto found = std::ranges::find(page_->pictures, id, &Picture::id);
    if (found == page_->pictures.end() || found->treatment.lifted.empty()) return;
    Picture whole = *found;
    whole.treatment.lifted.clear();
    run_task(
        tr("Putting ink back"),
        [this, bare = *found, whole, mirror = mirror_](const CancelToken& cancel, const Progress& progress) {
            // Which strokes came from the picture is told by lifting them once more.
            auto lifted = std::make_shared<Result<LiftedInk>>(ink_on(*mirror, whole, true, cancel, progress));
            QMetaObject::invokeMethod(
                this,
                [this, bare, whole, lifted, page = mirror->info.id, cancelled = cancel.cancelled()] {
                    if (cancelled) return emit notice(tr("Cancelled; the ink is as it was."));
                    if (!*lifted) return emit problem(text_of(lifted->error()));
                    if (!page_ || page_->info.id != page ||
                        std::ranges::find(page_->pictures, bare) == page_->pictures.end())
                        return emit notice(tr("The picture was changed meanwhile; try it once more."));
                    Edit edit{"Put ink back"};
                    edit.removed.pictures = {bare};
                    edit.added.pictures = {another(whole, library_->new_element_id())};
                    std::vector<InkPoints> ways;
                    for (Stroke& s : (*lifted)->strokes)
                        ways.push_back(ElementTraits<Stroke>::as_kept(std::move(s)).points);
                    for (const Stroke& s : page_->strokes)
                        if (std::ranges::find(ways, s.points) != ways.end()) edit.removed.strokes.push_back(s);
                    change_and_tell(std::move(edit),
                                    tr("The ink is on the picture again. Strokes that were moved since stay, too."));
                },
                Qt::QueuedConnection);
        },
        *reading_thread_);
}

void Session::treat_picture(PictureId id, const Treatment& treatment) {
    if (!page_ || !may_change()) return;
    const auto picture = std::ranges::find(page_->pictures, id, &Picture::id);
    if (picture == page_->pictures.end() || picture->treatment == treatment) return;
    Edit edit{"Change the picture's look"};
    edit.removed.pictures = {*picture};
    edit.added.pictures = {another(*picture, library_->new_element_id())};
    edit.added.pictures[0].treatment = treatment;
    change(std::move(edit));
}

}  // namespace fernleaf
