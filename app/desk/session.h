// The open library and the open page: the one place where the window's wishes become edits, readings and files.
//
// The UI thread holds the page in memory and never waits. Everything on disk goes through one thread in order, reading
// through a second, imports and exports through a third; each answers with a signal. A stroke is posted to the disk
// thread the moment the pen lifts.
#pragma once

#include <QByteArray>
#include <QElapsedTimer>
#include <QImage>
#include <QObject>
#include <QString>
#include <QStringList>
#include <QTimer>
#include <deque>
#include <filesystem>
#include <functional>
#include <memory>
#include <optional>

#include "base/barrier.h"
#include "desk/intake_desk.h"
#include "desk/teaching_desk.h"
#include "render/page_painter.h"
#include "store/job_thread.h"
#include "store/library.h"

namespace fernleaf {

class PrintSkills;
class Reader;
struct LiftedInk;

struct NotebookSummary {
    Notebook notebook;
    size_t pages = 0;
    std::vector<PageSummary> contents;  // of the open notebook only
};

// Where a word stands in the reading.
struct WordPlace {
    int line = -1;
    int word = -1;
    bool valid() const { return line >= 0 && word >= 0; }
    friend bool operator==(const WordPlace&, const WordPlace&) = default;
};

enum class ReadingMode {
    on = 0,      // as it is written
    paused = 1,  // not now; what changed meanwhile is read when it goes on
    off = 2,     // nothing is read unless it is asked for
};

enum class TypePlace { in_place, beside, clipboard };

// What is to be set in type: ink of the open page (none: all of it), where, and read in which language (empty: the
// notebook's).
struct TypeWish {
    TypePlace place = TypePlace::in_place;
    std::vector<StrokeId> ink = {};
    std::string language = {};
};

class Session : public QObject {
    Q_OBJECT

public:
    // models: where the reader's data is; without it everything but reading works, and a problem says so.
    Session(std::unique_ptr<Library> library, std::filesystem::path models, QObject* parent = nullptr);
    ~Session() override;  // finishes what must reach the disk, drops the rest

    const Library& library() const { return *library_; }
    // Whether the library can be changed; says why not when it can't.
    bool may_change();
    bool read_only() const { return library_->why_read_only().has_value(); }

    // Codes of the languages whose data is there; none before the reader is ready.
    const std::vector<std::string>& languages() const { return languages_; }

    // The open page; null when there is none.
    const Page* page() const { return page_ ? &*page_ : nullptr; }
    const Notebook& notebook() const { return notebook_; }
    int pages_in_notebook() const { return pages_in_notebook_; }
    const Reading& reading() const { return *reading_; }
    const ReadWord* word(WordPlace place) const;
    const UndoState& undo_state() const { return undo_state_; }
    bool reading_in_progress() const { return reading_busy_; }

    void open_page(PageId page);
    // Where the library was left, or its first page where that is gone.
    void open_where_left(PageId page, NotebookId otherwise);
    void open_neighbour(int offset);  // pages before (-1) or after (1) this one
    void open_notebook(NotebookId notebook);
    void refresh_notebooks();

    // While the pen is down, only what is on the open page is read.
    void set_pen_down(bool down);
    ReadingMode reading_mode() const { return mode_; }
    void set_reading_mode(ReadingMode mode);
    void read_now();  // the open page, whatever the mode
    // Changes that wait for room on the disk.
    bool has_unsaved() const { return !unsaved_.empty(); }
    // The id it got; 0 when it can't be kept.
    StrokeId write(Stroke stroke);
    // An id for an element that is to be shown before it is kept.
    int64_t new_element_id() { return library_->new_element_id(); }
    // Makes a change to the open page, one step of undo; elements added have their ids.
    void change(Edit edit);
    // The same, told to the person with a way back beside it.
    void change_and_tell(Edit edit, const QString& did);
    void clear_page();  // of its ink
    // Puts ink (InkML) and other elements (encode_elements) onto the open page with their middle at a place in mm;
    // pasted() tells what came.
    void paste(const QByteArray& inkml, const QByteArray& elements, Point middle);
    void add_divider();  // a rule across the page, below all that is on it
    // Puts a picture there; its file or its pixels are kept in the library.
    void add_picture(const QString& path, Point middle);
    void add_picture(const QImage& image, Point middle);
    // The handwriting on a picture of the open page becomes strokes, and goes from the picture as it is shown; on
    // request what seems printed, too.
    void lift_ink(PictureId picture, bool print_too = false);
    // And is on it again; strokes that were moved since stay.
    void put_ink_back(PictureId picture);
    // Another look of a picture: what is done to its file, not where it lies.
    void treat_picture(PictureId picture, const Treatment& treatment);
    // Keeps a picture for paper; picture_kept() tells its file, or none when it can't be used.
    void keep_picture(const QString& path);
    // Gives the open page another sheet; nothing on it moves.
    void change_sheet(const Sheet& sheet);

    // When ink is set in type that had been edited as type before, type_choice() asks which version is wanted.
    void set_in_type(const TypeWish& wish);
    void choose_type(bool as_edited);
    void set_notebook_in_type();
    // Blocks of the open page (none: all) give way to the ink they were set from.
    void back_to_ink(const std::vector<TextId>& blocks);
    void undo();
    void redo();

    TeachingDesk& teaching() { return *teaching_; }
    IntakeDesk& intake() { return *intake_; }
    // Lets the reader learn from the open page, which was copied from lines_to_copy().
    void learn_copied_page();
    void change_notebook(const Notebook& notebook);
    // Reads every page again whose reading is older than what it is to be read with, the open one first.
    void read_all_anew();

    // A person says what a word is; it takes effect at once and outlasts every later reading.
    void correct(WordPlace place, const QString& text);
    // A word and the next in its line are one; or a word is two, parted where its ink has the widest gap.
    void join_with_next(WordPlace place);
    void split_word(WordPlace place);
    // Whether the next word in the line can be joined to this one; whether this one can be split.
    // Opens the notebook's next page that has unsure words; next_unsure_page() tells which, or 0 for none at all.
    void open_next_unsure();
    bool can_join(WordPlace place) const;
    bool can_split(WordPlace place) const;
    // Some ink is text, math, a drawing, or one line by itself, whatever it was taken for.
    void say_kind(const std::vector<StrokeId>& strokes, InkClass kind);

    void add_notebook(const Notebook& notebook);
    void add_page();  // after the open one
    void move_page(PageId page, NotebookId notebook, int number);
    void copy_page(PageId page, NotebookId notebook, int number);
    void bin_pages(const std::vector<PageId>& pages);
    void bin_notebook(NotebookId notebook);
    void restore(const std::vector<Binned>& things);
    void empty_bin();
    void look_into_bin();  // bin_seen() answers
    void import_files(const QStringList& paths, std::optional<NotebookId> into);
    void export_pages(const std::vector<PageId>& pages, const QString& path);
    void save_file(const QString& path, const std::string& bytes);
    void export_notebook(const QString& path);
    void cancel_task();
    void find(const QString& text);

    // For tests and the end of the program: returns when nothing is left to do on any thread.
    void wait_idle();

signals:
    void notebooks_changed(const std::vector<NotebookSummary>& notebooks);
    void page_leaving();  // another is about to be opened; what is under way on this one is to be finished
    void page_opened();
    void page_closed();  // there is none any more
    void page_edited(const Edit& edit);
    void pasted(const std::vector<int64_t>& elements);
    void set_in_type_done(const std::vector<TextId>& blocks);
    void type_choice(const QString& edited, const QString& read);
    void picture_kept(const std::string& file);
    void next_unsure_page(PageId page);
    void bin_seen(const std::vector<Binned>& things);
    void mode_changed(ReadingMode mode);
    void pictures_ready(std::shared_ptr<const PictureImages> images);
    void reading_changed();
    void undo_state_changed();
    void found(const QString& text, const std::vector<Hit>& hits, const QString& problem);
    void task_changed(const QString& label, double part);  // an empty label: nothing under way
    void problem(const QString& message);
    void notice(const QString& message);
    void undoable(const QString& message, const std::function<void()>& take_back);
    // Something that can be done now, with the name of it.
    void offer(const QString& message, const QString& action, const std::function<void()>& do_it);
    // Changes wait for room on the disk, for the reason given; empty: no more.
    void saving_waits(const QString& why);

private:
    // job: gives a Result; what it throws is the error in it.
    template <typename Job, typename Then>
    void on_disk(Job job, Then then);
    std::function<void(const Error&)> thread_failure();
    void commit(Edit edit);
    void take_corrections(const Edit& edit);
    void save(PageId page, Edit edit);
    struct Saved {
        Edit edit;
        Status status{Done{}};
        bool renewed = false;  // elements have other ids than on the page in memory
    };
    void saved(PageId page, const Saved& done);
    void take_back(PageId page, const Edit& edit, const Error& why);
    void save_again();
    void page_overflowed(PageId from, const PageOverflow& overflow);
    void put_pasted(Result<Elements> elements, Point middle, PageId page, const char* label);
    void load_pictures_again();
    Result<LiftedInk> ink_on(const Page& page, const Picture& picture, bool print_too, const CancelToken& cancel,
                             const Progress& progress);  // on the reader thread
    int upright(const cv::Mat& page, NotebookId notebook);
    void take_lifted(PageId page, const Picture& picture, LiftedInk& ink);
    Result<Edit> page_in_type(PageId id, const CancelToken& cancel);
    template <typename Job>
    void pages_job(Job job, std::function<void()> then);
    void step(bool forward);
    void mirror(const Edit& edit);
    void page_loaded(Page page, std::shared_ptr<Page> mirror, Reading reading, std::vector<Correction> corrections,
                     UndoState steps, Notebook notebook, int pages);
    void want_reading();
    void pump_reader();
    // What is read for: the open page in an edition of it, or a page that nobody looks at, with its mark in the
    // library.
    struct ReadJob {
        PageId page = 0;
        int edition = -1;
        ReadMark mark = kNotWhole;
    };
    void take_reading(const ReadJob& job, Reading reading, bool whole);
    void reading_failed(const ReadJob& job, const Error& error);
    void save_reading_now();
    bool reading_is_whole() const { return read_edition_ == edition_ && unsaved_.empty(); }
    void read_later(const std::vector<PageId>& pages);
    void read_what_is_left();
    void offer_writing();
    void begin_writing();
    void learn_from(const ReadWord& word);
    void keep_corrections(const char* label, std::vector<Correction> corrections);
    void retype(const ReadWord& word, const std::string& text);
    // On the thread for tasks, or another.
    void run_task(const QString& label, std::function<void(CancelToken, Progress)> task);
    void run_task(const QString& label, std::function<void(CancelToken, Progress)> task, JobThread& thread);

    std::unique_ptr<Library> library_;
    std::filesystem::path models_;
    std::shared_ptr<Reader> reader_;      // used on the reader thread only
    std::unique_ptr<PrintSkills> print_;  // and this
    std::unique_ptr<TeachingDesk> teaching_;
    std::unique_ptr<IntakeDesk> intake_;

    std::optional<Page> page_;
    // The open page as the reader's thread knows it: edits follow it there, so that no reading has to copy it.
    std::shared_ptr<Page> mirror_;
    Notebook notebook_;
    int pages_in_notebook_ = 0;
    CopyOnWrite<Reading> reading_;  // shared with what reads and saves it
    std::vector<Correction> corrections_;
    std::vector<Correction> corrections_removed_;  // since the reading that is under way began
    UndoState undo_state_;
    int edition_ = 0;                            // of the page in memory; counts edits and openings
    std::atomic<NotebookId> open_notebook_ = 0;  // workers read it, too
    PageId wanted_page_ = 0;

    struct Unsaved {
        PageId page = 0;
        Edit edit;
    };
    std::deque<Unsaved> unsaved_;
    bool commits_blocked_ = false;  // used on the disk thread: a change could not be saved
    struct TypeVersions {
        TypeWish wish;
        PageId page = 0;
        int edition = 0;
        Edit as_read, as_edited;
    };
    std::optional<TypeVersions> type_versions_;

    ReadingMode mode_ = ReadingMode::on;
    bool asked_ = false;  // to read the open page in spite of the mode
    QTimer read_timer_, save_timer_, retry_timer_, lock_timer_;
    bool can_read_ = false;
    bool pen_down_ = false;
    std::vector<std::string> languages_;
    bool reading_wanted_ = false, reading_busy_ = false, reading_unsaved_ = false;
    bool reading_begun_ = false;         // of the open page, since it was opened
    int read_edition_ = -1;              // of the page that reading_ is of
    bool told_unsaved_reading_ = false;  // that it could not be saved
    std::vector<PageId> read_again_;     // their readings could not be saved
    CancelSource read_cancel_;           // of the reading of the open page
    PageId background_page_ = 0;         // being read though it is not open
    CancelSource background_cancel_;
    std::deque<PageId> background_;
    size_t background_total_ = 0;

    bool task_running_ = false;
    CancelSource task_cancel_;
    int newest_query_ = 0;

    std::unique_ptr<JobThread> disk_, reading_thread_, tasks_;
};

template <typename Job, typename Then>
void Session::on_disk(Job job, Then then) {
    disk_->post([this, job = std::move(job), then = std::move(then)]() mutable {
        auto result = std::make_shared<decltype(job())>(guarded(job));
        QMetaObject::invokeMethod(
            this, [then = std::move(then), result = std::move(result)]() mutable { then(*result); },
            Qt::QueuedConnection);
    });
}

}  // namespace fernleaf
