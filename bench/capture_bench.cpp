// Pens: a stroke from the stand-in to the finished repaint of its page; its memory onto disk; losses and doubles when
// link, pen and program are ended at random moments; days of many pages.
//
//   capture_bench [live] [memory] [cuts ROUNDS] [days PAGES]      all when none is named
#include <signal.h>
#include <sys/wait.h>
#include <unistd.h>

#include <QScrollBar>
#include <cstdio>
#include <random>
#include <set>

#include "bench/figures.h"
#include "bench/offscreen.h"
#include "pen_stand_in/running_pen.h"
#include "reading/models_directory.h"
#include "store/pen_keeper.h"
#include "window/main_window.h"

using namespace fernleaf;

namespace {

namespace fs = std::filesystem;

constexpr int kLiveStrokes = 300, kMemoryStrokes = 10'000, kUsualCuts = 1000, kUsualDays = 10'000;
constexpr int64_t kDayMs = 86'400'000;

struct Place {
    explicit Place(const char* name)
        : directory(fs::temp_directory_path() / ("fernleaf-" + std::string(name) + "-" + std::to_string(getpid()))) {
        fs::remove_all(directory);
        fs::create_directories(directory);
        setenv("FERNLEAF_PENS", (directory / "pens").c_str(), 1);
    }
    ~Place() { fs::remove_all(directory); }
    const fs::path directory;
};

void print_times(const char* what, const std::vector<double>& ms) {
    std::printf("%s: median %.1f ms, 99th percentile %.1f ms\n", what, quantile(ms, 0.5), quantile(ms, 0.99));
}

// Pairs the pen before, so that it is linked by itself.
void pair(Library& library, const PenSetup& setup) {
    PenRecord pen = *library.pen(setup.serial);
    pen.name = setup.name;
    pen.key = key_of(setup.passcode, setup.serial);
    if (!library.remember_pen(pen)) std::abort();
}

void live() {
    const Place place("live");
    auto library = *Library::open(place.directory / "library");
    const PenSetup setup;
    pair(*library, setup);
    RunningPen pen(setup);
    Session session(std::move(library), models_directory());
    MainWindow window(session);
    window.resize(1280, 800);
    window.show();
    const auto wait = [](const std::function<bool()>& there) {
        while (!there()) QCoreApplication::processEvents(QEventLoop::AllEvents | QEventLoop::WaitForMoreEvents, 2);
    };
    wait([&] { return !session.pens().pens().empty() && session.pens().pens()[0].drained; });
    pen.write({2, 5, 1}, 0);
    wait([&] { return session.page() && session.page()->strokes.size() == 1; });
    std::vector<double> times;
    QElapsedTimer timer;
    for (int i = 1; i <= kLiveStrokes; ++i) {
        timer.start();
        pen.write({2, 5, static_cast<uint16_t>(1 + i / 20)}, i % 20);
        const auto wanted = static_cast<size_t>(i % 20 == 0 ? 1 : i / 20 == 0 ? i + 1 : i % 20 + 1);
        const PageId before = session.page()->info.id;
        wait([&] {
            return i % 20 == 0 ? session.page()->info.id != before && session.page()->strokes.size() == 1
                               : session.page()->strokes.size() == wanted;
        });
        QEvent request(QEvent::UpdateRequest);
        QCoreApplication::sendEvent(&window, &request);
        times.push_back(ms_of(timer));
    }
    print_times("stroke from the pen to the repaint", times);
}

void memory() {
    const Place place("memory");
    auto library = *Library::open(place.directory / "library");
    const PenSetup setup{.room_kb = 1'000'000};
    pair(*library, setup);
    RunningPen pen(setup);
    for (int i = 0; i < kMemoryStrokes; ++i) pen.write({2, 5, static_cast<uint16_t>(1 + i / 100)}, i % 20);
    while (pen.waiting()) usleep(1000);
    QElapsedTimer timer;
    timer.start();
    LibraryKeeper keeper(*library, [](const KeptCaptures&) {});
    PenLink link(keeper, "bench", {});
    PenRequests requests;
    auto line = *connect_local(pens_about().front());
    const Status status = run_pen_link(link, *line, requests, {}, [](const LinkStatus& now) { return now.drained; });
    std::printf("%d strokes from the pen's memory on disk: %.2f s%s\n", kMemoryStrokes, ms_of(timer) / 1000,
                status && library->pen(setup.serial)->kept == kMemoryStrokes ? "" : "  NOT ALL");
}

// Ends link, pen or program at random moments, as real processes; counts what is lost or doubled.
void cuts(int rounds) {
    const Place place("cuts");
    const fs::path where = place.directory / "library", memory = place.directory / "walnut.pen";
    const fs::path socket = place.directory / "w.sock";
    {
        auto library = *Library::open(where);
        pair(*library, {});
    }
    std::mt19937 random(20261130);
    uint64_t written = 0;
    const auto child = [](const auto& run) {
        const pid_t out = fork();
        if (out == 0) {
            run();
            _exit(0);
        }
        return out;
    };
    const auto end = [](pid_t process) {
        kill(process, SIGKILL);
        waitpid(process, nullptr, 0);
    };
    const auto pen = [&](uint64_t from) {
        return child([&, from] {
            const auto held = *PenMemory::open(memory);
            StandInPen it({}, *held, {0, now_ms()});
            auto listening = *LocalListener::open(socket);
            std::mt19937 own(static_cast<unsigned>(from));
            for (std::unique_ptr<PenTransport> line;;) {
                const int64_t ms = now_ms();
                const Moment now{ms, ms};
                if (!line && (line = listening->accept(1))) it.connect();
                if (own() % 4 == 0)
                    it.write({2, 5, static_cast<uint16_t>(1 + held->last() / 400)},
                             RunningPen::waves(static_cast<int>(held->last() % 20)), now);
                if (!line) continue;
                std::string heard;
                const bool open = line->hear(heard, 1) != PenTransport::Heard::end;
                it.receive(heard, now);
                it.tick(now);
                if (!open || !it.connected() || !line->send(it.take_outgoing()) || own() % 200 == 0) line.reset();
            }
        });
    };
    const auto program = [&] {
        return child([&] {
            auto library = Library::open(where);
            if (!library || (*library)->why_read_only()) return;
            LibraryKeeper keeper(**library, [](const KeptCaptures&) {});
            for (;;) {
                PenLink link(keeper, "bench", {});
                PenRequests requests;
                if (auto line = connect_local(socket))
                    static_cast<void>(
                        run_pen_link(link, **line, requests, {}, [](const LinkStatus&) { return false; }));
                usleep(500);
            }
        });
    };
    pid_t pens = pen(0), programs = program();
    for (int i = 0; i < rounds; ++i) {
        usleep(static_cast<useconds_t>(1000 + random() % 40'000));
        if (random() % 2 == 0) {
            end(pens);
            pens = pen(static_cast<uint64_t>(i));
        } else {
            end(programs);
            programs = program();
        }
    }
    end(pens), end(programs);
    // What is left comes over a line that holds.
    const auto held = *PenMemory::open(memory);
    written = held->last();
    auto library = *Library::open(where);
    {
        std::vector<CapturedStroke> rest(held->strokes().begin(), held->strokes().end());
        if (!library->keep_captures("FL-0001", rest)) std::puts("the rest can't be kept");
    }
    size_t there = 0;
    std::set<StrokeId> ids;
    for (const Notebook& n : *library->notebooks())
        for (const PageInfo& p : *library->pages(n.id)) {
            const Page page = *library->load_page(p.id);
            for (const Stroke& s : page.strokes) ++there, ids.insert(s.id);
        }
    std::printf("%d cuts: %zu strokes written, %zu on pages (%zu different), %zu kept; check: %s\n", rounds,
                static_cast<size_t>(written), there, ids.size(), static_cast<size_t>(library->pen("FL-0001")->kept),
                library->check()->empty() ? "ok" : "NOT ok");
}

void days(int count) {
    const Place place("days");
    auto library = *Library::open(place.directory / "library");
    Notebook notebook;
    notebook.title = "Bench";
    const NotebookId id = *library->add_notebook(notebook);
    std::vector<FilledPage> pages(static_cast<size_t>(count));
    const int64_t begin = now_ms() - 2000 * kDayMs;
    for (int i = 0; i < count; ++i)
        for (int k = 0; k < 12; ++k) {
            Stroke s;
            s.start_ms = begin + i * (2000 * kDayMs / count) + k * 1000;
            for (int p = 0; p < 20; ++p) s.points.push_back({{20.0 + p, 30.0 + 4 * k + (p % 3)}});
            pages[static_cast<size_t>(i)].content.strokes.push_back(std::move(s));
        }
    if (!library->add_filled_pages(id, pages)) std::abort();
    Session session(std::move(library), models_directory());
    session.readings().set_mode(ReadingMode::off);
    MainWindow window(session);
    window.resize(1280, 800);
    window.show();
    session.wait_idle();
    std::vector<double> shown, scrolled;
    QElapsedTimer timer;
    for (int i = 0; i < 10; ++i) {
        bool there = false;
        const auto waits = QObject::connect(&window.days()->days(), &DaysModel::refreshed, [&] { there = true; });
        timer.start();
        window.show_days(true);
        while (!there) QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents, 5);
        QEvent request(QEvent::UpdateRequest);
        QCoreApplication::sendEvent(&window, &request);
        shown.push_back(ms_of(timer));
        QObject::disconnect(waits);
        window.show_days(false);
    }
    window.show_days(true);
    session.wait_idle();
    QScrollBar* bar = window.days()->list()->verticalScrollBar();
    for (int i = 0; i < 200; ++i) {
        timer.start();
        bar->setValue(bar->maximum() * i / 200);
        QEvent request(QEvent::UpdateRequest);
        QCoreApplication::sendEvent(&window, &request);
        scrolled.push_back(ms_of(timer));
    }
    std::printf("%d pages on %zu days\n", count, window.days()->days().days().size());
    print_times("days shown", shown);
    print_times("scrolled and repainted", scrolled);
}

}  // namespace

int main(int argc, char** argv) {
    std::set<std::string> wanted;
    int number = 0;
    for (int i = 1; i < argc; ++i) {
        const std::string word = argv[i];
        if (const int n = std::atoi(argv[i]); n > 0)
            number = n;
        else
            wanted.insert(word);
    }
    const auto asked = [&](const char* name) { return wanted.empty() || wanted.contains(name); };
    if (asked("cuts")) cuts(number > 0 ? number : kUsualCuts);
    if (asked("memory")) memory();
    const OffscreenApplication application(argc, argv);
    if (asked("live")) live();
    if (asked("days")) days(number > 0 ? number : kUsualDays);
    return 0;
}
