"""When the load came on and ended, by the watts of the sources, else by their temperatures."""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.watching.expected import Expected
from krill.watching.samples import Samples

Array = NDArray[np.float64]

#: without watts: the load is on once the hottest place has risen by so many kelvins
RISEN_K: Final = 4.0
#: a source that draws this share of a load is still under it while it is held at a limit
LARGE: Final = 0.2
#: a load that is off for so long has ended, s
OFF_S: Final = 10.0


@dataclass(frozen=True)
class LoadSpan:
    """Seconds on the run's clock; ``off_s`` is None while the load is on."""

    on_s: float
    off_s: float | None

    def rows(self, samples: Samples) -> NDArray[np.bool_]:
        """Samples under load."""
        end = np.inf if self.off_s is None else self.off_s
        return np.asarray((samples.time_s >= self.on_s) & (samples.time_s < end))


def load_span(expected: Expected, samples: Samples) -> LoadSpan | None:
    """The last load of the samples; None before there was any."""
    told = {source: watts for source, watts in samples.with_statistic("power").items() if source in expected.load_w}
    idle, load = (sum(watts[s] for s in told) for watts in (expected.idle_w, expected.load_w))
    if told and load > idle:
        on = sum(told.values()) >= 0.5 * (idle + load)
        # a part that gives up its watts at a limit is still under load
        on |= _held_at_limits(expected, samples)
    else:
        on = _risen(samples)
    return _last_span(samples.time_s, np.asarray(on, dtype=bool))


def _held_at_limits(expected: Expected, samples: Samples) -> NDArray[np.bool_]:
    """When a place of a large source was at its limit: what is small stays warm long after the load has gone."""
    held = np.zeros(len(samples.time_s), dtype=bool)
    limits = {curve.address: curve.limit_c for curve in expected.forecast.curves if curve.limit_c is not None}
    large = {s for s, watts in expected.load_w.items() if watts >= LARGE * sum(expected.load_w.values())}
    for place, (_, owner) in expected.build.place_owners().items():
        values = samples.steady(f"{place}/temperature")
        if owner.id in large and place == owner.places[0].id and place in limits and values is not None:
            held |= values >= limits[place] - 2.0
    return held


def _risen(samples: Samples) -> NDArray[np.bool_]:
    places = list(samples.with_statistic("temperature").values())
    if not places:
        return np.ones(len(samples.time_s), dtype=bool)
    hottest = np.max(places, axis=0)
    return np.asarray(hottest >= hottest[0] + RISEN_K)


def _last_span(time_s: Array, on: NDArray[np.bool_]) -> LoadSpan | None:
    if not on.any():
        return None
    last = int(np.flatnonzero(on)[-1])
    off = time_s[last + 1] if last + 1 < len(time_s) and time_s[-1] - time_s[last] >= OFF_S else None
    pauses = np.flatnonzero(~on[:last])
    first = 0
    for stop in pauses[::-1]:
        # a moment without load is none: it must have been off for a while
        began = stop
        while began > 0 and not on[began - 1]:
            began -= 1
        after = stop + 1
        if time_s[after] - time_s[began] >= OFF_S or began == 0:
            first = after
            break
    return LoadSpan(float(time_s[first]), None if off is None else float(off))
