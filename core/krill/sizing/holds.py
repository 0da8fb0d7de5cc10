"""The power limit as the unknown: how many watts a build holds for each source, workload and room."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from krill.document.addresses import watts_address
from krill.document.build import Build
from krill.document.figures import detail
from krill.document.parts import Place, Source, Supply
from krill.networks.states import Case
from krill.prediction.answer.solving import Solved, solve_cases
from krill.prediction.predict import CERTIFIES, cases_of
from krill.sizing.bounds import Bounds, bounds_of
from krill.sizing.result import Held, Holds

Array = NDArray[np.float64]

#: watts asked of a source beyond what it draws, as multiples; and at least this many
REACH, MIN_REACH_W = 4.0, 20.0
LEVELS = 9
#: the interval with the crossing is cut into so many, so many times: the place that limits changes on the way
REFINED, PASSES = 7, 2


def watts_it_holds(build: Build, rooms: list[float] | None = None, workloads: list[str] | None = None) -> Holds:
    """Watts of each source at which the first limit, less the margin wanted, is met; all else as the workload says.

    Limits are those of places and whatever a hard notice warns of: coolant, a supply's rating, touch, softening, pipes. What is
    passed without any of the source's watts is held out and named.

    ``rooms`` in C (all of the document's where none is given). DocumentRefused names a workload that is not there.
    """
    cases = cases_of(build, workloads, None, throttles=False)
    asked = rooms if rooms is not None else [float(detail(room.air_c).value) for room in build.rooms]
    every = [
        Case(case.workload, room, case.altitude_m, throttles=False) for case in cases for room in dict.fromkeys(asked)
    ]
    held: list[Held] = []
    for source in build.heat_sources():
        if source.kind == "source":
            drawing = [case for case in every if source.id in case.workload.watts]
            held += _of_source(build, source.id, source.name or source.id, drawing)
    return Holds(margin_k=float(build.brief.margin_wanted_k), held=held, certifies=CERTIFIES)


def _of_source(build: Build, source: str, name: str, cases: list[Case]) -> list[Held]:
    if not cases:
        return []
    now = [float(detail(case.workload.watts[source]).value) for case in cases]
    most = max(max(REACH * watts for watts in now), MIN_REACH_W)
    levels = most * np.linspace(0.0, 1.0, LEVELS) ** 1.5
    found = _bounds(build, source, cases, [levels] * len(cases))
    asked = [_Asked(found, case, build.place_owners(), source) for case in range(len(cases))]
    spare = [one.least(found) for one in asked]
    windows = [_bracket(levels, margin) for margin in spare]
    for _ in range(PASSES):
        cut = [np.linspace(*(window or (0.0, most)), REFINED) for window in windows]
        finer = _bounds(build, source, cases, cut)
        fine = [one.least(finer) for one in asked]
        windows = [w and (_bracket(c, f) or w) for w, c, f in zip(windows, cut, fine, strict=True)]
    held: list[Held] = []
    for index, case in enumerate(cases):
        one, start, window = asked[index], spare[index], windows[index]
        address, label = one.first(found, int(np.argmin(start > 0)) if np.any(start <= 0) else LEVELS - 1)
        held.append(
            Held(
                source=source,
                name=name,
                workload=case.workload.id,
                room_c=case.room_c,
                watts_now=now[index],
                watts=None if window is None or one.never else float(np.interp(0.0, -fine[index], cut[index])),
                more_than_w=most if start[-1] > 0 and not one.never else None,
                first=address,
                first_name=label,
                held_out=one.held_out,
                never=one.never,
            )
        )
    return held


class _Asked:
    """One case of a source: which bounds count for it, and which are passed without any of its watts."""

    def __init__(
        self, found: "_Found", case: int, owners: dict[str, tuple[Place, Source | Supply]], source: str
    ) -> None:
        self.case, self.bounds = case, found.bounds
        without = found.rows(case)[0]
        over = without <= 0.0
        own = [owners[a][1].id == source if a in owners else False for a in self.bounds.addresses]
        self.never = bool(np.any(over & np.array(own, dtype=bool))) or bool(over.all())
        self.kept = np.flatnonzero(~over)
        self.held_out = [name for name, passed in zip(self.bounds.names, over, strict=True) if passed]

    def least(self, found: "_Found") -> Array:
        """What is left of the bounds that count, at each level."""
        return np.asarray(found.rows(self.case)[:, self.kept].min(axis=1, initial=np.inf))

    def first(self, found: "_Found", level: int) -> tuple[str, str]:
        """Address and name of the bound that is passed first."""
        if not self.kept.size:
            return "", ""
        index = int(self.kept[found.rows(self.case)[level, self.kept].argmin()])
        return self.bounds.addresses[index], self.bounds.names[index]


@dataclass(frozen=True)
class _Found:
    """Bounds of a batch of levels in every case."""

    solved: Solved
    bounds: Bounds

    def rows(self, case: int) -> Array:
        """(level, bound)"""
        return self.bounds.spare[self.solved.drawn(case)]


def _bounds(build: Build, source: str, cases: list[Case], levels: list[Array]) -> _Found:
    """What is left of every bound at each level of each case."""
    draws = {watts_address(case.workload.id, source): np.stack(levels) for case in cases}
    solved = solve_cases(build, cases, len(levels[0]), draws=draws)
    return _Found(solved, bounds_of(solved, float(build.brief.margin_wanted_k)))


def _bracket(levels: Array, spare: Array) -> tuple[float, float] | None:
    """The first two levels between which a margin is used up; None where it is not or was never there."""
    if not (spare[0] > 0 and np.any(spare <= 0)):
        return None
    last = int(np.argmax(spare <= 0))
    return float(levels[last - 1]), float(levels[last])
