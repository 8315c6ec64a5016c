// Templates and kept searches.
#include "base/now.h"
#include "base/text.h"
#include "store/library.h"
#include "store/page_file.h"

namespace fernleaf {
namespace {

constexpr size_t kLongestTemplateName = 120;  // bytes
constexpr int64_t kMostTemplates = 1000, kMostSearches = 200;
constexpr size_t kLargestTemplate = 32'000'000, kLongestQuery = 1000;  // bytes
constexpr char kNoTemplate[] = "The template no longer exists.";

Result<std::string> template_name(const std::string& typed) {
    std::string name = trimmed(typed).substr(0, kLongestTemplateName);
    if (name.empty() || !valid_utf8(name)) return Error{"A template needs a name."};
    return name;
}

}  // namespace

Result<std::vector<PageTemplate>> Library::templates() const {
    const Turn turn(mutex_, db_);
    std::vector<PageTemplate> out;
    Statement s = db_->prepare("SELECT id, name FROM template ORDER BY name COLLATE NOCASE, id");
    while (s.step()) out.push_back({s.integer(0), s.text(1)});
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Result<TemplateId> Library::keep_template(const std::string& typed, PageId page) {
    const auto name = template_name(typed);
    if (!name) return name.error();
    auto copy = take_copy(page);
    if (!copy) return copy.error();
    copy->page.info.title.clear();
    copy->page.info.favourite = false;
    copy->page.info.errands = false;  // it is no addressed paper
    // What it holds was not written on the pages that begin with it.
    for (Elements* elements : {static_cast<Elements*>(&copy->page), &copy->ink})
        for (Stroke& stroke : elements->strokes) stroke.start_ms = 0;
    const std::string json = encode_page(*copy);
    if (json.size() > kLargestTemplate)
        return Error{"That page is too large for a template. Choose one with less on it."};
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Statement count = db_->prepare("SELECT count(*) FROM template");
    if (count.step() && count.integer(0) >= kMostTemplates)
        return Error{"There are too many templates. Delete some first."};
    Transaction transaction(*db_);
    db_->prepare("DELETE FROM template WHERE name = ?").bind(*name).run();
    db_->prepare("INSERT INTO template (name, page) VALUES (?, ?)").bind(*name).bind(json).run();
    const TemplateId id = db_->last_id();
    if (Status status = transaction.commit(); !status) return status.error();
    return id;
}

Result<PageCopy> Library::template_page(TemplateId id) const {
    std::string json;
    {
        const Turn turn(mutex_, db_);
        Statement s = db_->prepare("SELECT page FROM template WHERE id = ?");
        if (!s.bind(id).step()) return Error{kNoTemplate};
        json = s.text(0);
    }
    auto page = decode_page(json);
    if (!page) return Error{"The template is damaged. Delete it and keep another."};
    page->page.info.created_ms = now_ms();
    return page;
}

Status Library::rename_template(TemplateId id, const std::string& typed) {
    const auto name = template_name(typed);
    if (!name) return name.error();
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("UPDATE template SET name = ? WHERE id = ?").bind(*name).bind(id).run();
    if (db_->changes() == 0) return Error{kNoTemplate};
    return transaction.commit();
}

Status Library::remove_template(TemplateId id) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("DELETE FROM template WHERE id = ?").bind(id).run();
    if (db_->changes() == 0) return Error{kNoTemplate};
    return transaction.commit();
}

Result<std::vector<std::string>> Library::kept_searches() const {
    const Turn turn(mutex_, db_);
    std::vector<std::string> out;
    Statement s = db_->prepare("SELECT query FROM kept_search ORDER BY made DESC, query");
    while (s.step()) out.push_back(s.text(0));
    if (Status status = db_->take_status(); !status) return status.error();
    return out;
}

Status Library::keep_search(const std::string& query, bool keep) {
    const std::string kept = trimmed(query);
    if (kept.empty() || kept.size() > kLongestQuery || !valid_utf8(kept)) return Error{"That is no search to keep."};
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Statement count = db_->prepare("SELECT count(*) FROM kept_search");
    if (keep && count.step() && count.integer(0) >= kMostSearches)
        return Error{"There are too many kept searches. Remove some first."};
    Transaction transaction(*db_);
    db_->prepare(keep ? "INSERT OR REPLACE INTO kept_search (query, made) VALUES (?1, ?2)"
                      : "DELETE FROM kept_search WHERE query = ?1 AND ?2 > 0")
        .bind(kept)
        .bind(now_ms())
        .run();
    return transaction.commit();
}

}  // namespace fernleaf
