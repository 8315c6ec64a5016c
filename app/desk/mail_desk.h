// Pages passed on by mail: exported, and handed to the desktop's mail program, where they are looked at and sent. Where
// there is none, the message is kept as a file that any mail program opens.
//
// FERNLEAF_MAIL=FOLDER puts a stand-in in the mail program's place, which keeps messages in a folder.
#pragma once

#include <QObject>
#include <QStringList>
#include <filesystem>
#include <functional>
#include <vector>

#include "desk/desk.h"
#include "document/errand.h"
#include "exchange/mail_message.h"

namespace fernleaf {

struct MailDraft {
    QString to, subject, text;
    std::vector<PageId> pages;
    QString ending = QStringLiteral(".pdf");  // of the file they are attached as
};

// UI thread only.
class MailDesk : public Desk {
    Q_OBJECT

public:
    explicit MailDesk(const DeskParts& parts, QObject* parent = nullptr) : Desk(parts, parent) {}

    // A task with progress; sent() or a problem follows.
    void mail(const MailDraft& draft);
    // Pages on whose paper "send" was ticked go, in one message, to the address that was set up; without one they stay
    // among the to-dos.
    void mail_errands();

    static QStringList contacts();    // to whom was mailed before, the last first
    static QString errand_address();  // empty: nothing is mailed by itself
    static void set_errand_address(const QString& address);

signals:
    void sent();

private:
    void mail(const MailDraft& draft, const std::function<void()>& done);
    void hand_over(const MailMessage& message, const std::filesystem::path& file, const std::function<void()>& done);
    void keep(const MailMessage& message, const std::filesystem::path& folder, const std::function<void()>& done);
};

}  // namespace fernleaf
