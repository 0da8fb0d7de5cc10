"""Heat pipes of copper and water: wick figures, limits, resistances, flattening. Arrays broadcast; SI throughout."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation
from krill.physics.properties import Saturation
from krill.units import STANDARD_GRAVITY, kelvin

Array = NDArray[np.float64]

VAPOUR_GAS_CONSTANT = 461.523  # J/kgK, water
HEAT_CAPACITY_RATIO = 1.33


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


@dataclass(frozen=True)
class Bore:
    """Inside of a pipe: wall and wick radii, the vapour's area and hydraulic radius (equal to its radius when round)."""

    inner_radius: Array
    vapour_radius: Array
    vapour_area: Array
    vapour_gap: Array


def flattened(diameter_m: ArrayLike, flat_m: ArrayLike, wall_and_wick_m: ArrayLike) -> tuple[Array, Array, Array]:
    """Width, vapour gap and vapour area of a pipe pressed flat with its perimeter kept; gap 0 where it is closed."""
    D, t, w = _array(diameter_m), _array(flat_m), _array(wall_and_wick_m)
    width = t + np.pi * (D - t) / 2
    gap = np.maximum(t - 2 * w, 0.0)
    return np.asarray(width), gap, np.asarray(gap * (width - t) + np.pi * gap**2 / 4)


def bore_of(diameter_m: ArrayLike, wall_m: ArrayLike, wick_m: ArrayLike, flat_m: ArrayLike | None = None) -> Bore:
    """Bore of a round pipe, or of one pressed to ``flat_m``: then the vapour's hydraulic radius is 2 A / U."""
    D, wall, wick = _array(diameter_m), _array(wall_m), _array(wick_m)
    inner = D / 2 - wall
    if flat_m is None:
        radius = inner - wick
        return Bore(inner, radius, np.pi * radius**2, 2 * radius)
    _, gap, area = flattened(D, flat_m, wall + wick)
    wetted = np.pi * gap + 2 * np.maximum(area - np.pi * gap**2 / 4, 0.0) / np.maximum(gap, 1e-9)
    return Bore(inner, 2 * area / np.maximum(wetted, 1e-9), area, gap)


def capillary_limit(
    water: Saturation,
    bore: Bore,
    pore_radius_m: ArrayLike,
    permeability_m2: ArrayLike,
    wick_area_m2: ArrayLike,
    effective_length_m: ArrayLike,
    lift_m: ArrayLike,
    level_share: ArrayLike = 1.0,
) -> tuple[Array, Array, Array]:
    """(W, pumping Pa, gravity Pa): (2 sigma/r - rho g (H + d cos psi)) / ((F_l + F_v) L_eff), laminar vapour.

    ``lift_m`` is the evaporator above the condenser (negative: below it, and the formula grows without bound);
    ``level_share`` is the cosine of the tilt. Chi 1976, Faghri 1995.
    """
    r, L = _array(pore_radius_m), _array(effective_length_m)
    pumping = 2.0 * water.surface_tension / r
    across = 2.0 * bore.vapour_radius * _array(level_share)
    gravity = water.liquid_density * STANDARD_GRAVITY * (_array(lift_m) + across)
    liquid = water.liquid_viscosity / (
        _array(permeability_m2) * _array(wick_area_m2) * water.liquid_density * water.latent_heat
    )
    vapour = (
        8.0
        * water.vapour_viscosity
        / (bore.vapour_area * np.maximum(bore.vapour_radius, 1e-9) ** 2 * water.vapour_density * water.latent_heat)
    )
    watts = np.maximum(pumping - gravity, 0.0) / ((liquid + vapour) * L)
    return np.asarray(watts), np.asarray(pumping), np.asarray(gravity)


@correlation("busse-1973", {"temperature_c": (5.0, 150.0)})
def sonic_limit(water: Saturation, temperature_c: ArrayLike, vapour_area_m2: ArrayLike) -> Array:
    """A rho h sqrt(gamma R T / (2 (gamma + 1))), W (Levy 1968).

    Any shapes that broadcast: ``water`` saturated, at the vapour; ``temperature_c`` vapour, °C; ``vapour_area_m2``
    m2.

    >>> from krill.materials.fluids import saturated_water
    >>> water = saturated_water(60.0)
    >>> f"{sonic_limit(water, 60.0, 1.3e-5):.4g}"
    '837.4'
    """
    speed = np.sqrt(
        HEAT_CAPACITY_RATIO * VAPOUR_GAS_CONSTANT * kelvin(_array(temperature_c)) / (2 * (HEAT_CAPACITY_RATIO + 1))
    )
    return np.asarray(_array(vapour_area_m2) * water.vapour_density * water.latent_heat * speed)


@correlation("cotter-1967", {"pore_radius_m": (1e-6, 1e-3)}, scatter=1.0)
def entrainment_limit(water: Saturation, vapour_area_m2: ArrayLike, pore_radius_m: ArrayLike) -> Array:
    """A h sqrt(sigma rho / (2 r_h)), r_h half of the pore radius, W (Cotter 1967; weak physics).

    Any shapes that broadcast: ``water`` saturated, at the vapour; ``vapour_area_m2`` m2; ``pore_radius_m`` m.

    >>> from krill.materials.fluids import saturated_water
    >>> water = saturated_water(60.0)
    >>> f"{entrainment_limit(water, 1.3e-5, 2.5e-5):.4g}"
    '569.8'
    """
    hydraulic = _array(pore_radius_m) / 2
    stress = np.sqrt(water.surface_tension * water.vapour_density / (2 * hydraulic))
    return np.asarray(_array(vapour_area_m2) * water.latent_heat * stress)


@correlation("busse-1973", {"effective_length_m": (0.02, 2.0)})
def viscous_limit(water: Saturation, bore: Bore, effective_length_m: ArrayLike) -> Array:
    """A r^2 h rho p / (16 mu L), W (Busse 1973).

    Any shapes that broadcast: ``water`` saturated, at the vapour; ``bore`` inside of the pipe;
    ``effective_length_m`` m.

    >>> from krill.materials.fluids import saturated_water
    >>> water = saturated_water(60.0)
    >>> bore = bore_of(0.006, 3e-4, 7e-4)
    >>> f"{viscous_limit(water, bore, 0.14):.4g}"
    '1.268e+04'
    """
    flow = bore.vapour_area * bore.vapour_radius**2 * water.latent_heat * water.vapour_density * water.pressure
    return np.asarray(flow / (16 * water.vapour_viscosity * _array(effective_length_m)))


@correlation("chi-1976", {"nucleation_radius_m": (1e-8, 1e-5)}, scatter=1.0)
def boiling_limit(
    water: Saturation,
    temperature_c: ArrayLike,
    bore: Bore,
    wick_conductivity: ArrayLike,
    evaporator_m: ArrayLike,
    pore_radius_m: ArrayLike,
    nucleation_radius_m: ArrayLike = 2.54e-7,
) -> Array:
    """2 pi L k T / (h rho ln(r_i/r_v)) (2 sigma/r_n - 2 sigma/r), W: kilowatts for sintered wicks, weak physics.

    Sintered pipes dry out near 50-100 W/cm2 on the evaporator: use ``heat_flux_limit`` beside it.

    Any shapes that broadcast: ``water`` saturated, at the vapour; ``temperature_c`` vapour, °C; ``bore`` inside of
    the pipe; ``wick_conductivity`` W/mK; ``evaporator_m`` heated length, m; ``pore_radius_m`` m;
    ``nucleation_radius_m`` m.

    >>> from krill.materials.fluids import saturated_water
    >>> water = saturated_water(60.0)
    >>> bore = bore_of(0.006, 3e-4, 7e-4)
    >>> f"{boiling_limit(water, 60.0, bore, 40.0, 0.04, 2.5e-5):.4g}"
    '1.874e+04'
    """
    sigma = water.surface_tension
    bubble = 2 * sigma / _array(nucleation_radius_m) - 2 * sigma / _array(pore_radius_m)
    rings = np.log(bore.inner_radius / np.maximum(bore.vapour_radius, 1e-9))
    conduct = 2 * np.pi * _array(evaporator_m) * _array(wick_conductivity) * kelvin(_array(temperature_c))
    return np.asarray(conduct * bubble / (water.latent_heat * water.vapour_density * rings))


def heat_flux_limit(bore: Bore, evaporator_m: ArrayLike, flux_w_m2: ArrayLike) -> Array:
    """W through the inner face of the evaporator at its dry-out flux (common practice 50-100 W/cm2 for sintered)."""
    return np.asarray(2 * np.pi * bore.inner_radius * _array(evaporator_m) * _array(flux_w_m2))


@correlation("clausius-clapeyron", {"temperature_c": (5.0, 150.0)})
def vapour_resistance(water: Saturation, temperature_c: ArrayLike, bore: Bore, effective_length_m: ArrayLike) -> Array:
    """K/W along the vapour: pressure drop of laminar vapour times T / (rho h), each watt.

    Any shapes that broadcast: ``water`` saturated, at the vapour; ``temperature_c`` vapour, °C; ``bore`` inside of
    the pipe; ``effective_length_m`` m.

    >>> from krill.materials.fluids import saturated_water
    >>> water = saturated_water(60.0)
    >>> bore = bore_of(0.006, 3e-4, 7e-4)
    >>> f"{vapour_resistance(water, 60.0, bore, 0.14):.4g}"
    '0.0008521'
    """
    T = kelvin(_array(temperature_c))
    drop = (
        8
        * water.vapour_viscosity
        * _array(effective_length_m)
        / (bore.vapour_area * np.maximum(bore.vapour_radius, 1e-9) ** 2 * water.vapour_density * water.latent_heat)
    )
    return np.asarray(drop * T / (water.vapour_density * water.latent_heat))
