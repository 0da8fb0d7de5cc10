"""Blocks of a heat network's matrix: each kind of link says where its entries stand and what they are, together.

A block's ``positions`` are (row, column) of its entries in their order; ``entries`` are (batch, position). ``streams`` are
signed capacity flows, W/K (batch, edge), of coolant and air.
"""

from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from krill.networks.flow_structure import FlowStructure

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]
Positions = list[tuple[int, int]]

#: fins and standing air give heat off by themselves until a W/K or more flows
STILL_AIR_FADE = 100.0


class Block(Protocol):
    """One kind of link in the matrix."""

    @property
    def positions(self) -> Positions: ...

    def entries(self, conductance: Array, streams: list[Array]) -> Array:
        """Entries at the positions for the block's own conductances (batch, link) and the flows."""
        ...


@dataclass(frozen=True)
class FlowBlock:
    """What a fluid carries along its edges, and what they carry at rest (``standing``, W/K each); it has no conductances."""

    flow: FlowStructure
    standing: Array
    fluid: int  # which of the streams

    @cached_property
    def positions(self) -> Positions:
        flow, places = self.flow, Positions()
        tail, head = flow.tail_nodes, flow.head_nodes
        own = np.where(flow.active_nodes >= 0, flow.active_nodes, tail)
        back = np.where(flow.active_nodes >= 0, flow.active_nodes, head)
        active = np.flatnonzero(flow.active_nodes >= 0)
        node = flow.active_nodes[active]
        for rows, columns in (
            (head, own),
            (head, head),
            (tail, back),
            (tail, tail),
            (node, tail[active]),
            (node, head[active]),
            (node, node),
        ):
            places += zip(rows.tolist(), columns.tolist(), strict=True)
        return places

    def entries(self, conductance: Array, streams: list[Array]) -> Array:
        C = streams[self.fluid]
        standing = self.standing / (1.0 + STILL_AIR_FADE * C**2)
        forward, backward = np.maximum(C, 0.0) + standing, np.maximum(-C, 0.0) + standing
        active = self.flow.active_nodes >= 0
        ahead, behind = forward[:, active], backward[:, active]
        return np.concatenate([forward, -forward, backward, -backward, ahead, behind, -(ahead + behind)], axis=1)


@dataclass(frozen=True)
class PairBlock:
    """Plain conductances between two nodes each: layers, contacts and seams of bodies, bare tubes."""

    pairs: list[tuple[int, int]]

    @cached_property
    def positions(self) -> Positions:
        return [place for i, j in self.pairs for place in ((i, i), (i, j), (j, j), (j, i))]

    def entries(self, conductance: Array, streams: list[Array]) -> Array:
        G = conductance
        return np.stack([-G, G, -G, G], axis=-1).reshape(G.shape[0], -1)


@dataclass(frozen=True)
class _EdgeBlock:
    """Faces that give heat to edges of a flow."""

    flow: FlowStructure
    faces: list[int]
    edges: list[int]
    fluid: int

    def _positions(self, own_column: bool) -> Positions:
        """Rows of the face and of its edge, each on the face, on the edge's ends and, where asked, on the edge itself."""
        flow = self.flow
        places: Positions = []
        for face, edge in zip(self.faces, self.edges, strict=True):
            own = int(flow.active_nodes[edge])
            columns = [face, int(flow.tail_nodes[edge]), int(flow.head_nodes[edge]), *([own] if own_column else [])]
            places += [(row, column) for row in (face, own) for column in columns]
        return places

    @staticmethod
    def _both_rows(face: list[Array]) -> Array:
        """Entries of the face's row, and the same with the other sign for the edge's: what one gives, the other gets."""
        return np.stack([*face, *(-entry for entry in face)], axis=-1).reshape(face[0].shape[0], -1)

    def _streams(self, streams: list[Array]) -> Array:
        return streams[self.fluid][:, self.edges]


@dataclass(frozen=True)
class PlateBlock(_EdgeBlock):
    """Faces on plates, which are rated on the mean coolant in their edge."""

    @cached_property
    def positions(self) -> Positions:
        return self._positions(own_column=True)

    def entries(self, conductance: Array, streams: list[Array]) -> Array:
        G, C = conductance, self._streams(streams)
        own = own_weight(G, C)
        ahead = (C >= 0).astype(float)
        return self._both_rows([-G, G * (1 - own) * ahead, G * (1 - own) * (1 - ahead), G * own])


@dataclass(frozen=True)
class StreamBlock(_EdgeBlock):
    """Faces in a stream of air, rated on what enters their edge."""

    @cached_property
    def positions(self) -> Positions:
        return self._positions(own_column=False)

    def entries(self, conductance: Array, streams: list[Array]) -> Array:
        G = conductance
        ahead = (self._streams(streams) >= 0).astype(float)
        return self._both_rows([-G, G * ahead, G * (1 - ahead)])


@dataclass(frozen=True)
class RadiatorBlock:
    """Coolant edges that give heat to air edges, rated on the difference of what enters both."""

    coolant: FlowStructure
    air: FlowStructure
    coolant_edges: list[int]
    air_edges: list[int]

    @cached_property
    def positions(self) -> Positions:
        found = Positions()
        for wet, dry in zip(self.coolant_edges, self.air_edges, strict=True):
            wt, wh = int(self.coolant.tail_nodes[wet]), int(self.coolant.head_nodes[wet])
            at, ah = int(self.air.tail_nodes[dry]), int(self.air.head_nodes[dry])
            for row in (int(self.coolant.active_nodes[wet]), int(self.air.active_nodes[dry])):
                found += [(row, wt), (row, wh), (row, at), (row, ah)]
        return found

    def entries(self, conductance: Array, streams: list[Array]) -> Array:
        G = conductance
        water = (streams[0][:, self.coolant_edges] >= 0).astype(float)
        stream = (streams[1][:, self.air_edges] >= 0).astype(float)
        wt, wh, at, ah = G * water, G * (1 - water), G * stream, G * (1 - stream)
        return np.stack([-wt, -wh, at, ah, wt, wh, -at, -ah], axis=-1).reshape(G.shape[0], -1)


def own_weight(conductance: Array, capacity_flow: Array) -> Array:
    """Share of the outlet in a plate's mean coolant: a half, more where the flow is so small that it saturates."""
    ntu = conductance / np.maximum(np.abs(capacity_flow), 1e-9)
    return np.maximum(0.5, 1.0 - 1.0 / np.maximum(ntu, 1e-9))
