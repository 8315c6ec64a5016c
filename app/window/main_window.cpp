#include "window/main_window.h"

#include <QCloseEvent>
#include <QDesktopServices>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QMimeDatabase>
#include <QScreen>
#include <QScrollBar>
#include <QSettings>
#include <QShortcut>
#include <QTimer>
#include <QVBoxLayout>
#include <QWindow>

#include "capture/pens_dialog.h"
#include "exports/bundle_dialog.h"
#include "exports/mail_dialog.h"
#include "keeping/backup_dialog.h"
#include "keeping/tags_dialog.h"
#include "look/theme.h"
#include "pages/bin_dialog.h"
#include "pages/history_dialog.h"
#include "pages/paper_dialog.h"
#include "pages/templates_dialog.h"
#include "render/export.h"
#include "voice/tracks_dialog.h"
#include "window/formula_dialog.h"
#include "window/notebook_dialog.h"
#include "window/proof_sheet.h"
#include "window/reading_dialog.h"
#include "window/replace_dialog.h"
#include "window/settings_dialog.h"

namespace fernleaf {
namespace {

constexpr int kFrameAfterMs = 150;

QString page_key(const Session& session) {
    // Keys must not hold slashes: a library's state is kept under the path's hash.
    return QStringLiteral("page/%1").arg(qHash(QString::fromStdString(session.library().directory().string())), 0, 16);
}

// By its name: what a file holds is looked at off the UI thread.
QString kind_of(const QString& path) {
    return QMimeDatabase().mimeTypeForFile(path, QMimeDatabase::MatchExtension).name();
}
bool is_picture(const QString& path) { return kind_of(path).startsWith(QLatin1String("image/")); }
bool is_paper(const QString& path) { return is_picture(path) || kind_of(path) == QLatin1String("application/pdf"); }

}  // namespace

MainWindow::MainWindow(Session& session, QWidget* parent) : QMainWindow(parent), session_(session) {
    setWindowTitle(QStringLiteral("Fernleaf"));
    setMinimumSize(820, 520);
    resize(1280, 800);
    setAcceptDrops(true);
    auto* whole = new QWidget;
    auto* row = new QHBoxLayout(whole);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    notebook_list_ = new NotebookList(session_);
    row->addWidget(notebook_list_);
    auto* right = new QVBoxLayout;
    right->setSpacing(0);
    head_ = new RunningHead(session_);
    spread_ = new Spread(session_);
    strip_ = new PageStrip(session_);
    auto* desk = new QWidget;
    auto* desk_row = new QHBoxLayout(desk);
    desk_row->setContentsMargins(0, 0, 0, 0);
    desk_row->setSpacing(0);
    desk_row->addWidget(strip_);
    desk_row->addWidget(spread_, 1);
    stack_ = new QStackedWidget;
    welcome_ = new Welcome;
    stack_->addWidget(welcome_);
    stack_->addWidget(desk);
    intake_ = new IntakeTray(session_.intake());
    stack_->addWidget(intake_);
    days_ = new DaysView(session_);
    stack_->addWidget(days_);
    notice_ = new NoticeBar(stack_);
    page_line_ = new PageLine(session_);
    todos_ = new TodoView(session_);
    stack_->addWidget(todos_);
    right->addWidget(head_);
    right->addWidget(page_line_);
    right->addWidget(stack_, 1);
    // Before they hide: focus would go to whatever comes next.
    connect(&session_.recording(), &RecordingDesk::changed, this, [this] {
        if (!session_.recording().recording() && recording_bar_->isAncestorOf(focusWidget()))
            spread_->ink()->setFocus();
    });
    connect(&session_.listening(), &ListeningDesk::opened, this, [this] {
        if (!session_.listening().open() && voice_strip_->isAncestorOf(focusWidget())) spread_->ink()->setFocus();
    });
    voice_strip_ = new VoiceStrip(session_);
    connect(voice_strip_, &VoiceStrip::matching, this, [this] { spread_->tray()->select(Tool::choose); });
    right->addWidget(voice_strip_);
    recording_bar_ = new RecordingBar(session_.recording());
    right->addWidget(recording_bar_);
    row->addLayout(right, 1);
    setCentralWidget(whole);

    connect(&session_.messages(), &Messages::problem, notice_, &NoticeBar::show_problem);
    connect(&session_.messages(), &Messages::notice, notice_, &NoticeBar::show_notice);
    connect(&session_.messages(), &Messages::undoable, notice_, &NoticeBar::show_undoable);
    connect(&session_.messages(), &Messages::offer, notice_, &NoticeBar::show_offer);
    connect(&session_.queue(), &CommitQueue::waits, notice_, [this](const QString& why) {
        if (why.isEmpty())
            notice_->end_lasting();
        else
            notice_->show_lasting(why);
    });
    connect(head_, &RunningHead::leaves_wanted, this, &MainWindow::show_leaves);
    connect(head_, &RunningHead::strip_wanted, this, &MainWindow::show_strip);
    connect(head_, &RunningHead::settings_wanted, this, &MainWindow::show_settings);
    connect(head_, &RunningHead::paper_wanted, this, &MainWindow::ask_for_paper);
    connect(head_, &RunningHead::attachment_wanted, this, [this] {
        const QStringList paths =
            QFileDialog::getOpenFileNames(this, tr("Attach files"), QSettings().value("folder").toString());
        if (!paths.isEmpty()) session_.cards().attach(paths);
    });
    connect(head_, &RunningHead::link_wanted, this, [this] {
        if (!session_.page()) return;
        Elements link;
        link.cards = {session_.cards().link_here()};
        copy_to_clipboard(link, QString::fromStdString(link.cards[0].name));
        session_.messages().tell(tr("Link copied. Paste it on another page."));
    });
    connect(&session_.cards(), &CardsDesk::file_ready, this,
            [](const QString& path) { QDesktopServices::openUrl(QUrl::fromLocalFile(path)); });
    connect(head_, &RunningHead::history_wanted, this, [this] {
        if (!session_.page()) return;
        auto* dialog = new HistoryDialog(session_, this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        dialog->open();
    });
    connect(head_, &RunningHead::templates_wanted, this, &MainWindow::show_templates);
    connect(head_, &RunningHead::picture_wanted, this, &MainWindow::ask_for_picture);
    connect(head_, &RunningHead::formula_wanted, this, [this] {
        FormulaDialog dialog(session_.math().decimal_comma(), this);
        if (dialog.exec() == QDialog::Accepted) session_.math().insert(dialog.latex());
    });
    connect(head_, &RunningHead::bin_wanted, this, &MainWindow::show_bin);
    connect(head_, &RunningHead::export_wanted, this, &MainWindow::ask_for_export);
    connect(head_, &RunningHead::bundle_wanted, this, &MainWindow::ask_for_bundle);
    connect(&session_.transfers(), &Transfers::passphrase_wanted, this, &MainWindow::ask_passphrase);
    connect(head_, &RunningHead::mail_wanted, this, [this] {
        if (session_.page()) mail_pages({session_.page()->info.id});
    });
    connect(strip_, &PageStrip::mail_wanted, this, &MainWindow::mail_pages);
    connect(head_, &RunningHead::reading_wanted, this, &MainWindow::ask_how_to_read);
    connect(welcome_, &Welcome::notebook_wanted, this, &MainWindow::ask_for_notebook);
    connect(welcome_, &Welcome::import_wanted, this, &MainWindow::ask_for_import);
    connect(&session_.document(), &PageDocument::undo_state_changed, this, &MainWindow::show_title);
    connect(&session_.typesetting(), &TypesettingDesk::choice_needed, this, &MainWindow::ask_which_type);
    connect(&session_.document(), &PageDocument::closed, this, [this] {
        stack_->setCurrentIndex(0);
        head_->hide();
        setWindowTitle(QStringLiteral("Fernleaf"));
    });
    connect(&session_.document(), &PageDocument::opened, this, [this] {
        const bool first = showing_welcome();
        stack_->setCurrentIndex(1);             // also when the tray is shown: the page was asked for
        if (first) spread_->ink()->setFocus();  // keys choose tools from the start
        head_->show();
        head_->show_page();
        show_title();
        QSettings().setValue(page_key(session_), QVariant::fromValue(session_.page()->info.id));
        if (hits_page_ == session_.page()->info.id) spread_->ink()->set_hits(hits_to_show_);
        hits_page_ = 0;
    });
    connect(&session_.model(), &LibraryModel::notebooks_changed, this,
            [this](const std::vector<NotebookSummary>& notebooks) {
                notebooks_.clear();
                for (const NotebookSummary& n : notebooks) notebooks_.push_back(n.notebook);
                intake_->set_notebooks(notebooks_, session_.page() ? session_.document().notebook().id : 0);
                days_->set_notebooks(notebooks_);
                if (session_.page() || showing_intake() || showing_days() || showing_todos()) return;
                if (notebooks.empty()) {
                    stack_->setCurrentIndex(0);
                    head_->hide();
                } else if (!restored_) {
                    restored_ = true;
                    session_.model().open_where_left(QSettings().value(page_key(session_)).toLongLong(),
                                                     notebooks.front().notebook.id);
                }
            });
    connect(notebook_list_, &NotebookList::hit_chosen, this, &MainWindow::open_at);
    connect(notebook_list_, &NotebookList::voice_wanted, this, &MainWindow::show_tracks);
    connect(notebook_list_, &NotebookList::days_wanted, this, [this] { show_days(true); });
    connect(notebook_list_, &NotebookList::todos_wanted, this, [this] { show_todos(true); });
    connect(notebook_list_, &NotebookList::tags_wanted, this, &MainWindow::show_tags);
    connect(notebook_list_, &NotebookList::notebook_to_change, this, [this](const Notebook& notebook) {
        NotebookDialog dialog(notebook, this);
        give_cover_pictures(dialog);
        if (dialog.exec() == QDialog::Accepted) session_.model().change_notebook(dialog.notebook());
    });
    connect(notebook_list_, &NotebookList::tags_of_notebook_wanted, this, [this](NotebookId notebook) {
        bool typed = false;
        const QString names =
            QInputDialog::getText(this, tr("Tag the notebook"), tr("Tags for all its pages, separated by commas"),
                                  QLineEdit::Normal, {}, &typed);
        if (typed) session_.keeping().tag_notebook(notebook, names);
    });
    connect(todos_, &TodoView::left, this, [this] { show_todos(false); });
    connect(todos_, &TodoView::page_wanted, this, [this](PageId page, const Box& box) { open_at(page, {box}); });
    connect(page_line_, &PageLine::tag_wanted, this, &MainWindow::find_tag);
    connect(page_line_, &PageLine::tags_wanted, this, &MainWindow::show_tags);
    connect(page_line_, &PageLine::left, this, [this] { spread_->ink()->setFocus(); });
    connect(stack_, &QStackedWidget::currentChanged, this, [this](int shown) { page_line_->setVisible(shown == 1); });
    connect(days_, &DaysView::left, this, [this] { show_days(false); });
    connect(days_, &DaysView::page_wanted, this, [this](PageId page, const Box& box) {
        open_at(page, box.empty() ? std::vector<Box>{} : std::vector{box});
    });
    connect(notebook_list_, &NotebookList::search_left, this, [this] { spread_->ink()->set_hits({}); });
    connect(notebook_list_, &NotebookList::new_notebook, this, &MainWindow::ask_for_notebook);
    connect(notebook_list_, &NotebookList::import_wanted, this, &MainWindow::ask_for_import);
    connect(notebook_list_, &NotebookList::intake_wanted, this, [this] { show_intake(true); });
    connect(notebook_list_, &NotebookList::pens_wanted, this, &MainWindow::show_pens);
    connect(&session_.pens(), &PenDesk::changed, this, &MainWindow::tell_pens);
    IntakeDesk& tray = session_.intake();
    connect(&tray, &IntakeDesk::changed, this,
            [this] { notebook_list_->set_waiting(session_.intake().entries().size()); });
    connect(&tray, &IntakeDesk::filed, this, [this](const std::vector<PageId>& pages) {
        if (pages.empty()) return;
        notice_->show_notice(tr("Filed as %n page(s).", nullptr, static_cast<int>(pages.size())));
        if (session_.intake().entries().empty()) session_.open_page(pages.front());
    });
    connect(intake_, &IntakeTray::left, this, [this] { show_intake(false); });
    connect(intake_, &IntakeTray::files_wanted, this, &MainWindow::ask_for_import);
    connect(intake_, &IntakeTray::notebook_wanted, this, &MainWindow::ask_for_notebook);
    add_shortcuts();
    restore();
    if (session_.read_only()) notice_->show_problem(QString::fromStdString(*session_.library().why_read_only()));
    session_.model().refresh();
    session_.intake().refresh();
    session_.intake().watch(session_.intake().watched());
    session_.pens().begin();
    session_.backups().watch();
}

// What is being typed is kept while there is a window to be told: afterwards only parts of one are left.
MainWindow::~MainWindow() {
    spread_->ink()->editor()->close_text();
    hide();
}

void MainWindow::add_shortcuts() {
    const auto key = [this](const QKeySequence& keys, const QString& name, auto slot) {
        connect(new QShortcut(keys, this), &QShortcut::activated, this, slot);
        commands_.push_back({name, keys.toString(QKeySequence::NativeText), slot});
    };
    key(QKeySequence(Qt::CTRL | Qt::Key_K), tr("Go to"), [this] { go_to(); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_T), tr("Add tag"), [this] {
        if (stack_->currentIndex() == 1) page_line_->ask_for_tag();
    });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_O), tr("To-dos"), [this] { show_todos(!showing_todos()); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_B), tr("Backup"), [this] { show_backups(); });
    key(QKeySequence::Undo, tr("Undo"),
        [this] { showing_intake() ? session_.intake().undo() : session_.editing().undo(); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), tr("Redo"), [this] { session_.editing().redo(); });
    key(QKeySequence(Qt::CTRL | Qt::Key_F), tr("Find"), [this] {
        notebook_list_->find_field()->setFocus(Qt::ShortcutFocusReason);
        notebook_list_->find_field()->selectAll();
    });
    key(QKeySequence(Qt::CTRL | Qt::Key_N), tr("Add a page"), [this] { session_.model().add_page(); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_N), tr("New notebook"), [this] { ask_for_notebook(); });
    key(QKeySequence(Qt::CTRL | Qt::Key_H), tr("Replace in typed text"), [this] { ask_for_replacing(); });
    key(QKeySequence(Qt::CTRL | Qt::Key_G), tr("Next hit"), [this] { notebook_list_->step_hit(1); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_G), tr("Previous hit"), [this] { notebook_list_->step_hit(-1); });
    key(QKeySequence(Qt::CTRL | Qt::Key_I), tr("Import"), [this] { ask_for_import(); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_I), tr("Intake tray"), [this] { show_intake(!showing_intake()); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_P), tr("Pens"), [this] { show_pens(); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Y), tr("Days"), [this] { show_days(!showing_days()); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_V), tr("Voice tracks"), [this] { show_tracks(); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_R), tr("Record or stop recording"),
        [this] { session_.recording().toggle(); });
    key(QKeySequence(Qt::ALT | Qt::Key_R), tr("Replay this page"), [this] { session_.listening().replay_page(); });
    key(QKeySequence(Qt::ALT | Qt::Key_P), tr("Play or pause"),
        [this] { session_.listening().set_playing(!session_.listening().playing()); });
    key(QKeySequence(Qt::CTRL | Qt::Key_E), tr("Export"), [this] {
        if (session_.page()) head_->open_export_menu();
    });
    key(QKeySequence(Qt::CTRL | Qt::Key_R), tr("Reading: languages, words, hand"), [this] { ask_how_to_read(); });
    key(QKeySequence(Qt::CTRL | Qt::Key_T), tr("Set in type"), [this] {
        if (!session_.page()) return;
        if (spread_->ink()->selection().chosen().strokes.empty())
            head_->open_type_menu();
        else
            spread_->ink()->choosing().set_in_type(TypePlace::in_place);
    });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_D), tr("Draw fair"),
        [this] { spread_->ink()->choosing().draw_fair(); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_L), tr("Link figures"),
        [this] { spread_->ink()->choosing().link(); });
    key(QKeySequence(Qt::ALT | Qt::Key_G), tr("Group"), [this] { spread_->ink()->choosing().group(); });
    key(QKeySequence(Qt::ALT | Qt::SHIFT | Qt::Key_G), tr("Ungroup"), [this] { spread_->ink()->choosing().ungroup(); });
    key(QKeySequence(Qt::CTRL | Qt::Key_Comma), tr("Settings"), [this] { show_settings(); });
    key(QKeySequence(Qt::Key_F1), tr("Proof sheet"), [this] { show_proof_sheet(); });
    key(QKeySequence(Qt::Key_F3), tr("Line lens"), [this] { spread_->show_lens(!spread_->lens()->isVisible()); });
    // Of the lens, and so without effect while it is closed.
    const auto lens = [this](int code, auto move) {
        auto* shortcut = new QShortcut(QKeySequence(Qt::ALT | code), spread_->lens());
        connect(shortcut, &QShortcut::activated, this, [this, move] { move(*spread_->lens()); });
    };
    lens(Qt::Key_Left, [](LineLens& l) { l.move_on(-1); });
    lens(Qt::Key_Right, [](LineLens& l) { l.move_on(1); });
    lens(Qt::Key_Up, [](LineLens& l) { l.previous_line(); });
    lens(Qt::Key_Down, [](LineLens& l) { l.next_line(); });
    key(QKeySequence(Qt::Key_F4), tr("Page strip"), [this] { show_strip(!strip_shown_); });
    key(QKeySequence(Qt::CTRL | Qt::Key_0), tr("Fit to width"), [this] { spread_->ink()->fit_width(); });
    const auto turn = [this](int offset) {
        if (!showing_days()) return session_.model().open_neighbour(offset);
        days_->list()->verticalScrollBar()->triggerAction(offset < 0 ? QScrollBar::SliderPageStepSub
                                                                     : QScrollBar::SliderPageStepAdd);
    };
    key(QKeySequence(Qt::Key_PageUp), tr("Previous page"), [turn] { turn(-1); });
    key(QKeySequence(Qt::Key_PageDown), tr("Next page"), [turn] { turn(1); });
    key(QKeySequence(Qt::Key_F5), tr("Only the ink leaf"), [this] { show_leaves(Shown::ink); });
    key(QKeySequence(Qt::Key_F6), tr("Both leaves"), [this] { show_leaves(Shown::spread); });
    key(QKeySequence(Qt::Key_F7), tr("Only the text leaf"), [this] { show_leaves(Shown::text); });
    key(QKeySequence(Qt::Key_F8), tr("Next word to check"), [this] { spread_->text()->go_on_checking(); });
    key(QKeySequence(Qt::Key_F9), tr("Light or dark"), [this] { set_dark(!theme().dark); });
    // Letters choose tools only where nothing is typed.
    const auto on_ink = [this](int code, auto slot) {
        auto* shortcut = new QShortcut(QKeySequence(code), spread_->ink());
        shortcut->setContext(Qt::WidgetShortcut);
        connect(shortcut, &QShortcut::activated, this, slot);
    };
    on_ink(Qt::Key_E, [this] {
        if (spread_->tray()->tool() == Tool::eraser)
            spread_->tray()->toggle_card();
        else
            spread_->tray()->select(Tool::eraser);
    });
    on_ink(Qt::Key_H, [this] {
        Tools tools = spread_->tray()->tools();
        tools.tablet.hand_rest = tools.tablet.hand_rest > 0 ? 0 : kUsualHandRest;
        spread_->tray()->set_tools(tools);
    });
    on_ink(Qt::Key_L, [this] { spread_->tray()->select(Tool::lasso); });
    on_ink(Qt::Key_C, [this] { spread_->tray()->select(Tool::choose); });
    on_ink(Qt::Key_Q, [this] { spread_->tray()->select_previous(); });
    on_ink(Qt::Key_S, [this] { spread_->toggle_stamps(); });
    on_ink(Qt::Key_T, [this] { spread_->tray()->select(Tool::text); });
    on_ink(Qt::Key_R, [this] { spread_->tray()->select(Tool::room); });
    for (int i = 0; i < static_cast<int>(kMostPens); ++i)
        on_ink(Qt::Key_1 + i, [this, i] {
            ToolTray* tray = spread_->tray();
            if (tray->tool() == Tool::pen && tray->pen() == i)
                tray->toggle_card();
            else
                tray->select_pen(i);
        });
}

void MainWindow::go_to() {
    auto* dialog = new GoToDialog(session_, commands_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::find(const QString& text) {
    notebook_list_->find_field()->setText(text);
    notebook_list_->find_field()->setFocus(Qt::OtherFocusReason);
}

void MainWindow::show_tags() {
    auto* dialog = new TagsDialog(session_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &TagsDialog::tag_wanted, this, &MainWindow::find_tag);
    dialog->open();
}

void MainWindow::show_backups() {
    auto* dialog = new BackupDialog(session_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::find_tag(const QString& name) { find(QStringLiteral("tag:\"%1\"").arg(name)); }

void MainWindow::show_leaves(Shown shown) {
    spread_->show_leaves(shown);
    head_->show_leaves(shown);
}

void MainWindow::show_strip(bool shown) {
    strip_shown_ = shown;
    strip_->setVisible(shown);
    head_->show_strip(shown);
    if (shown) strip_->setFocus();
}

void MainWindow::show_settings() {
    auto* dialog = new SettingsDialog(session_, *spread_->tray(), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &SettingsDialog::look_chosen, this, &MainWindow::set_dark);
    connect(dialog, &SettingsDialog::reading_wanted, this, &MainWindow::ask_how_to_read);
    connect(dialog, &SettingsDialog::backups_wanted, this, &MainWindow::show_backups);
    connect(dialog, &SettingsDialog::proof_sheet_wanted, this, &MainWindow::show_proof_sheet);
    dialog->open();
}

void MainWindow::show_proof_sheet() {
    auto* dialog = new ProofSheet(*spread_->tray(), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::show_bin() {
    auto* dialog = new BinDialog(session_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::ask_for_paper() {
    if (!session_.page() || !session_.editing().may_change_page()) return;
    auto* dialog = new PaperDialog(session_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::ask_for_picture() {
    if (!session_.page() || !session_.editing().may_change_page()) return;
    const QString path =
        QFileDialog::getOpenFileName(this, tr("Insert a picture"), QSettings().value("folder").toString(),
                                     tr("Pictures (*.png *.jpg *.jpeg *.tif *.tiff *.webp *.pdf)"));
    if (path.isEmpty()) return;
    QSettings().setValue("folder", QFileInfo(path).absolutePath());
    session_.pictures().add_picture(path, spread_->ink()->place_for_new());
}

// The ink was type before, and was edited then.
void MainWindow::ask_which_type(const QString& edited, const QString& read) {
    const auto brief = [this](const QString& text) {
        return fontMetrics().elidedText(text.simplified(), Qt::ElideRight, 420);
    };
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setObjectName(QStringLiteral("typeChoice"));
    menu->addSection(tr("This ink was set in type before"));
    menu->addAction(tr("As edited:  %1").arg(brief(edited)), this, [this] { session_.typesetting().choose(true); });
    menu->addAction(tr("As read:  %1").arg(brief(read)), this, [this] { session_.typesetting().choose(false); });
    menu->popup(spread_->ink()->mapToGlobal(spread_->ink()->rect().center()));
}

void MainWindow::set_dark(bool dark) {
    use_theme(dark ? Theme::night() : Theme::light());
    restyle();
}

void MainWindow::restyle() {
    head_->restyle();
    welcome_->restyle();
    strip_->restyle();
    notebook_list_->restyle();
    spread_->restyle();
    intake_->restyle();
    days_->restyle();
    todos_->restyle();
    page_line_->restyle();
    voice_strip_->restyle();
    recording_bar_->restyle();
    notice_->restyle();
    update();
}

void MainWindow::show_title() {
    if (!session_.page()) return;
    setWindowTitle(tr("%1 · page %2 – Fernleaf")
                       .arg(QString::fromStdString(session_.document().notebook().title))
                       .arg(session_.page()->info.number));
}

void MainWindow::ask_for_notebook() {
    NotebookDialog dialog(session_.readings().languages(), this);
    give_cover_pictures(dialog);
    if (dialog.exec() == QDialog::Accepted) session_.model().add_notebook(dialog.notebook());
}

void MainWindow::give_cover_pictures(NotebookDialog& dialog) {
    connect(&dialog, &NotebookDialog::picture_wanted, this, [this, &dialog] {
        const QString path =
            QFileDialog::getOpenFileName(&dialog, tr("A picture for the cover"), QSettings().value("folder").toString(),
                                         tr("Pictures (*.png *.jpg *.jpeg *.tif *.tiff *.webp)"));
        if (!path.isEmpty()) session_.pictures().keep_picture(path);
    });
    connect(&session_.pictures(), &PictureDesk::picture_kept, &dialog, &NotebookDialog::set_cover_picture);
}

void MainWindow::ask_how_to_read() {
    if (!session_.page()) return;
    auto* dialog = new ReadingDialog(session_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::ask_for_import() {
    const QStringList paths = QFileDialog::getOpenFileNames(
        this, tr("Import"), QSettings().value("folder").toString(),
        tr("Bundles, ink, pictures, PDF, graphs and tables (*.fernleaf *.inkml *.unp *.png *.jpg "
           "*.jpeg *.tif *.tiff *.webp *.pdf *.dot *.gv *.graphml *.opml *.csv);;"
           "All files (*)"));
    if (paths.isEmpty()) return;
    QSettings().setValue("folder", QFileInfo(paths.front()).absolutePath());
    bring_in(paths);
}

void MainWindow::bring_in(const QStringList& paths) {
    QStringList sheets, others;
    for (const QString& path : paths) (is_paper(path) ? sheets : others) << path;
    if (!others.isEmpty())
        session_.transfers().import_files(
            others, session_.page() ? std::optional(session_.document().notebook().id) : std::nullopt);
    if (sheets.isEmpty() || !session_.editing().may_change()) return;
    show_intake(true);
    session_.intake().bring(sheets);
}

void MainWindow::show_pens() {
    PensDialog dialog(session_.pens(), session_.read_only(), this);
    dialog.exec();
}

void MainWindow::show_tracks() {
    auto* dialog = new TracksDialog(session_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

// In one quiet place: the pen that is linked, else one that may be.
void MainWindow::tell_pens() {
    const std::vector<ShownPen>& pens = session_.pens().pens();
    const auto rank = [](const ShownPen& p) { return p.linked() ? 0 : p.near ? 1 : 2; };
    const auto first = std::ranges::min_element(pens, {}, rank);
    notebook_list_->set_pens(
        first == pens.end() ? tr("Pens")
                            : tr("%1: %2").arg(QString::fromStdString(first->pen.name), standing_of(*first).toLower()));
}

void MainWindow::show_intake(bool shown) {
    if (shown) {
        stack_->setCurrentIndex(2);
        head_->hide();
        intake_->list()->setFocus();
        session_.intake().open();
        return;
    }
    show_page_again();
}

void MainWindow::show_days(bool shown) {
    if (!shown) return show_page_again();
    stack_->setCurrentIndex(3);
    head_->hide();
    days_->refresh();
    days_->list()->setFocus();
}

void MainWindow::show_todos(bool shown) {
    if (!shown) return show_page_again();
    stack_->setCurrentIndex(4);
    head_->hide();
    todos_->take_focus();
}

void MainWindow::show_page_again() {
    stack_->setCurrentIndex(session_.page() ? 1 : 0);
    head_->setVisible(session_.page() != nullptr);
    if (session_.page())
        spread_->ink()->setFocus();
    else
        session_.model().refresh();  // opens what there is
}

// A page, with places on it shown as what was looked for is.
void MainWindow::open_at(PageId page, const std::vector<Box>& boxes) {
    hits_page_ = page;
    hits_to_show_ = boxes;
    if (session_.page() && session_.page()->info.id == page && stack_->currentIndex() == 1)
        spread_->ink()->set_hits(boxes);
    else
        session_.open_page(page);
}

void MainWindow::ask_for_export(bool whole_notebook) {
    if (!session_.page()) return;
    const QString name = QString::fromStdString(session_.document().notebook().title) +
                         (whole_notebook ? QString() : tr(", page %1").arg(session_.page()->info.number));
    QString chosen;
    const QStringList filters = {tr("PDF with searchable handwriting (*.pdf)"),
                                 tr("Plain text (*.txt)"),
                                 tr("Digital ink, InkML (*.inkml)"),
                                 tr("Picture of one page, PNG (*.png)"),
                                 tr("Picture of one page, SVG (*.svg)"),
                                 tr("Diagrams, DOT (*.dot)"),
                                 tr("Diagrams, Mermaid (*.mmd)"),
                                 tr("Diagrams, GraphML (*.graphml)"),
                                 tr("Diagrams, OPML (*.opml)"),
                                 tr("Tables, CSV (*.csv)"),
                                 tr("Formulas, LaTeX (*.tex)")};
    const QString folder = QSettings().value("folder").toString();
    QString path = QFileDialog::getSaveFileName(
        this, tr("Export"), (folder.isEmpty() ? QString() : folder + '/') + name + ".pdf", filters.join(";;"), &chosen);
    if (path.isEmpty()) return;
    const auto index = static_cast<size_t>(std::max<qsizetype>(0, filters.indexOf(chosen)));
    const auto known = [&](const std::string& ending) {
        return path.endsWith(QString::fromStdString(ending), Qt::CaseInsensitive);
    };
    if (std::ranges::none_of(export_endings(), known)) path += QString::fromStdString(export_endings()[index]);
    if (whole_notebook)
        session_.transfers().export_notebook(path);
    else
        session_.transfers().export_pages({session_.page()->info.id}, path);
}

void MainWindow::show_templates() {
    auto* dialog = new TemplatesDialog(session_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::ask_for_replacing() {
    if (!session_.page()) return;
    auto* dialog = new ReplaceDialog(session_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::ask_for_bundle() {
    if (!session_.page()) return;
    auto* dialog = new BundleDialog(session_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &BundleDialog::decided, this, [this](const QString& passphrase) {
        const QString folder = QSettings().value("folder").toString();
        QString path = QFileDialog::getSaveFileName(
            this, tr("Export"),
            (folder.isEmpty() ? QString() : folder + '/') + BundleDialog::notebook_title(session_) + ".fernleaf",
            tr("Bundle (*.fernleaf)"));
        if (path.isEmpty()) return;
        if (!path.endsWith(QStringLiteral(".fernleaf"), Qt::CaseInsensitive)) path += ".fernleaf";
        session_.transfers().export_bundle(path, passphrase);
    });
    dialog->open();
}

void MainWindow::ask_passphrase(const QString& bundle) {
    bool typed = false;
    const QString passphrase =
        QInputDialog::getText(this, tr("Locked bundle"), tr("Passphrase of %1:").arg(QFileInfo(bundle).fileName()),
                              QLineEdit::Password, {}, &typed);
    if (typed && !passphrase.isEmpty()) session_.transfers().import_files({bundle}, {}, passphrase);
}

void MainWindow::mail_pages(const std::vector<PageId>& pages) {
    if (!session_.page() || pages.empty()) return;
    const QString notebook = QString::fromStdString(session_.document().notebook().title);
    const bool this_page = pages == std::vector{session_.page()->info.id};
    auto* dialog =
        new MailDialog(session_, pages,
                       this_page ? tr("%1, page %2").arg(notebook).arg(session_.page()->info.number) : notebook, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::restore() {
    const QSettings settings;
    set_dark(settings.value("dark", false).toBool());
    restoreGeometry(settings.value("geometry").toByteArray());
    spread_->splitter()->restoreState(settings.value("splitter").toByteArray());
    show_strip(settings.value("strip", false).toBool());
    show_leaves(
        static_cast<Shown>(std::clamp(settings.value("leaves", static_cast<int>(Shown::spread)).toInt(), 0, 2)));
}

// A window manager's frame and panels take some of the screen: what is left of it holds the whole window.
void MainWindow::fit_on_screen() {
    if (isMaximized() || isFullScreen() || !windowHandle()) return;
    const QRect free = screen()->availableGeometry();
    const QMargins frame = windowHandle()->frameMargins();
    const QSize most = free.marginsRemoved(frame).size();
    if (width() > most.width() || height() > most.height()) resize(size().boundedTo(most));
    const QRect outer = frameGeometry();
    const QPoint inside(std::clamp(outer.x(), free.left(), std::max(free.left(), free.right() + 1 - outer.width())),
                        std::clamp(outer.y(), free.top(), std::max(free.top(), free.bottom() + 1 - outer.height())));
    if (inside != outer.topLeft()) move(inside);
}

void MainWindow::showEvent(QShowEvent* event) {
    QMainWindow::showEvent(event);
    // The frame is known once the window manager has put it around the window.
    if (!event->spontaneous()) QTimer::singleShot(kFrameAfterMs, this, &MainWindow::fit_on_screen);
}

void MainWindow::closeEvent(QCloseEvent* event) {
    spread_->ink()->editor()->close_text();
    if (session_.queue().has_unsaved() && !may_lose_unsaved()) return event->ignore();
    QSettings settings;
    settings.setValue("dark", theme().dark);
    settings.setValue("geometry", saveGeometry());
    settings.setValue("splitter", spread_->splitter()->saveState());
    settings.setValue("strip", strip_shown_);
    settings.setValue("leaves", static_cast<int>(spread_->shown()));
    QMainWindow::closeEvent(event);
}

bool MainWindow::may_lose_unsaved() {
    QMessageBox ask(QMessageBox::Warning, tr("Not everything is saved"),
                    tr("The last changes haven't been saved yet. Free some disk space and they will be saved "
                       "automatically. If you close now, they will be lost."),
                    QMessageBox::NoButton, this);
    auto* lose = ask.addButton(tr("Close without saving"), QMessageBox::DestructiveRole);
    ask.setDefaultButton(ask.addButton(tr("Go on"), QMessageBox::RejectRole));
    ask.exec();
    return ask.clickedButton() == lose;
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    // Pictures let go over the ink leaf go onto the page; all else becomes pages of its own.
    InkLeaf* leaf = spread_->ink();
    const QPoint at = leaf->mapFrom(this, event->position().toPoint());
    const bool on_page = session_.page() && leaf->isVisible() && leaf->rect().contains(at);
    QStringList paths;
    for (const QUrl& url : event->mimeData()->urls()) {
        if (!url.isLocalFile()) continue;
        const QString path = url.toLocalFile();
        if (on_page && is_picture(path))
            session_.pictures().add_picture(path, leaf->page_place(at));
        else
            paths << path;
    }
    if (!paths.isEmpty()) bring_in(paths);
    event->acceptProposedAction();
}

}  // namespace fernleaf
