// All that can be set, in one place, with a search. Everything takes effect at once and is kept. UI thread only.
#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QSlider>
#include <QVBoxLayout>

#include "leaves/tool_tray.h"
#include "pages/sheet_form.h"

namespace fernleaf {

class SettingsDialog : public QDialog {
    Q_OBJECT

public:
    SettingsDialog(Session& session, ToolTray& tray, QWidget* parent = nullptr);
    QLineEdit* search() const { return search_; }

signals:
    void look_chosen(bool dark);
    void reading_wanted();  // the notebook's own settings of reading
    void proof_sheet_wanted();
    void backups_wanted();

private:
    // A part of the page: a heading and the rows below it, shown while they match the search.
    struct Row {
        QWidget* widget = nullptr;
        QString words;  // what it is found by
    };
    struct Section {
        QLabel* heading = nullptr;
        std::vector<Row> rows;
    };
    void begin(const QString& heading);
    void add(const QString& name, QWidget* field, const QString& also_found_by = {});
    QCheckBox* add_switch(const QString& name, bool on, std::function<void(bool)> take, const QString& words = {});
    QComboBox* add_choice(const QString& name, const QStringList& choices, int chosen, std::function<void(int)> take,
                          const QString& words = {});
    void add_way(const QString& name, const QString& words, bool enabled, std::function<void()> go);
    void change(const std::function<void(Tools&)>& change);
    void add_writing();
    void add_erasing();
    void add_reading();
    void add_paper();
    void add_errands();
    void add_backup();
    void find(const QString& text);

    Session& session_;
    ToolTray& tray_;
    QLineEdit* search_;
    QVBoxLayout* column_;
    QLabel* nothing_;
    std::vector<Section> sections_;
};

}  // namespace fernleaf
