// The pens in the tray, the palette and the eraser, as the person set them; kept in the user's settings.
// UI thread only. What the settings hold in another shape is as it is for everyone.
#pragma once

#include <QString>
#include <vector>

#include "ink/pen.h"
#include "transcript/proof_mark.h"

namespace fernleaf {

enum class EraserTakes { part = 0, stroke = 1, word = 2 };
enum class EraserSize { small = 0, medium = 1, large = 2, by_speed = 3 };

struct Eraser {
    EraserTakes takes = EraserTakes::stroke;
    EraserSize size = EraserSize::medium;
    bool highlighter_only = false;
    bool then_back = false;  // to the tool before, when the eraser lifts
    bool scribbles = true;   // whether scribbling over ink with a pen erases it
    friend bool operator==(const Eraser&, const Eraser&) = default;
};

// What else a tablet's pen can be while its barrel button is held, or with its other end.
enum class ButtonDoes { nothing = 0, erases = 1, lassoes = 2, moves_page = 3 };

struct Tablet {
    double pressure_curve = 1;  // the pen's pressure to this power: below 1 a light hand, above 1 a heavy one
    ButtonDoes barrel = ButtonDoes::lassoes;
    ButtonDoes eraser_end = ButtonDoes::erases;
    double hand_rest = 0;  // of the ink leaf's height, where touch does nothing; 0: nowhere
    friend bool operator==(const Tablet&, const Tablet&) = default;
};
constexpr double kLightestCurve = 0.4, kHeaviestCurve = 2.5;

// A pen of the tray, and what becomes of what it writes.
struct TrayPen : Pen {
    bool sets_in_type = false;  // when it pauses; the ink is kept behind the type, as always
    friend bool operator==(const TrayPen&, const TrayPen&) = default;
};

struct Tools {
    std::vector<TrayPen> pens;  // in the tray's order; never empty
    std::vector<uint32_t> palette;
    Eraser eraser;
    Tablet tablet;
    bool gestures = true;  // whether any gesture acts; each has its own switch besides
    ProofMarks proof_marks = all_proof_marks();
    friend bool operator==(const Tools&, const Tools&) = default;

    static Tools usual();
    // What was kept, with the usual in place of what is missing or makes no sense.
    static Tools stored();
    void store() const;
};

constexpr size_t kMostPens = 9;  // in the tray: one for each digit key
constexpr size_t kMostColours = 24;

// "Fountain pen, 0.5 mm".
QString described(const Pen& pen);

}  // namespace fernleaf
