#include "desk/templates_desk.h"

#include "look/theme.h"
#include "render/page_picture.h"

namespace fernleaf {

void TemplatesDesk::find(const std::function<void(const std::vector<PageTemplate>&)>& then) {
    disk_.ask(
        this, [this] { return library_.templates(); },
        [this, then](const Result<std::vector<PageTemplate>>& found) {
            if (!found) return messages_.tell_problem(found.error());
            then(*found);
        });
}

void TemplatesDesk::draw(TemplateId id, QSize most, const std::function<void(const QImage&)>& then) {
    tasks_thread_.ask(
        this,
        [this, id, most, view = theme().page]() -> Result<QImage> {
            const auto page = library_.template_page(id);
            if (!page) return page.error();
            return small_picture(
                page->page, [this](const std::string& hash) { return library_.file(hash); }, view, most);
        },
        [this, then](const Result<QImage>& picture) {
            if (!picture) return messages_.tell_problem(picture.error());
            then(*picture);
        });
}

template <typename Job>
void TemplatesDesk::change(Job job, const QString& done) {
    if (!editing_.may_change()) return;
    disk_.ask(this, std::move(job), [this, done](const Status& status) {
        if (!status) return messages_.tell_problem(status.error());
        if (!done.isEmpty()) messages_.tell(done);
        emit changed();
    });
}

void TemplatesDesk::keep_page(const QString& name) {
    if (!document_.page()) return;
    document_.leave();  // what is under way on it belongs to it
    change(
        [this, name = name.toStdString(), page = document_.page()->info.id]() -> Status {
            const auto kept = library_.keep_template(name, page);
            return kept ? Status(Done{}) : kept.error();
        },
        tr("Kept as a template."));
}

void TemplatesDesk::rename(TemplateId id, const QString& name) {
    change([this, id, name = name.toStdString()] { return library_.rename_template(id, name); }, {});
}

void TemplatesDesk::remove(TemplateId id) {
    change([this, id] { return library_.remove_template(id); }, {});
}

void TemplatesDesk::add_page(TemplateId id) {
    if (!document_.page() || !editing_.may_change_page()) return;
    constexpr int kAtTheEnd = 1 << 20;
    const auto& sheaf = document_.sheaf();
    disk_.ask(
        this,
        [this, id, notebook = sheaf ? sheaf->notebook : document_.notebook().id,
         number = sheaf ? kAtTheEnd : document_.page()->info.number + 1]() -> Result<PageId> {
            auto page = library_.template_page(id);
            if (!page) return page.error();
            return library_.add_copy(*std::move(page), notebook, number);
        },
        [this](const Result<PageId>& page) {
            if (!page) return messages_.tell_problem(page.error());
            emit page_added(*page);
            emit page_wanted(*page);
        });
}

}  // namespace fernleaf
