// What is to be read, when, and what came of it: the open page as it is written on, others when nobody looks.
//
// The reader works on one patient thread. It knows the open page by a copy that edits follow there, so that no reading
// has to copy it. What is still to be read is kept in the library; this only works it off.
#pragma once

#include <QObject>
#include <QTimer>
#include <deque>
#include <filesystem>
#include <memory>
#include <vector>

#include "base/cancel.h"
#include "base/copy_on_write.h"
#include "desk/commit_queue.h"
#include "desk/page_document.h"
#include "desk/task_runner.h"
#include "desk/worker.h"
#include "drawing/shape_memory.h"
#include "math/formula_skills.h"
#include "paper/find_upright.h"

namespace fernleaf {

struct PrintSkills;
class Reader;

enum class ReadingMode {
    on = 0,      // as it is written
    paused = 1,  // not now; what changed meanwhile is read when it goes on
    off = 2,     // nothing is read unless it is asked for
};

// Where a word, a sign of a formula, or a figure of a drawing, stands in the reading.
struct ReadPlace {
    int line = -1;
    int word = -1;
    int shape = -1;
    int sign = -1;  // of a formula, which is its line's word 0
    static ReadPlace of_shape(int line, int shape) { return {line, -1, shape}; }
    static ReadPlace of_sign(int line, int sign) { return {line, 0, -1, sign}; }
    ReadPlace whole() const { return {line, word, shape}; }  // the formula that a sign is of
    bool valid() const { return line >= 0 && (word >= 0 || shape >= 0); }
    friend bool operator==(const ReadPlace&, const ReadPlace&) = default;
};

// Whether a formula's signs can be corrected one by one: those that were read in pictures are of no strokes, and only
// the whole formula can be.
bool can_be_said(const std::vector<ReadWord>& signs);

// UI thread only, but for what is said to run on the reader's.
class ReadingScheduler : public QObject {
    Q_OBJECT

public:
    // models: where the reader's data is; without it nothing is read, and a problem says so.
    ReadingScheduler(Library& library, std::filesystem::path models, Worker& disk, Worker& reader_thread,
                     PageDocument& document, CommitQueue& queue, TaskRunner& tasks, Messages& messages,
                     QObject* parent = nullptr);
    ~ReadingScheduler() override;

    const Reading& reading() const { return *reading_; }
    CopyOnWrite<Reading> shared_reading() const { return reading_; }
    const ReadWord* word(ReadPlace place) const;    // or a formula's sign; null: there is none
    const ReadShape* shape(ReadPlace place) const;  // null: there is none
    const std::vector<Correction>& corrections() const { return corrections_; }
    bool in_progress() const { return busy_; }
    bool can_read() const { return can_read_; }
    // Codes of the languages whose data is there; none before the reader is ready.
    const std::vector<std::string>& languages() const { return languages_; }

    // The open page as the reader's thread knows it; to be looked at there.
    std::shared_ptr<const Page> mirror() const { return mirror_; }
    // On the reader's thread: the reader, and what reads print; null where their data is missing.
    Reader* reader() const { return reader_.get(); }
    PrintSkills* print() const { return print_.get(); }
    // On the reader's thread: a page read anew as its notebook asks for, or in the language given.
    Reading read_fresh(const Page& page, const Reading& before, const std::vector<Correction>& corrections,
                       const std::string& language = {}, const CancelToken& cancel = {});
    // From any thread but the reader's: waits for it. How often a page is to be turned to stand upright, told by what
    // can be read on it in the notebook's languages.
    int upright(const cv::Mat& page, NotebookId notebook);

    // The page in the document is another now; the copy is for the reader's thread.
    void open(std::shared_ptr<Page> mirror, Reading reading, std::vector<Correction> corrections);
    // The document's page is about to be another: what is not read of it is read when nobody looks.
    void leave(bool for_another);
    void close();
    // The document has been edited so.
    void follow(const Edit& edit);
    void add_corrections(const std::vector<Correction>& corrections);

    // While the pen is down, only what is on the open page is read.
    void set_pen_down(bool down);
    bool pen_down() const { return pen_down_; }
    ReadingMode mode() const { return mode_; }
    void set_mode(ReadingMode mode);
    void read_now();  // the open page, whatever the mode
    void want_reading();
    void ask_once() { asked_ = true; }  // the next reading of the open page comes whatever the mode
    void read_later(const std::vector<PageId>& pages);
    // Reads every page again whose reading is older than what it is to be read with, the open one first.
    void read_all_anew();
    // What the library knows to be unread: left by an earlier run, by an import, or by other settings.
    void read_what_is_left();
    void save_now();

    // For tests and the end of the program.
    bool idle() const;
    void save_soon();  // now, if it was to be saved in a moment
    void stop();       // cancels what is under way; nothing new begins

signals:
    void reader_ready(std::shared_ptr<const Reader> reader);  // null: there is none
    void changed();                                           // the open page's reading
    void page_read();                                         // one that nobody looks at, or saved
    void mode_changed(ReadingMode mode);

private:
    void learn_corrected_signs();  // in formulas; on the reader's thread
    // What is read for: the open page in an edition of it, or a page that nobody looks at, with its mark in the
    // library.
    struct Job {
        PageId page = 0;
        int edition = -1;
        ReadMark mark = kNotWhole;
    };
    void take_corrections(const Edit& edit);
    void pump();
    void read(std::shared_ptr<const Page> page, CopyOnWrite<Reading> earlier, std::vector<Correction> corrections,
              const Job& job, const CancelToken& cancel);
    void read_next_in_background();
    void take(const Job& job, Reading reading, bool whole);
    void failed(const Job& job, const Error& error);
    void retry_saving();
    bool is_whole() const { return read_edition_ == document_.edition() && !queue_.has_unsaved(); }
    bool read_only() const { return library_.why_read_only().has_value(); }

    Library& library_;
    Worker &disk_, &reader_thread_;
    PageDocument& document_;
    CommitQueue& queue_;
    TaskRunner& tasks_;
    Messages& messages_;

    std::shared_ptr<Reader> reader_;           // used on the reader's thread only
    std::unique_ptr<PrintSkills> print_;       // and this
    ShapeMemory shapes_;                       // and this
    std::unique_ptr<FormulaSkills> formulas_;  // and this
    std::vector<std::string> languages_;
    bool can_read_ = false;

    std::shared_ptr<Page> mirror_;
    CopyOnWrite<Reading> reading_;  // shared with what reads and saves it
    std::vector<Correction> corrections_;
    std::vector<Correction> corrections_removed_;  // since the reading that is under way began

    ReadingMode mode_ = ReadingMode::on;
    bool asked_ = false;  // to read the open page in spite of the mode
    bool wanted_ = false, busy_ = false, unsaved_ = false, pen_down_ = false;
    bool begun_ = false;         // of the open page, since it was opened
    int read_edition_ = -1;      // of the page that reading_ is of
    bool told_unsaved_ = false;  // that it could not be saved
    QTimer read_timer_, save_timer_;
    CancelSource cancel_;  // of the reading of the open page

    std::deque<PageId> background_;
    size_t background_total_ = 0;
    PageId background_page_ = 0;  // being read though it is not open
    CancelSource background_cancel_;
    std::vector<PageId> read_again_;  // their readings could not be saved
};

}  // namespace fernleaf
