"""Where temperatures settle by what has been seen of them, and what more minutes are worth."""

from collections.abc import Iterator
from typing import Final

import numpy as np

from krill.in_time.result import TimeCurve
from krill.runs.settle import ALONE_IN_ITS_LOG, Settled, settle
from krill.watching.expected import Expected
from krill.watching.load import LoadSpan
from krill.watching.result import Settling
from krill.watching.samples import Samples

#: places that are told, those with the least to spare first, and the coolant
TOLD: Final = 2
#: looked at from so many seconds of the load on, at rows so many seconds apart at least
FROM_S, APART_S = 180.0, 5.0
#: no sensor tells more closely, K
LEAST_HALF_K: Final = 0.1


def settlings(expected: Expected, samples: Samples, load: LoadSpan, since_s: float) -> list[Settling]:
    """By the rows since ``since_s`` on the run's clock: the load's beginning, or what failed last."""
    return [] if load.off_s is not None else list(_settlings(expected, samples, since_s))


def _settlings(expected: Expected, samples: Samples, since_s: float) -> Iterator[Settling]:
    begins = since_s + min(expected.burst_ends_s + 60.0, FROM_S)
    stride = max(1, round(APART_S / samples.step_s))
    rows = np.flatnonzero(samples.time_s >= begins)[::stride]
    if len(rows) < 12 or samples.now_s - since_s < FROM_S:
        return
    for curve, role in _told(expected, samples):
        values = samples.of(role)
        found = None if values is None else settle(samples.time_s[rows], values[rows], ALONE_IN_ITS_LOG)
        if found is not None:
            yield _settling(curve, found)


def _told(expected: Expected, samples: Samples) -> list[tuple[TimeCurve, str]]:
    """Curves that have readings: places with the least to spare, then coolant, then box air."""
    spare = {c.address: c.limit_c - c.settles_c for c in expected.forecast.curves if c.limit_c is not None}
    places = sorted(
        (c for c in expected.forecast.curves if f"{c.address}/temperature" in samples.roles and c.address in spare),
        key=lambda c: spare[c.address],
    )
    found = [(curve, f"{curve.address}/temperature") for curve in places[:TOLD]]
    for statistic in ("coolant_hot", "air"):
        beside = [(c, f"{c.address}/{statistic}") for c in expected.forecast.curves]
        found += [(curve, role) for curve, role in beside if role in samples.roles][:1]
    return found[: TOLD + 1]


def _settling(curve: TimeCurve, found: Settled) -> Settling:
    return Settling(
        address=curve.address,
        name=curve.name,
        now_c=found.last,
        settled=found.settled,
        settles_c=found.value,
        half_k=max((found.high - found.low) / 2, LEAST_HALF_K),
        minutes_needed=0.0 if found.settled else found.minutes_needed,
        says=found.sentence(),
    )
