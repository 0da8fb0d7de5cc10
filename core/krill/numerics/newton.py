"""Batched Newton iteration for small dense systems, shape (batch, unknown)."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


@dataclass(frozen=True)
class SolveReport:
    """How a solve went: iterations, the largest remaining residual and where it stands."""

    converged: bool
    iterations: int
    residual: float
    worst_column: int
    worst_sample: int


def solve_batched(
    residual: Callable[[Array], tuple[Array, Array]],
    start: Array,
    tolerance: float,
    linear: Callable[[Array, Array], Array],
    max_iterations: int = 30,
) -> tuple[Array, SolveReport]:
    """Roots of r(x) = 0 for every row of ``start``.

    ``residual`` gives r (batch, unknown) and its full Jacobian in whatever form ``linear`` takes to solve J x = r.
    Stops when the largest |r| of all rows is below ``tolerance``.
    """
    x = start
    for iteration in range(max_iterations + 1):
        r, jacobian = residual(x)
        worst = np.unravel_index(int(np.argmax(np.abs(r))), r.shape)
        largest = float(np.abs(r[worst]))
        if largest <= tolerance or not np.isfinite(largest) or iteration == max_iterations:
            break
        x = x - linear(jacobian, r)
    done = bool(np.isfinite(largest) and largest <= tolerance)
    return x, SolveReport(done, iteration, largest, int(worst[1]), int(worst[0]))
