"""Hands whose digits are those of real people, for the networks that read formulas: forms that fonts lack, a 1 with a long
upstroke among them (minutes).

    python3 digit_hands.py work/trained work/trained_digits
    python3 digit_hands.py work/validation work/validation_digits --validation

Each hand of the first directory is written to the second several times as it is and as often with the digits of another
person each time (written_digits.py); with --validation only the latter. With --validation those are the digits that no training sees.
"""
import argparse
import json
import pathlib
import random

import numpy as np

import demo_hands
import written_digits

EACH = 3          # people a hand
STEP = 0.07       # x-heights between the points of a path
SMOOTHED = 2      # points to both sides
ONE_STROKE = "0123689"  # mostly written without lifting the pen
FARTHEST = 0.35   # x-heights that a pen moves on between pieces of such a digit


def smooth(path):
    """A path of a middle line without the steps of its pixels, in equal steps."""
    window = np.hanning(2 * SMOOTHED + 3)[1:-1]
    padded = np.concatenate([np.repeat(path[:1], SMOOTHED, 0), path, np.repeat(path[-1:], SMOOTHED, 0)])
    even = np.stack([np.convolve(padded[:, k], window / window.sum(), "valid") for k in (0, 1)], 1)
    even[0], even[-1] = path[0], path[-1]
    along = np.concatenate([[0], np.cumsum(np.hypot(*np.diff(even, axis=0).T))])
    at = np.linspace(0, along[-1], max(2, int(along[-1] / STEP) + 1))
    return np.stack([np.interp(at, along, even[:, k]) for k in (0, 1)], 1)


def chained(paths):
    """Pieces of a digit that was written without lifting the pen, after one another as far as they meet, from the top."""
    rest = [p for p in paths]
    first = min(range(len(rest)), key=lambda i: min(rest[i][0, 1], rest[i][-1, 1]))
    stroke = rest.pop(first)
    stroke = stroke if stroke[0, 1] <= stroke[-1, 1] else stroke[::-1]
    while rest:
        gaps = [min(np.hypot(*(p[0] - stroke[-1])), np.hypot(*(p[-1] - stroke[-1]))) for p in rest]
        nearest = int(np.argmin(gaps))
        if gaps[nearest] > FARTHEST:
            break
        piece = rest.pop(nearest)
        if np.hypot(*(piece[0] - stroke[-1])) > np.hypot(*(piece[-1] - stroke[-1])):
            piece = piece[::-1]
        stroke = np.concatenate([stroke, piece])
    return [stroke] + rest


def glyph(person, r, digit):
    advance, points, starts = person.draw(r, digit)
    paths = demo_hands.put_together(np.split(points, starts[1:]))
    paths = [p for p in paths if len(p) > 1]
    paths = chained(paths) if digit in ONE_STROKE else [demo_hands.begin_left(p) for p in paths]
    paths = [smooth(p) for p in paths]
    return {"advance": round(advance, 3), "paths": [[round(float(v), 3) for v in p.ravel()] for p in paths]}


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("hands", type=pathlib.Path)
    parser.add_argument("to", type=pathlib.Path)
    parser.add_argument("--validation", action="store_true")
    options = parser.parse_args()
    options.to.mkdir(parents=True, exist_ok=True)
    r = random.Random(8)
    digits = written_digits.traced(options.validation)
    for path in sorted(options.hands.glob("*.json")):
        hand = json.loads(path.read_text())
        for k in range(EACH):
            if not options.validation:
                (options.to / f"{path.stem}-own-{k + 1}.json").write_text(path.read_text())
            person = written_digits.Person(r, digits)
            for digit in "0123456789":
                hand["glyphs"][digit] = glyph(person, r, digit)
            (options.to / f"{path.stem}-{k + 1}.json").write_text(json.dumps(hand, separators=(",", ":")))


if __name__ == "__main__":
    main()
