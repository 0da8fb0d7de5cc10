"""Mixtures by volume."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

Array = NDArray[np.float64]


def mass_share_of_volume_share(volume_share: ArrayLike, glycol_density: ArrayLike, water_density: ArrayLike) -> Array:
    """Mass share of a mixture given by volumes before mixing."""
    phi, g, w = (np.asarray(v, dtype=np.float64) for v in (volume_share, glycol_density, water_density))
    return np.asarray(phi * g / (phi * g + (1.0 - phi) * w))
