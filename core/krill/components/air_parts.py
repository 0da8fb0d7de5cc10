"""Air-side losses of openings, filters, ducts, gaps, obstacles, coolers and radiators."""

from dataclasses import replace
from functools import singledispatch

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.classes import classes
from krill.components.coolant_parts import EdgeFigures, MoverFigures, PipeFigures, PowerFigures, mover
from krill.components.figure_table import Values
from krill.components.radiator import DUST_PRESSURE, core_of, dusty
from krill.components.radiator_table import REFERENCE_AIR, core_face
from krill.components.sinks import fins_of, sink_air
from krill.components.stated import STATED_AIR
from krill.document.geometry import stand_of
from krill.document.part_base import Part
from krill.document.parts import Cooler, Duct, Fan, Filter, Gap, Obstacle, Opening, Radiator, Supply
from krill.document.solids import Sink
from krill.physics.mixed_convection import joined_films
from krill.physics.pipe_flow import (
    equivalent_diameter,
    loss_blockage,
    loss_bundles,
    loss_close_panel,
    loss_perforated_plate,
    loss_wire_screen,
)

Array = NDArray[np.float64]

#: still air's W/K of a cooler go with the difference to this power, from the difference that class figures stand at
#: (Bar-Cohen & Rohsenow and Churchill & Chu on its envelope, with radiation: class figures, value from memory)
STILL_REFERENCE_K, STILL_EXPONENT = 40.0, 0.3
#: W/K in still air over those as rated: of coolers without a class figure, and of a part whose resistance in a stream is
#: stated (coolers 0.06 to 0.07, stick-on sinks 0.28 by class; value from memory)
STILL_OF_RATED, STILL_OF_STATED = 0.065, 0.28

LOADED_FACTOR = 3.0  # a loaded filter against a clean one (value from memory)
LEAK_LOSS = 2.4  # a thin seam, entry and exit (value from memory)
FIXED_SHARE, COOLER_EXPONENT, COOLER_RANGE = 0.35, 0.8, (1e-4, 2.0)
MOVING_M_S, MAX_MOVING = 1.5, 2.0
FILTER_LINEAR_PA, FILTER_SQUARE_PA = 2.0, 2.0  # fine nylon mesh at 1 m/s (value from memory)


@singledispatch
def air_edge(part: Part, values: Values) -> EdgeFigures:
    """What a part asks of the air that passes it: a row per kind that may stand in an air path. TypeError without one."""
    raise TypeError(f"{part.id}: a {type(part).__name__} has no air side")


@air_edge.register
def opening(part: Opening, values: Values) -> PowerFigures:
    """K rho v^2/2 on the face velocity; K by the class or the part, else by the free share of a thin plate or of wires."""
    area = values(f"{part.id}/area_cm2")
    if part.loss is None and part.free_area_share is not None:
        of_share = loss_wire_screen if part.made_of == "wires" else loss_perforated_plate
        loss = of_share(values(f"{part.id}/free_area_share"))
    else:
        loss = values(f"{part.id}/loss")
    coefficient = values(f"{part.id}/factor", 1.0) * loss * REFERENCE_AIR / (2 * area**2)
    return PowerFigures(coefficient, np.asarray(2.0), STATED_AIR)


@air_edge.register
def dust_filter(part: Filter, values: Values) -> PowerFigures:
    """linear v + square v^2 on the face velocity, three times that when loaded."""
    extra = classes()[part.class_].extra if part.class_ in classes() else {}
    area = values(f"{part.id}/area_cm2")
    scale = (LOADED_FACTOR if part.loaded else 1.0) * values(f"{part.id}/factor", 1.0)
    linear = scale * values(f"{part.id}/linear_factor") * extra.get("linear_pa", FILTER_LINEAR_PA) / area
    square = scale * values(f"{part.id}/square_factor") * extra.get("square_pa", FILTER_SQUARE_PA) / area**2
    return PowerFigures(square, np.asarray(2.0), STATED_AIR, linear)


@air_edge.register
def radiator_air(part: Radiator, values: Values) -> PowerFigures:
    """Core pressure of the class, geometry or measured points over the part of the face that gets air."""
    core, face = core_of(part), core_face(part.sections, part.section_mm) * values(f"{part.id}/covered_share", 1.0)
    factor = values(f"{part.id}/air_factor") * dusty(values(f"{part.id}/dust", 0.0), DUST_PRESSURE)
    return PowerFigures(factor * core.square / face**2, np.asarray(2.0), STATED_AIR, factor * core.linear / face)


def _on_face(loss: Array, area: Array) -> PowerFigures:
    """K rho v^2/2 on the velocity in an area."""
    return PowerFigures(loss * REFERENCE_AIR / (2 * area**2), np.asarray(2.0), STATED_AIR)


@air_edge.register
def duct(part: Duct, values: Values) -> PipeFigures:
    """Friction by Churchill on the round bore of equal friction at equal flow (Huebscher), losses on that bore."""
    if part.bore_mm is not None:
        bore = values(f"{part.id}/bore_mm")
        area_ratio: Array = np.asarray(1.0)
    else:
        width, height = values(f"{part.id}/width_mm"), values(f"{part.id}/height_mm")
        bore = equivalent_diameter(width, height)
        area_ratio = np.pi / 4 * bore**2 / (width * height)
    losses = values(f"{part.id}/loss") + part.bends * values(f"{part.id}/bend_loss")
    friction = values(f"{part.id}/law_friction", 1.0)  # goes with the length
    return PipeFigures(
        friction * values(f"{part.id}/length_m"), bore, values(f"{part.id}/roughness_mm"), losses * area_ratio**2
    )


def duct_leak(part: Duct, values: Values) -> PowerFigures:
    """The open seams of a duct as one thin gap, entry and exit."""
    return _on_face(np.asarray(LEAK_LOSS), np.maximum(values(f"{part.id}/leak_cm2"), 1e-9))


@air_edge.register
def gap(part: Gap, values: Values) -> PowerFigures:
    """A close panel, table or wall; the area is a square of the span where none is given.

    Holes in the panel are a way beside the rim of the gap: both at one pressure, K = (K_gap^-1/2 + K_panel^-1/2)^-2.
    """
    span = values(f"{part.id}/span_mm")
    area = values(f"{part.id}/area_cm2") if part.area_cm2 is not None else span**2
    factor = values(f"{part.id}/factor", 1.0) * values(f"{part.id}/law_loss", 1.0)
    loss = loss_close_panel(values(f"{part.id}/gap_mm") / span)
    if part.panel_loss is not None:
        loss = (loss**-0.5 + values(f"{part.id}/panel_loss") ** -0.5) ** -2.0
    return _on_face(factor * loss, area)


def close_mouth(part: Opening | Radiator, figures: PowerFigures, gap_mm: float, values: Values) -> PowerFigures:
    """An opening or radiator with a wall or table close in front of its face: the loss of a close panel on top of its own."""
    if isinstance(part, Radiator):
        area, span = np.asarray(core_face(part.sections, part.section_mm)), np.asarray(part.section_mm / 1000)
    else:
        area = values(f"{part.id}/area_cm2")
        span = np.sqrt(area)
    loss = values(f"{part.id}/law_near", 1.0) * loss_close_panel(gap_mm / 1000 / span)
    return replace(figures, coefficient=figures.coefficient + _on_face(loss, area).coefficient)


@air_edge.register
def obstacle(part: Obstacle, values: Values) -> PowerFigures:
    """What stands in the way: leads and tubes across it by what they block, anything else by what is left beside it."""
    of_share = loss_bundles if part.leads else loss_blockage
    loss = values(f"{part.id}/law_loss", 1.0) * of_share(values(f"{part.id}/blocked_share"))
    return _on_face(loss, values(f"{part.id}/area_cm2"))


@air_edge.register
def cooler_air(part: Cooler, values: Values) -> PowerFigures:
    """Quadratic through the measured points, else through the class's pressure at its rated flow."""
    stated = [(p.airflow_m3_h / 3600, p.pressure_pa) for p in part.points or [] if p.pressure_pa]
    if stated:
        coefficient: Array = np.asarray(np.mean([pressure / flow**2 for flow, pressure in stated]))
        return PowerFigures(coefficient, np.asarray(2.0), STATED_AIR)
    return _rated_pressure(part, values)


@air_edge.register
def supply_air(part: Supply, values: Values) -> PowerFigures:
    """Inside of a supply between its inlet and its outlet."""
    return _rated_pressure(part, values)


def _rated_pressure(part: Cooler | Supply, values: Values) -> PowerFigures:
    flow = values(f"{part.id}/rated_airflow_m3_h")
    return PowerFigures(values(f"{part.id}/pressure_pa") / flow**2, np.asarray(2.0), STATED_AIR)


def cooler_resistance(part: Cooler, values: Values, volume_flow: Array) -> Array:
    """Base over incoming air, K/W, at air flows (batch,): mass flows at the reference density, m3/s.

    Points: straight lines in logarithms, held to a falling slope beyond them. Class: R (s + (1 - s) n^-0.8), n the
    share of the rated flow (held to 2 above) and s the share that no air changes (value from memory).
    """
    factor = values(f"{part.id}/factor", 1.0)
    if part.points:
        flows = np.array([p.airflow_m3_h / 3600 for p in part.points])
        R = np.array([float(p.k_w) for p in part.points])
        return np.asarray(factor * _through_points(np.maximum(np.abs(volume_flow), 1e-6), flows, R))
    fixed = _fixed_share(part)
    n = np.clip(np.abs(volume_flow) / values(f"{part.id}/rated_airflow_m3_h"), *COOLER_RANGE)
    return np.asarray(factor * values(f"{part.id}/resistance_k_w") * (fixed + (1.0 - fixed) * n**-COOLER_EXPONENT))


def _fixed_share(part: Cooler) -> float:
    return classes()[part.class_].extra.get("share_fixed", FIXED_SHARE) if part.class_ in classes() else FIXED_SHARE


def metal_resistance(part: Cooler, values: Values) -> Array:
    """What lies between a cooler's base and its faces, K/W: the share of its rated resistance that no air changes."""
    if part.points:
        return np.asarray(0.0)
    return np.asarray(_fixed_share(part) * values(f"{part.id}/factor", 1.0) * values(f"{part.id}/resistance_k_w"))


def rated_resistance(part: Cooler, values: Values) -> Array:
    """Base over incoming air at its rated flow or at its best measured point, K/W."""
    if part.points:
        return np.asarray(values(f"{part.id}/factor", 1.0) * min(float(p.k_w) for p in part.points))
    return np.asarray(values(f"{part.id}/factor", 1.0) * values(f"{part.id}/resistance_k_w"))


def still_film(part: Cooler, values: Values) -> Array:
    """W/K of a cooler's faces in still air at the reference difference; its fan hangs still before them."""
    address = f"{part.id}/still_k_w"
    whole = values(address) if values.has(address) else rated_resistance(part, values) / STILL_OF_RATED
    return np.asarray(1.0 / np.maximum(whole - metal_resistance(part, values), 0.05 * whole))


def still_growth(difference_k: Array) -> Array:
    """Still air's conductance over that at the reference difference, with which class figures are stated."""
    return np.asarray((np.abs(difference_k) / STILL_REFERENCE_K) ** STILL_EXPONENT)


def _through_points(flow: Array, flows: Array, R: Array) -> Array:
    if len(flows) == 1:
        n = np.clip(flow / flows[0], *COOLER_RANGE)
        return np.asarray(R[0] * (FIXED_SHARE + (1.0 - FIXED_SHARE) * n**-COOLER_EXPONENT))
    x, grid, y = np.log(np.maximum(flow, COOLER_RANGE[0] * flows[0])), np.log(flows), np.log(R)
    piece = np.clip(np.searchsorted(grid, x) - 1, 0, len(grid) - 2)
    slope = np.clip((y[piece + 1] - y[piece]) / (grid[piece + 1] - grid[piece]), -1.0, 0.0)
    return np.asarray(np.exp(y[piece] + slope * (x - grid[piece])))


def moving_air_factor(place_class: str | None, velocity: Array) -> Array | None:
    """Resistance of a part in its zone's moving air over its class figure; None where its class does not say.

    Still and moving air join by cubes; the moving share goes with velocity^0.5 (laminar plate) through the class's figure
    at 1.5 m/s. ``velocity`` is at the reference density, m/s.
    """
    known = classes().get(place_class or "")
    if known is None or "still_k_w" not in known.extra:
        return None
    still, at_rated = 1.0 / known.extra["still_k_w"], 1.0 / known.extra["moving_k_w"]
    moving = np.cbrt(at_rated**3 - still**3) * np.sqrt(np.minimum(velocity / MOVING_M_S, MAX_MOVING))
    return np.asarray(1.0 / joined_films(still, moving) / known.figures["package_k_w"][0])


@air_edge.register
def fan(part: Fan, values: Values) -> MoverFigures:
    return mover(part, values, STATED_AIR)


@air_edge.register
def sink(part: Sink, values: Values) -> PowerFigures:
    return sink_air(part, fins_of(part, stand_of(values.build, part), values), values)
