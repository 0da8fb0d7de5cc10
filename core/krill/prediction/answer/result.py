"""What a prediction says, as frozen records: every figure with its address. Their names are those of the JSON form."""

from dataclasses import dataclass
from typing import Literal

from krill.fit.holding import BesideHeat, JointHolds

StoppedKind = Literal["fan", "pump", "feed"]
DifferenceSays = Literal["warmer", "cooler", "none", "cannot tell", "only in one"]
Status = Literal["holds", "tight", "too hot", "throttled", "unknown"]
TerraceKind = Literal["coolant", "air", "body"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Band:
    """Middle 90 %."""

    low: float
    high: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Law:
    """What a hop is computed with: the law, its reference, its published range in words, whether this use is inside."""

    name: str
    source: str
    valid: str
    inside: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class HopDrop:
    address: str
    name: str
    kind: str
    drop_k: float
    watts: float
    share: float
    origin: str
    law: Law | None


@dataclass(frozen=True, slots=True, kw_only=True)
class SideWay:
    """What leaves a place beside its named way."""

    address: str
    name: str
    watts: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Throttled:
    """What a source loses that is held at a throttle limit; the clock by its class's exponent, where one is known."""

    lost_w: float
    full_w: float
    clock_share: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaceResult:
    address: str
    name: str
    source: str
    watts: float
    temperature_c: float
    temperature_kind: str
    over_room_k: float
    band_c: Band | None
    limit_kind: str | None
    limit_c: float | None
    margin_k: float | None
    margin_band_k: Band | None
    status: Status
    because: str
    throttled: Throttled | None
    terrace: str
    hops: list[HopDrop]
    side_ways: list[SideWay]


@dataclass(frozen=True, slots=True, kw_only=True)
class Terrace:
    address: str
    kind: TerraceKind
    name: str
    temperature_c: float
    over_room_k: float
    watts: float
    detail: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LoopElement:
    address: str
    kind: str
    name: str
    flow_l_min: float
    drop_kpa: float
    share: float
    pressure_kpa: float
    limit_kpa: float | None
    inlet_c: float
    outlet_c: float
    detail: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PumpPoint:
    """Where a pump works, and the ends of its curve at its speed.

    Efficiency is a guess: hydraulic over electric watts, both of the central figures.
    """

    address: str
    speed_share: float
    flow_l_min: float
    head_kpa: float
    shutoff_kpa: float
    free_flow_l_min: float
    electric_w: float
    into_coolant_w: float
    efficiency: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class LoopResult:
    address: str
    name: str
    coolant: str
    flow_l_min: float
    flow_band_l_min: Band | None
    lowest_c: float
    highest_c: float
    highest_band_c: Band | None
    fill_l: float
    expansion_ml: float
    air_room_ml: float | None
    highest_kpa: float
    air_collects_at: str | None
    elements: list[LoopElement]
    pumps: list[PumpPoint]


@dataclass(frozen=True, slots=True, kw_only=True)
class AirElement:
    address: str
    kind: str
    name: str
    path: str
    airflow_m3_h: float
    drop_pa: float
    inlet_c: float
    outlet_c: float
    speed_share: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class AirPathResult:
    """What passes a path; ``from_zone`` and ``to_zone`` as the air goes, the other way round where it flows back.

    ``drawn_again_share`` is the share of its air that comes out of an exhaust.
    """

    address: str
    name: str
    from_zone: str
    to_zone: str
    airflow_m3_h: float
    inlet_c: float
    outlet_c: float
    drawn_again_share: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class ZoneResult:
    address: str
    name: str
    kind: str
    temperature_c: float
    band_c: Band | None
    over_room_k: float
    pressure_pa: float | None
    velocity_m_s: float | None
    in_m3_h: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class BodyWay:
    """What one side of a body gives to its air (or to a body joined to it), W; ``film_w_m2k`` is the convection on it."""

    side: Literal["outside", "inside", "stream", "joined"]
    air: str
    air_c: float
    watts: float
    convection_w: float
    radiation_w: float
    film_w_m2k: float
    law: Law


@dataclass(frozen=True, slots=True, kw_only=True)
class TouchCheck:
    """The hottest place of an outside against the burn threshold of its material and how long it is touched."""

    contact: str
    limit_c: float | None
    says: Literal["holds", "too hot", "unknown"]


@dataclass(frozen=True, slots=True, kw_only=True)
class BodyResult:
    """A sink or panel: how it stands, how warm it is on average and at its hottest contact, where its heat goes."""

    address: str
    name: str
    kind: Literal["sink", "panel"]
    stands: str
    temperature_c: float
    over_room_k: float
    hottest_c: float
    hottest_band_c: Band | None
    watts: float
    fins: float | None
    spacing_mm: float | None
    fin_efficiency: float | None
    mass_g: float
    emissivity: float
    width_mm: float
    height_mm: float
    base_mm: float
    fin_height_mm: float | None
    fin_thickness_mm: float | None
    ways: list[BodyWay]
    touch: TouchCheck | None


@dataclass(frozen=True, slots=True, kw_only=True)
class PipeLimit:
    name: str
    watts: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PipeResult:
    """A group of like heat pipes; watts and limits are of its busiest pipe."""

    address: str
    name: str
    place: str
    count: int
    group_w: float
    busiest_w: float
    limit_w: float
    share: float
    share_band: Band | None
    binding: str
    limits: list[PipeLimit]
    vapour_c: float
    lift_mm: float
    state: Literal["works", "near its limit", "dried out"]
    resistance_k_w: float
    diameter_mm: float
    flat_mm: float | None
    wall_mm: float
    wick_mm: float
    evaporator_mm: float
    adiabatic_mm: float
    condenser_mm: float
    bends: int


@dataclass(frozen=True, slots=True, kw_only=True)
class SoundMark:
    """What a fan or pump pays, or gains, by where it stands and how it is held, by common practice."""

    text: str
    db: float


@dataclass(frozen=True, slots=True, kw_only=True)
class SoundSource:
    """``tone_hz`` is the blade tone of a fan whose blades are known."""

    address: str
    name: str
    level_dba: float
    tone_hz: float | None
    marks: list[SoundMark]


@dataclass(frozen=True, slots=True, kw_only=True)
class SoundResult:
    total_dba: float
    band_dba: Band | None
    at_m: float
    ceiling_dba: float | None
    sources: list[SoundSource]


@dataclass(frozen=True, slots=True, kw_only=True)
class Rules:
    """Rules of thumb beside each other: a sanity check, not a size; watts are of a section of 120 mm (by area)."""

    sections: int
    watts_per_section: float | None
    coolant_over_room_k: float | None
    loop_order_k: float | None
    note: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Notice:
    level: Literal["note", "warning"]
    address: str
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class NodeResult:
    address: str
    temperature_c: float


@dataclass(frozen=True, slots=True, kw_only=True)
class NoState:
    """Why a machine settles in no state that lasts: where, what happens there, what is allowed."""

    address: str
    what: str
    allowed: str

    @property
    def opening(self) -> str:
        """What happens, as a sentence begins."""
        return f"{self.what[0].upper()}{self.what[1:]}"


@dataclass(frozen=True, slots=True, kw_only=True)
class WorkloadResult:
    """With ``no_state`` there is no figure of any part, and every list but the notices is empty."""

    workload: str
    name: str
    room_c: float
    power_w: float
    balance_w: float
    no_state: NoState | None
    tightest: str | None
    places: list[PlaceResult]
    terraces: list[Terrace]
    loops: list[LoopResult]
    air: list[AirElement]
    paths: list[AirPathResult]
    zones: list[ZoneResult]
    bodies: list[BodyResult]
    pipes: list[PipeResult]
    joints: list[JointHolds]
    beside: list[BesideHeat]
    sound: SoundResult
    rules: Rules
    notices: list[Notice]
    nodes: list[NodeResult]


@dataclass(frozen=True, slots=True, kw_only=True)
class FanOperation:
    """A fan's curve at its speed against what everything else asks of it at imposed flows."""

    address: str
    speed_share: float
    rpm: float
    airflow_m3_h: float
    pressure_pa: float
    stalled: bool
    curve: list[tuple[float, float]]
    system: list[tuple[float, float]]
    path: list[AirElement]


@dataclass(frozen=True, slots=True, kw_only=True)
class StoppedPlace:
    address: str
    name: str
    temperature_c: float
    over_as_built_k: float
    limit_c: float | None
    passes: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class StoppedCase:
    """The machine settled with one thing off; with ``no_state`` there is no figure of any part."""

    address: str
    name: str
    kind: StoppedKind
    stopped: list[str]
    passes: list[str]
    coolant_c: float | None
    places: list[StoppedPlace]
    no_state: NoState | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Stopped:
    workload: str
    room_c: float
    cases: list[StoppedCase]
    certifies: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaceDifference:
    """One place in two builds; the band is of the difference: what both share cancels."""

    address: str
    name: str
    first_c: float | None
    second_c: float | None
    difference_k: float | None
    band_k: Band | None
    limit_c: float | None
    says: DifferenceSays
    passes: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class FigureDifference:
    """Coolant, air or sound in two builds; the band is of the difference."""

    address: str
    name: str
    unit: str
    first: float
    second: float
    difference: float
    band: Band | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Comparison:
    workload: str
    room_c: float
    places: list[PlaceDifference]
    others: list[FigureDifference]
    first_dba: float
    second_dba: float
    first_w: float
    second_w: float
    sentence: str
    certifies: str


@dataclass(frozen=True, slots=True, kw_only=True)
class PumpCurve:
    """A pump's curve at its speed: (l/min, kPa)."""

    address: str
    points: list[tuple[float, float]]


@dataclass(frozen=True, slots=True, kw_only=True)
class LoopCurves:
    """What the pumps of a loop give against what the loop asks, (l/min, kPa)."""

    address: str
    pumps: list[PumpCurve]
    loop_curve: list[tuple[float, float]]


@dataclass(frozen=True, slots=True, kw_only=True)
class StandCurve:
    """(K over its air, W) of a body that stands one way."""

    stands: str
    points: list[tuple[float, float]]
    inside: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class SinkCurve:
    address: str
    air_c: float
    curves: list[StandCurve]
    stands: str
    point: tuple[float, float]
    pitch_mm: float | None
    pitch_curve: list[tuple[float, float]]
    best_pitch_mm: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class NamedCurve:
    name: str
    points: list[tuple[float, float]]


@dataclass(frozen=True, slots=True, kw_only=True)
class PipeChart:
    """(C of the vapour, W) of each limit of one pipe, the least of them, and the working point."""

    address: str
    limits: list[NamedCurve]
    least: list[tuple[float, float]]
    point: tuple[float, float]
    result: PipeResult


@dataclass(frozen=True, slots=True, kw_only=True)
class Prediction:
    id: str
    core_version: str
    document_sha256: str
    seed: int
    samples: int
    drawn_figures: int
    certifies: str
    workloads: list[WorkloadResult]
