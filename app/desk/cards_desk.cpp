#include "desk/cards_desk.h"

#include <QFileInfo>
#include <QStandardPaths>
#include <algorithm>

#include "base/file.h"
#include "desk/text_of.h"

namespace fernleaf {
namespace {

namespace fs = std::filesystem;

constexpr uintmax_t kLargestAttachment = 500'000'000;  // bytes
constexpr double kMarginMm = 14, kGapMm = 4;

// No longer than a card takes, and cut between letters.
std::string card_name(const QString& name) {
    return name.left(static_cast<qsizetype>(kLongestCardName) / 4).toStdString();
}

// A file's name without any way out of its folder.
std::string name_alone(const std::string& name) {
    std::string out = fs::path(name).filename().string();
    std::erase_if(out, [](char c) { return static_cast<unsigned char>(c) < 32 || c == '/'; });
    while (out.starts_with('.')) out.erase(0, 1);
    return out.empty() ? "attachment" : out;
}

}  // namespace

void CardsDesk::attach(const QStringList& paths) {
    if (!document_.page() || !editing_.may_change_page()) return;
    tasks_.run(tr("Attaching %n file(s)", nullptr, static_cast<int>(paths.size())),
               [this, paths, page = document_.page()->info.id](const CancelToken& cancel, const Progress& progress) {
                   std::vector<Card> cards;
                   QString failure;
                   for (qsizetype i = 0; i < paths.size() && !cancel.cancelled() && failure.isEmpty(); ++i) {
                       const auto bytes = read_regular(paths[i].toStdString(), kLargestAttachment);
                       const auto file = bytes ? library_.add_file(*bytes) : Result<std::string>(bytes.error());
                       if (!file) {
                           failure =
                               tr("%1 was not attached: %2").arg(QFileInfo(paths[i]).fileName(), text_of(file.error()));
                           break;
                       }
                       Card card;
                       card.name = card_name(QFileInfo(paths[i]).fileName());
                       card.file = *file;
                       card.bytes = static_cast<int64_t>(bytes->size());
                       cards.push_back(std::move(card));
                       progress(static_cast<double>(i + 1) / static_cast<double>(paths.size()));
                   }
                   QMetaObject::invokeMethod(
                       this,
                       [this, cards = std::move(cards), failure, page, cancelled = cancel.cancelled()]() mutable {
                           if (!failure.isEmpty()) messages_.tell_problem(failure);
                           if (cards.empty() || cancelled) return;
                           if (!document_.is_open(page))
                               return messages_.tell_problem(
                                   tr("Nothing was attached, as another page was opened. Attach the files again."));
                           const Sheet& sheet = document_.page()->info;
                           // Below what is there, in line with it; higher where there is no room for all of them.
                           const double tall = static_cast<double>(cards.size()) * (kCardHeightMm + kGapMm);
                           const double foot =
                               document_.page()->empty() ? kMarginMm : drawn_box(*document_.page()).bottom + kGapMm;
                           double y = std::clamp(foot, 0.0, std::max(0.0, sheet.height_mm - tall));
                           const double most = std::max(kMarginMm, sheet.width_mm - kCardWidthMm - kGapMm);
                           const double x = document_.page()->empty()
                                                ? kMarginMm
                                                : std::clamp(drawn_box(*document_.page()).left, kGapMm, most);
                           Elements put;
                           for (Card& card : cards) {
                               card.id = editing_.new_id();
                               card.box = Box::of(x, y, kCardWidthMm, kCardHeightMm);
                               y += kCardHeightMm + kGapMm;
                               put.cards.push_back(std::move(card));
                           }
                           editing_.add(put, "Attach a file");
                       },
                       Qt::QueuedConnection);
               });
}

Card CardsDesk::link_here() const {
    Card out;
    out.box = Box::of(0, 0, kCardWidthMm, kCardHeightMm);
    if (!document_.page()) return out;
    const PageInfo& info = document_.page()->info;
    out.page = info.id;
    out.page_made_ms = info.created_ms;
    out.name =
        card_name(!info.title.empty()
                      ? QString::fromStdString(info.title)
                      : tr("%1, page %2").arg(QString::fromStdString(document_.notebook().title)).arg(info.number));
    return out;
}

void CardsDesk::open(const Card& card) {
    if (card.page != 0) {
        disk_.ask(
            this,
            [this, card]() -> Result<bool> {
                const auto page = library_.load_page(card.page);
                if (!page || page->info.created_ms != card.page_made_ms) return false;
                const auto notebooks = library_.notebooks();
                if (!notebooks) return notebooks.error();
                const auto pages = library_.pages(page->info.notebook);
                if (!pages) return pages.error();
                return std::ranges::find(*notebooks, page->info.notebook, &Notebook::id) != notebooks->end() &&
                       std::ranges::find(*pages, card.page, &PageInfo::id) != pages->end();
            },
            [this, card](const Result<bool>& there) {
                if (!there) return messages_.tell_problem(there.error());
                if (*there) return emit page_wanted(card.page);
                messages_.tell_problem(tr("“%1” is not in this library any more. It may be in the bin.")
                                           .arg(QString::fromStdString(card.name)));
            });
        return;
    }
    const fs::path folder =
        (QStandardPaths::writableLocation(QStandardPaths::CacheLocation) + "/attachments").toStdString();
    tasks_thread_.ask(
        this,
        [this, card, folder]() -> Result<fs::path> {
            const auto bytes = library_.file(card.file);
            if (!bytes) return bytes.error();
            std::error_code problem;
            // Of one content there is one copy, which nobody writes to: what is changed there would be lost.
            const fs::path path = folder / card.file.substr(0, 16) / name_alone(card.name);
            fs::create_directories(path.parent_path(), problem);
            if (fs::exists(path, problem)) return path;
            if (Status written = write_whole(path, *bytes); !written) return written.error();
            fs::permissions(path, fs::perms::owner_read, problem);
            return path;
        },
        [this](const Result<fs::path>& path) {
            if (!path) return messages_.tell_problem(path.error());
            emit file_ready(QString::fromStdString(path->string()));
        });
}

void CardsDesk::save(const Card& card, const QString& path) {
    tasks_thread_.ask(
        this,
        [this, card, path]() -> Status {
            const auto bytes = library_.file(card.file);
            return bytes ? write_whole(path.toStdString(), *bytes) : bytes.error();
        },
        [this, path](const Status& saved) {
            if (!saved) return messages_.tell_problem(saved.error());
            messages_.tell(tr("Saved as %1.").arg(path));
        });
}

void CardsDesk::find_linked_from(PageId page, const std::function<void(const std::vector<PagePlace>&)>& then) {
    disk_.ask(
        this, [this, page] { return library_.linked_from(page); },
        [this, then](const Result<std::vector<PagePlace>>& places) {
            if (!places) return messages_.tell_problem(places.error());
            then(*places);
        });
}

}  // namespace fernleaf
