"""Warnings with their reasons: what a designer must not overlook in a prediction."""

import itertools
from collections.abc import Iterator

from krill.document.build import leaves
from krill.document.parts import Fan, Mover, Supply
from krill.fit.holding import BesideHeat, JointHolds
from krill.prediction.answer.result import (
    AirElement,
    BodyResult,
    LoopResult,
    NoState,
    Notice,
    PipeResult,
    PlaceResult,
    SoundResult,
    ZoneResult,
)
from krill.prediction.answer.solving import Solved
from krill.prediction.notices.air import air_notices, warm_air_notices
from krill.prediction.notices.dew import dew_notices
from krill.prediction.notices.feeds import feed_notices
from krill.prediction.notices.fit import fit_notices, held_notices
from krill.prediction.notices.loops import coolant_notices, loop_notices
from krill.prediction.notices.notice import note, warning
from krill.prediction.notices.ranges import range_notices
from krill.prediction.notices.solids import solid_notices
from krill.prediction.notices.sound import sound_notices
from krill.prediction.notices.workload import workload_notices

SUPPLY_HEADROOM = 0.8


def notices_of(
    solved: Solved,
    case: int,
    places: list[PlaceResult],
    loops: list[LoopResult],
    air: list[AirElement],
    zones: list[ZoneResult],
    sound: SoundResult,
    bodies: list[BodyResult],
    pipes: list[PipeResult],
    joints: list[JointHolds],
    beside: list[BesideHeat],
) -> list[Notice]:
    """Every notice of one workload, gravest first."""
    found = [
        *_places(places),
        *coolant_notices(loops),
        *warm_air_notices(solved, case, air),
        *solid_notices(solved, case, bodies, pipes),
        *range_notices(solved, loops, air, zones, bodies, pipes),
        *dew_notices(solved, case),
        *held_notices(joints, beside),
        *_cold(solved, case, loops, air, sound),
    ]
    return _gravest_first(found)


def notices_without_state(
    solved: Solved, case: int, none: NoState, loops: list[LoopResult], air: list[AirElement], sound: SoundResult
) -> list[Notice]:
    """Of a workload that settles in no state that lasts: why, and what may be its cause."""
    why = warning(none.address, f"{none.opening}.")
    return [why, *_gravest_first(list(_cold(solved, case, loops, air, sound)))]


def _cold(
    solved: Solved, case: int, loops: list[LoopResult], air: list[AirElement], sound: SoundResult
) -> Iterator[Notice]:
    """Notices that are no matter of temperatures."""
    yield from loop_notices(solved, loops)
    yield from air_notices(solved, case, air)
    yield from sound_notices(sound)
    yield from _supply(solved, case)
    yield from feed_notices(solved, case)
    yield from _movers(solved, case)
    yield from workload_notices(solved, case)
    yield from fit_notices(solved.fit)


def _gravest_first(notices: list[Notice]) -> list[Notice]:
    return sorted(notices, key=lambda notice: notice.level != "warning")


def _places(places: list[PlaceResult]) -> Iterator[Notice]:
    for place in places:
        if place.status == "too hot":
            yield warning(place.address, f"{place.name} is too hot: {place.because}.")
        elif place.status == "throttled":
            yield warning(place.address, f"{place.name} throttles: {place.because}.")
        elif place.status == "unknown":
            yield note(place.address, f"{place.name}: {place.because}.")


def _supply(solved: Solved, case: int) -> Iterator[Notice]:
    row = solved.central(case)
    rated = [part for part in solved.build.parts if isinstance(part, Supply) and part.rating_w is not None]
    for supply in rated:
        load = float(solved.network.states.supply_load(supply, solved.solution.speeds, solved.solution.kept)[row])
        rating = solved.figure(f"{supply.id}/rating_w", row)
        if load > rating:
            yield warning(supply.id, f"{load:.0f} W are asked of a supply rated {rating:.0f} W.")
        elif load > SUPPLY_HEADROOM * rating:
            yield note(supply.id, f"{load:.0f} W of {rating:.0f} W: little headroom is left for bursts.")


def _movers(solved: Solved, case: int) -> Iterator[Notice]:
    workload = solved.cases[case].workload
    placed = {item for path in solved.build.air_paths for item in leaves(path.elements)}
    placed |= {item for loop in solved.build.loops for item in leaves(loop.elements)}
    for mover in solved.network.states.movers:
        command = workload.movers.get(mover.id)
        name = mover.name or mover.id
        if mover.id not in placed:
            yield note(mover.id, f"{name} sits in no loop and no air path: it moves nothing.")
        if command is None:
            yield note(mover.id, f"{name} has no command in this workload: it runs at full speed.")
        speed = float(solved.solution.speeds[mover.id][solved.central(case)])
        if isinstance(mover, Fan) and speed == 0.0 and command is not None and not command.off:
            yield warning(mover.id, f"{name} is told less than its start duty: it stands still.")
        if isinstance(mover, Mover) and mover.curve is not None and _dips(mover.curve):
            yield note(mover.id, f"{name}: the stall dip of its curve is solved on the falling envelope.")


def _dips(curve: list[tuple[int | float, int | float]]) -> bool:
    heads = [head for _, head in curve]
    return any(b > a for a, b in itertools.pairwise(heads))
