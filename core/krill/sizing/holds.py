"""The power limit as the unknown: how many watts a build holds for each source, workload and room."""

import numpy as np
from numpy.typing import NDArray

from krill.document.addresses import watts_address
from krill.document.build import Build
from krill.document.figures import detail
from krill.networks.states import Case
from krill.prediction.answer.solving import Solved, solve_cases
from krill.prediction.predict import CERTIFIES, cases_of
from krill.sizing.by_row import margins
from krill.sizing.result import Held, Holds

Array = NDArray[np.float64]

#: watts asked of a source beyond what it draws, as multiples; and at least this many
REACH, MIN_REACH_W = 4.0, 20.0
LEVELS = 9
#: the interval with the crossing is cut into so many, so many times: the place that limits changes on the way
REFINED, PASSES = 7, 2


def watts_it_holds(build: Build, rooms: list[float] | None = None, workloads: list[str] | None = None) -> Holds:
    """Watts of each source at which the first limit, less the margin wanted, is met; all else as the workload says.

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
    spare, places = _margins(build, source, cases, [levels] * len(cases))
    windows = [_bracket(levels, margin) for margin in spare]
    for _ in range(PASSES):
        cut = [np.linspace(*(window or (0.0, most)), REFINED) for window in windows]
        fine, _ = _margins(build, source, cases, cut)
        windows = [w and (_bracket(c, f) or w) for w, c, f in zip(windows, cut, fine, strict=True)]
    found: list[Held] = []
    for index, case in enumerate(cases):
        start, window = spare[index], windows[index]
        watts = None if window is None else float(np.interp(0.0, -fine[index], cut[index]))
        tight = places[index][int(np.argmin(start > 0)) if np.any(start <= 0) else LEVELS - 1]
        found.append(
            Held(
                source=source,
                name=name,
                workload=case.workload.id,
                room_c=case.room_c,
                watts_now=now[index],
                watts=watts,
                more_than_w=most if start[-1] > 0 else None,
                first=tight,
                never=bool(start[0] <= 0),
            )
        )
    return found


def _margins(build: Build, source: str, cases: list[Case], levels: list[Array]) -> tuple[list[Array], list[list[str]]]:
    """Least margin over the wanted one at each level of each case, and the place that has it."""
    draws = {watts_address(case.workload.id, source): np.stack(levels) for case in cases}
    solved = solve_cases(build, cases, len(levels[0]), draws=draws)
    answers = [_least_margin(solved, index) for index in range(len(cases))]
    return [margin for margin, _ in answers], [names for _, names in answers]


def _least_margin(solved: Solved, case: int) -> tuple[Array, list[str]]:
    places, every = margins(solved)
    if not places:
        return np.full(solved.samples, np.inf), [""] * solved.samples
    left = every[solved.drawn(case)] - float(solved.build.brief.margin_wanted_k)
    return np.min(left, axis=1), [places[i] for i in np.argmin(left, axis=1)]


def _bracket(levels: Array, spare: Array) -> tuple[float, float] | None:
    """The first two levels between which a margin is used up; None where it is not or was never there."""
    if not (spare[0] > 0 and np.any(spare <= 0)):
        return None
    last = int(np.argmax(spare <= 0))
    return float(levels[last - 1]), float(levels[last])
