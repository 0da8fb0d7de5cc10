"""Machines of one build in time, each with deviations of its own, and what goes wrong with them: one march for all."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable
from krill.document.addresses import watts_address
from krill.document.build import Build, FanCurve, Workload
from krill.document.parts import Mover, Source
from krill.document.reading import read_object
from krill.in_time.flatter import with_curves
from krill.in_time.legs import Leg
from krill.in_time.march import March, Marched
from krill.in_time.room import Room
from krill.in_time.track import Track
from krill.networks.coupled import CoupledNetwork, CoupledSolution
from krill.networks.states import Case, duty_address
from krill.prediction.answer.capacities import node_capacities
from krill.prediction.answer.solving import Solved, network_of, solve_cases
from krill.prediction.answer.workload_states import idle_of
from krill.runs.quantities import predicted_of
from krill.simulated_bench.bench import LEAST_CLOCKED_W, machine_draws
from krill.simulated_bench.control import clock_mhz
from krill.simulated_bench.faults import Fault
from krill.simulated_bench.seen import FREE, clogged_to

Array = NDArray[np.float64]

#: a pump that turns in air runs this much faster, and moves so much of its flow
UNLOADED, LOCKED_SHARE = 1.04, 0.06
#: a filter clogs by way of these shares that are left free, in steps of so many minutes
CLOGGING, CLOGS_MIN = (0.75, 0.5), 1.0
#: what is left of the watts, of the speeds
HELD_SHARE, SAGGED_SHARE = 0.72, 0.86
#: a room that drifts beside that it sways
DRIFT_K_H, SWAYS_K = 6.0, 0.3
#: a tachometer tells no slower turning
AT_REST_RPM: Final = 60.0
#: a room by itself
QUIET_ROOM_DBA: Final = 22.0
#: flows, sound and watts at the wall are looked at so often in a leg
LOOKED_AT: Final = 6
#: the march's own error, K: sensors step by more
TOLERANCE_K: Final = 0.05


@dataclass(frozen=True)
class LivePlan:
    """What machines run: idle, a load with what goes wrong in it, idle again; movers stay as the load has them."""

    workload: str
    room_c: float
    load_min: float = 60.0
    lead_in_min: float = 5.0
    after_min: float = 4.0
    step_s: float = 2.0
    faults: tuple[Fault, ...] = ()
    sways_k: float = SWAYS_K
    hidden_spread: float = 1.0

    def exactly(self) -> "LivePlan":
        """The same without hidden deviations, in a room that stays as it is; sensors keep their noise."""
        return replace(self, hidden_spread=0.0, sways_k=0.0)

    @property
    def load_on_s(self) -> float:
        return 60.0 * self.lead_in_min


@dataclass(frozen=True)
class Sensor:
    """A channel as the truth has it, (time, machine), with the noise and the step of what reads it; 0 below the least."""

    name: str
    unit: str
    values: Array
    noise: float
    step: float
    least: float = -np.inf


@dataclass(frozen=True)
class Truth:
    """What happened: seconds from the beginning, and every channel by its role."""

    time_s: Array
    sensors: dict[str, Sensor]


@dataclass(frozen=True)
class _Stage:
    """A stretch in which nothing is switched."""

    workload: Workload
    minutes: float
    bursts: bool
    faults: tuple[Fault, ...]
    clogged: int


@dataclass(frozen=True)
class _Walked:
    """A stage with its network, when it began and ended, s, and which moments of the track are its own."""

    stage: _Stage
    network: CoupledNetwork
    begins_s: float
    ends_s: float
    moments: slice


def run_machines(build: Build, plan: LivePlan, count: int = 1, seed: int = 1) -> Truth:
    """March ``count`` machines, drawn by ``seed`` from the stated tolerances, through a plan."""
    machines = _Machines(build, plan, count, seed)
    machines.march()
    return machines.truth()


def _followed(workload: Workload) -> dict[str, FanCurve]:
    """Curves that movers are told in a load."""
    return {mover: told.curve for mover, told in workload.movers.items() if told.curve is not None}


def _sagged(curve: FanCurve) -> FanCurve:
    """What a curve makes of a mover whose supply sags: as it warms from then on, no hysteresis holds it up."""
    points = [(at_c, float(duty) * SAGGED_SHARE) for at_c, duty in curve.points]
    return curve.model_copy(update={"points": points, "hysteresis_k": 0.0})


def _with_firmware(build: Build) -> Build:
    """The build with every source that has a throttle limit giving up watts at it, as firmware does."""
    raw = build.model_dump(mode="json", by_alias=True)
    for part in raw["parts"]:
        for place in part.get("places") or []:
            place["throttles"] = place["throttles"] or any(one["kind"] == "throttle" for one in place["limits"])
    return read_object(raw)


class _Machines:
    def __init__(self, build: Build, plan: LivePlan, count: int, seed: int) -> None:
        self._build, self._plan, self._count, self._seed = _with_firmware(build), plan, count, seed
        self._load = next(item for item in build.workloads if item.id == plan.workload)
        self._idle = idle_of(build, self._load)
        self._clogs = self._clogging()
        self._drawn = self._hidden()
        self._track = Track()
        self._walked: list[_Walked] = []
        self._settled: Solved | None = None

    def _hidden(self) -> dict[str, Array]:
        """What each machine is; a fan that does not start is a fault, and none was asked for."""
        table = FigureTable(self._build)
        self._central = {address: figure.value for address, figure in table.figures.items()}
        drawn = machine_draws(table, self._seed, self._count, self._plan.hidden_spread)
        return {address: values for address, values in drawn.items() if not address.endswith("/start_duty")}

    def _clogging(self) -> tuple[float, ...]:
        """Shares of a filter that are left free, one after the other."""
        clogs = next((fault.on for fault in self._plan.faults if fault.kind == "filter-clogs"), None)
        end = None if clogs is None else clogged_to(self._build, self._load.id, clogs)
        return (*CLOGGING, FREE[-1] if end is None else end)

    def march(self) -> None:
        start: Marched | None = None
        begins = 0.0
        for stage in self._stages():
            network = self._network(stage)
            if start is None:
                case = Case(stage.workload, self._plan.room_c)
                self._settled = solve_cases(self._build, [case], self._count, self._seed, draws=self._drawn)
                start = Marched(self._settled.solution.temperature.copy(), None, self._settled.network.states)
            leg = Leg((self._case(stage),), stage.minutes, stage.bursts)
            room, first = self._room(), len(self._track.moments)
            start = March(network, node_capacities(network), leg, start, room, TOLERANCE_K).run(self._track, begins)
            ends = begins + 60.0 * stage.minutes
            self._walked.append(_Walked(stage, network, begins, ends, slice(first, len(self._track.moments))))
            begins = ends

    def _room(self) -> Room:
        drifts = next((f for f in self._plan.faults if f.kind == "room-drifts"), None)
        room = Room(sways_k=self._plan.sways_k)
        if drifts is None:
            return room
        return replace(room, drift_k_h=DRIFT_K_H, drifts_from_s=self._plan.load_on_s + 60.0 * drifts.at_min)

    def _stages(self) -> Iterator[_Stage]:
        plan = self._plan
        if plan.lead_in_min > 0:
            yield _Stage(self._idle, plan.lead_in_min, False, (), 0)
        cuts = {0.0, plan.load_min}
        for fault in plan.faults:
            steps = len(self._clogs) if fault.kind == "filter-clogs" else 1
            cuts |= {fault.at_min + CLOGS_MIN * step for step in range(steps)}
        inside = sorted(cut for cut in cuts if 0.0 <= cut <= plan.load_min)
        for begins, ends in pairwise(inside):
            yield _Stage(self._load, ends - begins, begins == 0.0, self._active(begins), self._clogged(begins))
        if plan.after_min > 0:
            yield _Stage(self._idle, plan.after_min, False, self._active(plan.load_min), len(self._clogs))

    def _active(self, minute: float) -> tuple[Fault, ...]:
        return tuple(fault for fault in self._plan.faults if fault.at_min <= minute + 1e-9)

    def _clogged(self, minute: float) -> int:
        clogs = next((f for f in self._plan.faults if f.kind == "filter-clogs"), None)
        return 0 if clogs is None else int(np.clip((minute - clogs.at_min) / CLOGS_MIN + 1 + 1e-9, 0, len(self._clogs)))

    def _stopped(self, fault: Fault) -> set[str]:
        if fault.kind in ("pump-stops", "fan-stalls"):
            return {fault.on}
        if fault.kind != "feed-lost":
            return set()
        movers = [part for part in self._build.parts if isinstance(part, Mover)]
        return {part.id for part in movers if fault.on in self._build.feeds_above(part.feed)}

    def _case(self, stage: _Stage) -> Case:
        stopped = frozenset().union(*(self._stopped(fault) for fault in stage.faults))
        case = Case(stage.workload, self._plan.room_c, stopped=stopped)
        if any(fault.kind == "supply-sags" for fault in stage.faults):
            case = with_curves(case, {mover: _sagged(curve) for mover, curve in _followed(stage.workload).items()})
        return case

    def _network(self, stage: _Stage) -> CoupledNetwork:
        drawn = dict(self._drawn)
        for fault in stage.faults:
            drawn |= self._changed(fault, stage, drawn)
        return network_of(self._build, [self._case(stage)], self._count, self._seed, draws=drawn)

    def _changed(self, fault: Fault, stage: _Stage, drawn: dict[str, Array]) -> dict[str, Array]:
        """Figures that a fault gives other values."""

        def of(address: str) -> Array:
            return drawn.get(address, np.full(self._count, self._central[address]))

        if fault.kind == "filter-clogs" and stage.clogged:
            address = f"{fault.on}/area_cm2"
            return {address: of(address) * self._clogs[stage.clogged - 1]}
        if fault.kind == "throttles" and stage.workload is self._load:
            address = watts_address(self._load.id, fault.on)
            return {address: of(address) * HELD_SHARE}
        if fault.kind == "air-lock":
            return {duty_address(fault.on): self._speed_before(fault, fault.on) * LOCKED_SHARE}
        if fault.kind == "supply-sags":
            told = [part.id for part in self._build.parts if isinstance(part, Mover)]
            steady = [mover for mover in told if mover not in _followed(stage.workload)]
            return {duty_address(mover): self._speed_before(fault, mover) * SAGGED_SHARE for mover in steady}
        return {}

    def _speed_before(self, fault: Fault, mover: str) -> Array:
        """Share of rated speed just before a fault, (machine,)."""
        until = self._plan.load_on_s + 60.0 * fault.at_min
        told = [walked for walked in self._walked if walked.ends_s <= until + 1e-6]
        return self._track.moments[told[-1].moments.stop - 1].speeds[mover][1:] if told else np.ones(self._count)

    # what the sensors see

    def truth(self) -> Truth:
        end = self._walked[-1].ends_s
        times = np.arange(0.0, end + 1e-9, self._plan.step_s)
        sensors: dict[str, Sensor] = {}
        self._temperatures(times, sensors)
        self._powers(times, sensors)
        self._flows(times, sensors)
        self._speeds(times, sensors)
        self._swap(times, sensors)
        return Truth(times, sensors)

    def _temperatures(self, times: Array, sensors: dict[str, Sensor]) -> None:
        structure = self._walked[0].network.structure

        def at(nodes: list[int]) -> Array:
            return self._track.at(times, nodes)[:, 1:, :]

        for place, _ in self._build.place_owners().values():
            values = at([structure.node_of[place.id]])[:, :, 0]
            name = f"{place.name or place.id} temperature"
            sensors[f"{place.id}/temperature"] = Sensor(name, "°C", values, 0.25, 0.5)
        for loop in self._build.loops:
            assert structure.coolant is not None
            coolant = at(list(structure.coolant.nodes_of(loop.id)))
            name = loop.name or loop.id
            sensors[f"{loop.id}/coolant_hot"] = Sensor(f"{name} coolant hot", "°C", coolant.max(axis=2), 0.1, 0.1)
            sensors[f"{loop.id}/coolant_cold"] = Sensor(f"{name} coolant cold", "°C", coolant.min(axis=2), 0.1, 0.1)
        for zone in self._build.zones:
            if zone.kind == "box":
                air = at([structure.zone_nodes[zone.id]])[:, :, 0]
                sensors[f"{zone.id}/air"] = Sensor(f"{zone.name or zone.id} temperature", "°C", air, 0.15, 0.1)
        room = at([self._walked[0].network.pattern.given[0]])[:, :, 0]
        sensors["room/air"] = Sensor("Room temperature", "°C", room, 0.05, 0.1)

    def _held(self, times: Array, told: list[Array]) -> Array:
        """What each moment of the track says, held until the next one, (time, machine)."""
        known = np.searchsorted(self._track.times, times, side="right") - 1
        return np.stack(told)[np.clip(known, 0, len(told) - 1)][:, 1:]

    def _drawn_watts(self, times: Array, source: str) -> Array:
        """Watts that a source draws, bursts and what it gives up counted, (time, machine)."""
        ones = np.ones(self._count + 1)
        share = self._held(times, [moment.shares.get(source, ones) for moment in self._track.moments])
        watts = np.empty_like(share)
        for walked in self._walked:
            rows = (times >= walked.begins_s) & (times <= walked.ends_s)
            full = np.broadcast_to(walked.network.states.watts(source), (self._count + 1,))
            watts[rows] = full[1:]
        return share * watts

    def _powers(self, times: Array, sensors: dict[str, Sensor]) -> None:
        for part in self._build.parts:
            if not isinstance(part, Source):
                continue
            name, watts = part.name or part.id, self._drawn_watts(times, part.id)
            sensors[f"{part.id}/power"] = Sensor(
                f"{name} power", "W", watts, 0.01 * float(np.median(watts)) + 0.2, 0.1, 0.0
            )
            full = watts.max(axis=0)
            if full.max() >= LEAST_CLOCKED_W:
                clock = clock_mhz(part.id, watts / np.maximum(full, 1e-9))
                sensors[f"{part.id}/clock"] = Sensor(f"{name} clock", "MHz", clock, 8.0, 5.0)

    def _flows(self, times: Array, sensors: dict[str, Sensor]) -> None:
        """Flows of loops, watts at the wall and sound, looked at now and then and drawn through."""
        sources = [part.id for part in self._build.parts if isinstance(part, Source)]
        drawn = sum((self._drawn_watts(times, source) for source in sources), np.zeros((len(times), self._count)))
        read = {f"{loop.id}/flow": f"{loop.name or loop.id} flow" for loop in self._build.loops}
        read |= {"sound/level": "Sound level", "wall/wall_power": "Wall power"}
        for role, name in read.items():
            values = np.full((len(times), self._count), np.nan)
            for walked in self._walked:
                at, seen = self._looked_at(walked, role)
                rows = (times >= walked.begins_s) & (times <= walked.ends_s)
                for machine in range(self._count if at.size else 0):
                    values[rows, machine] = np.interp(times[rows], at, seen[:, machine])
            if role == "wall/wall_power":
                sensors[role] = Sensor(name, "W", values + drawn, 0.8, 0.5)
            elif role == "sound/level":
                heard = 10.0 * np.log10(10.0 ** (values / 10.0) + 10.0 ** (QUIET_ROOM_DBA / 10.0))
                sensors[role] = Sensor(name, "dBA", heard, 0.3, 0.1)
            else:
                sensors[role] = Sensor(name, "l/min", values, 0.02 * float(np.nanmedian(values)), 0.01, 0.0)

    def _looked_at(self, walked: _Walked, role: str) -> tuple[Array, Array]:
        """(times, (time, machine)) of what a role shows in a leg; at the wall without what the sources draw."""
        inside = self._track.moments[walked.moments]
        chosen = [inside[i] for i in np.unique(np.linspace(0, len(inside) - 1, LOOKED_AT).astype(int))]
        seen = []
        for moment in chosen:
            values = predicted_of(self._as_solved(walked, moment.T, moment.speeds, moment.shares), role)
            if values is None:
                return np.empty(0), np.empty((0, self._count))
            if role == "wall/wall_power":
                states = walked.network.states
                values = values - sum(
                    states.watts(part.id) * moment.shares.get(part.id, 1.0)
                    for part in self._build.parts
                    if isinstance(part, Source)
                )
            seen.append(values[1:])
        return np.array([moment.t for moment in chosen]), np.stack(seen)

    def _as_solved(self, walked: _Walked, T: Array, speeds: dict[str, Array], shares: dict[str, Array]) -> Solved:
        """A moment as the answer to a question, so that every reader of answers reads it."""
        network, known = walked.network, self._settled
        assert known is not None
        passage = network.frozen(T, speeds, shares, None)
        solution = CoupledSolution(
            **vars(passage), rounds=0, balance_w=known.solution.balance_w, status=known.solution.status
        )
        return replace(known, network=network, solution=solution, cases=[self._case(walked.stage)])

    def _speeds(self, times: Array, sensors: dict[str, Sensor]) -> None:
        for mover in (part for part in self._build.parts if isinstance(part, Mover)):
            share = self._held(times, [moment.speeds[mover.id] for moment in self._track.moments])
            rated = np.broadcast_to(self._walked[0].network.values(f"{mover.id}/rated_rpm"), (self._count + 1,))[1:]
            name = f"{mover.name or mover.id} {mover.kind} speed"
            values = share * rated
            for fault in self._plan.faults:
                if fault.kind == "air-lock" and fault.on == mover.id:
                    since = times >= self._plan.load_on_s + 60.0 * fault.at_min
                    values[since] *= UNLOADED / LOCKED_SHARE
            sensors[f"{mover.id}/speed"] = Sensor(name, "rpm", values, 6.0, 1.0, AT_REST_RPM)

    def _swap(self, times: Array, sensors: dict[str, Sensor]) -> None:
        """Two sensors whose leads are changed."""
        for fault in self._plan.faults:
            if fault.kind == "sensors-swapped":
                one, other = (sensors[role] for role in fault.on.split(","))
                since = times >= self._plan.load_on_s + 60.0 * fault.at_min
                kept = one.values[since].copy()
                one.values[since] = other.values[since]
                other.values[since] = kept
