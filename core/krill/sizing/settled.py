"""Batches in which not every row settles: those that do are answered, the others are found by halving."""

from collections.abc import Callable, Iterator, Sequence
from typing import Any, TypeVar

import numpy as np
from numpy.typing import NDArray

from krill.errors import NotConverged

Array = NDArray[np.float64]
Rows = NDArray[Any]
T = TypeVar("T")


def settled_batches(solve: Callable[[Rows], T], rows: Rows) -> Iterator[tuple[Rows, T | NotConverged]]:
    """Batches of ``rows`` (any array of one axis) with their answer, as large as settle; a row that does not, alone with why."""
    try:
        answer = solve(rows)
    except NotConverged as error:
        if len(rows) <= 1:
            yield rows, error
            return
    else:
        yield rows, answer
        return
    half = len(rows) // 2
    yield from settled_batches(solve, rows[:half])
    yield from settled_batches(solve, rows[half:])


def each_settled(solve: Callable[[Rows], Sequence[T]], rows: Rows) -> list[T | None]:
    """An answer for each of ``rows``, solved together as far as can be; None where one does not settle."""
    found: list[T | None] = []
    for part, answer in settled_batches(solve, rows):
        found += [None] * len(part) if isinstance(answer, NotConverged) else list(answer)
    return found


def figures_settled(solve: Callable[[Array], Array], values: Array) -> Array:
    """A figure for each value, (value,); NaN where the build with it does not settle. NotConverged where none does."""
    found = np.array(
        [np.nan if one is None else one for one in each_settled(lambda some: solve(some).tolist(), values)]
    )
    if len(found) and np.isnan(found).all():
        solve(values)
    return found
