"""What is told of a build in time; minutes count from when the load comes on."""

from dataclasses import dataclass
from typing import Literal

from krill.prediction.answer.result import Band, Status, Stopped

CurveKind = Literal["place", "coolant", "air", "body"]


@dataclass(frozen=True, slots=True, kw_only=True)
class HopInTime:
    """One step of a place's way to the room: what lies over it, K, at the answer's ``hop_minutes``."""

    address: str
    name: str
    kind: str
    drop_k: list[float]


@dataclass(frozen=True, slots=True, kw_only=True)
class TimeCurve:
    """A temperature in time, °C at the answer's minutes, with the ends of its 90 % band where draws were asked for.

    ``limit_min`` is when it first meets its limit, None where it never does; ``within_1k_min`` from when on it stays
    within 1 K of where it settles; ``share_at_30`` of its rise 30 minutes show, None where it hardly rises; ``hops`` of a place
    lead from it to the room, those of anything else are none.
    """

    address: str
    name: str
    kind: CurveKind
    c: list[float]
    low_c: list[float] | None
    high_c: list[float] | None
    limit_c: float | None
    status: Status | None
    settles_c: float
    settles_band_c: Band | None
    limit_min: float | None
    limit_share: float | None  # of the draws that meet it within the time
    within_1k_min: float
    share_at_30: float | None
    hops: list[HopInTime]


@dataclass(frozen=True, slots=True, kw_only=True)
class Phase:
    """A stretch of the time: idle, a burst, the sustained load; minutes from and to."""

    name: str
    begins_min: float
    ends_min: float


@dataclass(frozen=True, slots=True, kw_only=True)
class BurstHolds:
    """How long a burst may last, s, until a place's band meets its limit less the margin wanted; None: as long as looked.

    From the machine as the load has soaked it, and from the state before the load.
    """

    source: str
    name: str
    watts: float
    wanted_s: float
    soaked_s: float | None
    fresh_s: float | None
    looked_s: float
    place: str
    at_c: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class HeldBackInTime:
    """A source that gives up watts: for which share of the load, how many of its watts and how much of its clock on
    average, and what share of its work that leaves; both None where its class says nothing of its clock.

    Its firmware acts ``late_s`` after the limit is met, which lets a place pass it by ``over_k`` at most, and gives watts back
    ``gives_back_k`` below: what is read swings between the two, on average half of that below the limit. Both are bands of
    90 %, None where nothing is known of them.
    """

    source: str
    name: str
    share_of_time: float
    lost_w: float
    full_w: float
    clock_share: float | None
    work_share: Band | None
    late_s: Band | None
    over_k: float
    gives_back_k: Band | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Hunting:
    """A mover whose speed swings for good: from and to which share of rated speed, and how long a swing lasts, s.

    ``slope`` is that of its curve there, share of duty a kelvin of the sensor; ``slope_that_ends`` the steepest of those
    tried at which it holds still, None where none does. Both are None where they were not looked for.
    """

    mover: str
    name: str
    low: float
    high: float
    period_s: float
    slope: float | None
    slope_that_ends: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class TimeConstant:
    """How slowly something follows: e-folding of the mode that carries most of its way, s."""

    address: str
    name: str
    kind: CurveKind
    seconds: float


@dataclass(frozen=True, slots=True, kw_only=True)
class InTime:
    """A load in time: it comes on at minute 0 over what was before; where it goes again after ``on_min`` for ``off_min``
    minutes, what settles are the highest temperatures of each time on, and nothing is said of fans that swing.

    ``minutes_needed`` is from when on every temperature is within 1 K of where it settles.
    """

    workload: str
    name: str
    room_c: float
    before: str
    on_min: float | None
    off_min: float | None
    samples: int
    minutes: list[float]
    hop_minutes: list[float]
    curves: list[TimeCurve]
    sound_dba: list[float]
    sound_low_dba: list[float] | None
    sound_high_dba: list[float] | None
    ceiling_dba: float | None
    phases: list[Phase]
    bursts: list[BurstHolds]
    held_back: list[HeldBackInTime]
    hunting: list[Hunting]
    constants: list[TimeConstant]
    slowest: str
    minutes_needed: float
    share_at_30: float | None
    sentence: str
    certifies: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LimitMet:
    """The first limit that is met once something is off, after so many minutes."""

    address: str
    name: str
    limit_c: float
    minutes: float


@dataclass(frozen=True, slots=True, kw_only=True)
class StoppedMinutes:
    """One thing off: the limits that are met within the time looked at, soonest first."""

    address: str
    met: list[LimitMet]


@dataclass(frozen=True, slots=True, kw_only=True)
class StoppedInTime:
    """Off or stopped: where each case settles, and how long the limits that it passes take."""

    settled: Stopped
    looked_min: float
    minutes: list[StoppedMinutes]
