"""Shows what the network is trained on: python3 peek.py PICTURE.png [validation]"""
import random
import sys

import cv2
import numpy as np

import lines
import text

r = random.Random(3)
import settings
hands = lines.load(settings.VALIDATION if len(sys.argv) > 2 else lines.training_names())
writer = text.Writer(5)
rows = []
while len(rows) < 26:
    p = lines.sample(r, r.choice(hands), writer.line(), hands)
    if p is not None:
        row = np.zeros((44, 700), np.uint8)
        row[2:42, :min(700, p.shape[1])] = p[:, :700]
        rows.append(row)
cv2.imwrite(sys.argv[1], 255 - np.vstack(rows))
