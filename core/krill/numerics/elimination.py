"""Many small sparse systems of one pattern solved at once: Gaussian elimination, symbolic once, numeric over the batch.

No pivots are exchanged: for matrices with a dominant diagonal, as heat networks have. Entries lie as
(place, batch), so that every step works on contiguous samples.
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]


@dataclass(frozen=True)
class _Step:
    """One pivot: rows below it that hold it, columns right of it that it holds, and the entries that they meet in."""

    pivot: int
    diagonal: int
    rows: Indexes
    below: Indexes  # entries (row, pivot)
    columns: Indexes
    beside: Indexes  # entries (pivot, column)
    meets: Indexes  # entries (row, column), rows first


class Elimination:
    """The order of pivots and the fill of a pattern, by least degree."""

    def __init__(self, n: int, pattern: Indexes) -> None:
        """``pattern`` holds row * n + column of every entry, the diagonal among them, rising."""
        self.n = n
        holds: list[set[int]] = [set() for _ in range(n)]
        held_by: list[set[int]] = [set() for _ in range(n)]
        for place in pattern.tolist():
            i, j = divmod(place, n)
            if i != j:
                holds[i].add(j)
                held_by[j].add(i)
        self._given = len(pattern)
        self._at = {place: k for k, place in enumerate(pattern.tolist())}
        self.steps: list[_Step] = []
        left = set(range(n))
        while left:
            pivot = min(left, key=lambda i: (len(holds[i]) * len(held_by[i]), i))
            left.remove(pivot)
            below, beside = sorted(held_by[pivot]), sorted(holds[pivot])
            for i in below:
                holds[i].discard(pivot)
                for j in beside:
                    if i != j:
                        holds[i].add(j)
                        held_by[j].add(i)
            for j in beside:
                held_by[j].discard(pivot)
            self.steps.append(self._step(pivot, below, beside))

    def _step(self, pivot: int, below: list[int], beside: list[int]) -> _Step:
        def places(pairs: list[tuple[int, int]]) -> Indexes:
            return np.array([self._at.setdefault(i * self.n + j, len(self._at)) for i, j in pairs], dtype=np.intp)

        return _Step(
            pivot,
            int(places([(pivot, pivot)])[0]),
            np.array(below, dtype=np.intp),
            places([(i, pivot) for i in below]),
            np.array(beside, dtype=np.intp),
            places([(pivot, j) for j in beside]),
            places([(i, j) for i in below for j in beside]),
        )

    def solve(self, matrix: Array, right: Array) -> Array:
        """x (n, batch) of A x = b; ``matrix`` (place of the pattern, batch) is kept, ``right`` (n, batch) used up."""
        return self.factored(matrix).solve(right)

    def factored(self, matrix: Array) -> "Factored":
        """A matrix (place of the pattern, batch) made ready for several right sides."""
        batch = matrix.shape[1]
        entries = np.zeros((len(self._at), batch))
        entries[: self._given] = matrix
        factors = []
        for step in self.steps:
            factor = entries[step.below] / entries[step.diagonal]
            factors.append(factor)
            if step.rows.size and step.columns.size:
                product = factor[:, None, :] * entries[step.beside][None, :, :]
                entries[step.meets] -= product.reshape(-1, batch)
        return Factored(self.steps, factors, entries)


@dataclass(frozen=True)
class Factored:
    """Matrices of one pattern, eliminated: what each pivot takes from the rows below it, and what is left of the rows."""

    steps: list[_Step]
    factors: list[Array]
    entries: Array

    def solve(self, right: Array) -> Array:
        """x (n, batch) of A x = b; ``right`` (n, batch) is used up."""
        for step, factor in zip(self.steps, self.factors, strict=True):
            if step.rows.size:
                right[step.rows] -= factor * right[step.pivot]
        x = np.empty_like(right)
        for step in reversed(self.steps):
            total = right[step.pivot]
            if step.columns.size:
                total = total - np.sum(self.entries[step.beside] * x[step.columns], axis=0)
            x[step.pivot] = total / self.entries[step.diagonal]
        return x
