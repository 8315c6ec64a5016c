// The rows of the list: notebooks with the contents of the open one, or what a search found, by notebook and page.
// UI thread only.
#pragma once

#include <QAbstractListModel>
#include <QColor>

#include "desk/session.h"

namespace fernleaf {

class NotebookModel : public QAbstractListModel {
    Q_OBJECT

public:
    enum class Kind { notebook, page, found_notebook, found_page, hit };
    enum Role { kind = Qt::UserRole, colour, count, number, certainty, open };

    using QAbstractListModel::QAbstractListModel;
    void show_notebooks(const std::vector<NotebookSummary>& notebooks, PageId open_page);
    void show_hits(const std::vector<Hit>& hits);
    void set_open_page(PageId page);

    int rowCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(rows_.size());
    }
    QVariant data(const QModelIndex& index, int role) const override;

    Kind kind_at(const QModelIndex& index) const { return rows_[static_cast<size_t>(index.row())].kind; }
    NotebookId notebook_at(const QModelIndex& index) const { return rows_[static_cast<size_t>(index.row())].notebook; }
    PageId page_at(const QModelIndex& index) const { return rows_[static_cast<size_t>(index.row())].page; }
    // The words of all hits on the row's page, the row's own first.
    std::vector<Box> boxes_at(const QModelIndex& index) const;
    QModelIndex row_of_page(PageId page) const;

private:
    struct Row {
        Kind kind = Kind::notebook;
        NotebookId notebook = 0;
        PageId page = 0;
        QString text;
        QColor colour;
        int count = 0;   // of pages, or of hits
        int number = 0;  // of the page
        double certainty = 1;
        std::vector<Box> boxes;
        bool open = false;
    };
    std::vector<Row> rows_;
};

}  // namespace fernleaf
