#include "desk/typesetting_desk.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QMimeData>
#include <algorithm>
#include <future>
#include <iterator>
#include <map>
#include <set>

#include "desk/text_of.h"
#include "exchange/plain_text.h"
#include "exchange/table_file.h"
#include "render/formula_setting.h"
#include "render/text_look.h"
#include "transcript/set_in_type.h"

namespace fernleaf {
namespace {

constexpr int kPauseMs = 1600;  // a word may follow
constexpr double kBesideGapMm = 4;
constexpr double kLeastBesideMm = 25;

// From the top of the page down.
std::string joined(const std::vector<TextBlock>& blocks, const std::vector<SetFormula>& formulas) {
    std::multimap<double, std::string> parts;
    for (const TextBlock& block : blocks) parts.emplace(block.at.y, plain_text(block));
    for (const SetFormula& formula : formulas) parts.emplace(straight_box(formula).top, formula.latex);
    std::string text;
    for (const auto& [top, part] : parts) text += (text.empty() ? "" : "\n\n") + part;
    return text;
}

// The formulas of a page of which all ink is chosen (null: all), set in its place.
std::vector<SetFormula> formulas_in_type(const Page& page, const Reading& reading, const std::set<StrokeId>* chosen) {
    std::vector<SetFormula> out;
    for (const ReadLine& line : reading.lines) {
        const auto wanted = [&](StrokeId id) { return !chosen || chosen->contains(id); };
        if (line.kind != RegionKind::math || !std::ranges::all_of(line.ink, wanted)) continue;
        if (auto formula = set_from_ink(line, page.strokes)) out.push_back(*std::move(formula));
    }
    return out;
}

std::vector<Stroke> ink_of(const Page& page, const std::vector<SetFormula>& formulas) {
    std::vector<Stroke> out;
    for (const Stroke& s : page.strokes)
        for (const SetFormula& formula : formulas)
            if (std::ranges::find(formula.ink, s.id) != formula.ink.end()) out.push_back(s);
    return out;
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

TypesettingDesk::TypesettingDesk(const DeskParts& parts, QObject* parent) : Desk(parts, parent) {
    pause_.setSingleShot(true);
    pause_.setInterval(kPauseMs);
    connect(&pause_, &QTimer::timeout, this, &TypesettingDesk::set_what_was_written);
    connect(&editing_, &PageEditing::written, this, [this](const Stroke& stroke) {
        if (!while_writing_ && written_.empty()) return;
        if (while_writing_ && !lies_under(stroke.pen)) written_.push_back(stroke.id);
        pause_.start();
    });
    connect(&document_, &PageDocument::opened, this, [this] { written_.clear(); });
}

void TypesettingDesk::set_what_was_written() {
    if (!document_.page() || written_.empty() || !readings_.can_read()) return written_.clear();
    if (readings_.in_progress() || readings_.pen_down()) return pause_.start();
    TypeWish wish{TypePlace::in_place, std::exchange(written_, {})};
    wish.by_itself = true;
    set_in_type(wish);
}

void TypesettingDesk::set_in_type(const TypeWish& wish) {
    if (!document_.page() || (wish.place != TypePlace::clipboard && !editing_.may_change_page())) return;
    if (!readings_.can_read())
        return messages_.tell_problem(tr("Handwriting can't be read here, so it can't be set in type."));
    struct Made {
        TypesettingResult setting;
        std::vector<TextBlock> edited;
        std::vector<SetFormula> formulas;
        int unsure = 0;  // words and formulas
    };
    reader_thread_.post([this, wish, mirror = readings_.mirror(), reading = readings_.shared_reading(),
                         corrections = readings_.corrections(), edition = document_.edition()] {
        const Page& page = *mirror;
        const Reading fresh = readings_.read_fresh(page, *reading, corrections, wish.language);
        const std::set<StrokeId> chosen(wish.ink.begin(), wish.ink.end());
        auto made = std::make_shared<Made>();
        made->setting = fernleaf::set_in_type(page, fresh, chosen.empty() ? nullptr : &chosen, text_width);
        made->formulas = formulas_in_type(page, fresh, chosen.empty() ? nullptr : &chosen);
        for (const ReadLine& line : fresh.lines)
            for (const ReadWord& word : line.words) {
                const auto wanted = [&](StrokeId id) { return chosen.empty() || chosen.contains(id); };
                made->unsure +=
                    !word.corrected && word.certainty < kSureEnough && std::ranges::any_of(word.strokes, wanted);
            }
        bool differs = false;
        for (TextBlock& block : made->setting.blocks) {
            lay_out_level(block);
            TextBlock edited = block;
            const std::set<StrokeId> ink(block.ink.begin(), block.ink.end());
            if (const auto earlier = library_.former_text_blocks(page.info.id, block.ink))
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
                if (!document_.is_open(id)) return;
                const bool nothing = made->setting.blocks.empty() && made->formulas.empty();
                if (nothing && wish.by_itself) return;
                if (nothing) return messages_.tell(tr("No writing was found there to set in type."));
                if (wish.place == TypePlace::clipboard) {
                    QGuiApplication::clipboard()->setText(
                        QString::fromStdString(joined(made->setting.blocks, made->formulas)));
                    return messages_.tell(tr("The text is on the clipboard."));
                }
                if (edition != document_.edition()) return set_in_type(wish);  // written on meanwhile: once more
                if (made->unsure > 0 && !wish.by_itself)
                    messages_.tell(
                        tr("The reader was not sure of %n word(s). F8 goes through what is marked on the text leaf.",
                           nullptr, static_cast<int>(made->unsure)));
                const auto numbered = [this](std::vector<TextBlock> blocks) {
                    for (TextBlock& b : blocks) b.id = editing_.new_id();
                    return blocks;
                };
                if (wish.place == TypePlace::beside) {
                    for (TextBlock& b : made->setting.blocks) b.ink.clear();  // the ink stays
                    Edit edit{"Set in type"};
                    if (auto put = beside(*document_.page(), made->setting.blocks))
                        edit.added.texts = numbered(*std::move(put));
                    else
                        edit.overflow = PageOverflow{0, {{}, {}, numbered(std::move(made->setting.blocks))}};
                    const std::vector<TextId> ids = ids_of(edit.added);
                    editing_.change(std::move(edit));
                    return emit set(ids);
                }
                for (SetFormula& formula : made->formulas) formula.id = editing_.new_id();
                Edit as_read{"Set in type", {{}, {}, numbered(std::move(made->setting.blocks))}, {made->setting.ink}};
                std::ranges::copy(ink_of(*document_.page(), made->formulas),
                                  std::back_inserter(as_read.removed.strokes));
                as_read.added.formulas = std::move(made->formulas);
                if (made->edited.empty()) {
                    const std::vector<TextId> ids = ids_of(as_read.added);
                    editing_.change(std::move(as_read));
                    return emit set(ids);
                }
                Edit as_edited = as_read;
                as_edited.added.texts = numbered(std::move(made->edited));
                const QString edited = QString::fromStdString(joined(as_edited.added.texts, {}));
                const QString read = QString::fromStdString(joined(as_read.added.texts, {}));
                versions_ = Versions{wish, id, document_.edition(), std::move(as_read), std::move(as_edited)};
                emit choice_needed(edited, read);
            },
            Qt::QueuedConnection);
    });
}

void TypesettingDesk::choose(bool as_edited) {
    if (!versions_) return;
    Versions versions = *std::exchange(versions_, std::nullopt);
    if (!document_.is_open(versions.page)) return;
    if (versions.edition != document_.edition()) return set_in_type(versions.wish);
    Edit edit = std::move(as_edited ? versions.as_edited : versions.as_read);
    const std::vector<TextId> ids = ids_of(edit.added);
    editing_.change(std::move(edit));
    emit set(ids);
}

// A table as spreadsheets and text processors take it; where there is none, what stands far apart in a line.
void TypesettingDesk::copy_table() {
    if (!document_.page()) return;
    const std::vector<TableWords> tables = tables_of(readings_.reading());
    std::string text, html;
    for (const TableWords& table : tables) {
        text += (text.empty() ? "" : "\n") + table_text(table, ".tsv");
        html += table_text(table, ".html");
    }
    if (tables.empty()) text = form_text(readings_.reading());
    if (text.empty()) return messages_.tell(tr("Nothing to copy: no words have been read on this page."));
    auto* data = new QMimeData;
    data->setText(QString::fromStdString(text));
    if (!html.empty()) data->setHtml(QString::fromStdString(html));
    QGuiApplication::clipboard()->setMimeData(data);
    messages_.tell(tables.size() > 1 ? tr("The tables are on the clipboard.") : tr("The table is on the clipboard."));
}

void TypesettingDesk::set_notebook_in_type() {
    if (!document_.page() || !editing_.may_change_page()) return;
    if (!readings_.can_read())
        return messages_.tell_problem(tr("Handwriting can't be read here, so it can't be set in type."));
    change_notebook(
        tr("Setting %1 in type").arg(QString::fromStdString(document_.notebook().title)),
        [this](PageId id, const CancelToken& cancel) { return page_in_type(id, cancel); },
        [this](const NotebookChange& change) {
            const int done = static_cast<int>(change.changed.size());
            if (document_.page()) emit page_wanted(document_.page()->info.id);
            if (!change.failure.isEmpty())
                messages_.tell_problem(tr("Stopped after %n page(s). %1", nullptr, done).arg(change.failure));
            else
                messages_.tell(change.cancelled
                                   ? tr("Cancelled. %n page(s) are already set in type.", nullptr, done)
                                   : tr("%n page(s) set in type. Undo works one page at a time.", nullptr, done));
        });
}

// On the reader's thread: what sets all of a page's writing in type.
Result<Edit> TypesettingDesk::page_in_type(PageId id, const CancelToken& cancel) {
    const auto fresh = page_read_fresh(id, cancel);
    if (!fresh) return fresh.error();
    TypesettingResult setting = fernleaf::set_in_type(fresh->page, fresh->reading, nullptr, text_width);
    for (TextBlock& block : setting.blocks) lay_out_level(block);
    Edit edit{"Set in type", {{}, {}, std::move(setting.blocks)}, {std::move(setting.ink)}};
    edit.added.formulas = formulas_in_type(fresh->page, fresh->reading, nullptr);
    std::ranges::copy(ink_of(fresh->page, edit.added.formulas), std::back_inserter(edit.removed.strokes));
    return edit;
}

void TypesettingDesk::back_to_ink(const std::vector<ElementId>& elements) {
    if (!document_.page() || !editing_.may_change_page()) return;
    Elements gone;
    std::vector<StrokeId> ids;
    for_each_element(*document_.page(), [&]<typename E>(const E& e) {
        if constexpr (FromInk<E>) {
            const bool wanted = elements.empty() || std::ranges::find(elements, e.id) != elements.end();
            if (!wanted || e.ink.empty()) return;
            gone.of<E>().push_back(e);
            ids.insert(ids.end(), e.ink.begin(), e.ink.end());
        }
    });
    if (gone.empty()) return messages_.tell(tr("Nothing here was set in type or drawn fair."));
    disk_.ask(
        this, [this, ids] { return library_.strokes(ids); },
        [this, gone, page = document_.page()->info.id](const Result<std::vector<Stroke>>& found) {
            if (!found) return messages_.tell_problem(found.error());
            if (!document_.is_open(page)) return;
            if (picked(*document_.page(), ids_of(gone)).count() != gone.count()) return;  // taken away meanwhile
            Edit edit{"Back to ink", {}, gone};
            const auto give_back = [&](const FromInk auto& e) {
                Elements back;
                for (const Stroke& s : *found)
                    if (std::ranges::find(e.ink, s.id) != e.ink.end()) back.strokes.push_back(s);
                // Where it went its ink goes, too.
                if (e.transform_since_set != Affine()) {
                    back = transformed(std::move(back), e.transform_since_set);
                    const auto replacements = renew(back, [this] { return editing_.new_id(); });
                    edit.replacements.insert(edit.replacements.end(), replacements.begin(), replacements.end());
                }
                edit.added.strokes.insert(edit.added.strokes.end(), back.strokes.begin(), back.strokes.end());
            };
            for_each_element(gone, [&]<typename E>(const E& e) {
                if constexpr (FromInk<E>) give_back(e);
            });
            editing_.change(std::move(edit));
        });
}

}  // namespace fernleaf
