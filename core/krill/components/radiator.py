"""Radiators: air-side conductance and pressure from class, geometry or measured points; coolant-side drop."""

from dataclasses import replace
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from krill.components.radiator_class import class_core, two_sections_pa
from krill.components.radiator_geometry import VELOCITIES, geometry_core, share_of_copper, tube_side
from krill.components.radiator_table import (
    AIR_HEAT_CAPACITY,
    REFERENCE_AIR,
    REFERENCE_FLOW,
    RadiatorCore,
    conductance_from_inlet_figure,
    core_face,
)
from krill.document.part_base import Metal
from krill.document.parts import CoreGeometry, Radiator, RadiatorPoint
from krill.materials.fluids import reference_water
from krill.physics.heat_exchange import effectiveness_crossflow
from krill.physics.properties import FluidState

Array = NDArray[np.float64]

#: coolant-side drop = table * (ports + share a section): most of it is ports and end tanks (estimate)
PORT_SHARE, SECTION_SHARE = 0.72, 0.14
SINGLE_POINT_EXPONENT = 0.55
#: fins full of dust against clean ones: pressure times, W/K times (value from memory)
DUST_PRESSURE, DUST_CONDUCTANCE = 1.6, 0.85
#: J/K of the metal of a section of 120 mm (value from memory)
SECTION_J_K = {0: 0.0, 28: 150.0, 38: 210.0, 45: 250.0, 60: 340.0}


@lru_cache(maxsize=256)
def _measured_core(section_mm: float, sections: int, points: tuple[RadiatorPoint, ...]) -> RadiatorCore:
    face = core_face(sections, section_mm)
    water = reference_water()
    velocities, conductances = [], []
    for point in sorted(points, key=lambda p: p.airflow_m3_h):
        air_flow = point.airflow_m3_h / 3600
        loop = float(point.flow_l_min / 6e4 * water.density * water.heat_capacity)
        stream = REFERENCE_AIR * AIR_HEAT_CAPACITY * air_flow
        velocities.append(air_flow / face)
        conductances.append(conductance_from_inlet_figure(point.w_k, stream, loop) / sections)
    if len(points) == 1:
        velocities.append(2 * velocities[0])
        conductances.append(conductances[0] * 2**SINGLE_POINT_EXPONENT)
    pressures = [(p.airflow_m3_h / 3600 / face, p.pressure_pa) for p in points if p.pressure_pa]
    square = float(np.mean([pa / v**2 for v, pa in pressures])) if pressures else 0.0
    return RadiatorCore(np.asarray(velocities), np.asarray(conductances), 0.0, square)


def core_of(part: Radiator) -> RadiatorCore:
    """Measured points where the part has them, else its core's geometry, else its class.

    Pressure is the class's where none was measured.
    """
    by_class = class_core(part.section_mm, part.thickness_mm)
    if part.core is not None and not part.points:
        return geometry_core(part.core, part.section_mm, part.sections, part.thickness_mm, part.metal)
    if not part.points:
        less = np.interp(by_class.velocity, VELOCITIES, _of_copper(part, part.metal))
        return replace(by_class, conductance=by_class.conductance * less)
    measured = _measured_core(part.section_mm, part.sections, tuple(part.points))
    if measured.square:
        return measured
    return RadiatorCore(measured.velocity, measured.conductance, by_class.linear, by_class.square)


def _of_copper(part: Radiator, metal: Metal) -> Array:
    return share_of_copper(part.core or CoreGeometry(), part.section_mm, part.thickness_mm, metal)


def fins_in_words(part: Radiator) -> str:
    """What its fins are made of, and what the other usual metal would give, at 1 m/s; nothing of measured points."""
    if part.points:
        return ""
    other: Metal = "copper" if part.metal == "aluminium" else "aluminium"
    own, instead = (float(np.interp(1.0, VELOCITIES, _of_copper(part, metal))) for metal in (part.metal, other))
    return f"{part.metal} fins; {other} ones would give {100 * (instead / own - 1):+.0f} %"


def coolant_drop_4(part: Radiator) -> float:
    """Class figure of the coolant-side drop at 4 l/min, Pa."""
    return two_sections_pa(part.section_mm, part.thickness_mm) * (PORT_SHARE + SECTION_SHARE * part.sections)


def metal_capacity(part: Radiator) -> float:
    """J/K of the metal of a radiator of its class."""
    per_section = float(np.interp(part.thickness_mm, list(SECTION_J_K), list(SECTION_J_K.values())))
    return per_section * part.sections * (part.section_mm / 120) ** 2


#: what a section of 120 mm gives off in still air (value from memory, +- 40 %)
STILL_SECTION_W_K = 0.3
#: no more than this share of a section's resistance lies on its coolant side, whatever its class's core says
MOST_INSIDE = 0.7


@lru_cache(maxsize=64)
def _tubes_as_stated(core: CoreGeometry, thickness_mm: float, section_mm: float) -> float:
    """W/K from the coolant to a section's tubes with what figures of radiators are stated with: water, 35 C, 4 l/min."""
    return float(tube_side(core, thickness_mm, section_mm, np.asarray(REFERENCE_FLOW), reference_water()))


def with_coolant(part: Radiator, section_w_k: Array, flow: Array, liquid: FluidState) -> Array:
    """UA of a section with the coolant that is in it, W/K (batch,): the tube side of its core in place of water's.

    ``section_w_k`` is the figure with water, ``flow`` the coolant's, m3/s.
    """
    core = part.core or CoreGeometry()
    stated = _tubes_as_stated(core, part.thickness_mm, part.section_mm)
    now = tube_side(core, part.thickness_mm, part.section_mm, flow, liquid)
    inside = np.minimum(1.0 / stated, MOST_INSIDE / section_w_k)
    return np.asarray(1.0 / (1.0 / section_w_k + inside * (stated / now - 1.0)))


def still_conductance(part: Radiator) -> float:
    """W/K of a radiator of its class whose air stands, to the air around it."""
    return STILL_SECTION_W_K * part.sections * (float(part.section_mm) / 120) ** 2


def inlet_conductance(conductance: Array, factor: Array, air_w_k: Array, coolant_w_k: Array) -> Array:
    """Watts a kelvin of coolant-in over air-in, effectiveness times the smaller capacity flow; (batch, radiator).

    ``factor`` multiplies the result; no more than the smaller stream can carry.
    """
    least = np.maximum(np.minimum(air_w_k, coolant_w_k), 1e-9)
    most = np.maximum(np.maximum(air_w_k, coolant_w_k), 1e-9)
    effectiveness = effectiveness_crossflow(conductance / least, least / most)
    return np.asarray(least * np.minimum(factor * effectiveness, 0.999))


def dusty(dust: Array, loaded: float) -> Array:
    """Factor of fins between clean (0) and loaded (1)."""
    return np.asarray(1.0 + dust * (loaded - 1.0))
