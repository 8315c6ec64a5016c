"""The line reader's network: convolutions that collapse a 40 px line to a sequence, trained with CTC.

Graves et al. 2006 (CTC); fully convolutional as in Puigcerver 2017 and later work. The trunk works at a quarter
of the picture's width; the head gives two time steps per trunk column (a sub-pixel head), so that narrow
letters and doubled letters have room: T = W / 2.
"""
import gzip
import json
import re

import numpy as np
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

    def __init__(self, width=192, blocks=7, dropout=0.1):
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


def deepen(weights, fresh):
    """Gives a state the blocks that a fresh state has beyond it (in place), each adding almost nothing at first: what
    the network knew it still knows (Chen, Goodfellow, Shlens 2016, "Net2Net")."""
    for name, value in fresh.items():
        if name not in weights:
            # Not nothing at all: behind a rectifier that is shut no gradient would ever come.
            scale = 0.1 if re.fullmatch(r"sequence\.\d+\.body\.1\.weight", name) else 1
            weights[name] = value.clone() * scale


def published(path, pictures):
    """A network with the weights of a published file and that file's card.

    Publishing folds every normalisation into its convolution. Here each gets back the mean and the deviation that its
    input has over `pictures` (N x 1 x 40 x W), as its statistics and as its scale and shift alike: the network reads
    as published and trains on as normalised ones do.
    """
    mark, card, numbers = gzip.decompress(path.read_bytes()).split(b"\n", 2)
    if mark != b"fernleaf reader 1":
        raise SystemExit(f"{path} holds no weights of this version.")
    card = json.loads(card)
    if card["alphabet"] != settings.ALPHABET:
        raise SystemExit(f"{path} knows another alphabet.")
    numbers = torch.from_numpy(np.frombuffer(numbers, "<f2").astype(np.float32))
    model = Reader(blocks=sum(layer["residual"] for layer in card["layers"]))
    layers = [m for m in model.modules() if isinstance(m, nn.Conv2d)]
    norms = [m for m in model.modules() if isinstance(m, nn.BatchNorm2d)]
    at = 0
    with torch.no_grad():
        shifts = []
        for layer in layers:
            layer.weight.copy_(numbers[at:at + layer.weight.numel()].reshape(layer.weight.shape))
            at += layer.weight.numel()
            shifts.append(numbers[at:at + layer.out_channels])
            at += layer.out_channels
        layers[-1].bias.copy_(shifts[-1])

        def give_back(norm, shift):
            def hook(_, inputs):
                mean, variance = inputs[0].mean((0, 2, 3)), inputs[0].var((0, 2, 3))
                norm.running_mean.copy_(mean)
                norm.running_var.copy_(variance)
                norm.weight.copy_((variance + norm.eps).sqrt())
                norm.bias.copy_(mean + shift)
            return norm.register_forward_pre_hook(hook)

        hooks = [give_back(norm, shift) for norm, shift in zip(norms, shifts)]
        model.eval()(pictures)
        for hook in hooks:
            hook.remove()
    return model.train(), card
