"""Everything that one log says: what its channels are, its load window, and the settled value of each."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.runs.reading import Log
from krill.runs.recognise import Suggestion, suggest_roles
from krill.runs.settle import Settled, settle
from krill.runs.windows import Window, load_window

Array = NDArray[np.float64]

TEMPERATURES = ("temperature", "coolant_hot", "coolant_cold", "air")


@dataclass(frozen=True)
class ChannelResult:
    """One channel in the load window: its settled value where it is a temperature, else its mean."""

    name: str
    unit: str
    role: str
    mean: float
    peak: float
    settled: Settled | None
    sentence: str


@dataclass(frozen=True)
class LogAnalysis:
    window: Window
    channels: list[ChannelResult]
    room_start_c: float | None
    room_end_c: float | None


def roles_of(log: Log, build: Build | None) -> list[Suggestion]:
    """Suggested roles; without a build every channel is told apart by its unit only."""
    if build is not None:
        return suggest_roles(log.names, log.units, build)
    found = []
    for name, unit in zip(log.names, log.units, strict=True):
        kind = "temperature" if unit in ("°C", "C", "degC") or "temp" in name.lower() else "ignore"
        kind = "power" if unit == "W" else kind
        found.append(Suggestion(name, f"{name}/{kind}" if kind != "ignore" else "ignore", 0.5, []))
    return found


def resolution_of(values: Array) -> float:
    """Step of a sensor: the smallest difference between its readings, 0 where they are practically continuous."""
    distinct = np.unique(values[np.isfinite(values)][:20000])
    if len(distinct) < 2 or len(distinct) > 2000:
        return 0.0
    return float(np.round(np.min(np.diff(distinct)), 6))


def analyse(log: Log, roles: list[str], rows: tuple[int, int] | None = None) -> LogAnalysis:
    """Load window and settled values; ``roles`` one a channel, ``rows`` a window chosen by hand."""
    statistic = [role.rsplit("/", 1)[-1] for role in roles]
    window = (
        _chosen(log, rows)
        if rows
        else load_window(
            log.time_s, _sum(log, statistic, ("power", "wall_power", "load")), _mean(log, statistic, ("temperature",))
        )
    )
    inside = slice(window.first, window.last + 1)
    time_s = log.time_s[inside]
    channels = []
    for index, (name, unit, role) in enumerate(zip(log.names, log.units, roles, strict=True)):
        values = log.values[inside, index]
        if role == "ignore" or not np.any(np.isfinite(values)):
            continue
        found = settle(time_s, values, resolution_of(values)) if statistic[index] in TEMPERATURES else None
        says = found.sentence() if found is not None else ""
        channels.append(ChannelResult(name, unit, role, _late_mean(values), float(np.nanmax(values)), found, says))
    room = next((log.values[:, i] for i, role in enumerate(roles) if role == "room/air"), None)
    if room is None or not np.any(np.isfinite(room[inside])):
        return LogAnalysis(window, channels, None, None)
    ends = room[inside][np.isfinite(room[inside])]
    edge = max(1, len(ends) // 20)
    return LogAnalysis(window, channels, float(np.mean(ends[:edge])), float(np.mean(ends[-edge:])))


def _late_mean(values: Array) -> float:
    """Mean of the second half of the window: what a power or a speed came to after the burst."""
    half = values[len(values) // 2 :]
    return float(np.nanmean(half)) if np.any(np.isfinite(half)) else float(np.nanmean(values))


def _chosen(log: Log, rows: tuple[int, int]) -> Window:
    first, last = max(rows[0], 0), min(rows[1], len(log.time_s) - 1)
    return Window(first, last, float(log.time_s[first]), float(log.time_s[last]), "hand")


def _sum(log: Log, statistic: list[str], wanted: tuple[str, ...]) -> Array | None:
    for kind in wanted:
        columns = [i for i, s in enumerate(statistic) if s == kind]
        if columns:
            return np.asarray(np.nansum(log.values[:, columns], axis=1))
    return None


def _mean(log: Log, statistic: list[str], wanted: tuple[str, ...]) -> Array | None:
    columns = [i for i, s in enumerate(statistic) if s in wanted]
    if not columns:
        return None
    with np.errstate(invalid="ignore"):
        counts = np.sum(np.isfinite(log.values[:, columns]), axis=1)
        return np.asarray(
            np.where(counts > 0, np.nansum(log.values[:, columns], axis=1) / np.maximum(counts, 1), np.nan)
        )
