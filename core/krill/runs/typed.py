"""Typed readings: what a person read off, with a wider band, on the same road to a verdict."""

from dataclasses import dataclass

import numpy as np

from krill.document.build import Build
from krill.runs.as_run import speeds_and_watts
from krill.runs.measured import MeasuredRun
from krill.runs.verdict import BAND_OF_READING_K, Measured

#: the hottest core's highest reading of a game-like run over its own mean, K (90 %; weak)
PEAK_OVER_MEAN_K, PEAK_DOUBT_K = 8.0, 4.0
ROOM_ROLE = "room/air"
RISING_K = 1.0
#: what a machine that waited for an unknown while may be off what it settles at (estimate)
IDLE_DOUBT_K = 2.0
WINDOW_MIN = 30.0


@dataclass(frozen=True)
class TypedReading:
    """Minute of the run, role, kind (now, highest, mean), value, and whether the load was still on."""

    minute: float
    role: str
    kind: str
    value: float
    load_on: bool

    @property
    def is_before(self) -> bool:
        """Read of the waiting machine, before the load."""
        return not self.load_on and self.minute <= 0


def peaky_roles(build: Build, workload: str) -> frozenset[str]:
    """Roles whose highest reading lies far over their mean: hottest cores under a game-like load, few of them busy."""
    load = next(item for item in build.workloads if item.id == workload)
    places = [place for place, _ in build.place_owners().values() if place.temperature_kind == "hottest_core"]
    return frozenset(f"{place.id}/temperature" for place in places if load.cores == "few")


#: what a person may type besides temperatures, which override the build: unit and range
OTHERS = {"speed": ("rpm", 0.0, 30_000.0), "power": ("W", 0.0, 5_000.0)}
TEMPERATURE_RANGE_C = (-50.0, 200.0)


def allowed_of(role: str) -> tuple[str, float, float]:
    """Unit, least and most of what may be typed of a role."""
    return OTHERS.get(_statistic(role), ("°C", *TEMPERATURE_RANGE_C))


def _statistic(role: str) -> str:
    return role.rpartition("/")[2]


def measured_from_readings(
    readings: list[TypedReading], workload: str, peaky: frozenset[str] = frozenset()
) -> MeasuredRun:
    """One measured value a role from its last reading under load, and a sentence for each left out or put right.

    Speeds and watts that were read while the load was on override the build's; the room is kept apart.

    One without load at minute 0 is of the waiting machine. A mean is preferred to a reading of the moment, that to a
    highest one. Where the last two readings of the moment still differ, the band is widened by the difference: the part
    was not settled.
    """
    measured: list[Measured] = []
    excluded: list[str] = []
    warm = [reading for reading in readings if _statistic(reading.role) not in OTHERS and reading.role != ROOM_ROLE]
    waiting = [reading for reading in warm if reading.is_before]
    for role in dict.fromkeys(reading.role for reading in warm):
        own = [reading for reading in warm if reading.role == role and not reading.is_before]
        under_load = [reading for reading in own if reading.load_on]
        late = len(own) - len(under_load)
        if late:
            excluded.append(f"{role}: {late} read after the load ended")
        if not under_load:
            continue
        kind = next(kind for kind in ("mean", "now", "highest") if any(r.kind == kind for r in under_load))
        same = sorted((r for r in under_load if r.kind == kind), key=_minute)
        half = BAND_OF_READING_K[kind]
        drift = same[-1].value - same[-2].value if len(same) > 1 and kind == "now" else 0.0
        rising = abs(drift) > RISING_K and same[-1].minute - same[-2].minute < WINDOW_MIN
        if rising:
            half += abs(drift)
            excluded.append(f"{role}: still {'rising' if drift > 0 else 'falling'} between the last two readings")
        value = same[-1].value
        if kind == "highest" and role in peaky:
            value, half = value - PEAK_OVER_MEAN_K, float(np.hypot(half, PEAK_DOUBT_K))
            over = f"{PEAK_OVER_MEAN_K:.0f} ± {PEAK_DOUBT_K:.0f} K over its mean (weak)"
            excluded.append(f"{role}: the highest reading of a hottest core lies {over}; it is taken as {value:.1f} °C")
        elif kind == "highest":
            excluded.append(f"{role}: a highest reading lies above the mean; its band is wide")
        measured.append(Measured(role, value, half, not rising))
    speeds, watts = speeds_and_watts(_means_under_load(readings), workload)
    room = [reading.value for reading in sorted(readings, key=_minute) if reading.role == ROOM_ROLE]
    return MeasuredRun(measured, excluded, speeds, watts, _idle(waiting), room)


def _minute(reading: TypedReading) -> float:
    return reading.minute


def _means_under_load(readings: list[TypedReading]) -> dict[str, float]:
    """Means of what overrides the build, by role: speeds and watts while the load was on."""
    found: dict[str, list[float]] = {}
    for reading in readings:
        if reading.load_on and _statistic(reading.role) in OTHERS:
            found.setdefault(reading.role, []).append(reading.value)
    return {role: float(np.mean(values)) for role, values in found.items()}


def _idle(readings: list[TypedReading]) -> list[Measured]:
    """The last reading of each role of the waiting machine, which nobody saw settle."""
    last = {reading.role: reading for reading in sorted(readings, key=_minute)}
    return [
        Measured(role, reading.value, float(np.hypot(BAND_OF_READING_K[reading.kind], IDLE_DOUBT_K)))
        for role, reading in last.items()
    ]
