#include "desk/session.h"

#include <QCoreApplication>
#include <QEventLoop>

#include "desk/text_of.h"

namespace fernleaf {
namespace {

constexpr int kLookForLockMs = 3000;  // whether another window still holds the library

}  // namespace

struct Session::Loaded {
    Page page;
    std::shared_ptr<Page> mirror;
    Reading reading;
    std::vector<Correction> corrections;
    UndoState undo_state;
    Notebook notebook;
    int pages = 0;
    std::optional<AddressedBook> book;
    std::optional<PageAddress> address;
    std::optional<InSheaf> sheaf;
};

namespace {

// Where a page stands in a notebook that shows it besides its own.
Result<std::optional<InSheaf>> place_in_sheaf(const Library& library, NotebookId sheaf, const PageInfo& page) {
    if (sheaf == 0 || sheaf == page.notebook) return std::optional<InSheaf>();
    const auto pages = library.pages(sheaf);
    if (!pages) return pages.error();
    const auto found = std::ranges::find(*pages, page.id, &PageInfo::id);
    const auto notebook = library.notebook(sheaf);
    if (found == pages->end() || !notebook) return std::optional<InSheaf>();
    return std::optional(InSheaf{sheaf, notebook->title, found->number, static_cast<int>(pages->size())});
}

}  // namespace

Session::Session(std::unique_ptr<Library> library, std::filesystem::path models, QObject* parent)
    : QObject(parent),
      library_(std::move(library)),
      disk_(std::make_unique<Worker>(messages_.teller())),
      reader_thread_(std::make_unique<Worker>(messages_.teller(), JobThread::Haste::patient)),
      tasks_thread_(std::make_unique<Worker>(messages_.teller())),
      tasks_(std::make_unique<TaskRunner>(*tasks_thread_, messages_)),
      queue_(std::make_unique<CommitQueue>(*library_, *disk_)),
      readings_(std::make_unique<ReadingScheduler>(*library_, std::move(models), *disk_, *reader_thread_, document_,
                                                   *queue_, *tasks_, messages_)),
      editing_(std::make_unique<PageEditing>(*library_, *disk_, document_, *readings_, *queue_, messages_)) {
    const DeskParts parts{*library_, *disk_,     *reader_thread_, *tasks_thread_, document_,
                          *editing_, *readings_, *tasks_,         messages_};
    model_ = std::make_unique<LibraryModel>(parts);
    keeping_ = std::make_unique<KeepingDesk>(parts);
    backups_ = std::make_unique<BackupDesk>(parts);
    teaching_ = std::make_unique<TeachingDesk>(parts);
    correcting_ = std::make_unique<CorrectionDesk>(parts, *teaching_);
    math_ = std::make_unique<MathDesk>(parts);
    typesetting_ = std::make_unique<TypesettingDesk>(parts);
    drawing_ = std::make_unique<DrawingDesk>(parts);
    stamps_ = std::make_unique<StampsDesk>(parts);
    templates_ = std::make_unique<TemplatesDesk>(parts);
    pictures_ = std::make_unique<PictureDesk>(parts);
    transfers_ = std::make_unique<Transfers>(parts);
    cards_ = std::make_unique<CardsDesk>(parts);
    history_ = std::make_unique<HistoryDesk>(parts);
    replacing_ = std::make_unique<ReplacingDesk>(parts);
    mail_ = std::make_unique<MailDesk>(parts);
    intake_ = std::make_unique<IntakeDesk>(parts);
    pens_ = std::make_unique<PenDesk>(parts);
    recording_ = std::make_unique<RecordingDesk>(parts);
    tracks_ = std::make_unique<TracksDesk>(parts);
    listening_ = std::make_unique<ListeningDesk>(parts, *tracks_);
    lock_timer_.setInterval(kLookForLockMs);
    connect(&lock_timer_, &QTimer::timeout, this, &Session::offer_writing);
    if (read_only()) lock_timer_.start();

    connect(model_.get(), &LibraryModel::page_wanted, this, &Session::open_page);
    connect(keeping_.get(), &KeepingDesk::order_changed, model_.get(), &LibraryModel::refresh);
    connect(backups_.get(), &BackupDesk::restored, this, [this](const std::vector<PageId>& pages) {
        readings_->read_later(pages);
        model_->refresh();
        if (!pages.empty()) open_page(pages.front());
    });
    connect(editing_.get(), &PageEditing::page_wanted, this, &Session::open_page);
    connect(correcting_.get(), &CorrectionDesk::page_wanted, this, &Session::open_page);
    connect(typesetting_.get(), &TypesettingDesk::page_wanted, this, &Session::open_page);
    connect(history_.get(), &HistoryDesk::page_wanted, this, &Session::open_page);
    connect(history_.get(), &HistoryDesk::page_added, model_.get(), &LibraryModel::refresh);
    connect(cards_.get(), &CardsDesk::page_wanted, this, &Session::open_page);
    connect(templates_.get(), &TemplatesDesk::page_wanted, this, &Session::open_page);
    connect(templates_.get(), &TemplatesDesk::page_added, model_.get(), &LibraryModel::refresh);
    connect(replacing_.get(), &ReplacingDesk::page_wanted, this, &Session::open_page);
    connect(drawing_.get(), &DrawingDesk::page_wanted, this, &Session::open_page);
    connect(transfers_.get(), &Transfers::imported, this, [this](PageId first) {
        open_page(first);
        model_->refresh();
    });
    connect(model_.get(), &LibraryModel::emptied, this, &Session::close_page);
    connect(editing_.get(), &PageEditing::page_overflowed, this, [this](PageId next) {
        model_->refresh();
        readings_->read_later({next});
    });
    connect(readings_.get(), &ReadingScheduler::page_read, model_.get(), &LibraryModel::refresh);
    connect(readings_.get(), &ReadingScheduler::reader_ready, teaching_.get(), &TeachingDesk::set_reader);

    intake_->tell_upright_by(
        [this](const cv::Mat& page) { return readings_->upright(page, model_->open_notebook_id()); });
    connect(intake_.get(), &IntakeDesk::filed, this, [this](const std::vector<PageId>& pages) {
        readings_->read_later(pages);
        model_->refresh();
    });
    connect(pens_.get(), &PenDesk::page_wanted, this, &Session::open_page);
    connect(pens_.get(), &PenDesk::errands_ticked, keeping_.get(), &KeepingDesk::run_errands);
    connect(pens_.get(), &PenDesk::errands_ticked, mail_.get(), &MailDesk::mail_errands);
    connect(mail_.get(), &MailDesk::sent, keeping_.get(), &KeepingDesk::ticked);
    model_->tidy_bin();
    keeping_->run_errands();  // that came while no window was open
    mail_->mail_errands();
    connect(pens_.get(), &PenDesk::pages_changed, model_.get(), &LibraryModel::refresh);
    connect(recording_.get(), &RecordingDesk::kept, tracks_.get(), &TracksDesk::refresh);
    connect(model_.get(), &LibraryModel::tracks_restored, tracks_.get(), &TracksDesk::refresh);
    connect(listening_.get(), &ListeningDesk::page_wanted, this, &Session::open_page);
    tracks_->refresh();
    connect(teaching_.get(), &TeachingDesk::reading_outdated, readings_.get(), &ReadingScheduler::read_all_anew);
}

Session::~Session() {
    recording_.reset();  // what was heard last is kept
    listening_.reset();
    pens_->leave_all();
    readings_->save_now();
    readings_->stop();
    tasks_->cancel();
    teaching_.reset();
    intake_.reset();  // these two ask the reader's thread
    // The parts are still there while the threads finish.
    tasks_thread_.reset();
    reader_thread_.reset();
    disk_.reset();
}

void Session::open_page(PageId id) {
    document_.leave();
    readings_->leave(!document_.is_open(id));
    wanted_page_ = id;
    disk_->ask(
        this,
        [this, id, listed = model_->open_notebook_id()]() -> Result<Loaded> {
            auto page = library_->load_page(id);
            if (!page) return page.error();
            auto reading = library_->reading(id);
            if (!reading) return reading.error();
            auto corrections = library_->corrections(id);
            if (!corrections) return corrections.error();
            auto undo_state = library_->undo_state(id);
            if (!undo_state) return undo_state.error();
            auto notebook = library_->notebook(page->info.notebook);
            if (!notebook) return notebook.error();
            const auto pages = library_->pages(page->info.notebook);
            if (!pages) return pages.error();
            const auto books = library_->addressed_books();
            if (!books) return books.error();
            const auto address = library_->address_of(id);
            if (!address) return address.error();
            auto sheaf = place_in_sheaf(*library_, listed, page->info);
            if (!sheaf) return sheaf.error();
            const auto book = std::ranges::find(*books, page->info.notebook, &AddressedBook::notebook);
            auto mirror = std::make_shared<Page>(*page);
            return Loaded{*std::move(page),
                          std::move(mirror),
                          *std::move(reading),
                          *std::move(corrections),
                          *std::move(undo_state),
                          *std::move(notebook),
                          static_cast<int>(pages->size()),
                          book == books->end() ? std::nullopt : std::optional(*book),
                          *address,
                          *std::move(sheaf)};
        },
        [this, id, edition = document_.edition()](Result<Loaded>& loaded) {
            if (!loaded) return messages_.tell_problem(loaded.error());
            if (id != wanted_page_) return;
            document_.leave();  // what was begun meanwhile ends on the page it was begun on
            // Written on while it was being loaded: what was loaded is not all of it.
            if (document_.is_open(id) && edition != document_.edition()) return open_page(id);
            page_loaded(*loaded);
        });
}

void Session::page_loaded(Loaded& loaded) {
    readings_->leave(false);  // whatever came of the other page after it was asked to be left
    // What waits for room on the disk is part of it.
    for (const CommitQueue::Waiting& waiting : queue_->waiting()) {
        if (waiting.page != loaded.page.info.id) continue;
        apply(loaded.page, waiting.edit);
        apply(*loaded.mirror, waiting.edit);
        const std::vector<Correction>& added = waiting.edit.corrections_added;
        loaded.corrections.insert(loaded.corrections.end(), added.begin(), added.end());
    }
    const size_t damaged = loaded.page.damaged;
    const NotebookId listed = loaded.sheaf ? loaded.sheaf->notebook : loaded.notebook.id;
    const bool other_notebook = model_->open_notebook_id() != listed;
    model_->set_open_notebook(listed);
    document_.set_sheaf(loaded.sheaf);
    document_.set_book(loaded.book);
    document_.set_address(loaded.address);
    document_.open(std::move(loaded.page), std::move(loaded.notebook), loaded.pages, std::move(loaded.undo_state));
    readings_->open(std::move(loaded.mirror), std::move(loaded.reading), std::move(loaded.corrections));
    document_.tell_opened();
    if (other_notebook) model_->refresh();
    if (damaged > 0)
        messages_.tell_problem(
            tr("Damaged and left out of this page: %n item(s). The rest is safe. To repair the library, close Fernleaf "
               "and run “fernleaf-cli check --repair --library %1”. It keeps a copy of the damaged library.",
               nullptr, static_cast<int>(damaged))
                .arg(QString::fromStdString(library_->directory().string())));
    readings_->want_reading();
}

void Session::close_page() {
    readings_->close();
    wanted_page_ = 0;
    document_.close();
}

// Another window held the library: once it is gone, this one may take its place.
void Session::offer_writing() {
    lock_timer_.stop();
    if (!read_only()) return;
    disk_->ask(
        this, [this]() -> Result<bool> { return library_->could_write_now(); },
        [this](const Result<bool>& free) {
            if (!free || !*free) return lock_timer_.start();
            messages_.make_offer(tr("The other window is closed. You can make changes here now."), tr("Allow changes"),
                                 [this] { begin_writing(); });
        });
}

void Session::begin_writing() {
    disk_->ask(
        this, [this] { return library_->begin_writing(); },
        [this](const Status& status) {
            if (!status) {
                messages_.tell_problem(status.error());
                return lock_timer_.start();
            }
            if (page()) open_page(page()->info.id);
            model_->refresh();
            intake_->refresh();
            readings_->read_what_is_left();
        });
}

void Session::wait_idle() {
    for (int quiet = 0; quiet < 3;) {
        disk_->wait_idle();
        reader_thread_->wait_idle();
        tasks_thread_->wait_idle();
        teaching_->wait_idle();
        intake_->wait_idle();
        recording_->wait_idle();
        readings_->save_soon();
        QCoreApplication::sendPostedEvents();
        QCoreApplication::processEvents(QEventLoop::AllEvents, 10);
        quiet = readings_->idle() && !tasks_->running() ? quiet + 1 : 0;
    }
}

}  // namespace fernleaf
