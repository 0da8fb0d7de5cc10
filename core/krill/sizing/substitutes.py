"""What else of a shelf could stand in a part's place: the nearest by its figures, and what each does to the whole."""

from collections.abc import Iterable
from dataclasses import dataclass
from math import exp, log
from typing import Any, Final

import numpy as np

from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.document.figures import detail
from krill.document.parts import AnyPart, Plate
from krill.document.reading import write_object
from krill.document.shelf import ShelfItem, ShelfPart
from krill.document.solids import Interface
from krill.errors import DocumentRefused, NotConverged, Problem
from krill.fit.extents import extent_of
from krill.networks.states import Case
from krill.prediction.answer.lasting import no_state
from krill.prediction.answer.solving import Solved, solve_cases
from krill.prediction.answer.sound import total_levels
from krill.prediction.answer.workload_states import worst_workload
from krill.prediction.predict import cases_of
from krill.sizing.result import Edit
from krill.sizing.steps.step import edited

#: so many of the nearest are solved
MOST: Final = 3
#: what differs by less is the same part again
SAME: Final = 1 + 1e-9
#: a figure that one of two has and the other lacks counts like one that is so many times as large
LACKS: Final = 2.0
#: what differs more stands for something else
MOST_APART: Final = 3.0
#: what says where a part stands, how much of it there is and what it is fed by, not what it is
PLACED: Final = (
    *("face", "direction", "feed", "also_fed", "machine", "inside", "outside", "lies"),
    *("area_cm2", "length_m", "bends", "count", "leak_zone"),
)
#: kinds that are cut to size: what stands in their place is cut to the same
CUT_TO_SIZE: Final[dict[str, tuple[str, ...]]] = {"panel": ("width_mm", "height_mm")}
#: what a layer lies on, at the end of its class
LIES_ON: Final = ("chip", "lid")
#: thin layers stand for each other
THIN: Final = ("paste", "phase", "graphite", "liquid")


@dataclass(frozen=True, slots=True, kw_only=True)
class Substitute:
    """A part of the shelf in another's place: kelvins won on the ``place`` that feels it most, decibels, millimetres.

    ``apart`` is how many times its figures differ, 1 for the same; ``larger_mm`` is None where a size is unknown, and
    what it does is unknown where ``why_not`` says why it cannot stand there. ``part`` goes in as it stands.
    """

    item: str
    name: str
    part: dict[str, Any]
    apart: float
    place: str
    won_k: float | None
    louder_db: float | None
    larger_mm: list[float] | None
    price: float | None
    tried: list[str]
    why_not: str


def substitutes(
    build: Build, part_id: str, items: Iterable[ShelfItem], workload: str | None = None
) -> list[Substitute]:
    """The nearest of the shelf's items of a part's kind, nearest first, in a workload or the brief's hardest.

    DocumentRefused names a part or workload that is not there; NotConverged where the build itself does not settle.
    """
    part = next((one for one in build.parts if one.id == part_id), None)
    if part is None:
        raise DocumentRefused([Problem(part_id, "there is no such part", "a part of the build")])
    if not build.workloads:
        raise DocumentRefused([Problem("workloads", "the build has no workload", "at least one")])
    near = []
    for item in items:
        if item.part.kind == part.kind and _could_stand_for(part, item.part):
            try:
                other = exchanged(build, part, item.part)
            except DocumentRefused:
                continue
            near.append((times_apart(build, other, part_id), item, other))
    others = sorted((one for one in near if SAME < one[0] <= MOST_APART), key=lambda one: (one[0], one[1].name))
    case = cases_of(build, [workload or worst_workload(build)], None, throttles=False)[0]
    before = solve_cases(build, [case])
    return [_substitute(before, case, part, *one) for one in others[:MOST]]


def _could_stand_for(part: AnyPart, other: ShelfPart) -> bool:
    """Not the bare class that it is of already, no plate for another chip, no layer that would not close the gap."""
    own, new = part.class_ or "", getattr(other, "class_", None) or ""
    if own and own == new and other.model_fields_set <= {"id", "kind", "class_", "name"}:
        return False
    if isinstance(part, Plate):
        return not own or not new or own.split("_")[:2] == new.split("_")[:2]
    return not isinstance(part, Interface) or _same_layer(own.split("_"), new.split("_"))


def _same_layer(own: list[str], new: list[str]) -> bool:
    """Thin ones for thin ones on the same face; a gap is filled by a pad as thick or by putty."""
    if own[-1] in LIES_ON and new[-1] in LIES_ON and own[-1] != new[-1]:
        return False
    if own[0] in THIN:
        return new[0] in THIN and "dry" not in new
    return new[0] == "putty" or new[:2] == own[:2]


def exchanged(build: Build, part: AnyPart, other: ShelfPart) -> Build:
    """The build with another part where one stood, fed as that was. DocumentRefused where it cannot stand there."""
    old: dict[str, Any] = next(one for one in write_object(build)["parts"] if one["id"] == part.id)
    new = other.model_dump(mode="json", by_alias=True, exclude_unset=True)
    stays = {key: old[key] for key in (*PLACED, *CUT_TO_SIZE.get(part.kind, ())) if key in old}
    return edited(build, (Edit(target="parts", field="=", value={**new, **stays, "id": part.id}),))


def times_apart(build: Build, other: Build, part_id: str) -> float:
    """How many times the figures of a part differ between two builds, on average over those that either has."""
    own, new = (_figures(one, part_id) for one in (build, other))
    apart = [
        abs(log(own[key] / new[key])) if key in own and key in new else log(LACKS) for key in own.keys() | new.keys()
    ]
    return exp(float(np.mean(apart))) if apart else 1.0


def _figures(build: Build, part_id: str) -> dict[str, float]:
    """Every figure and plain number above zero of a part."""
    part = next(one for one in build.parts if one.id == part_id)
    plain = {
        f"{part_id}/{key}": float(value)
        for key, value in part
        if isinstance(value, int | float) and not isinstance(value, bool)
    }
    known = {key: one.value for key, one in FigureTable(build).figures.items() if key.startswith(f"{part_id}/")}
    return {key: value for key, value in (plain | known).items() if value > 0}


def _substitute(before: Solved, case: Case, part: AnyPart, apart: float, item: ShelfItem, other: Build) -> Substitute:
    place, won, louder, why_not = "", None, None, ""
    try:
        after = solve_cases(other, [case])
        none = no_state(after, 0)
        if none is None:
            place, won = _felt_most(before, after)
            louder = float(total_levels(after)[0] - total_levels(before)[0])
        else:
            why_not = none.what
    except (DocumentRefused, NotConverged) as error:
        why_not = str(error)
    price = getattr(item.part, "price", None)
    return Substitute(
        item=item.id,
        name=item.name,
        part=next(one for one in write_object(other)["parts"] if one["id"] == part.id),
        apart=apart,
        place=place,
        won_k=won,
        louder_db=louder,
        larger_mm=_larger(part, next(one for one in other.parts if one.id == part.id)),
        price=None if price is None else float(detail(price).value),
        tried=[note.word for note in item.tried],
        why_not=why_not,
    )


def _felt_most(before: Solved, after: Solved) -> tuple[str, float]:
    """The place whose temperature changes most, and the kelvins that it wins."""
    nodes = before.structure.node_of, after.structure.node_of
    T = before.solution.temperature[0], after.solution.temperature[0]
    won = {
        place.name or at: float(T[0][nodes[0][at]] - T[1][nodes[1][at]])
        for at, (place, _) in before.build.place_owners().items()
        if at in nodes[0] and at in nodes[1]
    }
    most = max(won, key=lambda name: abs(won[name]), default="")
    return most, won.get(most, 0.0)


def _larger(part: AnyPart, other: AnyPart) -> list[float] | None:
    old, new = extent_of(part), extent_of(other)
    if old is None or new is None:
        return None
    return [b.mm - a.mm for a, b in zip(old.measures, new.measures, strict=True)]
