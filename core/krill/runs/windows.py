"""Finds the loads of a log: stretches of one state of its sources, by their watts, use, clocks or temperatures."""

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise
from typing import Final

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import median_filter

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

WHOLE: Final = "the whole log"
MAX_ROWS: Final = 20_000  # a longer log is looked at in strides
SHORTEST_S: Final = 120.0
SMOOTHING_S: Final = 30.0
CLEAR_STEP: Final = 0.25  # of the high level; smaller steps are taken for one state
#: a source is at load above this share of the way from its low to its high level: a limit that falls stays one load
AT_LOAD: Final = 0.25
#: a source whose watts move by less than this share of the largest one's is no sign of a load
LARGE: Final = 0.1
#: within a load, a rise by this share of its level begins another one, a fall only after so long
STEP_SHARE: Final = 0.3
BURST_S: Final = 600.0
STEP_OVER_S: Final = 60.0
#: a temperature tells a load by the share of its span that it moves within this time
EDGE_S: Final = 60.0
SHARP: Final = 0.25
LEAST_SPAN_K: Final = 5.0
#: two sources whose states differ for less than this are one sign
ALIKE_S: Final = 90.0
MOST_SIGNS: Final = 16


@dataclass(frozen=True)
class Window:
    """First and last row of a load, its times, and what it was found by."""

    first: int
    last: int
    start_s: float
    end_s: float
    by: str

    @property
    def minutes(self) -> float:
        return (self.end_s - self.start_s) / 60


@dataclass(frozen=True)
class Signals:
    """Channels that tell a load, each (row, channel), NaN where missing.

    Of a part that is known by name the best of watts, use, clock and temperature; ``wall`` and ``others``, temperatures
    of what else was logged, are asked where no part tells.
    """

    power: Array | None = None
    use: Array | None = None
    clock: Array | None = None
    temperature: Array | None = None
    wall: Array | None = None
    others: Array | None = None


def load_windows(time_s: Array, signals: Signals) -> list[Window]:
    """Every load, in the order of time; the whole log where nothing steps."""
    stride = max(1, len(time_s) // MAX_ROWS)
    thin = time_s[::stride]

    def columns(signal: Array | None) -> list[_Column]:
        if signal is None or len(thin) < 12:
            return []
        return [_Column.of(thin, column) for column in signal[::stride].T if np.isfinite(column).any()]

    power, wall = columns(signals.power), columns(signals.wall)
    told = _levels(power, "power") + _levels(columns(signals.use), "use") + _levels(columns(signals.clock), "clock")
    told += _edges(thin, columns(signals.temperature))
    for signs, levels in (
        (told, power),
        (_levels(wall, "power"), wall),
        (_edges(thin, columns(signals.others)), []),
    ):
        found = list(_stretches(thin, signs, [column.values for column in levels]))
        if found:
            return [_on_rows(window, stride, time_s) for window in found]
    return [Window(0, len(time_s) - 1, float(time_s[0]), float(time_s[-1]), WHOLE)]


def load_window(time_s: Array, signals: Signals) -> Window:
    """The longest load."""
    return max(load_windows(time_s, signals), key=lambda window: window.minutes)


def _on_rows(window: Window, stride: int, time_s: Array) -> Window:
    if stride == 1:
        return window
    last = min(window.last * stride, len(time_s) - 1)
    return Window(window.first * stride, last, window.start_s, float(time_s[last]), window.by)


@dataclass(frozen=True)
class _Column:
    """A channel without its noise, missing rows filled in, and the rows before its first and behind its last figure."""

    values: Array
    outside: Mask

    @classmethod
    def of(cls, time_s: Array, signal: Array) -> "_Column":
        rows = np.arange(len(signal))
        good = np.flatnonzero(np.isfinite(signal))
        filled = np.interp(rows, good, signal[good])
        step = max(float(np.median(np.diff(time_s))), 1e-3)
        size = int(min(max(3, SMOOTHING_S / step), max(3, len(signal) // 10))) | 1
        smooth = np.asarray(median_filter(filled, size=size, mode="nearest"), dtype=np.float64)
        return cls(smooth, (rows < good[0]) | (rows > good[-1]))


@dataclass(frozen=True)
class _Sign:
    """Rows at which a channel is at load, rows of which it says nothing, and what it is."""

    on: Mask
    outside: Mask
    by: str


def _levels(columns: list[_Column], by: str) -> list[_Sign]:
    """Channels that step at all, at load above a share of their way."""
    ends = [np.quantile(column.values[~column.outside], (0.02, 0.95)) for column in columns]
    most = max((high - low for low, high in ends), default=0.0)
    return [
        _Sign(column.values > low + AT_LOAD * (high - low), column.outside, by)
        for column, (low, high) in zip(columns, ends, strict=True)
        if high - low >= max(CLEAR_STEP * abs(high), LARGE * most, 1e-9)
    ]


def _edges(time_s: Array, columns: list[_Column]) -> list[_Sign]:
    """Temperatures that are at load from a steep rise to the next steep fall."""
    step = max(float(np.median(np.diff(time_s))), 1e-3) if len(time_s) > 1 else 1.0
    ahead = max(1, round(EDGE_S / step))
    signs = []
    for column in columns:
        span = float(np.ptp(column.values))
        moved = column.values[ahead:] - column.values[:-ahead]
        if span >= LEAST_SPAN_K and len(moved) and float(np.max(moved)) >= SHARP * span:
            signs.append(_Sign(_between(_peaks(moved, ahead), len(column.values)), column.outside, "temperature"))
    return signs


def _peaks(moved: Array, apart: int) -> list[tuple[int, bool]]:
    """Rows where a steep change begins and whether it rises, the steepest of each neighbourhood."""
    floor = SHARP * float(np.max(np.abs(moved)))
    rising = max(floor, 0.4 * float(np.max(moved)))
    found: list[tuple[int, bool]] = []
    free = np.ones(len(moved), dtype=bool)
    for row in np.argsort(-np.abs(moved), kind="stable"):
        if abs(moved[row]) < (rising if moved[row] > 0 else floor):
            break
        if free[row]:
            found.append((int(row), bool(moved[row] > 0)))
            free[max(row - 2 * apart, 0) : row + 2 * apart + 1] = False
    return sorted(found)


def _between(events: list[tuple[int, bool]], rows: int) -> Mask:
    mask = np.zeros(rows, dtype=bool)
    end = rows
    for row, rises in reversed(events):
        if rises:
            mask[row:end] = True
        else:
            end = row + 1
    return mask


def _stretches(time_s: Array, signs: list[_Sign], levels: list[Array]) -> Iterator[Window]:
    """Loads of one state of all sources, parted where their watts step within one."""
    states = _unlike(time_s, signs)
    if not states:
        return
    code = np.stack(states).astype(np.int64).T @ (1 << np.arange(len(states)))
    bounds = [0, *(np.flatnonzero(np.diff(code)) + 1).tolist(), len(code)]
    if len(bounds) == 2 and code[0]:
        return
    total = np.sum(levels, axis=0) if levels else None
    for first, behind in pairwise(bounds):
        if code[first] and time_s[behind - 1] - time_s[first] >= SHORTEST_S:
            for start, end in _parted(time_s, total, first, behind):
                yield Window(start, end - 1, float(time_s[start]), float(time_s[end - 1]), signs[0].by)


def _unlike(time_s: Array, signs: list[_Sign]) -> list[Mask]:
    """States of which none says what another one does; where a channel says nothing, the others do."""
    step = max(float(np.median(np.diff(time_s))), 1e-3)
    anyone = np.any([sign.on & ~sign.outside for sign in signs], axis=0) if signs else np.zeros(0, dtype=bool)
    kept: list[Mask] = []
    for sign in signs:
        mask = np.where(sign.outside, anyone, sign.on)
        if mask.any() and all(np.sum(mask ^ other) * step > ALIKE_S * max(1, _runs(other)) for other in kept):
            kept.append(mask)
    return kept[:MOST_SIGNS]


def _runs(mask: Mask) -> int:
    return int(np.sum(np.diff(mask.astype(np.int8)) == 1)) + int(mask[0])


def _parted(time_s: Array, total: Array | None, first: int, behind: int) -> list[tuple[int, int]]:
    """A load's rows, parted where its watts rise to another level, or fall to one long after its burst."""
    if total is None:
        return [(first, behind)]
    step = max(float(np.median(np.diff(time_s))), 1e-3)
    size = max(1, round(STEP_OVER_S / step))
    inside = total[first:behind]
    if len(inside) < 4 * size:
        return [(first, behind)]
    summed = np.concatenate([[0.0], np.cumsum(inside)])
    means = (summed[size:] - summed[:-size]) / size
    change = means[size:] - means[:-size]
    level = np.maximum(means[size:], means[:-size])
    parts: list[int] = []
    for row in np.argsort(-np.abs(change / level), kind="stable"):
        cut = int(row) + size
        if abs(change[row]) < STEP_SHARE * level[row]:
            break
        edges = sorted({0, len(inside), *parts})
        before = max(edge for edge in edges if edge <= cut)
        after = min(edge for edge in edges if edge > cut)
        least = SHORTEST_S if change[row] > 0 else BURST_S
        if (cut - before) * step >= least and (after - cut) * step >= SHORTEST_S:
            parts.append(cut)
    edges = [0, *sorted(parts), len(inside)]
    return [(first + start, first + end) for start, end in pairwise(edges)]
