"""One fluid's graph of a build: edges laid from series/parallel trees, their junctions and their heat nodes."""

from collections.abc import Callable
from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build, Element, Parallel
from krill.networks.flow import FlowGraph, FlowNetwork

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]

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

    @cached_property
    def _networks(self) -> dict[tuple[tuple[int, ...], ...], FlowNetwork]:
        return {}

    def network_of(self, columns: list[Indexes]) -> FlowNetwork:
        """The graph prepared for groups of edges; every batch of figures has the same groups."""
        key = tuple(tuple(own.tolist()) for own in columns)
        if key not in self._networks:
            self._networks[key] = FlowNetwork(self.graph, columns)
        return self._networks[key]

    @cached_property
    def _edges_by_circuit(self) -> dict[str, list[int]]:
        found: dict[str, list[int]] = {}
        for edge, circuit in enumerate(self.circuit):
            found.setdefault(circuit, []).append(edge)
        return found

    @cached_property
    def _nodes_by_circuit(self) -> dict[str, list[int]]:
        ends = {
            circuit: np.concatenate([self.tail_nodes[edges], self.head_nodes[edges], self.active_nodes[edges]])
            for circuit, edges in self._edges_by_circuit.items()
        }
        return {circuit: np.unique(nodes[nodes >= 0]).tolist() for circuit, nodes in ends.items()}

    def edges_of(self, circuit: str) -> list[int]:
        """Edges of a loop or path in the order of its elements, leaks among them."""
        return self._edges_by_circuit.get(circuit, [])

    def nodes_of(self, circuit: str) -> list[int]:
        """Heat nodes of a loop or path: its junctions and its elements' outlets."""
        return self._nodes_by_circuit.get(circuit, [])


@dataclass(frozen=True)
class MixedIntake:
    """Air before an intake: a share comes from the end of an exhaust path, the rest from outside."""

    address: str
    node: int
    outside: int
    exhaust: int


@dataclass
class Builder:
    names: list[str] = field(default_factory=list)

    def node(self, name: str) -> int:
        self.names.append(name)
        return len(self.names) - 1


@dataclass
class Edges:
    tail: list[int] = field(default_factory=list)
    head: list[int] = field(default_factory=list)
    parts: list[str] = field(default_factory=list)
    circuit: list[str] = field(default_factory=list)

    def add(self, tail: int, head: int, part: str, circuit: str) -> None:
        self.tail.append(tail)
        self.head.append(head)
        self.parts.append(part)
        self.circuit.append(circuit)


def lay(elements: list[Element], start: int, end: int, circuit: str, edges: Edges, node: Callable[[], int]) -> None:
    """Lay a series of elements from one junction to another, branches beside each other."""
    here = start
    for position, element in enumerate(elements):
        there = end if position == len(elements) - 1 else node()
        if isinstance(element, Parallel):
            for branch in element.parallel:
                lay(branch, here, there, circuit, edges, node)
        else:
            edges.add(here, there, element, circuit)
        here = there


def flow_structure(
    build: Build, builder: Builder, edges: Edges, heat_nodes: list[int], fixed: list[int], medium: str
) -> FlowStructure:
    graph = FlowGraph(np.array(edges.tail), np.array(edges.head), len(heat_nodes), np.array(fixed), tuple(edges.parts))
    streams = {hop.part for route in build.routes for hop in route.hops if hop.kind == "stream"}
    active = [
        builder.node(f"{part}/{medium}")
        if part in streams or (not part.endswith(LEAK) and build.part(part).exchanges_heat)
        else -1
        for part in edges.parts
    ]
    nodes, level = np.array(heat_nodes), np.zeros(graph.edges)
    return FlowStructure(
        graph,
        tuple(edges.parts),
        tuple(edges.circuit),
        nodes,
        np.array(active),
        nodes[graph.tail],
        nodes[graph.head],
        level,
        level,
    )
