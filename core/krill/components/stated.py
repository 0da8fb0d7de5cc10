"""The media that class figures of pressure drops are stated in."""

from dataclasses import dataclass
from typing import Final

from krill.components.radiator_table import REFERENCE_AIR


@dataclass(frozen=True)
class Stated:
    """Density, kg/m3, and viscosity, Pa s."""

    density: float
    viscosity: float


STATED_WATER: Final = Stated(994.0, 7.19e-4)  # at 35 C
STATED_AIR: Final = Stated(REFERENCE_AIR, 1.85e-5)  # at 26 C
