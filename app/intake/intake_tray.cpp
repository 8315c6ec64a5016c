#include "intake/intake_tray.h"

#include <QApplication>
#include <QClipboard>
#include <QDir>
#include <QFileDialog>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMenu>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include "intake/camera_dialog.h"
#include "intake/scan_dialog.h"
#include "look/dialog_parts.h"
#include "look/theme.h"
#include "look/wrap_row.h"
#include "paper/picture_file.h"

namespace fernleaf {
namespace {

constexpr int kListPx = 216, kLeastListPx = 150;

QString faults_of(const IntakeEntry& entry) {
    QStringList out;
    if (!entry.failure.empty())
        out << IntakeTray::tr(
                   "This picture could not be processed. %1 Choose “Find the sheet” to try again, or file it as it is.")
                   .arg(QString::fromStdString(entry.failure));
    const Faults& faults = entry.faults;
    if (faults.no_sheet)
        out << IntakeTray::tr("No sheet was found. Drag the corners to those of the sheet, or file the whole picture.");
    if (faults.blurred) out << IntakeTray::tr("The picture is blurred. Hold still and take it again if you can.");
    if (faults.low_resolution)
        out << IntakeTray::tr("The writing is too small in the picture. Move closer, or scan at 200 dpi or more.");
    if (faults.glare)
        out << IntakeTray::tr(
            "Light washes out part of the sheet. Take the picture from another angle, without flash.");
    if (faults.screen) out << IntakeTray::tr("This looks like a picture of a screen. A screenshot is easier to read.");
    if (faults.creased)
        out << IntakeTray::tr("The sheet is crumpled. Flatten it and take the picture again if words are misread.");
    return out.join(QStringLiteral("\n"));
}

// Under the entry's picture: the fault that matters most.
QString first_fault(const Faults& faults) {
    if (faults.no_sheet) return IntakeTray::tr("\n⚠ no sheet found");
    if (faults.blurred) return IntakeTray::tr("\n⚠ blurred");
    if (faults.glare) return IntakeTray::tr("\n⚠ glare");
    if (faults.low_resolution) return IntakeTray::tr("\n⚠ few pixels");
    return faults.screen ? IntakeTray::tr("\n⚠ picture of a screen") : IntakeTray::tr("\n⚠ crumpled");
}

}  // namespace

IntakeTray::IntakeTray(IntakeDesk& desk, QWidget* parent) : QWidget(parent), desk_(desk) {
    setObjectName(QStringLiteral("intake"));
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(22, 12, 18, 14);
    column->setSpacing(10);
    auto* head = new QHBoxLayout;
    title_ = dialog_heading(tr("Intake tray"));
    says_ = remark({});
    says_->setWordWrap(false);
    head->addWidget(title_);
    head->addSpacing(10);
    head->addWidget(says_);
    head->addStretch();
    progress_ = new QProgressBar;
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    progress_->setFixedSize(140, 6);
    progress_->hide();
    cancel_ = tool(QStringLiteral("close"), tr("Stop; sheets not looked at yet stay in the tray"));
    cancel_->hide();
    head->addWidget(progress_);
    head->addWidget(cancel_);
    head->addSpacing(8);
    auto* bring = new QPushButton(tr("Bring in"));
    auto* back = new QPushButton(tr("Back to the pages"));
    for (QPushButton* b : {bring, back}) {
        b->setProperty("secondary", true);
        head->addWidget(b);
    }
    auto* ways = new QMenu(bring);
    ways->addAction(tr("Files …"), this, &IntakeTray::files_wanted);
    ways->addAction(tr("The picture on the clipboard"), this, [this] { bring_clipboard(); });
    ways->addAction(tr("Scan sheets …"), this, [this] {
        ScanDialog dialog(desk_, window());
        if (dialog.exec() == QDialog::Accepted) desk_.scan(dialog.wish());
    });
    ways->addAction(tr("Document camera …"), this, [this] {
        CameraDialog dialog(desk_, usual_cameras(), window());
        dialog.exec();
    });
    ways->addSeparator();
    watch_ = ways->addAction({}, this, [this] {
        if (!desk_.watched().isEmpty()) return desk_.watch({});
        const QString folder = QFileDialog::getExistingDirectory(this, tr("Folder to watch for new pictures"));
        if (!folder.isEmpty()) desk_.watch(folder);
    });
    bring->setMenu(ways);
    column->addLayout(head);

    auto* row = new QHBoxLayout;
    row->setSpacing(14);
    list_ = new QListWidget;
    list_->setMinimumWidth(kLeastListPx);
    list_->setMaximumWidth(kListPx);
    list_->setIconSize({64, 84});
    list_->setSpacing(2);
    list_->setWordWrap(true);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    list_->setEditTriggers(QAbstractItemView::EditKeyPressed);
    list_->setAccessibleName(tr("Sheets in the tray"));
    row->addWidget(list_, 1);
    auto* work = new QVBoxLayout;
    work->setSpacing(8);
    pair_ = new QWidget;
    auto* pair = new QHBoxLayout(pair_);
    pair->setContentsMargins(0, 0, 0, 0);
    pair->setSpacing(14);
    const auto side = [&](const QString& name, QWidget* what) {
        auto* one = new QVBoxLayout;
        one->setSpacing(4);
        one->addWidget(remark(name));
        one->addWidget(what, 1);
        pair->addLayout(one, 1);
    };
    corners_ = new CornerEditor;
    page_ = new QLabel;
    page_->setAlignment(Qt::AlignCenter);
    page_->setMinimumSize(200, 200);
    page_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Ignored);
    page_->setAccessibleName(tr("The finished page"));
    side(tr("As it came"), corners_);
    side(tr("As a page"), page_);
    work->addWidget(pair_, 1);
    warning_ = new QLabel;
    warning_->setWordWrap(true);
    work->addWidget(warning_);
    work->addWidget(build_tools());
    row->addLayout(work, 3);
    column->addLayout(row, 1);
    empty_ =
        remark(tr("The tray is empty.\n\nAdd photographs or scans, or drop files on the window. Fernleaf finds and "
                  "straightens the sheets in them; nothing is filed until you say so."));
    empty_->setAlignment(Qt::AlignCenter);
    column->addWidget(empty_, 1);

    connect(back, &QPushButton::clicked, this, &IntakeTray::left);
    connect(cancel_, &QToolButton::clicked, &desk_, &IntakeDesk::cancel);
    connect(&desk_, &IntakeDesk::changed, this, &IntakeTray::update_list);
    connect(&desk_, &IntakeDesk::shown, this, &IntakeTray::show_entry);
    connect(&desk_, &IntakeDesk::progress, this, [this](const QString& label, double part) {
        progress_->setVisible(!label.isEmpty());
        cancel_->setVisible(!label.isEmpty());
        progress_->setToolTip(label);
        progress_->setValue(static_cast<int>(1000 * part));
    });
    connect(list_, &QListWidget::currentItemChanged, this, [this](QListWidgetItem* item) {
        if (!filling_ && item) choose(item->data(Qt::UserRole).toLongLong());
    });
    connect(list_, &QListWidget::itemSelectionChanged, this, &IntakeTray::update_tools);
    connect(list_, &QListWidget::itemChanged, this, [this](QListWidgetItem* item) {
        if (!filling_) desk_.rename(item->data(Qt::UserRole).toLongLong(), item->text().section('\n', 0, 0));
    });
    connect(corners_, &CornerEditor::outline_changed, this, [this](const SheetOutline& outline) {
        change([&](IntakeEntry& e) {
            e.treatment.outline = outline;
            if (e.treatment.look == Look::original) e.treatment.look = Look::clean;
        });
    });
    update_list();
}

QToolButton* IntakeTray::tool(const QString& icon_name, const QString& tip) {
    auto* button = new QToolButton;
    button->setProperty("icon_name", icon_name);
    button->setToolTip(tip);
    button->setAccessibleName(tip);
    button->setIconSize({22, 22});
    tools_.push_back(button);
    return button;
}

QWidget* IntakeTray::build_tools() {
    auto* box = new QWidget;
    auto* rows = new QVBoxLayout(box);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(8);
    look_ = new QComboBox;
    look_->addItem(tr("Clean, inks in their colours"), static_cast<int>(Look::clean));
    look_->addItem(tr("Grey"), static_cast<int>(Look::grey));
    look_->addItem(tr("Black and white"), static_cast<int>(Look::black_white));
    look_->addItem(tr("As it came"), static_cast<int>(Look::original));
    look_->setAccessibleName(tr("How the page looks"));
    rules_ = new QCheckBox(tr("Remove rules and holes"));
    dpi_ = new QComboBox;
    for (const int dpi : {100, 150, kUsualDpi, 300, 400, kMostDpi}) dpi_->addItem(tr("%1 dots an inch").arg(dpi), dpi);
    dpi_->setAccessibleName(tr("Resolution of the PDF page"));
    dpi_->setToolTip(dpi_->accessibleName());
    dpi_->hide();
    left_turn_ = tool(QStringLiteral("turn-left"), tr("Turn to the left"));
    right_turn_ = tool(QStringLiteral("turn-right"), tr("Turn to the right"));
    angle_ = new QDoubleSpinBox;
    angle_->setRange(-45, 45);
    angle_->setSingleStep(0.5);
    angle_->setDecimals(1);
    angle_->setSuffix(tr("°"));
    angle_->setAccessibleName(tr("Fine rotation, clockwise"));
    angle_->setKeyboardTracking(false);
    undo_ = tool(QStringLiteral("undo"), tr("Undo in the tray  (Ctrl+Z)"));
    whole_ = new QPushButton(tr("Whole picture"));
    again_ = new QPushButton(tr("Find the sheet"));
    all_alike_ = new QPushButton(tr("Apply this look to all"));
    for (QPushButton* b : {whole_, again_, all_alike_}) b->setProperty("secondary", true);
    auto* turns = new QWidget;  // they stay together
    auto* turning = new QHBoxLayout(turns);
    turning->setContentsMargins(0, 0, 0, 0);
    for (QWidget* w : std::initializer_list<QWidget*>{left_turn_, right_turn_, angle_}) turning->addWidget(w);
    auto* tools = new WrapRow(8);
    for (QWidget* w : std::initializer_list<QWidget*>{look_, rules_, dpi_, turns, again_, whole_, all_alike_, undo_})
        tools->addWidget(w);
    rows->addLayout(tools);
    discard_ = new QPushButton(tr("Discard"));
    notebook_ = new QComboBox;
    notebook_->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    notebook_->setMinimumContentsLength(14);
    notebook_->setAccessibleName(tr("Notebook to file in"));
    file_ = new QPushButton(tr("File this"));
    together_ = new QPushButton(tr("On one page"));
    together_->setToolTip(tr("File the chosen sheets side by side on one page"));
    merge_ = new QPushButton(tr("Merge"));
    merge_->setToolTip(tr("Merge the chosen sheets into one"));
    for (QPushButton* b : {discard_, file_, together_, merge_}) b->setProperty("secondary", true);
    file_all_ = new QPushButton(tr("File all"));
    file_all_->setProperty("primary", true);
    auto* into = remark(tr("File in"));
    into->setWordWrap(false);
    auto* last = new WrapRow(8);
    for (QWidget* w : std::initializer_list<QWidget*>{into, notebook_, file_all_, file_, together_, merge_, discard_})
        last->addWidget(w);
    rows->addLayout(last);

    connect(look_, &QComboBox::activated, this, [this] {
        change([&](IntakeEntry& e) { e.treatment.look = static_cast<Look>(look_->currentData().toInt()); });
    });
    connect(rules_, &QCheckBox::clicked, this,
            [this](bool on) { change([&](IntakeEntry& e) { e.treatment.without_rules = on; }); });
    connect(dpi_, &QComboBox::activated, this, [this] {
        change([&](IntakeEntry& e) {
            const auto dpi_of = [](const Treatment& t) { return t.dpi == 0 ? kUsualDpi : t.dpi; };
            const double before = dpi_of(e.treatment);
            const int wanted = dpi_->currentData().toInt();
            e.treatment.dpi = wanted == kUsualDpi ? 0 : wanted;
            if (e.treatment.outline) e.treatment.outline = scaled(*e.treatment.outline, dpi_of(e.treatment) / before);
        });
    });
    connect(left_turn_, &QToolButton::clicked, this, [this] { turn(3); });
    connect(right_turn_, &QToolButton::clicked, this, [this] { turn(1); });
    connect(angle_, &QDoubleSpinBox::valueChanged, this, [this](double degrees) {
        if (!filling_) change([&](IntakeEntry& e) { e.treatment.turn_deg = degrees; });
    });
    connect(whole_, &QPushButton::clicked, this,
            [this] { change([](IntakeEntry& e) { e.treatment.outline.reset(); }); });
    connect(again_, &QPushButton::clicked, this, [this] {
        if (chosen()) desk_.find_again(chosen()->id);
    });
    connect(all_alike_, &QPushButton::clicked, this, [this] {
        if (chosen()) desk_.look_like(chosen()->id);
    });
    connect(undo_, &QToolButton::clicked, &desk_, &IntakeDesk::undo);
    connect(discard_, &QPushButton::clicked, this, [this] { desk_.discard(chosen_ids()); });
    const auto file = [this](const std::vector<IntakeId>& ids, Filing filing = Filing::apart) {
        const NotebookId notebook = notebook_->currentData().toLongLong();
        if (notebook == 0) return emit notebook_wanted();
        desk_.file(ids, notebook, filing);
    };
    connect(file_, &QPushButton::clicked, this, [this, file] { file(chosen_ids()); });
    connect(together_, &QPushButton::clicked, this, [this, file] { file(chosen_ids(), Filing::on_one_page); });
    connect(merge_, &QPushButton::clicked, this, [this] {
        const std::vector<IntakeId> parts = chosen_ids();
        desk_.merge(parts);
        for (int i = 0; i < list_->count(); ++i)
            if (list_->item(i)->data(Qt::UserRole).toLongLong() == parts.front())
                list_->setCurrentRow(i, QItemSelectionModel::ClearAndSelect);
    });
    connect(file_all_, &QPushButton::clicked, this, [this, file] {
        std::vector<IntakeId> all;
        for (const IntakeEntry& e : desk_.entries()) all.push_back(e.id);
        file(all);
    });
    return box;
}

void IntakeTray::set_notebooks(const std::vector<Notebook>& notebooks, NotebookId proposed) {
    const NotebookId before = notebook_->currentData().toLongLong();
    notebook_->clear();
    for (const Notebook& n : notebooks) notebook_->addItem(QString::fromStdString(n.title), QVariant::fromValue(n.id));
    notebook_->addItem(tr("New notebook …"), QVariant::fromValue(NotebookId{0}));
    int at = notebook_->findData(QVariant::fromValue(before != 0 ? before : proposed));
    if (at < 0) at = notebook_->findData(QVariant::fromValue(proposed));
    notebook_->setCurrentIndex(std::max(0, at));
}

const IntakeEntry* IntakeTray::chosen() const {
    const QListWidgetItem* item = list_->currentItem();
    return item ? desk_.entry(item->data(Qt::UserRole).toLongLong()) : nullptr;
}

std::vector<IntakeId> IntakeTray::chosen_ids() const {
    std::vector<IntakeId> out;
    for (int i = 0; i < list_->count(); ++i)
        if (list_->item(i)->isSelected()) out.push_back(list_->item(i)->data(Qt::UserRole).toLongLong());
    return out;
}

void IntakeTray::fill(QListWidgetItem& item, const Listed& listed) {
    const IntakeEntry& e = listed.entry;
    const QString faults = faults_of(e);
    QString text = QString::fromStdString(e.name);
    if (!e.failure.empty())
        text += tr("\n⚠ could not be processed");
    else if (!e.looked_at)
        text += tr("\nnot looked at yet");
    else if (!faults.isEmpty())
        text += first_fault(e.faults);
    item.setText(text);
    item.setToolTip(faults);
    item.setData(Qt::UserRole, QVariant::fromValue(e.id));
    item.setFlags(Qt::ItemIsSelectable | Qt::ItemIsEnabled | Qt::ItemIsEditable);
    if (listed.thumbnail.isNull()) return item.setIcon(no_picture_);
    QIcon picture(QPixmap::fromImage(listed.thumbnail));
    picture.addPixmap(QPixmap::fromImage(listed.thumbnail), QIcon::Selected);  // not tinted
    item.setIcon(picture);
}

void IntakeTray::update_list() {
    filling_ = true;
    const IntakeEntry* before = chosen();
    const IntakeId was = before ? before->id : 0;
    const std::vector<IntakeId> selected = chosen_ids();
    const int row_before = list_->currentRow();
    const auto& entries = desk_.entries();
    while (list_->count() > static_cast<int>(entries.size())) delete list_->takeItem(list_->count() - 1);
    int row = -1;
    bool others = false;
    listed_.resize(entries.size());
    for (size_t i = 0; i < entries.size(); ++i) {
        const IntakeEntry& e = entries[i];
        if (e.id == was) row = static_cast<int>(i);
        // Of hundreds one has changed, as a rule.
        Listed now{e, desk_.thumbnail(e.id)};
        if (listed_[i].entry == e && listed_[i].thumbnail.cacheKey() == now.thumbnail.cacheKey()) continue;
        others = others || listed_[i].entry.id != e.id;
        listed_[i] = std::move(now);
        const bool fresh = static_cast<int>(i) == list_->count();
        QListWidgetItem* item = fresh ? new QListWidgetItem : list_->item(static_cast<int>(i));
        fill(*item, listed_[i]);
        if (fresh) list_->addItem(item);
    }
    if (others)
        for (size_t i = 0; i < entries.size(); ++i)
            list_->item(static_cast<int>(i))->setSelected(std::ranges::find(selected, entries[i].id) != selected.end());
    if (row < 0 && !entries.empty()) row = std::clamp(row_before, 0, static_cast<int>(entries.size()) - 1);
    const bool moved = row >= 0 && entries[static_cast<size_t>(row)].id != was;
    if (row >= 0) {
        list_->setCurrentRow(row, moved ? QItemSelectionModel::ClearAndSelect : QItemSelectionModel::NoUpdate);
        if (list_->selectedItems().isEmpty()) list_->item(row)->setSelected(true);
    }
    filling_ = false;
    says_->setText(entries.empty() ? QString()
                                   : tr("%n sheet(s) wait to be filed", nullptr, static_cast<int>(entries.size())));
    const QString watched = desk_.watched();
    watch_->setText(watched.isEmpty() ? tr("Watch a folder …") : tr("Stop watching %1").arg(QDir(watched).dirName()));
    list_->setVisible(!entries.empty());
    empty_->setVisible(entries.empty());
    for (QWidget* w : {static_cast<QWidget*>(pair_), static_cast<QWidget*>(look_->parentWidget())})
        w->setVisible(!entries.empty());
    const IntakeEntry* now = chosen();
    if (now && (now->id != shown_ || moved)) choose(now->id);
    if (!now) shown_ = 0;
    update_tools();
}

void IntakeTray::choose(IntakeId id) {
    if (shown_ != id) {
        corners_->set_picture({}, 1);
        corners_->set_edges({});
        shown_page_ = {};
        dpi_->hide();
        place_page();
    }
    shown_ = id;
    desk_.show(id);
    update_tools();
}

void IntakeTray::show_entry(const ShownEntry& entry) {
    if (entry.id != shown_) return;
    corners_->set_picture(entry.photograph, entry.scale);
    corners_->set_edges(entry.edges);
    shown_page_ = entry.page;
    dpi_->setVisible(entry.drawn);
    place_page();
    update_tools();
}

void IntakeTray::place_page() {
    if (shown_page_.isNull()) return page_->setPixmap({});
    const double dense = devicePixelRatioF();
    QPixmap pixmap = QPixmap::fromImage(shown_page_)
                         .scaled((QSizeF(page_->size() - QSize(28, 28)) * dense).toSize(), Qt::KeepAspectRatio,
                                 Qt::SmoothTransformation);
    pixmap.setDevicePixelRatio(dense);
    page_->setPixmap(pixmap);
}

void IntakeTray::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    layout()->activate();
    place_page();
}

void IntakeTray::update_tools() {
    const IntakeEntry* e = chosen();
    const bool ready = e && e->looked_at;
    filling_ = true;
    if (e) {
        look_->setCurrentIndex(look_->findData(static_cast<int>(e->treatment.look)));
        rules_->setChecked(e->treatment.without_rules);
        dpi_->setCurrentIndex(dpi_->findData(e->treatment.dpi == 0 ? kUsualDpi : e->treatment.dpi));
        angle_->setValue(e->treatment.turn_deg);
        corners_->set_outline(e->treatment.outline);
        warning_->setText(faults_of(*e));
    }
    filling_ = false;
    warning_->setVisible(e && !faults_of(*e).isEmpty());
    for (QWidget* w : std::initializer_list<QWidget*>{corners_, look_, rules_, left_turn_, right_turn_, angle_, again_,
                                                      all_alike_, file_})
        w->setEnabled(ready);
    // What could not be looked at can be tried again, and filed as it is.
    const bool failed = e && !e->failure.empty();
    if (failed) again_->setEnabled(true), file_->setEnabled(true);
    whole_->setEnabled(ready && e->treatment.outline);
    file_all_->setEnabled(std::ranges::all_of(
        desk_.entries(), [](const IntakeEntry& entry) { return entry.looked_at || !entry.failure.empty(); }));
    undo_->setEnabled(desk_.can_undo());
    const auto count = static_cast<qsizetype>(list_->selectedItems().size());
    together_->setVisible(count > 1);
    merge_->setVisible(desk_.may_merge(chosen_ids()));
    file_->setText(count > 1 ? tr("File these %1").arg(count) : tr("File this"));
}

void IntakeTray::change(const std::function<void(IntakeEntry&)>& how) {
    const IntakeEntry* e = chosen();
    if (!e) return;
    IntakeEntry changed = *e;
    how(changed);
    desk_.change(changed);
}

void IntakeTray::turn(int quarters) {
    change([&](IntakeEntry& e) { e.treatment.quarter_turns = (e.treatment.quarter_turns + quarters) & 3; });
}

void IntakeTray::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape) return emit left();
    if (event->key() == Qt::Key_Delete && list_->hasFocus()) return desk_.discard(chosen_ids());
    if (event->matches(QKeySequence::Paste)) return bring_clipboard();
    if (event->modifiers() == Qt::AltModifier && (event->key() == Qt::Key_Up || event->key() == Qt::Key_Down) &&
        chosen())
        return desk_.move(chosen()->id, event->key() == Qt::Key_Up ? -1 : 1);
    QWidget::keyPressEvent(event);
}

void IntakeTray::restyle() {
    const Theme& t = theme();
    no_picture_ = icon(QStringLiteral("picture"));
    filling_ = true;
    for (int i = 0; i < list_->count(); ++i)
        if (listed_[static_cast<size_t>(i)].thumbnail.isNull()) list_->item(i)->setIcon(no_picture_);
    filling_ = false;
    for (QToolButton* b : tools_) b->setIcon(icon(b->property("icon_name").toString()));
    setStyleSheet(QStringLiteral("#intake { background: %1; }").arg(t.desk.name()));
    setAttribute(Qt::WA_StyledBackground);
    for (QLabel* label : findChildren<QLabel*>())
        if (label != title_ && label != warning_ && label != page_)
            label->setStyleSheet(QStringLiteral("color: %1").arg(t.quiet_text.name()));
    warning_->setStyleSheet(QStringLiteral("color: %1; font-weight: 600").arg(t.unsure.name()));
    update();
}

void IntakeTray::bring_clipboard() { desk_.bring(QApplication::clipboard()->image(), tr("pasted picture")); }

}  // namespace fernleaf
