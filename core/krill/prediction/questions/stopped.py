"""Off or stopped: each fan, pump and feed in turn, where the machine settles and which limits it passes."""

from krill.document.build import Build
from krill.document.parts import Mover
from krill.networks.states import Case
from krill.prediction.answer.lasting import no_state
from krill.prediction.answer.places import lowest_limit
from krill.prediction.answer.result import Stopped, StoppedCase, StoppedKind, StoppedPlace
from krill.prediction.answer.solving import Solved, solve_cases
from krill.prediction.predict import CERTIFIES, cases_of


def stopped(build: Build, workload: str, room_c: float | None = None) -> Stopped:
    """One batch: the machine as built, then with each mover and each feed of movers off, all settled.

    DocumentRefused names a workload that is not there. How many minutes it takes is not said here.
    """
    as_built = cases_of(build, [workload], room_c)[0]
    asked = _asked(build)
    cases = [as_built] + [
        Case(as_built.workload, as_built.room_c, as_built.altitude_m, frozenset(off)) for _, _, _, off in asked
    ]
    solved = solve_cases(build, cases)
    return Stopped(
        workload=workload,
        room_c=as_built.room_c,
        cases=[_case(solved, index + 1, *item) for index, item in enumerate(asked)],
        certifies=CERTIFIES,
    )


def _asked(build: Build) -> list[tuple[str, str, StoppedKind, list[str]]]:
    """(address, name, kind, movers that stand still)."""
    movers = [part for part in build.parts if isinstance(part, Mover)]
    found: list[tuple[str, str, StoppedKind, list[str]]] = [
        (part.id, part.name or part.id, part.kind, [part.id]) for part in movers
    ]
    for feed in build.feeds:
        fed = [part.id for part in movers if feed.id in build.feeds_above(part.feed)]
        if fed:
            found.append((feed.id, feed.name or feed.id, "feed", fed))
    return found


def _case(solved: Solved, index: int, address: str, name: str, kind: StoppedKind, off: list[str]) -> StoppedCase:
    none = no_state(solved, solved.central(index))
    routes = solved.structure.routes if none is None else ()
    places = [_place(solved, index, route.place.id) for route in routes]
    flow = solved.structure.coolant
    hottest = None
    if flow is not None and none is None:
        hottest = float(solved.solution.temperature[solved.central(index), flow.junction_nodes].max())
    return StoppedCase(
        address=address,
        name=name,
        kind=kind,
        stopped=off,
        passes=[place.name for place in places if place.passes],
        coolant_c=hottest,
        places=places,
        no_state=none,
    )


def _place(solved: Solved, index: int, place_id: str) -> StoppedPlace:
    node = solved.structure.node_of[place_id]
    place, _ = solved.build.place_owners()[place_id]
    T = float(solved.solution.temperature[solved.central(index), node])
    before = float(solved.solution.temperature[solved.central(0), node])
    limit = lowest_limit(place)[1]
    return StoppedPlace(
        address=place_id,
        name=place.name or place_id,
        temperature_c=T,
        over_as_built_k=T - before,
        limit_c=limit,
        passes=limit is not None and limit < T,
    )
