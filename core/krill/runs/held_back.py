"""What held a load back: heat, the power limit that was set, board or regulators, the supply, or nothing.

From what was logged over the window, or from single figures: temperature, watts, clock, limit. Evidence in one line.
"""

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

By = Literal["heat", "power limit", "falling limit", "board or regulators", "supply", "nothing", "cannot tell"]

#: a part this near to its limit is at it (sensor and firmware, common practice)
AT_LIMIT_K: Final = 2.5
#: a part that never comes nearer has kelvins to spare
SPARE_K: Final = 4.0
#: watts of a limit that lie this near to it are on it
ON_LIMIT: Final = 0.04
#: clock or watts that fall by less have not fallen
FELL: Final = 0.05
NOISES: Final = 2.0
#: a supply that gives more of its rating is at its end (protection trips from 1.1 on; common practice)
SUPPLY_FULL: Final = 0.97
#: a part that is busy for less waits for something else
BUSY_PERCENT: Final = 80.0
#: the shortest share of a window that counts as throttled
THROTTLED_SHARE: Final = 0.05
#: the burst that a window begins with, and the rows that say what came of it
FIRST_SHARE, LAST_SHARE = 0.06, 0.4
#: a source of less than this share of the largest one's watts is told of only where something held it
LARGE_SHARE: Final = 0.25
_NOT_HELD: Final = ("nothing", "cannot tell")
NO_COOLER: Final = "No cooler would have made this faster."


@dataclass(frozen=True)
class Track:
    """One source over a window: hottest held place over its limit K, watts, clock MHz, limit W, busy %; (row,) or None.

    Single figures are tracks of one row. ``asked_w`` is what the build says that the job draws.
    """

    source: str
    name: str
    over_limit_k: Array | None = None
    watts: Array | None = None
    clock: Array | None = None
    limit_w: Array | None = None
    busy: Array | None = None
    asked_w: float | None = None
    regulators_over_k: Array | None = None


@dataclass(frozen=True)
class HeldBack:
    """What held one source back in a window, with the evidence; shares are of the window's time, or of what was lost."""

    source: str
    name: str
    by: By
    evidence: str
    throttled_share: float = 0.0
    clock_lost_share: float = 0.0
    watts_lost: float = 0.0
    spare_k: float | None = None

    @property
    def says(self) -> str:
        """A sentence of it."""
        words = {
            "heat": "was held back by heat",
            "power limit": "was held back by the power limit that was set",
            "falling limit": "was held back by a limit that falls after the burst",
            "board or regulators": "was held back by board or regulators, below both limits",
            "supply": "was held back by the supply",
            "nothing": "was held back by nothing that was read",
            "cannot tell": "cannot be told apart",
        }[self.by]
        cooler = f" {NO_COOLER}" if self.by in ("power limit", "falling limit", "board or regulators", "supply") else ""
        return f"{self.name} {words}: {self.evidence}.{cooler}"


@dataclass(frozen=True)
class Fed:
    """What the supply gave: watts of all sources together (row,), its rating, how far its place is over its limit, K."""

    watts: Array | None = None
    rating_w: float | None = None
    over_limit_k: Array | None = None


NOT_FED: Final = Fed()


def held_back(tracks: list[Track], fed: Fed) -> list[HeldBack]:
    """What held each source back, most held back first; small sources only where something did."""
    supply = _supply(fed)
    read = [t for t in tracks if t.watts is not None or t.clock is not None or t.over_limit_k is not None]
    most = max((_size(t) for t in read), default=0.0)
    found = [(t, _of_one(t, supply)) for t in read]
    told = [held for t, held in found if held.by not in _NOT_HELD or _size(t) >= LARGE_SHARE * most]
    return sorted(told, key=lambda held: (held.by in _NOT_HELD, -held.watts_lost, held.name))


def _size(track: Track) -> float:
    drawn = 0.0 if track.watts is None else float(np.nanmean(track.watts))
    return max(drawn, track.asked_w or 0.0)


def _of_one(track: Track, supply: str) -> HeldBack:
    spare = None if track.over_limit_k is None else -float(np.nanmax(_late(track.over_limit_k)))
    losses = _losses(track)

    def said(by: By, evidence: str) -> HeldBack:
        return HeldBack(track.source, track.name, by, evidence, spare_k=spare, **losses)

    if track.busy is not None and float(np.nanmean(track.busy)) < BUSY_PERCENT:
        return said("nothing", f"the job keeps it busy for {float(np.nanmean(track.busy)):.0f} % of the time only")
    at_limit = _share_at_limit(track)
    fell, level = _fell(track), _level(track)
    if at_limit >= THROTTLED_SHARE and (fell or track.watts is None or _below_asked(track)):
        lost = _lost_words(track)
        return said("heat", f"at its limit for {_percent(at_limit)} of the time{lost}")
    fell = fell and any(map(_beyond_noise, (track.watts, track.clock)))  # a firmware that hunts at its limit is noisy
    on_limit = _share_on_limit(track)
    cool = spare is None or spare > AT_LIMIT_K
    spared = "" if spare is None else f" with {spare:.0f} K to spare"
    if on_limit >= 0.5 and cool:
        limit = float(np.nanmean(_late(track.limit_w))) if track.limit_w is not None else 0.0
        by: By = "falling limit" if _limit_falls(track) else "power limit"
        return said(by, f"{level} on its limit of {limit:.0f} W{spared}")
    short = fell or track.asked_w is None or _below_asked(track)
    if supply and short and at_limit < THROTTLED_SHARE:
        return said("supply", f"{supply}, {level} of it here{spared}")
    if track.regulators_over_k is not None and float(np.nanmax(track.regulators_over_k)) >= -AT_LIMIT_K and cool:
        return said("board or regulators", f"regulators at their limit, {level}{spared}")
    if fell and cool:
        if track.limit_w is not None and track.watts is not None:
            limit = float(np.nanmean(_late(track.limit_w)))
            return said(
                "board or regulators", f"{level}, under its limit of {limit:.0f} W{spared}, and still falling short"
            )
        if _steps_down(track):
            return said("falling limit", f"{level} after a burst of {_burst(track)}{spared}; no limit was read")
        return said("board or regulators", f"{_lost_words(track).removeprefix(', ')}{spared}; no limit was read")
    if spare is None and track.limit_w is None and not _has_series(track):
        return said("cannot tell", "neither its limit nor its clock was read")
    if at_limit >= THROTTLED_SHARE:
        return said("nothing", f"{level} though it stands at its limit")
    return said("nothing", f"{level}{spared}".strip() or "no sign of any limit")


def _late(values: Array) -> Array:
    return values[-max(1, int(np.ceil(LAST_SHARE * len(values)))) :]


def _early(values: Array) -> Array:
    """The burst: the highest stretch of the window's beginning."""
    first = values[: max(1, int(np.ceil(FIRST_SHARE * len(values))))]
    return first[first >= np.nanquantile(first, 0.5)] if len(first) > 1 else first


def _has_series(track: Track) -> bool:
    return any(values is not None and len(values) > 10 for values in (track.watts, track.clock))


def _share_at_limit(track: Track) -> float:
    if track.over_limit_k is None:
        return 0.0
    known = track.over_limit_k[np.isfinite(track.over_limit_k)]
    return float(np.mean(known >= -AT_LIMIT_K)) if known.size else 0.0


def _share_on_limit(track: Track) -> float:
    if track.watts is None or track.limit_w is None:
        return 0.0
    watts, limit = np.broadcast_arrays(track.watts, track.limit_w)
    late = _late(_smooth(watts) / np.maximum(limit, 1e-9))
    return float(np.mean(np.abs(late - 1.0) <= ON_LIMIT))


def _limit_falls(track: Track) -> bool:
    if track.limit_w is None or len(track.limit_w) < 2:
        return False
    return float(np.nanmean(_late(track.limit_w))) < (1.0 - FELL) * float(np.nanmax(track.limit_w))


def _smooth(values: Array) -> Array:
    """Running mean over a fiftieth of the window: what a load does from second to second is no limit."""
    size = max(1, len(values) // 50)
    if size == 1:
        return values
    filled = np.where(np.isfinite(values), values, np.nanmean(values))
    return np.asarray(
        np.convolve(np.pad(filled, size // 2, mode="edge"), np.ones(size) / size, mode="valid")[: len(values)]
    )


def _fall_of(values: Array | None) -> float:
    """Share by which a signal ended below its beginning."""
    if values is None or len(values) < 10:
        return 0.0
    before, after = float(np.nanmean(_early(values))), float(np.nanmean(_late(values)))
    return 1.0 - after / before if before > 0 else 0.0


def _beyond_noise(values: Array | None) -> bool:
    """Whether a signal ended lower than its noise from row to row may make it seem."""
    if values is None or len(values) < 10:
        return False
    noise = float(np.nanstd(np.diff(values))) / np.sqrt(2.0)
    return bool(float(np.nanmean(_early(values)) - np.nanmean(_late(values))) > NOISES * noise)


def _fell(track: Track) -> bool:
    return any(_fall_of(values) > FELL for values in (track.watts, track.clock))


def _below_asked(track: Track) -> bool:
    if track.watts is None or track.asked_w is None:
        return False
    return float(np.nanmean(_late(track.watts))) < (1.0 - FELL) * track.asked_w


def _steps_down(track: Track) -> bool:
    """Whether the fall happens at once, to a level that then holds: a limit's way, not a part's that warms up."""
    values = track.watts if track.watts is not None else track.clock
    if values is None or len(values) < 10:
        return False
    smooth = _smooth(values)
    late = _late(smooth)
    after = float(np.mean(late))
    holds = float(np.ptp(np.quantile(late, (0.05, 0.95)))) < FELL * after
    reached = np.flatnonzero(smooth <= after + 0.1 * (float(np.nanmean(_early(values))) - after))
    return holds and reached.size > 0 and reached[0] < 0.4 * len(values)


def _burst(track: Track) -> str:
    values, unit = (track.watts, "W") if track.watts is not None else (track.clock, "MHz")
    return "" if values is None else f"{float(np.nanmean(_early(values))):.0f} {unit}"


def _level(track: Track) -> str:
    if track.watts is not None:
        return f"{float(np.nanmean(_late(track.watts))):.0f} W"
    if track.clock is not None:
        return f"{float(np.nanmean(_late(track.clock))):.0f} MHz"
    return ""


def _percent(share: float) -> str:
    return f"{100 * share:.0f} %"


def _lost_words(track: Track) -> str:
    words = []
    if _fall_of(track.clock) > 0.01:
        words.append(f"{_percent(_fall_of(track.clock))} of its clock lost")
    if _fall_of(track.watts) > 0.01 and track.watts is not None:
        gone = float(np.nanmean(_early(track.watts)) - np.nanmean(_late(track.watts)))
        words.append(f"{gone:.0f} W lost")
    elif _below_asked(track) and track.asked_w is not None and track.watts is not None:
        words.append(f"{track.asked_w - float(np.nanmean(_late(track.watts))):.0f} W under what the job asks for")
    return f", {' and '.join(words)}" if words else ""


def _losses(track: Track) -> dict[str, float]:
    watts = 0.0
    if track.watts is not None:
        watts = max(float(np.nanmean(_early(track.watts)) - np.nanmean(_late(track.watts))), 0.0)
    return {
        "throttled_share": _share_at_limit(track) if _fell(track) or _below_asked(track) else 0.0,
        "clock_lost_share": max(_fall_of(track.clock), 0.0),
        "watts_lost": watts,
    }


def _supply(fed: Fed) -> str:
    """Evidence that the supply is at its end, or nothing."""
    if fed.over_limit_k is not None and float(np.nanmax(fed.over_limit_k)) >= -AT_LIMIT_K:
        return "the supply stands at its own limit"
    if fed.watts is None or fed.rating_w is None:
        return ""
    share = float(np.nanquantile(fed.watts, 0.95)) / fed.rating_w
    if share < SUPPLY_FULL:
        return ""
    return f"{float(np.nanquantile(fed.watts, 0.95)):.0f} W of a supply of {fed.rating_w:.0f} W"
