"""The bond line of a paste by its yield stress."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation

Array = NDArray[np.float64]


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


@correlation("prasher-2006", {"pressure_pa": (1e4, 2e6)}, scatter=0.30)
def bond_line(yield_stress_pa: ArrayLike, pressure_pa: ArrayLike) -> Array:
    """Bond line of a particle-filled paste, m: 1.31e-4 (tau_y / P)^0.166 (value from memory)."""
    return np.asarray(1.31e-4 * (_array(yield_stress_pa) / _array(pressure_pa)) ** 0.166)
