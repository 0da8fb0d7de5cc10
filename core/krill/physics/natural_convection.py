"""Still air at warm faces: single plates, tubes, channels between fins, arrays of fins that lie.

Length scales (a common trap): channels and lying arrays on the fin SPACING, plates on their height, lying plates on
area over perimeter, tubes on their diameter. Properties at the film temperature, differences over the ambient air.
"""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation
from krill.physics.properties import FluidState
from krill.units import STANDARD_GRAVITY, kelvin

Array = NDArray[np.float64]

CHANNEL_RANGE = (0.1, 1e5)  # Elenbaas number
LYING_RANGE = (2e2, 6e5)  # Rayleigh number on the spacing
PLATE_RANGE = (1e4, 1e12)
#: thin-layer factor with which the thick layer over a lying plate meets 0.54 Ra^0.25 at 1e4
THICK_LAYER = 0.14 / np.expm1(1.4 / 5.4)


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


def rayleigh(difference_k: ArrayLike, length_m: ArrayLike, film: FluidState, film_c: ArrayLike) -> Array:
    """g beta dT L^3 / (nu alpha) of a gas, beta = 1 / T film in kelvin."""
    nu = film.viscosity / film.density
    alpha = film.conductivity / (film.density * film.heat_capacity)
    beta = 1.0 / kelvin(_array(film_c))
    return np.asarray(STANDARD_GRAVITY * beta * np.abs(_array(difference_k)) * _array(length_m) ** 3 / (nu * alpha))


def elenbaas_number(rayleigh_on_spacing: ArrayLike, spacing_m: ArrayLike, height_m: ArrayLike) -> Array:
    """El = Ra_S S / L."""
    return np.asarray(_array(rayleigh_on_spacing) * _array(spacing_m) / _array(height_m))


@correlation("bar-cohen-1984", {"elenbaas": CHANNEL_RANGE}, scatter=0.15)
def nusselt_channel(elenbaas: ArrayLike) -> Array:
    """Upright channel between two isothermal faces, Nu on the spacing: (576/El^2 + 2.873/El^0.5)^-0.5.

    Any shapes that broadcast: ``elenbaas`` Elenbaas number, Ra S / L on the spacing.

    >>> f"{nusselt_channel(50.0):.4g}"
    '1.253'
    """
    El = np.maximum(_array(elenbaas), 1e-12)
    return np.asarray((576.0 / El**2 + 2.873 / np.sqrt(El)) ** -0.5)


@correlation("churchill-chu-1975", {"rayleigh_on_height": PLATE_RANGE}, scatter=0.10)
def nusselt_vertical_plate(rayleigh_on_height: ArrayLike, prandtl: ArrayLike) -> Array:
    """Upright plate, laminar and turbulent: (0.825 + 0.387 Ra^(1/6) / (1 + (0.492/Pr)^(9/16))^(8/27))^2.

    Any shapes that broadcast: ``rayleigh_on_height`` Rayleigh number on the height; ``prandtl`` Prandtl number.

    >>> f"{nusselt_vertical_plate(1e7, 0.71):.4g}"
    '31.21'
    """
    shape = (1.0 + (0.492 / _array(prandtl)) ** (9 / 16)) ** (8 / 27)
    return np.asarray((0.825 + 0.387 * _array(rayleigh_on_height) ** (1 / 6) / shape) ** 2)


@correlation("mcadams", {"rayleigh_on_area": (1.0, 1e11)}, scatter=0.20)
def nusselt_facing_up(rayleigh_on_area: ArrayLike) -> Array:
    """Lying plate, warm face up, on area over perimeter: 0.54 Ra^0.25, from 1e7 on 0.15 Ra^(1/3).

    Below 1e4 the layer of warm air is as thick as the plate is wide: Raithby & Hollands' form 1.4 / ln(1 + 1.4 / Nu),
    which meets the other at 1e4.

    Any shapes that broadcast: ``rayleigh_on_area`` Rayleigh number on area over perimeter.

    >>> f"{nusselt_facing_up(1e6):.4g}"
    '17.08'
    """
    Ra = _array(rayleigh_on_area)
    thick = 1.4 / np.log1p(1.4 / (THICK_LAYER * np.maximum(Ra, 1e-12) ** 0.25))
    return np.asarray(np.where(Ra < 1e4, thick, np.where(Ra < 1e7, 0.54 * Ra**0.25, 0.15 * np.cbrt(Ra))))


@correlation("mcadams", {"rayleigh_on_area": (1e5, 1e10)}, scatter=0.25)
def nusselt_facing_down(rayleigh_on_area: ArrayLike) -> Array:
    """Lying plate, warm face down, on area over perimeter: 0.27 Ra^0.25 (older editions; the newer form is near).

    Any shapes that broadcast: ``rayleigh_on_area`` Rayleigh number on area over perimeter.

    >>> f"{nusselt_facing_down(1e6):.4g}"
    '8.538'
    """
    return np.asarray(0.27 * _array(rayleigh_on_area) ** 0.25)


@correlation("jones-smith-1970", {"rayleigh_on_spacing": LYING_RANGE}, scatter=0.25)
def nusselt_lying_fins(rayleigh_on_spacing: ArrayLike) -> Array:
    """Fins upward on a lying base, Nu on the spacing: 6.7e-4 Ra (1 - exp(-(7640/Ra)^0.44))^1.7 (value from memory).

    Any shapes that broadcast: ``rayleigh_on_spacing`` Rayleigh number on the spacing.

    >>> f"{nusselt_lying_fins(1e4):.4g}"
    '2.722'
    """
    Ra = np.maximum(_array(rayleigh_on_spacing), 1e-12)
    return np.asarray(6.7e-4 * Ra * (1.0 - np.exp(-((7640.0 / Ra) ** 0.44))) ** 1.7)
