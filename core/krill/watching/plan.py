"""The plan of a test: which loads in which order, how long each, what is locked, seen before power, noted when, and when to stop.

The minutes are the forecast's own: until every part is within 1 K of where it settles.
"""

from dataclasses import dataclass, replace
from math import ceil
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build, Workload
from krill.document.figures import detail
from krill.document.parts import Fan, Filter, Mover, Pump
from krill.in_time.constants import named_nodes
from krill.in_time.crossing import stays_within
from krill.in_time.legs import Leg
from krill.in_time.march import Marched
from krill.in_time.run import march
from krill.networks.states import Case
from krill.prediction.answer.lasting import no_state
from krill.prediction.answer.places import lowest_limit
from krill.prediction.answer.solving import network_of, solve_cases, try_cases
from krill.prediction.answer.workload_states import least_workload
from krill.prediction.predict import cases_of
from krill.watching.expected import speeds_of

Array = NDArray[np.float64]

LoadKind = Literal["idle", "alone", "both", "own"]
#: a source counts in a load from this share of the most that it draws in any; it is a large one from so many watts, and from
#: this share of the largest
COUNTS, LEAST_W, LARGE = 0.5, 8.0, 0.25
#: an idle figure is read after an hour at the latest (common practice); no load is worth less than so many minutes
IDLE_MIN, LEAST_MIN, MOST_MIN = 60.0, 15.0, 240.0
#: minutes are rounded up to these
STEP_MIN: Final = 5
FOLLOWED_MIN: Final = 120.0
#: what counts as settled, and what a step may be off: minutes want no more, K
WITHIN_K, TOLERANCE_K = 1.0, 0.1
#: soft tube is made for so much (common practice)
TUBE_C: Final = 60.0
_ORDER: Final[tuple[LoadKind, ...]] = ("idle", "alone", "own", "both")
_WHY: Final[dict[LoadKind, str]] = {
    "idle": "the rise of every part under load is counted from here",
    "alone": "each by itself first: what passes alone may fail together",
    "own": "your own load",
    "both": "everything at once: the worst case, on one loop and one box",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Seen:
    """Something to see before or while it runs; it gates the step that follows."""

    key: str
    says: str
    when: Literal["before_power", "at_start"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Locked:
    """A mover, what it is told, and by whom."""

    address: str
    name: str
    told: str
    by: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PlannedLoad:
    """``due_min`` are the minutes at which to read, counted from load on; ``note`` the roles that are worth reading."""

    workload: str
    name: str
    kind: LoadKind
    why: str
    minutes: int
    slowest: str
    share_at_30: float | None
    due_min: list[int]
    note: list[str]
    locked: list[Locked]
    sound_ceiling_dba: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class StopRule:
    """When to take the load off."""

    address: str
    says: str
    at_c: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class TestPlan:
    """``skipped`` are loads that settle nowhere."""

    room_c: float
    seen: list[Seen]
    loads: list[PlannedLoad]
    stops: list[StopRule]
    minutes: int
    skipped: list[str]


def plan_test(build: Build, room_c: float | None = None) -> TestPlan:
    """All loads of the build in one march over idle, told in their order: idle, each alone, one's own, all at once."""
    kinds = load_kinds(build)
    ordered = sorted(build.workloads, key=lambda item: (_ORDER.index(kinds[item.id]), _watts(item)))
    cases = cases_of(build, [workload.id for workload in ordered], room_c)
    settled = try_cases(build, cases)
    why = settled.solution.status.why
    lasts = [row not in why and no_state(settled, row) is None for row in range(len(cases))]
    skipped = [
        f"{workload.name or workload.id} {why.get(row, 'stays in no state')}"
        for row, workload in enumerate(ordered)
        if not lasts[row]
    ]
    followed = _followed(build, [case for case, ok in zip(cases, lasts, strict=True) if ok])
    loads = [_planned(build, one, kinds[one.load.id]) for one in followed]
    return TestPlan(
        room_c=cases[0].room_c,
        seen=_seen(build),
        loads=loads,
        stops=_stops(build),
        minutes=sum(load.minutes for load in loads),
        skipped=skipped,
    )


@dataclass(frozen=True)
class _Followed:
    """A load from idle on: minutes until each named temperature is within a kelvin, where it settles, speeds."""

    load: Workload
    needed_min: dict[str, float]
    names: dict[str, str]
    settles_c: dict[str, float]
    share_at_30: dict[str, float | None]
    rpm: dict[str, float]


def _followed(build: Build, cases: list[Case]) -> list[_Followed]:
    """One march for all; the tolerance is that of minutes."""
    if not cases:
        return []
    idle = least_workload(build)
    before = solve_cases(build, [replace(case, workload=idle) for case in cases])
    settled = solve_cases(build, cases)
    network = network_of(build, cases)
    start = Marched(before.solution.temperature.copy(), None, before.network.states)
    track = march(network, [Leg(tuple(cases), FOLLOWED_MIN)], start, tolerance_k=TOLERANCE_K)
    minutes = np.concatenate([np.linspace(0.0, 5.0, 61), np.linspace(5.0, FOLLOWED_MIN, 461)[1:]])
    named = list(named_nodes(settled))
    found = []
    for row, case in enumerate(cases):
        needed: dict[str, float] = {}
        ends: dict[str, float] = {}
        shares: dict[str, float | None] = {}
        for address, _, _, nodes in named:
            T = track.at(60.0 * minutes, nodes)[:, row].max(axis=1)
            end = float(settled.solution.temperature[row, nodes].max())
            within = stays_within(minutes, T, end, WITHIN_K)
            needed[address] = _later(minutes, T - end) if within is None else within
            ends[address] = end
            rise = end - float(T[0])
            at_30 = float(np.interp(30.0, minutes, T))
            shares[address] = None if abs(rise) < 2 * WITHIN_K else (at_30 - float(T[0])) / rise
        found.append(
            _Followed(
                case.workload, needed, {a: name for a, name, _, _ in named}, ends, shares, speeds_of(settled, row)
            )
        )
    return found


def _later(minutes: Array, missing: Array) -> float:
    """When what is still missing at the end will be a kelvin, as it has fallen over the last quarter."""
    quarter = float(np.interp(0.75 * minutes[-1], minutes, np.abs(missing)))
    left = max(abs(float(missing[-1])), 1e-6)
    constant = 0.25 * minutes[-1] / max(np.log(max(quarter / left, 1.0 + 1e-6)), 1e-3)
    return float(minutes[-1] + constant * np.log(max(left / WITHIN_K, 1.0)))


def load_kinds(build: Build) -> dict[str, LoadKind]:
    """What each load of a build is, by which of its large sources draw most of what they ever do."""
    most: dict[str, float] = {}
    for workload in build.workloads:
        for source, watts in _drawn(workload).items():
            most[source] = max(most.get(source, 0.0), watts)
    supplies = {part.id for part in build.parts if part.kind == "supply"}
    least = max(LEAST_W, LARGE * max(most.values(), default=0.0))
    large = {source for source, watts in most.items() if watts >= least and source not in supplies}
    idle = least_workload(build).id
    found: dict[str, LoadKind] = {}
    for workload in build.workloads:
        drawn = _drawn(workload)
        busy = {source for source in large if drawn.get(source, 0.0) >= COUNTS * most[source]}
        if workload.id == idle:
            found[workload.id] = "idle"
        elif len(large) > 1 and busy == large:
            found[workload.id] = "both"
        elif len(large) > 1 and len(busy) == 1:
            found[workload.id] = "alone"
        else:
            found[workload.id] = "both" if len(large) == 1 and busy else "own"
    return found


def _drawn(workload: Workload) -> dict[str, float]:
    return {source: float(detail(figure).value) for source, figure in workload.watts.items()}


def _watts(workload: Workload) -> float:
    return sum(_drawn(workload).values())


def _planned(build: Build, followed: _Followed, kind: LoadKind) -> PlannedLoad:
    workload = followed.load
    slowest = max(followed.needed_min, key=lambda address: followed.needed_min[address])
    needed = IDLE_MIN if kind == "idle" else followed.needed_min[slowest]
    minutes = int(STEP_MIN * ceil(float(np.clip(needed, LEAST_MIN, MOST_MIN)) / STEP_MIN))
    return PlannedLoad(
        workload=workload.id,
        name=workload.name or workload.id,
        kind=kind,
        why=_WHY[kind],
        minutes=minutes,
        slowest=followed.names[slowest],
        share_at_30=followed.share_at_30[slowest],
        due_min=due_minutes(kind, minutes),
        note=_worth_reading(build, followed),
        locked=_locked(build, followed),
        sound_ceiling_dba=None if workload.sound_ceiling_dba is None else float(workload.sound_ceiling_dba),
    )


def due_minutes(kind: LoadKind, minutes: int) -> list[int]:
    """When to read: idle at its end; a load early, where its fast parts have settled, before its end and at it."""
    if kind == "idle":
        return [minutes]
    return sorted({5, round(minutes / 3), round(0.75 * minutes), minutes})


def _worth_reading(build: Build, followed: _Followed) -> list[str]:
    """Places with the least to spare first, then coolant, air and the room."""
    spare = {
        address: np.inf if (limit := lowest_limit(place)[1]) is None else limit - followed.settles_c[address]
        for address, (place, _) in build.place_owners().items()
        if address in followed.settles_c
    }
    places = sorted(spare, key=lambda address: spare[address])
    coolant = [f"{loop.id}/coolant_hot" for loop in build.loops]
    air = [f"{zone.id}/air" for zone in build.zones if zone.kind == "box"]
    return [*(f"{address}/temperature" for address in places), *coolant, *air, "room/air"]


def _locked(build: Build, followed: _Followed) -> list[Locked]:
    """Every mover at what the load tells it."""
    found = []
    for mover in (part for part in build.parts if isinstance(part, Mover)):
        command, rpm = followed.load.movers.get(mover.id), followed.rpm[mover.id]
        by = "its own fixed speed" if command is None else "firmware or controller"
        told = f"at {rpm:.0f} rpm"
        if command is not None and command.off:
            told = "off"
        elif command is not None and command.curve is not None:
            told, by = f"by its curve; note its speed, about {rpm:.0f} rpm once settled", "firmware: its curve"
        elif command is not None and command.duty is not None:
            told = f"at {100 * float(command.duty):.0f} %, {rpm:.0f} rpm"
        found.append(Locked(address=mover.id, name=mover.name or mover.id, told=told, by=by))
    return found


def _seen(build: Build) -> list[Seen]:
    """Gates: what must be right before power, and what must be seen to work before the load goes on."""
    found = []
    if build.loops:
        found.append(Seen(key="no-leak", when="before_power", says="No drop under any joint; coolant at its level."))
        found.append(
            Seen(key="loop-closed", when="before_power", says="The loop is closed and filled: a pump never runs dry.")
        )
    if any(isinstance(part, Filter) for part in build.parts):
        found.append(Seen(key="filter", when="before_power", says="Filters are in, and as clean as the build says."))
    found.append(Seen(key="room", when="before_power", says="The room is noted beside the intake, not on the machine."))
    for pump in (part for part in build.parts if isinstance(part, Pump)):
        says = (
            f"{pump.name or pump.id} turns and the coolant moves: at the reservoir, the flow meter or by its bubbles."
        )
        found.append(Seen(key=f"moves/{pump.id}", when="at_start", says=says))
    for fan in (part for part in build.parts if isinstance(part, Fan)):
        says = f"{fan.name or fan.id} turns, and blows the way it was drawn."
        found.append(Seen(key=f"turns/{fan.id}", when="at_start", says=says))
    return found


def _stops(build: Build) -> list[StopRule]:
    """Limits that the firmware does not hold by itself, coolant that is too warm for its tube, and what any hand would do."""
    found = []
    for address, (place, _) in build.place_owners().items():
        kind, limit_c = lowest_limit(place)
        if limit_c is not None:
            held = " and stays there for a minute" if kind == "throttle" else ""
            says = f"{place.name or address} reaches {limit_c:g} °C{held}"
            found.append(StopRule(address=address, says=says, at_c=limit_c))
    for loop in build.loops:
        says = f"{loop.name or loop.id} coolant passes {TUBE_C:g} °C: soft tube gives way"
        found.append(StopRule(address=loop.id, says=says, at_c=TUBE_C))
    standing = "a fan or the pump stands still" if build.loops else "a fan stands still"
    if any(isinstance(part, Mover) for part in build.parts):
        found.append(StopRule(address="", says=standing, at_c=None))
    smell = "smell, smoke, a drop of liquid, a noise that was not there before"
    found.append(StopRule(address="", says=smell, at_c=None))
    return found
