// Runs GoogleTest inside a QApplication that needs no display.
#include <gtest/gtest.h>

#include <QApplication>
#include <QFont>
#include <QSettings>
#include <QTemporaryDir>

#include "render/fonts.h"

#if defined(__has_feature)
#if __has_feature(thread_sanitizer)
#define FERNLEAF_UNDER_TSAN
#endif
#endif

#ifdef FERNLEAF_UNDER_TSAN
#include <dlfcn.h>
#include <sanitizer/tsan_interface.h>

// Qt is not built for the thread sanitizer, which can't see the lock that a queued call is handed over with. So it is
// told: what was done before a call was queued has happened before it is made.
namespace {
char handed_over;
}

bool QMetaObject::invokeMethodImpl(QObject* object, QtPrivate::QSlotObjectBase* slot, Qt::ConnectionType type,
                                   void* result) {
    using Invoke = bool (*)(QObject*, QtPrivate::QSlotObjectBase*, Qt::ConnectionType, void*);
    static const auto invoke = reinterpret_cast<Invoke>(
        dlsym(RTLD_NEXT,
              "_ZN11QMetaObject16invokeMethodImplEP7QObjectPN9QtPrivate15QSlotObjectBaseEN2Qt14ConnectionTypeEPv"));
    __tsan_release(&handed_over);
    return invoke(object, slot, type, result);
}

class Application : public QApplication {
public:
    using QApplication::QApplication;
    bool notify(QObject* receiver, QEvent* event) override {
        if (event->type() == QEvent::MetaCall) __tsan_acquire(&handed_over);
        return QApplication::notify(receiver, event);
    }
};
#else
using Application = QApplication;
#endif

int main(int argc, char** argv) {
    testing::InitGoogleTest(&argc, argv);
    qputenv("QT_QPA_PLATFORM", "offscreen:configfile=" FERNLEAF_SOURCE_DIR "/tests/offscreen.json");
    // What the window does with a reading is tested with one reader for good, so that better weights fail nothing here.
    qputenv("FERNLEAF_MODELS", FERNLEAF_SOURCE_DIR "/tests/models");
    const Application application(argc, argv);
    QApplication::setOrganizationName("fernleaf-test");
    // Tests run side by side, each in its own process: their settings must not meet.
    const QTemporaryDir settings;
    QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
    // Nor may pens that happen to be near.
    qputenv("FERNLEAF_PENS", settings.filePath("pens").toUtf8());
    fernleaf::load_fonts();
    QApplication::setFont(QFont(fernleaf::kInterfaceFace, 10));
    return RUN_ALL_TESTS();
}
