"""Pressures, volumes and heights of a coolant loop."""

from functools import singledispatch

import numpy as np
from numpy.typing import NDArray

from krill.components.radiator import class_volume
from krill.document.build import Loop, leaves
from krill.document.part_base import Part
from krill.document.parts import Coupling, Fitting, Plate, Pump, Radiator, Reservoir, Tube
from krill.materials.fluids import coolant
from krill.prediction.answer.solving import Solved
from krill.units import STANDARD_GRAVITY

Array = NDArray[np.float64]

FILLING_C = 20.0


@singledispatch
def part_volume(part: Part, solved: Solved) -> float:
    """Coolant inside a part, m3: a row per kind that holds any; fittings and movers count as nothing."""
    return 0.0


@part_volume.register
def _tube(part: Tube, solved: Solved) -> float:
    bore = solved.figure(f"{part.id}/bore_mm", 0, 0.0)
    return float(np.pi / 4 * bore**2 * solved.figure(f"{part.id}/length_m", 0, 0.0))


@part_volume.register
def _plate(part: Plate, solved: Solved) -> float:
    return solved.figure(f"{part.id}/volume_ml", 0, 0.0)


@part_volume.register
def _radiator(part: Radiator, solved: Solved) -> float:
    return solved.figure(f"{part.id}/volume_ml", 0, class_volume(part))


@part_volume.register
def _reservoir(part: Reservoir, solved: Solved) -> float:
    return solved.figure(f"{part.id}/volume_ml", 0, 0.0) * solved.figure(f"{part.id}/fill_share", 0, 1.0)


def fill_volume(solved: Solved, loop: Loop) -> float:
    """Coolant of all parts of a loop, m3."""
    return sum(part_volume(solved.build.part(item), solved) for item in leaves(loop.elements))


def expansion(loop: Loop, volume: float, hottest_c: float) -> float:
    """What the coolant of a loop grows by from filling at 20 C to its hottest, m3."""
    fluid = coolant(loop.coolant.fluid, float(loop.coolant.mass_share))
    cold, hot = fluid.state(FILLING_C).density, fluid.state(max(hottest_c, FILLING_C)).density
    return float(volume * (cold / hot - 1.0))


def air_room(solved: Solved, loop: Loop) -> float | None:
    """Air above the coolant in the loop's reservoirs, m3; None without a reservoir."""
    parts = [solved.build.part(item) for item in leaves(loop.elements)]
    rooms = [
        solved.figure(f"{part.id}/volume_ml", 0, 0.0) * (1.0 - solved.figure(f"{part.id}/fill_share", 0, 1.0))
        for part in parts
        if isinstance(part, Reservoir)
    ]
    return sum(rooms) if rooms else None


def junction_pressures(solved: Solved, loop: Loop, row: int, density: float) -> dict[int, float]:
    """Pressure at the outlet of each of a loop's edges over its reservoir's air, Pa; weight of the column included.

    Without a reservoir the lowest pressure of the loop is 0. Heights count where both are known.
    """
    flow, solution = solved.structure.coolant, solved.solution.coolant
    assert flow is not None
    assert solution is not None
    edges = flow.edges_of(loop.id)
    tank = next((e for e in edges if isinstance(solved.build.part(flow.parts[e]), Reservoir)), None)
    pressure = solution.pressure[row]
    ends = {edge: float(pressure[flow.graph.head[edge]]) for edge in edges}
    zero = float(pressure[flow.graph.head[tank]]) if tank is not None else min(ends.values())
    heights = solved.heights
    level = None if tank is None else heights.get(flow.parts[tank])
    return {edge: end - zero + _column(density, level, heights.get(flow.parts[edge])) for edge, end in ends.items()}


def _column(density: float, level: float | None, height: float | None) -> float:
    return 0.0 if level is None or height is None else density * STANDARD_GRAVITY * (level - height)


def pressure_limit(solved: Solved, part: Part) -> float | None:
    """What a fitting or coupling is made for, Pa."""
    if isinstance(part, Fitting | Coupling | Pump):
        limit = solved.figure(f"{part.id}/highest_kpa", 0, np.inf)
        return limit if np.isfinite(limit) else None
    return None


def top_of(solved: Solved, loop: Loop) -> str | None:
    """The part that lies highest: where air collects. None unless two heights are known and differ."""
    heights = {item: h for item, h in solved.heights.items() if item in set(leaves(loop.elements))}
    if len(heights) < 2 or max(heights.values()) - min(heights.values()) < 1e-6:
        return None
    return max(heights, key=heights.__getitem__)


def reservoir_below_pump(solved: Solved, loop: Loop) -> tuple[str, str, float] | None:
    """(pump, reservoir, metres) where every reservoir of a loop stands lower than a pump; None otherwise or unknown."""
    heights = solved.heights
    parts = [solved.build.part(item) for item in leaves(loop.elements)]
    tanks = [part.id for part in parts if isinstance(part, Reservoir) and part.id in heights]
    for part in parts:
        if isinstance(part, Pump) and part.id in heights and tanks:
            best = max(tanks, key=heights.__getitem__)
            if heights[best] < heights[part.id] - 0.005:
                return part.id, best, heights[part.id] - heights[best]
    return None
