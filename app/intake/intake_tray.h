// The intake tray: what waits to be filed in a list, the photograph of the one chosen with the sheet found in it, and
// beside it the page it becomes. UI thread only.
#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QListWidget>
#include <QProgressBar>
#include <QPushButton>
#include <QToolButton>
#include <QWidget>

#include "desk/intake_desk.h"
#include "intake/corner_editor.h"

namespace fernleaf {

class IntakeTray : public QWidget {
    Q_OBJECT

public:
    explicit IntakeTray(IntakeDesk& desk, QWidget* parent = nullptr);

    // Where pages can be filed; the one proposed.
    void set_notebooks(const std::vector<Notebook>& notebooks, NotebookId proposed);
    void restyle();
    QListWidget* list() const { return list_; }
    CornerEditor* corners() const { return corners_; }
    const IntakeEntry* chosen() const;

signals:
    void left();             // the person goes back to the pages
    void files_wanted();     // and wants to choose files
    void notebook_wanted();  // and wants a new notebook

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void bring_clipboard();
    QWidget* build_tools();
    QToolButton* tool(const QString& icon_name, const QString& tip);
    struct Listed {  // as the list shows it
        IntakeEntry entry;
        QImage thumbnail;
    };
    void update_list();
    void fill(QListWidgetItem& item, const Listed& listed);
    void update_tools();
    void choose(IntakeId id);
    void show_entry(const ShownEntry& entry);
    void change(const std::function<void(IntakeEntry&)>& how);
    void turn(int quarters);
    void place_page();
    std::vector<IntakeId> chosen_ids() const;

    IntakeDesk& desk_;
    QLabel *title_, *says_, *page_, *warning_, *empty_;
    QListWidget* list_;
    CornerEditor* corners_;
    QComboBox *look_, *notebook_, *dpi_;
    QCheckBox* rules_;
    QDoubleSpinBox* angle_;
    QToolButton *left_turn_, *right_turn_, *undo_, *cancel_;
    QPushButton *whole_, *again_, *all_alike_, *discard_, *file_, *file_all_, *together_, *merge_;
    QAction* watch_;
    QProgressBar* progress_;
    QWidget* pair_;
    std::vector<QToolButton*> tools_;
    QIcon no_picture_;
    std::vector<Listed> listed_;
    QImage shown_page_;
    IntakeId shown_ = 0;
    bool filling_ = false;
};

}  // namespace fernleaf
