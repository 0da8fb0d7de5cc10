"""Films of flat faces in still air: walls, lids, floors of a housing, backs of sinks."""

import numpy as np
from numpy.typing import NDArray

from krill.components.radiator_table import REFERENCE_AIR
from krill.document.solids import Lie
from krill.materials.fluids import air
from krill.physics.mixed_convection import nusselt_plate
from krill.physics.natural_convection import (
    nusselt_facing_down,
    nusselt_facing_up,
    nusselt_vertical_plate,
    rayleigh,
)

Array = NDArray[np.float64]

#: differences below this are rounded off, so that a face that turns from warm to cold does so smoothly, K
ROUND_K, TURN_K = 0.05, 0.2
OTHER_SIDE: dict[Lie, Lie] = {"vertical": "vertical", "facing_up": "facing_down", "facing_down": "facing_up"}


def face_film(
    lie: Lie, upright_m: Array, area_over_perimeter: Array, face_c: Array, air_c: Array, pressure_pa: Array
) -> Array:
    """W/m2K by convection; a face colder than its air is the mirror of a warm one that looks the other way."""
    film_c = (face_c + air_c) / 2
    state = air(film_c, pressure_pa)
    difference = _rounded(face_c - air_c)
    if lie == "vertical":
        Ra = rayleigh(difference, upright_m, state, film_c)
        return np.asarray(nusselt_vertical_plate(Ra, state.prandtl) * state.conductivity / upright_m)
    Ra = rayleigh(difference, area_over_perimeter, state, film_c)
    warm = 0.5 * (1.0 + np.tanh((face_c - air_c) / TURN_K))
    up = warm if lie == "facing_up" else 1.0 - warm
    Nu = up * nusselt_facing_up(Ra) + (1.0 - up) * nusselt_facing_down(Ra)
    return np.asarray(Nu * state.conductivity / area_over_perimeter)


def stream_film(length_m: Array, velocity: Array, film_c: Array) -> Array:
    """W/m2K of a laminar stream along a face; ``velocity`` at the reference density, m/s."""
    state = air(film_c)
    Re = REFERENCE_AIR * velocity * length_m / state.viscosity
    return np.asarray(nusselt_plate(Re, state.prandtl) * state.conductivity / length_m)


def _rounded(difference: Array) -> Array:
    return np.asarray(np.sqrt(difference**2 + ROUND_K**2))


def film_number(lie: Lie, upright_m: Array, area_over_perimeter: Array, face_c: Array, air_c: Array) -> Array:
    """Rayleigh number that ``face_film`` works with."""
    film_c = (face_c + air_c) / 2
    length = upright_m if lie == "vertical" else area_over_perimeter
    return rayleigh(_rounded(face_c - air_c), length, air(film_c), film_c)
