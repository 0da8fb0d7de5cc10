"""What must come out again to reach something: the fewest minutes, a loop that may come out as one."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from krill.assembly.rules import Task


@dataclass(frozen=True, slots=True)
class Unit:
    """Steps that may come out together, in minutes of their own: a loop on its tubes, without being drained.

    ``apart_minutes`` is what it costs more where one of its steps comes out by itself: drain, fill, another leak watch.
    """

    steps: frozenset[str]
    minutes: float
    apart_minutes: float


@dataclass(frozen=True, slots=True)
class Undoing:
    """Steps that come out, the last in first, how many minutes out and in again, and whether a loop comes out whole."""

    steps: list[str]
    minutes: float
    whole: bool


def undoing(order: Sequence[Task], hides: Mapping[str, set[str]], reach: str, units: Sequence[Unit] = ()) -> Undoing:
    """What comes out to reach the things of a step, in the order they come out, by whichever way takes fewer minutes.

    ``hides`` is what each step hides: steps whose things it covers. What hides something comes out, and whatever hides
    that; each takes its minutes twice, out and in again.
    """
    place = {task.id: at for at, task in enumerate(order)}
    minutes = {task.id: task.minutes for task in order}
    ways = [_way(place, minutes, hides, reach, None, units)]
    ways += [_way(place, minutes, hides, reach, unit, units) for unit in units if unit.steps & set(ways[0].steps)]
    return min(ways, key=lambda way: (way.minutes, len(way.steps)))


def _way(
    place: Mapping[str, int],
    minutes: Mapping[str, float],
    hides: Mapping[str, set[str]],
    reach: str,
    whole: Unit | None,
    units: Sequence[Unit],
) -> Undoing:
    """The way that takes one unit out whole, or none."""
    out: set[str] = set()
    waiting = [reach]
    while waiting:
        covered = waiting.pop()
        for step, things in hides.items():
            if covered in things and step not in out and step != reach and place.get(step, -1) > place.get(covered, -1):
                new = (whole.steps - {reach}) & place.keys() if whole is not None and step in whole.steps else {step}
                waiting += sorted(new - out)
                out |= new
    total = 2 * sum(minutes[step] for step in out if whole is None or step not in whole.steps)
    if whole is not None and out & whole.steps:
        total += whole.minutes
    total += sum(unit.apart_minutes for unit in units if unit is not whole and out & unit.steps)
    return Undoing(sorted(out, key=lambda step: -place[step]), total, whole is not None)
