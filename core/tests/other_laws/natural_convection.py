"""Still air by other published laws, and the spacing that is best by hand."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation
from krill.physics.natural_convection import CHANNEL_RANGE

Array = NDArray[np.float64]


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


OPTIMUM_NUSSELT = 1.307


@correlation("bar-cohen-1984", {"elenbaas": CHANNEL_RANGE}, scatter=0.15)
def nusselt_channel_one_warm(elenbaas: ArrayLike) -> Array:
    """As ``nusselt_channel`` where one of the two faces is adiabatic: 144 in place of 576."""
    El = np.maximum(_array(elenbaas), 1e-12)
    return np.asarray((144.0 / El**2 + 2.873 / np.sqrt(El)) ** -0.5)


@correlation("elenbaas-1942", {"elenbaas": CHANNEL_RANGE}, scatter=0.15)
def nusselt_channel_elenbaas(elenbaas: ArrayLike) -> Array:
    """Upright channel by Elenbaas' own form: El/24 (1 - exp(-35/El))^0.75."""
    El = np.maximum(_array(elenbaas), 1e-12)
    return np.asarray(El / 24.0 * (1.0 - np.exp(-35.0 / El)) ** 0.75)


@correlation("bar-cohen-1984", {"elenbaas_flux": (1.0, 1e5)}, scatter=0.15)
def nusselt_channel_flux(elenbaas_flux: ArrayLike, *, at_exit: bool = False) -> Array:
    """Upright channel of uniform flux: Nu on the mid-height difference, or on the exit difference (value from memory)."""
    El = np.maximum(_array(elenbaas_flux), 1e-12)
    developed, single = (48.0, 2.51) if at_exit else (12.0, 1.88)
    return np.asarray((developed / El + single / El**0.4) ** -0.5)


@correlation("bar-cohen-1984", {"rayleigh_on_height": (1e3, 1e10)})
def optimum_spacing(height_m: ArrayLike, rayleigh_on_height: ArrayLike) -> Array:
    """Spacing of thin isothermal fins that gives off most from a given width: 2.714 L / Ra_L^0.25; Nu there 1.307."""
    return np.asarray(2.714 * _array(height_m) / _array(rayleigh_on_height) ** 0.25)


@correlation("churchill-chu-1975", {"rayleigh_on_height": (1e-1, 1e9)}, scatter=0.10)
def nusselt_vertical_plate_laminar(rayleigh_on_height: ArrayLike, prandtl: ArrayLike) -> Array:
    """Upright plate, laminar: 0.68 + 0.670 Ra^0.25 / (1 + (0.492/Pr)^(9/16))^(4/9)."""
    shape = (1.0 + (0.492 / _array(prandtl)) ** (9 / 16)) ** (4 / 9)
    return np.asarray(0.68 + 0.670 * _array(rayleigh_on_height) ** 0.25 / shape)


@correlation("incropera", {"rayleigh_on_area": (1e4, 1e9)}, scatter=0.25)
def nusselt_facing_down_newer(rayleigh_on_area: ArrayLike) -> Array:
    """Lying plate, warm face down: 0.52 Ra^0.2 (newer editions)."""
    return np.asarray(0.52 * _array(rayleigh_on_area) ** 0.2)


@correlation("churchill-chu-1975", {"rayleigh_on_diameter": (1e-6, 1e12)}, scatter=0.15)
def nusselt_lying_tube(rayleigh_on_diameter: ArrayLike, prandtl: ArrayLike) -> Array:
    """Lying tube: (0.60 + 0.387 Ra^(1/6) / (1 + (0.559/Pr)^(9/16))^(8/27))^2."""
    shape = (1.0 + (0.559 / _array(prandtl)) ** (9 / 16)) ** (8 / 27)
    return np.asarray((0.60 + 0.387 * _array(rayleigh_on_diameter) ** (1 / 6) / shape) ** 2)
