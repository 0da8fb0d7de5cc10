"""Speeds that swing for good: a fan curve that chases its sensor."""

import numpy as np
from numpy.typing import NDArray

from krill.in_time.result import Hunting
from krill.in_time.track import Track
from krill.networks.states import MachineStates

Array = NDArray[np.float64]

#: swings of so much of rated speed, so many times to and fro in the last part of the time, are hunting
LEAST_SWING, LEAST_TURNS, LAST_SHARE = 0.03, 4, 0.4


def hunting_of(track: Track, states: MachineStates, row: int = 0) -> list[Hunting]:
    """Movers that still swing at the end of a march, in one row of the batch."""
    times = track.times
    last = last_of(track)
    found = []
    for mover in states.movers:
        speeds = np.array([moment.speeds[mover.id][row] for moment in track.moments])[last]
        turns = turning_points(speeds, LEAST_SWING)
        if len(turns) < LEAST_TURNS:
            continue
        at = times[last][turns]
        period = 2.0 * float(np.mean(np.diff(at)))
        ends = speeds[turns]
        found.append(
            Hunting(
                mover=mover.id,
                name=mover.name or mover.id,
                low=float(ends.min()),
                high=float(ends.max()),
                period_s=period,
                slope=None,
                slope_that_ends=None,
            )
        )
    return found


def last_of(track: Track) -> NDArray[np.bool_]:
    """Which moments lie in the last part of a march, where only what swings for good still does."""
    times = track.times
    return np.asarray(times >= times[-1] - LAST_SHARE * (times[-1] - times[0]))


def turning_points(values: Array, swing: float) -> list[int]:
    """Where a curve turns back by at least ``swing``: the places of its highs and lows in turn."""
    found: list[int] = []
    best, way = 0, 0
    for at in range(1, len(values)):
        moved = values[at] - values[best]
        if way >= 0 and moved <= -swing:
            found.append(best)
            best, way = at, -1
        elif way <= 0 and moved >= swing:
            found.append(best)
            best, way = at, 1
        elif moved * way > 0:
            best = at
    return found[1:] if found and found[0] == 0 else found
