"""When a curve first meets a level, and from when on it stays near one."""

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
