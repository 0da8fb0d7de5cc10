"""Finds the load window of a log by its powers, utilisation or temperatures."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import median_filter

Array = NDArray[np.float64]

MAX_ROWS = 20_000  # a longer log is looked at in strides
SHORTEST_S = 120.0
SMOOTHING_S = 30.0
CLEAR_STEP = 0.25  # of the high level; smaller steps are taken for one state


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


def load_window(time_s: Array, powers: Array | None, temperatures: Array | None) -> Window:
    """The longest stretch at load; the whole log where nothing steps.

    ``powers`` and ``temperatures`` are sums or means of channels (row,), NaN where missing. The temperature is used
    where there is no power: its rise starts the window and its fall ends it.
    """
    stride = max(1, len(time_s) // MAX_ROWS)
    if stride > 1:
        thin = load_window(time_s[::stride], *(s if s is None else s[::stride] for s in (powers, temperatures)))
        last = min(thin.last * stride, len(time_s) - 1) if thin.by != "the whole log" else len(time_s) - 1
        return Window(thin.first * stride, last, thin.start_s, float(time_s[last]), thin.by)
    whole = Window(0, len(time_s) - 1, float(time_s[0]), float(time_s[-1]), "the whole log")
    for signal, by in ((powers, "power"), (_load_from_temperature(time_s, temperatures), "temperature")):
        if signal is None or np.all(np.isnan(signal)):
            continue
        stretch = _longest_high(time_s, _smoothed(time_s, signal))
        if stretch is not None:
            first, last = stretch
            return Window(first, last, float(time_s[first]), float(time_s[last]), by)
    return whole


def _smoothed(time_s: Array, signal: Array) -> Array:
    rows = np.arange(len(signal))
    good = np.isfinite(signal)
    filled = np.interp(rows, rows[good], signal[good])
    step = max(float(np.median(np.diff(time_s))), 1e-3) if len(time_s) > 1 else 1.0
    size = int(min(max(3, SMOOTHING_S / step), max(3, len(signal) // 10))) | 1
    return np.asarray(median_filter(filled, size=size, mode="nearest"), dtype=np.float64)


def _longest_high(time_s: Array, signal: Array) -> tuple[int, int] | None:
    low, high = np.quantile(signal, (0.02, 0.95))
    if high - low < CLEAR_STEP * max(abs(high), 1e-9):
        return None
    above = signal > (low + high) / 2
    edges = np.flatnonzero(np.diff(np.concatenate([[0], above.astype(int), [0]])))
    stretches = edges.reshape(-1, 2)
    lengths = time_s[stretches[:, 1] - 1] - time_s[stretches[:, 0]]
    best = int(np.argmax(lengths))
    if lengths[best] < SHORTEST_S:
        return None
    return int(stretches[best, 0]), int(stretches[best, 1] - 1)


def _load_from_temperature(time_s: Array, temperatures: Array | None) -> Array | None:
    """1 from the steepest rise to the steepest fall of a temperature, else None."""
    if temperatures is None or len(time_s) < 12 or np.all(np.isnan(temperatures)):
        return None
    smooth = _smoothed(time_s, temperatures)
    slope = np.gradient(smooth, time_s)
    span = float(np.ptp(smooth))
    if span < 5.0:
        return None
    load = np.zeros(len(time_s))
    rise = int(np.argmax(slope))
    after = slope[rise:]
    fall = rise + int(np.argmin(after))
    ends = fall if after[fall - rise] < -0.3 * slope[rise] else len(time_s)
    load[rise:ends] = 1.0
    if rise == 0:
        load[0] = 0.0
    return load
