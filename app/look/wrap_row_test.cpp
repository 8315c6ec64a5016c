#include "look/wrap_row.h"

#include <gtest/gtest.h>

#include <QWidget>
#include <memory>

namespace fernleaf {
namespace {

class Wrapped : public testing::Test {
protected:
    void SetUp() override {
        box_.setLayout(row_);
        for (const int width : {100, 60, 80}) {
            auto* widget = new QWidget;
            widget->setFixedSize(width, 20);
            row_->addWidget(widget);
            widgets_.push_back(widget);
        }
    }
    void lay(int width) {
        box_.resize(width, row_->heightForWidth(width));
        row_->setGeometry(box_.rect());
    }
    QWidget box_;
    WrapRow* row_ = new WrapRow(10);
    std::vector<QWidget*> widgets_;
};

TEST_F(Wrapped, WhatDoesNotFitStandsInTheNextRow) {
    EXPECT_EQ(row_->sizeHint(), QSize(260, 20));
    EXPECT_EQ(row_->minimumSize(), QSize(100, 20));
    lay(260);
    EXPECT_EQ(widgets_[2]->pos(), QPoint(180, 0));
    EXPECT_EQ(row_->heightForWidth(260), 20);
    lay(259);
    EXPECT_EQ(widgets_[1]->pos(), QPoint(110, 0));
    EXPECT_EQ(widgets_[2]->pos(), QPoint(0, 30));
    EXPECT_EQ(row_->heightForWidth(259), 50);
    EXPECT_EQ(row_->heightForWidth(110), 80);
}

TEST_F(Wrapped, LowerWidgetsStandInTheMiddleOfTheirRow) {
    widgets_[1]->setFixedSize(60, 10);
    lay(200);
    EXPECT_EQ(widgets_[1]->geometry(), QRect(110, 5, 60, 10));
    EXPECT_EQ(widgets_[2]->pos(), QPoint(0, 30));
}

TEST_F(Wrapped, WhatIsHiddenTakesNoPlace) {
    box_.show();
    widgets_[0]->hide();
    lay(150);
    EXPECT_EQ(widgets_[1]->pos(), QPoint(0, 0));
    EXPECT_EQ(widgets_[2]->pos(), QPoint(70, 0));
}

TEST_F(Wrapped, SpacersPartGroupsAndBeginNoRow) {
    std::unique_ptr<QLayoutItem> last(row_->takeAt(2));
    row_->addItem(new QSpacerItem(15, 1));
    row_->addItem(last.release());
    EXPECT_EQ(row_->sizeHint(), QSize(275, 20));
    lay(275);
    EXPECT_EQ(widgets_[2]->pos(), QPoint(195, 0));
    lay(274);
    EXPECT_EQ(widgets_[2]->pos(), QPoint(0, 30));
}

}  // namespace
}  // namespace fernleaf
