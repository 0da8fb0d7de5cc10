"""Conductances of a build's heat network: what no flow changes once, the rest for the flows of each round."""

from functools import partial

import numpy as np
from numpy.typing import NDArray

from krill.components import air_parts, coolant_parts, solid_parts
from krill.components.edges import Medium
from krill.components.figure_table import Values
from krill.components.heat_pipes import PipeGroup, pipe_figures
from krill.components.radiator import DUST_CONDUCTANCE, core_of, dusty, inlet_conductance
from krill.components.radiator_table import AIR_HEAT_CAPACITY, section_face
from krill.components.sinks import driven_loss
from krill.document.build import Build, Zone, leaves
from krill.document.geometry import lift_of
from krill.document.parts import Cooler, Tube
from krill.document.solids import HeatPipe, Sink
from krill.networks.bodies import BodyModel, Spread, bond_conductance, spread_links
from krill.networks.flow import FlowSolution
from krill.networks.flow_structure import FlowStructure
from krill.networks.laws import BentLaw, FilmLaw, LinkLaw, PowerLaw
from krill.networks.pattern import (
    RESIDUAL_CONDUCTANCE,
    WALL_EXPONENT,
    WALL_REFERENCE_K,
    Conductances,
    PipeLink,
    ThermalPattern,
)
from krill.networks.states import MachineStates
from krill.networks.structure import Layer, PlaceRoute, Structure, layer_key, steps_of

Array = NDArray[np.float64]

#: heat spot of a full-cover plate: resistance grows with (reference area / chip area)^0.6 (value from memory)
AREA_EXPONENT = 0.6
#: a source that gives its heat straight to a zone's air and states no resistance
DIRECT_AIR_K_W = 0.05
#: soft tube 10/16 mm in still air (value from memory), and what joints of a loop without tubes are worth
TUBE_W_K_M, SHORTEST_TUBE_M = 0.45, 0.5


class ConductanceModel:
    """Figures of one batch as conductances, in the order of the thermal pattern; and the laws of its links."""

    def __init__(self, structure: Structure, pattern: ThermalPattern, values: Values, states: MachineStates) -> None:
        self.structure, self.build = structure, structure.build
        self.pattern, self.values, self.states = pattern, values, states
        self._cores = [core_of(link.part) for link in pattern.radiators]
        self._bare = self._bare_loops()
        self._column = {layer_key(layer): index for index, (_, layer) in enumerate(pattern.layers)}
        self.pipes = [self._pipe(link) for link in pattern.pipes]
        self.bodies = {body: self._body(body) for body in structure.body_nodes}
        self.bonds = values.columns(
            [bond_conductance(b, self.bodies[b.first], self.bodies[b.second], values) for b in self.build.bonds]
        )
        self._static = self._static_layers()
        self._moving = self._moving_layers()
        self._sections = {zone.id: self._cross_section(zone) for zone in self.build.zones if zone.kind == "box"}
        self.laws = self._link_laws()

    def at(
        self, T: Array, streams: list[Array], coolant: FlowSolution | None, air: FlowSolution | None,
        medium: Medium | None, air_density: Array | None,
    ) -> Conductances:  # fmt: skip
        """Conductances at the temperatures and flows of a round; ``medium`` is the coolant's, ``air_density`` (batch, edge)."""
        volume = None if air is None or air_density is None else air.mass_flow / air_density
        plates = self._plates(coolant, medium)
        at_streams = self._streams(volume)
        spread = self._spread(T, at_streams)
        layers = self._layers(plates, at_streams, volume, spread)
        between = [spread[body].between for body in self.structure.body_nodes if body in spread] + [self.bonds]
        rows = layers.shape[0]
        joined = np.concatenate([np.broadcast_to(part, (rows, part.shape[1])) for part in between], axis=1)
        return Conductances(layers, joined, plates, self._bare, at_streams, self._radiators(streams, air, volume))

    def _body(self, body: str) -> BodyModel:
        contacts = self.structure.contacts_of(body)
        return BodyModel(self.build, self.build.part(body), contacts, self.values, self.states.pressure_pa)

    def _pipe(self, link: PipeLink) -> PipeGroup:
        part = self.build.part(link.layer.part or "")
        assert isinstance(part, HeatPipe)
        return PipeGroup(pipe_figures(part, lift_of(self.build, part), self.values), self.values)

    def _link_laws(self) -> list[LinkLaw]:
        """Laws in the order of the pattern's links: walls, sides of bodies, heat pipes."""
        laws: list[LinkLaw] = [
            PowerLaw(self.values(f"{zone}/wall_w_k"), WALL_EXPONENT, WALL_REFERENCE_K) for zone in self.pattern.walls
        ]
        laws += [FilmLaw(partial(self.bodies[side.body.id].conductance, side.side)) for side in self.pattern.sides]
        return laws + [BentLaw(group.heat) for group in self.pipes]

    def _spread(self, T: Array, streams: Array) -> dict[str, Spread]:
        """Contacts of every body as links, at the films that its sides have now."""
        found = {}
        for body, model in self.bodies.items():
            if not model.contacts:
                continue
            node = self.structure.body_nodes[body]
            surface: Array = np.zeros(T.shape[0])
            for side in self.pattern.sides:
                if side.body.id == body:
                    surface = surface + model.conductance(side.side, T[:, node], T[:, side.zone])
            for column, stream in enumerate(self.pattern.streams):
                if stream.part == body:
                    surface = surface + streams[:, column]
            found[body] = spread_links(model.spreading(surface))
        return found

    def _bare_loops(self) -> Array:
        """Soft tube in still air, for loops that have nothing else to give heat off with."""
        columns = []
        for bare in self.pattern.bare_loops:
            parts = [self.build.part(item) for item in leaves(bare.loop.elements)]
            metres = sum((self.values(f"{p.id}/length_m") for p in parts if isinstance(p, Tube)), np.asarray(0.0))
            columns.append(TUBE_W_K_M * np.maximum(metres, SHORTEST_TUBE_M))
        return np.broadcast_to(self.values.columns(columns), (self.values.batch, len(columns)))

    def _plates(self, coolant: FlowSolution | None, medium: Medium | None) -> Array:
        flow = self.structure.coolant
        if coolant is None or medium is None or flow is None or not self.pattern.plates:
            return np.zeros((self.values.batch, 0))
        columns = []
        for hop in self.pattern.plates:
            part = self.build.part(flow.parts[hop.edge])
            volume = coolant.mass_flow[:, hop.edge] / medium.density[:, hop.edge]
            R = coolant_parts.plate_resistance(part, self.values, volume)
            if self.values.has(f"{part.id}/reference_area_mm2"):
                face = solid_parts.contact_area(hop.route.place, self.values)
                reference = self.values(f"{part.id}/reference_area_mm2")
                R = R * (reference / face) ** AREA_EXPONENT if face is not None else R
            columns.append(1.0 / R)
        return self.values.columns(columns)

    def _streams(self, volume: Array | None) -> Array:
        if volume is None or not self.pattern.streams:
            return np.zeros((self.values.batch, 0))
        columns = []
        for stream in self.pattern.streams:
            part, flow = self.build.part(stream.part), volume[:, stream.edge]
            if isinstance(part, Sink):
                fins = self.bodies[part.id].fins
                assert fins is not None
                columns.append(driven_loss(part, fins, self.values, flow).conductance)
            elif isinstance(part, Cooler) and (stream.hop is None or stream.hop.resistance_k_w is None):
                columns.append(1.0 / air_parts.cooler_resistance(part, self.values, flow))
            else:
                hop = stream.hop.id if stream.hop is not None else part.id
                columns.append(1.0 / self.values(f"{hop}/resistance_k_w", DIRECT_AIR_K_W))
        return self.values.columns(columns)

    def _static_layers(self) -> dict[int, Array]:
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
                face = face_before(self.build, route, layer, values)
                found[index] = 1.0 / solid_parts.interface_resistance(part, values, face)
            elif layer.kind == "air" and layer.hop is not None:
                found[index] = 1.0 / values(f"{layer.hop.id}/resistance_k_w", DIRECT_AIR_K_W)
            elif layer.kind == "spreader" and layer.hop is not None:
                stated = f"{layer.hop.part}/resistance_k_w"
                if values.has(stated):
                    found[index] = 1.0 / values(stated)
        return found

    def _moving_layers(self) -> dict[int, str]:
        """Package layers that follow their zone's moving air: their class says how, and nobody stated a figure."""
        found = {}
        for index, (route, layer) in enumerate(self.pattern.layers):
            place = route.place
            known = air_parts.moving_air_factor(place.class_, np.zeros(1)) is not None
            if layer.kind == "package" and route.zone is not None and place.package_k_w is None and known:
                found[index] = route.zone
        return found

    def _cross_section(self, zone: Zone) -> Array | None:
        """What air moves through in a box: its own figure, else a mean section of the housing; None where unknown."""
        if zone.cross_section_cm2 is not None:
            return self.values(f"{zone.id}/cross_section_cm2")
        size = self.build.housing.inner_size_mm
        if size is None:
            return None
        boxes = sum(1 for other in self.build.zones if other.kind == "box")
        volume = float(size[0]) * float(size[1]) * float(size[2]) * 1e-9 / boxes
        return np.asarray(volume ** (2 / 3))

    def zone_velocity(self, zone: str, volume: Array) -> Array | None:
        """Mean velocity of the air that passes through a box, m/s (batch,); None where its section is unknown."""
        flow, section = self.structure.air, self._sections.get(zone)
        if flow is None or section is None:
            return None
        node = self.structure.zone_nodes[zone]
        touching = (flow.tail_nodes == node) | (flow.head_nodes == node)
        return np.asarray(np.sum(np.abs(volume[:, touching]), axis=1) / 2 / section)

    def _layers(self, plates: Array, streams: Array, volume: Array | None, spread: dict[str, Spread]) -> Array:
        """Every layer from the outside of its route inwards: lids and blocks spread by what lies above them."""
        rows = max(plates.shape[0], self.values.batch)
        if not self.pattern.layers:
            return np.zeros((rows, 0))
        columns: list[Array] = [np.zeros(1)] * len(self.pattern.layers)
        for route in self.structure.all_routes:
            above: Array = np.zeros(1)
            for step in reversed(steps_of(route)):
                total: Array = np.zeros(1)
                for layer in step:
                    G = self._layer(route, layer, above, plates, streams, volume, spread)
                    total = total + G
                    if layer_key(layer) in self._column:
                        columns[self._column[layer_key(layer)]] = G
                above = above + 1.0 / total
        stacked = self.values.columns(columns)
        return np.broadcast_to(stacked, (rows, stacked.shape[1]))

    def _layer(
        self, route: PlaceRoute, layer: Layer, above: Array, plates: Array, streams: Array, volume: Array | None,
        spread: dict[str, Spread],
    ) -> Array:  # fmt: skip
        """W/K of one layer; ``above`` is what lies between it and the end of its route, K/W."""
        if layer.kind == "lid":
            return np.asarray(1.0 / solid_parts.lid_resistance(route.place, self.values, above))
        if layer.kind == "pipes":
            index = next(i for i, link in enumerate(self.pattern.pipes) if link.layer is layer)
            return self.pipes[index].conductance
        if layer.kind == "contact":
            nodes = [contact.node for contact in self.structure.contacts_of(route.body or "")]
            return spread[route.body or ""].star[:, nodes.index(layer.inner)]
        if layer.kind == "plate":
            return plates[:, next(i for i, plate in enumerate(self.pattern.plates) if plate.route is route)]
        if layer.kind == "stream":
            return streams[:, next(i for i, stream in enumerate(self.pattern.streams) if stream.route is route)]
        column = self._column[layer_key(layer)]
        if column in self._static:
            return np.asarray(self._static[column] / self._moving_factor(column, route, volume))
        assert layer.hop is not None
        part = self.build.part(layer.hop.part or "")
        face = face_before(self.build, route, layer, self.values)
        return np.asarray(1.0 / solid_parts.spreader_resistance(part, self.values, face, above))

    def _moving_factor(self, index: int, route: PlaceRoute, volume: Array | None) -> Array | float:
        if index not in self._moving or volume is None:
            return 1.0
        velocity = self.zone_velocity(self._moving[index], volume)
        factor = None if velocity is None else air_parts.moving_air_factor(route.place.class_, velocity)
        return 1.0 if factor is None else factor

    def _radiators(self, streams: list[Array], air: FlowSolution | None, volume: Array | None) -> Array:
        links = self.pattern.radiators
        if not links or air is None or volume is None:
            return np.zeros((self.values.batch, 0))
        columns = []
        for link, core in zip(links, self._cores, strict=True):
            part, flow = link.part, np.abs(volume[:, link.air_edge])
            covered = self.values(f"{part.id}/covered_share", 1.0)
            face = part.sections * section_face(float(part.section_mm)) * covered
            UA = part.sections * covered * core.conductance_at(flow / face)
            factor = self.values(f"{part.id}/factor", 1.0) * dusty(
                self.values(f"{part.id}/dust", 0.0), DUST_CONDUCTANCE
            )
            water = np.maximum(np.abs(streams[0][:, link.coolant_edge]), RESIDUAL_CONDUCTANCE["coolant"])
            through = np.maximum(np.abs(air.mass_flow[:, link.air_edge]) * AIR_HEAT_CAPACITY,
                                 self.pattern.standing[-1][link.air_edge])  # fmt: skip
            columns.append(inlet_conductance(UA, factor, through, water))
        return self.values.columns(columns)


def face_before(build: Build, route: PlaceRoute, layer: Layer, values: Values) -> Array | None:
    """Area that a layer of a route lies on, m2: the last block before it, else what the place offers."""
    area = solid_parts.contact_area(route.place, values)
    for other in route.layers[: route.layers.index(layer)]:
        if other.kind == "spreader" and other.hop is not None and values.has(f"{other.hop.part}/width_mm"):
            area = values(f"{other.hop.part}/width_mm") * values(f"{other.hop.part}/length_mm")
    return area


def loops_of(flow: FlowStructure, build_loops: list[str]) -> dict[str, NDArray[np.intp]]:
    """Edges of each loop."""
    return {loop: np.array([i for i, c in enumerate(flow.circuit) if c == loop], dtype=np.intp) for loop in build_loops}
