"""What a forecast in time says in one sentence: how long to test, what 30 minutes are worth, how long a burst holds."""

from collections.abc import Sequence

from krill.in_time.result import BurstHolds, TimeCurve

#: so near its end 30 minutes show all of it
WHOLE = 0.995


def sentence_of(slowest: TimeCurve, bursts: Sequence[BurstHolds], what: str = "part") -> str:
    """Of the slowest thing and every burst; ``what`` settles is a part, or the peak of a load that comes and goes."""
    said = [_shown(slowest), _needed(slowest, what)]
    said += [_burst(one) for one in bursts]
    return "; ".join(part for part in said if part) + "."


def _shown(slowest: TimeCurve) -> str:
    share = slowest.share_at_30
    if share is None:
        return ""
    if share >= WHOLE:
        return f"30 minutes show all of what {slowest.name} rises by"
    return f"30 minutes show {100 * share:.0f} % of what {slowest.name} rises by"


def _needed(slowest: TimeCurve, what: str) -> str:
    return f"{minutes_of(slowest.within_1k_min)} until every {what} is within 1 K of where it settles"


def _burst(one: BurstHolds) -> str:
    if one.soaked_s is None:
        return (
            f"a burst of {one.watts:.0f} W on {one.name} holds for as long as was looked, {one.looked_s / 60:.0f} min"
        )
    if one.soaked_s < 1.0:
        return f"a soaked machine holds no burst of {one.watts:.0f} W on {one.name}"
    return f"a burst of {one.watts:.0f} W on {one.name} holds {one.soaked_s:.0f} s"


def minutes_of(minutes: float) -> str:
    """Minutes in words: seconds below two minutes, hours above two."""
    if minutes < 2.0:
        return f"{60 * minutes:.0f} s"
    return f"{minutes:.0f} min" if minutes < 120.0 else f"{minutes / 60:.1f} h"
