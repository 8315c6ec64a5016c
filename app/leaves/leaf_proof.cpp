// Proof marks drawn on the ink leaf.
#include "leaves/ink_leaf.h"
#include "render/text_look.h"
#include "transcript/proof_edit.h"

namespace fernleaf {
namespace {

constexpr int kFlashMs = 1200;

QString done_by(const Proof& proof) {
    switch (proof.mark) {
        case ProofMark::strike_out:
            return InkLeaf::tr("Struck out.");
        case ProofMark::insert:
            return InkLeaf::tr("Room to insert something.");
        case ProofMark::separate:
            return InkLeaf::tr("Separated.");
        case ProofMark::close_up:
            return InkLeaf::tr("Closed up.");
        case ProofMark::run_on:
            return InkLeaf::tr("Run on.");
        case ProofMark::paragraph:
            return InkLeaf::tr("A new paragraph.");
        case ProofMark::italic:
            return InkLeaf::tr("Set in italic.");
        case ProofMark::bold:
            return InkLeaf::tr("Set in bold.");
        case ProofMark::heading:
            return InkLeaf::tr("Made a heading of level %1.").arg(proof.level);
    }
    return {};
}

}  // namespace

// The mark is ink like any other first: one undo brings it back in place of what it did, the next takes it away.
void InkLeaf::follow_proof_mark(StrokeId newest) {
    if (newest == 0 || proof_marks_.none()) return;
    const Page& page = *session_.page();
    // It lies above nearly all others.
    const auto stroke =
        std::find_if(page.strokes.rbegin(), page.strokes.rend(), [newest](const Stroke& s) { return s.id == newest; });
    if (stroke == page.strokes.rend()) return;
    const auto proof = proof_mark(*stroke, page, session_.reading(), proof_marks_);
    if (!proof) return;
    const TypeMeans means{[this] { return session_.editing().new_id(); }, [](TextBlock& block) { lay_out(block); },
                          text_width};
    auto edit = edit_for_proof_mark(page, session_.reading(), *proof, *stroke, means);
    if (!edit) return;
    const bool in_type = edit->added.empty() && proof->mark == ProofMark::insert;
    session_.editing().change_and_tell(*std::move(edit), done_by(*proof));
    flash(proof->place);
    if (in_type) write_text(view_.to_leaf({proof->at.x, proof->at.y}));
}

void InkLeaf::flash(const Box& mm) {
    Box changed = mm;
    changed.include(flashed_);
    flashed_ = mm;
    if (!mm.empty()) flash_timer_.start(kFlashMs);
    update(leaf_rect(changed, 6).toAlignedRect());
}

}  // namespace fernleaf
