#include "desk/teaching_desk.h"

#include <QFile>
#include <algorithm>

#include "base/file.h"
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

TeachingDesk::TeachingDesk(const DeskParts& parts, QObject* parent)
    : Desk(parts, parent), learning_(std::make_unique<Worker>(messages_.teller(), JobThread::Haste::patient)) {}

TeachingDesk::~TeachingDesk() {
    cancel_.cancel();
    learning_.reset();
}

void TeachingDesk::tell(const Status& status) {
    if (!status) messages_.tell_problem(status.error());
}

void TeachingDesk::set_reader(std::shared_ptr<const Reader> reader) { reader_ = std::move(reader); }

void TeachingDesk::keep(HandId hand, std::vector<Example> examples) {
    if (examples.empty()) return;
    learning_->ask(
        this,
        // Whether enough have come to learn from.
        [this, hand, examples = std::move(examples)]() -> Result<bool> {
            std::vector<KeptExample> kept;
            for (const Example& e : examples) kept.push_back(kept_from(e));
            if (Status status = library_.add_examples(hand, kept); !status) return status.error();
            const auto hands = library_.hands();
            if (!hands) return hands.error();
            const auto all = library_.examples(hand);
            if (!all) return all.error();
            const auto info = std::ranges::find(*hands, hand, &HandInfo::id);
            std::vector<Example> known;
            for (const KeptExample& e : *all) known.push_back(example_from(e));
            return info != hands->end() && enough_to_teach(known) && info->examples >= info->learnt_from + kNewExamples;
        },
        [this, hand](const Result<bool>& learn) {
            if (!learn) messages_.tell_problem(learn.error());
            emit hands_changed();
            if (learn && *learn) teach(hand);
        });
}

void TeachingDesk::teach(HandId hand) {
    if (!reader_) return messages_.tell_problem(tr("The reader's data is missing, so it can't be taught."));
    const auto progress = [this](double part) {
        QMetaObject::invokeMethod(
            this, [this, part] { tasks_.show_quietly(tr("Learning your hand"), part); }, Qt::QueuedConnection);
    };
    learning_->ask(
        this,
        [this, hand, progress, reader = reader_, cancel = cancel_.token()]() -> Result<Taught> {
            const auto kept = library_.examples(hand);
            if (!kept) return kept.error();
            std::vector<Example> examples;
            for (const KeptExample& e : *kept) examples.push_back(example_from(e));
            const auto rehearsal = reader->rehearsal();
            if (!rehearsal) return rehearsal.error();
            auto taught = fernleaf::teach(reader->network(), examples, *rehearsal, cancel, progress);
            if (!taught) return taught;
            // Learnt from all examples each time; what reads no better than the reader as it came is not kept.
            const std::string bytes =
                taught->better() ? encode_head(taught->head, *reader->network().weights()) : std::string();
            const HandInfo info{hand, {}, 0, taught->examples, taught->errors_before, taught->errors_after};
            if (Status saved = library_.save_hand(info, bytes); !saved) return saved.error();
            return taught;
        },
        [this](const Result<Taught>& taught) {
            tasks_.show_quietly({}, 1);
            if (!taught) return messages_.tell_problem(taught.error());
            emit hands_changed();
            const auto percent = [](double value) { return QString::number(value, 'f', 1); };
            if (taught->better())
                messages_.tell(
                    tr("Your hand was learnt from %n example(s). Letters wrong in a hundred: %1 before, %2 now.",
                       nullptr, static_cast<int>(taught->examples))
                        .arg(percent(taught->errors_before), percent(taught->errors_after)));
            else
                messages_.tell(tr("The reader reads your hand as well as it can for now; more lines may help."));
            emit reading_outdated();
        });
}

void TeachingDesk::reset(HandId hand) {
    learning_->ask(
        this, [this, hand] { return library_.reset_hand(hand); },
        [this](const Status& status) {
            tell(status);
            emit hands_changed();
            emit reading_outdated();
        });
}

void TeachingDesk::add_hand(const QString& name) {
    learning_->ask(
        this, [this, name = name.toStdString()] { return library_.add_hand(name); },
        [this](const Result<HandId>& hand) {
            if (!hand) messages_.tell_problem(hand.error());
            emit hands_changed();
        });
}

void TeachingDesk::rename_hand(HandId hand, const QString& name) {
    learning_->ask(
        this, [this, hand, name = name.toStdString()] { return library_.rename_hand(hand, name); },
        [this](const Status& status) {
            tell(status);
            emit hands_changed();
        });
}

void TeachingDesk::save_hand_to(HandId hand, const QString& path) {
    learning_->ask(
        this,
        [this, hand, path]() -> Status {
            const auto bytes = library_.taught_hand(hand);
            if (!bytes) return bytes.error();
            if (bytes->empty()) return Error{"This hand has not been learnt yet; there is nothing to save."};
            return write_whole(path.toStdString(), *bytes);
        },
        [this, path](const Status& status) {
            tell(status);
            if (status) messages_.tell(tr("Saved to %1.").arg(path));
        });
}

void TeachingDesk::load_hand_from(HandId hand, const QString& path) {
    if (!reader_) return messages_.tell_problem(tr("The reader's data is missing, so it can't be taught."));
    learning_->ask(
        this,
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
    learning_->ask(
        this, [this] { return library_.hands(); },
        [this, then = std::move(then)](const Result<std::vector<HandInfo>>& hands) {
            if (!hands) return messages_.tell_problem(hands.error());
            then(*hands);
        });
}

void TeachingDesk::list_words(NotebookId notebook, std::function<void(QStringList)> then) {
    learning_->ask(
        this, [this, notebook] { return library_.words(notebook); },
        [this, then = std::move(then)](const Result<std::vector<std::string>>& words) {
            if (!words) return messages_.tell_problem(words.error());
            QStringList out;
            for (const std::string& word : *words) out << QString::fromStdString(word);
            then(out);
        });
}

void TeachingDesk::set_words(NotebookId notebook, const QStringList& words) {
    std::vector<std::string> list;
    for (const QString& word : words) list.push_back(word.toStdString());
    learning_->ask(
        this, [this, notebook, list = std::move(list)] { return library_.set_words(notebook, list); },
        [this](const Status& status) {
            tell(status);
            if (status) emit reading_outdated();
        });
}

QStringList words_of(const QString& text) {
    QStringList out;
    for (const QString& line : text.split('\n'))
        if (const QString word = line.simplified(); !word.isEmpty()) out << word;
    out.removeDuplicates();
    return out;
}

}  // namespace fernleaf
