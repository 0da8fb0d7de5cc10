"""Class-typical parts, materials and finishes: what stands for a figure that nobody stated."""

from typing import Any, Literal

from django.http import HttpRequest
from ninja import Router, Schema

from krill.catalogue.classes import classes
from krill.catalogue.materials import finish_names, finish_pair, material_names, material_pair
from wire.faults import ERRORS, Errors

router = Router(tags=["predictions"], by_alias=True)


class ClassOut(Schema):
    id: str
    kind: str
    name: str
    limit_c: float | None
    figures: dict[str, list[float]]
    curve: list[tuple[float, float]] | None
    life_years: tuple[float, float] | None
    cautions: list[str]


class MaterialOut(Schema):
    """A material or a finish with what it gives to a part that states no figure; [value, half width]."""

    id: str
    name: str
    sort: Literal["material", "finish"]
    conductivity_w_mk: tuple[float, float] | None
    emissivity: tuple[float, float] | None


@router.get("/classes", response={200: list[ClassOut], ERRORS: Errors}, operation_id="list_classes")
def list_classes(request: HttpRequest) -> list[dict[str, Any]]:
    """Class-typical parts with their figures and half widths (value from memory)."""
    return [
        {
            "id": c.id,
            "kind": c.kind,
            "name": c.name,
            "limit_c": c.limit_c,
            "figures": {k: list(v) for k, v in c.figures.items()},
            "curve": c.curve,
            "life_years": c.life_years,
            "cautions": list(c.cautions),
        }
        for c in classes().values()
    ]


@router.get("/materials", response={200: list[MaterialOut], ERRORS: Errors}, operation_id="list_materials")
def list_materials(request: HttpRequest) -> list[dict[str, Any]]:
    """Materials and finishes of sinks, panels and blocks (value from memory)."""
    return [
        {
            "id": key,
            "name": name,
            "sort": sort,
            **{field: given(key, field) for field in ("conductivity_w_mk", "emissivity")},
        }
        for sort, names, given in (
            ("material", material_names(), material_pair),
            ("finish", finish_names(), finish_pair),
        )
        for key, name in names.items()
    ]
