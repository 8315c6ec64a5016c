"""Synthesises lines of handwriting: paths or outlines of a hand, varied like a person varies, as 40 px pictures.

Two kinds, so that one network serves ink and scans: middle-line paths drawn with a pen of random width,
and filled font outlines, degraded. Hands are varied per line (slant, aspect, a smooth warp of every letter
that is the same for the same letter, letters borrowed from other hands) and per letter.

`normalise` is the same computation as core/reading/raster.cpp: keep them in step.
"""
import math
import pickle
import random

import cv2
import numpy as np
from PIL import Image, ImageDraw, ImageFont

import allographs
import marks
import settings
import written_digits

H, SPREAD, MARGIN = settings.LINE_HEIGHT, settings.SPREAD, settings.MARGIN
SUPER = 3


def _join(paths):
    """(points, path starts) of a glyph, without the one-pixel edges that thinning leaves inside joints."""
    kept = [p for p in paths if len(p) > 2 or (p[0] == p[-1]).all() or len(paths) == 1]
    points = np.concatenate(kept) if kept else np.zeros((0, 2), np.float32)
    return points, np.cumsum([0] + [len(p) for p in kept[:-1]]) if kept else np.zeros(0, int)


def load(names):
    """The hands of the work folder: glyphs and words as (advance, points, path starts)."""
    hands = []
    for name in names:
        path = settings.HANDS / f"{name}.pickle"
        if path.exists():
            hand = pickle.loads(path.read_bytes())
            for shelf in ("glyphs", "words"):
                hand[shelf] = {k: (a, *_join(p)) for k, (a, p) in hand[shelf].items()}
            hands.append(hand)
    return hands


def training_names():
    held = set(settings.VALIDATION) | set(settings.HELD_STROKE_FONTS)
    return sorted(p.stem for p in settings.HANDS.glob("*.pickle") if p.stem not in held)


class Wave:
    """A smooth random displacement of the plane: a few sinusoids."""

    def __init__(self, r, amplitude, shortest, longest, count=3):
        self.terms = [(r.gauss(0, amplitude), r.gauss(0, amplitude), r.uniform(0, 2 * math.pi), r.uniform(0, 2 * math.pi),
                       2 * math.pi / r.uniform(shortest, longest)) for _ in range(count)]

    def __call__(self, p):
        out = p.copy()
        for ax, ay, angle, phase, k in self.terms:
            s = np.sin((p[:, 0] * math.cos(angle) + p[:, 1] * math.sin(angle)) * k + phase)
            out[:, 0] += ax * s
            out[:, 1] += ay * s
        return out


def _glyph(r, glyphs, c, by_rule):
    """(advance, points, path starts) of a character: the hand's own, or made by rule; None when neither is there."""
    own = glyphs.get(c)
    if own is None or (r.random() < by_rule and (c in settings.RULED or len(settings.spell(c)) > 1)):
        return marks.made(r, glyphs, c) or own
    return own


def compose(r, hand, text, others, variation=1.0, people=None):
    """Paths of a text in x-heights, baseline at 0; None when a letter can be neither found nor made. people: traced digits."""
    v = variation
    by_rule = 0.5 * v
    glyphs = dict(hand["glyphs"])
    if others and r.random() < 0.3 * v:
        donor = r.choice(others)["glyphs"]
        for c in r.sample(sorted(set(text)), min(len(set(text)), r.randint(1, 8))):
            if c in donor and c != " ":
                glyphs[c] = donor[c]
    # Digits as people write them, by rule or as they wrote them; now and then a few letters, too.
    habit, own_forms = None, set()
    if r.random() < 0.55 * v:
        if people and r.random() < 0.6:
            habit, own_forms = written_digits.Person(r, people), set(text) & set("0123456789")
        else:
            habit, own_forms = allographs.Habit(r), set(text) & set(allographs.FORMS)
    own_forms = {c for c in own_forms if c.isdigit() or r.random() < 0.3}
    used = {c: _glyph(r, glyphs, c, by_rule) if c not in own_forms else habit.draw(r, c) for c in sorted(set(text)) if c != " "}
    if any(g is None or len(g[1]) == 0 for g in used.values()):
        return None
    whole = r.random() < 0.6
    joined = not whole and r.random() < 0.3 * v
    letters, spacing, jitter = {}, r.gauss(0.02, 0.09) * v, abs(r.gauss(0, 0.05)) * v
    space = max(0.35, glyphs.get(" ", (0.6,))[0] * r.uniform(0.75, 1.6 if v else 1.0))
    warp = abs(r.gauss(0, 0.06)) * v
    drift = r.gauss(0, 0.05) * v                 # the writing grows or shrinks along the line
    x, count, out, starts = 0.0, 0, [], []

    def put(points, begins):
        nonlocal count
        out.append(points.astype(np.float32))
        starts.append(begins + count)
        count += len(points)

    for word in text.split(" "):
        pieces = [(word, hand["words"][word])] if whole and word in hand["words"] else [(c, used[c]) for c in word]
        if own_forms & set(word):
            pieces = [(c, habit.draw(r, c) if c in own_forms else used[c]) for c in word]
        if r.random() < 0.04 * v:                # one word as wide, or narrow, as it happens
            pieces = [(c, (a * k, p * np.array([k, 1], np.float32), s)) for k in [r.uniform(0.75, 1.3)] for c, (a, p, s) in pieces]
        before = None
        for c, (advance, points, begins) in pieces:
            if c not in letters:
                letters[c] = Wave(r, warp, 0.8, 3.0)
            shape = letters[c](points)
            turn, grow, dy = r.gauss(0, 0.8 * jitter), 1 + r.gauss(0, jitter), r.gauss(0, 0.7 * jitter)
            grow *= math.exp(drift * (x / 20 - 0.5))
            cos, sin = math.cos(turn) * grow, math.sin(turn) * grow
            shape = shape @ np.array([[cos, sin], [-sin, cos]], np.float32)
            if joined and before is not None and c.islower() and before[0].islower():
                link = marks.connect(r, before[1], shape, x - before[2])
                if link is not None:
                    put(link + np.array([before[2], 0]), np.zeros(1, int))
            put(shape + np.array([x, dy], np.float32), begins)
            if r.random() < 0.004 * v:           # written over
                put(shape + np.array([x + r.gauss(0, 0.05), dy + r.gauss(0, 0.05)], np.float32), begins)
            before = (c, shape, x)
            x += (advance + (spacing if len(c) == 1 else 0)) * grow
        x += space
    if count < 2:       # glyphs of which thinning left nothing
        return None
    slant, aspect, tilt = r.gauss(0, 0.2) * v, math.exp(r.gauss(-0.07, 0.24) * v), r.gauss(0, 0.012) * v
    p = Wave(r, abs(r.gauss(0, 0.05)) * v, 5, 25, 2)(np.concatenate(out))
    p = Wave(r, abs(r.gauss(0, 0.02)) * v, 0.5, 1.5, 2)(p)
    p = np.stack([(p[:, 0] - slant * p[:, 1]) * aspect, p[:, 1] + tilt * p[:, 0]], 1)
    return p, np.concatenate(starts)


def intrude(r, line):
    """Adds what belongs to no letter: an underline, or the tips of letters of the lines above and below."""
    p, starts = line
    left, right = p[:, 0].min(), p[:, 0].max()
    if r.random() < 0.4:
        a, b = sorted(r.uniform(left, right) for _ in range(2))
        extra = np.array([(a, r.uniform(.25, .6)), ((a + b) / 2, r.uniform(.25, .6)), (b, r.uniform(.25, .6))])
    else:
        at, y = r.uniform(left, right), r.choice([r.uniform(-2.4, -1.9), r.uniform(.9, 1.4)])
        extra = np.array([(at, y), (at + r.gauss(0, .15), y + r.uniform(-.4, .4)), (at + r.gauss(0, .2), y + r.gauss(0, .2))])
    return np.concatenate([p, extra]), np.append(starts, len(p))


def normalise(line):
    """Scale and centre bringing the ink's height to a mean of H/2 and a deviation of SPREAD (see raster.cpp)."""
    p, starts = line
    d = np.hypot(*np.diff(p, axis=0).T)
    d[starts[1:] - 1] = 0
    middle = (p[1:, 1] + p[:-1, 1]) / 2
    total = d.sum()
    if total <= 0:
        return 10.0, float(p[:, 1].mean())
    mean = float((d * middle).sum() / total)
    within = np.diff(p[:, 1]) ** 2 / 12
    deviation = math.sqrt(max(float((d * (middle ** 2 + within)).sum() / total) - mean ** 2, 0))
    height, wide = np.ptp(p[:, 1]), np.ptp(p[:, 0])
    # A dash has no height to speak of: never more than a letter's usual breadth wide.
    floor = 0.25 * wide if len(starts) == 1 and wide > 4 * height and total < 1.3 * wide else 0
    return SPREAD / max(deviation, 0.12 * height, floor, 1e-3), mean


def draw(line, scale, mean, width):
    """40 px high picture of the paths, ink white, drawn at three times the size and averaged down."""
    p, starts = line
    left, right = p[:, 0].min(), p[:, 0].max()
    columns = int(math.ceil((right - left) * scale)) + 2 * MARGIN
    picture = np.zeros((H * SUPER, columns * SUPER), np.uint8)
    fixed = np.round(((p - (left, mean)) * scale + (MARGIN, H / 2)) * SUPER * 16).astype(np.int32).reshape(-1, 1, 2)
    cv2.polylines(picture, np.split(fixed, starts[1:]), False, 255, max(1, round(width * SUPER)), cv2.LINE_AA, 4)
    return cv2.resize(picture, (columns, H), interpolation=cv2.INTER_AREA)


def degrade(r, picture):
    """What paper, camera and thresholding do to a line."""
    p = picture.astype(np.float32)
    if r.random() < 0.5:
        p = cv2.GaussianBlur(p, (0, 0), r.uniform(0.3, 1.1))
    if r.random() < 0.3:
        small = r.uniform(0.5, 0.9)
        h, w = p.shape
        p = cv2.resize(cv2.resize(p, (max(8, int(w * small)), int(h * small)), interpolation=cv2.INTER_AREA), (w, h))
    if r.random() < 0.5:
        noise = np.random.default_rng(r.getrandbits(32)).normal(0, 1, p.shape).astype(np.float32)
        p += cv2.GaussianBlur(noise, (0, 0), r.uniform(0.4, 1.5)) * r.uniform(5, 40)
    p *= 255 / max(np.percentile(p, 99.5), 60)
    if r.random() < 0.4:
        p = (p - r.uniform(50, 90)) * 3
    p *= r.uniform(0.6, 1.1)
    if r.random() < 0.06:
        y = r.randrange(H)
        p[y:y + 1] += r.uniform(40, 160)
    return np.clip(p, 0, 255).astype(np.uint8)


def photographed(r, picture):
    """What a camera does to a line, and taking printed rules out of it: blur that fills loops, dots that fade, crumbs of
    rules and gaps where they were, JPEG's blocks."""
    p = picture.astype(np.float32)
    height, width = p.shape
    if r.random() < 0.35:                    # a rule along the line: a gap in it, and crumbs of it about strokes
        y, thick = r.uniform(6, H - 6), r.choice([1, 1, 2])
        slope = r.gauss(0, 0.01)
        for x in range(0, width, 4):
            row = int(y + slope * x)
            if not 0 <= row < height - thick:
                continue
            band = p[row:row + thick, x:x + 4]
            if r.random() < 0.5:
                band *= r.uniform(0.2, 0.9)
            elif band.max() > 80 and r.random() < 0.7:
                left = max(0, x - r.randint(0, 4))
                p[row:row + thick, left:x + r.randint(4, 8)] += r.uniform(40, 150)
    if r.random() < 0.2:                     # rules across it
        pitch = r.uniform(12, 40)
        for k in range(int(width / pitch) + 1):
            x = int(k * pitch)
            for y in range(0, height, 4):
                if r.random() < 0.3:
                    p[y:y + 4, x:x + 1] *= r.uniform(0.3, 1)
                elif p[y:y + 4, x:x + 1].max(initial=0) > 80 and r.random() < 0.5:
                    p[y:y + 5, x:x + 1] += r.uniform(30, 120)
    sigma = r.uniform(0.5, 1.9)
    p = cv2.GaussianBlur(np.clip(p, 0, 255), (0, 0), sigma * r.uniform(0.85, 1.15), sigmaY=sigma)
    p *= 255 / max(np.percentile(p, 99.5), 60)
    noise = np.random.default_rng(r.getrandbits(32)).normal(0, 1, p.shape).astype(np.float32)
    p += cv2.GaussianBlur(noise, (0, 0), r.uniform(0.4, 1.2)) * r.uniform(2, 25)
    p = np.clip(p, 0, 255).astype(np.uint8)
    if r.random() < 0.5:
        large = cv2.resize(p, None, fx=1.6, fy=1.6, interpolation=cv2.INTER_CUBIC)
        _, jpeg = cv2.imencode(".jpg", large, [cv2.IMWRITE_JPEG_QUALITY, r.randint(50, 92)])
        p = cv2.resize(cv2.imdecode(jpeg, cv2.IMREAD_GRAYSCALE), (width, height), interpolation=cv2.INTER_AREA)
    if r.random() < 0.5:                     # what is fainter than ink is cut off, as paper is
        p = p.astype(np.float32) - r.uniform(10, 70)
        p *= 255 / max(np.percentile(p, 99.5), 60)
    return np.clip(p, 0, 255).astype(np.uint8)


_fonts = {}


def outline(r, hand, text, variation=1.0):
    """A filled line straight from the font's outlines, sheared, stretched and waved."""
    path = next((path for path, able in hand["fonts"] if able.issuperset(text)), None)
    if path is None:
        return None
    v = variation
    if path not in _fonts:
        _fonts[path] = ImageFont.truetype(path, 56)
    font = _fonts[path]
    left, top, right, bottom = font.getbbox(text, anchor="ls")
    w, h = right - left + 60, bottom - top + 60
    image = Image.new("L", (w, h))
    ImageDraw.Draw(image).text((30 - left, 30 - top), text, fill=255, font=font, anchor="ls")
    a = np.asarray(image)
    if v and r.random() < 0.35:
        kernel = cv2.getStructuringElement(cv2.MORPH_ELLIPSE, (3, 3))
        a = cv2.dilate(a, kernel) if r.random() < 0.6 else cv2.erode(a, kernel)
    if not (a > 110).any():
        return None
    slant, aspect = r.gauss(0, 0.14) * v, math.exp(r.gauss(0, 0.14) * v)
    dev, mean = spread_of(a)
    scale = SPREAD / max(dev, 1) * math.exp(r.gauss(0, 0.10) * v)
    baseline = mean
    ys, xs = np.nonzero(a > 110)
    corners = (xs - slant * (ys - baseline)) * aspect * scale
    low, high = corners.min(), corners.max()
    columns = int(high - low) + 2 * MARGIN
    gx, gy = np.meshgrid(np.arange(columns, dtype=np.float32), np.arange(H, dtype=np.float32))
    if v:
        for _ in range(2):
            ax, ay, k, phase = r.gauss(0, 0.8), r.gauss(0, 0.5), 2 * math.pi / r.uniform(30, 300), r.uniform(0, 6.28)
            gx, gy = gx + ax * np.sin(gx * k + gy * k * .5 + phase), gy + ay * np.sin(gx * k + phase * 2)
    sy = (gy - H / 2 - r.gauss(0, 1.0) * v) / scale + baseline
    sx = (gx - MARGIN + low) / (aspect * scale) + slant * (sy - baseline)
    # remap has no averaging of its own: blur to the target's resolution first
    soft = cv2.GaussianBlur(a, (0, 0), max(0.3, 0.45 / scale))
    return cv2.remap(soft, sx.astype(np.float32), sy.astype(np.float32), cv2.INTER_LINEAR)


def spread_of(picture):
    rows = picture.astype(np.float64).sum(1)
    total = rows.sum()
    y = np.arange(len(rows)) + 0.5
    mean = (rows * y).sum() / total
    return math.sqrt(max((rows * (y - mean) ** 2).sum() / total, 0)), mean


def sample(r, hand, text, others=(), people=None):
    """A training picture of a text in a hand, or None when the hand can't write it."""
    if r.random() < 0.3:
        p = outline(r, hand, text)
        if p is not None:
            return photographed(r, p) if r.random() < 0.3 else degrade(r, p)
    paths = compose(r, hand, text, others, people=people)
    if paths is None:
        return None
    scale, mean = normalise(paths)
    scale *= math.exp(r.gauss(0, 0.12))
    mean += r.gauss(0, 1.2) / scale
    if r.random() < 0.05:
        paths = intrude(r, paths)
    p = draw(paths, scale, mean, r.choice([1.4, 1.7, 2, 2, 2.3, 2.7, 3.3, 4]))
    what = r.random()
    return photographed(r, p) if what < 0.3 else degrade(r, p) if what < 0.6 else p
