"""The graph of a build: which flow edges and heat nodes there are and what joins them. Holds no figures."""

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cached_property
from itertools import groupby
from typing import Final

from krill.components.figure_table import FigureTable
from krill.document.build import Build, Hop, Route
from krill.document.parts import Place
from krill.document.solids import HeatPipe, Panel, Sink, Spreader
from krill.networks.air_structure import air_structure
from krill.networks.flow_structure import Builder, Edges, FlowStructure, MixedIntake, flow_structure, lay

#: every kind of layer: what a place has inside, then what its hops make
LAYER_KINDS: Final = (
    "hot_core",
    "package",
    "chip",
    "joint",
    "lid",
    "interface",
    "spreader",
    "pipes",
    "contact",
    "plate",
    "stream",
    "air",
)


@dataclass(frozen=True)
class Layer:
    """One conductance of a place's route: from one heat node to the next."""

    address: str
    name: str
    kind: str  # one of LAYER_KINDS
    inner: int
    outer: int  # heat node; for a plate or a stream the node of its edge
    hop: Hop | None = None
    part: str | None = None  # of a hop with several parts side by side: the one of this layer


LayerKey = tuple[str, int, int, str | None]


def layer_key(layer: Layer) -> LayerKey:
    """What tells layers apart: a hop of several parts has one for each part between each two nodes."""
    return layer.address, layer.inner, layer.outer, layer.part


@dataclass(frozen=True)
class PlaceRoute:
    """The layers from a place outwards and where they end: an edge of a loop or of an air path, a zone or a body.

    A ``side`` route leaves the place itself, beside its named way.
    """

    place: Place
    source: str
    layers: tuple[Layer, ...]
    loop: str | None
    edge: int | None
    zone: str | None
    stream: int | None = None  # edge of an air path
    body: str | None = None
    side: bool = False

    @cached_property
    def steps(self) -> list[list[Layer]]:
        """Layers one behind the other; those of one hop side by side."""
        return [list(layers) for _, layers in groupby(self.layers, key=lambda layer: layer.address)]


@dataclass(frozen=True)
class Contact:
    """Where heat enters a body: the node that presses on it, what it came through last, and where it sits."""

    body: str
    node: int
    place: Place
    through: HeatPipe | Spreader | None
    at_mm: tuple[float, float] | None


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
    side_routes: tuple[PlaceRoute, ...] = ()
    body_nodes: dict[str, int] = field(default_factory=dict)
    contacts: tuple[Contact, ...] = ()

    @property
    def nodes(self) -> int:
        return len(self.node_names)

    @cached_property
    def node_of(self) -> dict[str, int]:
        """Heat node of each name."""
        return {name: node for node, name in enumerate(self.node_names)}

    @property
    def all_routes(self) -> tuple[PlaceRoute, ...]:
        """Named ways first, then those beside them."""
        return self.routes + self.side_routes

    def contacts_of(self, body: str) -> list[Contact]:
        return [contact for contact in self.contacts if contact.body == body]


def structure_of(build: Build, table: FigureTable) -> Structure:
    """Graph of a checked document."""
    builder = Builder()
    zone_nodes = {zone.id: builder.node(zone.id) for zone in build.zones}
    coolant = _coolant(build, builder)
    air, mixed = air_structure(build, builder, zone_nodes)
    bodies = {part.id: builder.node(part.id) for part in build.parts if isinstance(part, Sink | Panel)}
    ends = _Ends(coolant, air, zone_nodes, bodies)
    routes, named, contacts = [], set(), []
    for route in build.routes:
        routes.append(_route(build, table, builder, ends, route, side=route.place in named))
        named.add(route.place)
        contacts += _contacts(build, routes[-1])
    main, beside = [r for r in routes if not r.side], [r for r in routes if r.side]
    return Structure(
        build,
        tuple(builder.names),
        zone_nodes,
        coolant,
        air,
        tuple(main),
        mixed,
        tuple(beside),
        bodies,
        tuple(contacts),
    )


@dataclass(frozen=True)
class _Ends:
    """Where a route can end."""

    coolant: FlowStructure | None
    air: FlowStructure | None
    zone_nodes: dict[str, int]
    body_nodes: dict[str, int]


def _coolant(build: Build, builder: Builder) -> FlowStructure | None:
    if not build.loops:
        return None
    edges = Edges()
    heat_nodes: list[int] = []
    fixed: list[int] = []
    for loop in build.loops:

        def node(loop_id: str = loop.id) -> int:
            heat_nodes.append(builder.node(f"{loop_id}/junction{len(heat_nodes)}"))
            return len(heat_nodes) - 1

        first = node()
        fixed.append(first)
        lay(loop.elements, first, first, loop.id, edges, node)
    return flow_structure(build, builder, edges, heat_nodes, fixed, "coolant")


_INNER_LAYERS = {
    "hot_core": "Hot core over chip",
    "package": "Package",
    "chip": "Chip",
    "joint": "Lid joint",
    "lid": "Lid, spreading",
}


def _inner_layers(place: Place, table: FigureTable) -> list[str]:
    """Which layers a place has inside, from its figures: package, or chip with or without a lid."""
    have = {
        field
        for field in ("package_k_w", "chip_mm2k_w", "hot_core_mm2k_w", "joint_mm2k_w", "lid_area_mm2")
        if f"{place.id}/{field}" in table.figures
    }
    layers = []
    if "hot_core_mm2k_w" in have and place.temperature_kind in ("hottest_core", "mean_core", "hot_spot"):
        layers.append("hot_core")
    layers += [kind for kind, key in (("package", "package_k_w"), ("chip", "chip_mm2k_w")) if key in have]
    if "lid_area_mm2" in have:
        layers += ["joint", "lid"] if "joint_mm2k_w" in have else ["lid"]
    return layers


def _route(build: Build, table: FigureTable, builder: Builder, ends: _Ends, route: Route, *, side: bool) -> PlaceRoute:
    """Nodes and layers of a way; one beside the named way starts at the place's own node."""
    place, source = build.place_owners()[route.place]
    start = builder.names.index(place.id) if side else builder.node(place.id)
    walk = _Walk(build, builder, ends, [start])
    for kind in [] if side else _inner_layers(place, table):
        outer = builder.node(f"{place.id}/{kind}")
        walk.lay(f"{place.id}/{kind}", _INNER_LAYERS[kind], kind, outer)
    for position, hop in enumerate(route.hops):
        walk.following = route.hops[position + 1].kind if position + 1 < len(route.hops) else ""
        HOP_NODES[hop.kind](walk, hop, hop.name or _hop_name(build, hop))
    return PlaceRoute(
        place, source.id, tuple(walk.layers), walk.loop, walk.edge, walk.zone, walk.stream, walk.body, side
    )


@dataclass
class _Walk:
    """On the way along a route: layers so far, the nodes that the heat stands at, and where it ends.

    ``fronts`` are several behind pipes that go their own ways into a body.
    """

    build: Build
    builder: Builder
    ends: _Ends
    fronts: list[int]
    layers: list[Layer] = field(default_factory=list)
    following: str = ""
    loop: str | None = None
    edge: int | None = None
    zone: str | None = None
    stream: int | None = None
    body: str | None = None

    def lay(self, address: str, name: str, kind: str, outer: int, hop: Hop | None = None) -> None:
        """A layer from where the heat stands to a node, and on from there."""
        self.layers.append(Layer(address, name, kind, self.fronts[0], outer, hop))
        self.fronts = [outer]


def _through(walk: _Walk, hop: Hop, name: str) -> None:
    walk.lay(hop.id, name, hop.kind, walk.builder.node(hop.id), hop)


def _pipes(walk: _Walk, hop: Hop, name: str) -> None:
    """A layer per group of pipes; before a body each group has its own groove in it."""
    apart, here = walk.following == "body", walk.fronts[0]
    shared = None if apart else walk.builder.node(hop.id)
    ends = []
    for part in hop.parts:
        outer = walk.builder.node(f"{hop.id}/{part}") if shared is None else shared
        walk.layers.append(Layer(hop.id, name, "pipes", here, outer, hop, part))
        ends.append(outer)
    walk.fronts = ends if apart else ends[:1]


def _onto_plate(walk: _Walk, hop: Hop, name: str) -> None:
    flow = walk.ends.coolant
    assert flow is not None
    walk.edge = flow.edge_of(hop.part or "")
    walk.loop = flow.circuit[walk.edge]
    walk.lay(hop.id, name, hop.kind, int(flow.active_nodes[walk.edge]), hop)


def _into_stream(walk: _Walk, hop: Hop, name: str) -> None:
    flow = walk.ends.air
    assert flow is not None
    walk.stream = flow.edge_of(hop.part or "")
    walk.lay(hop.id, name, hop.kind, int(flow.active_nodes[walk.stream]), hop)


def _into_air(walk: _Walk, hop: Hop, name: str) -> None:
    walk.zone = hop.zone
    walk.lay(hop.id, name, hop.kind, walk.ends.zone_nodes[hop.zone or ""], hop)


def _onto_body(walk: _Walk, hop: Hop, name: str) -> None:
    walk.body = hop.part
    outer = walk.ends.body_nodes[hop.part or ""]
    walk.layers += [
        Layer(f"{hop.id}/contact", f"Spreading in {name}", "contact", node, outer, hop) for node in walk.fronts
    ]


#: nodes and layers that a hop makes, a row per kind
HOP_NODES: Final[dict[str, Callable[[_Walk, Hop, str], None]]] = {
    "interface": _through,
    "spreader": _through,
    "pipes": _pipes,
    "plate": _onto_plate,
    "stream": _into_stream,
    "air": _into_air,
    "body": _onto_body,
}


def _contacts(build: Build, route: PlaceRoute) -> list[Contact]:
    """Where a route enters its body, with what it came through last."""
    found = []
    through: HeatPipe | Spreader | None = None
    behind: dict[int, HeatPipe] = {}
    for layer in route.layers:
        if layer.kind == "spreader" and layer.hop is not None:
            through, behind = build.part(layer.hop.part or ""), {}
        elif layer.kind == "pipes":
            through = behind[layer.outer] = build.part(layer.part or "")
        elif layer.kind == "contact" and layer.hop is not None:
            at = None if layer.hop.at_mm is None else (float(layer.hop.at_mm[0]), float(layer.hop.at_mm[1]))
            found.append(Contact(route.body or "", layer.inner, route.place, behind.get(layer.inner, through), at))
    return found


def _hop_name(build: Build, hop: Hop) -> str:
    if hop.kind == "pipes":
        return str(build.part(hop.parts[0]).name or "Heat pipes")
    if hop.part is None:
        return "To the air"
    part = build.part(hop.part)
    return str(part.name or part.id)
