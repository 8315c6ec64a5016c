"""Trains what tells printed words from written ones (core/paper/print_teller.h).

    print_words work/trained TEXTS work/print.learnt learnt     # build/release/bench
    print_words work/validation TEXTS work/print.held held
    python3 print_head.py work/print.learnt work/print.held ../models/print.head

Prints the share of words told right among those held.
"""
import sys

import numpy as np
import torch
from torch import nn

UNITS = 32
CLASSES, BINS = 4, 16  # of how far pieces stand off their baseline: by how uncertain that is, and how far
MOST_ODDS = 4  # the network is never more certain
ENOUGH_PIECES = 12  # fewer say less together
LEAST_PRINTED = 0.985  # the share of printed words that has to be told
COLUMNS = 48  # of a word at most; the rest adds nothing
EPOCHS = 24
BATCH = 256


def load(path):
    words, kinds, hands, offsets = [], [], [], []
    with open(path, "rb") as file:
        while head := file.read(16):
            printed, hand, rows, columns = np.frombuffer(head, np.int32)
            offsets.append(np.frombuffer(file.read(4 * CLASSES * BINS), np.int32))
            word = np.frombuffer(file.read(2 * rows * columns), np.float16).reshape(rows, columns)
            words.append(word[:COLUMNS])
            kinds.append(printed)
            hands.append(hand)
    return words, np.array(kinds, np.float32), np.array(hands), np.array(offsets, np.float32)


def batch_of(words):
    longest = max(len(w) for w in words)
    columns = np.zeros((len(words), longest, words[0].shape[1]), np.float32)
    there = np.zeros((len(words), longest, 1), np.float32)
    for i, w in enumerate(words):
        columns[i, :len(w)] = w
        there[i, :len(w)] = 1
    return torch.from_numpy(columns), torch.from_numpy(there)


class Head(nn.Module):
    def __init__(self, mean, deviation):
        super().__init__()
        self.mean, self.deviation = mean, deviation
        self.hidden = nn.Linear(len(mean), UNITS)
        self.last = nn.Linear(2 * UNITS, 1)
        self.dropout = nn.Dropout(0.2)

    def forward(self, columns, there):
        seen = torch.relu(self.hidden((columns - self.mean) / self.deviation)) * there
        count = there.sum(1)
        mean = seen.sum(1) / count
        spread = ((seen - mean[:, None]) ** 2 * there).sum(1) / count
        return self.last(self.dropout(torch.cat([mean, torch.sqrt(spread + 1e-6)], 1)))[:, 0]


def odds_of(head, words):
    head.eval()
    with torch.no_grad():
        return np.concatenate([head(*batch_of(words[at:at + BATCH])).numpy() for at in range(0, len(words), BATCH)])


def shares(odds, kinds):
    right = (odds > 0) == (kinds > 0.5)
    return right[kinds > 0.5].mean(), right[kinds < 0.5].mean()


def offset_odds(offsets, kinds):
    """What a piece of each bin says by itself: the logarithm of the ratio of how frequent it is in print and in
    writing, among pieces as uncertain. One row a class."""
    counts = np.stack([offsets[kinds > 0.5].sum(0), offsets[kinds < 0.5].sum(0)]).reshape(2, CLASSES, BINS) + 10
    frequent = counts / counts.sum(2, keepdims=True)
    return np.log(frequent[0] / frequent[1])


def together(odds, offsets, bins, steadiness):
    said = offsets @ bins.reshape(-1) / np.maximum(offsets.sum(1), ENOUGH_PIECES)
    return np.clip(odds, -MOST_ODDS, MOST_ODDS) + steadiness * said


def steadiness_for(odds, offsets, bins, kinds):
    """How much the pieces count: a network knows hands like those it has seen, and misleads in others, so as much as
    print bears."""
    best = 0
    for steadiness in np.arange(0.25, 8, 0.25):
        printed, written = shares(together(odds, offsets, bins, steadiness), kinds)
        if printed >= LEAST_PRINTED:
            best = steadiness
    print("pieces count %.2f; of hands left out:" % best,
          "printed %.4f, written %.4f" % shares(together(odds, offsets, bins, best), kinds), flush=True)
    return best


def save(head, bins, steadiness, path):
    hidden = head.hidden.weight.detach().numpy() / head.deviation.numpy()
    bias = head.hidden.bias.detach().numpy() - hidden @ head.mean.numpy()
    last = np.concatenate([head.last.weight.detach().numpy()[0], head.last.bias.detach().numpy()])
    with open(path, "w") as out:
        out.write(f"fernleaf print 4\n{UNITS} {hidden.shape[1]}\n")
        for row in [*np.concatenate([hidden, bias[:, None]], 1), last, *bins, [steadiness]]:
            out.write(" ".join(f"{x:.5g}" for x in row) + "\n")


def trained(words, kinds, random, tell):
    """tell: called with the head every few epochs."""
    some = np.concatenate([words[i] for i in random.choice(len(words), min(len(words), 4000), replace=False)])
    some = some.astype(np.float32)
    head = Head(torch.from_numpy(some.mean(0)), torch.from_numpy(some.std(0) + 1e-2))
    steps = EPOCHS * (len(words) // BATCH)
    optimiser = torch.optim.AdamW(head.parameters(), 2e-3, weight_decay=1e-2)
    schedule = torch.optim.lr_scheduler.OneCycleLR(optimiser, 4e-3, steps)
    # Both kinds count the same, however many there are of each.
    weight = torch.tensor([0.5 / (1 - kinds.mean()), 0.5 / kinds.mean()], dtype=torch.float32)
    for epoch in range(EPOCHS):
        head.train()
        order = random.permutation(len(words))
        for at in range(0, len(words) - BATCH + 1, BATCH):
            chosen = order[at:at + BATCH]
            kind = torch.from_numpy(kinds[chosen])
            loss = nn.functional.binary_cross_entropy_with_logits(
                head(*batch_of([words[i] for i in chosen])), kind, weight=weight[kind.long()])
            optimiser.zero_grad()
            loss.backward()
            optimiser.step()
            schedule.step()
        if epoch % 8 == 7:
            tell(epoch + 1, head)
    return head


def main():
    learnt, held, path = sys.argv[1:]
    torch.manual_seed(1)
    torch.set_num_threads(1)
    random = np.random.default_rng(1)
    words, kinds, hands, offsets = load(learnt)
    held_words, held_kinds, _, held_offsets = load(held)
    bins = offset_odds(offsets, kinds)
    print(len(words), "words to learn from,", int(kinds.sum()), "printed")
    for row in bins:
        print("a piece says, by how far it stands off:", " ".join("%.2f" % b for b in row))

    # What a head was trained on it knows too well to be weighed by: one that lacks a third of the hands is.
    some = np.flatnonzero(hands % 3 != 0)
    others = np.flatnonzero(hands % 3 == 0)
    partial = trained([words[i] for i in some], kinds[some], random, lambda *_: None)
    steadiness = steadiness_for(odds_of(partial, [words[i] for i in others]), offsets[others], bins, kinds[others])

    def tell(epoch, head):
        odds = odds_of(head, held_words)
        print(f"epoch {epoch}: held printed %.4f, written %.4f;" % shares(odds, held_kinds),
              "with the pieces %.4f, %.4f" % shares(together(odds, held_offsets, bins, steadiness), held_kinds),
              flush=True)
        save(head, bins, steadiness, path)

    trained(words, kinds, random, tell)


if __name__ == "__main__":
    main()
