"""The fan inside a power supply: how fast it turns by load and by the air it breathes, and how loud that is.

Table of five ways that supplies are built (values from memory; rpm ± 20 %, level ± 5 dB): the faster of what the load asks
at 25 °C and of what warm air asks.
"""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.parts import SupplyForm

Array = NDArray[np.float64]

#: the load shares of the table
LOADS: Final = (0.30, 0.50, 0.70, 0.85, 1.00)
#: inlet air from which warmth asks for more, C
WARM_C: Final = 30.0


@dataclass(frozen=True)
class SupplyFan:
    """Speeds and levels at ``LOADS``, rpm and dBA at 1 m; what a kelvin over ``WARM_C`` adds, rpm; blades."""

    rpm: tuple[float, ...]
    dba: tuple[float, ...]
    rpm_a_kelvin: float
    blades: int


SUPPLY_FANS: Final[dict[SupplyForm, SupplyFan]] = {
    "flat": SupplyFan((4500, 6500, 8500, 10000, 11000), (31, 39, 45, 49, 51), 150, 7),
    "small_cube": SupplyFan((1000, 1500, 2100, 2700, 3200), (14, 23, 31, 37, 41), 45, 9),
    "small_long": SupplyFan((700, 950, 1350, 1800, 2200), (12, 19, 27, 33, 38), 30, 9),
    "standard_120": SupplyFan((700, 800, 1100, 1450, 1800), (13, 16, 23, 29, 34), 25, 9),
    "standard_140": SupplyFan((500, 650, 900, 1200, 1500), (9, 15, 22, 29, 34), 20, 7),
}


def supply_fan(form: SupplyForm, load_share: Array, inlet_c: Array) -> tuple[Array, Array]:
    """(rpm, dBA at 1 m) at a load share and an inlet temperature, any shapes that broadcast; held to its fastest."""
    fan = SUPPLY_FANS[form]
    warmer = np.maximum(inlet_c - WARM_C, 0.0)
    by_warmth = fan.rpm[0] + fan.rpm_a_kelvin * warmer
    rpm = np.minimum(np.maximum(np.interp(load_share, LOADS, fan.rpm), by_warmth), fan.rpm[-1])
    return np.asarray(rpm), np.asarray(np.interp(np.log(rpm), np.log(fan.rpm), fan.dba))
