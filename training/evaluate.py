"""Greedy error rates on the validation hands, which training never sees.

    python3 evaluate.py [--lines 60]
"""
import argparse
import functools
import random

import numpy as np
import torch

import lines
import net
import settings
import text as texts


def distance(a, b):
    row = list(range(len(b) + 1))
    for i, x in enumerate(a, 1):
        before, row[0] = row[0], i
        for j, y in enumerate(b, 1):
            before, row[j] = row[j], min(row[j] + 1, row[j - 1] + 1, before + (x != y))
    return row[-1]


@functools.lru_cache(None)
def lines_of(name, count):
    """(picture, text) pairs of English sentences in a hand, half drawn as ink, half as scan."""
    r = random.Random(name)
    hand = lines.load([name])
    pool = [s for s in _sentences() if 12 < len(s)]
    made = []
    while hand and len(made) < count:
        words = r.choice(pool).split(" ")
        start = r.randrange(len(words))
        text = " ".join(words[start:])[:40].strip()
        if len(text) < 12 or any(c not in hand[0]["glyphs"] for c in text):
            continue
        if len(made) % 2 and hand[0]["font"]:
            picture = lines.outline(r, hand[0], text, 0.3)
        else:
            paths = lines.compose(r, hand[0], text, (), 0.3)
            scale, mean = lines.normalise(paths)
            picture = lines.draw(paths, scale, mean, 2)
        if picture is not None:
            made.append((picture, text))
    return made


@functools.lru_cache(None)
def _sentences():
    return [s for s in texts.sentences("en")][::37]


def greedy(model, picture):
    width = (picture.shape[1] + 3) // 4 * 4
    x = torch.zeros(1, 1, settings.LINE_HEIGHT, width)
    x[0, 0, :, :picture.shape[1]] = torch.from_numpy(picture).float() / 255
    with torch.no_grad():
        best = model(x).argmax(2)[:, 0].numpy()
    return "".join(settings.ALPHABET[c - 1] for i, c in enumerate(best) if c and (i == 0 or best[i - 1] != c)).strip()


def brief(model, count=8):
    model.eval()
    figures = {}
    for name in settings.VALIDATION + settings.HELD_STROKE_FONTS[:2]:
        made = lines_of(name, count)
        if made:
            figures[name] = sum(distance(t, greedy(model, p)) for p, t in made) / sum(len(t) for _, t in made)
    model.train()
    return f"{100 * np.mean(list(figures.values())):.1f} %  " + " ".join(f"{k[:9]} {100 * v:.1f}" for k, v in figures.items())


if __name__ == "__main__":
    parser = argparse.ArgumentParser()
    parser.add_argument("--lines", type=int, default=60)
    options = parser.parse_args()
    reader = net.Reader()
    reader.load_state_dict(torch.load(settings.WORK / "reader.pt", map_location="cpu")["average"])
    print(brief(reader, options.lines))
