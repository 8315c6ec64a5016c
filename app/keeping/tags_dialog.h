// All tags of the library: renamed, joined, coloured, removed. UI thread only.
#pragma once

#include <QDialog>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>

#include "desk/session.h"

namespace fernleaf {

class TagsDialog : public QDialog {
    Q_OBJECT

public:
    explicit TagsDialog(Session& session, QWidget* parent = nullptr);

    QListWidget* list() const { return list_; }
    QPushButton* rename_button() const { return rename_; }

signals:
    void tag_wanted(const QString& name);  // pages with it are to be found

private:
    void refresh();
    const Tag* chosen() const;
    void rename();
    void fill_colours();
    void remove();

    Session& session_;
    QListWidget* list_;
    QLabel* empty_;
    QPushButton *rename_, *colour_, *remove_, *find_;
};

}  // namespace fernleaf
