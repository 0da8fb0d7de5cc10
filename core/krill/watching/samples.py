"""Samples of a run as they have arrived so far, and what came on the way beside them."""

from dataclasses import dataclass, field
from functools import cached_property

import numpy as np
from numpy.typing import NDArray
from scipy.ndimage import median_filter

Array = NDArray[np.float64]

#: readings are looked at through the median of so many seconds
SMOOTHED_S = 12.0


@dataclass(frozen=True)
class Samples:
    """Seconds on the run's own clock, rising, and what each role read then: (sample, role), NaN where it said nothing."""

    time_s: Array
    roles: list[str]
    values: Array
    smoothed: dict[str, Array] = field(default_factory=dict)

    @property
    def now_s(self) -> float:
        return float(self.time_s[-1])

    @cached_property
    def step_s(self) -> float:
        """Seconds between two samples, as they mostly come."""
        return float(np.median(np.diff(self.time_s))) if len(self.time_s) > 1 else 1.0

    def of(self, role: str) -> Array | None:
        return None if role not in self.roles else np.asarray(self.values[:, self.roles.index(role)])

    def steady(self, role: str) -> Array | None:
        """A role's readings without single outliers: the running median."""
        if role not in self.smoothed:
            values = self.of(role)
            if values is None or not np.isfinite(values).any():
                return None
            size = max(3, 2 * round(SMOOTHED_S / self.step_s / 2) + 1)
            self.smoothed[role] = median_filter(filled(values), size=size, mode="nearest")
        return self.smoothed[role]

    def with_statistic(self, statistic: str) -> dict[str, Array]:
        """Smoothed readings of every address that has this statistic."""
        found = {}
        for role in self.roles:
            address, _, own = role.rpartition("/")
            values = self.steady(role) if own == statistic else None
            if values is not None:
                found[address] = values
        return found

    def until(self, time_s: float) -> "Samples":
        """What had arrived by a time."""
        rows = self.time_s <= time_s
        return Samples(self.time_s[rows], self.roles, self.values[rows])


def filled(values: Array) -> Array:
    """Missing readings take the one before; at the beginning the first one."""
    good = np.isfinite(values)
    if good.all():
        return values
    last = np.maximum.accumulate(np.where(good, np.arange(len(values)), 0))
    out = values[last]
    first = int(np.argmax(good))
    out[:first] = values[first]
    return np.asarray(out)
