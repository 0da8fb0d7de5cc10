"""Conversions at the edge of the core; inside, everything is SI.

The field name of a document carries its unit as a suffix (``flow_l_min``); ``SUFFIXES`` maps it to a factor.
"""

from functools import lru_cache
from typing import Final, TypeVar

import numpy as np
from numpy.typing import NDArray

ICE_POINT_K: Final = 273.15

Real = TypeVar("Real", float, NDArray[np.float64])

#: suffix of a field name -> (factor to SI, unit as people write it)
SUFFIXES: Final[dict[str, tuple[float, str]]] = {
    "mm2k_w": (1e-6, "mm²·K/W"),
    "pa_s_m3": (1.0, "Pa·s/m³"),
    "w_mk": (1.0, "W/m·K"),
    "w_m2k": (1.0, "W/m²·K"),
    "l_min": (1e-3 / 60, "l/min"),
    "m3_h": (1 / 3600, "m³/h"),
    "k_w": (1.0, "K/W"),
    "w_k": (1.0, "W/K"),
    "j_k": (1.0, "J/K"),
    "mm2": (1e-6, "mm²"),
    "cm2": (1e-4, "cm²"),
    "mm": (1e-3, "mm"),
    "um": (1e-6, "µm"),
    "mpa": (1e6, "MPa"),
    "kpa": (1e3, "kPa"),
    "pa": (1.0, "Pa"),
    "rpm": (1.0, "rpm"),
    "dba": (1.0, "dBA"),
    "m_s": (1.0, "m/s"),
    "ml": (1e-6, "ml"),
    "w": (1.0, "W"),
    "k": (1.0, "K"),
    "c": (1.0, "°C"),
    "m": (1.0, "m"),
    "l": (1e-3, "l"),
    "s": (1.0, "s"),
    "min": (60.0, "min"),
    "g": (1e-3, "g"),
    "a": (1.0, "A"),
}


@lru_cache(maxsize=1024)
def suffix(field: str) -> str:
    """The unit suffix of a field name, '' where the figure has no unit."""
    for ending in SUFFIXES:
        if field == ending or field.endswith("_" + ending):
            return ending
    return ""


def to_si(field: str) -> float:
    """Factor from the unit that the field's name carries to SI."""
    ending = suffix(field)
    return SUFFIXES[ending][0] if ending else 1.0


def unit_of(field: str) -> str:
    """The unit as people write it, '' where the figure has none."""
    ending = suffix(field)
    return SUFFIXES[ending][1] if ending else ""


def kelvin(celsius: Real) -> Real:
    return celsius + ICE_POINT_K


def l_min(cubic_metres_per_second: Real) -> Real:
    return cubic_metres_per_second / SUFFIXES["l_min"][0]


def m3_h(cubic_metres_per_second: Real) -> Real:
    return cubic_metres_per_second / SUFFIXES["m3_h"][0]
