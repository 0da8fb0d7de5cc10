"""The draught of one column, by hand."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation
from krill.units import STANDARD_GRAVITY

Array = NDArray[np.float64]


@correlation("hydrostatic", {"height_m": (-50.0, 50.0)})
def stack_pressure(density_outside: ArrayLike, density_inside: ArrayLike, height_m: ArrayLike) -> Array:
    """Draught of a column: (rho_outside - rho_inside) g H, Pa; upwards where it is positive."""
    outside, inside = np.asarray(density_outside, dtype=np.float64), np.asarray(density_inside, dtype=np.float64)
    return np.asarray((outside - inside) * STANDARD_GRAVITY * np.asarray(height_m, dtype=np.float64))
