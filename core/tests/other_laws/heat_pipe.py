"""Wicks by their powder, rings, and the other sonic limit."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation
from krill.physics.properties import Saturation

Array = NDArray[np.float64]


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


@correlation("blake-kozeny", {"porosity": (0.2, 0.8)}, scatter=0.30)
def sintered_permeability(sphere_radius_m: ArrayLike, porosity: ArrayLike) -> Array:
    """Packed spheres, Blake-Kozeny: d^2 eps^3 / (150 (1 - eps)^2), m2."""
    d, eps = 2.0 * _array(sphere_radius_m), _array(porosity)
    return np.asarray(d**2 * eps**3 / (150.0 * (1.0 - eps) ** 2))


@correlation("chi-1976", {"sphere_radius_m": (1e-5, 1e-3)})
def sintered_pore_radius(sphere_radius_m: ArrayLike) -> Array:
    """Effective pore radius of sintered powder: 0.41 of the sphere's."""
    return 0.41 * _array(sphere_radius_m)


@correlation("chi-1976", {"porosity": (0.2, 0.9)}, scatter=1.0)
def wick_conductivity_maxwell(solid: ArrayLike, liquid: ArrayLike, porosity: ArrayLike) -> Array:
    """Wick of continuous solid (Maxwell), W/mK. Models of wicks differ by a factor of 50: prefer a stated figure."""
    ks, kl, eps = _array(solid), _array(liquid), _array(porosity)
    ratio = kl / ks
    return np.asarray(ks * (2 + ratio - 2 * eps * (1 - ratio)) / (2 + ratio + eps * (1 - ratio)))


def sonic_limit_busse(water: Saturation, vapour_area_m2: ArrayLike) -> Array:
    """0.474 A h sqrt(rho p), W (Busse 1973)."""
    return np.asarray(
        0.474 * _array(vapour_area_m2) * water.latent_heat * np.sqrt(water.vapour_density * water.pressure)
    )


@correlation("fourier", {"outer_radius_m": (1e-4, 0.1)})
def ring_resistance(
    outer_radius_m: ArrayLike, inner_radius_m: ArrayLike, conductivity: ArrayLike, length_m: ArrayLike
) -> Array:
    """Ring that heat crosses outwards: ln(r_o / r_i) / (2 pi k L), K/W."""
    return np.asarray(
        np.log(_array(outer_radius_m) / _array(inner_radius_m)) / (2 * np.pi * _array(conductivity) * _array(length_m))
    )
