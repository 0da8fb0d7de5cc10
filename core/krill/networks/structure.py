"""The graph of a build: which flow edges and heat nodes there are and what joins them. Holds no figures."""

from dataclasses import dataclass

from krill.components.figure_table import FigureTable
from krill.document.build import Build, Hop
from krill.document.parts import Place
from krill.networks.air_structure import air_structure
from krill.networks.flow_structure import Builder, Edges, FlowStructure, MixedIntake, flow_structure, lay


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
    builder = Builder()
    zone_nodes = {zone.id: builder.node(zone.id) for zone in build.zones}
    coolant = _coolant(build, builder)
    air, mixed = air_structure(build, builder, zone_nodes)
    ends = _Ends(coolant, air, zone_nodes)
    routes = tuple(_route(build, table, builder, ends, index) for index in range(len(build.routes)))
    return Structure(build, tuple(builder.names), zone_nodes, coolant, air, routes, mixed)


@dataclass(frozen=True)
class _Ends:
    """Where a route can end."""

    coolant: FlowStructure | None
    air: FlowStructure | None
    zone_nodes: dict[str, int]


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
    builder: Builder,
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
