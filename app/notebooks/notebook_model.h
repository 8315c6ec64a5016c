// The rows of the list: folders and notebooks, with the contents of the open one, and the archive below them; or what a
// search found, by notebook and page.
// UI thread only.
#pragma once

#include <QAbstractListModel>
#include <QColor>
#include <set>

#include "desk/session.h"

namespace fernleaf {

class NotebookModel : public QAbstractListModel {
    Q_OBJECT

public:
    enum class Kind { folder, archive, notebook, page, found_notebook, found_page, hit };
    enum Role { kind = Qt::UserRole, colour, count, number, certainty, open, indent, favourite, pattern, picture };

    using QAbstractListModel::QAbstractListModel;
    // In which order notebooks of one folder stand; as settings keep it.
    enum class Order { own = 0, title = 1, written = 2 };
    void set_order(Order order) { order_ = order; }
    Order order() const { return order_; }
    // Of folders that are closed only their name is shown; kArchive stands for the archive.
    void show_notebooks(std::vector<NotebookSummary> notebooks, const std::vector<Folder>& folders,
                        const std::set<FolderId>& closed, PageId open_page);
    static constexpr FolderId kArchive = -1;
    static constexpr double kNoWords = -1;  // for certainty: of a page of which no words were looked for
    void show_hits(const std::vector<Hit>& hits);
    void set_open_page(PageId page);

    int rowCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(rows_.size());
    }
    QVariant data(const QModelIndex& index, int role) const override;

    Kind kind_at(const QModelIndex& index) const { return rows_[static_cast<size_t>(index.row())].kind; }
    FolderId folder_at(const QModelIndex& index) const { return rows_[static_cast<size_t>(index.row())].folder; }
    NotebookId notebook_at(const QModelIndex& index) const { return rows_[static_cast<size_t>(index.row())].notebook; }
    PageId page_at(const QModelIndex& index) const { return rows_[static_cast<size_t>(index.row())].page; }
    // The words of all hits on the row's page, the row's own first.
    std::vector<Box> boxes_at(const QModelIndex& index) const;
    QModelIndex row_of_page(PageId page) const;

    Qt::ItemFlags flags(const QModelIndex& index) const override;
    Qt::DropActions supportedDropActions() const override { return Qt::MoveAction; }
    QStringList mimeTypes() const override;
    QMimeData* mimeData(const QModelIndexList& indexes) const override;
    bool dropMimeData(const QMimeData* data, Qt::DropAction action, int row, int column,
                      const QModelIndex& parent) override;

signals:
    // A notebook or, where that is 0, a folder was dropped: into this folder, as the place-th of its kind there.
    void dropped(NotebookId notebook, FolderId moved, FolderId into, size_t place);

private:
    struct Row;
    void add_folder(const std::vector<NotebookSummary>& notebooks, const std::vector<Folder>& folders,
                    const std::set<FolderId>& closed, PageId open_page, FolderId folder, int depth);
    void add_notebook(const NotebookSummary& notebook, PageId open_page, int depth);
    struct Row {
        Kind kind = Kind::notebook;
        FolderId folder = kNoFolder;  // itself, or what a notebook is in
        int depth = 0;
        bool favourite = false;
        NotebookId notebook = 0;
        PageId page = 0;
        QString text;
        QColor colour;
        int count = 0;   // of pages, or of hits
        int number = 0;  // of the page
        double certainty = 1;
        std::vector<Box> boxes;
        bool open = false;
        CoverPattern pattern = CoverPattern::bands;
        QString picture;  // of the cover: a file of the library
    };
    Order order_ = Order::own;
    std::vector<Row> rows_;
};

}  // namespace fernleaf
