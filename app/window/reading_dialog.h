// How a notebook is read: its languages and how far to lean on them, the word lists, and the writer's hand.
// UI thread only.
#pragma once

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QSlider>
#include <QSpinBox>
#include <QTabWidget>

#include "desk/session.h"

namespace fernleaf {

class ReadingDialog : public QDialog {
    Q_OBJECT

public:
    explicit ReadingDialog(Session& session, QWidget* parent = nullptr);

    QListWidget* languages() const { return languages_; }
    QSlider* language_weight() const { return language_weight_; }
    QPlainTextEdit* notebook_words() const { return notebook_words_.text; }
    QPlainTextEdit* persons_words() const { return persons_words_.text; }
    QComboBox* hand() const { return hand_; }
    QComboBox* angle() const { return angle_; }
    QSpinBox* digits() const { return digits_; }
    QCheckBox* decimals() const { return decimals_; }
    QCheckBox* earlier_values() const { return earlier_values_; }
    QPushButton* learn_page() const { return learn_page_; }
    QPushButton* forget() const { return forget_; }
    QLabel* hand_state() const { return hand_state_; }

    void accept() override;

private:
    struct WordBox {
        NotebookId notebook = 0;
        QPlainTextEdit* text = nullptr;
        QStringList before;
        bool loaded = false;
    };
    QWidget* build_languages();
    QWidget* build_words();
    QWidget* build_hand();
    QWidget* build_math();
    QWidget* word_box(WordBox& box, const QString& heading);
    void bring_words(WordBox& box);
    void save_words(const WordBox& box);
    void keep_few_languages(QListWidgetItem* changed);
    void show_hands(const std::vector<HandInfo>& hands);
    void show_hand_state();
    HandId chosen_hand() const { return hand_->currentData().toLongLong(); }
    void ask_for_hand_name();

    Session& session_;
    Notebook notebook_;
    std::vector<HandInfo> hands_;
    QListWidget* languages_;
    QLabel* languages_note_;
    QSlider* language_weight_;
    WordBox notebook_words_, persons_words_;
    QComboBox *hand_, *angle_;
    QSpinBox* digits_;
    QCheckBox *decimals_, *earlier_values_;
    QLabel* hand_state_;
    QPushButton *learn_, *learn_page_, *forget_, *save_, *load_;
};

}  // namespace fernleaf
