// Makes a notebook: title, cover, paper, size and language. UI thread only.
#pragma once

#include <QComboBox>
#include <QDialog>
#include <QFormLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>

#include "pages/sheet_form.h"

namespace fernleaf {

class NotebookDialog : public QDialog {
    Q_OBJECT

public:
    // languages: codes of those that can be read.
    explicit NotebookDialog(const std::vector<std::string>& languages, QWidget* parent = nullptr);
    // Changes one that is there: its title, its cover, and the paper of pages to come.
    explicit NotebookDialog(const Notebook& notebook, QWidget* parent = nullptr);
    Notebook notebook() const;
    // A file of the library; empty: none was taken.
    void set_cover_picture(const std::string& file);
    QComboBox* pattern() const { return pattern_; }

signals:
    void picture_wanted();  // for the cover

private:
    void begin_pattern(QFormLayout& form);
    void show_pattern();
    QFormLayout* begin(const QString& title, const QString& says);
    void end(const QString& does);
    Notebook before_;
    QVBoxLayout* column_;
    QLineEdit* title_;
    std::vector<QPushButton*> covers_;
    QComboBox* pattern_ = nullptr;
    std::string cover_picture_;
    SheetForm* sheet_;
    QComboBox* language_ = nullptr;
    QPushButton* make_;
};

}  // namespace fernleaf
