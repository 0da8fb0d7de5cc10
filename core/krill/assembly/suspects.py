"""It does not start: what to suspect, in which order, one exchange at a time."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final, Literal

from krill.assembly.work_order import WorkStep
from krill.catalogue.work import suspects

#: what was found when a suspect was exchanged
Tried = Literal["no change", "it starts", "other sign"]
#: the step touched last counts so many times; each one before it less
_LAST_COUNTS, _FADES = 4.0, 0.7


@dataclass(frozen=True, slots=True)
class StartSuspect:
    """One exchange to try: why it is suspected, how likely of a hundred now, what it clears, and what was found."""

    id: str
    name: str
    exchange: str
    clears: str
    likely: float
    because: str
    tried: Tried | None


#: what is touched by none of the machine's steps is not suspected less than so
_ALWAYS: Final = ("power_switch", "board_bad")


def suspects_of(
    steps: Sequence[WorkStep], touched: Sequence[str], tried: Mapping[str, Tried] | None = None
) -> list[StartSuspect]:
    """Suspects by likelihood of class times how lately their steps were touched, the likeliest first.

    ``touched`` are ids of steps, the last first. What was tried without change is cleared and comes last.
    """
    found = tried or {}
    kinds = {step.id: (step.kind, step.name) for step in steps}
    present = {kind for kind, _ in kinds.values()}
    ranks = {kinds[step][0]: at for at, step in reversed(list(enumerate(touched))) if step in kinds}
    names = {kinds[step][0]: kinds[step][1] for step in reversed(touched) if step in kinds}
    weighed = []
    for suspect in suspects():
        if not present & set(suspect.touched) and suspect.id not in _ALWAYS:
            continue
        latest = min((kind for kind in suspect.touched if kind in ranks), key=lambda kind: ranks[kind], default=None)
        lately = 1.0 if latest is None else 1.0 + (_LAST_COUNTS - 1.0) * _FADES ** ranks[latest]
        weight = 0.0 if found.get(suspect.id) == "no change" else suspect.likely * lately
        because = "by how often it is that" if latest is None else f"touched lately: {names[latest]}"
        weighed.append((suspect, weight, because))
    total = sum(weight for _, weight, _ in weighed) or 1.0
    listed = [
        StartSuspect(one.id, one.name, one.exchange, one.clears, 100 * weight / total, because, found.get(one.id))
        for one, weight, because in weighed
    ]
    return sorted(listed, key=lambda one: -one.likely)
