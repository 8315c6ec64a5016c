// Kept pieces.
#include "base/now.h"
#include "base/text.h"
#include "store/library.h"

namespace fernleaf {
namespace {

constexpr size_t kLongestName = 120;  // bytes
constexpr int64_t kMostStamps = 2000;
constexpr size_t kMostBytes = 4'000'000;  // of one stamp, but for its pictures

}  // namespace

Result<std::vector<Stamp>> Library::stamps() const {
    const Turn turn(mutex_, db_);
    std::vector<Stamp> out;
    Statement s = db_->prepare(
        "SELECT s.id, s.name, e.kind, e.z, e.body FROM stamp s LEFT JOIN stamp_element e ON e.stamp = s.id "
        "AND e.sum = checksum(e.stamp, e.kind, e.z, e.body) ORDER BY s.id DESC, e.id");
    while (s.step()) {
        if (out.empty() || out.back().id != s.integer(0)) out.push_back({s.integer(0), s.text(1), {}});
        // What is damaged is left out; check() tells.
        static_cast<void>(decode_into(out.back().content, s.integer(2), 0, s.integer(3), s.blob(4)));
    }
    if (Status status = db_->take_status(); !status) return status.error();
    std::erase_if(out, [](const Stamp& stamp) { return stamp.content.empty(); });
    return out;
}

Result<StampId> Library::add_stamp(const Stamp& stamp) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    if (stamp.content.empty()) return Error{"A stamp needs something on it."};
    if (const auto why = validation_error(stamp.content)) return Error{*why};
    const std::string name = trimmed(stamp.name).substr(0, kLongestName);
    if (name.empty() || !valid_utf8(name)) return Error{"A stamp needs a name."};
    Statement count = db_->prepare("SELECT count(*) FROM stamp");
    if (count.step() && count.integer(0) >= kMostStamps) return Error{"There are too many stamps. Delete some first."};
    Transaction transaction(*db_);
    db_->prepare("INSERT INTO stamp (name, made) VALUES (?, ?)").bind(name).bind(now_ms()).run();
    const StampId id = db_->last_id();
    Statement insert = db_->prepare(
        "INSERT INTO stamp_element (stamp, kind, z, body, sum) VALUES (?1, ?2, ?3, ?4, checksum(?1, ?2, ?3, ?4))");
    size_t bytes = 0;
    for_each_element(stamp.content, [&]<typename E>(const E& e) {
        const std::string body = ElementTraits<E>::encode(e);
        bytes += body.size();
        const auto kind = static_cast<int64_t>(ElementTraits<E>::kKind);
        insert.reset().bind(id).bind(kind).bind(e.z).bind_blob(body).run();
    });
    if (bytes > kMostBytes) return Error{"That is too large for a stamp. Choose less of it."};
    if (Status status = transaction.commit(); !status) return status.error();
    return id;
}

Status Library::rename_stamp(StampId stamp, const std::string& name) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    const std::string kept = trimmed(name).substr(0, kLongestName);
    if (kept.empty() || !valid_utf8(kept)) return Error{"A stamp needs a name."};
    Transaction transaction(*db_);
    db_->prepare("UPDATE stamp SET name = ? WHERE id = ?").bind(kept).bind(stamp).run();
    return transaction.commit();
}

Status Library::remove_stamp(StampId stamp) {
    const Turn turn(mutex_, db_);
    if (const auto why = why_read_only()) return Error{*why, true};
    Transaction transaction(*db_);
    db_->prepare("DELETE FROM stamp_element WHERE stamp = ?").bind(stamp).run();
    db_->prepare("DELETE FROM stamp WHERE id = ?").bind(stamp).run();
    return transaction.commit();
}

}  // namespace fernleaf
