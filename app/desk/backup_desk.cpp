#include "desk/backup_desk.h"

#include <QSettings>

#include "base/now.h"
#include "desk/text_of.h"

namespace fernleaf {
namespace {

constexpr int kLookEveryMs = 600'000, kFirstLookMs = 20'000;
constexpr int64_t kDailyMs = 86'400'000;

// Keys must not hold slashes: the path's hash stands for it.
QString folder_key(const Library& library) {
    return QStringLiteral("backup/%1").arg(qHash(QString::fromStdString(library.directory().string())), 0, 16);
}

}  // namespace

BackupDesk::BackupDesk(const DeskParts& parts, QObject* parent) : Desk(parts, parent) {
    connect(&timer_, &QTimer::timeout, this, &BackupDesk::run_daily);
}

QString BackupDesk::folder() const { return QSettings().value(folder_key(library_)).toString(); }

void BackupDesk::set_folder(const QString& folder) {
    QSettings().setValue(folder_key(library_), folder);
    if (!folder.isEmpty()) timer_.start(kFirstLookMs);
}

void BackupDesk::watch() {
    if (!folder().isEmpty()) timer_.start(kFirstLookMs);
}

void BackupDesk::run_daily() {
    timer_.setInterval(kLookEveryMs);
    if (folder().isEmpty()) return timer_.stop();
    if (tasks_.running()) return;
    find_snapshots([this](const std::vector<Snapshot>& snapshots) {
        // One from the future was made by a clock that was wrong.
        const int64_t now = now_ms();
        const bool fresh = std::ranges::any_of(
            snapshots, [&](const Snapshot& s) { return s.made_ms <= now && now - s.made_ms < kDailyMs; });
        if (!fresh && !tasks_.running()) run(true);
    });
}

void BackupDesk::back_up_now() { run(false); }

void BackupDesk::run(bool by_itself) {
    const QString into = folder();
    if (into.isEmpty()) return;
    if (!by_itself) document_.leave();  // else whoever is typing goes on
    readings_.save_now();
    tasks_.run(tr("Backing up"), [this, into, by_itself](const CancelToken& cancel, const Progress& progress) {
        const auto made = back_up(library_, into.toStdString(), progress, cancel);
        if (!made && cancel.cancelled()) return;
        QMetaObject::invokeMethod(
            this,
            [this, made, by_itself] {
                if (!made) return messages_.tell_problem(tr("No backup was made. %1").arg(text_of(made.error())));
                if (!by_itself) messages_.tell(tr("%n page(s) backed up.", nullptr, static_cast<int>(made->pages)));
                emit backed_up();
            },
            Qt::QueuedConnection);
    });
}

void BackupDesk::find_snapshots(std::function<void(const std::vector<Snapshot>&)> then) {
    // A folder that is away has none.
    tasks_thread_.ask(
        this,
        [in = folder().toStdString(), directory = library_.directory()]() -> Result<std::vector<Snapshot>> {
            // Other libraries may be backed up into the same folder.
            const std::string name = std::filesystem::absolute(directory).lexically_normal().filename().string();
            auto all = snapshots(in);
            if (all) std::erase_if(*all, [&](const Snapshot& s) { return s.library != name; });
            return all;
        },
        [then = std::move(then)](const Result<std::vector<Snapshot>>& found) {
            then(found ? *found : std::vector<Snapshot>{});
        });
}

void BackupDesk::look_into(const QString& snapshot, std::function<void(const std::vector<SnapshotNotebook>&)> then) {
    tasks_thread_.ask(
        this,
        [in = folder().toStdString(), name = snapshot.toStdString()]() -> Result<std::vector<SnapshotNotebook>> {
            const auto open = OpenSnapshot::open(in, name);
            if (!open) return open.error();
            const auto notebooks = (*open)->library().notebooks();
            if (!notebooks) return notebooks.error();
            std::vector<SnapshotNotebook> out;
            for (const Notebook& n : *notebooks) {
                auto pages = (*open)->library().contents(n.id);
                if (!pages) return pages.error();
                out.push_back({n, *std::move(pages)});
            }
            return out;
        },
        [this, then = std::move(then)](const Result<std::vector<SnapshotNotebook>>& found) {
            found ? then(*found) : messages_.tell_problem(found.error());
        });
}

void BackupDesk::restore_notebook(const QString& snapshot, NotebookId notebook, const QString& title) {
    if (!editing_.may_change()) return;
    tasks_thread_.ask(
        this,
        [this, in = folder().toStdString(), name = snapshot.toStdString(), notebook,
         title = title.toStdString()]() -> Result<std::vector<PageId>> {
            const auto open = OpenSnapshot::open(in, name);
            if (!open) return open.error();
            return (*open)->restore_notebook(notebook, library_, title);
        },
        [this](const Result<std::vector<PageId>>& pages) {
            if (!pages) return messages_.tell_problem(pages.error());
            messages_.tell(tr("%n page(s) restored.", nullptr, static_cast<int>(pages->size())));
            emit restored(*pages);
        });
}

void BackupDesk::restore_pages(const QString& snapshot, const std::vector<PageId>& wanted) {
    if (!document_.page() || !editing_.may_change_page()) return;
    tasks_thread_.ask(
        this,
        [this, in = folder().toStdString(), name = snapshot.toStdString(), wanted,
         notebook = document_.notebook().id]() -> Result<std::vector<PageId>> {
            const auto open = OpenSnapshot::open(in, name);
            if (!open) return open.error();
            std::vector<PageId> out;
            for (const PageId page : wanted) {
                const auto restored = (*open)->restore_page(page, library_, notebook);
                if (!restored) return restored.error();
                out.push_back(*restored);
            }
            return out;
        },
        [this](const Result<std::vector<PageId>>& pages) {
            if (!pages) return messages_.tell_problem(pages.error());
            messages_.tell(tr("%n page(s) restored.", nullptr, static_cast<int>(pages->size())));
            emit restored(*pages);
        });
}

void BackupDesk::restore_all(const QString& snapshot, const QString& into) {
    tasks_.run(tr("Restoring"), [this, in = folder().toStdString(), name = snapshot.toStdString(), into](
                                    const CancelToken& cancel, const Progress& progress) {
        const Status done = fernleaf::restore_all(in, name, into.toStdString(), progress, cancel);
        if (!done && cancel.cancelled()) return;
        QMetaObject::invokeMethod(
            this,
            [this, done, into] {
                done ? messages_.tell(tr("The library was restored into %1.").arg(into))
                     : messages_.tell_problem(done.error());
            },
            Qt::QueuedConnection);
    });
}

}  // namespace fernleaf
