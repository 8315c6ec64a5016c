// Drawings in the real window, offscreen: a figure of a page of 300 fair shapes dragged, move to finished repaint; and
// a flow of about 60 strokes drawn, pen-up to its reading shown.
#include <QMouseEvent>
#include <cstdio>

#include "bench/figures.h"
#include "bench/offscreen.h"
#include "demo/drawn_diagram.h"
#include "drawing/links.h"
#include "reading/models_directory.h"
#include "window/main_window.h"

using namespace fernleaf;

namespace {

constexpr size_t kFigures = 150, kRow = 12, kStrokes = 60;
constexpr int kMoves = 100;

// Figures in rows, each linked to the next, as large as the page holds.
FilledPage page_of_links() {
    FilledPage page;
    Elements& all = page.content;
    for (size_t i = 0; i < kFigures; ++i) {
        const double x = 6 + 16.6 * static_cast<double>(i % kRow), y = 8 + 21.0 * static_cast<double>(i / kRow);
        FairShape figure;
        figure.key = static_cast<int64_t>(i) + 1;
        figure.shape = {ShapeKind::rectangle, {{x, y}, {x + 11, y}, {x + 11, y + 9}, {x, y + 9}}};
        all.shapes.push_back(std::move(figure));
    }
    for (size_t i = 0; i < kFigures; ++i) {
        FairShape link = linked(all.shapes[i], all.shapes[(i + 1) % kFigures]);
        link.routing = static_cast<Routing>(i % 3);
        all.shapes.push_back(std::move(link));
    }
    return page;
}

void send_mouse(QWidget* to, QEvent::Type type, QPointF at) {
    const Qt::MouseButton button = type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton;
    QMouseEvent event(type, at, to->mapToGlobal(at), button,
                      type == QEvent::MouseButtonRelease ? Qt::NoButton : Qt::LeftButton, {});
    QCoreApplication::sendEvent(to, &event);
}

}  // namespace

int main(int argc, char** argv) {
    OffscreenApplication application(argc, argv);
    const auto directory = std::filesystem::temp_directory_path() / "fernleaf-drag-bench";
    std::filesystem::remove_all(directory);
    auto library = *Library::open(directory);
    Notebook notebook;
    notebook.title = "Bench";
    std::vector<FilledPage> pages{page_of_links(), FilledPage{}};
    const auto ids = *library->add_filled_pages(*library->add_notebook(notebook), pages);
    Session session(std::move(library), models_directory());
    MainWindow window(session);
    window.resize(1280, 800);
    window.show();
    session.open_page(ids[0]);
    session.wait_idle();
    session.wait_idle();
    InkLeaf* ink = window.spread()->ink();
    window.spread()->tray()->select(Tool::lasso);
    ink->choosing().select({session.page()->shapes[kFigures / 2].id});
    const Box box = ink->selection().box();
    const double scale = (ink->width() - 44.0) / session.page()->info.width_mm;
    const QPointF from(22 + box.centre().x * scale, 22 + box.centre().y * scale);
    std::vector<double> moves;
    QElapsedTimer timer;
    send_mouse(ink, QEvent::MouseButtonPress, from);
    for (int i = 0; i < kMoves; ++i) {
        const QPointF at = from + QPointF(90 * std::sin(0.1 * i), 0.8 * i);
        timer.start();
        send_mouse(ink, QEvent::MouseMove, at);
        QEvent request(QEvent::UpdateRequest);
        QCoreApplication::sendEvent(&window, &request);
        moves.push_back(ms_of(timer));
    }
    timer.start();
    send_mouse(ink, QEvent::MouseButtonRelease, from + QPointF(60, 60));
    std::printf(
        "one of %zu fair shapes and links dragged, with its links, guides and repaint: median %.2f ms, 99th percentile "
        "%.2f ms, worst %.2f ms; let go in %.2f ms\n",
        2 * kFigures, quantile(moves, 0.5), quantile(moves, 0.99), quantile(moves, 1), ms_of(timer));
    session.wait_idle();

    session.open_page(ids[1]);
    session.wait_idle();
    const Hand hand = *Hand::load(std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands/mirela.json");
    std::mt19937 random(4);
    std::vector<Stroke> strokes;
    while (strokes.size() < kStrokes)
        strokes = draw_flow(hand, {"close valves", "frost tonight", "wait", "open vents"}, {}, random).strokes;
    int readings = 0;
    QObject::connect(&session.readings(), &ReadingScheduler::changed, [&] { ++readings; });
    std::vector<double> shown;
    for (size_t i = 0; i < strokes.size(); ++i) {
        const int before = readings;
        timer.start();
        session.editing().write(strokes[i]);
        while (readings == before) QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
        window.spread()->text()->repaint();
        if (i >= kStrokes / 2) shown.push_back(ms_of(timer));
    }
    std::printf(
        "pen up to reading shown, the second half of a flow of %zu strokes: median %.0f ms, 95th percentile %.0f ms, "
        "worst %.0f ms\n",
        strokes.size(), quantile(shown, 0.5), quantile(shown, 0.95), quantile(shown, 1));
    session.wait_idle();
    std::filesystem::remove_all(directory);
}
