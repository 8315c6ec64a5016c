#include "tools/pen_tool.h"

#include <QDateTime>
#include <algorithm>
#include <set>

#include "ink/nib.h"
#include "ink/scribble.h"
#include "render/stroke_look.h"
#include "render/stroke_shape.h"
#include "render/text_look.h"
#include "transcript/proof_edit.h"

namespace fernleaf {
namespace {

constexpr double kClosestSampleMm = 0.04;
constexpr uint32_t kHeldStillMs = 200;
constexpr double kBesideMm = 2;  // the sheet: an edge that was meant

QString done_by(const Proof& proof) {
    switch (proof.mark) {
        case ProofMark::strike_out:
            return PenTool::tr("Struck out.");
        case ProofMark::insert:
            return PenTool::tr("Made room for an insertion.");
        case ProofMark::separate:
            return PenTool::tr("Separated.");
        case ProofMark::close_up:
            return PenTool::tr("Closed up.");
        case ProofMark::run_on:
            return PenTool::tr("Run on.");
        case ProofMark::paragraph:
            return PenTool::tr("Started a new paragraph.");
        case ProofMark::italic:
            return PenTool::tr("Set in italic.");
        case ProofMark::bold:
            return PenTool::tr("Set in bold.");
        case ProofMark::heading:
            return PenTool::tr("Made a heading of level %1.").arg(proof.level);
    }
    return {};
}

}  // namespace

void PenTool::begin(const PenSample& sample) {
    session().readings().set_pen_down(true);
    live_ = {};
    live_.pen = pen_;
    live_.start_ms = QDateTime::currentMSecsSinceEpoch();
    clock_.start();
    const QSize size = surface_.size_px() * surface_.device_ratio();
    if (overlay_.size() != size) {
        overlay_ = QImage(size, QImage::Format_ARGB32_Premultiplied);
        overlay_.setDevicePixelRatio(surface_.device_ratio());
        overlay_.fill(Qt::transparent);
    }
    down_ = true;
    go_on(sample);
}

void PenTool::go_on(const PenSample& sample) {
    const Point mm = surface_.page_point(sample.at);
    const PageInfo& info = page().info;
    // A pen on the desk leaves nothing until it comes onto the sheet; then it may slip over the edge, and ink stays.
    if (live_.points.empty() && !Box::of(0, 0, info.width_mm, info.height_mm).grown(kBesideMm).contains(mm)) return;
    const Point at{std::clamp(mm.x, 0.0, info.width_mm), std::clamp(mm.y, 0.0, info.height_mm)};
    if (!live_.points.empty() && distance(live_.points.back().at, at) < kClosestSampleMm) return;
    live_.points.push_back(
        {at, sample.pressure, sample.tilt_x, sample.tilt_y, static_cast<uint32_t>(clock_.elapsed())});
    const size_t first = live_.points.size() > 3 ? live_.points.size() - 3 : 0;
    QPainter painter(&overlay_);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(view().origin());
    painter.scale(view().scale(), view().scale());
    painter.setPen(Qt::NoPen);
    if (live_.pen.opacity < 1 || live_.pen.kind == PenKind::pencil) {
        // Ink that lets the paper through must not be laid on twice.
        const QRectF changed = rect_of(tail_box(live_, first));
        painter.setClipRect(changed);
        painter.setCompositionMode(QPainter::CompositionMode_Clear);
        painter.fillRect(changed, Qt::transparent);
        painter.setCompositionMode(QPainter::CompositionMode_SourceOver);
        StrokeLook(live_).draw(painter, tiles().scene().scheme);
        surface_.refresh(surface_.leaf_rect(box_of(changed), 2));
        return;
    }
    const QPainterPath tail = stroke_tail(live_, first);
    painter.setBrush(shown_colour(live_.pen.colour, tiles().scene().scheme));
    painter.drawPath(tail);
    surface_.refresh(surface_.leaf_rect(box_of(tail.boundingRect()), 2));
}

void PenTool::end() {
    down_ = false;
    session().readings().set_pen_down(false);
    if (live_.points.empty()) return;
    QPainter painter(&overlay_);
    painter.setCompositionMode(QPainter::CompositionMode_Clear);
    painter.fillRect(surface_.leaf_rect(live_.box().grown(widest_mark(live_.pen)), 3).toAlignedRect(), Qt::transparent);
    painter.end();
    // A pen held still tells nothing more of itself, but it is there until it is lifted.
    if (const auto lifted = static_cast<uint32_t>(clock_.elapsed());
        lifted > live_.points.back().time_ms + kHeldStillMs) {
        InkPoint last = live_.points.back();
        last.time_ms = lifted;
        live_.points.push_back(last);
    }
    const StrokeId written = session().editing().write(std::move(live_));
    live_ = {};
    if (!scribbles_ || !scribble_out(written)) follow_proof_mark(written);
}

void PenTool::cancel() {
    if (std::exchange(down_, false)) session().readings().set_pen_down(false);
    forget_drawn();
    live_ = {};
}

void PenTool::forget_drawn() {
    if (!overlay_.isNull()) overlay_.fill(Qt::transparent);
}

void PenTool::paint(QPainter& painter) const {
    if (down_) painter.drawImage(QPointF(0, 0), overlay_);
}

// The scribble is ink like any other first: one undo brings it and all that it took.
bool PenTool::scribble_out(StrokeId newest) {
    const auto& strokes = page().strokes;
    const auto scribble = std::ranges::find(strokes, newest, &Stroke::id);
    if (scribble == strokes.end()) return false;
    std::vector<StrokeId> out = scribbled_out(*scribble, strokes);
    if (out.empty()) return false;
    out.push_back(newest);
    std::set<StrokeId> gone(out.begin(), out.end());
    // A word of which most is scribbled over goes whole, with its dots and tails.
    for (const ReadLine& line : session().reading().lines)
        for (const ReadWord& word : line.words) {
            const auto taken = std::ranges::count_if(word.strokes, [&](StrokeId id) { return gone.contains(id); });
            if (2 * taken > std::ssize(word.strokes)) gone.insert(word.strokes.begin(), word.strokes.end());
        }
    Edit edit{"Scribble out"};
    for (const Stroke& s : strokes)
        if (gone.contains(s.id)) edit.removed.strokes.push_back(s);
    session().editing().change(std::move(edit));
    return true;
}

// The mark is ink like any other first: one undo brings it back in place of what it did, the next takes it away.
void PenTool::follow_proof_mark(StrokeId newest) {
    if (newest == 0 || proof_marks_.none()) return;
    const Page& on = page();
    // It lies above nearly all others.
    const auto stroke =
        std::find_if(on.strokes.rbegin(), on.strokes.rend(), [newest](const Stroke& s) { return s.id == newest; });
    if (stroke == on.strokes.rend()) return;
    const auto proof = proof_mark(*stroke, on, session().reading(), proof_marks_);
    if (!proof) return;
    const TypeMeans means{[this] { return session().editing().new_id(); }, [](TextBlock& block) { lay_out(block); },
                          text_width};
    auto edit = edit_for_proof_mark(on, session().reading(), *proof, *stroke, means);
    if (!edit) return;
    const bool in_type = edit->added.empty() && proof->mark == ProofMark::insert;
    session().editing().change_and_tell(*std::move(edit), done_by(*proof));
    emit acted(proof->place);
    if (in_type) emit typing_wanted(view().to_leaf({proof->at.x, proof->at.y}));
}

}  // namespace fernleaf
