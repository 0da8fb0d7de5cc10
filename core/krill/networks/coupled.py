"""Flow and heat together: flows from temperatures and speeds, temperatures from flows, to 1e-4 K."""

from collections.abc import Callable
from dataclasses import dataclass, fields, replace
from functools import partial

import numpy as np
from numpy.typing import NDArray

from krill.components.coolant_parts import EdgeFigures
from krill.components.edges import EdgeGroup, Medium
from krill.components.figure_table import Values
from krill.components.radiator_table import AIR_HEAT_CAPACITY
from krill.document.build import Build
from krill.materials.fluids import Coolant, air_viscosity, coolant
from krill.networks.conductances import ConductanceModel
from krill.networks.flow import COARSE, TOLERANCE, FlowSolution
from krill.networks.flow_model import FlowModel, air_figures, coolant_figures, flow_model
from krill.networks.flow_structure import FlowStructure
from krill.networks.laws import LinkLaw
from krill.networks.pattern import Conductances, ThermalPattern
from krill.networks.row_status import RowStatus
from krill.networks.states import MachineStates, Shares
from krill.networks.throttling import Throttling
from krill.physics.atmosphere import air_density
from krill.physics.properties import FluidState
from krill.units import STANDARD_GRAVITY

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]

COUPLING_TOLERANCE_K = 1e-4
SPEED_TOLERANCE = 1e-5
MAX_ROUNDS = 80
#: rounds that shrink by more than this each are trusted to go on so
FAST_RATIO = 0.05
START_RISE_K = 8.0
#: what a fluid is taken to be between while rounds go on, C: a guess beyond it has no density
ON_THE_WAY_C = (-100.0, 1500.0)


@dataclass(frozen=True)
class Passage:
    """One round: temperatures (batch, node), flows, and the conductances they were solved with."""

    temperature: Array
    coolant: FlowSolution | None
    air: FlowSolution | None
    air_volume: Array | None  # m3/s of each edge at the density that enters it (batch, edge)
    speeds: dict[str, Array]
    power: Array
    conductance: Conductances
    laws: list[LinkLaw]
    streams: list[Array]
    matrix: Array  # in the form of the heat network: (place, batch)
    kept: Shares


@dataclass(frozen=True, kw_only=True)
class CoupledSolution(Passage):
    """The last round with its heat solved to the end; ``balance_w`` is what each row's heat misses by."""

    rounds: int
    balance_w: Array
    status: RowStatus


@dataclass(frozen=True)
class _LoopCoolant:
    """What fills a loop, and the edges and junctions that it fills."""

    fluid: Coolant
    edges: Indexes
    nodes: Indexes


def _coolants(build: Build, flow: FlowStructure) -> list[_LoopCoolant]:
    found = []
    for loop in build.loops:
        edges = np.flatnonzero(np.array(flow.circuit) == loop.id)
        nodes = np.unique(np.concatenate([flow.tail_nodes[edges], flow.head_nodes[edges]]))
        found.append(_LoopCoolant(coolant(loop.coolant.fluid, float(loop.coolant.mass_share)), edges, nodes))
    return found


class CoupledNetwork:
    """A build ready to be solved for a batch of machine states and figures."""

    def __init__(self, pattern: ThermalPattern, values: Values, states: MachineStates) -> None:
        self.structure = structure = pattern.structure
        self.build = structure.build
        self.values = values
        self.states = states
        self.pattern = pattern
        self.coolant_model = self._model(structure.coolant, coolant_figures)
        self.air_model = self._model(structure.air, air_figures)
        self.conductances = ConductanceModel(structure, self.pattern, values, states)
        self._loops = [] if structure.coolant is None else _coolants(self.build, structure.coolant)
        self._shares = [values(f"{item.address}/recirculated_share") for item in structure.mixed]
        self._speeds: dict[str, Array] = {}
        self._power: Array = np.zeros((values.batch, structure.nodes))
        self.throttling = Throttling(structure, values, states)
        self._full_power = self.throttling.full_power()
        self._kept = self.throttling.start(values.batch)
        self._coolant_groups: list[EdgeGroup] = []
        self._air_groups: list[EdgeGroup] = []

    def _model(
        self, flow: FlowStructure | None, figures: Callable[[Build, str, Values], EdgeFigures]
    ) -> FlowModel | None:
        if flow is None:
            return None
        return flow_model(flow, [figures(self.build, part, self.values) for part in flow.parts], self.values)

    def solve(self) -> CoupledSolution:
        """Steady temperatures and flows of every sample; the status says which settled, and why the others did not."""
        T = self._start()
        last: Passage | None = None
        status = RowStatus(self.values.batch, {})
        changes = [np.inf, np.inf]
        for rounds in range(1, MAX_ROUNDS + 1):
            now = self.step(T, last)
            moves = np.abs(now.temperature - T)
            told = {} if last is None else last.speeds | last.kept
            speeds = _largest_changes(now.speeds | now.kept, told)
            status = status.then(self._flow_status(now)).then(self._no_number(moves))
            waits = status.settled
            change, moved = _largest(moves.max(axis=1)[waits]), _largest((speeds * np.ones(len(T)))[waits])
            if (
                last is not None
                and _left_to_move(change, *changes) <= COUPLING_TOLERANCE_K
                and moved <= SPEED_TOLERANCE
            ):
                return self._settled(now, rounds, status)
            if not waits.all():
                now = replace(now, temperature=np.where(np.isfinite(moves), now.temperature, T))
            T, last, changes = now.temperature, now, [changes[1], change]
        lagging = np.logical_or(moves.max(axis=1) > COUPLING_TOLERANCE_K, speeds > SPEED_TOLERANCE)
        return self._settled(now, MAX_ROUNDS, status.then(RowStatus.after(lagging, partial(self._why_not, moves))))

    def _start(self) -> Array:
        """A first guess: a little over the rooms."""
        room = self.states.outside_c
        T = np.full((self.values.batch, self.structure.nodes), np.mean(room) + START_RISE_K if room.size else 30.0)
        T[:, self.pattern.given] = room
        return T

    def _why_not(self, moves: Array, row: int) -> str:
        worst = int(np.argmax(moves[row]))
        return (
            f"flow and heat did not settle together in {MAX_ROUNDS} rounds; '{self.structure.node_names[worst]}' still "
            f"moves by {moves[row, worst]:.2g} K; look at the fan curves that follow a temperature, and at air that only "
            "warmth moves"
        )

    def _no_number(self, moves: Array) -> RowStatus:
        """Which rows' temperatures became no number in a round."""
        lost = np.asarray(~np.isfinite(moves).all(axis=1), dtype=bool)
        names = self.structure.node_names
        return RowStatus.after(
            lost, lambda row: f"the temperature of '{names[int(np.argmin(np.isfinite(moves[row])))]}' is no number"
        )

    def _flow_status(self, now: Passage) -> RowStatus:
        """Which rows' flows settled in a round."""
        status = RowStatus(self.values.batch, {})
        for model, found in ((self.coolant_model, now.coolant), (self.air_model, now.air)):
            if model is not None and found is not None and not found.report.settled.all():
                why_not, report = model.network.why_not, found.report
                status = status.then(RowStatus.after(~report.settled, partial(why_not, report)))
        return status

    def _settled(self, last: Passage, rounds: int, status: RowStatus) -> CoupledSolution:
        """The last round with its heat solved to the end: energy closes to 1e-6 of the watts where a row settles."""
        network = self.pattern.network
        T, report = network.steady(last.temperature, last.matrix, last.power, last.laws)
        if not report.settled.all():
            status = status.then(RowStatus.after(~report.settled, partial(network.why_not, report)))
        kept = {f.name: getattr(last, f.name) for f in fields(last)} | {"temperature": T}
        return CoupledSolution(**kept, rounds=rounds, balance_w=report.left, status=status)

    def step(self, T: Array, last: Passage | None) -> Passage:
        """One round: flows at the temperatures T, then the temperatures that those flows give."""
        self._tell_speeds(T, last)
        now = self._at(T, last)
        new, power = self._heat_step(T, now.matrix, now.laws)
        return replace(now, temperature=new, power=power, kept=self._kept)

    def frozen(self, T: Array, speeds: dict[str, Array], kept: Shares, last: Passage | None) -> Passage:
        """Flows, conductances and watts at temperatures, speeds and shares of watts as they are at a moment."""
        if speeds is not self._speeds:
            self._speeds = speeds
            self._group_edges()
        self._power = self.power(speeds, kept)
        self._kept = kept
        return self._at(T, last)

    def power(self, speeds: dict[str, Array], kept: Shares) -> Array:
        """Watts into each heat node at speeds and shares; given temperatures at the outside ones. (batch, node)"""
        return self.states.node_power(self.structure, speeds, self.pattern, kept)

    def _at(self, T: Array, last: Passage | None) -> Passage:
        """Flows at the temperatures T and what follows from them, before any heat is moved."""
        fluid_c = np.clip(T, *ON_THE_WAY_C)
        liquid = self._coolant_state(fluid_c)
        coolant_flow = self._solve_coolant(liquid, last)
        air_state = self._air_state(fluid_c, last)
        air_flow = self._solve_air(fluid_c, air_state, last)
        streams = []
        if coolant_flow is not None and liquid is not None:
            streams.append(coolant_flow.mass_flow * liquid.heat_capacity)
        if air_flow is not None:
            streams.append(air_flow.mass_flow * AIR_HEAT_CAPACITY)
        volume = None if air_flow is None or air_state is None else air_flow.mass_flow / air_state.density
        conductance = self.conductances.at(T, streams, coolant_flow, air_flow, liquid)
        entries = self.pattern.entries(streams, conductance)
        matrix = self.pattern.network.matrix(np.broadcast_to(entries, (T.shape[0], entries.shape[1])))
        self._mix(matrix)
        laws = self.conductances.laws(conductance, air_flow)
        return Passage(
            T, coolant_flow, air_flow, volume, self._speeds, self._power, conductance, laws, streams, matrix, self._kept
        )

    def _heat_step(self, T: Array, matrix: Array, laws: list[LinkLaw]) -> tuple[Array, Array]:
        """Temperatures a full Newton step on, and the watts that they stand for: those left where sources throttle."""
        network = self.pattern.network
        r, J = network.residual(T, matrix, self._power, laws)
        new = T - network.solve(J, r)
        if not self.throttling:
            return new, self._power
        warmed = {source: -network.solve(J, power) for source, power in self._full_power.items()}
        before, self._kept = self._kept, self.throttling.kept(self._kept, new, warmed)
        power = self._power
        for source, share in self._kept.items():
            less = (share - before[source])[:, None]
            new, power = new + less * warmed[source], power + less * self._full_power[source]
        return new, power

    def _mix(self, matrix: Array) -> None:
        """Rows of mixed intakes: a share of what the exhaust ends with, the rest from outside."""
        for item, share in zip(self.structure.mixed, self._shares, strict=True):
            at = self.pattern.network.at
            matrix[at(item.node, item.exhaust)] += share
            matrix[at(item.node, item.outside)] += 1.0 - share

    def _tell_speeds(self, T: Array, last: Passage | None) -> None:
        """Speeds, watts and edge groups of a round, worked out once where no mover follows a temperature."""
        if last is not None and not self.states.follows_temperature:
            if self.throttling:
                self._power = self.power(self._speeds, self._kept)
            return
        self._speeds = self.states.speeds(T, self.structure, None if last is None else last.speeds)
        self._power = self.power(self._speeds, self._kept)
        self._group_edges()

    def _group_edges(self) -> None:
        self._coolant_groups = [] if self.coolant_model is None else self.coolant_model.groups_at(self._speeds)
        self._air_groups = [] if self.air_model is None else self.air_model.groups_at(self._speeds)

    def _solve_coolant(self, liquid: FluidState | None, last: Passage | None) -> FlowSolution | None:
        if self.coolant_model is None or liquid is None:
            return None
        medium = Medium(liquid.density, liquid.viscosity)
        start = last.coolant.mass_flow if last and last.coolant else None
        return self.coolant_model.solve(self._coolant_groups, medium, start, tolerance=_tolerance(last))

    def _coolant_state(self, T: Array) -> FluidState | None:
        """What flows through each edge at its loop's mean temperature, each property (batch, edge)."""
        flow = self.structure.coolant
        if flow is None:
            return None
        properties = np.empty((4, T.shape[0], flow.graph.edges))
        for loop in self._loops:
            state = loop.fluid.state(T[:, loop.nodes].mean(axis=1))
            of_loop = [getattr(state, field.name) for field in fields(FluidState)]
            properties[:, :, loop.edges] = np.stack(of_loop)[:, :, None]
        return FluidState(*properties)

    def _air_state(self, T: Array, last: Passage | None) -> Medium | None:
        """Air that enters each edge, from whichever end it comes."""
        flow = self.structure.air
        if flow is None:
            return None
        inlet = T[:, flow.tail_nodes]
        if last is not None and last.air is not None:
            inlet = np.where(last.air.mass_flow >= 0.0, inlet, T[:, flow.head_nodes])
        return Medium(air_density(inlet, self.states.pressure_pa[:, None]), air_viscosity(inlet))

    def _solve_air(self, T: Array, medium: Medium | None, last: Passage | None) -> FlowSolution | None:
        if self.air_model is None or medium is None:
            return None
        start = last.air.mass_flow if last and last.air else None
        return self.air_model.solve(self._air_groups, medium, start, self.draught(T), _tolerance(last))

    def draught(self, T: Array) -> Array | None:
        """What columns of air lighter or heavier than the first outside zone's ask of each edge, Pa (batch, edge)."""
        flow = self.structure.air
        if flow is None or not (flow.rise.any() or flow.fall.any()):
            return None
        pressure = self.states.pressure_pa[:, None]
        outside = air_density(T[:, self.pattern.given[:1]] if self.pattern.given.size else T[:, :1], pressure)
        weight = (air_density(T[:, flow.tail_nodes], pressure) - outside) * flow.rise
        weight = weight + (air_density(T[:, flow.head_nodes], pressure) - outside) * flow.fall
        return np.asarray(STANDARD_GRAVITY * weight)


def _tolerance(last: Passage | None) -> float:
    """Flows of the first round stand at guessed temperatures: a coarse answer is a start for the next."""
    return COARSE if last is None else TOLERANCE


def _largest(values: Array) -> float:
    return float(values.max(initial=0.0))


def _left_to_move(change: float, older: float, last: float) -> float:
    """Kelvins that further rounds would still move, from the changes of this round and the two before.

    The change itself; or, where both rounds shrank fast, twice the rest of their series.
    """
    if not np.isfinite(older) or last <= 0.0:
        return change
    ratio = max(change / last, last / older)
    return 2.0 * change * ratio / (1.0 - ratio) if ratio < FAST_RATIO else change


def _largest_changes(new: dict[str, Array], old: dict[str, Array]) -> Array:
    """By how much any speed moved, (batch or 1,); of one that was not there, nothing."""
    found = np.zeros(1)
    for mover, speed in new.items():
        if mover in old and speed is not old[mover]:
            found = np.maximum(found, np.abs(speed - old[mover]))
    return found
