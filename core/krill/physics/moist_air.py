"""Water in the air: what its vapour presses, and where it comes down as dew."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation

Array = NDArray[np.float64]

MAGNUS_A, MAGNUS_B_C, MAGNUS_PA = 17.62, 243.12, 611.2


@correlation("magnus", {"temperature_c": (-40.0, 60.0)}, scatter=0.004)
def vapour_pressure(temperature_c: ArrayLike) -> Array:
    """Saturation pressure of water vapour over water, Pa: 611.2 exp(17.62 T / (243.12 + T)).

    Any shapes that broadcast: ``temperature_c`` air, °C.

    >>> f"{vapour_pressure(20.0):.4g}"
    '2333'
    """
    T = np.asarray(temperature_c, dtype=np.float64)
    return np.asarray(MAGNUS_PA * np.exp(MAGNUS_A * T / (MAGNUS_B_C + T)))


@correlation("magnus", {"temperature_c": (-40.0, 60.0), "humidity_share": (0.01, 1.0)}, scatter=0.004)
def dew_point(temperature_c: ArrayLike, humidity_share: ArrayLike) -> Array:
    """Temperature that air has to be cooled to for its water to come down, °C: Magnus' form turned round.

    Any shapes that broadcast: ``temperature_c`` air, °C; ``humidity_share`` relative humidity, 0..1.

    >>> f"{dew_point(24.0, 0.5):.4g}"
    '12.93'
    """
    pressure = np.asarray(humidity_share, dtype=np.float64) * vapour_pressure(temperature_c)
    power = np.log(np.maximum(pressure, 1e-3) / MAGNUS_PA)
    return np.asarray(MAGNUS_B_C * power / (MAGNUS_A - power))
