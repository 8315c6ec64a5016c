// The session's pages as things: their order, copies, the bin, their paper, and what is put on them from elsewhere.
#include <QBuffer>
#include <QFileInfo>

#include "desk/session.h"
#include "desk/text_of.h"
#include "document/elements.h"
#include "exchange/import.h"
#include "exchange/inkml.h"
#include "look/counted.h"
#include "paper/picture_file.h"
#include "render/text_look.h"
#include "store/codec.h"

namespace fernleaf {
namespace {

constexpr double kPictureDpi = 150;          // a picture without a size of its own
constexpr double kDividerMarginMm = 12;      // from its ends to the page's edges
constexpr double kPictureShareOfPage = 0.6;  // no wider than this when it comes

}  // namespace

// Does something to pages on disk; the list shows it then.
template <typename Job>
void Session::pages_job(Job job, std::function<void()> then) {
    if (!may_change()) return;
    if (page_) emit page_leaving();  // what is under way on it is kept first
    save_reading_now();
    on_disk(std::move(job), [this, then = std::move(then)](const Status& status) {
        if (!status) return emit problem(text_of(status.error()));
        then();
        refresh_notebooks();
    });
}

void Session::move_page(PageId page, NotebookId notebook, int number) {
    pages_job([this, page, notebook, number] { return library_->move_page(page, notebook, number); },
              [this, page, notebook] {
                  if (!page_) return;
                  const bool elsewhere = notebook != notebook_.id;
                  if (elsewhere) read_later({page});  // in the other notebook's languages
                  open_page(page_->info.id);          // numbers have changed
              });
}

void Session::copy_page(PageId page, NotebookId notebook, int number) {
    auto copy = std::make_shared<PageId>(0);
    pages_job(
        [this, page, notebook, number, copy]() -> Status {
            const auto made = library_->copy_page(page, notebook, number);
            if (!made) return made.error();
            *copy = *made;
            return Done{};
        },
        [this, copy, notebook] {
            read_later({*copy});
            if (page_) open_page(notebook == notebook_.id ? *copy : page_->info.id);
        });
}

void Session::bin_pages(const std::vector<PageId>& pages) {
    auto next = std::make_shared<PageId>(0);
    const PageId open = page_ ? page_->info.id : 0;
    const Notebook notebook = notebook_;
    pages_job(
        [this, pages, open, notebook, next]() -> Status {
            const auto gone = [&](PageId id) { return std::ranges::find(pages, id) != pages.end(); };
            const auto before = library_->pages(notebook.id);
            if (!before) return before.error();
            const auto here = std::ranges::find(*before, open, &PageInfo::id);
            // The open page, or the first that stays after it, or the last before it.
            for (auto at = here; at != before->end() && *next == 0; ++at)
                if (!gone(at->id)) *next = at->id;
            for (auto at = here; at != before->begin() && *next == 0;)
                if (!gone((--at)->id)) *next = at->id;
            for (const PageId page : pages)
                if (Status status = library_->bin_page(page); !status) return status;
            if (*next != 0) return Done{};
            // A notebook has a page at least.
            const auto fresh = library_->add_page(notebook.id, PageInfo{notebook.sheet});
            if (!fresh) return fresh.error();
            *next = *fresh;
            return Done{};
        },
        [this, next, pages] {
            open_page(*next);
            std::vector<Binned> back;
            for (const PageId page : pages) back.push_back({0, page});
            emit undoable(
                pages.size() == 1 ? tr("The page is in the bin.") : tr("%1 pages are in the bin.").arg(pages.size()),
                [this, back] { restore(back); });
        });
}

void Session::bin_notebook(NotebookId notebook) {
    auto next = std::make_shared<NotebookId>(0);
    pages_job(
        [this, notebook, next]() -> Status {
            if (Status status = library_->bin_notebook(notebook); !status) return status;
            const auto rest = library_->notebooks();
            if (rest && !rest->empty()) *next = rest->front().id;
            return Done{};
        },
        [this, notebook, next] {
            if (*next != 0 && notebook == notebook_.id) open_notebook(*next);
            if (*next == 0) {
                page_.reset();
                read_cancel_.cancel();
                reading_wanted_ = asked_ = reading_unsaved_ = false;
                reading_ = {};
                corrections_.clear();
                open_notebook_ = wanted_page_ = 0;
                emit page_closed();
            }
            emit undoable(tr("The notebook is in the bin."), [this, notebook] { restore({{notebook, 0}}); });
        });
}

void Session::restore(const std::vector<Binned>& things) {
    pages_job(
        [this, things]() -> Status {
            for (const Binned& thing : things)
                if (Status status = thing.page != 0 ? library_->restore_page(thing.page)
                                                    : library_->restore_notebook(thing.notebook);
                    !status)
                    return status;
            return Done{};
        },
        [this, things] {
            if (things.empty()) return;
            if (things.front().page != 0)
                open_page(things.front().page);
            else
                open_notebook(things.front().notebook);
            look_into_bin();
        });
}

void Session::empty_bin() {
    pages_job([this] { return library_->empty_bin(); }, [this] { look_into_bin(); });
}

void Session::look_into_bin() {
    on_disk([this] { return library_->bin(); },
            [this](const Result<std::vector<Binned>>& things) {
                if (!things) return emit problem(text_of(things.error()));
                emit bin_seen(*things);
            });
}

void Session::change_sheet(const Sheet& sheet) {
    if (!page_ || !may_change() || sheet == static_cast<const Sheet&>(page_->info)) return;
    Edit edit{"Change the paper"};
    edit.sheet = SheetChange{page_->info, sheet};
    commit(std::move(edit));
}

void Session::keep_picture(const QString& path) {
    if (!may_change()) return emit picture_kept({});
    tasks_->post([this, path] {
        const auto source = read_source(path.toStdString(), PictureUse::as_they_are);
        std::string hash;
        QString reason = source ? tr("it is no picture.") : text_of(source.error());
        if (source && !source->picture_bytes.empty()) {
            const auto file = library_->add_file(source->picture_bytes);
            if (file)
                hash = *file;
            else
                reason = text_of(file.error());
        }
        QMetaObject::invokeMethod(
            this,
            [this, path, hash, reason] {
                if (hash.empty()) emit problem(tr("%1 can't be used as paper: %2").arg(path, reason));
                emit picture_kept(hash);
            },
            Qt::QueuedConnection);
    });
}

void Session::paste(const QByteArray& inkml, const QByteArray& elements, Point middle) {
    if (!page_ || !may_change()) return;
    tasks_->post([this, inkml, elements, middle, page = page_->info.id] {
        Elements put;
        Status status = Done{};
        if (!inkml.isEmpty()) {
            auto sheets = read_inkml(std::string_view(inkml.constData(), static_cast<size_t>(inkml.size())));
            if (!sheets)
                status = sheets.error();
            else
                for (InkSheet& sheet : *sheets) std::ranges::move(sheet.strokes, std::back_inserter(put.strokes));
        }
        if (status && !elements.isEmpty()) {
            auto others = decode_elements(elements.toStdString());
            if (!others)
                status = others.error();
            else
                others->strokes = std::move(put.strokes), put = *std::move(others);
        }
        for_each_element(put, [&]<typename E>(const E& e) {
            for (const std::string& file : ElementTraits<E>::files(e))
                if (status && !library_->file(file)) status = Error{"the picture belongs to another library."};
        });
        auto result = std::make_shared<Result<Elements>>(status ? Result<Elements>(std::move(put)) : status.error());
        QMetaObject::invokeMethod(
            this, [this, result, middle, page] { put_pasted(std::move(*result), middle, page, "Paste"); },
            Qt::QueuedConnection);
    });
}

void Session::put_pasted(Result<Elements> elements, Point middle, PageId page, const char* label) {
    if (!page_ || page_->info.id != page) return;
    if (!elements) return emit problem(tr("What was copied can't be put here: %1").arg(text_of(elements.error())));
    const Box box = drawn_box(*elements);
    if (box.empty()) return emit notice(tr("There is nothing to paste."));
    Edit edit{label, transformed(*std::move(elements), Affine::shift(middle - box.centre()))};
    for_each_element(edit.added, [&]<typename E>(E& e) {
        e.id = library_->new_element_id();
        // What it was made from is on the page it was copied from.
        if (std::vector<ElementId>* ink = ElementTraits<E>::source_ink(e)) ink->clear();
    });
    for (TextBlock& t : edit.added.texts) {
        t.transform_since_set = {};
        lay_out(t);
    }
    const std::vector<int64_t> ids = ids_of(edit.added);
    change(std::move(edit));
    emit pasted(ids);
}

void Session::add_divider() {
    if (!page_ || !may_change()) return;
    const Sheet& sheet = page_->info;
    const double foot = page_->empty() ? 0 : std::max(0.0, drawn_box(*page_).bottom);
    Divider rule;
    rule.id = library_->new_element_id();
    rule.length_mm = std::max(kLeastDividerMm, sheet.width_mm - 2 * kDividerMarginMm);
    rule.middle = {sheet.width_mm / 2, std::min(foot + sheet.spacing_mm, sheet.height_mm - sheet.spacing_mm)};
    change({"Insert a divider", {{}, {}, {}, {rule}}});
    emit pasted({rule.id});
}

void Session::add_picture(const QImage& image, Point middle) {
    if (!page_ || !may_change()) return;
    if (image.isNull()) return emit problem(tr("That picture can't be read."));
    tasks_->post([this, image, middle, page = page_->info.id, share = kPictureShareOfPage * page_->info.width_mm] {
        QByteArray png;
        QBuffer buffer(&png);
        buffer.open(QIODevice::WriteOnly);
        image.save(&buffer, "PNG");
        const auto file = library_->add_file(png.toStdString());
        const double width = std::min(share, image.width() / kPictureDpi * kMmPerInch);
        const Box box = Box::of(0, 0, width, width * image.height() / image.width());
        auto result = std::make_shared<Result<Elements>>(
            file ? Result<Elements>(Elements{{}, {{0, *file, "picture.png", 0, box}}, {}}) : file.error());
        QMetaObject::invokeMethod(
            this, [this, result, middle, page] { put_pasted(std::move(*result), middle, page, "Insert a picture"); },
            Qt::QueuedConnection);
    });
}

void Session::add_picture(const QString& path, Point middle) {
    if (!page_ || !may_change()) return;
    tasks_->post([this, path, middle, page = page_->info.id, share = kPictureShareOfPage * page_->info.width_mm] {
        const auto put = [&]() -> Result<Elements> {
            auto source = read_source(path.toStdString(), PictureUse::as_they_are);
            if (!source) return source.error();
            if (source->picture_bytes.empty()) return Error{"it holds ink; import it as a page instead."};
            const auto file = library_->add_file(source->picture_bytes);
            if (!file) return file.error();
            Picture picture = source->pages.front().content.pictures.front();
            picture.file = *file;
            picture.locked = false;
            const double shrink = std::min(1.0, share / picture.box.width());
            picture.box = Box::of(0, 0, picture.box.width() * shrink, picture.box.height() * shrink);
            return Elements{{}, {picture}, {}};
        };
        auto result = std::make_shared<Result<Elements>>(put());
        QMetaObject::invokeMethod(
            this, [this, result, middle, page] { put_pasted(std::move(*result), middle, page, "Insert a picture"); },
            Qt::QueuedConnection);
    });
}

}  // namespace fernleaf
