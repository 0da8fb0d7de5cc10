"""Links whose heat depends on the temperatures at both ends: walls, bodies in still air, heat pipes."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]

SMALLEST_DIFFERENCE = 1e-3  # K, below which a power law is held at its value there
DERIVATIVE_STEP = 1e-3  # K


class LinkLaw(Protocol):
    """Heat from the inner to the outer end."""

    def heat(self, inner: Array, outer: Array) -> tuple[Array, Array, Array]:
        """(W, its slope over the inner, its slope over the outer temperature), each (batch,)."""
        ...


@dataclass(frozen=True)
class PowerLaw:
    """G (|dT| / ref)^exponent dT: a box's wall."""

    conductance: Array
    exponent: float
    reference_k: float

    def heat(self, inner: Array, outer: Array) -> tuple[Array, Array, Array]:
        difference = inner - outer
        size = np.maximum(np.abs(difference), SMALLEST_DIFFERENCE) / self.reference_k
        G = self.conductance * size**self.exponent
        slope = G * np.where(np.abs(difference) > SMALLEST_DIFFERENCE, 1.0 + self.exponent, 1.0)
        return G * difference, slope, -slope


def _with_slopes(law: Callable[[Array, Array], Array], inner: Array, outer: Array) -> tuple[Array, Array, Array]:
    """A heat and its slopes by differences, both ends at once."""
    Ti = np.stack([inner, inner + DERIVATIVE_STEP, inner])
    To = np.stack([outer, outer, outer + DERIVATIVE_STEP])
    Q = law(Ti, To)
    return Q[0], (Q[1] - Q[0]) / DERIVATIVE_STEP, (Q[2] - Q[0]) / DERIVATIVE_STEP


@dataclass(frozen=True)
class FilmLaw:
    """G(T inner, T outer) dT with a conductance that is smooth in both."""

    conductance: Callable[[Array, Array], Array]

    def heat(self, inner: Array, outer: Array) -> tuple[Array, Array, Array]:
        return _with_slopes(lambda Ti, To: self.conductance(Ti, To) * (Ti - To), inner, outer)


@dataclass(frozen=True)
class BentLaw:
    """A heat of the difference, with figures that follow the mean of both ends: heat pipes."""

    law: Callable[[Array, Array], Array]

    def heat(self, inner: Array, outer: Array) -> tuple[Array, Array, Array]:
        return _with_slopes(lambda Ti, To: self.law(Ti - To, (Ti + To) / 2), inner, outer)


@dataclass(frozen=True)
class LinkPattern:
    """Which nodes links join, one column a link."""

    inner: Indexes
    outer: Indexes
