"""What happens to a machine one after the other: legs of a load, each with its bursts and what stands still in it."""

from dataclasses import dataclass
from math import log

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Burst
from krill.networks.states import Case, MachineStates, Shares

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Leg:
    """One load for a while, in every case of a batch; its bursts begin with it."""

    cases: tuple[Case, ...]
    minutes: float
    bursts: bool = True


@dataclass(frozen=True)
class _Bursting:
    """A burst of one source in the rows of a case: how many times its watts it draws, for how long."""

    source: str
    rows: slice
    share: Array
    ends_s: float
    falls_s: float

    def left(self, since_s: float) -> float:
        """Share of it that is left: all until it ends, none once it has fallen."""
        over = since_s - self.ends_s
        if over < 0.0:
            return 1.0
        return max(1.0 - over / self.falls_s, 0.0) if self.falls_s > 0.0 else 0.0


class Bursts:
    """How many times its watts each source draws over a leg: first its burst, then what the load says."""

    def __init__(self, states: MachineStates, leg: Leg, before: MachineStates | None) -> None:
        self._batch = states.values.batch
        self._bursts = [
            _bursting(states, before, source, burst, slice(at * states.samples, (at + 1) * states.samples))
            for at, case in enumerate(leg.cases if leg.bursts else ())
            for source, burst in case.workload.burst.items()
        ]

    @property
    def sources(self) -> set[str]:
        return {one.source for one in self._bursts}

    def shares(self, since_s: float) -> Shares:
        """By bursting source, (batch,), so long after the leg began."""
        found: Shares = {}
        for one in self._bursts:
            share = found.setdefault(one.source, np.ones(self._batch))
            share[one.rows] = 1.0 + one.left(since_s) * (one.share - 1.0)
        return found

    def kinks(self) -> list[float]:
        """Seconds of the leg at which watts turn: a step ends there and does not lie across."""
        return sorted({end for one in self._bursts for end in (one.ends_s, one.ends_s + one.falls_s)})


def _bursting(states: MachineStates, before: MachineStates | None, source: str, burst: Burst, rows: slice) -> _Bursting:
    stated = np.maximum(np.broadcast_to(states.watts(source), (states.values.batch,))[rows], 1e-9)
    mean = 0.0 if before is None else float(np.broadcast_to(before.watts(source), (states.values.batch,))[rows][0])
    ends = burst_ends_s(burst, mean, float(stated[0]))
    return _Bursting(source, rows, float(burst.power_w) / stated, ends, float(burst.falls_over_s or 0.0))


def burst_ends_s(burst: Burst, mean_before_w: float, sustained_w: float) -> float:
    """How long a burst lasts, s: its hold, or until the exponential mean of the watts reaches the sustained ones.

    From a mean P0: t = T ln((B - P0) / (B - S)); a burst of no more than the sustained watts has no end.
    """
    if burst.until == "time":
        return float(burst.hold_s)
    over = float(burst.power_w) - sustained_w
    if over <= 0.0:
        return 0.0
    return float(burst.hold_s) * max(log((float(burst.power_w) - mean_before_w) / over), 0.0)
