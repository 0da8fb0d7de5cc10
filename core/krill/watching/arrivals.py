"""Where the rows of a logger's sessions stand on the run's clock, and what happened to them on the way."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

ArrivalKind = Literal["samples-dropped", "samples-doubled", "clock-jumps", "logger-restarts"]
#: a gap of so many intervals has rows missing; so many in all, or so many seconds of them, are worth telling
GAP: Final = 1.6
WORTH_ROWS, WORTH_S = 5, 10.0
#: a wall clock that moves against the steady one by more than this was set, s
SET_BY_S: Final = 5.0
#: two sessions whose wall clocks and whose times of arrival tell unlike pauses: the wall clock is believed up to this, s
BELIEVED_S: Final = 120.0


@dataclass(frozen=True)
class Came:
    """One batch: its rows' seconds on the logger's steady clock, and both of its clocks at one moment of it."""

    session: str
    sequence: int
    steady_s: Array
    clock_s: float
    steady_at_s: float
    arrived_s: float


@dataclass(frozen=True)
class Arrival:
    """Something that happened on the way: when on the run's clock, how many rows or seconds it concerns."""

    kind: ArrivalKind
    at_s: float
    amount: float


def offset_of(before: Came | None, offset_before_s: float, first: Came, speed: float = 1.0) -> float:
    """Seconds to add to a session's steady clock to get the run's, from the last batch of the session before it.

    Wall clocks tell how long the logger was away, unless one of them was set meanwhile: then it is the time of arrival,
    which passes ``speed`` times as fast on a simulated bench.
    """
    if before is None:
        return -float(first.steady_s[0]) if first.steady_s.size else -first.steady_at_s
    run_before = before.steady_at_s + offset_before_s
    by_clock = first.clock_s - before.clock_s
    by_arrival = speed * (first.arrived_s - before.arrived_s)
    away = by_clock if 0.0 <= by_clock <= by_arrival + BELIEVED_S * max(speed, 1.0) else max(by_arrival, 0.0)
    return run_before + away - first.steady_at_s


def arrivals_of(batches: Sequence[Came], offsets_s: dict[str, float], interval_s: float) -> list[Arrival]:
    """What happened on the way, in the order of time; batches in the order of session and sequence."""
    found: list[Arrival] = []
    sessions = list(dict.fromkeys(batch.session for batch in batches))
    for number, session in enumerate(sessions):
        own = [batch for batch in batches if batch.session == session]
        offset = offsets_s[session]
        times = np.concatenate([batch.steady_s for batch in own]) + offset
        found += _gaps(times, interval_s)
        found += _clock_set(own, offset)
        if number:
            before = [batch for batch in batches if batch.session == sessions[number - 1]]
            last = np.concatenate([batch.steady_s for batch in before]) + offsets_s[sessions[number - 1]]
            if times.size and last.size:
                found.append(Arrival("logger-restarts", float(times[0]), float(max(times[0] - last.max(), 0.0))))
    return sorted(found, key=lambda arrival: arrival.at_s)


def _gaps(times: Array, interval_s: float) -> list[Arrival]:
    """Rows that are missing, and rows that came again, where they are worth telling."""
    if len(times) < 2:
        return []
    steps = np.diff(times)
    found: list[Arrival] = []
    again = np.flatnonzero(steps < 0.25 * interval_s)
    if len(again) >= WORTH_ROWS:
        found.append(Arrival("samples-doubled", float(times[again[0] + 1]), float(len(again))))
    rising = np.maximum.accumulate(times)
    steps = np.diff(rising)
    wide = np.flatnonzero(steps > GAP * interval_s)
    missing = np.round(steps[wide] / interval_s) - 1.0
    if missing.sum() >= WORTH_ROWS or (steps[wide] > WORTH_S + interval_s).any():
        found.append(Arrival("samples-dropped", float(rising[wide[0] + 1]), float(missing.sum())))
    return found


def _clock_set(own: Sequence[Came], offset: float) -> list[Arrival]:
    found: list[Arrival] = []
    for before, after in pairwise(own):
        moved = (after.clock_s - before.clock_s) - (after.steady_at_s - before.steady_at_s)
        if abs(moved) > SET_BY_S:
            found.append(Arrival("clock-jumps", after.steady_at_s + offset, moved))
    return found


def repaired(time_s: Array) -> NDArray[np.intp]:
    """Rows in the order of time, each time once: what came twice is taken the first time."""
    _, first = np.unique(np.round(time_s, 3), return_index=True)
    return np.asarray(first, dtype=np.intp)
