"""Sensors that lie: one that shows the same figure while its neighbours move, two that have changed places."""

from collections.abc import Iterator
from itertools import combinations
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.watching.expected import Expected
from krill.watching.load import LoadSpan
from krill.watching.movers import Failed
from krill.watching.samples import Samples, filled

Array = NDArray[np.float64]

#: a figure that has not changed for so long, s
STILL_S: Final = 20.0
#: its neighbours are read to have moved by so many of its steps (three, within what they are read to), and it should have by
#: so many
STEPS, OWN_STEPS = 2.6, 1.5
#: a neighbour has moved with it before: its correlation
WITH_IT: Final = 0.8
NEIGHBOURS: Final = 3
#: readings that are taken together to see how far a neighbour has moved
TOGETHER: Final = 8
#: two places have changed where each jumps to where the other was, this far apart at least, K, and to within this share
APART_K, NEAR = 3.0, 0.25
#: what is compared before and after a jump, and what is left out around it, s
BESIDE_S, AROUND_S = 16.0, 4.0
#: nothing in a build says how its room moves: what moves with it does so by chance
ROOM: Final = "room/air"
_TEMPERATURES: Final = ("/temperature", "/coolant_hot", "/coolant_cold", "/air")


def failed_sensors(expected: Expected, samples: Samples, load: LoadSpan | None) -> list[Failed]:
    """Sensors that are stuck now, and the first two that changed places."""
    return [*_stuck(expected, samples, load), *_swapped(samples)]


def _temperatures(samples: Samples) -> list[str]:
    return [role for role in samples.roles if role.endswith(_TEMPERATURES) and role != ROOM]


def _stuck(expected: Expected, samples: Samples, load: LoadSpan | None) -> Iterator[Failed]:
    roles = _temperatures(samples)
    for role in roles:
        values = filled(np.asarray(samples.of(role)))
        moved = np.flatnonzero(np.diff(values) != 0.0)
        since = int(moved[-1]) + 1 if moved.size else 0
        if samples.now_s - samples.time_s[since] < STILL_S or since < 4 or np.isnan(values).all():
            continue
        steps = np.abs(np.diff(np.unique(np.round(values, 4))))
        if not steps.size:
            continue
        moved_by, should = _beside(samples, roles, role, since)
        should = max(should, _forecast(expected, samples, load, role, since))
        if moved_by >= STEPS * float(steps.min()) and should >= OWN_STEPS * float(steps.min()):
            yield Failed("sensor-stuck", (role,), float(samples.time_s[since]))


def _beside(samples: Samples, roles: list[str], role: str, since: int) -> tuple[float, float]:
    """By how many kelvins those that moved with it before have moved since, and by how many they say that it has.

    Where none has moved with it yet, all of them have moved by their median, and say nothing of it.
    """
    own = np.asarray(samples.steady(role))[:since]
    told: list[tuple[float, float, float]] = []
    others: list[float] = []
    for other in roles:
        beside = samples.steady(other)
        if other == role or beside is None or np.ptp(beside[:since]) < 1e-6 or np.ptp(own) < 1e-6:
            continue
        moved = abs(_about(beside, len(beside)) - _about(beside, since + TOGETHER // 2))
        others.append(moved)
        with_it = abs(float(np.corrcoef(own, beside[:since])[0, 1]))
        if with_it >= WITH_IT:
            # both are noisy alike: a slope of least squares would make it too small
            told.append((with_it, moved, moved * float(np.std(own) / np.std(beside[:since]))))
    best = np.array(sorted(told, reverse=True)[:NEIGHBOURS])
    if not best.size:
        return (float(np.median(others)) if others else 0.0), 0.0
    return float(np.median(best[:, 1])), float(np.median(best[:, 2]))


def _forecast(expected: Expected, samples: Samples, load: LoadSpan | None, role: str, since: int) -> float:
    """By how many kelvins a role is forecast to have moved under the load since then."""
    curve = expected.curve(role)
    if curve is None or load is None:
        return 0.0
    ends = (load.off_s or samples.now_s, float(samples.time_s[since]))
    now, then = (np.interp(max(at - load.on_s, 0.0) / 60.0, expected.forecast.minutes, curve.c) for at in ends)
    return abs(float(now - then))


def _about(values: Array, until: int) -> float:
    """Mean of the last readings before one: finer than their step where they are noisy."""
    return float(np.mean(values[max(until - TOGETHER, 0) : until]))


def _swapped(samples: Samples) -> Iterator[Failed]:
    places = [role for role in samples.roles if role.endswith("/temperature")]
    beside, around = (max(1, round(s / samples.step_s)) for s in (BESIDE_S, AROUND_S))
    span = 2 * beside + around
    if len(samples.time_s) <= span:
        return
    windows = {
        role: np.lib.stride_tricks.sliding_window_view(np.asarray(samples.steady(role)), span) for role in places
    }
    before = {role: np.median(window[:, :beside], axis=1) for role, window in windows.items()}
    after = {role: np.median(window[:, beside + around :], axis=1) for role, window in windows.items()}
    for one, other in combinations(places, 2):
        apart = np.abs(before[one] - before[other])
        changed = (
            (apart >= APART_K)
            & (np.abs(after[one] - before[other]) < NEAR * apart)
            & (np.abs(after[other] - before[one]) < NEAR * apart)
        )
        if changed.any():
            at = int(np.argmax(changed)) + beside + around // 2
            yield Failed("sensors-swapped", (one, other), float(samples.time_s[at]))
            return
