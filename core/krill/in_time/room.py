"""Rooms that change while a machine runs: they drift, and what the machine gives off stays in them."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Room:
    """Kelvins an hour that all rooms drift, from when on; by how much a watt warms them in the end, and how slowly.

    Beside that they may sway by some kelvins, a period long, as a room under the sun and clouds does.

    A room of 12 to 18 m2 with its window closed warms by 2.4 to 3.3 K for 100 W in a day and 0.7 K in the first hour
    (common practice): 0.0285 K/W, 3.5 h.
    """

    drift_k_h: float = 0.0
    settles_k_w: float = 0.0
    constant_h: float = 3.5
    drifts_from_s: float = 0.0
    sways_k: float = 0.0
    sway_s: float = 5400.0

    def over(self, since_s: float, warmed: Array) -> Array:
        """How far rooms stand above where they began, K (batch, 1)."""
        drifted = self.drift_k_h * max(since_s - self.drifts_from_s, 0.0) / 3600.0
        swayed = self.sways_k * np.sin(2.0 * np.pi * since_s / self.sway_s)
        return np.asarray((warmed + drifted + swayed)[:, None])

    def warmed(self, before: Array, watts: Array, seconds: float) -> Array:
        """What the machine has warmed the rooms by after it gave off these watts for so long, K (batch,)."""
        if self.settles_k_w == 0.0:
            return before
        left = np.exp(-seconds / (3600.0 * self.constant_h))
        return np.asarray(left * before + (1.0 - left) * self.settles_k_w * watts)


#: a closed room of 12 to 18 m2
CLOSED_ROOM = Room(settles_k_w=0.0285)
#: a room that stays as it is
STEADY_ROOM = Room()
