#include "notebooks/notebook_model.h"

#include <QMimeData>
#include <algorithm>
#include <functional>

#include "base/text.h"

namespace fernleaf {
namespace {

constexpr char kMovedType[] = "application/x-fernleaf-notebook-or-folder";  // the ids of both, one of them 0

}  // namespace

void NotebookModel::show_notebooks(std::vector<NotebookSummary> notebooks, const std::vector<Folder>& folders,
                                   const std::set<FolderId>& closed, PageId open_page) {
    if (order_ == Order::title)
        std::ranges::stable_sort(notebooks, {}, [](const NotebookSummary& n) { return fold(n.notebook.title); });
    if (order_ == Order::written) std::ranges::stable_sort(notebooks, std::greater{}, &NotebookSummary::written_ms);
    beginResetModel();
    rows_.clear();
    add_folder(notebooks, folders, closed, open_page, kNoFolder, 0);
    Row archive;
    archive.kind = Kind::archive;
    archive.folder = kArchive;
    archive.text = tr("Archive");
    archive.open = !closed.contains(kArchive);
    for (const NotebookSummary& n : notebooks) archive.count += n.notebook.archived ? 1 : 0;
    if (archive.count > 0) {
        rows_.push_back(archive);
        for (const NotebookSummary& n : notebooks)
            if (n.notebook.archived && (archive.open || !n.contents.empty())) add_notebook(n, open_page, 1);
    }
    endResetModel();
}

void NotebookModel::add_folder(const std::vector<NotebookSummary>& notebooks, const std::vector<Folder>& folders,
                               const std::set<FolderId>& closed, PageId open_page, FolderId folder, int depth) {
    for (const Folder& f : folders) {
        if (f.parent != folder) continue;
        Row row;
        row.kind = Kind::folder;
        row.folder = f.id;
        row.text = QString::fromStdString(f.title);
        row.depth = depth;
        row.open = !closed.contains(f.id);
        for (const NotebookSummary& n : notebooks)
            row.count += n.notebook.folder == f.id && !n.notebook.archived ? 1 : 0;
        rows_.push_back(row);
        if (row.open) add_folder(notebooks, folders, closed, open_page, f.id, depth + 1);
    }
    for (const NotebookSummary& n : notebooks)
        if (n.notebook.folder == folder && !n.notebook.archived) add_notebook(n, open_page, depth);
}

void NotebookModel::add_notebook(const NotebookSummary& n, PageId open_page, int depth) {
    Row row;
    row.kind = Kind::notebook;
    row.notebook = n.notebook.id;
    row.folder = n.notebook.archived ? kArchive : n.notebook.folder;
    row.depth = depth;
    row.text = QString::fromStdString(n.notebook.title);
    row.colour = QColor::fromRgb(n.notebook.cover);
    row.count = static_cast<int>(n.pages);
    row.open = !n.contents.empty();
    row.favourite = n.notebook.favourite;
    row.pattern = n.notebook.cover_pattern;
    row.picture = QString::fromStdString(n.notebook.cover_picture);
    rows_.push_back(row);
    for (const PageSummary& page : n.contents) {
        Row line;
        line.kind = Kind::page;
        line.notebook = n.notebook.id;
        line.page = page.info.id;
        line.depth = depth;
        line.favourite = page.info.favourite;
        const std::string& title = page.info.title.empty() ? page.first_line : page.info.title;
        line.text = !title.empty() ? QString::fromStdString(title) : page.blank ? tr("empty page") : tr("not read yet");
        line.certainty = title.empty() ? 0 : 1;
        line.colour = row.colour;
        line.number = page.info.number;
        line.open = page.info.id == open_page;
        rows_.push_back(line);
    }
}

void NotebookModel::set_open_page(PageId page) {
    for (Row& row : rows_)
        if (row.kind == Kind::page) row.open = row.page == page;
    if (!rows_.empty()) emit dataChanged(index(0), index(rowCount() - 1));
}

void NotebookModel::show_hits(const std::vector<Hit>& hits) {
    beginResetModel();
    rows_.clear();
    // Notebooks and pages in the order of their best hit.
    std::vector<NotebookId> notebooks;
    for (const Hit& hit : hits)
        if (std::ranges::find(notebooks, hit.notebook) == notebooks.end()) notebooks.push_back(hit.notebook);
    for (const NotebookId notebook : notebooks) {
        std::vector<std::pair<PageId, std::vector<const Hit*>>> pages;
        int hit_count = 0;
        QString title;
        for (const Hit& hit : hits) {
            if (hit.notebook != notebook) continue;
            title = QString::fromStdString(hit.notebook_title);
            ++hit_count;
            auto page = std::ranges::find(pages, hit.page, &std::pair<PageId, std::vector<const Hit*>>::first);
            if (page == pages.end()) page = pages.insert(pages.end(), {hit.page, {}});
            page->second.push_back(&hit);
        }
        Row head;
        head.kind = Kind::found_notebook;
        head.notebook = notebook;
        head.text = title;
        head.count = hit_count;
        head.number = static_cast<int>(pages.size());
        rows_.push_back(head);
        for (const auto& [page, on_page] : pages) {
            Row page_row;
            page_row.kind = Kind::found_page;
            page_row.notebook = notebook;
            page_row.page = page;
            page_row.number = on_page.front()->page_number;
            page_row.count = static_cast<int>(on_page.size());
            rows_.push_back(page_row);
            for (const Hit* hit : on_page) {
                Row row = page_row;
                row.kind = Kind::hit;
                row.text = QString::fromStdString(hit->line);
                row.certainty = hit->boxes.empty() ? kNoWords : hit->certainty;
                row.boxes = hit->boxes;
                rows_.push_back(row);
            }
        }
    }
    endResetModel();
}

std::vector<Box> NotebookModel::boxes_at(const QModelIndex& index) const {
    const Row& own = rows_[static_cast<size_t>(index.row())];
    std::vector<Box> boxes = own.boxes;
    for (const Row& row : rows_)
        if (&row != &own && row.kind == Kind::hit && row.page == own.page)
            boxes.insert(boxes.end(), row.boxes.begin(), row.boxes.end());
    return boxes;
}

QModelIndex NotebookModel::row_of_page(PageId page) const {
    for (size_t i = 0; i < rows_.size(); ++i)
        if (rows_[i].page == page && rows_[i].kind == Kind::page) return index(static_cast<int>(i));
    return {};
}

Qt::ItemFlags NotebookModel::flags(const QModelIndex& index) const {
    Qt::ItemFlags out = QAbstractListModel::flags(index);
    if (!index.isValid()) return out | Qt::ItemIsDropEnabled;
    const Row& row = rows_[static_cast<size_t>(index.row())];
    if (row.kind == Kind::folder) return out | Qt::ItemIsDragEnabled | Qt::ItemIsDropEnabled;
    if (row.kind == Kind::notebook && row.folder != kArchive) return out | Qt::ItemIsDragEnabled;
    return out;
}

QStringList NotebookModel::mimeTypes() const { return {QString::fromLatin1(kMovedType)}; }

QMimeData* NotebookModel::mimeData(const QModelIndexList& indexes) const {
    auto* out = new QMimeData;
    if (!indexes.isEmpty()) {
        const Row& row = rows_[static_cast<size_t>(indexes.front().row())];
        out->setData(QString::fromLatin1(kMovedType),
                     QByteArray::number(static_cast<qlonglong>(row.notebook)) + ' ' +
                         QByteArray::number(static_cast<qlonglong>(row.notebook != 0 ? 0 : row.folder)));
    }
    return out;
}

bool NotebookModel::dropMimeData(const QMimeData* data, Qt::DropAction, int at, int, const QModelIndex& parent) {
    const auto ids = data->data(QString::fromLatin1(kMovedType)).split(' ');
    if (ids.size() != 2) return false;
    const NotebookId notebook = ids[0].toLongLong();
    const FolderId moved = ids[1].toLongLong();
    FolderId into = kNoFolder;
    size_t place = SIZE_MAX;
    if (parent.isValid()) {
        into = rows_[static_cast<size_t>(parent.row())].folder;
    } else if (at >= 0 && at < rowCount()) {
        // Before the row it is dropped above: in that one's folder, behind as many of its kind.
        const Row& next = rows_[static_cast<size_t>(at)];
        if (next.kind == Kind::notebook && next.folder != kArchive) into = next.folder;
        place = 0;
        for (int i = 0; i < at; ++i) {
            const Row& row = rows_[static_cast<size_t>(i)];
            const bool counts = notebook != 0
                                    ? row.kind == Kind::notebook && row.folder == into && row.notebook != notebook
                                    : row.kind == Kind::folder && row.depth == next.depth && row.folder != moved;
            if (counts) ++place;
        }
        if (next.kind == Kind::page) return false;
    }
    emit dropped(notebook, moved, into, place);
    return true;
}

QVariant NotebookModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || index.row() >= rowCount()) return {};
    const Row& row = rows_[static_cast<size_t>(index.row())];
    switch (role) {
        case Qt::DisplayRole:
        case Qt::ToolTipRole:
            return row.text;
        case Qt::AccessibleTextRole:
            if (row.kind == Kind::page) return tr("Page %1: %2").arg(row.number).arg(row.text);
            if (row.kind == Kind::found_page)
                return tr("Page %1, %n hit(s)", nullptr, static_cast<int>(row.count)).arg(row.number);
            return row.text;
        case Role::kind:
            return static_cast<int>(row.kind);
        case Role::colour:
            return row.colour;
        case Role::count:
            return row.count;
        case Role::number:
            return row.number;
        case Role::certainty:
            return row.certainty;
        case Role::open:
            return row.open;
        case Role::indent:
            return row.depth;
        case Role::favourite:
            return row.favourite;
        case Role::pattern:
            return static_cast<int>(row.pattern);
        case Role::picture:
            return row.picture;
        default:
            return {};
    }
}

}  // namespace fernleaf
