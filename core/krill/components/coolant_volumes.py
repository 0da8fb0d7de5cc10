"""Coolant inside the parts of a loop, by what they state, else by class; what it grows by when it warms."""

from dataclasses import dataclass
from functools import singledispatch
from math import hypot, pi
from typing import Final

from krill.catalogue.table import table
from krill.components.figure_table import FigureTable
from krill.document.build import Build, CoolantMixture, Loop, leaves
from krill.document.part_base import Part
from krill.document.parts import Coupling, Fitting, Plate, Pump, Radiator, Reservoir, Tube
from krill.materials.fluids import coolant

#: what of a reservoir is coolant, where nobody says
FULL_SHARE: Final = 0.85
#: loops are filled at this, °C
FILLING_C: Final = 20.0

#: volume, half width of nine in ten, and where both come from
Volume = tuple[float, float, str]


@dataclass(frozen=True, slots=True)
class PartVolume:
    """Coolant in a part, ml ± half width of nine in ten, and whether it is stated or by class."""

    part: str
    name: str
    ml: float
    half_ml: float
    origin: str


def part_volumes(build: Build, loop: Loop, figures: FigureTable) -> list[PartVolume]:
    """Coolant in each part of a loop: as stated, else by class."""
    found = []
    for item in dict.fromkeys(leaves(loop.elements)):
        part = build.part(item)
        if getattr(part, "volume_ml", None) is None:
            ml, half, origin = class_volume(part, figures)
        else:
            known = figures.figures[f"{part.id}/volume_ml"]
            ml, half, origin = known.in_units, known.tolerance.plus / known.quantity.factor, known.origin
        if isinstance(part, Reservoir):
            share = _full_share(part, figures)
            ml, half = ml * share, half * share
        found.append(PartVolume(part.id, part.name or part.id, ml, half, origin))
    return found


def air_room_ml(build: Build, loop: Loop, figures: FigureTable) -> float | None:
    """Room for the coolant to grow into: what of the reservoirs is not filled; None where there is none."""
    tanks = [part for part in map(build.part, dict.fromkeys(leaves(loop.elements))) if isinstance(part, Reservoir)]
    if not tanks:
        return None
    total = 0.0
    for tank in tanks:
        stated = tank.volume_ml is not None
        ml = figures.figures[f"{tank.id}/volume_ml"].in_units if stated else class_volume(tank, figures)[0]
        total += ml * (1 - _full_share(tank, figures))
    return total


def grown_share(mixture: CoolantMixture, hottest_c: float) -> float:
    """Share that a coolant grows by from filling to its hottest; nothing where it stays as cold."""
    fluid = coolant(mixture.fluid, float(mixture.mass_share))
    cold, hot = fluid.state(FILLING_C).density, fluid.state(max(hottest_c, FILLING_C)).density
    return float(cold / hot - 1.0)


def _full_share(tank: Reservoir, figures: FigureTable) -> float:
    full = figures.figures.get(f"{tank.id}/fill_share")
    return FULL_SHARE if full is None else full.in_units


@singledispatch
def class_volume(part: Part, figures: FigureTable) -> Volume:
    """Coolant in a part of its kind and class, ml."""
    return _typical("other")


@class_volume.register
def _radiator(part: Radiator, figures: FigureTable) -> Volume:
    known = table("care")["volume_ml"]
    section = f"{float(part.section_mm):g}"
    by_thickness = known["radiator_section"].get(section) or known["radiator_section"]["120"]
    nearest = min(by_thickness, key=lambda thickness: abs(float(thickness) - float(part.thickness_mm)))
    tanks, half = known["radiator_tanks"].get(section) or known["radiator_tanks"]["120"]
    core = by_thickness[nearest] * part.sections
    return core + tanks, hypot(known["section_share"] * core, half), "class"


@class_volume.register
def _tube(part: Tube, figures: FigureTable) -> Volume:
    length, bore = figures.figures[f"{part.id}/length_m"], figures.figures[f"{part.id}/bore_mm"]
    ml = pi / 4 * bore.value**2 * length.value * 1e6
    off = hypot(length.tolerance.plus / length.value, 2 * bore.tolerance.plus / bore.value)
    return ml, ml * off, "computed"


@class_volume.register
def _fitting(part: Fitting, figures: FigureTable) -> Volume:
    ml, half, origin = _typical("fitting_90" if "90" in (part.class_ or "") else "fitting")
    return ml * part.count, half * part.count, origin


@class_volume.register
def _coupling(part: Coupling, figures: FigureTable) -> Volume:
    return _typical("coupling", "large" if (part.class_ or "").endswith("large") else "small")


@class_volume.register
def _plate(part: Plate, figures: FigureTable) -> Volume:
    sizes = table("care")["volume_ml"]["plate"]
    return _typical("plate", next((size for size in sizes if size in (part.class_ or "")), "processor"))


@class_volume.register
def _pump(part: Pump, figures: FigureTable) -> Volume:
    return _typical("pump")


@class_volume.register
def _reservoir(part: Reservoir, figures: FigureTable) -> Volume:
    return _typical("reservoir")


def _typical(*keys: str) -> Volume:
    known = table("care")["volume_ml"]
    for key in keys:
        known = known[key]
    return known[0], known[1], "class"
