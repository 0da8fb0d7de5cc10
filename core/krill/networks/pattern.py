"""Turns a structure into the fixed pattern of its heat network, and flows and conductances into its entries."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Hop, Loop
from krill.document.parts import Cooler, Radiator
from krill.document.solids import Body, Sink
from krill.networks.flow_structure import FlowStructure, owner
from krill.networks.heat import HeatNetwork
from krill.networks.laws import LinkPattern
from krill.networks.structure import Layer, PlaceRoute, Structure

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]

#: conductance along every edge at rest, W/K: what standing coolant or air still carries (estimate); it keeps a
#: network without flow regular, where a machine would in truth cook
RESIDUAL_CONDUCTANCE = {"coolant": 5e-3, "air": 2e-2}
#: what fins in still air give off by themselves: a radiator for each section of 120 mm, another sink (value from memory)
STILL_SECTION_W_K, STILL_SINK_W_K = 0.5, 0.4
STILL_AIR_FADE = 100.0
#: free convection and radiation of a box's walls grow a little with the difference (value from memory)
WALL_EXPONENT, WALL_REFERENCE_K = 0.2, 15.0


@dataclass(frozen=True)
class PlateHop:
    """A face that gives heat to the mean coolant of a plate's edge."""

    route: PlaceRoute
    face: int
    edge: int


@dataclass(frozen=True)
class BareLoop:
    """A loop without a radiator: its tubes alone give heat to a zone."""

    loop: Loop
    junction: int
    zone: int


@dataclass(frozen=True)
class StreamHop:
    """A face that gives heat to the air that passes a part, rated on what enters it: the end of a route, or a sink."""

    face: int
    edge: int
    part: str
    route: PlaceRoute | None = None
    hop: Hop | None = None


@dataclass(frozen=True)
class BodySide:
    """A side of a body and the zone whose air takes its heat."""

    body: Body
    side: str  # outside | inside
    node: int
    zone: int


@dataclass(frozen=True)
class PipeLink:
    """A group of heat pipes between two nodes."""

    route: PlaceRoute
    layer: Layer


@dataclass(frozen=True)
class RadiatorLink:
    """A radiator's coolant edge and air edge."""

    part: Radiator
    coolant_edge: int
    air_edge: int


@dataclass(frozen=True)
class Conductances:
    """W/K (batch, item) in the order of a pattern's layers, pairs of contacts and bonds, plates, bare loops, streams, radiators."""

    layers: Array
    between: Array
    plates: Array
    bare: Array
    streams: Array
    radiators: Array


class ThermalPattern:
    """Heat network of a structure with its entry order: flows, layers, plates, streams, radiators."""

    def __init__(self, structure: Structure) -> None:
        self.structure = structure
        self.layers = [
            (route, layer)
            for route in structure.all_routes
            for layer in route.layers
            if layer.kind not in ("plate", "stream", "pipes")
        ]
        self.pairs = _contact_pairs(structure) + [
            (structure.body_nodes[bond.first], structure.body_nodes[bond.second]) for bond in structure.build.bonds
        ]
        self.sides = _body_sides(structure)
        self.pipes = [
            PipeLink(route, layer) for route in structure.all_routes for layer in route.layers if layer.kind == "pipes"
        ]
        self.plates = [
            PlateHop(route, layer.inner, route.edge)
            for route in structure.all_routes
            for layer in route.layers
            if layer.kind == "plate" and route.edge is not None
        ]
        self.streams = [
            StreamHop(layer.inner, route.stream, layer.hop.part or "", route, layer.hop)
            for route in structure.all_routes
            for layer in route.layers
            if layer.kind == "stream" and route.stream is not None and layer.hop is not None
        ] + _driven_sinks(structure)
        self.radiators = _radiators(structure)
        self.bare_loops = _bare_loops(structure, {link.coolant_edge for link in self.radiators})
        boxes = [zone for zone in structure.build.zones if zone.kind == "box"]
        outside = [zone for zone in structure.build.zones if zone.kind == "outside"]
        self.walls = [zone.id for zone in boxes] if outside else []
        self.outside = [zone.id for zone in outside]
        self.given = np.array([structure.zone_nodes[zone] for zone in self.outside], dtype=np.intp)
        beyond = [zone.beyond or outside[0].id for zone in boxes] if outside else []
        inner = [structure.zone_nodes[zone] for zone in self.walls]
        outer = [structure.zone_nodes[zone] for zone in beyond]
        inner += [side.node for side in self.sides] + [pipe.layer.inner for pipe in self.pipes]
        outer += [side.zone for side in self.sides] + [pipe.layer.outer for pipe in self.pipes]
        links = LinkPattern(np.array(inner, dtype=np.intp), np.array(outer, dtype=np.intp))
        rows, columns = self._positions()
        self.standing = [_standing(structure, flow) for flow in self._flows()]
        mixing = [(item.node, end) for item in structure.mixed for end in (item.outside, item.exhaust)]
        self.network = HeatNetwork(structure.node_names, rows, columns, self.given, links, mixing)

    def side_link(self, index: int) -> int:
        """Column of a body's side among the links: walls come first, then sides, then pipes."""
        return len(self.walls) + index

    def pipe_link(self, index: int) -> int:
        """Column of a group of heat pipes among the links."""
        return len(self.walls) + len(self.sides) + index

    def _flows(self) -> list[FlowStructure]:
        return [flow for flow in (self.structure.coolant, self.structure.air) if flow is not None]

    def _positions(self) -> tuple[Indexes, Indexes]:
        places: list[tuple[int, int]] = []
        for flow in self._flows():
            tail, head = flow.tail_nodes, flow.head_nodes
            own = np.where(flow.active_nodes >= 0, flow.active_nodes, tail)
            back = np.where(flow.active_nodes >= 0, flow.active_nodes, head)
            places += zip(head, own, strict=True)
            places += zip(head, head, strict=True)
            places += zip(tail, back, strict=True)
            places += zip(tail, tail, strict=True)
            active = np.flatnonzero(flow.active_nodes >= 0)
            node = flow.active_nodes[active]
            places += zip(node, tail[active], strict=True)
            places += zip(node, head[active], strict=True)
            places += zip(node, node, strict=True)
        for _, layer in self.layers:
            i, j = layer.inner, layer.outer
            places += [(i, i), (i, j), (j, j), (j, i)]
        for first, second in self.pairs:
            places += [(first, first), (first, second), (second, second), (second, first)]
        coolant = self.structure.coolant
        for plate in self.plates:
            assert coolant is not None
            own_node, t, h = _edge_nodes(coolant, plate.edge)
            for row in (plate.face, own_node):
                places += [(row, plate.face), (row, t), (row, h), (row, own_node)]
        for bare in self.bare_loops:
            i, j = bare.junction, bare.zone
            places += [(i, i), (i, j), (j, j), (j, i)]
        for stream in self.streams:
            assert self.structure.air is not None
            own_node, t, h = _edge_nodes(self.structure.air, stream.edge)
            for row in (stream.face, own_node):
                places += [(row, stream.face), (row, t), (row, h)]
        for link in self.radiators:
            assert coolant is not None
            assert self.structure.air is not None
            water, wt, wh = _edge_nodes(coolant, link.coolant_edge)
            passing, at, ah = _edge_nodes(self.structure.air, link.air_edge)
            places += [(water, wt), (water, wh), (water, at), (water, ah)]
            places += [(passing, wt), (passing, wh), (passing, at), (passing, ah)]
        rows, columns = np.array(places, dtype=np.intp).reshape(-1, 2).T
        return rows, columns

    def entries(self, streams: list[Array], G: Conductances) -> Array:
        """Matrix entries (batch, entry); ``streams`` are signed capacity flows W/K (batch, edge) of coolant and air."""
        pieces: list[Array] = []
        for flow, C, still in zip(self._flows(), streams, self.standing, strict=True):
            standing = still / (1.0 + STILL_AIR_FADE * C**2)  # gone where a W/K or more flows
            forward, backward = np.maximum(C, 0.0) + standing, np.maximum(-C, 0.0) + standing
            active = flow.active_nodes >= 0
            ahead, behind = forward[:, active], backward[:, active]
            pieces += [forward, -forward, backward, -backward, ahead, behind, -(ahead + behind)]
        pieces.append(np.stack([-G.layers, G.layers, -G.layers, G.layers], axis=-1).reshape(G.layers.shape[0], -1))
        if self.pairs:
            between = [-G.between, G.between, -G.between, G.between]
            pieces.append(np.stack(between, axis=-1).reshape(G.between.shape[0], -1))
        if self.plates:
            pieces.append(self._plate_entries(streams[0], G.plates))
        if self.bare_loops:
            pieces.append(np.stack([-G.bare, G.bare, -G.bare, G.bare], axis=-1).reshape(G.bare.shape[0], -1))
        if self.streams:
            pieces.append(self._stream_entries(streams[-1], G.streams))
        if self.radiators:
            pieces.append(self._radiator_entries(streams[0], streams[1], G.radiators))
        return np.concatenate(pieces, axis=1)

    def _stream_entries(self, air_stream: Array, G: Array) -> Array:
        ahead = (air_stream[:, [stream.edge for stream in self.streams]] >= 0).astype(float)
        from_tail, from_head = G * ahead, G * (1 - ahead)
        return np.stack([-G, from_tail, from_head, G, -from_tail, -from_head], axis=-1).reshape(G.shape[0], -1)

    def _plate_entries(self, coolant_stream: Array, G: Array) -> Array:
        C = coolant_stream[:, [plate.edge for plate in self.plates]]
        own = own_weight(G, C)
        ahead = (C >= 0).astype(float)
        from_tail, from_head, from_own = G * (1 - own) * ahead, G * (1 - own) * (1 - ahead), G * own
        stack = [-G, from_tail, from_head, from_own, G, -from_tail, -from_head, -from_own]
        return np.stack(stack, axis=-1).reshape(C.shape[0], -1)

    def _radiator_entries(self, coolant_stream: Array, air_stream: Array, G: Array) -> Array:
        water = (coolant_stream[:, [link.coolant_edge for link in self.radiators]] >= 0).astype(float)
        stream = (air_stream[:, [link.air_edge for link in self.radiators]] >= 0).astype(float)
        wt, wh, at, ah = G * water, G * (1 - water), G * stream, G * (1 - stream)
        return np.stack([-wt, -wh, at, ah, wt, wh, -at, -ah], axis=-1).reshape(G.shape[0], -1)


def _standing(structure: Structure, flow: FlowStructure) -> Array:
    """W/K that every edge carries at rest."""
    if flow is structure.coolant:
        return np.full(flow.graph.edges, RESIDUAL_CONDUCTANCE["coolant"])
    still = np.full(flow.graph.edges, RESIDUAL_CONDUCTANCE["air"])
    for edge, name in enumerate(flow.parts):
        part = structure.build.part(owner(name))
        if isinstance(part, Radiator):
            still[edge] = STILL_SECTION_W_K * part.sections * (float(part.section_mm) / 120) ** 2
        elif isinstance(part, Cooler | Sink):
            still[edge] = STILL_SINK_W_K
    return still


def _contact_pairs(structure: Structure) -> list[tuple[int, int]]:
    """Nodes of every two contacts of one body, bodies in their order."""
    found = []
    for body in structure.body_nodes:
        nodes = [contact.node for contact in structure.contacts_of(body)]
        found += [(nodes[i], nodes[j]) for i in range(len(nodes)) for j in range(i + 1, len(nodes))]
    return found


def _body_sides(structure: Structure) -> list[BodySide]:
    found = []
    for body, node in structure.body_nodes.items():
        part = structure.build.part(body)
        assert isinstance(part, Body)
        for side, zone in (("outside", part.outside), ("inside", part.inside)):
            if zone is not None:
                found.append(BodySide(part, side, node, structure.zone_nodes[zone]))
    return found


def _driven_sinks(structure: Structure) -> list[StreamHop]:
    """Sinks that stand in an air path."""
    if structure.air is None:
        return []
    edges = {owner(name): edge for edge, name in enumerate(structure.air.parts)}
    return [StreamHop(node, edges[body], body) for body, node in structure.body_nodes.items() if body in edges]


def own_weight(conductance: Array, capacity_flow: Array) -> Array:
    """Share of the outlet in a plate's mean coolant: a half, more where the flow is so small that it saturates."""
    ntu = conductance / np.maximum(np.abs(capacity_flow), 1e-9)
    return np.maximum(0.5, 1.0 - 1.0 / np.maximum(ntu, 1e-9))


def _edge_nodes(flow: FlowStructure, edge: int) -> tuple[int, int, int]:
    return int(flow.active_nodes[edge]), int(flow.tail_nodes[edge]), int(flow.head_nodes[edge])


def _bare_loops(structure: Structure, radiators: set[int]) -> list[BareLoop]:
    flow, zones = structure.coolant, structure.build.zones
    if flow is None or not zones:
        return []
    cooled = {flow.circuit[edge] for edge in radiators}
    zone = next((z.id for z in zones if z.kind == "box"), zones[0].id)
    return [
        BareLoop(loop, int(flow.tail_nodes[flow.circuit.index(loop.id)]), structure.zone_nodes[zone])
        for loop in structure.build.loops
        if loop.id not in cooled
    ]


def _radiators(structure: Structure) -> list[RadiatorLink]:
    if structure.coolant is None or structure.air is None:
        return []
    found = []
    for edge, part_id in enumerate(structure.coolant.parts):
        part = structure.build.part(part_id)
        if isinstance(part, Radiator) and part_id in structure.air.parts:
            found.append(RadiatorLink(part, edge, structure.air.parts.index(part_id)))
    return found
