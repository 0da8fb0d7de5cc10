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

    Any shapes that broadcast: ``reynolds`` Reynolds number; ``relative_roughness`` roughness over bore.

    >>> f"{friction_churchill(1e5, 1e-4):.4g}"
    '0.01846'
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


@correlation("shah-london-1978", {"aspect": (0.0, 1.0)})
def laminar_friction_rectangular(aspect: ArrayLike) -> Array:
    """f Re of a rectangular duct on its hydraulic diameter; ``aspect`` is short side over long side, 0..1.

    96 (1 - 1.3553 a + 1.9467 a^2 - 1.7012 a^3 + 0.9564 a^4 - 0.2537 a^5). Shah & London 1978.

    Any shapes that broadcast: ``aspect`` short side over long side.

    >>> f"{laminar_friction_rectangular(1.0):.4g}"
    '56.92'
    """
    a = _array(aspect)
    return 96.0 * (1 + a * (-1.3553 + a * (1.9467 + a * (-1.7012 + a * (0.9564 - 0.2537 * a)))))


@correlation("idelchik", {"free_area_share": (0.1, 1.0)}, scatter=0.15)
def loss_perforated_plate(free_area_share: ArrayLike) -> Array:
    """Loss of a thin sharp-edged perforated plate on the approach velocity: (0.707 (1-f)^0.375 + 1 - f)^2 / f^2.

    Any shapes that broadcast: ``free_area_share`` open over whole area.

    >>> f"{loss_perforated_plate(0.5):.4g}"
    '4.37'
    """
    f = _array(free_area_share)
    return np.asarray((0.707 * (1.0 - f) ** 0.375 + 1.0 - f) ** 2 / f**2)


@correlation("idelchik", {"free_area_share": (0.3, 0.95)}, scatter=0.15)
def loss_wire_screen(free_area_share: ArrayLike) -> Array:
    """Loss of round wires on the approach velocity, Reynolds number on the wire from 400: 1.3 (1 - f) + (1/f - 1)^2.

    Any shapes that broadcast: ``free_area_share`` open over whole area.

    >>> f"{loss_wire_screen(0.85):.4g}"
    '0.2261'
    """
    f = _array(free_area_share)
    return np.asarray(1.3 * (1.0 - f) + (1.0 / f - 1.0) ** 2)


@correlation("borda-carnot", {"blocked_share": (0.0, 0.95)}, scatter=0.4)
def loss_blockage(blocked_share: ArrayLike) -> Array:
    """Loss of an obstacle that blocks a share of a cross-section, on the free velocity before it.

    Contraction 0.5 (1 - s) and Borda-Carnot expansion (1 - s)^2 of the free share s, both on the velocity beside it.

    Any shapes that broadcast: ``blocked_share`` blocked over whole section.

    >>> f"{loss_blockage(0.3):.4g}"
    '0.4898'
    """
    blocked = _array(blocked_share)
    free = 1.0 - blocked
    return np.asarray((0.5 * blocked + blocked**2) / free**2)


@correlation("idelchik", {"blocked_share": (0.0, 0.4)}, scatter=0.35)
def loss_bundles(blocked_share: ArrayLike) -> Array:
    """Loss of round leads and tubes across a section, on the velocity of the whole section: 1.15 s / (1 - 1.5 s)^3.

    Past a share of 0.5 it stays there until what any obstacle costs is more.

    Any shapes that broadcast: ``blocked_share`` blocked over whole section.

    >>> [f"{float(loss_bundles(s)):.2g}" for s in (0.1, 0.2, 0.3, 0.4)]
    ['0.19', '0.67', '2.1', '7.2']
    """
    blocked = np.minimum(_array(blocked_share), 0.5)
    return np.asarray(np.maximum(1.15 * blocked / (1.0 - 1.5 * blocked) ** 3, loss_blockage(blocked_share)))


@correlation("common-practice", {"gap_over_span": (0.01, 1.0)}, scatter=0.4)
def loss_close_panel(gap_over_span: ArrayLike) -> Array:
    """Loss of a solid panel close in front of an opening, on the face velocity: 0.8 (D / (4 g))^2.

    Any shapes that broadcast: ``gap_over_span`` gap over the span of the opening.

    >>> f"{loss_close_panel(25 / 120):.4g}"
    '1.152'
    """
    return np.asarray(0.8 * (0.25 / _array(gap_over_span)) ** 2)


@correlation("huebscher-1948", {"width": (0.005, 2.0), "height": (0.005, 2.0)}, scatter=0.02)
def equivalent_diameter(width: ArrayLike, height: ArrayLike) -> Array:
    """Round bore with the same friction at the same FLOW: 1.30 (ab)^0.625 / (a + b)^0.25, metres.

    Any shapes that broadcast: ``width`` m; ``height`` m.

    >>> f"{equivalent_diameter(0.06, 0.028):.4g}"
    '0.04402'
    """
    a, b = _array(width), _array(height)
    return np.asarray(1.30 * (a * b) ** 0.625 / (a + b) ** 0.25)
