"""Steady flow in a network of edges, batched: the global gradient method of Todini & Pilati 1988.

Newton on edge flows and node pressures together. No part of it knows of series or parallel: those come out of the
graph. Fluids do not matter here either; coolant loops and air use the same ``solve``.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from krill.components.edges import DropLaw, EdgeGroup, Medium
from krill.interruption import must_go_on
from krill.numerics.newton import SolveReport

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]
Mask = NDArray[np.bool_]

TOLERANCE = 1e-9
MAX_ITERATIONS = 200
COARSE = 1e-5  # of a round whose temperatures are a first guess
CERTAIN = 0.01  # margin on the foreseen next step
SMALL = np.sqrt(CERTAIN * TOLERANCE)  # a first step of this share of the flow is followed by none that counts
FREE_STEPS = 3  # full Newton steps before a sample whose steps do not shrink is damped


@dataclass(frozen=True)
class FlowGraph:
    """Directed edges between nodes; ``fixed`` nodes keep the pressure they are given (at least one a component)."""

    tail: Indexes
    head: Indexes
    nodes: int
    fixed: Indexes
    names: tuple[str, ...]

    @property
    def edges(self) -> int:
        return len(self.tail)

    @cached_property
    def free(self) -> Indexes:
        """Nodes whose pressure is solved."""
        solved = np.ones(self.nodes, dtype=bool)
        solved[self.fixed] = False
        return np.flatnonzero(solved)

    @cached_property
    def incidence(self) -> Array:
        """(free node, edge): +1 where the edge enters the node, -1 where it leaves."""
        full = np.zeros((self.nodes, self.edges))
        edge = np.arange(self.edges)
        full[self.head, edge] += 1.0
        full[self.tail, edge] -= 1.0
        return full[self.free]


@dataclass(frozen=True)
class FlowSolution:
    """Mass flows along the edges, kg/s (batch, edge), and node pressures over the fixed ones, Pa (batch, node)."""

    mass_flow: Array
    pressure: Array
    drop: Array
    report: SolveReport


class FlowNetwork:
    """A graph and the edges of each of its groups, prepared once for every medium and every speed.

    Inside, edges stand in the order of their groups, so that each group is a slice.
    """

    def __init__(self, graph: FlowGraph, columns: list[Indexes]) -> None:
        """``columns`` are the edges of each group, every edge of the graph in one of them."""
        self.graph = graph
        self._order = np.concatenate(columns)
        self._back = np.argsort(self._order)
        ends = np.cumsum([len(own) for own in columns]).tolist()
        self._slices = [slice(end - len(own), end) for own, end in zip(columns, ends, strict=True)]
        self._incidence = graph.incidence[:, self._order]
        self._transposed = np.ascontiguousarray(self._incidence.T)

    def solve(
        self,
        groups: list[EdgeGroup],
        medium: Medium,
        scale: float,
        start: Array | None = None,
        draught: Array | None = None,
        tolerance: float = TOLERANCE,
    ) -> FlowSolution:
        """Flows and pressures of every sample; the report says which samples settled.

        ``medium`` holds densities and viscosities (batch, edge); ``scale`` is a flow in kg/s that the tolerance refers
        to; ``draught`` is added to the drop of each edge, Pa (batch, edge).
        """
        batch = medium.density.shape[0]
        laws = [(own, group.at(medium.take(group.columns))) for own, group in zip(self._slices, groups, strict=True)]
        lift = None if draught is None else draught[:, self._order]
        m = np.full((batch, self.graph.edges), scale)
        if start is not None:
            m = np.broadcast_to(start, m.shape)[:, self._order]
        pace = _Pace(batch, tolerance * scale, SMALL * scale)
        for _ in range(MAX_ITERATIONS):
            must_go_on()
            friction, slope = _drops(laws, m)
            p, step = self._newton(m, friction if lift is None else friction + lift, slope)
            taken = pace.damped(step)
            m = m + taken
            if pace.arrived():
                break
        pressure = np.zeros((batch, self.graph.nodes))
        pressure[:, self.graph.free] = p
        report = SolveReport(pace.steps, pace.size, self._order[np.abs(step).argmax(axis=1)], pace.settled())
        drop = friction + slope * taken
        return FlowSolution(m[:, self._back], pressure, drop[:, self._back], report)

    def _newton(self, m: Array, drop: Array, slope: Array) -> tuple[Array, Array]:
        """Pressures of the free nodes and the full step of every flow: mass balance of the stepped flows."""
        conductance = 1.0 / slope
        matrix = (self._incidence * conductance[:, None, :]) @ self._transposed
        right = (m - conductance * drop) @ self._transposed
        p = np.asarray(np.linalg.solve(matrix, right[..., None])[..., 0], dtype=np.float64)
        return p, np.asarray(-conductance * (drop + p @ self._incidence))

    def why_not(self, report: SolveReport, row: int) -> str:
        """A sentence for a sample that did not settle."""
        return (
            f"the flow through '{self.graph.names[report.worst[row]]}' did not settle: still {report.left[row]:.2g} kg/s "
            f"a step after {report.iterations} steps; look at its curve or its resistance"
        )


class _Pace:
    """How far each sample goes along its Newton step, and when all of them have arrived."""

    def __init__(self, batch: int, enough: float, small: float) -> None:
        self._enough, self._small = enough, small
        self.steps = 0
        self._damping = np.ones(batch)
        self._before = np.full(batch, np.inf)
        self.size = np.full(batch, np.inf)

    def damped(self, step: Array) -> Array:
        """The share of a step that is taken: all of it, unless steps do not shrink; none of one that is no number."""
        self.steps += 1
        self._before, self.size = self.size, np.abs(step).max(axis=1)
        if not np.isfinite(self.size).all():
            step = np.where(np.isfinite(self.size)[:, None], step, 0.0)
        if self.steps <= FREE_STEPS:
            return step
        grows = self.size > (1.0 - 0.3 * self._damping) * self._before
        self._damping = np.where(grows, np.maximum(0.5 * self._damping, 0.05), np.minimum(1.0, 1.6 * self._damping))
        return self._damping[:, None] * step

    def arrived(self) -> bool:
        """Whether no sample has anything to gain from another step: arrived, or its flow is no number."""
        largest = float(self.size.max())
        if largest <= self._enough:
            return True
        if self.steps == 1:
            return largest <= self._small
        waits = ~self.settled() & np.isfinite(self.size)
        return not waits.any()

    def settled(self) -> Mask:
        """Samples whose next step is, or is sure to be, below what counts: steps shrink quadratically."""
        if self.steps == 1:
            return self.size <= max(self._enough, self._small)
        with np.errstate(invalid="ignore"):
            shrinks = np.minimum(self.size / np.maximum(self._before, 1e-300), 1.0)
            return np.asarray((self.size <= self._enough) | (self.size * shrinks**2 <= CERTAIN * self._enough))


def _drops(laws: list[tuple[slice, DropLaw]], m: Array) -> tuple[Array, Array]:
    drop, slope = np.empty_like(m), np.empty_like(m)
    for edges, law in laws:
        drop[:, edges], slope[:, edges] = law(m[:, edges])
    return drop, np.maximum(slope, 1e-12)
