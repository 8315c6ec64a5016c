// The pen link between both its ends, over lines that fail.
#include <gtest/gtest.h>

#include <map>
#include <random>

#include "capture/pen_link.h"
#include "pen_stand_in/faulty_line.h"
#include "pen_stand_in/stand_in_pen.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

constexpr int64_t kBegan = 1'790'000'000'000;  // ms since 1970

// Keeps strokes in memory; can fail as a full disk does.
class Keeping : public CaptureKeeper {
public:
    Result<PenRecord> pen(const std::string& serial) override {
        PenRecord out = pens[serial];
        out.serial = serial;
        out.kept = kept[serial].size();
        return out;
    }
    Status remember(const PenRecord& pen) override {
        pens[pen.serial] = pen;
        return Done{};
    }
    Status begin_anew(const std::string& serial, uint64_t memory) override {
        former[serial].insert(former[serial].end(), kept[serial].begin(), kept[serial].end());
        kept[serial].clear();
        pens[serial].memory = memory;
        return Done{};
    }
    Status keep(const std::string& serial, const std::vector<CapturedStroke>& strokes) override {
        if (full) return Error{"The disk is full.", true};
        for (const CapturedStroke& s : strokes) kept[serial].push_back(s);
        return Done{};
    }
    void writing(const CapturedStroke& so_far) override { under_pen = so_far; }
    CapturedStroke under_pen;
    std::map<std::string, PenRecord> pens;
    std::map<std::string, std::vector<CapturedStroke>> kept, former;  // of the pen's memory, of those before
    bool full = false;
};

std::vector<CapturedPoint> some_points(unsigned seed) {
    std::mt19937 random(seed);
    std::vector<CapturedPoint> out;
    for (unsigned i = 0; i < 3 + random() % 40; ++i)
        out.push_back({static_cast<int32_t>(random() % 14'000), static_cast<int32_t>(random() % 20'000),
                       static_cast<uint8_t>(random()), 10, 3, -4});
    return out;
}

// A pen, a computer and a line between them, in a time of their own.
struct Pair {
    explicit Pair(PenSetup given = {}, LineFaults faults = {}, unsigned seed = 1)
        : setup(std::move(given)), to_pen(faults, seed), to_computer(faults, seed + 1) {
        file = fs::temp_directory_path() /
               ("pen_memory_" + std::to_string(::getpid()) + "_" + std::to_string(seed) + ".pen");
        fs::remove(file);
        setup.clock_ms = setup.clock_ms == 0 ? kBegan : setup.clock_ms;
        start_pen();
    }
    ~Pair() {
        memory.reset();
        fs::remove(file);
    }
    void start_pen() {
        pen.reset(), memory.reset();
        auto opened = PenMemory::open(file);
        ASSERT_TRUE(opened) << opened.error().message;
        memory = *std::move(opened);
        pen.emplace(setup, *memory, now);
    }
    void connect() {
        to_pen.clear(), to_computer.clear();
        pen->connect();
        link = std::make_unique<PenLink>(keeping, "desk", [this](const LinkStatus& s) { told = s; });
        link->begin(now);
    }
    void step() {
        now.steady_ms += 10, now.wall_ms += 10;
        to_pen.put(link->take_outgoing(), now.steady_ms);
        pen->receive(to_pen.take(now.steady_ms), now);
        pen->tick(now);
        to_computer.put(pen->take_outgoing(), now.steady_ms);
        link->receive(to_computer.take(now.steady_ms), now);
        link->tick(now);
    }
    bool until(const std::function<bool()>& there, int steps = 3000) {
        for (int i = 0; i < steps && !there(); ++i) step();
        return there();
    }
    bool pair(const std::string& passcode = "0000") {
        connect();
        if (!until([&] { return link->status().stage == LinkStage::locked; })) return false;
        link->give_passcode(passcode, now);
        return until([&] { return link->status().stage == LinkStage::linked; });
    }
    bool drain() {
        return until([&] { return link->status().drained && memory->strokes().empty(); });
    }
    void write(unsigned seed, uint16_t page = 1) { pen->write({2, 5, page}, some_points(seed), now); }
    const std::vector<CapturedStroke>& kept() { return keeping.kept[setup.serial]; }

    PenSetup setup;
    FaultyLine to_pen, to_computer;
    Keeping keeping;
    Moment now{1'000'000, kBegan};
    fs::path file;
    std::unique_ptr<PenMemory> memory;
    std::optional<StandInPen> pen;
    std::unique_ptr<PenLink> link;
    LinkStatus told;
};

TEST(PenLink, TakesWhatIsInThePensMemoryInOrder) {
    Pair pair;
    for (unsigned i = 0; i < 600; ++i) pair.write(i, static_cast<uint16_t>(1 + i / 100));
    ASSERT_TRUE(pair.pair());
    ASSERT_TRUE(pair.drain());
    ASSERT_EQ(pair.kept().size(), 600U);
    for (unsigned i = 0; i < 600; ++i) {
        EXPECT_EQ(pair.kept()[i].number, i + 1);
        EXPECT_EQ(pair.kept()[i].points, some_points(i));
    }
    EXPECT_EQ(pair.told.to_come, 0U);
    EXPECT_EQ(pair.told.pen.state.battery, 90);
}

TEST(PenLink, RemembersHowThePenWas) {
    Pair pair({.room_kb = 512, .battery = 64});
    ASSERT_TRUE(pair.pair());
    ASSERT_TRUE(pair.drain());
    EXPECT_EQ(pair.keeping.pens["FL-0001"].state.battery, 64);
    EXPECT_EQ(pair.keeping.pens["FL-0001"].state.room_kb, 512U);
}

TEST(PenLink, TakesStrokesAsTheyAreWritten) {
    Pair pair;
    ASSERT_TRUE(pair.pair());
    ASSERT_TRUE(pair.drain());
    pair.write(1);
    pair.step(), pair.step();
    EXPECT_EQ(pair.kept().size(), 1U);
}

TEST(PenLink, KnowsAPairedPenAgain) {
    Pair pair;
    ASSERT_TRUE(pair.pair());
    pair.link->leave();
    pair.step();
    EXPECT_FALSE(pair.pen->connected());
    pair.connect();
    EXPECT_TRUE(pair.until([&] { return pair.link->status().stage == LinkStage::linked; }));
}

TEST(PenLink, AsksAgainAfterAWrongPasscode) {
    Pair pair({.passcode = "4711"});
    ASSERT_FALSE(pair.pair("0815"));
    EXPECT_EQ(pair.link->status().stage, LinkStage::locked);
    EXPECT_TRUE(pair.link->status().wrong_passcode);
    EXPECT_EQ(pair.link->status().tries_left, StandInPen::kTries - 1);
    pair.link->give_passcode("4711", pair.now);
    EXPECT_TRUE(pair.until([&] { return pair.link->status().stage == LinkStage::linked; }));
}

TEST(PenLink, IsLockedAfterTenWrongPasscodes) {
    Pair pair({.passcode = "4711"});
    for (int i = 0; i < StandInPen::kTries; ++i) {
        if (i == 0)
            pair.pair("1");
        else
            pair.link->give_passcode(std::to_string(i), pair.now);
        pair.until([&] { return pair.link->status().stage != LinkStage::proving; });
    }
    EXPECT_EQ(pair.link->status().stage, LinkStage::ended);
    EXPECT_NE(pair.link->status().problem.find("too many wrong passcodes"), std::string::npos);
    EXPECT_FALSE(pair.pair("4711")) << "not even the right one at once";
    pair.now.steady_ms += 16 * 60'000;
    EXPECT_TRUE(pair.pair("4711"));
}

TEST(PenLink, GivesStrokesTheTimeOfTheComputer) {
    // The pen's clock was set an hour ago and has run a thousandth too fast since.
    Pair pair({.drift = 0.001});
    ASSERT_TRUE(pair.pair());
    ASSERT_TRUE(pair.drain());
    for (int i = 0; i < 500; ++i) pair.step();  // the clock is set
    pair.link->leave();
    pair.step();
    const auto pass = [&](int64_t ms) { pair.now.steady_ms += ms, pair.now.wall_ms += ms; };
    pass(1'800'000);
    const int64_t written = pair.now.wall_ms;
    pair.write(1);
    pass(1'800'000);
    pair.connect();
    ASSERT_TRUE(pair.until([&] { return pair.kept().size() == 1; }));
    const auto length = static_cast<int64_t>(some_points(1).size() * 10);
    EXPECT_NEAR(static_cast<double>(pair.kept()[0].start_ms), static_cast<double>(written - length), 60)
        << "the pen says 1800 ms later";
}

TEST(PenLink, GivesStrokesTheRightTimeWhenThePensClockBeganAt1970) {
    Pair pair({.clock_ms = 5000});
    pair.write(1);
    const int64_t written = pair.now.wall_ms;
    pair.now.steady_ms += 60'000, pair.now.wall_ms += 60'000;
    ASSERT_TRUE(pair.pair());
    ASSERT_TRUE(pair.drain());
    const auto length = static_cast<int64_t>(some_points(1).size() * 10);
    EXPECT_NEAR(static_cast<double>(pair.kept()[0].start_ms), static_cast<double>(written - length), 60);
    for (int i = 0; i < 500; ++i) pair.step();
    EXPECT_NEAR(static_cast<double>(pair.pen->clock(pair.now)), static_cast<double>(pair.now.wall_ms), 60);
}

TEST(PenLink, ChangesThePensSettings) {
    Pair pair;
    ASSERT_TRUE(pair.pair());
    const PenSettings quiet{false, 5, 4};
    pair.link->change_settings(quiet, pair.now);
    EXPECT_TRUE(pair.until([&] { return pair.told.pen.state.settings == quiet; }));
    EXPECT_EQ(pair.pen->settings(), quiet);
}

TEST(PenLink, LosesAndDoublesNothingOverABadLine) {
    for (unsigned seed = 1; seed <= 20; ++seed) {
        Pair pair({}, {.lose = 0.05, .twice = 0.05, .change = 0.03, .most_delay_ms = 60}, 10 * seed);
        for (unsigned i = 0; i < 120; ++i) pair.write(i);
        pair.connect();
        ASSERT_TRUE(pair.until([&] {
            if (pair.link->status().stage == LinkStage::ended) pair.connect();
            if (pair.link->status().stage == LinkStage::locked) pair.link->give_passcode("0000", pair.now);
            return pair.kept().size() == 120;
        })) << "seed "
            << seed << ": " << pair.kept().size();
        for (unsigned i = 0; i < 120; ++i) EXPECT_EQ(pair.kept()[i].points, some_points(i));
    }
}

// What the issue of trust comes down to: link, pen and program end at a thousand moments.
TEST(PenLink, LosesAndDoublesNothingOverAThousandCuts) {
    Pair pair({}, {.lose = 0.01, .twice = 0.02, .change = 0.01, .most_delay_ms = 30}, 5);
    std::mt19937 random(3);
    unsigned written = 0;
    ASSERT_TRUE(pair.pair());
    for (int cut = 0; cut < 1000; ++cut) {
        for (auto steps = 1 + random() % 60; steps > 0; --steps) {
            if (random() % 8 == 0) pair.write(written++);
            pair.keeping.full = random() % 20 == 0;
            pair.step();
        }
        switch (random() % 3) {
            case 0:  // the line
                pair.pen->disconnect();
                break;
            case 1:  // the pen, with whatever it had in mind
                pair.start_pen();
                break;
            default:  // the program
                pair.link.reset();
                break;
        }
        for (auto away = random() % 3; away > 0; --away) pair.write(written++);
        pair.connect();
    }
    pair.keeping.full = false;
    ASSERT_TRUE(pair.until([&] {
        if (pair.link->status().stage == LinkStage::ended) pair.connect();
        return pair.kept().size() == written && pair.memory->strokes().empty();
    })) << pair.kept().size()
        << " of " << written;
    for (unsigned i = 0; i < written; ++i) {
        ASSERT_EQ(pair.kept()[i].number, i + 1);
        ASSERT_EQ(pair.kept()[i].points, some_points(i));
    }
}

TEST(PenLink, TellsThePenAgainWhatIsKeptWhenItDidNotHearIt) {
    Pair pair;
    ASSERT_TRUE(pair.pair());
    ASSERT_TRUE(pair.drain());
    pair.write(1);
    ASSERT_TRUE(pair.until([&] { return pair.kept().size() == 1; }));
    ASSERT_FALSE(pair.link->take_outgoing().empty()) << "this is lost";
    EXPECT_TRUE(pair.drain());
    EXPECT_EQ(pair.kept().size(), 1U);
}

TEST(PenLink, WaitsForRoomOnTheDiskWithoutLettingThePenForget) {
    Pair pair;
    ASSERT_TRUE(pair.pair());
    ASSERT_TRUE(pair.drain());
    pair.keeping.full = true;
    for (unsigned i = 0; i < 5; ++i) pair.write(i);
    for (int i = 0; i < 100; ++i) pair.step();
    EXPECT_EQ(pair.memory->strokes().size(), 5U);
    EXPECT_EQ(pair.told.problem, "The disk is full.");
    pair.keeping.full = false;
    EXPECT_TRUE(pair.drain());
    EXPECT_EQ(pair.kept().size(), 5U);
    EXPECT_TRUE(pair.told.problem.empty());
}

TEST(PenLink, SaysSoWhenSomethingElseAnswers) {
    Pair pair;
    pair.connect();
    for (int i = 0; i < 1000 && pair.link->status().stage != LinkStage::ended; ++i) {
        pair.now.steady_ms += 10, pair.now.wall_ms += 10;
        pair.link->receive("220 mail.example.org ready\r\n", pair.now);
        pair.link->tick(pair.now);
    }
    EXPECT_EQ(pair.link->status().stage, LinkStage::ended);
    EXPECT_EQ(pair.link->status().problem, "No pen answers there.");
}

TEST(PenLink, SaysSoWhenThePenSpeaksAnotherVersion) {
    Pair pair;
    pair.connect();
    pair.link->receive(encoded(Frame{FrameKind::greeting, 0, {}, 9}), pair.now);
    EXPECT_EQ(pair.link->status().stage, LinkStage::ended);
    EXPECT_NE(pair.link->status().problem.find("another version"), std::string::npos);
}

TEST(PenLink, TakesNothingFromAPenThatOnlyClaimsToKnowThePasscode) {
    Pair pair;
    ASSERT_TRUE(pair.pair());
    pair.link->leave();
    pair.step();
    pair.setup.passcode = "9999";  // another pen with the same serial, that admits everybody
    pair.start_pen();
    pair.connect();
    pair.until([&] { return pair.link->status().stage == LinkStage::proving; });
    pair.link->receive(encoded(Frame{FrameKind::admitted, 1000, encoded(PenAdmitted{})}), pair.now);
    EXPECT_EQ(pair.link->status().stage, LinkStage::ended);
    EXPECT_TRUE(pair.kept().empty());
}

TEST(PenLink, ForeignBytesInTheMiddleEndNothing) {
    Pair pair;
    ASSERT_TRUE(pair.pair());
    ASSERT_TRUE(pair.drain());
    std::string huge = encoded(Frame{FrameKind::stroke, 50, "x"});
    huge[13] = '\xFF';  // announces 4 GB
    pair.link->receive(huge + "FLPNFLPN", pair.now);
    for (int i = 0; i < 100; ++i) pair.step();
    pair.write(1);
    EXPECT_TRUE(pair.until([&] { return pair.kept().size() == 1; }));
}

TEST(StandInPen, CapturesNothingWhenItIsFullOrEmpty) {
    Pair full({.room_kb = 1});
    unsigned i = 0;
    while (i < 100 && full.pen->write({1, 1, 1}, some_points(i), full.now)) ++i;
    EXPECT_GT(i, 1U);
    EXPECT_LT(i, 100U);
    Pair empty({.battery = 2, .battery_per_stroke = 1}, {}, 2);
    EXPECT_TRUE(empty.pen->write({1, 1, 1}, some_points(1), empty.now));
    EXPECT_TRUE(empty.pen->write({1, 1, 1}, some_points(2), empty.now));
    EXPECT_FALSE(empty.pen->write({1, 1, 1}, some_points(3), empty.now));
}

TEST(PenLink, ToldWhatIsUnderThePenBeforeItIsLifted) {
    Pair pair;
    ASSERT_TRUE(pair.pair());
    ASSERT_TRUE(pair.drain());
    const std::vector<CapturedPoint> points = some_points(3);
    ASSERT_GE(points.size(), 3U);
    pair.pen->touch({2, 5, 4});
    for (size_t i = 0; i < points.size(); ++i) {
        pair.pen->move(points[i]);
        pair.step(), pair.step();
        EXPECT_EQ(pair.keeping.under_pen.points.size(), i + 1);
    }
    EXPECT_EQ(pair.keeping.under_pen.address, (PageAddress{2, 5, 4}));
    EXPECT_TRUE(pair.kept().empty()) << "nothing is kept of it";
    pair.pen->lift(pair.now);
    ASSERT_TRUE(pair.drain());
    ASSERT_EQ(pair.kept().size(), 1U);
    EXPECT_EQ(pair.kept()[0].points, points);
}

TEST(PenLink, AfterAResetItTakesWhatIsNumberedAnew) {
    Pair pair;
    for (unsigned i = 0; i < 5; ++i) pair.write(i);
    ASSERT_TRUE(pair.pair());
    ASSERT_TRUE(pair.drain());
    size_t former = 5;
    for (const unsigned more : {3U, 8U}) {  // fewer than were kept, and more
        pair.pen.reset(), pair.memory.reset();
        fs::remove(pair.file);
        pair.start_pen();
        for (unsigned i = 0; i < more; ++i) pair.write(100 + i);
        pair.connect();
        ASSERT_TRUE(pair.until([&] { return pair.link->status().stage == LinkStage::linked; }));
        ASSERT_TRUE(pair.drain());
        ASSERT_EQ(pair.kept().size(), more);
        EXPECT_EQ(pair.kept()[0].points, some_points(100)) << "from the first on";
        EXPECT_EQ(pair.keeping.former[pair.setup.serial].size(), former);
        former += more;
    }
}

TEST(PenMemory, LeavesOutALastStrokeThatIsCutOff) {
    Pair pair;
    for (unsigned i = 0; i < 3; ++i) pair.write(i);
    pair.pen.reset(), pair.memory.reset();
    fs::resize_file(pair.file, fs::file_size(pair.file) - 5);
    pair.start_pen();
    EXPECT_EQ(pair.memory->strokes().size(), 2U);
    pair.write(7);
    EXPECT_EQ(pair.memory->last(), 3U);
}

}  // namespace
}  // namespace fernleaf
