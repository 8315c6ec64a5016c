// Makes a notebook: title, cover, paper, size and language. UI thread only.
#pragma once

#include <QComboBox>
#include <QDialog>
#include <QLineEdit>
#include <QPushButton>

#include "pages/sheet_form.h"

namespace fernleaf {

class NotebookDialog : public QDialog {
    Q_OBJECT

public:
    // languages: codes of those that can be read.
    explicit NotebookDialog(const std::vector<std::string>& languages, QWidget* parent = nullptr);
    Notebook notebook() const;

private:
    QLineEdit* title_;
    std::vector<QPushButton*> covers_;
    SheetForm* sheet_;
    QComboBox* language_;
    QPushButton* make_;
};

}  // namespace fernleaf
