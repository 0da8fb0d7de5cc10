"""The power limit as the unknown: how many watts a build holds for each source, workload and room."""

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from krill.document.addresses import watts_address
from krill.document.build import Build
from krill.document.figures import detail
from krill.networks.states import Case
from krill.prediction.answer.solving import Solved, solve_cases
from krill.prediction.predict import CERTIFIES, cases_of
from krill.sizing.band_shares import half_shares, halves
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
    passed without any of the source's watts is held out and named. Surely held are the watts at which half of every place's
    band is left, too; a place whose band reaches its limit without them is in doubt.

    ``rooms`` in C (all of the document's where none is given). DocumentRefused names a workload that is not there.
    """
    cases = cases_of(build, workloads, None, throttles=False)
    asked = rooms if rooms is not None else [float(detail(room.air_c).value) for room in build.rooms]
    every = [
        Case(case.workload, room, case.altitude_m, throttles=False) for case in cases for room in dict.fromkeys(asked)
    ]
    shares = half_shares(build, every)
    held: list[Held] = []
    for source in build.heat_sources():
        if source.kind == "source":
            drawing = [index for index, case in enumerate(every) if source.id in case.workload.watts]
            question = _Question(build, source.id, [every[index] for index in drawing], shares[drawing])
            held += _of_source(question, source.name or source.id) if drawing else []
    return Holds(margin_k=float(build.brief.margin_wanted_k), held=held, certifies=CERTIFIES)


def _of_source(question: "_Question", name: str) -> list[Held]:
    levels = question.most * np.linspace(0.0, 1.0, LEVELS) ** 1.5
    found = question.bounds([levels] * len(question.cases))
    asked = [_Asked(found, case, question) for case in range(len(question.cases))]
    central = _crossings(question, asked, found, levels, sure=False)
    surely = _crossings(question, asked, found, levels, sure=True)
    held: list[Held] = []
    for index, (case, one) in enumerate(zip(question.cases, asked, strict=True)):
        start = one.least(found, sure=False)
        crossing = central[index]
        address, label = crossing.first if crossing else one.first(found, _passed_at(start))
        held.append(
            Held(
                source=question.source,
                name=name,
                workload=case.workload.id,
                room_c=case.room_c,
                watts_now=question.now[index],
                watts=None if one.never else _watts(crossing),
                watts_surely=None if one.never else _no_more(_watts(surely[index]), _watts(crossing)),
                more_than_w=question.most if start[-1] > 0 and not one.never else None,
                first=address,
                first_name=label,
                held_out=one.held_out,
                in_doubt=one.in_doubt,
                never=one.never,
            )
        )
    return held


class _Crossing(NamedTuple):
    """Watts at which nothing is left, with address and name of the bound that is passed there."""

    watts: float
    first: tuple[str, str]


def _watts(crossing: _Crossing | None) -> float | None:
    return crossing.watts if crossing else None


def _passed_at(left: Array) -> int:
    """The first of rising levels at which nothing is left; the last where something always is."""
    return int(np.argmax(left <= 0)) if np.any(left <= 0) else len(left) - 1


def _no_more(surely: float | None, held: float | None) -> float | None:
    """What is surely held of what is held: bounds in doubt by themselves count only for the latter."""
    return held if surely is None or (held is not None and held < surely) else surely


def _crossings(
    question: "_Question", asked: list["_Asked"], found: "_Found", levels: Array, *, sure: bool
) -> list[_Crossing | None]:
    """Where nothing is left in each case; where it is ``sure``, the half band with it."""
    windows = [_bracket(levels, one.least(found, sure=sure)) for one in asked]
    cut: list[Array] = []
    left: list[Array] = []
    finer = found
    for _ in range(PASSES):
        cut = [np.linspace(*(window or (0.0, question.most)), REFINED) for window in windows]
        finer = question.bounds(cut)
        left = [one.least(finer, sure=sure) for one in asked]
        windows = [w and (_bracket(c, f) or w) for w, c, f in zip(windows, cut, left, strict=True)]
    return [
        _Crossing(float(np.interp(0.0, -spare, watts)), one.first(finer, _passed_at(spare))) if window else None
        for window, one, spare, watts in zip(windows, asked, left, cut, strict=True)
    ]


class _Question:
    """A source whose watts are looked for in some cases; ``shares`` are the half bands of their places (case, place)."""

    def __init__(self, build: Build, source: str, cases: list[Case], shares: Array) -> None:
        self.build, self.source, self.cases = build, source, cases
        self._shares = shares
        self.now = [float(detail(case.workload.watts[source]).value) for case in cases]
        self.most = max([MIN_REACH_W, *(REACH * watts for watts in self.now)])
        self.owners = build.place_owners()

    def bounds(self, levels: list[Array]) -> "_Found":
        """What is left of every bound at each level of each case."""
        draws = {watts_address(case.workload.id, self.source): np.stack(levels) for case in self.cases}
        solved = solve_cases(self.build, self.cases, len(levels[0]), draws=draws)
        bounds = bounds_of(solved, float(self.build.brief.margin_wanted_k))
        half = np.zeros_like(bounds.spare)
        half[:, : bounds.places] = halves(solved, self._shares)
        return _Found(solved, bounds, half)


class _Asked:
    """One case of a source: which bounds count for it, and which are passed, or may be, without any of its watts."""

    def __init__(self, found: "_Found", case: int, question: _Question) -> None:
        self.case, self.bounds = case, found.bounds
        without = found.rows(case, sure=False)[0]
        over, may_be_over = without <= 0.0, found.rows(case, sure=True)[0] <= 0.0
        owners = question.owners
        own = [owners[a][1].id == question.source if a in owners else False for a in self.bounds.addresses]
        self.never = bool(np.any(over & np.array(own, dtype=bool))) or bool(over.all())
        self._kept = {False: np.flatnonzero(~over), True: np.flatnonzero(~may_be_over)}
        self.held_out = self._named(over)
        self.in_doubt = self._named(may_be_over & ~over)

    def _named(self, which: NDArray[np.bool_]) -> list[str]:
        return [name for name, chosen in zip(self.bounds.names, which, strict=True) if chosen]

    def least(self, found: "_Found", *, sure: bool) -> Array:
        """What is left of the bounds that count, at each level."""
        return np.asarray(found.rows(self.case, sure=sure)[:, self._kept[sure]].min(axis=1, initial=np.inf))

    def first(self, found: "_Found", level: int) -> tuple[str, str]:
        """Address and name of the bound that is passed first."""
        kept = self._kept[False]
        if not kept.size:
            return "", ""
        index = int(kept[found.rows(self.case, sure=False)[level, kept].argmin()])
        return self.bounds.addresses[index], self.bounds.names[index]


@dataclass(frozen=True)
class _Found:
    """Bounds of a batch of levels in every case, and half of each one's 90 % band."""

    solved: Solved
    bounds: Bounds
    half: Array

    def rows(self, case: int, *, sure: bool) -> Array:
        """(level, bound)"""
        rows = self.solved.drawn(case)
        return self.bounds.spare[rows] - self.half[rows] if sure else self.bounds.spare[rows]


def _bracket(levels: Array, spare: Array) -> tuple[float, float] | None:
    """The first two levels between which a margin is used up; None where it is not or was never there."""
    if not (spare[0] > 0 and np.any(spare <= 0)):
        return None
    last = int(np.argmax(spare <= 0))
    return float(levels[last - 1]), float(levels[last])
