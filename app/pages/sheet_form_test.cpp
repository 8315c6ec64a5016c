#include "pages/sheet_form.h"

#include <gtest/gtest.h>

#include <QSettings>
#include <QSignalSpy>
#include <QWidget>

namespace fernleaf {
namespace {

class Form : public testing::Test {
protected:
    void SetUp() override { QSettings().clear(); }
    void TearDown() override { QSettings().clear(); }
    SheetForm& make(const Sheet& sheet) {
        widget_ = std::make_unique<QWidget>();
        auto* layout = new QFormLayout(widget_.get());
        form_ = new SheetForm(*layout, sheet, widget_.get());
        widget_->show();
        return *form_;
    }
    void choose(const char* name, int index) {
        auto* box = widget_->findChild<QComboBox*>(name);
        box->setCurrentIndex(index);
        emit box->activated(index);
    }
    void choose_kind(Paper paper) {
        choose("paperKind", widget_->findChild<QComboBox*>("paperKind")->findData(static_cast<int>(paper)));
    }
    QCheckBox* check(const QString& text) {
        for (auto* b : widget_->findChildren<QCheckBox*>())
            if (b->text() == text) return b;
        ADD_FAILURE() << "no switch " << text.toStdString();
        return nullptr;
    }

    std::unique_ptr<QWidget> widget_;
    SheetForm* form_ = nullptr;
};

TEST_F(Form, ShowsASheetAndGivesItBack) {
    for (const Paper paper :
         {Paper::plain, Paper::ruled, Paper::squared, Paper::dotted, Paper::margined, Paper::staves}) {
        Sheet sheet;
        sheet.paper = paper, sheet.spacing_mm = 5.5, sheet.colour = 0xFFFFFF;
        sheet.width_mm = 210, sheet.height_mm = 297;
        EXPECT_EQ(make(sheet).sheet(), sheet) << static_cast<int>(paper);
    }
}

TEST_F(Form, KnowsSheetsLyingAcrossAndOnesOfOddSizesAndColours) {
    Sheet across;
    across.width_mm = 210, across.height_mm = 148;
    EXPECT_EQ(make(across).sheet(), across);
    EXPECT_TRUE(check("Lying across")->isChecked());
    Sheet odd;
    odd.width_mm = 123.4, odd.height_mm = 56.7, odd.colour = 0x778899;
    EXPECT_EQ(make(odd).sheet(), odd);
}

TEST_F(Form, AnotherSizeIsTakenUprightOrAcross) {
    SheetForm& form = make({});
    QSignalSpy changed(&form, &SheetForm::changed);
    choose("paperSize", 1);
    EXPECT_EQ(form.sheet().width_mm, 210);
    EXPECT_EQ(form.sheet().height_mm, 297);
    check("Lying across")->setChecked(true);
    EXPECT_EQ(form.sheet().width_mm, 297);
    EXPECT_GE(changed.count(), 2);
}

TEST_F(Form, AnEndlessSheetKeepsWhatItHasGrownTo) {
    Sheet grown;
    grown.endless = true, grown.height_mm = 900;
    SheetForm& form = make(grown);
    EXPECT_EQ(form.sheet(), grown);
    EXPECT_FALSE(check("Lying across")->isEnabled());
    check("Endless downwards")->setChecked(false);
    EXPECT_EQ(form.sheet().height_mm, 210);
}

TEST_F(Form, OnlyWhatMattersToAKindIsAsked) {
    make({});
    const auto spacing_shown = [&] {
        for (auto* box : widget_->findChildren<QDoubleSpinBox*>())
            if (box->accessibleName().isEmpty()) return box->isVisible();
        return false;
    };
    EXPECT_TRUE(spacing_shown());
    choose_kind(Paper::plain);
    EXPECT_FALSE(spacing_shown());
    choose_kind(Paper::dotted);
    EXPECT_TRUE(spacing_shown());
}

TEST_F(Form, APictureIsAskedForAndWithoutOnePaperIsPlain) {
    SheetForm& form = make({});
    form.offer_picture();
    QSignalSpy wanted(&form, &SheetForm::picture_wanted);
    choose_kind(Paper::picture);
    EXPECT_EQ(wanted.count(), 1);
    form.set_picture("hash");
    EXPECT_EQ(form.sheet().paper, Paper::picture);
    EXPECT_EQ(form.sheet().picture, "hash");
    form.set_picture({});
    EXPECT_EQ(form.sheet().paper, Paper::plain);
    EXPECT_TRUE(form.sheet().picture.empty());
}

TEST_F(Form, TheUsualSheetIsKeptAndNonsenseIsNot) {
    EXPECT_EQ(usual_sheet(), Sheet{});
    Sheet mine;
    mine.paper = Paper::squared, mine.spacing_mm = 5, mine.width_mm = 210, mine.height_mm = 297;
    mine.colour = 0x2B333B, mine.endless = true;
    keep_usual_sheet(mine);
    EXPECT_EQ(usual_sheet(), mine);
    QSettings().setValue("sheet", R"({"width":-5,"height":1e9,"paper":88,"spacing":0})");
    const Sheet odd = usual_sheet();
    EXPECT_GE(odd.width_mm, kLeastSheetMm);
    EXPECT_LE(odd.height_mm, kMostSheetMm);
    EXPECT_GE(odd.spacing_mm, kLeastSpacingMm);
    EXPECT_LE(static_cast<int>(odd.paper), 5);
}

}  // namespace
}  // namespace fernleaf
