"""What comes before what: tasks, rules between them, rules that contradict each other and which of them to drop."""

from collections import deque
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Final, Literal

#: why a rule stands: practice proposes it, a place blocks a way in, somebody said so, or it cannot be otherwise
RuleOf = Literal["usual", "blocks", "told", "needed"]
#: what is dropped first where rules contradict each other
_WEAKEST_FIRST: Final[tuple[RuleOf, ...]] = ("usual", "blocks", "told", "needed")


@dataclass(frozen=True, slots=True)
class Task:
    """One thing to do, with the tool in the hand, the side of the housing that it is done from, and minutes planned."""

    id: str
    tool: str = ""
    side: str = ""
    minutes: float = 0.0


@dataclass(frozen=True, slots=True)
class Rule:
    """``first`` before ``then``, because ``why``."""

    first: str
    then: str
    why: str = ""
    of: RuleOf = "usual"


@dataclass(frozen=True, slots=True)
class Contradiction:
    """Rules that lead back to where they began, in their order, and the one that is dropped so that an order exists."""

    rules: list[Rule]
    drop: Rule


def without_contradictions(tasks: Sequence[Task], rules: Iterable[Rule]) -> tuple[list[Rule], list[Contradiction]]:
    """Rules that an order can keep, and every contradiction with what was dropped for it.

    Of each knot the shortest circle is named; of its rules the weakest is dropped, the last where several are. A rule that
    was dropped and contradicts nothing that is left is taken back.
    """
    kept = [rule for rule in dict.fromkeys(rules) if rule.first != rule.then]
    names = [task.id for task in tasks]
    found: list[Contradiction] = []
    while (circle := _shortest_circle(names, kept)) is not None:
        drop = min(reversed(circle), key=lambda rule: _WEAKEST_FIRST.index(rule.of))
        found.append(Contradiction(circle, drop))
        kept = [rule for rule in kept if rule != drop]
    for one in list(found):
        if _shortest_circle(names, [*kept, one.drop]) is None:
            kept.append(one.drop)
            found.remove(one)
    return kept, found


def _shortest_circle(names: Sequence[str], rules: Sequence[Rule]) -> list[Rule] | None:
    """The shortest circle of rules, the first found of several; None where there is none."""
    after: dict[str, list[Rule]] = {name: [] for name in names}
    for rule in rules:
        after.setdefault(rule.first, []).append(rule)
    best: list[Rule] | None = None
    for start in _in_knots(after):
        circle = _way_back(start, after)
        if circle is not None and (best is None or len(circle) < len(best)):
            best = circle
    return best


def _in_knots(after: dict[str, list[Rule]]) -> list[str]:
    """Tasks that are left when everything with nothing before it, or nothing after it, has been taken away."""
    left = set(after) | {rule.then for rules in after.values() for rule in rules}
    while True:
        inner = {rule.then for name in left for rule in after.get(name, ())} & left
        inner = {name for name in inner if any(rule.then in inner for rule in after.get(name, ()))}
        if inner == left:
            return [name for name in after if name in left]
        left = inner


def _way_back(start: str, after: dict[str, list[Rule]]) -> list[Rule] | None:
    """The shortest way from a task to itself."""
    by: dict[str, Rule] = {}
    queue = deque([start])
    while queue:
        for rule in after.get(queue.popleft(), ()):
            if rule.then == start:
                way = [rule]
                while way[0].first != start:
                    way.insert(0, by[way[0].first])
                return way
            if rule.then not in by:
                by[rule.then] = rule
                queue.append(rule.then)
    return None
