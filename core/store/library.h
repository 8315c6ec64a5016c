// The library on disk: a directory with one SQLite database (WAL), `files/` for originals named by their SHA-256, and
// `lock`, held by the one process that may write.
//
//   auto library = Library::open("notes");
//   PageId page = *(*library)->add_page(notebook, {});
//   Edit edit{"Write", {{stroke}}};
//   (*library)->commit(page, edit);        // on disk when it returns
//
// Safe to call from several threads; calls run one after the other.
#pragma once

#include <atomic>
#include <filesystem>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <unordered_map>
#include <vector>

#include "base/cancel.h"
#include "base/result.h"
#include "capture/other_notebook.h"
#include "capture/pen_record.h"
#include "document/edit.h"
#include "document/errand.h"
#include "document/intake.h"
#include "document/page.h"
#include "document/stamp.h"
#include "document/tag.h"
#include "finding/query.h"
#include "sound/voice_track.h"
#include "store/database.h"
#include "transcript/reading.h"

namespace fernleaf {

struct Row;  // store/records.h

struct Hit {
    PageId page = 0;
    NotebookId notebook = 0;
    std::string notebook_title;
    int page_number = 0;
    std::string line;  // its text
    double certainty = 0;
    std::vector<Box> boxes;  // of the words found, mm
};

// Undo and redo that a page offers now: the labels of the edits, or nothing.
struct UndoState {
    std::optional<std::string> undo;
    std::optional<std::string> redo;
};

// An edit in a page's history.
struct PageMoment {
    int64_t edit = 0;
    std::string label;
    int64_t made_ms = 0;
    friend bool operator==(const PageMoment&, const PageMoment&) = default;
};

struct PageSummary {
    PageInfo info;
    std::string first_line;  // of the reading; empty when nothing was read
    bool blank = true;       // nothing on it
};

// What lies in the bin: a page, a notebook with all its pages, or a voice track.
struct Binned {
    NotebookId notebook = 0;
    PageId page = 0;  // 0: the whole notebook
    std::string title = {};
    int number = 0;    // the page had in its notebook
    size_t pages = 0;  // of a notebook
    std::string first_line = {};
    int64_t when_ms = 0;
    TrackId track = 0;  // neither a page nor a notebook
    friend bool operator==(const Binned&, const Binned&) = default;
};

// A page as it can be put elsewhere, into another library too: what stands on it, ink that type and drawings on it were
// made from, what was said of it, and the names of its tags.
struct PageCopy {
    Page page;
    Elements ink;
    std::vector<Correction> corrections;
    std::vector<std::string> tags;
};

using TemplateId = int64_t;
struct PageTemplate {
    TemplateId id = 0;
    std::string name;
    friend bool operator==(const PageTemplate&, const PageTemplate&) = default;
};

// Tells changes of a page apart; see Library::save_reading.
using ReadMark = int64_t;
constexpr ReadMark kNotWhole = 0, kWholeNow = -1, kUnmarked = -2;
constexpr int kMostTries = 3;

constexpr NotebookId kPersonsWords = 0;

// A line or word whose text is known: a picture 40 px high as the reader sees it, one byte a pixel.
struct KeptExample {
    int width = 0;
    std::string pixels;
    std::string text;
};

// Sheets filed from the tray: each on a page of its own, or side by side on one, as pictures that can be moved.
enum class Filing { apart, on_one_page };

struct FilledPage {
    PageInfo info;
    Elements content;
};

// A notebook of addressed paper. Of one address only one is in use; archived ones have given theirs back.
struct AddressedBook {
    int64_t id = 0;
    uint16_t paper = 0, number = 0;
    NotebookId notebook = 0;
    bool archived = false;
};

// What captured strokes became.
struct KeptCaptures {
    struct OnPage {
        PageId page = 0;
        int64_t book = 0;
        std::vector<Stroke> strokes;  // as they stand there now
        bool new_page = false;
        bool errands = false;  // some were ticked; see open_errands()
        // What earlier and later writing on the page says of whether it is still the same notebook; asked about: from
        // which of the pen's strokes on it would be another.
        OtherNotebook other = OtherNotebook::no;
        uint64_t other_from = 0;
    };
    std::vector<OnPage> pages;
};

// A day on which something was written; days are numbered as by local_day().
struct WrittenDay {
    int64_t day = 0;
    size_t pages = 0, strokes = 0;
    int64_t recorded_ms = 0;  // of sound
};

// What was written on a page on one day.
struct DayPage {
    PageId page = 0;
    NotebookId notebook = 0;
    std::string notebook_title;
    int page_number = 0;
    int64_t first_ms = 0, last_ms = 0;  // of the strokes' starts
    size_t strokes = 0;
    bool by_pen = false;  // some of it was captured
    bool sound = false;   // some was recorded between the first and the last
};

// A tag on a page or, where that is 0, on a notebook and so on all of its pages.
struct TagMark {
    TagId tag = 0;
    PageId page = 0;
    NotebookId notebook = 0;
    friend bool operator==(const TagMark&, const TagMark&) = default;
};

// A page as one can go to it.
struct PagePlace {
    PageId page = 0;
    NotebookId notebook = 0;
    std::string notebook_title;
    int page_number = 0;
    std::string title;  // that it was given, or its first line
    bool favourite = false;
    int64_t written_ms = 0;  // when last
};

// A line with a box to tick before it, or a page on which an errand was ticked (to do, or to be sent).
struct Todo {
    PageId page = 0;
    NotebookId notebook = 0;
    std::string notebook_title;
    int page_number = 0;
    ReadLine line;                      // `ticked` tells whether it is done
    std::optional<Errand> errand = {};  // then the line has no words
};

// An errand that was ticked on a page and not taken care of since.
struct OpenErrand {
    PageId page = 0;
    Errand errand = Errand::send;
    friend bool operator==(const OpenErrand&, const OpenErrand&) = default;
};

// Where a recording goes: a track, and the file its sound is written to.
struct NewRecording {
    TrackId track = 0;
    SoundId sound = 0;
    std::filesystem::path path;
};

// The bytes of a sound file from elsewhere, the ending its name has (".opus"), and how loud it is (sound/loudness.h).
struct NewSound {
    std::string ending, bytes, levels;
};

// When a stroke of a page was begun.
struct WrittenMoment {
    int64_t start_ms = 0;
    PageId page = 0;
    StrokeId stroke = 0;
};

struct DayFilter {
    NotebookId notebook = 0;  // 0: all
    bool by_pen = false;      // captured by a pen
    bool sound = false;       // something was recorded meanwhile
    TagId tag = 0;            // of the page or its notebook; 0: any
};

class Library {
public:
    // Opens a library, making it where there is none. When another process holds it, or the disk allows no writing, it
    // is opened for reading only, and why_read_only tells the reason. Where nothing at all can be made beside it, it is
    // read as it lies there. A library that an earlier release made is brought up to date, which is told as progress
    // and takes seconds for thousands of pages; cancelled, it is an error, and the library stays as it was.
    static Result<std::unique_ptr<Library>> open(const std::filesystem::path& directory, const Progress& progress = {},
                                                 const CancelToken& cancel = {});
    ~Library();
    Library(const Library&) = delete;
    Library& operator=(const Library&) = delete;

    const std::filesystem::path& directory() const { return directory_; }
    std::optional<std::string> why_read_only() const;
    // Whether it is read only because another holds it, and whether that one is gone by now: then begin_writing() takes
    // its place.
    bool could_write_now() const;
    Status begin_writing();

    Result<std::vector<Notebook>> notebooks() const;
    Result<Notebook> notebook(NotebookId id) const;
    Result<NotebookId> add_notebook(const Notebook& notebook);
    Status change_notebook(const Notebook& notebook);
    // When each was last written in, ms since 1970; those in which nothing was are left out.
    Result<std::unordered_map<NotebookId, int64_t>> last_written() const;

    // Its own, and behind them those of other notebooks that it shows, too (info.notebook tells whose they are; number
    // is then their place here).
    Result<std::vector<PageInfo>> pages(NotebookId notebook) const;
    // What stands on each page of a notebook, in order, for its table of contents.
    Result<std::vector<PageSummary>> contents(NotebookId notebook) const;
    // Adds a page at the notebook's end; the info's id, notebook and number are set by the library.
    Result<PageId> add_page(NotebookId notebook, const PageInfo& info);
    Result<Page> load_page(PageId page) const;

    // Sets a page among those of a notebook, its own or another, as number (from 1; beyond the last: at the end). Its
    // undo goes with it. Where a notebook only shows it, it takes another place among those it shows.
    Status move_page(PageId page, NotebookId notebook, int number);
    // A page like it, without its history.
    Result<PageId> copy_page(PageId page, NotebookId notebook, int number);
    Result<PageCopy> take_copy(PageId page) const;
    // The files its pictures name are in the library.
    Result<PageId> add_copy(PageCopy copy, NotebookId notebook, int number);
    // Pages of other notebooks that a notebook shows, too: a sheaf. Gives those that were not shown there before; its
    // own are passed over.
    Result<std::vector<PageId>> show_in(NotebookId sheaf, const std::vector<PageId>& pages);
    Status show_no_more(NotebookId sheaf, const std::vector<PageId>& pages);
    // Pages on which a card leads to this one, in the order of their notebooks; without those in the bin.
    Result<std::vector<PagePlace>> linked_from(PageId page) const;
    Status bin_page(PageId page);
    Status bin_notebook(NotebookId notebook);
    Result<std::vector<Binned>> bin() const;  // the newest first
    // Where it was, as far as that is still there: a page whose notebook is in the bin brings the notebook with it.
    Status restore_page(PageId page);
    Status restore_notebook(NotebookId notebook);
    // For good, what was put into the bin before a moment (ms since 1970). Files that nothing refers to any more go,
    // too.
    Status empty_bin(int64_t binned_before = INT64_MAX);

    // Blocks of text set from any of these strokes that are not on the page now, the newest first: what they said when
    // they went back to ink.
    Result<std::vector<TextBlock>> former_text_blocks(PageId page, const std::vector<StrokeId>& ink) const;
    // Strokes by their ids, on the page or not.
    Result<std::vector<Stroke>> strokes(const std::vector<StrokeId>& ids) const;

    // An id no element has had yet, here or on another device. Never waits: a stroke can have its id before the disk
    // knows it.
    ElementId new_element_id() { return next_element_.fetch_add(1, std::memory_order_relaxed); }

    // Applies the edit on disk and makes it the newest step of undo. Corrections of strokes that others follow hold for
    // those, too. Elements whose id is 0 get one, in the edit too; so do those whose id another element has, which can
    // only be when the lock did not hold: then renewed is set.
    Status commit(PageId page, Edit& edit, bool* renewed = nullptr);
    Result<std::optional<Edit>> undo(PageId page);  // what to apply to the page in memory
    Result<std::optional<Edit>> redo(PageId page);
    Result<UndoState> undo_state(PageId page) const;

    // What was done to a page and is not undone, in order: its history.
    Result<std::vector<PageMoment>> history(PageId page) const;
    // The page as it was after one of these; 0: before all of them.
    Result<Page> page_after(PageId page, int64_t edit) const;

    // Adds pages holding nothing but these elements, in one transaction: what came from outside arrives whole or not at
    // all. New elements get their ids.
    Result<std::vector<PageId>> add_filled_pages(NotebookId notebook, std::vector<FilledPage>& pages);

    // The intake tray, in the person's order.
    Result<std::vector<IntakeEntry>> intake() const;
    // At the end, or after another entry; they get their ids. The files they name are in the library.
    Status add_to_intake(std::vector<IntakeEntry>& entries, IntakeId after = 0);
    // What the person says: the name, and what is done to it.
    Status change_intake(const IntakeEntry& entry);
    // What was found when it was looked at: its treatment, its page's size, its faults, all at once. False when it was
    // looked at before or is not in the tray any more; then nothing is changed.
    Result<bool> suggest_intake(const IntakeEntry& entry);
    // Why an entry could not be looked at; empty: it is to be looked at (again).
    Status fail_intake(IntakeId entry, const std::string& why);
    // The page's size and the faults that go with its treatment; nothing when that is another by now.
    Status judge_intake(const IntakeEntry& entry);
    // Puts the entries in this order; others keep theirs behind them.
    Status order_intake(const std::vector<IntakeId>& order);
    Status discard_intake(const std::vector<IntakeId>& entries);
    // Makes pages of entries at a notebook's end, one each or one of all, and takes them out of the tray, in one
    // transaction.
    Result<std::vector<PageId>> file_intake(const std::vector<IntakeId>& entries, NotebookId notebook,
                                            Filing filing = Filing::apart);

    Result<std::string> add_file(const std::string& bytes);
    Result<std::string> file(const std::string& hash) const;

    // Damaged lines are left out; the page is to be read then.
    Result<Reading> reading(PageId page) const;
    // whole: kWholeNow, when it is a reading of all that was committed so far; a mark that unread_mark() gave, when it
    // is one of what was on the page then (kUnmarked: which was read before); kNotWhole: the page is to be read, though
    // it was read before. outline: lines that are found, but are none of the reading (drawing/drawing_reading.h).
    // Where other formulas stand on it now, later pages that may have used their values are to be read, too.
    Status save_reading(PageId page, const Reading& reading, ReadMark whole = kWholeNow,
                        const std::vector<ReadLine>& outline = {});
    // What the formulas on earlier pages of a page's notebook say, in their order: LaTeX.
    Result<std::vector<std::string>> formulas_before(PageId page) const;
    // Pages of which something is still to be read with what their notebook asks for, those that wait longest first;
    // without those in the bin and those whose reading went wrong.
    Result<std::vector<PageId>> unread() const;
    Result<ReadMark> unread_mark(PageId page) const;
    // To be called before a page is read: false when reading it ended the program kMostTries times, or went wrong; then
    // it is not to be tried by itself before something changes on it. A reading that is saved begins the count anew.
    bool begin_reading(PageId page);
    Status reading_failed(PageId page);
    // All pages (notebook 0) or those of one are to be read anew: with other words, languages, another hand.
    Status read_anew(NotebookId notebook);
    // The next page of the notebook after this one, round to its beginning, that has a word read with less certainty
    // and not corrected; this page itself at last; nothing when there is none.
    Result<std::optional<PageId>> next_unsure(PageId after, double certainty) const;
    Result<std::vector<Correction>> corrections(PageId page) const;
    // Pages on which a person corrected something of a kind, those of the last corrections first; not those in the bin.
    Result<std::vector<PageId>> pages_corrected(InkClass kind, size_t limit) const;

    // Own words of a notebook, or of the person (kPersonsWords): what the reader is to know besides its languages.
    Result<std::vector<std::string>> words(NotebookId notebook) const;
    Status set_words(NotebookId notebook, const std::vector<std::string>& words);
    Status add_word(NotebookId notebook, const std::string& word);

    Result<std::vector<HandInfo>> hands() const;
    Result<HandId> add_hand(const std::string& name);
    Status rename_hand(HandId hand, const std::string& name);
    Status add_examples(HandId hand, const std::vector<KeptExample>& examples);
    Result<std::vector<KeptExample>> examples(HandId hand) const;
    // What the reader has learnt: its bytes, from how many examples, and how well it reads. Empty bytes: nothing.
    Status save_hand(const HandInfo& hand, const std::string& taught);
    Result<std::string> taught_hand(HandId hand) const;
    // Forgets what was learnt and the examples, too.
    Status reset_hand(HandId hand);

    // Pens that are paired, by name.
    Result<std::vector<PenRecord>> pens() const;
    // Of a pen that was never seen: all but its serial empty.
    Result<PenRecord> pen(const std::string& serial) const;
    Status remember_pen(const PenRecord& pen);  // all but what is kept
    // It must be paired again; its strokes stay, and what was kept of them is still known.
    Status forget_pen(const std::string& serial);
    // The pen was reset: what it captured before stays, and it counts from 1 again.
    Status begin_pen_anew(const std::string& serial, uint64_t memory);
    // Puts strokes that follow what is kept of the pen on the pages of their addresses; notebooks and pages are made
    // for addresses that are new, and for those whose page is in the bin. No step of undo. Those that are kept already
    // are passed over; a gap is an error.
    Result<KeptCaptures> keep_captures(const std::string& serial, const std::vector<CapturedStroke>& strokes);
    Result<std::vector<AddressedBook>> addressed_books() const;
    // Of a page of addressed paper whose notebook is in use; else nothing.
    Result<std::optional<PageAddress>> address_of(PageId page) const;
    // What the pen wrote on this one from a stroke on belongs to another notebook: that is made, and the strokes are
    // moved to it. Gives the new one.
    Result<AddressedBook> part_book(int64_t book, const std::string& serial, uint64_t from);
    // Takes that back: the later one's strokes are the earlier one's again, and its notebook goes into the bin.
    Status join_books(int64_t earlier, int64_t later);

    // The days on which something was written that is not in the bin, the newest first.
    Result<std::vector<WrittenDay>> days(const DayFilter& filter = {}) const;
    // The pages written on that day, those written last first.
    Result<std::vector<DayPage>> written_on(int64_t day, const DayFilter& filter = {}) const;

    // Voice tracks that are not in the bin, the newest first.
    Result<std::vector<VoiceTrack>> tracks() const;
    Result<VoiceTrack> track(TrackId track) const;
    Result<NewRecording> begin_recording(const std::string& name);
    // What a recording holds so far; one that holds nothing goes when its end is told.
    Status keep_recording(const NewRecording& recording, const std::vector<TrackPiece>& pieces,
                          const std::string& levels, bool ended);
    // A sound from elsewhere, copied, as a track that began then.
    Result<TrackId> add_track(const std::string& name, const std::filesystem::path& sound, const std::string& levels,
                              int64_t length_ms, int64_t began_ms);
    // As it was in another library: its pieces name sounds by their place among those given.
    Result<TrackId> add_track(VoiceTrack track, const std::vector<NewSound>& sounds);
    // Its name, pieces and bookmarks.
    Status change_track(const VoiceTrack& track);
    // Joins two into the first, in one transaction; the other goes into the bin.
    Status join_tracks(TrackId one, TrackId other);
    Status bin_track(TrackId track);
    Status restore_track(TrackId track);
    // The strokes that stand on pages now and were begun between two times, in that order; without those in the bin.
    Result<std::vector<WrittenMoment>> written_between(int64_t from_ms, int64_t to_ms) const;
    // Where a sound lies. The file may be gone.
    Result<std::filesystem::path> sound_file(SoundId sound) const;
    Result<std::string> sound_levels(SoundId sound) const;  // sound/loudness.h

    // Kept pieces, the newest first.
    Result<std::vector<Stamp>> stamps() const;
    Result<StampId> add_stamp(const Stamp& stamp);
    Status rename_stamp(StampId stamp, const std::string& name);
    Status remove_stamp(StampId stamp);

    // Pages to begin others with, by name.
    Result<std::vector<PageTemplate>> templates() const;
    // Of what stands on a page now, without its title and its times. Where there is one of the name it takes its place.
    Result<TemplateId> keep_template(const std::string& name, PageId page);
    Result<PageCopy> template_page(TemplateId id) const;
    Status rename_template(TemplateId id, const std::string& name);
    Status remove_template(TemplateId id);

    // Searches that were kept, the last first.
    Result<std::vector<std::string>> kept_searches() const;
    Status keep_search(const std::string& query, bool keep);

    // Tags by name, also those that nothing has now.
    Result<std::vector<Tag>> tags() const;
    Result<std::vector<Tag>> tags_of(PageId page) const;  // without those of its notebook
    Result<std::vector<Tag>> tags_of_notebook(NotebookId notebook) const;
    // Made where there is none of the name, whatever its case and accents.
    Result<std::vector<TagId>> tags_named(const std::vector<std::string>& names);
    // Gives those marks that were not so before: setting them the other way takes it back.
    Result<std::vector<TagMark>> set_tags(const std::vector<TagMark>& marks, bool on);
    // Where another tag has the name, the two become that one, which is given.
    Result<TagId> rename_tag(TagId tag, const std::string& name);
    Status colour_tag(TagId tag, uint32_t colour);
    Status remove_tag(TagId tag);  // from everything

    // In the person's order among those of one folder.
    Result<std::vector<Folder>> folders() const;
    Result<FolderId> add_folder(const std::string& title, FolderId parent);
    Status rename_folder(FolderId folder, const std::string& title);
    // Among those of its parent, counted from 0. A folder within itself, and too many within one another, are errors.
    Status place_folder(FolderId folder, FolderId parent, size_t place);
    Status remove_folder(FolderId folder);  // what is in it goes to where it was
    Status place_notebook(NotebookId notebook, FolderId folder, size_t place);
    // An archived notebook can't be changed, and gives its pages' addresses back: what a pen writes there next begins
    // another. Taken out, it has them again unless another has them by now.
    Status archive_notebook(NotebookId notebook, bool archived);
    Status favour_notebook(NotebookId notebook, bool favourite);
    Status favour_page(PageId page, bool favourite);
    Status name_page(PageId page, const std::string& title);  // empty: by its first line

    // All pages, in the order of notebooks and pages.
    Result<std::vector<PagePlace>> places() const;
    // Those of pages that are not in the bin, in the order they were noticed.
    Result<std::vector<OpenErrand>> open_errands() const;
    // A line of a page that was changed and is to be read anew: its box is ticked, or no more.
    Status note_ticked(PageId page, const ReadLine& line, bool ticked);
    Status set_errand_done(const OpenErrand& errand, bool done);
    // In the same order; those that are ticked, only where asked for.
    Result<std::vector<Todo>> todos(bool done_too) const;

    // What to read a notebook's pages with.
    Result<Preferences> preferences(NotebookId notebook) const;

    // Hits by certainty, best first. Words that differ by a letter or two are found, too, ranked lower, where few are
    // found else. A page of which only what is known of it was asked for is a hit without boxes.
    Result<std::vector<Hit>> find(const Query& query, size_t limit = 200) const;

    // What is wrong with the library, one finding a line; empty when all is well. Pages still to be read are not wrong.
    Result<std::vector<std::string>> check(const CancelToken& cancel = {}) const;
    // Saves what can be saved: a new database takes all sound rows of the old one, which stays beside it under the name
    // given back; pages that lost a reading are to be read.
    static Result<std::string> repair(const std::filesystem::path& directory);

private:
    Library() = default;
    Status take_lock();
    Status open_database(Database::Mode mode, const Progress& progress, const CancelToken& cancel);
    Status migrate(const Progress& progress, const CancelToken& cancel);
    void take_device();
    void raise_ids();
    void rebuild_index();
    void mark_unread(PageId page);
    void mark_all_unread(NotebookId notebook);
    // Of its pages with formulas, those behind a number.
    void mark_formulas_unread(NotebookId notebook, int behind);
    std::vector<std::string> formulas_of(PageId page) const;
    void formulas_changed(PageId page);
    void save_from(Database& old);
    void drop_damaged();
    void save_named_files();
    void rebuild_file_refs();
    std::unordered_map<ElementId, ElementId> other_ids(PageId page, const Elements& elements);
    std::vector<Correction> load_corrections(PageId page, size_t* damaged = nullptr) const;  // which it adds to
    int64_t insert_correction(PageId page, const Correction& correction);
    PageId insert_page(NotebookId notebook, const PageInfo& info);
    NotebookId insert_notebook(const Notebook& notebook);
    AddressedBook book_in_use(uint16_t paper, uint16_t number);
    AddressedBook insert_book(uint16_t paper, uint16_t number);
    PageId addressed_page(const AddressedBook& book, int number, int64_t written_ms, bool& made);
    void judge_page(const std::string& serial, int number, KeptCaptures::OnPage& page) const;
    void move_captures(const AddressedBook& from, const AddressedBook& to, const std::string& serial, uint64_t first);
    Result<VoiceTrack> track_locked(TrackId track) const;
    std::vector<VoiceTrack> tracks_locked() const;
    std::string first_line_of(PageId page) const;
    void keep_first_line(PageId page, const Reading& reading);
    std::vector<PageId> filtered(const PageFilter& filter) const;
    TagId insert_tag(const std::string& name);
    std::optional<size_t> depth_of(FolderId folder) const;
    void set_place(const char* table, const char* folder_column, int64_t id, FolderId folder, size_t place);
    Status changeable(PageId page) const;
    Status notebook_changeable(NotebookId notebook) const;
    NewRecording insert_sound(const std::string& name, const std::string& file);
    void write_track(const VoiceTrack& track);
    // Those put into the bin before; gives the names of files that nothing needs any more.
    std::vector<std::string> forget_tracks(int64_t binned_before);
    void insert_elements(PageId page, Elements& elements);
    // By day; strokes that stand in the place of others were written when those were.
    void count_written(PageId page, const std::vector<Stroke>& strokes, const std::vector<Stroke>& instead_of = {},
                       const std::string& pen = {});
    // Makes room for the page at a number among the others; renumber() closes the gaps then.
    void set_number(PageId page, NotebookId notebook, int number);
    void renumber(NotebookId notebook);
    bool place_in_sheaf(PageId page, NotebookId sheaf, int number);
    void put_page_away(PageId page, bool away);
    void insert_overflow(PageId page, PageOverflow& overflow);
    Result<Page> load_page_locked(PageId page) const;
    Elements listed_elements(const std::vector<ElementId>& ids) const;
    void set_live(const Elements& elements, bool live);
    Result<std::optional<Edit>> step(PageId page, bool forward);

    std::filesystem::path directory_;
    mutable std::mutex state_mutex_;  // for the next two
    std::optional<std::string> why_read_only_;
    bool held_by_another_ = false;
    std::vector<int> locks_;  // descriptors
    std::unique_ptr<Database> db_;
    std::atomic<ElementId> next_element_ = 1;
    int64_t device_ = 0;  // its number: the upper bits of the ids it gives
    ReadMark next_mark_ = 1;
    mutable std::mutex mutex_;
};

}  // namespace fernleaf
