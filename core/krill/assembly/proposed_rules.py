"""What common practice, the parts and their places say about what goes in before what."""

from collections.abc import Iterator, Sequence
from typing import Final, get_args

from krill.assembly.hiding import Hides
from krill.assembly.rules import Rule, RuleOf
from krill.assembly.steps import Parts, Step
from krill.document.assembly import PREPARE
from krill.document.part_base import Face

#: (kind, kind, why, how firmly): every step of the first before every one of the second
_BETWEEN: Final[tuple[tuple[str, str, str, RuleOf], ...]] = (
    ("cut", "board", "chips of metal get into everything that is in already", "usual"),
    ("cut", "supply", "chips of metal get into everything that is in already", "usual"),
    ("firmware", "gate-bench-start", "what does not start with its firmware does not start", "usual"),
    ("supply_leads", "supply", "its sockets are out of reach once it is screwed in", "usual"),
    ("bracket", "board", "its back is out of reach once the board is in", "usual"),
    ("processor", "bracket", "the frame lies round it", "usual"),
    ("board", "front_leads", "they end on it", "needed"),
    ("board", "card", "its slot is on it", "needed"),
    ("front_leads", "memory", "memory stands over the pins", "usual"),
    ("memory", "cooler", "a cooler overhangs the slots", "usual"),
    ("board", "processor_plate", "a plate on its tubes cannot be carried in with the board", "usual"),
    ("radiator", "supply", "behind the supply it cannot be screwed", "usual"),
    ("card_plate", "card", "the plate goes on outside, on a flat table", "usual"),
    ("pump", "tubes", "tubes end on it", "needed"),
    ("reservoir", "tubes", "tubes end on it", "needed"),
    ("radiator", "tubes", "tubes end on it", "needed"),
    ("processor_plate", "tubes", "tubes end on it", "needed"),
    ("card_plate", "tubes", "tubes end on it", "needed"),
    ("card", "tubes", "tubes end on it", "needed"),
    ("loop_part", "tubes", "tubes end on it", "needed"),
    ("tubes", "fill", "what is open runs out", "needed"),
    ("heat_pipe", "sink", "the pipes lie in its grooves", "usual"),
    ("spreader", "heat_pipe", "the pipes begin in it", "usual"),
)
#: kinds that belong into the housing: all of them after the start on the bench
_IN_THE_BOX: Final = ("supply", "board", "front_leads", "radiator", "fan", "pump", "reservoir", "card_plate", "card")
#: nothing in the box is powered before these
_BEFORE_POWER: Final = ("gate-insulated", "gate-earth", "gate-leak-watch", "gate-fans-turn", "gate-pump-moves")


def proposed_rules(parts: Parts, steps: Sequence[Step], hides: Sequence[Hides]) -> list[Rule]:
    """Every rule between steps that are there."""
    return [
        *_between_kinds(steps),
        *_preparations(parts, steps),
        *_pressed(parts, steps),
        *_sheets(parts, steps),
        *_gates(steps),
        *_last(steps),
        *_seen_before_hidden(steps, hides),
        *(Rule(one.thing, one.step, one.why, "blocks") for one in hides if one.blocks),
    ]


def _between_kinds(steps: Sequence[Step]) -> Iterator[Rule]:
    for first, then, why, of in _BETWEEN:
        for a in steps:
            for b in steps:
                if first in (a.kind, a.id) and then in (b.kind, b.id):
                    yield Rule(a.id, b.id, why, of)


def _preparations(parts: Parts, steps: Sequence[Step]) -> Iterator[Rule]:
    """What is printed or freed of its label goes in afterwards."""
    step_of = {item: step.id for step in steps for item in step.items}
    for part in parts.build.parts:
        made = f"{PREPARE}{part.id}"
        if made in step_of and part.id in step_of:
            yield Rule(step_of[made], step_of[part.id], "it is prepared before it goes in", "needed")


def _pressed(parts: Parts, steps: Sequence[Step]) -> Iterator[Rule]:
    """What is pressed on something comes after it; paste last, just before."""
    step_of = {item: step for step in steps for item in step.items}
    for source, pressed in parts.pressed_by.items():
        for part in pressed:
            under, over = step_of.get(source), step_of.get(part)
            if under is not None and over is not None and over.kind != "card_plate" and under.id != over.id:
                yield Rule(under.id, over.id, "paste goes on last, just before what is pressed on it", "needed")


def _sheets(parts: Parts, steps: Sequence[Step]) -> Iterator[Rule]:
    """A sheet lies before what it insulates from a face; between two parts it is in before the second of them."""
    step_of = {item: step for step in steps for item in step.items}
    faces = get_args(Face)
    for sheet in parts.build.insulators:
        sides = [step_of[side] for side in (sheet.first, sheet.second) if side not in faces and side in step_of]
        if sheet.id in step_of and sides:
            last = sides[0] if len(sides) == 1 else max(sides, key=steps.index)
            yield Rule(sheet.id, last.id, "the sheet lies under it before first power", "usual")


def _gates(steps: Sequence[Step]) -> Iterator[Rule]:
    """What is looked at is there; what is on the bench comes before what is built in; first power after all of these."""
    ids = {step.id for step in steps}
    for gate in (step for step in steps if step.gate and step.id != "gate-bench-start"):
        for seen in gate.sees:
            yield Rule(seen, gate.id, "it looks at what went in then", "needed")
    if "gate-bench-start" in ids:
        for step in steps:
            if step.kind in _IN_THE_BOX:
                yield Rule("gate-bench-start", step.id, "a faulty part is found before it is built in", "usual")
    for before in _BEFORE_POWER:
        if {before, "gate-last-start"} <= ids:
            yield Rule(before, "gate-last-start", "before first power in the box", "needed")
    if {"gate-insulated", "gate-memory-found"} <= ids:
        yield Rule("gate-insulated", "gate-memory-found", "before first power in the box", "needed")
    yield from _wet(steps)


def _wet(steps: Sequence[Step]) -> Iterator[Rule]:
    """A closed loop is filled, then moved, then watched."""
    ids = {step.id for step in steps}
    for fill in (step.id for step in steps if step.kind == "fill"):
        if "gate-loop-closed" in ids:
            yield Rule("gate-loop-closed", fill, "never against a closed end", "needed")
        for wet in ("gate-pump-moves", "gate-leak-watch"):
            if wet in ids:
                yield Rule(fill, wet, "there is coolant to look at", "needed")
    if {"gate-pump-moves", "gate-leak-watch"} <= ids:
        yield Rule("gate-pump-moves", "gate-leak-watch", "a loop that has not been moved is not tight yet", "needed")


def _last(steps: Sequence[Step]) -> Iterator[Rule]:
    """The start before the last panel, and the panels last of all."""
    ids = [step.id for step in steps]
    closing, start = "close-panels", "gate-last-start"
    for step in steps:
        if step.id not in (closing, start) and start in ids:
            yield Rule(step.id, start, "everything is in before it is started", "usual")
        if step.id != closing and closing in ids:
            of: RuleOf = "usual" if step.kind == "own" else "needed"
            yield Rule(step.id, closing, "the panels close everything", of)


def _seen_before_hidden(steps: Sequence[Step], hides: Sequence[Hides]) -> Iterator[Rule]:
    """A gate comes before what hides the things it sees."""
    for gate in (step for step in steps if step.gate):
        for one in hides:
            if one.thing in gate.sees and one.step not in gate.sees:
                yield Rule(gate.id, one.step, f"{one.name} cannot be seen any more: {one.why}", "usual")
