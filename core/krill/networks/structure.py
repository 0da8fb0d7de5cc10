"""The graph of a build: which flow edges and heat nodes there are and what joins them. Holds no figures."""

from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components

from krill.components.figure_table import FigureTable
from krill.document.build import Build, Element, Hop, Parallel
from krill.document.parts import Place
from krill.networks.flow import FlowGraph

Indexes = NDArray[np.intp]

#: kinds whose edge takes up or gives off heat and so has a temperature of its own
ACTIVE_KINDS = ("pump", "plate", "radiator", "fan")


@dataclass(frozen=True)
class FlowStructure:
    """One fluid's graph with what each edge and junction is; ``circuit`` is the loop or path of each edge."""

    graph: FlowGraph
    parts: tuple[str, ...]
    circuit: tuple[str, ...]
    junction_nodes: Indexes  # heat node of each junction
    active_nodes: Indexes  # heat node of each edge, -1 where it only passes on


@dataclass(frozen=True)
class Layer:
    """One conductance of a place's route: from one heat node to the next."""

    address: str
    name: str
    kind: str  # hot_core chip joint lid package interface plate air
    inner: int
    outer: int  # heat node; for a plate the coolant edge's node
    hop: Hop | None = None


@dataclass(frozen=True)
class PlaceRoute:
    """The layers from a place outwards and where they end: a loop edge or a zone."""

    place: Place
    source: str
    layers: tuple[Layer, ...]
    loop: str | None
    edge: int | None
    zone: str | None


@dataclass
class _Builder:
    names: list[str] = field(default_factory=list)

    def node(self, name: str) -> int:
        self.names.append(name)
        return len(self.names) - 1


@dataclass(frozen=True)
class Structure:
    """Everything about a build that does not depend on a figure."""

    build: Build
    node_names: tuple[str, ...]
    zone_nodes: dict[str, int]
    coolant: FlowStructure | None
    air: FlowStructure | None
    routes: tuple[PlaceRoute, ...]

    @property
    def nodes(self) -> int:
        return len(self.node_names)


def structure_of(build: Build, table: FigureTable) -> Structure:
    """Graph of a checked document."""
    builder = _Builder()
    zone_nodes = {zone.id: builder.node(zone.id) for zone in build.zones}
    coolant = _coolant(build, builder)
    air = _air(build, builder, zone_nodes)
    routes = tuple(_route(build, table, builder, coolant, zone_nodes, index) for index in range(len(build.routes)))
    return Structure(build, tuple(builder.names), zone_nodes, coolant, air, routes)


@dataclass
class _Edges:
    tail: list[int] = field(default_factory=list)
    head: list[int] = field(default_factory=list)
    parts: list[str] = field(default_factory=list)
    circuit: list[str] = field(default_factory=list)


def _lay(elements: list[Element], start: int, end: int, circuit: str, edges: _Edges, node: Callable[[], int]) -> None:
    """Lay a series of elements from one junction to another, branches beside each other."""
    here = start
    for position, element in enumerate(elements):
        there = end if position == len(elements) - 1 else node()
        if isinstance(element, Parallel):
            for branch in element.parallel:
                _lay(branch, here, there, circuit, edges, node)
        else:
            edges.tail.append(here)
            edges.head.append(there)
            edges.parts.append(element)
            edges.circuit.append(circuit)
        here = there


def _coolant(build: Build, builder: _Builder) -> FlowStructure | None:
    if not build.loops:
        return None
    edges = _Edges()
    heat_nodes: list[int] = []
    fixed: list[int] = []
    for loop in build.loops:

        def node(loop_id: str = loop.id) -> int:
            heat_nodes.append(builder.node(f"{loop_id}/junction{len(heat_nodes)}"))
            return len(heat_nodes) - 1

        first = node()
        fixed.append(first)
        _lay(loop.elements, first, first, loop.id, edges, node)
    return _flow_structure(build, builder, edges, heat_nodes, fixed, "coolant")


def _air(build: Build, builder: _Builder, zone_nodes: dict[str, int]) -> FlowStructure | None:
    if not build.air_paths:
        return None
    edges = _Edges()
    heat_nodes: list[int] = []
    used = {zone for path in build.air_paths for zone in (path.start, path.end)}
    junction_of = {}
    for zone in build.zones:
        if zone.id in used:
            junction_of[zone.id] = len(heat_nodes)
            heat_nodes.append(zone_nodes[zone.id])

    def node() -> int:
        heat_nodes.append(builder.node(f"air/junction{len(heat_nodes)}"))
        return len(heat_nodes) - 1

    for path in build.air_paths:
        _lay(path.elements, junction_of[path.start], junction_of[path.end], path.id, edges, node)
    outside = [junction_of[zone.id] for zone in build.zones if zone.id in used and zone.kind == "outside"]
    fixed = sorted({*outside, *_one_of_each_component(edges, len(heat_nodes), outside)})
    return _flow_structure(build, builder, edges, heat_nodes, fixed, "air")


def _one_of_each_component(edges: _Edges, nodes: int, anchored: list[int]) -> list[int]:
    """A node of every connected part of the graph that no outside zone anchors."""
    matrix = coo_array((np.ones(len(edges.tail)), (edges.tail, edges.head)), shape=(nodes, nodes))
    _, labels = connected_components(matrix, directed=False)
    anchored_labels = {int(labels[node]) for node in anchored}
    return [int(np.argmax(labels == label)) for label in set(labels.tolist()) - anchored_labels]


def _flow_structure(
    build: Build, builder: _Builder, edges: _Edges, heat_nodes: list[int], fixed: list[int], medium: str
) -> FlowStructure:
    graph = FlowGraph(np.array(edges.tail), np.array(edges.head), len(heat_nodes), np.array(fixed), tuple(edges.parts))
    active = [builder.node(f"{part}/{medium}") if build.part(part).kind in ACTIVE_KINDS else -1 for part in edges.parts]
    return FlowStructure(graph, tuple(edges.parts), tuple(edges.circuit), np.array(heat_nodes), np.array(active))


_INNER_LAYERS = {
    "hot_core": "Hot core over chip",
    "package": "Package",
    "chip": "Chip",
    "joint": "Lid joint",
    "lid": "Lid, spreading",
}


def _inner_layers(place: Place, table: FigureTable) -> list[str]:
    """Which layers a place has inside, from its figures: package, or chip with or without a lid."""
    have = {field for field in ("package_k_w", "chip_mm2k_w", "hot_core_mm2k_w", "joint_mm2k_w", "lid_area_mm2")
            if f"{place.id}/{field}" in table.figures}  # fmt: skip
    layers = []
    if "hot_core_mm2k_w" in have and place.temperature_kind in ("hottest_core", "mean_core", "hot_spot"):
        layers.append("hot_core")
    layers += [kind for kind, key in (("package", "package_k_w"), ("chip", "chip_mm2k_w")) if key in have]
    if "lid_area_mm2" in have:
        layers += ["joint", "lid"] if "joint_mm2k_w" in have else ["lid"]
    return layers


def _route(
    build: Build,
    table: FigureTable,
    builder: _Builder,
    coolant: FlowStructure | None,
    zone_nodes: dict[str, int],
    index: int,
) -> PlaceRoute:
    route = build.routes[index]
    place, source = build.place_owners()[route.place]
    layers: list[Layer] = []
    here = builder.node(place.id)
    for kind in _inner_layers(place, table):
        outer = builder.node(f"{place.id}/{kind}")
        layers.append(Layer(f"{place.id}/{kind}", _INNER_LAYERS[kind], kind, here, outer))
        here = outer
    loop = edge = zone = None
    for hop in route.hops:
        name = hop.name or _hop_name(build, hop)
        if hop.kind == "interface":
            outer = builder.node(hop.id)
        elif hop.kind == "plate":
            assert coolant is not None
            edge = coolant.parts.index(hop.part or "")
            loop, outer = coolant.circuit[edge], int(coolant.active_nodes[edge])
        else:
            zone = hop.zone
            outer = zone_nodes[hop.zone or ""]
        layers.append(Layer(hop.id, name, hop.kind, here, outer, hop))
        here = outer
    return PlaceRoute(place, source.id, tuple(layers), loop, edge, zone)


def _hop_name(build: Build, hop: Hop) -> str:
    if hop.part is None:
        return "To the air"
    part = build.part(hop.part)
    return str(part.name or part.id)
