// For tests: waits for what comes with events, and fails when it does not come.
//
//   WAIT_UNTIL(!entries().empty());
#pragma once

#include <gtest/gtest.h>

#include <QCoreApplication>
#include <QElapsedTimer>
#include <QEventLoop>
#include <functional>

namespace fernleaf {

// Handles events until it holds; false when it does not in half a minute, which is far more than anything takes.
inline bool wait_until(const std::function<bool()>& holds) {
    constexpr qint64 kMostMs = 30'000;
    constexpr int kSliceMs = 10;
    QElapsedTimer since;
    since.start();
    while (!holds()) {
        if (since.hasExpired(kMostMs)) return false;
        QCoreApplication::processEvents(QEventLoop::AllEvents | QEventLoop::WaitForMoreEvents, kSliceMs);
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    }
    return true;
}

}  // namespace fernleaf

#define WAIT_UNTIL(condition) \
    ASSERT_TRUE(::fernleaf::wait_until([&] { return (condition); })) << "waited for " #condition
