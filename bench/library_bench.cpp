// A library of many pages: opening it, in the window too, finding, exporting. Prints milliseconds.
//
//   library_bench [PAGES]     1,000 if none are named
#include <QElapsedTimer>
#include <QPaintEvent>
#include <chrono>
#include <cstdio>
#include <thread>

#include "base/text.h"
#include "bench/figures.h"
#include "bench/offscreen.h"
#include "demo/demo_library.h"
#include "demo/hand.h"
#include "finding/go_to.h"
#include "reading/models_directory.h"
#include "render/export.h"
#include "store/backup.h"
#include "window/main_window.h"

using namespace fernleaf;

namespace {

// Readings made from the known texts: what is measured here is the library, not the reader.
Reading reading_of(const std::vector<std::string>& lines, double x, double y) {
    Reading reading;
    for (const std::string& text : lines) {
        ReadLine line;
        double at = x;
        for (size_t begin = 0; begin < text.size();) {
            const size_t end = std::min(text.find(' ', begin), text.size());
            const std::string word = text.substr(begin, end - begin);
            line.words.push_back(
                {word, 0.9, Box::of(at, y, 12, 5), {}, {{word + "s", 0.05}, {"x" + word, 0.02}}, false});
            at += 15;
            begin = end + 1;
        }
        line.box = Box::of(x, y, at - x, 5);
        reading.lines.push_back(line);
        y += 8;
    }
    return reading;
}

// Notices the first time a widget is painted.
class FirstPaint : public QObject {
public:
    bool seen = false;
    bool eventFilter(QObject* object, QEvent* event) override {
        seen = seen || event->type() == QEvent::Paint;
        return QObject::eventFilter(object, event);
    }
};

// From opening the library to its last page shown, in the window.
double start_ms(const std::filesystem::path& directory) {
    QElapsedTimer timer;
    timer.start();
    Session session(*Library::open(directory), models_directory());
    MainWindow window(session);
    FirstPaint paint;
    window.spread()->ink()->installEventFilter(&paint);
    window.show();
    while (!session.page() || !paint.seen) QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
    const double ms = ms_of(timer);
    session.wait_idle();
    return ms;
}

}  // namespace

int main(int argc, char** argv) {
    const OffscreenApplication application(argc, argv);
    const int notebooks_wanted = argc > 1 ? std::max(1, std::stoi(argv[1]) / 100) : 10;
    const auto directory = std::filesystem::temp_directory_path() / "fernleaf-library-bench";
    std::filesystem::remove_all(directory);
    QElapsedTimer timer;
    std::vector<PageId> ids;
    {
        const auto library = *Library::open(directory);
        const auto texts = *demo_texts();
        const Hand hand = *Hand::load(std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands/mirela.json");
        std::mt19937 random(1);
        timer.start();
        for (int n = 0; n < notebooks_wanted; ++n) {
            Notebook notebook;
            notebook.title = "Notebook " + std::to_string(n + 1);
            const NotebookId id = *library->add_notebook(notebook);
            std::vector<FilledPage> pages(100);
            for (size_t p = 0; p < pages.size(); ++p) {
                const DemoPage& text = texts[(static_cast<size_t>(n) * 100 + p) % texts.size()];
                double y = 20;
                for (const std::string& line : text.lines) {
                    auto strokes = hand.write(line, {22, y}, {}, random);
                    std::ranges::move(strokes, std::back_inserter(pages[p].content.strokes));
                    y += 8;
                }
            }
            const auto added = *library->add_filled_pages(id, pages);
            for (size_t p = 0; p < added.size(); ++p)
                (void)static_cast<bool>(library->save_reading(
                    added[p], reading_of(texts[(static_cast<size_t>(n) * 100 + p) % texts.size()].lines, 22, 17)));
            ids.insert(ids.end(), added.begin(), added.end());
        }
        std::printf("made %d00 pages with ink and readings        %8.0f ms\n", notebooks_wanted, ms_of(timer));
    }
    std::vector<double> opened;
    for (int i = 0; i < 9; ++i) {
        timer.start();
        const auto library = *Library::open(directory);
        const auto notebooks = *library->notebooks();
        (void)library->contents(notebooks.front().id);
        (void)library->load_page(ids.front());
        (void)library->reading(ids.front());
        opened.push_back(ms_of(timer));
    }
    std::printf("open, list 100 pages, load the first          %8.1f ms (median of 9)\n", quantile(opened, 0.5));
    std::vector<double> started;
    for (int i = 0; i < 5; ++i) started.push_back(start_ms(directory));
    std::printf("start, to the page shown in the window        %8.1f ms (median of 5)\n", quantile(started, 0.5));
    const auto library = *Library::open(directory);
    const auto median_of = [&](const char* what, const auto& job) {
        std::vector<double> times;
        for (int i = 0; i < 9; ++i) {
            timer.start();
            job();
            times.push_back(ms_of(timer));
        }
        std::printf("%-45s %8.1f ms (median of 9)\n", what, quantile(times, 0.5));
    };
    std::vector<TagMark> marks;
    const TagId tag = library->tags_named({"every fifth"})->front();
    for (size_t i = 0; i < ids.size() && marks.size() < 500; i += 2) marks.push_back({tag, ids[i]});
    timer.start();
    (void)library->set_tags(marks, true);
    std::printf("%zu pages tagged                              %8.1f ms\n", marks.size(), ms_of(timer));
    median_of("all tags with their pages counted", [&] { (void)library->tags(); });
    median_of("all places to go to", [&] { (void)library->places(); });
    const std::vector<PagePlace> places = *library->places();
    std::vector<std::string> names;
    for (const PagePlace& place : places) names.push_back(fold(place.title + " " + place.notebook_title));
    median_of("a letter typed into go to", [&] {
        const GoToQuery query("pre no");
        double best = 0;
        for (const std::string& name : names) best = std::max(best, query.match(name));
    });
    median_of("all to-dos", [&] { (void)library->todos(true); });
    for (const char* query :
         {"frost", "fro", "the", "\"low field\"", "zebra", "forst", "frosty wether", "frost OR cider -mill",
          "tag:every", "frost tag:every", "the -tag:every", "notebook:\"Notebook 7\"", "has:math", "has:picture",
          "lang:en the", "after:2026-01-01 frost"}) {
        std::vector<double> found;
        size_t hits = 0;
        for (int i = 0; i < 9; ++i) {
            timer.start();
            hits = library->find(*parse_query(query))->size();
            found.push_back(ms_of(timer));
        }
        std::printf("find %-24s %4zu hits           %8.1f ms (median of 9)\n", query, hits, quantile(found, 0.5));
    }
    const auto backups = std::filesystem::temp_directory_path() / "fernleaf-library-bench-backups";
    std::filesystem::remove_all(backups);
    for (const char* what : {"backup, the first", "backup after one more line"}) {
        timer.start();
        const auto made = back_up(*library, backups);
        std::printf("%-45s %8.0f ms, %.1f MB%s\n", what, ms_of(timer),
                    made ? static_cast<double>(made->bytes) / 1e6 : 0.0, made ? "" : " FAILED");
        const Hand hand = *Hand::load(std::string(FERNLEAF_SOURCE_DIR) + "/demo/hands/mirela.json");
        std::mt19937 random(2);
        Edit edit{"Write"};
        edit.added.strokes = hand.write("one more line", {22, 250}, {}, random);
        (void)static_cast<bool>(library->commit(ids[ids.size() / 2], edit));
        std::this_thread::sleep_for(std::chrono::seconds(1));  // they are told by the second
    }
    std::filesystem::remove_all(backups);
    timer.start();
    const Status written = export_pages(*library, {ids.begin(), ids.begin() + 20}, directory / "twenty.pdf");
    std::printf("PDF of 20 pages                               %8.0f ms, %.1f MB%s\n", ms_of(timer),
                static_cast<double>(std::filesystem::file_size(directory / "twenty.pdf")) / 1e6,
                written ? "" : " FAILED");
    timer.start();
    const auto wrong = library->check();
    std::printf("check of the whole library                    %8.0f ms, %zu findings\n", ms_of(timer), wrong->size());
    std::printf("library on disk                               %8.1f MB\n",
                static_cast<double>(std::filesystem::file_size(directory / "library.db")) / 1e6);
    std::filesystem::remove_all(directory);
}
