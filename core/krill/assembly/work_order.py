"""The order of the work: every step with why it stands where it does, gates with their latest moment, what hides what."""

from collections.abc import Sequence
from dataclasses import dataclass

from krill.assembly.hiding import Hides, hidden_things
from krill.assembly.order import changes_of, ordered
from krill.assembly.proposed_rules import proposed_rules
from krill.assembly.rules import Contradiction, Rule, RuleOf, Task, without_contradictions
from krill.assembly.steps import Parts, Step, proposed_steps
from krill.assembly.told import step_ids, with_told_rules, with_told_steps
from krill.assembly.undoing import Undoing, Unit, undoing
from krill.document.build import Build, leaves

#: a loop on its tubes comes out whole in so many minutes; drained, filled and watched again it costs so many more
WHOLE_LOOP_MIN, APART_MIN = 40.0, 110.0


@dataclass(frozen=True, slots=True)
class WhyFirst:
    """A rule that a step waits for: the step before, why, and whether practice, a place, somebody or need says so."""

    step: str
    why: str
    of: RuleOf


@dataclass(frozen=True, slots=True)
class WorkStep:
    """A step in its place. A gate names the first step that hides what it sees: the latest moment to look."""

    id: str
    kind: str
    name: str
    number: int | None
    gate: bool
    items: list[str]
    tool: str
    side: str
    minutes: float
    torque_nm: float | None
    note: str
    because: list[WhyFirst]
    hides: list[str]
    sees: list[str]
    before: str | None
    watch_h: float | None
    looks_h: list[float]


@dataclass(frozen=True, slots=True)
class Thread:
    """A thing that must be reached or seen: the step it goes in with, the one that hides it, and what comes out again to
    reach it once all is done."""

    thing: str
    name: str
    step: str
    hidden_by: str
    why: str
    undo: Undoing


@dataclass(frozen=True, slots=True)
class OrderConflict:
    """Rules that contradict each other as a sentence, and the one that was dropped so that an order exists."""

    says: str
    steps: list[str]
    first: str
    then: str
    of: RuleOf


@dataclass(frozen=True, slots=True)
class WorkOrder:
    """An order that works, with how often it changes the tool or the side."""

    steps: list[WorkStep]
    threads: list[Thread]
    conflicts: list[OrderConflict]
    changes: int
    minutes: float

    def exchange_minutes(self, part: str) -> float | None:
        """Minutes to take a part out of the finished machine and put another in; None where it is in no step."""
        step = next((one for one in self.steps if part == one.id or part in one.items), None)
        if step is None:
            return None
        undo = next((thread.undo.minutes for thread in self.threads if thread.thing == step.id), 0.0)
        return undo + 2 * step.minutes


def work_order(build: Build) -> WorkOrder:
    """The order of the work of a build: proposed steps and rules, with what the designer says beside them."""
    parts = Parts(build)
    steps = with_told_steps(build, proposed_steps(build))
    hides = hidden_things(parts, steps)
    tasks = [Task(one.id, one.tool, one.side, one.minutes) for one in steps]
    rules = with_told_rules(build, steps, proposed_rules(parts, steps, hides))
    kept, contradictions = without_contradictions(tasks, rules)
    gates = [one.id for one in steps if one.gate]
    order = _soon(ordered(tasks, kept), gates, kept)
    return _told(build, steps, order, kept, hides, contradictions)


def _soon(order: list[Task], gates: Sequence[str], kept: Sequence[Rule]) -> list[Task]:
    """Gates as soon as whatever must come before them is done: what does not work is found early."""
    for gate in gates:
        before = {rule.first for rule in kept if rule.then == gate}
        own = next(task for task in order if task.id == gate)
        rest = [task for task in order if task.id != gate]
        at = max((i + 1 for i, task in enumerate(rest) if task.id in before), default=order.index(own))
        order = [*rest[:at], own, *rest[at:]]
    return order


def _told(
    build: Build,
    steps: Sequence[Step],
    order: list[Task],
    kept: Sequence[Rule],
    hides: Sequence[Hides],
    contradictions: Sequence[Contradiction],
) -> WorkOrder:
    by_id = {one.id: one for one in steps}
    place = {task.id: at for at, task in enumerate(order)}
    covers: dict[str, set[str]] = {}
    for one in hides:
        if place[one.step] > place[one.thing]:
            covers.setdefault(one.step, set()).add(one.thing)
    found, number = [], 0
    for task in order:
        own = by_id[task.id]
        number += not own.gate
        found.append(_work_step(own, number, place, kept, hides))
    units = _units(build, steps)
    threads = [
        Thread(one.thing, one.name, one.thing, one.step, one.why, undoing(order, covers, one.thing, units))
        for one in _first_hidden(hides, place)
    ]
    return WorkOrder(
        steps=found,
        threads=threads,
        conflicts=[_conflict(one, by_id) for one in contradictions],
        changes=changes_of(order),
        minutes=sum(task.minutes for task in order),
    )


def _first_hidden(hides: Sequence[Hides], place: dict[str, int]) -> list[Hides]:
    """Of each thing the step that hides it first, in the order in which things go in."""
    first: dict[str, Hides] = {}
    for one in sorted(hides, key=lambda one: place[one.step]):
        if place[one.step] > place[one.thing]:
            first.setdefault(one.thing, one)
    return sorted(first.values(), key=lambda one: place[one.thing])


def _work_step(own: Step, number: int, place: dict[str, int], kept: Sequence[Rule], hides: Sequence[Hides]) -> WorkStep:
    before = {rule.first: rule for rule in reversed(kept) if rule.then == own.id and rule.first in place}
    because = [WhyFirst(rule.first, rule.why, rule.of) for rule in before.values()]
    hiding = [one.step for one in hides if one.thing in own.sees and one.step not in own.sees]
    later = [step for step in hiding if place[step] > place[own.id]]
    return WorkStep(
        id=own.id,
        kind=own.kind,
        name=own.name,
        number=None if own.gate else number,
        gate=own.gate,
        items=list(own.items),
        tool=own.tool,
        side=own.side,
        minutes=own.minutes,
        torque_nm=own.torque_nm,
        note=own.note,
        because=sorted(because, key=lambda why: -place[why.step]),
        hides=[one.thing for one in hides if one.step == own.id],
        sees=list(own.sees),
        before=min(later, key=place.__getitem__, default=None),
        watch_h=own.watch_h,
        looks_h=list(own.looks_h),
    )


def _units(build: Build, steps: Sequence[Step]) -> list[Unit]:
    of = step_ids(steps)
    found = []
    for loop in build.loops:
        own = frozenset(of[item] for item in leaves(loop.elements) if item in of) | {of.get(loop.id, loop.id)}
        found.append(Unit(own, WHOLE_LOOP_MIN, APART_MIN))
    return found


def _conflict(one: Contradiction, by_id: dict[str, Step]) -> OrderConflict:
    said = "; ".join(f"{by_id[rule.first].name} before {by_id[rule.then].name}: {rule.why}" for rule in one.rules)
    drop = f"{by_id[one.drop.first].name} before {by_id[one.drop.then].name}"
    return OrderConflict(
        says=f"These cannot all hold. {said}. Dropped: {drop}.",
        steps=[rule.first for rule in one.rules],
        first=one.drop.first,
        then=one.drop.then,
        of=one.drop.of,
    )
