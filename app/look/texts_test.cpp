// Texts with a number have their two forms, each of them.
#include "look/texts.h"

#include <gtest/gtest.h>

#include <QCoreApplication>
#include <QDirIterator>
#include <QFile>
#include <QRegularExpression>

namespace fernleaf {
namespace {

// For every test of this program.
class TextsLoaded : public testing::Environment {
    void SetUp() override { load_texts(); }
};
const auto* const loaded = testing::AddGlobalTestEnvironment(new TextsLoaded);

QString content(const QString& path) {
    QFile file(path);
    EXPECT_TRUE(file.open(QIODevice::ReadOnly)) << path.toStdString();
    return QString::fromUtf8(file.readAll());
}

TEST(Texts, EachWithANumberHasItsTwoForms) {
    ASSERT_NE(loaded, nullptr);
    const QString texts = content(FERNLEAF_SOURCE_DIR "/assets/language/fernleaf_en.ts");
    EXPECT_FALSE(texts.contains("unfinished"));
    // The strings of a call of tr() whose text holds %n, joined.
    const QRegularExpression call(R"(\btr\(\s*((?:"[^"]*"\s*)+),\s*nullptr)");
    int found = 0;
    for (QDirIterator it(FERNLEAF_SOURCE_DIR "/app", {"*.cpp", "*.h"}, QDir::Files, QDirIterator::Subdirectories);
         it.hasNext();) {
        const QString path = it.next();
        if (path.endsWith("_test.cpp")) continue;
        const QString code = content(path);
        for (auto match = call.globalMatch(code); match.hasNext(); ++found) {
            const QString text = match.next().captured(1).remove(QRegularExpression(R"("\s*"|"\s*$|^")")).trimmed();
            EXPECT_TRUE(texts.contains("<source>" + text + "</source>"))
                << text.toStdString() << "\n run scripts/texts";
        }
    }
    EXPECT_GT(found, 15);
}

TEST(Texts, NumbersChooseTheForm) {
    const auto examples = [](int n) {
        return QCoreApplication::translate("fernleaf::ReadingDialog", "%n example(s)", nullptr, n);
    };
    EXPECT_EQ(examples(1), "1 example");
    EXPECT_EQ(examples(2), "2 examples");
}

}  // namespace
}  // namespace fernleaf
