"""The hottest point by the closed form, and the series for one face."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.spreading import Face, influence, spreading_lee

Array = NDArray[np.float64]


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


def spreading_lee_maximum(
    source_area: ArrayLike,
    plate_area: ArrayLike,
    thickness_m: ArrayLike,
    conductivity: ArrayLike,
    film_w_m2k: ArrayLike,
) -> Array:
    """As ``spreading_lee`` for the hottest point of the source: (1/sqrt pi)(1 - eps) phi / (k sqrt area)."""
    eps = np.minimum(np.sqrt(_array(source_area) / _array(plate_area)), 1.0)
    mean = spreading_lee(source_area, plate_area, thickness_m, conductivity, film_w_m2k)
    return np.asarray(mean * 2.0 / np.sqrt(np.pi) / np.sqrt(np.maximum(1.0 - eps, 1e-12)))


def spreading_series(
    face: Face, plate: tuple[float, float], thickness_m: float, conductivity: float, film_w_m2k: float
) -> float:
    """Mean spreading resistance of a rectangular face anywhere on a rectangular plate, K/W."""
    return float(influence(face, face, plate, thickness_m, conductivity, film_w_m2k))
