// The application as window benches run it: without a display, with settings of its own.
#pragma once

#include <QApplication>
#include <QElapsedTimer>

#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {

class OffscreenApplication {
public:
    OffscreenApplication(int& argc, char** argv)
        : qt_((qputenv("QT_QPA_PLATFORM", "offscreen:configfile=" FERNLEAF_SOURCE_DIR "/tests/offscreen.json"), argc),
              argv) {
        QApplication::setOrganizationName("fernleaf-bench");
        load_fonts();
        use_theme(Theme::light());
    }

private:
    QApplication qt_;
};

inline double ms_of(const QElapsedTimer& timer) { return static_cast<double>(timer.nsecsElapsed()) / 1e6; }

}  // namespace fernleaf
