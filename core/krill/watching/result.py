"""What is told of a run while it goes on; minutes count from when the load came on."""

from dataclasses import dataclass
from typing import Literal

from krill.watching.kinds import FailureKind

AlarmKind = Literal["at_limit", "nears_limit"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """Something that failed: what, where, since when, and whether something else that was found explains it."""

    kind: FailureKind
    on: list[str]
    name: str
    says: str
    since_min: float
    follows: bool
    stop: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Alarm:
    """A place at its limit, or on its way there in so many minutes."""

    kind: AlarmKind
    address: str
    name: str
    limit_c: float
    now_c: float
    minutes_left: float | None
    stop: bool
    says: str


@dataclass(frozen=True, slots=True, kw_only=True)
class OutOfBand:
    """A temperature beside its predicted band now, and for how long."""

    address: str
    name: str
    now_c: float
    low_c: float
    high_c: float
    since_min: float
    says: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Settling:
    """Where a temperature settles by what is seen so far, with its 90 % interval, and the minutes until it has."""

    address: str
    name: str
    now_c: float
    settled: bool
    settles_c: float
    half_k: float
    minutes_needed: float
    says: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Watched:
    """``load_on_min`` is when the load came on, on the run's own clock; None where it has not yet."""

    load_on_min: float | None
    minutes: float
    load_ended: bool
    room_c: float | None
    findings: list[Finding]
    alarms: list[Alarm]
    off: list[OutOfBand]
    settling: list[Settling]
    sentence: str
