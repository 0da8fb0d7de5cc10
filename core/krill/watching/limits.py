"""How many minutes are left until a place meets its limit, by how it has risen over the last minutes."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.in_time.result import TimeCurve
from krill.prediction.answer.places import lowest_limit
from krill.watching.expected import Expected
from krill.watching.load import LoadSpan
from krill.watching.result import Alarm, AlarmKind
from krill.watching.samples import Samples

Array = NDArray[np.float64]

#: a rise is told from two stretches of so many seconds, one after the other
STRETCH_S: Final = 60.0
#: slower rises tell nothing, K/min; a place this near under its limit is at it, K
LEAST_SLOPE_K_MIN, AT_LIMIT_K = 0.4, 0.75
#: who is told of a limit so many minutes ahead, and advised to stop
TOLD_MIN, STOP_MIN = 15.0, 2.0
#: a rise that nothing explains is told of only so shortly ahead: noise makes long ways uncertain
SURELY_MIN: Final = 3.0
#: what a rise is thought to reach at most is followed this close
CLOSE: Final = 0.97


@dataclass(frozen=True)
class _Rise:
    now_c: float
    slope: float  # K/s
    before: float


def alarms(expected: Expected, samples: Samples, load: LoadSpan, failed: bool) -> list[Alarm]:
    """Places at their limit or on the way to it while the load is on, the soonest first.

    ``failed`` is whether something was found that makes temperatures rise anew.
    """
    if load.off_s is not None:
        return []
    return sorted(_alarms(expected, samples, load, failed), key=lambda alarm: alarm.minutes_left or 0.0)


def _alarms(expected: Expected, samples: Samples, load: LoadSpan, failed: bool) -> Iterator[Alarm]:
    for curve in expected.forecast.curves:
        rise = None if curve.limit_c is None else _rise(samples, f"{curve.address}/temperature", load)
        if rise is None or curve.limit_c is None:
            continue
        name, limit = curve.name, curve.limit_c
        throttles = lowest_limit(expected.build.place_owners()[curve.address][0])[0] == "throttle"
        if rise.now_c >= limit - AT_LIMIT_K:
            then = "It gives up watts to stay there." if throttles and not failed else "Take the load off."
            says = f"{name} is at its limit of {limit:g} °C. {then}"
            yield _alarm("at_limit", curve, limit, rise.now_c, 0.0, not throttles or failed, says)
            continue
        minutes = minutes_to(limit - rise.now_c, rise.slope, rise.before)
        explained = failed or curve.limit_min is not None
        if minutes is not None and minutes <= (TOLD_MIN if explained else SURELY_MIN):
            stop = minutes <= STOP_MIN and (failed or not throttles)
            left = f"{60 * minutes:.0f} s" if minutes < 2 else f"{minutes:.0f} min"
            says = f"{name} meets its limit of {limit:g} °C in {left}" + (". Take the load off." if stop else ".")
            yield _alarm("nears_limit", curve, limit, rise.now_c, minutes, stop, says)


def _alarm(
    kind: AlarmKind, curve: TimeCurve, limit_c: float, now_c: float, minutes: float, stop: bool, says: str
) -> Alarm:
    return Alarm(
        kind=kind,
        address=curve.address,
        name=curve.name,
        limit_c=limit_c,
        now_c=now_c,
        minutes_left=minutes,
        stop=stop,
        says=says,
    )


def _rise(samples: Samples, role: str, load: LoadSpan) -> _Rise | None:
    values = samples.steady(role)
    rows = load.rows(samples)
    if values is None or not rows.any() or samples.now_s - load.on_s < 2 * STRETCH_S:
        return None
    time, own = samples.time_s[rows], values[rows]
    last = time >= samples.now_s - STRETCH_S
    earlier = (time >= samples.now_s - 2 * STRETCH_S) & ~last
    if last.sum() < 4 or earlier.sum() < 4:
        return None
    slopes = [float(np.polyfit(time[part], own[part], 1)[0]) for part in (last, earlier)]
    return _Rise(float(np.median(own[-3:])), slopes[0], slopes[1])


def minutes_to(missing_k: float, slope: float, before: float) -> float | None:
    """Minutes until a rise has made up what is missing; None where it does not get there.

    Slopes in K/s over two stretches, the last one first: where it slows down it is followed as an exponential, else as a
    straight line.
    """
    if slope * 60.0 < LEAST_SLOPE_K_MIN:
        return None
    if before > slope:
        rate = np.log(before / slope) / STRETCH_S
        remaining = slope / rate
        if missing_k >= CLOSE * remaining:
            return None
        return float(-np.log(1.0 - missing_k / remaining) / rate / 60.0)
    return missing_k / slope / 60.0
