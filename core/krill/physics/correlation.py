"""Marks a correlation with its source, its valid range and its published scatter."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final, ParamSpec, TypeVar

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.sources import source

P = ParamSpec("P")
R = TypeVar("R")


@dataclass(frozen=True)
class Correlation:
    """What is known about one registered function; ``scatter`` is a relative half width."""

    function: Callable[..., object]
    source: str
    valid: dict[str, tuple[float, float]]
    scatter: float

    def inside(self, **arguments: ArrayLike) -> NDArray[np.bool_]:
        """Mask, shape of the broadcast arguments: true where all of them lie in the valid range."""
        masks = [
            (np.asarray(arguments[name]) >= low) & (np.asarray(arguments[name]) <= high)
            for name, (low, high) in self.valid.items()
        ]
        return np.asarray(np.logical_and.reduce(np.broadcast_arrays(*masks)))


REGISTRY: Final[dict[str, Correlation]] = {}


def correlation(
    source_key: str, valid: dict[str, tuple[float, float]], scatter: float = 0.0
) -> Callable[[Callable[P, R]], Callable[P, R]]:
    """Register a function of arrays. ``valid`` names each bounded argument with its range."""
    source(source_key)

    def register(function: Callable[P, R]) -> Callable[P, R]:
        REGISTRY[function.__name__] = Correlation(function, source_key, valid, scatter)
        return function

    return register
