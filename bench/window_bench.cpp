// The real window, offscreen: pen event to finished repaint on a page of 5,000 strokes, and pen-up to reading shown.
#include <malloc.h>

#include <QEventLoop>
#include <QTimer>
#include <cstdio>

#include "bench/figures.h"
#include "bench/offscreen.h"
#include "demo/hand.h"
#include "reading/models_directory.h"
#include "window/main_window.h"

using namespace fernleaf;

int main(int argc, char** argv) {
    OffscreenApplication application(argc, argv);
    const size_t count = argc > 1 ? std::stoul(argv[1]) : 5000;
    const auto directory = std::filesystem::temp_directory_path() / "fernleaf-window-bench";
    std::filesystem::remove_all(directory);
    auto library = *Library::open(directory);
    const Hand hand = *Hand::load(std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands/mirela.json");
    std::mt19937 random(1);
    Notebook notebook;
    notebook.title = "Bench";
    notebook.sheet.width_mm = 210, notebook.sheet.height_mm = 297;
    std::vector<FilledPage> pages(2);
    for (auto& page : pages) page.info.width_mm = 210, page.info.height_mm = 297;
    double y = 8;
    WritingStyle small;
    small.x_height_mm = 1.1;
    while (pages[0].content.strokes.size() < count) {
        auto strokes = hand.write(
            "The old press leaves the pulp wetter than the new one, so let it stand two nights before it goes into the "
            "tank",
            {6, y}, small, random);
        std::ranges::move(strokes, std::back_inserter(pages[0].content.strokes));
        y += 285.0 * static_cast<double>(strokes.size()) / static_cast<double>(count);
    }
    pages[0].content.strokes.resize(count);
    const auto ids = *library->add_filled_pages(*library->add_notebook(notebook), pages);
    pages = {};  // the window's memory is measured, not the bench's
    malloc_trim(0);

    const double before_mb = resident_mb();
    Session session(std::move(library), models_directory());
    MainWindow window(session);
    window.resize(1280, 800);
    window.show();
    session.wait_idle();
    const double empty_mb = resident_mb();
    QElapsedTimer timer;
    session.open_page(ids[1]);
    session.wait_idle();
    timer.start();
    session.open_page(ids[0]);
    while (!session.page() || session.page()->info.id != ids[0]) QCoreApplication::processEvents();
    std::printf("open the page of %zu strokes until it is in memory %8.1f ms\n", count, ms_of(timer));
    session.wait_idle();
    InkLeaf* ink = window.spread()->ink();

    // A pen tells its place 200 times a second; whatever else the UI thread does then makes the ink wait.
    std::vector<double> moves, ups;
    application.qt().forget();
    QElapsedTimer clock;
    clock.start();
    double due_ms = 0;
    const auto when_due = [&](auto act) {
        due_ms += 5;
        QEventLoop loop;
        QTimer::singleShot(std::max(0, static_cast<int>(due_ms - ms_of(clock))), Qt::PreciseTimer, &loop,
                           &QEventLoop::quit);
        loop.exec();
        act();
        QEvent request(QEvent::UpdateRequest);  // the repaint of what changed, at once and finished
        QCoreApplication::sendEvent(&window, &request);
        return ms_of(clock) - due_ms;
    };
    for (int s = 0; s < 40; ++s) {
        const QPointF from(60 + 8 * s, 100 + 12 * s);
        due_ms = std::max(due_ms, ms_of(clock));
        when_due([&] { send_pen(ink, QEvent::TabletPress, from); });
        for (int i = 1; i <= 40; ++i)
            moves.push_back(
                when_due([&] { send_pen(ink, QEvent::TabletMove, from + QPointF(2 * i, 6 * std::sin(0.4 * i))); }));
        ups.push_back(when_due([&] { send_pen(ink, QEvent::TabletRelease, from + QPointF(80, 0)); }));
    }
    std::printf(
        "pen move due to finished repaint, reading under way: median %.2f ms, 99th percentile %.2f ms, worst %.2f ms "
        "(%zu events)\n",
        quantile(moves, 0.5), quantile(moves, 0.99), quantile(moves, 1), moves.size());
    std::printf("pen up due to finished repaint:                      median %.2f ms, 99th percentile %.2f ms\n",
                quantile(ups, 0.5), quantile(ups, 0.99));
    for (const auto& [kind, ms] : application.qt().durations())
        if (quantile(ms, 1) > 4)
            std::printf("    held by %-40s %6zu times, 99th percentile %.1f ms, worst %.1f ms\n", kind.c_str(),
                        ms.size(), quantile(ms, 0.99), quantile(ms, 1));
    session.wait_idle();
    std::printf("memory: %.0f MB before, %.0f MB with the window and reader, %.0f MB with the page\n", before_mb,
                empty_mb, resident_mb());

    session.open_page(ids[1]);
    session.wait_idle();
    std::vector<double> shown;
    const auto words = hand.write("frost again on Thursday", {20, 40}, {}, random);
    int readings = 0;
    QObject::connect(&session.readings(), &ReadingScheduler::changed, [&] { ++readings; });
    for (const Stroke& stroke : words) {
        const int before = readings;
        timer.start();
        session.editing().write(stroke);
        while (readings == before) QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
        window.spread()->text()->repaint();
        shown.push_back(ms_of(timer));
    }
    std::printf(
        "pen up to reading shown (a line growing to 23 letters): median %.0f ms, 95th percentile %.0f ms, worst %.0f "
        "ms\n",
        quantile(shown, 0.5), quantile(shown, 0.95), quantile(shown, 1));
    session.wait_idle();
    std::filesystem::remove_all(directory);
}
