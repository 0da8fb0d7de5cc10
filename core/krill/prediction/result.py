"""What a prediction says, as plain JSON objects: every figure with its address. Scripts rely on these names."""

from typing import Literal

from typing_extensions import TypedDict

Status = Literal["holds", "tight", "too hot", "unknown"]


class Band(TypedDict):
    """Middle 90 %."""

    low: float
    high: float


class HopDrop(TypedDict):
    address: str
    name: str
    kind: str
    drop_k: float
    watts: float
    share: float
    origin: str


class PlaceResult(TypedDict):
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
    terrace: str
    hops: list[HopDrop]


class Terrace(TypedDict):
    address: str
    kind: Literal["coolant", "air"]
    name: str
    temperature_c: float
    over_room_k: float
    watts: float
    detail: str


class LoopElement(TypedDict):
    address: str
    kind: str
    name: str
    flow_l_min: float
    drop_kpa: float
    inlet_c: float
    outlet_c: float


class PumpCurve(TypedDict):
    address: str
    speed_share: float
    flow_l_min: float
    head_kpa: float
    points: list[tuple[float, float]]


class LoopResult(TypedDict):
    address: str
    name: str
    coolant: str
    flow_l_min: float
    lowest_c: float
    highest_c: float
    elements: list[LoopElement]
    pumps: list[PumpCurve]
    loop_curve: list[tuple[float, float]]


class AirElement(TypedDict):
    address: str
    kind: str
    name: str
    path: str
    airflow_m3_h: float
    drop_pa: float
    inlet_c: float
    outlet_c: float
    speed_share: float | None


class ZoneResult(TypedDict):
    address: str
    name: str
    kind: str
    temperature_c: float
    over_room_k: float
    pressure_pa: float | None


class SoundSource(TypedDict):
    address: str
    name: str
    level_dba: float


class SoundResult(TypedDict):
    total_dba: float
    at_m: float
    ceiling_dba: float | None
    sources: list[SoundSource]


class Rules(TypedDict):
    """Rules of thumb beside each other: a sanity check, not a size."""

    sections: int
    watts_per_section: float | None
    coolant_over_room_k: float | None
    loop_order_k: float | None


class Notice(TypedDict):
    level: Literal["note", "warning"]
    address: str
    text: str


class NodeResult(TypedDict):
    address: str
    temperature_c: float


class WorkloadResult(TypedDict):
    workload: str
    name: str
    room_c: float
    power_w: float
    balance_w: float
    tightest: str | None
    places: list[PlaceResult]
    terraces: list[Terrace]
    loops: list[LoopResult]
    air: list[AirElement]
    zones: list[ZoneResult]
    sound: SoundResult
    rules: Rules
    notices: list[Notice]
    nodes: list[NodeResult]


class Prediction(TypedDict):
    id: str
    core_version: str
    document_sha256: str
    seed: int
    samples: int
    drawn_figures: int
    certifies: str
    workloads: list[WorkloadResult]
