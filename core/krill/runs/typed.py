"""Typed readings: what a person read off, with a wider band, on the same road to a verdict."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from krill.document.build import Build
from krill.prediction.questions.warm_up import WarmUpOfNode
from krill.runs.as_run import commands_and_watts
from krill.runs.measured import MeasuredRun, flows_of
from krill.runs.minuted import cooled_since, settled_by_minutes
from krill.runs.quantities_read import WARM, statistic_of
from krill.runs.run_document import Reading
from krill.runs.verdict import BAND_OF_READING_K, Measured

#: the hottest core's highest reading of a game-like run over its own mean, K (90 %; weak)
PEAK_OVER_MEAN_K, PEAK_DOUBT_K = 8.0, 4.0
ROOM_ROLE = "room/air"
RISING_K = 1.0
#: what a machine that waited for an unknown while may be off what it settles at (estimate)
IDLE_DOUBT_K = 2.0
WINDOW_MIN = 30.0
#: minuted readings of the moment from which on they are fitted as a log is
FITTED_FROM = 3

#: how the build warms up at a role, by its own network; None where it is not known
Ways = Callable[[str], WarmUpOfNode | None]


def peaky_roles(build: Build, workload: str) -> frozenset[str]:
    """Roles whose highest reading lies far over their mean: hottest cores under a game-like load, few of them busy."""
    load = next(item for item in build.workloads if item.id == workload)
    places = [place for place, _ in build.place_owners().values() if place.temperature_kind == "hottest_core"]
    return frozenset(f"{place.id}/temperature" for place in places if load.cores == "few")


def measured_from_readings(
    readings: list[Reading],
    workload: str,
    peaky: frozenset[str] = frozenset(),
    ways: Ways | None = None,
) -> MeasuredRun:
    """One measured value a role from its readings under load, and a sentence for each left out or put right.

    Speeds and watts that were read while the load was on override the build's; the room is kept apart. One without load
    at minute 0 is of the waiting machine. A mean is preferred to a reading of the moment, that to a highest one. Three
    or more of the moment are fitted by the build's own ``ways`` to warm up; of two that still differ the band is widened
    by the difference: the part was not settled. One that was read some seconds after the end is worked back by the same.
    """
    measured: list[Measured] = []
    excluded: list[str] = []
    warm = [r for r in readings if statistic_of(r.role) in WARM and r.role != ROOM_ROLE and r.value is not None]
    waiting = [reading for reading in warm if reading.is_before]
    for role in dict.fromkeys(reading.role for reading in warm):
        own = [reading for reading in warm if reading.role == role and not reading.is_before]
        found = _of_role(role, own, role in peaky, None if ways is None else ways(role))
        excluded += [f"{role}: {line}" for line in found.said]
        if found.measured is not None:
            measured.append(found.measured)
    means = means_under_load(readings)
    commands, watts = commands_and_watts(means, workload)
    room = [float(r.value) for r in sorted(readings, key=_minute) if r.role == ROOM_ROLE and r.value is not None]
    return MeasuredRun(measured, excluded, commands, watts, _idle(waiting), room, flows_of(means))


@dataclass(frozen=True)
class _OfRole:
    measured: Measured | None
    said: list[str]


def _of_role(role: str, own: list[Reading], peaky: bool, way: WarmUpOfNode | None) -> _OfRole:
    """What the readings of one role come to, and what was done to them."""
    under_load = [reading for reading in own if reading.load_on]
    ended = [reading for reading in own if not reading.load_on]
    worked_back = [r for r in ended if r.after_s is not None and way is not None] if not under_load else []
    late = len(ended) - len(worked_back)
    said = [f"{late} read after the load ended"] if late else []
    if worked_back and way is not None:
        last = worked_back[-1]
        drop, doubt = cooled_since(way, float(last.after_s or 0.0))
        half = float(np.hypot(BAND_OF_READING_K[last.kind], doubt))
        said.append(f"read {last.after_s:g} s after the end: {drop:.1f} ± {doubt:.1f} K added by how fast it cools")
        return _OfRole(Measured(role, float(last.value or 0.0) + drop, half, statistic=last.kind), said)
    if not under_load:
        return _OfRole(None, said)
    kind = next(kind for kind in ("mean", "now", "highest") if any(r.kind == kind for r in under_load))
    same = sorted((r for r in under_load if r.kind == kind), key=_minute)
    fitted = _fitted(role, same, way) if kind == "now" else None
    if fitted is not None:
        return _OfRole(fitted.measured, said + fitted.said)
    last_one = _last(role, same, kind, peaky)
    return _OfRole(last_one.measured, said + last_one.said)


def _fitted(role: str, same: list[Reading], way: WarmUpOfNode | None) -> _OfRole | None:
    minutes = sorted({float(r.minute) for r in same})
    if way is None or len(minutes) < FITTED_FROM or minutes[0] <= 0:
        return None
    found = settled_by_minutes(
        way,
        np.array([60.0 * r.minute for r in same]),
        np.array([float(r.value or 0.0) for r in same]),
        BAND_OF_READING_K["now"],
    )
    last = float(same[-1].value or 0.0)
    if abs(found.value - last) < RISING_K:
        return _OfRole(Measured(role, found.value, found.half_k), [])
    says = f"{len(same)} readings by the minute: it settles at {found.value:.1f} ± {found.half_k:.1f} °C"
    return _OfRole(Measured(role, found.value, found.half_k), [says])


def _last(role: str, same: list[Reading], kind: str, peaky: bool) -> _OfRole:
    """The last of readings of one kind, its band widened by what the last two differ."""
    half, said = BAND_OF_READING_K[kind], []
    values = [float(r.value or 0.0) for r in same]
    drift = values[-1] - values[-2] if len(same) > 1 and kind == "now" else 0.0
    rising = abs(drift) > RISING_K and same[-1].minute - same[-2].minute < WINDOW_MIN
    if rising:
        half += abs(drift)
        said.append(f"still {'rising' if drift > 0 else 'falling'} between the last two readings")
    value = values[-1]
    if kind == "highest" and peaky:
        value, half = value - PEAK_OVER_MEAN_K, float(np.hypot(half, PEAK_DOUBT_K))
        over = f"{PEAK_OVER_MEAN_K:.0f} ± {PEAK_DOUBT_K:.0f} K over its mean (weak)"
        said.append(f"the highest reading of a hottest core lies {over}; it is taken as {value:.1f} °C")
    elif kind == "highest":
        said.append("a highest reading lies above the mean; its band is wide")
    return _OfRole(Measured(role, value, half, not rising, kind), said)


def _minute(reading: Reading) -> float:
    return float(reading.minute)


def means_under_load(readings: list[Reading]) -> dict[str, float]:
    """Means of all figures but temperatures, by role, while the load was on."""
    found: dict[str, list[float]] = {}
    for reading in readings:
        if reading.load_on and reading.value is not None and statistic_of(reading.role) not in WARM:
            found.setdefault(reading.role, []).append(float(reading.value))
    return {role: float(np.mean(values)) for role, values in found.items()}


def _idle(readings: list[Reading]) -> list[Measured]:
    """The last reading of each role of the waiting machine, which nobody saw settle."""
    last = {reading.role: reading for reading in sorted(readings, key=_minute)}
    return [
        Measured(role, float(reading.value or 0.0), float(np.hypot(BAND_OF_READING_K[reading.kind], IDLE_DOUBT_K)))
        for role, reading in last.items()
    ]
