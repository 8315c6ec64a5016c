#include "desk/intake_desk.h"

#include <QBuffer>
#include <QCoreApplication>
#include <QDateTime>
#include <QFileInfo>
#include <QLocale>
#include <algorithm>
#include <opencv2/core.hpp>
#include <set>

#include "base/barrier.h"
#include "desk/text_of.h"
#include "exchange/import.h"
#include "exchange/tray.h"
#include "paper/picture_file.h"
#include "paper/sheet_picture.h"

namespace fernleaf {
namespace {

constexpr size_t kMostSteps = 100;
constexpr int kSettleMs = 700;

}  // namespace

IntakeDesk::IntakeDesk(const DeskParts& parts, QObject* parent)
    : Desk(parts, parent),
      keeping_(std::make_unique<Worker>(thread_failure())),
      looking_(std::make_unique<Worker>(thread_failure(), JobThread::Haste::patient)),
      showing_(std::make_unique<Worker>(thread_failure())),
      scanning_(std::make_unique<Worker>(thread_failure(), JobThread::Haste::patient)) {
    settle_.setSingleShot(true);
    settle_.setInterval(kSettleMs);
    connect(&settle_, &QTimer::timeout, this, &IntakeDesk::look_into_watched);
    connect(&watcher_, &QFileSystemWatcher::directoryChanged, this, [this] { settle_.start(); });
}

// What a job threw that nobody waits for.
std::function<void(const Error&)> IntakeDesk::thread_failure() {
    return [this, tell = messages_.teller()](const Error& error) {
        tell_progress({}, 1);
        tell(error);
    };
}

IntakeDesk::~IntakeDesk() {
    cancel_.cancel();
    scan_cancel_.cancel();
    scanning_.reset();
    // These two give work to one another; what is cancelled gives the other none.
    looking_->wait_idle();
    keeping_.reset();
    looking_.reset();
    showing_.reset();
}

// From any thread.
void IntakeDesk::tell_progress(const QString& label, double part) {
    QMetaObject::invokeMethod(
        this, [this, label, part] { emit progress(label, part); }, Qt::QueuedConnection);
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
    // The disk may not know yet what was said a moment ago.
    for (IntakeEntry& e : entries_)
        if (const auto newer = unkept_.find(e.id); newer != unkept_.end())
            e.name = newer->second.name, e.treatment = newer->second.treatment;
    emit changed();
    // What is shown was looked at meanwhile.
    if (const IntakeEntry* now = entry(wanted_); now && as_shown && now->treatment != *as_shown) show(wanted_);
}

// From any thread: shows the tray as it is on disk now.
void IntakeDesk::tell_tray(const Status& status, std::map<IntakeId, QImage> thumbnails) {
    auto entries = library_.intake();
    QMetaObject::invokeMethod(
        this,
        [this, status, entries = std::move(entries), thumbnails = std::move(thumbnails)]() mutable {
            if (!status) messages_.tell_problem(status.error());
            if (!entries) return messages_.tell_problem(entries.error());
            take(*std::move(entries), thumbnails);
        },
        Qt::QueuedConnection);
}

void IntakeDesk::keep_by(std::function<Status()> job) {
    keeping_->post([this, job = std::move(job)] { tell_tray(job(), {}); });
}

void IntakeDesk::refresh() { read_tray(false); }
void IntakeDesk::open() { read_tray(true); }

void IntakeDesk::read_tray(bool thumbnails) {
    std::set<IntakeId> have;
    for (const auto& [id, image] : thumbnails_) have.insert(id);
    looking_->post([this, thumbnails, have = std::move(have), cancel = cancel_token()] {
        tell_tray(Done{}, {});
        auto entries = library_.intake();
        if (!entries) return;  // told above
        // What could not be looked at is not tried again by itself.
        std::erase_if(*entries, [&](const IntakeEntry& e) {
            return !e.failure.empty() || (e.looked_at && (!thumbnails || have.contains(e.id)));
        });
        look_at(*entries, thumbnails, cancel);
    });
}

// On the looking thread: finds the sheets in what is new, and makes thumbnails.
void IntakeDesk::look_at(const std::vector<IntakeEntry>& entries, bool thumbnails, const CancelToken& cancel) {
    std::string file;
    int frame = -1;
    ScannedSheet picture;
    for (size_t i = 0; i < entries.size() && !cancel.cancelled(); ++i) {
        const IntakeEntry& entry = entries[i];
        tell_progress(tr("Looking at %1").arg(QString::fromStdString(entry.name)),
                      static_cast<double>(i) / static_cast<double>(entries.size()));
        std::map<IntakeId, QImage> images;
        const Status status = guarded([&]() -> Status {
            if (entry.file != file || entry.frame != frame) {
                auto decoded = picture_of(library_, entry);
                if (!decoded) return decoded.error();
                file = entry.file, frame = entry.frame, picture = *std::move(decoded);
            }
            std::vector<IntakeEntry> sheets{entry};
            if (!entry.looked_at) {
                // Should looking end the program, the next start finds it said so and leaves the entry alone.
                if (Status noted = library_.fail_intake(entry.id, tr("Fernleaf closed unexpectedly.").toStdString());
                    !noted)
                    return noted;
                auto found = find_sheets_of(library_, entry, picture, upright_, cancel);
                if (!found) return found.error();
                if (cancel.cancelled()) return library_.fail_intake(entry.id, {});
                sheets = *std::move(found);
            }
            if (thumbnails)
                for (const IntakeEntry& sheet : sheets)
                    images[sheet.id] = thumbnail_of(picture.pixels, sheet.treatment);
            return Done{};
        });
        // What may pass is tried again when the tray is opened the next time.
        if (!status)
            (void)static_cast<bool>(
                library_.fail_intake(entry.id, status.error().passing ? std::string() : status.error().message));
        tell_tray(status, std::move(images));
    }
    tell_progress({}, 1);
}

void IntakeDesk::bring(const QStringList& paths) {
    if (!editing_.may_change()) return;
    looking_->ask(
        this,
        [this, paths, cancel = cancel_token()]() -> Result<QStringList> {
            return paths.sliced(take_in(paths, cancel));
        },
        [this](const Result<QStringList>& left) {
            if (!left) return messages_.tell_problem(left.error());
            if (!left->isEmpty())
                messages_.tell_problem(
                    tr("Stopped. %n file(s) were not added, starting with %1.", nullptr, static_cast<int>(left->size()))
                        .arg(QFileInfo(left->front()).fileName()));
        });
}

// On the looking thread. Gives how many of them it is done with: taken in, or told to be broken.
qsizetype IntakeDesk::take_in(const QStringList& paths, const CancelToken& cancel) {
    std::vector<IntakeEntry> fresh;
    QStringList failures;
    qsizetype done = 0;
    for (; done < paths.size() && !cancel.cancelled(); ++done) {
        const QString& path = paths[done];
        auto source = read_source(path.toStdString(), PictureUse::as_they_are, cancel);
        if (source && source->picture_bytes.empty())
            source = Error{QFileInfo(path).fileName().toStdString() + ": it is not a picture; import it instead"};
        const auto hash = source ? library_.add_file(source->picture_bytes) : Result<std::string>(source.error());
        if (!hash) {
            if (cancel.cancelled()) break;
            failures << text_of(hash.error());
            continue;
        }
        std::vector<IntakeEntry> pages;
        for (const FilledPage& page : source->pages) {
            IntakeEntry entry;
            entry.file = *hash;
            entry.name = QFileInfo(path).completeBaseName().toStdString();
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
        messages_.teller()(Error{tr("Not added: %1").arg(failures.join(QStringLiteral("\n"))).toStdString()});
    tell_tray(Done{}, {});
    look_at(fresh, true, cancel);
    return done;
}

void IntakeDesk::bring(const QImage& image, const QString& name) {
    if (!editing_.may_change()) return;
    if (image.isNull()) return messages_.tell_problem(tr("There is no picture on the clipboard."));
    looking_->post([this, image, name, cancel = cancel_token()] {
        QByteArray png;
        QBuffer buffer(&png);
        buffer.open(QIODevice::WriteOnly);
        image.save(&buffer, "PNG");
        std::vector<IntakeEntry> fresh(1);
        fresh[0].name = name.toStdString();
        fresh[0].width_mm = fresh[0].height_mm = 100;  // until it is looked at
        const auto hash = library_.add_file(png.toStdString());
        if (hash) fresh[0].file = *hash;
        const Status status = hash ? library_.add_to_intake(fresh) : Status(hash.error());
        tell_tray(status, {});
        if (status) look_at(fresh, true, cancel);
    });
}

void IntakeDesk::find_scanners() {
    scanning_->ask(
        this, [] { return scanners(); },
        [this](const Result<std::vector<ScannerInfo>>& found) {
            emit scanners_found(found ? *found : std::vector<ScannerInfo>());
        });
}

void IntakeDesk::scan(const ScanWish& wish) {
    if (!editing_.may_change()) return;
    scan_cancel_ = {};
    emit progress(tr("Scanning"), 0);
    scanning_->ask(
        this,
        [this, wish, cancel = scan_cancel_.token()]() -> Status {
            size_t sheets = 0;
            const QString time = QLocale().toString(QDateTime::currentDateTime(), QLocale::ShortFormat);
            const auto keep = [&](const ScannedSheet& sheet) -> Status {
                const QString name = tr("Scan %1, %2").arg(time).arg(++sheets);
                const auto entry = lay_in_tray(library_, sheet, name.toStdString());
                if (!entry) return entry.error();
                tell_tray(Done{}, {});
                looking_->post([this, one = *entry] { look_at({one}, true, {}); });
                return Done{};
            };
            const auto done = fernleaf::scan(
                wish, keep, cancel, [&](double part) { tell_progress(tr("Scanning sheet %1").arg(sheets + 1), part); });
            return done || cancel.cancelled() ? Status(Done{}) : Status(done.error());
        },
        [this](const Status& done) {
            emit progress({}, 1);
            if (!done) messages_.tell_problem(done.error());
        });
}

void IntakeDesk::watch(const QString& folder) {
    if (!watcher_.directories().isEmpty()) watcher_.removePaths(watcher_.directories());
    watched_ = folder;
    if (!folder.isEmpty() && !watcher_.addPath(folder))
        messages_.tell_problem(tr("The folder %1 can't be watched: it doesn't exist or can't be read.").arg(folder));
    keeping_->post([this, folder] { folder_.choose(folder); });
    look_into_watched();
    emit changed();
}

void IntakeDesk::look_into_watched() {
    if (watched_.isEmpty() || library_.why_read_only()) return;
    keeping_->post([this, cancel = cancel_token()] {
        const WatchedFolder::Found found = folder_.look();
        if (found.growing) QMetaObject::invokeMethod(&settle_, qOverload<>(&QTimer::start), Qt::QueuedConnection);
        if (found.complete.isEmpty()) return;
        looking_->post([this, paths = found.complete, cancel] {
            const QStringList taken = paths.first(take_in(paths, cancel));
            if (!taken.isEmpty()) keeping_->post([this, taken] { folder_.take(taken); });
        });
    });
}

void IntakeDesk::remember(std::vector<IntakeEntry> before) {
    undo_.push_back(std::move(before));
    if (undo_.size() > kMostSteps) undo_.erase(undo_.begin());
}

// Keeps entries as they are now, and works out their pages.
void IntakeDesk::keep(std::vector<IntakeEntry> entries) {
    for (const IntakeEntry& entry : entries) {
        for (IntakeEntry& known : entries_)
            if (known.id == entry.id) known = entry;
        unkept_[entry.id] = entry;
    }
    emit changed();
    if (std::ranges::find(entries, wanted_, &IntakeEntry::id) != entries.end()) show(wanted_);
    keeping_->ask(
        this,
        [this, entries]() -> Status {
            Status status = Done{};
            for (const IntakeEntry& entry : entries)
                if (Status kept = library_.change_intake(entry); !kept) status = kept;
            looking_->post([this, entries] {
                for (const IntakeEntry& entry : entries) settle(entry);
            });
            return status;
        },
        [this, entries](const Status& status) {
            for (const IntakeEntry& entry : entries)  // unless it was changed again meanwhile
                if (const auto known = unkept_.find(entry.id); known != unkept_.end() && known->second == entry)
                    unkept_.erase(known);
            if (!status) keep_by([status] { return status; });  // told, with the tray as it is on disk
        });
}

// On the looking thread: the page's size and faults under a treatment.
void IntakeDesk::settle(const IntakeEntry& entry) {
    std::map<IntakeId, QImage> image;
    const Status status = guarded([&]() -> Status {
        const auto picture = picture_of(library_, entry);
        if (!picture) return picture.error();
        IntakeEntry now = entry;
        now = with_suggestion(now, judged(picture->pixels, entry.treatment, picture->dpi));
        image = {{entry.id, thumbnail_of(picture->pixels, entry.treatment)}};
        return library_.judge_intake(now);
    });
    tell_tray(status, std::move(image));
}

void IntakeDesk::change(const IntakeEntry& changed) {
    const IntakeEntry* before = entry(changed.id);
    if (!before || *before == changed) return;
    remember({*before});
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
    remember(std::move(before));
    keep(std::move(after));
}

bool IntakeDesk::may_merge(const std::vector<IntakeId>& ids) const {
    const IntakeEntry* first = ids.empty() ? nullptr : entry(ids.front());
    return first && ids.size() > 1 && std::ranges::all_of(ids, [&](IntakeId id) {
               const IntakeEntry* e = entry(id);
               return e && e->looked_at && e->file == first->file && e->frame == first->frame;
           });
}

void IntakeDesk::merge(const std::vector<IntakeId>& ids) {
    if (!may_merge(ids)) return;
    std::vector<IntakeEntry> before;
    std::vector<Treatment> parts;
    for (const IntakeEntry& e : entries_)
        if (std::ranges::find(ids, e.id) != ids.end()) before.push_back(e), parts.push_back(e.treatment);
    IntakeEntry one = before.front();
    one.treatment = about_all(parts);
    std::vector<IntakeId> others;
    for (const IntakeEntry& e : before)
        if (e.id != one.id) others.push_back(e.id);
    remember(std::move(before));
    // The others go only when the one that holds them all is kept.
    keeping_->ask(
        this,
        [this, one, others]() -> Status {
            Status merged = library_.change_intake(one);
            if (merged) merged = library_.discard_intake(others);
            tell_tray(merged, {});
            looking_->post([this, one] { settle(one); });
            return merged;
        },
        [this, id = one.id](const Status& merged) {
            if (merged && wanted_ == id) show(id);
        });
}

void IntakeDesk::find_again(IntakeId id) {
    const IntakeEntry* before = entry(id);
    if (!before) return;
    showing_->ask(
        this,
        [this, entry = *before]() -> Result<Treatment> {
            const auto picture = picture_of(library_, entry);
            if (!picture) return picture.error();
            // Of several sheets the one nearest to where this one was.
            const std::vector<Suggestion> sheets = suggested(picture->pixels);
            const auto middle = [](const Treatment& t) {
                Point sum;
                if (t.outline)
                    for (const Point& corner : t.outline->corners) sum = sum + corner * 0.25;
                return sum;
            };
            const auto nearest = std::ranges::min_element(sheets, {}, [&](const Suggestion& s) {
                return distance(middle(s.treatment), middle(entry.treatment));
            });
            Treatment found = set_upright(picture->pixels, *nearest, upright_).treatment;
            if (entry.treatment.look != Look::original) found.look = entry.treatment.look;
            found.without_rules = entry.treatment.without_rules;
            return found;
        },
        [this, id](const Result<Treatment>& found) {
            if (!found) return messages_.tell_problem(found.error());
            const IntakeEntry* now = entry(id);
            if (!now) return;
            IntakeEntry changed = *now;
            changed.treatment = *found;
            changed.looked_at = true, changed.failure.clear();
            change(changed);
        });
}

void IntakeDesk::rename(IntakeId id, const QString& name) {
    const IntakeEntry* before = entry(id);
    if (!before || name.trimmed().isEmpty()) return;
    IntakeEntry renamed = *before;
    renamed.name = name.trimmed().toStdString();
    if (renamed == *before) return;
    remember({*before});
    keep_by([this, renamed] { return library_.change_intake(renamed); });
}

void IntakeDesk::move(IntakeId id, int by) {
    std::vector<IntakeId> order;
    for (const IntakeEntry& e : entries_) order.push_back(e.id);
    const auto at = std::ranges::find(order, id);
    if (at == order.end()) return;
    const auto to = std::clamp<std::ptrdiff_t>(at - order.begin() + by, 0, std::ssize(order) - 1);
    order.erase(at);
    order.insert(order.begin() + to, id);
    keep_by([this, order] { return library_.order_intake(order); });
}

void IntakeDesk::discard(const std::vector<IntakeId>& ids) {
    std::vector<IntakeEntry> gone;
    for (const IntakeId id : ids)
        if (const IntakeEntry* e = entry(id)) gone.push_back(*e);
    if (gone.empty()) return;
    remember(gone);
    keep_by([this, ids] { return library_.discard_intake(ids); });
}

void IntakeDesk::undo() {
    if (undo_.empty()) return;
    std::vector<IntakeEntry> back = std::move(undo_.back());
    undo_.pop_back();
    std::vector<IntakeEntry> there, gone;
    for (IntakeEntry& e : back) (entry(e.id) ? there : gone).push_back(std::move(e));
    const IntakeId after = there.empty() ? 0 : there.front().id;  // beside what they were parts of a picture with
    if (!there.empty()) keep(std::move(there));
    if (gone.empty()) return;
    looking_->post([this, gone, after, cancel = cancel_token()]() mutable {
        const Status status = library_.add_to_intake(gone, after);
        tell_tray(status, {});
        if (status) look_at(gone, true, cancel);  // they have other ids now
    });
}

void IntakeDesk::file(const std::vector<IntakeId>& ids, NotebookId notebook, Filing filing) {
    // After what was changed a moment ago is kept, and its page worked out.
    keeping_->post([this, ids, notebook, filing] {
        looking_->ask(
            this,
            [this, ids, notebook, filing] {
                auto pages = library_.file_intake(ids, notebook, filing);
                tell_tray(pages ? Status(Done{}) : Status(pages.error()), {});
                return pages;
            },
            [this](const Result<std::vector<PageId>>& pages) {
                if (!pages) return;  // told with the tray
                undo_.clear();
                emit filed(*pages);
            });
    });
}

void IntakeDesk::show(IntakeId id) {
    wanted_ = id;
    const IntakeEntry* wanted = entry(id);
    if (!wanted) return;
    const int number = ++newest_show_;
    showing_->ask(
        this,
        [this, entry = *wanted, number]() -> Result<ShownEntry> {
            if (number != newest_show_) return ShownEntry{};  // another is wanted by now
            return photograph_.show(library_, entry);
        },
        [this, number](const Result<ShownEntry>& out) {  // why it can't be shown is told by its entry
            if (out && number == newest_show_) emit shown(*out);
        });
}

// Of what is under way and what is begun now.
CancelToken IntakeDesk::cancel_token() {
    if (cancel_.token().cancelled()) cancel_ = {};
    return cancel_.token();
}

void IntakeDesk::cancel() {
    cancel_.cancel();
    scan_cancel_.cancel();
}

void IntakeDesk::wait_idle() {
    for (int i = 0; i < 3; ++i) {
        scanning_->wait_idle();
        keeping_->wait_idle();
        looking_->wait_idle();
        showing_->wait_idle();
        QCoreApplication::processEvents();
    }
}

}  // namespace fernleaf
