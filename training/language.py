"""Makes a language's data for the reader: a pruned character 6-gram model and a word list (a minute or two each).

    python3 language.py en [de fr …] [--entries 450000] [--words 120000]
    python3 language.py all             every language, with the sizes that are shipped (about half an hour)

Interpolated Kneser-Ney (Chen & Goodman 1999) with one discount an order; the format is described in
core/reading/language.h. Sources and licences: models/README.md.
"""
import argparse
import collections
import gzip
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
# (n-grams, words) shipped for a language; less text tells less.
SIZES = {"en": (450000, 120000), "de": (250000, 120000), "fr": (250000, 120000)}
USUAL_SIZE = (120000, 80000)
MOST_CHARACTERS = 9_000_000      # of text; more would not fit beside other work


def make(language, entries, most_words):
    symbols = {c: i + 1 for i, c in enumerate(settings.ALPHABET)}
    sentences = texts.learnt(language)
    # A small collection of sentences knows few words: the dictionary's, in no order, add their letters.
    listed = listed_words(language)
    size = sum(map(len, sentences))
    pool = np.random.default_rng(1).permutation(len(listed))
    filled = []
    for i in pool:
        if size > 1_500_000 or len(filled) * 6 > 1_500_000:
            break
        filled.append(listed[i])
    size = 0
    for i, s in enumerate(sentences):
        size += len(s)
        if size > MOST_CHARACTERS:
            sentences = sentences[:i]
            break
    stream = settings.spell(" " + " ".join(sentences + filled) + " ")
    stream = re.sub(r"[0-9]", "0", stream)
    codes = np.array([symbols[c] for c in stream], np.uint64)
    print(language, len(codes), "characters", flush=True)

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
        if len(chosen) >= entries:
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
    numbers = np.array(sorted(k << 16 | quantise(probability[k]) << 8 | quantise(back.get(k, 1.0)) for k in chosen), "<u8")
    folder = settings.ROOT / "models" / "language"
    folder.mkdir(parents=True, exist_ok=True)
    packed(folder / f"{language}.ngrams.gz", b"fernleaf ngrams 1\n" + settings.ALPHABET.encode() + b"\n" + numbers.tobytes())
    words = ranked_words(sentences, listed)[:most_words]
    packed(folder / f"{language}.words.gz", ("\n".join(sorted(words)) + "\n").encode())
    print(language, len(numbers), "n-grams", len(words), "words", flush=True)


def packed(path, content):
    path.write_bytes(gzip.compress(content, 9, mtime=0))     # no time stamp: the same data makes the same file


def listed_words(language):
    wanted = lambda w: zlib.crc32(w.lower().removesuffix("'s").encode()) not in LEFT_OUT
    return [w for w in texts.words(language) if wanted(w) and (len(w) > 1 or w.lower() in _SINGLE)]


_SINGLE = set("aiyoeáéíóàèìòùyâîuwzskvçøåäö")


def ranked_words(sentences, listed):
    """The dictionary's words, those that text uses first, then the short ones; with no dictionary, those of the text."""
    used = collections.Counter(re.findall(r"[^\W\d_]+(?:'[^\W\d_]+)?", " ".join(sentences)))
    if not listed:
        return [w for w, n in used.most_common() if n > 1 and w.lower() == w]
    count = lambda w: used[w] + used[w[:1].upper() + w[1:]]
    return sorted(listed, key=lambda w: (-min(count(w), 3), len(w), w))


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("languages", nargs="+", choices=[*texts.LANGUAGES, "all"])
    parser.add_argument("--entries", type=int)
    parser.add_argument("--words", type=int)
    options = parser.parse_args()
    for language in texts.LANGUAGES if "all" in options.languages else options.languages:
        entries, words = SIZES.get(language, USUAL_SIZE)
        make(language, options.entries or entries, options.words or words)


if __name__ == "__main__":
    main()
