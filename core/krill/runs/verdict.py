"""Did the machine do what Krill said? Predicted bands against measured values, and what is off."""

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build
from krill.networks.states import Case
from krill.numerics.sampling import QUANTILE_90, band_90, normal_draws
from krill.prediction.answer.doubt import place_samples
from krill.prediction.answer.lasting import must_last
from krill.prediction.answer.places import lowest_limit
from krill.prediction.answer.solving import Solved, room_of, solve_cases
from krill.prediction.answer.workload_states import idle_of
from krill.runs.as_run import nodes_of, value_of
from krill.runs.quantities_read import quantity_read
from krill.runs.suspects import READING_K, CauseEffects, HopSuspect, ReadNext, Suspicion
from krill.runs.unknown_room import RoomFit, RunRoom, spread_of

Array = NDArray[np.float64]

#: a band of more than this share of the rise tells nothing, unless the limit is further away than it reaches
TELLING_SHARE = 0.25
#: the least drop that a part and its way can have: this quantile of what is drawn of it
FLOOR_QUANTILE = 0.005
BAND_OF_READING_K = {"now": 2.0, "mean": 1.0, "highest": 3.0}


#: conclusions of a place; besides these it is cooler or hotter than predicted
AS_PREDICTED, CANNOT_TELL = "as predicted", "cannot tell"
#: a reading further from the middle than this share of the half band is told; less than so many kelvins never is
ASIDE, SLIGHT_K = 0.5, 4.0


@dataclass(frozen=True)
class Measured:
    """A measured quantity by role, with the half width of its 90 % interval; not ``settled``: it moved while it was read.

    ``statistic`` says what the figure is: settled, mean, now, or highest; ``more_min`` how much longer the load would have
    had to run to know it as settled.
    """

    role: str
    value: float
    half_width: float
    settled: bool = True
    statistic: str = "settled"
    more_min: float = 0.0


@dataclass(frozen=True)
class Alongside:
    """Another run that stood in the same room of one evening, as it ran; the room moved up to ``drift_k`` between (90 %)."""

    build: Build
    workload: str
    measured: list[Measured]
    known: dict[str, float]
    drift_k: float


@dataclass(frozen=True)
class PlaceVerdict:
    role: str
    name: str
    predicted_c: float
    predicted_low: float
    predicted_high: float
    measured_c: float
    measured_low: float
    measured_high: float
    residual_k: float
    limit_c: float | None
    conclusion: str  # as predicted | cooler than predicted | hotter than predicted | cannot tell
    because: str


@dataclass(frozen=True)
class Verdict:
    """``room`` is the run's room: as told, or as the readings have it; ``read_next`` would part the suspects."""

    places: list[PlaceVerdict]
    suspects: list[HopSuspect]
    sentence: str
    room: RunRoom
    read_next: ReadNext | None = None


@dataclass(frozen=True)
class _Held:
    """Readings beside what is predicted of them at one room: K (reading,), and its draws (sample, reading).

    The first readings are of the load, in order of ``known``; those of the idle machine before it stand behind them, and
    those of other runs of the evening last.
    """

    solved: Solved
    case: Case
    known: list[Measured]
    readings: list[Measured]
    central: Array
    draws: Array


def verdict(
    build: Build,
    workload: str,
    room: float | RunRoom,
    measured: list[Measured],
    overrides: dict[str, float] | None = None,
    samples: int = 400,
    seed: int = 1,
    idle: list[Measured] | None = None,
    alongside: list[Alongside] | None = None,
) -> Verdict:
    """Hold measured temperatures against the prediction at the run's room, powers and speeds.

    ``overrides`` are figures known from the run (SI, by address), such as measured watts. A room known to a half width
    only is narrowed by all readings together, also by those of the ``idle`` machine before the load and of runs
    ``alongside``; each part is then held against the room that the other readings give.
    """
    told = room if isinstance(room, RunRoom) else RunRoom(room)
    waiting = (idle or []) if told.half_k else []  # of a room that is known they say nothing
    others = (alongside or []) if told.half_k else []
    cases = _cases(build, workload, waiting)

    def held_at(room_c: float) -> _Held:
        in_room = [replace(case, room_c=room_c) for case in cases]
        own = _held(build, in_room, measured, waiting, samples, seed, overrides)
        for number, other in enumerate(others):
            own = _with(own, other, number, in_room[0].room_c)
        return own

    held = held_at(told.air_c)
    if not held.known:
        return Verdict([], [], "No measured temperature belongs to a part of this build.", told)
    if told.half_k:
        over, _ = _room_fit(held, told).estimate()
        held = held_at(told.air_c + over)
    fit = _room_fit(held, told)
    walk = normal_draws(seed, "run/room", samples)
    places = []
    for i, m in enumerate(held.known):
        over, spread = fit.without(i) if told.half_k else (0.0, 0.0)
        moved = over + spread * walk
        places.append(_judged(held.solved, m, held.central[i] + over, held.draws[:, i] + moved))
    places = [_unless_impossible(held.solved, place, held.known) for place in places]
    effects = CauseEffects.of(held.solved, held.case, [m.role for m in held.known], overrides)
    count = len(held.known)
    prior_k, prior_spread = fit.prior
    suspicion = effects.suspicion(
        fit.residual[:count] - prior_k, fit.covariance[:count, :count] + prior_spread**2 * np.ones((count, count))
    )
    in_room = _room_of_run(told, held, fit)
    return Verdict(places, suspicion.suspects, _sentence(places, suspicion), in_room, suspicion.parted_by)


def _cases(build: Build, workload: str, idle: list[Measured]) -> list[Case]:
    """The load, and the workload of the fewest watts where the idle machine was read, if that is another one."""
    altitude_m = float(build.rooms[0].altitude_m)
    chosen = next(item for item in build.workloads if item.id == workload)
    waiting = idle_of(build, chosen)
    asked = [chosen, waiting] if idle and waiting.id != chosen.id else [chosen]
    return [Case(item, 0.0, altitude_m) for item in asked]


def _held(
    build: Build,
    cases: list[Case],
    measured: list[Measured],
    idle: list[Measured],
    samples: int,
    seed: int,
    overrides: dict[str, float] | None,
) -> _Held:
    solved = solve_cases(build, cases, samples, seed, overrides)
    must_last(solved, 0)
    own = [m for m in measured if nodes_of(solved, m.role) is not None]
    before = [m for m in idle if nodes_of(solved, m.role) is not None] if len(cases) > 1 else []
    read = [*((m, 0) for m in own), *((m, 1) for m in before)]
    central = np.array([value_of(solved, m.role, solved.central(case)) for m, case in read])
    draws = np.stack([_drawn(solved, m.role, case) for m, case in read], axis=1) if read else np.empty((samples, 0))
    return _Held(solved, cases[0], own, [m for m, _ in read], central, draws)


def _with(held: _Held, other: Alongside, number: int, room_c: float) -> _Held:
    """With the readings of another run in the same room: the same draws, as it may be the same machine."""
    seed, samples = held.solved.seed, held.solved.samples
    load = next(item for item in other.build.workloads if item.id == other.workload)
    case = Case(load, room_c, float(other.build.rooms[0].altitude_m))
    solved = solve_cases(other.build, [case], samples, seed, other.known)
    read = [m for m in other.measured if nodes_of(solved, m.role) is not None]
    if not read:
        return held
    walk = normal_draws(seed, f"run/room/evening/{number}", samples) * other.drift_k / QUANTILE_90
    central = [value_of(solved, m.role, 0) for m in read]
    draws = np.stack([_drawn(solved, m.role) + walk for m in read], axis=1)
    return replace(
        held,
        readings=[*held.readings, *read],
        central=np.concatenate([held.central, central]),
        draws=np.concatenate([held.draws, draws], axis=1),
    )


def _room_fit(held: _Held, told: RunRoom) -> RoomFit:
    """Of a room that is known, the fit says so: its spread is 0 and nobody asks for more."""
    residual = np.array([m.value for m in held.readings]) - held.central
    return RoomFit(residual, left_open(held.readings, held.draws), (told.air_c - held.case.room_c, spread_of(told)))


def _room_of_run(told: RunRoom, held: _Held, fit: RoomFit) -> RunRoom:
    if not told.half_k:
        return told
    over, spread = fit.estimate()
    return RunRoom(held.case.room_c + over, spread * QUANTILE_90)


def left_open(known: list[Measured], draws: Array) -> Array:
    """Covariance (role, role) of what tolerances and readings leave open, K²; ``draws`` (sample, role)."""
    noise = np.array([m.half_width for m in known]) / QUANTILE_90
    return np.asarray(np.atleast_2d(np.cov(draws, rowvar=False)) + np.diag(noise**2 + READING_K**2))


def _drawn(solved: Solved, role: str, case: int = 0) -> Array:
    address, _, statistic = role.rpartition("/")
    if statistic in ("temperature", "peak"):
        return place_samples(solved, case, address)
    return value_of(solved, role, solved.drawn(case))


def _judged(solved: Solved, measured: Measured, central: float, draws: Array) -> PlaceVerdict:
    low, high = (float(x) for x in band_90(draws))
    residual = measured.value - float(central)
    address = measured.role.rpartition("/")[0]
    owner = solved.build.place_owners().get(address)
    limit = lowest_limit(owner[0])[1] if owner else None
    told_k = max(TELLING_SHARE * abs(float(central) - room_of(solved, solved.central(0))), _to_limit(limit, central))
    conclusion, because = _conclusion(measured, low, high, limit, told_k)
    return PlaceVerdict(
        measured.role,
        name_of(solved, measured.role),
        float(central),
        low,
        high,
        measured.value,
        measured.value - measured.half_width,
        measured.value + measured.half_width,
        residual,
        limit,
        conclusion,
        because,
    )


def _unless_impossible(solved: Solved, judged: PlaceVerdict, known: list[Measured]) -> PlaceVerdict:
    """A part that is less over its measured coolant or air than its way can make it: no machine does that, a reading does."""
    address = judged.role.rpartition("/")[0]
    route = next((route for route in solved.structure.routes if route.place.id == address), None)
    if route is None:
        return judged
    beneath = {f"{route.loop}/coolant_hot", f"{route.loop}/coolant_cold", f"{route.zone}/air"}
    half = (judged.measured_high - judged.measured_low) / 2
    for other in known:
        if other.role not in beneath:
            continue
        drop, doubt = judged.measured_c - other.value, float(np.hypot(half, other.half_width))
        floor = float(np.quantile(_drawn(solved, judged.role) - _drawn(solved, other.role), FLOOR_QUANTILE))
        if drop + doubt < floor:
            why = f"{drop:.1f} K over {name_of(solved, other.role)}, at least {floor:.1f} K must lie between them"
            because = f"{why}: look at the sensor, its role or the watts".replace("-", "−")
            return replace(judged, conclusion="impossible", because=because)
    return judged


def _to_limit(limit: float | None, central: float) -> float:
    return 0.0 if limit is None else abs(limit - float(central))


def name_of(solved: Solved, role: str) -> str:
    """What a role is called in the words of the build that was solved."""
    return role_name(solved.build, role)


def role_name(build: Build, role: str) -> str:
    """What a role is called in the words of a build."""
    address, _, statistic = role.rpartition("/")
    owner = build.place_owners().get(address)
    if owner:
        return owner[0].name or address
    label = quantity_read(role).name if statistic != "temperature" else ""
    named = [item.name for item in [*build.loops, *build.zones, *build.parts] if item.id == address]
    if not named:
        return role
    said = named[0] or address
    return said if said.lower().endswith(label) else f"{said} {label}"


def _conclusion(measured: Measured, low: float, high: float, limit: float | None, told_k: float) -> tuple[str, str]:
    """What is to be said, and why; ``told_k`` is how wide a band may be that still tells something."""
    lower, upper = measured.value - measured.half_width, measured.value + measured.half_width
    if not measured.settled and (lower > high or upper < low):
        return CANNOT_TELL, "it was still moving between the last two readings"
    if lower > high:
        return "hotter than predicted", f"{lower - high:.1f} K above the band"
    if upper < low:
        return "cooler than predicted", f"{low - upper:.1f} K below the band"
    if (high - low) / 2 > told_k:
        half = (high - low) / 2
        return CANNOT_TELL, f"the band is ± {half:.0f} K, over ± {told_k:.0f} K: measure or state what it rests on"
    if measured.half_width > told_k:
        return CANNOT_TELL, f"the measured value is known to ± {measured.half_width:.0f} K only"
    if limit is not None and lower < limit < upper:
        return CANNOT_TELL, f"whether it passes its limit of {limit:g} °C is open"
    return AS_PREDICTED, "the measured value lies in the predicted band"


def _sentence(places: list[PlaceVerdict], suspicion: Suspicion) -> str:
    impossible = [p for p in places if p.conclusion == "impossible"]
    if impossible:
        return f"{impossible[0].name} cannot be as read: {impossible[0].because}."
    off = [p for p in places if p.conclusion.endswith("than predicted")]
    open_ones = [p for p in places if p.conclusion == CANNOT_TELL]
    if suspicion.suspects:
        return _named(suspicion)
    if off:
        return f"{', '.join(p.name for p in off)}: outside the predicted band, and no single cause explains it clearly."
    if open_ones:
        return f"Too uncertain to judge {', '.join(p.name for p in open_ones)}; the other parts match."
    aside = max(places, key=lambda p: abs(p.residual_k) / (p.predicted_high - p.predicted_low + SLIGHT_K))
    half = (aside.predicted_high - aside.predicted_low) / 2
    if abs(aside.residual_k) > max(ASIDE * half, SLIGHT_K):
        way = "hotter" if aside.residual_k > 0 else "cooler"
        return (
            f"As predicted, but that is known to ± {half:.0f} K only: {aside.name} is {abs(aside.residual_k):.0f} K {way} "
            "than the middle of its band."
        )
    return "The machine did what we predicted; nothing is off."


def _named(suspicion: Suspicion) -> str:
    first, *others = suspicion.suspects
    text = f"{first.name}: {first.says} would explain the readings"
    if not first.sure:
        text = f"Perhaps chance, within what is stated; if anything is off, then {text}"
    if others:
        text += "; " + " or ".join(s.name for s in others) + " would explain them nearly as well"
    if suspicion.parted_by:
        text += f". To part them, read {suspicion.parted_by.name}"
    return text + "."
