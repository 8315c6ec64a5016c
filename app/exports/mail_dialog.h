// A message with pages attached: to whom, about what, and as which format. UI thread only.
#pragma once

#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>

#include "desk/session.h"

namespace fernleaf {

class MailDialog : public QDialog {
    Q_OBJECT

public:
    // subject: suggested. pages: not none.
    MailDialog(Session& session, std::vector<PageId> pages, const QString& subject, QWidget* parent = nullptr);

    QComboBox* to() const { return to_; }
    QLineEdit* subject() const { return subject_; }
    QComboBox* format() const { return format_; }
    QPlainTextEdit* text() const { return text_; }
    QPushButton* decide_button() const { return decide_; }
    QLabel* problem() const { return problem_; }

private:
    void decide();

    Session& session_;
    std::vector<PageId> pages_;
    QComboBox *to_, *format_;
    QLineEdit* subject_;
    QPlainTextEdit* text_;
    QLabel* problem_;
    QPushButton* decide_;
};

}  // namespace fernleaf
