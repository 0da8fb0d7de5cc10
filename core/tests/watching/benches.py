"""Runs of the simulated bench for tests of what is seen of them: Heron with its fans locked, on one feed."""

import json
from functools import cache
from pathlib import Path

import numpy as np

from krill.document.build import Build
from krill.document.reading import read_object
from krill.simulated_bench.faults import Fault
from krill.simulated_bench.machines import LivePlan, Truth, run_machines
from krill.simulated_bench.readings import readings_of, sessions_of
from krill.watching.arrivals import Arrival, Came, arrivals_of, offset_of, repaired
from krill.watching.expected import Expected, expected_of
from krill.watching.samples import Samples

HERON = Path(__file__).parents[1] / "saved_documents/issue-2-heron.json"
ROOM_C = 24.0
LEAD_S = 300.0
BATCH = 15


@cache
def heron() -> Build:
    raw = json.loads(HERON.read_text())
    fans = [part for part in raw["parts"] if part["kind"] == "fan"]
    raw["feeds"] = [{"id": "fan-plug", "name": "Fan plug", "kind": "header", "class": "fan_plug"}]
    for fan in fans:
        fan["feed"] = "fan-plug"
    return read_object(raw)


@cache
def expected(samples: int = 0, minutes: float = 120.0) -> Expected:
    return expected_of(heron(), "both", ROOM_C, minutes, samples)


def plan_of(fault: Fault | None, load_min: float) -> LivePlan:
    return LivePlan("both", ROOM_C, load_min=load_min, faults=() if fault is None else (fault,))


@cache
def truth_of(fault: Fault | None, load_min: float, machines: int, seed: int = 7) -> tuple[LivePlan, Truth]:
    plan = plan_of(fault, load_min)
    return plan, run_machines(heron(), plan, machines, seed)


def seen(plan: LivePlan, truth: Truth, machine: int, until_s: float, seed: int = 7) -> tuple[Samples, list[Arrival]]:
    """What a server has of one machine by a time: samples on the run's clock, and what happened on the way."""
    readings = readings_of(truth, plan, machine, seed)
    came, offsets, last = [], {}, None
    times, values = [], []
    for part in sessions_of(readings, plan, machine, clock_s=1e9):
        for number, first in enumerate(range(0, len(part.steady_s), BATCH)):
            rows = slice(first, first + BATCH)
            steady, clock = part.steady_s[rows], float(part.clock_s[rows][-1])
            batch = Came(part.key, number, steady, clock, float(steady[-1]), float(part.run_s[rows][-1]))
            if part.key not in offsets:
                offsets[part.key] = offset_of(last, 0.0 if last is None else offsets[last.session], batch)
            if steady[-1] + offsets[part.key] <= until_s:
                came.append(batch)
                last = batch
        times.append(part.steady_s + offsets[part.key])
        values.append(part.values)
    time, table = np.concatenate(times), np.concatenate(values)
    rows = repaired(time)
    rows = rows[time[rows] <= until_s]
    return Samples(time[rows], readings.roles, table[rows]), arrivals_of(came, offsets, plan.step_s)
