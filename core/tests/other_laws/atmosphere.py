"""The standard atmosphere, its temperature."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation

Array = NDArray[np.float64]


@correlation("us-atmosphere-1976", {"altitude_m": (-500.0, 11000.0)})
def standard_temperature(altitude_m: ArrayLike) -> Array:
    """Temperature of the standard atmosphere, K."""
    return np.asarray(288.15 - 0.0065 * np.asarray(altitude_m, dtype=np.float64))
