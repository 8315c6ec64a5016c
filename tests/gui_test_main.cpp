// Runs GoogleTest inside a QApplication that needs no display.
#include <gtest/gtest.h>

#include <QApplication>
#include <QFont>
#include <QSettings>
#include <QTemporaryDir>

#include "render/fonts.h"

int main(int argc, char** argv) {
    testing::InitGoogleTest(&argc, argv);
    qputenv("QT_QPA_PLATFORM", "offscreen:configfile=" FERNLEAF_SOURCE_DIR "/tests/offscreen.json");
    // What the window does with a reading is tested with one reader for good, so that better weights fail nothing here.
    qputenv("FERNLEAF_MODELS", FERNLEAF_SOURCE_DIR "/tests/models");
    QApplication application(argc, argv);
    QApplication::setOrganizationName("fernleaf-test");
    // Tests run side by side, each in its own process: their settings must not meet.
    const QTemporaryDir settings;
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
    fernleaf::load_fonts();
    QApplication::setFont(QFont(fernleaf::kInterfaceFace, 10));
    return RUN_ALL_TESTS();
}
