"""Pressures, volumes and heights of a coolant loop."""

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Loop, leaves
from krill.document.part_base import Part
from krill.document.parts import Coupling, Fitting, Pump, Reservoir
from krill.prediction.answer.solving import Solved
from krill.units import STANDARD_GRAVITY

Array = NDArray[np.float64]


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
