"""Writes the hands that the demo library and the benches are written in: demo/hands/*.json (seconds).

    python3 demo_hands.py [--all DIRECTORY | --trained DIRECTORY]

With --all, every hand kept out of training is written to a directory of one's own, with
sentences that neither the network nor the language model has seen, for bench/reading_bench. With --trained, the hands
that were trained on, for training/print_head.cpp.

None of the first two is trained on. Traced hands come as a graph of middle lines; here the pieces that run on in one another
through a crossing are put together again, as a pen would have written them.
"""
import argparse
import json
import pathlib
import pickle
import random

import numpy as np

import settings
import text as texts

# Name in the demo, hand, licence of the font it was made from.
CHOSEN = [("ines", "la-belle-aurore", "SIL OFL 1.1"), ("tobias", "patrick-hand", "SIL OFL 1.1"), ("mirela", "EMSFelix", "SIL OFL 1.1"),
          ("walker", "shadows-into-light", "SIL OFL 1.1"), ("seeds", "indie-flower", "SIL OFL 1.1"),
          ("lettre", "cedarville-cursive", "SIL OFL 1.1")]
NEAR = 0.12      # x-heights: path ends this close meet
SHARPEST = 0.2   # cosine: paths that turn more than this do not run on


def heading(path, end):
    """Direction in which the pen leaves the path at one end, looking a little way back."""
    points = path if end else path[::-1]
    back = points[max(0, len(points) - 5)]
    d = points[-1] - back
    return d / max(np.hypot(*d), 1e-6)


def put_together(paths):
    paths = [np.asarray(p, float) for p in paths]
    while True:
        best = None
        for i in range(len(paths)):
            for j in range(len(paths)):
                if i == j:
                    continue
                for a in (0, 1):
                    for b in (0, 1):
                        end, begin = paths[i][-1 if a else 0], paths[j][-1 if b else 0]
                        if np.hypot(*(end - begin)) > NEAR:
                            continue
                        straight = float(heading(paths[i], a) @ -heading(paths[j], b))
                        if straight > SHARPEST and (best is None or straight > best[0]):
                            best = (straight, i, a, j, b)
        if best is None:
            return paths
        _, i, a, j, b = best
        first = paths[i] if a else paths[i][::-1]
        second = paths[j][::-1] if b else paths[j]
        paths = [p for k, p in enumerate(paths) if k not in (i, j)] + [np.concatenate([first, second])]


def begin_left(path):
    """Pens mostly begin at the left, or at the top of an upright."""
    (x0, y0), (x1, y1) = path[0], path[-1]
    turned = x1 + 0.8 * y1 < x0 + 0.8 * y0
    return path[::-1] if turned else path


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("--all", type=pathlib.Path)
    parser.add_argument("--trained", type=pathlib.Path)
    options = parser.parse_args()
    folder = options.all or options.trained or settings.ROOT / "demo" / "hands"
    folder.mkdir(parents=True, exist_ok=True)
    held = [(name, name, "see the font") for name in settings.VALIDATION + settings.HELD_STROKE_FONTS]
    kept_out = {name for name, _, _ in held}
    trained = [(p.stem, p.stem, "see the font") for p in sorted(settings.HANDS.glob("*.pickle")) if p.stem not in kept_out]
    for name, hand_name, licence in trained if options.trained else held if options.all else CHOSEN:
        hand = pickle.loads((settings.HANDS / f"{hand_name}.pickle").read_bytes())
        glyphs = {}
        for c, (advance, paths) in hand["glyphs"].items():
            # The edges of one or two pixels that thinning leaves inside joints tie the pieces together; by themselves
            # they are nothing. Dots stay.
            pieces = put_together(paths) if hand["fonts"] else paths
            pieces = [p for p in pieces if len(p) > 2 or (p[0] == p[-1]).all() or len(pieces) == 1]
            if hand["fonts"]:
                pieces = [begin_left(p) for p in pieces]
            pieces.sort(key=lambda p: float(p[:, 0].min()))
            glyphs[c] = {"advance": round(float(advance), 3), "paths": [[round(float(v), 3) for v in p.reshape(-1)] for p in pieces]}
        (folder / f"{name}.json").write_text(json.dumps({"from": hand_name, "licence": licence, "glyphs": glyphs}, ensure_ascii=False,
                                                        separators=(",", ":")), encoding="utf-8")
    if options.all:
        for language in texts.LANGUAGES:
            (folder / f"lines.{language}.txt").write_text("\n".join(held_lines(language)) + "\n", encoding="utf-8")
        r = random.Random(9)
        (folder / "literal.txt").write_text("\n".join(texts.literal(r) for _ in range(200)) + "\n", encoding="utf-8")


def held_lines(language, count=200):
    """Pieces of held-back sentences, 12 to 40 characters long."""
    r = random.Random(5)
    pool = [s for s in texts.held(language) if len(s) > 12]
    lines = []
    for _ in range(20 * count):
        words = r.choice(pool).split(" ")
        start = r.randrange(len(words))
        text = " ".join(words[start:])[:40].rsplit(" ", 1)[0].strip()
        if len(text) >= 12:
            lines.append(text)
    return lines[:count]


if __name__ == "__main__":
    main()
