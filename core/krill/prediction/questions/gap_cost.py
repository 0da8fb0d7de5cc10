"""What the room that a stack leaves costs: the whole network solved at other gaps, every row at once."""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.document.parts import Gap
from krill.prediction.answer.lasting import lasting, must_last
from krill.prediction.answer.model import Model
from krill.prediction.answer.solving import Solved, solve_cases, try_cases
from krill.prediction.answer.sound import sound_result
from krill.prediction.predict import cases_of

Array = NDArray[np.float64]
Mask = NDArray[np.bool_]

#: gaps that the curve is drawn through, mm
CURVE_MM: Final = (0.2, 0.5, 1.0, 1.5, 2.0, 3.0, 4.0, 5.0, 6.5, 8.0, 10.0, 12.0, 15.0, 20.0, 25.0, 30.0)
#: so far that it costs nothing: the loss of a close panel is below a thousandth of a velocity head
FREE_SPANS: Final = 10.0


@dataclass(frozen=True, slots=True, kw_only=True)
class GapCost:
    """Kelvins and decibels of a slot's rest against free room, for the place that it warms most; (mm, K) of the curve.

    Where nothing lasts (coolant boils before no air) there are no kelvins.
    """

    slot: str
    gap: str
    workload: str
    left_mm: float
    place: str
    costs_k: float | None
    costs_dba: float
    curve: list[tuple[float, float | None]]


def gap_costs(build: Build, workload: str, room_c: float | None = None) -> list[GapCost]:
    """Of every slot whose rest is a gap in an air path, in the order of the slots."""
    gaps = {part.slot: part for part in build.parts if isinstance(part, Gap) and part.slot is not None}
    return [_cost(build, gaps[slot.id], workload, room_c) for slot in build.slots if slot.id in gaps]


def _cost(build: Build, gap: Gap, workload: str, room_c: float | None) -> GapCost:
    """Rows: what is left, then the curve; they are held against a case of so much room that it costs nothing."""
    assert gap.slot is not None
    address = f"{gap.id}/gap_mm"
    cases = cases_of(build, [workload], room_c)
    table = Model.of(build).table.figures
    left_m, span_m = table[address].value, table[f"{gap.id}/span_mm"].value
    free = solve_cases(build, cases, overrides={address: FREE_SPANS * span_m})
    must_last(free, 0)
    at_m = np.array([left_m, *(mm / 1000.0 for mm in CURVE_MM)])
    drawn = try_cases(build, cases, samples=len(at_m), draws={address: at_m})
    rises = drawn.solution.temperature[1:] - free.solution.temperature[0]
    lasts = lasting(drawn).settled[1:]
    node, name = _warmed_most(drawn, rises, at_m, lasts)
    kelvins = [float(rise) if holds else None for rise, holds in zip(rises[:, node], lasts, strict=True)]
    return GapCost(
        slot=gap.slot,
        gap=gap.id,
        workload=workload,
        left_mm=1000.0 * left_m,
        place=name,
        costs_k=kelvins[0],
        costs_dba=sound_result(drawn, 0).total_dba - sound_result(free, 0).total_dba,
        curve=sorted(zip((1000.0 * at_m).tolist(), kelvins, strict=True), key=lambda point: point[0]),
    )


def _warmed_most(drawn: Solved, rises: Array, at_m: Array, lasts: Mask) -> tuple[int, str]:
    """(node, name) of the place that is warmed most at what is left, or at the closest gap where anything lasts."""
    row = 0 if lasts[0] else int(np.argmin(np.where(lasts, at_m, np.inf)))
    nodes = {place: drawn.structure.node_of[place] for place in drawn.build.place_owners()}
    most = max(nodes, key=lambda place: float(rises[row, nodes[place]]))
    owned, source = drawn.build.place_owners()[most]
    return nodes[most], owned.name or source.name or most
