"""Repeatable draws keyed by (seed, address): the same figure has the same draws in every revision."""

import hashlib
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]

#: standard normal quantile of the end of a 90 % interval
QUANTILE_90 = 1.6448536269514722
#: doubt over the central value from which a positive figure is drawn log-normally
LOG_NORMAL_FROM = 0.2


def _generator(seed: int, key: str) -> np.random.Generator:
    digest = hashlib.sha256(f"{seed}:{key}".encode()).digest()
    return np.random.Generator(np.random.PCG64(int.from_bytes(digest[:16], "little")))


@lru_cache(maxsize=2048)
def normal_draws(seed: int, key: str, count: int) -> Array:
    """Standard normal draws, one in each of ``count`` equally likely strata, in a keyed order; (count,), not to be written.

    The figures of a build ask for the same ones again at every edit: they are kept.
    """
    from scipy.special import ndtri  # a fifth of a second, and only bands need it

    generator = _generator(seed, key)
    strata = generator.permutation(count) + generator.random(count)
    drawn = np.asarray(ndtri(strata / count), dtype=np.float64)
    drawn.flags.writeable = False
    return drawn


@dataclass(frozen=True)
class Tolerance:
    """Half widths of a 90 % interval below and above the central value, in the unit of the value."""

    minus: float
    plus: float

    def deviate(self, central: float, normal: Array, floor_share: float = 0.1) -> Array:
        """Values for standard normal draws, the central value in their middle.

        Two half normals joined there; of a positive figure that is doubted by more than a fifth two half log-normals, which
        stay positive. The others are held at ``floor_share`` of their central value.
        """
        if central > 0.0 and max(self.minus, self.plus) > LOG_NORMAL_FROM * central:
            low = np.log(max(1.0 - self.minus / central, floor_share))
            high = np.log1p(self.plus / central)
            return np.asarray(central * np.exp(np.where(normal < 0.0, -low, high) / QUANTILE_90 * normal))
        half = np.where(normal < 0.0, self.minus, self.plus) / QUANTILE_90
        values = central + half * normal
        return np.asarray(np.maximum(values, floor_share * central) if central > 0.0 else values)


def band_90(samples: Array, axis: int = 0) -> tuple[Array, Array]:
    """Ends of the middle 90 % of samples along ``axis``."""
    low, high = np.quantile(samples, (0.05, 0.95), axis=axis)
    return np.asarray(low), np.asarray(high)
