// The application as window benches run it: without a display, with settings of its own.
#pragma once

#include <QApplication>
#include <QElapsedTimer>
#include <QEvent>
#include <algorithm>
#include <map>
#include <string>

#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {

inline double ms_of(const QElapsedTimer& timer) { return static_cast<double>(timer.nsecsElapsed()) / 1e6; }

// Remembers which kinds of event held the UI thread, and for how long at most.
class TimedApplication : public QApplication {
public:
    using QApplication::QApplication;
    bool notify(QObject* receiver, QEvent* event) override {
        const std::string kind =
            std::string(receiver->metaObject()->className()) + ", event " + std::to_string(event->type());
        QElapsedTimer timer;
        timer.start();
        const bool taken = QApplication::notify(receiver, event);
        longest_[kind].push_back(ms_of(timer));
        return taken;
    }
    const std::map<std::string, std::vector<double>>& durations() const { return longest_; }
    void forget() { longest_.clear(); }

private:
    std::map<std::string, std::vector<double>> longest_;
};

class OffscreenApplication {
public:
    OffscreenApplication(int& argc, char** argv)
        : qt_((qputenv("QT_QPA_PLATFORM", "offscreen:configfile=" FERNLEAF_SOURCE_DIR "/tests/offscreen.json"), argc),
              argv) {
        QApplication::setOrganizationName("fernleaf-bench");
        load_fonts();
        use_theme(Theme::light());
    }

    TimedApplication& qt() { return qt_; }

private:
    TimedApplication qt_;
};

}  // namespace fernleaf
