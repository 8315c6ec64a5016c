// What a library without notebooks shows: what Fernleaf is, and the two ways to the first page.
#pragma once

#include <QLabel>
#include <QWidget>

namespace fernleaf {

// UI thread only.
class Welcome : public QWidget {
    Q_OBJECT

public:
    explicit Welcome(QWidget* parent = nullptr);
    void restyle();

signals:
    void notebook_wanted();
    void import_wanted();

private:
    QLabel *mark_, *text_;
};

}  // namespace fernleaf
