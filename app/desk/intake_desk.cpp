#include "desk/intake_desk.h"

#include <QBuffer>
#include <QCoreApplication>
#include <QFileInfo>
#include <algorithm>
#include <opencv2/imgproc.hpp>

#include "desk/text_of.h"
#include "exchange/import.h"
#include "look/counted.h"
#include "paper/picture_file.h"
#include "paper/sheet_picture.h"
#include "render/page_painter.h"

namespace fernleaf {
namespace {

constexpr int kShownPx = 1500, kThumbnailPx = 150;
constexpr size_t kMostSteps = 100;

cv::Mat fitted(const cv::Mat& pixels, int longest, double* scale = nullptr) {
    const double shrink = std::min(1.0, static_cast<double>(longest) / std::max(pixels.cols, pixels.rows));
    if (scale) *scale = shrink;
    if (shrink == 1) return pixels;
    cv::Mat small;
    cv::resize(pixels, small, {}, shrink, shrink, cv::INTER_AREA);
    return small;
}

QImage thumbnail_of(const cv::Mat& pixels, const Treatment& treatment) {
    // Of a smaller picture all is quicker, and as good for a thumbnail.
    double scale = 1;
    const cv::Mat small = fitted(pixels, 4 * kThumbnailPx, &scale);
    Treatment there = treatment;
    there.without_rules = false;
    if (there.outline) there.outline = scaled(*there.outline, scale);
    return image_of(fitted(treated(small, there), kThumbnailPx));
}

void take_suggestion(IntakeEntry& entry, const Suggestion& suggestion) {
    entry.treatment = suggestion.treatment;
    entry.width_mm = suggestion.width_mm, entry.height_mm = suggestion.height_mm;
    entry.blurred = suggestion.faults.blurred, entry.glare = suggestion.faults.glare;
    entry.low_resolution = suggestion.faults.low_resolution;
    entry.looked_at = true;
}

}  // namespace

struct IntakeDesk::Photograph {
    std::string file;
    int frame = -1;
    cv::Mat pixels;
};

IntakeDesk::IntakeDesk(Library& library, QObject* parent)
    : QObject(parent),
      library_(library),
      photograph_(std::make_shared<Photograph>()),
      looking_(std::make_unique<JobThread>(JobThread::Haste::patient)),
      showing_(std::make_unique<JobThread>()) {}

IntakeDesk::~IntakeDesk() {
    cancel_.cancel();
    looking_.reset();
    showing_.reset();
}

const IntakeEntry* IntakeDesk::entry(IntakeId id) const {
    const auto found = std::ranges::find(entries_, id, &IntakeEntry::id);
    return found == entries_.end() ? nullptr : &*found;
}

QImage IntakeDesk::thumbnail(IntakeId id) const {
    const auto found = thumbnails_.find(id);
    return found == thumbnails_.end() ? QImage() : found->second;
}

void IntakeDesk::take(std::vector<IntakeEntry> entries, const std::map<IntakeId, QImage>& thumbnails) {
    for (const auto& [id, image] : thumbnails) thumbnails_[id] = image;
    const IntakeEntry* before = entry(wanted_);
    const std::optional<Treatment> as_shown = before ? std::optional(before->treatment) : std::nullopt;
    entries_ = std::move(entries);
    emit changed();
    // What is shown was looked at meanwhile.
    if (const IntakeEntry* now = entry(wanted_); now && as_shown && now->treatment != *as_shown) show(wanted_);
}

// Does something to the tray on disk, and shows it then.
void IntakeDesk::then_refresh(std::function<Status()> job) {
    showing_->post([this, job = std::move(job)] {
        const Status status = job();
        auto entries = library_.intake();
        QMetaObject::invokeMethod(
            this,
            [this, status, entries = std::move(entries)]() mutable {
                if (!status) emit problem(text_of(status.error()));
                if (!entries) return emit problem(text_of(entries.error()));
                take(*std::move(entries), {});
            },
            Qt::QueuedConnection);
    });
}

void IntakeDesk::refresh() {
    looking_->post([this] {
        const auto entries = library_.intake();
        if (!entries) {
            QMetaObject::invokeMethod(
                this, [this, why = entries.error()] { emit problem(text_of(why)); }, Qt::QueuedConnection);
            return;
        }
        QMetaObject::invokeMethod(
            this, [this, all = *entries] { take(all, {}); }, Qt::QueuedConnection);
        look_at(*entries);
    });
}

// On the looking thread: finds the sheets in what is new, and makes thumbnails of all.
void IntakeDesk::look_at(const std::vector<IntakeEntry>& fresh) {
    const CancelToken cancel = cancel_.token();
    std::string file;
    int frame = -1;
    cv::Mat pixels;
    const auto tell = [this](const QString& label, double part) {
        QMetaObject::invokeMethod(
            this, [this, label, part] { emit progress(label, part); }, Qt::QueuedConnection);
    };
    for (size_t i = 0; i < fresh.size() && !cancel.cancelled(); ++i) {
        IntakeEntry entry = fresh[i];
        tell(tr("Looking at %1").arg(QString::fromStdString(entry.name)),
             static_cast<double>(i) / static_cast<double>(fresh.size()));
        Status status = Done{};
        if (entry.file != file || entry.frame != frame) {
            const auto bytes = library_.file(entry.file);
            auto decoded = bytes ? decode_picture(*bytes, entry.frame) : Result<cv::Mat>(bytes.error());
            if (!decoded) {
                QMetaObject::invokeMethod(
                    this, [this, why = decoded.error()] { emit problem(text_of(why)); }, Qt::QueuedConnection);
                continue;
            }
            file = entry.file, frame = entry.frame, pixels = *std::move(decoded);
        }
        std::map<IntakeId, QImage> thumbnails;
        if (!entry.looked_at) {
            const std::vector<Suggestion> sheets = suggested(pixels);
            std::vector<IntakeEntry> more(sheets.size() - 1, entry);
            take_suggestion(entry, sheets.front());
            status = library_.change_intake(entry);
            for (size_t k = 0; k < more.size(); ++k) take_suggestion(more[k], sheets[k + 1]);
            if (status && !more.empty()) status = library_.add_to_intake(more, entry.id);
            for (const IntakeEntry& one : more) thumbnails[one.id] = thumbnail_of(pixels, one.treatment);
        }
        thumbnails[entry.id] = thumbnail_of(pixels, entry.treatment);
        auto entries = library_.intake();
        QMetaObject::invokeMethod(
            this,
            [this, status, entries = std::move(entries), thumbnails = std::move(thumbnails)]() mutable {
                if (!status) emit problem(text_of(status.error()));
                if (entries) take(*std::move(entries), thumbnails);
            },
            Qt::QueuedConnection);
    }
    tell({}, 1);
}

void IntakeDesk::bring(const QStringList& paths) {
    if (library_.why_read_only()) return emit problem(QString::fromStdString(*library_.why_read_only()));
    cancel_ = {};
    looking_->post([this, paths, cancel = cancel_.token()] {
        std::vector<IntakeEntry> fresh;
        QStringList failures;
        for (qsizetype i = 0; i < paths.size() && !cancel.cancelled(); ++i) {
            auto source = read_source(paths[i].toStdString(), PictureUse::as_they_are, cancel);
            if (source && source->picture_bytes.empty())
                source = Error{QFileInfo(paths[i]).fileName().toStdString() + ": it holds ink; import it instead"};
            const auto hash = source ? library_.add_file(source->picture_bytes) : Result<std::string>(source.error());
            if (!hash) {
                if (!cancel.cancelled()) failures << text_of(hash.error());
                continue;
            }
            std::vector<IntakeEntry> pages;
            for (const FilledPage& page : source->pages) {
                IntakeEntry entry;
                entry.file = *hash;
                entry.name = QFileInfo(paths[i]).completeBaseName().toStdString();
                entry.frame = page.content.pictures.front().frame;
                entry.width_mm = page.info.width_mm, entry.height_mm = page.info.height_mm;
                entry.looked_at = picture_kind(source->picture_bytes) == PictureKind::pdf;  // its pages are straight
                pages.push_back(std::move(entry));
            }
            if (const Status status = library_.add_to_intake(pages); !status)
                failures << text_of(status.error());
            else
                std::ranges::move(pages, std::back_inserter(fresh));
        }
        if (!failures.isEmpty())
            QMetaObject::invokeMethod(
                this,
                [this, failures] { emit problem(tr("Not taken in: %1").arg(failures.join(QStringLiteral("\n")))); },
                Qt::QueuedConnection);
        if (auto entries = library_.intake())
            QMetaObject::invokeMethod(
                this, [this, all = *std::move(entries)] { take(all, {}); }, Qt::QueuedConnection);
        look_at(fresh);
    });
}

void IntakeDesk::bring(const QImage& image) {
    if (library_.why_read_only()) return emit problem(QString::fromStdString(*library_.why_read_only()));
    if (image.isNull()) return emit problem(tr("There is no picture on the clipboard."));
    cancel_ = {};
    looking_->post([this, image] {
        QByteArray png;
        QBuffer buffer(&png);
        buffer.open(QIODevice::WriteOnly);
        image.save(&buffer, "PNG");
        std::vector<IntakeEntry> fresh(1);
        fresh[0].name = tr("pasted picture").toStdString();
        fresh[0].width_mm = fresh[0].height_mm = 100;  // until it is looked at
        const auto hash = library_.add_file(png.toStdString());
        if (hash) fresh[0].file = *hash;
        const Status status = hash ? library_.add_to_intake(fresh) : Status(hash.error());
        if (!status)
            QMetaObject::invokeMethod(
                this, [this, why = status.error()] { emit problem(text_of(why)); }, Qt::QueuedConnection);
        else
            look_at(fresh);
    });
}

// Keeps entries as they are now, and works out their pages.
void IntakeDesk::keep(std::vector<IntakeEntry> entries) {
    for (const IntakeEntry& entry : entries)
        for (IntakeEntry& known : entries_)
            if (known.id == entry.id) known = entry;
    emit changed();
    looking_->post([this, entries = std::move(entries)]() mutable {
        for (IntakeEntry& entry : entries) {
            const auto bytes = library_.file(entry.file);
            const auto pixels = bytes ? decode_picture(*bytes, entry.frame) : Result<cv::Mat>(bytes.error());
            if (!pixels) continue;
            take_suggestion(entry, judged(*pixels, entry.treatment));
            const Status status = library_.change_intake(entry);
            auto all = library_.intake();
            QMetaObject::invokeMethod(
                this,
                [this, status, id = entry.id, image = thumbnail_of(*pixels, entry.treatment),
                 all = std::move(all)]() mutable {
                    if (!status) emit problem(text_of(status.error()));
                    if (all) take(*std::move(all), {{id, image}});
                },
                Qt::QueuedConnection);
        }
    });
    if (std::ranges::any_of(entries_, [this](const IntakeEntry& e) { return e.id == wanted_; })) show(wanted_);
}

void IntakeDesk::change(const IntakeEntry& changed) {
    const IntakeEntry* before = entry(changed.id);
    if (!before || *before == changed) return;
    undo_.push_back({*before});
    if (undo_.size() > kMostSteps) undo_.erase(undo_.begin());
    keep({changed});
}

void IntakeDesk::look_like(IntakeId model) {
    const IntakeEntry* like = entry(model);
    if (!like) return;
    std::vector<IntakeEntry> before, after;
    for (const IntakeEntry& e : entries_) {
        IntakeEntry other = e;
        other.treatment.look = like->treatment.look;
        other.treatment.without_rules = like->treatment.without_rules;
        if (other == e) continue;
        before.push_back(e);
        after.push_back(std::move(other));
    }
    if (after.empty()) return;
    undo_.push_back(std::move(before));
    keep(std::move(after));
}

void IntakeDesk::find_again(IntakeId id) {
    const IntakeEntry* before = entry(id);
    if (!before) return;
    undo_.push_back({*before});
    showing_->post([this, entry = *before]() mutable {
        const auto bytes = library_.file(entry.file);
        const auto pixels = bytes ? decode_picture(*bytes, entry.frame) : Result<cv::Mat>(bytes.error());
        if (!pixels) return;
        // Of several sheets the one nearest to where this one was.
        const std::vector<Suggestion> sheets = suggested(*pixels);
        const auto middle = [](const Treatment& t) {
            Point sum;
            if (t.outline)
                for (const Point& corner : t.outline->corners) sum = sum + corner * 0.25;
            return sum;
        };
        const auto nearest = std::ranges::min_element(
            sheets, {}, [&](const Suggestion& s) { return distance(middle(s.treatment), middle(entry.treatment)); });
        const Look look = entry.treatment.look;
        const bool without_rules = entry.treatment.without_rules;
        take_suggestion(entry, *nearest);
        if (look != Look::original) entry.treatment.look = look;
        entry.treatment.without_rules = without_rules;
        QMetaObject::invokeMethod(
            this, [this, entry] { keep({entry}); }, Qt::QueuedConnection);
    });
}

void IntakeDesk::rename(IntakeId id, const QString& name) {
    const IntakeEntry* before = entry(id);
    if (!before || name.trimmed().isEmpty()) return;
    IntakeEntry renamed = *before;
    renamed.name = name.trimmed().toStdString();
    if (renamed == *before) return;
    undo_.push_back({*before});
    then_refresh([this, renamed] { return library_.change_intake(renamed); });
}

void IntakeDesk::move(IntakeId id, int by) {
    std::vector<IntakeId> order;
    for (const IntakeEntry& e : entries_) order.push_back(e.id);
    const auto at = std::ranges::find(order, id);
    if (at == order.end()) return;
    const auto to = std::clamp<std::ptrdiff_t>(at - order.begin() + by, 0, std::ssize(order) - 1);
    order.erase(at);
    order.insert(order.begin() + to, id);
    then_refresh([this, order] { return library_.order_intake(order); });
}

void IntakeDesk::discard(const std::vector<IntakeId>& ids) {
    std::vector<IntakeEntry> gone;
    for (const IntakeId id : ids)
        if (const IntakeEntry* e = entry(id)) gone.push_back(*e);
    if (gone.empty()) return;
    undo_.push_back(gone);
    then_refresh([this, ids] { return library_.discard_intake(ids); });
}

void IntakeDesk::undo() {
    if (undo_.empty()) return;
    std::vector<IntakeEntry> back = std::move(undo_.back());
    undo_.pop_back();
    std::vector<IntakeEntry> there, gone;
    for (IntakeEntry& e : back) (entry(e.id) ? there : gone).push_back(std::move(e));
    if (!there.empty()) keep(std::move(there));
    if (gone.empty()) return;
    looking_->post([this, gone]() mutable {
        if (const Status status = library_.add_to_intake(gone); !status) return;
        look_at(gone);  // they have other ids now
    });
}

void IntakeDesk::file(const std::vector<IntakeId>& ids, NotebookId notebook) {
    // After what is still being looked at: what was changed a moment ago is filed as it is now.
    looking_->post([this, ids, notebook] {
        const auto pages = library_.file_intake(ids, notebook);
        auto entries = library_.intake();
        QMetaObject::invokeMethod(
            this,
            [this, pages, entries = std::move(entries)]() mutable {
                if (entries) take(*std::move(entries), {});
                if (!pages) return emit problem(text_of(pages.error()));
                undo_.clear();
                emit filed(*pages);
            },
            Qt::QueuedConnection);
    });
}

void IntakeDesk::show(IntakeId id) {
    wanted_ = id;
    const IntakeEntry* wanted = entry(id);
    if (!wanted) return;
    showing_->post([this, entry = *wanted, number = ++newest_show_, photograph = photograph_] {
        if (photograph->file != entry.file || photograph->frame != entry.frame) {
            const auto bytes = library_.file(entry.file);
            const auto pixels = bytes ? decode_picture(*bytes, entry.frame) : Result<cv::Mat>(bytes.error());
            *photograph = {entry.file, entry.frame, pixels ? *pixels : cv::Mat()};
        }
        if (photograph->pixels.empty()) return;
        ShownEntry out;
        out.id = entry.id;
        out.photograph = image_of(fitted(photograph->pixels, kShownPx, &out.scale));
        out.page = image_of(fitted(treated(photograph->pixels, entry.treatment), kShownPx));
        QMetaObject::invokeMethod(
            this,
            [this, number, out] {
                if (number == newest_show_) emit shown(out);
            },
            Qt::QueuedConnection);
    });
}

void IntakeDesk::cancel() { cancel_.cancel(); }

void IntakeDesk::wait_idle() {
    for (int i = 0; i < 3; ++i) {
        looking_->wait_idle();
        showing_->wait_idle();
        QCoreApplication::processEvents();
    }
}

}  // namespace fernleaf
