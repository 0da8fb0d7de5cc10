"""What a logger beside a simulated machine writes down: rows through sensors, in sessions and batches, as they are sent."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.simulated_bench.faults import Fault
from krill.simulated_bench.machines import LivePlan, Truth

Array = NDArray[np.float64]

#: rows are lost, or come twice, for so long, s; of those lost so many of ten
AFFLICTED_S: Final = 150.0
LOST_OF_TEN: Final = 4
#: a clock that is set wrongly is off by this, and a logger needs so long to begin again, s
JUMP_S, AWAY_S = 3600.0, 25.0


@dataclass(frozen=True)
class Readings:
    """Rows of one machine through its sensors: (row, channel), NaN where a sensor said nothing."""

    time_s: Array
    roles: list[str]
    names: list[str]
    units: list[str]
    values: Array


@dataclass(frozen=True)
class Session:
    """A logger from its start to its end: seconds of the plan, on its own steady clock, and on its wall clock at each row."""

    key: str
    run_s: Array
    steady_s: Array
    clock_s: Array
    values: Array


def readings_of(truth: Truth, plan: LivePlan, machine: int = 0, seed: int = 1) -> Readings:
    """What the sensors of one machine of a batch show; one that is stuck shows what it last did."""
    rng = np.random.default_rng([seed, machine, 7])
    columns = []
    for role, sensor in truth.sensors.items():
        exact = sensor.values[:, machine]
        noisy = exact + sensor.noise * rng.standard_normal(len(exact))
        read = np.where(noisy < sensor.least, 0.0, np.round(np.round(noisy / sensor.step) * sensor.step, 4))
        for fault in plan.faults:
            if fault.kind == "sensor-stuck" and fault.on == role:
                since = int(np.searchsorted(truth.time_s, _at_s(plan, fault)))
                read[since:] = read[min(since, len(read) - 1)]
        columns.append(read)
    names = [sensor.name for sensor in truth.sensors.values()]
    units = [sensor.unit for sensor in truth.sensors.values()]
    return Readings(truth.time_s, list(truth.sensors), names, units, np.stack(columns, axis=1))


def sessions_of(readings: Readings, plan: LivePlan, seed: int = 1, clock_s: float = 0.0) -> Iterator[Session]:
    """The readings as a logger has them: one session, two where it was begun anew; its clock began at ``clock_s``."""
    rng = np.random.default_rng([seed, 11])
    times = readings.time_s
    kept = np.arange(len(times))
    jumped = np.zeros(len(times))
    begins_anew: float | None = None
    for fault in plan.faults:
        at = _at_s(plan, fault)
        afflicted = (times[kept] >= at) & (times[kept] < at + AFFLICTED_S)
        if fault.kind == "samples-dropped":
            lost = afflicted & (rng.integers(0, 10, len(kept)) < LOST_OF_TEN)
            kept = kept[~lost]
        elif fault.kind == "samples-doubled":
            kept = np.repeat(kept, 1 + afflicted.astype(int))
        elif fault.kind == "clock-jumps":
            jumped[times >= at] += JUMP_S
        elif fault.kind == "logger-restarts":
            begins_anew = at
            kept = kept[(times[kept] < at) | (times[kept] >= at + AWAY_S)]
    parts = [kept] if begins_anew is None else [kept[times[kept] < begins_anew], kept[times[kept] >= begins_anew]]
    for number, rows in enumerate(parts):
        if len(rows):
            steady = times[rows] - (0.0 if number == 0 else times[rows[0]])
            clock = clock_s + times[rows] + jumped[rows]
            yield Session(f"bench-{seed}-{number + 1}", times[rows], steady, clock, readings.values[rows])


def _at_s(plan: LivePlan, fault: Fault) -> float:
    return plan.load_on_s + 60.0 * fault.at_min
