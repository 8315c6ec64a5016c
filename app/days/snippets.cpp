#include "days/snippets.h"

#include <algorithm>
#include <set>

#include "base/barrier.h"
#include "base/local_day.h"
#include "desk/save_useful.h"
#include "look/theme.h"
#include "math/math_text.h"
#include "math/parse_math.h"

namespace fernleaf {
namespace {

constexpr double kMarginMm = 3, kLeastWidthMm = 60;
constexpr double kTallestMm = 32;  // the beginning of what is longer
constexpr size_t kKept = 300;      // snippets
constexpr int kMostLines = 12;

Snippet made(const Library& library, PageId id, int64_t day, const PageScheme& view) {
    Snippet out;
    const auto page = library.load_page(id);
    if (!page) return out;
    Elements ink;
    std::set<StrokeId> ids;
    for (const Stroke& s : page->strokes)
        if (s.start_ms > 0 && local_day(s.start_ms) == day) ink.strokes.push_back(s), ids.insert(s.id);
    if (ink.empty()) return out;
    out.box = drawn_box(ink);
    Box shown = out.box.grown(kMarginMm);
    shown.right = std::max(shown.right, shown.left + kLeastWidthMm);
    shown.bottom = std::min(shown.bottom, shown.top + kTallestMm);
    const double scale = 2 * std::min(Snippets::kWidthPx / shown.width(), Snippets::kHeightPx / shown.height());
    QImage image(std::max(1, static_cast<int>(shown.width() * scale)),
                 std::max(1, static_cast<int>(shown.height() * scale)), QImage::Format_RGB32);
    const PageScheme scheme = scheme_on(view, page->info.colour);
    image.fill(scheme.paper);
    QPainter painter(&image);
    painter.scale(scale, scale);
    painter.translate(-shown.left, -shown.top);
    paint_paper(painter, page->info, scheme);
    paint_elements(painter, ink, {scheme, {}, shown});
    painter.end();
    image.setDevicePixelRatio(2);
    out.picture = std::move(image);
    const auto reading = library.reading(id);
    if (!reading) return out;
    QStringList lines;
    for (const ReadLine& line : reading->lines) {
        const bool ours = std::ranges::any_of(line.words, [&](const ReadWord& word) {
            return std::ranges::any_of(word.strokes, [&](StrokeId s) { return ids.contains(s); });
        });
        if (!ours || lines.size() == kMostLines) continue;
        const Result<MathTree> formula = line.kind == RegionKind::math ? parse_math(line.text()) : Error{};
        lines << QString::fromStdString(formula ? math_text(*formula) : line.text());
        out.read.lines.push_back(line);
    }
    out.useful = useful_in(out.read, date_of_ms(page->info.created_ms));
    out.text = lines.join('\n');
    return out;
}

}  // namespace

const Snippet* Snippets::of(PageId page, int64_t day) {
    const Key key(page, day);
    auto [found, fresh] = made_.try_emplace(key);
    Made& there = found->second;
    if (!fresh) ages_.erase(there.age);
    there.age = ages_.insert(ages_.end(), key);
    while (made_.size() > kKept) {
        made_.erase(ages_.front());
        ages_.pop_front();
    }
    if (std::exchange(there.wanted, false))
        worker_.post([this, key, scheme = theme().page, generation = generation_] {
            const auto snippet =
                guarded([&]() -> Result<Snippet> { return made(library_, key.first, key.second, scheme); });
            QMetaObject::invokeMethod(
                this,
                [this, key, generation, snippet] {
                    const auto at = made_.find(key);
                    if (generation != generation_ || at == made_.end()) return;
                    at->second.snippet = snippet ? *snippet : Snippet{};
                    emit ready(key.first, key.second);
                },
                Qt::QueuedConnection);
        });
    return there.snippet ? &*there.snippet : nullptr;
}

void Snippets::outdated() {
    for (auto& [key, there] : made_) there.wanted = true;
}

void Snippets::forget() {
    made_.clear();
    ages_.clear();
    ++generation_;
}

}  // namespace fernleaf
