"""Conversions at the edge of the core; inside, everything is SI.

The field name of a document carries its unit as a suffix (``flow_l_min``), its ``Quantity`` states it; ``UNITS`` holds factors.
"""

from typing import Final, TypeVar

import numpy as np
from numpy.typing import NDArray

STANDARD_GRAVITY: Final = 9.80665  # m/s2
ICE_POINT_K: Final = 273.15

Real = TypeVar("Real", float, NDArray[np.float64])

#: unit as people write it -> factor to SI
UNITS: Final[dict[str, float]] = {
    "": 1.0,
    "°C": 1.0,
    "K": 1.0,
    "W": 1.0,
    "A": 1.0,
    "N": 1.0,
    "s": 1.0,
    "min": 60.0,
    "m": 1.0,
    "mm": 1e-3,
    "µm": 1e-6,
    "mm²": 1e-6,
    "cm²": 1e-4,
    "ml": 1e-6,
    "l": 1e-3,
    "g": 1e-3,
    "Pa": 1.0,
    "kPa": 1e3,
    "MPa": 1e6,
    "m/s": 1.0,
    "l/min": 1e-3 / 60,
    "m³/h": 1 / 3600,
    "rpm": 1.0,
    "dBA": 1.0,
    "K/W": 1.0,
    "W/K": 1.0,
    "J/K": 1.0,
    "W/m²": 1.0,
    "W/m·K": 1.0,
    "W/m²·K": 1.0,
    "mm²·K/W": 1e-6,
    "Pa·s/m³": 1.0,
}


def kelvin(celsius: Real) -> Real:
    return celsius + ICE_POINT_K


def l_min(cubic_metres_per_second: Real) -> Real:
    return cubic_metres_per_second / UNITS["l/min"]


def m3_h(cubic_metres_per_second: Real) -> Real:
    return cubic_metres_per_second / UNITS["m³/h"]
