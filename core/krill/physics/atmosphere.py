"""Air pressure with altitude and the ideal-gas density of room air."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation
from krill.units import ICE_POINT_K

Array = NDArray[np.float64]
GAS_CONSTANT_AIR = 287.05287
SEA_LEVEL_PA = 101325.0


@correlation("us-atmosphere-1976", {"altitude_m": (-500.0, 11000.0)})
def standard_pressure(altitude_m: ArrayLike) -> Array:
    """Pressure of the standard atmosphere at a geopotential altitude, Pa.

    Any shapes that broadcast: ``altitude_m`` geopotential, m.

    >>> f"{standard_pressure(2000.0):.4g}"
    '7.95e+04'
    """
    H = np.asarray(altitude_m, dtype=np.float64)
    return np.asarray(SEA_LEVEL_PA * (1.0 - 0.0065 * H / 288.15) ** 5.2558797)


def air_density(temperature_c: ArrayLike, pressure_pa: ArrayLike = SEA_LEVEL_PA) -> Array:
    """Ideal-gas density of air at a place: the pressure of its altitude, the temperature of the room, kg/m3."""
    T = np.asarray(temperature_c, dtype=np.float64) + ICE_POINT_K
    return np.asarray(np.asarray(pressure_pa, dtype=np.float64) / (GAS_CONSTANT_AIR * T))
