"""Steady flow in a network of edges, batched: the global gradient method of Todini & Pilati 1988.

Newton on edge flows and node pressures together. No part of it knows of series or parallel: those come out of the
graph. Fluids do not matter here either; coolant loops and air use the same ``solve``.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from krill.components.edges import DropLaw, EdgeGroup, Medium
from krill.errors import NotConverged
from krill.numerics.newton import SolveReport

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]

TOLERANCE = 1e-9
MAX_ITERATIONS = 200
CERTAIN = 0.01  # margin on the foreseen next step
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


def solve(
    graph: FlowGraph,
    groups: list[EdgeGroup],
    medium: Medium,
    scale: float,
    start: Array | None = None,
    draught: Array | None = None,
) -> FlowSolution:
    """Flows and pressures for every sample.

    ``medium`` holds densities and viscosities (batch, edge); ``scale`` is a flow in kg/s that the tolerance of
    1e-9 refers to; ``draught`` is added to the drop of each edge, Pa (batch, edge). NotConverged names the worst edge.
    """
    batch = medium.density.shape[0]
    # edges in the order of their groups, so that each group is a slice
    order = np.concatenate([group.columns for group in groups])
    laws = _laws(groups, medium)
    A = graph.incidence[:, order]
    m = (
        np.full((batch, graph.edges), scale)
        if start is None
        else np.broadcast_to(start, (batch, graph.edges))[:, order]
    )
    lift = None if draught is None else draught[:, order]
    damping = np.ones(batch)
    last = np.full(batch, np.inf)
    best = np.inf
    for iteration in range(1, MAX_ITERATIONS + 1):
        friction, slope = _drops(laws, m)
        drop = friction if lift is None else friction + lift
        conductance = 1.0 / slope
        weighted = A[None] * conductance[:, None, :]
        matrix = weighted @ A.T
        # mass balance of the stepped flows: A (m - (drop + A'p)/slope) = 0
        right = (m - conductance * drop) @ A.T
        p = np.linalg.solve(matrix, right[..., None])[..., 0]
        step = -conductance * (drop + p @ A)
        size = np.abs(step).max(axis=1)
        if iteration > FREE_STEPS:
            damping = np.where(
                size > (1.0 - 0.3 * damping) * last, np.maximum(0.5 * damping, 0.05), np.minimum(1.0, 1.6 * damping)
            )
        before, last = last, size
        taken = damping[:, None] * step
        m = m + taken
        best = float(size.max())
        if best <= TOLERANCE * scale or not np.isfinite(best):
            break
        if (
            iteration > 1
            and float((size * np.minimum(size / np.maximum(before, 1e-300), 1.0) ** 2).max())
            <= CERTAIN * TOLERANCE * scale
        ):
            best = TOLERANCE * scale  # steps shrink quadratically: the next one would be smaller than that
            break
    worst = np.unravel_index(int(np.argmax(np.abs(step))), step.shape)
    report = SolveReport(bool(best <= TOLERANCE * scale), iteration, best, int(order[worst[1]]), int(worst[0]))
    if not report.converged:
        raise NotConverged(
            f"the flow through '{graph.names[report.worst_column]}' did not settle: still {best:.2g} kg/s a step after "
            f"{iteration} steps; look at its curve or its resistance"
        )
    pressure = np.zeros((batch, graph.nodes))
    pressure[:, graph.free] = p
    back = np.argsort(order)
    return FlowSolution(m[:, back], pressure, (friction + slope * taken)[:, back], report)


def _laws(groups: list[EdgeGroup], medium: Medium) -> list[tuple[slice, DropLaw]]:
    """The law of each group in its medium, and the edges it stands for, groups one after another."""
    found, first = [], 0
    for group in groups:
        last = first + len(group.columns)
        found.append((slice(first, last), group.at(medium.take(group.columns))))
        first = last
    return found


def _drops(laws: list[tuple[slice, DropLaw]], m: Array) -> tuple[Array, Array]:
    drop, slope = np.empty_like(m), np.empty_like(m)
    for edges, law in laws:
        drop[:, edges], slope[:, edges] = law(m[:, edges])
    return drop, np.maximum(slope, 1e-12)
