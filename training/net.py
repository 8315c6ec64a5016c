"""The line reader's network: convolutions that collapse a 40 px line to a sequence, trained with CTC.

Graves et al. 2006 (CTC); fully convolutional as in Puigcerver 2017 and later work. The trunk works at a quarter
of the picture's width; the head gives two time steps per trunk column (a sub-pixel head), so that narrow
letters and doubled letters have room: T = W / 2.
"""
import torch
from torch import nn

import settings

CLASSES = len(settings.ALPHABET) + 1


def conv(a, b, kernel=3, stride=1):
    return nn.Sequential(nn.Conv2d(a, b, kernel, stride=stride, padding=kernel // 2, bias=False),
                         nn.BatchNorm2d(b), nn.ReLU(inplace=True))


class Temporal(nn.Module):
    """Residual 1-D convolution along the line."""

    def __init__(self, channels, kernel, dropout):
        super().__init__()
        self.body = nn.Sequential(nn.Conv2d(channels, channels, (1, kernel), padding=(0, kernel // 2), bias=False),
                                  nn.BatchNorm2d(channels), nn.ReLU(inplace=True), nn.Dropout2d(dropout))

    def forward(self, x):
        return x + self.body(x)


class Reader(nn.Module):
    """Input N x 1 x 40 x W in 0..1 (ink = 1), W a multiple of 4; output T x N x classes logits, T = W / 2."""

    def __init__(self, width=192, blocks=5, dropout=0.1):
        super().__init__()
        self.trunk = nn.Sequential(
            conv(1, 32, 5, 2), conv(32, 32), conv(32, 64, 3, (2, 1)), conv(64, 64),
            conv(64, 96, 3, 2), conv(96, 96),
            nn.Conv2d(96, width, (5, 1), bias=False), nn.BatchNorm2d(width), nn.ReLU(inplace=True), nn.Dropout2d(dropout))
        self.sequence = nn.Sequential(*[Temporal(width, 7, dropout) for _ in range(blocks)])
        self.head = nn.Conv2d(width, 2 * CLASSES, 1)

    def forward(self, x):
        y = self.head(self.sequence(self.trunk(x)))              # N x 2C x 1 x T/2
        n, _, _, t = y.shape
        y = y.reshape(n, 2, CLASSES, t).permute(3, 1, 0, 2)      # T/2 x 2 x N x C
        return y.reshape(2 * t, n, CLASSES)


def change_alphabet(weights, old, fresh):
    """Replaces the head in a state (in place): common characters keep their rows, new ones get those of a fresh state."""
    for name in ("head.weight", "head.bias"):
        before, after = weights[name], fresh[name].clone()
        count = len(old) + 1
        for half in range(2):
            after[half * CLASSES] = before[half * count]                     # the blank
            for i, c in enumerate(old, 1):
                if c in settings.INDEX:
                    after[half * CLASSES + settings.INDEX[c]] = before[half * count + i]
        weights[name] = after
