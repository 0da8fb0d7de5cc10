"""One step in time of a heat network made linear at its start: C dT/dt = J T + p, second order and L-stable.

TR-BDF2: a trapezoid to a share of the step, then the second backward difference (Bank, Coughran, Fichtner, Grosse, Rose &
Smith 1985); both stages have the same matrix, and the embedded third order tells the error (Hosea & Shampine 1996). Nodes
of given temperature, of mixed air and of no capacity follow at once: their row of J T + p = 0 holds at every stage. What
the network bends by within a step is of the third order in its length.
"""

from collections.abc import Callable
from dataclasses import dataclass
from math import sqrt
from typing import Final, Protocol

import numpy as np
from numpy.typing import NDArray

from krill.networks.heat import HeatNetwork
from krill.networks.states import Shares

Array = NDArray[np.float64]
Solver = Callable[[Array], Array]

#: where in a step the trapezoid ends, and the weight of a stage's own heat
STAGE: Final = 2.0 - sqrt(2.0)
OWN: Final = STAGE / 2.0
#: weights of T at the stage and at the start in the second backward difference
_OF_STAGE: Final = 1.0 / (STAGE * (2.0 - STAGE))
_OF_START: Final = (1.0 - STAGE) ** 2 / (STAGE * (2.0 - STAGE))
#: weights of heat over the step, and what they miss of the third order's
_WEIGHT: Final = sqrt(2.0) / 4.0
_MISSES: Final = (_WEIGHT - (1.0 - _WEIGHT) / 3.0, _WEIGHT - (3.0 * _WEIGHT + 1.0) / 3.0, OWN - OWN / 3.0)
#: sources that hold each other's limits have agreed once no share moves by more
AGREED: Final = 1e-9
MOST_ROUNDS: Final = 20


class Holds(Protocol):
    """What gives up watts where a place would pass its limit."""

    def kept(self, before: Shares, T: Array, warmed: Shares) -> Shares:
        """Shares that hold every limit, from the temperatures at the shares before."""

    def concerns(self, T: Array, kept: Shares) -> bool:
        """Whether any place passes its limit, or any source is held back."""


@dataclass(frozen=True)
class Driving:
    """What drives a network over a step: its matrix, heat put in (and given temperatures) at the start and the end.

    ``watts`` are what each source that may be held back puts into the nodes, (batch, node), of which it keeps ``kept``.
    """

    matrix: Array
    start: Array
    end: Array
    kept: Shares
    watts: Shares
    holds: Holds | None = None


@dataclass(frozen=True)
class TimeStep:
    """Where a step led: temperatures (batch, node) at its stage and its end, the error of the end in K, and the shares
    that sources are left with."""

    stage: Array
    end: Array
    error: Array
    kept: Shares


def time_step(network: HeatNetwork, capacity: Array, T: Array, h: float, driving: Driving) -> TimeStep:
    """A step of ``h`` seconds from T (batch, node); ``capacity`` in J/K (batch or 1, node), 0 of what follows at once."""
    C = np.array(capacity)
    C[:, network.held] = 0.0
    at_once = np.flatnonzero(~C.any(axis=0))
    shift = C / (OWN * h)
    solve = network.solver(network.shifted(driving.matrix, shift))
    at_start = network.carried(T, driving.matrix) + driving.start
    at_start[:, at_once] = 0.0
    stage, kept_there = _held(
        solve, driving, driving.kept, shift * T + at_start, driving.start + STAGE * (driving.end - driving.start)
    )
    at_stage = shift * (stage - T) - at_start
    base = shift * (_OF_STAGE * stage - _OF_START * T)
    end, kept = _held(solve, driving, kept_there, base, driving.end)
    missed = h * (_MISSES[0] * at_start + _MISSES[1] * at_stage + _MISSES[2] * (shift * end - base))
    missed[:, at_once] = 0.0
    for source, watts in driving.watts.items():
        # watts that are whatever a limit leaves are no rate: where they enter, the limit says the temperature
        given_up = np.minimum.reduce([share[source] for share in (driving.kept, kept_there, kept)]) < 1.0
        missed[given_up[:, None] & (watts != 0.0)] = 0.0
    return TimeStep(stage, end, -solve(missed / (OWN * h)), kept)


def _held(solve: Solver, driving: Driving, kept: Shares, base: Array, power: Array) -> tuple[Array, Shares]:
    """The temperatures of shift T - J T = base + power, and the shares that hold every limit there."""
    for source, share in kept.items():
        less = share - driving.kept[source]
        if less.any():
            power = power + less[:, None] * driving.watts[source]
    T = -solve(base + power)
    holds = driving.holds
    if holds is None or not holds.concerns(T, kept):
        return T, kept
    warmed = {source: -solve(watts) for source, watts in driving.watts.items()}
    for _ in range(MOST_ROUNDS):
        before, kept = kept, holds.kept(kept, T, warmed)
        moved = {source: share - before[source] for source, share in kept.items()}
        for source, less in moved.items():
            T = T + less[:, None] * warmed[source]
        if max(float(np.abs(less).max()) for less in moved.values()) < AGREED:
            break
    return T, kept
