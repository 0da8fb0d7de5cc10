"""Sound levels: sums, speed, distance."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation

Array = NDArray[np.float64]


@correlation("energy-sum", {"levels_db": (-60.0, 140.0)})
def level_sum(levels_db: ArrayLike, axis: int = -1) -> Array:
    """Energy sum of incoherent levels along ``axis``, dB.

    ``levels_db`` dB.

    >>> f"{level_sum([30.0, 30.0]):.4g}"
    '33.01'
    """
    return np.asarray(10.0 * np.log10(np.sum(10.0 ** (np.asarray(levels_db, dtype=np.float64) / 10.0), axis=axis)))


@correlation("fan-laws", {"speed_ratio": (1e-3, 3.0)}, scatter=0.05)
def level_at_speed(level_db: ArrayLike, speed_ratio: ArrayLike) -> Array:
    """Level of a fan or pump at a part of its rated speed: L + 50 lg n; silent (-200 dB) below n = 0.0001.

    Any shapes that broadcast: ``level_db`` dB; ``speed_ratio`` share of the rated speed.

    >>> f"{level_at_speed(30.0, 0.5):.4g}"
    '14.95'
    """
    n = np.maximum(np.asarray(speed_ratio, dtype=np.float64), 1e-4)
    return np.asarray(level_db, dtype=np.float64) + 50.0 * np.log10(n)


@correlation("energy-sum", {"distance_m": (0.05, 100.0)})
def level_at_distance(level_db: ArrayLike, reference_m: ArrayLike, distance_m: ArrayLike) -> Array:
    """Level of a small source in a free field: L - 20 lg(r/r0).

    Any shapes that broadcast: ``level_db`` dB; ``reference_m`` m; ``distance_m`` m.

    >>> f"{level_at_distance(30.0, 1.0, 0.5):.4g}"
    '36.02'
    """
    ratio = np.asarray(distance_m, dtype=np.float64) / np.asarray(reference_m, dtype=np.float64)
    return np.asarray(level_db, dtype=np.float64) - 20.0 * np.log10(ratio)
