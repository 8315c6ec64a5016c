// A row of widgets that goes on in another row where it is too narrow. Spacers part groups in it, and begin no row.
// UI thread only.
#pragma once

#include <QLayout>
#include <memory>
#include <vector>

namespace fernleaf {

class WrapRow : public QLayout {
public:
    explicit WrapRow(int spacing);
    ~WrapRow() override;

    void addItem(QLayoutItem* item) override;  // Qt's own names
    int count() const override { return static_cast<int>(items_.size()); }
    QLayoutItem* itemAt(int index) const override;
    QLayoutItem* takeAt(int index) override;
    Qt::Orientations expandingDirections() const override { return {}; }
    bool hasHeightForWidth() const override { return true; }
    int heightForWidth(int width) const override { return place({0, 0, width, 0}, false); }
    QSize sizeHint() const override;
    QSize minimumSize() const override;
    void setGeometry(const QRect& area) override;

private:
    // The height it takes in an area so wide; items are moved there when they are to be.
    int place(const QRect& area, bool move) const;

    std::vector<std::unique_ptr<QLayoutItem>> items_;
};

}  // namespace fernleaf
