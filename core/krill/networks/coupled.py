"""Flow and heat together: flows from temperatures and speeds, temperatures from flows, to 1e-4 K."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from krill.components import coolant_parts, solid_parts
from krill.components.edges import Medium
from krill.components.figure_table import Values
from krill.components.radiator import AIR_HEAT_CAPACITY, core_of, inlet_conductance, section_face
from krill.errors import NotConverged
from krill.materials.fluids import air, coolant
from krill.networks.flow import FlowSolution
from krill.networks.flow_model import FlowModel, air_figures, coolant_figures, flow_model
from krill.networks.pattern import RESIDUAL_CONDUCTANCE, ThermalPattern
from krill.networks.states import MachineStates
from krill.networks.structure import FlowStructure, PlaceRoute, Structure
from krill.numerics.newton import SolveReport

Array = NDArray[np.float64]

COUPLING_TOLERANCE_K = 1e-4
MOST_ROUNDS = 60
START_RISE_K = 8.0
#: heat spot of a full-cover plate: resistance grows with (reference area / chip area)^0.6 (value from memory)
AREA_EXPONENT = 0.6
#: a source that gives its heat straight to a zone's air and states no resistance
DIRECT_AIR_K_W = 0.05


@dataclass(frozen=True)
class CoupledSolution:
    """Everything solved: temperatures (batch, node), flows, and the conductances they were solved with."""

    temperature: Array
    coolant: FlowSolution | None
    air: FlowSolution | None
    speeds: dict[str, Array]
    power: Array
    conductance: Array  # (batch, layer) in the order of the pattern's layers
    plate_conductance: Array
    radiator_conductance: Array
    wall_conductance: Array
    streams: list[Array]
    matrix: Array
    rounds: int
    report: SolveReport


class CoupledNetwork:
    """A build ready to be solved for a batch of machine states and figures."""

    def __init__(self, structure: Structure, values: Values, states: MachineStates) -> None:
        self.structure = structure
        self.build = structure.build
        self.values = values
        self.states = states
        self.pattern = ThermalPattern(structure)
        self.coolant_model = self._model(structure.coolant, coolant_figures)
        self._air = self._model(structure.air, air_figures)
        self._cores = [core_of(link.part) for link in self.pattern.radiators]
        self._static = self._static_conductances()
        self._wall_w_k = self._walls()
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
        for rounds in range(1, MOST_ROUNDS + 1):
            new = self.step(T, solution, rounds)
            moves = np.max(np.abs(new.temperature - T), axis=0)
            change = float(np.max(moves))
            moved = 0.0 if solution is None else _largest_change(new.speeds, solution.speeds)
            T, solution = new.temperature, new
            if change <= COUPLING_TOLERANCE_K and moved <= 1e-5:
                return self._settled(solution)
        worst = int(np.argmax(moves))
        raise NotConverged(
            f"flow and heat did not settle together in {MOST_ROUNDS} rounds; '{self.structure.node_names[worst]}' still "
            f"moves by {change:.2g} K; look at the fan curves that follow a temperature"
        )

    def _settled(self, solution: CoupledSolution) -> CoupledSolution:
        """The last round with its heat solved to the end: energy closes to 1e-6 of the watts, or NotConverged."""
        T, report = self.pattern.network.steady(
            solution.temperature, solution.matrix, solution.power, solution.wall_conductance
        )
        return replace(solution, temperature=T, report=report)

    def step(self, T: Array, last: CoupledSolution | None, rounds: int = 1) -> CoupledSolution:
        """One round: flows at the temperatures T, then the temperatures that those flows give."""
        speeds, power = self._speeds_and_power(T, last)
        medium = self._coolant_medium(T)
        coolant_flow = self._solve_coolant(medium, speeds, last)
        air_flow = self._solve_air(T, speeds, last)
        streams = self._streams(T, coolant_flow, air_flow)
        conductance, plates, radiators = self._conductances(streams, coolant_flow, air_flow, medium, T)
        entries = self.pattern.entries(streams, conductance, plates, radiators)
        network = self.pattern.network
        matrix = network.matrix(np.broadcast_to(entries, (T.shape[0], entries.shape[1])))
        walls = self._wall_w_k
        new, report = network.newton_step(T, matrix, power, walls)
        return CoupledSolution(
            new, coolant_flow, air_flow, speeds, power, conductance, plates, radiators, walls, streams, matrix, rounds,
            report,
        )  # fmt: skip

    def _speeds_and_power(self, T: Array, last: CoupledSolution | None) -> tuple[dict[str, Array], Array]:
        """Speeds and watts, worked out once where no mover follows a temperature."""
        if self._speeds is None or self._power is None or self.states.follows_temperature:
            self._speeds = self.states.speeds(T, self.structure, None if last is None else last.speeds)
            self._power = self.states.node_power(self.structure, self._speeds, self.pattern)
        return self._speeds, self._power

    def _walls(self) -> Array:
        zones = self.pattern.walls
        rows = (self.values.batch, len(zones))
        if not zones:
            return np.zeros(rows)
        return np.broadcast_to(self.values.columns([self.values(f"{zone}/wall_w_k") for zone in zones]), rows)

    def _solve_coolant(
        self, medium: Medium | None, speeds: dict[str, Array], last: CoupledSolution | None
    ) -> FlowSolution | None:
        if self.coolant_model is None or medium is None:
            return None
        start = last.coolant.mass_flow if last and last.coolant else None
        return self.coolant_model.solve(medium, speeds, start)

    def _coolant_medium(self, T: Array) -> Medium | None:
        flow = self.structure.coolant
        if flow is None:
            return None
        mean = self._loop_means(T)
        density, viscosity = np.empty((2, T.shape[0], flow.graph.edges))
        for loop in self.build.loops:
            edges = [i for i, circuit in enumerate(flow.circuit) if circuit == loop.id]
            state = coolant(loop.coolant.fluid, float(loop.coolant.mass_share)).state(mean[loop.id])
            density[:, edges] = state.density[:, None]
            viscosity[:, edges] = state.viscosity[:, None]
        return Medium(density, viscosity)

    def _coolant_structure(self) -> FlowStructure:
        assert self.structure.coolant is not None
        return self.structure.coolant

    def _loop_means(self, T: Array) -> dict[str, Array]:
        """Mean coolant temperature of each loop, (batch,): properties are taken there, one cp a loop."""
        flow = self._coolant_structure()
        means = {}
        for loop in self.build.loops:
            nodes = {
                int(flow.junction_nodes[j])
                for i, circuit in enumerate(flow.circuit)
                if circuit == loop.id
                for j in (flow.graph.tail[i], flow.graph.head[i])
            }
            means[loop.id] = np.mean(T[:, sorted(nodes)], axis=1)
        return means

    def _solve_air(self, T: Array, speeds: dict[str, Array], last: CoupledSolution | None) -> FlowSolution | None:
        if self._air is None or self.structure.air is None:
            return None
        flow = self.structure.air
        inlet = T[:, flow.junction_nodes[flow.graph.tail]]
        state = air(inlet, self.states.pressure_pa[:, None])
        start = last.air.mass_flow if last and last.air else None
        return self._air.solve(Medium(state.density, state.viscosity), speeds, start)

    def _streams(self, T: Array, coolant_flow: FlowSolution | None, air_flow: FlowSolution | None) -> list[Array]:
        streams = []
        if coolant_flow is not None:
            flow, means = self._coolant_structure(), self._loop_means(T)
            capacity = {
                loop.id: coolant(loop.coolant.fluid, float(loop.coolant.mass_share)).state(means[loop.id]).heat_capacity
                for loop in self.build.loops
            }
            streams.append(coolant_flow.mass_flow * np.stack([capacity[c] for c in flow.circuit], axis=1))
        if air_flow is not None:
            streams.append(air_flow.mass_flow * AIR_HEAT_CAPACITY)
        return streams

    def _conductances(
        self,
        streams: list[Array],
        coolant_flow: FlowSolution | None,
        air_flow: FlowSolution | None,
        medium: Medium | None,
        T: Array,
    ) -> tuple[Array, Array, Array]:
        plates = self._plate_conductances(coolant_flow, medium)
        layers = self._layer_conductances(plates)
        radiators = self._radiator_conductances(streams, air_flow, T)
        return layers, plates, radiators

    def _plate_conductances(self, coolant_flow: FlowSolution | None, medium: Medium | None) -> Array:
        if coolant_flow is None or medium is None or not self.pattern.plates:
            return np.zeros((self.values.batch, 0))
        density = medium.density
        columns = []
        for hop in self.pattern.plates:
            part = self.build.part(self._coolant_structure().parts[hop.edge])
            volume = coolant_flow.mass_flow[:, hop.edge] / density[:, hop.edge]
            R = coolant_parts.plate_resistance(part, self.values, volume)
            if self.values.has(f"{part.id}/reference_area_mm2"):
                face = solid_parts.contact_area(hop.route.place, self.values)
                reference = self.values(f"{part.id}/reference_area_mm2")
                R = R * (reference / face) ** AREA_EXPONENT if face is not None else R
            columns.append(1.0 / R)
        return self.values.columns(columns)

    def _static_conductances(self) -> dict[int, Array]:
        """Conductances that no flow changes, by position among the pattern's layers; lids come later."""
        found = {}
        for index, (route, layer) in enumerate(self.pattern.layers):
            place, values = route.place, self.values
            if layer.kind == "hot_core":
                found[index] = 1.0 / solid_parts.hot_core_resistance(place, values, self.states.few_cores)
            elif layer.kind == "package":
                found[index] = 1.0 / values(f"{place.id}/package_k_w")
            elif layer.kind == "chip":
                found[index] = 1.0 / solid_parts.chip_resistance(place, values)
            elif layer.kind == "joint":
                found[index] = 1.0 / solid_parts.joint_resistance(place, values)
            elif layer.kind == "interface" and layer.hop is not None:
                part = self.build.part(layer.hop.part or "")
                face = solid_parts.contact_area(place, values)
                found[index] = 1.0 / solid_parts.interface_resistance(part, values, face)
            elif layer.kind == "air" and layer.hop is not None:
                found[index] = 1.0 / values(f"{layer.hop.id}/resistance_k_w", DIRECT_AIR_K_W)
        return found

    def _layer_conductances(self, plates: Array) -> Array:
        columns = []
        for index, (route, layer) in enumerate(self.pattern.layers):
            if layer.kind == "lid":
                above = self._above_lid(route, plates)
                columns.append(1.0 / solid_parts.lid_resistance(route.place, self.values, above))
            else:
                columns.append(self._static[index])
        rows = max(plates.shape[0], self.values.batch)
        if not columns:
            return np.zeros((rows, 0))
        stacked = self.values.columns(columns)
        return np.broadcast_to(stacked, (rows, stacked.shape[1]))

    def _above_lid(self, route: PlaceRoute, plates: Array) -> Array:
        """K/W from the lid's top to the coolant or air: what makes its heat spread."""
        total: Array = np.zeros(plates.shape[0])
        for index, (other, layer) in enumerate(self.pattern.layers):
            if other is route and layer.kind in ("interface", "air"):
                total = total + 1.0 / self._static[index]
        for column, hop in enumerate(self.pattern.plates):
            if hop.route is route:
                total = total + 1.0 / plates[:, column]
        return total

    def _radiator_conductances(self, streams: list[Array], air_flow: FlowSolution | None, T: Array) -> Array:
        links = self.pattern.radiators
        if not links or air_flow is None or self.structure.air is None:
            return np.zeros((T.shape[0], 0))
        columns = []
        for link, core in zip(links, self._cores, strict=True):
            flow = np.abs(air_flow.mass_flow[:, link.air_edge])
            inlet = T[:, self.structure.air.junction_nodes[self.structure.air.graph.tail[link.air_edge]]]
            density = air(inlet, self.states.pressure_pa).density
            face = link.part.sections * section_face(float(link.part.section_mm))
            UA = link.part.sections * core.conductance_at(flow / density / face)
            factor = self.values(f"{link.part.id}/factor", 1.0)
            water = np.maximum(np.abs(streams[0][:, link.coolant_edge]), RESIDUAL_CONDUCTANCE["coolant"])
            columns.append(inlet_conductance(UA, factor, flow * AIR_HEAT_CAPACITY, water))
        return self.values.columns(columns)


def _largest_change(new: dict[str, Array], old: dict[str, Array]) -> float:
    return max((float(np.max(np.abs(new[key] - old[key]))) for key in new), default=0.0)
