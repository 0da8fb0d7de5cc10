"""The room of a run that nobody wrote down, or only roughly, from what was read of the machine in it.

All readings of a run stand in one room: it is one shared unknown with a prior, narrowed by every reading as far as
tolerances and sensors let it (generalised least squares, a temperature following the room kelvin by kelvin).
"""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.document.figures import detail
from krill.numerics.sampling import QUANTILE_90

Array = NDArray[np.float64]

#: what a room may have moved in a run whose room was read once (estimate)
ONE_READING_K = 1.5
#: what "about 25" may be off, and what a room moves between two runs of one evening (estimates)
ABOUT_K, EVENING_K = 3.0, 1.5
#: a room that is not told lies within the brief's cool and hot day, and at least so far around their middle (estimate)
LEAST_HALF_K = 5.0


@dataclass(frozen=True)
class RunRoom:
    """Mean room of a run, C, and the half width of its 90 % interval, K; 0 where it was read twice."""

    air_c: float
    half_k: float = 0.0


def prior_room(build: Build) -> RunRoom:
    """What the brief says of a room that nobody read: its cool to hot day as the middle 90 %."""
    rooms = {room.id: float(detail(room.air_c).value) for room in build.rooms}
    own = float(detail(build.rooms[0].air_c).value)
    told = [rooms[day] for day in (build.brief.coolest_room, build.brief.hottest_room) if day in rooms]
    low, high = min([own, *told]), max([own, *told])
    return RunRoom((low + high) / 2, max((high - low) / 2, LEAST_HALF_K))


@dataclass(frozen=True)
class RoomFit:
    """A room from how far readings lie over what is predicted at some room.

    ``residual`` K (reading,) measured over predicted; ``covariance`` K² what tolerances and readings leave open of it;
    ``prior`` is the mean and the standard deviation of the room over that room, K.
    """

    residual: Array
    covariance: Array
    prior: tuple[float, float]

    def estimate(self) -> tuple[float, float]:
        """Mean and standard deviation of the room over the one predicted at, K, from all readings."""
        return self._of(np.arange(self.residual.size))

    def without(self, reading: int) -> tuple[float, float]:
        """The same from all other readings: what this one is held against must not follow from it."""
        return self._of(np.delete(np.arange(self.residual.size), reading))

    def _of(self, chosen: NDArray[np.intp]) -> tuple[float, float]:
        mean, spread = self.prior
        precision, pull = spread**-2, mean * spread**-2
        if chosen.size:
            weights = np.linalg.solve(self.covariance[np.ix_(chosen, chosen)], np.ones(chosen.size))
            precision += float(weights.sum())
            pull += float(weights @ self.residual[chosen])
        return pull / precision, precision**-0.5


def spread_of(room: RunRoom) -> float:
    """Standard deviation of a room by its 90 % interval, K."""
    return room.half_k / QUANTILE_90
