"""Turns a structure into the fixed pattern of its heat network, and flows and conductances into its entries."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.document.build import AirPath, Hop, Loop, Zone
from krill.document.parts import Radiator
from krill.document.solids import Body
from krill.networks.blocks import Block, FlowBlock, PairBlock, PlateBlock, RadiatorBlock, StreamBlock
from krill.networks.flow_structure import FlowStructure, owner
from krill.networks.heat import heat_network
from krill.networks.structure import Layer, LayerKey, PlaceRoute, Structure, layer_key

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]

#: conductance along every edge at rest, W/K: what standing coolant or air still carries (estimate); it keeps a
#: network without flow regular, where a machine would in truth cook
RESIDUAL_CONDUCTANCE = {"coolant": 5e-3, "air": 2e-2}
#: free convection and radiation of a box's walls grow a little with the difference (value from memory)
WALL_EXPONENT, WALL_REFERENCE_K = 0.2, 15.0


#: kinds of layers that have entries of their own in the matrix
OWN_ENTRIES = ("plate", "stream", "pipes")


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

    def vapour(self, T: Array) -> Array:
        """Temperature of the vapour between both ends, °C (...), from those of the heat nodes (..., node)."""
        return np.asarray((T[..., self.layer.inner] + T[..., self.layer.outer]) / 2)


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
    """Links of a structure's heat network and the blocks of its matrix that they make."""

    def __init__(self, structure: Structure) -> None:
        self.structure = structure
        every = [(route, layer) for route in structure.all_routes for layer in route.layers]
        self.layers = [(route, layer) for route, layer in every if layer.kind not in OWN_ENTRIES]
        self.pairs = _contact_pairs(structure) + _seams(structure)
        self.sides = _body_sides(structure)
        self.pipes = [PipeLink(route, layer) for route, layer in every if layer.kind == "pipes"]
        self.plates = [
            PlateHop(route, layer.inner, route.edge)
            for route, layer in every
            if layer.kind == "plate" and route.edge is not None
        ]
        self.streams = _route_streams(every) + _driven_sinks(structure)
        self.radiators = _radiators(structure)
        self.bare_loops = _bare_loops(structure, {link.coolant_edge for link in self.radiators})
        self.column_of = self._columns()
        boxes = [zone for zone in structure.build.zones if zone.kind == "box"]
        outside = [zone for zone in structure.build.zones if zone.kind == "outside"]
        self.walls = [zone.id for zone in boxes] if outside else []
        self.outside = [zone.id for zone in outside]
        self.given = np.array([structure.zone_nodes[zone] for zone in self.outside], dtype=np.intp)
        flows = [flow for flow in (structure.coolant, structure.air) if flow is not None]
        self.standing = [_standing(structure, flow) for flow in flows]
        self.blocks = self._blocks(flows)
        self.network = heat_network(
            structure.node_names,
            tuple(place for block, _ in self.blocks for place in block.positions),
            tuple(self.given.tolist()),
            self._links(boxes, outside),
            tuple((item.node, end) for item in structure.mixed for end in (item.outside, item.exhaust)),
        )

    def _columns(self) -> dict[LayerKey, int]:
        """Where each layer stands among those of its own sort: plates, streams, pipes, all others."""
        found = {layer_key(layer): index for index, (_, layer) in enumerate(self.layers)}
        found |= {layer_key(link.layer): index for index, link in enumerate(self.pipes)}
        found |= {layer_key(hop.route.layers[-1]): index for index, hop in enumerate(self.plates)}
        found |= {layer_key(s.route.layers[-1]): index for index, s in enumerate(self.streams) if s.route is not None}
        return found

    def side_link(self, index: int) -> int:
        """Column of a body's side among the links: walls come first, then sides, then pipes."""
        return len(self.walls) + index

    def pipe_link(self, index: int) -> int:
        """Column of a group of heat pipes among the links."""
        return len(self.walls) + len(self.sides) + index

    def still_link(self, index: int) -> int:
        """Column of what a stream's face gives to the air around it among the links."""
        return len(self.walls) + len(self.sides) + len(self.pipes) + index

    def radiator_link(self, index: int) -> int:
        """Column of what a radiator's coolant gives to the air around it among the links."""
        return self.still_link(len(self.streams)) + index

    def entries(self, streams: list[Array], G: Conductances) -> Array:
        """Matrix entries (batch, entry); ``streams`` are signed capacity flows W/K (batch, edge) of coolant and air."""
        if not self.blocks:
            return np.zeros((G.layers.shape[0], 0))
        return np.concatenate([block.entries(_own(G, own), streams) for block, own in self.blocks], axis=1)

    def _links(self, boxes: list[Zone], outside: list[Zone]) -> tuple[tuple[int, int], ...]:
        """Walls, sides of bodies, heat pipes, still ways of faces and radiators: links whose law follows their temperatures."""
        nodes = self.structure.zone_nodes
        beyond = [zone.beyond or outside[0].id for zone in boxes] if outside else []
        inner = [nodes[zone] for zone in self.walls]
        outer = [nodes[zone] for zone in beyond]
        inner += [side.node for side in self.sides] + [pipe.layer.inner for pipe in self.pipes]
        outer += [side.zone for side in self.sides] + [pipe.layer.outer for pipe in self.pipes]
        inner += [stream.face for stream in self.streams]
        outer += [self._around(stream.edge, [zone.id for zone in boxes]) for stream in self.streams]
        coolant = self.structure.coolant
        inner += [int(coolant.active_nodes[link.coolant_edge]) for link in self.radiators if coolant is not None]
        outer += [self._around(link.air_edge, [zone.id for zone in boxes]) for link in self.radiators]
        return tuple(zip(inner, outer, strict=True))

    def _around(self, edge: int, boxes: list[str]) -> int:
        """Node of the air around a part of an air path."""
        flow = self.structure.air
        assert flow is not None
        return self.structure.zone_nodes[zone_around(flow, self.structure.build.air_paths, boxes, edge)]

    def _blocks(self, flows: list[FlowStructure]) -> list[tuple[Block, str]]:
        """Every block with the name of its conductances; one without links is left out."""
        coolant, air = self.structure.coolant, self.structure.air
        found: list[tuple[Block, str]] = [
            (FlowBlock(flow, self.standing[fluid], fluid), "") for fluid, flow in enumerate(flows)
        ]
        bare = [(loop.junction, loop.zone) for loop in self.bare_loops]
        found.append((PairBlock([(layer.inner, layer.outer) for _, layer in self.layers]), "layers"))
        found.append((PairBlock(self.pairs), "between"))
        if coolant is not None:
            faces, edges = [plate.face for plate in self.plates], [plate.edge for plate in self.plates]
            found.append((PlateBlock(coolant, faces, edges, 0), "plates"))
        found.append((PairBlock(bare), "bare"))
        if air is not None:
            faces, edges = [stream.face for stream in self.streams], [stream.edge for stream in self.streams]
            found.append((StreamBlock(air, faces, edges, len(flows) - 1), "streams"))
        if coolant is not None and air is not None:
            wet, dry = [link.coolant_edge for link in self.radiators], [link.air_edge for link in self.radiators]
            found.append((RadiatorBlock(coolant, air, wet, dry), "radiators"))
        return [(block, own) for block, own in found if block.positions]


def _own(G: Conductances, name: str) -> Array:
    """Conductances of a block; a flow has none of its own."""
    return getattr(G, name) if name else np.zeros((1, 0))


def _route_streams(every: list[tuple[PlaceRoute, Layer]]) -> list[StreamHop]:
    """Ends of routes that give their heat to passing air."""
    return [
        StreamHop(layer.inner, route.stream, layer.hop.part or "", route, layer.hop)
        for route, layer in every
        if layer.kind == "stream" and route.stream is not None and layer.hop is not None
    ]


def _seams(structure: Structure) -> list[tuple[int, int]]:
    return [(structure.body_nodes[bond.first], structure.body_nodes[bond.second]) for bond in structure.build.bonds]


def _standing(structure: Structure, flow: FlowStructure) -> Array:
    """W/K that every edge carries at rest."""
    fluid = "coolant" if flow is structure.coolant else "air"
    return np.full(flow.graph.edges, RESIDUAL_CONDUCTANCE[fluid])


def zone_around(flow: FlowStructure, paths: list[AirPath], boxes: list[str], edge: int) -> str:
    """The air that stands around a part of an air path: the box at one of its ends, else any box, else where it starts."""
    path = next(path for path in paths if path.id == flow.circuit[edge])
    ends = [zone for zone in (path.start, path.end) if zone in boxes]
    return (ends or boxes or [path.start])[0]


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
