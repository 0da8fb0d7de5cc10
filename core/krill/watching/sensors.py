"""Sensors that lie: one that shows the same figure while its neighbours move, two that have changed places."""

from collections.abc import Iterator
from itertools import combinations
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.watching.movers import Failed
from krill.watching.samples import Samples, filled

Array = NDArray[np.float64]

#: a figure that has not changed for so long, s
STILL_S: Final = 20.0
#: its neighbours have moved by so many of its steps, and it should have by so many
STEPS, OWN_STEPS = 3.0, 1.5
#: a neighbour has moved with it before: its correlation
WITH_IT: Final = 0.8
NEIGHBOURS: Final = 3
#: two places have changed where each jumps to where the other was, this far apart at least, K, and to within this share
APART_K, NEAR = 3.0, 0.25
#: what is compared before and after a jump, and what is left out around it, s
BESIDE_S, AROUND_S = 16.0, 4.0
_TEMPERATURES: Final = ("/temperature", "/coolant_hot", "/coolant_cold", "/air")


def failed_sensors(samples: Samples) -> list[Failed]:
    """Sensors that are stuck now, and the first two that changed places."""
    return [*_stuck(samples), *_swapped(samples)]


def _temperatures(samples: Samples) -> list[str]:
    return [role for role in samples.roles if role.endswith(_TEMPERATURES)]


def _stuck(samples: Samples) -> Iterator[Failed]:
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
        if moved_by >= STEPS * float(steps.min()) and should >= OWN_STEPS * float(steps.min()):
            yield Failed("sensor-stuck", (role,), float(samples.time_s[since]))


def _beside(samples: Samples, roles: list[str], role: str, since: int) -> tuple[float, float]:
    """By how many kelvins those that moved with it before have moved since, and by how many they say that it has."""
    own = np.asarray(samples.steady(role))[:since]
    told: list[tuple[float, float, float]] = []
    for other in roles:
        beside = samples.steady(other)
        if other == role or beside is None or np.ptp(beside[:since]) < 1e-6 or np.ptp(own) < 1e-6:
            continue
        with_it = abs(float(np.corrcoef(own, beside[:since])[0, 1]))
        if with_it >= WITH_IT:
            slope = float(np.cov(own, beside[:since])[0, 1] / np.var(beside[:since], ddof=1))
            moved = float(beside[-1] - beside[since])
            told.append((with_it, abs(moved), abs(slope * moved)))
    best = np.array(sorted(told, reverse=True)[:NEIGHBOURS])
    return (float(np.median(best[:, 1])), float(np.median(best[:, 2]))) if best.size else (0.0, 0.0)


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
