"""Steps, gates, suspects and cautions of putting a machine together, by class."""

from dataclasses import dataclass
from functools import lru_cache

from krill.catalogue.table import table


@dataclass(frozen=True, slots=True)
class StepClass:
    """A step of a practised hand: tool, minutes at it, torque in N·m where something is screwed."""

    name: str
    tool: str
    minutes: float
    torque_nm: float | None
    note: str


@dataclass(frozen=True, slots=True)
class GateClass:
    """Something to be seen to work; where it is watched, for how many hours, and after how many to look."""

    name: str
    minutes: float
    note: str
    watch_h: float | None
    looks_h: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Suspect:
    """Why a machine may not start: how likely of a hundred, what to exchange, what that clears, kinds of steps that touch
    it."""

    id: str
    name: str
    likely: float
    exchange: str
    clears: str
    touched: tuple[str, ...]


@lru_cache(maxsize=1)
def step_classes() -> dict[str, StepClass]:
    """Every kind of step by its id."""
    return {
        key: StepClass(row["name"], row["tool"], row["minutes"], row.get("torque_nm"), row.get("note", ""))
        for key, row in table("work")["steps"].items()
    }


@lru_cache(maxsize=1)
def gate_classes() -> dict[str, GateClass]:
    """Every gate by its id."""
    return {
        key: GateClass(row["name"], row["minutes"], row["note"], row.get("watch_h"), tuple(row.get("looks_h", ())))
        for key, row in table("work")["gates"].items()
    }


@lru_cache(maxsize=1)
def suspects() -> list[Suspect]:
    """Every suspect of a machine that does not start, the likeliest first."""
    found = [
        Suspect(key, row["name"], row["likely"], row["try"], row["clears"], tuple(row["touched"]))
        for key, row in table("work")["suspects"].items()
    ]
    return sorted(found, key=lambda one: -one.likely)


def caution_text(caution: str) -> str:
    """What a caution says; KeyError where there is none."""
    text: str = table("work")["cautions"][caution]
    return text
