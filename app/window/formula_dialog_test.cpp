#include "window/formula_dialog.h"

#include <gtest/gtest.h>

#include <QTest>

#include "window/window_fixture.h"

namespace fernleaf {
namespace {

TEST(FormulaDialog, ShowsWhatIsTypedAsItWillBeSetAndWhatIsWrongWithIt) {
    FormulaDialog dialog(true);
    dialog.show();
    auto* field = dialog.findChild<QLineEdit*>();
    QPushButton* insert = nullptr;
    for (QPushButton* button : dialog.findChildren<QPushButton*>())
        if (button->text() == QStringLiteral("Insert")) insert = button;
    ASSERT_TRUE(insert);
    const auto shows = [&](const QString& text) {
        for (const QLabel* label : dialog.findChildren<QLabel*>())
            if (label->text().contains(text) && !text.isEmpty()) return true;
        return false;
    };
    const auto has_picture = [&] {
        for (const QLabel* label : dialog.findChildren<QLabel*>())
            if (!label->pixmap(Qt::ReturnByValue).isNull()) return true;
        return false;
    };
    EXPECT_FALSE(insert->isEnabled());
    QTest::keyClicks(field, QStringLiteral("sqrt(2)/3,5"));
    EXPECT_EQ(dialog.latex(), "\\frac{\\sqrt{2}}{3.5}");
    EXPECT_TRUE(insert->isEnabled());
    EXPECT_TRUE(has_picture());
    field->setText(QStringLiteral("{x"));
    EXPECT_FALSE(insert->isEnabled());
    EXPECT_FALSE(has_picture());
    field->setText(QStringLiteral("(x"));
    EXPECT_TRUE(insert->isEnabled()) << "it can be set, though not worked out";
    EXPECT_TRUE(shows(QStringLiteral("A bracket is not closed.")));
}

}  // namespace
}  // namespace fernleaf
