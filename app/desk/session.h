// The open library and the open page: the one place where the window's wishes become edits, readings and files.
//
// The UI thread holds the page in memory and never waits. Everything on disk goes through one thread in order, reading
// through a second, imports and exports through a third; each answers with a signal. A stroke is posted to the disk
// thread the moment the pen lifts.
#pragma once

#include <QByteArray>
#include <QElapsedTimer>
#include <QObject>
#include <QString>
#include <QStringList>
#include <QTimer>
#include <deque>
#include <filesystem>
#include <memory>
#include <optional>

#include "desk/teaching_desk.h"
#include "paper/page_reading.h"
#include "reading/reader.h"
#include "render/page_painter.h"
#include "store/job_thread.h"
#include "store/library.h"

namespace fernleaf {

struct NotebookSummary {
    Notebook notebook;
    size_t pages = 0;
    std::vector<PageSummary> contents;  // of the open notebook only
};

// Words read with less certainty than this are marked and asked about.
constexpr double kSureEnough = 0.6;

// Where a word stands in the reading.
struct WordPlace {
    int line = -1;
    int word = -1;
    bool valid() const { return line >= 0 && word >= 0; }
    friend bool operator==(const WordPlace&, const WordPlace&) = default;
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
    const Reading& reading() const { return reading_; }
    const ReadWord* word(WordPlace place) const;
    const Steps& steps() const { return steps_; }
    bool reading_in_progress() const { return reading_busy_; }

    void open_page(PageId page);
    // Where the library was left, or its first page where that is gone.
    void open_where_left(PageId page, NotebookId otherwise);
    void open_neighbour(int offset);  // pages before (-1) or after (1) this one
    void open_notebook(NotebookId notebook);
    void refresh_shelf();

    // While the pen is down, only what is on the open page is read.
    void set_pen_down(bool down);
    // The id it got; 0 when it can't be kept.
    StrokeId write(Stroke stroke);
    // An id for a stroke that is to be shown before it is kept.
    StrokeId new_stroke_id() { return library_->new_element_id(); }
    // Makes a change to the open page, one step of undo; elements added have their ids.
    void change(Edit edit);
    void clear_page();  // of its ink
    // Puts ink (InkML) onto the open page with its middle at a place in mm; pasted() tells which strokes came.
    void paste(const QByteArray& inkml, Point middle);
    void undo();
    void redo();

    TeachingDesk& teaching() { return *teaching_; }
    // Lets the reader learn from the open page, which was copied from lines_to_copy().
    void learn_copied_page();
    void change_notebook(const Notebook& notebook);
    // Reads every page again whose reading is older than what it is to be read with, the open one first.
    void read_all_anew();

    // A person says what a word is; it takes effect at once and outlasts every later reading.
    void correct(WordPlace place, const QString& text);

    void add_notebook(const Notebook& notebook);
    void add_page();
    void import_files(const QStringList& paths, std::optional<NotebookId> into);
    void export_pages(const std::vector<PageId>& pages, const QString& path);
    void export_notebook(const QString& path);
    void cancel_task();
    void find(const QString& text);

    // For tests and the end of the program: returns when nothing is left to do on any thread.
    void wait_idle();

signals:
    void shelf_changed(const std::vector<NotebookSummary>& notebooks);
    void page_opened();
    void page_edited(const Edit& edit);
    void pasted(const std::vector<StrokeId>& strokes);
    void pictures_ready(std::shared_ptr<const PictureImages> images);
    void reading_changed();
    void steps_changed();
    void found(const QString& text, const std::vector<Hit>& hits, const QString& problem);
    void task_changed(const QString& label, double part);  // an empty label: nothing under way
    void problem(const QString& message);
    void notice(const QString& message);

private:
    template <typename Job, typename Then>
    void on_disk(Job job, Then then);
    void commit(Edit edit);
    void step(bool forward);
    void take_steps(const Result<Steps>& steps);
    void page_loaded(Page page, Reading reading, std::vector<Correction> corrections, Steps steps, Notebook notebook,
                     int pages);
    void want_reading();
    void pump_reader();
    void take_reading(PageId page, Reading reading, int edition, bool whole);
    void save_reading_now();
    void read_later(const std::vector<PageId>& pages);
    void learn_from(const ReadWord& word);
    void run_task(const QString& label, std::function<void(CancelToken, Progress)> task);

    std::unique_ptr<Library> library_;
    std::filesystem::path models_;
    std::shared_ptr<Reader> reader_;  // used on the reader thread only
    std::unique_ptr<TeachingDesk> teaching_;

    std::optional<Page> page_;
    Notebook notebook_;
    int pages_in_notebook_ = 0;
    Reading reading_;
    std::vector<Correction> corrections_;
    Steps steps_;
    int edition_ = 0;  // of the page in memory; counts edits and openings
    NotebookId open_notebook_ = 0;
    PageId wanted_page_ = 0;

    QTimer read_timer_, save_timer_;
    bool can_read_ = false;
    bool pen_down_ = false;
    std::vector<std::string> languages_;
    bool reading_wanted_ = false, reading_busy_ = false, reading_unsaved_ = false;
    CancelSource read_cancel_;    // of the reading of the open page
    PageId background_page_ = 0;  // being read though it is not open
    CancelSource background_cancel_;
    std::deque<PageId> background_;
    size_t background_total_ = 0;

    bool task_running_ = false;
    CancelSource task_cancel_;
    int newest_query_ = 0;

    std::unique_ptr<JobThread> disk_, reading_thread_, tasks_;
};

}  // namespace fernleaf
