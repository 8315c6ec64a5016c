"""Turns a font into a hand: pen paths of its glyphs and of whole shaped words, in x-heights.

Outlines are thinned to their middle line (Zhang & Suen 1984, through OpenCV), spurs shorter than
the pen is wide are dropped, and the remaining pixel graph is walked into smooth paths.

    python3 hands.py            makes every missing hand of the work folder (about 12 minutes)
"""
import collections
import multiprocessing
import pickle
import re
import sys

import cv2
import numpy as np
from fontTools.ttLib import TTFont
from PIL import Image, ImageDraw, ImageFont

import settings
import text as texts

EM = 72
_KERNEL = np.array([[1, 1, 1], [1, 0, 1], [1, 1, 1]], np.uint8)


def one_pixel_wide(thin):
    """Takes the corners out of a thinned mask's staircases, which would be joints of a graph at every step.

    A pixel goes when the pixels around it stay connected without it and it is no end (a simple point: Kong & Rosenfeld
    1989).
    """
    thin = thin.copy()
    ring = ((-1, -1), (0, -1), (1, -1), (1, 0), (1, 1), (0, 1), (-1, 1), (-1, 0))
    for y, x in zip(*np.nonzero(thin)):
        around = [(dx, dy) for dx, dy in ring if thin[y + dy, x + dx]]
        if len(around) < 2:
            continue
        reached, waiting = {around[0]}, [around[0]]
        while waiting:
            ax, ay = waiting.pop()
            for b in around:
                if b not in reached and max(abs(b[0] - ax), abs(b[1] - ay)) <= 1:
                    reached.add(b)
                    waiting.append(b)
        thin[y, x] = len(reached) < len(around)
    return thin


def with_dots(thin, image):
    """Gives every piece of ink that thinning ate up, as it does round dots, the pixel at its middle."""
    count, labels, _, centres = cv2.connectedComponentsWithStats(image, connectivity=8)
    left = np.unique(labels[thin])
    for piece in set(range(1, count)) - set(left.tolist()):
        ys, xs = np.nonzero(labels == piece)
        nearest = np.argmin((xs - centres[piece][0]) ** 2 + (ys - centres[piece][1]) ** 2)
        thin[ys[nearest], xs[nearest]] = True
    return thin


def walk(mask):
    """Paths (arrays of x, y in px) along the middle of a boolean mask."""
    image = (np.pad(mask, 2) * 255).astype(np.uint8)
    if not image.any():
        return []
    thick = cv2.distanceTransform(image, cv2.DIST_L2, 3)
    thin = one_pixel_wide(with_dots(cv2.ximgproc.thinning(image) > 0, image))
    degree = cv2.filter2D(thin.astype(np.uint8), -1, _KERNEL, borderType=cv2.BORDER_CONSTANT)
    pixels = {(int(x), int(y)) for y, x in zip(*np.nonzero(thin))}
    nodes = {p for p in pixels if degree[p[1], p[0]] != 2}

    def around(p):
        x, y = p
        for q in ((x + 1, y), (x - 1, y), (x, y + 1), (x, y - 1), (x + 1, y + 1), (x - 1, y - 1), (x + 1, y - 1), (x - 1, y + 1)):
            if q in pixels:
                yield q

    paths, used = [], set()

    def follow(start, first):
        path, before, here = [start, first], start, first
        while here not in nodes:
            used.add(here)
            onward = [q for q in around(here) if q != before and (q not in used or q in nodes) and q not in path[-3:]]
            if not onward:
                break
            end = [q for q in onward if q in nodes]
            before, here = here, (end or onward)[0]
            path.append(here)
        return path

    seen_edges = set()
    for node in sorted(nodes):
        neighbours = list(around(node))
        if not neighbours:
            paths.append(([node, node], node, node))
        for q in neighbours:
            if q in used or (q in nodes and (q, node) in seen_edges):
                continue
            if q in nodes:
                seen_edges.add((node, q))
            path = follow(node, q)
            paths.append((path, path[0], path[-1]))
    for p in sorted(pixels - used - nodes):          # closed rings
        if p not in used:
            used.add(p)
            onward = list(around(p))
            if onward:
                path = follow(p, onward[0])
                paths.append((path + [p], p, p))

    kept = []
    for path, a, b in paths:
        free = [p for p in (a, b) if degree[p[1], p[0]] <= 1]
        joint = [p for p in (a, b) if degree[p[1], p[0]] > 2]
        length = len(path)
        if len(free) == 2 and length <= 3:      # what is left of a dot
            path = [path[length // 2]] * 2
        if len(free) == 1 and joint and length < 1.15 * thick[joint[0][1], joint[0][0]] + 1:
            continue
        points = np.array(path, np.float32) - 2
        if len(points) > 4:
            padded = np.concatenate([points[:1].repeat(2, 0), points, points[-1:].repeat(2, 0)])
            smooth = sum(padded[i:i + len(points)] * w for i, w in enumerate((.1, .2, .4, .2, .1)))
            smooth[0], smooth[-1] = points[0], points[-1]
            keep = np.r_[np.arange(0, len(points) - 1, 2), len(points) - 1]
            points = smooth[keep]
        kept.append(points)
    return kept


def supported(path):
    cmap = TTFont(path).getBestCmap()
    return {c for c in settings.GLYPHS if ord(c) in cmap}


def draw(font, string):
    """Mask of a shaped string and the pixel of its origin (left end of the baseline)."""
    left, top, right, bottom = font.getbbox(string, anchor="ls")
    width, height = right - left + 8, bottom - top + 8
    if width <= 8 or height <= 8:
        return None, 0, 0
    image = Image.new("L", (width, height))
    ImageDraw.Draw(image).text((4 - left, 4 - top), string, fill=255, font=font, anchor="ls")
    return np.asarray(image) > 110, 4 - left, 4 - top


def paths_of(font, string):
    mask, ox, oy = draw(font, string)
    return [] if mask is None else [p - (ox, oy) for p in walk(mask)]


def from_font(name, paths, tokens):
    """paths: the files of one face, the first with its basic letters, others with more of them."""
    fonts = [(str(path), ImageFont.truetype(str(path), EM), supported(path)) for path in paths]
    scale = 1 / max(8, -min(p[:, 1].min() for p in paths_of(fonts[0][1], "x")))
    glyphs = {}
    for _, font, able in fonts:
        for c in sorted(able - glyphs.keys()):
            drawn = [] if c == " " else paths_of(font, c)
            if c == " " or drawn:
                glyphs[c] = (font.getlength(c) * scale, [(p * scale).astype(np.float32) for p in drawn])
    words = {}
    for token in tokens:
        font = next((f for _, f, able in fonts if able.issuperset(token)), None)
        if font and all(c in glyphs for c in token):
            words[token] = (font.getlength(token) * scale, [(p * scale).astype(np.float32) for p in paths_of(font, token)])
    return {"name": name, "fonts": [(path, able) for path, _, able in fonts], "glyphs": glyphs, "words": words}


def from_stroke_font(name):
    text = open(settings.FONTS / "stroke" / "svg_fonts" / f"{name}.svg", encoding="utf-8").read()
    raw = {}
    for tag in re.findall(r"<glyph[^>]*>", text):
        found = {k: v for k, v in re.findall(r'([\w-]+)="([^"]*)"', tag)}
        code = found.get("unicode", "").replace("&quot;", '"').replace("&amp;", "&").replace("&lt;", "<").replace("&gt;", ">").replace("&apos;", "'")
        code = re.sub(r"&#x([0-9a-fA-F]+);", lambda m: chr(int(m.group(1), 16)), code)
        if len(code) == 1 and code in settings.GLYPHS:
            paths = []
            for kind, x, y in re.findall(r"([ML])\s*(-?[\d.]+)[ ,](-?[\d.]+)", found.get("d", "")):
                if kind == "M" or not paths:
                    paths.append([])
                paths[-1].append((float(x), -float(y)))
            raw[code] = (float(found.get("horiz-adv-x", 378)), [np.array(p if len(p) > 1 else p * 2, np.float32) for p in paths])
    height = -min(p[:, 1].min() for p in raw["x"][1])
    glyphs = {c: (a / height, [resample(p / height) for p in paths]) for c, (a, paths) in raw.items()}
    return {"name": name, "fonts": [], "glyphs": glyphs, "words": {}}


def resample(path, step=0.06):
    lengths = np.r_[0, np.cumsum(np.hypot(*np.diff(path, axis=0).T))]
    if lengths[-1] < step:
        return path.astype(np.float32)
    at = np.linspace(0, lengths[-1], max(2, int(lengths[-1] / step) + 1))
    return np.stack([np.interp(at, lengths, path[:, 0]), np.interp(at, lengths, path[:, 1])], 1).astype(np.float32)


def font_files():
    for folder in sorted(settings.FONTS.iterdir()):
        files = sorted(folder.glob("files/*-latin-400-normal.woff")) + sorted(folder.glob("files/*-latin-ext-400-normal.woff"))
        if files:
            yield folder.name, files
    yield "breip", ["/usr/share/fonts/truetype/breip/Breip.ttf"]
    yield "rufscript", ["/usr/share/fonts/truetype/rufscript/Rufscript010.ttf"]


def make(job):
    name, paths = job
    target = settings.HANDS / f"{name}.pickle"
    if target.exists():
        return
    if paths is None:
        hand = from_stroke_font(name)
    else:
        try:
            hand = from_font(name, paths, make.tokens)
        except (OSError, ValueError) as problem:
            print(name, problem, file=sys.stderr)
            return
    target.write_bytes(pickle.dumps(hand))
    print(name, len(hand["glyphs"]), len(hand["words"]), flush=True)


def main():
    settings.HANDS.mkdir(parents=True, exist_ok=True)
    writer = texts.Writer(7)
    seen = collections.Counter(t for _ in range(30000) for t in writer.line().split(" ") if 2 <= len(t) <= 13)
    make.tokens = [t for t, _ in seen.most_common(320)]
    print(" ".join(make.tokens), flush=True)
    jobs = list(font_files()) + [(n, None) for n in settings.TRAINING_STROKE_FONTS + settings.HELD_STROKE_FONTS]
    with multiprocessing.Pool(2) as pool:
        pool.map(make, jobs, chunksize=1)


if __name__ == "__main__":
    main()
