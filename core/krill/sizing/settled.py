"""Batches in which not every row settles: those that do are answered, the others are found by halving."""

from collections.abc import Callable, Sequence
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from krill.errors import NotConverged

Array = NDArray[np.float64]
T = TypeVar("T")


def each_settled(solve: Callable[[NDArray[Any]], Sequence[T]], rows: NDArray[Any]) -> list[T | None]:
    """An answer for each of ``rows`` (any array of one axis), solved together as far as can be; None where one does not settle."""
    try:
        return list(solve(rows))
    except NotConverged:
        if len(rows) <= 1:
            return [None] * len(rows)
    half = len(rows) // 2
    return each_settled(solve, rows[:half]) + each_settled(solve, rows[half:])


def figures_settled(solve: Callable[[Array], Array], values: Array) -> Array:
    """A figure for each value, (value,); NaN where the build with it does not settle. NotConverged where none does."""
    found = np.array(
        [np.nan if one is None else one for one in each_settled(lambda some: solve(some).tolist(), values)]
    )
    if len(found) and np.isnan(found).all():
        solve(values)
    return found
