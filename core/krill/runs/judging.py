"""What a load of a run comes to: temperatures, every other quantity that was read, what is off, what held it back."""

from dataclasses import dataclass, replace

from krill.networks.states import Case
from krill.prediction.answer.solving import solve_cases
from krill.runs.compare import RunSide
from krill.runs.held_back import HeldBack, held_back
from krill.runs.quantities import QuantityVerdict, hold_quantities
from krill.runs.ran import Ran
from krill.runs.unknown_room import RunRoom
from krill.runs.verdict import Verdict, verdict

#: draws behind the bands of quantities that are no temperatures
QUANTITY_SAMPLES = 100


@dataclass(frozen=True)
class Judged:
    """A load of a run held against the build: its temperatures as it ran, its other quantities as the build stands."""

    ran: Ran
    verdict: Verdict
    quantities: list[QuantityVerdict]
    held_back: list[HeldBack]


def judge(ran: Ran, samples: int = 400, seed: int = 1) -> Judged:
    """The verdict of a load of a run, with every other quantity that was read."""
    found = _verdict(ran, samples, seed)
    return Judged(ran, found, _quantities(ran, found.room.air_c, seed), held_back(ran.tracks, ran.fed))


def _verdict(ran: Ran, samples: int, seed: int) -> Verdict:
    return verdict(ran.build, ran.workload, ran.room, ran.measured, ran.known, samples, seed, ran.idle, ran.alongside)


def _quantities(ran: Ran, room_c: float, seed: int) -> list[QuantityVerdict]:
    if not ran.readings:
        return []
    load = next(item for item in ran.as_kept.workloads if item.id == ran.workload)
    case = Case(load, room_c, float(ran.as_kept.rooms[0].altitude_m))
    return hold_quantities(solve_cases(ran.as_kept, [case], QUANTITY_SAMPLES, seed), ran.readings)


def room_of_readings(ran: Ran, samples: int = 400, seed: int = 1) -> RunRoom:
    """The room of a load as its readings have it."""
    return _verdict(ran, samples, seed).room


def in_own_room(ran: Ran) -> Ran:
    """A load in the room that its readings have it in, and known as well as they know it."""
    return ran if not ran.room.half_k else replace(ran, room=room_of_readings(ran))


def side_of(ran: Ran) -> RunSide:
    """A load as one side of a comparison, its room as its own readings have it."""
    room = in_own_room(ran).room
    return RunSide(ran.name, ran.build, ran.workload, room, ran.measured, ran.known, ran.conditions)
