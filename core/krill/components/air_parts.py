"""Air-side losses of openings, filters and radiators."""

import numpy as np

from krill.catalogue.classes import classes
from krill.components.coolant_parts import PowerFigures
from krill.components.figure_table import Values
from krill.components.radiator import REFERENCE_AIR, core_of, section_face
from krill.document.parts import Filter, Opening, Radiator
from krill.physics.pipe_flow import loss_perforated_plate

LOADED_FACTOR = 3.0  # a loaded filter against a clean one (value from memory)
FILTER_LINEAR_PA, FILTER_SQUARE_PA = 2.0, 2.0  # fine nylon mesh at 1 m/s (value from memory)


def opening(part: Opening, values: Values) -> PowerFigures:
    """K rho v^2/2 on the face velocity; K by the class or the part, else by the free share of a thin plate."""
    area = values(f"{part.id}/area_cm2")
    if part.loss is None and part.free_area_share is not None:
        loss = loss_perforated_plate(values(f"{part.id}/free_area_share"))
    else:
        loss = values(f"{part.id}/loss")
    coefficient = values(f"{part.id}/factor", 1.0) * loss * REFERENCE_AIR / (2 * area**2)
    return PowerFigures(coefficient, np.asarray(2.0), REFERENCE_AIR)


def dust_filter(part: Filter, values: Values) -> PowerFigures:
    """linear v + square v^2 on the face velocity, three times that when loaded."""
    extra = classes()[part.class_].extra if part.class_ in classes() else {}
    area = values(f"{part.id}/area_cm2")
    scale = (LOADED_FACTOR if part.loaded else 1.0) * values(f"{part.id}/factor", 1.0)
    linear = scale * values(f"{part.id}/linear_factor") * extra.get("linear_pa", FILTER_LINEAR_PA) / area
    square = scale * values(f"{part.id}/square_factor") * extra.get("square_pa", FILTER_SQUARE_PA) / area**2
    return PowerFigures(square, np.asarray(2.0), REFERENCE_AIR, linear)


def radiator_air(part: Radiator, values: Values) -> PowerFigures:
    """Core pressure of the class or the measured points over the whole face."""
    core, face = core_of(part), part.sections * section_face(part.section_mm)
    factor = values(f"{part.id}/air_factor")
    return PowerFigures(factor * core.square / face**2, np.asarray(2.0), REFERENCE_AIR, factor * core.linear / face)
