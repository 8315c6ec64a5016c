#include "desk/teaching_desk.h"

#include <QCoreApplication>
#include <QEventLoop>
#include <QFile>
#include <algorithm>

#include "base/file.h"
#include "desk/text_of.h"
#include "look/counted.h"
#include "reading/reader.h"

namespace fernleaf {
namespace {

// A hand is learnt anew when this many examples have come since it last was.
constexpr size_t kNewExamples = 5;
constexpr qint64 kLargestHand = 10'000'000;  // bytes

Example example_from(const KeptExample& kept) {
    const int height = static_cast<int>(kept.pixels.size()) / kept.width;
    cv::Mat pixels(height, kept.width, CV_8U);
    std::copy(kept.pixels.begin(), kept.pixels.end(), pixels.ptr<char>());
    return {std::move(pixels), kept.text};
}

KeptExample kept_from(const Example& example) {
    const cv::Mat whole = example.pixels.isContinuous() ? example.pixels : example.pixels.clone();
    return {whole.cols, std::string(whole.ptr<char>(), whole.total()), example.text};
}

}  // namespace

TeachingDesk::TeachingDesk(Library& library, QObject* parent)
    : QObject(parent),
      library_(library),
      thread_(std::make_unique<JobThread>(thread_failure(), JobThread::Haste::patient)) {}

// A job that throws answers nobody: it is told, and no longer waited for.
std::function<void(const Error&)> TeachingDesk::thread_failure() {
    return [this](const Error& error) {
        QMetaObject::invokeMethod(
            this,
            [this, error] {
                --jobs_;
                emit progressed(1);
                emit problem(text_of(error));
            },
            Qt::QueuedConnection);
    };
}

TeachingDesk::~TeachingDesk() {
    cancel_.cancel();
    thread_.reset();
}

template <typename Job, typename Then>
void TeachingDesk::run(Job job, Then then) {
    ++jobs_;
    thread_->post([this, job = std::move(job), then = std::move(then)]() mutable {
        auto result = std::make_shared<decltype(job())>(job());
        QMetaObject::invokeMethod(
            this,
            [this, then = std::move(then), result]() mutable {
                --jobs_;
                then(*result);
            },
            Qt::QueuedConnection);
    });
}

void TeachingDesk::tell(const Status& status) {
    if (!status) emit problem(text_of(status.error()));
}

void TeachingDesk::set_reader(std::shared_ptr<const Reader> reader) { reader_ = std::move(reader); }

void TeachingDesk::keep(HandId hand, std::vector<Example> examples) {
    if (examples.empty()) return;
    struct Kept {
        Status status{Done{}};
        bool learn = false;
    };
    run(
        [this, hand, examples = std::move(examples)]() -> Kept {
            std::vector<KeptExample> kept;
            for (const Example& e : examples) kept.push_back(kept_from(e));
            if (Status status = library_.add_examples(hand, kept); !status) return {status, false};
            const auto hands = library_.hands();
            const auto all = library_.examples(hand);
            if (!hands || !all) return {};
            const auto info = std::ranges::find(*hands, hand, &HandInfo::id);
            std::vector<Example> known;
            for (const KeptExample& e : *all) known.push_back(example_from(e));
            return {Done{}, info != hands->end() && enough_to_teach(known) &&
                                info->examples >= info->learnt_from + kNewExamples};
        },
        [this, hand](const Kept& kept) {
            tell(kept.status);
            emit hands_changed();
            if (kept.learn) teach(hand);
        });
}

void TeachingDesk::teach(HandId hand) {
    if (!reader_) return emit problem(tr("The reader's data is missing, so it can't be taught."));
    struct Learnt {
        Result<Taught> taught{Error{}};
        Status saved{Done{}};
    };
    const auto progress = [this](double part) {
        QMetaObject::invokeMethod(
            this, [this, part] { emit progressed(part); }, Qt::QueuedConnection);
    };
    run(
        [this, hand, progress, reader = reader_, cancel = cancel_.token()]() -> Learnt {
            const auto kept = library_.examples(hand);
            if (!kept) return {kept.error(), Done{}};
            std::vector<Example> examples;
            for (const KeptExample& e : *kept) examples.push_back(example_from(e));
            const auto rehearsal = reader->rehearsal();
            if (!rehearsal) return {rehearsal.error(), Done{}};
            auto taught = fernleaf::teach(reader->network(), examples, *rehearsal, cancel, progress);
            if (!taught) return {taught, Done{}};
            // Learnt from all examples each time; what reads no better than the reader as it came is not kept.
            const std::string bytes =
                taught->better() ? encode_head(taught->head, *reader->network().weights()) : std::string();
            const HandInfo info{hand, {}, 0, taught->examples, taught->errors_before, taught->errors_after};
            return {taught, library_.save_hand(info, bytes)};
        },
        [this](const Learnt& learnt) {
            emit progressed(1);
            if (!learnt.taught) return emit problem(text_of(learnt.taught.error()));
            tell(learnt.saved);
            emit hands_changed();
            if (!learnt.saved) return;
            const auto percent = [](double value) { return QString::number(value, 'f', 1); };
            if (learnt.taught->better())
                emit notice(
                    tr("Your hand was learnt from %1. Letters wrong in a hundred: %2 before, %3 now.")
                        .arg(counted(static_cast<qsizetype>(learnt.taught->examples), tr("example"), tr("examples")),
                             percent(learnt.taught->errors_before), percent(learnt.taught->errors_after)));
            else
                emit notice(tr("The reader reads your hand as well as it can for now; more lines may help."));
            emit reading_outdated();
        });
}

void TeachingDesk::reset(HandId hand) {
    run([this, hand] { return library_.reset_hand(hand); },
        [this](const Status& status) {
            tell(status);
            emit hands_changed();
            emit reading_outdated();
        });
}

void TeachingDesk::add_hand(const QString& name) {
    run([this, name = name.toStdString()] { return library_.add_hand(name); },
        [this](const Result<HandId>& hand) {
            if (!hand) emit problem(text_of(hand.error()));
            emit hands_changed();
        });
}

void TeachingDesk::rename_hand(HandId hand, const QString& name) {
    run([this, hand, name = name.toStdString()] { return library_.rename_hand(hand, name); },
        [this](const Status& status) {
            tell(status);
            emit hands_changed();
        });
}

void TeachingDesk::save_hand_to(HandId hand, const QString& path) {
    run(
        [this, hand, path]() -> Status {
            const auto bytes = library_.taught_hand(hand);
            if (!bytes) return bytes.error();
            if (bytes->empty()) return Error{"This hand has not been learnt yet; there is nothing to save."};
            return write_whole(path.toStdString(), *bytes);
        },
        [this, path](const Status& status) {
            tell(status);
            if (status) emit notice(tr("Saved to %1.").arg(path));
        });
}

void TeachingDesk::load_hand_from(HandId hand, const QString& path) {
    if (!reader_) return emit problem(tr("The reader's data is missing, so it can't be taught."));
    run(
        [this, hand, path, reader = reader_]() -> Status {
            QFile file(path);
            if (!file.open(QIODevice::ReadOnly) || file.size() > kLargestHand)
                return Error{path.toStdString() + " can't be read."};
            const std::string bytes = file.readAll().toStdString();
            if (const auto head = decode_head(bytes, *reader->network().weights()); !head)
                return Error{path.toStdString() + ": " + head.error().message};
            return library_.save_hand({hand, {}, 0, 0, 0, 0}, bytes);
        },
        [this](const Status& status) {
            tell(status);
            emit hands_changed();
            if (status) emit reading_outdated();
        });
}

void TeachingDesk::list_hands(std::function<void(std::vector<HandInfo>)> then) {
    run([this] { return library_.hands(); },
        [this, then = std::move(then)](const Result<std::vector<HandInfo>>& hands) {
            if (!hands) return emit problem(text_of(hands.error()));
            then(*hands);
        });
}

void TeachingDesk::list_words(NotebookId notebook, std::function<void(QStringList)> then) {
    run([this, notebook] { return library_.words(notebook); },
        [this, then = std::move(then)](const Result<std::vector<std::string>>& words) {
            if (!words) return emit problem(text_of(words.error()));
            QStringList out;
            for (const std::string& word : *words) out << QString::fromStdString(word);
            then(out);
        });
}

void TeachingDesk::set_words(NotebookId notebook, const QStringList& words) {
    std::vector<std::string> list;
    for (const QString& word : words) list.push_back(word.toStdString());
    run([this, notebook, list = std::move(list)] { return library_.set_words(notebook, list); },
        [this](const Status& status) {
            tell(status);
            if (status) emit reading_outdated();
        });
}

void TeachingDesk::wait_idle() {
    while (busy()) {
        thread_->wait_idle();
        QCoreApplication::sendPostedEvents();
        QCoreApplication::processEvents(QEventLoop::AllEvents, 10);
    }
}

QStringList words_of(const QString& text) {
    QStringList out;
    for (const QString& line : text.split('\n'))
        if (const QString word = line.simplified(); !word.isEmpty()) out << word;
    out.removeDuplicates();
    return out;
}

}  // namespace fernleaf
