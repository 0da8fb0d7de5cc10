"""Firmware that is late: a place passes its limit for as long as it needs to see that, then is brought back to it as fast.

It goes on acting until the place is as far below its limit as where it gives watts back; what swings between the two is told
by its mean, which is the limit. A firmware that is quicker than any step that matters (a chip's, some milliseconds) is not
late. Only the central row is: draws are held at their limits at once, since each would bend the steps of all others for
tenths of a kelvin.
"""

from dataclasses import dataclass
from math import exp, inf
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.networks.states import Shares
from krill.networks.throttling import Throttling
from krill.networks.tr_bdf2 import Holds

Array = NDArray[np.float64]

#: who is late by less is not late: no chip warms by what would be seen in that time, s
LEAST_S: Final = 0.1
#: so near to its limit a place is at it, K
NEAR_K: Final = 0.01
#: figures of a place that say how its firmware is
GIVES_UP_AFTER, GIVES_BACK = "gives_up_after_s", "gives_back_k"


@dataclass(frozen=True)
class _Late:
    """What holds the limits of a step, but for what each source may be beyond them, K (batch,)."""

    throttling: Throttling
    beyond_k: Shares

    def kept(self, before: Shares, T: Array, warmed: Shares) -> Shares:
        return self.throttling.kept(before, T, warmed, self.beyond_k)

    def concerns(self, T: Array, kept: Shares) -> bool:
        return self.throttling.concerns(T, kept, self.beyond_k)


@dataclass
class _Firmware:
    """Of one source: how late it is, where it gives back, since when its place is over the limit, whether it acts."""

    lag_s: float
    gives_back_k: float
    over_s: float = 0.0
    acts: bool = False

    def waits_s(self, over_k: float) -> float:
        """Until it begins to act, of a place so far over its limit, K; infinite where it acts, or has no reason to."""
        return inf if self.acts or over_k <= -NEAR_K else self.lag_s - self.over_s

    def beyond_k(self, over_k: float, h: float) -> float:
        """How far beyond its limit the place may be at the end of a step that it begins so far over it, K."""
        told = self.acts or self.waits_s(over_k) < 0.5 * h
        return max(over_k, 0.0) * exp(-h / self.lag_s) if told else inf

    def crosses(self, before_k: float, now_k: float) -> float | None:
        """Share of a step at which its place comes over the limit before it acts; None where that is one of its ends."""
        if self.acts or before_k > -NEAR_K or now_k < NEAR_K:
            return None
        return before_k / (before_k - now_k)

    def after(self, before_k: float, now_k: float, held: bool, h: float) -> bool:
        """Take a step in, from so far over the limit to so far, K; whether the firmware begins to act with it."""
        acted = self.acts
        self.over_s = self.over_s + h * _share_over(before_k, now_k) if now_k > -NEAR_K else 0.0
        told = acted or held or self.over_s >= self.lag_s - 1e-9
        self.acts = told and now_k > -max(self.gives_back_k, NEAR_K)
        return self.acts and not acted


class Lag:
    """The firmwares that are late, as they stand between two steps."""

    def __init__(self, throttling: Throttling, before: "Lag | None" = None) -> None:
        self._throttling = throttling
        back = throttling.of_firmware(GIVES_BACK, 0.0)
        self._late = {
            source: _Firmware(float(lag[0]), float(back[source][0]))
            for source, lag in throttling.of_firmware(GIVES_UP_AFTER, 0.0).items()
            if lag[0] >= LEAST_S
        }
        for source, firmware in self._late.items():
            if before is not None and source in before._late:
                firmware.over_s, firmware.acts = before._late[source].over_s, before._late[source].acts

    def holds(self, h: float, T: Array) -> Holds:
        """What holds the limits of a step of ``h`` seconds from temperatures (batch, node)."""
        if not self._late:
            return self._throttling
        over, beyond = self._throttling.over_k(T[:1]), {}
        for source, firmware in self._late.items():
            beyond[source] = np.zeros(len(T))
            beyond[source][0] = firmware.beyond_k(float(over[source][0]), h)
        return _Late(self._throttling, beyond)

    def longest_s(self, T: Array) -> float:
        """The longest step that ends where a firmware begins to act; infinite where no place is at its limit."""
        over = self._throttling.over_k(T[:1]) if self._late else {}
        waits = [firmware.waits_s(float(over[source][0])) for source, firmware in self._late.items()]
        return min(waits, default=inf)

    def crosses(self, start: Array, end: Array) -> float | None:
        """Share of a step at which the first place comes over a limit that it is not held at yet; None: none does."""
        before, now = (self._throttling.over_k(T[:1]) if self._late else {} for T in (start, end))
        shares = [one.crosses(float(before[source][0]), float(now[source][0])) for source, one in self._late.items()]
        return min((share for share in shares if share is not None), default=None)

    def after(self, start: Array, end: Array, kept: Shares, h: float) -> bool:
        """Take a step in, from temperatures to others; whether a firmware begins to act with it."""
        if not self._late:
            return False
        before, now = self._throttling.over_k(start[:1]), self._throttling.over_k(end[:1])
        began = [
            firmware.after(float(before[source][0]), float(now[source][0]), bool(kept[source][0] < 1.0), h)
            for source, firmware in self._late.items()
        ]
        return any(began)


def _share_over(before_k: float, now_k: float) -> float:
    """Share of a step that a place spent at or over its limit, from how far it was over it at the start and is at the end."""
    if before_k > -NEAR_K:
        return 1.0
    return (now_k + NEAR_K) / (now_k - before_k)
