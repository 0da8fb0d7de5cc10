"""A bench that stands in for sensors and meters: a build's own network in time, with hidden deviations.

Node capacities, flows quasi-steady in each phase, scipy's BDF. Sensors have a resolution and noise.
"""

import csv
import io
from collections.abc import Callable
from dataclasses import dataclass, field
from functools import partial
from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.integrate import solve_ivp

from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.networks.states import Case
from krill.prediction.answer.capacities import node_capacities
from krill.prediction.answer.shared import loop_nodes
from krill.prediction.answer.solving import Solved, solve_cases
from krill.prediction.answer.workload_states import idle_of

Array = NDArray[np.float64]


@dataclass(frozen=True)
class BenchPlan:
    """What is run: idle, load for a while, idle again; in a room that may drift."""

    workload: str
    room_c: float
    load_min: float = 60.0
    lead_in_min: float = 5.0
    after_min: float = 4.0
    step_s: float = 2.0
    room_drift_k: float = 0.4
    seed: int = 1
    hidden_spread: float = 1.0
    hidden: dict[str, float] = field(default_factory=dict)  # address -> factor on the figure


@dataclass(frozen=True)
class BenchLog:
    """Channels over time as a logger would write them, and the truth that made them."""

    time_s: Array
    channels: dict[str, Array]
    units: dict[str, str]
    roles: dict[str, str]
    settled_c: dict[str, float]

    def csv(self) -> str:
        """Delimited text: seconds, then one column a channel with its unit."""
        out = io.StringIO()
        writer = csv.writer(out, lineterminator="\n")
        writer.writerow(["Time [s]", *(f"{name} [{self.units[name]}]" for name in self.channels)])
        columns = [self.time_s, *self.channels.values()]
        for row in zip(*columns, strict=True):
            writer.writerow(["" if np.isnan(value) else f"{value:g}" for value in row])
        return out.getvalue()


def run_bench(build: Build, plan: BenchPlan) -> BenchLog:
    """Simulated log of a workload. The hidden figures are drawn from the stated tolerances, keyed by the seed."""
    hidden = hidden_figures(build, plan)
    load = next(item for item in build.workloads if item.id == plan.workload)
    idle = idle_of(build, load)
    phases = [(idle, plan.lead_in_min), (load, plan.load_min), (idle, plan.after_min)]
    phases = [(workload, minutes) for workload, minutes in phases if minutes > 0]
    rng = np.random.default_rng([plan.seed, 7])
    start, T, pieces = 0.0, None, []
    settled: dict[str, float] = {}
    for workload, minutes in phases:
        solved = solve_cases(build, [Case(workload, plan.room_c)], 0, plan.seed, hidden)
        if T is None:
            T = solved.solution.temperature[0].copy()
        times = np.arange(start, start + 60 * minutes, plan.step_s)
        track = _in_time(solved, T, times, plan)
        pieces.append((solved, times, track))
        if workload is load:
            names = solved.structure.node_names
            settled = {name: float(solved.solution.temperature[0, i]) for i, name in enumerate(names)}
        T, start = track[-1], float(times[-1] + plan.step_s)
    return _measured(build, pieces, rng, settled)


def hidden_figures(build: Build, plan: BenchPlan) -> dict[str, float]:
    """True figures of the simulated machine, SI by address."""
    table = FigureTable(build)
    drawn = table.draws(10_000 + plan.seed, 1)
    true = {}
    for address, value in drawn.items():
        central = table.figures[address].value
        true[address] = central + plan.hidden_spread * (float(value[0]) - central)
    for address, factor in plan.hidden.items():
        true[address] = table.figures[address].value * factor
    return true


def _in_time(solved: Solved, start: Array, times: Array, plan: BenchPlan) -> Array:
    network, solution = solved.network.pattern.network, solved.solution
    C = node_capacities(solved)
    given = solved.network.pattern.given
    power = solution.power[:1].copy()

    def heat(t: float, T: Array) -> tuple[Array, Array]:
        drift = plan.room_drift_k * np.sin(2 * np.pi * t / 5400.0)
        power[:, given] = plan.room_c + drift
        r, J = network.residual(T[None, :], solution.matrix[:, :1], power, solution.laws)
        return r[0], network.dense(J)[0]

    result = solve_ivp(
        lambda t, T: heat(t, T)[0] / C,
        (float(times[0]), float(times[-1])),
        start,
        method="BDF",
        t_eval=times,
        jac=lambda t, T: heat(t, T)[1] / C[:, None],
        rtol=1e-5,
        atol=1e-4,
        max_step=60.0,
    )
    return np.asarray(result.y.T)


def _sensor(rng: np.random.Generator, values: Array, noise: float, resolution: float) -> Array:
    return np.asarray(np.round((values + noise * rng.standard_normal(len(values))) / resolution) * resolution)


@dataclass
class _Sensors:
    """What a bench writes down: channels with unit and role, each read through a sensor of its own."""

    rng: np.random.Generator
    channels: dict[str, Array] = field(default_factory=dict)
    units: dict[str, str] = field(default_factory=dict)
    roles: dict[str, str] = field(default_factory=dict)

    def read(self, name: str, unit: str, role: str, values: Array, noise: float, resolution: float) -> None:
        self.channels[name] = np.round(_sensor(self.rng, values, noise, resolution), 3)
        self.units[name], self.roles[name] = unit, role


def _measured(
    build: Build,
    pieces: list[tuple[Any, Array, Array]],
    rng: np.random.Generator,
    settled: dict[str, float],
) -> BenchLog:
    time_s = np.concatenate([times for _, times, _ in pieces])
    T = np.concatenate([track for _, _, track in pieces])
    first = pieces[0][0]
    sensors = _Sensors(rng)
    names = first.structure.node_names
    for place, _ in build.place_owners().values():
        name, role = f"{place.name or place.id} temperature", f"{place.id}/temperature"
        sensors.read(name, "°C", role, T[:, names.index(place.id)], 0.25, 0.5)
    _read_powers(build, pieces, sensors)
    for loop in build.loops:
        nodes = loop_nodes(first, loop.id)
        sensors.read(f"{loop.name} coolant hot", "°C", f"{loop.id}/coolant_hot", T[:, nodes].max(1), 0.1, 0.1)
        sensors.read(f"{loop.name} coolant cold", "°C", f"{loop.id}/coolant_cold", T[:, nodes].min(1), 0.1, 0.1)
    for zone in build.zones:
        if zone.kind == "box":
            air = T[:, first.structure.zone_nodes[zone.id]]
            sensors.read(f"{zone.name} temperature", "°C", f"{zone.id}/air", air, 0.15, 0.1)
    _read_speeds(pieces, sensors)
    sensors.read("Room temperature", "°C", "room/air", T[:, first.network.pattern.given[0]], 0.05, 0.1)
    return BenchLog(time_s, sensors.channels, sensors.units, sensors.roles, settled)


def _by_phase(pieces: list[tuple[Any, Array, Array]], value: Callable[[Any], float]) -> Array:
    return np.concatenate([np.full(len(times), value(solved)) for solved, times, _ in pieces])


def _read_powers(build: Build, pieces: list[tuple[Any, Array, Array]], sensors: _Sensors) -> None:
    def drawn(solved: Any, key: str) -> float:
        return float(solved.network.states.watts(key)[0])

    for part in build.heat_sources():
        if part.kind == "source":
            watts = _by_phase(pieces, partial(drawn, key=part.id))
            wavering = watts * (1 + 0.01 * sensors.rng.standard_normal(len(watts)))
            sensors.read(f"{part.name or part.id} power", "W", f"{part.id}/power", wavering, 0.2, 0.1)


def _read_speeds(pieces: list[tuple[Any, Array, Array]], sensors: _Sensors) -> None:
    def rpm(solved: Any, key: str) -> float:
        return float(solved.solution.speeds[key][0]) * float(solved.network.values(f"{key}/rated_rpm").flat[0])

    for mover in pieces[0][0].network.states.movers:
        values = _by_phase(pieces, partial(rpm, key=mover.id))
        sensors.read(f"{mover.name or mover.id} {mover.kind} speed", "rpm", f"{mover.id}/speed", values, 6.0, 1.0)
