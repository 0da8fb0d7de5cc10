"""Heat in a network of nodes, batched: one residual for steady state and for time.

r = heat flowing into each node, W; steady is r = 0, time is C dT/dt = r. Nodes with a given temperature have
r = T_given - T, nodes of mixed air r = (what is mixed) - T with the mixing in ``matrix``. Streams are upwinded; every
link carries what leaves one node into another, so energy closes.
"""

from collections.abc import Callable, Sequence
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from krill.networks.laws import LinkLaw, LinkPattern
from krill.numerics.elimination import Elimination
from krill.numerics.newton import SolveReport, solve_batched

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]

BALANCE_TOLERANCE = 1e-6
#: networks that are kept prepared: a keystroke that moves a number meets the one of its structure again
MAX_KEPT = 64
MANY = 24  # samples from which sparse elimination is quicker than dense LAPACK


Position = tuple[int, int]


@lru_cache(maxsize=MAX_KEPT)
def heat_network(
    names: tuple[str, ...],
    positions: tuple[Position, ...],
    given: tuple[int, ...],
    links: tuple[Position, ...],
    mixing: tuple[Position, ...],
) -> "HeatNetwork":
    """The network of a pattern, prepared once: builds that differ in their numbers alone share it."""
    rows, columns = np.array(positions, dtype=np.intp).reshape(-1, 2).T
    inner, outer = np.array(links, dtype=np.intp).reshape(-1, 2).T
    return HeatNetwork(names, rows, columns, np.array(given, dtype=np.intp), LinkPattern(inner, outer), list(mixing))


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
        solved = np.ones(n, dtype=bool)
        solved[self.held] = False
        kept = np.flatnonzero(solved[rows])
        flat = rows[kept] * n + columns[kept]
        own = np.arange(n) * (n + 1)
        inner, outer = links.inner, links.outer
        self._gives, self._takes = solved[inner], solved[outer]
        self._pattern = np.unique(
            np.concatenate([flat, inner * n + outer, outer * n + inner, own, mixed * n + mixed_from])
        )
        self._row_starts = np.searchsorted(self._pattern, np.arange(n) * n)
        place = np.searchsorted(self._pattern, flat)
        by_place = np.argsort(place, kind="stable")
        self._sorted = kept[by_place]
        self._filled, self._firsts = np.unique(place[by_place], return_index=True)
        self._column_of = self._pattern % n
        self._held_places = self._places(self.held, self.held)
        self._own_places = self._places(np.arange(n), np.arange(n))
        self._link_places = [
            self._places(i, j) for i, j in ((inner, inner), (inner, outer), (outer, outer), (outer, inner))
        ]
        self._elimination: Elimination | None = None

    def at(self, row: int, column: int) -> int:
        """Where an entry of the pattern stands in a matrix."""
        return int(np.searchsorted(self._pattern, row * self._n + column))

    def _places(self, rows: Indexes, columns: Indexes) -> Indexes:
        return np.searchsorted(self._pattern, rows * self._n + columns)

    def matrix(self, entries: Array) -> Array:
        """(place of the pattern, batch) from the entries (batch, entry) in the order of rows and columns."""
        values = np.zeros((len(self._pattern), entries.shape[0]))
        if self._filled.size:
            values[self._filled] = np.add.reduceat(entries.T[self._sorted], self._firsts, axis=0)
        values[self._held_places] = -1.0
        return values

    def dense(self, matrix: Array) -> Array:
        """(batch, node, node) of a matrix: what LAPACK and single samples take."""
        full = np.zeros((matrix.shape[1], self._n * self._n))
        full[:, self._pattern] = matrix.T
        return full.reshape(-1, self._n, self._n)

    def shifted(self, matrix: Array, shift: Array) -> Array:
        """A matrix with ``shift`` (batch or 1, node) taken from its diagonal: what a step in time solves."""
        found = matrix.copy()
        found[self._own_places] -= shift.T
        return found

    def carried(self, T: Array, matrix: Array) -> Array:
        """A matrix times temperatures, (batch, node)."""
        return np.asarray(np.add.reduceat(matrix * T.T[self._column_of], self._row_starts, axis=0).T)

    def linear(self, T: Array, matrix: Array, laws: Sequence[LinkLaw]) -> tuple[Array, Array]:
        """(J, p): near T the network without its watts is J T + p; J a matrix of the same form, p (batch, node)."""
        r, J = self.residual(T, matrix, np.zeros_like(T), laws)
        return J, r - self.carried(T, J)

    def residual(self, T: Array, matrix: Array, power: Array, laws: Sequence[LinkLaw]) -> tuple[Array, Array]:
        """r (batch, node) and its full Jacobian, a matrix of the same form.

        ``power`` holds watts into each node and the given temperatures of the given ones; ``laws`` are those of the
        temperature-dependent links, in their order.
        """
        r = self.carried(T, matrix) + power
        if not laws:
            return r, matrix
        J = matrix.copy()
        for link, (law, i, j) in enumerate(zip(laws, self.links.inner, self.links.outer, strict=True)):
            heat, by_inner, by_outer = law.heat(T[:, i], T[:, j])
            own_inner, to_outer, own_outer, to_inner = (places[link] for places in self._link_places)
            if self._gives[link]:
                r[:, i] -= heat
                J[own_inner] -= by_inner
                J[to_outer] -= by_outer
            if self._takes[link]:
                r[:, j] += heat
                J[own_outer] += by_outer
                J[to_inner] += by_inner
        return r, J

    def newton_step(self, T: Array, matrix: Array, power: Array, laws: Sequence[LinkLaw]) -> Array:
        """Temperatures one full Newton step from T."""
        r, J = self.residual(T, matrix, power, laws)
        return T - self.solve(J, r)

    def solve(self, J: Array, r: Array) -> Array:
        """x of J x = r, (batch, node): dense for few samples, by sparse elimination over the batch for many."""
        if r.shape[0] < MANY:
            return np.asarray(np.linalg.solve(self.dense(J), r[..., None])[..., 0])
        return self._eliminated(J)(r)

    def _eliminated(self, J: Array) -> Callable[[Array], Array]:
        if self._elimination is None:
            self._elimination = Elimination(self._n, self._pattern)
        ready = self._elimination.factored(J)
        return lambda r: np.ascontiguousarray(ready.solve(np.array(r.T, order="C")).T)

    def solver(self, J: Array) -> Callable[[Array], Array]:
        """x of J x = r for one J and several r: what can be done once is done once."""
        if J.shape[1] >= MANY:
            return self._eliminated(J)
        inverse = np.linalg.inv(self.dense(J))
        return lambda r: np.asarray((inverse @ r[..., None])[..., 0])

    def steady(self, start: Array, matrix: Array, power: Array, laws: Sequence[LinkLaw]) -> tuple[Array, SolveReport]:
        """Temperatures with r = 0; the report says which samples settled."""
        watts = float(np.max(np.sum(np.abs(np.delete(power, self.held, axis=1)), axis=1), initial=1.0))
        return solve_batched(
            lambda x: self.residual(x, matrix, power, laws), start, BALANCE_TOLERANCE * max(watts, 1.0), self.solve
        )

    def why_not(self, report: SolveReport, row: int) -> str:
        """A sentence for a sample that did not settle."""
        return (
            f"the temperature of '{self.names[report.worst[row]]}' did not settle: {report.left[row]:.2g} W left "
            f"after {report.iterations} steps; look at the links of that node"
        )
