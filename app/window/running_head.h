// The head above the leaves: the notebook, the page and the way to its neighbours, which leaves are shown, and the
// menus of what is done with a page.
#pragma once

#include <QLabel>
#include <QToolButton>
#include <QWidget>

#include "leaves/spread.h"

namespace fernleaf {

// UI thread only. What needs a dialog is asked for by signals; all else goes to the session.
class RunningHead : public QWidget {
    Q_OBJECT

public:
    explicit RunningHead(Session& session, QWidget* parent = nullptr);

    void show_page();  // the open one's notebook and number
    void show_leaves(Shown shown);
    void show_strip(bool shown) { strip_->setChecked(shown); }
    void open_export_menu() { export_->showMenu(); }
    void open_type_menu() { type_->showMenu(); }
    void restyle();

signals:
    void leaves_wanted(Shown shown);
    void strip_wanted(bool shown);
    void settings_wanted();
    void paper_wanted();
    void history_wanted();
    void templates_wanted();
    void attachment_wanted();
    void link_wanted();  // to the open page, for others
    void picture_wanted();
    void formula_wanted();
    void bin_wanted();
    void export_wanted(bool whole_notebook);
    void bundle_wanted();
    void mail_wanted();     // the open page
    void reading_wanted();  // the dialog that tells how a notebook is read

protected:
    void resizeEvent(QResizeEvent* event) override;

private:
    QToolButton* add_button(const QString& icon_name, const QString& tip, bool switchable = false);
    QToolButton* add_menu(const QString& icon_name, const QString& tip, QMenu* menu, const QString& text = {});
    QMenu* page_menu();
    void find_links();
    QMenu* type_menu();
    QMenu* reading_menu();
    QMenu* export_menu();
    void show_mode();  // whether it is read

    Session& session_;
    bool narrow_ = false;
    QMenu* linked_from_ = nullptr;
    QLabel* title_;
    QToolButton *previous_, *page_, *next_, *strip_, *ink_, *both_, *text_, *type_, *record_, *reading_, *export_;
};

}  // namespace fernleaf
