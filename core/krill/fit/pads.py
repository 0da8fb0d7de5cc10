"""Pads between two faces: how much a gap presses them, with what force, and what heat finds there.

Strain of the first minute at a pressure p: e = e100 (p / 100 kPa)^0.6, by hardness (Shore 00; values from memory, +- 30 %).
Resistance on the area: 1000 t (1 - e) / (0.70 k) + 20 mm2K/W, t in mm and k as printed (the 0.70 is common practice, +- 0.15).
"""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.document.fit import Hardness

Array = NDArray[np.float64]


@dataclass(frozen=True, slots=True)
class PadClass:
    """Strain at 100 kPa, and the largest before the pad lifts the plate."""

    strain_100_kpa: float
    largest: float


PADS: Final[dict[Hardness, PadClass]] = {
    "very_soft": PadClass(0.32, 0.45),
    "soft": PadClass(0.20, 0.35),
    "middle": PadClass(0.13, 0.25),
    "firm": PadClass(0.08, 0.15),
}
EXPONENT: Final = 0.6
#: a pad that is pressed less may not touch all over (common practice)
TOUCHES: Final = 0.05
#: of what is printed, how much conducts; what both its faces add, mm2K/W
PRINTED_SHARE: Final = 0.70
FACES_MM2K_W: Final = 20.0
#: conductivity of still air near 50 C, W/mK (value from memory)
AIR_W_MK: Final = 0.028
#: thicknesses that are sold, mm
STOCK_MM: Final = (0.5, 0.75, 1.0, 1.25, 1.5, 1.75, 2.0, 2.5, 3.0)
#: of the first minute's pressure, what is left after a day (common practice, +- 0.15)
AFTER_A_DAY: Final = 0.4


def strain(pad_mm: ArrayLike, gap_mm: ArrayLike) -> Array:
    """How much a gap presses a pad: a share of its thickness, negative where it does not reach. Shapes broadcast."""
    return np.asarray(1.0 - np.asarray(gap_mm, dtype=np.float64) / np.asarray(pad_mm, dtype=np.float64))


def pressure_kpa(pressed: ArrayLike, hardness: Hardness) -> Array:
    """Pressure of the first minute at a strain, kPa; nothing where the pad does not reach.

    >>> f"{float(pressure_kpa(0.2, 'soft')):.0f}"
    '100'
    """
    share = np.maximum(np.asarray(pressed, dtype=np.float64), 0.0) / PADS[hardness].strain_100_kpa
    return np.asarray(100.0 * share ** (1.0 / EXPONENT))


def resistance_mm2k_w(pad_mm: ArrayLike, gap_mm: ArrayLike, conductivity_w_mk: ArrayLike) -> Array:
    """Of a pad in a gap, on its area; a pad that does not reach has the rest of the gap as air on it.

    >>> f"{float(resistance_mm2k_w(1.0, 0.8, 5.0)):.0f}"
    '249'
    """
    pad, gap = np.asarray(pad_mm, dtype=np.float64), np.asarray(gap_mm, dtype=np.float64)
    air = np.maximum(gap - pad, 0.0)
    solid = 1000.0 * np.minimum(pad, np.maximum(gap, 0.0)) / (PRINTED_SHARE * np.asarray(conductivity_w_mk))
    return np.asarray(solid + FACES_MM2K_W + 1000.0 * air / AIR_W_MK)


def pick(gap_mm: float, half_mm: float, hardness: Hardness) -> float | None:
    """The thinnest stock pad that touches in the widest gap and does not lift in the narrowest; None: take putty."""
    for pad in STOCK_MM:
        touches = float(strain(pad, gap_mm + half_mm)) >= TOUCHES
        if touches and float(strain(pad, gap_mm - half_mm)) <= PADS[hardness].largest:
            return pad
    return None
