"""Friction in pipes and ducts, and losses of fittings. Friction factors are Darcy's."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation

Array = NDArray[np.float64]


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


@correlation("churchill-1977", {"reynolds": (1e-2, 1e8), "relative_roughness": (0.0, 0.05)}, scatter=0.05)
def friction_churchill(reynolds: ArrayLike, relative_roughness: ArrayLike) -> Array:
    """Darcy friction factor over all regimes.

    f = 8 [(8/Re)^12 + (A + B)^-1.5]^(1/12), A = (2.457 ln 1/((7/Re)^0.9 + 0.27 e/D))^16, B = (37530/Re)^16.

    Args: Reynolds number (> 0) and roughness over bore, any broadcastable shapes. Churchill 1977.
    """
    Re = _array(reynolds)
    return 64.0 / Re * laminar_multiple_churchill(Re, relative_roughness)[0]


def laminar_multiple_churchill(reynolds: ArrayLike, relative_roughness: ArrayLike) -> tuple[Array, Array]:
    """Friction over the laminar friction, f Re / 64, and its derivative by ln Re.

    Finite and smooth down to Re = 0, where it is 1 with slope 0: what a network solver needs at standstill.
    """
    size = np.abs(_array(reynolds))
    Re = np.maximum(size, 1.0)
    inner = (7.0 / Re) ** 0.9
    argument = inner + 0.27 * _array(relative_roughness)
    root_a = -2.457 * np.log(argument)
    steep = root_a**15
    A = steep * root_a
    B = (37530.0 / Re) ** 16
    both = A + B
    dA = (16.0 * 2.457 * 0.9) * steep * inner / argument
    turbulent = (Re / 8.0) ** 12 / (both * np.sqrt(both))
    whole = 1.0 + turbulent
    multiple = whole ** (1.0 / 12.0)
    slope = multiple * turbulent * (1.0 - (dA - 16.0 * B) / (8.0 * both)) / whole
    return multiple, np.where(size < 1.0, 0.0, slope)


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


@correlation("shah-london-1978", {"aspect": (0.0, 1.0)})
def laminar_friction_rectangular(aspect: ArrayLike) -> Array:
    """f Re of a rectangular duct on its hydraulic diameter; ``aspect`` is short side over long side, 0..1.

    96 (1 - 1.3553 a + 1.9467 a^2 - 1.7012 a^3 + 0.9564 a^4 - 0.2537 a^5). Shah & London 1978.
    """
    a = _array(aspect)
    return 96.0 * (1 + a * (-1.3553 + a * (1.9467 + a * (-1.7012 + a * (0.9564 - 0.2537 * a)))))


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


@correlation("idelchik", {"free_area_share": (0.1, 1.0)}, scatter=0.15)
def loss_perforated_plate(free_area_share: ArrayLike) -> Array:
    """Loss of a thin sharp-edged perforated plate on the approach velocity: (0.707 (1-f)^0.375 + 1 - f)^2 / f^2."""
    f = _array(free_area_share)
    return np.asarray((0.707 * (1.0 - f) ** 0.375 + 1.0 - f) ** 2 / f**2)


@correlation("rennels-2012", {"diameter_ratio": (0.1, 1.0), "angle_rad": (0.05, 3.14)}, scatter=0.4)
def loss_conical_contraction(diameter_ratio: ArrayLike, angle_rad: ArrayLike) -> Array:
    """Loss of a conical contraction on the outlet velocity, without wall friction; ratio outlet over inlet bore.

    0.0696 sin(a/2) (1 - b^5) l^2 + (l - 1)^2, l = 1 + 0.622 (a/pi)^0.8 (1 - 0.215 b^2 - 0.785 b^5). Rennels & Hudson 2012.
    """
    b, a = _array(diameter_ratio), _array(angle_rad)
    jet = 1.0 + 0.622 * (a / np.pi) ** 0.8 * (1.0 - 0.215 * b**2 - 0.785 * b**5)
    return np.asarray(0.0696 * np.sin(a / 2.0) * (1.0 - b**5) * jet**2 + (jet - 1.0) ** 2)


@correlation("borda-carnot", {"blocked_share": (0.0, 0.95)}, scatter=0.4)
def loss_blockage(blocked_share: ArrayLike) -> Array:
    """Loss of an obstacle that blocks a share of a cross-section, on the free velocity before it.

    Contraction 0.5 (1 - s) and Borda-Carnot expansion (1 - s)^2 of the free share s, both on the velocity beside it.
    """
    blocked = _array(blocked_share)
    free = 1.0 - blocked
    return np.asarray((0.5 * blocked + blocked**2) / free**2)


@correlation("common-practice", {"gap_over_span": (0.01, 1.0)}, scatter=0.4)
def loss_close_panel(gap_over_span: ArrayLike) -> Array:
    """Loss of a solid panel close in front of an opening, on the face velocity: 0.8 (D / (4 g))^2."""
    return np.asarray(0.8 * (0.25 / _array(gap_over_span)) ** 2)


def hydraulic_diameter(width: ArrayLike, height: ArrayLike) -> Array:
    """Four times the area over the wetted edge of a rectangle, for use with the true velocity."""
    a, b = _array(width), _array(height)
    return 2.0 * a * b / (a + b)


@correlation("huebscher-1948", {"width": (0.005, 2.0), "height": (0.005, 2.0)}, scatter=0.02)
def equivalent_diameter(width: ArrayLike, height: ArrayLike) -> Array:
    """Round bore with the same friction at the same FLOW: 1.30 (ab)^0.625 / (a + b)^0.25, metres."""
    a, b = _array(width), _array(height)
    return np.asarray(1.30 * (a * b) ** 0.625 / (a + b) ** 0.25)
