"""Learns to tell signs of formulas by their forms, and how parts stand beside one another; writes
models/formula.weights.gz.

    python3 digit_hands.py work/trained work/trained_digits
    math_bench work/trained_digits forms --count 16000 --to work/forms.bin
    math_bench work/trained places --count 30000 --to work/places.bin
    math_bench work/validation forms --count 1500 --seed 50 --kept-out --to work/forms_kept_out.bin
    math_bench work/validation places --count 1500 --seed 50 --kept-out --to work/places_kept_out.bin
    python3 formula_nets.py [--only signs|places]

Taught by cross-entropy with some of the labels smoothed (Szegedy et al. 2016), so that certainties stay honest. Layers
that join everything did a little worse on signs (82.4 % of those kept out instead of 84.3). The numbers that go in are those of core/math/sign_form.h and formula_parts.h.
"""
import argparse
import gzip
import math

import numpy as np
import torch

import settings

GRID, DIRECTIONS = 12, 4
REST = 36 + 7          # ends of strokes, and what is known of the whole
FIRST, SECOND, JOINED = 32, 64, 256  # maps, and what they are joined to
KINDS = {"signs": dict(file="forms", numbers=DIRECTIONS * GRID * GRID + REST, rounds=8, noise=0.05),
         "places": dict(file="places", numbers=55, rounds=12, noise=0.02)}
BATCH, RATE, SMOOTHED = 512, 2e-3, 0.02


def load(path, numbers):
    data = np.fromfile(path, np.dtype([("label", "<u2"), ("numbers", "<f4", numbers)]))
    return torch.from_numpy(data["numbers"].copy()), torch.from_numpy(data["label"].astype(np.int64))


class Signs(torch.nn.Module):
    """Maps of where ink runs, twice convolved and halved, then joined with the rest."""

    def __init__(self, classes):
        super().__init__()
        self.first = torch.nn.Conv2d(DIRECTIONS, FIRST, 3, padding=1)
        self.second = torch.nn.Conv2d(FIRST, SECOND, 3, padding=1)
        self.third = torch.nn.Linear(SECOND * (GRID // 4) ** 2 + REST, JOINED)
        self.fourth = torch.nn.Linear(JOINED, classes)
        self.halved, self.drop = torch.nn.MaxPool2d(2), torch.nn.Dropout(0.2)

    def forward(self, x):
        maps = x[:, :-REST].reshape(-1, DIRECTIONS, GRID, GRID)
        maps = self.halved(torch.relu(self.second(self.halved(torch.relu(self.first(maps))))))
        joined = torch.cat([maps.flatten(1), x[:, -REST:]], 1)
        return self.fourth(self.drop(torch.relu(self.third(self.drop(joined)))))


def places(classes):
    return torch.nn.Sequential(torch.nn.Linear(KINDS["places"]["numbers"], 48), torch.nn.ReLU(), torch.nn.Linear(48, 32),
                               torch.nn.ReLU(), torch.nn.Linear(32, classes))


def train(kind, net, x, y):
    how = KINDS[kind]
    kept_x, kept_y = load(settings.WORK / f"{how['file']}_kept_out.bin", how["numbers"])
    optimiser = torch.optim.AdamW(net.parameters(), RATE, weight_decay=1e-4)
    loss_of = torch.nn.CrossEntropyLoss(label_smoothing=SMOOTHED)
    for number in range(how["rounds"]):
        for group in optimiser.param_groups:
            group["lr"] = RATE * 0.5 * (1 + math.cos(math.pi * number / how["rounds"])) + 2e-5
        net.train()
        total = 0
        for batch in torch.randperm(len(y)).split(BATCH):
            seen = x[batch]
            loss = loss_of(net(seen + how["noise"] * torch.randn_like(seen)), y[batch])
            optimiser.zero_grad()
            loss.backward()
            optimiser.step()
            total += loss.item()
        net.eval()
        with torch.no_grad():
            told = torch.cat([net(part).argmax(1) for part in kept_x.split(8192)])
        right = 100 * (told == kept_y).float().mean().item()
        print(kind, number, f"loss {total / (len(y) / BATCH):.3f}, of those kept out {right:.2f} % right", flush=True)
    return b"".join(p.detach().numpy().astype("<f4").tobytes() for p in net.parameters())


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("--only", choices=list(KINDS))
    options = parser.parse_args()
    torch.manual_seed(1)
    torch.set_num_threads(1)
    for kind, how in KINDS.items():
        if options.only in (None, kind):
            x, y = load(settings.WORK / f"{how['file']}.bin", how["numbers"])
            classes = int(y.max()) + 1
            net = Signs(classes) if kind == "signs" else places(classes)
            weights = train(kind, net, x, y)
            (settings.WORK / f"formula_{kind}.part").write_bytes(weights)
    whole = b"fernleaf formula 2\n" + b"".join((settings.WORK / f"formula_{kind}.part").read_bytes() for kind in KINDS)
    (settings.ROOT / "models" / "formula.weights.gz").write_bytes(gzip.compress(whole, 9, mtime=0))


if __name__ == "__main__":
    main()
