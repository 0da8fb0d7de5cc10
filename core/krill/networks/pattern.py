"""Turns a structure into the fixed pattern of its heat network, and flows and conductances into its entries."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.document.parts import Radiator
from krill.networks.heat import HeatNetwork, LinkPattern
from krill.networks.structure import FlowStructure, PlaceRoute, Structure

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]

#: conductance along every edge at rest, W/K: what standing coolant or air still carries (estimate); it keeps a
#: network without flow regular, where a machine would in truth cook
RESIDUAL_CONDUCTANCE = {"coolant": 5e-3, "air": 1e-6}
#: free convection and radiation of a box's walls grow a little with the difference (value from memory)
WALL_EXPONENT, WALL_REFERENCE_K = 0.2, 15.0


@dataclass(frozen=True)
class PlateHop:
    """A face that gives heat to the mean coolant of a plate's edge."""

    route: PlaceRoute
    face: int
    edge: int


@dataclass(frozen=True)
class RadiatorLink:
    """A radiator's coolant edge and air edge."""

    part: Radiator
    coolant_edge: int
    air_edge: int


class ThermalPattern:
    """Heat network of a structure with its entry order: streams, conductances, plates, radiators."""

    def __init__(self, structure: Structure) -> None:
        self.structure = structure
        self.layers = [(route, layer) for route in structure.routes for layer in route.layers if layer.kind != "plate"]
        self.plates = [
            PlateHop(route, layer.inner, route.edge)
            for route in structure.routes
            for layer in route.layers
            if layer.kind == "plate" and route.edge is not None
        ]
        self.radiators = _radiators(structure)
        boxes = [zone for zone in structure.build.zones if zone.kind == "box"]
        outside = [zone for zone in structure.build.zones if zone.kind == "outside"]
        self.walls = [zone.id for zone in boxes] if outside else []
        self.outside = [zone.id for zone in outside]
        self.given = np.array([structure.zone_nodes[zone] for zone in self.outside], dtype=np.intp)
        links = LinkPattern(
            np.array([structure.zone_nodes[zone] for zone in self.walls], dtype=np.intp),
            np.array([self.given[0] if outside else 0] * len(self.walls), dtype=np.intp),
            np.full(len(self.walls), WALL_EXPONENT),
            np.full(len(self.walls), WALL_REFERENCE_K),
        )
        rows, columns = self._positions()
        self.network = HeatNetwork(structure.node_names, rows, columns, self.given, links)

    def _flows(self) -> list[FlowStructure]:
        return [flow for flow in (self.structure.coolant, self.structure.air) if flow is not None]

    def _positions(self) -> tuple[Indexes, Indexes]:
        places: list[tuple[int, int]] = []
        for flow in self._flows():
            tail = flow.junction_nodes[flow.graph.tail]
            head = flow.junction_nodes[flow.graph.head]
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
        coolant = self.structure.coolant
        for plate in self.plates:
            assert coolant is not None
            own_node, t, h = _edge_nodes(coolant, plate.edge)
            for row in (plate.face, own_node):
                places += [(row, plate.face), (row, t), (row, h), (row, own_node)]
        for link in self.radiators:
            assert coolant is not None
            assert self.structure.air is not None
            water, wt, wh = _edge_nodes(coolant, link.coolant_edge)
            stream, at, ah = _edge_nodes(self.structure.air, link.air_edge)
            places += [(water, wt), (water, wh), (water, at), (water, ah)]
            places += [(stream, wt), (stream, wh), (stream, at), (stream, ah)]
        rows, columns = np.array(places, dtype=np.intp).T
        return rows, columns

    def entries(
        self, streams: list[Array], conductances: Array, plate_conductances: Array, radiator_conductances: Array
    ) -> Array:
        """Matrix entries (batch, entry).

        ``streams`` are signed capacity flows W/K (batch, edge) of coolant and air; the others W/K (batch, item) in
        the order of ``layers``, ``plates`` and ``radiators``.
        """
        pieces: list[Array] = []
        for flow, C in zip(self._flows(), streams, strict=True):
            still = RESIDUAL_CONDUCTANCE["coolant" if flow is self.structure.coolant else "air"]
            standing = still / (1.0 + C**2)  # gone where a W/K or more flows
            forward, backward = np.maximum(C, 0.0) + standing, np.maximum(-C, 0.0) + standing
            active = flow.active_nodes >= 0
            ahead, behind = forward[:, active], backward[:, active]
            pieces += [forward, -forward, backward, -backward, ahead, behind, -(ahead + behind)]
        G = conductances
        pieces.append(np.stack([-G, G, -G, G], axis=-1).reshape(G.shape[0], -1))
        if self.plates:
            pieces.append(self._plate_entries(streams[0], plate_conductances))
        if self.radiators:
            pieces.append(self._radiator_entries(streams[0], streams[1], radiator_conductances))
        return np.concatenate(pieces, axis=1)

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


def own_weight(conductance: Array, capacity_flow: Array) -> Array:
    """Share of the outlet in a plate's mean coolant: a half, more where the flow is so small that it saturates."""
    ntu = conductance / np.maximum(np.abs(capacity_flow), 1e-9)
    return np.maximum(0.5, 1.0 - 1.0 / np.maximum(ntu, 1e-9))


def _edge_nodes(flow: FlowStructure, edge: int) -> tuple[int, int, int]:
    tail = flow.junction_nodes[flow.graph.tail[edge]]
    head = flow.junction_nodes[flow.graph.head[edge]]
    return int(flow.active_nodes[edge]), int(tail), int(head)


def _radiators(structure: Structure) -> list[RadiatorLink]:
    if structure.coolant is None or structure.air is None:
        return []
    found = []
    for edge, part_id in enumerate(structure.coolant.parts):
        part = structure.build.part(part_id)
        if isinstance(part, Radiator) and part_id in structure.air.parts:
            found.append(RadiatorLink(part, edge, structure.air.parts.index(part_id)))
    return found
