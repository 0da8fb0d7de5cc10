"""What every way of stating a radiator ends in: conductance of a section and air pressure over face velocity."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from krill.physics.heat_exchange import effectiveness_crossflow

Array = NDArray[np.float64]

REFERENCE_AIR = 1.18  # kg/m3, the density that the class figures are stated at
AIR_HEAT_CAPACITY = 1006.5
REFERENCE_FLOW = 4e-3 / 60  # m3/s
CORE_SHARE = 0.96  # core face over section squared


@dataclass(frozen=True)
class RadiatorCore:
    """Conductance a section over face velocity (log-log), and air pressure = linear v + square v^2."""

    velocity: Array
    conductance: Array
    linear: float
    square: float

    def conductance_at(self, velocity: Array) -> Array:
        """UA a section, W/K, at face velocities of any shape; straight lines in logarithms beyond the ends."""
        grid, y, slope = self._logarithms
        x = np.log(np.maximum(velocity, 1e-4))
        piece = np.minimum(np.maximum(grid.searchsorted(x) - 1, 0), len(slope) - 1)
        return np.asarray(np.exp(y[piece] + slope[piece] * (x - grid[piece])))

    @cached_property
    def _logarithms(self) -> tuple[Array, Array, Array]:
        """Logarithms of velocity and conductance, and the slopes between them."""
        grid, y = np.log(self.velocity), np.log(self.conductance)
        return grid, y, np.diff(y) / np.diff(grid)


def conductance_from_inlet_figure(w_k: float, air_w_k: float, coolant_w_k: float) -> float:
    """UA that gives ``w_k`` on the inlet difference at the two capacity flows, all W/K."""
    from scipy.optimize import brentq

    least, most = min(air_w_k, coolant_w_k), max(air_w_k, coolant_w_k)
    share = min(w_k / least, 0.985)

    def missing(ntu: float) -> float:
        return float(effectiveness_crossflow(ntu, least / most)) - share

    return least * float(brentq(missing, 1e-6, 11.9)) if missing(11.9) > 0 else least * 11.9


def core_face(sections: int, section_mm: float) -> float:
    """Core face of all sections of a radiator, m2."""
    return sections * section_face(section_mm)


def section_face(section_mm: float) -> float:
    """Core face of one section, m2."""
    return CORE_SHARE * (section_mm / 1000) ** 2
