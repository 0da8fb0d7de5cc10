"""What hides what: a step that covers things which somebody must still reach or see."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.assembly.steps import Parts, Step
from krill.document.fit import parts_in
from krill.document.leads import Lead
from krill.document.part_base import Face
from krill.document.parts import AnyPart
from krill.fit.boxes import reach
from krill.fit.placed_boxes import SIDES, boxes_of

Array = NDArray[np.float64]
#: overlaps of less stand in nobody's way, mm
_SLACK_MM: Final = 1.0


@dataclass(frozen=True, slots=True)
class Hides:
    """A step that hides the things of another one: which of them, in words, and why. ``blocks`` where it stands in its way
    in as well."""

    step: str
    thing: str
    name: str
    why: str
    blocks: bool = False


def hidden_things(parts: Parts, steps: Sequence[Step]) -> list[Hides]:
    """Everything that some step hides, by kinds of parts and by where they stand."""
    by_kind: dict[str, list[Step]] = {}
    for step in steps:
        by_kind.setdefault(step.kind, []).append(step)
    found = [
        *_by_kinds(by_kind),
        *_by_slots(parts, steps),
        *_by_places(parts, steps),
        *_processor_leads(parts, steps),
    ]
    return list({(one.step, one.thing): one for one in reversed(found)}.values())[::-1]


#: (kind that hides, kind that is hidden, what of it, why)
_USUAL: Final = (
    ("board", "bracket", "back bracket", "the board lies on it"),
    ("board", "insulator", "insulating sheet", "the board lies on it"),
    ("supply", "supply_leads", "supply's sockets", "they look at the wall once it is screwed in"),
    ("cooler", "processor", "processor", "it lies under the cooler"),
    ("processor_plate", "processor", "processor", "it lies under the plate"),
    ("memory", "front_leads", "front pins", "memory stands over them"),
    ("close", "fan", "fan arrow", "the panels cover it"),
    ("close", "radiator", "fan arrow", "the panels cover it"),
    ("close", "tubes", "joints", "the panels cover them"),
    ("close", "memory", "memory", "the panels cover it"),
    ("close", "drive", "drive", "the panels cover it"),
    ("close", "card", "card's plugs", "the panels cover them"),
    ("close", "supply", "earth screw", "the panels cover it"),
    ("close", "cooler", "cooler's screws", "the panels cover them"),
    ("close", "processor_plate", "plate's screws", "the panels cover them"),
)


def _by_kinds(by_kind: dict[str, list[Step]]) -> list[Hides]:
    return [
        Hides(over.id, under.id, what, why)
        for hider, hidden, what, why in _USUAL
        for over in by_kind.get(hider, ())
        for under in by_kind.get(hidden, ())
    ]


def _by_slots(parts: Parts, steps: Sequence[Step]) -> list[Hides]:
    """What a slot ends at stands behind its stack."""
    step_of = {item: step for step in steps for item in step.items}
    found = []
    for slot in parts.build.slots:
        behind = [part for part in parts.build.parts if slot.ends_at.lower() in (part.id, part.name.lower())]
        radiators = [item for item in parts_in(slot) if item and parts.build.part(item).kind == "radiator"]
        for part in behind:
            for radiator in radiators:
                under, over = step_of.get(part.id), step_of.get(radiator)
                if under is not None and over is not None and under.id != over.id:
                    found.append(Hides(over.id, under.id, _name(part), f"{slot.name or slot.id} ends at it"))
    return found


def _processor_leads(parts: Parts, steps: Sequence[Step]) -> list[Hides]:
    """Coolers hide the sockets round them: the processor's feed, and the fan plugs."""
    boards = {source.id for source in parts.sources("board")}
    feeds = {lead.id: lead for lead in parts.build.leads if lead.class_ in ("feed_8", "feed_8_flat")}
    to_board = [lead for lead in feeds.values() if boards & {lead.from_part, lead.to_part}]
    coolers = [step for step in steps if step.kind == "cooler"]
    return [
        Hides(cooler.id, step.id, lead.name or "processor plug", "the cooler stands over its socket")
        for cooler in coolers
        for lead in to_board
        if (step := _step_of(steps, lead)) is not None and step.id != cooler.id
    ]


def _step_of(steps: Sequence[Step], lead: Lead) -> Step | None:
    return next((step for step in steps if lead.id in step.items), None)


def _by_places(parts: Parts, steps: Sequence[Step]) -> list[Hides]:
    """What stands in the way in of what: boxes over a part, seen from the face that it goes in from."""
    boxes = boxes_of(parts.build)
    if not boxes.parts:
        return []
    size = reach(boxes.half, boxes.turned)
    low, high = boxes.middle - size, boxes.middle + size
    step_of = {item: step for step in steps for item in step.items}
    found = []
    for at, part in enumerate(boxes.parts):
        face = way_in(part)
        own = step_of.get(part.id)
        if face is None or own is None:
            continue
        for other in _in_the_way(low, high, at, face):
            over = step_of.get(boxes.parts[other].id)
            if over is not None and over.id != own.id:
                why = f"{_name(boxes.parts[other])} stands in its way in from the {face}"
                found.append(Hides(over.id, own.id, _name(part), why, blocks=True))
    return found


def way_in(part: AnyPart) -> Face | None:
    """The face that a part goes in from: as told, else the one it is reached from."""
    if part.outline is None:
        return None
    return part.outline.goes_in_from or part.outline.reached_from


def _in_the_way(low: Array, high: Array, at: int, face: Face) -> list[int]:
    """Boxes between a box and a face, over its whole section."""
    axis, side = SIDES[face]
    across = [k for k in range(3) if k != axis]
    beyond = low[:, axis] > high[at, axis] - _SLACK_MM if side > 0 else high[:, axis] < low[at, axis] + _SLACK_MM
    over = np.all(
        (low[:, across] < high[at, across] - _SLACK_MM) & (high[:, across] > low[at, across] + _SLACK_MM), axis=1
    )
    hit = beyond & over
    hit[at] = False
    return [int(i) for i in np.flatnonzero(hit)]


def _name(part: AnyPart) -> str:
    return part.name or part.id
