"""Trains the reader on lines made while it runs; stops and goes on from its checkpoint.

    python3 train.py --minutes 100 [--resume] [--threads 2]

Without a checkpoint --resume goes on from the published weights. A checkpoint made with another alphabet is taken
over: what it knows of common characters is kept. One with fewer blocks is deepened.
One run's learning rate rises over the first minutes and falls along a cosine to the end of --minutes.
A checkpoint is written every three minutes, with a running average of the weights (used for export).
"""
import argparse
import copy
import math
import multiprocessing
import os
import random
import time

os.environ.setdefault("ONEDNN_PRIMITIVE_CACHE_CAPACITY", "16384")
import numpy as np
import torch

import evaluate
import lines
import net
import settings
import text as texts
import written_digits

AREA = 9600        # columns of pictures in a batch
LONGEST_STEP_S = 5


def make_batches(seed, queue):
    """Worker: composes lines for ever and puts batches of one padded width into the queue."""
    import cv2
    cv2.setNumThreads(0)
    os.nice(5)
    r = random.Random(seed)
    np.random.seed(seed % 2 ** 32)
    writer = texts.Writer(seed)
    hands = lines.load(lines.training_names())
    people = written_digits.traced()
    shelves = {}
    while True:
        text = writer.line()
        picture = None
        for _ in range(4):
            picture = lines.sample(r, r.choice(hands), text, hands, people)
            if picture is not None:
                break
        if picture is None:
            continue
        text = settings.spell(text)
        if picture.shape[1] > 768 or picture.shape[1] < 2 * len(text) + 8:
            continue
        width = (picture.shape[1] + 63) // 64 * 64
        shelf = shelves.setdefault(width, [])
        shelf.append((picture, text))
        if len(shelf) >= max(4, AREA // width):
            batch = np.zeros((len(shelf), 1, settings.LINE_HEIGHT, width), np.uint8)
            for i, (p, _) in enumerate(shelf):
                batch[i, 0, :, :p.shape[1]] = p
            queue.put((batch, [t for _, t in shelf]))
            shelves[width] = []


def some_pictures(queue, count=12):
    """Lines of several batches, cut to one width."""
    batches = [queue.get()[0] for _ in range(count)]
    return torch.from_numpy(np.concatenate([b[:, :, :, :256] for b in batches if b.shape[3] >= 256])).float().div_(255)


def main():
    parser = argparse.ArgumentParser()
    parser.add_argument("--minutes", type=float, default=100)
    parser.add_argument("--resume", action="store_true")
    parser.add_argument("--threads", type=int, default=2)
    parser.add_argument("--rate", type=float, default=1.6e-3)
    parser.add_argument("--seed", type=int, default=1, help="another for every run, so that its lines are others")
    options = parser.parse_args()
    torch.set_num_threads(options.threads)
    torch.manual_seed(options.seed)

    queue = multiprocessing.Queue(24)
    multiprocessing.Process(target=make_batches, args=(options.seed, queue), daemon=True).start()
    path, seen = settings.WORK / "reader.pt", 0
    model = net.Reader()
    if options.resume and not path.exists():
        start = settings.ROOT / "models" / "reader.weights.gz"
        known, card = net.published(start, some_pictures(queue))
        seen, weights = card["lines_seen"], known.state_dict()
        net.deepen(weights, model.state_dict())
        model.load_state_dict(weights)
    model = model.to(memory_format=torch.channels_last)           # a tenth faster on two cores
    average = copy.deepcopy(model)
    optimiser = torch.optim.AdamW(model.parameters(), lr=options.rate, weight_decay=1e-3)
    if options.resume and path.exists():
        state = torch.load(path, map_location="cpu")
        seen = state["seen"]
        fresh = model.state_dict()
        if state["alphabet"] == settings.ALPHABET and state["model"].keys() == fresh.keys():
            optimiser.load_state_dict(state["optimiser"])
        else:                                    # the optimiser starts anew with the head or the blocks
            for weights in (state["model"], state["average"]):
                if state["alphabet"] != settings.ALPHABET:
                    net.change_alphabet(weights, state["alphabet"], fresh)
                net.deepen(weights, fresh)
        model.load_state_dict(state["model"])
        average.load_state_dict(state["average"])
    print(sum(p.numel() for p in model.parameters()), "parameters;", len(lines.training_names()), "hands", flush=True)

    loss_of = torch.nn.CTCLoss(blank=0, zero_infinity=True)
    before = saved = shown = time.time()
    losses, step, worked = [], 0, 0.0
    while True:
        # A machine put to sleep, or a process stopped for a while, does not use up the schedule.
        now = time.time()
        worked, before = worked + min(now - before, LONGEST_STEP_S), now
        part = worked / (60 * options.minutes)
        if part >= 1:
            break
        rate = options.rate * min(1, (step + 1) / 200) * (0.02 + 0.98 * 0.5 * (1 + math.cos(math.pi * part)))
        for group in optimiser.param_groups:
            group["lr"] = rate
        pictures, strings = queue.get()
        x = torch.from_numpy(pictures).float().div_(255).contiguous(memory_format=torch.channels_last)
        targets = torch.tensor([settings.INDEX[c] for s in strings for c in s])
        lengths = torch.tensor([len(s) for s in strings])
        logits = model(x).log_softmax(2)
        loss = loss_of(logits, targets, torch.full((len(strings),), logits.shape[0], dtype=torch.long), lengths)
        optimiser.zero_grad()
        loss.backward()
        torch.nn.utils.clip_grad_norm_(model.parameters(), 2.0)
        optimiser.step()
        step += 1
        seen += len(strings)
        keep = min(0.998, step / (step + 50))
        with torch.no_grad():
            for a, b in zip(average.state_dict().values(), model.state_dict().values()):
                if a.dtype.is_floating_point:
                    a.mul_(keep).add_(b, alpha=1 - keep)
                else:
                    a.copy_(b)
        losses.append(loss.item())
        if time.time() - shown > 60:
            print(f"{worked / 60:5.1f} min  {seen} lines  loss {np.mean(losses):.3f}", flush=True)
            losses, shown = [], time.time()
        if time.time() - saved > 180:
            save(path, model, average, optimiser, seen)
            saved = time.time()
            if step % 3 == 0:
                print("validation", evaluate.brief(average), flush=True)
    save(path, model, average, optimiser, seen)
    print("validation", evaluate.brief(average, 40), flush=True)


def save(path, model, average, optimiser, seen):
    part = path.with_suffix(".part")
    torch.save({"model": model.state_dict(), "average": average.state_dict(), "optimiser": optimiser.state_dict(),
                "seen": seen, "alphabet": settings.ALPHABET}, part)
    part.replace(path)


if __name__ == "__main__":
    main()
