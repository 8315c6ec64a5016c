"""Greedy error rates on the validation hands, which training never sees.

    python3 evaluate.py [--lines 60]
"""
import argparse
import functools
import random
import unicodedata

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
def lines_of(name, count, language="en"):
    """(picture, text) pairs of held sentences in a hand, with its own letters only; half drawn as ink, half as scan."""
    r = random.Random(name + language)
    hand = lines.load([name])
    pool = [s for s in texts.held(language) if 12 < len(s)]
    if hand:
        pool = [s for s in pool if hand[0]["glyphs"].keys() >= set(s)]
    if len(pool) < count:
        return []
    made = []
    for _ in range(20 * count):
        if len(made) == count:
            break
        words = r.choice(pool).split(" ")
        start = r.randrange(len(words))
        text = " ".join(words[start:])[:40].strip()
        if len(text) < 12:
            continue
        if len(made) % 2 and hand[0]["fonts"]:
            picture = lines.outline(r, hand[0], text, 0.3)
        else:
            paths = lines.compose(r, hand[0], text, (), 0.3)
            if paths is None:
                continue
            scale, mean = lines.normalise(paths)
            picture = lines.draw(paths, scale, mean, 2)
        if picture is not None:
            made.append((picture, text))
    return made


def greedy(model, picture):
    width = (picture.shape[1] + 3) // 4 * 4
    x = torch.zeros(1, 1, settings.LINE_HEIGHT, width)
    x[0, 0, :, :picture.shape[1]] = torch.from_numpy(picture).float() / 255
    with torch.no_grad():
        best = model(x).argmax(2)[:, 0].numpy()
    spelt = "".join(settings.ALPHABET[c - 1] for i, c in enumerate(best) if c and (i == 0 or best[i - 1] != c)).strip()
    return unicodedata.normalize("NFC", spelt)


MARKED = ("de", "fr", "es", "pl", "cs", "hu", "tr", "sv", "ro", "lv")


def brief(model, count=8):
    """Character errors of the validation hands in English, then of languages with many marks (all hands able to)."""
    model.eval()
    rate = lambda made: sum(distance(t, greedy(model, p)) for p, t in made) / sum(len(t) for _, t in made)
    held = settings.VALIDATION + settings.HELD_STROKE_FONTS[:2]
    hands = {name: rate(made) for name in held if (made := lines_of(name, count))}
    tongues = {}
    for language in MARKED:
        made = [line for name in held for line in lines_of(name, max(2, count // 4), language)]
        if made:
            tongues[language] = rate(made)
    model.train()
    show = lambda figures: f"{100 * np.mean(list(figures.values())):.1f} %  " + " ".join(f"{k[:9]} {100 * v:.1f}" for k, v in figures.items())
    return show(hands) + "\n  languages " + show(tongues)


if __name__ == "__main__":
    parser = argparse.ArgumentParser()
    parser.add_argument("--lines", type=int, default=60)
    options = parser.parse_args()
    reader = net.Reader()
    reader.load_state_dict(torch.load(settings.WORK / "reader.pt", map_location="cpu")["average"])
    print(brief(reader, options.lines))
