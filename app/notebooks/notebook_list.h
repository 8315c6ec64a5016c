// The list at the window's left: find field, notebooks with their contents or what was found, and what is under way.
// UI thread only.
#pragma once

#include <QLabel>
#include <QLineEdit>
#include <QListView>
#include <QMenu>
#include <QProgressBar>
#include <QTimer>
#include <QToolButton>
#include <QWidget>
#include <optional>
#include <set>

#include "notebooks/cover_pictures.h"
#include "notebooks/notebook_model.h"

namespace fernleaf {

class NotebookList : public QWidget {
    Q_OBJECT

public:
    explicit NotebookList(Session& session, QWidget* parent = nullptr);

    QLineEdit* find_field() const { return find_; }
    QListView* list() const { return list_; }
    QAction* keep_action() const { return keep_; }
    QMenu* kept_menu() const { return kept_menu_; }
    const NotebookModel& model() const { return model_; }
    void restyle();
    // To the next of what was found (1), or the one before (-1), over pages and notebooks, round and round.
    void step_hit(int by);
    void set_order(NotebookModel::Order order);
    void set_waiting(size_t sheets);     // in the intake tray
    void set_pens(const QString& says);  // how they stand, in a few words

signals:
    void hit_chosen(PageId page, const std::vector<Box>& boxes);
    void search_left();  // the field was emptied
    void new_notebook();
    void import_wanted();
    void intake_wanted();
    void pens_wanted();
    void days_wanted();
    void voice_wanted();
    void todos_wanted();
    void tags_wanted();
    void notebook_to_change(const Notebook& notebook);  // its title, cover and paper
    void tags_of_notebook_wanted(NotebookId notebook);

protected:
    bool eventFilter(QObject* object, QEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

private:
    void activate(const QModelIndex& index);
    void leave_search();
    void show_library();
    void toggle(FolderId folder);
    void offer(const QPoint& at);
    void offer_notebook(QMenu& menu, const Notebook& notebook);
    void offer_folder(QMenu& menu, const Folder& folder);
    void move_by(const QModelIndex& index, int by);
    std::optional<QString> ask_name(const QString& title, const QString& now);
    const Notebook* notebook_of(NotebookId id) const;
    void suggest();
    void show_kept();
    void offer_orders(QMenu& menu);
    void show_message(const QString& html);

    Session& session_;
    NotebookModel model_;
    std::vector<NotebookSummary> notebooks_;
    bool searching_ = false;
    QTimer search_timer_;
    QLabel* mark_;
    QLabel* name_;
    QLineEdit* find_;
    QListView* list_;
    QLabel* message_;
    QWidget* task_;
    QLabel* task_label_;
    QProgressBar* task_bar_;
    QToolButton* task_cancel_;
    QToolButton* new_notebook_;
    QToolButton* import_;
    QToolButton* intake_;
    QToolButton* pens_;
    QToolButton* days_;
    QToolButton* voice_;
    QToolButton* todos_;
    std::set<FolderId> closed_;
    QAction *find_icon_, *keep_;
    QMenu* kept_menu_;
    CoverPictures covers_;
};

}  // namespace fernleaf
