"""Conduction through layers, fins and metal joints."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation

Array = NDArray[np.float64]


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


@correlation("fourier", {"thickness_m": (0.0, 0.1), "conductivity": (0.01, 3000.0)})
def layer_resistance(thickness_m: ArrayLike, conductivity: ArrayLike, contact_m2k_w: ArrayLike = 0.0) -> Array:
    """Area-specific resistance of a layer with the same contact term on both faces, m2 K/W.

    Any shapes that broadcast: ``thickness_m`` m; ``conductivity`` W/mK; ``contact_m2k_w`` of each face, m2 K/W.

    >>> f"{layer_resistance(50e-6, 5.0):.4g}"
    '1e-05'
    """
    return _array(thickness_m) / _array(conductivity) + 2.0 * _array(contact_m2k_w)


@correlation("incropera", {"film_w_m2k": (0.0, 1e4), "length_m": (0.0, 1.0)})
def fin_efficiency(
    film_w_m2k: ArrayLike, conductivity: ArrayLike, thickness_m: ArrayLike, length_m: ArrayLike
) -> Array:
    """Straight rectangular fin with an adiabatic tip: tanh(mL)/(mL), m = sqrt(2h/(k t)). 1 at mL = 0.

    Any shapes that broadcast: ``film_w_m2k`` W/m2K; ``conductivity`` W/mK; ``thickness_m`` m; ``length_m`` m.

    >>> f"{fin_efficiency(30.0, 200.0, 0.002, 0.04):.4g}"
    '0.927'
    """
    mL = np.sqrt(2.0 * _array(film_w_m2k) / (_array(conductivity) * _array(thickness_m))) * _array(length_m)
    return np.where(mL < 1e-6, 1.0, np.tanh(mL) / np.maximum(mL, 1e-12))


@correlation("cooper-1969", {"pressure_over_hardness": (1e-6, 2e-2)}, scatter=0.30)
def contact_conductance(
    conductivity: ArrayLike, roughness_m: ArrayLike, slope: ArrayLike, pressure_over_hardness: ArrayLike
) -> Array:
    """Solid conductance of a bare joint, W/m2K: 1.25 k (m/sigma)(P/H)^0.95.

    k is the harmonic mean of both solids; roughness and slope are the roots of the summed squares.

    Any shapes that broadcast: ``conductivity`` W/mK; ``roughness_m`` m; ``slope`` mean slope of the roughness;
    ``pressure_over_hardness`` no unit.

    >>> f"{contact_conductance(200.0, 2e-6, 0.2, 1e-3):.4g}"
    '3.531e+04'
    """
    P = _array(pressure_over_hardness)
    return 1.25 * _array(conductivity) * _array(slope) / _array(roughness_m) * P**0.95


@correlation("cooper-1969", {"pressure_over_hardness": (1e-6, 2e-2)}, scatter=0.30)
def gap_conductance(
    gas_conductivity: ArrayLike, gas_jump_m: ArrayLike, roughness_m: ArrayLike, pressure_over_hardness: ArrayLike
) -> Array:
    """Conductance of the gas in a bare joint, W/m2K: k_g / (1.53 sigma (P/H)^-0.097 + M).

    Any shapes that broadcast: ``gas_conductivity`` W/mK; ``gas_jump_m`` temperature jump of the gas, m;
    ``roughness_m`` m; ``pressure_over_hardness`` no unit.

    >>> f"{gap_conductance(0.026, 3.7e-7, 2e-6, 1e-3):.4g}"
    '4094'
    """
    Y = 1.53 * _array(roughness_m) * _array(pressure_over_hardness) ** -0.097
    return _array(gas_conductivity) / (Y + _array(gas_jump_m))


@correlation("maxwell-holes", {"holes_share": (0.0, 0.6)}, scatter=0.10)
def perforated_conductivity(conductivity: ArrayLike, holes_share: ArrayLike) -> Array:
    """Sheet with round through holes: k (1 - f) / (1 + f) (Maxwell, Rayleigh in two dimensions).

    Any shapes that broadcast: ``conductivity`` W/mK; ``holes_share`` area of holes over the sheet.

    >>> f"{perforated_conductivity(200.0, 0.3):.4g}"
    '107.7'
    """
    f = _array(holes_share)
    return np.asarray(_array(conductivity) * (1.0 - f) / (1.0 + f))
