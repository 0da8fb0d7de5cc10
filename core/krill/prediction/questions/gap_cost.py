"""What the room that a stack leaves costs: the whole network solved at other gaps, every row at once."""

from dataclasses import dataclass
from typing import Final

import numpy as np

from krill.document.build import Build
from krill.document.parts import Gap
from krill.fit.stack import LEAST_GAP_MM
from krill.prediction.answer.lasting import lasting, must_last
from krill.prediction.answer.solving import Solved, solve_cases, try_cases
from krill.prediction.answer.sound import sound_result
from krill.prediction.predict import cases_of

#: gaps that the curve is drawn through, mm
CURVE_MM: Final = (0.2, 0.5, 1.0, 1.5, 2.0, 3.0, 4.0, 5.0, 6.5, 8.0, 10.0, 12.0, 15.0, 20.0, 25.0, 30.0)
#: so far that it costs nothing: the loss of a close panel is below a thousandth of a velocity head
FREE_SPANS: Final = 10.0


@dataclass(frozen=True, slots=True, kw_only=True)
class GapCost:
    """Kelvins and decibels of a slot's rest against free room, for the place that it warms most; (mm, K) of the curve.

    A gap at which nothing settles has no kelvins.
    """

    slot: str
    gap: str
    workload: str
    left_mm: float
    place: str
    costs_k: float
    costs_dba: float
    curve: list[tuple[float, float | None]]


def gap_costs(build: Build, workload: str, room_c: float | None = None) -> list[GapCost]:
    """Of every slot whose rest is a gap in an air path, in the order of the slots."""
    gaps = {part.slot: part for part in build.parts if isinstance(part, Gap) and part.slot is not None}
    return [_cost(build, gaps[slot.id], workload, room_c) for slot in build.slots if slot.id in gaps]


def _cost(build: Build, gap: Gap, workload: str, room_c: float | None) -> GapCost:
    address = f"{gap.id}/gap_mm"
    cases = cases_of(build, [workload], room_c)
    now = solve_cases(build, cases)
    must_last(now, 0)
    left_mm = 1000.0 * now.figure(address, 0)
    free_m = FREE_SPANS * now.figure(f"{gap.id}/span_mm", 0)
    free = solve_cases(build, cases, overrides={address: free_m})
    at_m = np.array([*CURVE_MM, left_mm]) / 1000.0
    drawn = try_cases(build, cases, samples=len(at_m), draws={address: at_m})
    node, name = _warmed_most(now, free)
    rises = drawn.solution.temperature[1:, node] - free.solution.temperature[0, node]
    kelvins = np.where(lasting(drawn).settled[1:], rises, np.nan)
    curve = sorted((float(1000.0 * m), None if np.isnan(k) else float(k)) for m, k in zip(at_m, kelvins, strict=True))
    assert gap.slot is not None
    return GapCost(
        slot=gap.slot,
        gap=gap.id,
        workload=workload,
        left_mm=max(left_mm, LEAST_GAP_MM),
        place=name,
        costs_k=float(kelvins[-1]),
        costs_dba=sound_result(now, 0).total_dba - sound_result(free, 0).total_dba,
        curve=curve,
    )


def _warmed_most(now: Solved, free: Solved) -> tuple[int, str]:
    """(node, name) of the place that the gap warms most."""
    nodes = {place: now.structure.node_of[place] for place in now.build.place_owners()}
    rises = {
        place: float((now.solution.temperature - free.solution.temperature)[0, node]) for place, node in nodes.items()
    }
    most = max(rises, key=lambda place: rises[place])
    owned, source = now.build.place_owners()[most]
    return nodes[most], owned.name or source.name or most
