"""Radiators by class: the table of sections and thicknesses, between its rows and beyond them."""

from collections.abc import Callable, Sequence
from functools import lru_cache
from itertools import groupby

import numpy as np

from krill.catalogue.classes import RadiatorClass, radiator_classes
from krill.components.radiator_table import (
    AIR_HEAT_CAPACITY,
    REFERENCE_AIR,
    REFERENCE_FLOW,
    RadiatorCore,
    conductance_from_inlet_figure,
    section_face,
)
from krill.materials.fluids import reference_water


@lru_cache(maxsize=256)
def class_core(section_mm: float, thickness_mm: float) -> RadiatorCore:
    """Core of a class, from the table of W/K of a radiator of two sections.

    Straight lines between the table's thicknesses and sections. Thinner than its thinnest row, conductance and drop
    shrink with the thickness (fins and the way of the air shorten alike); beyond its other ends the last row holds.
    """
    *conductance, linear, square = _interpolated(_row_core, section_mm, thickness_mm, thinnest=0.0)
    velocity = radiator_classes()[0].face_velocity
    return RadiatorCore(velocity, np.array(conductance) * section_face(section_mm), linear, square)


@lru_cache(maxsize=256)
def two_sections_pa(section_mm: float, thickness_mm: float) -> float:
    """Coolant-side drop of a class of two sections with its ports at 4 l/min of water, Pa."""
    [kpa] = _interpolated(lambda row: [row.coolant_kpa], section_mm, thickness_mm, thinnest=None)
    return 1000 * kpa


def thickness_range(section_mm: float) -> tuple[float, float]:
    """Thinnest and thickest row that the sections on both sides of one share, mm."""
    ends = [(rows[0].thickness_mm, rows[-1].thickness_mm) for _, rows in _beside(section_mm)]
    return max(low for low, _ in ends), min(high for _, high in ends)


def section_range() -> tuple[float, float]:
    """Smallest and largest section of the table, mm."""
    return _by_section()[0][0], _by_section()[-1][0]


@lru_cache(maxsize=1)
def _by_section() -> list[tuple[float, list[RadiatorClass]]]:
    return [(key, list(rows)) for key, rows in groupby(radiator_classes(), key=lambda row: row.section_mm)]


def _beside(section_mm: float) -> list[tuple[float, list[RadiatorClass]]]:
    """The sections of the table next to one on both sides; one alone where it stands in the table or beyond an end."""
    known = [section for section, _ in _by_section()]
    own = min(max(section_mm, known[0]), known[-1])
    near = {max(s for s in known if s <= own), min(s for s in known if s >= own)}
    return [(section, rows) for section, rows in _by_section() if section in near]


def _interpolated(
    of_row: Callable[[RadiatorClass], Sequence[float]], section_mm: float, thickness_mm: float, thinnest: float | None
) -> list[float]:
    """What a row tells, between the rows; ``thinnest`` is what stands at no thickness at all, None: the first row's."""
    beside, at_sections = _beside(section_mm), []
    for _, rows in beside:
        thicknesses = [row.thickness_mm for row in rows]
        told = np.array([of_row(row) for row in rows])
        if thinnest is not None:
            thicknesses, told = [0.0, *thicknesses], np.vstack([np.full(told.shape[1], thinnest), told])
        at_sections.append([np.interp(thickness_mm, thicknesses, column) for column in told.T])
    sections = [section for section, _ in beside]
    return [float(np.interp(section_mm, sections, column)) for column in np.array(at_sections).T]


@lru_cache(maxsize=64)
def _row_core(row: RadiatorClass) -> list[float]:
    """W/K a m2 of face at each face velocity, then the linear and the square coefficient of the air's drop."""
    water = reference_water()
    stream = 2 * REFERENCE_AIR * AIR_HEAT_CAPACITY * row.face_velocity * section_face(row.section_mm)
    loop = float(REFERENCE_FLOW * water.density * water.heat_capacity)
    found = [conductance_from_inlet_figure(2 * g, c, loop) / 2 for g, c in zip(row.w_k, stream, strict=True)]
    powers = np.stack([row.face_velocity, row.face_velocity**2], axis=1)
    linear, square = np.linalg.lstsq(powers, row.pressure_pa, rcond=None)[0]
    return [*(np.asarray(found) / section_face(row.section_mm)), linear, square]
