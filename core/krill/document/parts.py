"""The registry of physical things: every part once, by kind, with its figures."""

from typing import Annotated, Literal

from pydantic import Field

from krill.document.figures import Figure, Number, Strict
from krill.document.part_base import Metal, Part, Positive, Share, Slug
from krill.document.solids import HeatPipe, Interface, Panel, Sink, Spreader

TemperatureKind = Literal["hottest_core", "mean_core", "chip_sensor", "hot_spot", "memory", "case"]
PowerKind = Literal["chip", "package", "board"]


class Limit(Strict):
    kind: Literal["throttle", "own", "touch", "softening"]
    at_c: Figure


class Place(Strict):
    """A spot of a source that gets hot: its share of the watts, what its temperature is, how it is built."""

    id: Slug
    name: str = ""
    class_: str | None = Field(default=None, alias="class")
    power_share: Figure = 1
    temperature_kind: TemperatureKind
    limits: list[Limit] = []
    chip_area_mm2: Figure | None = None
    chip_mm2k_w: Figure | None = None
    hot_core_mm2k_w: Figure | None = None
    hot_core_few_mm2k_w: Figure | None = None
    joint_mm2k_w: Figure | None = None
    lid_area_mm2: Figure | None = None
    lid_thickness_mm: Figure | None = None
    lid_w_mk: Figure | None = None
    package_k_w: Figure | None = None
    heat_capacity_j_k: Figure | None = None


class Source(Part):
    kind: Literal["source"]
    power_kind: PowerKind = "package"
    places: Annotated[list[Place], Field(min_length=1)]


class Supply(Part):
    """A power supply: its loss follows from what it feeds; it warms the zone that its route ends in."""

    kind: Literal["supply"]
    rating_w: Figure | None = None
    efficiency: Figure | None = None
    rated_airflow_m3_h: Figure | None = None
    pressure_pa: Figure | None = None
    places: Annotated[list[Place], Field(min_length=1)]


class Plate(Part):
    """A cold plate, rated on the MEAN coolant inside it."""

    kind: Literal["plate"]
    resistance_1_k_w: Figure | None = None
    resistance_4_k_w: Figure | None = None
    drop_1_kpa: Figure | None = None
    drop_4_kpa: Figure | None = None
    reference_area_mm2: Figure | None = None
    volume_ml: Figure | None = None
    metal: Metal = "copper"


class RadiatorPoint(Strict):
    """A measured point: watts a kelvin of coolant-in over air-in at one air flow and one coolant flow."""

    airflow_m3_h: Positive
    w_k: Positive
    flow_l_min: Positive = 4
    pressure_pa: Positive | None = None


class CoreGeometry(Strict):
    """Core of flat tubes and fins; whatever is left out is taken from the class of its thickness."""

    depth_mm: Positive | None = None
    tube_pitch_mm: Positive | None = None
    tube_height_mm: Positive = 2.0
    tube_wall_mm: Positive = 0.15
    fin_pitch_mm: Positive | None = None
    fin_thickness_mm: Positive = 0.05
    fins: Literal["louvred", "plain"] = "louvred"
    louvre_pitch_mm: Positive = 1.2
    louvre_angle_deg: Annotated[Number, Field(gt=5, le=45)] = 25
    passes: Annotated[int, Field(ge=1, le=4)] = 2


class Radiator(Part):
    """By its class (section, thickness), by measured points, or by its core's geometry.

    ``covered_share`` is the share of the face that gets air; ``dust`` runs from 0 (clean) to 1 (loaded fins).
    """

    kind: Literal["radiator"]
    section_mm: Positive
    sections: Annotated[int, Field(ge=1, le=12)]
    thickness_mm: Positive
    points: list[RadiatorPoint] | None = None
    core: CoreGeometry | None = None
    air_factor: Figure | None = None
    covered_share: Figure | None = None
    dust: Figure | None = None
    drop_4_kpa: Figure | None = None
    volume_ml: Figure | None = None
    metal: Metal = "copper"


class Pump(Part):
    """Head curve at rated speed: points (l/min, kPa), a parabola from shut-off head to free flow, or its class's.

    A free flow or shut-off head that is stated beside points or a class scales their curve to it.
    """

    kind: Literal["pump"]
    curve: list[tuple[Number, Number]] | None = None
    shutoff_kpa: Figure | None = None
    free_flow_l_min: Figure | None = None
    flow_factor: Figure | None = None
    pressure_factor: Figure | None = None
    rated_rpm: Figure | None = None
    power_w: Figure | None = None
    coolant_share: Figure | None = None
    level_dba: Figure | None = None
    level_points: list[tuple[Share, Number]] | None = None
    highest_kpa: Figure | None = None
    when_off: Literal["free", "blocking"] = "free"


class Tube(Part):
    kind: Literal["tube"]
    length_m: Figure
    bore_mm: Figure
    roughness_mm: Figure | None = None


class Fitting(Part):
    """Fittings of one kind in a row; ``loss`` is the coefficient of one on the velocity in its bore."""

    kind: Literal["fitting"]
    count: Annotated[int, Field(ge=1, le=200)] = 1
    bore_mm: Figure
    loss: Figure | None = None
    highest_kpa: Figure | None = None
    metal: Metal | None = None


class Coupling(Part):
    """A pair of quick couplings; one that is not joined closes the loop's way."""

    kind: Literal["coupling"]
    drop_4_kpa: Figure | None = None
    highest_kpa: Figure | None = None
    joined: bool = True
    metal: Metal | None = None


class FlowMeter(Part):
    """A flow meter in the loop: what it costs at 4 l/min."""

    kind: Literal["flow_meter"]
    drop_4_kpa: Figure | None = None


class Strainer(Part):
    """A filter in the coolant; loaded it costs more."""

    kind: Literal["strainer"]
    drop_4_kpa: Figure | None = None
    loaded: bool = False


class Reservoir(Part):
    """``fill_share`` of its volume is coolant, the rest is air to expand into."""

    kind: Literal["reservoir"]
    volume_ml: Figure | None = None
    fill_share: Figure | None = None
    bore_mm: Figure
    loss: Figure | None = None


class Fan(Part):
    """Pressure curve at rated speed as points (m3/h, Pa); levels are at 1 m.

    ``duty_speed`` maps duty to the share of rated speed where the two differ.
    """

    kind: Literal["fan"]
    curve: list[tuple[Number, Number]] | None = None
    flow_factor: Figure | None = None
    pressure_factor: Figure | None = None
    rated_rpm: Figure | None = None
    size_mm: Figure | None = None
    thickness_mm: Figure | None = None
    level_dba: Figure | None = None
    level_points: list[tuple[Share, Number]] | None = None
    power_w: Figure | None = None
    current_a: Figure | None = None
    start_duty: Figure | None = None
    highest_duty: Figure | None = None
    duty_speed: list[tuple[Share, Share]] | None = None


class Opening(Part):
    """A grille, a row of slots or a gap; the loss stands on the face velocity."""

    kind: Literal["opening"]
    area_cm2: Figure
    free_area_share: Figure | None = None
    loss: Figure | None = None


class Filter(Part):
    """A dust filter: pressure = linear * v + square * v^2, v the face velocity in m/s."""

    kind: Literal["filter"]
    area_cm2: Figure
    linear_factor: Figure | None = None
    square_factor: Figure | None = None
    loaded: bool = False


class Duct(Part):
    """A channel of air, round (bore) or rectangular (width and height).

    ``loss`` sums entry, exit and transitions on its own velocity; ``leak_cm2`` is open to ``leak_zone`` at its end.
    """

    kind: Literal["duct"]
    length_m: Figure
    bore_mm: Figure | None = None
    width_mm: Figure | None = None
    height_mm: Figure | None = None
    roughness_mm: Figure | None = None
    loss: Figure | None = None
    bends: Annotated[int, Field(ge=0, le=20)] = 0
    bend_loss: Figure | None = None
    leak_cm2: Figure | None = None
    leak_zone: Slug | None = None


class Gap(Part):
    """A panel, table or wall close in front of an opening of width ``span_mm``: feet height, breathing room."""

    kind: Literal["gap"]
    gap_mm: Figure
    span_mm: Figure
    area_cm2: Figure | None = None


class Obstacle(Part):
    """Memory rows, leads, a card close by: the share of a cross-section that they block."""

    kind: Literal["obstacle"]
    area_cm2: Figure
    blocked_share: Figure


class CoolerPoint(Strict):
    """Base over incoming air at one air flow, and what that flow costs."""

    airflow_m3_h: Positive
    k_w: Positive
    pressure_pa: Positive | None = None


class Cooler(Part):
    """An air-cooled sink in a stream, rated on the air that enters it; by its class or by measured points."""

    kind: Literal["cooler"]
    resistance_k_w: Figure | None = None
    rated_airflow_m3_h: Figure | None = None
    pressure_pa: Figure | None = None
    points: list[CoolerPoint] | None = None


AnyPart = Annotated[
    Source
    | Supply
    | Interface
    | Spreader
    | HeatPipe
    | Sink
    | Panel
    | Plate
    | Radiator
    | Pump
    | Tube
    | Fitting
    | Coupling
    | FlowMeter
    | Strainer
    | Reservoir
    | Fan
    | Opening
    | Filter
    | Duct
    | Gap
    | Obstacle
    | Cooler,
    Field(discriminator="kind"),
]
MOVER_KINDS = ("fan", "pump")
