"""Properties that laws take: of a fluid in one phase, and of water with its vapour."""

from dataclasses import dataclass, fields

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


@dataclass(frozen=True)
class FluidState:
    """SI properties, all of the shape of the temperature asked for."""

    density: Array
    heat_capacity: Array
    viscosity: Array
    conductivity: Array

    def take(self, columns: list[int]) -> "FluidState":
        """The state of some columns of (batch, column)."""
        return FluidState(*(getattr(self, field.name)[:, columns] for field in fields(self)))

    def column(self, index: int) -> "FluidState":
        """The state of one column of (batch, column), (batch,)."""
        return FluidState(*(getattr(self, field.name)[:, index] for field in fields(self)))

    @property
    def prandtl(self) -> Array:
        return self.viscosity * self.heat_capacity / self.conductivity


@dataclass(frozen=True)
class Saturation:
    """Water and its vapour on the saturation line, SI, all of the shape of the temperature asked for."""

    pressure: Array
    latent_heat: Array
    liquid_density: Array
    liquid_viscosity: Array
    liquid_conductivity: Array
    vapour_density: Array
    vapour_viscosity: Array
    surface_tension: Array

    @property
    def merit(self) -> Array:
        """Liquid transport factor rho sigma h / mu, W/m2."""
        return self.liquid_density * self.surface_tension * self.latent_heat / self.liquid_viscosity
