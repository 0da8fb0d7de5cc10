"""Effectiveness of heat exchangers and heat transfer inside tubes."""

from functools import lru_cache
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation

if TYPE_CHECKING:
    from scipy.interpolate import RectBivariateSpline

Array = NDArray[np.float64]

TABLE_NTU_MAX = 12.0


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


@correlation("mason-1955", {"ntu": (0.0, 30.0), "capacity_ratio": (0.0, 1.0)})
def effectiveness_crossflow_exact(ntu: ArrayLike, capacity_ratio: ArrayLike) -> Array:
    """Effectiveness of cross flow, both fluids unmixed, by the Nusselt-Mason series.

    eps = 1/(Cr NTU) sum_n P(n+1, NTU) P(n+1, Cr NTU), P the regularised lower incomplete gamma function.
    Cr -> 0 gives 1 - exp(-NTU). Shapes broadcast.

    Any shapes that broadcast: ``ntu`` transfer units, UA over the lesser capacity flow; ``capacity_ratio`` lesser
    over greater capacity flow.

    >>> f"{effectiveness_crossflow_exact(1.0, 0.5):.4g}"
    '0.5475'
    """
    from scipy.special import gammainc

    N, C = np.broadcast_arrays(_array(ntu), _array(capacity_ratio))
    terms = np.arange(1, 121, dtype=np.float64).reshape((-1,) + (1,) * N.ndim)
    safe = np.maximum(C * N, 1e-12)
    series = np.sum(gammainc(terms, N) * gammainc(terms, safe), axis=0) / safe
    return np.asarray(np.where(C * N < 1e-9, -np.expm1(-N), series))


@lru_cache(maxsize=1)
def _table() -> "RectBivariateSpline":
    from scipy.interpolate import RectBivariateSpline

    ntu = TABLE_NTU_MAX * np.linspace(0.0, 1.0, 160) ** 2
    ratio = np.linspace(0.0, 1.0, 41)
    return RectBivariateSpline(ntu, ratio, effectiveness_crossflow_exact(ntu[:, None], ratio[None, :]))


@correlation("mason-1955", {"ntu": (0.0, TABLE_NTU_MAX), "capacity_ratio": (0.0, 1.0)})
def effectiveness_crossflow(ntu: ArrayLike, capacity_ratio: ArrayLike) -> Array:
    """Cross flow, both unmixed, from a spline table of the exact series: within 1e-6 of it, and quick.

    NTU beyond 12 is held at 12 (the effectiveness has reached its end there for radiators).

    Any shapes that broadcast: ``ntu`` transfer units, UA over the lesser capacity flow; ``capacity_ratio`` lesser
    over greater capacity flow.

    >>> f"{effectiveness_crossflow(1.0, 0.5):.4g}"
    '0.5475'
    """
    N, C = np.broadcast_arrays(np.clip(_array(ntu), 0.0, TABLE_NTU_MAX), np.clip(_array(capacity_ratio), 0.0, 1.0))
    return np.asarray(_table().ev(N, C), dtype=np.float64)


@correlation("gnielinski-1976", {"reynolds": (3e3, 5e6)})
def friction_petukhov(reynolds: ArrayLike) -> Array:
    """Darcy friction factor of smooth tubes: (0.790 ln Re - 1.64)^-2.

    Any shapes that broadcast: ``reynolds`` Reynolds number.

    >>> f"{friction_petukhov(1e5):.4g}"
    '0.01799'
    """
    return (0.790 * np.log(_array(reynolds)) - 1.64) ** -2


@correlation(
    "gnielinski-1976",
    {"reynolds": (3e3, 5e6), "prandtl": (0.5, 2000.0), "friction_factor": (0.005, 0.1)},
    scatter=0.10,
)
def nusselt_gnielinski(reynolds: ArrayLike, prandtl: ArrayLike, friction_factor: ArrayLike) -> Array:
    """Turbulent flow in smooth tubes: (f/8)(Re - 1000) Pr / (1 + 12.7 sqrt(f/8)(Pr^(2/3) - 1)).

    Any shapes that broadcast: ``reynolds`` Reynolds number; ``prandtl`` Prandtl number; ``friction_factor`` Darcy's
    friction factor.

    >>> f"{nusselt_gnielinski(1e4, 5.0, friction_petukhov(1e4)):.4g}"
    '69.91'
    """
    Re, Pr, f = _array(reynolds), _array(prandtl), _array(friction_factor)
    return f / 8 * (Re - 1000) * Pr / (1 + 12.7 * np.sqrt(f / 8) * (Pr ** (2 / 3) - 1))


@correlation("leveque-1928", {"conductivity_ratio": (0.3, 3.0), "capacity_ratio": (0.5, 2.0)}, scatter=0.10)
def film_ratio_laminar_entry(conductivity_ratio: ArrayLike, capacity_ratio: ArrayLike) -> Array:
    """Film of one liquid over another's in the same channel at the same flow: h ~ k^(2/3) (rho cp)^(1/3).

    Any shapes that broadcast: ``conductivity_ratio`` and ``capacity_ratio`` (of rho cp), the one over the other.

    >>> f"{film_ratio_laminar_entry(0.6, 0.9):.4g}"
    '0.6868'
    """
    return np.asarray(np.cbrt(_array(conductivity_ratio) ** 2 * _array(capacity_ratio)))


@correlation("shah-london-1978", {"aspect": (0.0, 1.0)})
def nusselt_laminar_rectangular_h1(aspect: ArrayLike) -> Array:
    """Developed laminar flow in a rectangular tube, axially constant flux, on the hydraulic diameter.

    8.235 (1 - 2.0421 a + 3.0853 a^2 - 2.4765 a^3 + 1.0578 a^4 - 0.1861 a^5), a = short over long side.

    Any shapes that broadcast: ``aspect`` short side over long side.

    >>> f"{nusselt_laminar_rectangular_h1(0.0):.4g}"
    '8.235'
    """
    a = _array(aspect)
    return 8.235 * (1 + a * (-2.0421 + a * (3.0853 + a * (-2.4765 + a * (1.0578 - 0.1861 * a)))))
