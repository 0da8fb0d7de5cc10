"""A speed that follows a temperature which follows the speed: where the two agree, found row by row.

More speed makes the sensor cooler and so asks for less: the wanted speed falls with the speed, and there is one crossing.
"""

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

#: share of the way that is gone in the first round
FIRST_SHARE = 0.6
#: slope of the wanted speed over the speed that a secant is trusted for
SLOPES = (-60.0, 0.3)
MIN_MOVE, AGREED = 1e-7, 1e-6
#: rounds of secants (Wegstein 1958) before the crossing is bracketed
SECANTS = 14


class Pursuit:
    """Secants first; where they swing, a bracket that is halved.

    A fan that starts only above its start duty has a jump there: the bracket closes on it, which is what a firmware
    that switches it on and off comes to on average.
    """

    def __init__(self, shape: tuple[int, ...]) -> None:
        self.round = 0
        self.low, self.high = np.zeros(shape), np.ones(shape)
        self.before: Array | None = None
        self.asked = np.zeros(shape)
        self.share = np.full(shape, FIRST_SHARE)

    def next(self, speed: Array, wanted: Array) -> Array:
        """The next speed from the present one and what the curve asks for at it, both (row,)."""
        self.round += 1
        step = self._secant(speed, wanted)
        if self.round <= SECANTS:
            return step
        if self.round % 2:  # the temperatures follow the last step first
            return speed
        missing = wanted - speed
        self.low = np.where(missing > 0.0, np.maximum(self.low, speed), self.low)
        self.high = np.where(missing < 0.0, np.minimum(self.high, speed), self.high)
        inside = (step > self.low) & (step < self.high) & (self.round % 4 == 0)
        halved = np.where(inside, step, 0.5 * (self.low + self.high))
        return np.where(np.abs(missing) < AGREED, speed + missing, halved)

    def _secant(self, speed: Array, wanted: Array) -> Array:
        if self.before is not None:
            moved = speed - self.before
            with np.errstate(divide="ignore", invalid="ignore"):
                slope = np.clip((wanted - self.asked) / moved, *SLOPES)
            self.share = np.where(np.abs(moved) > MIN_MOVE, 1.0 / (1.0 - slope), self.share)
        self.before, self.asked = speed, wanted
        return np.asarray(np.clip(speed + self.share * (wanted - speed), 0.0, 1.0))
