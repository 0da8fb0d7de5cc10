"""What else would go in: the free way of each slot and, in the plan, of each placed part, as the largest that still fits."""

from dataclasses import dataclass
from typing import Final

from krill.document.build import Build
from krill.document.parts import AnyPart, Fan, Radiator
from krill.fit.plan import Placed, Plan
from krill.fit.stack import FREE_SHARE, StackFit

#: thicknesses that fans and radiators are sold in, mm (common practice)
FANS_MM: Final = (10, 14, 15, 20, 25, 28, 30, 38)
RADIATORS_MM: Final = (28, 38, 45, 60)
#: a card keeps this to the panel at its end, a cooler to the lid (common practice)
CARD_END_MM: Final = 5.0
LID_MM: Final = 1.5


@dataclass(frozen=True, slots=True)
class Largest:
    """One line of the sheet of limits: what, the largest that goes in, and what is in now; mm."""

    what: str
    largest_mm: float
    now_mm: float | None
    of: str


def limits_of(build: Build, stacks: list[StackFit], plan: Plan) -> list[Largest]:
    """Thickest fan and radiator of each slot; longest and highest of what stands in the plan."""
    found: list[Largest] = []
    for fit in stacks:
        found += _of_slot(build, fit)
    if plan.inside_mm is not None:
        found += [limit for placed in plan.placed for limit in _of_placed(placed, plan)]
    return found


def _of_slot(build: Build, fit: StackFit) -> list[Largest]:
    """The thickest stock fan and radiator with which the slot still fits and breathes well where it has to."""
    if fit.left_mm is None or fit.half_mm is None:
        return []
    keeps = fit.half_mm if fit.span_mm is None else max(fit.half_mm, FREE_SHARE[1][1] * fit.span_mm)
    found = []
    for item in fit.standing:
        part: AnyPart | None = build.part(item.part) if item.part else None
        stock = FANS_MM if isinstance(part, Fan) else RADIATORS_MM if isinstance(part, Radiator) else ()
        free = item.thickness_mm + fit.left_mm - keeps
        largest = max((size for size in stock if size <= free), default=None)
        if stock:
            what = f"{'fan' if isinstance(part, Fan) else 'radiator'}, {fit.name}"
            found.append(Largest(f"Thickest {what}", float(largest or 0), item.thickness_mm, item.part or ""))
    return found


def _of_placed(placed: Placed, plan: Plan) -> list[Largest]:
    """How long and how high a part could be where it stands, before the next thing in its way."""
    assert plan.inside_mm is not None
    if placed.kind not in ("source", "supply", "cooler", "radiator"):
        return []
    sizes = [high - low for low, high in zip(placed.low_mm, placed.high_mm, strict=True)]
    long = 0 if sizes[0] >= sizes[1] else 1
    words = {"source": "Longest", "supply": "Longest", "radiator": "Longest", "cooler": "Widest"}
    along = sizes[long] + _free(placed, plan, long, CARD_END_MM)
    found = [Largest(f"{words[placed.kind]} {placed.name}", along, sizes[long], placed.part)]
    if placed.kind in ("cooler", "source"):
        found.append(Largest(f"Highest {placed.name}", sizes[2] + _up(placed, plan), sizes[2], placed.part))
    return found


def _free(placed: Placed, plan: Plan, axis: int, keeps: float) -> float:
    """Free way at both ends of a part along an axis, less what it keeps to each wall or neighbour; not less than nothing."""
    low, high = _ways(placed, plan, axis)
    return max(low - keeps, 0.0) + max(high - keeps, 0.0)


def _up(placed: Placed, plan: Plan) -> float:
    return max(_ways(placed, plan, 2)[1] - LID_MM, 0.0)


def _ways(placed: Placed, plan: Plan, axis: int) -> tuple[float, float]:
    """Free way before and behind a part along an axis to the nearest thing that stands in its shadow."""
    assert plan.inside_mm is not None
    before, behind = placed.low_mm[axis], plan.inside_mm[axis] - placed.high_mm[axis]
    across = [k for k in range(3) if k != axis]
    for other in plan.placed:
        if other.part == placed.part:
            continue
        if any(min(placed.high_mm[k], other.high_mm[k]) - max(placed.low_mm[k], other.low_mm[k]) <= 0 for k in across):
            continue
        if other.high_mm[axis] <= placed.low_mm[axis] + 0.1:
            before = min(before, placed.low_mm[axis] - other.high_mm[axis])
        elif other.low_mm[axis] >= placed.high_mm[axis] - 0.1:
            behind = min(behind, other.low_mm[axis] - placed.high_mm[axis])
    return before, behind
