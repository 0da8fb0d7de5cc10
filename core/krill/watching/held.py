"""Sources that draw less than they did under the same load, and a room that is not what it was."""

from collections.abc import Iterator
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.watching.expected import Expected
from krill.watching.lasting import began_lasting
from krill.watching.load import LoadSpan
from krill.watching.movers import Failed
from krill.watching.samples import Samples

Array = NDArray[np.float64]

#: a source that draws less than this share of what it did is held back; below the other one its own load has ended
HELD, ENDED = 0.92, 0.3
HELD_S: Final = 24.0
#: sources of less watts are not looked at
LEAST_W: Final = 15.0
#: a place so near under its limit is held there, K
AT_LIMIT_K: Final = 2.0
#: what a source draws is told from so long, s, once bursts are over and settled
KNOWN_S, AFTER_BURST_S = 60.0, 20.0
#: a room that has moved by so many kelvins drifts
DRIFTS_K, DRIFTS_S, FIRST_S = 1.0, 20.0, 60.0


def held_back(expected: Expected, samples: Samples, load: LoadSpan) -> Iterator[Failed]:
    """Sources that give up watts though their load goes on; ``also`` names the place whose limit holds them."""
    rows = load.rows(samples) & (samples.time_s >= load.on_s + expected.burst_ends_s + AFTER_BURST_S)
    if not rows.any():
        return
    time = samples.time_s[rows]
    for source, watts in samples.with_statistic("power").items():
        own = watts[rows]
        size = max(1, round(KNOWN_S / samples.step_s))
        if len(own) < size or expected.load_w.get(source, 0.0) < LEAST_W:
            continue
        drew = float(np.median(own[: len(own) // size * size].reshape(-1, size), axis=1).max())
        at_limit = _at_limits(expected, samples, source)
        held = (own < HELD * drew) & ((own > ENDED * drew) | _any(at_limit, rows))
        since = began_lasting(time, held, HELD_S)
        if since is not None:
            after = rows & (samples.time_s >= since)
            places = tuple(place for place, near in at_limit.items() if near[after].any())
            yield Failed("throttles", (source,), since, places)


def _at_limits(expected: Expected, samples: Samples, source: str) -> dict[str, NDArray[np.bool_]]:
    """By place of a source, when it was at its limit."""
    part = expected.build.part(source)
    found = {}
    for place in getattr(part, "places", []):
        curve, values = expected.curve(f"{place.id}/temperature"), samples.steady(f"{place.id}/temperature")
        if curve is not None and curve.limit_c is not None and values is not None:
            found[place.id] = values >= curve.limit_c - AT_LIMIT_K
    return found


def _any(near: dict[str, NDArray[np.bool_]], rows: NDArray[np.bool_]) -> NDArray[np.bool_]:
    found = np.zeros(int(rows.sum()), dtype=bool)
    for own in near.values():
        found |= own[rows]
    return found


def room_drifts(samples: Samples, load: LoadSpan) -> Failed | None:
    """A room that has left by a kelvin what it was when the load came on."""
    room = samples.steady("room/air")
    if room is None:
        return None
    first = (samples.time_s >= load.on_s) & (samples.time_s <= load.on_s + FIRST_S)
    rows = load.rows(samples)
    if not first.any():
        return None
    moved = np.abs(room[rows] - float(np.median(room[first]))) >= DRIFTS_K
    since = began_lasting(samples.time_s[rows], moved, DRIFTS_S)
    return None if since is None else Failed("room-drifts", ("room",), since)
