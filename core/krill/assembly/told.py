"""What the designer says beside what is proposed: steps worded, timed or left out, steps and rules of their own."""

from collections.abc import Mapping, Sequence
from dataclasses import replace

from krill.assembly.rules import Rule
from krill.assembly.steps import Step, step
from krill.document.assembly import StepTold
from krill.document.build import Build

#: own steps stand before these, unless a rule says otherwise
_TAIL = ("gate-insulated", "gate-fans-turn", "gate-earth", "gate-last-start", "close-panels")


def with_told_steps(build: Build, steps: Sequence[Step]) -> list[Step]:
    """Steps as the designer wants them."""
    by_at = {told.at: told for told in build.steps if told.at is not None}
    found = []
    for proposed in steps:
        said = _said_of(proposed, by_at)
        if said is None:
            found.append(proposed)
        elif not said.left_out:
            found.append(_worded(proposed, said))
    own = [_own(told) for told in build.steps if told.at is None and not told.left_out]
    tail = next((at for at, one in enumerate(found) if one.id in _TAIL), len(found))
    return [*found[:tail], *own, *found[tail:]]


def _said_of(proposed: Step, by_at: Mapping[str, StepTold]) -> StepTold | None:
    """What is said of a step by its own id; else of the first thing that goes in with it."""
    return next((by_at[item] for item in (proposed.id, *proposed.items[:1]) if item in by_at), None)


def _worded(proposed: Step, said: StepTold) -> Step:
    return replace(
        proposed,
        name=said.name or proposed.name,
        tool=proposed.tool if said.tool is None else said.tool,
        side=said.side or proposed.side,
        minutes=proposed.minutes if said.minutes is None else float(said.minutes),
        note=said.note or proposed.note,
        sees=tuple(said.sees) or proposed.sees,
    )


def _own(told: StepTold) -> Step:
    if told.gate:
        return Step(
            id=told.id,
            kind="gate",
            name=told.name,
            minutes=float(told.minutes or 0),
            note=told.note,
            gate=True,
            sees=tuple(told.sees),
        )
    made = replace(step("own", told.id, told.name, (told.id,)), note=told.note)
    return replace(
        made,
        tool=told.tool or "",
        side=told.side or "",
        minutes=made.minutes if told.minutes is None else float(told.minutes),
    )


def step_ids(steps: Sequence[Step]) -> dict[str, str]:
    """Whatever an order may name -> the step that it goes in with."""
    return {item: one.id for one in steps for item in one.items} | {one.id: one.id for one in steps}


def with_told_rules(build: Build, steps: Sequence[Step], proposed: Sequence[Rule]) -> list[Rule]:
    """Proposed rules but those that were dropped, and the designer's own."""
    of = step_ids(steps)
    dropped = {(of.get(one.first), of.get(one.then)) for one in build.assembly if not one.holds}
    kept = [rule for rule in proposed if (rule.first, rule.then) not in dropped]
    own = [
        Rule(of[one.first], of[one.then], one.why, "told")
        for one in build.assembly
        if one.holds and one.first in of and one.then in of and of[one.first] != of[one.then]
    ]
    return [*own, *kept]
