"""When a curve first meets a level, and from when on it stays near one."""

from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


def first_at_least(times: Array, values: Array, level: Array | float) -> Array:
    """Time at which each curve (time, curve) first reaches its level, between two of the times in proportion; NaN: never."""
    level = np.broadcast_to(level, values.shape[1:])
    over = values >= level
    found = np.full(values.shape[1], np.nan)
    for curve in np.flatnonzero(over.any(axis=0)):
        at = int(np.argmax(over[:, curve]))
        if at == 0:
            found[curve] = times[0]
            continue
        low, high = values[at - 1, curve], values[at, curve]
        found[curve] = times[at - 1] + (times[at] - times[at - 1]) * (level[curve] - low) / (high - low)
    return found


def stays_within(times: Array, values: Array, settles: float, within: float) -> float | None:
    """Time from which a curve (time,) stays within so much of a level; None where it does not yet at the end."""
    outside = np.abs(values - settles) > within
    if outside[-1]:
        return None
    if not outside.any():
        return float(times[0])
    at = int(np.flatnonzero(outside)[-1])
    left, right = abs(values[at] - settles), abs(values[at + 1] - settles)
    return float(times[at] + (times[at + 1] - times[at]) * (left - within) / max(left - right, 1e-12))


def peaks(times: Array, values: Array, ends: Array) -> Array:
    """Highest of values (time, curve) between each two of the ends, (end - 1, curve); ends are among the times."""
    spans = [(times >= a - 1e-9) & (times <= b + 1e-9) for a, b in pairwise(ends)]
    return np.stack([values[span].max(axis=0) for span in spans])


def goes_to(values: Array) -> Array:
    """Where a sequence that settles goes, (item, curve) to (curve,): by the last two steps of a geometric one.

    Steps that do not shrink, or fewer than two of them, leave the last value.
    """
    last = np.asarray(values[-1], dtype=np.float64)
    if len(values) < 3:
        return last
    before, step = values[-2] - values[-3], values[-1] - values[-2]
    shrinks = np.abs(step) < 0.95 * np.abs(before)
    ratio = np.where(shrinks, step / np.where(shrinks, before, 1.0), 0.0)
    return np.asarray(last + np.where(shrinks, step * ratio / (1.0 - ratio), 0.0))
