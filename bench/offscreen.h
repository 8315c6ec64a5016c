// The application as window benches run it: without a display, with settings of its own.
#pragma once

#include <QApplication>
#include <QElapsedTimer>
#include <QEvent>
#include <QPointingDevice>
#include <QSettings>
#include <QTabletEvent>
#include <QTemporaryDir>
#include <QWidget>
#include <map>
#include <string>
#include <vector>

#include "look/theme.h"
#include "render/fonts.h"

namespace fernleaf {

// What a tablet's pen sends.
inline void send_pen(QWidget* to, QEvent::Type type, QPointF at) {
    static const QPointingDevice pen(QStringLiteral("pen"), 1, QInputDevice::DeviceType::Stylus,
                                     QPointingDevice::PointerType::Pen,
                                     QInputDevice::Capability::Position | QInputDevice::Capability::Pressure, 1, 2);
    QTabletEvent event(type, &pen, at, to->mapToGlobal(at), 0.5, 0, 0, 0, 0, 0, {}, Qt::LeftButton, Qt::LeftButton);
    QCoreApplication::sendEvent(to, &event);
}

inline double ms_of(const QElapsedTimer& timer) { return static_cast<double>(timer.nsecsElapsed()) / 1e6; }

// Remembers how long each kind of event held the UI thread.
class TimedApplication : public QApplication {
public:
    using QApplication::QApplication;
    bool notify(QObject* receiver, QEvent* event) override {
        const std::string kind =
            std::string(receiver->metaObject()->className()) + ", event " + std::to_string(event->type());
        QElapsedTimer timer;
        timer.start();
        const bool taken = QApplication::notify(receiver, event);
        durations_[kind].push_back(ms_of(timer));
        return taken;
    }
    const std::map<std::string, std::vector<double>>& durations() const { return durations_; }
    void forget() { durations_.clear(); }

private:
    std::map<std::string, std::vector<double>> durations_;
};

class OffscreenApplication {
public:
    OffscreenApplication(int& argc, char** argv)
        : qt_((qputenv("QT_QPA_PLATFORM", "offscreen:configfile=" FERNLEAF_SOURCE_DIR "/tests/offscreen.json"), argc),
              argv) {
        QApplication::setOrganizationName("fernleaf-bench");
        QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings_.path());
        load_fonts();
        use_theme(Theme::light());
    }

    TimedApplication& qt() { return qt_; }

private:
    QTemporaryDir settings_;  // a run before this one must not say which page is opened
    TimedApplication qt_;
};

}  // namespace fernleaf
