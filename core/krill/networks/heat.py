"""Heat in a network of nodes, batched: one residual for steady state and for time.

r = heat flowing into each node, W; steady is r = 0, time is C dT/dt = r. Nodes with a given temperature have
r = T_given - T, nodes of mixed air r = (what is mixed) - T with the mixing in ``matrix``. Streams are upwinded; every
link carries what leaves one node into another, so energy closes.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array

from krill.errors import NotConverged
from krill.numerics.elimination import Elimination
from krill.numerics.newton import SolveReport, solve_batched

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]

BALANCE_TOLERANCE = 1e-6
MANY = 24  # samples from which sparse elimination is quicker than dense LAPACK
SMALLEST_DIFFERENCE = 1e-3  # K, below which a temperature-dependent link is held at its value there


@dataclass(frozen=True)
class LinkPattern:
    """Which nodes temperature-dependent conductances join: G (|dT|/ref)^exponent, one column a link."""

    inner: Indexes
    outer: Indexes
    exponent: Array
    reference_k: Array


class HeatNetwork:
    """Fixed pattern of a heat network: matrix entries (row, column), nodes of given temperature, links."""

    def __init__(
        self,
        names: tuple[str, ...],
        rows: Indexes,
        columns: Indexes,
        given: Indexes,
        links: LinkPattern,
        mixing: list[tuple[int, int]] | None = None,
    ):
        self.names = names
        self.given = given
        self.links = links
        mixed, mixed_from = np.array(mixing or [], dtype=np.intp).reshape(-1, 2).T
        self.held = np.concatenate([given, np.unique(mixed)])
        n = self._n = len(names)
        self._kept = np.flatnonzero(~np.isin(rows, self.held))
        flat = rows[self._kept] * n + columns[self._kept]
        own = np.arange(n) * (n + 1)
        inner, outer = links.inner, links.outer
        self._pattern = np.unique(
            np.concatenate([flat, inner * n + outer, outer * n + inner, own, mixed * n + mixed_from])
        )
        self._row_starts = np.searchsorted(self._pattern, np.arange(n) * n)
        entry = np.arange(len(flat))
        place = np.searchsorted(self._pattern, flat)
        shape = (len(self._pattern), len(flat))
        self._scatter = coo_array((np.ones(len(flat)), (place, entry)), shape=shape).tocsr()
        self._elimination: Elimination | None = None

    def at(self, row: int, column: int) -> int:
        """Where an entry of the pattern stands in a matrix."""
        return int(np.searchsorted(self._pattern, row * self._n + column))

    def matrix(self, entries: Array) -> Array:
        """(place of the pattern, batch) from the entries (batch, entry) in the order of rows and columns."""
        values = np.asarray(self._scatter @ entries[:, self._kept].T)
        values[np.searchsorted(self._pattern, self.held * (self._n + 1))] = -1.0
        return values

    def dense(self, matrix: Array) -> Array:
        """(batch, node, node) of a matrix: what LAPACK and single samples take."""
        full = np.zeros((matrix.shape[1], self._n * self._n))
        full[:, self._pattern] = matrix.T
        return full.reshape(-1, self._n, self._n)

    def residual(self, T: Array, matrix: Array, power: Array, conductance: Array) -> tuple[Array, Array]:
        """r (batch, node) and its full Jacobian, a matrix of the same form.

        ``power`` holds watts into each node and the given temperatures of the given ones; ``conductance`` the W/K
        at the reference difference of each temperature-dependent link (batch, link).
        """
        carried = matrix * T.T[self._pattern % self._n]
        r = np.add.reduceat(carried, self._row_starts, axis=0).T + power
        if conductance.shape[1] == 0:
            return r, matrix
        J = matrix.copy()
        links = self.links
        difference = T[:, links.inner] - T[:, links.outer]
        size = np.maximum(np.abs(difference), SMALLEST_DIFFERENCE) / links.reference_k
        G = conductance * size**links.exponent
        heat = G * difference
        moving = np.abs(difference) > SMALLEST_DIFFERENCE
        slope = G * np.where(moving, 1.0 + links.exponent, 1.0)
        for k, (i, j) in enumerate(zip(links.inner, links.outer, strict=True)):
            for row, column, sign in ((i, i, -1.0), (i, j, 1.0), (j, j, -1.0), (j, i, 1.0)):
                if row not in self.held:
                    J[self.at(row, column)] += sign * slope[:, k]
            if i not in self.given:
                r[:, i] -= heat[:, k]
            if j not in self.given:
                r[:, j] += heat[:, k]
        return r, J

    def newton_step(self, T: Array, matrix: Array, power: Array, conductance: Array) -> tuple[Array, SolveReport]:
        """One full Newton step from T; the report says how far from r = 0 it started."""
        r, J = self.residual(T, matrix, power, conductance)
        return T - self.solve(J, r), SolveReport(False, 1, float(np.max(np.abs(r))), 0, 0)

    def solve(self, J: Array, r: Array) -> Array:
        """x of J x = r, (batch, node): dense for few samples, by sparse elimination over the batch for many."""
        if r.shape[0] < MANY:
            return np.asarray(np.linalg.solve(self.dense(J), r[..., None])[..., 0])
        if self._elimination is None:
            self._elimination = Elimination(self._n, self._pattern)
        x = self._elimination.solve(J, np.array(r.T, order="C"))
        return np.ascontiguousarray(x.T)

    def steady(self, start: Array, matrix: Array, power: Array, conductance: Array) -> tuple[Array, SolveReport]:
        """Temperatures with r = 0; NotConverged names the node that did not settle."""
        watts = float(np.max(np.sum(np.abs(np.delete(power, self.held, axis=1)), axis=1), initial=1.0))
        T, report = solve_batched(
            lambda x: self.residual(x, matrix, power, conductance),
            start,
            BALANCE_TOLERANCE * max(watts, 1.0),
            self.solve,
        )
        if not report.converged:
            raise NotConverged(
                f"the temperature of '{self.names[report.worst_column]}' did not settle: {report.residual:.2g} W left "
                f"after {report.iterations} steps; look at the links of that node"
            )
        return T, report
