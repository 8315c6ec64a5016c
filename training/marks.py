"""Letters with marks, and signs, that a hand's font lacks: drawn by rule from the hand's own letters.

    advance, points, starts = made(r, glyphs, "ő")

Coordinates are x-heights, the baseline at 0, y downwards. People draw marks as simple strokes whatever their hand, which
is why a rule can stand in for a font here.
"""
import math
import unicodedata

import numpy as np

BELOW = "\u0323\u0326\u0327\u0328"
_ON_TALL = "dtlL"                  # whose caron is an apostrophe at the side


def split(points, starts):
    return [p for p in np.split(points, starts[1:]) if len(p)] if len(points) else []


def join(paths):
    paths = [np.asarray(p, np.float32) for p in paths]
    return np.concatenate(paths), np.cumsum([0] + [len(p) for p in paths[:-1]])


def bounds(paths):
    p = np.concatenate(paths)
    return p[:, 0].min(), p[:, 1].min(), p[:, 0].max(), p[:, 1].max()


def _arc(cx, cy, rx, ry, a, b, n=10):
    t = np.radians(np.linspace(a, b, n))
    return np.stack([cx + rx * np.cos(t), cy + ry * np.sin(t)], 1)


def _bend(r, path, amount=0.05):
    """A straight path as a hand draws it: resampled and slightly curved."""
    (x0, y0), (x1, y1) = path
    t = np.linspace(0, 1, 6)
    sag = r.gauss(0, amount) * math.hypot(x1 - x0, y1 - y0)
    length = math.hypot(x1 - x0, y1 - y0) or 1
    nx, ny = -(y1 - y0) / length, (x1 - x0) / length
    bow = 4 * t * (1 - t) * sag
    return np.stack([x0 + (x1 - x0) * t + nx * bow, y0 + (y1 - y0) * t + ny * bow], 1)


def _dot(r, x, y):
    if r.random() < 0.6:
        return [[(x, y), (x + r.gauss(0, 0.03), y + r.uniform(0.01, 0.06))]]
    return [_arc(x, y, 0.05, 0.05, 0, 360, 6)]


def _mark(r, mark):
    """Paths of a mark about the origin, a letter's breadth taken as 1."""
    s = r.uniform(0.75, 1.25)
    steep = r.uniform(0.7, 1.3)
    if mark == "\u0301":
        return [_bend(r, [(-.14 * s, .17 * steep), (.16 * s, -.17 * steep)])]
    if mark == "\u0300":
        return [_bend(r, [(-.16 * s, -.17 * steep), (.14 * s, .17 * steep)])]
    if mark == "\u0302":
        return [[(-.25 * s, .14 * steep), (0, -.17 * steep), (.25 * s, .14 * steep)]]
    if mark == "\u030c":
        return [[(-.25 * s, -.15 * steep), (0, .16 * steep), (.25 * s, -.15 * steep)]]
    if mark == "\u0303":
        x = np.linspace(-1, 1, 12)
        return [np.stack([.3 * s * x, -.1 * steep * np.sin(math.pi * x)], 1)]
    if mark == "\u0308":
        gap = r.uniform(.14, .24)
        if r.random() < .25:
            return [_bend(r, [(x + .02, -.1), (x - .02, .1)]) for x in (-gap, gap)]
        return _dot(r, -gap, r.gauss(0, .03)) + _dot(r, gap, r.gauss(0, .03))
    if mark == "\u030a":
        return [_arc(0, -.02, .14 * s, .14 * s * r.uniform(.8, 1.2), -90, 280, 12)]
    if mark == "\u0306":
        return [_arc(0, -.12, .23 * s, .24 * s, 170, 10, 8)]
    if mark == "\u0304":
        return [_bend(r, [(-.28 * s, r.gauss(0, .03)), (.28 * s, r.gauss(0, .03))])]
    if mark in ("\u0307", "\u0323"):
        return _dot(r, 0, 0)
    if mark == "\u030b":
        return [_bend(r, [(x - .07, .16 * steep), (x + .09, -.16 * steep)]) for x in (-.13 * s, .13 * s)]
    if mark == "\u0309":
        return [np.concatenate([_arc(0, -.1, .11, .1, 180, 400, 8), [(0, .14)]])]
    if mark == "\u0326":
        return [_bend(r, [(.04, -.1), (-.05, .14)], .2)]
    if mark == "\u0327":
        return [np.concatenate([[(0, -.16)], _arc(0, .06, .13 * s, .13, -80, 120, 8)])]
    if mark == "\u0328":
        return [_arc(.1, .03, .13 * s, .17, -100, -290, 8)]
    return [[(0, .1), (.1, 0), (.08, -.14)]]           # horn


def _marked(r, glyphs, letter):
    base, marks = letter[0], letter[1:]
    found = glyphs.get(base) or made(r, glyphs, base)
    if not found:
        return None
    advance, points, starts = found
    paths = split(points, starts)
    above = [m for m in marks if m not in BELOW]
    if base in "ij" and above and above != ["\u031b"]:
        kept = [p for p in paths if p[:, 1].max() > -1.1]
        paths = kept or paths
    left, top, right, bottom = bounds(paths)
    middle = (left + right) / 2 + r.gauss(0, .06)
    ceiling = min(top, -1.0 if base.islower() else top)
    out = list(paths)
    for mark in marks:
        shape = [np.asarray(p, np.float32) for p in _mark(r, mark)]
        if mark == "\u030c" and base in _ON_TALL and r.random() < .8:
            shape, at = [_bend(r, [(.05, -.15), (-.03, .17)], .1)], (right + .1, top + .2)
        elif mark == "\u031b":
            at = (right - .02, max(top, ceiling) + .1)
        elif mark == "\u0327" and base == "g":
            shape, at = [_bend(r, [(-.05, .12), (.05, -.12)], .1)], (middle, ceiling - r.uniform(.2, .4))
        elif mark in "\u0327\u0326" and base in "kKlLnNrRGstST":
            shape, at = ([_bend(r, [(.04, -.1), (-.05, .14)], .2)] if base not in "sS" or mark == "\u0326" else shape,
                         (middle, max(bottom, 0) + r.uniform(.17, .35)))
        elif mark == "\u0328":
            at = (right - r.uniform(.0, .15), .13)
        elif mark in BELOW:
            at = (middle, max(bottom, 0) + r.uniform(.1, .25))
        else:
            ceiling -= r.uniform(.22, .42)
            at = (middle + .1 * r.random(), ceiling)
            ceiling -= .12
        out += [p + np.array(at, np.float32) for p in shape]
    return (advance, *join(out))


def _scaled(glyph, scale, dx, dy):
    advance, points, starts = glyph
    return [p * scale + np.array((dx, dy), np.float32) for p in split(points, starts)]


def _line(r, *points):
    return [_bend(r, points)] if len(points) == 2 else [np.array(points)]


def _sign(r, glyphs, c):
    """(advance, paths) of a sign, or None."""
    u = r.uniform
    has = lambda *need: all(n in glyphs for n in need)
    if c in "→←↑↓":
        n, h = u(.7, 1.6), u(.18, .35)
        paths = _line(r, (0, 0), (n, 0)) + _line(r, (n - h, -h * u(.6, 1.1)), (n, 0), (n - h, h * u(.6, 1.1)))
        turn = {"→": 0, "←": math.pi, "↑": -math.pi / 2, "↓": math.pi / 2}[c]
        rotation = np.array([[math.cos(turn), math.sin(turn)], [-math.sin(turn), math.cos(turn)]])
        paths = [p @ rotation for p in paths]
        left, top, right, bottom = bounds(paths)
        centre = u(-.65, -.4) - (top + bottom) / 2
        return right - left + .3, [p + np.array([.15 - left, centre]) for p in paths]
    if c in "–—-_":
        n = {"-": u(.3, .5), "–": u(.6, .85), "—": u(1.2, 1.8), "_": u(.8, 1.1)}[c]
        y = u(.05, .25) if c == "_" else u(-.6, -.4)
        return n + .25, _line(r, (.12, y), (.12 + n, y + r.gauss(0, .03)))
    if c == "•":
        k = u(.1, .2)
        return .75, [np.concatenate([_arc(.3, -.5, k * f, k * f, 0, 360, 12) for f in (1, .65, .3)])]
    if c == "·":
        return .4, _dot(r, .2, u(-.6, -.4))
    if c == "°":
        k = u(.15, .22)
        return 2 * k + .2, [_arc(.1 + k, u(-1.45, -1.2), k, k, -90, 275, 12)]
    if c == "✓":
        return u(1.0, 1.2), _line(r, (.1, u(-.6, -.4)), (u(.3, .45), 0), (u(.8, 1.1), u(-1.5, -1.0)))
    if c in "☐☑":
        n = u(.9, 1.3)
        w = lambda: r.gauss(0, .04)
        paths = [np.array([(.1 + w(), -n + w()), (.1 + n + w(), -n + w()), (.1 + n + w(), w()), (.1 + w(), w()), (.1 + w(), -n + w())])]
        if c == "☑":
            reach = u(.9, 1.5)
            paths += (_line(r, (.1 + .2 * n, -.5 * n), (.1 + .45 * n, -.12 * n), (.1 + reach * n, -reach * n)) if r.random() < .7 else
                      _line(r, (.1 + .15 * n, -.85 * n), (.1 + .85 * n, -.15 * n)) + _line(r, (.1 + .85 * n, -.85 * n), (.1 + .15 * n, -.15 * n)))
        return n + .3, paths
    if c in "=≠≈±×÷≤≥<>+":
        n, y = u(.5, .75), -.5
        bar = lambda at: _line(r, (.12, at), (.12 + n, at + r.gauss(0, .02)))
        mid = .12 + n / 2
        wave = lambda at: [np.stack([np.linspace(.12, .12 + n, 12), at - .1 * np.sin(np.linspace(0, 2 * math.pi, 12))], 1)]
        left = lambda s, base: _line(r, (mid + s * n / 2, base - .34), (mid - s * n / 2, base), (mid + s * n / 2, base + .34))
        paths = {"=": lambda: bar(y - .14) + bar(y + .14),
                 "≠": lambda: bar(y - .14) + bar(y + .14) + _line(r, (mid + u(.1, .25), y - .42), (mid - u(.1, .25), y + .42)),
                 "≈": lambda: wave(y - .14) + wave(y + .14),
                 "±": lambda: bar(y - .12) + _line(r, (mid, y - .45), (mid, y + .2)) + bar(y + .42),
                 "+": lambda: bar(y) + _line(r, (mid, y - n / 2), (mid, y + n / 2)),
                 "×": lambda: _line(r, (.12, y - n / 2), (.12 + n, y + n / 2)) + _line(r, (.12 + n, y - n / 2), (.12, y + n / 2)),
                 "÷": lambda: bar(y) + _dot(r, mid, y - .33) + _dot(r, mid, y + .3),
                 "<": lambda: left(1, y), ">": lambda: left(-1, y),
                 "≤": lambda: left(1, y - .12) + bar(y + .42), "≥": lambda: left(-1, y - .12) + bar(y + .42)}[c]()
        return n + .25, paths
    if c in "½¼¾" and has("1", "2", "3", "4"):
        top, low = {"½": "12", "¼": "14", "¾": "34"}[c]
        k = u(.45, .6)
        a = glyphs[top][0] * k
        slash = _line(r, (a * .9 - .15, .05), (a + .35, -1.6))
        return a + .2 + glyphs[low][0] * k, _scaled(glyphs[top], k, 0, -.8) + slash + _scaled(glyphs[low], k, a + .15, .1)
    if c in "²³" and has("2", "3"):
        glyph = glyphs["2" if c == "²" else "3"]
        k = u(.45, .62)
        return glyph[0] * k + .05, _scaled(glyph, k, 0, u(-1.05, -.75))
    if c in "%‰":
        k = u(.17, .24)
        ring = lambda x, y: [_arc(x, y, k, k * 1.1, -90, 275, 12)]
        paths = ring(.25, -1.2) + _line(r, (.2, .05), (u(.8, 1.05), -1.5)) + ring(.95, -.25)
        return (1.3, paths) if c == "%" else (1.3 + 2.4 * k, paths + ring(.95 + 2.4 * k, -.25))
    if c == "„" and has(","):
        step = u(.2, .35)
        return glyphs[","][0] + step, _scaled(glyphs[","], 1, 0, 0) + _scaled(glyphs[","], 1, step, 0)
    if c in "«»":
        n, h, step = u(.2, .3), u(.22, .35), u(.22, .32)
        s = 1 if c == "«" else -1
        one = lambda x: _line(r, (x + s * n / 2, -.5 - h), (x - s * n / 2, -.5), (x + s * n / 2, -.5 + h))
        return .8, one(.3) + one(.3 + step)
    if c in "¿¡" and has("?", "!"):
        glyph = glyphs["?" if c == "¿" else "!"]
        paths = split(*glyph[1:])
        left, top, right, bottom = bounds(paths)
        return glyph[0], [np.array([left + right, top + bottom + u(.3, .5)]) - p for p in paths]
    if c in "|/\\":
        a, b = {"|": (.25, .25), "/": (.05, .6), "\\": (.6, .05)}[c]
        return .55, _line(r, (a, .25), (b, -1.7))
    if c == "~":
        return .9, [np.stack([np.linspace(.1, .8, 12), -.5 - .12 * np.sin(np.linspace(0, 2 * math.pi, 12))], 1)]
    if c == "^":
        return .7, _line(r, (.1, -1.0), (.35, -1.5), (.6, -1.0))
    if c == "€":
        return 1.0, [_arc(.6, -.75, .42, .75, -50, -310, 14)] + _line(r, (.02, -.9), (.7, -.9)) + _line(r, (.02, -.6), (.65, -.6))
    if c in "øØ" and has("o", "O"):
        glyph = glyphs["o" if c == "ø" else "O"]
        left, top, right, bottom = bounds(split(*glyph[1:]))
        return glyph[0], _scaled(glyph, 1, 0, 0) + _line(r, (left - u(0, .12), bottom + u(0, .15)), (right + u(0, .12), top - u(0, .15)))
    if c in "łŁ" and has("l", "L"):
        glyph = glyphs["l" if c == "ł" else "L"]
        left, top, right, bottom = bounds(split(*glyph[1:]))
        x = (left + right) / 2 if c == "ł" else left + .05
        return glyph[0] + .05, _scaled(glyph, 1, 0, 0) + _line(r, (x - u(.18, .3), top / 2 + u(.08, .25)), (x + u(.2, .32), top / 2 - u(.08, .25)))
    if c in "đĐ" and has("d", "D"):
        glyph = glyphs["d" if c == "đ" else "D"]
        left, top, right, bottom = bounds(split(*glyph[1:]))
        a, b, y = (right - u(.35, .5), right + u(.1, .25), -1.3) if c == "đ" else (left - u(.1, .3), left + u(.25, .4), top / 2)
        return glyph[0], _scaled(glyph, 1, 0, 0) + _line(r, (a, y), (b, y + r.gauss(0, .03)))
    if c == "ı" and has("i"):
        paths = [p for p in split(*glyphs["i"][1:]) if p[:, 1].max() > -1.1]
        return (glyphs["i"][0], paths) if paths else None
    if c in "æœ" and has("a", "o", "e"):
        first = glyphs["a" if c == "æ" else "o"]
        x = bounds(split(*first[1:]))[2] - bounds(split(*glyphs["e"][1:]))[0] - u(0, .1)
        return x + glyphs["e"][0], _scaled(first, 1, 0, 0) + _scaled(glyphs["e"], 1, x, 0)
    return None


def made(r, glyphs, c):
    """(advance, points, path starts) of a character drawn by rule, or None when there is no rule for it."""
    spelt = unicodedata.normalize("NFD", c)
    if len(spelt) > 1 and c not in "≠≤≥":
        return _marked(r, glyphs, list(spelt))
    sign = _sign(r, glyphs, c)
    if sign is None or not sign[1]:
        return None
    return (sign[0], *join(sign[1]))


def connect(r, before, after, x):
    """A joining stroke from one letter's exit to the next one's entry, the next standing at x; None where none is drawn."""
    low = lambda p: p[(p[:, 1] > -1.05) & (p[:, 1] < .15)]
    a, b = low(before), low(after)
    if len(a) == 0 or len(b) == 0:
        return None
    a, b = a[a[:, 0].argmax()], b[b[:, 0].argmin()] + np.array([x, 0], np.float32)
    if not 0 <= b[0] - a[0] < .8:
        return None
    t = np.linspace(0, 1, 8)[:, None]
    middle = np.array([(a[0] + b[0]) / 2, max(a[1], b[1]) + r.uniform(0, .15)])
    return ((1 - t) ** 2 * a + 2 * t * (1 - t) * middle + t ** 2 * b).astype(np.float32)
