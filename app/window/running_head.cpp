#include "window/running_head.h"

#include <QActionGroup>
#include <QButtonGroup>
#include <QHBoxLayout>
#include <QMenu>
#include <QPointer>
#include <QResizeEvent>
#include <utility>

#include "look/elided_label.h"
#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr int kNarrowPx = 760;

}  // namespace

RunningHead::RunningHead(Session& session, QWidget* parent) : QWidget(parent), session_(session) {
    setObjectName(QStringLiteral("head"));
    setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(22, 8, 14, 8);
    row->setSpacing(4);
    title_ = new ElidedLabel;
    QFont font(kTextFace);
    font.setPixelSize(19);
    font.setWeight(QFont::DemiBold);
    title_->setFont(font);
    row->addWidget(title_);
    row->addSpacing(10);
    previous_ = add_button(QStringLiteral("previous"), tr("Previous page  (Page Up)"));
    page_ = add_menu(QStringLiteral("chevron"), tr("Page menu"), page_menu());
    page_->setObjectName(QStringLiteral("pageMenu"));
    page_->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    page_->setLayoutDirection(Qt::RightToLeft);  // the arrow after the words
    page_->setIconSize({12, 12});
    next_ = add_button(QStringLiteral("next"), tr("Next page  (Page Down)"));
    auto* add_page = add_button(QStringLiteral("add-page"), tr("Add a page  (Ctrl+N)"));
    strip_ = add_button(QStringLiteral("page-strip"), tr("Page strip: the notebook's pages as pictures  (F4)"), true);
    row->addStretch();
    ink_ = add_button(QStringLiteral("ink-leaf"), tr("Only the ink leaf  (F5)"), true);
    both_ = add_button(QStringLiteral("spread"), tr("The spread: both leaves  (F6)"), true);
    text_ = add_button(QStringLiteral("text-leaf"), tr("Only the text leaf  (F7)"), true);
    auto* leaves = new QButtonGroup(this);
    for (QToolButton* b : {ink_, both_, text_}) leaves->addButton(b);
    row->addStretch();
    type_ = add_menu(QStringLiteral("set-in-type"), tr("From ink to type, and back  (Ctrl+T)"), type_menu());
    record_ = add_button(QStringLiteral("record"), tr("Record a voice track  (Ctrl+Shift+R)"), true);
    record_->setObjectName(QStringLiteral("recordButton"));
    reading_ = add_menu(QStringLiteral("reading"), tr("Reading: on, paused or off; languages, words, hand  (Ctrl+R)"),
                        reading_menu(), tr("Reading"));
    export_ = add_menu(QStringLiteral("export"), tr("Export or mail  (Ctrl+E)"), export_menu(), tr("Export"));
    auto* settings = add_button(QStringLiteral("settings"), tr("Settings  (Ctrl+,)"));

    connect(previous_, &QToolButton::clicked, this, [this] { session_.model().open_neighbour(-1); });
    connect(next_, &QToolButton::clicked, this, [this] { session_.model().open_neighbour(1); });
    connect(add_page, &QToolButton::clicked, &session_.model(), &LibraryModel::add_page);
    connect(strip_, &QToolButton::clicked, this, &RunningHead::strip_wanted);
    connect(ink_, &QToolButton::clicked, this, [this] { emit leaves_wanted(Shown::ink); });
    connect(both_, &QToolButton::clicked, this, [this] { emit leaves_wanted(Shown::spread); });
    connect(text_, &QToolButton::clicked, this, [this] { emit leaves_wanted(Shown::text); });
    connect(record_, &QToolButton::clicked, this, [this] {
        session_.recording().toggle();
        record_->setChecked(session_.recording().recording());  // also when there is no microphone
    });
    connect(&session_.recording(), &RecordingDesk::changed, this,
            [this] { record_->setChecked(session_.recording().recording()); });
    connect(settings, &QToolButton::clicked, this, &RunningHead::settings_wanted);
    connect(&session_.document(), &PageDocument::undo_state_changed, this, &RunningHead::show_page);
    connect(&session_.readings(), &ReadingScheduler::mode_changed, this, &RunningHead::show_mode);
    hide();
}

QToolButton* RunningHead::add_button(const QString& icon_name, const QString& tip, bool switchable) {
    auto* button = new QToolButton;
    button->setProperty("icon_name", icon_name);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setCheckable(switchable);
    button->setIconSize({22, 22});
    layout()->addWidget(button);
    return button;
}

QToolButton* RunningHead::add_menu(const QString& icon_name, const QString& tip, QMenu* menu, const QString& text) {
    QToolButton* button = add_button(icon_name, tip);
    button->setPopupMode(QToolButton::InstantPopup);
    button->setMenu(menu);
    if (text.isEmpty()) return button;
    button->setText(text);
    button->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
    return button;
}

QMenu* RunningHead::page_menu() {
    auto* menu = new QMenu(this);
    menu->setLayoutDirection(layoutDirection());  // not that of its button, whose arrow stands behind the words
    menu->addAction(tr("Paper …"), this, &RunningHead::paper_wanted);
    menu->addAction(tr("Templates …"), this, &RunningHead::templates_wanted);
    menu->addAction(tr("Insert a picture …"), this, &RunningHead::picture_wanted);
    menu->addAction(tr("Insert a formula …"), this, &RunningHead::formula_wanted);
    menu->addAction(tr("Insert a table"), &session_.editing(), &PageEditing::add_table);
    menu->addAction(tr("Insert a divider"), &session_.editing(), &PageEditing::add_divider);
    menu->addAction(tr("Attach a file …"), this, &RunningHead::attachment_wanted);
    menu->addSeparator();
    menu->addAction(tr("Copy a link to this page"), this, &RunningHead::link_wanted);
    linked_from_ = menu->addMenu(tr("Linked from"));
    connect(menu, &QMenu::aboutToShow, this, &RunningHead::find_links);
    menu->addSeparator();
    menu->addAction(tr("History …"), this, &RunningHead::history_wanted);
    menu->addAction(tr("Replay this page") + QStringLiteral("\tAlt+R"), this,
                    [this] { session_.listening().replay_page(); });
    menu->addAction(tr("Duplicate this page"), this, [this] {
        const PageInfo& info = session_.page()->info;
        session_.model().copy_page(info.id, info.notebook, info.number + 1);
    });
    QAction* away =
        menu->addAction(QString(), this, [this] { session_.model().bin_pages({session_.page()->info.id}); });
    connect(menu, &QMenu::aboutToShow, away, [this, away] {
        away->setText(session_.document().sheaf() ? tr("Take this page out of the sheaf")
                                                  : tr("Move this page to the bin"));
    });
    menu->addAction(tr("Move the whole notebook to the bin"), this,
                    [this] { session_.model().bin_notebook(session_.document().notebook().id); });
    QAction* archive = menu->addAction(QString(), this, [this] {
        const Notebook& notebook = session_.document().notebook();
        session_.model().archive_notebook(notebook.id, !notebook.archived);
    });
    archive->setObjectName(QStringLiteral("archive"));
    connect(menu, &QMenu::aboutToShow, archive, [this, archive] {
        archive->setEnabled(!session_.read_only());
        archive->setText(session_.document().notebook().archived ? tr("Take this notebook out of the archive")
                                                                 : tr("Archive this notebook"));
    });
    menu->addAction(tr("Open the bin …"), this, &RunningHead::bin_wanted);
    return menu;
}

QMenu* RunningHead::type_menu() {
    auto* menu = new QMenu(this);
    const auto set_page = [this](TypePlace place) {
        return [this, place] { session_.typesetting().set_in_type({place}); };
    };
    menu->addAction(tr("Set this page in type"), this, set_page(TypePlace::in_place));
    menu->addAction(tr("Set it in type beside the ink"), this, set_page(TypePlace::beside));
    menu->addAction(tr("Copy this page as text"), this, set_page(TypePlace::clipboard));
    menu->addAction(tr("Copy this page as a table"), &session_.typesetting(), &TypesettingDesk::copy_table);
    menu->addAction(tr("Set the whole notebook in type"), &session_.typesetting(),
                    &TypesettingDesk::set_notebook_in_type);
    menu->addSeparator();
    menu->addAction(tr("Draw this page fair"), this, [this] { session_.drawing().draw_fair({}); });
    menu->addAction(tr("Draw the whole notebook fair"), &session_.drawing(), &DrawingDesk::draw_notebook_fair);
    QMenu* drawing = menu->addMenu(tr("Draw fair automatically"));
    for (const auto& [when, name] :
         {std::pair(FairWhileDrawing::off, tr("Off")),
          std::pair(FairWhileDrawing::pen_lifted, tr("When the pen pauses")),
          std::pair(FairWhileDrawing::pen_rested, tr("When the pen is held still at the end of a stroke"))}) {
        QAction* action =
            drawing->addAction(name, this, [this, when = when] { session_.drawing().set_while_drawing(when); });
        action->setCheckable(true);
        connect(drawing, &QMenu::aboutToShow, action,
                [this, action, when = when] { action->setChecked(session_.drawing().while_drawing() == when); });
    }
    menu->addSeparator();
    menu->addAction(tr("Turn this page back to ink"), this, [this] { session_.typesetting().back_to_ink({}); });
    return menu;
}

QMenu* RunningHead::reading_menu() {
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
    menu->addAction(tr("Languages, words, hand and math …"), this, &RunningHead::reading_wanted);
    return menu;
}

QMenu* RunningHead::export_menu() {
    auto* menu = new QMenu(this);
    menu->addAction(tr("This page …"), this, [this] { emit export_wanted(false); });
    menu->addAction(tr("The whole notebook …"), this, [this] { emit export_wanted(true); });
    menu->addAction(tr("The whole notebook as a bundle …"), this, &RunningHead::bundle_wanted);
    menu->addSeparator();
    menu->addAction(tr("Mail this page …"), this, &RunningHead::mail_wanted);
    return menu;
}

// Listed as soon as they are found.
void RunningHead::find_links() {
    linked_from_->clear();
    linked_from_->setEnabled(false);
    if (!session_.page()) return;
    session_.cards().find_linked_from(session_.page()->info.id, [self = QPointer(this)](
                                                                    const std::vector<PagePlace>& places) {
        if (!self) return;
        for (const PagePlace& place : places) {
            const QString where =
                tr("%1, page %2").arg(QString::fromStdString(place.notebook_title)).arg(place.page_number);
            self->linked_from_->addAction(where, self, [self, page = place.page] { self->session_.open_page(page); });
        }
        self->linked_from_->setEnabled(!places.empty());
    });
}

void RunningHead::show_leaves(Shown shown) {
    (shown == Shown::ink ? ink_ : shown == Shown::text ? text_ : both_)->setChecked(true);
}

void RunningHead::show_page() {
    const Page* page = session_.page();
    if (!page) return;
    const auto& sheaf = session_.document().sheaf();
    const QString own = QString::fromStdString(session_.document().notebook().title);
    const int number = sheaf ? sheaf->number : page->info.number;
    const int pages = sheaf ? sheaf->pages : session_.document().pages_in_notebook();
    title_->setText(sheaf ? QString::fromStdString(sheaf->title) : own);
    title_->setToolTip(sheaf ? tr("This page is from %1, page %2").arg(own).arg(page->info.number) : QString());
    page_->setText(tr("page %1 of %2").arg(number).arg(pages));
    page_->setMinimumWidth(page_->sizeHint().width());  // it is said in narrow windows, too
    previous_->setEnabled(number > 1);
    next_->setEnabled(number < pages);
}

void RunningHead::show_mode() {
    const ReadingMode mode = session_.readings().mode();
    reading_->setIcon(icon(mode == ReadingMode::on ? QStringLiteral("reading") : QStringLiteral("pause")));
    reading_->setText(mode == ReadingMode::on       ? tr("Reading")
                      : mode == ReadingMode::paused ? tr("Paused")
                                                    : tr("Not read"));
}

// Where the window is narrow, buttons stand closer together, so that the page's number is still said.
void RunningHead::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    const bool narrow = event->size().width() < kNarrowPx;
    if (std::exchange(narrow_, narrow) == narrow) return;
    for (QToolButton* b : {reading_, export_})
        b->setToolButtonStyle(narrow ? Qt::ToolButtonIconOnly : Qt::ToolButtonTextBesideIcon);
    restyle();
}

void RunningHead::restyle() {
    setStyleSheet(QStringLiteral("#head { background: %1; } #head > QToolButton::menu-indicator { image: none; } %2")
                      .arg(theme().desk.name(),
                           narrow_ ? QStringLiteral("#head > QToolButton { padding: 4px 3px; }") : QString()));
    for (auto* button : findChildren<QToolButton*>(Qt::FindDirectChildrenOnly))
        button->setIcon(icon(button->property("icon_name").toString()));
    show_mode();
}

}  // namespace fernleaf
