"""Air driven through the channels of a finned sink: developing laminar flow, heat and pressure."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation

Array = NDArray[np.float64]


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


@correlation("teertstra-2000", {"channel_reynolds": (0.1, 1e3)}, scatter=0.10)
def nusselt_driven_channel(channel_reynolds: ArrayLike, prandtl: ArrayLike) -> Array:
    """Nu on the spacing and the INLET difference, Re* = (V S / nu)(S / L): developed and developing limits joined.

    [(Re* Pr / 2)^-3 + (0.664 sqrt(Re*) Pr^(1/3) sqrt(1 + 3.65/sqrt(Re*)))^-3]^(-1/3). Teertstra, Yovanovich & Culham 2000.

    Any shapes that broadcast: ``channel_reynolds`` (V S / nu)(S / L); ``prandtl`` Prandtl number.

    >>> f"{nusselt_driven_channel(10.0, 0.71):.4g}"
    '2.421'
    """
    Re, Pr = np.maximum(_array(channel_reynolds), 1e-9), _array(prandtl)
    developed = Re * Pr / 2
    developing = 0.664 * np.sqrt(Re) * np.cbrt(Pr) * np.sqrt(1 + 3.65 / np.sqrt(Re))
    return np.asarray((developed**-3 + developing**-3) ** (-1 / 3))


@correlation("muzychka-2009", {"reynolds": (1.0, 2300.0)}, scatter=0.08)
def developing_friction(reynolds: ArrayLike, length_over_diameter: ArrayLike, aspect: ArrayLike) -> Array:
    """Apparent Fanning f Re of a rectangular channel: [(3.44 / sqrt(L+))^2 + (f Re)^2]^0.5, L+ = L / (D Re).

    f Re developed by Shah & London's polynomial in short over long side.

    Any shapes that broadcast: ``reynolds`` Reynolds number; ``length_over_diameter`` no unit; ``aspect`` short side over
    long side.

    >>> f"{developing_friction(800.0, 20.0, 0.1):.4g}"
    '30.36'
    """
    Re, r = np.maximum(_array(reynolds), 1e-9), np.clip(_array(aspect), 0.0, 1.0)
    developed = 24 * (1 - 1.3553 * r + 1.9467 * r**2 - 1.7012 * r**3 + 0.9564 * r**4 - 0.2537 * r**5)
    plus = _array(length_over_diameter) / Re
    return np.asarray(np.sqrt((3.44 / np.sqrt(plus)) ** 2 + developed**2))


@correlation("kays-london", {"free_share": (0.0, 1.0)}, scatter=0.15)
def contraction_and_exit(free_share: ArrayLike) -> Array:
    """Entry 0.42 (1 - s^2) and exit (1 - s^2)^2 of a fin stack, on the velocity between the fins.

    Any shapes that broadcast: ``free_share`` open between the fins over the front.

    >>> f"{contraction_and_exit(0.7):.4g}"
    '0.4743'
    """
    s = _array(free_share)
    return np.asarray(0.42 * (1 - s**2) + (1 - s**2) ** 2)


@correlation("closed-form", {"flow": (0.0, 10.0)})
def flow_beside_bypass(flow: ArrayLike, linear: ArrayLike, square: ArrayLike, bypass_square: ArrayLike) -> Array:
    """Flow through a resistance a q + b q^2 that shares a flow with a way beside it, c (Q - q)^2; both drops equal.

    Any shapes that broadcast: ``flow`` m3/s; ``linear`` Pa s/m3; ``square`` Pa s2/m6; ``bypass_square`` Pa s2/m6.

    >>> f"{flow_beside_bypass(0.01, 1e3, 1e5, 1e5):.4g}"
    '0.003333'
    """
    Q, a, b, c = np.abs(_array(flow)), _array(linear), _array(square), _array(bypass_square)
    A, B = b - c, a + 2 * c * Q
    root = np.sqrt(np.maximum(B**2 + 4 * A * c * Q**2, 0.0))
    return np.asarray(2 * c * Q**2 / np.maximum(B + root, 1e-300))
