"""Makes a language's data for the reader: a pruned character 6-gram model and a word list (about four minutes each).

    python3 language.py en|de|fr [--entries 450000]

Interpolated Kneser-Ney (Chen & Goodman 1999) with one discount an order; the format is described in
core/reading/language.h. Text: Brown corpus (redistribution permitted), WordNet glosses (WordNet licence), the Debian
handbook and reference (GPL-2+), German sayings (Debian package fortunes-de); words: Debian's word lists.
"""
import argparse
import collections
import math
import re
import zlib

import numpy as np

import settings
import text as texts

ORDER = 6
DISCOUNT = 0.75
# Checksums of words left out of the lists: names of products.
LEFT_OUT = {94564450, 475308017, 600492650, 847314129, 923296618, 1592514065, 3791547856}
LISTS = {"en": "/usr/share/dict/american-english", "de": "/usr/share/dict/ngerman", "fr": "/usr/share/dict/french"}


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("language", choices=sorted(LISTS))
    parser.add_argument("--entries", type=int, default=450000)
    options = parser.parse_args()
    symbols = {c: i + 1 for i, c in enumerate(settings.ALPHABET)}
    sentences = texts.sentences(options.language)
    if options.language == "en":     # the evaluation draws its lines from these
        sentences = [s for i, s in enumerate(sentences) if i % 37]
    stream = " " + " ".join(sentences) + " "
    stream = re.sub(r"[0-9]", "0", stream)
    codes = np.array([symbols[c] for c in stream], np.uint64)
    print(len(codes), "characters")

    counts = []                       # of n-grams, order 1 first; keys hold the newest symbol in the lowest byte
    for n in range(1, ORDER + 1):
        key = np.zeros(len(codes) - n + 1, np.uint64)
        for i in range(n):
            key = key << np.uint64(8) | codes[i:len(codes) - n + 1 + i]
        counts.append(np.unique(key, return_counts=True))
    # Kneser-Ney: lower orders count the distinct symbols seen before, not the occurrences.
    for n in range(1, ORDER):
        higher = counts[n][0]
        mask = np.uint64((1 << 8 * n) - 1)
        keys, distinct = np.unique(higher & mask, return_counts=True)
        kept = counts[n - 1]
        full = dict(zip(keys.tolist(), distinct.tolist()))
        counts[n - 1] = (kept[0], np.array([full.get(int(k), 1) for k in kept[0]]))

    probability, weight = {}, {}
    vocabulary = len(settings.ALPHABET)
    keys, c = counts[0]
    total = c.sum()
    for k, v in zip(keys.tolist(), c.tolist()):
        probability[k] = (v + 0.5) / (total + 0.5 * vocabulary)
    for i in range(1, vocabulary + 1):
        probability.setdefault(i, 0.5 / (total + 0.5 * vocabulary))
    kept = [(8.0 + i * 1e-9, k) for i, k in enumerate(list(probability))]
    levels = {1: list(probability)}
    for n in range(2, ORDER + 1):
        keys, c = counts[n - 1]
        context = keys >> np.uint64(8)
        contexts, inverse = np.unique(context, return_inverse=True)
        totals = np.bincount(inverse, c)
        kinds = np.bincount(inverse)
        lam = DISCOUNT * kinds / totals
        for k, l in zip(contexts.tolist(), lam.tolist()):
            weight[k] = l
        mask = (1 << 8 * (n - 1)) - 1
        level = {}
        for k, v, t, l in zip(keys.tolist(), c.tolist(), totals[inverse].tolist(), lam[inverse].tolist()):
            level[k] = (v - DISCOUNT) / t + l * probability[k & mask]
        probability.update(level)
        levels[n] = [k for k, v in zip(keys.tolist(), c.tolist()) if n <= 3 or v > 1]
        gains = {k: v * math.log(probability[k] / (weight[k >> 8] * probability[k & mask]))
                 for k, v in zip(keys.tolist(), c.tolist()) if n <= 3 or v > 1}
        kept += [(gain, k) for k, gain in gains.items() if gain > 0]
    # Keep what the lower order tells worst; a kept n-gram needs its contexts.
    kept.sort(reverse=True)
    chosen = set(levels[1])
    for gain, k in kept:
        if len(chosen) >= options.entries:
            break
        while k and k not in chosen:
            chosen.add(k)
            k >>= 8
    # Pruning moved probability around: make the back-off weights sum to one again.
    children = collections.defaultdict(list)
    for k in chosen:
        if k >> 8:
            children[k >> 8].append(k)

    def lower(k):                     # probability of an n-gram in the pruned model
        while k not in chosen:
            k = drop(k)
        return probability[k]

    def drop(k):
        bits = (k.bit_length() + 7) // 8 * 8
        return k & ((1 << (bits - 8)) - 1)

    back = {}
    for context, members in children.items():
        seen = sum(probability[k] for k in members)
        below = sum(lower(drop(k)) for k in members)
        back[context] = min(1.0, max(1e-6, (1 - seen) / max(1e-6, 1 - below)))
    quantise = lambda p: min(255, max(0, round(-math.log(p) * 16)))
    entries = np.array(sorted(k << 16 | quantise(probability[k]) << 8 | quantise(back.get(k, 1.0)) for k in chosen), "<u8")
    folder = settings.ROOT / "models" / "language"
    folder.mkdir(parents=True, exist_ok=True)
    with open(folder / f"{options.language}.ngrams", "wb") as out:
        out.write(b"fernleaf ngrams 1\n" + settings.ALPHABET.encode() + b"\n")
        entries.tofile(out)

    used = collections.Counter(re.findall(r"[^\W\d_]+(?:'[^\W\d_]+)?", " ".join(sentences)))
    listed = [w for w in texts.words(LISTS[options.language])
              if zlib.crc32(w.lower().removesuffix("'s").encode()) not in LEFT_OUT]
    if options.language != "en":      # these lists hold every inflected form: keep the ones that text uses
        known = set(used) | {w.lower() for w in used}
        listed = [w for w in listed if w in known or (len(w) <= 7 and w.lower() == w and options.language == "de")]
    with open(folder / f"{options.language}.words", "w", encoding="utf-8") as out:
        out.write("\n".join(sorted(set(w for w in listed if len(w) > 1 or w in ("a", "I", "à", "y")))) + "\n")
    print(len(entries), "n-grams")


if __name__ == "__main__":
    main()
