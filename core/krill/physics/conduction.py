"""Conduction through layers, spreading from small to large faces, fins, and metal joints."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation

Array = NDArray[np.float64]


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


@correlation("fourier", {"thickness_m": (0.0, 0.1), "conductivity": (0.01, 3000.0)})
def layer_resistance(thickness_m: ArrayLike, conductivity: ArrayLike, contact_m2k_w: ArrayLike = 0.0) -> Array:
    """Area-specific resistance of a layer with the same contact term on both faces, m2 K/W."""
    return _array(thickness_m) / _array(conductivity) + 2.0 * _array(contact_m2k_w)


@correlation("lee-1995", {"source_area": (1e-8, 1.0), "plate_area": (1e-8, 10.0)}, scatter=0.10)
def spreading_lee(
    source_area: ArrayLike,
    plate_area: ArrayLike,
    thickness_m: ArrayLike,
    conductivity: ArrayLike,
    film_w_m2k: ArrayLike,
) -> Array:
    """Mean spreading resistance of a centred source on a plate with a film on its far face, K/W.

    Equal-area circles: eps = a/b, tau = t/b, lambda = pi + 1/(sqrt(pi) eps), Bi = h b/k,
    phi = (tanh(lambda tau) + lambda/Bi) / (1 + lambda/Bi tanh(lambda tau)),
    R = 0.5 (1 - eps)^1.5 phi / (k sqrt(source area)). Lee, Song, Au & Moran 1995 (quick form, within 10 %).
    Zero for full coverage; the one-dimensional slab and the film itself are not included.
    """
    A1, A2, t, k = _array(source_area), _array(plate_area), _array(thickness_m), _array(conductivity)
    a, b = np.sqrt(A1 / np.pi), np.sqrt(A2 / np.pi)
    eps = np.minimum(a / b, 1.0)
    lam = np.pi + 1.0 / (np.sqrt(np.pi) * eps)
    resist = lam * k / (_array(film_w_m2k) * b)
    tanh = np.tanh(lam * t / b)
    phi = (tanh + resist) / (1.0 + resist * tanh)
    return np.asarray(0.5 * (1.0 - eps) ** 1.5 * phi / (k * np.sqrt(A1)))


def spreading_lee_maximum(
    source_area: ArrayLike,
    plate_area: ArrayLike,
    thickness_m: ArrayLike,
    conductivity: ArrayLike,
    film_w_m2k: ArrayLike,
) -> Array:
    """As ``spreading_lee`` for the hottest point of the source: (1/sqrt pi)(1 - eps) phi / (k sqrt area)."""
    eps = np.minimum(np.sqrt(_array(source_area) / _array(plate_area)), 1.0)
    mean = spreading_lee(source_area, plate_area, thickness_m, conductivity, film_w_m2k)
    return np.asarray(mean * 2.0 / np.sqrt(np.pi) / np.sqrt(np.maximum(1.0 - eps, 1e-12)))


def spreading_series(
    source: tuple[float, float],
    plate: tuple[float, float],
    centre: tuple[float, float],
    thickness_m: float,
    conductivity: float,
    film_w_m2k: float,
    terms: int = 400,
) -> float:
    """Mean spreading resistance of a rectangular source anywhere on a rectangular plate, K/W.

    Double Fourier series of Muzychka, Culham & Yovanovich 2003 (scalars; for checks and off-centre chips).
    ``source``, ``plate`` are (x, y) sizes and ``centre`` the source's centre from one corner, metres.
    """
    (c, d), (a, b), (xc, yc) = source, plate, centre
    t, k, h = thickness_m, conductivity, film_w_m2k
    n = np.arange(1, terms + 1, dtype=np.float64)
    lam, delta = n * np.pi / a, n * np.pi / b
    beta = np.hypot(lam[:, None], delta[None, :])

    def depth(z: NDArray[np.floating]) -> NDArray[np.floating]:
        tanh = np.tanh(z * t)
        return np.asarray((z + h / k * tanh) / (h / k + z * tanh))

    along_x = np.cos(lam * xc) ** 2 * np.sin(lam * c / 2) ** 2 / (lam**3) * depth(lam)
    along_y = np.cos(delta * yc) ** 2 * np.sin(delta * d / 2) ** 2 / (delta**3) * depth(delta)
    both = (
        np.outer(np.cos(lam * xc) ** 2 * np.sin(lam * c / 2) ** 2 / lam**2, np.ones(terms))
        * (np.cos(delta * yc) ** 2 * np.sin(delta * d / 2) ** 2 / delta**2)[None, :]
        * depth(beta)
        / beta
    )
    total = 8 / (a * b * k) * (np.sum(along_x) / c**2 + np.sum(along_y) / d**2 + 8 * np.sum(both) / (c * d) ** 2)
    return float(total)


@correlation("incropera", {"film_w_m2k": (0.0, 1e4), "length_m": (0.0, 1.0)})
def fin_efficiency(
    film_w_m2k: ArrayLike, conductivity: ArrayLike, thickness_m: ArrayLike, length_m: ArrayLike
) -> Array:
    """Straight rectangular fin with an adiabatic tip: tanh(mL)/(mL), m = sqrt(2h/(k t)). 1 at mL = 0."""
    mL = np.sqrt(2.0 * _array(film_w_m2k) / (_array(conductivity) * _array(thickness_m))) * _array(length_m)
    return np.where(mL < 1e-6, 1.0, np.tanh(mL) / np.maximum(mL, 1e-12))


@correlation("cooper-1969", {"pressure_over_hardness": (1e-6, 2e-2)}, scatter=0.30)
def contact_conductance(
    conductivity: ArrayLike, roughness_m: ArrayLike, slope: ArrayLike, pressure_over_hardness: ArrayLike
) -> Array:
    """Solid conductance of a bare joint, W/m2K: 1.25 k (m/sigma)(P/H)^0.95.

    k is the harmonic mean of both solids; roughness and slope are the roots of the summed squares.
    """
    P = _array(pressure_over_hardness)
    return 1.25 * _array(conductivity) * _array(slope) / _array(roughness_m) * P**0.95


@correlation("cooper-1969", {"pressure_over_hardness": (1e-6, 2e-2)}, scatter=0.30)
def gap_conductance(
    gas_conductivity: ArrayLike, gas_jump_m: ArrayLike, roughness_m: ArrayLike, pressure_over_hardness: ArrayLike
) -> Array:
    """Conductance of the gas in a bare joint, W/m2K: k_g / (1.53 sigma (P/H)^-0.097 + M)."""
    Y = 1.53 * _array(roughness_m) * _array(pressure_over_hardness) ** -0.097
    return _array(gas_conductivity) / (Y + _array(gas_jump_m))
