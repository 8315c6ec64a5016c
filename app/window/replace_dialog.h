// What is looked for in typed text, and what takes its place. UI thread only.
#pragma once

#include <QCheckBox>
#include <QDialog>
#include <QLineEdit>
#include <QPushButton>

#include "desk/session.h"

namespace fernleaf {

class ReplaceDialog : public QDialog {
    Q_OBJECT

public:
    explicit ReplaceDialog(Session& session, QWidget* parent = nullptr);

    QLineEdit* find_field() const { return find_; }
    QLineEdit* by_field() const { return by_; }
    QCheckBox* whole_notebook() const { return whole_; }
    QPushButton* decide_button() const { return decide_; }

private:
    QLineEdit *find_, *by_;
    QCheckBox* whole_;
    QPushButton* decide_;
};

}  // namespace fernleaf
