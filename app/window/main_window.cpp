#include "window/main_window.h"

#include <QActionGroup>
#include <QButtonGroup>
#include <QCloseEvent>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QMimeDatabase>
#include <QPushButton>
#include <QScreen>
#include <QSettings>
#include <QShortcut>
#include <QTimer>
#include <QVBoxLayout>
#include <QWindow>

#include "look/elided_label.h"
#include "look/theme.h"
#include "pages/bin_dialog.h"
#include "pages/paper_dialog.h"
#include "render/export.h"
#include "render/fonts.h"
#include "window/notebook_dialog.h"
#include "window/proof_sheet.h"
#include "window/reading_dialog.h"
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
    head_ = build_head();
    spread_ = new Spread(session_);
    strip_ = new PageStrip(session_);
    auto* desk = new QWidget;
    auto* desk_row = new QHBoxLayout(desk);
    desk_row->setContentsMargins(0, 0, 0, 0);
    desk_row->setSpacing(0);
    desk_row->addWidget(strip_);
    desk_row->addWidget(spread_, 1);
    stack_ = new QStackedWidget;
    stack_->addWidget(build_welcome());
    stack_->addWidget(desk);
    intake_ = new IntakeTray(session_.intake());
    stack_->addWidget(intake_);
    notice_ = new NoticeBar(stack_);
    right->addWidget(head_);
    right->addWidget(stack_, 1);
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
    connect(&session_.document(), &PageDocument::undo_state_changed, this, &MainWindow::update_head);
    connect(&session_.readings(), &ReadingScheduler::mode_changed, this, &MainWindow::show_mode);
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
        update_head();
        QSettings().setValue(page_key(session_), QVariant::fromValue(session_.page()->info.id));
        if (hits_page_ == session_.page()->info.id) spread_->ink()->set_hits(hits_to_show_);
        hits_page_ = 0;
    });
    connect(&session_.model(), &LibraryModel::notebooks_changed, this,
            [this](const std::vector<NotebookSummary>& notebooks) {
                notebooks_.clear();
                for (const NotebookSummary& n : notebooks) notebooks_.push_back(n.notebook);
                intake_->set_notebooks(notebooks_, session_.page() ? session_.document().notebook().id : 0);
                if (session_.page() || showing_intake()) return;
                if (notebooks.empty()) {
                    stack_->setCurrentIndex(0);
                    head_->hide();
                } else if (!restored_) {
                    restored_ = true;
                    session_.model().open_where_left(QSettings().value(page_key(session_)).toLongLong(),
                                                     notebooks.front().notebook.id);
                }
            });
    connect(notebook_list_, &NotebookList::hit_chosen, this, [this](PageId page, const std::vector<Box>& boxes) {
        hits_page_ = page;
        hits_to_show_ = boxes;
        if (session_.page() && session_.page()->info.id == page)
            spread_->ink()->set_hits(boxes);
        else
            session_.open_page(page);
    });
    connect(notebook_list_, &NotebookList::search_left, this, [this] { spread_->ink()->set_hits({}); });
    connect(notebook_list_, &NotebookList::new_notebook, this, &MainWindow::ask_for_notebook);
    connect(notebook_list_, &NotebookList::import_wanted, this, &MainWindow::ask_for_import);
    connect(notebook_list_, &NotebookList::intake_wanted, this, [this] { show_intake(true); });
    IntakeDesk& tray = session_.intake();
    connect(&tray, &IntakeDesk::problem, notice_, &NoticeBar::show_problem);
    connect(&tray, &IntakeDesk::changed, this,
            [this] { notebook_list_->set_waiting(session_.intake().entries().size()); });
    connect(&tray, &IntakeDesk::filed, this, [this](const std::vector<PageId>& pages) {
        if (pages.empty()) return;
        notice_->show_notice(pages.size() == 1 ? tr("Filed as a page.") : tr("Filed as %1 pages.").arg(pages.size()));
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
}

QToolButton* MainWindow::head_button(const QString& icon_name, const QString& tip, bool switchable) {
    auto* button = new QToolButton;
    button->setProperty("icon_name", icon_name);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setCheckable(switchable);
    button->setIconSize({22, 22});
    return button;
}

// What is being typed is kept while there is a window to be told: afterwards only parts of one are left.
MainWindow::~MainWindow() {
    spread_->ink()->editor()->close_text();
    hide();
}

QWidget* MainWindow::build_head() {
    auto* head = new QWidget;
    head->setObjectName(QStringLiteral("head"));
    auto* row = new QHBoxLayout(head);
    row->setContentsMargins(22, 8, 14, 8);
    row->setSpacing(4);
    title_ = new ElidedLabel;
    QFont font(kTextFace);
    font.setPixelSize(19);
    font.setWeight(QFont::DemiBold);
    title_->setFont(font);
    row->addWidget(title_);
    row->addSpacing(10);
    previous_ = head_button(QStringLiteral("previous"), tr("Previous page  (Page Up)"));
    page_menu_ = new QToolButton;
    page_menu_->setObjectName(QStringLiteral("pageMenu"));
    page_menu_->setToolTip(tr("Page menu"));
    page_menu_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    page_menu_->setLayoutDirection(Qt::RightToLeft);  // the arrow after the words
    page_menu_->setIconSize({12, 12});
    page_menu_->setPopupMode(QToolButton::InstantPopup);
    page_menu_->setMenu(build_page_menu());
    next_ = head_button(QStringLiteral("next"), tr("Next page  (Page Down)"));
    add_page_ = head_button(QStringLiteral("add-page"), tr("Add a page  (Ctrl+N)"));
    row->addWidget(previous_);
    row->addWidget(page_menu_);
    row->addWidget(next_);
    row->addWidget(add_page_);
    strip_button_ =
        head_button(QStringLiteral("page-strip"), tr("Page strip: the notebook's pages as pictures  (F4)"), true);
    row->addWidget(strip_button_);
    connect(strip_button_, &QToolButton::clicked, this, &MainWindow::show_strip);
    row->addStretch();
    ink_ = head_button(QStringLiteral("ink-leaf"), tr("Only the ink leaf  (F5)"), true);
    both_ = head_button(QStringLiteral("spread"), tr("The spread: both leaves  (F6)"), true);
    text_ = head_button(QStringLiteral("text-leaf"), tr("Only the text leaf  (F7)"), true);
    auto* group = new QButtonGroup(this);
    for (QToolButton* b : {ink_, both_, text_}) {
        group->addButton(b);
        row->addWidget(b);
    }
    row->addStretch();
    export_ = head_button(QStringLiteral("export"), tr("Export as PDF, text or InkML  (Ctrl+E)"));
    export_->setText(tr("Export"));
    export_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    export_->setPopupMode(QToolButton::InstantPopup);
    auto* menu = new QMenu(export_);
    menu->addAction(tr("This page …"), this, [this] { ask_for_export(false); });
    menu->addAction(tr("The whole notebook …"), this, [this] { ask_for_export(true); });
    export_->setMenu(menu);
    export_->setStyleSheet(QStringLiteral("QToolButton::menu-indicator { image: none; }"));
    page_menu_->setStyleSheet(export_->styleSheet());
    settings_ = head_button(QStringLiteral("settings"), tr("Settings  (Ctrl+,)"));
    reading_ =
        head_button(QStringLiteral("reading"), tr("Reading: on, paused or off; languages, words, hand  (Ctrl+R)"));
    reading_->setPopupMode(QToolButton::InstantPopup);
    reading_->setStyleSheet(export_->styleSheet());
    reading_->setMenu(build_reading_menu());
    reading_->setText(tr("Reading"));
    reading_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    type_ = head_button(QStringLiteral("set-in-type"), tr("From ink to type, and back  (Ctrl+T)"));
    type_->setPopupMode(QToolButton::InstantPopup);
    type_->setStyleSheet(export_->styleSheet());
    auto* type_menu = new QMenu(type_);
    const auto set_page = [this](TypePlace place) {
        return [this, place] { session_.typesetting().set_in_type({place}); };
    };
    type_menu->addAction(tr("Set this page in type"), this, set_page(TypePlace::in_place));
    type_menu->addAction(tr("Set it in type beside the ink"), this, set_page(TypePlace::beside));
    type_menu->addAction(tr("Copy this page as text"), this, set_page(TypePlace::clipboard));
    type_menu->addAction(tr("Set the whole notebook in type"), &session_.typesetting(),
                         &TypesettingDesk::set_notebook_in_type);
    type_menu->addSeparator();
    type_menu->addAction(tr("Turn this page back to ink"), this, [this] { session_.typesetting().back_to_ink({}); });
    type_->setMenu(type_menu);
    row->addWidget(type_);
    row->addWidget(reading_);
    row->addWidget(export_);
    row->addWidget(settings_);
    connect(previous_, &QToolButton::clicked, this, [this] { session_.model().open_neighbour(-1); });
    connect(next_, &QToolButton::clicked, this, [this] { session_.model().open_neighbour(1); });
    connect(add_page_, &QToolButton::clicked, &session_.model(), &LibraryModel::add_page);
    connect(ink_, &QToolButton::clicked, this, [this] { show_leaves(Shown::ink); });
    connect(both_, &QToolButton::clicked, this, [this] { show_leaves(Shown::spread); });
    connect(text_, &QToolButton::clicked, this, [this] { show_leaves(Shown::text); });
    connect(settings_, &QToolButton::clicked, this, &MainWindow::show_settings);
    head->hide();
    return head;
}

QMenu* MainWindow::build_page_menu() {
    auto* menu = new QMenu(this);
    menu->addAction(tr("Paper …"), this, &MainWindow::ask_for_paper);
    menu->addAction(tr("Insert a picture …"), this, &MainWindow::ask_for_picture);
    menu->addAction(tr("Insert a divider"), &session_.editing(), &PageEditing::add_divider);
    menu->addSeparator();
    menu->addAction(tr("Duplicate this page"), this, [this] {
        const PageInfo& info = session_.page()->info;
        session_.model().copy_page(info.id, info.notebook, info.number + 1);
    });
    menu->addAction(tr("Move this page to the bin"), this,
                    [this] { session_.model().bin_pages({session_.page()->info.id}); });
    menu->addAction(tr("Move the whole notebook to the bin"), this,
                    [this] { session_.model().bin_notebook(session_.document().notebook().id); });
    menu->addAction(tr("Open the bin …"), this, &MainWindow::show_bin);
    return menu;
}

QMenu* MainWindow::build_reading_menu() {
    auto* menu = new QMenu(this);
    auto* group = new QActionGroup(menu);
    const std::pair<QString, ReadingMode> modes[] = {{tr("Read while writing"), ReadingMode::on},
                                                     {tr("Pause reading"), ReadingMode::paused},
                                                     {tr("Don't read"), ReadingMode::off}};
    for (const auto& [name, mode] : modes) {
        QAction* action = menu->addAction(name, this, [this, mode = mode] { session_.readings().set_mode(mode); });
        action->setCheckable(true);
        group->addAction(action);
        connect(menu, &QMenu::aboutToShow, action,
                [this, action, mode = mode] { action->setChecked(session_.readings().mode() == mode); });
    }
    menu->addSeparator();
    menu->addAction(tr("Read this page now"), &session_.readings(), &ReadingScheduler::read_now);
    menu->addAction(tr("Languages, words and hand …"), this, &MainWindow::ask_how_to_read);
    return menu;
}

QWidget* MainWindow::build_welcome() {
    auto* page = new QWidget;
    page->setObjectName(QStringLiteral("welcome"));
    auto* column = new QVBoxLayout(page);
    column->addStretch(2);
    welcome_mark_ = new QLabel;
    welcome_mark_->setAlignment(Qt::AlignCenter);
    column->addWidget(welcome_mark_);
    welcome_text_ = new QLabel;
    welcome_text_->setAlignment(Qt::AlignCenter);
    welcome_text_->setWordWrap(true);
    column->addWidget(welcome_text_);
    column->addSpacing(18);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch();
    auto* make = new QPushButton(tr("Make a notebook"));
    make->setProperty("primary", true);
    auto* bring = new QPushButton(tr("Import ink, pictures or PDF"));
    bring->setProperty("secondary", true);
    buttons->addWidget(make);
    buttons->addSpacing(8);
    buttons->addWidget(bring);
    buttons->addStretch();
    column->addLayout(buttons);
    column->addStretch(3);
    connect(make, &QPushButton::clicked, this, &MainWindow::ask_for_notebook);
    connect(bring, &QPushButton::clicked, this, &MainWindow::ask_for_import);
    return page;
}

void MainWindow::add_shortcuts() {
    const auto key = [this](const QKeySequence& keys, auto slot) {
        connect(new QShortcut(keys, this), &QShortcut::activated, this, slot);
    };
    key(QKeySequence::Undo, [this] { showing_intake() ? session_.intake().undo() : session_.editing().undo(); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), [this] { session_.editing().redo(); });
    key(QKeySequence(Qt::CTRL | Qt::Key_F), [this] {
        notebook_list_->find_field()->setFocus(Qt::ShortcutFocusReason);
        notebook_list_->find_field()->selectAll();
    });
    key(QKeySequence(Qt::CTRL | Qt::Key_N), [this] { session_.model().add_page(); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_N), [this] { ask_for_notebook(); });
    key(QKeySequence(Qt::CTRL | Qt::Key_I), [this] { ask_for_import(); });
    key(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_I), [this] { show_intake(!showing_intake()); });
    key(QKeySequence(Qt::CTRL | Qt::Key_E), [this] {
        if (session_.page()) export_->showMenu();
    });
    key(QKeySequence(Qt::CTRL | Qt::Key_R), [this] { ask_how_to_read(); });
    key(QKeySequence(Qt::CTRL | Qt::Key_T), [this] {
        if (!session_.page()) return;
        if (spread_->ink()->selection().chosen().strokes.empty())
            type_->showMenu();
        else
            spread_->ink()->choosing().set_in_type(TypePlace::in_place);
    });
    key(QKeySequence(Qt::CTRL | Qt::Key_Comma), [this] { show_settings(); });
    key(QKeySequence(Qt::Key_F1), [this] { show_proof_sheet(); });
    key(QKeySequence(Qt::Key_F3), [this] { spread_->show_lens(!spread_->lens()->isVisible()); });
    // Of the lens, and so without effect while it is closed.
    const auto lens = [this](int code, auto move) {
        auto* shortcut = new QShortcut(QKeySequence(Qt::ALT | code), spread_->lens());
        connect(shortcut, &QShortcut::activated, this, [this, move] { move(*spread_->lens()); });
    };
    lens(Qt::Key_Left, [](LineLens& l) { l.move_on(-1); });
    lens(Qt::Key_Right, [](LineLens& l) { l.move_on(1); });
    lens(Qt::Key_Up, [](LineLens& l) { l.previous_line(); });
    lens(Qt::Key_Down, [](LineLens& l) { l.next_line(); });
    key(QKeySequence(Qt::Key_F4), [this] { show_strip(!strip_shown_); });
    key(QKeySequence(Qt::CTRL | Qt::Key_0), [this] { spread_->ink()->fit_width(); });
    key(QKeySequence(Qt::Key_PageUp), [this] { session_.model().open_neighbour(-1); });
    key(QKeySequence(Qt::Key_PageDown), [this] { session_.model().open_neighbour(1); });
    key(QKeySequence(Qt::Key_F5), [this] { show_leaves(Shown::ink); });
    key(QKeySequence(Qt::Key_F6), [this] { show_leaves(Shown::spread); });
    key(QKeySequence(Qt::Key_F7), [this] { show_leaves(Shown::text); });
    key(QKeySequence(Qt::Key_F8), [this] { spread_->text()->go_on_checking(); });
    key(QKeySequence(Qt::Key_F9), [this] { set_dark(!theme().dark); });
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

void MainWindow::show_leaves(Shown shown) {
    spread_->show_leaves(shown);
    (shown == Shown::ink ? ink_ : shown == Shown::text ? text_ : both_)->setChecked(true);
}

void MainWindow::show_strip(bool shown) {
    strip_shown_ = shown;
    strip_->setVisible(shown);
    strip_button_->setChecked(shown);
    if (shown) strip_->setFocus();
}

void MainWindow::show_settings() {
    auto* dialog = new SettingsDialog(session_, *spread_->tray(), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &SettingsDialog::look_chosen, this, &MainWindow::set_dark);
    connect(dialog, &SettingsDialog::reading_wanted, this, &MainWindow::ask_how_to_read);
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
    if (!session_.page() || !session_.editing().may_change()) return;
    auto* dialog = new PaperDialog(session_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void MainWindow::ask_for_picture() {
    if (!session_.page() || !session_.editing().may_change()) return;
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
    const Theme& t = theme();
    for (QToolButton* b : {previous_, next_, add_page_, ink_, both_, text_, strip_button_, type_, export_, settings_})
        b->setIcon(icon(b->property("icon_name").toString()));
    page_menu_->setIcon(icon(QStringLiteral("chevron")));
    strip_->restyle();
    show_mode();
    head_->setStyleSheet(QStringLiteral("#head { background: %1; }").arg(t.desk.name()));
    head_->setAttribute(Qt::WA_StyledBackground);
    stack_->widget(0)->setStyleSheet(QStringLiteral("#welcome { background: %1; }").arg(t.desk.name()));
    stack_->widget(0)->setAttribute(Qt::WA_StyledBackground);
    welcome_mark_->setPixmap(icon(QStringLiteral("fern")).pixmap(48, 48, QIcon::Normal, QIcon::On));
    welcome_text_->setText(
        tr("<p style=\"font-family:'%1'; font-size:26px; font-weight:600; color:%2\">No notebooks yet</p>"
           "<p style=\"font-size:14px; color:%3\">A notebook's pages have two leaves: on the ink leaf you write,<br>"
           "on the text leaf beside it stands what it says, ready to be found and taken away.</p>")
            .arg(kTextFace, t.text.name(), t.quiet_text.name()));
    notebook_list_->restyle();
    spread_->restyle();
    intake_->restyle();
    notice_->restyle();
    update();
}

void MainWindow::show_mode() {
    const ReadingMode mode = session_.readings().mode();
    reading_->setIcon(icon(mode == ReadingMode::on ? QStringLiteral("reading") : QStringLiteral("pause")));
    reading_->setText(mode == ReadingMode::on       ? tr("Reading")
                      : mode == ReadingMode::paused ? tr("Paused")
                                                    : tr("Not read"));
}

void MainWindow::update_head() {
    const Page* page = session_.page();
    if (!page) return;
    title_->setText(QString::fromStdString(session_.document().notebook().title));
    page_menu_->setText(tr("page %1 of %2").arg(page->info.number).arg(session_.document().pages_in_notebook()));
    previous_->setEnabled(page->info.number > 1);
    next_->setEnabled(page->info.number < session_.document().pages_in_notebook());
    setWindowTitle(tr("%1 · page %2 – Fernleaf")
                       .arg(QString::fromStdString(session_.document().notebook().title))
                       .arg(page->info.number));
}

void MainWindow::ask_for_notebook() {
    NotebookDialog dialog(session_.readings().languages(), this);
    if (dialog.exec() == QDialog::Accepted) session_.model().add_notebook(dialog.notebook());
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
        tr("Ink, pictures and PDF (*.inkml *.png *.jpg *.jpeg *.tif *.tiff *.webp *.pdf);;All files (*)"));
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

void MainWindow::show_intake(bool shown) {
    if (shown) {
        stack_->setCurrentIndex(2);
        head_->hide();
        intake_->list()->setFocus();
        session_.intake().open();
        return;
    }
    stack_->setCurrentIndex(session_.page() ? 1 : 0);
    head_->setVisible(session_.page() != nullptr);
    if (session_.page())
        spread_->ink()->setFocus();
    else
        session_.model().refresh();  // opens what there is
}

void MainWindow::ask_for_export(bool whole_notebook) {
    if (!session_.page()) return;
    const QString name = QString::fromStdString(session_.document().notebook().title) +
                         (whole_notebook ? QString() : tr(", page %1").arg(session_.page()->info.number));
    QString chosen;
    const QStringList filters = {tr("PDF with searchable handwriting (*.pdf)"), tr("Plain text (*.txt)"),
                                 tr("Digital ink, InkML (*.inkml)")};
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
