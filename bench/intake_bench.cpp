// The intake tray in the real window, offscreen: a batch of photographs of twelve megapixels, then a PDF of 500 pages,
// while a person looks from one entry to the next; how long the window was busy at once, time, memory, and how soon it
// can be stopped.
//
//   intake_bench [PHOTOGRAPHS [PDF_PAGES]]      100 and 500 without
#include <QListWidget>
#include <QTemporaryDir>
#include <QThread>
#include <cstdio>
#include <fstream>
#include <opencv2/imgcodecs.hpp>
#include <opencv2/imgproc.hpp>

#include "bench/figures.h"
#include "bench/offscreen.h"
#include "bench/paper/paper_camera.h"
#include "bench/paper/sheets.h"
#include "demo/demo_library.h"
#include "intake/intake_tray.h"
#include "paper/test_pdf.h"
#include "reading/models_directory.h"
#include "window/main_window.h"

using namespace fernleaf;

namespace {

// How long each turn of the window's events took, until done() or for as long as it is given.
template <typename Done>
std::vector<double> turns_until(Done done, QListWidget* looked_through, double most_ms = 3.6e6) {
    std::vector<double> busy;
    QElapsedTimer all, one, looked;
    all.start(), looked.start();
    while (!done() && ms_of(all) < most_ms) {
        one.start();
        if (looked_through && looked_through->count() > 0 && ms_of(looked) > 400) {
            looked_through->setCurrentRow((looked_through->currentRow() + 1) % looked_through->count());
            looked.start();
        }
        QCoreApplication::processEvents();
        busy.push_back(ms_of(one));
        QThread::usleep(500);
    }
    return busy;
}

void print_turns(const std::vector<double>& busy) {
    std::printf("    busy at once: 99th percentile %.1f ms, 99.9th %.1f, worst %.1f; over 16 ms %zu of %zu turns\n",
                quantile(busy, 0.99), quantile(busy, 0.999), quantile(busy, 1),
                static_cast<size_t>(std::ranges::count_if(busy, [](double ms) { return ms > 16; })), busy.size());
}

QStringList photographs(const QString& folder, size_t count) {
    const Hand hand = *Hand::load(std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands/mirela.json");
    std::vector<std::string> texts;
    for (const DemoPage& page : *demo_texts()) texts.insert(texts.end(), page.lines.begin(), page.lines.end());
    QStringList out;
    for (size_t i = 0; i < count; ++i) {
        std::mt19937 random(static_cast<unsigned>(i));
        const DrawnSheet sheet = draw_sheet(hand, texts, Content::written, random);
        const QString path = folder + QStringLiteral("/photograph %1.jpg").arg(i + 1);
        cv::imwrite(path.toStdString(), photographed(sheet.pixels, *first_camera(), random).photo.pixels);
        out << path;
    }
    return out;
}

}  // namespace

int main(int argc, char** argv) {
    const OffscreenApplication application(argc, argv);
    const size_t count = argc > 1 ? std::stoul(argv[1]) : 100, pdf_pages = argc > 2 ? std::stoul(argv[2]) : 500;
    const QTemporaryDir folder;
    const QStringList paths = photographs(folder.path(), count);
    const QString pdf = folder.filePath("handbook.pdf");
    std::ofstream(pdf.toStdString(), std::ios::binary) << pdf_of(std::vector<std::string>(
        pdf_pages, "BT /F 14 Tf 40 200 Td (Late frost in the orchard) Tj ET 2 w 60 60 m 200 200 l S"));

    const double before_mb = resident_mb();
    auto library = *Library::open(folder.filePath("library").toStdString());
    Notebook notebook;
    notebook.title = "Bench";
    const NotebookId into = *library->add_notebook(notebook);
    Session session(std::move(library), models_directory());
    MainWindow window(session);
    window.resize(1280, 800);
    window.show();
    window.show_intake(true);
    session.wait_idle();
    auto* list = window.findChild<IntakeTray*>()->list();

    IntakeDesk& desk = session.intake();
    bool idle = false;
    QObject::connect(&desk, &IntakeDesk::progress, [&](const QString& label, double) { idle = label.isEmpty(); });
    const auto looked_at = [&] {
        return idle && std::ranges::all_of(desk.entries(), &IntakeEntry::looked_at) && !desk.entries().empty();
    };
    QElapsedTimer timer;
    timer.start();
    desk.bring(paths);
    std::vector<double> busy = turns_until(looked_at, list);
    std::printf(
        "%zu photographs of twelve megapixels looked at, %zu sheets: %.0f s; memory %.0f MB before, %.0f MB after\n",
        count, desk.entries().size(), ms_of(timer) / 1000, before_mb, resident_mb());
    print_turns(busy);

    const auto file_all = [&] {
        std::vector<IntakeId> ids;
        for (const IntakeEntry& entry : desk.entries()) ids.push_back(entry.id);
        timer.start();
        desk.file(ids, into);
        busy = turns_until([&] { return desk.entries().empty(); }, nullptr);
        std::printf("%zu sheets filed: %.1f s\n", ids.size(), ms_of(timer) / 1000);
        print_turns(busy);
    };
    file_all();

    idle = false;
    timer.start();
    desk.bring(QStringList{pdf});
    busy = turns_until(looked_at, list);
    std::printf("a PDF of %zu pages in the tray: %.1f s; memory %.0f MB\n", pdf_pages, ms_of(timer) / 1000,
                resident_mb());
    print_turns(busy);
    file_all();

    idle = false;
    desk.bring(paths);
    turns_until([] { return false; }, list, 1500);
    timer.start();
    desk.cancel();
    busy = turns_until([&] { return idle; }, list);
    std::printf("a batch stopped midway: it ended %.0f ms later; %zu wait\n", ms_of(timer), desk.entries().size());
    print_turns(busy);
}
