"""Batched Newton iteration for small dense systems, shape (batch, unknown)."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.interruption import must_go_on

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]
Mask = NDArray[np.bool_]


@dataclass(frozen=True)
class SolveReport:
    """How a solve went, row by row: what is left, the column where most of it is, and whether it is little enough."""

    iterations: int
    left: Array
    worst: Indexes
    settled: Mask


def solve_batched(
    residual: Callable[[Array], tuple[Array, Array]],
    start: Array,
    tolerance: float,
    linear: Callable[[Array, Array], Array],
    max_iterations: int = 30,
) -> tuple[Array, SolveReport]:
    """Roots of r(x) = 0 for every row of ``start``.

    ``residual`` gives r (batch, unknown) and its full Jacobian in whatever form ``linear`` takes to solve J x = r.
    Stops when |r| of every row is below ``tolerance`` or no number; the report says which rows got there.
    """
    x = start
    for iteration in range(max_iterations + 1):
        must_go_on()
        r, jacobian = residual(x)
        size = np.abs(r)
        left = size.max(axis=1)
        if iteration == max_iterations or not (left > tolerance).any():
            break
        x = x - linear(jacobian, r)
    return x, SolveReport(iteration, left, size.argmax(axis=1), left <= tolerance)
