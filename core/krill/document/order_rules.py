"""Feeds, order, steps and dues: references that end somewhere, nothing that feeds or follows itself."""

from collections.abc import Iterable, Iterator, Mapping
from datetime import date
from graphlib import CycleError, TopologicalSorter
from itertools import pairwise
from typing import Final, get_args

from krill.document.assembly import CUT, LEADS_OF, PREPARE, FirmwareStep, GateKind
from krill.document.build import Build
from krill.document.fit_rules import Missing
from krill.document.part_base import Face
from krill.errors import Problem

#: what an order may name beside things of the document: gates, steps of the machine, faces that are cut
_ALWAYS: Final = {
    *get_args(GateKind),
    *get_args(FirmwareStep),
    *(f"{CUT}{face}" for face in get_args(Face)),
}


def orderable(build: Build) -> set[str]:
    """Ids that an order may name: whatever goes in, fills, is prepared, cut or looked at."""
    parts = [part.id for part in build.parts]
    lists = (build.leads, build.insulators, build.loops, build.steps)
    return nameable(parts, [str(item.id) for items in lists for item in items])


def nameable(parts: Iterable[str], things: Iterable[str]) -> set[str]:
    """Ids that an order may name, from those of parts and of leads, sheets, loops and steps."""
    ids = list(parts)
    return {*_ALWAYS, *ids, *things, *(f"{start}{part}" for start in (PREPARE, LEADS_OF) for part in ids)}


def order_references(build: Build, missing: Missing) -> Iterator[Problem]:
    """Ids that feeds, dues and machines name, and those of the order."""
    for feed in build.feeds:
        yield from missing(f"{feed.id}/fed_by", [feed.fed_by] if feed.fed_by else [], "feed")
    for part in build.parts:
        yield from missing(f"{part.id}/also_fed", part.also_fed, "feed")
        yield from missing(f"{part.id}/machine", [part.machine] if part.machine else [], "machine")
    for due in build.dues:
        yield from missing(f"{due.id}/part", [due.part] if due.part else [], "part")
    known = orderable(build)
    for at, blocker in enumerate(build.assembly):
        for field, item in (("first", blocker.first), ("then", blocker.then)):
            yield from _unknown(f"assembly/{at}/{field}", item, known)
    for step in build.steps:
        yield from _unknown(f"{step.id}/at", step.at, known)
        for item in step.sees:
            yield from _unknown(f"{step.id}/sees", item, known)


def _unknown(where: str, item: str | None, known: set[str]) -> Iterator[Problem]:
    if item is not None and item not in known:
        yield Problem(where, f"there is nothing '{item}' that goes in", ", ".join(sorted(known)))


def order_problems(build: Build) -> Iterator[Problem]:
    """What feeds itself, what comes before itself, and days that are not in the calendar."""
    fed = {feed.id: [feed.fed_by] if feed.fed_by else [] for feed in build.feeds}
    for cycle in _cycles(fed):
        yield Problem(
            f"{cycle[0]}/fed_by", f"feeds itself: {' on '.join(cycle)}", "a way that ends at a supply or a wall"
        )
    before: dict[str, list[str]] = {}
    for blocker in build.assembly:
        if blocker.holds:
            before.setdefault(blocker.then, []).append(blocker.first)
    for cycle in _cycles(before):
        yield Problem("assembly", f"comes before itself: {' before '.join(cycle)}", "an order that has a beginning")
    told: dict[str, str] = {}
    for step in build.steps:
        if step.at is not None and step.at in told:
            yield Problem(f"{step.id}/at", f"'{told[step.at]}' says something of '{step.at}' already", "one a step")
        if step.at is not None:
            told[step.at] = step.id
        elif not step.name:
            yield Problem(f"{step.id}/name", "is missing", "what is done, or the step that this says something of")
    for item in [*build.parts, *build.feeds]:
        yield from _day(f"{item.id}/due_on", item.due_on)
    for due in build.dues:
        yield from _day(f"{due.id}/next_on", due.next_on)


def _cycles(before: Mapping[str, Iterable[str]]) -> Iterator[list[str]]:
    """One cycle, in the order of the work, where there is one."""
    try:
        TopologicalSorter(before).prepare()
    except CycleError as error:
        found: list[str] = error.args[1]
        yield found if _forward(found, before) else found[::-1]


def _forward(cycle: list[str], before: Mapping[str, Iterable[str]]) -> bool:
    return all(first in before.get(then, ()) for first, then in pairwise(cycle))


def _day(where: str, day: str | None) -> Iterator[Problem]:
    if day is None:
        return
    try:
        date.fromisoformat(day)
    except ValueError:
        yield Problem(where, f"there is no {day}", "a day of the calendar, year-month-day")
