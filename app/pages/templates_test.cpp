// Templates and forms in the real window.
#include <QInputDialog>
#include <QSignalSpy>

#include "pages/templates_dialog.h"
#include "render/page_picture.h"
#include "wait_until.h"
#include "window/window_fixture.h"

namespace fernleaf {
namespace {

class TemplatesInWindow : public Window {
protected:
    // Types a name into the dialog that asks for one.
    static void name_it(const QString& name) {
        QTimer::singleShot(0, [name] {
            auto* dialog = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
            ASSERT_TRUE(dialog);
            dialog->setTextValue(name);
            dialog->accept();
        });
    }
};

TEST_F(TemplatesInWindow, APageIsKeptAndBeginsOthers) {
    start_with_page();
    write_hill(20, 40);
    session_->wait_idle();
    TemplatesDialog dialog(*session_);
    dialog.show();
    session_->wait_idle();
    EXPECT_EQ(dialog.list()->count(), 0);
    EXPECT_FALSE(dialog.use_button()->isEnabled());
    name_it("Visit");
    QTest::mouseClick(dialog.keep_button(), Qt::LeftButton);
    WAIT_UNTIL(dialog.list()->count() == 1);
    EXPECT_EQ(dialog.list()->item(0)->text(), "Visit");
    name_it("Visit to the orchard");
    QTest::mouseClick(dialog.rename_button(), Qt::LeftButton);
    WAIT_UNTIL(dialog.list()->item(0)->text() == "Visit to the orchard");
    QSignalSpy added(&session_->templates(), &TemplatesDesk::page_added);
    QTest::mouseClick(dialog.use_button(), Qt::LeftButton);
    EXPECT_FALSE(dialog.isVisible());
    WAIT_UNTIL(added.count() == 1);
    session_->wait_idle();
    EXPECT_EQ(session_->page()->info.number, 2);
    EXPECT_EQ(session_->page()->strokes.size(), 6U);
    TemplatesDialog again(*session_);
    session_->wait_idle();
    WAIT_UNTIL(again.list()->count() == 1);
    again.show();
    QTest::mouseClick(again.remove_button(), Qt::LeftButton);
    WAIT_UNTIL(again.list()->count() == 0);
}

TEST_F(TemplatesInWindow, EveryFormPrintsSomethingOfItsOwnOnBothSchemes) {
    std::vector<QImage> seen;
    for (int paper = static_cast<int>(Paper::week); paper <= static_cast<int>(kLastPaper); ++paper)
        for (const PageScheme& scheme : {light_page(), dark_page()}) {
            Page page;
            page.info.paper = static_cast<Paper>(paper);
            seen.push_back(small_picture(page, [](const std::string&) { return Result<std::string>(Error{"none"}); },
                                         scheme, {148, 210}));
            for (size_t i = 0; i + 1 < seen.size(); ++i) EXPECT_NE(seen[i], seen.back()) << paper;
            const QImage& image = seen.back();
            size_t printed = 0;
            for (int y = 0; y < image.height(); ++y)
                for (int x = 0; x < image.width(); ++x) printed += image.pixel(x, y) != image.pixel(0, 0) ? 1 : 0;
            EXPECT_GT(printed, 500U) << paper;
        }
}

TEST_F(TemplatesInWindow, FormsOnAnySheetEnd) {
    for (int paper = static_cast<int>(Paper::week); paper <= static_cast<int>(kLastPaper); ++paper)
        for (const auto& [width, height] : {std::pair{20.0, 20.0}, {2000.0, 20.0}, {20.0, 2000.0}, {148.0, 9000.0}})
            for (const double spacing : {kLeastSpacingMm, kMostSpacingMm}) {
                Page page;
                page.info.paper = static_cast<Paper>(paper);
                page.info.width_mm = width, page.info.height_mm = height, page.info.spacing_mm = spacing;
                EXPECT_FALSE(small_picture(page, [](const std::string&) { return Result<std::string>(Error{"none"}); },
                                           light_page(), {20, 20})
                                 .isNull());
            }
}

}  // namespace
}  // namespace fernleaf
