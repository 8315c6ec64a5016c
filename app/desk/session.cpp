#include "desk/session.h"

#include <QCoreApplication>
#include <QEventLoop>
#include <QFileInfo>
#include <QSettings>
#include <algorithm>
#include <future>

#include "base/file.h"
#include "base/text.h"
#include "desk/text_of.h"
#include "document/text/rewording.h"
#include "exchange/import.h"
#include "ink/grouping.h"
#include "look/counted.h"
#include "paper/examples.h"
#include "paper/lifted_ink.h"
#include "paper/page_reading.h"
#include "paper/upright.h"
#include "reading/ink_reading.h"
#include "render/export.h"
#include "render/text_look.h"

namespace fernleaf {
namespace {

constexpr int kReadAfterMs = 40;  // strokes that follow one another at once are read together
constexpr int kSaveAfterMs = 500;
constexpr char kUnreadable = '?';
constexpr int kRetryMs = 3000;        // to save what did not fit on the disk
constexpr int kLookForLockMs = 3000;  // whether another window still holds the library
constexpr int kPicturePx = 3000;      // pictures on screen are kept no larger

// Of the step of undo.
const char* label_of(InkClass kind) {
    switch (kind) {
        case InkClass::text:
            return "This is text";
        case InkClass::drawing:
            return "This is a drawing";
        case InkClass::math:
            return "This is math";
        case InkClass::one_line:
            return "This is one line";
    }
    return "";
}

// The words in a corrected text that nothing lists, without the punctuation about them.
std::vector<std::string> new_terms(const std::string& text, const std::function<bool(const std::string&)>& known) {
    std::vector<std::string> out;
    std::u32string word;
    const auto finish = [&] {
        while (!word.empty() && word.back() == U'\'') word.pop_back();
        const std::string term = encode_utf8(word);
        if (word.size() > 1 && !known(term)) out.push_back(term);
        word.clear();
    };
    for (const char32_t c : decode_utf8(text)) {
        if (is_letter(c) || is_mark(c) || (c == U'\'' && !word.empty()))
            word.push_back(c);
        else
            finish();
    }
    finish();
    return out;
}

}  // namespace

Session::Session(std::unique_ptr<Library> library, std::filesystem::path models, QObject* parent)
    : QObject(parent),
      library_(std::move(library)),
      models_(std::move(models)),
      teaching_(std::make_unique<TeachingDesk>(*library_)),
      intake_(std::make_unique<IntakeDesk>(*library_)),
      disk_(std::make_unique<JobThread>(thread_failure())),
      reading_thread_(std::make_unique<JobThread>(thread_failure(), JobThread::Haste::patient)),
      tasks_(std::make_unique<JobThread>(thread_failure())) {
    read_timer_.setSingleShot(true);
    read_timer_.setInterval(kReadAfterMs);
    connect(&read_timer_, &QTimer::timeout, this, &Session::pump_reader);
    save_timer_.setSingleShot(true);
    save_timer_.setInterval(kSaveAfterMs);
    connect(&save_timer_, &QTimer::timeout, this, &Session::save_reading_now);
    retry_timer_.setSingleShot(true);
    retry_timer_.setInterval(kRetryMs);
    connect(&retry_timer_, &QTimer::timeout, this, &Session::save_again);
    lock_timer_.setInterval(kLookForLockMs);
    connect(&lock_timer_, &QTimer::timeout, this, &Session::offer_writing);
    if (read_only()) lock_timer_.start();
    mode_ = static_cast<ReadingMode>(std::clamp(QSettings().value("reading_mode", 0).toInt(), 0, 2));
    intake_->tell_upright_by([this](const cv::Mat& page) { return upright(page, open_notebook_); });
    connect(intake_.get(), &IntakeDesk::filed, this, [this](const std::vector<PageId>& pages) {
        read_later(pages);
        refresh_notebooks();
    });
    connect(teaching_.get(), &TeachingDesk::problem, this, &Session::problem);
    connect(teaching_.get(), &TeachingDesk::notice, this, &Session::notice);
    connect(teaching_.get(), &TeachingDesk::reading_outdated, this, &Session::read_all_anew);
    connect(teaching_.get(), &TeachingDesk::progressed, this, [this](double part) {
        if (!task_running_) emit task_changed(part < 1 ? tr("Learning your hand") : QString(), part);
    });
    reading_busy_ = true;
    reading_thread_->post([this] {
        auto reader = Reader::load(models_);
        QString reason;
        if (reader)
            reader_ = *std::move(reader);
        else
            reason = text_of(reader.error());
        QString no_print;
        if (auto print = PrintSkills::load(models_))
            print_ = *std::move(print);
        else
            no_print = text_of(print.error());
        QMetaObject::invokeMethod(
            this,
            [this, reason, no_print] {
                reading_busy_ = false;
                can_read_ = reason.isEmpty();
                teaching_->set_reader(reader_);
                if (reader_) languages_ = reader_->languages();
                if (!can_read_)
                    emit problem(
                        tr("Handwriting can't be read. %1 Writing and searching what was read before still work.")
                            .arg(reason));
                else if (!no_print.isEmpty())
                    emit problem(tr("%1 Print in pictures is read as handwriting.").arg(no_print));
                read_what_is_left();
                pump_reader();
            },
            Qt::QueuedConnection);
    });
}

// What a job threw that nobody waits for.
std::function<void(const Error&)> Session::thread_failure() {
    return [this](const Error& error) {
        QMetaObject::invokeMethod(
            this, [this, error] { emit problem(text_of(error)); }, Qt::QueuedConnection);
    };
}

Session::~Session() {
    save_reading_now();
    background_.clear();
    background_cancel_.cancel();
    read_cancel_.cancel();
    task_cancel_.cancel();
    teaching_.reset();
    intake_.reset();  // these two ask the reader's thread
    tasks_.reset();
    reading_thread_.reset();
    disk_.reset();
}

// From any thread but the reader's: waits for it, which reads there, in the notebook's languages.
int Session::upright(const cv::Mat& page, NotebookId notebook) {
    std::promise<int> turns;
    std::future<int> answer = turns.get_future();
    reading_thread_->post([this, &page, &turns, notebook] {
        const auto found = guarded([&]() -> Result<int> {
            const auto known = library_->preferences(notebook);
            const Preferences preferences = known ? *known : Preferences{};
            return reader_ ? upright_turns(page, *reader_, reader_->prepared(preferences)) : 0;
        });
        turns.set_value(found ? *found : 0);  // as it came
    });
    return answer.get();
}

const ReadWord* Session::word(WordPlace place) const {
    if (!place.valid() || place.line >= static_cast<int>(reading_->lines.size())) return nullptr;
    const auto& words = reading_->lines[static_cast<size_t>(place.line)].words;
    return place.word < static_cast<int>(words.size()) ? &words[static_cast<size_t>(place.word)] : nullptr;
}

void Session::refresh_notebooks() {
    on_disk(
        [this, open = open_notebook_.load()]() -> Result<std::vector<NotebookSummary>> {
            const auto notebooks = library_->notebooks();
            if (!notebooks) return notebooks.error();
            std::vector<NotebookSummary> out;
            for (const Notebook& n : *notebooks) {
                NotebookSummary summary{n, 0, {}};
                if (n.id == open) {
                    auto contents = library_->contents(n.id);
                    if (!contents) return contents.error();
                    summary.contents = *std::move(contents);
                    summary.pages = summary.contents.size();
                } else {
                    const auto pages = library_->pages(n.id);
                    if (!pages) return pages.error();
                    summary.pages = pages->size();
                }
                out.push_back(std::move(summary));
            }
            return out;
        },
        [this](const Result<std::vector<NotebookSummary>>& notebooks) {
            if (!notebooks) return emit problem(text_of(notebooks.error()));
            emit notebooks_changed(*notebooks);
        });
}

void Session::open_notebook(NotebookId notebook) {
    open_notebook_ = notebook;
    on_disk([this, notebook] { return library_->pages(notebook); },
            [this](const Result<std::vector<PageInfo>>& pages) {
                if (!pages) return emit problem(text_of(pages.error()));
                if (!pages->empty()) open_page(pages->front().id);
                refresh_notebooks();
            });
}

void Session::open_where_left(PageId page, NotebookId otherwise) {
    on_disk([this, page]() -> Result<bool> { return page != 0 && library_->load_page(page); },
            [this, page, otherwise](const Result<bool>& there) {
                if (there && *there)
                    open_page(page);
                else
                    open_notebook(otherwise);
            });
}

void Session::open_page(PageId id) {
    if (page_) emit page_leaving();
    save_reading_now();
    read_cancel_.cancel();
    // What is not read of the page that is left is read when nobody looks.
    if (page_ && page_->info.id != id && !reading_is_whole()) read_later({page_->info.id});
    wanted_page_ = id;
    struct Loaded {
        Page page;
        std::shared_ptr<Page> mirror;
        Reading reading;
        std::vector<Correction> corrections;
        UndoState steps;
        Notebook notebook;
        int pages = 0;
    };
    on_disk(
        [this, id]() -> Result<Loaded> {
            auto page = library_->load_page(id);
            if (!page) return page.error();
            auto reading = library_->reading(id);
            if (!reading) return reading.error();
            auto corrections = library_->corrections(id);
            if (!corrections) return corrections.error();
            const auto steps = library_->undo_state(id);
            if (!steps) return steps.error();
            auto notebook = library_->notebook(page->info.notebook);
            if (!notebook) return notebook.error();
            const auto pages = library_->pages(page->info.notebook);
            if (!pages) return pages.error();
            auto mirror = std::make_shared<Page>(*page);
            return Loaded{*std::move(page),
                          std::move(mirror),
                          *std::move(reading),
                          *std::move(corrections),
                          *steps,
                          *std::move(notebook),
                          static_cast<int>(pages->size())};
        },
        [this, id, edition = edition_](Result<Loaded>& loaded) {
            if (!loaded) return emit problem(text_of(loaded.error()));
            if (id != wanted_page_) return;
            if (page_) emit page_leaving();  // what was begun meanwhile ends on the page it was begun on
            // Written on while it was being loaded: what was loaded is not all of it.
            if (page_ && page_->info.id == id && edition != edition_) return open_page(id);
            page_loaded(std::move(loaded->page), std::move(loaded->mirror), std::move(loaded->reading),
                        std::move(loaded->corrections), loaded->steps, loaded->notebook, loaded->pages);
        });
}

void Session::page_loaded(Page page, std::shared_ptr<Page> mirror, Reading reading, std::vector<Correction> corrections,
                          UndoState steps, Notebook notebook, int pages) {
    save_reading_now();     // of the page that is left, if one came after it was asked to be
    read_cancel_.cancel();  // whatever is still being read was another page
    const bool other_notebook = open_notebook_ != notebook.id;
    page_ = std::move(page);
    mirror_ = std::move(mirror);
    for (const Unsaved& waiting : unsaved_)
        if (waiting.page == page_->info.id) {
            apply(*page_, waiting.edit);
            this->mirror(waiting.edit);
        }
    reading_ = CopyOnWrite(std::move(reading));
    corrections_ = std::move(corrections);
    for (const Unsaved& waiting : unsaved_)
        if (waiting.page == page_->info.id)
            corrections_.insert(corrections_.end(), waiting.edit.corrections_added.begin(),
                                waiting.edit.corrections_added.end());
    corrections_removed_.clear();
    undo_state_ = std::move(steps);
    notebook_ = std::move(notebook);
    open_notebook_ = notebook_.id;
    pages_in_notebook_ = pages;
    ++edition_;
    read_edition_ = -1;
    reading_begun_ = page_->pictures.empty();
    std::erase(background_, page_->info.id);
    emit page_opened();
    emit undo_state_changed();
    load_pictures_again();
    if (other_notebook) refresh_notebooks();
    if (page_->damaged > 0)
        emit problem(
            tr("Damaged and left out of this page: %1. The rest is safe. To repair the library, close Fernleaf and run "
               "“fernleaf-cli check --repair --library %2”. It keeps a copy of the damaged library.")
                .arg(counted(static_cast<qsizetype>(page_->damaged), tr("item"), tr("items")),
                     QString::fromStdString(library_->directory().string())));
    want_reading();
}

void Session::mirror(const Edit& edit) {
    reading_thread_->post([page = mirror_, edit] { apply(*page, edit); });
}

void Session::load_pictures_again() {
    if (page_->pictures.empty() && page_->info.paper != Paper::picture) return;
    Page copy;  // without its ink
    copy.info = page_->info;
    copy.pictures = page_->pictures;
    tasks_->post([this, copy = std::move(copy)] {
        auto images = std::make_shared<const PictureImages>(load_pictures(
            copy, [this](const std::string& hash) { return library_->file(hash); }, kPicturePx));
        QMetaObject::invokeMethod(
            this,
            [this, id = copy.info.id, images = std::move(images)] {
                if (page_ && page_->info.id == id) emit pictures_ready(images);
            },
            Qt::QueuedConnection);
    });
}

void Session::open_neighbour(int offset) {
    if (!page_) return;
    on_disk([this, notebook = page_->info.notebook] { return library_->pages(notebook); },
            [this, offset, id = page_->info.id](const Result<std::vector<PageInfo>>& pages) {
                if (!pages) return emit problem(text_of(pages.error()));
                const auto here = std::ranges::find(*pages, id, &PageInfo::id);
                const auto there = here - pages->begin() + offset;
                if (here != pages->end() && there >= 0 && there < static_cast<std::ptrdiff_t>(pages->size()))
                    open_page((*pages)[static_cast<size_t>(there)].id);
            });
}

void Session::commit(Edit edit) {
    if (!page_) return;
    // What could never be kept is not shown either; all else that fails later is the disk's doing, and is tried again.
    if (const auto why = validation_error(edit.added)) return emit problem(QString::fromStdString(*why));
    apply(*page_, edit);
    mirror(edit);
    ++edition_;
    take_corrections(edit);
    emit page_edited(edit);
    undo_state_ = {edit.label, {}};
    emit undo_state_changed();
    if (!edit.added.pictures.empty() || edit.sheet) load_pictures_again();
    const PageId page = page_->info.id;
    // What waits for room on the disk goes first.
    if (unsaved_.empty())
        save(page, std::move(edit));
    else
        unsaved_.push_back({page, std::move(edit)});
    want_reading();
}

void Session::take_corrections(const Edit& edit) {
    if (edit.corrections_added.empty() && edit.corrections_removed.empty()) return;
    for (const Correction& gone : edit.corrections_removed)
        if (const auto found = std::ranges::find(corrections_, gone); found != corrections_.end())
            corrections_.erase(found);
    corrections_.insert(corrections_.end(), edit.corrections_added.begin(), edit.corrections_added.end());
    corrections_removed_.insert(corrections_removed_.end(), edit.corrections_removed.begin(),
                                edit.corrections_removed.end());
    if (!edit.corrections_removed.empty()) forget(reading_.change(), edit.corrections_removed);
    if (!edit.corrections_added.empty()) apply_corrections(reading_.change(), edit.corrections_added);
    reading_unsaved_ = true;
    save_timer_.start();
    emit reading_changed();
}

void Session::save(PageId page, Edit edit) {
    disk_->post([this, page, edit = std::move(edit)]() mutable {
        auto done = std::make_shared<Saved>(Saved{std::move(edit)});
        // Nothing overtakes a change that could not be saved.
        done->status = commits_blocked_ ? Status(Error{"The change before it is not saved yet.", true})
                                        : guarded([&] { return library_->commit(page, done->edit, &done->renewed); });
        commits_blocked_ = !done->status && done->status.error().passing;
        QMetaObject::invokeMethod(
            this, [this, page, done = std::move(done)] { saved(page, *done); }, Qt::QueuedConnection);
    });
}

void Session::saved(PageId page, const Saved& done) {
    const auto& [edit, status, renewed] = done;
    if (!status && !status.error().passing) return take_back(page, edit, status.error());
    if (!status) {
        if (unsaved_.empty())
            emit saving_waits(tr("The last changes are not saved yet. %1 They stay on the page and will be saved as "
                                 "soon as possible.")
                                  .arg(text_of(status.error())));
        // Those that were on their way to the disk come back one by one, in order.
        unsaved_.push_back({page, edit});
        retry_timer_.start();
        return;
    }
    if (renewed && page_ && page_->info.id == page) open_page(page);
    if (edit.overflow) page_overflowed(page, *edit.overflow);
}

// A change that can never be kept is not shown as if it were; what came before and after it stays.
void Session::take_back(PageId page, const Edit& edit, const Error& why) {
    if (page_ && page_->info.id == page) {
        const Edit back = edit.reversed();
        apply(*page_, back);
        mirror(back);
        ++edition_;
        take_corrections(back);
        emit page_edited(back);
        on_disk([this, page] { return library_->undo_state(page); },
                [this, page](const Result<UndoState>& steps) {
                    if (!steps || !page_ || page_->info.id != page) return;
                    undo_state_ = *steps;
                    emit undo_state_changed();
                });
        want_reading();
    }
    emit problem(tr("The last change could not be saved and was undone. %1").arg(text_of(why)));
}

void Session::page_overflowed(PageId from, const PageOverflow& overflow) {
    if (page_ && page_->info.id == from) ++pages_in_notebook_;
    emit notice(tr("What no longer fits stands on the next page."));
    emit undo_state_changed();
    refresh_notebooks();
    read_later({overflow.page});
}

void Session::save_again() {
    if (unsaved_.empty()) {
        if (reading_unsaved_) save_reading_now();
        return read_later(std::exchange(read_again_, {}));
    }
    disk_->post([this, waiting = unsaved_.front(), last = unsaved_.size() == 1]() mutable {
        auto done = std::make_shared<Saved>(Saved{std::move(waiting.edit)});
        done->status = guarded([&] { return library_->commit(waiting.page, done->edit, &done->renewed); });
        const bool over = done->status || !done->status.error().passing;
        if (over && last) commits_blocked_ = false;
        QMetaObject::invokeMethod(
            this,
            [this, page = waiting.page, done = std::move(done), over] {
                if (!over) return retry_timer_.start();
                unsaved_.pop_front();
                saved(page, *done);
                if (!unsaved_.empty()) return save_again();
                emit saving_waits({});
                if (done->status) emit notice(tr("All changes are saved."));
                if (reading_unsaved_) save_timer_.start();
                read_later(std::exchange(read_again_, {}));
            },
            Qt::QueuedConnection);
    });
}

// Another window held the library: once it is gone, this one may take its place.
void Session::offer_writing() {
    lock_timer_.stop();
    if (!read_only()) return;
    on_disk([this]() -> Result<bool> { return library_->could_write_now(); },
            [this](const Result<bool>& free) {
                if (!free || !*free) return lock_timer_.start();
                emit offer(tr("The other window is closed. You can make changes here now."), tr("Allow changes"),
                           [this] { begin_writing(); });
            });
}

void Session::begin_writing() {
    on_disk([this] { return library_->begin_writing(); },
            [this](const Status& status) {
                if (!status) {
                    emit problem(text_of(status.error()));
                    return lock_timer_.start();
                }
                if (page_) open_page(page_->info.id);
                refresh_notebooks();
                intake_->refresh();
                read_what_is_left();
            });
}

bool Session::may_change() {
    if (read_only()) emit problem(QString::fromStdString(*library_->why_read_only()));
    return !read_only();
}

StrokeId Session::write(Stroke stroke) {
    if (!page_ || stroke.points.empty() || !may_change()) return 0;
    const StrokeId id = stroke.id = library_->new_element_id();
    commit({"Write", {{std::move(stroke)}}});
    return id;
}

void Session::change(Edit edit) {
    if (!page_ || !may_change()) return;
    const auto replacements = replaced_corrections(corrections_, edit.replacements, edit.added.strokes);
    corrections_.insert(corrections_.end(), replacements.begin(), replacements.end());
    commit(std::move(edit));
}

void Session::change_and_tell(Edit edit, const QString& did) {
    const int before = edition_;
    change(std::move(edit));
    if (edition_ == before) return;
    emit undoable(did, [this, made = edition_] {
        if (edition_ == made)
            undo();
        else
            emit notice(tr("Other changes were made after it; undo takes them back one by one."));
    });
}

void Session::clear_page() {
    if (page_ && !page_->strokes.empty()) change({"Clear the page", {}, {page_->strokes}});
}

void Session::set_pen_down(bool down) {
    pen_down_ = down;
    if (down && background_page_ != 0) background_cancel_.cancel();
    if (!down) pump_reader();
}

void Session::undo() { step(false); }
void Session::redo() { step(true); }

void Session::step(bool forward) {
    if (!page_) return;
    if (!unsaved_.empty())
        return emit problem(tr("Nothing can be taken back before the last changes are saved. Make room on the disk."));
    struct Stepped {
        std::optional<Edit> edit;
        UndoState steps;
    };
    on_disk(
        [this, id = page_->info.id, forward]() -> Result<Stepped> {
            auto edit = forward ? library_->redo(id) : library_->undo(id);
            if (!edit) return edit.error();
            const auto steps = library_->undo_state(id);
            if (!steps) return steps.error();
            return Stepped{*std::move(edit), *steps};
        },
        [this, id = page_->info.id](Result<Stepped>& stepped) {
            if (!stepped) return emit problem(text_of(stepped.error()));
            if (!page_ || page_->info.id != id || !stepped->edit) return;
            apply(*page_, *stepped->edit);
            mirror(*stepped->edit);
            ++edition_;
            take_corrections(*stepped->edit);
            undo_state_ = stepped->steps;
            if (!stepped->edit->added.pictures.empty() || stepped->edit->sheet) load_pictures_again();
            emit page_edited(*stepped->edit);
            emit undo_state_changed();
            if (stepped->edit->overflow) open_page(id);  // how many pages there are has changed
            want_reading();
        });
}

void Session::correct(WordPlace place, const QString& text) {
    const ReadWord* word = this->word(place);
    const QString tidy = text.simplified();
    if (!word || tidy.isEmpty()) return;
    if (!may_change()) return;
    if (word->block != 0) return retype(*word, tidy.toStdString());
    keep_corrections("Correct", {{word->strokes, word->box, tidy.toStdString()}});
    learn_from(*this->word(place));
}

// A step of undo like any other; the reading shows it at once.
void Session::keep_corrections(const char* label, std::vector<Correction> corrections) {
    Edit edit{label};
    edit.corrections_added = std::move(corrections);
    change(std::move(edit));
}

void Session::open_next_unsure() {
    if (!page_) return;
    save_reading_now();
    on_disk([this, id = page_->info.id] { return library_->next_unsure(id, kSureEnough); },
            [this](const Result<std::optional<PageId>>& page) {
                if (!page) return emit problem(text_of(page.error()));
                const PageId next = page->value_or(0);
                if (next == 0) emit notice(tr("Nothing is left to check in this notebook."));
                if (next != 0 && page_ && next != page_->info.id) open_page(next);
                emit next_unsure_page(next);
            });
}

bool Session::can_join(WordPlace place) const {
    const ReadWord* next = word({place.line, place.word + 1});
    return word(place) && next && !word(place)->strokes.empty() && !next->strokes.empty();
}

void Session::join_with_next(WordPlace place) {
    if (!can_join(place) || !may_change()) return;
    const ReadWord &first = *word(place), &next = *word({place.line, place.word + 1});
    Correction whole{first.strokes, first.box, first.text + next.text};
    whole.strokes.insert(whole.strokes.end(), next.strokes.begin(), next.strokes.end());
    whole.box.include(next.box);
    keep_corrections("Join words", {whole});
}

bool Session::can_split(WordPlace place) const { return word(place) && word(place)->strokes.size() > 1; }

void Session::split_word(WordPlace place) {
    if (!can_split(place) || !may_change() || !can_read_) return;
    const ReadWord whole = *word(place);
    std::vector<Stroke> ink;
    for (const Stroke& s : page_->strokes)
        if (std::ranges::find(whole.strokes, s.id) != whole.strokes.end()) ink.push_back(s);
    auto [left, right] = split_at_widest_gap(std::move(ink));
    if (left.empty() || right.empty()) return;
    reading_thread_->post(
        [this, left = std::move(left), right = std::move(right), page = page_->info.id, notebook = notebook_.id] {
            const auto preferences = library_->preferences(notebook);
            const ReadSettings settings = reader_->prepared(preferences ? *preferences : Preferences{});
            std::vector<Correction> corrections;
            for (const std::vector<Stroke>& part : {left, right}) {
                Correction correction;
                for (const ReadLine& line : read_ink(part, *reader_, settings, {}))
                    for (const ReadWord& w : line.words) correction.text += w.text;
                for (const Stroke& s : part) {
                    correction.strokes.push_back(s.id);
                    correction.box.include(s.box().grown(s.pen.width_mm / 2));
                }
                if (correction.text.empty()) correction.text.push_back(kUnreadable);
                corrections.push_back(std::move(correction));
            }
            QMetaObject::invokeMethod(
                this,
                [this, page, corrections = std::move(corrections)] {
                    if (!page_ || page_->info.id != page) return;
                    keep_corrections("Split a word", corrections);
                },
                Qt::QueuedConnection);
        });
}

void Session::say_kind(const std::vector<StrokeId>& strokes, InkClass kind) {
    if (!page_ || strokes.empty() || !may_change()) return;
    Correction corrections{strokes, {}, "", kind};
    for (const Stroke& s : page_->strokes)
        if (std::ranges::find(strokes, s.id) != strokes.end()) corrections.box.include(s.box());
    keep_corrections(label_of(kind), {corrections});
    asked_ = true;
}

// A typed word is changed where it stands.
void Session::retype(const ReadWord& word, const std::string& text) {
    const auto found = std::ranges::find(page_->texts, word.block, &TextBlock::id);
    if (found == page_->texts.end()) return;
    TextBlock changed = *found;
    const auto n = static_cast<size_t>(word.block_word);
    if (!replace_word(changed, n, text)) return;
    style_words(changed, n, n + words_in(text) - 1, [](TextStyle& s) { s.unsure = false; });
    changed.z = z_of(*found);
    changed.id = library_->new_element_id();
    lay_out(changed);
    change({"Type", {{}, {}, {std::move(changed)}}, {{}, {}, {*found}}});
}

void Session::learn_from(const ReadWord& word) {
    // Only what the word is made of travels to the other thread, not the page.
    Page excerpt;
    excerpt.info = page_->info;
    excerpt.pictures = page_->pictures;
    for (const Stroke& stroke : page_->strokes)
        if (std::ranges::find(word.strokes, stroke.id) != word.strokes.end()) excerpt.strokes.push_back(stroke);
    reading_thread_->post([this, word, excerpt = std::move(excerpt), hand = notebook_.hand,
                           languages = notebook_.languages, notebook = notebook_.id] {
        if (!reader_) return;
        const FileSource files = [this](const std::string& hash) { return library_->file(hash); };
        std::vector<Example> examples;
        if (auto example = example_of(excerpt, files, word)) examples.push_back(*std::move(example));
        // A word that no language lists is a name or a term: the notebook's list takes it.
        const auto terms =
            new_terms(word.text, [&](const std::string& term) { return reader_->knows(languages, term); });
        for (const std::string& term : terms) (void)static_cast<bool>(library_->add_word(notebook, term));
        QMetaObject::invokeMethod(
            this,
            [this, hand, examples = std::move(examples), news = !terms.empty()]() mutable {
                teaching_->keep(hand, std::move(examples));
                if (news) want_reading();
            },
            Qt::QueuedConnection);
    });
}

void Session::learn_copied_page() {
    if (!page_) return;
    if (!may_change()) return;
    reading_thread_->post([this, page = *page_, reading = reading_, hand = notebook_.hand] {
        const FileSource files = [this](const std::string& hash) { return library_->file(hash); };
        auto examples = copied_lines(page, files, *reading, lines_to_copy());
        QMetaObject::invokeMethod(
            this,
            [this, hand, examples = std::move(examples)]() mutable {
                if (examples.size() < lines_to_copy().size() / 2)
                    return emit problem(
                        tr("The lines to copy were not found on this page. Write them one below the other, as they "
                           "stand."));
                emit notice(tr("%1 of the page taken to learn from.")
                                .arg(counted(static_cast<qsizetype>(examples.size()), tr("line"), tr("lines"))));
                teaching_->keep(hand, std::move(examples));
            },
            Qt::QueuedConnection);
    });
}

void Session::change_notebook(const Notebook& notebook) {
    on_disk([this, notebook] { return library_->change_notebook(notebook); },
            [this, notebook](const Status& status) {
                if (!status) return emit problem(text_of(status.error()));
                if (notebook_.id == notebook.id) notebook_ = notebook;
                refresh_notebooks();
                read_all_anew();
            });
}

void Session::read_all_anew() {
    if (page_) want_reading();
    if (read_only()) return;
    on_disk([this] { return library_->read_anew(0); },
            [this](const Status& status) {
                if (!status) return emit problem(text_of(status.error()));
                read_what_is_left();
            });
}

// What the library knows to be unread: left by an earlier run, by an import, or by other settings.
void Session::read_what_is_left() {
    if (!can_read_ || read_only()) return;
    on_disk([this] { return library_->unread(); },
            [this](Result<std::vector<PageId>>& pages) {
                if (!pages) return emit problem(text_of(pages.error()));
                if (page_) std::erase(*pages, page_->info.id);
                read_later(*pages);
            });
}

void Session::want_reading() {
    reading_wanted_ = true;
    // What is read meanwhile though nobody looks at it makes way.
    if (background_page_ != 0) background_cancel_.cancel();
    if (!read_timer_.isActive()) read_timer_.start();
}

void Session::set_reading_mode(ReadingMode mode) {
    mode_ = mode;
    QSettings().setValue("reading_mode", static_cast<int>(mode));
    if (mode != ReadingMode::on) {
        background_cancel_.cancel();
        if (background_total_ > 0 && !task_running_) emit task_changed({}, 0);
    }
    emit mode_changed(mode);
    if (mode == ReadingMode::on) want_reading();
}

void Session::read_now() {
    if (!page_) return;
    asked_ = true;
    want_reading();
}

void Session::pump_reader() {
    if (reading_busy_) return;
    if (!can_read_) {  // said when the session began
        reading_wanted_ = false;
        background_.clear();
        background_total_ = 0;
        return;
    }
    const auto read = [this](std::shared_ptr<const Page> page, CopyOnWrite<Reading> earlier,
                             std::vector<Correction> corrections, NotebookId notebook, const ReadJob& job,
                             const CancelToken& cancel) {
        reading_busy_ = true;
        reading_thread_->post([this, page = std::move(page), earlier = std::move(earlier),
                               corrections = std::move(corrections), notebook, job, cancel] {
            auto reading = std::make_shared<Result<Reading>>(guarded([&]() -> Result<Reading> {
                const auto preferences = library_->preferences(notebook);
                const ReadSettings settings = reader_->prepared(preferences ? *preferences : Preferences{});
                const FileSource files = [this](const std::string& hash) { return library_->file(hash); };
                return read_page(*page, files, *reader_, settings, *earlier, corrections, cancel, {}, print_.get());
            }));
            QMetaObject::invokeMethod(
                this,
                [this, job, whole = !cancel.cancelled(), reading = std::move(reading)] {
                    reading_busy_ = false;
                    if (*reading)
                        take_reading(job, std::move(**reading), whole);
                    else
                        reading_failed(job, reading->error());
                    pump_reader();
                },
                Qt::QueuedConnection);
        });
    };
    if (mode_ != ReadingMode::on && !(asked_ && page_ && reading_wanted_)) return;
    if (page_ && reading_wanted_ && !reading_begun_ && !asked_ && !read_only()) {
        // A picture that ended the program while it was read is not read again by itself.
        reading_busy_ = true;
        on_disk([this, id = page_->info.id]() -> Result<bool> { return library_->begin_reading(id); },
                [this, id = page_->info.id](const Result<bool>& may) {
                    reading_busy_ = false;
                    const bool here = page_ && page_->info.id == id;
                    if (here) reading_begun_ = true;
                    if (here && may && !*may) {
                        reading_wanted_ = false;
                        emit notice(
                            tr("This page could not be read last time. To try again, choose “Read this page now”."));
                    }
                    pump_reader();
                });
        return;
    }
    if (page_ && reading_wanted_) {
        asked_ = false;
        reading_wanted_ = false;
        read_cancel_ = {};
        read(mirror_, reading_, corrections_, notebook_.id, {page_->info.id, edition_}, read_cancel_.token());
        return;
    }
    if (pen_down_) return;  // what nobody looks at waits
    if (background_.empty()) {
        if (background_total_ > 0) emit task_changed({}, 0);
        background_total_ = 0;
        return;
    }
    background_page_ = background_.front();
    background_.pop_front();
    background_cancel_ = {};
    if (!task_running_)
        emit task_changed(
            tr("Reading %1").arg(counted(static_cast<qsizetype>(background_.size()) + 1, tr("page"), tr("pages"))),
            1 - static_cast<double>(background_.size() + 1) /
                    static_cast<double>(std::max<size_t>(1, background_total_)));
    struct Loaded {
        Page page;
        Reading earlier;
        std::vector<Correction> corrections;
        ReadMark mark = kNotWhole;
    };
    reading_busy_ = true;
    on_disk(
        [this, id = background_page_]() -> Result<Loaded> {
            auto page = library_->load_page(id);
            if (!page) return page.error();
            auto earlier = library_->reading(id);
            auto corrections = library_->corrections(id);
            const auto mark = library_->unread_mark(id);
            if (!earlier || !corrections || !mark) return Error{"The page can't be loaded."};
            if (!library_->begin_reading(id)) return Error{"Reading it went wrong before."};
            return Loaded{*std::move(page), *std::move(earlier), *std::move(corrections), *mark};
        },
        [this, read](Result<Loaded>& loaded) {
            reading_busy_ = false;
            if (!loaded) {
                background_page_ = 0;
                return pump_reader();
            }
            const NotebookId notebook = loaded->page.info.notebook;
            const ReadJob job{loaded->page.info.id, -1, loaded->mark};
            read(std::make_shared<const Page>(std::move(loaded->page)), CopyOnWrite(std::move(loaded->earlier)),
                 std::move(loaded->corrections), notebook, job, background_cancel_.token());
        });
}

void Session::take_reading(const ReadJob& job, Reading reading, bool whole) {
    if (job.edition < 0) {
        background_page_ = 0;
        if (!whole) background_.push_front(job.page);
        const ReadMark mark = whole ? job.mark : kNotWhole;
        on_disk([this, id = job.page, mark,
                 reading = std::move(reading)] { return library_->save_reading(id, reading, mark); },
                [this, id = job.page](const Status& status) {
                    if (status) return refresh_notebooks();
                    read_again_.push_back(id);  // when there is room
                    if (unsaved_.empty()) retry_timer_.start();
                });
    } else if (page_ && page_->info.id == job.page && !whole) {
        reading_wanted_ = true;
    } else if (page_ && page_->info.id == job.page) {
        reading_ = CopyOnWrite(std::move(reading));
        read_edition_ = job.edition;
        if (!corrections_.empty())
            apply_corrections(reading_.change(), corrections_);  // some may have been made meanwhile
        if (job.edition != edition_) {
            reading_wanted_ = true;
            if (!corrections_removed_.empty()) forget(reading_.change(), corrections_removed_);
        } else {
            corrections_removed_.clear();
        }
        reading_unsaved_ = true;
        if (!save_timer_.isActive()) save_timer_.start();
        emit reading_changed();
    }
}

void Session::reading_failed(const ReadJob& job, const Error& error) {
    if (job.edition < 0) background_page_ = 0;
    if (!read_only()) on_disk([this, id = job.page] { return library_->reading_failed(id); }, [](const Status&) {});
    emit problem(
        tr("A page could not be read. %1 To try again, open it and choose “Read this page now”.").arg(text_of(error)));
}

void Session::save_reading_now() {
    save_timer_.stop();
    if (!reading_unsaved_ || !page_ || read_only()) return;
    reading_unsaved_ = false;
    // Every change that it is a reading of was given to the same thread before.
    const ReadMark mark = reading_is_whole() ? kWholeNow : kNotWhole;
    on_disk(
        [this, id = page_->info.id, reading = reading_, mark] { return library_->save_reading(id, *reading, mark); },
        [this, id = page_->info.id](const Status& status) {
            if (status) {
                told_unsaved_reading_ = false;
                return refresh_notebooks();
            }
            if (!std::exchange(told_unsaved_reading_, true) && unsaved_.empty())
                emit problem(
                    tr("The reading could not be saved. %1 Fernleaf will try again.").arg(text_of(status.error())));
            if (page_ && page_->info.id == id) reading_unsaved_ = true;
            if (!page_ || page_->info.id != id) read_again_.push_back(id);
            if (unsaved_.empty()) retry_timer_.start();
        });
}

void Session::read_later(const std::vector<PageId>& pages) {
    for (const PageId page : pages) {
        if (page == background_page_ || std::ranges::find(background_, page) != background_.end()) continue;
        background_.push_back(page);
        ++background_total_;
    }
    pump_reader();
}

void Session::add_notebook(const Notebook& notebook) {
    on_disk(
        [this, notebook]() -> Result<PageId> {
            const auto id = library_->add_notebook(notebook);
            if (!id) return id.error();
            return library_->add_page(*id, PageInfo{notebook.sheet});
        },
        [this](const Result<PageId>& page) {
            if (!page) return emit problem(text_of(page.error()));
            open_page(*page);
        });
}

void Session::add_page() {
    if (!page_) return;
    on_disk(
        [this, notebook = notebook_, number = page_->info.number + 1]() -> Result<PageId> {
            auto page = library_->add_page(notebook.id, PageInfo{notebook.sheet});
            if (!page) return page;
            if (Status status = library_->move_page(*page, notebook.id, number); !status) return status.error();
            return page;
        },
        [this](const Result<PageId>& page) {
            if (!page) return emit problem(text_of(page.error()));
            open_page(*page);
            refresh_notebooks();
        });
}

void Session::run_task(const QString& label, std::function<void(CancelToken, Progress)> task) {
    run_task(label, std::move(task), *tasks_);
}

void Session::run_task(const QString& label, std::function<void(CancelToken, Progress)> task, JobThread& thread) {
    if (task_running_) return emit problem(tr("One import or export is under way; wait for it or cancel it first."));
    task_running_ = true;
    task_cancel_ = {};
    emit task_changed(label, 0);
    thread.post([this, label, task = std::move(task), cancel = task_cancel_.token()] {
        QElapsedTimer since;
        since.start();
        const Status done = guarded([&]() -> Status {
            task(cancel, [&](double part) {
                if (since.elapsed() < 50) return;
                since.restart();
                QMetaObject::invokeMethod(
                    this, [this, label, part] { emit task_changed(label, part); }, Qt::QueuedConnection);
            });
            return Done{};
        });
        QMetaObject::invokeMethod(
            this,
            [this, done] {
                task_running_ = false;
                emit task_changed({}, 1);
                if (!done) emit problem(text_of(done.error()));
            },
            Qt::QueuedConnection);
    });
}

void Session::import_files(const QStringList& paths, std::optional<NotebookId> into) {
    if (!may_change()) return;
    const QString label = paths.size() == 1 ? tr("Importing %1").arg(QFileInfo(paths[0]).fileName())
                                            : tr("Importing %1").arg(counted(paths.size(), tr("file"), tr("files")));
    run_task(label, [this, paths, into](const CancelToken& cancel, const Progress& progress) {
        std::optional<NotebookId> notebook = into;
        std::vector<PageId> all;
        QStringList failures;
        for (qsizetype i = 0; i < paths.size() && !cancel.cancelled(); ++i) {
            const auto part = [&](double p) {
                progress((static_cast<double>(i) + p) / static_cast<double>(paths.size()));
            };
            auto source = read_source(paths[i].toStdString(), PictureUse::sheets, cancel, part,
                                      [&](const cv::Mat& page) { return upright(page, notebook.value_or(0)); });
            if (!source) {
                if (!cancel.cancelled()) failures << text_of(source.error());
                continue;
            }
            if (cancel.cancelled()) break;
            if (!notebook) {  // not before there is something to put in
                Notebook fresh;
                fresh.title = QFileInfo(paths[i]).completeBaseName().toStdString();
                fresh.sheet.paper = Paper::plain;
                if (const auto id = library_->add_notebook(fresh)) notebook = *id;
            }
            const auto pages = notebook ? add_source(*library_, *notebook, *std::move(source))
                                        : Result<std::vector<PageId>>(Error{"the notebook can't be made"});
            if (pages)
                all.insert(all.end(), pages->begin(), pages->end());
            else
                failures << QFileInfo(paths[i]).fileName() + ": " + text_of(pages.error());
        }
        QMetaObject::invokeMethod(
            this,
            [this, all, failures, cancelled = cancel.cancelled()] {
                if (!all.empty()) {
                    open_page(all.front());
                    read_later({all.begin() + 1, all.end()});
                    refresh_notebooks();
                }
                if (!failures.isEmpty())
                    emit problem(tr("Not imported: %1").arg(failures.join(QStringLiteral("\n"))));
                else if (cancelled)
                    emit notice(all.empty() ? tr("Import cancelled; nothing was changed.")
                                            : tr("Import cancelled; the files before it are in."));
            },
            Qt::QueuedConnection);
    });
}

void Session::export_pages(const std::vector<PageId>& pages, const QString& path) {
    save_reading_now();
    run_task(tr("Exporting to %1").arg(QFileInfo(path).fileName()),
             [this, pages, path](const CancelToken& cancel, const Progress& progress) {
                 disk_->wait_idle();  // what was just written belongs into the export
                 const Status status = fernleaf::export_pages(*library_, pages, path.toStdString(), cancel, progress);
                 QMetaObject::invokeMethod(
                     this,
                     [this, path, status, cancelled = cancel.cancelled()] {
                         if (cancelled)
                             emit notice(tr("Export cancelled; no file was written."));
                         else if (!status)
                             emit problem(text_of(status.error()));
                         else
                             emit notice(tr("Exported to %1.").arg(path));
                     },
                     Qt::QueuedConnection);
             });
}

void Session::save_file(const QString& path, const std::string& bytes) {
    tasks_->post([this, path, bytes] {
        const Status status = write_whole(path.toStdString(), bytes);
        QMetaObject::invokeMethod(
            this,
            [this, path, status] {
                if (status)
                    emit notice(tr("Saved as %1.").arg(path));
                else
                    emit problem(text_of(status.error()));
            },
            Qt::QueuedConnection);
    });
}

void Session::export_notebook(const QString& path) {
    if (!page_) return;
    on_disk([this, id = notebook_.id] { return library_->pages(id); },
            [this, path](const Result<std::vector<PageInfo>>& infos) {
                if (!infos) return emit problem(text_of(infos.error()));
                std::vector<PageId> ids;
                for (const PageInfo& info : *infos) ids.push_back(info.id);
                export_pages(ids, path);
            });
}

void Session::cancel_task() {
    task_cancel_.cancel();
    if (!task_running_ && background_total_ > 0) {
        background_.clear();
        background_cancel_.cancel();
    }
}

void Session::find(const QString& text) {
    const int query_number = ++newest_query_;
    if (text.trimmed().isEmpty()) return emit found({}, {}, {});
    const auto query = parse_query(text.toStdString());
    if (!query) return emit found(text, {}, text_of(query.error()));
    save_reading_now();
    on_disk([this, query = *query] { return library_->find(query); },
            [this, text, query_number](const Result<std::vector<Hit>>& hits) {
                if (query_number != newest_query_) return;
                if (!hits) return emit found(text, {}, text_of(hits.error()));
                emit found(text, *hits, {});
            });
}

void Session::wait_idle() {
    for (int quiet = 0; quiet < 3;) {
        disk_->wait_idle();
        reading_thread_->wait_idle();
        tasks_->wait_idle();
        teaching_->wait_idle();
        intake_->wait_idle();
        if (save_timer_.isActive()) save_reading_now();
        QCoreApplication::sendPostedEvents();
        QCoreApplication::processEvents(QEventLoop::AllEvents, 10);
        const bool reads = mode_ == ReadingMode::on || asked_;
        const bool waiting = reads && (reading_wanted_ || !background_.empty() || background_page_ != 0);
        const bool busy = read_timer_.isActive() || save_timer_.isActive() || waiting || task_running_ || reading_busy_;
        quiet = busy ? 0 : quiet + 1;
    }
}

}  // namespace fernleaf
