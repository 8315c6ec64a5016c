// The notebook's pages as small pictures: to go to, to set in order, to copy, to move elsewhere, to put into the bin.
#pragma once

#include <QAbstractListModel>
#include <QListView>
#include <QTimer>
#include <map>

#include "desk/session.h"

namespace fernleaf {

// Small pictures of pages, drawn by a worker when they are asked for; one that is outdated stands in until the new
// comes.
class PagePictures : public QObject {
    Q_OBJECT

public:
    explicit PagePictures(const Library& library) : library_(library) {}
    QImage of(PageId page);  // null until it is drawn
    void outdated(PageId page);
    void forget();  // all: the colours have changed

signals:
    void ready(PageId page);

private:
    struct Drawn {
        QImage image;
        bool wanted = true;  // to be drawn, or drawn anew
    };
    const Library& library_;
    std::map<PageId, Drawn> drawn_;
    JobThread worker_{{}, JobThread::Haste::patient};
};

class PageStripModel : public QAbstractListModel {
    Q_OBJECT

public:
    enum Role { page_id = Qt::UserRole, page_number };
    explicit PageStripModel(Session& session, QObject* parent = nullptr);

    int rowCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(pages_.size());
    }
    QVariant data(const QModelIndex& index, int role) const override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;
    Qt::DropActions supportedDropActions() const override { return Qt::MoveAction; }
    QStringList mimeTypes() const override;
    QMimeData* mimeData(const QModelIndexList& indexes) const override;
    bool dropMimeData(const QMimeData* data, Qt::DropAction action, int row, int column,
                      const QModelIndex& parent) override;
    int row_of(PageId page) const;
    PagePictures& pictures() { return *pictures_; }

signals:
    void moved(PageId page, int number);

private:
    Session& session_;
    std::vector<PageInfo> pages_;
    std::unique_ptr<PagePictures> pictures_;
    QTimer redraw_;
};

class PageStrip : public QListView {
    Q_OBJECT

public:
    explicit PageStrip(Session& session, QWidget* parent = nullptr);
    void restyle();
    PageStripModel& pages() { return model_; }

signals:
    void mail_wanted(const std::vector<PageId>& pages);

protected:
    void contextMenuEvent(QContextMenuEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

private:
    std::vector<PageId> chosen() const;
    // this_one: the listed notebook, too.
    void offer_notebooks(QMenu& menu, bool this_one, const std::function<void(NotebookId)>& chosen);

    Session& session_;
    PageStripModel model_;
    std::vector<NotebookSummary> notebooks_;
};

}  // namespace fernleaf
