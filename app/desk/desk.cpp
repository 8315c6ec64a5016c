#include "desk/desk.h"

#include <future>

#include "desk/text_of.h"

namespace fernleaf {

void Desk::change_notebook(const QString& label,
                           const std::function<Result<Edit>(PageId page, const CancelToken& cancel)>& edit_of,
                           const std::function<void(const NotebookChange&)>& done) {
    readings_.save_now();
    tasks_.run(label, [this, edit_of, done, notebook = document_.notebook().id](const CancelToken& cancel,
                                                                                const Progress& progress) {
        disk_.wait_idle();
        auto infos = library_.pages(notebook);
        NotebookChange out;
        if (!infos) out.failure = text_of(infos.error());
        // Those of others that it shows, too, are not its own.
        if (infos) std::erase_if(*infos, [&](const PageInfo& info) { return info.notebook != notebook; });
        const size_t count = infos ? infos->size() : 0;
        for (size_t i = 0; i < count && !cancel.cancelled() && out.failure.isEmpty(); ++i) {
            const PageId id = (*infos)[i].id;
            // The reader works on one thread only.
            std::promise<Result<Edit>> promise;
            auto edit = promise.get_future();
            reader_thread_.post([&] { promise.set_value(guarded([&] { return edit_of(id, cancel); })); });
            Result<Edit> made = edit.get();
            if (cancel.cancelled()) break;  // a page is changed whole or not at all
            const Status status = !made                 ? Status(made.error())
                                  : made->added.empty() ? Status(Done{})
                                                        : library_.commit(id, *made);
            if (!status) out.failure = text_of(status.error());
            if (status && !made->added.empty()) out.changed.push_back(id);
            progress(static_cast<double>(i + 1) / static_cast<double>(count));
        }
        out.cancelled = cancel.cancelled();
        QMetaObject::invokeMethod(
            this,
            [this, out, done] {
                std::vector<PageId> unread = out.changed;
                if (document_.page()) std::erase(unread, document_.page()->info.id);  // is read when it is opened
                readings_.read_later(unread);
                done(out);
            },
            Qt::QueuedConnection);
    });
}

Result<PageAndReading> Desk::page_read_fresh(PageId id, const CancelToken& cancel) {
    auto page = library_.load_page(id);
    if (!page) return page.error();
    const auto reading = library_.reading(id);
    const auto corrections = library_.corrections(id);
    if (!reading) return reading.error();
    if (!corrections) return corrections.error();
    Reading fresh = readings_.read_fresh(*page, *reading, *corrections, {}, cancel);
    return PageAndReading{*std::move(page), std::move(fresh)};
}

}  // namespace fernleaf
