"""What a job's score cost, from several loads: per watt, per decibel, per kelvin; what the last watts bought."""

from dataclasses import dataclass
from itertools import pairwise
from typing import Final

from krill.runs.quantities_read import SCORES, quantity_read, statistic_of
from krill.runs.run_document import Reading

#: scores that differ by less are alike (a job's own spread from run to run; common practice)
ALIKE_SHARE: Final = 0.01


@dataclass(frozen=True)
class ScoredLoad:
    """One load with its score, its watts, its sound and how far its hottest part lay over the room."""

    name: str
    role: str
    score: float
    more_is_better: bool
    watts: float
    level_dba: float | None = None
    over_room_k: float | None = None


@dataclass(frozen=True)
class Bought:
    """From one load to the next one of more watts: what it cost, and what it bought, a share of the score."""

    first: str
    second: str
    watts: float
    score_share: float
    level_db: float | None
    kelvins: float | None
    says: str


def score_of(readings: list[Reading]) -> tuple[str, float, bool] | None:
    """Role, value and direction of the first score among readings; a bare one without direction is none."""
    for reading in readings:
        statistic = statistic_of(reading.role)
        if statistic in SCORES and reading.value is not None and reading.load_on:
            better = SCORES[statistic] if reading.more_is_better is None else reading.more_is_better
            if better is not None:
                return reading.role, float(reading.value), better
    return None


def bought(loads: list[ScoredLoad]) -> list[Bought]:
    """Loads of one score in the order of their watts, each against the one before."""
    if not loads:
        return []
    alike = sorted((load for load in loads if load.role == loads[0].role), key=lambda load: load.watts)
    return [_between(a, b) for a, b in pairwise(alike)]


def _between(a: ScoredLoad, b: ScoredLoad) -> Bought:
    gained = b.score / a.score - 1.0 if a.more_is_better else a.score / b.score - 1.0
    level = None if a.level_dba is None or b.level_dba is None else b.level_dba - a.level_dba
    kelvins = None if a.over_room_k is None or b.over_room_k is None else b.over_room_k - a.over_room_k
    watts = b.watts - a.watts
    what = "nothing" if abs(gained) < ALIKE_SHARE else f"{100 * gained:.0f} %"
    cost = f"the last {watts:.0f} W"
    if level is not None and abs(level) >= 1.0:
        cost += f" and {level:+.0f} dBA"
    if kelvins is not None and abs(kelvins) >= 1.0:
        cost += f" and {kelvins:+.0f} K"
    name = quantity_read(a.role).name
    says = f"From {a.name} to {b.name}: {cost} bought {what} of {name}.".replace("-", "−")
    return Bought(a.name, b.name, watts, gained, level, kelvins, says)
