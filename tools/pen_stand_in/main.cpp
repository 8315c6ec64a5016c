// fernleaf-pen: stands in for a smart pen. It listens at a socket, writes pages of InkML while it is linked or away,
// and does on request what pens and lines do wrong. `fernleaf-pen --help` tells its use; docs/pen-protocol.md what it
// says.
#include <unistd.h>

#include <CLI/CLI.hpp>
#include <algorithm>
#include <atomic>
#include <chrono>
#include <csignal>
#include <cstdlib>
#include <deque>
#include <iostream>

#include "base/now.h"
#include "capture/local_socket.h"
#include "pen_stand_in/faulty_line.h"
#include "pen_stand_in/stand_in_pen.h"
#include "pen_stand_in/written_pages.h"

using namespace fernleaf;

namespace {

constexpr int kWaitMs = 5;
constexpr int64_t kYear1970 = 60'000;  // where a clock begins that was never set

std::atomic<bool> stopping = false;

Moment moment() {
    using namespace std::chrono;
    return {duration_cast<milliseconds>(steady_clock::now().time_since_epoch()).count(), now_ms()};
}

struct Options {
    PenSetup pen;
    std::filesystem::path memory, socket;
    std::vector<std::filesystem::path> pages, away;
    std::string address = "2.1.1";
    double pace = 1;  // 0: as fast as it goes
    bool clock_lost = false, repeat = false, end = false;
    LineFaults faults;
    unsigned seed = 1;
    double cut_every = 0, vanish_after = 0;  // s
};

// Puts down what it was told to write, at the times at which it was written.
class Writing {
public:
    Writing(std::vector<WrittenStroke> strokes, double pace, bool repeat)
        : all_(std::move(strokes)), pace_(pace), repeat_(repeat) {}

    bool done() const { return next_ >= all_.size(); }
    void go_on(StandInPen& pen, Moment now) {
        if (next_at_ == 0) next_at_ = now.steady_ms + length(next_);
        while (!done() && next_at_ <= now.steady_ms) {
            write_until(pen, now.steady_ms);
            if (!pen.lift(now))
                std::cerr << "fernleaf-pen: not captured, for the memory is full or the battery empty\n";
            if (++next_ == all_.size() && repeat_) next_ = 0;
            put_ = 0;
            next_at_ += length(next_);
        }
        if (!done() && next_at_ > 0) write_until(pen, now.steady_ms);
    }

private:
    // Puts down the points that were written by then, or all where the stroke's end has come.
    void write_until(StandInPen& pen, int64_t now_ms) {
        const WrittenStroke& s = all_[next_];
        int64_t left = 0;  // of the stroke's time behind a point
        for (size_t i = put_ + 1; i < s.points.size(); ++i) left += s.points[i].after_ms;
        for (; put_ < s.points.size(); ++put_) {
            const int64_t at = pace_ > 0 ? next_at_ - static_cast<int64_t>(static_cast<double>(left) / pace_) : now_ms;
            if (at > now_ms) return;
            if (put_ == 0) pen.touch(s.address);
            pen.move(s.points[put_]);
            if (put_ + 1 < s.points.size()) left -= s.points[put_ + 1].after_ms;
        }
    }
    int64_t length(size_t i) const {
        if (i >= all_.size() || pace_ <= 0) return 0;
        int64_t ms = all_[i].pause_ms;
        for (const CapturedPoint& p : all_[i].points) ms += p.after_ms;
        return static_cast<int64_t>(static_cast<double>(ms) / pace_);
    }

    std::vector<WrittenStroke> all_;
    double pace_;
    bool repeat_;
    size_t next_ = 0, put_ = 0;  // the stroke, and how many of its points
    int64_t next_at_ = 0;
};

Result<std::vector<WrittenStroke>> all_pages(const std::vector<std::filesystem::path>& files, PageAddress& first) {
    std::vector<WrittenStroke> out;
    for (const std::filesystem::path& file : files) {
        auto pages = written_pages(file, first);
        if (!pages) return pages.error();
        for (WrittenStroke& s : *pages) {
            first.page = std::max<uint16_t>(first.page, static_cast<uint16_t>(s.address.page + 1));
            out.push_back(std::move(s));
        }
    }
    return out;
}

Status run(Options options) {
    auto first = page_address(options.address);
    if (!first) return first.error();
    auto away = all_pages(options.away, *first);
    if (!away) return away.error();
    auto pages = all_pages(options.pages, *first);
    if (!pages) return pages.error();
    auto memory = PenMemory::open(options.memory);
    if (!memory) return memory.error();
    auto listening = LocalListener::open(options.socket);
    if (!listening) return listening.error();

    const Moment began = moment();
    options.pen.clock_ms = options.clock_lost ? kYear1970 : began.wall_ms;
    StandInPen pen(options.pen, **memory, began);
    Writing before(*std::move(away), 0, false), writing(*std::move(pages), options.pace, options.repeat);
    before.go_on(pen, began);
    std::cout << "listening at " << options.socket.string() << std::endl;  // whoever waits for it reads it now

    FaultyLine to_pen(options.faults, options.seed), to_computer(options.faults, options.seed + 1);
    std::unique_ptr<PenTransport> line;
    int64_t linked_at = 0;
    while (!stopping) {
        const Moment now = moment();
        const auto since = [&](int64_t at) { return static_cast<double>(now.steady_ms - at) / 1000; };
        if (options.vanish_after > 0 && since(began.steady_ms) > options.vanish_after) std::_Exit(0);
        writing.go_on(pen, now);
        if (options.end && writing.done() && (*memory)->strokes().empty()) break;
        if (!line) {
            line = (*listening)->accept(kWaitMs);
            if (!line) continue;
            to_pen.clear(), to_computer.clear();
            pen.connect();
            linked_at = now.steady_ms;
        }
        std::string heard;
        bool open = line->hear(heard, kWaitMs) != PenTransport::Heard::end;
        to_pen.put(heard, now.steady_ms);
        pen.receive(to_pen.take(now.steady_ms), now);
        pen.tick(now);
        to_computer.put(pen.take_outgoing(), now.steady_ms);
        if (const std::string out = to_computer.take(now.steady_ms); !out.empty()) open = open && line->send(out);
        if (options.cut_every > 0 && since(linked_at) > options.cut_every) open = false;
        if (!open || !pen.connected()) {
            pen.disconnect();
            line.reset();
        }
    }
    return Done{};
}

}  // namespace

int main(int argc, char** argv) {
    CLI::App app("Stands in for a smart pen.", "fernleaf-pen");
    Options o;
    app.add_option("--memory", o.memory, "The file in which it keeps what it wrote")->required();
    app.add_option("--socket", o.socket, "Where it listens; else NAME.sock where pens are looked for");
    app.add_option("--name", o.pen.name)->capture_default_str();
    app.add_option("--serial", o.pen.serial)->capture_default_str();
    app.add_option("--passcode", o.pen.passcode)->capture_default_str();
    app.add_option("--away", o.away, "InkML that was written before it is linked");
    app.add_option("--write", o.pages, "InkML that is written now");
    app.add_option("--address", o.address, "First page, where the InkML names none: paper.notebook.page")
        ->capture_default_str();
    app.add_option("--pace", o.pace, "Times as fast as it was written; 0: at once")->check(CLI::Range(0.0, 1000.0));
    app.add_flag("--repeat", o.repeat, "Writes it again and again");
    app.add_flag("--end", o.end, "Ends when all it wrote is kept elsewhere");
    app.add_option("--battery", o.pen.battery, "Percent")->check(CLI::Range(0.0, 100.0));
    app.add_option("--battery-per-stroke", o.pen.battery_per_stroke, "Percent that each stroke takes");
    app.add_option("--room", o.pen.room_kb, "Of its memory, KB");
    app.add_option("--drift", o.pen.drift, "Of its clock, seconds a second");
    app.add_flag("--clock-lost", o.clock_lost, "Its clock begins in 1970");
    app.add_option("--lose", o.faults.lose, "Share of pieces that the line loses")->check(CLI::Range(0.0, 1.0));
    app.add_option("--twice", o.faults.twice, "that come twice")->check(CLI::Range(0.0, 1.0));
    app.add_option("--change", o.faults.change, "that are changed")->check(CLI::Range(0.0, 1.0));
    app.add_option("--delay", o.faults.most_delay_ms, "Longest delay, ms")->check(CLI::Range(0, 10'000));
    app.add_option("--seed", o.seed, "Of what goes wrong");
    app.add_option("--cut-every", o.cut_every, "Cuts the link so many seconds after it was made");
    app.add_option("--vanish-after", o.vanish_after, "Ends without a word after so many seconds");
    CLI11_PARSE(app, argc, argv);
    if (o.socket.empty()) o.socket = pens_folder() / (o.pen.name + ".sock");
    std::signal(SIGTERM, [](int) { stopping = true; });
    std::signal(SIGINT, [](int) { stopping = true; });
    std::signal(SIGPIPE, SIG_IGN);
    if (const Status status = run(std::move(o)); !status) {
        std::cerr << "fernleaf-pen: " << status.error().message << '\n';
        return 1;
    }
    return 0;
}
