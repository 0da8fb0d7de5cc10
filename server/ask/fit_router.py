"""Will it go in: slots, contacts and plan of a document, what a gap costs, templates and adapters to make."""

from collections.abc import Mapping
from typing import Any, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema

from ask.schemas import QuestionIn
from krill.catalogue.bodies import bodies, common_layers
from krill.catalogue.joints import joint_classes
from krill.catalogue.leads import fitting_classes, lead_classes, plug_classes
from krill.document.part_base import Face, Plastic
from krill.fit.fit import Fit, fit_of
from krill.fit.tube_bends import SoftTube, TubeBend, TubeMaterial, tube_bend
from krill.making.adapter import Adapter, AdapterSays, Mesh, Shape, says_of, written
from krill.making.bends import Bends, Flanges, with_flanges
from krill.making.cut_outs import Process, cut_sheet
from krill.making.dxf import dxf_of
from krill.making.pdf import Paper, pdf_of
from krill.making.svg import svg_of
from krill.prediction.questions.gap_cost import GapCost, gap_costs
from wire.documents import AskedBuild
from wire.downloads import download
from wire.faults import ERRORS, Errors
from wire.turns import worked_out

router = Router(tags=["fit"], by_alias=True)

SVG, DXF, PDF = "image/svg+xml", "image/vnd.dxf", "application/pdf"
MESHES = {"stl": "model/stl", "3mf": "model/3mf"}


class DocumentIn(Schema):
    document: AskedBuild


class CutTemplateIn(DocumentIn):
    face: Face
    process: Process = "by_hand"
    form: Literal["svg", "pdf", "dxf"] = "pdf"
    paper: Paper = "a4"
    flange_mm: float | None = None
    sheet_mm: float = 1.5
    flanges: Flanges = "all"


class AdapterIn(Schema):
    first: Shape = "round"
    first_mm: float
    second: Shape = "round"
    second_mm: float
    length_mm: float
    off_x_mm: float = 0.0
    off_y_mm: float = 0.0
    wall_mm: float = 2.0
    first_fan_mm: float = 0.0
    second_fan_mm: float = 0.0
    first_high_mm: float = 0.0
    second_high_mm: float = 0.0
    plastic: Plastic = "petg"

    def adapter(self) -> Adapter:
        """As the core takes it."""
        return Adapter(**{name: getattr(self, name) for name in Adapter.__dataclass_fields__})


class AdapterFileIn(AdapterIn):
    form: Mesh = "stl"


class TubeIn(Schema):
    bore_mm: float
    outside_mm: float
    material: TubeMaterial = "soft_clear"
    at_c: float = 30.0
    offset_mm: float = 0.0


class BodyOut(Schema):
    """An outline class: [value, half width] of length, width, height in mm and of its mass in g."""

    id: str
    name: str
    size_mm: list[tuple[float, float]]
    origin: Literal["S", "M", "P"]
    mass_g: tuple[float, float] | None
    classes: list[str]


class LayerOut(Schema):
    """What lies in stacks and is no part: [value, half width] of its thickness, mm."""

    id: str
    name: str
    thickness_mm: tuple[float, float]


class KindOut(Schema):
    """A class of lead, plug, fitting or joint by its name; what else it says in words."""

    id: str
    name: str
    note: str = ""


class OutlinesOut(Schema):
    bodies: list[BodyOut]
    layers: list[LayerOut]
    leads: list[KindOut]
    plugs: list[KindOut]
    fittings: list[KindOut]
    joints: list[KindOut]


@router.get("/outlines", response={200: OutlinesOut, ERRORS: Errors}, operation_id="list_outlines")
def list_outlines(request: HttpRequest) -> dict[str, Any]:
    """Outlines, heights and masses by class, what lies in stacks, leads and joints: first guesses (value from memory)."""
    return {
        "bodies": [
            {
                "id": body.id,
                "name": body.name,
                "size_mm": list(body.size),
                "origin": body.origin,
                "mass_g": body.mass_g,
                "classes": list(body.classes),
            }
            for body in bodies().values()
        ],
        "layers": [
            {"id": key, "name": name, "thickness_mm": thickness} for key, (name, thickness) in common_layers().items()
        ],
        "leads": _kinds(lead_classes()),
        "plugs": _kinds(plug_classes()),
        "fittings": _kinds(fitting_classes()),
        "joints": _kinds(joint_classes()),
    }


def _kinds(classes: Mapping[str, Any]) -> list[dict[str, str]]:
    return [{"id": key, "name": kind.name, "note": getattr(kind, "note", "")} for key, kind in classes.items()]


@router.post("/fit", response={200: Fit, ERRORS: Errors}, operation_id="fit")
def fit_of_document(request: HttpRequest, data: DocumentIn) -> Fit:
    """What lengths alone say: each slot, each contact, what clashes in plan, what else would fit."""
    return fit_of(data.document)


@router.post("/gap-costs", response={200: list[GapCost], ERRORS: Errors}, operation_id="gap_costs")
def costs_of_gaps(request: HttpRequest, data: QuestionIn) -> list[GapCost]:
    """Kelvins and decibels of what each slot leaves, from the whole network, over the gap."""
    return worked_out(gap_costs, data.document, data.workload, data.room_c)


@router.post("/template", response={200: str, ERRORS: Errors}, operation_id="cut_template")
def template_of_a_face(request: HttpRequest, data: CutTemplateIn) -> HttpResponse:
    """A cut-out template of a face at 1:1; with ``flange_mm`` the flat of a panel whose flanges are bent."""
    sheet = cut_sheet(data.document, data.face, data.process)
    if data.flange_mm is not None:
        sheet = with_flanges(sheet, Bends(data.flange_mm, data.sheet_mm, data.flanges))
    name = f"template-{data.face}.{data.form}"
    if data.form == "svg":
        return download(svg_of(sheet), name, SVG)
    if data.form == "dxf":
        return download(dxf_of(sheet), name, DXF)
    return download(pdf_of(sheet, data.paper), name, PDF)


@router.post("/adapter", response={200: AdapterSays, ERRORS: Errors}, operation_id="adapter")
def adapter_to_print(request: HttpRequest, data: AdapterIn) -> AdapterSays:
    """What printing a duct adapter takes."""
    return says_of(data.adapter())


@router.post("/adapter-file", response={200: str, ERRORS: Errors}, operation_id="adapter_file")
def file_of_an_adapter(request: HttpRequest, data: AdapterFileIn) -> HttpResponse:
    """A duct adapter as a closed mesh."""
    return download(written(data.adapter(), data.form), f"adapter.{data.form}", MESHES[data.form])


@router.post("/tube-bend", response={200: TubeBend, ERRORS: Errors}, operation_id="tube_bend")
def bend_of_a_tube(request: HttpRequest, data: TubeIn) -> TubeBend:
    """How tightly a soft tube bends before it kinks, and what a U or an S of it takes."""
    return tube_bend(SoftTube(data.bore_mm, data.outside_mm, data.material, data.at_c), data.offset_mm)
