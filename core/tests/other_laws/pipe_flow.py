"""Friction and losses by other published forms than those that Krill solves with."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation

Array = NDArray[np.float64]


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


@correlation("colebrook-1939", {"reynolds": (4e3, 1e8), "relative_roughness": (0.0, 0.05)}, scatter=0.02)
def friction_colebrook(reynolds: ArrayLike, relative_roughness: ArrayLike) -> Array:
    """Darcy friction factor of rough turbulent pipes: 1/sqrt f = -2 lg(e/3.7D + 2.51/(Re sqrt f)), by Newton."""
    Re, e = np.broadcast_arrays(_array(reynolds), _array(relative_roughness))
    x = 1.0 / np.sqrt(friction_haaland(Re, e))
    for _ in range(6):
        argument = e / 3.7 + 2.51 * x / Re
        value = x + 2.0 * np.log10(argument)
        x = x - value / (1.0 + 2.0 / np.log(10.0) * 2.51 / Re / argument)
    return np.asarray(1.0 / x**2)


@correlation("haaland-1983", {"reynolds": (4e3, 1e8), "relative_roughness": (0.0, 0.05)}, scatter=0.02)
def friction_haaland(reynolds: ArrayLike, relative_roughness: ArrayLike) -> Array:
    """Explicit Darcy friction factor: 1/sqrt f = -1.8 lg((e/3.7D)^1.11 + 6.9/Re)."""
    inner = (_array(relative_roughness) / 3.7) ** 1.11 + 6.9 / _array(reynolds)
    return (-1.8 * np.log10(inner)) ** -2


@correlation("swamee-jain-1976", {"reynolds": (4e3, 1e8), "relative_roughness": (0.0, 0.05)}, scatter=0.03)
def friction_swamee_jain(reynolds: ArrayLike, relative_roughness: ArrayLike) -> Array:
    """Explicit Darcy friction factor: 0.25 / lg(e/3.7D + 5.74/Re^0.9)^2."""
    return 0.25 / np.log10(_array(relative_roughness) / 3.7 + 5.74 / _array(reynolds) ** 0.9) ** 2


@correlation("borda-carnot", {"diameter_ratio": (0.0, 1.0)})
def loss_sudden_expansion(diameter_ratio: ArrayLike) -> Array:
    """Loss coefficient of a sudden expansion on the velocity in the small pipe; ratio small over large bore."""
    return (1.0 - _array(diameter_ratio) ** 2) ** 2


@correlation("crane", {"diameter_ratio": (0.0, 1.0)}, scatter=0.4)
def loss_sudden_contraction(diameter_ratio: ArrayLike) -> Array:
    """Loss coefficient of a sudden contraction on the velocity in the small pipe; ratio small over large bore."""
    return 0.5 * (1.0 - _array(diameter_ratio) ** 2)


@correlation("rennels-2012", {"radius_ratio": (0.5, 20.0), "friction_factor": (0.008, 0.1)}, scatter=0.4)
def loss_bend_rennels(radius_ratio: ArrayLike, angle_rad: ArrayLike, friction_factor: ArrayLike) -> Array:
    """Loss coefficient of a smooth bend with its own wall friction; radius of the bend over the bore.

    K = f a r/d + (0.10 + 2.4 f) sin(a/2) + 6.6 f (sqrt sin(a/2) + sin(a/2)) / (r/d)^(4 a/pi). Rennels & Hudson 2012.
    """
    r, a, f = _array(radius_ratio), _array(angle_rad), _array(friction_factor)
    half = np.sin(a / 2.0)
    wall, turn = f * a * r, (0.10 + 2.4 * f) * half
    return np.asarray(wall + turn + 6.6 * f * (np.sqrt(half) + half) / r ** (4.0 * a / np.pi))


@correlation("rennels-2012", {"diameter_ratio": (0.1, 1.0), "angle_rad": (0.05, 3.14)}, scatter=0.4)
def loss_conical_contraction(diameter_ratio: ArrayLike, angle_rad: ArrayLike) -> Array:
    """Loss of a conical contraction on the outlet velocity, without wall friction; ratio outlet over inlet bore.

    0.0696 sin(a/2) (1 - b^5) l^2 + (l - 1)^2, l = 1 + 0.622 (a/pi)^0.8 (1 - 0.215 b^2 - 0.785 b^5). Rennels & Hudson 2012.
    """
    b, a = _array(diameter_ratio), _array(angle_rad)
    jet = 1.0 + 0.622 * (a / np.pi) ** 0.8 * (1.0 - 0.215 * b**2 - 0.785 * b**5)
    return np.asarray(0.0696 * np.sin(a / 2.0) * (1.0 - b**5) * jet**2 + (jet - 1.0) ** 2)


def hydraulic_diameter(width: ArrayLike, height: ArrayLike) -> Array:
    """Four times the area over the wetted edge of a rectangle, for use with the true velocity."""
    a, b = _array(width), _array(height)
    return 2.0 * a * b / (a + b)
