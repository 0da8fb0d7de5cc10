"""Parts that heat goes through or leaves from as a solid: interfaces, blocks, heat pipes, finned sinks, panels."""

from typing import Annotated, Literal

from pydantic import Field

from krill.document.figures import Figure, Number, Strict
from krill.document.part_base import Metal, Part, Slug, Vector
from krill.document.quantities import Described, Quantity

Material = Literal[
    "aluminium_extruded",
    "aluminium_sheet",
    "aluminium_cast",
    "copper",
    "steel",
    "stainless",
    "wood",
    "glass",
    "pla",
    "petg",
    "abs",
    "asa",
    "pc",
    "pmma",
    "circuit_board",
]
Finish = Literal["raw", "brushed", "anodised", "painted", "galvanised", "browned"]
Stand = Literal["upright", "on_edge", "lying_fins_up", "lying_fins_down"]
Lie = Literal["vertical", "facing_up", "facing_down"]
Contact = Literal["1_s", "1_min", "10_min", "8_h"]


class SecondLayer(Strict):
    """Another material on a share of the same face: a rim of glue around paste."""

    face_share: Annotated[Number, Field(gt=0, lt=1)]
    resistance_mm2k_w: Annotated[Number, Field(gt=0)]


class Interface(Part):
    """A layer between two faces: an area-specific resistance, bond line over conductivity, or a bare joint under pressure.

    ``touches`` names the metals of both faces, for what attacks what.
    """

    is_weighed = False

    kind: Literal["interface"]
    resistance_mm2k_w: Annotated[
        Figure | None, Quantity("resistance", group="heat", unit="mm²·K/W", tolerance="33%")
    ] = None
    bond_line_um: Annotated[Figure | None, Quantity("bond line", unit="µm")] = None
    conductivity_w_mk: Annotated[Figure | None, Quantity("conductivity", group="heat", unit="W/m·K")] = None
    coverage: Annotated[Figure | None, Quantity("coverage", group="heat", at_most=1)] = None
    area_mm2: Annotated[Figure | None, Quantity("area", unit="mm²", tolerance="15%")] = None
    beside: SecondLayer | None = None
    pressure_kpa: Annotated[
        Figure | None, Quantity("pressure on the joint", group="heat", unit="kPa", tolerance="30%")
    ] = None
    roughness_um: Annotated[Figure | None, Quantity("roughness", group="heat", unit="µm")] = None
    asperity_slope: Annotated[Figure | None, Quantity("asperity slope", group="heat")] = None
    hardness_mpa: Annotated[Figure | None, Quantity("hardness", group="heat", unit="MPa")] = None
    faces_w_mk: Annotated[Figure | None, Quantity("conductivity of both faces", group="heat", unit="W/m·K")] = None
    touches: Annotated[list[Metal], Described("faces are of")] = []


class Spreader(Part):
    """A block or plate between two faces: by its class or stated resistance, else slab and spreading.

    A backplate whose free face gives heat to still air is a panel, not a spreader.
    """

    kind: Literal["spreader"]
    resistance_k_w: Annotated[Figure | None, Quantity("resistance", group="heat", unit="K/W", tolerance="20%")] = None
    width_mm: Annotated[Figure | None, Quantity("width", unit="mm")] = None
    length_mm: Annotated[Figure | None, Quantity("length", unit="mm")] = None
    thickness_mm: Annotated[Figure | None, Quantity("thickness", unit="mm", tolerance="10%")] = None
    material: Annotated[Material, Described("material")] = "copper"
    conductivity_w_mk: Annotated[Figure | None, Quantity("conductivity", group="heat", unit="W/m·K")] = None


class HeatPipe(Part):
    """Like copper-water pipes side by side between a block and a base.

    ``limit_w`` is one pipe's limit when round, straight, level, 0.14 m effective, at 60 C; the rest follows from it.
    ``lift_mm`` is the evaporator above the condenser; ``run_mm`` from evaporator to condenser in housing axes beats it.
    """

    kind: Literal["heat_pipe"]
    count: Annotated[int, Field(ge=1, le=60), Quantity("pipes", whole=True, options=tuple(range(1, 21)))] = 1
    wick: Annotated[Literal["sintered", "grooved", "mesh"], Described("wick")] = "sintered"
    diameter_mm: Annotated[Figure | None, Quantity("diameter", unit="mm")] = None
    flat_mm: Annotated[Figure | None, Quantity("pressed flat to", unit="mm")] = None
    evaporator_mm: Annotated[Figure, Quantity("heated length", unit="mm")]
    adiabatic_mm: Annotated[Figure, Quantity("free length", unit="mm", at_least=0)]
    condenser_mm: Annotated[Figure, Quantity("cooled length", unit="mm")]
    bends: Annotated[int, Field(ge=0, le=10), Quantity("bends", at_least=0, whole=True, options=tuple(range(11)))] = 0
    bend_radius_mm: Annotated[Figure | None, Quantity("bend radius", unit="mm")] = None
    lift_mm: Annotated[
        Figure | None,
        Quantity("evaporator above condenser", help="against gravity; below zero it helps", unit="mm", above=None),
    ] = None
    run_mm: Vector | None = None
    groove_pitch_mm: Annotated[Figure | None, Quantity("pitch of the grooves", unit="mm")] = None
    evaporator_k_w: Annotated[
        Figure | None, Quantity("evaporator, 40 mm heated", group="heat", unit="K/W", tolerance="20%")
    ] = None
    condenser_k_w: Annotated[
        Figure | None, Quantity("condenser, 90 mm cooled", group="heat", unit="K/W", tolerance="20%")
    ] = None
    groove_mm2k_w: Annotated[
        Figure | None, Quantity("joint in its groove", group="heat", unit="mm²·K/W", tolerance="33%")
    ] = None
    limit_w: Annotated[
        Figure | None,
        Quantity(
            "limit, level, at 60 °C",
            help="of one pipe, round, straight and level, with 0.14 m of effective length",
            group="heat",
            unit="W",
        ),
    ] = None
    uneven: Annotated[
        Figure | None,
        Quantity(
            "busiest over the mean pipe", help="watts of the busiest pipe over those of the mean one", group="heat"
        ),
    ] = None


class Body(Part):
    """A solid that several parts may press on and that gives heat off: a sink or a panel of the housing.

    ``outside`` and ``inside`` are the zones that its two sides give heat to; a sink may stand in an air path instead.
    ``touched_for`` is how long a hand may rest on it.
    """

    material: Annotated[Material, Described("material")] = "aluminium_extruded"
    finish: Annotated[Finish | None, Described("finish")] = None
    conductivity_w_mk: Annotated[Figure | None, Quantity("conductivity", group="heat", unit="W/m·K")] = None
    emissivity: Annotated[Figure | None, Quantity("emissivity", group="heat", at_most=1)] = None
    outside: Annotated[Slug | None, Described("gives its heat to")] = None
    inside: Annotated[Slug | None, Described("back face towards")] = None
    holes_share: Annotated[
        Figure | None,
        Quantity("share of holes in the base", at_least=0, at_most=0.6, because="more leaves no base to carry heat"),
    ] = None
    sun_w_m2: Annotated[
        Figure | None,
        Quantity(
            "sun that its outside takes up",
            group="heat",
            unit="W/m²",
            tolerance="30%",
            buys=False,
            help="sunlight times absorptance: full sun about 1000; white paint 0.25, dull metal 0.4, black 0.95",
        ),
    ] = None
    touched_for: Annotated[Contact | None, Described("touched for")] = None


class Sink(Body):
    """A finned sink: width across its fins, length along them.

    How it stands follows from its face, the way of its fins and gravity; without a face it is what ``stands`` says.
    """

    in_air = True
    exchanges_heat = True

    kind: Literal["sink"]
    width_mm: Annotated[Figure | None, Quantity("width", unit="mm")] = None
    length_mm: Annotated[Figure | None, Quantity("length", unit="mm")] = None
    base_mm: Annotated[Figure | None, Quantity("base", unit="mm")] = None
    fin_height_mm: Annotated[Figure | None, Quantity("fin height", unit="mm")] = None
    fin_pitch_mm: Annotated[Figure | None, Quantity("fin pitch", unit="mm")] = None
    fin_thickness_mm: Annotated[Figure | None, Quantity("fin thickness", unit="mm", tolerance="10%")] = None
    stands: Annotated[Stand, Described("stands", buys=False)] = "upright"
    fins_along: Annotated[Literal["height", "width"], Described("fins run along its", buys=False)] = "height"
    flanks: Annotated[Literal["free", "covered"], Described("flanks", buys=False)] = "covered"
    facing: Annotated[Literal["nothing", "wall", "sink"], Described("in front of its fins")] = "nothing"
    facing_mm: Annotated[Figure | None, Quantity("distance to what stands in front of the fins", unit="mm")] = None
    cut_share: Annotated[Figure | None, Quantity("share of the fins cut away", at_least=0)] = None
    bypass_cm2: Annotated[Figure | None, Quantity("free area beside the fins", unit="cm²")] = None


class Panel(Body):
    """A flat side of a housing; ``height_mm`` is its extent upwards (to the back on top and bottom)."""

    kind: Literal["panel"]
    width_mm: Annotated[Figure, Quantity("width", unit="mm")]
    height_mm: Annotated[Figure, Quantity("height", unit="mm")]
    thickness_mm: Annotated[Figure, Quantity("thickness", unit="mm", tolerance="10%")]
    lies: Annotated[Lie, Described("lies")] = "vertical"
