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
from krill.numerics.newton import SolveReport, solve_batched

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]

BALANCE_TOLERANCE = 1e-6
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
        mixed: Indexes | None = None,
    ):
        self.names = names
        self.given = given
        self.links = links
        self.held = given if mixed is None else np.concatenate([given, mixed])
        n = len(names)
        keep = ~np.isin(rows, self.held)
        self._kept = np.flatnonzero(keep)
        flat = rows[keep] * n + columns[keep]
        entry = np.arange(len(flat))
        self._scatter = coo_array((np.ones(len(flat)), (flat, entry)), shape=(n * n, len(flat))).tocsr()
        self._n = n

    def matrix(self, entries: Array) -> Array:
        """(batch, node, node) from the entries (batch, entry) in the pattern's order."""
        flat = self._scatter @ entries[:, self._kept].T
        matrix = np.ascontiguousarray(flat.T).reshape(-1, self._n, self._n)
        matrix[:, self.held, self.held] = -1.0
        return matrix

    def residual(self, T: Array, matrix: Array, power: Array, conductance: Array) -> tuple[Array, Array]:
        """r (batch, node) and its full Jacobian.

        ``power`` holds watts into each node and the given temperatures of the given ones; ``conductance`` the W/K
        at the reference difference of each temperature-dependent link (batch, link).
        """
        r = np.matmul(matrix, T[..., None])[..., 0] + power
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
                    J[:, row, column] += sign * slope[:, k]
            if i not in self.given:
                r[:, i] -= heat[:, k]
            if j not in self.given:
                r[:, j] += heat[:, k]
        return r, J

    def newton_step(self, T: Array, matrix: Array, power: Array, conductance: Array) -> tuple[Array, SolveReport]:
        """One full Newton step from T; the report says how far from r = 0 it started."""
        r, J = self.residual(T, matrix, power, conductance)
        new = T - np.linalg.solve(J, r[..., None])[..., 0]
        return new, SolveReport(False, 1, float(np.max(np.abs(r))), 0, 0)

    def steady(self, start: Array, matrix: Array, power: Array, conductance: Array) -> tuple[Array, SolveReport]:
        """Temperatures with r = 0; NotConverged names the node that did not settle."""
        watts = float(np.max(np.sum(np.abs(np.delete(power, self.held, axis=1)), axis=1), initial=1.0))
        T, report = solve_batched(
            lambda x: self.residual(x, matrix, power, conductance), start, BALANCE_TOLERANCE * max(watts, 1.0)
        )
        if not report.converged:
            raise NotConverged(
                f"the temperature of '{self.names[report.worst_column]}' did not settle: {report.residual:.2g} W left "
                f"after {report.iterations} steps; look at the links of that node"
            )
        return T, report
