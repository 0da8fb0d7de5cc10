"""Flow and heat together: flows from temperatures and speeds, temperatures from flows, to 1e-4 K."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from krill.components.edges import Medium
from krill.components.figure_table import Values
from krill.components.radiator_table import AIR_HEAT_CAPACITY
from krill.document.build import Build
from krill.errors import NotConverged
from krill.materials.fluids import Coolant, air_viscosity, coolant
from krill.networks.conductances import ConductanceModel
from krill.networks.flow import FlowSolution
from krill.networks.flow_model import FlowModel, air_figures, coolant_figures, flow_model
from krill.networks.flow_structure import FlowStructure
from krill.networks.laws import LinkLaw
from krill.networks.pattern import Conductances, ThermalPattern
from krill.networks.states import MachineStates
from krill.numerics.newton import SolveReport
from krill.physics.atmosphere import air_density
from krill.physics.buoyancy import STANDARD_GRAVITY

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]

COUPLING_TOLERANCE_K = 1e-4
MAX_ROUNDS = 80
#: rounds that shrink by more than this each are trusted to go on so
FAST_RATIO = 0.05
START_RISE_K = 8.0


@dataclass(frozen=True)
class CoupledSolution:
    """Everything solved: temperatures (batch, node), flows, and the conductances they were solved with."""

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
    rounds: int
    report: SolveReport


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
        self._speeds: dict[str, Array] | None = None
        self._power: Array | None = None

    def _model(self, flow: FlowStructure | None, figures: object) -> FlowModel | None:
        if flow is None:
            return None
        assert callable(figures)
        return flow_model(flow, [figures(self.build, part, self.values) for part in flow.parts], self.values)

    def solve(self) -> CoupledSolution:
        """Steady temperatures and flows of every sample; NotConverged says what did not settle."""
        batch = self.values.batch
        room = self.states.outside_c
        T = np.full((batch, self.structure.nodes), np.mean(room) + START_RISE_K if room.size else 30.0)
        for column, node in enumerate(self.pattern.given):
            T[:, node] = room[:, column]
        solution: CoupledSolution | None = None
        changes = [np.inf, np.inf]
        for rounds in range(1, MAX_ROUNDS + 1):
            new = self.step(T, solution, rounds)
            moves = np.max(np.abs(new.temperature - T), axis=0)
            change = float(np.max(moves))
            moved = 0.0 if solution is None else _largest_change(new.speeds, solution.speeds)
            T, solution = new.temperature, new
            if _left_to_move(change, *changes) <= COUPLING_TOLERANCE_K and moved <= 1e-5:
                return self._settled(solution)
            changes = [changes[1], change]
        worst = int(np.argmax(moves))
        raise NotConverged(
            f"flow and heat did not settle together in {MAX_ROUNDS} rounds; '{self.structure.node_names[worst]}' still "
            f"moves by {change:.2g} K; look at the fan curves that follow a temperature, and at air that only warmth moves"
        )

    def _settled(self, solution: CoupledSolution) -> CoupledSolution:
        """The last round with its heat solved to the end: energy closes to 1e-6 of the watts, or NotConverged."""
        T, report = self.pattern.network.steady(solution.temperature, solution.matrix, solution.power, solution.laws)
        return replace(solution, temperature=T, report=report)

    def step(self, T: Array, last: CoupledSolution | None, rounds: int = 1) -> CoupledSolution:
        """One round: flows at the temperatures T, then the temperatures that those flows give."""
        speeds, power = self._speeds_and_power(T, last)
        liquid, capacity = self._coolant_state(T)
        coolant_flow = self._solve_coolant(liquid, speeds, last)
        air_state = self._air_state(T, last)
        air_flow = self._solve_air(T, air_state, speeds, last)
        streams = []
        if coolant_flow is not None:
            streams.append(coolant_flow.mass_flow * capacity)
        if air_flow is not None:
            streams.append(air_flow.mass_flow * AIR_HEAT_CAPACITY)
        volume = None if air_flow is None or air_state is None else air_flow.mass_flow / air_state.density
        conductance = self.conductances.at(T, streams, coolant_flow, air_flow, liquid, volume)
        entries = self.pattern.entries(streams, conductance)
        network = self.pattern.network
        matrix = network.matrix(np.broadcast_to(entries, (T.shape[0], entries.shape[1])))
        self._mix(matrix)
        laws = self.conductances.laws
        new, report = network.newton_step(T, matrix, power, laws)
        return CoupledSolution(
            new, coolant_flow, air_flow, volume, speeds, power, conductance, laws, streams, matrix, rounds, report
        )

    def _mix(self, matrix: Array) -> None:
        """Rows of mixed intakes: a share of what the exhaust ends with, the rest from outside."""
        for item, share in zip(self.structure.mixed, self._shares, strict=True):
            at = self.pattern.network.at
            matrix[at(item.node, item.exhaust)] += share
            matrix[at(item.node, item.outside)] += 1.0 - share

    def _speeds_and_power(self, T: Array, last: CoupledSolution | None) -> tuple[dict[str, Array], Array]:
        """Speeds and watts, worked out once where no mover follows a temperature."""
        if self._speeds is None or self._power is None or self.states.follows_temperature:
            self._speeds = self.states.speeds(T, self.structure, None if last is None else last.speeds)
            self._power = self.states.node_power(self.structure, self._speeds, self.pattern)
        return self._speeds, self._power

    def _solve_coolant(
        self, medium: Medium | None, speeds: dict[str, Array], last: CoupledSolution | None
    ) -> FlowSolution | None:
        if self.coolant_model is None or medium is None:
            return None
        start = last.coolant.mass_flow if last and last.coolant else None
        return self.coolant_model.solve(medium, speeds, start)

    def _coolant_state(self, T: Array) -> tuple[Medium | None, Array]:
        """Density and viscosity of each edge at its loop's mean temperature, and its heat capacity (batch, edge)."""
        flow = self.structure.coolant
        if flow is None:
            return None, np.zeros((T.shape[0], 0))
        density, viscosity, capacity = np.empty((3, T.shape[0], flow.graph.edges))
        for loop in self._loops:
            state = loop.fluid.state(T[:, loop.nodes].mean(axis=1))
            density[:, loop.edges] = state.density[:, None]
            viscosity[:, loop.edges] = state.viscosity[:, None]
            capacity[:, loop.edges] = state.heat_capacity[:, None]
        return Medium(density, viscosity), capacity

    def _air_state(self, T: Array, last: CoupledSolution | None) -> Medium | None:
        """Air that enters each edge, from whichever end it comes."""
        flow = self.structure.air
        if flow is None:
            return None
        inlet = T[:, flow.tail_nodes]
        if last is not None and last.air is not None:
            inlet = np.where(last.air.mass_flow >= 0.0, inlet, T[:, flow.head_nodes])
        return Medium(air_density(inlet, self.states.pressure_pa[:, None]), air_viscosity(inlet))

    def _solve_air(
        self, T: Array, medium: Medium | None, speeds: dict[str, Array], last: CoupledSolution | None
    ) -> FlowSolution | None:
        if self.air_model is None or medium is None:
            return None
        start = last.air.mass_flow if last and last.air else None
        return self.air_model.solve(medium, speeds, start, self.draught(T))

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


def _left_to_move(change: float, earlier: float, before: float) -> float:
    """Kelvins that further rounds would still move.

    The change itself; or, where the last two rounds both shrank fast, twice the rest of their series.
    """
    if not np.isfinite(earlier) or before <= 0.0:
        return change
    ratio = max(change / before, before / earlier)
    return 2.0 * change * ratio / (1.0 - ratio) if ratio < FAST_RATIO else change


def _largest_change(new: dict[str, Array], old: dict[str, Array]) -> float:
    return max((float(np.max(np.abs(new[key] - old[key]))) for key in new), default=0.0)
