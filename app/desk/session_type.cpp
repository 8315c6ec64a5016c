// From ink to type and back.
#include <QClipboard>
#include <QGuiApplication>
#include <future>
#include <set>

#include "desk/session.h"
#include "desk/text_of.h"
#include "document/elements.h"
#include "look/counted.h"
#include "paper/page_reading.h"
#include "reading/reader.h"
#include "render/text_look.h"
#include "transcript/set_in_type.h"

namespace fernleaf {
namespace {

constexpr double kBesideGapMm = 4;
constexpr double kLeastBesideMm = 25;

std::string joined(const std::vector<TextBlock>& blocks) {
    std::string text;
    for (const TextBlock& block : blocks) text += (text.empty() ? "" : "\n\n") + plain_text(block);
    return text;
}

// Blocks put where nothing else is: right of their ink, left of it, below it; nothing when there is no such place.
std::optional<std::vector<TextBlock>> beside(const Page& page, std::vector<TextBlock> blocks) {
    Box all;
    for (const TextBlock& b : blocks) all.include(b.box());
    const auto place = [&](Point by) -> std::optional<std::vector<TextBlock>> {
        std::vector<TextBlock> put = blocks;
        for (TextBlock& b : put) {
            b.at = b.at + by;
            const double wanted = b.width_mm;
            b.width_mm = std::min(wanted, page.info.width_mm - kBesideGapMm - b.at.x);
            if (b.width_mm < std::min(wanted, kLeastBesideMm) || b.at.x < 0) return {};
            lay_out(b);
            const Box box = b.box();
            if (!page.info.endless && box.bottom > page.info.height_mm) return {};
            bool meets = false;
            for_each_element(page, [&]<typename E>(const E& e) {
                meets = meets || (!ElementTraits<E>::locked(e) && drawn_box(e).meets(box));
            });
            if (meets) return {};
        }
        return put;
    };
    if (auto right = place({all.width() + kBesideGapMm, 0})) return right;
    if (auto left = place({-all.width() - kBesideGapMm, 0})) return left;
    return place({0, all.height() + 2 * kBesideGapMm});
}

}  // namespace

void Session::set_in_type(const TypeWish& wish) {
    if (!page_ || (wish.place != TypePlace::clipboard && !may_change())) return;
    if (!can_read_) return emit problem(tr("Handwriting can't be read here, so it can't be set in type."));
    struct Made {
        TypesettingResult setting;
        std::vector<TextBlock> edited;
        int unsure = 0;  // words
    };
    reading_thread_->post([this, wish, mirror = mirror_, reading = reading_, corrections = corrections_,
                           edition = edition_] {
        const Page& page = *mirror;
        auto preferences = library_->preferences(page.info.notebook);
        Preferences with = preferences ? *preferences : Preferences{};
        if (!wish.language.empty()) with.languages = {wish.language};
        const FileSource files = [this](const std::string& hash) { return library_->file(hash); };
        const Reading fresh =
            read_page(page, files, *reader_, reader_->prepared(with), *reading, corrections, {}, {}, print_.get());
        const std::set<StrokeId> chosen(wish.ink.begin(), wish.ink.end());
        auto made = std::make_shared<Made>();
        made->setting = fernleaf::set_in_type(page, fresh, chosen.empty() ? nullptr : &chosen, text_width);
        for (const ReadLine& line : fresh.lines)
            for (const ReadWord& word : line.words) {
                const auto set = [&](StrokeId id) { return chosen.empty() || chosen.contains(id); };
                made->unsure +=
                    !word.corrected && word.certainty < kSureEnough && std::ranges::any_of(word.strokes, set);
            }
        bool differs = false;
        for (TextBlock& block : made->setting.blocks) {
            lay_out_level(block);
            TextBlock edited = block;
            const std::set<StrokeId> ink(block.ink.begin(), block.ink.end());
            if (const auto earlier = library_->former_text_blocks(page.info.id, block.ink))
                for (const TextBlock& old : *earlier) {
                    if (std::set<StrokeId>(old.ink.begin(), old.ink.end()) != ink) continue;
                    edited = old;
                    edited.id = 0;
                    differs = differs || plain_text(old) != plain_text(block);
                    break;
                }
            made->edited.push_back(std::move(edited));
        }
        if (!differs) made->edited.clear();
        QMetaObject::invokeMethod(
            this,
            [this, made = std::move(made), wish, id = page.info.id, edition] {
                if (!page_ || page_->info.id != id) return;
                if (made->setting.blocks.empty()) return emit notice(tr("No writing was found there to set in type."));
                if (wish.place == TypePlace::clipboard) {
                    QGuiApplication::clipboard()->setText(QString::fromStdString(joined(made->setting.blocks)));
                    return emit notice(tr("The text is on the clipboard."));
                }
                if (edition != edition_) return set_in_type(wish);  // written on meanwhile: once more
                if (made->unsure > 0)
                    emit notice(
                        tr("The reader was not sure of %1 in it. They keep their mark on the text leaf; F8 goes "
                           "through them.")
                            .arg(counted(made->unsure, tr("word"), tr("words"))));
                const auto numbered = [this](std::vector<TextBlock> blocks) {
                    for (TextBlock& b : blocks) b.id = library_->new_element_id();
                    return blocks;
                };
                if (wish.place == TypePlace::beside) {
                    for (TextBlock& b : made->setting.blocks) b.ink.clear();  // the ink stays
                    Edit edit{"Set in type"};
                    if (auto put = beside(*page_, made->setting.blocks))
                        edit.added.texts = numbered(*std::move(put));
                    else
                        edit.overflow = PageOverflow{0, {{}, {}, numbered(std::move(made->setting.blocks))}};
                    const std::vector<TextId> ids = ids_of(edit.added);
                    change(std::move(edit));
                    return emit set_in_type_done(ids);
                }
                Edit as_read{"Set in type", {{}, {}, numbered(std::move(made->setting.blocks))}, {made->setting.ink}};
                if (made->edited.empty()) {
                    const std::vector<TextId> ids = ids_of(as_read.added);
                    change(std::move(as_read));
                    return emit set_in_type_done(ids);
                }
                Edit as_edited = as_read;
                as_edited.added.texts = numbered(std::move(made->edited));
                const QString edited = QString::fromStdString(joined(as_edited.added.texts));
                const QString read = QString::fromStdString(joined(as_read.added.texts));
                type_versions_ = TypeVersions{wish, id, edition_, std::move(as_read), std::move(as_edited)};
                emit type_choice(edited, read);
            },
            Qt::QueuedConnection);
    });
}

void Session::choose_type(bool as_edited) {
    if (!type_versions_) return;
    TypeVersions versions = *std::exchange(type_versions_, std::nullopt);
    if (!page_ || page_->info.id != versions.page) return;
    if (versions.edition != edition_) return set_in_type(versions.wish);
    Edit edit = std::move(as_edited ? versions.as_edited : versions.as_read);
    const std::vector<TextId> ids = ids_of(edit.added);
    change(std::move(edit));
    emit set_in_type_done(ids);
}

void Session::set_notebook_in_type() {
    if (!page_ || !may_change()) return;
    if (!can_read_) return emit problem(tr("Handwriting can't be read here, so it can't be set in type."));
    save_reading_now();
    run_task(tr("Setting %1 in type").arg(QString::fromStdString(notebook_.title)),
             [this, notebook = notebook_.id](const CancelToken& cancel, const Progress& progress) {
                 disk_->wait_idle();
                 const auto infos = library_->pages(notebook);
                 QString failure = infos ? QString() : text_of(infos.error());
                 std::vector<PageId> changed;
                 const size_t count = infos ? infos->size() : 0;
                 for (size_t i = 0; i < count && !cancel.cancelled() && failure.isEmpty(); ++i) {
                     // The reader works on one thread only.
                     std::promise<Result<Edit>> promise;
                     auto edit = promise.get_future();
                     reading_thread_->post([&, id = (*infos)[i].id] { promise.set_value(page_in_type(id, cancel)); });
                     Result<Edit> made = edit.get();
                     if (cancel.cancelled()) break;  // a page is changed whole or not at all
                     const Status status = !made                 ? Status(made.error())
                                           : made->added.empty() ? Status(Done{})
                                                                 : library_->commit((*infos)[i].id, *made);
                     if (!status) failure = text_of(status.error());
                     if (status && !made->added.empty()) changed.push_back((*infos)[i].id);
                     progress(static_cast<double>(i + 1) / static_cast<double>(count));
                 }
                 QMetaObject::invokeMethod(
                     this,
                     [this, changed, failure, cancelled = cancel.cancelled()]() mutable {
                         const QString done = counted(static_cast<qsizetype>(changed.size()), tr("page"), tr("pages"));
                         if (page_) {
                             std::erase(changed, page_->info.id);  // is read when it is opened
                             open_page(page_->info.id);
                         }
                         read_later(changed);
                         if (!failure.isEmpty())
                             emit problem(tr("Stopped after %1. %2").arg(done, failure));
                         else
                             emit notice(cancelled
                                             ? tr("Cancelled; %1 set in type before that.").arg(done)
                                             : tr("%1 set in type. Undo takes back one page at a time.").arg(done));
                     },
                     Qt::QueuedConnection);
             });
}

// On the reader's thread: what sets all of a page's writing in type.
Result<Edit> Session::page_in_type(PageId id, const CancelToken& cancel) {
    const auto page = library_->load_page(id);
    if (!page) return page.error();
    const auto reading = library_->reading(id);
    const auto corrections = library_->corrections(id);
    if (!reading) return reading.error();
    if (!corrections) return corrections.error();
    const auto preferences = library_->preferences(page->info.notebook);
    const FileSource files = [this](const std::string& hash) { return library_->file(hash); };
    const Reading fresh =
        read_page(*page, files, *reader_, reader_->prepared(preferences ? *preferences : Preferences{}), *reading,
                  *corrections, cancel, {}, print_.get());
    TypesettingResult setting = fernleaf::set_in_type(*page, fresh, nullptr, text_width);
    for (TextBlock& block : setting.blocks) lay_out_level(block);
    return Edit{"Set in type", {{}, {}, std::move(setting.blocks)}, {std::move(setting.ink)}};
}

void Session::back_to_ink(const std::vector<TextId>& blocks) {
    if (!page_ || !may_change()) return;
    std::vector<TextBlock> gone;
    std::vector<StrokeId> ids;
    for (const TextBlock& t : page_->texts) {
        const bool wanted = blocks.empty() || std::ranges::find(blocks, t.id) != blocks.end();
        if (!wanted || t.ink.empty()) continue;
        gone.push_back(t);
        ids.insert(ids.end(), t.ink.begin(), t.ink.end());
    }
    if (gone.empty()) return emit notice(tr("Nothing here was set from ink."));
    on_disk([this, ids] { return library_->strokes(ids); },
            [this, gone, page = page_->info.id](const Result<std::vector<Stroke>>& found) {
                if (!found) return emit problem(text_of(found.error()));
                if (!page_ || page_->info.id != page) return;
                const auto there = [&](const TextBlock& t) {
                    return std::ranges::find(page_->texts, t.id, &TextBlock::id) != page_->texts.end();
                };
                if (!std::ranges::all_of(gone, there)) return;  // taken away meanwhile
                Edit edit{"Back to ink", {}, {{}, {}, gone}};
                for (const TextBlock& t : gone) {
                    Elements back;
                    for (const Stroke& s : *found)
                        if (std::ranges::find(t.ink, s.id) != t.ink.end()) back.strokes.push_back(s);
                    // Where the block went its ink goes, too.
                    if (t.transform_since_set != Affine()) {
                        back = transformed(std::move(back), t.transform_since_set);
                        const auto replacements = renew(back, [this] { return library_->new_element_id(); });
                        edit.replacements.insert(edit.replacements.end(), replacements.begin(), replacements.end());
                    }
                    edit.added.strokes.insert(edit.added.strokes.end(), back.strokes.begin(), back.strokes.end());
                }
                change(std::move(edit));
            });
}

}  // namespace fernleaf
