"""An order that works: every rule kept, as few changes of tool and of side as can be, else as proposed."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final

from krill.assembly.rules import Rule, Task
from krill.errors import KrillError

#: half-done orders that are followed at a time; up to twelve tasks all of them are
WIDTH: Final = 48
_EXACT_TASKS: Final = 12


@dataclass(frozen=True, slots=True)
class _Half:
    """An order as far as it goes: changes so far and at least still to come, places of its tasks in the proposal, the tool
    and side at hand."""

    changes: int
    to_come: int
    places: tuple[int, ...]
    done: int
    tool: str
    side: str


def changes_of(tasks: Sequence[Task]) -> int:
    """How often an order changes the tool, and the side that is worked from; what names neither changes nothing."""
    changes, tool, side = 0, "", ""
    for task in tasks:
        more, tool, side = _next(task, tool, side)
        changes += more
    return changes


def ordered(tasks: Sequence[Task], rules: Sequence[Rule]) -> list[Task]:
    """Tasks in an order that keeps every rule; of those with the fewest changes found, the one nearest the proposal.

    Exact for up to twelve tasks; beyond, the best of what 48 half-done orders at a time find. Rules of tasks that are not
    there count for nothing. KrillError where the rules contradict each other.
    """
    place = {task.id: at for at, task in enumerate(tasks)}
    before = [0] * len(tasks)
    for rule in rules:
        if rule.first in place and rule.then in place:
            before[place[rule.then]] |= 1 << place[rule.first]
    halves = [_Half(0, 0, (), 0, "", "")]
    users = [*_users([task.tool for task in tasks]), *_users([task.side for task in tasks])]
    for _ in tasks:
        halves = _further(halves, tasks, before, users)
        if not halves:
            raise KrillError("the rules contradict each other: no order keeps them all")
    return [tasks[at] for at in halves[0].places]


def _users(wanted: Sequence[str]) -> list[tuple[str, int]]:
    """Each tool, or side, with the tasks that want it as bits."""
    found: dict[str, int] = {}
    for at, one in enumerate(wanted):
        if one:
            found[one] = found.get(one, 0) | 1 << at
    return list(found.items())


def _further(
    halves: list[_Half], tasks: Sequence[Task], before: list[int], users: Sequence[tuple[str, int]]
) -> list[_Half]:
    """Every half-done order one task further, one of each state, the best first."""
    best: dict[tuple[int, str, str], _Half] = {}
    for half in halves:
        for at, task in enumerate(tasks):
            if half.done >> at & 1 or before[at] & ~half.done:
                continue
            more, tool, side = _next(task, half.tool, half.side)
            done, places = half.done | 1 << at, (*half.places, at)
            state = (done, tool, side)
            known = best.get(state)
            if known is not None and (known.changes, known.places) <= (half.changes + more, places):
                continue
            to_come = sum(1 for one, wants in users if wants & ~done and one not in (tool, side))
            best[state] = _Half(half.changes + more, to_come, places, done, tool, side)
    found = sorted(best.values(), key=_rank)
    return found if len(tasks) <= _EXACT_TASKS else found[:WIDTH]


def _rank(half: _Half) -> tuple[int, tuple[int, ...]]:
    return half.changes + half.to_come, half.places


def _next(task: Task, tool: str, side: str) -> tuple[int, str, str]:
    """Changes that a task asks for, and the tool and side at hand after it."""
    new_tool, new_side = task.tool or tool, task.side or side
    changes = (tool != "" and new_tool != tool) + (side != "" and new_side != side)
    return changes, new_tool, new_side
