#include "notebooks/notebook_list.h"

#include <QAbstractItemView>
#include <QCompleter>
#include <QCoreApplication>
#include <QHBoxLayout>
#include <QInputDialog>
#include <QKeyEvent>
#include <QPainter>
#include <QPainterPath>
#include <QScrollBar>
#include <QSettings>
#include <QStyledItemDelegate>
#include <QVBoxLayout>
#include <algorithm>
#include <initializer_list>
#include <tuple>

#include "look/cover_look.h"
#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

constexpr int kSearchAfterMs = 120;
constexpr int kListWidth = 258;
constexpr int kInwardsPx = 12, kMostInwards = 4;  // of what is in folders
constexpr char kClosed[] = "notebooks/closed folders", kOrder[] = "notebooks/order";

QFont face(const QString& family, int px, int weight = QFont::Normal, bool italic = false) {
    QFont font(family);
    font.setPixelSize(px);
    font.setWeight(static_cast<QFont::Weight>(weight));
    font.setItalic(italic);
    return font;
}

// A favourite's sign on a cover.
void paint_sprout(QPainter& painter, const QPointF& m) {
    painter.setPen(QPen(QColor(0xFD, 0xFC, 0xF8), 1.3));
    painter.setBrush(Qt::NoBrush);
    QPainterPath path(m + QPointF(0, 6));
    path.lineTo(m + QPointF(0, 0));
    path.cubicTo(m + QPointF(-3, 0), m + QPointF(-5, -2), m + QPointF(-5, -6));
    path.cubicTo(m + QPointF(-2, -6), m + QPointF(0, -4), m);
    path.moveTo(m + QPointF(0, 2));
    path.cubicTo(m + QPointF(3, 2), m + QPointF(5, 0), m + QPointF(5.5, -3.5));
    path.cubicTo(m + QPointF(2.5, -3.5), m + QPointF(0.2, -1.5), m + QPointF(0, 2));
    painter.drawPath(path);
}

// Paints folders, notebooks as spines, their contents as a table of contents, and hits as lines.
class NotebookDelegate : public QStyledItemDelegate {
    Q_DECLARE_TR_FUNCTIONS(NotebookDelegate)

public:
    NotebookDelegate(CoverPictures& covers, QObject* parent) : QStyledItemDelegate(parent), covers_(covers) {}
    using Kind = NotebookModel::Kind;

    QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        switch (static_cast<Kind>(index.data(NotebookModel::kind).toInt())) {
            case Kind::folder:
            case Kind::archive:
                return {option.rect.width(), 34};
            case Kind::notebook:
                return {option.rect.width(), 44};
            case Kind::page:
                return {option.rect.width(), 30};
            case Kind::found_notebook:
                return {option.rect.width(), 40};
            case Kind::found_page:
                return {option.rect.width(), 26};
            case Kind::hit:
                return {option.rect.width(), 32};
        }
        return {};
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Theme& t = theme();
        painter->save();
        painter->setRenderHint(QPainter::Antialiasing);
        const int inwards = std::min(index.data(NotebookModel::indent).toInt(), kMostInwards) * kInwardsPx;
        const QRect r = option.rect.adjusted(10 + inwards, 1, -10, -1);
        const bool hover = option.state & QStyle::State_MouseOver;
        const bool focus = option.state & QStyle::State_HasFocus;
        const bool open = index.data(NotebookModel::open).toBool();
        const QString text = index.data().toString();
        const int number = index.data(NotebookModel::number).toInt(), count = index.data(NotebookModel::count).toInt();
        const auto ground = [&](const QRect& where, bool chosen) {
            if (chosen || hover) {
                QColor wash = t.chosen;
                if (!chosen) wash.setAlpha(120);
                painter->setPen(Qt::NoPen);
                painter->setBrush(wash);
                painter->drawRoundedRect(where, 6, 6);
            }
            if (focus) {
                painter->setPen(QPen(t.act, 1.2));
                painter->setBrush(Qt::NoBrush);
                painter->drawRoundedRect(QRectF(where).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
            }
        };
        const auto write = [&](const QRect& where, const QString& what, const QFont& font, const QColor& colour,
                               int flags = Qt::AlignLeft | Qt::AlignVCenter) {
            painter->setFont(font);
            painter->setPen(colour);
            painter->drawText(where, flags, QFontMetrics(font).elidedText(what, Qt::ElideRight, where.width()));
        };
        switch (static_cast<Kind>(index.data(NotebookModel::kind).toInt())) {
            case Kind::folder:
            case Kind::archive: {
                ground(r, false);
                const bool folder = index.data(NotebookModel::kind).toInt() == static_cast<int>(Kind::folder);
                icon(folder ? QStringLiteral("folder") : QStringLiteral("archive"))
                    .paint(painter, QRect(r.left() + 4, r.center().y() - 8, 17, 17));
                write(r.adjusted(28, 0, -44, 0), text, face(kInterfaceFace, 13, QFont::DemiBold), t.text);
                if (!open)
                    write(r.adjusted(0, 0, -26, 0), QString::number(count), face(kInterfaceFace, 12), t.quiet_text,
                          Qt::AlignRight | Qt::AlignVCenter);
                icon(open ? QStringLiteral("chevron") : QStringLiteral("next"))
                    .paint(painter, QRect(r.right() - 20, r.center().y() - 6, 13, 13));
                break;
            }
            case Kind::notebook: {
                // A spine in the cover's colour.
                const QColor cover = index.data(NotebookModel::colour).value<QColor>();
                const QRect spine(r.left(), r.top() + 3, r.width(), r.height() - 6);
                paint_cover(*painter, spine, hover || open ? cover : cover.lighter(t.dark ? 92 : 108),
                            static_cast<CoverPattern>(index.data(NotebookModel::pattern).toInt()),
                            covers_.of(index.data(NotebookModel::picture).toString()));
                const bool favourite = index.data(NotebookModel::favourite).toBool();
                if (favourite) paint_sprout(*painter, QPointF(spine.right() - 46, spine.center().y()));
                write(spine.adjusted(20, 0, favourite ? -60 : -44, 0), text, face(kTextFace, 15, QFont::DemiBold),
                      QColor(0xFD, 0xFC, 0xF8));
                write(spine.adjusted(0, 0, -18, 0), QString::number(count), face(kInterfaceFace, 12),
                      QColor(0xFD, 0xFC, 0xF8), Qt::AlignRight | Qt::AlignVCenter);
                if (focus) {
                    painter->setPen(QPen(t.text, 1.4));
                    painter->setBrush(Qt::NoBrush);
                    painter->drawRoundedRect(QRectF(spine).adjusted(-1.5, -1.5, 1.5, 1.5), 5, 5);
                }
                break;
            }
            case Kind::page: {
                ground(r, open);
                write(QRect(r.left() + 6, r.top(), 24, r.height()), QString::number(number),
                      face(kInterfaceFace, 12, open ? QFont::DemiBold : QFont::Normal), open ? t.act : t.quiet_text,
                      Qt::AlignRight | Qt::AlignVCenter);
                const bool known = index.data(NotebookModel::certainty).toDouble() > 0;
                const bool favourite = index.data(NotebookModel::favourite).toBool();
                if (favourite)
                    icon(QStringLiteral("favourite")).paint(painter, QRect(r.right() - 20, r.center().y() - 7, 15, 15));
                write(r.adjusted(40, 0, favourite ? -24 : -6, 0), text,
                      face(kTextFace, 14, open ? QFont::DemiBold : QFont::Normal, !known),
                      known ? t.text : t.quiet_text);
                break;
            }
            case Kind::found_notebook:
                write(r.adjusted(6, 6, -6, 0), text, face(kTextFace, 15, QFont::DemiBold), t.text);
                write(r.adjusted(6, 6, -6, 0), tr("%n hit(s)", nullptr, static_cast<int>(count)),
                      face(kInterfaceFace, 11), t.quiet_text, Qt::AlignRight | Qt::AlignVCenter);
                break;
            case Kind::found_page:
                ground(r, false);
                write(r.adjusted(6, 0, -6, 0), tr("page %1").arg(number), face(kInterfaceFace, 12, QFont::DemiBold),
                      t.act);
                write(r.adjusted(6, 0, -6, 0), QString::number(count), face(kInterfaceFace, 11), t.quiet_text,
                      Qt::AlignRight | Qt::AlignVCenter);
                break;
            case Kind::hit: {
                ground(r, option.state & QStyle::State_Selected);
                const double certainty = index.data(NotebookModel::certainty).toDouble();
                if (certainty < 0) {
                    write(r.adjusted(20, 0, -6, 0), text, face(kTextFace, 14), t.text);
                    break;
                }
                // A gauge of certainty, filled from below.
                const QRectF gauge(r.left() + 8, r.top() + 7, 4, r.height() - 14);
                painter->setPen(Qt::NoPen);
                painter->setBrush(t.line);
                painter->drawRoundedRect(gauge, 2, 2);
                painter->setBrush(certainty < kSureEnough ? t.unsure : t.act);
                painter->drawRoundedRect(
                    QRectF(gauge.left(), gauge.bottom() - gauge.height() * certainty, 4, gauge.height() * certainty), 2,
                    2);
                write(r.adjusted(20, 0, -42, 0), text, face(kTextFace, 14), t.text);
                write(r.adjusted(6, 0, -6, 0), tr("%1 %").arg(qRound(100 * certainty)), face(kInterfaceFace, 11),
                      t.quiet_text, Qt::AlignRight | Qt::AlignVCenter);
                break;
            }
        }
        painter->restore();
    }

private:
    CoverPictures& covers_;
};

// Completes the word at the end of the line, and leaves what stands before it.
class LastWordCompleter : public QCompleter {
public:
    LastWordCompleter(const QStringList& words, QObject* parent) : QCompleter(words, parent) {
        setCaseSensitivity(Qt::CaseInsensitive);
    }
    QStringList splitPath(const QString& path) const override {
        const QString last = path.mid(begin(path)).remove('"');
        // Nothing is offered before it is clear that it is no common word.
        return {last.contains(':') ? last : QStringLiteral("\x01")};
    }
    QString pathFromIndex(const QModelIndex& index) const override {
        const auto* field = qobject_cast<const QLineEdit*>(widget());
        const QString typed = field ? field->text() : QString();
        QString word = QCompleter::pathFromIndex(index);
        if (word.contains(' ')) word = word.insert(word.indexOf(':') + 1, '"') + '"';
        return typed.left(begin(typed)) + word;
    }

private:
    // Of the last word; blanks in quotes are part of it.
    static qsizetype begin(const QString& typed) {
        qsizetype out = 0;
        bool quoted = false;
        for (qsizetype i = 0; i < typed.size(); ++i) {
            if (typed[i] == '"') quoted = !quoted;
            if (typed[i] == ' ' && !quoted) out = i + 1;
        }
        return out;
    }
};

}  // namespace

NotebookList::NotebookList(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), model_(this), covers_(session.library()) {
    setObjectName(QStringLiteral("notebookList"));
    setFixedWidth(kListWidth);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 12, 0, 8);
    column->setSpacing(8);

    auto* head = new QHBoxLayout;
    head->setContentsMargins(14, 0, 10, 0);
    mark_ = new QLabel;
    name_ = new QLabel(QStringLiteral("Fernleaf"));
    name_->setFont(face(kTextFace, 20, QFont::DemiBold));
    head->addWidget(mark_);
    head->addWidget(name_);
    head->addStretch();
    column->addLayout(head);

    auto* search = new QHBoxLayout;
    search->setContentsMargins(10, 0, 10, 0);
    find_ = new QLineEdit;
    find_->setObjectName(QStringLiteral("findField"));
    find_->setPlaceholderText(tr("Find in all handwriting"));
    find_->setToolTip(
        tr("Words, \"a phrase\", -without, one OR other,\ntag:frost, notebook:press, folder:orchard, lang:de,\n"
           "day:2026-05-01, before:, after:, has:sound, drawing, math, table, picture, todo  (Ctrl+F)"));
    find_->setAccessibleName(tr("Find"));
    find_->setClearButtonEnabled(true);
    find_icon_ = find_->addAction(QIcon(), QLineEdit::LeadingPosition);
    find_icon_->setToolTip(tr("Kept searches"));
    keep_ = find_->addAction(QIcon(), QLineEdit::TrailingPosition);
    keep_->setToolTip(tr("Keep this search"));
    keep_->setVisible(false);
    kept_menu_ = new QMenu(this);
    find_->installEventFilter(this);
    search->addWidget(find_);
    column->addLayout(search);

    list_ = new QListView;
    list_->setObjectName(QStringLiteral("notebooks"));
    list_->setModel(&model_);
    list_->setItemDelegate(new NotebookDelegate(covers_, list_));
    list_->setFrameShape(QFrame::NoFrame);
    list_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    list_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    list_->setMouseTracking(true);
    list_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    list_->setAccessibleName(tr("Notebooks and pages"));
    list_->viewport()->setAutoFillBackground(false);
    column->addWidget(list_, 1);
    message_ = new QLabel;
    message_->setWordWrap(true);
    message_->setAlignment(Qt::AlignHCenter | Qt::AlignTop);
    message_->setContentsMargins(18, 24, 18, 0);
    message_->hide();
    column->addWidget(message_, 1);

    task_ = new QWidget;
    auto* task_row = new QHBoxLayout(task_);
    task_row->setContentsMargins(14, 0, 8, 0);
    auto* task_column = new QVBoxLayout;
    task_column->setSpacing(4);
    task_label_ = new QLabel;
    task_label_->setFont(face(kInterfaceFace, 11));
    task_bar_ = new QProgressBar;
    task_bar_->setTextVisible(false);
    task_bar_->setRange(0, 1000);
    task_column->addWidget(task_label_);
    task_column->addWidget(task_bar_);
    task_row->addLayout(task_column, 1);
    task_cancel_ = new QToolButton;
    task_cancel_->setToolTip(tr("Cancel"));
    task_cancel_->setAccessibleName(tr("Cancel"));
    task_row->addWidget(task_cancel_);
    task_->hide();
    column->addWidget(task_);

    // Each row's first button at the left, its last at the right.
    const auto row = [&](std::initializer_list<std::tuple<QToolButton**, QString, QString>> buttons) {
        auto* out = new QHBoxLayout;
        out->setContentsMargins(10, 0, 10, 0);
        for (const auto& [button, text, tip] : buttons) {
            if (out->count() > 0) out->addStretch();
            *button = new QToolButton;
            (*button)->setText(text);
            (*button)->setToolTip(tip);
            (*button)->setToolButtonStyle(Qt::ToolButtonTextBesideIcon);
            (*button)->setIconSize({20, 20});
            out->addWidget(*button);
        }
        if (buttons.size() == 1) out->addStretch();
        column->addLayout(out);
    };
    row({{&pens_, tr("Pens"), tr("Smart pens: link, pair, settings  (Ctrl+Shift+P)")}});
    row({{&intake_, tr("Intake tray"), tr("Photographs and scans that wait to be filed  (Ctrl+Shift+I)")},
         {&todos_, tr("To-dos"), tr("To-dos on all pages  (Ctrl+Shift+O)")}});
    row({{&days_, tr("Days"), tr("What was written, by day  (Ctrl+Shift+Y)")},
         {&voice_, tr("Voice tracks"), tr("Record, play and import voice tracks  (Ctrl+Shift+V)")}});
    row({{&new_notebook_, tr("New notebook"), tr("Make a notebook  (Ctrl+Shift+N)")},
         {&import_, tr("Import"), tr("Import InkML, pictures or PDF  (Ctrl+I)")}});
    restyle();

    connect(&covers_, &CoverPictures::ready, list_->viewport(), qOverload<>(&QWidget::update));
    model_.set_order(static_cast<NotebookModel::Order>(std::clamp(QSettings().value(kOrder).toInt(), 0, 2)));
    connect(find_icon_, &QAction::triggered, this, [this] {
        show_kept();
        kept_menu_->popup(find_->mapToGlobal(QPoint(0, find_->height())));
    });
    connect(keep_, &QAction::triggered, this, [this] {
        const QString query = find_->text().trimmed();
        session_.keeping().keep_search(query, true);
        session_.messages().tell(tr("Search kept. Kept searches are behind the sign at the left of the field."));
    });
    connect(find_, &QLineEdit::textChanged, keep_,
            [this](const QString& text) { keep_->setVisible(!text.trimmed().isEmpty() && !session_.read_only()); });
    search_timer_.setSingleShot(true);
    search_timer_.setInterval(kSearchAfterMs);
    connect(&search_timer_, &QTimer::timeout, this, [this] { session_.model().find(find_->text()); });
    connect(find_, &QLineEdit::textChanged, this, [this](const QString& text) {
        if (text.trimmed().isEmpty())
            leave_search();
        else
            search_timer_.start();
    });
    connect(new_notebook_, &QToolButton::clicked, this, &NotebookList::new_notebook);
    connect(import_, &QToolButton::clicked, this, &NotebookList::import_wanted);
    connect(intake_, &QToolButton::clicked, this, &NotebookList::intake_wanted);
    connect(days_, &QToolButton::clicked, this, &NotebookList::days_wanted);
    connect(voice_, &QToolButton::clicked, this, &NotebookList::voice_wanted);
    connect(todos_, &QToolButton::clicked, this, &NotebookList::todos_wanted);
    connect(pens_, &QToolButton::clicked, this, &NotebookList::pens_wanted);
    connect(task_cancel_, &QToolButton::clicked, &session_.tasks(), &TaskRunner::cancel);
    connect(list_, &QListView::clicked, this, &NotebookList::activate);
    connect(list_, &QListView::activated, this, &NotebookList::activate);
    connect(&session_.model(), &LibraryModel::notebooks_changed, this,
            [this](const std::vector<NotebookSummary>& notebooks) {
                notebooks_ = notebooks;
                if (!searching_) show_library();
            });
    connect(&session_.keeping(), &KeepingDesk::changed, this, [this] {
        if (!searching_) show_library();
        suggest();
    });
    connect(&model_, &NotebookModel::dropped, this,
            [this](NotebookId notebook, FolderId moved, FolderId into, size_t place) {
                if (notebook != 0)
                    session_.keeping().place_notebook(notebook, into, place);
                else
                    session_.keeping().place_folder(moved, into, place);
            });
    list_->setDragDropMode(QAbstractItemView::DragDrop);
    list_->setDefaultDropAction(Qt::MoveAction);
    list_->setDropIndicatorShown(true);
    list_->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(list_, &QListView::customContextMenuRequested, this, &NotebookList::offer);
    list_->installEventFilter(this);
    for (const QString& id :
         QSettings().value(kClosed, QStringList{QString::number(NotebookModel::kArchive)}).toStringList())
        closed_.insert(id.toLongLong());
    connect(&session_.document(), &PageDocument::opened, this, [this] {
        if (searching_) return;
        model_.set_open_page(session_.page()->info.id);
        list_->scrollTo(model_.row_of_page(session_.page()->info.id));
    });
    connect(&session_.model(), &LibraryModel::found, this,
            [this](const QString& text, const std::vector<Hit>& hits, const QString& problem) {
                if (text.isEmpty()) return;
                searching_ = true;
                model_.show_hits(hits);
                if (!problem.isEmpty())
                    show_message(problem.toHtmlEscaped());
                else if (hits.empty())
                    show_message(tr("<span style='font-weight:600'>No results for “%1”</span><br><br>Every possible "
                                    "reading was searched. Fewer letters find more: <i>fro</i> finds <i>frost</i>.")
                                     .arg(text.trimmed().toHtmlEscaped()));
                else
                    show_message({});
            });
    connect(&session_.tasks(), &TaskRunner::changed, this, [this](const QString& label, double part) {
        task_->setVisible(!label.isEmpty());
        task_label_->setText(QFontMetrics(task_label_->font()).elidedText(label, Qt::ElideMiddle, kListWidth - 70));
        task_bar_->setValue(qRound(part * 1000));
    });
}

void NotebookList::show_message(const QString& html) {
    message_->setText(QStringLiteral("<span style='color:%1'>%2</span>").arg(theme().quiet_text.name(), html));
    message_->setVisible(!html.isEmpty());
    list_->setVisible(html.isEmpty());
}

void NotebookList::leave_search() {
    const bool was = searching_;
    searching_ = false;
    search_timer_.stop();
    show_library();
    show_message({});
    if (session_.page()) list_->scrollTo(model_.row_of_page(session_.page()->info.id));
    if (was) emit search_left();
}

void NotebookList::show_library() {
    // The same rows, as a rule: who is choosing among them goes on there.
    const int row = list_->currentIndex().row(), scrolled = list_->verticalScrollBar()->value();
    model_.show_notebooks(notebooks_, session_.keeping().folders(), closed_,
                          session_.page() ? session_.page()->info.id : 0);
    if (row >= 0 && row < model_.rowCount())
        list_->selectionModel()->setCurrentIndex(model_.index(row), QItemSelectionModel::NoUpdate);
    list_->verticalScrollBar()->setValue(scrolled);
}

void NotebookList::toggle(FolderId folder) {
    if (closed_.erase(folder) == 0) closed_.insert(folder);
    QStringList ids;
    for (const FolderId id : closed_) ids << QString::number(id);
    QSettings().setValue(kClosed, ids);
    show_library();
}

const Notebook* NotebookList::notebook_of(NotebookId id) const {
    for (const NotebookSummary& n : notebooks_)
        if (n.notebook.id == id) return &n.notebook;
    return nullptr;
}

std::optional<QString> NotebookList::ask_name(const QString& title, const QString& now) {
    bool named = false;
    const QString name = QInputDialog::getText(this, title, tr("Title"), QLineEdit::Normal, now, &named).simplified();
    return named && !name.isEmpty() ? std::optional(name) : std::nullopt;
}

void NotebookList::offer(const QPoint& at) {
    const QModelIndex index = list_->indexAt(at);
    if (searching_) return;
    QMenu menu(this);
    const auto& folders = session_.keeping().folders();
    if (index.isValid() && model_.kind_at(index) == NotebookModel::Kind::folder) {
        const auto folder = std::ranges::find(folders, model_.folder_at(index), &Folder::id);
        if (folder != folders.end()) offer_folder(menu, *folder);
    } else if (index.isValid() && model_.notebook_at(index) != 0) {
        if (const Notebook* notebook = notebook_of(model_.notebook_at(index))) offer_notebook(menu, *notebook);
    } else {
        menu.addAction(tr("New notebook …"), this, &NotebookList::new_notebook);
        menu.addAction(tr("New folder …"), this, [this] {
            if (const auto name = ask_name(tr("New folder"), {})) session_.keeping().add_folder(*name, kNoFolder, {});
        });
        menu.addAction(tr("All tags …"), this, &NotebookList::tags_wanted);
    }
    if (session_.read_only())
        for (QAction* action : menu.actions()) action->setEnabled(false);
    menu.addSeparator();
    offer_orders(menu);
    menu.exec(list_->viewport()->mapToGlobal(at));
}

void NotebookList::offer_notebook(QMenu& menu, const Notebook& notebook) {
    KeepingDesk& keeping = session_.keeping();
    menu.addAction(tr("Title, cover, paper …"), this, [this, notebook] { emit notebook_to_change(notebook); });
    menu.addAction(tr("Tags …"), this, [this, id = notebook.id] { emit tags_of_notebook_wanted(id); });
    QAction* favourite = menu.addAction(tr("Favourite"), this,
                                        [&keeping, id = notebook.id](bool on) { keeping.favour_notebook(id, on); });
    favourite->setCheckable(true);
    favourite->setChecked(notebook.favourite);
    QMenu* into = menu.addMenu(tr("Move to folder"));
    if (notebook.folder != kNoFolder)
        into->addAction(tr("No folder"), this,
                        [&keeping, id = notebook.id] { keeping.place_notebook(id, kNoFolder, SIZE_MAX); });
    for (const Folder& folder : keeping.folders())
        if (folder.id != notebook.folder)
            into->addAction(QString::fromStdString(folder.title), this,
                            [&keeping, id = notebook.id, to = folder.id] { keeping.place_notebook(id, to, SIZE_MAX); });
    into->addSeparator();
    into->addAction(tr("New folder …"), this, [this, &keeping, id = notebook.id] {
        if (const auto name = ask_name(tr("New folder"), {}))
            keeping.add_folder(*name, kNoFolder,
                               [&keeping, id](FolderId folder) { keeping.place_notebook(id, folder, SIZE_MAX); });
    });
    menu.addSeparator();
    menu.addAction(notebook.archived ? tr("Take out of the archive") : tr("Archive"), this,
                   [this, id = notebook.id, on = !notebook.archived] { session_.model().archive_notebook(id, on); });
    menu.addAction(tr("Move to the bin"), this, [this, id = notebook.id] { session_.model().bin_notebook(id); });
}

void NotebookList::offer_folder(QMenu& menu, const Folder& folder) {
    KeepingDesk& keeping = session_.keeping();
    menu.addAction(tr("Rename …"), this, [this, &keeping, folder] {
        if (const auto name = ask_name(tr("Rename folder"), QString::fromStdString(folder.title)))
            keeping.rename_folder(folder.id, *name);
    });
    menu.addAction(tr("New folder in it …"), this, [this, &keeping, id = folder.id] {
        if (const auto name = ask_name(tr("New folder"), {})) keeping.add_folder(*name, id, {});
    });
    menu.addAction(tr("Remove the folder, keep its notebooks"), this,
                   [&keeping, id = folder.id] { keeping.remove_folder(id); });
}

void NotebookList::offer_orders(QMenu& menu) {
    QMenu* orders = menu.addMenu(tr("Sort notebooks"));
    const std::pair<QString, NotebookModel::Order> all[] = {{tr("In your own order"), NotebookModel::Order::own},
                                                            {tr("By title"), NotebookModel::Order::title},
                                                            {tr("Last written first"), NotebookModel::Order::written}};
    for (const auto& [name, order] : all) {
        QAction* action = orders->addAction(name, this, [this, to = order] { set_order(to); });
        action->setCheckable(true);
        action->setChecked(model_.order() == order);
    }
}

void NotebookList::set_order(NotebookModel::Order order) {
    model_.set_order(order);
    QSettings().setValue(kOrder, static_cast<int>(order));
    if (!searching_) show_library();
}

void NotebookList::show_kept() {
    kept_menu_->clear();
    const auto& kept = session_.keeping().kept_searches();
    for (const std::string& query : kept) {
        const QString text = QString::fromStdString(query);
        kept_menu_->addAction(QString(text).replace('&', "&&"), this, [this, text] {
            find_->setText(text);
            find_->setFocus();
        });
    }
    if (kept.empty()) {
        kept_menu_->addAction(tr("No searches kept yet"))->setEnabled(false);
        return;
    }
    kept_menu_->addSeparator();
    QMenu* forget = kept_menu_->addMenu(tr("Remove"));
    forget->setEnabled(!session_.read_only());
    for (const std::string& query : kept) {
        const QString text = QString::fromStdString(query);
        forget->addAction(QString(text).replace('&', "&&"), this,
                          [this, text] { session_.keeping().keep_search(text, false); });
    }
}

void NotebookList::step_hit(int by) {
    if (!searching_ || model_.rowCount() == 0) return;
    const int rows = model_.rowCount();
    int row = list_->currentIndex().isValid() ? list_->currentIndex().row() : (by > 0 ? -1 : 0);
    for (int i = 0; i < rows; ++i) {
        row = (row + by + rows) % rows;
        if (model_.kind_at(model_.index(row)) != NotebookModel::Kind::hit) continue;
        list_->setCurrentIndex(model_.index(row));
        list_->scrollTo(model_.index(row));
        return activate(model_.index(row));
    }
}

// Among those of its kind in its folder.
void NotebookList::move_by(const QModelIndex& index, int by) {
    if (!index.isValid() || searching_) return;
    const NotebookModel::Kind kind = model_.kind_at(index);
    if (kind == NotebookModel::Kind::notebook && model_.order() != NotebookModel::Order::own)
        return session_.messages().tell(
            tr("Notebooks are sorted now. Choose “In your own order” from their menu to arrange them yourself."));
    std::vector<int64_t> order;
    if (kind == NotebookModel::Kind::notebook) {
        const Notebook* moved = notebook_of(model_.notebook_at(index));
        if (!moved || moved->archived) return;
        for (const NotebookSummary& n : notebooks_)
            if (n.notebook.folder == moved->folder) order.push_back(n.notebook.id);
        const auto at = std::ranges::find(order, moved->id) - order.begin() + by;
        if (at >= 0 && at < std::ssize(order))
            session_.keeping().place_notebook(moved->id, moved->folder, static_cast<size_t>(at));
    } else if (kind == NotebookModel::Kind::folder) {
        const auto& folders = session_.keeping().folders();
        const auto moved = std::ranges::find(folders, model_.folder_at(index), &Folder::id);
        if (moved == folders.end()) return;
        for (const Folder& f : folders)
            if (f.parent == moved->parent) order.push_back(f.id);
        const auto at = std::ranges::find(order, moved->id) - order.begin() + by;
        if (at >= 0 && at < std::ssize(order))
            session_.keeping().place_folder(moved->id, moved->parent, static_cast<size_t>(at));
    }
}

// What may be typed after "tag:" and the like, while it is typed.
void NotebookList::suggest() {
    QStringList beginnings;
    const auto add = [&](const char* key, const std::string& name) {
        beginnings << QLatin1String(key) + QString::fromStdString(name);
    };
    for (const Tag& tag : session_.keeping().tags()) add("tag:", tag.name);
    for (const NotebookSummary& n : notebooks_) add("notebook:", n.notebook.title);
    for (const Folder& folder : session_.keeping().folders()) add("folder:", folder.title);
    for (const char* content : {"sound", "drawing", "math", "table", "picture", "todo"}) add("has:", content);
    beginnings << QStringLiteral("day:today") << QStringLiteral("day:yesterday");
    auto* completer = new LastWordCompleter(beginnings, find_);
    if (QCompleter* before = find_->completer()) before->deleteLater();
    find_->setCompleter(completer);
    const Theme& t = theme();
    completer->popup()->setStyleSheet(
        QStringLiteral("QListView { background: %1; color: %2; border: 1px solid %3; border-radius: 6px; padding: 3px; "
                       "outline: 0; } QListView::item { padding: 4px 6px; border-radius: 4px; } "
                       "QListView::item:selected, QListView::item:hover { background: %4; color: %2; }")
            .arg(t.card.name(), t.text.name(), t.line.name(), t.chosen.name()));
}

void NotebookList::activate(const QModelIndex& index) {
    switch (model_.kind_at(index)) {
        case NotebookModel::Kind::folder:
        case NotebookModel::Kind::archive:
            toggle(model_.folder_at(index));
            break;
        case NotebookModel::Kind::notebook:
            session_.model().open_notebook(model_.notebook_at(index));
            break;
        case NotebookModel::Kind::page:
            session_.open_page(model_.page_at(index));
            break;
        case NotebookModel::Kind::found_notebook:
            break;
        case NotebookModel::Kind::found_page:
        case NotebookModel::Kind::hit:
            emit hit_chosen(model_.page_at(index), model_.boxes_at(index));
            break;
    }
}

bool NotebookList::eventFilter(QObject* object, QEvent* event) {
    if (object == list_ && event->type() == QEvent::KeyPress) {
        const auto* key = static_cast<QKeyEvent*>(event);
        if (key->modifiers() == Qt::ControlModifier && (key->key() == Qt::Key_Up || key->key() == Qt::Key_Down)) {
            move_by(list_->currentIndex(), key->key() == Qt::Key_Up ? -1 : 1);
            return true;
        }
    }
    if (object == find_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Escape) {
            find_->clear();
            return true;
        }
        if (key == Qt::Key_Down && model_.rowCount() > 0) {
            list_->setFocus();
            list_->setCurrentIndex(model_.index(std::min(searching_ ? 2 : 0, model_.rowCount() - 1)));
            return true;
        }
        if ((key == Qt::Key_Return || key == Qt::Key_Enter) && searching_ && model_.rowCount() > 2) {
            list_->setCurrentIndex(model_.index(2));
            activate(model_.index(2));
            return true;
        }
    }
    return QWidget::eventFilter(object, event);
}

void NotebookList::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme().ground);
    painter.setPen(theme().line);
    painter.drawLine(width() - 1, 0, width() - 1, height());
}

void NotebookList::restyle() {
    mark_->setPixmap(icon(QStringLiteral("fern")).pixmap(24, 24, QIcon::Normal, QIcon::On));
    find_icon_->setIcon(icon(QStringLiteral("find")));
    keep_->setIcon(icon(QStringLiteral("bookmark")));
    new_notebook_->setIcon(icon(QStringLiteral("add-notebook")));
    import_->setIcon(icon(QStringLiteral("import")));
    intake_->setIcon(icon(QStringLiteral("intake")));
    days_->setIcon(icon(QStringLiteral("days")));
    voice_->setIcon(icon(QStringLiteral("voice")));
    todos_->setIcon(icon(QStringLiteral("todo")));
    pens_->setIcon(icon(QStringLiteral("pen-link")));
    task_cancel_->setIcon(icon(QStringLiteral("close")));
    list_->setStyleSheet(QStringLiteral("QListView { background: transparent; }"));
    suggest();  // in these colours
    list_->viewport()->update();
}

void NotebookList::set_pens(const QString& says) {
    pens_->setText(QFontMetrics(pens_->font()).elidedText(says, Qt::ElideRight, kListWidth - 64));
}

void NotebookList::set_waiting(size_t sheets) {
    intake_->setText(sheets == 0 ? tr("Intake tray") : tr("Intake tray (%1)").arg(sheets));
    intake_->setAccessibleName(sheets == 0 ? tr("Intake tray")
                                           : tr("Intake tray: %n sheet(s)", nullptr, static_cast<int>(sheets)));
}

}  // namespace fernleaf
