"""What sizing says, as frozen records: every figure with its address. Their names are those of the JSON form."""

from dataclasses import dataclass, field
from typing import Any

from krill.fit.stack import Says
from krill.in_time.aims import AimKind
from krill.prediction.answer.result import WorkloadResult


@dataclass(frozen=True, slots=True, kw_only=True)
class Edit:
    """One edit of the document: a field (or field/key) of what an id belongs to, set to a JSON value."""

    target: str
    field: str
    value: Any


@dataclass(frozen=True, slots=True, kw_only=True)
class SideEffect:
    address: str
    name: str
    won_k: float


@dataclass(frozen=True, slots=True, kw_only=True)
class NextChange:
    """One step: kelvins won on the place in view, what it does to the others, what it costs, how to make it.

    ``breaks`` names the parts that it brings over their limit: such a step ranks behind all that break none. ``price`` is
    the user's figure of ``price_key`` among the build's prices; None is unknown, where it ``buys``. ``hours`` is the work
    on the finished machine of what is bought, with what must come out for it; None is unknown or not asked. A change of
    kind is solved ``alone``, as a machine of its own; the others go as one batch. ``gained`` is what it adds to the figure
    of a load in time that was aimed at, in its unit; better is the sign that the aim asks for.
    """

    label: str
    about: str
    won_k: float
    louder_db: float
    others: list[SideEffect]
    breaks: list[str]
    costs: list[str]
    buys: bool
    price: float | None
    price_key: str
    hours: float | None
    alone: bool
    edits: list[Edit]
    gained: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Aimed:
    """A figure of a load in time that steps are ranked by: how it stands as the build is."""

    kind: AimKind
    of: str
    name: str
    minutes: float
    before: str
    unit: str
    now: float
    more_is_better: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class NextChanges:
    """Ranked steps; not ``whole`` where changes of kind are left out. ``aim`` is None where kelvins are won as settled."""

    workload: str
    room_c: float
    place: str
    changes: list[NextChange]
    sentence: str
    whole: bool
    certifies: str
    aim: Aimed | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class SolvedFor:
    """One figure solved for something wanted; where it is out of reach, the best that can be had and why.

    ``curve`` is what values on the way give, in ``curve_unit``; it is to reach ``curve_wanted`` (where watts are wanted
    these are the least margin and the one wanted). ``edits`` take over a duty or a whole number, which are more than one
    figure of the document; they are empty for a figure.
    """

    address: str
    unit: str
    now: float
    value: float
    reached: bool
    goal: str
    of: str
    goal_unit: str
    wanted: float
    got: float
    because: str
    curve: list[tuple[float, float]]
    curve_unit: str
    curve_wanted: float
    edits: list[Edit]
    certifies: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Held:
    """Watts of one source that a build holds; None where its own limit is passed without it or none is reached at all.

    ``held_out`` names what is passed whatever this source takes: the watts are those that all else holds. At
    ``watts_surely``, never more, half of each place's band is left, too, but of those ``in_doubt`` whatever it takes.
    """

    source: str
    name: str
    workload: str
    room_c: float
    watts_now: float
    watts: float | None
    watts_surely: float | None
    more_than_w: float | None
    first: str
    first_name: str
    held_out: list[str]
    in_doubt: list[str]
    never: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Holds:
    margin_k: float
    held: list[Held]
    certifies: str


@dataclass(frozen=True, slots=True, kw_only=True)
class SpeedForLevel:
    """Speeds that make a wanted total level; not reached where what is not scaled is louder already."""

    wanted_dba: float
    reached: bool
    total_dba: float
    factor: float
    duties: dict[str, float]
    because: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Stack:
    """A radiator with its fans, or a sink, along the way of its air or fins; None where a fan's depth is unknown."""

    address: str
    name: str
    height_mm: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class SlotLeft:
    """What is left in a slot, and the half width of it; None where something in it has no thickness."""

    address: str
    name: str
    left_mm: float | None
    half_mm: float | None
    says: Says


@dataclass(frozen=True, slots=True, kw_only=True)
class Measures:
    """What a build measures; ``unweighed`` and ``unpriced`` count the parts that say nothing of theirs."""

    stacks: list[Stack]
    height_mm: float | None
    mass_g: float | None
    unweighed: int
    price: float | None
    unpriced: int
    work_hours: float | None
    slots: list[SlotLeft]


@dataclass(frozen=True, slots=True, kw_only=True)
class DemandMet:
    """One demand and how many candidates meet it."""

    name: str
    met_by: int


@dataclass(frozen=True, slots=True, kw_only=True)
class StudyResult:
    """Figures of every candidate as columns by its number; None is unknown or could not be solved.

    ``meets`` goes by central figures, ``surely`` by the whole 90 % band of the tightest margin.
    """

    size: int
    solved: int
    columns: dict[str, list[float | None]]
    tightest: list[str]
    meets: list[int]
    surely: list[int] = field(default_factory=list)  # none in results of an older core
    undominated: list[int]
    demands: list[DemandMet]
    closest: int | None
    failures: dict[str, str]
    sentence: str
    certifies: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Neighbour:
    """The candidate one option further along one axis: differences to the one in view, and whether it is worth it.

    Of another size it is the coolest that is no louder; ``at`` names the speeds that were chosen anew for that.
    """

    number: int
    address: str
    label: str
    at: list[str]
    meets: bool
    margin_k: float | None
    level_db: float | None
    height_mm: float | None
    price: float | None
    worth_it: bool
    says: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CandidateDetail:
    """A candidate in view; ``drawn_low_k`` is what it leaves beyond the margins demanded with its whole band, drawn for it."""

    number: int
    options: list[int]
    labels: list[str]
    edits: list[Edit]
    workloads: list[WorkloadResult]
    neighbours: list[Neighbour]
    drawn_low_k: float | None
    why: str


@dataclass(frozen=True, slots=True, kw_only=True)
class MapAxis:
    address: str
    unit: str
    values: list[float]
    now: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class DesignMap:
    """Least margin and loudest level at every crossing of two figures; rows follow the first axis."""

    workload: str
    room_c: float
    axes: list[MapAxis]
    margin_k: list[list[float | None]]
    spare_k: list[list[float | None]]
    half_k: list[list[float | None]]
    level_dba: list[list[float | None]]
    spare_db: list[list[float | None]]
    wanted_k: float
    certifies: str


@dataclass(frozen=True, slots=True, kw_only=True)
class CurvePoint:
    at_c: float
    duty: float


@dataclass(frozen=True, slots=True, kw_only=True)
class LoadCheck:
    """The curve followed at a share of the workload's watts."""

    load: float
    sensor_c: float
    speed_share: float
    level_dba: float
    margin_k: float
    tightest: str
    tightest_name: str
    holds: bool
    surely: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class FanCurveResult:
    workload: str
    room_c: float
    sensor: str
    group: str
    fans: list[str]
    margin_k: float
    lowest_duty: float
    highest_duty: float
    points: list[CurvePoint]
    checks: list[LoadCheck]
    says: str
    certifies: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Setting:
    """What is typed into a firmware beside the points, and the shares of the load at which the fans then hunt."""

    hysteresis_k: float
    up_s: float
    down_s: float
    hunts_at: list[float]


@dataclass(frozen=True, slots=True, kw_only=True)
class CurveInTime:
    """A fan curve run in time: the first of the settings that holds still at every load (its number, None where none does).

    ``slope`` is the curve's steepest, share of duty a kelvin; ``hunts_from`` the least of the steeper ones tried, up to
    ``looked_to``, at which the liveliest setting hunts at all of the load.
    """

    settings: list[Setting]
    chosen: int | None
    slope: float
    hunts_from: float | None
    looked_to: float
    says: str
    certifies: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Contribution:
    """What one uncertain figure (with those drawn ``together``) adds to a band, half widths in K; the rest without it.

    One of origin ``law`` says by its label what a law is used for; nobody can measure it.
    """

    address: str
    name: str
    label: str
    together: list[str]
    value: float
    minus: float
    plus: float
    unit: str
    origin: str
    half_k: float
    share: float
    without_k: float


@dataclass(frozen=True, slots=True, kw_only=True)
class MeasureFirst:
    workload: str
    room_c: float
    place: str
    name: str
    half_width_k: float
    model_k: float
    contributions: list[Contribution]
    sentence: str
    certifies: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Difference:
    """One thing that stands otherwise in another document; None where it stands nowhere."""

    address: str
    first: Any
    second: Any


@dataclass(frozen=True, slots=True, kw_only=True)
class Beside:
    """One option: its workload solved, what it measures, what a year of energy costs, what differs from the first."""

    label: str
    result: WorkloadResult
    measures: Measures
    energy_a_year: float | None
    differences: list[Difference]


@dataclass(frozen=True, slots=True, kw_only=True)
class SideBySide:
    workload: str
    room_c: float
    options: list[Beside]
    certifies: str


@dataclass(frozen=True, slots=True, kw_only=True)
class OfferedOption:
    value: Any
    label: str


@dataclass(frozen=True, slots=True, kw_only=True)
class OfferedAxis:
    """What may vary in a study, with the values that it starts with; a ``range`` may take any between.

    ``first`` are those that a study begins with.
    """

    address: str
    name: str
    unit: str
    range: bool
    first: bool
    options: list[OfferedOption]


@dataclass(frozen=True, slots=True, kw_only=True)
class OfferedNumber:
    """A number of the build that a map may run over, between two ends."""

    address: str
    name: str
    unit: str
    low: float
    high: float
    whole: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class OfferedUnknown:
    address: str
    name: str


@dataclass(frozen=True, slots=True, kw_only=True)
class OfferedQuestion:
    """A question that people ask most: what is solved for, so that what is wanted of ``of`` is met."""

    says: str
    address: str
    goal: str
    of: str
    wanted: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Offers:
    workload: str
    axes: list[OfferedAxis]
    numbers: list[OfferedNumber]
    unknowns: list[OfferedUnknown]
    questions: list[OfferedQuestion]
