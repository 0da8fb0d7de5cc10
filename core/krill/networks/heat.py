"""Heat in a network of nodes, batched: one residual for steady state and for time.

r = heat flowing into each node, W; steady is r = 0, time is C dT/dt = r. Nodes with a given temperature have
r = T_given - T, nodes of mixed air r = (what is mixed) - T with the mixing in ``matrix``. Streams are upwinded; every
link carries what leaves one node into another, so energy closes.
"""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import coo_array

from krill.errors import NotConverged
from krill.networks.laws import LinkLaw, LinkPattern
from krill.numerics.elimination import Elimination
from krill.numerics.newton import SolveReport, solve_batched

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]

BALANCE_TOLERANCE = 1e-6
MANY = 24  # samples from which sparse elimination is quicker than dense LAPACK


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

    def residual(self, T: Array, matrix: Array, power: Array, laws: Sequence[LinkLaw]) -> tuple[Array, Array]:
        """r (batch, node) and its full Jacobian, a matrix of the same form.

        ``power`` holds watts into each node and the given temperatures of the given ones; ``laws`` are those of the
        temperature-dependent links, in their order.
        """
        carried = matrix * T.T[self._pattern % self._n]
        r = np.add.reduceat(carried, self._row_starts, axis=0).T + power
        if not laws:
            return r, matrix
        J = matrix.copy()
        for law, i, j in zip(laws, self.links.inner, self.links.outer, strict=True):
            heat, by_inner, by_outer = law.heat(T[:, i], T[:, j])
            for row, column, change in ((i, i, -by_inner), (i, j, -by_outer), (j, j, by_outer), (j, i, by_inner)):
                if row not in self.held:
                    J[self.at(row, column)] += change
            if i not in self.held:
                r[:, i] -= heat
            if j not in self.held:
                r[:, j] += heat
        return r, J

    def newton_step(self, T: Array, matrix: Array, power: Array, laws: Sequence[LinkLaw]) -> tuple[Array, SolveReport]:
        """One full Newton step from T; the report says how far from r = 0 it started."""
        r, J = self.residual(T, matrix, power, laws)
        return T - self.solve(J, r), SolveReport(False, 1, float(np.max(np.abs(r))), 0, 0)

    def solve(self, J: Array, r: Array) -> Array:
        """x of J x = r, (batch, node): dense for few samples, by sparse elimination over the batch for many."""
        if r.shape[0] < MANY:
            return np.asarray(np.linalg.solve(self.dense(J), r[..., None])[..., 0])
        if self._elimination is None:
            self._elimination = Elimination(self._n, self._pattern)
        x = self._elimination.solve(J, np.array(r.T, order="C"))
        return np.ascontiguousarray(x.T)

    def steady(self, start: Array, matrix: Array, power: Array, laws: Sequence[LinkLaw]) -> tuple[Array, SolveReport]:
        """Temperatures with r = 0; NotConverged names the node that did not settle."""
        watts = float(np.max(np.sum(np.abs(np.delete(power, self.held, axis=1)), axis=1), initial=1.0))
        T, report = solve_batched(
            lambda x: self.residual(x, matrix, power, laws),
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
