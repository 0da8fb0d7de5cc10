"""The graph of a build: which flow edges and heat nodes there are and what joins them. Holds no figures."""

from collections.abc import Callable
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable
from krill.document.build import Build, Element, Hop, Parallel
from krill.document.geometry import heights_of
from krill.document.parts import Duct, Place
from krill.networks.flow import FlowGraph

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]

#: kinds whose edge takes up or gives off heat and so has a temperature of its own
ACTIVE_KINDS = ("pump", "plate", "radiator", "fan")
LEAK = "/leak"


def owner(edge: str) -> str:
    """The part that an edge belongs to: its own name, or the duct that a leak is in."""
    return edge.removesuffix(LEAK)


@dataclass(frozen=True)
class FlowStructure:
    """One fluid's graph with what each edge and junction is; ``circuit`` is the loop or path of each edge.

    ``tail_nodes`` and ``head_nodes`` are the heat nodes at both ends of each edge: those of its junctions, or the mixed
    air that an intake breathes. ``rise`` and ``fall`` are heights in metres from the tail's reference to the edge and
    from the edge to the head's: what columns of air weigh.
    """

    graph: FlowGraph
    parts: tuple[str, ...]
    circuit: tuple[str, ...]
    junction_nodes: Indexes  # heat node of each junction
    active_nodes: Indexes  # heat node of each edge, -1 where it only passes on
    tail_nodes: Indexes
    head_nodes: Indexes
    rise: Array
    fall: Array

    def edge_of(self, part: str) -> int:
        """The edge of a part."""
        return self.parts.index(part)


@dataclass(frozen=True)
class MixedIntake:
    """Air before an intake: a share comes from the end of an exhaust path, the rest from outside."""

    address: str
    node: int
    outside: int
    exhaust: int


@dataclass(frozen=True)
class Layer:
    """One conductance of a place's route: from one heat node to the next."""

    address: str
    name: str
    kind: str  # hot_core chip joint lid package interface plate stream air
    inner: int
    outer: int  # heat node; for a plate or a stream the node of its edge
    hop: Hop | None = None


@dataclass(frozen=True)
class PlaceRoute:
    """The layers from a place outwards and where they end: an edge of a loop or of an air path, or a zone."""

    place: Place
    source: str
    layers: tuple[Layer, ...]
    loop: str | None
    edge: int | None
    zone: str | None
    stream: int | None = None  # edge of an air path


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
    mixed: tuple[MixedIntake, ...] = ()

    @property
    def nodes(self) -> int:
        return len(self.node_names)


def structure_of(build: Build, table: FigureTable) -> Structure:
    """Graph of a checked document."""
    builder = _Builder()
    zone_nodes = {zone.id: builder.node(zone.id) for zone in build.zones}
    coolant = _coolant(build, builder)
    air, mixed = _air(build, builder, zone_nodes)
    ends = _Ends(coolant, air, zone_nodes)
    routes = tuple(_route(build, table, builder, ends, index) for index in range(len(build.routes)))
    return Structure(build, tuple(builder.names), zone_nodes, coolant, air, routes, mixed)


@dataclass(frozen=True)
class _Ends:
    """Where a route can end."""

    coolant: FlowStructure | None
    air: FlowStructure | None
    zone_nodes: dict[str, int]


@dataclass
class _Edges:
    tail: list[int] = field(default_factory=list)
    head: list[int] = field(default_factory=list)
    parts: list[str] = field(default_factory=list)
    circuit: list[str] = field(default_factory=list)

    def add(self, tail: int, head: int, part: str, circuit: str) -> None:
        self.tail.append(tail)
        self.head.append(head)
        self.parts.append(part)
        self.circuit.append(circuit)


def _lay(elements: list[Element], start: int, end: int, circuit: str, edges: _Edges, node: Callable[[], int]) -> None:
    """Lay a series of elements from one junction to another, branches beside each other."""
    here = start
    for position, element in enumerate(elements):
        there = end if position == len(elements) - 1 else node()
        if isinstance(element, Parallel):
            for branch in element.parallel:
                _lay(branch, here, there, circuit, edges, node)
        else:
            edges.add(here, there, element, circuit)
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


def _air(
    build: Build, builder: _Builder, zone_nodes: dict[str, int]
) -> tuple[FlowStructure | None, tuple[MixedIntake, ...]]:
    if not build.air_paths:
        return None, ()
    edges = _Edges()
    heat_nodes: list[int] = []
    ducts = {part.id: part for part in build.parts if isinstance(part, Duct) and part.leak_zone is not None}
    used = {zone for path in build.air_paths for zone in (path.start, path.end)}
    used |= {str(duct.leak_zone) for duct in ducts.values()}
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
    for edge, part in enumerate(list(edges.parts)):
        if part in ducts:
            edges.add(edges.head[edge], junction_of[str(ducts[part].leak_zone)], part + LEAK, edges.circuit[edge])
    outside = [junction_of[zone.id] for zone in build.zones if zone.id in used and zone.kind == "outside"]
    fixed = sorted({*outside, *_one_of_each_component(edges, len(heat_nodes), outside)})
    flow = _flow_structure(build, builder, edges, heat_nodes, fixed, "air")
    rise, fall = _air_heights(build, flow, set(junction_of.values()))
    return _with_mixed_intakes(build, builder, replace(flow, rise=rise, fall=fall))


def _air_heights(build: Build, flow: FlowStructure, zones: set[int]) -> tuple[Array, Array]:
    """Heights from the tail's reference to each edge and on to the head's; a zone's reference is height 0.

    An inner junction lies at the height of the part that air reaches it through.
    """
    heights = heights_of(build)
    own = np.array([heights.get(owner(part), np.nan) for part in flow.parts])
    graph = flow.graph
    junction = np.zeros(graph.nodes)
    for edge in range(
        graph.edges
    ):  # edges are laid in flow order: a part without a height keeps that of the one before
        tail, head = graph.tail[edge], graph.head[edge]
        if np.isnan(own[edge]):
            own[edge] = 0.0 if tail in zones else junction[tail]
        if head not in zones:
            junction[head] = own[edge]
    return own - junction[graph.tail], junction[graph.head] - own


def _with_mixed_intakes(
    build: Build, builder: _Builder, flow: FlowStructure
) -> tuple[FlowStructure, tuple[MixedIntake, ...]]:
    tails = flow.tail_nodes.copy()
    found = []
    for item in build.recirculations:
        first = flow.circuit.index(item.intake)
        start = flow.graph.tail[first]
        last = len(flow.circuit) - 1 - flow.circuit[::-1].index(item.exhaust)
        if flow.parts[last].endswith(LEAK):
            last = max(e for e, (c, p) in enumerate(zip(flow.circuit, flow.parts, strict=True))
                       if c == item.exhaust and not p.endswith(LEAK))  # fmt: skip
        exhaust = flow.active_nodes[last] if flow.active_nodes[last] >= 0 else flow.tail_nodes[last]
        node = builder.node(f"{item.id}/air")
        for edge, circuit in enumerate(flow.circuit):
            if circuit == item.intake and flow.graph.tail[edge] == start:
                tails[edge] = node
        found.append(MixedIntake(item.id, node, int(flow.junction_nodes[start]), int(exhaust)))
    return replace(flow, tail_nodes=tails), tuple(found)


def _one_of_each_component(edges: _Edges, nodes: int, anchored: list[int]) -> list[int]:
    """A node of every connected part of the graph that no outside zone anchors."""
    label = list(range(nodes))
    for tail, head in zip(edges.tail, edges.head, strict=True):
        old, new = label[head], label[tail]
        if old != new:
            label = [new if other == old else other for other in label]
    done = {label[node] for node in anchored}
    return [label.index(other) for other in dict.fromkeys(label) if other not in done]


def _flow_structure(
    build: Build, builder: _Builder, edges: _Edges, heat_nodes: list[int], fixed: list[int], medium: str
) -> FlowStructure:
    graph = FlowGraph(np.array(edges.tail), np.array(edges.head), len(heat_nodes), np.array(fixed), tuple(edges.parts))
    streams = {hop.part for route in build.routes for hop in route.hops if hop.kind == "stream"}
    active = [
        builder.node(f"{part}/{medium}")
        if part in streams or (not part.endswith(LEAK) and build.part(part).kind in ACTIVE_KINDS)
        else -1
        for part in edges.parts
    ]
    nodes, level = np.array(heat_nodes), np.zeros(graph.edges)
    return FlowStructure(
        graph, tuple(edges.parts), tuple(edges.circuit), nodes, np.array(active), nodes[graph.tail], nodes[graph.head],
        level, level,
    )  # fmt: skip


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
    ends: _Ends,
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
    loop = edge = zone = stream = None
    for hop in route.hops:
        name = hop.name or _hop_name(build, hop)
        if hop.kind == "interface":
            outer = builder.node(hop.id)
        elif hop.kind == "plate":
            assert ends.coolant is not None
            edge = ends.coolant.edge_of(hop.part or "")
            loop, outer = ends.coolant.circuit[edge], int(ends.coolant.active_nodes[edge])
        elif hop.kind == "stream":
            assert ends.air is not None
            stream = ends.air.edge_of(hop.part or "")
            outer = int(ends.air.active_nodes[stream])
        else:
            zone = hop.zone
            outer = ends.zone_nodes[hop.zone or ""]
        layers.append(Layer(hop.id, name, hop.kind, here, outer, hop))
        here = outer
    return PlaceRoute(place, source.id, tuple(layers), loop, edge, zone, stream)


def _hop_name(build: Build, hop: Hop) -> str:
    if hop.part is None:
        return "To the air"
    part = build.part(hop.part)
    return str(part.name or part.id)
