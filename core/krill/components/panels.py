"""Flat sides of a housing, and the backs of sinks: what each side gives to its air."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import Values
from krill.components.flat_faces import OTHER_SIDE, face_film, stream_film
from krill.document.solids import Lie, Panel
from krill.physics.conduction import perforated_conductivity
from krill.physics.mixed_convection import joined_films
from krill.physics.radiation import radiation_coefficient

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Flat:
    """A flat body, SI, arrays over the batch; ``lie`` is how its outer side looks."""

    width: Array
    height: Array
    thickness: Array
    conductivity: Array
    emissivity: Array
    holes: Array
    factor: Array
    lie: Lie
    upright: Array  # extent upwards of a vertical one

    @property
    def area(self) -> Array:
        return np.asarray(self.width * self.height * (1.0 - self.holes))

    @property
    def area_over_perimeter(self) -> Array:
        return np.asarray(self.width * self.height / (2 * (self.width + self.height)))

    @property
    def base_conductivity(self) -> Array:
        return np.asarray(perforated_conductivity(self.conductivity, self.holes))

    @property
    def metal_volume(self) -> Array:
        return np.asarray(self.area * self.thickness)


def flat_of(panel: Panel, lie: Lie, upright: str, values: Values) -> Flat:
    """Figures of a panel."""
    width, height = values(f"{panel.id}/width_mm"), values(f"{panel.id}/height_mm")
    return Flat(
        width,
        height,
        values(f"{panel.id}/thickness_mm"),
        values(f"{panel.id}/conductivity_w_mk"),
        np.clip(values(f"{panel.id}/emissivity"), 0.0, 1.0),
        values(f"{panel.id}/holes_share", 0.0),
        values(f"{panel.id}/factor", 1.0),
        lie,
        height if upright == "height" else width,
    )


@dataclass(frozen=True)
class SideLoss:
    """One side of a flat body, W/K over its difference to the air there (batch,)."""

    convection: Array
    radiation: Array

    @property
    def total(self) -> Array:
        return self.convection + self.radiation


def side_loss(
    flat: Flat, side: str, face_c: Array, air_c: Array, pressure_pa: Array, velocity: Array | None = None
) -> SideLoss:
    """Outer or inner side; inside, the surroundings are taken to be as warm as the air.

    ``velocity`` is what the air of a box moves at, at the reference density, m/s; None: it stands.
    """
    lie = flat.lie if side == "outside" else OTHER_SIDE[flat.lie]
    film = face_film(lie, flat.upright, flat.area_over_perimeter, face_c, air_c, pressure_pa)
    if velocity is not None:
        film = joined_films(film, stream_film(np.sqrt(flat.width * flat.height), velocity, (face_c + air_c) / 2))
    radiation = radiation_coefficient(flat.emissivity, face_c, air_c)
    return SideLoss(flat.factor * film * flat.area, flat.factor * radiation * flat.area)
