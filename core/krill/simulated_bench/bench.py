"""A bench that stands in for sensors and meters: a build's own network in time, with hidden deviations.

Node capacities, flows quasi-steady in each phase, scipy's BDF. Sensors have a resolution and noise.
"""

import csv
import io
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import partial

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable
from krill.document.addresses import watts_address
from krill.document.build import Build, Workload
from krill.document.figures import detail
from krill.document.parts import Source
from krill.networks.states import Case
from krill.prediction.answer.capacities import node_capacities
from krill.prediction.answer.shared import loop_nodes
from krill.prediction.answer.solving import Solved, solve_cases
from krill.prediction.answer.workload_states import idle_of
from krill.records import inert
from krill.simulated_bench.control import BAND_K, Held, PowerLimit, clock_mhz, held_sources

Array = NDArray[np.float64]

#: sources of less watts show no clock
LEAST_CLOCKED_W = 25.0


@dataclass(frozen=True)
class BenchPlan:
    """What is run: idle, load for a while, idle again; in a room that may drift, under limits of its watts."""

    workload: str
    room_c: float
    load_min: float = 60.0
    lead_in_min: float = 5.0
    after_min: float = 4.0
    step_s: float = 2.0
    room_drift_k: float = 0.4
    seed: int = 1
    machine: int | None = None  # seed of what is hidden; that of the sensors unless told
    hidden_spread: float = 1.0
    hidden: dict[str, float] = field(default_factory=dict)  # address -> factor on the figure
    limits: tuple[PowerLimit, ...] = ()
    clocks: bool = False  # also write down the clock, and the limit that is told, of every source

    def exactly(self) -> "BenchPlan":
        """The same without hidden deviations, in a room that stays as it is; sensors keep their noise."""
        return replace(self, hidden_spread=0.0, room_drift_k=0.0)


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
        writer.writerow(["Time [s]", *(inert(f"{name} [{self.units[name]}]") for name in self.channels)])
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
        limits = list(plan.limits) if workload is load else []
        solved = solve_cases(build, [Case(workload, plan.room_c)], 0, plan.seed, hidden)
        if T is None:
            T = solved.solution.temperature[0].copy()
        times = np.arange(start, start + 60 * minutes, plan.step_s)
        phase = _Phase(solved, times, held_sources(solved, limits))
        phase.track = _in_time(phase, T, plan)
        pieces.append(phase)
        if workload is load:
            settled = _settled(build, workload, plan, hidden)
        T, start = phase.track[-1], float(times[-1] + plan.step_s)
    return _measured(build, pieces, rng, settled, plan)


@dataclass
class _Phase:
    """A stretch of one workload: when, what was solved of it, which sources may be held back, and where it went."""

    solved: Solved
    times: Array
    held: list[Held]
    track: Array = field(default_factory=lambda: np.empty((0, 0)))

    def shares(self, source: str) -> Array:
        """Share of its watts that a source drew at each time."""
        known = next((held for held in self.held if held.source == source), None)
        if known is None:
            return np.ones(len(self.times))
        since = self.times - self.times[0]
        return np.array([known.share(float(t), T)[0] for t, T in zip(since, self.track, strict=True)])


def _settled(build: Build, load: Workload, plan: BenchPlan, hidden: dict[str, float]) -> dict[str, float]:
    """Where the nodes settle at the watts that the limits leave in the end."""
    known = dict(hidden)
    for limit in plan.limits:
        address = watts_address(load.id, limit.source)
        stated = float(detail(load.watts[limit.source]).value)
        known[address] = min(known.get(address, stated), float(limit.at(1e9)))
    solved = solve_cases(build, [Case(load, plan.room_c)], 0, plan.seed, known)
    return {name: float(solved.solution.temperature[0, i]) for i, name in enumerate(solved.structure.node_names)}


def hidden_figures(build: Build, plan: BenchPlan) -> dict[str, float]:
    """True figures of the simulated machine, SI by address."""
    table = FigureTable(build)
    drawn = machine_draws(table, plan.seed if plan.machine is None else plan.machine, 1, plan.hidden_spread)
    true = {address: float(values[0]) for address, values in drawn.items()}
    for address, factor in plan.hidden.items():
        true[address] = table.figures[address].value * factor
    return true


def machine_draws(table: FigureTable, seed: int, count: int, spread: float) -> dict[str, Array]:
    """True figures of machines, SI by address, (machine,): drawn from the tolerances, their deviations times ``spread``."""
    central = {address: figure.value for address, figure in table.figures.items()}
    drawn = table.draws(10_000 + seed, count)
    return {address: central[address] + spread * (values - central[address]) for address, values in drawn.items()}


def _in_time(phase: _Phase, start: Array, plan: BenchPlan) -> Array:
    solved, times = phase.solved, phase.times
    network, solution = solved.network.pattern.network, solved.solution
    C = node_capacities(solved.network)[0]
    given = solved.network.pattern.given
    states = solved.network.states
    full = (
        states.node_power(solved.structure, solution.speeds, solved.network.pattern, {})
        if phase.held
        else solution.power
    )

    def heat(t: float, T: Array) -> tuple[Array, Array]:
        drift = plan.room_drift_k * np.sin(2 * np.pi * t / 5400.0)
        power = full[:1].copy()
        slopes: list[tuple[Array, int]] = []
        for held in phase.held:
            share, by = held.share(t - float(times[0]), T)
            power[0] -= (1.0 - share) * held.on_nodes
            if by is not None:
                slopes.append((-held.on_nodes / BAND_K, by))
        power[:, given] = plan.room_c + drift
        r, J = network.residual(T[None, :], solution.matrix[:, :1], power, solution.laws)
        dense = network.dense(J)[0]
        for slope, node in slopes:
            dense[:, node] += slope
        return r[0], dense

    from scipy.integrate import solve_ivp  # half a second, and only the simulated bench needs it

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
    build: Build, pieces: list[_Phase], rng: np.random.Generator, settled: dict[str, float], plan: BenchPlan
) -> BenchLog:
    time_s = np.concatenate([phase.times for phase in pieces])
    T = np.concatenate([phase.track for phase in pieces])
    first = pieces[0].solved
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
    if plan.clocks:
        _read_clocks(build, pieces, sensors, plan)
    return BenchLog(time_s, sensors.channels, sensors.units, sensors.roles, settled)


def _by_phase(pieces: list[_Phase], value: Callable[[Solved], float]) -> Array:
    return np.concatenate([np.full(len(phase.times), value(phase.solved)) for phase in pieces])


def _drawn_watts(pieces: list[_Phase], source: str) -> Array:
    """Watts of a source over time, what it was held back by counted."""
    return np.concatenate([float(p.solved.network.states.watts(source)[0]) * p.shares(source) for p in pieces])


def _read_powers(build: Build, pieces: list[_Phase], sensors: _Sensors) -> None:
    for part in build.heat_sources():
        if part.kind == "source":
            watts = _drawn_watts(pieces, part.id)
            wavering = watts * (1 + 0.01 * sensors.rng.standard_normal(len(watts)))
            sensors.read(f"{part.name or part.id} power", "W", f"{part.id}/power", wavering, 0.2, 0.1)


def _read_clocks(build: Build, pieces: list[_Phase], sensors: _Sensors, plan: BenchPlan) -> None:
    told = {limit.source: limit for limit in plan.limits if limit.told}
    load = next(phase for phase in pieces if any(h.limit for h in phase.held)) if told else pieces[0]
    for part in build.parts:
        if not isinstance(part, Source):
            continue
        name = part.name or part.id
        asked = max(float(phase.solved.network.states.watts(part.id)[0]) for phase in pieces)
        if asked < LEAST_CLOCKED_W and part.id not in told:
            continue
        clock = clock_mhz(part.id, _drawn_watts(pieces, part.id) / max(asked, 1e-9))
        sensors.read(f"{name} clock", "MHz", f"{part.id}/clock", clock, 8.0, 5.0)
        if part.id in told:
            since = np.concatenate([phase.times for phase in pieces]) - load.times[0]
            sensors.read(f"{name} power limit", "W", f"{part.id}/limit", told[part.id].at(since), 0.0, 1.0)


def _read_speeds(pieces: list[_Phase], sensors: _Sensors) -> None:
    def rpm(solved: Solved, key: str) -> float:
        return float(solved.solution.speeds[key][0]) * float(solved.network.values(f"{key}/rated_rpm").flat[0])

    for mover in pieces[0].solved.network.states.movers:
        values = _by_phase(pieces, partial(rpm, key=mover.id))
        sensors.read(f"{mover.name or mover.id} {mover.kind} speed", "rpm", f"{mover.id}/speed", values, 6.0, 1.0)
