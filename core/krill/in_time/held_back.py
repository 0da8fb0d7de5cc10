"""Sources that give up watts in time: for how long, how many, and how much of their clock."""

from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.parts import Source
from krill.in_time.lag import GIVES_BACK, GIVES_UP_AFTER
from krill.in_time.result import HeldBackInTime
from krill.in_time.run import Ran
from krill.in_time.track import Track
from krill.prediction.answer.result import Band

Array = NDArray[np.float64]

#: work goes with the clock to these powers: rendering, games (value from memory)
WORK_BY_CLOCK: Final = (0.9, 0.5)
#: a source that keeps more than this of its watts is not held back
WHOLE: Final = 1.0 - 1e-4


def kept_by(track: Track, source: str) -> Array:
    """Mean share of its watts that a source kept between each two moments, (moment - 1, batch)."""
    whole = np.ones(len(track.moments[0].T))
    kept = np.stack([np.broadcast_to(moment.kept.get(source, whole), whole.shape) for moment in track.moments])
    return np.asarray(0.5 * (kept[1:] + kept[:-1]))


def share_of_time(track: Track, source: str) -> Array:
    """For which share of the time a source gave up watts, (batch,)."""
    times = track.times
    lasting = np.diff(times)[:, None]
    return np.asarray((lasting * (kept_by(track, source) < WHOLE)).sum(axis=0) / max(times[-1] - times[0], 1e-9))


def gives_up(ran: Ran, source: str) -> bool:
    """Whether a source gives up watts in the central case."""
    return bool(share_of_time(ran.track, source)[0] > 0.0)


def held_back(ran: Ran) -> list[HeldBackInTime]:
    """Sources that gave up watts in the central case, by the time that each moment's shares lasted."""
    found = []
    lasting = np.diff(ran.track.times)
    for source in ran.network.throttling.start(1):
        share = float(share_of_time(ran.track, source)[0])
        if share <= 0.0:
            continue
        mean = kept_by(ran.track, source)[:, 0]
        part = ran.network.build.part(source)
        full = float(np.ravel(ran.network.states.watts(source))[0])
        exponent = _clock_exponent(ran, source)
        clock = None if exponent is None else mean**exponent
        found.append(
            HeldBackInTime(
                source=source,
                name=part.name or part.id,
                share_of_time=share,
                lost_w=full * float(np.average(1.0 - mean, weights=lasting)),
                full_w=full,
                clock_share=None if clock is None else float(np.average(clock, weights=lasting)),
                work_share=None if clock is None else _work(clock, lasting),
                late_s=_band(ran, source, GIVES_UP_AFTER),
                over_k=_passed_by(ran, source),
                gives_back_k=_band(ran, source, GIVES_BACK),
            )
        )
    return found


def _work(clock: Array, lasting: Array) -> Band:
    """Share of its work that a source still does at shares of its clock, from the work that follows the clock to that which
    mostly waits for others."""
    follows, waits = (float(np.average(clock**power, weights=lasting)) for power in WORK_BY_CLOCK)
    return Band(low=follows, high=waits)


def _passed_by(ran: Ran, source: str) -> float:
    """By how much a source's places pass their limit at most in the central case, K."""
    holds = ran.network.throttling
    return max(0.0, *(float(holds.over_k(moment.T[:1])[source][0]) for moment in ran.track.moments))


def _band(ran: Ran, source: str, quantity: str) -> Band | None:
    """What is known of the firmware of a source, of its place with the least of it."""
    figures, places = ran.network.values.table.figures, ran.network.throttling.places_of(source)
    known = [figures[f"{place}/{quantity}"] for place in places if f"{place}/{quantity}" in figures]
    if not known:
        return None
    least = min(known, key=lambda figure: figure.value)
    return Band(low=max(least.value - least.tolerance.minus, 0.0), high=least.value + least.tolerance.plus)


def _clock_exponent(ran: Ran, source: str) -> float | None:
    part = ran.network.build.part(source)
    places = part.places if isinstance(part, Source) else []
    known = [f"{p.id}/clock_exponent" for p in places if ran.network.values.has(f"{p.id}/clock_exponent")]
    return float(np.ravel(ran.network.values(known[0]))[0]) if known else None
