// What the person is told: by whatever part of the session, shown in one place by the window.
#pragma once

#include <QObject>
#include <QString>
#include <functional>

#include "base/result.h"

namespace fernleaf {

// UI thread only.
class Messages : public QObject {
    Q_OBJECT

public:
    using QObject::QObject;
    void tell_problem(const QString& message) { emit problem(message); }
    void tell_problem(const Error& error) { emit problem(QString::fromStdString(error.message)); }
    // What tells errors from any thread: for jobs that nobody waits for.
    std::function<void(const Error&)> teller() {
        return [this](const Error& error) {
            QMetaObject::invokeMethod(
                this, [this, error] { tell_problem(error); }, Qt::QueuedConnection);
        };
    }
    void tell(const QString& message) { emit notice(message); }
    // With a way back beside it.
    void tell_undoable(const QString& message, const std::function<void()>& take_back) {
        emit undoable(message, take_back);
    }
    // Something that can be done now, with the name of it.
    void make_offer(const QString& message, const QString& action, const std::function<void()>& do_it) {
        emit offer(message, action, do_it);
    }

signals:
    void problem(const QString& message);
    void notice(const QString& message);
    void undoable(const QString& message, const std::function<void()>& take_back);
    void offer(const QString& message, const QString& action, const std::function<void()>& do_it);
};

}  // namespace fernleaf
