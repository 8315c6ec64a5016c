// Smart pens: found while they are near, linked by themselves once they are paired, their ink put on pages as it comes.
//
// Each pen near is linked on a thread of its own (capture/pen_link.h); what it says is told on the UI thread.
#pragma once

#include <QObject>
#include <QTimer>
#include <filesystem>
#include <memory>
#include <string>
#include <thread>
#include <vector>

#include "capture/pen_link.h"
#include "desk/desk.h"

namespace fernleaf {

// A pen as it is shown.
struct ShownPen {
    PenRecord pen;
    bool near = false, paired = false;
    // While it is near: how the link stands. Ended: it could not be linked, problem tells why.
    LinkStage stage = LinkStage::ended;
    bool wrong_passcode = false;
    int tries_left = 0;
    QString problem;
    uint64_t to_come = 0, taken = 0;  // strokes still in its memory; since it was linked
    bool drained = false;
    bool linked() const { return near && stage == LinkStage::linked; }
};

// UI thread only.
class PenDesk : public Desk {
    Q_OBJECT

public:
    explicit PenDesk(const DeskParts& parts, QObject* parent = nullptr);
    ~PenDesk() override;  // leaves all pens

    // Looks for pens from now on; those of the library and those near.
    void begin();
    const std::vector<ShownPen>& pens() const { return pens_; }  // paired ones first, by name
    void pair(const std::string& serial, const QString& passcode);
    void forget(const std::string& serial);
    void change_settings(const std::string& serial, const PenSettings& settings);
    // Whether a page is opened when a pen writes on it.
    static bool follows();
    static void set_follows(bool follows);
    // Links that are under way end first; for tests and the end of the program.
    void leave_all();

signals:
    void changed();
    // What is under a pen on the open page, before it is lifted; no points: nothing any more.
    void writing(const Stroke& so_far);
    void page_wanted(PageId page);
    void errands_ticked();
    void pages_changed();  // the library has other pages or notebooks

private:
    struct Link;
    void look();
    void take_records(const std::vector<PenRecord>& pens);
    void start(const std::filesystem::path& socket, const QString& passcode);
    void restart(const Link& link, const QString& passcode);
    void heard(Link& link, const LinkStatus& status);
    void ended(Link& link, const Status& status);
    void written_so_far(const CapturedStroke& stroke);
    void captured(const KeptCaptures& kept, const std::string& serial, bool live);
    void ask_about_other(const KeptCaptures::OnPage& page, const std::string& serial);
    void part(const KeptCaptures::OnPage& page, const std::string& serial);
    ShownPen& shown(const PenRecord& pen);
    Link* link_of(const std::string& serial);
    void sort();

    std::vector<ShownPen> pens_;
    std::vector<std::unique_ptr<Link>> links_;
    std::vector<std::pair<int64_t, uint64_t>> asked_about_;  // book and stroke
    QTimer look_timer_, tell_timer_;
};

}  // namespace fernleaf
