// What was deleted and can come back. UI thread only.
#pragma once

#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>

#include "desk/session.h"

namespace fernleaf {

class BinDialog : public QDialog {
    Q_OBJECT

public:
    explicit BinDialog(Session& session, QWidget* parent = nullptr);

private:
    void show_things(const std::vector<Binned>& things);
    std::vector<Binned> chosen() const;

    Session& session_;
    std::vector<Binned> things_;
    QListWidget* list_;
    QComboBox* keep_;
    QLabel* empty_;
    QPushButton *restore_, *clear_;
};

}  // namespace fernleaf
