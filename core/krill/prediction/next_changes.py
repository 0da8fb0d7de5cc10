"""What limits it: every sensible step ranked by the kelvins that it wins on one place, with what it does to the others."""

import numpy as np

from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.errors import DocumentRefused, NotConverged, Problem
from krill.networks.states import Case
from krill.prediction.places import place_results
from krill.prediction.predict import CERTIFIES, cases_of
from krill.prediction.result import NextChange, NextChanges, SideEffect
from krill.prediction.solving import Solved, solve_cases
from krill.prediction.steps import Step, edited, steps_of_build

#: below this a change is called worth nothing (common practice: about 1 K is no difference; half of it for a step)
WORTH_K = 0.5
MOST = 120


def next_changes(build: Build, workload: str, place: str | None = None, room_c: float | None = None) -> NextChanges:
    """Steps ranked for a place (the tightest where none is named), at central figures.

    Figures go as one batch, changes of kind one by one. DocumentRefused names a workload or a place that is not there.
    """
    case = cases_of(build, [workload], room_c)[0]
    table = FigureTable(build)
    steps = steps_of_build(build, table, workload)[:MOST]
    numeric = [step for step in steps if not step.structural]
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
    before = _temperatures(solved, 0)
    found = [_change(step, before, _temperatures(solved, 1 + row), chosen, solved) for row, step in enumerate(numeric)]
    for step in steps:
        if step.structural:
            after = _alone(build, case, step)
            if after is not None:
                found.append(_change(step, before, after, chosen, solved))
    ranked = sorted(found, key=lambda change: -change["won_k"])
    return {"workload": workload, "room_c": case.room_c, "place": chosen, "changes": ranked,
            "sentence": _sentence(ranked), "certifies": CERTIFIES}  # fmt: skip


def _alone(build: Build, case: Case, step: Step) -> dict[str, float] | None:
    """Temperatures of a build with a change of kind; None where it cannot be built or does not settle."""
    try:
        other = edited(build, step.edits)
        return _temperatures(solve_cases(other, [_same(other, case)]), 0)
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


def _change(step: Step, before: dict[str, float], after: dict[str, float], place: str, solved: Solved) -> NextChange:
    named = {route.place.id: route.place.name or route.place.id for route in solved.structure.routes}
    others: list[SideEffect] = [
        {"address": other, "name": named[other], "won_k": before[other] - after[other]}
        for other in before
        if other != place and abs(before[other] - after[other]) >= 0.1
    ]
    return {
        "label": step.label,
        "about": step.about,
        "won_k": before[place] - after[place],
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
