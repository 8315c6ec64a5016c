"""Writes models/rehearsal.gz: lines of many training hands, which teaching a person's hand rehearses so that the reader
does not forget how others write (seconds).

    python3 rehearsal.py

The format is described in core/reading/teaching.h.
"""
import gzip
import random

import lines
import settings
import text as texts

COUNT = 96


def main():
    r = random.Random(3)
    writer = texts.Writer(3, share_en=0.7)
    hands = lines.load(chosen_hands())
    out = [b"fernleaf lines 1\n"]
    made = 0
    while made < COUNT:
        hand = hands[made % len(hands)]
        text = writer.line()
        if not 8 <= len(text) <= 36:
            continue
        paths = lines.compose(r, hand, text, (), 0.5)
        if paths is None:
            continue
        scale, mean = lines.normalise(paths)
        picture = lines.draw(paths, scale, mean, 2)
        if not 2 * len(settings.spell(text)) + 8 <= picture.shape[1] <= 700:
            continue
        out.append(f"{picture.shape[1]} {text}\n".encode() + picture.tobytes() + b"\n")
        made += 1
    (settings.ROOT / "models" / "rehearsal.gz").write_bytes(gzip.compress(b"".join(out), 9, mtime=0))


def chosen_hands():
    names = lines.training_names()
    return random.Random(1).sample(names, min(COUNT, len(names)))


if __name__ == "__main__":
    main()
