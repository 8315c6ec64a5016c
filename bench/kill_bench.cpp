// The real window, offscreen, killed while somebody writes in it: how many strokes that were on the page and saved are
// missing afterwards. Each round a new process opens the library, writes into it with a pen while earlier ink is read,
// and is killed (SIGKILL) at a random moment.
//
//   kill_bench [ROUNDS]     1,000 if none is named
#include <sys/wait.h>
#include <unistd.h>

#include <csignal>
#include <cstdio>
#include <cstring>
#include <random>
#include <set>

#include "bench/offscreen.h"
#include "reading/models_directory.h"
#include "window/main_window.h"

using namespace fernleaf;

namespace {

// Writes words without end; tells the ids of strokes when all that was written is saved.
int write_until_killed(int argc, char** argv, const std::filesystem::path& directory, unsigned seed) {
    const OffscreenApplication application(argc, argv);
    auto library = Library::open(directory);
    if (!library) return 3;
    Session session(*std::move(library), models_directory());
    MainWindow window(session);
    window.show();
    session.wait_idle();
    if (!session.page() || session.read_only()) return 4;
    InkLeaf* ink = window.spread()->ink();
    std::mt19937 random(seed);
    std::set<StrokeId> told;
    for (const Stroke& s : session.page()->strokes) told.insert(s.id);
    while (true) {
        const QPointF from(60 + static_cast<double>(random() % 500), 60 + static_cast<double>(random() % 500));
        for (int strokes = 1 + static_cast<int>(random() % 6); strokes > 0; --strokes) {
            const QPointF begin = from + QPointF(9.0 * strokes, 0);
            send_pen(ink, QEvent::TabletPress, begin);
            for (int i = 1; i <= 12; ++i) send_pen(ink, QEvent::TabletMove, begin + QPointF(i % 4, 1.6 * i));
            send_pen(ink, QEvent::TabletRelease, begin + QPointF(0, 20));
            QCoreApplication::processEvents();
        }
        if (random() % 3 == 0) QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents, 30);
        session.wait_idle();
        for (const Stroke& s : session.page()->strokes)
            if (told.insert(s.id).second && ::write(STDOUT_FILENO, &s.id, sizeof s.id) != sizeof s.id) return 5;
        const StrokeId end_of_turn = 0;
        if (::write(STDOUT_FILENO, &end_of_turn, sizeof end_of_turn) != sizeof end_of_turn) return 5;
    }
}

}  // namespace

int main(int argc, char** argv) {
    if (argc == 4 && std::strcmp(argv[1], "--write") == 0)
        return write_until_killed(argc, argv, argv[2], static_cast<unsigned>(std::stoul(argv[3])));
    const int rounds = argc > 1 ? std::stoi(argv[1]) : 1000;
    const auto directory = std::filesystem::temp_directory_path() / "fernleaf-kill-bench";
    std::filesystem::remove_all(directory);
    {
        const auto library = *Library::open(directory);
        Notebook notebook;
        notebook.title = "Bench";
        (void)*library->add_page(*library->add_notebook(notebook), {});
    }
    std::mt19937 random(1);
    size_t written = 0, lost = 0, unsound = 0;
    int failed = 0;
    for (int round = 0; round < rounds; ++round) {
        int ends[2];
        if (::pipe(ends) != 0) return 1;
        const std::string seed = std::to_string(round), where = directory.string();
        const pid_t child = ::fork();
        if (child == 0) {
            ::dup2(ends[1], STDOUT_FILENO);
            ::close(ends[0]), ::close(ends[1]);
            ::execl("/proc/self/exe", argv[0], "--write", where.c_str(), seed.c_str(), nullptr);
            ::_exit(6);
        }
        ::close(ends[1]);
        std::vector<StrokeId> told;
        StrokeId id = 0;
        if (::read(ends[0], &id, sizeof id) == sizeof id && id != 0) told.push_back(id);
        ::usleep(static_cast<useconds_t>(random() % 300'000));
        ::kill(child, SIGKILL);
        while (::read(ends[0], &id, sizeof id) == sizeof id)
            if (id != 0) told.push_back(id);
        ::close(ends[0]);
        int status = 0;
        ::waitpid(child, &status, 0);
        failed += WIFSIGNALED(status) ? 0 : 1;
        const auto library = Library::open(directory);
        if (!library) return std::printf("round %d: the library does not open\n", round), 1;
        const PageId page = (*library)->pages((*library)->notebooks()->front().id)->front().id;
        const auto loaded = (*library)->load_page(page);
        std::set<StrokeId> kept;
        for (const Stroke& s : loaded->strokes) kept.insert(s.id);
        for (const StrokeId one : told) lost += kept.contains(one) ? 0 : 1;
        written += told.size();
        if (round % 50 == 49 && !(*library)->check()->empty()) ++unsound;
        if (loaded->strokes.size() > 3000) {
            Edit clear{"Clear the page", {}, {loaded->strokes}};
            (void)static_cast<bool>((*library)->commit(page, clear));
        }
    }
    std::printf(
        "killed %d times while writing: %zu strokes saved, %zu of them missing; %zu checks with findings, %d rounds "
        "that ended by themselves\n",
        rounds, written, lost, unsound, failed);
    std::filesystem::remove_all(directory);
}
