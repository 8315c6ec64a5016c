"""Writes the averaged weights as models/reader.weights.gz, BatchNorm folded (seconds).

The format is described in core/reading/weights.h.

    python3 export.py [--from CHECKPOINT]
"""
import argparse
import copy
import gzip
import json
import pathlib

import numpy as np
import torch
from torch import nn
from torch.nn.utils.fusion import fuse_conv_bn_eval

import net
import settings


def folded(sequence):
    modules = []
    for m in sequence:
        if isinstance(m, nn.Sequential):
            modules.append(folded(m))
        elif isinstance(m, net.Temporal):
            m = copy.deepcopy(m)
            m.body = folded(m.body)
            modules.append(m)
        elif isinstance(m, nn.BatchNorm2d):
            modules[-1] = fuse_conv_bn_eval(modules[-1], m)
        elif not isinstance(m, nn.Dropout2d):
            modules.append(m)
    return nn.Sequential(*modules)


def layers_of(sequence, residual=False):
    """(convolution, followed by a rectifier, input added) of a folded network, in order."""
    found = []
    for m in sequence:
        if isinstance(m, nn.Conv2d):
            found.append([m, False, residual])
        elif isinstance(m, nn.ReLU):
            found[-1][1] = True
        elif isinstance(m, net.Temporal):
            found += layers_of(m.body, True)
        else:
            found += layers_of(m)
    return found


def written(reader, alphabet, seen):
    """The file's bytes, uncompressed."""
    layers = layers_of([folded(reader.trunk), folded(reader.sequence), reader.head])
    shapes, numbers = [], []
    for conv, rectified, residual in layers:
        shapes.append({"in": conv.in_channels, "out": conv.out_channels, "kernel": conv.kernel_size, "stride": conv.stride,
                       "pad": conv.padding, "rectified": rectified, "residual": residual})
        numbers += [conv.weight.detach().numpy(), conv.bias.detach().numpy()]
    card = json.dumps({"alphabet": alphabet, "lines_seen": seen, "layers": shapes}, ensure_ascii=False)
    return b"fernleaf reader 1\n" + card.encode() + b"\n" + b"".join(n.astype("<f2").tobytes() for n in numbers)


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("--from", dest="checkpoint", type=pathlib.Path, default=settings.WORK / "reader.pt")
    parser.add_argument("--to", type=pathlib.Path, default=settings.ROOT / "models" / "reader.weights.gz")
    options = parser.parse_args()
    state = torch.load(options.checkpoint, map_location="cpu")
    reader = net.Reader()
    if state["alphabet"] != settings.ALPHABET:
        raise SystemExit("This checkpoint knows another alphabet: train it with --resume first.")
    reader.load_state_dict(state["average"])
    # No time stamp: the same weights make the same file.
    options.to.write_bytes(gzip.compress(written(reader.eval(), state["alphabet"], state["seen"]), 9, mtime=0))


if __name__ == "__main__":
    main()
