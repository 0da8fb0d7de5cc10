"""The registry of physical things: every part once, by kind, with its figures."""

from typing import Annotated, Final, Literal

from pydantic import Field

from krill.document.figures import Figure, Number, Strict
from krill.document.part_base import Metal, Part, Positive, Share, Slug
from krill.document.quantities import Described, Quantity
from krill.document.solids import HeatPipe, Interface, Panel, Sink, Spreader

TemperatureKind = Literal["hottest_core", "mean_core", "chip_sensor", "hot_spot", "memory", "case"]
PowerKind = Literal["chip", "package", "board"]

#: what several kinds say of themselves alike
_RATED_AIR_FLOW: Final = Quantity("rated air flow", group="flow", unit="m³/h", tolerance="12%")
_RATED_PRESSURE: Final = Quantity("pressure at rated air flow", group="flow", unit="Pa", at_least=0, tolerance="30%")
_DROP_AT_4: Final = Quantity("drop at 4 l/min", group="flow", unit="kPa", tolerance="30%")
_VOLUME: Final = Quantity("volume", group="flow", unit="ml", tolerance="15%")
_RATED_SPEED: Final = Quantity("rated speed", group="drive", unit="rpm", tolerance="5%")
_POWER: Final = Quantity("power", group="drive", unit="W", at_least=0, tolerance="5%")
_LEVEL: Final = Quantity(
    "level at 1 m",
    help="A-weighted, free field, at rated speed",
    group="sound",
    unit="dBA",
    above=None,
    at_least=-100,
    at_most=300,
    tolerance=4.0,
)
_HIGHEST_PRESSURE: Final = Quantity("highest pressure", group="flow", unit="kPa", tolerance="30%")
_BORE: Final = Quantity("bore", unit="mm", tolerance="5%")
_LOSS: Final = Quantity(
    "loss coefficient", help="on the velocity in its own section", group="flow", at_least=0, tolerance="35%"
)


class Limit(Strict):
    kind: Literal["throttle", "own", "touch", "softening"]
    at_c: Annotated[
        Figure, Quantity("limit", group="heat", unit="°C", above=None, at_least=-100, at_most=300, varies=False)
    ]


class Place(Strict):
    """A spot of a source that gets hot: its share of the watts, what its temperature is, how it is built."""

    id: Slug
    name: str = ""
    class_: str | None = Field(default=None, alias="class")
    power_share: Annotated[
        Figure,
        Quantity(
            "share of the watts", help="of the watts of its source", group="heat", at_least=0, at_most=1, tolerance="8%"
        ),
    ] = 1
    temperature_kind: Annotated[TemperatureKind, Described("the sensor reads", group="heat", buys=False)]
    limits: list[Limit] = []
    chip_area_mm2: Annotated[Figure | None, Quantity("chip area", unit="mm²", at_least=1, tolerance="15%")] = None
    chip_mm2k_w: Annotated[
        Figure | None, Quantity("chip, to its top", group="heat", unit="mm²·K/W", tolerance="33%")
    ] = None
    hot_core_mm2k_w: Annotated[
        Figure | None, Quantity("hot core, all cores", group="heat", unit="mm²·K/W", tolerance="33%")
    ] = None
    hot_core_few_mm2k_w: Annotated[
        Figure | None, Quantity("hot core, few cores", group="heat", unit="mm²·K/W", tolerance="33%")
    ] = None
    hot_core_even_mm2k_w: Annotated[
        Figure | None, Quantity("hot core, an even load", group="heat", unit="mm²·K/W", tolerance="60%")
    ] = None
    chip_offset_mm: Annotated[
        Figure | None,
        Quantity("chip off the lid's middle", help="towards one side", unit="mm", at_least=0, tolerance="25%"),
    ] = None
    compute_share: Annotated[
        Figure | None,
        Quantity(
            "watts in the compute chips",
            help="share of the package; the rest is in a chip beside them under the same lid",
            group="heat",
            at_most=1,
            tolerance="6%",
        ),
    ] = None
    joint_mm2k_w: Annotated[Figure | None, Quantity("lid joint", group="heat", unit="mm²·K/W", tolerance="33%")] = None
    lid_area_mm2: Annotated[Figure | None, Quantity("lid area", unit="mm²", tolerance="15%")] = None
    contact_area_mm2: Annotated[Figure | None, Quantity("face that is pressed on", unit="mm²", tolerance="30%")] = None
    lid_thickness_mm: Annotated[Figure | None, Quantity("lid thickness", unit="mm", tolerance="10%")] = None
    lid_w_mk: Annotated[Figure | None, Quantity("lid conductivity", group="heat", unit="W/m·K")] = None
    package_k_w: Annotated[
        Figure | None, Quantity("package to its face", group="heat", unit="K/W", tolerance="20%")
    ] = None
    heat_capacity_j_k: Annotated[Figure | None, Quantity("heat capacity", group="heat", unit="J/K")] = None
    throttles: Annotated[
        bool,
        Described(
            "throttles at its limit",
            help="its source gives up watts where its throttle limit would be passed; sizing still asks for all of them",
            group="state",
            buys=False,
        ),
    ] = False
    gives_up_after_s: Annotated[
        Figure | None,
        Quantity(
            "gives up watts after",
            help="how long its firmware needs from the limit until the watts come down",
            group="heat",
            unit="s",
            above=None,
            at_least=0,
            at_most=60,
            tolerance="60%",
            varies=False,
        ),
    ] = None
    gives_back_k: Annotated[
        Figure | None,
        Quantity(
            "gives watts back",
            help="so far below the limit its firmware lets the watts rise again",
            group="heat",
            unit="K",
            above=None,
            at_least=0,
            at_most=50,
            tolerance="50%",
            varies=False,
        ),
    ] = None
    clock_exponent: Annotated[
        Figure | None,
        Quantity(
            "clock against watts",
            help="clock goes with the watts to this power",
            group="heat",
            tolerance="30%",
            at_most=1,
            varies=False,
        ),
    ] = None


class Source(Part):
    on_shelf = False

    kind: Literal["source"]
    power_kind: Annotated[
        PowerKind,
        Described(
            "watts of the",
            help="chip: what its chip alone draws, the rest of its places by their shares beside it",
            group="heat",
            buys=False,
        ),
    ] = "package"
    places: Annotated[list[Place], Field(min_length=1)]


#: how supplies are built, by the fan that is in them
SupplyForm = Literal["flat", "small_cube", "small_long", "standard_120", "standard_140"]


class Supply(Part):
    """A power supply: its loss follows from what it feeds; it warms the zone that its route ends in.

    Its own fan is heard where ``built_as`` says which one it is.
    """

    in_air = True
    takes_routes = True
    on_shelf = False

    kind: Literal["supply"]
    rating_w: Annotated[Figure | None, Quantity("rating", group="drive", unit="W")] = None
    efficiency: Annotated[Figure | None, Quantity("efficiency", group="heat", at_most=1)] = None
    rated_airflow_m3_h: Annotated[Figure | None, _RATED_AIR_FLOW] = None
    pressure_pa: Annotated[Figure | None, _RATED_PRESSURE] = None
    built_as: Annotated[
        SupplyForm | None,
        Described("built as", help="its own fan is heard by its load and the air it breathes", group="sound"),
    ] = None
    places: Annotated[list[Place], Field(min_length=1)]


class Plate(Part):
    """A cold plate, rated on the MEAN coolant inside it."""

    in_loop = True
    exchanges_heat = True

    kind: Literal["plate"]
    resistance_1_k_w: Annotated[
        Figure | None, Quantity("resistance at 1 l/min", group="heat", unit="K/W", tolerance="20%")
    ] = None
    resistance_4_k_w: Annotated[
        Figure | None, Quantity("resistance at 4 l/min", group="heat", unit="K/W", tolerance="20%")
    ] = None
    drop_1_kpa: Annotated[Figure | None, Quantity("drop at 1 l/min", group="flow", unit="kPa", tolerance="30%")] = None
    drop_4_kpa: Annotated[Figure | None, _DROP_AT_4] = None
    reference_area_mm2: Annotated[Figure | None, Quantity("reference area", unit="mm²", tolerance="15%")] = None
    volume_ml: Annotated[Figure | None, _VOLUME] = None
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

    in_loop = True
    in_air = True
    exchanges_heat = True
    has_mouth = True

    kind: Literal["radiator"]
    section_mm: Annotated[Positive, Quantity("section", unit="mm")]
    sections: Annotated[int, Field(ge=1, le=12), Quantity("sections", whole=True, options=tuple(range(1, 13)))]
    thickness_mm: Annotated[Positive, Quantity("thickness", unit="mm", whole=True, options=(28, 38, 45, 60))]
    points: list[RadiatorPoint] | None = None
    core: CoreGeometry | None = None
    air_factor: Annotated[Figure | None, Quantity("factor on air drop", group="flow")] = None
    covered_share: Annotated[
        Figure | None,
        Quantity(
            "share of the face with air",
            help="what a bracket or another part hides gets no air",
            group="state",
            buys=False,
            at_most=1,
        ),
    ] = None
    dust: Annotated[
        Figure | None,
        Quantity(
            "dust",
            help="0 is clean, 1 is loaded fins",
            group="state",
            buys=False,
            at_least=0,
            at_most=1,
        ),
    ] = None
    drop_4_kpa: Annotated[Figure | None, _DROP_AT_4] = None
    volume_ml: Annotated[Figure | None, _VOLUME] = None
    metal: Annotated[Metal, Described("metal of its fins", group="heat")] = "copper"


class Pump(Part):
    """Head curve at rated speed: points (l/min, kPa), a parabola from shut-off head to free flow, or its class's.

    A free flow or shut-off head that is stated beside points or a class scales their curve to it.
    """

    in_loop = True
    exchanges_heat = True

    kind: Literal["pump"]
    curve: list[tuple[Number, Number]] | None = None
    shutoff_kpa: Annotated[Figure | None, Quantity("shut-off head", group="flow", unit="kPa", tolerance="12%")] = None
    free_flow_l_min: Annotated[Figure | None, Quantity("free flow", group="flow", unit="l/min", tolerance="12%")] = None
    flow_factor: Annotated[Figure | None, Quantity("flow factor", group="flow")] = None
    pressure_factor: Annotated[Figure | None, Quantity("pressure factor", group="flow")] = None
    rated_rpm: Annotated[Figure | None, _RATED_SPEED] = None
    power_w: Annotated[Figure | None, _POWER] = None
    coolant_share: Annotated[
        Figure | None, Quantity("share of its watts into the coolant", group="heat", at_most=1)
    ] = None
    level_dba: Annotated[
        Figure | None,
        _LEVEL,
    ] = None
    level_points: list[tuple[Share, Number]] | None = None
    highest_kpa: Annotated[Figure | None, _HIGHEST_PRESSURE] = None
    when_off: Literal["free", "blocking"] = "free"
    held: Annotated[
        Literal["foam", "hard"] | None,
        Described("how it is held", help="on foam, or screwed hard to a panel", group="sound", buys=False),
    ] = None


class Tube(Part):
    in_loop = True

    kind: Literal["tube"]
    length_m: Annotated[Figure, Quantity("length", unit="m", tolerance="5%")]
    bore_mm: Annotated[Figure, _BORE]
    roughness_mm: Annotated[Figure | None, Quantity("roughness", group="flow", unit="mm", at_least=0)] = None


class Fitting(Part):
    """Fittings of one kind in a row; ``loss`` is the coefficient of one on the velocity in its bore."""

    in_loop = True
    is_weighed = False

    kind: Literal["fitting"]
    count: Annotated[int, Field(ge=1, le=200), Quantity("how many", whole=True, options=tuple(range(1, 21)))] = 1
    bore_mm: Annotated[Figure, _BORE]
    loss: Annotated[
        Figure | None,
        _LOSS,
    ] = None
    highest_kpa: Annotated[Figure | None, _HIGHEST_PRESSURE] = None
    metal: Metal | None = None


class Coupling(Part):
    """A pair of quick couplings; one that is not joined closes the loop's way."""

    in_loop = True

    kind: Literal["coupling"]
    drop_4_kpa: Annotated[Figure | None, _DROP_AT_4] = None
    highest_kpa: Annotated[Figure | None, _HIGHEST_PRESSURE] = None
    joined: Annotated[bool, Described("joined", group="state")] = True
    metal: Metal | None = None


class FlowMeter(Part):
    """A flow meter in the loop: what it costs at 4 l/min."""

    in_loop = True

    kind: Literal["flow_meter"]
    drop_4_kpa: Annotated[Figure | None, _DROP_AT_4] = None


class Strainer(Part):
    """A filter in the coolant; loaded it costs more."""

    in_loop = True

    kind: Literal["strainer"]
    drop_4_kpa: Annotated[Figure | None, _DROP_AT_4] = None
    loaded: Annotated[bool, Described("loaded", group="state", buys=False)] = False


class Reservoir(Part):
    """``fill_share`` of its volume is coolant, the rest is air to expand into."""

    in_loop = True

    kind: Literal["reservoir"]
    volume_ml: Annotated[Figure | None, _VOLUME] = None
    fill_share: Annotated[Figure | None, Quantity("filled share", group="flow", at_most=1)] = None
    bore_mm: Annotated[Figure, _BORE]
    loss: Annotated[
        Figure | None,
        _LOSS,
    ] = None


class Fan(Part):
    """Pressure curve at rated speed as points (m3/h, Pa); levels are at 1 m.

    ``duty_speed`` maps duty to the share of rated speed where the two differ.
    """

    in_air = True
    exchanges_heat = True
    has_mouth = True

    kind: Literal["fan"]
    curve: list[tuple[Number, Number]] | None = None
    flow_factor: Annotated[Figure | None, Quantity("flow factor", group="flow")] = None
    pressure_factor: Annotated[Figure | None, Quantity("pressure factor", group="flow")] = None
    rated_rpm: Annotated[Figure | None, _RATED_SPEED] = None
    size_mm: Annotated[Figure | None, Quantity("size", unit="mm")] = None
    thickness_mm: Annotated[Figure | None, Quantity("thickness", unit="mm", tolerance="10%")] = None
    level_dba: Annotated[
        Figure | None,
        _LEVEL,
    ] = None
    level_points: list[tuple[Share, Number]] | None = None
    power_w: Annotated[Figure | None, _POWER] = None
    current_a: Annotated[Figure | None, Quantity("current", group="drive", unit="A", tolerance="15%")] = None
    start_duty: Annotated[Figure | None, Quantity("start duty", group="drive", at_most=1)] = None
    highest_duty: Annotated[Figure | None, Quantity("highest duty", group="drive", at_most=1)] = None
    duty_speed: list[tuple[Share, Share]] | None = None


class Opening(Part):
    """A grille, a row of slots or a gap; the loss stands on the face velocity."""

    in_air = True
    has_mouth = True
    is_weighed = False

    kind: Literal["opening"]
    area_cm2: Annotated[Figure, Quantity("area", unit="cm²")]
    free_area_share: Annotated[Figure | None, Quantity("free area", group="flow", at_most=1)] = None
    made_of: Annotated[
        Literal["plate", "wires"],
        Described(
            "made of", help="what the free area says where no loss is stated: holes in a sheet, or wires", group="flow"
        ),
    ] = "plate"
    loss: Annotated[
        Figure | None,
        _LOSS,
    ] = None


class Filter(Part):
    """A dust filter: pressure = linear * v + square * v^2, v the face velocity in m/s."""

    in_air = True

    kind: Literal["filter"]
    area_cm2: Annotated[Figure, Quantity("area", unit="cm²")]
    linear_factor: Annotated[Figure | None, Quantity("linear factor", group="flow")] = None
    square_factor: Annotated[Figure | None, Quantity("square factor", group="flow")] = None
    loaded: Annotated[bool, Described("loaded", group="state", buys=False)] = False


class Duct(Part):
    """A channel of air, round (bore) or rectangular (width and height).

    ``loss`` sums entry, exit and transitions on its own velocity; ``leak_cm2`` is open to ``leak_zone`` at its end.
    """

    in_air = True
    takes_routes = True

    kind: Literal["duct"]
    length_m: Annotated[Figure, Quantity("length", unit="m", tolerance="5%")]
    bore_mm: Annotated[Figure | None, _BORE] = None
    width_mm: Annotated[Figure | None, Quantity("width", unit="mm")] = None
    height_mm: Annotated[Figure | None, Quantity("height", unit="mm")] = None
    roughness_mm: Annotated[Figure | None, Quantity("roughness", group="flow", unit="mm", at_least=0)] = None
    loss: Annotated[
        Figure | None,
        _LOSS,
    ] = None
    bends: Annotated[int, Field(ge=0, le=20), Quantity("bends", at_least=0, whole=True, options=tuple(range(11)))] = 0
    bend_loss: Annotated[Figure | None, Quantity("loss per bend", group="flow", tolerance="35%")] = None
    leak_cm2: Annotated[Figure | None, Quantity("leak", group="flow", unit="cm²", at_least=0, tolerance="40%")] = None
    leak_zone: Slug | None = None


class Gap(Part):
    """A panel, table or wall close in front of an opening of width ``span_mm``: feet height, breathing room.

    The gap is stated, or what the stack in a ``slot`` leaves of it; ``panel_loss`` is that of holes in the panel before it.
    """

    in_air = True
    is_weighed = False

    kind: Literal["gap"]
    gap_mm: Annotated[Figure | None, Quantity("gap", buys=False, unit="mm", tolerance="10%")] = None
    slot: Annotated[Slug | None, Described("is left in the slot", buys=False)] = None
    panel_loss: Annotated[
        Figure | None,
        Quantity(
            "loss of the holes in the panel",
            help="on the face velocity; nothing where the panel is closed",
            group="flow",
            buys=False,
            tolerance="35%",
        ),
    ] = None
    span_mm: Annotated[Figure, Quantity("width of the opening", unit="mm")]
    area_cm2: Annotated[Figure | None, Quantity("area", unit="cm²")] = None


class Obstacle(Part):
    """Memory rows, leads, a card close by: the share of a cross-section that they block, stated or that of its ``leads``."""

    in_air = True
    takes_routes = True
    is_weighed = False

    kind: Literal["obstacle"]
    leads: Annotated[list[Slug], Field(max_length=50), Described("leads that block it", buys=False)] = []
    area_cm2: Annotated[Figure, Quantity("area", unit="cm²")]
    blocked_share: Annotated[
        Figure | None,
        Quantity(
            "blocked share",
            group="flow",
            at_least=0,
            at_most=0.95,
            because="what blocks all belongs out of the path",
            tolerance="20%",
        ),
    ] = None


class CoolerPoint(Strict):
    """Base over incoming air at one air flow, and what that flow costs."""

    airflow_m3_h: Positive
    k_w: Positive
    pressure_pa: Positive | None = None


class Cooler(Part):
    """An air-cooled sink in a stream, rated on the air that enters it; by its class or by measured points."""

    in_air = True
    takes_routes = True

    kind: Literal["cooler"]
    resistance_k_w: Annotated[
        Figure | None, Quantity("resistance, as rated", group="heat", unit="K/W", tolerance="20%")
    ] = None
    rated_airflow_m3_h: Annotated[Figure | None, _RATED_AIR_FLOW] = None
    pressure_pa: Annotated[Figure | None, _RATED_PRESSURE] = None
    still_k_w: Annotated[
        Figure | None,
        Quantity(
            "resistance in still air",
            help="its fan stopped, the base 40 K over the air around it",
            group="heat",
            unit="K/W",
            tolerance="35%",
        ),
    ] = None
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
#: what has a speed
Mover = Fan | Pump
#: what makes heat of its own
