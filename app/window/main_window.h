// The window: the shelf, the running head, and the spread; or, in a library without notebooks, the way to the first
// one.
#pragma once

#include <QLabel>
#include <QMainWindow>
#include <QStackedWidget>
#include <QToolButton>

#include "leaves/spread.h"
#include "shelf/shelf.h"
#include "window/notice_bar.h"

namespace fernleaf {

class MainWindow : public QMainWindow {
    Q_OBJECT

public:
    explicit MainWindow(Session& session, QWidget* parent = nullptr);

    Spread* spread() const { return spread_; }
    Shelf* shelf() const { return shelf_; }
    NoticeBar* notice() const { return notice_; }
    void show_leaves(Shown shown);
    void set_dark(bool dark);
    bool showing_welcome() const { return stack_->currentIndex() == 0; }

protected:
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    QWidget* build_head();
    QWidget* build_welcome();
    QToolButton* head_button(const QString& icon_name, const QString& tip, bool switchable = false);
    void add_shortcuts();
    void restyle();
    void update_head();
    void ask_for_notebook();
    void ask_for_import();
    void ask_how_to_read();
    void ask_for_export(bool whole_notebook);
    void restore();

    Session& session_;
    Shelf* shelf_;
    QStackedWidget* stack_;
    Spread* spread_;
    NoticeBar* notice_;
    QWidget* head_;
    QLabel* title_;
    QLabel* page_label_;
    QToolButton *previous_, *next_, *add_page_, *ink_, *both_, *text_, *reading_, *export_, *dark_;
    QLabel* welcome_mark_ = nullptr;
    QLabel* welcome_text_ = nullptr;
    std::vector<Box> hits_to_show_;
    PageId hits_page_ = 0;
    bool restored_ = false;
};

}  // namespace fernleaf
