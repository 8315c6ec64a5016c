#include "desk/reading_scheduler.h"

#include <QSettings>
#include <algorithm>
#include <future>

#include "desk/text_of.h"
#include "drawing/drawing_reading.h"
#include "paper/page_reading.h"
#include "paper/upright.h"
#include "reading/reader.h"

namespace fernleaf {
namespace {

constexpr int kReadAfterMs = 40;  // strokes that follow one another at once are read together
constexpr int kSaveAfterMs = 500;
constexpr size_t kMostPagesLearntFrom = 60;  // a few ms each, before the first page is read

}  // namespace

ReadingScheduler::ReadingScheduler(Library& library, std::filesystem::path models, Worker& disk, Worker& reader_thread,
                                   PageDocument& document, CommitQueue& queue, TaskRunner& tasks, Messages& messages,
                                   QObject* parent)
    : QObject(parent),
      library_(library),
      disk_(disk),
      reader_thread_(reader_thread),
      document_(document),
      queue_(queue),
      tasks_(tasks),
      messages_(messages) {
    read_timer_.setSingleShot(true);
    read_timer_.setInterval(kReadAfterMs);
    connect(&read_timer_, &QTimer::timeout, this, &ReadingScheduler::pump);
    save_timer_.setSingleShot(true);
    save_timer_.setInterval(kSaveAfterMs);
    connect(&save_timer_, &QTimer::timeout, this, &ReadingScheduler::save_now);
    connect(&queue_, &CommitQueue::retried, this, &ReadingScheduler::retry_saving);
    connect(&tasks_, &TaskRunner::cancelled, this, [this] {
        if (tasks_.running() || background_total_ == 0) return;
        background_.clear();
        background_cancel_.cancel();
    });
    mode_ = static_cast<ReadingMode>(std::clamp(QSettings().value("reading_mode", 0).toInt(), 0, 2));
    busy_ = true;
    reader_thread_.post([this, models = std::move(models)] {
        auto reader = Reader::load(models);
        QString reason, no_print, no_formulas;
        if (reader)
            reader_ = *std::move(reader);
        else
            reason = text_of(reader.error());
        if (auto print = PrintSkills::load(models))
            print_ = *std::move(print);
        else
            no_print = text_of(print.error());
        if (auto formulas = FormulaSkills::load(models))
            formulas_ = *std::move(formulas), learn_corrected_signs();
        else
            no_formulas = text_of(formulas.error());
        QMetaObject::invokeMethod(
            this,
            [this, reason, no_print, no_formulas] {
                busy_ = false;
                can_read_ = reason.isEmpty();
                if (reader_) languages_ = reader_->languages();
                emit reader_ready(reader_);
                if (!can_read_)
                    messages_.tell_problem(
                        tr("Handwriting can't be read. %1 Writing and searching what was read before still work.")
                            .arg(reason));
                else if (!no_print.isEmpty())
                    messages_.tell_problem(tr("%1 Print in pictures will be read as handwriting.").arg(no_print));
                else if (!no_formulas.isEmpty())
                    messages_.tell_problem(
                        tr("%1 Formulas can't be read. To fix this, reinstall Fernleaf.").arg(no_formulas));
                read_what_is_left();
                pump();
            },
            Qt::QueuedConnection);
    });
}

ReadingScheduler::~ReadingScheduler() = default;

void ReadingScheduler::learn_corrected_signs() {
    auto pages = library_.pages_corrected(InkClass::sign, kMostPagesLearntFrom);
    if (!pages) return;
    std::ranges::reverse(*pages);  // what was said last is forgotten last
    for (const PageId id : *pages) {
        const auto page = library_.load_page(id);
        const auto reading = library_.reading(id);
        const auto corrections = library_.corrections(id);
        if (page && reading && corrections) formulas_->learn(*reading, page->strokes, *corrections);
    }
}

void ReadingScheduler::stop() {
    background_.clear();
    background_cancel_.cancel();
    cancel_.cancel();
}

const ReadWord* ReadingScheduler::word(ReadPlace place) const {
    if (place.line < 0 || place.word < 0 || place.line >= static_cast<int>(reading_->lines.size())) return nullptr;
    const ReadLine& line = reading_->lines[static_cast<size_t>(place.line)];
    const auto& words = place.sign >= 0 ? line.signs : line.words;
    const auto at = static_cast<size_t>(place.sign >= 0 ? place.sign : place.word);
    return at < words.size() ? &words[at] : nullptr;
}

bool can_be_said(const std::vector<ReadWord>& signs) {
    return !signs.empty() && std::ranges::none_of(signs, [](const ReadWord& s) { return s.strokes.empty(); });
}

const ReadShape* ReadingScheduler::shape(ReadPlace place) const {
    if (place.line < 0 || place.shape < 0 || place.line >= static_cast<int>(reading_->lines.size())) return nullptr;
    const auto& shapes = reading_->lines[static_cast<size_t>(place.line)].shapes;
    return place.shape < static_cast<int>(shapes.size()) ? &shapes[static_cast<size_t>(place.shape)] : nullptr;
}

int ReadingScheduler::upright(const cv::Mat& page, NotebookId notebook) {
    std::promise<int> turns;
    std::future<int> answer = turns.get_future();
    reader_thread_.post([this, &page, &turns, notebook] {
        const auto found = guarded([&]() -> Result<int> {
            const auto known = library_.preferences(notebook);
            const Preferences preferences = known ? *known : Preferences{};
            return reader_ ? upright_turns(page, *reader_, reader_->prepared(preferences)) : 0;
        });
        turns.set_value(found ? *found : 0);  // as it came
    });
    return answer.get();
}

Reading ReadingScheduler::read_fresh(const Page& page, const Reading& before,
                                     const std::vector<Correction>& corrections, const std::string& language,
                                     const CancelToken& cancel) {
    const auto known = library_.preferences(page.info.notebook);
    Preferences with = known ? *known : Preferences{};
    if (!language.empty()) with.languages = {language};
    const FileSource files = [this](const std::string& hash) { return library_.file(hash); };
    ReadSettings settings = reader_->prepared(with);
    if (settings.working.earlier_values)
        if (auto formulas = library_.formulas_before(page.info.id)) settings.earlier_formulas = *std::move(formulas);
    return read_page(page, files, *reader_, settings, before, corrections, cancel, {}, print_.get(), &shapes_,
                     formulas_.get());
}

void ReadingScheduler::leave(bool for_another) {
    save_now();
    cancel_.cancel();
    if (for_another && document_.page() && !is_whole()) read_later({document_.page()->info.id});
}

void ReadingScheduler::open(std::shared_ptr<Page> mirror, Reading reading, std::vector<Correction> corrections) {
    mirror_ = std::move(mirror);
    reading_ = CopyOnWrite(std::move(reading));
    corrections_ = std::move(corrections);
    corrections_removed_.clear();
    read_edition_ = -1;
    begun_ = document_.page()->pictures.empty();
    std::erase(background_, document_.page()->info.id);
}

void ReadingScheduler::close() {
    cancel_.cancel();
    wanted_ = asked_ = unsaved_ = false;
    reading_ = {};
    corrections_.clear();
}

void ReadingScheduler::follow(const Edit& edit) {
    reader_thread_.post([page = mirror_, edit] { apply(*page, edit); });
    take_corrections(edit);
    want_reading();
}

void ReadingScheduler::add_corrections(const std::vector<Correction>& corrections) {
    corrections_.insert(corrections_.end(), corrections.begin(), corrections.end());
}

void ReadingScheduler::take_corrections(const Edit& edit) {
    if (edit.corrections_added.empty() && edit.corrections_removed.empty()) return;
    for (const Correction& gone : edit.corrections_removed)
        if (const auto found = std::ranges::find(corrections_, gone); found != corrections_.end())
            corrections_.erase(found);
    add_corrections(edit.corrections_added);
    corrections_removed_.insert(corrections_removed_.end(), edit.corrections_removed.begin(),
                                edit.corrections_removed.end());
    // With another sign the whole formula is read anew.
    std::vector<Correction> changing = edit.corrections_removed;
    std::ranges::copy_if(edit.corrections_added, std::back_inserter(changing),
                         [](const Correction& c) { return c.kind == InkClass::sign; });
    if (!changing.empty()) forget(reading_.change(), changing);
    if (!edit.corrections_added.empty()) apply_corrections(reading_.change(), edit.corrections_added);
    unsaved_ = true;
    save_timer_.start();
    emit changed();
}

void ReadingScheduler::set_pen_down(bool down) {
    pen_down_ = down;
    if (down && background_page_ != 0) background_cancel_.cancel();
    if (!down) pump();
}

void ReadingScheduler::set_mode(ReadingMode mode) {
    mode_ = mode;
    QSettings().setValue("reading_mode", static_cast<int>(mode));
    if (mode != ReadingMode::on) {
        background_cancel_.cancel();
        if (background_total_ > 0) tasks_.show_quietly({}, 0);
    }
    emit mode_changed(mode);
    if (mode == ReadingMode::on) want_reading();
}

void ReadingScheduler::read_now() {
    if (!document_.page()) return;
    asked_ = true;
    want_reading();
}

void ReadingScheduler::want_reading() {
    wanted_ = true;
    // What is read meanwhile though nobody looks at it makes way.
    if (background_page_ != 0) background_cancel_.cancel();
    if (!read_timer_.isActive()) read_timer_.start();
}

void ReadingScheduler::read_all_anew() {
    if (document_.page()) want_reading();
    if (read_only()) return;
    disk_.ask(
        this, [this] { return library_.read_anew(0); },
        [this](const Status& status) {
            if (!status) return messages_.tell_problem(status.error());
            read_what_is_left();
        });
}

void ReadingScheduler::read_what_is_left() {
    if (!can_read_ || read_only()) return;
    disk_.ask(
        this, [this] { return library_.unread(); },
        [this](Result<std::vector<PageId>>& pages) {
            if (!pages) return messages_.tell_problem(pages.error());
            if (document_.page()) std::erase(*pages, document_.page()->info.id);
            read_later(*pages);
        });
}

void ReadingScheduler::read_later(const std::vector<PageId>& pages) {
    for (const PageId page : pages) {
        if (page == background_page_ || std::ranges::find(background_, page) != background_.end()) continue;
        background_.push_back(page);
        ++background_total_;
    }
    pump();
}

void ReadingScheduler::pump() {
    if (busy_) return;
    if (!can_read_) {  // said when the session began
        wanted_ = false;
        background_.clear();
        background_total_ = 0;
        return;
    }
    const bool here = document_.page() && wanted_;
    if (mode_ != ReadingMode::on && !(asked_ && here)) return;
    if (here && !begun_ && !asked_ && !read_only()) {
        // A picture that ended the program while it was read is not read again by itself.
        busy_ = true;
        const PageId id = document_.page()->info.id;
        disk_.ask(
            this, [this, id]() -> Result<bool> { return library_.begin_reading(id); },
            [this, id](const Result<bool>& may) {
                busy_ = false;
                if (document_.is_open(id)) begun_ = true;
                if (document_.is_open(id) && may && !*may) {
                    wanted_ = false;
                    messages_.tell(
                        tr("This page could not be read last time. To try again, choose “Read this page now”."));
                }
                pump();
            });
        return;
    }
    if (here) {
        asked_ = false;
        wanted_ = false;
        cancel_ = {};
        return read(mirror_, reading_, corrections_, {document_.page()->info.id, document_.edition()}, cancel_.token());
    }
    if (!pen_down_) read_next_in_background();  // what nobody looks at waits
}

void ReadingScheduler::read(std::shared_ptr<const Page> page, CopyOnWrite<Reading> earlier,
                            std::vector<Correction> corrections, const Job& job, const CancelToken& cancel) {
    busy_ = true;
    reader_thread_.ask(
        this,
        [this, page = std::move(page), earlier = std::move(earlier), corrections = std::move(corrections),
         cancel]() -> Result<Reading> { return read_fresh(*page, *earlier, corrections, {}, cancel); },
        [this, job, cancel](Result<Reading>& reading) {
            busy_ = false;
            if (reading)
                take(job, *std::move(reading), !cancel.cancelled());
            else
                failed(job, reading.error());
            pump();
        });
}

void ReadingScheduler::read_next_in_background() {
    if (background_.empty()) {
        if (background_total_ > 0) tasks_.show_quietly({}, 0);
        background_total_ = 0;
        return;
    }
    background_page_ = background_.front();
    background_.pop_front();
    background_cancel_ = {};
    tasks_.show_quietly(
        tr("Reading %n page(s)", nullptr, static_cast<int>(background_.size()) + 1),
        1 - static_cast<double>(background_.size() + 1) / static_cast<double>(std::max<size_t>(1, background_total_)));
    struct Loaded {
        Page page;
        Reading earlier;
        std::vector<Correction> corrections;
        ReadMark mark = kNotWhole;
    };
    busy_ = true;
    disk_.ask(
        this,
        [this, id = background_page_]() -> Result<Loaded> {
            auto page = library_.load_page(id);
            if (!page) return page.error();
            auto earlier = library_.reading(id);
            auto corrections = library_.corrections(id);
            const auto mark = library_.unread_mark(id);
            if (!earlier || !corrections || !mark) return Error{"The page can't be loaded."};
            if (!library_.begin_reading(id)) return Error{"Reading it went wrong before."};
            return Loaded{*std::move(page), *std::move(earlier), *std::move(corrections), *mark};
        },
        [this](Result<Loaded>& loaded) {
            busy_ = false;
            if (!loaded) {
                background_page_ = 0;
                return pump();
            }
            const Job job{loaded->page.info.id, -1, loaded->mark};
            read(std::make_shared<const Page>(std::move(loaded->page)), CopyOnWrite(std::move(loaded->earlier)),
                 std::move(loaded->corrections), job, background_cancel_.token());
        });
}

void ReadingScheduler::take(const Job& job, Reading reading, bool whole) {
    if (job.edition < 0) {
        background_page_ = 0;
        if (!whole) background_.push_front(job.page);
        const ReadMark mark = whole ? job.mark : kNotWhole;
        disk_.ask(
            this,
            [this, id = job.page, mark, reading = std::move(reading)] {
                return library_.save_reading(id, reading, mark, outline_lines(read_drawing(reading)));
            },
            [this, id = job.page](const Status& status) {
                if (status) return emit page_read();
                read_again_.push_back(id);  // when there is room
                queue_.retry_later();
            });
        return;
    }
    if (!document_.is_open(job.page)) return;
    if (!whole) {
        wanted_ = true;
        return;
    }
    reading_ = CopyOnWrite(std::move(reading));
    read_edition_ = job.edition;
    if (!corrections_.empty()) apply_corrections(reading_.change(), corrections_);  // some may have been made meanwhile
    if (job.edition != document_.edition()) {
        wanted_ = true;
        if (!corrections_removed_.empty()) forget(reading_.change(), corrections_removed_);
    } else {
        corrections_removed_.clear();
    }
    unsaved_ = true;
    if (!save_timer_.isActive()) save_timer_.start();
    emit changed();
}

void ReadingScheduler::failed(const Job& job, const Error& error) {
    if (job.edition < 0) background_page_ = 0;
    if (!read_only())
        disk_.ask(
            this, [this, id = job.page] { return library_.reading_failed(id); }, [](const Status&) {});
    messages_.tell_problem(
        tr("A page couldn't be read. %1 To try again, open it and choose “Read this page now”.").arg(text_of(error)));
}

void ReadingScheduler::save_now() {
    save_timer_.stop();
    if (!unsaved_ || !document_.page() || read_only()) return;
    unsaved_ = false;
    // Every change that it is a reading of was given to the same thread before.
    const ReadMark mark = is_whole() ? kWholeNow : kNotWhole;
    const PageId id = document_.page()->info.id;
    disk_.ask(
        this,
        [this, id, reading = reading_, mark] {
            return library_.save_reading(id, *reading, mark, outline_lines(read_drawing(*reading)));
        },
        [this, id](const Status& status) {
            if (status) {
                told_unsaved_ = false;
                // Pages that use values of this one.
                if (document_.notebook().working.earlier_values) read_what_is_left();
                return emit page_read();
            }
            if (!std::exchange(told_unsaved_, true) && !queue_.has_unsaved())
                messages_.tell_problem(
                    tr("The reading could not be saved. %1 Fernleaf will try again.").arg(text_of(status.error())));
            if (document_.is_open(id))
                unsaved_ = true;
            else
                read_again_.push_back(id);
            queue_.retry_later();
        });
}

void ReadingScheduler::save_soon() {
    if (save_timer_.isActive()) save_now();
}

void ReadingScheduler::retry_saving() {
    if (unsaved_) save_now();
    read_later(std::exchange(read_again_, {}));
}

bool ReadingScheduler::idle() const {
    const bool reads = mode_ == ReadingMode::on || asked_;
    const bool waiting = reads && (wanted_ || !background_.empty() || background_page_ != 0);
    return !read_timer_.isActive() && !save_timer_.isActive() && !waiting && !busy_;
}

}  // namespace fernleaf
