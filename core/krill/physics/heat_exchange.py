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
    """
    N, C = np.broadcast_arrays(np.clip(_array(ntu), 0.0, TABLE_NTU_MAX), np.clip(_array(capacity_ratio), 0.0, 1.0))
    return np.asarray(_table().ev(N, C), dtype=np.float64)


@correlation("kays-london", {"ntu": (0.0, 50.0), "capacity_ratio": (1e-6, 1.0)})
def effectiveness_crossflow_mixed(ntu: ArrayLike, capacity_ratio: ArrayLike, *, larger_mixed: bool) -> Array:
    """Cross flow with one fluid mixed: the one of the larger or of the smaller capacity flow."""
    N, C = _array(ntu), _array(capacity_ratio)
    if larger_mixed:
        return -np.expm1(C * np.expm1(-N)) / C
    return -np.expm1(np.expm1(-C * N) / C)


@correlation("incropera", {"ntu": (0.0, 50.0), "capacity_ratio": (0.0, 1.0)})
def effectiveness_counterflow(ntu: ArrayLike, capacity_ratio: ArrayLike) -> Array:
    """Counter flow; finite at a capacity ratio of one."""
    N, C = np.broadcast_arrays(_array(ntu), _array(capacity_ratio))
    decay = np.exp(-N * (1.0 - C))
    unequal = (1.0 - decay) / np.where(C == 1.0, 1.0, 1.0 - C * decay)
    return np.where(np.abs(1.0 - C) < 1e-9, N / (1.0 + N), unequal)


@correlation("incropera", {"ntu": (0.0, 50.0), "capacity_ratio": (0.0, 1.0)})
def effectiveness_parallel(ntu: ArrayLike, capacity_ratio: ArrayLike) -> Array:
    """Parallel flow: (1 - exp(-NTU (1 + Cr))) / (1 + Cr)."""
    C = _array(capacity_ratio)
    return -np.expm1(-_array(ntu) * (1.0 + C)) / (1.0 + C)


@correlation("gnielinski-1976", {"reynolds": (3e3, 5e6)})
def friction_petukhov(reynolds: ArrayLike) -> Array:
    """Darcy friction factor of smooth tubes: (0.790 ln Re - 1.64)^-2."""
    return (0.790 * np.log(_array(reynolds)) - 1.64) ** -2


@correlation(
    "gnielinski-1976",
    {"reynolds": (3e3, 5e6), "prandtl": (0.5, 2000.0), "friction_factor": (0.005, 0.1)},
    scatter=0.10,
)
def nusselt_gnielinski(reynolds: ArrayLike, prandtl: ArrayLike, friction_factor: ArrayLike) -> Array:
    """Turbulent flow in smooth tubes: (f/8)(Re - 1000) Pr / (1 + 12.7 sqrt(f/8)(Pr^(2/3) - 1))."""
    Re, Pr, f = _array(reynolds), _array(prandtl), _array(friction_factor)
    return f / 8 * (Re - 1000) * Pr / (1 + 12.7 * np.sqrt(f / 8) * (Pr ** (2 / 3) - 1))


@correlation("incropera", {"reynolds": (1e4, 1e6), "prandtl": (0.6, 160.0)}, scatter=0.25)
def nusselt_dittus_boelter(reynolds: ArrayLike, prandtl: ArrayLike, *, heated: bool) -> Array:
    """Turbulent flow, McAdams form: 0.023 Re^0.8 Pr^n, n = 0.4 where the fluid is heated, else 0.3."""
    return 0.023 * _array(reynolds) ** 0.8 * _array(prandtl) ** (0.4 if heated else 0.3)


@correlation("shah-london-1978", {"aspect": (0.0, 1.0)})
def nusselt_laminar_rectangular_h1(aspect: ArrayLike) -> Array:
    """Developed laminar flow in a rectangular tube, axially constant flux, on the hydraulic diameter.

    8.235 (1 - 2.0421 a + 3.0853 a^2 - 2.4765 a^3 + 1.0578 a^4 - 0.1861 a^5), a = short over long side.
    """
    a = _array(aspect)
    return 8.235 * (1 + a * (-2.0421 + a * (3.0853 + a * (-2.4765 + a * (1.0578 - 0.1861 * a)))))


def coolant_rise(power_w: ArrayLike, mass_flow: ArrayLike, heat_capacity: ArrayLike) -> Array:
    """Rise of a stream that takes up ``power_w``: P / (m cp), kelvins."""
    return _array(power_w) / (_array(mass_flow) * _array(heat_capacity))
