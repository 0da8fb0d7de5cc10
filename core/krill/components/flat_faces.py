"""Films of flat faces in still air: walls, lids, floors of a housing, backs of sinks."""

import numpy as np
from numpy.typing import NDArray

from krill.document.solids import Lie
from krill.materials.fluids import air
from krill.physics.natural_convection import (
    nusselt_facing_down,
    nusselt_facing_up,
    nusselt_vertical_plate,
    rayleigh,
)

Array = NDArray[np.float64]

SMALLEST_K = 1e-3  # difference below which a film is held at its value there
OTHER_SIDE: dict[Lie, Lie] = {"vertical": "vertical", "facing_up": "facing_down", "facing_down": "facing_up"}


def face_film(
    lie: Lie, upright_m: Array, area_over_perimeter: Array, face_c: Array, air_c: Array, pressure_pa: Array
) -> Array:
    """W/m2K by convection; a face colder than its air is the mirror of a warm one that looks the other way."""
    film_c = (face_c + air_c) / 2
    state = air(film_c, pressure_pa)
    difference = np.maximum(np.abs(face_c - air_c), SMALLEST_K)
    if lie == "vertical":
        Ra = rayleigh(difference, upright_m, state, film_c)
        return np.asarray(nusselt_vertical_plate(Ra, state.prandtl) * state.conductivity / upright_m)
    Ra = rayleigh(difference, area_over_perimeter, state, film_c)
    up = (face_c >= air_c) == (lie == "facing_up")
    Nu = np.where(up, nusselt_facing_up(Ra), nusselt_facing_down(Ra))
    return np.asarray(Nu * state.conductivity / area_over_perimeter)


def film_number(lie: Lie, upright_m: Array, area_over_perimeter: Array, face_c: Array, air_c: Array) -> Array:
    """Rayleigh number that ``face_film`` works with."""
    film_c = (face_c + air_c) / 2
    length = upright_m if lie == "vertical" else area_over_perimeter
    return rayleigh(np.maximum(np.abs(face_c - air_c), SMALLEST_K), length, air(film_c), film_c)
