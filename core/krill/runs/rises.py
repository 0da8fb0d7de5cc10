"""How a temperature may come to its settled value: by one to three time constants, or as the build's own network would.

Each way is linear in its settled value and amplitudes once its time constants are known; those are its unknowns.
"""

from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from math import lgamma
from typing import Protocol

import numpy as np
from numpy.typing import NDArray

from krill.prediction.questions.warm_up import WarmUpOfNode

Array = NDArray[np.float64]

#: time constants that are looked for, s: a plate on water to a heavy fanless housing
SHORTEST_S, LONGEST_S = 20.0, 7200.0
#: a constant is at least this much longer than the one before
APART = 1.5
#: share of the seen rise that each constant carries: mean and standard deviation (estimates)
SHARES = ((0.8, 1.0), (0.4, 0.8), (0.4, 0.8))
#: common scale of the network's time constants and of its slow ones: 0.5 to 2 holds 95 % of the first
SCALE_SD = (0.35, 0.2)
SCALE_LIMIT = np.log(3.0)
#: amplitudes of the network: all together, and each group of constants alone
TOGETHER_SD, ALONE_SD = 0.4, 0.3
#: between the groups of time constants, s: plates and coolers, loops, boxes and housings
GROUPS_S = (0.0, 90.0, 400.0, np.inf)
#: constants whose responses to the room and the load are computed; others lie between them
TABLE_S = np.geomspace(1.0, 3 * LONGEST_S, 90)
#: the network's way is computed at these times, s
WAY_S = np.concatenate([[0.0], np.geomspace(1.0, 40 * LONGEST_S, 900)])
#: the room's way to a part: the sum of its shares is 1 to this, and their split between two constants
ROOM_SUM_SD, ROOM_SPLIT_SD = 0.1, 0.35


@dataclass(frozen=True)
class Drive:
    """What moves a temperature beside the load itself, over the window's times.

    ``room`` (sample,): room over its mean, K, None where nobody logged it; ``load`` (sample,): load over its late mean,
    as a share of the step that the window began with, None where it stood.
    """

    time_s: Array
    room: Array | None = None
    load: Array | None = None

    @cached_property
    def _of_room(self) -> Array:
        assert self.room is not None
        return followed_by(self.time_s, self.room, TABLE_S, self.room[0])

    @cached_property
    def _of_load(self) -> Array:
        assert self.load is not None
        return followed_by(self.time_s, self.load, TABLE_S, 0.0)

    def room_by(self, constant_s: Array) -> Array:
        """The room as a part of these time constants follows it, (draw, sample)."""
        return _between(self._of_room, constant_s)

    def load_by(self, constant_s: Array) -> Array:
        return _between(self._of_load, constant_s)


def _between(table: Array, constant_s: Array) -> Array:
    """Rows of a table over ``TABLE_S`` at other constants, linear in their logarithm."""
    at = np.interp(np.log(constant_s), np.log(TABLE_S), np.arange(len(TABLE_S)))
    below = np.minimum(at.astype(int), len(TABLE_S) - 2)
    share = (at - below)[:, None]
    return np.asarray((1 - share) * table[below] + share * table[below + 1])


@dataclass(frozen=True)
class Terms:
    """Columns (draw, sample, term) with the mean and the covariance of their factors."""

    columns: Array
    mean: Array
    covariance: Array


class Rise(Protocol):
    """One way to settle. Unknowns are logarithms of times or of scales, (draw, unknown)."""

    @property
    def weight(self) -> float:
        """How likely this way is before the log is looked at."""

    @property
    def unknowns(self) -> int: ...

    def sample(self, rng: np.random.Generator, count: int) -> Array: ...

    def log_density(self, x: Array) -> Array: ...

    def decay(self, x: Array, time_s: Array) -> Array:
        """What is still missing of each term at these times, (draw, sample, term)."""

    def amplitudes(self, scale: float) -> tuple[Array, Array]:
        """Mean and covariance of the terms' amplitudes; ``scale`` is the rise seen, signed, K."""

    def constants(self, x: Array) -> Array:
        """Time constants of the terms, s (draw, term)."""

    def room_terms(self, x: Array, drive: Drive) -> Terms: ...


@dataclass(frozen=True)
class FreeRise:
    """One to three free time constants, any of them as likely on a logarithmic scale."""

    count: int
    weight: float

    @property
    def unknowns(self) -> int:
        return self.count

    def sample(self, rng: np.random.Generator, count: int) -> Array:
        low, high = np.log(SHORTEST_S), np.log(LONGEST_S)
        return np.sort(low + (high - low) * rng.random((count, self.count)), axis=1)

    def log_density(self, x: Array) -> Array:
        low, high = np.log(SHORTEST_S), np.log(LONGEST_S)
        inside = np.all((x >= low) & (x <= high), axis=1)
        inside &= np.all(np.diff(x, axis=1) >= np.log(APART), axis=1)
        return np.where(inside, lgamma(self.count + 1) - self.count * np.log(high - low), -np.inf)

    def decay(self, x: Array, time_s: Array) -> Array:
        return np.exp(-time_s[None, :, None] / np.exp(x)[:, None, :])

    def amplitudes(self, scale: float) -> tuple[Array, Array]:
        mean, spread = np.array(SHARES[: self.count]).T
        return scale * mean, np.diag((scale * spread) ** 2)

    def constants(self, x: Array) -> Array:
        return np.exp(x)

    def room_terms(self, x: Array, drive: Drive) -> Terms:
        """The room through each constant: they share it, the split is unknown."""
        followed = [drive.room_by(tau) for tau in self.constants(x).T]
        both = np.mean(followed, axis=0)
        if self.count == 1:
            return Terms(both[:, :, None], np.ones(1), np.array([[ROOM_SUM_SD**2]]))
        columns = np.stack([both, followed[0] - followed[-1]], axis=2)
        return Terms(columns, np.array([1.0, 0.0]), np.diag([ROOM_SUM_SD**2, ROOM_SPLIT_SD**2]))


@dataclass(frozen=True)
class ExpectedRise:
    """As the network of the build would warm up, its constants scaled together and the slow ones once more."""

    warm_up: WarmUpOfNode
    weight: float

    @property
    def unknowns(self) -> int:
        return len(SCALE_SD)

    def sample(self, rng: np.random.Generator, count: int) -> Array:
        return np.asarray(rng.normal(0.0, SCALE_SD, (count, self.unknowns)))

    def log_density(self, x: Array) -> Array:
        density = np.sum(-0.5 * (x / SCALE_SD) ** 2 - np.log(np.sqrt(2 * np.pi) * np.array(SCALE_SD)), axis=1)
        return np.where(np.all(np.abs(x) <= SCALE_LIMIT, axis=1), density, -np.inf)

    @cached_property
    def _groups(self) -> list[NDArray[np.bool_]]:
        """Modes of each group that has any weight."""
        tau = self.warm_up.time_constants_s
        parts = [(tau >= low) & (tau < high) for low, high in pairwise(GROUPS_S)]
        return [part for part in parts if np.any(part)]

    def _stretch(self, x: Array, group: NDArray[np.bool_]) -> Array:
        """Factor on the time constants of a group, (draw,)."""
        slow = float(np.min(self.warm_up.time_constants_s[group])) >= GROUPS_S[2]
        return np.exp(x[:, 0] + (x[:, 1] if slow else 0.0))

    @cached_property
    def _ways(self) -> list[Array]:
        """What is missing of each group's way at ``WAY_S``, K."""
        exponents = self.warm_up.rates * WAY_S[:, None]
        return [(np.exp(exponents[:, group]) @ self.warm_up.missing[group]).real for group in self._groups]

    def decay(self, x: Array, time_s: Array) -> Array:
        columns = []
        for group, way in zip(self._groups, self._ways, strict=True):
            stretched = time_s[None, :] / self._stretch(x, group)[:, None]
            columns.append(np.interp(stretched, WAY_S, way))
        return np.stack(columns, axis=2)

    def amplitudes(self, scale: float) -> tuple[Array, Array]:
        count = len(self._groups)
        return np.ones(count), TOGETHER_SD**2 * np.ones((count, count)) + ALONE_SD**2 * np.eye(count)

    def constants(self, x: Array) -> Array:
        """Of each group the mean constant by what its modes carry."""
        means = []
        for group in self._groups:
            carried = np.abs(self.warm_up.missing[group]) + 1e-12
            mean = float(np.exp(np.average(np.log(self.warm_up.time_constants_s[group]), weights=carried)))
            means.append(mean * self._stretch(x, group))
        return np.stack(means, axis=1)

    def room_terms(self, x: Array, drive: Drive) -> Terms:
        """The room as each group of the network's modes follows it."""
        column = np.zeros((len(x), len(drive.time_s)))
        shares = [float(np.sum(self.warm_up.of_room[group]).real) for group in self._groups]
        for share, tau in zip(shares, self.constants(x).T, strict=True):
            column += share / sum(shares) * drive.room_by(tau)
        return Terms(column[:, :, None], np.ones(1), np.array([[ROOM_SUM_SD**2]]))


def followed_by(time_s: Array, driven: Array, constant_s: Array, start: float) -> Array:
    """Response of first order to a piecewise linear drive, (constant, sample); at ``start`` when the load began.

    ``time_s`` counts from there; until the first sample the drive is taken as that one.
    """
    x = driven[0] + (start - driven[0]) * np.exp(-time_s[0] / constant_s)
    out = np.empty((len(constant_s), len(time_s)))
    out[:, 0] = x
    for i, step in enumerate(np.diff(time_s)):
        if step <= 0:  # two rows of one stamp
            out[:, i + 1] = x
            continue
        lag = (driven[i + 1] - driven[i]) / step * constant_s
        x = driven[i + 1] - lag + (x - driven[i] + lag) * np.exp(-step / constant_s)
        out[:, i + 1] = x
    return out


def terms_of(rise: Rise, x: Array, drive: Drive, scale: float, free_k: float) -> Terms:
    """Every column of a way: the settled value (known to ``free_k``), what is missing of it, the room."""
    missing = rise.decay(x, drive.time_s)
    if drive.load is not None:
        followed = [drive.load_by(tau) for tau in rise.constants(x).T]
        missing = missing - rise.decay(x, np.zeros(1)) * np.stack(followed, axis=2)
    parts = [Terms(np.ones((len(x), len(drive.time_s), 1)), np.zeros(1), np.array([[free_k**2]]))]
    parts.append(Terms(-missing, *rise.amplitudes(scale)))
    if drive.room is not None:
        parts.append(rise.room_terms(x, drive))
    sizes = [len(part.mean) for part in parts]
    covariance = np.zeros((sum(sizes), sum(sizes)))
    for part, end in zip(parts, np.cumsum(sizes), strict=True):
        covariance[end - len(part.mean) : end, end - len(part.mean) : end] = part.covariance
    return Terms(
        np.concatenate([p.columns for p in parts], axis=2), np.concatenate([p.mean for p in parts]), covariance
    )
