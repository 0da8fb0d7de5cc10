"""Radiation of grey faces to large surroundings, out of fin channels, and between two faces."""

import json
from functools import lru_cache
from importlib import resources

import numpy as np
from numpy.typing import ArrayLike, NDArray

from krill.physics.correlation import correlation
from krill.units import kelvin

Array = NDArray[np.float64]

STEFAN_BOLTZMANN = 5.670374419e-8


def _array(value: ArrayLike) -> Array:
    return np.asarray(value, dtype=np.float64)


@correlation("stefan-boltzmann", {"emissivity": (0.0, 1.0)})
def radiation_coefficient(emissivity: ArrayLike, face_c: ArrayLike, surroundings_c: ArrayLike) -> Array:
    """eps sigma (T1 + T2)(T1^2 + T2^2), W/m2K over the difference of both temperatures (given in C).

    Any shapes that broadcast: ``emissivity`` 0..1; ``face_c`` °C; ``surroundings_c`` °C.

    >>> f"{radiation_coefficient(0.85, 60.0, 25.0):.4g}"
    '6.082'
    """
    T1, T2 = kelvin(_array(face_c)), kelvin(_array(surroundings_c))
    return np.asarray(_array(emissivity) * STEFAN_BOLTZMANN * (T1 + T2) * (T1**2 + T2**2))


def _crossed_strings(depth: float, strips: int) -> tuple[Array, Array, Array]:
    """View factors in a channel of unit width, long in the third direction.

    Strip to strip of the opposite wall (strips, strips), strip to floor (strips,), floor to strip (strips,).
    """
    edges = np.linspace(0.0, depth, strips + 1)
    low, high, size = edges[:-1], edges[1:], depth / strips

    def length(dy: Array) -> Array:
        return np.asarray(np.hypot(1.0, dy))

    y1, y2, z1, z2 = low[:, None], high[:, None], low[None, :], high[None, :]
    opposite = (length(y1 - z2) + length(y2 - z1) - length(y1 - z1) - length(y2 - z2)) / (2 * size)
    # strip at height y1..y2 over the floor of width 1 that begins at its own wall's foot
    to_floor = ((high - low) - (np.hypot(1.0, high) - np.hypot(1.0, low))) / (2 * size)
    return opposite, to_floor, to_floor * size


def channel_emissivity_radiosity(emissivity: float, depth_over_spacing: float, strips: int = 200) -> float:
    """Effective emissivity of the opening of a long isothermal channel, by radiosity over strips (crossed strings).

    Scalars; emissivity 0..1 of walls and floor, black surroundings. The reference for the quicker table.
    """
    if depth_over_spacing <= 0.0:
        return emissivity
    wall, wall_floor, floor_wall = _crossed_strings(depth_over_spacing, strips)
    floor_strips = 2 * strips + 1
    F = np.zeros((floor_strips, floor_strips))
    F[:strips, strips : 2 * strips] = wall
    F[strips : 2 * strips, :strips] = wall
    F[:strips, -1] = F[strips : 2 * strips, -1] = wall_floor
    F[-1, :strips] = F[-1, strips : 2 * strips] = floor_wall
    J = np.linalg.solve(np.eye(floor_strips) - (1 - emissivity) * F, np.full(floor_strips, emissivity))
    area = np.append(np.full(2 * strips, depth_over_spacing / strips), 1.0)
    to_opening = 1.0 - F.sum(axis=1)
    return float(np.sum(area * to_opening * J))


@lru_cache(maxsize=1)
def _channel_table() -> tuple[Array, Array, Array]:
    """Emissivities, depths over spacing, and the effective emissivity of each pair (tools/make_channel_table.py)."""
    data = json.loads(resources.files("krill.physics").joinpath("tables/channels.json").read_text())
    emissivity, depth, effective = (
        np.asarray(data[key], dtype=np.float64) for key in ("emissivity", "depth_over_spacing", "effective")
    )
    return emissivity, depth, effective


@correlation("grey-enclosure", {"emissivity": (0.01, 1.0), "depth_over_spacing": (0.0, 40.0)}, scatter=0.02)
def channel_emissivity(emissivity: ArrayLike, depth_over_spacing: ArrayLike) -> Array:
    """Effective emissivity of fin channels on their OPENING area, from a table made by radiosity (bilinear).

    Any shapes that broadcast: ``emissivity`` 0..1; ``depth_over_spacing`` depth of the channel over its width.

    >>> f"{channel_emissivity(0.8, 4.0):.4g}"
    '0.9488'
    """
    emissivities, depths, table = _channel_table()
    eps, depth = np.broadcast_arrays(_array(emissivity), _array(depth_over_spacing))
    i = np.clip(np.searchsorted(emissivities, eps) - 1, 0, len(emissivities) - 2)
    x, grid = np.log1p(depth), np.log1p(depths)
    j = np.clip(np.searchsorted(grid, x) - 1, 0, len(depths) - 2)
    a = np.clip((eps - emissivities[i]) / (emissivities[i + 1] - emissivities[i]), 0.0, 1.0)
    b = np.clip((x - grid[j]) / (grid[j + 1] - grid[j]), 0.0, 1.0)
    low = table[i, j] * (1 - b) + table[i, j + 1] * b
    return np.asarray(low * (1 - a) + (table[i + 1, j] * (1 - b) + table[i + 1, j + 1] * b) * a)


@correlation("hottel", {"width_over_gap": (0.0, 1e3), "height_over_gap": (0.0, 1e3)})
def view_between_rectangles(width_over_gap: ArrayLike, height_over_gap: ArrayLike) -> Array:
    """View factor of two equal rectangles face to face; X, Y are their sides over the gap (Incropera table 13.2).

    Any shapes that broadcast: ``width_over_gap`` width over the distance; ``height_over_gap`` height over the
    distance.

    >>> f"{view_between_rectangles(1.0, 1.0):.4g}"
    '0.1998'
    """
    X, Y = np.maximum(_array(width_over_gap), 1e-6), np.maximum(_array(height_over_gap), 1e-6)
    X1, Y1 = 1 + X**2, 1 + Y**2
    sum_ = 0.5 * np.log(X1 * Y1 / (1 + X**2 + Y**2)) - X * np.arctan(X) - Y * np.arctan(Y)
    sum_ = sum_ + X * np.sqrt(Y1) * np.arctan(X / np.sqrt(Y1)) + Y * np.sqrt(X1) * np.arctan(Y / np.sqrt(X1))
    return np.asarray(2.0 / (np.pi * X * Y) * sum_)
