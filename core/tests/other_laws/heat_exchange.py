"""Exchangers of other arrangements, and the oldest law of turbulent tubes."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation

Array = NDArray[np.float64]


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


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


@correlation("incropera", {"reynolds": (1e4, 1e6), "prandtl": (0.6, 160.0)}, scatter=0.25)
def nusselt_dittus_boelter(reynolds: ArrayLike, prandtl: ArrayLike, *, heated: bool) -> Array:
    """Turbulent flow, McAdams form: 0.023 Re^0.8 Pr^n, n = 0.4 where the fluid is heated, else 0.3."""
    return 0.023 * _array(reynolds) ** 0.8 * _array(prandtl) ** (0.4 if heated else 0.3)


def coolant_rise(power_w: ArrayLike, mass_flow: ArrayLike, heat_capacity: ArrayLike) -> Array:
    """Rise of a stream that takes up ``power_w``: P / (m cp), kelvins."""
    return _array(power_w) / (_array(mass_flow) * _array(heat_capacity))
