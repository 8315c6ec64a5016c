#include "desk/mail_desk.h"

#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QProcess>
#include <QSettings>
#include <QStandardPaths>

#include "base/file.h"
#include "base/helper_process.h"
#include "base/now.h"
#include "desk/text_of.h"
#include "render/export.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

constexpr int kMostContacts = 50, kLongestName = 80;
constexpr int kDaysKept = 7;  // attachments that a mail program may still want
constexpr char kContacts[] = "mail/contacts", kErrandAddress[] = "mail/errands to";

// What a file may be called everywhere.
QString file_name(QString name) {
    for (QChar& c : name)
        if (c.unicode() < 32 || QStringLiteral("/\\:*?\"<>|").contains(c)) c = ' ';
    name = name.simplified().left(kLongestName);
    while (name.startsWith('.')) name.remove(0, 1);
    return name.isEmpty() ? QStringLiteral("Fernleaf") : name;
}

fs::path own_folder(QStandardPaths::StandardLocation place) {
    return (QStandardPaths::writableLocation(place) + "/mail").toStdString();
}

// A new folder for what is attached; those of last week go.
Result<fs::path> fresh_folder() {
    const fs::path all = own_folder(QStandardPaths::CacheLocation);
    std::error_code problem;
    fs::create_directories(all, problem);
    const auto folders = QDir(QString::fromStdString(all.string())).entryInfoList(QDir::Dirs | QDir::NoDotAndDotDot);
    for (const QFileInfo& old : folders)
        if (old.lastModified().daysTo(QDateTime::currentDateTime()) > kDaysKept)
            fs::remove_all(old.filePath().toStdString(), problem);
    const fs::path out = all / std::to_string(now_ms());
    fs::create_directories(out, problem);
    if (problem) return Error{"The attachment can't be written to " + all.string() + ": " + problem.message() + "."};
    return out;
}

// Whether the desktop knows a program that writes messages.
bool has_mail_program() {
    if (!is_installed("xdg-email") || !is_installed("xdg-mime")) return false;
    const auto said = output_of("xdg-mime", {"query", "default", "x-scheme-handler/mailto"}, "");
    return said && !QString::fromStdString(*said).trimmed().isEmpty();
}

void remember(const QString& to) {
    QStringList all = MailDesk::contacts();
    all.removeAll(to);
    all.prepend(to);
    QSettings().setValue(kContacts, QStringList(all.mid(0, kMostContacts)));
}

}  // namespace

QStringList MailDesk::contacts() { return QSettings().value(kContacts).toStringList(); }

QString MailDesk::errand_address() { return QSettings().value(kErrandAddress).toString(); }

void MailDesk::set_errand_address(const QString& address) { QSettings().setValue(kErrandAddress, address.trimmed()); }

void MailDesk::mail(const MailDraft& draft) {
    mail(draft, [] {});
}

void MailDesk::mail(const MailDraft& draft, const std::function<void()>& done) {
    if (auto to = mail_addresses(draft.to.toStdString()); !to) return messages_.tell_problem(to.error());
    readings_.save_now();
    tasks_.run(tr("Preparing the message"), [this, draft, done](const CancelToken& cancel, const Progress& progress) {
        disk_.wait_idle();  // what was just written belongs into it
        MailMessage message{draft.to.toStdString(), draft.subject.toStdString(), draft.text.toStdString(), {}};
        fs::path file;
        const Status status = [&]() -> Status {
            const auto folder = fresh_folder();
            if (!folder) return folder.error();
            file = *folder / (file_name(draft.subject) + draft.ending).toStdString();
            if (Status written = export_pages(library_, draft.pages, file, DrawingsAs::they_are, cancel, progress);
                !written)
                return written;
            auto bytes = read_regular(file, uintmax_t{1} << 30);
            if (!bytes) return bytes.error();
            message.attachments = {{file.filename().string(), *std::move(bytes)}};
            return Done{};
        }();
        QMetaObject::invokeMethod(
            this,
            [this, message = std::move(message), file, status, done, cancelled = cancel.cancelled()] {
                if (cancelled) return messages_.tell(tr("Cancelled. Nothing was mailed."));
                if (!status) return messages_.tell_problem(status.error());
                hand_over(message, file, done);
            },
            Qt::QueuedConnection);
    });
}

void MailDesk::hand_over(const MailMessage& message, const fs::path& file, const std::function<void()>& done) {
    if (const QByteArray stand_in = qgetenv("FERNLEAF_MAIL"); !stand_in.isEmpty())
        return keep(message, stand_in.toStdString(), done);
    tasks_thread_.ask(
        this, []() -> Result<bool> { return has_mail_program(); },
        [this, message, file, done](const Result<bool>& known) {
            if (!known || !*known) return keep(message, own_folder(QStandardPaths::AppDataLocation), done);
            auto* program = new QProcess;  // may outlive this window
            connect(program, &QProcess::finished, program, &QObject::deleteLater);
            connect(program, &QProcess::finished, this, [this, message, done](int code, QProcess::ExitStatus) {
                if (code != 0) return keep(message, own_folder(QStandardPaths::AppDataLocation), done);
                remember(QString::fromStdString(message.to));
                messages_.tell(tr("The message is open in your mail program."));
                done();
                emit sent();
            });
            connect(program, &QProcess::errorOccurred, this,
                    [this, program, message, done](QProcess::ProcessError why) {
                        if (why != QProcess::FailedToStart) return;  // what else ends it is told by finished()
                        program->deleteLater();
                        keep(message, own_folder(QStandardPaths::AppDataLocation), done);
                    });
            QStringList arguments{"--utf8",
                                  "--subject",
                                  QString::fromStdString(message.subject),
                                  "--body",
                                  QString::fromStdString(message.text),
                                  "--attach",
                                  QString::fromStdString(file.string())};
            const auto to = mail_addresses(message.to);
            if (to)
                for (const std::string& address : *to) arguments << QString::fromStdString(address);
            program->start(QStringLiteral("xdg-email"), arguments);
        });
}

void MailDesk::keep(const MailMessage& message, const fs::path& folder, const std::function<void()>& done) {
    tasks_thread_.ask(
        this,
        [message, folder]() -> Result<fs::path> {
            const auto bytes = write_mail(message, now_ms());
            if (!bytes) return bytes.error();
            std::error_code problem;
            fs::create_directories(folder, problem);
            fs::path path;
            const std::string name = file_name(QString::fromStdString(message.subject)).toStdString();
            for (int n = 1; path.empty() || fs::exists(path, problem); ++n)
                path = folder / (name + (n == 1 ? "" : " " + std::to_string(n)) + ".eml");
            if (Status written = write_whole(path, *bytes); !written) return written.error();
            return path;
        },
        [this, to = message.to, done](const Result<fs::path>& path) {
            if (!path) return messages_.tell_problem(path.error());
            remember(QString::fromStdString(to));
            messages_.tell(tr("The message was saved as %1. Open it with your mail program.")
                               .arg(QString::fromStdString(path->string())));
            done();
            emit sent();
        });
}

void MailDesk::mail_errands() {
    if (errand_address().isEmpty() || library_.why_read_only()) return;
    disk_.ask(
        this, [this] { return library_.open_errands(); },
        [this](const Result<std::vector<OpenErrand>>& open) {
            if (!open) return messages_.tell_problem(open.error());
            MailDraft draft;
            std::vector<OpenErrand> taken;
            for (const OpenErrand& errand : *open)
                if (errand.errand == Errand::send) {
                    taken.push_back(errand);
                    draft.pages.push_back(errand.page);
                }
            if (taken.empty() || tasks_.running()) return;  // they stay among the to-dos until the next time
            draft.to = errand_address();
            draft.subject = tr("%n page(s) from my notebook", nullptr, static_cast<int>(taken.size()));
            mail(draft, [this, taken] {
                disk_.ask(
                    this,
                    [this, taken]() -> Status {
                        for (const OpenErrand& errand : taken)
                            if (Status kept = library_.set_errand_done(errand, true); !kept) return kept;
                        return Done{};
                    },
                    [this](const Status& kept) {
                        if (!kept) messages_.tell_problem(kept.error());
                        emit sent();
                    });
            });
        });
}

}  // namespace fernleaf
