"""Learns what makes a kind of shape likely: the weights in core/drawing/shape_reading.cpp.

    drawings_bench fits --count 900 --seed 1 --careless 2.6 > work/shapes.txt
    drawings_bench fits --count 150 --seed 200 --careless 1.6 > work/shapes_kept_out.txt
    python3 shape_costs.py work/shapes.txt work/shapes_kept_out.txt

Multinomial logistic regression over the fits of each drawing: a fit's score is how common its kind is, less how far the
ink lies from it, less a price for each number that forms it. Prints the weights by kind: common, near, far; and the
price. Needs numpy.
"""
import sys

import numpy as np

NAMES = ("line polyline arrow double_arrow arc curve circle ellipse square rectangle rounded_rectangle triangle diamond "
         "parallelogram trapezoid pentagon hexagon star polygon brace").split()
KINDS = len(NAMES)
HAND = 0.012  # as kHand
MOST_FAR = 60
STEPS, RATE, TOWARDS_START = 900, 0.03, 5e-4


def load(path):
    """Kinds of fits (-1: none), their errors and freedoms: drawings x fits; and the kinds meant."""
    rows, meant = [], None
    for line in open(path):
        words = line.split()
        if words[0] == "L":
            meant = int(words[1])
        elif len(words) > 1:
            numbers = [float(w) for w in words[1:]]
            rows.append((meant, np.array(numbers).reshape(-1, 3)))
    most = max(len(fits) for _, fits in rows)
    kinds, errors, freedom = np.full((len(rows), most), -1), np.zeros((len(rows), most)), np.zeros((len(rows), most))
    for i, (_, fits) in enumerate(rows):
        kinds[i, :len(fits)], errors[i, :len(fits)], freedom[i, :len(fits)] = fits[:, 0], fits[:, 1], fits[:, 2]
    return kinds, errors, freedom, np.array([meant for meant, _ in rows])


def scores(weights, data):
    kinds, errors, freedom, _ = data
    common, near, far, price = weights
    at = np.maximum(kinds, 0)
    off = (errors / HAND) ** 2
    parts = np.log1p(off), np.minimum(off, MOST_FAR) / 10
    out = common[at] - np.exp(near)[at] * parts[0] - np.exp(far)[at] * parts[1] - price[0] * freedom
    return np.where(kinds >= 0, out, -1e9), at, parts


def right(weights, data):
    all_scores, _, _ = scores(weights, data)
    told = data[0][np.arange(len(data[3])), all_scores.argmax(1)]
    return (told == data[3]).mean()


def gradient(weights, data):
    kinds, _, freedom, meant = data
    all_scores, at, parts = scores(weights, data)
    p = np.exp(all_scores - all_scores.max(1, keepdims=True))
    p /= p.sum(1, keepdims=True)
    good = kinds == meant[:, None]
    of_good = (p * good).sum(1)
    there = good.any(1)
    slope = np.where(there[:, None] & (kinds >= 0), p - p * good / np.maximum(of_good, 1e-12)[:, None], 0) / there.sum()
    out = [np.zeros(KINDS) for _ in range(3)]
    np.add.at(out[0], at, slope)
    for i in (0, 1):
        np.add.at(out[i + 1], at, -slope * np.exp(weights[i + 1])[at] * parts[i])
    return out + [np.array([-(slope * freedom).sum()])]


def main():
    data, kept_out = load(sys.argv[1]), load(sys.argv[2])
    start = [np.zeros(KINDS), np.full(KINDS, np.log(3.0)), np.zeros(KINDS), np.array([0.7])]
    weights = [w.copy() for w in start]
    means, squares = [np.zeros_like(w) for w in start], [np.zeros_like(w) for w in start]
    for step in range(1, STEPS + 1):  # Adam
        for i, g in enumerate(gradient(weights, data)):
            g = g + TOWARDS_START * (weights[i] - start[i])
            means[i] = 0.9 * means[i] + 0.1 * g
            squares[i] = 0.99 * squares[i] + 0.01 * g * g
            weights[i] -= RATE * (means[i] / (1 - 0.9 ** step)) / (np.sqrt(squares[i] / (1 - 0.99 ** step)) + 1e-8)
    print(f"right: {100 * right(weights, data):.2f} %, of those kept out {100 * right(weights, kept_out):.2f} %")
    for name, common, near, far in zip(NAMES, weights[0], np.exp(weights[1]), np.exp(weights[2])):
        print(f"    {{{common:.2f}, {near:.2f}, {far:.3f}}},  // {name}")
    print(f"price {weights[3][0]:.2f}")


if __name__ == "__main__":
    main()
