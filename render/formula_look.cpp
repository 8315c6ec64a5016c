#include "render/formula_look.h"

#include <QFont>
#include <QFontMetricsF>
#include <algorithm>

#include "math/math_signs.h"
#include "render/fonts.h"

namespace fernleaf {
namespace {

using Kind = WrittenMath::Kind;

// All in parts of the type's size, as good books set formulas (after Knuth, The TeXbook, appendix G, simplified).
constexpr double kScript = 0.7, kLeastPx = 7;
constexpr double kRaised = 0.38, kLowered = 0.2,
                 kTopOverlap = 0.28;  // a power; an index; how far it hangs at a tall base
constexpr double kAxis = 0.26;        // a fraction's bar above the baseline
constexpr double kBar = 0.055, kBarGap = 0.14, kBarBeyond = 0.08;
constexpr double kThin = 0.08, kMedium = 0.2, kWide = 0.26;  // behind a part; about + and −, about =
constexpr double kOperation = 1.45;                          // how large Σ, Π and ∫ are
constexpr double kBoundGap = 0.1;
constexpr double kColumnGap = 0.9, kRowGap = 0.32, kLeastRow = 0.7;
constexpr double kMarkThick = 0.085;
constexpr double kAccentHead = 0.1, kAccentWidth = 0.42, kAccentGap = 0.06;
constexpr double kRootLead = 0.5, kRootGap = 0.12;

struct Piece {
    QPainterPath path;
    double width = 0, ascent = 0, descent = 0;
    std::vector<QRectF> signs;

    void add(Piece other, QPointF at) {
        other.path.translate(at);
        path.addPath(other.path);
        for (const QRectF& sign : other.signs) signs.push_back(sign.translated(at));
        ascent = std::max(ascent, other.ascent - at.y());
        descent = std::max(descent, other.descent + at.y());
        width = std::max(width, at.x() + other.width);
    }
};

QFont type(double px, bool italic) {
    QFont font(kTextFace);
    font.setPixelSize(std::max(1, qRound(px)));
    font.setItalic(italic);
    return font;
}

Piece text(const QString& words, double px, bool italic) {
    const QFont font = type(px, italic);
    const QFontMetricsF metrics(font);
    Piece out;
    out.path.setFillRule(Qt::WindingFill);
    out.path.addText(0, 0, font, words);
    out.width = metrics.horizontalAdvance(words);
    // An f and an integral lean out of their boxes on both sides.
    if (const double beyond = -out.path.boundingRect().left(); beyond > 0)
        out.path.translate(beyond, 0), out.width += beyond;
    const QRectF ink = out.path.boundingRect();
    out.width = std::max(out.width, ink.right() + (italic ? 0.02 * px : 0));
    out.ascent = std::max(-ink.top(), metrics.xHeight()), out.descent = std::max(0.0, ink.bottom());
    return out;
}

// A bracket or a bar as high as what it stands about.
Piece stretched(Piece sign, double ascent, double descent) {
    const QRectF ink = sign.path.boundingRect();
    if (ink.isEmpty() || ascent + descent <= ink.height()) return sign;
    QTransform grow;
    grow.translate(0, -ascent);
    grow.scale(1, (ascent + descent) / ink.height());
    grow.translate(0, -ink.top());
    sign.path = grow.map(sign.path);
    for (QRectF& r : sign.signs) r = QRectF(r.left(), -ascent, r.width(), ascent + descent);
    sign.ascent = ascent, sign.descent = descent;
    return sign;
}

const MathSign* known(const WrittenMath& f) {
    if (f.kind != Kind::sign) return nullptr;
    const auto sign = sign_named(f.latex);
    return sign ? &math_signs()[*sign] : nullptr;
}

bool is_bracket(const WrittenMath& f) {
    const MathSign* sign = known(f);
    return sign && (sign->kind == SignKind::open || sign->kind == SignKind::close || sign->kind == SignKind::bar);
}

// upright: letters are units.
Piece piece_of(const WrittenMath& f, double px, bool upright = false);

QPainterPath stroked(const QPainterPath& line, double thick) {
    QPainterPathStroker pen;
    pen.setWidth(thick);
    pen.setJoinStyle(Qt::MiterJoin);
    return pen.createStroke(line);
}

// ∈ and the ring of ∮, which the text face lacks, in lines as thick as its signs have.
Piece element_sign(double px) {
    const double r = 0.25 * px, wide = 0.56 * px, middle = -kAxis * px, thick = std::max(1.0, kBar * px);
    QPainterPath line;
    line.moveTo(wide, middle - r);
    line.lineTo(r, middle - r);
    line.arcTo(QRectF(0, middle - r, 2 * r, 2 * r), 90, 180);
    line.lineTo(wide, middle + r);
    line.moveTo(0, middle);
    line.lineTo(0.9 * wide, middle);
    Piece out;
    out.path.setFillRule(Qt::WindingFill);
    out.path.addPath(stroked(line, thick));
    out.width = wide + thick / 2, out.ascent = r - middle, out.descent = std::max(0.0, middle + r);
    return out;
}

void put_ring(Piece& integral, double px) {
    const QRectF ink = integral.path.boundingRect();
    QPainterPath ring;
    ring.addEllipse(ink.center(), 0.2 * px, 0.2 * px);
    integral.path.setFillRule(Qt::WindingFill);
    integral.path.addPath(stroked(ring, std::max(1.0, kBar * px)));
}

Piece sign_of(const WrittenMath& f, double px, bool upright) {
    const MathSign* sign = known(f);
    const bool letter = sign && sign->kind == SignKind::letter && !upright && f.latex != "\\infty" &&
                        f.latex != "\\partial" && f.latex != "\\Delta" && f.latex != "\\Omega";
    const bool operation = sign && sign->kind == SignKind::operation;
    const bool ring = f.latex == "\\oint";
    Piece out = f.latex == "\\in" ? element_sign(px)
                                  : text(ring ? QStringLiteral("∫") : QString::fromStdString(shown(f)),
                                         operation ? px * kOperation : px, letter);
    if (ring) put_ring(out, px);
    if (operation) {  // about the height of a bar
        const double down = (out.ascent - out.descent) / 2 - kAxis * px;
        out.path.translate(0, down);
        out.ascent -= down, out.descent += down;
    }
    out.signs = {QRectF(0, -out.ascent, out.width, out.ascent + out.descent)};
    return out;
}

Piece row_of(const WrittenMath& row, double px) {
    // Brackets are drawn last, when it is known how high they must be.
    std::vector<Piece> pieces;
    double ascent = 0, descent = 0;
    const std::vector<bool> unit = parts_of_units(row);
    for (size_t i = 0; i < row.parts.size(); ++i) {
        const WrittenMath& part = row.parts[i];
        pieces.push_back(piece_of(part, px, unit[i]));
        if (is_bracket(part) || (part.kind == Kind::scripts && is_bracket(part.parts[0]))) continue;
        ascent = std::max(ascent, pieces.back().ascent), descent = std::max(descent, pieces.back().descent);
    }
    Piece out;
    double x = 0;
    const MathSign* before = nullptr;
    for (size_t i = 0; i < row.parts.size(); ++i) {
        const WrittenMath& part = row.parts[i];
        const MathSign* sign = known(part);
        if (is_bracket(part)) pieces[i] = stretched(std::move(pieces[i]), ascent + 0.05 * px, descent + 0.05 * px);
        // A minus at the beginning, or behind another sign, belongs to what follows.
        const bool between = before && before->kind != SignKind::binary && before->kind != SignKind::relation &&
                             before->kind != SignKind::open;
        const bool behind_other = i > 0 && (!before || between);
        double gap = 0;
        if (sign && sign->kind == SignKind::relation) gap = kWide * px;
        if (sign && sign->kind == SignKind::binary && behind_other && part.latex != "/") gap = kMedium * px;
        if (part.kind == Kind::name && i > 0) gap = kThin * 2 * px;
        const bool begins_unit = unit[i] && !unit[i - 1] && row.parts[i - 1].latex != "/";
        x += gap + (begins_unit ? kMedium * px : 0);
        out.add(pieces[i], {x, 0});
        x += pieces[i].width + gap;
        if (gap == 0 && part.kind != Kind::sign) x += kThin * px;
        before = sign;
    }
    out.width = x;
    return out;
}

Piece fraction_of(const WrittenMath& f, double px) {
    const Piece over = piece_of(f.parts[0], std::max(kLeastPx, px * 0.92)),
                under = piece_of(f.parts[1], std::max(kLeastPx, px * 0.92));
    const double width = std::max(over.width, under.width) + 2 * kBarBeyond * px;
    const double thick = std::max(1.0, kBar * px), y = -kAxis * px;
    Piece out;
    out.add(over, {(width - over.width) / 2, y - thick / 2 - kBarGap * px - over.descent});
    const QRectF bar(0, y - thick / 2, width, thick);
    out.path.addRect(bar);
    out.signs.push_back(bar);
    out.add(under, {(width - under.width) / 2, y + thick / 2 + kBarGap * px + under.ascent});
    out.width = width;
    return out;
}

Piece scripts_of(const WrittenMath& f, double px, bool upright) {
    Piece out = piece_of(f.parts[0], px, upright);
    const double small = std::max(kLeastPx, px * kScript);
    const Piece index = piece_of(f.parts[1], small), power = piece_of(f.parts[2], small);
    const double width = out.width, ascent = out.ascent, descent = out.descent;
    if (has_bounds_over(f.parts[0])) {
        const double all = std::max({width, index.width, power.width});
        Piece stacked;
        stacked.add(out, {(all - width) / 2, 0});
        if (!f.parts[2].parts.empty())
            stacked.add(power, {(all - power.width) / 2, -ascent - kBoundGap * px - power.descent});
        if (!f.parts[1].parts.empty())
            stacked.add(index, {(all - index.width) / 2, descent + kBoundGap * px + index.ascent});
        stacked.width = all;
        return stacked;
    }
    const MathSign* sign = known(f.parts[0]);
    const bool integral = sign && sign->kind == SignKind::operation;
    if (!f.parts[2].parts.empty())
        out.add(power, {width + 0.03 * px, -std::max(kRaised * px, ascent - kTopOverlap * px)});
    if (!f.parts[1].parts.empty())
        out.add(index, {width - (integral ? 0.25 * px : 0) + 0.02 * px,
                        std::max(kLowered * px, integral ? descent : descent - 0.05 * px)});
    out.width = width + 0.05 * px + std::max(index.width - (integral ? 0.25 * px : 0), power.width);
    return out;
}

// An arrow, a bar or a hat over what stands below it.
Piece accent_of(const WrittenMath& f, double px) {
    const Piece body = piece_of(f.parts[0], px);
    const double thick = std::max(1.0, kBar * px), head = kAccentHead * px;
    const double wide = std::max(body.width, kAccentWidth * px), y = -body.ascent - kAccentGap * px - head;
    QPainterPath line;
    if (f.latex == "\\hat") {
        line.moveTo(wide / 2 - head, y + head), line.lineTo(wide / 2, y), line.lineTo(wide / 2 + head, y + head);
    } else {
        line.moveTo(0, y), line.lineTo(wide, y);
        if (f.latex == "\\vec")
            line.moveTo(wide - head, y - head), line.lineTo(wide, y), line.lineTo(wide - head, y + head);
    }
    Piece out;
    out.path.setFillRule(Qt::WindingFill);
    out.path.addPath(stroked(line, thick));
    out.signs = {QRectF(0, y - head, wide, 2 * head)};
    out.ascent = head - y, out.width = wide;
    out.add(body, {(wide - body.width) / 2, 0});
    return out;
}

Piece root_of(const WrittenMath& f, double px) {
    const Piece body = piece_of(f.parts[0], px);
    const double thick = std::max(1.0, kBar * px), top = -body.ascent - kRootGap * px - thick,
                 foot = body.descent + 0.04 * px;
    const double lead = kRootLead * px, end = lead + body.width + 0.06 * px;
    Piece out;
    QPainterPath line;
    line.moveTo(0, -0.28 * px);
    line.lineTo(0.14 * px, -0.36 * px);
    line.lineTo(0.3 * px, foot);
    line.lineTo(lead - 0.04 * px, top + thick / 2);
    line.lineTo(end, top + thick / 2);
    out.path.setFillRule(Qt::WindingFill);
    out.path.addPath(stroked(line, thick));
    out.signs = {QRectF(0, top, lead, foot - top)};
    out.ascent = -top, out.descent = std::max(foot, out.path.boundingRect().bottom());  // its corner is pointed
    out.add(body, {lead, 0});
    out.width = end + 0.06 * px;
    if (!f.parts[1].parts.empty()) {
        const Piece index = piece_of(f.parts[1], std::max(kLeastPx, px * 0.55));
        out.add(index, {std::max(0.0, 0.22 * px - index.width), -0.48 * px});
    }
    return out;
}

Piece bracket(const std::string& sign, double px, double ascent, double descent) {
    return stretched(text(QString::fromStdString(sign), px, false), ascent, descent);
}

Piece grid_of(const WrittenMath& f, double px) {
    std::vector<std::vector<Piece>> rows;
    std::vector<double> wide;
    for (const WrittenMath& row : f.parts) {
        if (row.kind == Kind::line) continue;
        std::vector<Piece>& pieces = rows.emplace_back();
        for (const WrittenMath& cell : row.parts) {
            pieces.push_back(piece_of(cell, px));
            if (wide.size() < pieces.size()) wide.push_back(0);
            double& widest = wide[pieces.size() - 1];
            widest = std::max(widest, pieces.back().width);
        }
    }
    double across = 0;
    for (const double w : wide) across += w + kColumnGap * px;
    across = std::max(0.0, across - kColumnGap * px);
    const double thick = std::max(1.0, kBar * px);
    Piece cells;
    double y = 0;  // of the foot of what was set
    size_t at = 0;
    for (const WrittenMath& row : f.parts) {
        if (row.kind == Kind::line) {
            const QRectF line(-kBarBeyond * px, y + kRowGap * px / 2, across + 2 * kBarBeyond * px, thick);
            cells.path.addRect(line);
            cells.signs.push_back(line);
            y += thick + kRowGap * px / 2;
            continue;
        }
        std::vector<Piece>& pieces = rows[at++];
        double ascent = kLeastRow * px, descent = 0;
        for (const Piece& piece : pieces)
            ascent = std::max(ascent, piece.ascent), descent = std::max(descent, piece.descent);
        y += (y > 0 ? kRowGap * px : 0) + ascent;
        double x = 0;
        for (size_t c = 0; c < pieces.size(); ++c) {
            const double room = wide[c] - pieces[c].width;
            const char side = stands(f, c);
            cells.add(pieces[c], {x + (side == 'r' ? room : side == 'l' ? 0 : room / 2), y});
            x += wide[c] + kColumnGap * px;
        }
        y += descent;
    }
    cells.path.setFillRule(Qt::WindingFill);
    // About the height of a fraction's bar.
    const double up = -y / 2 - kAxis * px;
    cells.ascent = -up, cells.descent = std::max(0.0, y + up);
    Piece whole;
    whole.path.setFillRule(Qt::WindingFill);
    const auto [open, close] = brackets_of(f);
    double x = kThin * px;
    if (!open.empty()) {
        const Piece sign = bracket(open, px, cells.ascent + 0.1 * px, cells.descent + 0.1 * px);
        whole.add(sign, {0, 0});
        whole.signs.emplace_back(0, -sign.ascent, sign.width, sign.ascent + sign.descent);
        x = sign.width + kThin * px;
    }
    cells.path.translate(0, up), whole.ascent = std::max(whole.ascent, cells.ascent);
    for (QRectF& sign : cells.signs) sign.translate(0, up);
    const double inside_ascent = cells.ascent, inside_descent = cells.descent;
    cells.width = across;
    whole.add(cells, {x, 0});
    whole.ascent = std::max(whole.ascent, inside_ascent), whole.descent = std::max(whole.descent, inside_descent);
    x += across + kThin * px;
    if (!close.empty()) {
        const Piece sign = bracket(close, px, inside_ascent + 0.1 * px, inside_descent + 0.1 * px);
        whole.add(sign, {x, 0});
        whole.signs.emplace_back(x, -sign.ascent, sign.width, sign.ascent + sign.descent);
        x += sign.width;
    }
    whole.width = x;
    return whole;
}

Piece piece_of(const WrittenMath& f, double px, bool upright) {
    switch (f.kind) {
        case Kind::row:
            return row_of(f, px);
        case Kind::sign:
            return sign_of(f, px, upright);
        case Kind::name: {
            Piece out = text(QString::fromStdString(shown(f)), px, false);
            const auto letters = static_cast<size_t>(QString::fromStdString(shown(f)).size());
            out.signs.assign(letters, QRectF(0, -out.ascent, out.width, out.ascent + out.descent));
            return out;
        }
        case Kind::fraction:
            return fraction_of(f, px);
        case Kind::scripts:
            return scripts_of(f, px, upright);
        case Kind::accent:
            return accent_of(f, px);
        case Kind::root:
            return root_of(f, px);
        case Kind::grid:
            return grid_of(f, px);
        case Kind::line:
            break;
    }
    return {};
}

}  // namespace

FormulaLook formula_look(const WrittenMath& formula, double px) {
    Piece piece = piece_of(formula, px);
    piece.path.setFillRule(Qt::WindingFill);
    return {piece.path, piece.width, piece.ascent, piece.descent, std::move(piece.signs)};
}

FormulaLook judged_look(bool right, const QString& words, double px) {
    QPainterPath line;
    if (right) {
        line.moveTo(0.04 * px, -0.26 * px);
        line.lineTo(0.2 * px, -0.06 * px);
        line.lineTo(0.52 * px, -0.6 * px);
    } else {
        line.moveTo(0.04 * px, -0.5 * px);
        line.lineTo(0.46 * px, -0.04 * px);
        line.moveTo(0.46 * px, -0.5 * px);
        line.lineTo(0.04 * px, -0.04 * px);
    }
    Piece mark;
    mark.path.setFillRule(Qt::WindingFill);
    mark.path.addPath(stroked(line, kMarkThick * px));
    mark.width = 0.58 * px, mark.ascent = 0.64 * px;
    if (!words.isEmpty()) mark.add(text(words, px, false), {0.76 * px, 0});
    return {mark.path, mark.width, mark.ascent, mark.descent, {}};
}

FormulaLook plain_look(const QString& words, double px) {
    const Piece piece = text(words, px, false);
    return {piece.path, piece.width, piece.ascent, piece.descent, {}};
}

}  // namespace fernleaf
