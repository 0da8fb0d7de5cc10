"""Parts that heat goes through or leaves from as a solid: interfaces, blocks, heat pipes, finned sinks, panels."""

from typing import Annotated, Literal

from pydantic import Field

from krill.document.figures import Figure, Number, Strict
from krill.document.part_base import Metal, Part, Slug, Vector

Material = Literal[
    "aluminium_extruded", "aluminium_sheet", "aluminium_cast", "copper", "steel", "stainless", "wood", "glass",
    "pla", "petg", "abs", "asa", "pc", "pmma",
]  # fmt: skip
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

    kind: Literal["interface"]
    resistance_mm2k_w: Figure | None = None
    bond_line_um: Figure | None = None
    conductivity_w_mk: Figure | None = None
    coverage: Figure | None = None
    area_mm2: Figure | None = None
    beside: SecondLayer | None = None
    pressure_kpa: Figure | None = None
    roughness_um: Figure | None = None
    asperity_slope: Figure | None = None
    hardness_mpa: Figure | None = None
    faces_w_mk: Figure | None = None
    touches: list[Metal] = []


class Spreader(Part):
    """A block or plate between two faces: by its class or stated resistance, else slab and spreading.

    A backplate whose free face gives heat to still air is a panel, not a spreader.
    """

    kind: Literal["spreader"]
    resistance_k_w: Figure | None = None
    width_mm: Figure | None = None
    length_mm: Figure | None = None
    thickness_mm: Figure | None = None
    material: Material = "copper"
    conductivity_w_mk: Figure | None = None


class HeatPipe(Part):
    """Like copper-water pipes side by side between a block and a base.

    ``limit_w`` is one pipe's limit when round, straight, level, 0.14 m effective, at 60 C; the rest follows from it.
    ``lift_mm`` is the evaporator above the condenser; ``run_mm`` from evaporator to condenser in housing axes beats it.
    """

    kind: Literal["heat_pipe"]
    count: Annotated[int, Field(ge=1, le=60)] = 1
    wick: Literal["sintered", "grooved", "mesh"] = "sintered"
    diameter_mm: Figure | None = None
    flat_mm: Figure | None = None
    evaporator_mm: Figure
    adiabatic_mm: Figure
    condenser_mm: Figure
    bends: Annotated[int, Field(ge=0, le=10)] = 0
    bend_radius_mm: Figure | None = None
    lift_mm: Figure | None = None
    run_mm: Vector | None = None
    groove_pitch_mm: Figure | None = None
    evaporator_k_w: Figure | None = None
    condenser_k_w: Figure | None = None
    groove_mm2k_w: Figure | None = None
    limit_w: Figure | None = None
    uneven: Figure | None = None


class Body(Part):
    """A solid that several parts may press on and that gives heat off: a sink or a panel of the housing.

    ``outside`` and ``inside`` are the zones that its two sides give heat to; a sink may stand in an air path instead.
    ``touched_for`` is how long a hand may rest on it.
    """

    material: Material = "aluminium_extruded"
    finish: Finish | None = None
    conductivity_w_mk: Figure | None = None
    emissivity: Figure | None = None
    outside: Slug | None = None
    inside: Slug | None = None
    holes_share: Figure | None = None
    touched_for: Contact | None = None


class Sink(Body):
    """A finned sink: width across its fins, length along them.

    How it stands follows from its face, the way of its fins and gravity; without a face it is what ``stands`` says.
    """

    kind: Literal["sink"]
    width_mm: Figure | None = None
    length_mm: Figure | None = None
    base_mm: Figure | None = None
    fin_height_mm: Figure | None = None
    fin_pitch_mm: Figure | None = None
    fin_thickness_mm: Figure | None = None
    stands: Stand = "upright"
    fins_along: Literal["height", "width"] = "height"
    flanks: Literal["free", "covered"] = "covered"
    facing: Literal["nothing", "wall", "sink"] = "nothing"
    facing_mm: Figure | None = None
    cut_share: Figure | None = None
    bypass_cm2: Figure | None = None


class Panel(Body):
    """A flat side of a housing; ``height_mm`` is its extent upwards (to the back on top and bottom)."""

    kind: Literal["panel"]
    width_mm: Figure
    height_mm: Figure
    thickness_mm: Figure
    lies: Lie = "vertical"
