// A notebook as one file, which a passphrase may lock. UI thread only.
#pragma once

#include <QCheckBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

#include "desk/session.h"

namespace fernleaf {

class BundleDialog : public QDialog {
    Q_OBJECT

public:
    explicit BundleDialog(Session& session, QWidget* parent = nullptr);

    QCheckBox* lock() const { return lock_; }
    QLineEdit* passphrase() const { return passphrase_; }
    QLineEdit* again() const { return again_; }
    QLabel* problem() const { return problem_; }
    QPushButton* decide_button() const { return decide_; }
    // Of the notebook that is listed.
    static QString notebook_title(Session& session);

signals:
    void decided(const QString& passphrase);  // empty: it stays open

private:
    void decide();

    QCheckBox* lock_;
    QLineEdit *passphrase_, *again_;
    QLabel* problem_;
    QPushButton* decide_;
};

}  // namespace fernleaf
