"""Fans and pumps by their speeds: one that stands, all of one feed that stand, all that run slower; coolant that does not move."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.build import leaves
from krill.document.parts import Mover, Pump
from krill.watching.expected import Expected
from krill.watching.following import speed_shares
from krill.watching.kinds import FailureKind
from krill.watching.lasting import began_lasting
from krill.watching.samples import Samples

Array = NDArray[np.float64]

#: a mover stands below this share of what it ran at, for so long, s
STANDS_BELOW, STANDS_S = 0.2, 8.0
#: movers of one feed stop within so many seconds of each other
TOGETHER_S: Final = 8.0
#: a supply sags where all movers lose a like share of their speed, this much at least and at most
SAGS: Final = (0.45, 0.95)
ALIKE: Final = 0.04
SAGS_S: Final = 30.0
#: coolant that moves at less than this share of what it did stands
FLOWS_BELOW: Final = 0.3
FLOWS_S: Final = 10.0
#: without a flow meter: the coolant's own spread is this many times what it was, and so many kelvins more
SPREAD_TIMES, SPREAD_K, SPREAD_S = 3.0, 6.0, 20.0
#: the speed that a mover has run at is told from so long, s
KNOWN_S: Final = 20.0


@dataclass(frozen=True)
class Failed:
    """What failed, on which addresses, since when on the run's clock."""

    kind: FailureKind
    on: tuple[str, ...]
    since_s: float
    also: tuple[str, ...] = ()


def failed_movers(expected: Expected, samples: Samples) -> list[Failed]:
    """Movers that stand, told by the feed where all of a feed stand; a supply that sags; coolant that stands."""
    speeds = {m: rpm for m, rpm in samples.with_statistic("speed").items() if expected.rpm.get(m, 0.0) > 0.0}
    ran = {mover: _ran_at(samples, rpm) for mover, rpm in speeds.items()}
    never = {mover for mover, most in ran.items() if most < STANDS_BELOW * expected.rpm[mover]}
    share = {m: speeds[m] / (expected.rpm[m] if m in never else ran[m]) for m in speeds}
    stood = {
        mover: since
        for mover, own in share.items()
        if (since := began_lasting(samples.time_s, own < STANDS_BELOW, STANDS_S)) is not None
    }
    found = list(_by_feed(expected, speeds, stood))
    sags = _sags(samples, {m: own for m, own in speed_shares(expected, samples).items() if m not in stood})
    return found + ([] if sags is None else [sags]) + list(_coolant_stands(expected, samples, stood))


def _ran_at(samples: Samples, rpm: Array) -> float:
    """The speed that a mover has kept to for a while, the highest of those."""
    size = max(1, round(KNOWN_S / samples.step_s))
    if len(rpm) < size:
        return float(np.median(rpm))
    blocks = rpm[: len(rpm) // size * size].reshape(-1, size)
    return float(np.median(blocks, axis=1).max())


def _by_feed(expected: Expected, speeds: dict[str, Array], stood: dict[str, float]) -> Iterator[Failed]:
    """Movers that stand, those of one feed that stopped together told once by the feed nearest to them."""
    build = expected.build
    movers = {part.id: part for part in build.parts if isinstance(part, Mover) and part.id in speeds}
    left = dict(stood)
    under = {
        feed.id: frozenset(m for m, part in movers.items() if feed.id in build.feeds_above(part.feed))
        for feed in build.feeds
    }
    for fed in sorted(set(under.values()), key=lambda one: -len(one)):
        together = len(fed) > 1 and fed <= left.keys()
        if together and max(left[m] for m in fed) - min(left[m] for m in fed) <= TOGETHER_S:
            feeds = tuple(feed for feed, own in under.items() if own == fed)
            yield Failed("feed-lost", feeds, min(left[m] for m in fed), tuple(sorted(fed)))
            left = {m: since for m, since in left.items() if m not in fed}
    for mover, since in left.items():
        yield Failed("pump-stops" if isinstance(movers[mover], Pump) else "fan-stalls", (mover,), since)


def _sags(samples: Samples, speeds: dict[str, Array]) -> Failed | None:
    """All movers at a like share of what they ran at, or of what their curve asks of them now."""
    if len(speeds) < 2:
        return None
    all_of = np.stack([own / max(_ran_at(samples, own), 1e-9) for own in speeds.values()])
    mean = all_of.mean(axis=0)
    alike = (np.abs(all_of - mean) < ALIKE).all(axis=0)
    since = began_lasting(samples.time_s, alike & (mean > SAGS[0]) & (mean < SAGS[1]), SAGS_S)
    return None if since is None else Failed("supply-sags", (), since, tuple(speeds))


def _coolant_stands(expected: Expected, samples: Samples, stood: dict[str, float]) -> Iterator[Failed]:
    """Loops whose coolant stands though a pump of theirs turns."""
    parts = {part.id: part for part in expected.build.parts}
    for loop in expected.build.loops:
        pumps = [p for p in leaves(loop.elements) if isinstance(parts.get(p), Pump) and p in expected.rpm]
        if not pumps or any(pump in stood for pump in pumps):
            continue
        since = _flow_lost(samples, loop.id)
        if since is not None:
            yield Failed("air-lock", (loop.id,), since, tuple(pumps))


def _flow_lost(samples: Samples, loop: str) -> float | None:
    flow = samples.steady(f"{loop}/flow")
    if flow is not None:
        ran = _ran_at(samples, flow)
        return began_lasting(samples.time_s, flow < FLOWS_BELOW * ran, FLOWS_S) if ran > 0.0 else None
    hot, cold = (samples.steady(f"{loop}/coolant_{end}") for end in ("hot", "cold"))
    if hot is None or cold is None:
        return None
    spread = hot - cold
    known = np.minimum.accumulate(np.where(spread > 0.5, spread, np.inf))
    rests = np.isfinite(known) & (spread > SPREAD_TIMES * known) & (spread > known + SPREAD_K)
    return began_lasting(samples.time_s, rests, SPREAD_S)
