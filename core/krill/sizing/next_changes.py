"""What limits it: every sensible step ranked by the kelvins that it wins on one place, with what it does to the others."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from krill.assembly.work_order import WorkOrder, work_order
from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.errors import DocumentRefused, NotConverged
from krill.in_time.aims import Aim, aimed_at, check_aim
from krill.networks.states import Case, duty_address
from krill.prediction.answer.lasting import lasting, no_state
from krill.prediction.answer.places import chosen_place, lowest_limit, place_results
from krill.prediction.answer.result import NoState, PlaceResult
from krill.prediction.answer.solving import Solved, solve_cases, try_cases
from krill.prediction.answer.sound import total_levels
from krill.prediction.predict import CERTIFIES, cases_of
from krill.sizing.by_row import temperatures
from krill.sizing.locks import lock_on
from krill.sizing.result import Aimed, NextChange, NextChanges, SideEffect
from krill.sizing.steps.book import steps_of_build
from krill.sizing.steps.step import Step, edited
from krill.sizing.words import aimed_sentence, ranked_sentence

Array = NDArray[np.float64]

MAX_STEPS = 120
SIDE_EFFECT_K = 0.1
#: kelvins that agree to so many decimals are equal: such steps keep the order of the build, not that of rounding noise
EQUAL_DIGITS = 5


def next_changes(
    build: Build,
    workload: str,
    place: str | None = None,
    room_c: float | None = None,
    *,
    quick: bool = False,
    aim: Aim | None = None,
) -> NextChanges:
    """Steps ranked for a place (the tightest where none is named) as it settles, or for an aim in time, at central figures.

    Figures and duties go as one batch, changes of kind one by one; ``quick`` leaves these out. DocumentRefused names a
    workload, a place or an aim that is not there.
    """
    if aim is not None:
        check_aim(build, workload, aim)
    case = cases_of(build, [workload], room_c, throttles=False)[0]
    table = FigureTable(build)
    steps = [step for step in steps_of_build(build, table, workload) if lock_on(build, step.edits) is None][:MAX_STEPS]
    stacked = [step for step in steps if not step.structural]
    solved, states = _stacked(build, case, table, stacked)
    none = no_state(solved, 0)
    if none is not None:
        return _nothing_to_win(case, none, whole=not quick)
    chosen = chosen_place(place_results(solved, 0), place)
    before = _states(solved)[0]
    after = [(step, state) for step, state in zip(stacked, states, strict=True) if state]
    if not quick:
        alone = ((step, _alone(build, case, step)) for step in steps if step.structural)
        after += [(step, state) for step, state in alone if state]
    order = None if quick else work_order(build)
    found = [_change(build, order, step, before, state, chosen) for step, state in after]
    aimed = None
    if aim is not None:
        aimed, found = _aimed(build, case, table, aim, after, found)
    better = -1.0 if aimed is None or aimed.more_is_better else 1.0
    ranked = sorted(found, key=lambda change: (bool(change.breaks), round(better * _worth(change), EQUAL_DIGITS)))
    return NextChanges(
        workload=workload,
        room_c=case.room_c,
        place=chosen.address,
        changes=ranked,
        sentence=ranked_sentence(ranked, chosen) if aimed is None else aimed_sentence(ranked, aimed),
        whole=not quick,
        certifies=CERTIFIES,
        aim=aimed,
    )


def _worth(change: NextChange) -> float:
    return change.won_k if change.gained is None else change.gained


def _aimed(
    build: Build, case: Case, table: FigureTable, aim: Aim, after: "Sequence[_After]", changes: list[NextChange]
) -> tuple[Aimed, list[NextChange]]:
    """The figure aimed at as the build stands, and the steps with what each adds to it; those without a way are left out."""
    stacked = [step for step, _ in after if not step.structural]
    now, *rest = aimed_at(build, case.workload.id, aim, len(stacked), _draws(table, stacked), case.room_c)
    beside = iter(rest)
    then = [_aimed_alone(build, case, aim, step) if step.structural else float(next(beside)) for step, _ in after]
    gained = [
        replace(change, gained=value - float(now))
        for change, value in zip(changes, then, strict=True)
        if value is not None and np.isfinite(value)
    ]
    owner = build.owner(aim.of)
    told = Aimed(
        kind=aim.kind,
        of=aim.of,
        name=getattr(owner, "name", "") or aim.of,
        minutes=aim.minutes,
        before=aim.before,
        unit=aim.unit,
        now=float(now),
        more_is_better=aim.sign > 0,
    )
    return told, gained


def _aimed_alone(build: Build, case: Case, aim: Aim, step: Step) -> float | None:
    """The figure of a build with a change of kind; None where it has none any more, or no way leads through the load."""
    try:
        return float(aimed_at(edited(build, step.edits), case.workload.id, aim, room_c=case.room_c)[0])
    except (DocumentRefused, NotConverged):
        return None


def _nothing_to_win(case: Case, none: NoState, *, whole: bool) -> NextChanges:
    """What is said of a build that settles in no state that lasts: it has no kelvins to win."""
    return NextChanges(
        workload=case.workload.id,
        room_c=case.room_c,
        place="",
        changes=[],
        sentence=f"{none.opening}: mend that first.",
        whole=whole,
        certifies=CERTIFIES,
    )


@dataclass(frozen=True)
class _State:
    """What a step is judged by."""

    temperature_c: dict[str, float]
    dba: float


_After = tuple[Step, _State]


def _stacked(
    build: Build, case: Case, table: FigureTable, steps: list[Step]
) -> tuple[Solved, Sequence["_State | None"]]:
    """The build as it stands in row 0, and the state after each step, None where one does not settle.

    NotConverged where the build itself does not.
    """
    together = try_cases(build, [case], len(steps), draws=_draws(table, steps))
    together.solution.status.must_settle(0)
    states = zip(_states(together)[1:], lasting(together).settled[1:], strict=True)
    return together, [state if settled else None for state, settled in states]


def _draws(table: FigureTable, steps: list[Step]) -> dict[str, Array]:
    """One row a step: every figure as it stands and every mover as told, but for what the step sets."""
    draws: dict[str, Array] = {}
    for row, step in enumerate(steps):
        told = {duty_address(mover): duty for mover, duty in step.duties.items()}
        for address, value in (step.figures | told).items():
            known = table.figures.get(address)
            as_it_stands = np.full(len(steps), np.nan if known is None else known.value)
            draws.setdefault(address, as_it_stands)[row] = value
    return draws


def _states(solved: Solved) -> list[_State]:
    """Every row of a batch of one case."""
    named = {route.place.id: temperatures(solved, route.place.id) for route in solved.structure.routes}
    levels = total_levels(solved)
    return [
        _State({place: float(T[row]) for place, T in named.items()}, float(levels[row])) for row in range(len(levels))
    ]


def _alone(build: Build, case: Case, step: Step) -> _State | None:
    """A build with a change of kind; None where it cannot be built or settles in no state that lasts."""
    try:
        other = edited(build, step.edits)
        solved = solve_cases(other, cases_of(other, [case.workload.id], case.room_c, throttles=False))
        return _states(solved)[0] if no_state(solved, 0) is None else None
    except (DocumentRefused, NotConverged):
        return None


def _limits(build: Build) -> list[tuple[str, float]]:
    """Places that have a limit, and the lowest of each, C."""
    found = [(key, lowest_limit(place)[1]) for key, (place, _) in build.place_owners().items()]
    return [(key, limit_c) for key, limit_c in found if limit_c is not None]


def _hours(order: WorkOrder | None, step: Step, *, buys: bool) -> float | None:
    """Work on the finished machine: that of taking out what it is about and putting another in; settings take none."""
    if not buys:
        return 0.0
    minutes = None if order is None else order.exchange_minutes(step.about)
    return None if minutes is None else minutes / 60


def _change(
    build: Build, order: WorkOrder | None, step: Step, before: _State, after: _State, place: PlaceResult
) -> NextChange:
    T, new = before.temperature_c, after.temperature_c
    named = {owned: found.name or owned for owned, (found, _) in build.place_owners().items()}
    others: list[SideEffect] = [
        SideEffect(address=other, name=named[other], won_k=T[other] - new[other])
        for other in T
        if other != place.address and other in new and abs(T[other] - new[other]) >= SIDE_EFFECT_K
    ]
    known, buys = build.prices.get(step.price_key), step.buys(build)
    return NextChange(
        label=step.label,
        about=step.about,
        won_k=T[place.address] - new[place.address],
        louder_db=after.dba - before.dba,
        others=others,
        breaks=[
            named[other]
            for other, limit_c in _limits(build)
            if T.get(other, limit_c) <= limit_c < new.get(other, limit_c)
        ],
        costs=list(step.costs),
        buys=buys,
        price=float(known) if known is not None else None if buys else 0.0,
        price_key=step.price_key,
        hours=_hours(order, step, buys=buys),
        alone=step.structural,
        edits=list(step.edits),
    )
