// The open library and what is done with it: makes the session's parts, ties them, and opens pages.
//
// The UI thread holds the page in memory and never waits. Everything on disk goes through one worker in order, reading
// through a second, imports and exports through a third; each answers on the UI thread. An edit goes down once: page,
// readings, disk (page_editing.h).
#pragma once

#include <QObject>
#include <QTimer>
#include <filesystem>
#include <functional>
#include <memory>

#include "desk/backup_desk.h"
#include "desk/cards_desk.h"
#include "desk/commit_queue.h"
#include "desk/correction_desk.h"
#include "desk/drawing_desk.h"
#include "desk/history_desk.h"
#include "desk/intake_desk.h"
#include "desk/keeping_desk.h"
#include "desk/library_model.h"
#include "desk/listening_desk.h"
#include "desk/mail_desk.h"
#include "desk/math_desk.h"
#include "desk/messages.h"
#include "desk/page_document.h"
#include "desk/page_editing.h"
#include "desk/pen_desk.h"
#include "desk/picture_desk.h"
#include "desk/reading_scheduler.h"
#include "desk/recording_desk.h"
#include "desk/replacing_desk.h"
#include "desk/stamps_desk.h"
#include "desk/task_runner.h"
#include "desk/teaching_desk.h"
#include "desk/templates_desk.h"
#include "desk/tracks_desk.h"
#include "desk/transfers.h"
#include "desk/typesetting_desk.h"
#include "desk/worker.h"

namespace fernleaf {

// UI thread only.
class Session : public QObject {
    Q_OBJECT

public:
    // models: where the reader's data is; without it everything but reading works, and a problem says so.
    Session(std::unique_ptr<Library> library, std::filesystem::path models, QObject* parent = nullptr);
    ~Session() override;  // finishes what must reach the disk, drops the rest

    const Library& library() const { return *library_; }
    bool read_only() const { return library_->why_read_only().has_value(); }

    Messages& messages() { return messages_; }
    TaskRunner& tasks() { return *tasks_; }
    PageDocument& document() { return document_; }
    const PageDocument& document() const { return document_; }
    CommitQueue& queue() { return *queue_; }
    ReadingScheduler& readings() { return *readings_; }
    PageEditing& editing() { return *editing_; }
    LibraryModel& model() { return *model_; }
    KeepingDesk& keeping() { return *keeping_; }
    BackupDesk& backups() { return *backups_; }
    CorrectionDesk& correcting() { return *correcting_; }
    MathDesk& math() { return *math_; }
    TypesettingDesk& typesetting() { return *typesetting_; }
    DrawingDesk& drawing() { return *drawing_; }
    StampsDesk& stamps() { return *stamps_; }
    TemplatesDesk& templates() { return *templates_; }
    PictureDesk& pictures() { return *pictures_; }
    Transfers& transfers() { return *transfers_; }
    MailDesk& mail() { return *mail_; }
    CardsDesk& cards() { return *cards_; }
    HistoryDesk& history() { return *history_; }
    ReplacingDesk& replacing() { return *replacing_; }
    TeachingDesk& teaching() { return *teaching_; }
    IntakeDesk& intake() { return *intake_; }
    PenDesk& pens() { return *pens_; }
    RecordingDesk& recording() { return *recording_; }
    TracksDesk& tracks() { return *tracks_; }
    ListeningDesk& listening() { return *listening_; }

    // What is shown of the open page; null when there is none.
    const Page* page() const { return document_.page(); }
    const Reading& reading() const { return readings_->reading(); }
    const ReadWord* word(ReadPlace place) const { return readings_->word(place); }
    const ReadShape* shape(ReadPlace place) const { return readings_->shape(place); }

    void open_page(PageId page);

    // For tests and the end of the program: returns when nothing is left to do on any thread.
    void wait_idle();

private:
    struct Loaded;
    void page_loaded(Loaded& loaded);
    void close_page();
    void offer_writing();
    void begin_writing();

    std::unique_ptr<Library> library_;
    Messages messages_;
    PageDocument document_;
    std::unique_ptr<Worker> disk_, reader_thread_, tasks_thread_;
    std::unique_ptr<TaskRunner> tasks_;
    std::unique_ptr<CommitQueue> queue_;
    std::unique_ptr<ReadingScheduler> readings_;
    std::unique_ptr<PageEditing> editing_;
    std::unique_ptr<LibraryModel> model_;
    std::unique_ptr<KeepingDesk> keeping_;
    std::unique_ptr<BackupDesk> backups_;
    std::unique_ptr<TeachingDesk> teaching_;
    std::unique_ptr<CorrectionDesk> correcting_;
    std::unique_ptr<MathDesk> math_;
    std::unique_ptr<TypesettingDesk> typesetting_;
    std::unique_ptr<DrawingDesk> drawing_;
    std::unique_ptr<StampsDesk> stamps_;
    std::unique_ptr<TemplatesDesk> templates_;
    std::unique_ptr<PictureDesk> pictures_;
    std::unique_ptr<Transfers> transfers_;
    std::unique_ptr<MailDesk> mail_;
    std::unique_ptr<CardsDesk> cards_;
    std::unique_ptr<HistoryDesk> history_;
    std::unique_ptr<ReplacingDesk> replacing_;
    std::unique_ptr<IntakeDesk> intake_;
    std::unique_ptr<PenDesk> pens_;
    std::unique_ptr<RecordingDesk> recording_;
    std::unique_ptr<TracksDesk> tracks_;
    std::unique_ptr<ListeningDesk> listening_;
    PageId wanted_page_ = 0;
    QTimer lock_timer_;
};

}  // namespace fernleaf
