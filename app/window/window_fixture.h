// For tests: the real window over a library of its own, and hands that write, click and erase in it.
#pragma once

#include <gtest/gtest.h>

#include <QApplication>
#include <QMenu>
#include <QPointingDevice>
#include <QSettings>
#include <QTabletEvent>
#include <QTest>
#include <QTimer>
#include <QToolButton>

#include "look/theme.h"
#include "reading/models_directory.h"
#include "store/temporary_library.h"
#include "window/main_window.h"

namespace fernleaf {

namespace fs = std::filesystem;

class Window : public testing::Test {
protected:
    void SetUp() override {
        QSettings().clear();
        use_theme(Theme::light());
    }
    void TearDown() override { close(); }

    PageId start_with_page(Paper paper = Paper::plain) {
        Notebook notebook;
        notebook.title = "Grafting trials";
        notebook.sheet.paper = paper;
        PageInfo info;
        info.paper = paper;
        const PageId page = *library_->add_page(*library_->add_notebook(notebook), info);
        open();
        return page;
    }
    void open(const fs::path& models = models_directory()) {
        session_ = std::make_unique<Session>(std::move(library_.library), models);
        window_ = std::make_unique<MainWindow>(*session_);
        window_->resize(1280, 800);
        window_->show();
        ASSERT_TRUE(QTest::qWaitForWindowExposed(window_.get()));
        session_->wait_idle();
        session_->wait_idle();
    }
    void close() {
        window_.reset();
        session_.reset();
    }
    void reopen() {
        window_->close();
        close();
        library_.reopen();
        open();
    }

    InkLeaf* ink() { return window_->spread()->ink(); }
    TextLeaf* text() { return window_->spread()->text(); }
    QPoint at(double x, double y) {  // leaf px of a place on the page
        const double scale = (ink()->width() - 44.0) / session_->page()->info.width_mm;
        return QPoint(22, 22) + (QPointF(x, y) * scale).toPoint();
    }
    void mouse_stroke(const std::vector<Point>& path) {
        QTest::mousePress(ink(), Qt::LeftButton, {}, at(path[0].x, path[0].y));
        for (size_t i = 1; i < path.size(); ++i)
            for (int k = 1; k <= 6; ++k) {
                const Point p = path[i - 1] + (path[i] - path[i - 1]) * (k / 6.0);
                QTest::mouseMove(ink(), at(p.x, p.y));
                QMouseEvent move(QEvent::MouseMove, at(p.x, p.y), ink()->mapToGlobal(QPointF(at(p.x, p.y))),
                                 Qt::NoButton, Qt::LeftButton, {});
                QCoreApplication::sendEvent(ink(), &move);
            }
        QTest::mouseRelease(ink(), Qt::LeftButton, {}, at(path.back().x, path.back().y));
    }
    void write_hill(double x, double y) {
        mouse_stroke({{x, y - 6}, {x, y}}), mouse_stroke({{x + 3.6, y - 6}, {x + 3.6, y}}),
            mouse_stroke({{x, y - 3}, {x + 3.6, y - 3}});
        mouse_stroke({{x + 6.3, y - 6}, {x + 6.3, y}});
        mouse_stroke({{x + 9, y - 6}, {x + 9, y}, {x + 12, y}});
        mouse_stroke({{x + 14.1, y - 6}, {x + 14.1, y}, {x + 17.1, y}});
    }
    void tablet(QEvent::Type type, double x, double y, double pressure, QPointingDevice::PointerType pointer) {
        static const QPointingDevice pen(QStringLiteral("pen"), 1, QInputDevice::DeviceType::Stylus,
                                         QPointingDevice::PointerType::Pen,
                                         QInputDevice::Capability::Position | QInputDevice::Capability::Pressure, 1, 2);
        static const QPointingDevice eraser(
            QStringLiteral("eraser"), 2, QInputDevice::DeviceType::Stylus, QPointingDevice::PointerType::Eraser,
            QInputDevice::Capability::Position | QInputDevice::Capability::Pressure, 1, 2);
        const QPointF place = at(x, y);
        QTabletEvent event(type, pointer == QPointingDevice::PointerType::Eraser ? &eraser : &pen, place,
                           ink()->mapToGlobal(place), pressure, 12, -7, 0, 0, 0, {}, Qt::LeftButton, Qt::LeftButton);
        QCoreApplication::sendEvent(ink(), &event);
    }
    void take(Tool tool) { window_->spread()->tray()->select(tool); }
    // Types at a place, and ends there.
    void write_text(double x, double y, const QString& text) {
        take(Tool::text);
        QTest::mouseClick(ink(), Qt::LeftButton, {}, at(x, y));
        QTest::keyClicks(ink()->editor()->viewport(), text);
        QTest::keyClick(ink()->editor(), Qt::Key_Escape);
        session_->wait_idle();
    }
    // Clicks a button whose menu asks, and chooses the entry of this text in it.
    static void choose_in_menu(QToolButton* opener, const QString& text) {
        bool chosen = false;
        QTimer::singleShot(0, [&] {
            auto* menu = qobject_cast<QMenu*>(QApplication::activePopupWidget());
            ASSERT_TRUE(menu) << "no menu opened";
            for (QAction* action : menu->actions())
                if (action->text() == text) {
                    menu->setActiveAction(action);
                    QTest::keyClick(menu, Qt::Key_Return);
                    chosen = true;
                    return;
                }
            menu->close();
        });
        opener->click();
        EXPECT_TRUE(chosen) << "no entry " << text.toStdString();
    }
    QToolButton* button(const QString& tip_begin) {
        for (auto* b : window_->findChildren<QToolButton*>())
            if (b->toolTip().startsWith(tip_begin)) return b;
        ADD_FAILURE() << "no button " << tip_begin.toStdString();
        return nullptr;
    }

    TemporaryLibrary library_;
    std::unique_ptr<Session> session_;
    std::unique_ptr<MainWindow> window_;
};

}  // namespace fernleaf
