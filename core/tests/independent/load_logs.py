"""Load windows as machines go, written apart from the bench: plain formulas of a chip on a mass, with a firmware."""

import numpy as np

from krill.runs.held_back import Fed, Track

KINDS = ("heat", "power limit", "falling limit", "board or regulators", "supply", "nothing")


def load_log(kind, seed, minutes=40, step_s=5.0):
    """(tracks of one source, fed) of a window that was held back by ``kind``; everything else drawn at random."""
    rng = np.random.default_rng([seed, KINDS.index(kind)])
    t = np.arange(0.0, minutes * 60, step_s)
    asked, limit_c = rng.uniform(60, 300), rng.uniform(83, 100)
    spare = -rng.uniform(6, 8) if kind == "heat" else rng.uniform(9, 30)
    room, quick, slow = rng.uniform(18, 28), rng.uniform(5, 40), rng.uniform(200, 900)
    rise = limit_c - spare - room
    share = rng.uniform(0.4, 0.8)
    limit_w = np.full(
        t.size, rng.uniform(0.65, 0.9) * asked if kind == "power limit" else rng.uniform(1.2, 1.5) * asked
    )
    cap = np.minimum(asked, limit_w)
    if kind == "falling limit":
        after, over = rng.uniform(28, 300), rng.uniform(5, 60)
        floor = rng.uniform(0.6, 0.9) * asked
        limit_w = limit_w + (floor - limit_w) * np.clip((t - after) / over, 0, 1)
        cap = np.minimum(asked, limit_w)
    regulators = np.full(t.size, -rng.uniform(12, 30))
    if kind == "board or regulators":
        gone = rng.uniform(0.1, 0.35) * asked * (1 - np.exp(-t / rng.uniform(200, 600)))
        cap = cap - gone
        regulators = -rng.uniform(10, 20) * np.exp(-t / 300) - rng.uniform(0, 1.5)
    rating = asked * rng.uniform(1.8, 3)
    if kind == "supply":
        rating = asked * rng.uniform(0.75, 0.92)
        cap = np.where(t < 30, rating * 1.05, rating * rng.uniform(0.98, 1.0) * 0.98)
    over, watts = np.empty(t.size), np.empty(t.size)
    fast = slow_k = 0.0
    for i in range(t.size):
        drawn = cap[i]
        if kind == "heat":
            drawn = cap[i] * np.clip((limit_c + 0.4 - (room + fast + slow_k)) / 0.8, 0.1, 1.0)
        watts[i] = drawn
        fast += (share * rise * drawn / asked - fast) * (1 - np.exp(-step_s / quick))
        slow_k += ((1 - share) * rise * drawn / asked - slow_k) * (1 - np.exp(-step_s / slow))
        over[i] = room + fast + slow_k - limit_c
    noise = rng.standard_normal((2, t.size))
    clock = 4000 * (watts / asked) ** 0.4 + 12 * noise[1]
    shown = np.round(watts * (1 + 0.01 * noise[0]), 1)
    known = rng.random() < 0.7 or kind == "power limit"
    track = Track(
        "chip",
        "Chip",
        np.round(over + 0.3 * noise[1]),
        shown,
        clock if rng.random() < 0.8 else None,
        np.round(limit_w) if known else None,
        np.full(t.size, 99.0) if rng.random() < 0.5 else None,
        float(asked) if rng.random() < 0.5 else None,
        regulators if kind == "board or regulators" and rng.random() < 0.6 else None,
    )
    return [track], Fed(shown if kind == "supply" else shown * rng.uniform(0.9, 1.0), float(rating))
