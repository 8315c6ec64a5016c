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
COLUMNS = 48  # of a word at most; the rest adds nothing
EPOCHS = 24
BATCH = 256


def load(path):
    words, kinds = [], []
    with open(path, "rb") as file:
        while head := file.read(12):
            printed, rows, columns = np.frombuffer(head, np.int32)
            word = np.frombuffer(file.read(2 * rows * columns), np.float16).reshape(rows, columns)
            words.append(word[:COLUMNS])
            kinds.append(printed)
    return words, np.array(kinds, np.float32)


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


def shares(head, words, kinds):
    head.eval()
    odds = []
    with torch.no_grad():
        for at in range(0, len(words), BATCH):
            odds.append(head(*batch_of(words[at:at + BATCH])).numpy())
    right = (np.concatenate(odds) > 0) == (kinds > 0.5)
    return right[kinds > 0.5].mean(), right[kinds < 0.5].mean()


def save(head, path):
    hidden = head.hidden.weight.detach().numpy() / head.deviation.numpy()
    bias = head.hidden.bias.detach().numpy() - hidden @ head.mean.numpy()
    last = np.concatenate([head.last.weight.detach().numpy()[0], head.last.bias.detach().numpy()])
    with open(path, "w") as out:
        out.write(f"fernleaf print 2\n{UNITS} {hidden.shape[1]}\n")
        for row in [*np.concatenate([hidden, bias[:, None]], 1), last]:
            out.write(" ".join(f"{x:.5g}" for x in row) + "\n")


def main():
    learnt, held, path = sys.argv[1:]
    torch.manual_seed(1)
    torch.set_num_threads(1)
    random = np.random.default_rng(1)
    words, kinds = load(learnt)
    held_words = load(held)
    print(len(words), "words to learn from,", int(kinds.sum()), "printed")
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
        if epoch % 4 == 3:
            print(f"epoch {epoch + 1}: held printed %.4f, written %.4f" % shares(head, *held_words), flush=True)
            save(head, path)


if __name__ == "__main__":
    main()
