"""Where training keeps its files, the alphabet, and which hands are for what.

The validation hands are never trained on, nor warped into training data.
"""
import os
import pathlib

HERE = pathlib.Path(__file__).resolve().parent
ROOT = HERE.parent
WORK = pathlib.Path(os.environ.get("FERNLEAF_TRAINING", HERE / "work"))
FONTS = WORK / "fonts"
HANDS = WORK / "hands"

# Class 0 of the network is the CTC blank; class i is ALPHABET[i - 1].
ALPHABET = (
    " abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789"
    ".,:;!?'\"()[]{}<>-+*/=%&@#$_\\^|~"
    "äöüßéèêëàâáãåæçíìîïñóòôõøœúùûýÿÄÖÜÉÈÊÀÂÁÅÆÇÍÎÑÓÔÕØŒÚÛ"
    "€£§°–•½×÷±"
)
INDEX = {c: i + 1 for i, c in enumerate(ALPHABET)}
FOLD = str.maketrans({"’": "'", "‘": "'", "“": '"', "”": '"', "„": '"', "—": "–", "…": "...", "\u00a0": " "})

VALIDATION = ["cedarville-cursive", "indie-flower", "la-belle-aurore", "nanum-pen-script",
              "reenie-beanie", "shadows-into-light", "patrick-hand", "breip"]
# Kept out of training as well: the stroke fonts behind demo and evaluation.
HELD_STROKE_FONTS = ["EMSFelix", "EMSNixish", "EMSNixishItalic"]
TRAINING_STROKE_FONTS = ["EMSAllure", "EMSElfin", "EMSOsmotron", "EMSReadability",
                         "EMSReadabilityItalic", "EMSTech", "HersheySans1", "HersheyScript1"]

LINE_HEIGHT = 40      # px
SPREAD = 5.6          # px: standard deviation of the ink's height in a normalised line
MARGIN = 6            # px left and right of the ink
