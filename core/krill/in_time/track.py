"""Where a march led: every moment between two steps, and temperatures at any time between them."""

from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from krill.networks.states import Shares
from krill.networks.tr_bdf2 import STAGE

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Moment:
    """Temperatures (batch, node), speeds and shares of watts at a time, s.

    ``shares`` are how many times its watts a source draws, ``kept`` what its limits leave of what it would draw.
    """

    t: float
    T: Array
    speeds: Shares
    shares: Shares
    kept: Shares


@dataclass
class Track:
    """Moments in their order; between two of one leg there is a stage that tells how the way bends."""

    moments: list[Moment] = field(default_factory=list)
    _stages: dict[int, Array] = field(default_factory=dict)

    def add(self, moment: Moment, stage: Array | None = None, since: float = 0.0) -> None:
        if stage is not None:
            self._stages[len(self.moments)] = stage
        self.moments.append(moment)

    @property
    def times(self) -> Array:
        return np.array([moment.t for moment in self.moments])

    def at(self, times: Array, nodes: Array | list[int]) -> Array:
        """Temperatures at times, (time, batch, node), by the parabola through each step's start, stage and end."""
        known = self.times
        found = np.empty((len(times), len(self.moments[0].T), len(nodes)))
        step = np.clip(np.searchsorted(known, times, side="left"), 1, len(known) - 1)
        for k in np.unique(step):
            mine = step == k
            start, end = self.moments[k - 1].T[:, nodes], self.moments[k].T[:, nodes]
            span = known[k] - known[k - 1]
            stage = self._stages.get(int(k))
            s = (
                np.clip((times[mine] - known[k - 1]) / span, 0.0, 1.0)[:, None, None]
                if span > 0.0
                else np.ones((1, 1, 1))
            )
            if stage is None:
                found[mine] = start + s * (end - start)
                continue
            bend = ((stage[:, nodes] - start) - STAGE * (end - start)) / (STAGE * (STAGE - 1.0))
            found[mine] = start + s * (end - start) + s * (s - 1.0) * bend
        return found
