"""What limits it: every sensible step ranked by the kelvins that it wins on one place, with what it does to the others."""

from dataclasses import dataclass, replace

import numpy as np

from krill.components.figure_table import FigureTable
from krill.document.build import Build, Command
from krill.errors import DocumentRefused, NotConverged, Problem
from krill.networks.states import Case
from krill.prediction.places import place_results
from krill.prediction.predict import CERTIFIES, cases_of
from krill.prediction.result import NextChange, NextChanges, SideEffect
from krill.prediction.solving import Solved, solve_cases
from krill.prediction.sound import sound_result
from krill.prediction.steps.book import steps_of_build
from krill.prediction.steps.step import Step, edited

#: below this a change is called worth nothing (common practice: about 1 K is no difference; half of it for a step)
WORTH_K = 0.5
MOST = 120


def next_changes(build: Build, workload: str, place: str | None = None, room_c: float | None = None) -> NextChanges:
    """Steps ranked for a place (the tightest where none is named), at central figures.

    Figures go as one batch, duties as another, changes of kind one by one. DocumentRefused names a workload or a place
    that is not there.
    """
    case = cases_of(build, [workload], room_c)[0]
    table = FigureTable(build)
    steps = steps_of_build(build, table, workload)[:MOST]
    numeric = [step for step in steps if step.figures]
    told = [step for step in steps if step.duties]
    draws = {
        address: np.full(len(numeric), table.figures[address].value) for step in numeric for address in step.figures
    }
    for row, step in enumerate(numeric):
        for address, value in step.figures.items():
            draws[address][row] = value
    solved = solve_cases(build, [case], len(numeric), draws=draws)
    chosen = place if place is not None else _tightest(solved)
    names = [route.place.id for route in solved.structure.routes]
    if chosen not in names:
        raise DocumentRefused([Problem(f"place/{chosen}", "there is no such place", ", ".join(names))])
    before = _State(_temperatures(solved, 0), sound_result(solved, 0)["total_dba"])
    after = [_State(_temperatures(solved, 1 + row), before.dba) for row in range(len(numeric))]
    after += _states(build, [_told(case, step) for step in told])
    found = [_change(step, before, state, chosen, solved) for step, state in zip([*numeric, *told], after, strict=True)]
    for step in steps:
        if step.structural:
            state = _alone(build, case, step)
            if state is not None:
                found.append(_change(step, before, state, chosen, solved))
    ranked = sorted(found, key=lambda change: -change["won_k"])
    return {"workload": workload, "room_c": case.room_c, "place": chosen, "changes": ranked,
            "sentence": _sentence(ranked), "certifies": CERTIFIES}  # fmt: skip


@dataclass(frozen=True)
class _State:
    """What a step is judged by."""

    temperature_c: dict[str, float]
    dba: float


def _states(build: Build, cases: list[Case]) -> list[_State]:
    """Each case at its central figures, as one batch."""
    if not cases:
        return []
    solved = solve_cases(build, cases)
    return [
        _State(_temperatures(solved, solved.central(index)), sound_result(solved, index)["total_dba"])
        for index in range(len(cases))
    ]


def _told(case: Case, step: Step) -> Case:
    """The case with movers told other duties."""
    movers = case.workload.movers | {mover: Command(duty=duty) for mover, duty in step.duties.items()}
    return replace(case, workload=case.workload.model_copy(update={"movers": movers}))


def _alone(build: Build, case: Case, step: Step) -> _State | None:
    """A build with a change of kind; None where it cannot be built or does not settle."""
    try:
        other = edited(build, step.edits)
        return _states(other, [_same(other, case)])[0]
    except (DocumentRefused, NotConverged):
        return None


def _same(build: Build, case: Case) -> Case:
    workload = next(item for item in build.workloads if item.id == case.workload.id)
    return Case(workload, case.room_c, case.altitude_m)


def _temperatures(solved: Solved, row: int) -> dict[str, float]:
    names = solved.structure.node_names
    T = solved.solution.temperature[row]
    return {route.place.id: float(T[names.index(route.place.id)]) for route in solved.structure.routes}


def _tightest(solved: Solved) -> str:
    places = place_results(solved, 0)
    with_margin = [found for found in places if found["margin_k"] is not None]
    tightest = min(with_margin, key=lambda found: found["margin_k"] or 0.0, default=places[0])
    return tightest["address"]


def _change(step: Step, before: _State, after: _State, place: str, solved: Solved) -> NextChange:
    T, new = before.temperature_c, after.temperature_c
    named = {route.place.id: route.place.name or route.place.id for route in solved.structure.routes}
    others: list[SideEffect] = [
        {"address": other, "name": named[other], "won_k": T[other] - new[other]}
        for other in T
        if other != place and abs(T[other] - new[other]) >= 0.1
    ]
    return {
        "label": step.label,
        "about": step.about,
        "won_k": T[place] - new[place],
        "louder_db": after.dba - before.dba,
        "others": others,
        "costs": list(step.costs),
        "edits": list(step.edits),
    }


def _sentence(ranked: list[NextChange]) -> str:
    """The first words of a designer who looked at the list."""
    worth = [change for change in ranked if change["won_k"] >= WORTH_K]
    if not worth:
        return f"No single step here wins {WORTH_K:g} K: the rest lies elsewhere."
    first = worth[0]
    text = f"{first['label']} wins {first['won_k']:.1f} K"
    if len(worth) > 1:
        text += f"; next {worth[1]['label']} {worth[1]['won_k']:.1f} K"
    weak = [change for change in ranked if 0 <= change["won_k"] < WORTH_K]
    if weak:
        text += f". {weak[0]['label']} is not worth it ({weak[0]['won_k']:.1f} K)"
    return text + "."
