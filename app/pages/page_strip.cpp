#include "pages/page_strip.h"

#include <QContextMenuEvent>
#include <QInputDialog>
#include <QLineEdit>
#include <QMenu>
#include <QMimeData>
#include <QPainter>
#include <QStyledItemDelegate>

#include "look/theme.h"
#include "math/page_values.h"
#include "render/fonts.h"
#include "render/page_picture.h"

namespace fernleaf {
namespace {

constexpr int kWidthPx = 112;
constexpr int kPictureWidthPx = 78, kTallestPx = 130;
constexpr int kRedrawAfterMs = 700;
const QString kPageType = QStringLiteral("application/x-fernleaf-page");

QImage picture_of(const Library& library, PageId id, const PageScheme& view) {
    auto page = library.load_page(id);
    if (!page) return {};
    if (!page->plots.empty())
        if (const auto reading = library.reading(id)) give_values(page->plots, *reading);
    return small_picture(*page, [&](const std::string& hash) { return library.file(hash); }, view,
                         {kPictureWidthPx, kTallestPx});
}

class StripDelegate : public QStyledItemDelegate {
public:
    using QStyledItemDelegate::QStyledItemDelegate;

    QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex& index) const override {
        const QSize picture = index.data(Qt::SizeHintRole).toSize();
        return {kWidthPx - 12, picture.height() + 34};
    }

    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Theme& t = theme();
        painter->save();
        painter->setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform);
        const QSize size = index.data(Qt::SizeHintRole).toSize();
        const QRect at(option.rect.left() + (option.rect.width() - size.width()) / 2, option.rect.top() + 8,
                       size.width(), size.height());
        painter->fillRect(at.adjusted(-1, -1, 2, 3), QColor(20, 18, 12, t.dark ? 60 : 22));
        const auto image = index.data(Qt::DecorationRole).value<QImage>();
        painter->fillRect(at, t.page.paper);
        if (!image.isNull()) painter->drawImage(at, image);
        const bool open = option.state & QStyle::State_Selected, focus = option.state & QStyle::State_HasFocus;
        painter->setBrush(Qt::NoBrush);
        if (open || option.state & QStyle::State_MouseOver) {
            painter->setPen(QPen(t.act, open ? 2.4 : 1.2, focus && !open ? Qt::DashLine : Qt::SolidLine));
            painter->drawRoundedRect(QRectF(at).adjusted(-3, -3, 3, 3), 4, 4);
        }
        QFont font(kInterfaceFace);
        font.setPixelSize(12);
        font.setWeight(open ? QFont::DemiBold : QFont::Normal);
        painter->setFont(font);
        painter->setPen(open ? t.act : t.quiet_text);
        painter->drawText(QRect(option.rect.left(), at.bottom() + 6, option.rect.width(), 18), Qt::AlignCenter,
                          index.data(PageStripModel::page_number).toString());
        painter->restore();
    }
};

}  // namespace

QImage PagePictures::of(PageId page) {
    Drawn& drawn = drawn_[page];
    if (!std::exchange(drawn.wanted, false)) return drawn.image;
    worker_.post([this, page, scheme = theme().page] {
        QImage image = picture_of(library_, page, scheme);
        QMetaObject::invokeMethod(
            this,
            [this, page, image = std::move(image)] {
                drawn_[page].image = image;
                emit ready(page);
            },
            Qt::QueuedConnection);
    });
    return drawn.image;
}

void PagePictures::outdated(PageId page) {
    if (const auto found = drawn_.find(page); found != drawn_.end()) found->second.wanted = true;
    emit ready(page);  // whoever sees it asks for it
}

void PagePictures::forget() { drawn_.clear(); }

PageStripModel::PageStripModel(Session& session, QObject* parent)
    : QAbstractListModel(parent), session_(session), pictures_(std::make_unique<PagePictures>(session.library())) {
    redraw_.setSingleShot(true);
    redraw_.setInterval(kRedrawAfterMs);
    connect(pictures_.get(), &PagePictures::ready, this, [this](PageId page) {
        const int row = row_of(page);
        if (row >= 0) emit dataChanged(index(row), index(row));
    });
    connect(&redraw_, &QTimer::timeout, this, [this] {
        if (session_.page()) pictures_->outdated(session_.page()->info.id);
    });
    connect(&session_.document(), &PageDocument::edited, this, [this] { redraw_.start(); });
    // What was done to a whole notebook has changed pages that are not open.
    connect(&session_.tasks(), &TaskRunner::changed, this, [this](const QString& label) {
        if (!label.isEmpty()) return;
        for (const PageInfo& info : pages_) pictures_->outdated(info.id);
    });
    connect(&session_.model(), &LibraryModel::notebooks_changed, this,
            [this](const std::vector<NotebookSummary>& notebooks) {
                for (const NotebookSummary& n : notebooks) {
                    if (n.notebook.id != session_.model().open_notebook_id() || n.contents.empty()) continue;
                    std::vector<PageInfo> pages;
                    for (const PageSummary& p : n.contents) pages.push_back(p.info);
                    const auto same = [](const PageInfo& a, const PageInfo& b) {
                        return a.id == b.id && static_cast<const Sheet&>(a) == static_cast<const Sheet&>(b);
                    };
                    if (std::ranges::equal(pages, pages_, same)) return;
                    beginResetModel();
                    pages_ = std::move(pages);
                    endResetModel();
                }
            });
}

QVariant PageStripModel::data(const QModelIndex& index, int role) const {
    const PageInfo& info = pages_[static_cast<size_t>(index.row())];
    switch (role) {
        case page_id:
            return QVariant::fromValue(info.id);
        case page_number:
            return index.row() + 1;
        case Qt::AccessibleTextRole:
        case Qt::ToolTipRole:
            return tr("Page %1").arg(index.row() + 1);
        case Qt::SizeHintRole:
            return QSize(kPictureWidthPx, static_cast<int>(std::clamp(kPictureWidthPx * info.height_mm / info.width_mm,
                                                                      20.0, static_cast<double>(kTallestPx))));
        case Qt::DecorationRole:
            return pictures_->of(info.id);
        default:
            return {};
    }
}

Qt::ItemFlags PageStripModel::flags(const QModelIndex& index) const {
    const Qt::ItemFlags usual = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
    if (session_.read_only()) return usual;
    return index.isValid() ? usual | Qt::ItemIsDragEnabled : usual | Qt::ItemIsDropEnabled;
}

QStringList PageStripModel::mimeTypes() const { return {kPageType}; }

QMimeData* PageStripModel::mimeData(const QModelIndexList& indexes) const {
    auto* data = new QMimeData;
    if (!indexes.isEmpty()) data->setData(kPageType, QByteArray::number(indexes[0].data(page_id).toLongLong()));
    return data;
}

// The page is moved by the session, which tells the model: nothing is inserted here.
bool PageStripModel::dropMimeData(const QMimeData* data, Qt::DropAction, int row, int, const QModelIndex&) {
    const PageId id = data->data(kPageType).toLongLong();
    const int from = row_of(id);
    if (from < 0 || row < 0) return false;
    const int number = row > from ? row : row + 1;  // its own place closes when it goes
    if (number != from + 1) emit moved(id, number);
    return false;
}

int PageStripModel::row_of(PageId id) const {
    const auto found = std::ranges::find(pages_, id, &PageInfo::id);
    return found == pages_.end() ? -1 : static_cast<int>(found - pages_.begin());
}

PageStrip::PageStrip(Session& session, QWidget* parent) : QListView(parent), session_(session), model_(session) {
    setObjectName(QStringLiteral("pageStrip"));
    setModel(&model_);
    setItemDelegate(new StripDelegate(this));
    setFixedWidth(kWidthPx);
    setFrameShape(QFrame::NoFrame);
    setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setSelectionMode(QAbstractItemView::ExtendedSelection);
    setDragDropMode(QAbstractItemView::InternalMove);
    setDefaultDropAction(Qt::MoveAction);
    setMouseTracking(true);
    setAccessibleName(tr("Pages of the notebook"));
    connect(this, &QListView::clicked, this, [this](const QModelIndex& index) {
        if (selectionModel()->selectedIndexes().size() == 1)
            session_.open_page(index.data(PageStripModel::page_id).toLongLong());
    });
    connect(this, &QListView::activated, this,
            [this](const QModelIndex& index) { session_.open_page(index.data(PageStripModel::page_id).toLongLong()); });
    connect(&model_, &PageStripModel::moved, this, [this](PageId page, int number) {
        session_.model().move_page(page, session_.model().open_notebook_id(), number);
    });
    const auto show_open = [this] {
        if (!session_.page()) return;
        const int row = model_.row_of(session_.page()->info.id);
        if (row < 0) return;
        // Whatever keys are held down just now.
        selectionModel()->setCurrentIndex(model_.index(row), QItemSelectionModel::ClearAndSelect);
        scrollTo(model_.index(row));
    };
    connect(&session_.document(), &PageDocument::opened, this, show_open);
    connect(&model_, &QAbstractItemModel::modelReset, this, show_open);
    connect(&session_.model(), &LibraryModel::notebooks_changed, this,
            [this](const std::vector<NotebookSummary>& notebooks) { notebooks_ = notebooks; });
    restyle();
}

std::vector<PageId> PageStrip::chosen() const {
    std::vector<PageId> pages;
    auto indexes = selectionModel()->selectedIndexes();
    std::ranges::sort(indexes, {}, [](const QModelIndex& i) { return i.row(); });
    for (const QModelIndex& i : indexes) pages.push_back(i.data(PageStripModel::page_id).toLongLong());
    return pages;
}

void PageStrip::offer_notebooks(QMenu& menu, bool this_one, const std::function<void(NotebookId)>& chosen) {
    for (const NotebookSummary& n : notebooks_) {
        if ((!this_one && n.notebook.id == session_.model().open_notebook_id()) || n.notebook.archived) continue;
        menu.addAction(QString::fromStdString(n.notebook.title), this, [chosen, id = n.notebook.id] { chosen(id); });
    }
    menu.setEnabled(!menu.isEmpty());
}

void PageStrip::contextMenuEvent(QContextMenuEvent* event) {
    const std::vector<PageId> pages = chosen();
    if (pages.empty() || session_.read_only()) return;
    const int row = model_.row_of(pages.front());
    QMenu menu(this);
    menu.addAction(tr("Duplicate  (Ctrl+D)"), this, [this, pages, row] {
        session_.model().copy_page(pages.front(), session_.model().open_notebook_id(), row + 2);
    });
    menu.addAction(
            tr("Up  (Alt+Up)"), this,
            [this, pages, row] { session_.model().move_page(pages.front(), session_.model().open_notebook_id(), row); })
        ->setEnabled(row > 0);
    menu.addAction(tr("Down  (Alt+Down)"), this,
                   [this, pages, row] {
                       session_.model().move_page(pages.front(), session_.model().open_notebook_id(), row + 2);
                   })
        ->setEnabled(row + 1 < model_.rowCount());
    menu.addSeparator();
    auto* move = menu.addMenu(tr("Move to"));
    constexpr int kAtTheEnd = 1 << 20;
    offer_notebooks(*move, false, [this, pages](NotebookId to) {
        for (const PageId page : pages) session_.model().move_page(page, to, kAtTheEnd);
    });
    auto* copy = menu.addMenu(tr("Copy to"));
    offer_notebooks(*copy, true, [this, pages](NotebookId to) {
        for (const PageId page : pages) session_.model().copy_page(page, to, kAtTheEnd);
    });
    auto* show = menu.addMenu(tr("Show also in"));
    offer_notebooks(*show, false, [this, pages](NotebookId in) { session_.model().show_in(in, pages); });
    menu.addAction(tr("Tag …"), this, [this, pages] {
        bool typed = false;
        const QString names = QInputDialog::getText(this, tr("Tag pages"), tr("Tags, separated by commas"),
                                                    QLineEdit::Normal, {}, &typed);
        if (typed) session_.keeping().tag(pages, names);
    });
    auto* gather = menu.addMenu(tr("Gather into a new sheaf"));
    gather->addAction(tr("As copies"), this,
                      [this, pages] { session_.model().gather(pages, LibraryModel::Gather::copies); });
    gather->addAction(tr("As the same pages"), this,
                      [this, pages] { session_.model().gather(pages, LibraryModel::Gather::same_pages); });
    menu.addAction(tr("Mail …"), this, [this, pages] { emit mail_wanted(pages); });
    menu.addSeparator();
    const int count = static_cast<int>(pages.size());
    menu.addAction(session_.document().sheaf() ? tr("Take %n page(s) out of this notebook  (Del)", nullptr, count)
                                               : tr("Move %n page(s) to the bin  (Del)", nullptr, count),
                   this, [this, pages] { session_.model().bin_pages(pages); });
    menu.exec(event->globalPos());
}

void PageStrip::keyPressEvent(QKeyEvent* event) {
    const std::vector<PageId> pages = chosen();
    const int row = pages.empty() ? -1 : model_.row_of(pages.front());
    const bool alt = event->modifiers() == Qt::AltModifier;
    if (row < 0 || session_.read_only()) return QListView::keyPressEvent(event);
    if (event->key() == Qt::Key_Delete) return session_.model().bin_pages(pages);
    if (event->key() == Qt::Key_D && event->modifiers() == Qt::ControlModifier)
        return session_.model().copy_page(pages.front(), session_.model().open_notebook_id(), row + 2);
    if (alt && event->key() == Qt::Key_Up && row > 0)
        return session_.model().move_page(pages.front(), session_.model().open_notebook_id(), row);
    if (alt && event->key() == Qt::Key_Down && row + 1 < model_.rowCount())
        return session_.model().move_page(pages.front(), session_.model().open_notebook_id(), row + 2);
    QListView::keyPressEvent(event);
}

bool PageStrip::event(QEvent* event) {
    // Here these keys set pages in order, whatever else they do in the window.
    if (event->type() == QEvent::ShortcutOverride) {
        const auto* key = static_cast<QKeyEvent*>(event);
        if (key->modifiers() == Qt::AltModifier && (key->key() == Qt::Key_Up || key->key() == Qt::Key_Down)) {
            event->accept();
            return true;
        }
    }
    return QListView::event(event);
}

void PageStrip::restyle() {
    setStyleSheet(QStringLiteral("#pageStrip { background: %1; border: none; border-right: 1px solid %2; }")
                      .arg(theme().desk.name(), theme().line.name()));
    model_.pictures().forget();
    viewport()->update();
}

}  // namespace fernleaf
