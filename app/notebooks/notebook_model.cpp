#include "notebooks/notebook_model.h"

#include <algorithm>

namespace fernleaf {

void NotebookModel::show_notebooks(const std::vector<NotebookSummary>& notebooks, PageId open_page) {
    beginResetModel();
    rows_.clear();
    for (const NotebookSummary& n : notebooks) {
        Row row;
        row.kind = Kind::notebook;
        row.notebook = n.notebook.id;
        row.text = QString::fromStdString(n.notebook.title);
        row.colour = QColor::fromRgb(n.notebook.cover);
        row.count = static_cast<int>(n.pages);
        row.open = !n.contents.empty();
        rows_.push_back(row);
        for (const PageSummary& page : n.contents) {
            Row line;
            line.kind = Kind::page;
            line.notebook = n.notebook.id;
            line.page = page.info.id;
            line.text = !page.first_line.empty() ? QString::fromStdString(page.first_line)
                        : page.blank             ? tr("empty page")
                                                 : tr("not read yet");
            line.certainty = page.first_line.empty() ? 0 : 1;
            line.colour = row.colour;
            line.number = page.info.number;
            line.open = page.info.id == open_page;
            rows_.push_back(line);
        }
    }
    endResetModel();
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
                row.certainty = hit->certainty;
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
        default:
            return {};
    }
}

}  // namespace fernleaf
