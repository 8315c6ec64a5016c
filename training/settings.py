"""Where training keeps its files, the alphabet, and which hands are for what.

The validation hands are never trained on, nor warped into training data.
"""
import os
import pathlib
import unicodedata

HERE = pathlib.Path(__file__).resolve().parent
ROOT = HERE.parent
WORK = pathlib.Path(os.environ.get("FERNLEAF_TRAINING", HERE / "work"))
FONTS = WORK / "fonts"
HANDS = WORK / "hands"

# Class 0 of the network is the CTC blank; class i is ALPHABET[i - 1]. Letters with marks are spelt as their letter and
# then their marks (Unicode's canonical decomposition), so that a mark learnt on one letter is known on all.
ALPHABET = (
    " abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789"
    ".,:;!?'\"()[]{}<>-+*/=%&@#$_\\^|~"
    "ßæøœÆØŒ€£§°–•½×÷±"
    "đĐðÐłŁþÞı"
    "\u0300\u0301\u0302\u0303\u0304\u0306\u0307\u0308\u0309\u030a\u030b\u030c\u031b\u0323\u0326\u0327\u0328"
    "—„«»¿¡·→←↑↓‰≠≈≤≥¼¾²³✓☐☑"
)
INDEX = {c: i + 1 for i, c in enumerate(ALPHABET)}
FOLD = str.maketrans({"’": "'", "‘": "'", "‚": ",", "“": '"', "”": '"', "‹": "<", "›": ">", "…": "...", "‑": "-",
                      "−": "–", "\u00a0": " ", "\u202f": " ", "\u2009": " ", "ĳ": "ij", "ŀ": "l·", "ţ": "ț", "Ţ": "Ț"})


def spell(text):
    """The symbols of a text: letters before their marks. Characters outside the alphabet are left out."""
    out = []
    for c in unicodedata.normalize("NFC", text):
        out += [c] if c in INDEX else [d for d in unicodedata.normalize("NFD", c)]
    return "".join(c for c in out if c in INDEX)


# What fonts may hold as one glyph: the alphabet's signs and all letters it can spell.
GLYPHS = [c for c in ALPHABET if not unicodedata.combining(c)]
GLYPHS += [chr(c) for c in [*range(0xC0, 0x180), *range(0x218, 0x21C)]
           if chr(c) not in INDEX and len(spell(chr(c))) == len(unicodedata.normalize("NFD", chr(c))) > 1]

# Signs that are drawn by rule now and then even where a hand's font has them.
RULED = set("–—-_•·°✓☐☑→←↑↓=≠≈±×÷≤≥<>+½¼¾²³%‰„«»¿¡øØłŁđĐ")


def writable(c):
    """Whether a (composed) character can be spelt in full."""
    return c in INDEX or all(d in INDEX for d in unicodedata.normalize("NFD", c))


VALIDATION = ["cedarville-cursive", "indie-flower", "la-belle-aurore", "nanum-pen-script",
              "reenie-beanie", "shadows-into-light", "patrick-hand", "breip"]
# Kept out of training as well: the stroke fonts behind demo and evaluation.
HELD_STROKE_FONTS = ["EMSFelix", "EMSNixish", "EMSNixishItalic"]
TRAINING_STROKE_FONTS = ["EMSAllure", "EMSElfin", "EMSOsmotron", "EMSReadability",
                         "EMSReadabilityItalic", "EMSTech", "HersheySans1", "HersheyScript1"]

LINE_HEIGHT = 40      # px
SPREAD = 5.6          # px: standard deviation of the ink's height in a normalised line
MARGIN = 6            # px left and right of the ink
