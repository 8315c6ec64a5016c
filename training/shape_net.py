"""Learns to tell kinds of shapes by how well each fits the ink, and writes core/drawing/shape_weights.cpp.

    drawings_bench fits --count 900 --seed 1 --careless 2.6 > work/shapes_careless.txt
    drawings_bench fits --count 700 --seed 11 --careless 1.3 > work/shapes.txt
    drawings_bench fits --count 150 --seed 200 --careless 1.6 > work/shapes_kept_out.txt
    python3 shape_net.py --kept-out work/shapes_kept_out.txt work/shapes.txt work/shapes_careless.txt

A network of two hidden layers sees of every kind how far the ink lies from its best fit, whether there is one, and how
many numbers form it, and is taught which kind was meant (cross-entropy over the kinds that have a fit). It says what is
to be added to how good each fit is by itself, so that ink that is no shape, which it has never seen, is told by that.
Half a minute.
"""
import argparse
import math

import numpy as np
import torch

import settings

KINDS = 20
HAND = 0.012               # as kHand in core/drawing/shape_reading.cpp, and so are the next three
NEAR, FAR, PRICE = 8, 0.095, 1.35
LEAST, NONE = 2e-4, 0.3    # of an error; that of a kind without a fit
MOST_FREEDOM = 13
HIDDEN, ROUNDS, BATCH, RATE = 32, 60, 256, 3e-3


def features(fits):
    """Of one drawing: 3 numbers a kind; which kinds have a fit, and how good it is by itself."""
    best, error, freedom = np.full(KINDS, -np.inf), np.full(KINDS, NONE), np.zeros(KINDS)
    for kind, far, numbers in fits:
        kind, off = int(kind), (far / HAND) ** 2
        score = -NEAR * math.log1p(off) - FAR * min(off, 60) - PRICE * numbers
        if score > best[kind]:
            best[kind], error[kind], freedom[kind] = score, far, numbers
    there = np.isfinite(best)
    prior = np.where(there, best, 0)
    return np.concatenate([np.log(np.maximum(error, LEAST) / HAND), there, freedom / MOST_FREEDOM]), there, prior


def load(paths):
    x, there, prior, meant = [], [], [], []
    for path in paths:
        for line in open(path):
            words = line.split()
            if words[0] == "L":
                kind = int(words[1])
            elif len(words) > 1:
                seen, has, good = features(np.array(words[1:], float).reshape(-1, 3))
                x.append(seen), there.append(has), prior.append(good), meant.append(kind)
    floats = lambda rows: torch.tensor(np.array(rows), dtype=torch.float32)
    return floats(x), torch.tensor(np.array(there)), floats(prior), torch.tensor(meant)


def scores(net, x, there, prior):
    return (net(x) + prior).masked_fill(~there, -1e9)


def right(net, data):
    x, there, prior, meant = data
    with torch.no_grad():
        return (scores(net, x, there, prior).argmax(1) == meant).float().mean().item()


def array(name, values):
    rows = np.asarray(values).reshape(-1, 8 if np.size(values) % 8 == 0 else 4)
    text = ",\n    ".join(", ".join(f"{v:.4g}F" if "." in f"{v:.4g}" or "e" in f"{v:.4g}" else f"{v:.4g}.0F" for v in row) for row in rows)
    return f"const std::array<float, {np.size(values)}> {name}{{\n    {text}}};\n"


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("--kept-out", required=True)
    parser.add_argument("files", nargs="+")
    options = parser.parse_args()
    torch.manual_seed(1)
    data, kept_out = load(options.files), load([options.kept_out])
    x, there, prior, meant = data
    mean, spread = x.mean(0), x.std(0) + 1e-3
    net = torch.nn.Sequential(torch.nn.Linear(x.shape[1], HIDDEN), torch.nn.ReLU(), torch.nn.Linear(HIDDEN, HIDDEN),
                              torch.nn.ReLU(), torch.nn.Linear(HIDDEN, KINDS))
    optimiser = torch.optim.Adam(net.parameters(), RATE, weight_decay=1e-4)
    usable = torch.nonzero(there[torch.arange(len(meant)), meant]).squeeze(1)
    for number in range(ROUNDS):
        for group in optimiser.param_groups:
            group["lr"] = RATE * 0.5 * (1 + math.cos(math.pi * number / ROUNDS)) + 1e-5
        for batch in usable[torch.randperm(len(usable))].split(BATCH):
            out = scores(net, (x[batch] - mean) / spread, there[batch], prior[batch])
            loss = torch.nn.functional.cross_entropy(out, meant[batch])
            optimiser.zero_grad()
            loss.backward()
            optimiser.step()
    with torch.no_grad():  # what normalises is part of the first layer from now on
        first = net[0]
        first.bias -= first.weight @ (mean / spread)
        first.weight /= spread
    print(f"right: {100 * right(net, data):.2f} %, of those kept out {100 * right(net, kept_out):.2f} %")
    layers = [p.detach().numpy() for p in net.parameters()]
    with open(settings.ROOT / "core" / "drawing" / "shape_weights.cpp", "w") as out:
        out.write("// Written by training/shape_net.py, which tells what these numbers are.\n"
                  '#include "drawing/shape_weights.h"\n\n// clang-format off\nnamespace fernleaf {\n\n')
        for name, values in zip(("kFirstWeights", "kFirstBias", "kSecondWeights", "kSecondBias", "kThirdWeights", "kThirdBias"), layers):
            out.write(array(name, values) + "\n")
        out.write("}  // namespace fernleaf\n")


if __name__ == "__main__":
    main()
