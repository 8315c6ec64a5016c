#include "desk/pen_desk.h"

#include <QSettings>
#include <QSysInfo>
#include <algorithm>

#include "base/barrier.h"
#include "base/now.h"
#include "capture/local_socket.h"
#include "desk/text_of.h"
#include "store/pen_keeper.h"

namespace fernleaf {
namespace {

constexpr int kLookEveryMs = 1500, kTellAfterMs = 400;
constexpr int64_t kTryAgainAfterMs = 6000;  // a pen that did not answer
constexpr int64_t kJustWrittenMs = 8000;
constexpr char kFollows[] = "pens/follow";

}  // namespace

// A pen near: the thread that is linked with it, and what it is known as.
struct PenDesk::Link {
    int64_t number = 0;  // never another one's, unlike its place in memory
    std::filesystem::path socket;
    std::string serial;  // empty until it told it
    bool over = false, was_linked = false;
    int64_t over_ms = 0;
    CancelSource cancel;
    PenRequests requests;
    bool pairing = false;    // a passcode was given: it waits for another where that was wrong
    QString passcode;        // given while it was being left: it is linked again with that
    bool forgotten = false;  // as soon as it has ended: until then it may remember its pen
    std::thread thread;

    ~Link() {
        cancel.cancel();
        if (thread.joinable()) thread.join();
    }
};

PenDesk::PenDesk(const DeskParts& parts, QObject* parent) : Desk(parts, parent) {
    look_timer_.setInterval(kLookEveryMs);
    connect(&look_timer_, &QTimer::timeout, this, &PenDesk::look);
    tell_timer_.setSingleShot(true);
    tell_timer_.setInterval(kTellAfterMs);
    connect(&tell_timer_, &QTimer::timeout, this, &PenDesk::pages_changed);
}

PenDesk::~PenDesk() { leave_all(); }

void PenDesk::leave_all() {
    look_timer_.stop();
    for (const auto& link : links_) link->cancel.cancel();
    links_.clear();
}

bool PenDesk::follows() { return QSettings().value(kFollows, true).toBool(); }
void PenDesk::set_follows(bool follows) { QSettings().setValue(kFollows, follows); }

void PenDesk::begin() {
    look_timer_.start();
    disk_.ask(
        this, [this] { return library_.pens(); },
        [this](const Result<std::vector<PenRecord>>& pens) {
            if (!pens) return messages_.tell_problem(pens.error());
            take_records(*pens);
            look();
        });
}

void PenDesk::take_records(const std::vector<PenRecord>& pens) {
    for (const PenRecord& pen : pens) {
        ShownPen& there = shown(pen);
        if (!there.near) there.pen = pen;
        there.paired = true;
    }
    sort();
    emit changed();
}

ShownPen& PenDesk::shown(const PenRecord& pen) {
    const auto found = std::ranges::find(pens_, pen.serial, [](const ShownPen& p) { return p.pen.serial; });
    if (found != pens_.end()) return *found;
    pens_.push_back({});
    pens_.back().pen = pen;
    return pens_.back();
}

void PenDesk::sort() {
    std::ranges::stable_sort(pens_, [](const ShownPen& a, const ShownPen& b) {
        return std::pair(!a.paired, a.pen.name) < std::pair(!b.paired, b.pen.name);
    });
}

PenDesk::Link* PenDesk::link_of(const std::string& serial) {
    for (const auto& link : links_)
        if (link->serial == serial && !serial.empty()) return link.get();
    return nullptr;
}

void PenDesk::look() {
    if (library_.why_read_only()) return;
    disk_.ask(
        this, []() -> Result<std::vector<std::filesystem::path>> { return pens_about(); },
        [this](const Result<std::vector<std::filesystem::path>>& sockets) {
            if (!sockets || !look_timer_.isActive()) return;
            // Those whose sockets are gone are not near any more; those that ended may be tried again.
            const size_t shown_before = pens_.size();
            std::erase_if(links_, [&](const auto& link) {
                if (!link->over) return false;
                const bool gone = std::ranges::find(*sockets, link->socket) == sockets->end();
                // One that was linked is tried again at once.
                if (!gone && !link->was_linked && now_ms() - link->over_ms < kTryAgainAfterMs) return false;
                if (gone)
                    std::erase_if(pens_, [&](const ShownPen& p) { return p.pen.serial == link->serial && !p.paired; });
                return true;
            });
            for (const std::filesystem::path& socket : *sockets)
                if (std::ranges::find(links_, socket, [](const auto& link) { return link->socket; }) == links_.end())
                    start(socket, {});
            if (pens_.size() != shown_before) emit changed();
        });
}

void PenDesk::start(const std::filesystem::path& socket, const QString& passcode) {
    links_.push_back(std::make_unique<Link>());
    Link& link = *links_.back();
    static int64_t links_made = 0;
    link.number = ++links_made;
    link.socket = socket;
    link.pairing = !passcode.isEmpty();
    if (link.pairing) link.requests.give_passcode(passcode.toStdString());
    // On the UI's thread, if there is still this link.
    const auto on_ui = [this, number = link.number](auto what) {
        QMetaObject::invokeMethod(
            this,
            [this, number, what = std::move(what)] {
                for (const auto& l : links_)
                    if (l->number == number) return what(*l);
            },
            Qt::QueuedConnection);
    };
    link.thread = std::thread([this, &link, on_ui] {
        const Status status = guarded([&]() -> Status {
            auto line = connect_local(link.socket);
            if (!line) return line.error();
            std::string serial;
            bool live = false;  // all that it had in its memory has been taken
            LibraryKeeper keeper(
                library_,
                [&](const KeptCaptures& kept) {
                    // It is on disk, whatever becomes of the link.
                    QMetaObject::invokeMethod(
                        this, [this, kept, serial, live] { captured(kept, serial, live); }, Qt::QueuedConnection);
                },
                [this](const CapturedStroke& so_far) {
                    QMetaObject::invokeMethod(
                        this, [this, so_far] { written_so_far(so_far); }, Qt::QueuedConnection);
                });
            bool was_locked = false;
            PenLink pen(keeper, QSysInfo::machineHostName().toStdString(), [&](const LinkStatus& now) {
                serial = now.pen.serial;
                live = live || now.drained;
                was_locked = now.stage == LinkStage::locked;
                on_ui([this, now](Link& l) { heard(l, now); });
            });
            // A pen that is not paired is left again once its name is known, so that others can link with it.
            return run_pen_link(pen, **line, link.requests, link.cancel.token(), [&](const LinkStatus& now) {
                return was_locked && now.stage == LinkStage::locked && !link.pairing;
            });
        });
        on_ui([this, status](Link& l) { ended(l, status); });
    });
}

void PenDesk::heard(Link& link, const LinkStatus& status) {
    if (status.pen.serial.empty() || link.forgotten) return;
    link.serial = status.pen.serial;
    link.was_linked = link.was_linked || status.stage == LinkStage::linked;
    ShownPen& pen = shown(status.pen);
    const uint64_t kept_before = pen.linked() ? pen.pen.kept : status.pen.kept;
    if (!pen.linked()) pen.taken = 0;
    pen.taken += status.pen.kept - std::min(kept_before, status.pen.kept);
    pen.pen = status.pen;
    pen.near = true;
    // A pen that asks for its passcode is left until somebody gives it.
    const bool left = pen.stage == LinkStage::locked && status.stage == LinkStage::ended && status.problem.empty();
    if (!left) pen.stage = status.stage;
    pen.wrong_passcode = status.wrong_passcode;
    pen.tries_left = status.tries_left;
    pen.problem = QString::fromStdString(status.problem);
    pen.to_come = status.to_come;
    pen.drained = status.drained;
    pen.paired = pen.paired || status.stage == LinkStage::linked;
    sort();
    emit changed();
}

void PenDesk::ended(Link& link, const Status& status) {
    emit writing({});  // what was under the pen comes when it is linked again
    link.over = true;
    link.over_ms = now_ms();
    if (link.forgotten) {
        const std::string serial = link.serial;
        std::erase_if(links_, [&](const auto& l) { return l.get() == &link; });
        return forget(serial);
    }
    for (ShownPen& pen : pens_) {
        if (pen.pen.serial != link.serial || link.serial.empty()) continue;
        const bool asks = pen.stage == LinkStage::locked;
        pen.near = asks;
        if (!asks) pen.stage = LinkStage::ended;
        pen.problem = status ? QString() : text_of(status.error());
        if (asks) pen.paired = false;  // also when its passcode was changed
    }
    if (!link.passcode.isEmpty()) restart(link, QString(link.passcode));
    emit changed();
}

void PenDesk::pair(const std::string& serial, const QString& passcode) {
    Link* link = link_of(serial);
    if (!link) return;
    if (link->over) return restart(*link, passcode);
    if (link->pairing)
        link->requests.give_passcode(passcode.toStdString());
    else
        link->passcode = passcode;
}

void PenDesk::restart(const Link& link, const QString& passcode) {
    const std::filesystem::path socket = link.socket;
    const std::string serial = link.serial;
    std::erase_if(links_, [&](const auto& l) { return l.get() == &link; });
    start(socket, passcode);
    links_.back()->serial = serial;
}

void PenDesk::forget(const std::string& serial) {
    if (!editing_.may_change()) return;
    std::erase_if(pens_, [&](const ShownPen& p) { return p.pen.serial == serial; });
    emit changed();
    if (Link* link = link_of(serial); link && !link->over) {
        // Nobody waits for it here; ended() goes on.
        link->forgotten = true;
        return link->cancel.cancel();
    }
    std::erase_if(links_, [&](const auto& l) { return l->serial == serial; });
    disk_.ask(
        this, [this, serial] { return library_.forget_pen(serial); },
        [this](const Status& status) {
            if (!status) messages_.tell_problem(status.error());
            look();
        });
}

void PenDesk::change_settings(const std::string& serial, const PenSettings& settings) {
    if (Link* link = link_of(serial)) link->requests.change_settings(settings);
}

void PenDesk::written_so_far(const CapturedStroke& stroke) {
    if (document_.page() && document_.address() == stroke.address) emit writing(ink_of(stroke));
}

void PenDesk::captured(const KeptCaptures& kept, const std::string& serial, bool live) {
    std::vector<PageId> elsewhere;
    bool more = false;
    emit writing({});  // it is lifted, and stands on its page now
    for (const KeptCaptures::OnPage& page : kept.pages) {
        more = more || page.new_page;
        if (document_.is_open(page.page))
            editing_.bring(page.strokes);
        else
            elsewhere.push_back(page.page);
        ask_about_other(page, serial);
    }
    if (std::ranges::any_of(kept.pages, &KeptCaptures::OnPage::errands)) emit errands_ticked();
    if (!elsewhere.empty()) readings_.read_later(elsewhere);
    if (more || !elsewhere.empty()) tell_timer_.start();
    if (!live || elsewhere.empty() || !follows()) return;
    const KeptCaptures::OnPage& last = kept.pages.back();
    if (!document_.is_open(last.page) && now_ms() - last.strokes.back().start_ms < kJustWrittenMs)
        emit page_wanted(last.page);
}

void PenDesk::ask_about_other(const KeptCaptures::OnPage& page, const std::string& serial) {
    if (page.other == OtherNotebook::no) return;
    const std::pair about(page.book, page.other_from);
    if (std::ranges::find(asked_about_, about) != asked_about_.end()) return;
    asked_about_.push_back(about);
    if (page.other == OtherNotebook::yes) return part(page, serial);
    messages_.make_offer(tr("The pen wrote over earlier ink on this page. Is this a second notebook of the same kind?"),
                         tr("Second notebook"), [this, page, serial] { part(page, serial); });
}

void PenDesk::part(const KeptCaptures::OnPage& page, const std::string& serial) {
    disk_.ask(
        this, [this, page, serial] { return library_.part_book(page.book, serial, page.other_from); },
        [this, page](const Result<AddressedBook>& parted) {
            if (!parted) return messages_.tell_problem(parted.error());
            if (document_.is_open(page.page)) emit page_wanted(page.page);
            emit pages_changed();
            messages_.tell_undoable(tr("Started a second notebook for what the pen writes now."),
                                    [this, page, later = parted->id] {
                                        disk_.ask(
                                            this, [this, page, later] { return library_.join_books(page.book, later); },
                                            [this, page](const Status& status) {
                                                if (!status) return messages_.tell_problem(status.error());
                                                emit page_wanted(page.page);
                                                emit pages_changed();
                                            });
                                    });
        });
}

}  // namespace fernleaf
