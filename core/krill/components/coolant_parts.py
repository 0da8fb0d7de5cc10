"""Coolant-side hydraulics of the parts of a loop: what each contributes to the flow network."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import singledispatch

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.classes import classes
from krill.components.edges import Curve, curve_from_parabola, curve_from_points
from krill.components.figure_table import Values
from krill.components.radiator import coolant_drop_4
from krill.components.stated import STATED_WATER, Stated
from krill.document.part_base import Part
from krill.document.parts import (
    Coupling,
    Fan,
    Fitting,
    FlowMeter,
    Plate,
    Pump,
    Radiator,
    Reservoir,
    Strainer,
    Tube,
)
from krill.errors import DocumentRefused, Problem
from krill.materials.fluids import reference_water
from krill.physics.heat_exchange import film_ratio_laminar_entry
from krill.physics.properties import FluidState

Array = NDArray[np.float64]

FLOW_1, FLOW_4 = 1e-3 / 60, 4e-3 / 60
RADIATOR_EXPONENT = 1.8
#: drop of a plate that states one figure only (estimate)
PLATE_EXPONENT = 1.7
#: what a coupling that is not joined asks of 4 l/min, Pa: a few drops a minute pass
CLOSED_PA = 1e12
#: a loaded strainer against a clean one (value from memory)
LOADED_STRAINER = 3.0


@dataclass(frozen=True)
class PipeFigures:
    """A bore with friction and losses; scalars or (batch,)."""

    length_m: Array
    bore_m: Array
    roughness_m: Array
    loss: Array


@dataclass(frozen=True)
class PowerFigures:
    """drop = linear Q + coefficient Q^exponent in the medium that it was stated in."""

    coefficient: Array
    exponent: Array
    stated_in: Stated
    linear: Array | float = 0.0


@dataclass(frozen=True)
class MoverFigures:
    """A curve at rated speed with the factors on its flow and pressure."""

    curve: Curve
    flow_factor: Array
    pressure_factor: Array
    density_ref: float
    blocks_at_rest: bool = False


EdgeFigures = PipeFigures | PowerFigures | MoverFigures


@singledispatch
def coolant_edge(part: Part, values: Values) -> EdgeFigures:
    """What a part asks of the coolant that passes it: a row per kind that may stand in a loop. TypeError without one."""
    raise TypeError(f"{part.id}: a {type(part).__name__} has no coolant side")


def wetted_metals(parts: Iterable[Part]) -> set[str]:
    """The metals that a coolant touches in these parts, as far as they are stated."""
    return {part.metal for part in parts if isinstance(part, Plate | Radiator | Fitting | Coupling) and part.metal}


def power_through(flow_a: float, drop_a: Array, flow_b: float, drop_b: Array) -> tuple[Array, Array]:
    """Coefficient and exponent of the power law through two points, exponent held to 1..2.2."""
    exponent = np.clip(np.log(drop_b / drop_a) / np.log(flow_b / flow_a), 1.0, 2.2)
    return drop_b / flow_b**exponent, exponent


@coolant_edge.register
def tube(part: Tube, values: Values) -> PipeFigures:
    roughness = values(f"{part.id}/roughness_mm")
    friction = values(f"{part.id}/law_friction", 1.0)  # goes with the length
    return PipeFigures(
        friction * values(f"{part.id}/length_m"), values(f"{part.id}/bore_mm"), roughness, np.asarray(0.0)
    )


@coolant_edge.register
def fitting(part: Fitting | Reservoir, values: Values) -> PipeFigures:
    count = part.count if isinstance(part, Fitting) else 1
    zero = np.asarray(0.0)
    return PipeFigures(zero, values(f"{part.id}/bore_mm"), zero, count * values(f"{part.id}/loss"))


@coolant_edge.register
def plate(part: Plate, values: Values) -> PowerFigures:
    at_4 = values(f"{part.id}/drop_4_kpa", 10e3)
    at_1 = values(f"{part.id}/drop_1_kpa", float("nan"))
    at_1 = np.where(np.isnan(at_1), at_4 / 4**PLATE_EXPONENT, at_1)
    coefficient, exponent = power_through(FLOW_1, at_1, FLOW_4, at_4)
    return PowerFigures(coefficient, exponent, STATED_WATER)


def plate_law(part: Plate, values: Values) -> tuple[Array, Array]:
    """Face to mean coolant: K/W at 1 l/min, times the factor, and the exponent of the flow through 1 and 4 l/min."""
    at_1 = values(f"{part.id}/resistance_1_k_w", 0.06)
    at_4 = values(f"{part.id}/resistance_4_k_w", float("nan"))
    at_4 = np.where(np.isnan(at_4), at_1 * 0.75, np.minimum(at_4, at_1))
    return values(f"{part.id}/factor", 1.0) * at_1, np.log(at_4 / at_1) / np.log(4.0)


def plate_resistance(at_1: Array, exponent: Array, volume_flow: Array) -> Array:
    """Face to mean coolant, K/W, by the power law of a plate; a plate at rest is held at a hundredth of 1 l/min."""
    return np.asarray(at_1 * _of_1_l_min(volume_flow) ** exponent)


def _of_1_l_min(volume_flow: Array) -> Array:
    return np.maximum(np.abs(volume_flow) / FLOW_1, 0.01)


def plate_film(whole: Array, at_1: Array, exponent: Array, volume_flow: Array) -> Array:
    """What of a plate's ``whole`` resistance is the coolant's film, K/W; the rest is metal.

    Both of the plate's points as metal + film q^(-1/3), the laminar entry of its channels; never more than the whole.
    """
    film_1 = np.minimum(at_1 * (1.0 - 4.0**exponent) / (1.0 - 4.0 ** (-1 / 3)), at_1)
    return np.asarray(np.minimum(film_1 / np.cbrt(_of_1_l_min(volume_flow)), whole))


def plate_with_coolant(at_1: Array, exponent: Array, volume_flow: Array, liquid: FluidState) -> Array:
    """Face to mean coolant, K/W, with the coolant that is in the plate: its film in place of water's at 35 C."""
    water = reference_water()
    ratio = film_ratio_laminar_entry(
        liquid.conductivity / water.conductivity,
        liquid.density * liquid.heat_capacity / (water.density * water.heat_capacity),
    )
    whole = plate_resistance(at_1, exponent, volume_flow)
    return whole + plate_film(whole, at_1, exponent, volume_flow) * (1.0 / ratio - 1.0)


@coolant_edge.register
def radiator(part: Radiator, values: Values) -> PowerFigures:
    at_4 = values(f"{part.id}/drop_4_kpa", coolant_drop_4(part))
    exponent = np.asarray(RADIATOR_EXPONENT)
    return PowerFigures(at_4 / FLOW_4**RADIATOR_EXPONENT, exponent, STATED_WATER)


@coolant_edge.register
def quadratic_part(part: Coupling | FlowMeter | Strainer, values: Values) -> PowerFigures:
    """What is stated as a drop at 4 l/min; a coupling that is not joined lets nothing through."""
    drop = values(f"{part.id}/drop_4_kpa") * values(f"{part.id}/factor", 1.0)
    if isinstance(part, Strainer) and part.loaded:
        drop = LOADED_STRAINER * drop
    if isinstance(part, Coupling) and not part.joined:
        drop = drop + CLOSED_PA
    return PowerFigures(drop / FLOW_4**2, np.asarray(2.0), STATED_WATER)


def mover_curve(part: Pump | Fan) -> Curve:
    """Curve of a pump or fan: its own points, else the parabola of its two ends, else its class."""
    points = part.curve
    if points is None and _by_its_ends(part):
        return curve_from_parabola(1.0, 1.0)  # scaled by the two figures in ``mover``
    if points is None:
        points = classes()[part.class_].curve if part.class_ in classes() else None
    if points is None:
        known = ", ".join(key for key, item in classes().items() if item.kind == part.kind and item.curve is not None)
        raise DocumentRefused(
            [Problem(f"{part.id}/curve", f"class '{part.class_}' has no curve", f"points, or one of {known}")]
        )
    flow_unit, head_unit = (1e-3 / 60, 1e3) if isinstance(part, Pump) else (1 / 3600, 1.0)
    flows, heads = np.asarray(points, dtype=np.float64).T
    return curve_from_points(flows * flow_unit, heads * head_unit)


def _by_its_ends(part: Pump | Fan) -> bool:
    """Whether a pump states both ends of its curve and no point between them."""
    both = isinstance(part, Pump) and part.shutoff_kpa is not None and part.free_flow_l_min is not None
    return both and part.curve is None


def _stretch(part: Pump | Fan, values: Values, end: str, of_curve: float, factor: str) -> Array:
    """Factor on one axis of a curve: an end that is stated scales it, else the factor of its class stands for all."""
    if getattr(part, end, None) is None:
        return values(f"{part.id}/{factor}", 1.0)
    stated = np.asarray(values(f"{part.id}/{end}") / of_curve)
    return stated * values(f"{part.id}/{factor}") if getattr(part, factor) is not None else stated


def mover(part: Pump | Fan, values: Values, stated_in: Stated) -> MoverFigures:
    """A curve with its factors; a free flow or a shut-off head that is stated scales the curve it stands beside."""
    curve = mover_curve(part)
    flow = _stretch(part, values, "free_flow_l_min", float(curve.free_flow[0]), "flow_factor")
    pressure = _stretch(part, values, "shutoff_kpa", float(curve.shutoff[0]), "pressure_factor")
    factor = values(f"{part.id}/factor", 1.0)
    blocks = isinstance(part, Pump) and part.when_off == "blocking"
    return MoverFigures(curve, flow, pressure * factor, stated_in.density, blocks)


@coolant_edge.register
def pump(part: Pump, values: Values) -> MoverFigures:
    return mover(part, values, STATED_WATER)
