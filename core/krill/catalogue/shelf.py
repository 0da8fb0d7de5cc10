"""The shelf that ships: a part of every class, marked as class-typical, and the usual coolants."""

from collections.abc import Iterator
from typing import Any

from krill.catalogue.classes import classes
from krill.document.shelf import KINDS, ShelfItem, read_item

#: what a part of a kind needs beside its class
_NEEDS: dict[str, dict[str, Any]] = {
    "fitting": {"bore_mm": {"value": 8.5, "plus_minus": 1, "from": "class"}},
    "reservoir": {"bore_mm": {"value": 9, "plus_minus": 1, "from": "class"}},
    "tube": {
        "bore_mm": {"value": 10, "plus_minus": 0.5, "from": "class"},
        "length_m": {"value": 1, "plus_minus": "25%", "from": "estimate"},
    },
    "opening": {"area_cm2": {"value": 100, "plus_minus": "10%", "from": "estimate"}},
    "filter": {"area_cm2": {"value": 150, "plus_minus": "10%", "from": "estimate"}},
    "duct": {
        "length_m": {"value": 0.1, "plus_minus": "20%", "from": "estimate"},
        "bore_mm": {"value": 60, "plus_minus": "5%", "from": "estimate"},
    },
    "heat_pipe": {
        "evaporator_mm": {"value": 40, "plus_minus": "10%", "from": "estimate"},
        "adiabatic_mm": {"value": 60, "plus_minus": "20%", "from": "estimate"},
        "condenser_mm": {"value": 100, "plus_minus": "10%", "from": "estimate"},
    },
}
#: what has no class: how far it stands away, how much it blocks
_GAPS = [
    ("gap under 20 mm feet", 20, 140),
    ("gap under short feet of 8 mm", 8, 140),
    ("panel 13 mm before a 120 mm fan", 13, 120),
    ("panel 5 mm before a 92 mm fan", 5, 92),
    ("wall 30 mm behind the box", 30, 140),
]
_OBSTACLES = [
    ("memory rows under a cooler", 60, 0.4),
    ("leads across an opening", 100, 0.15),
    ("card close to an intake", 100, 0.6),
]
_PANEL_SIZES = ("width_mm", "height_mm", "thickness_mm")
_PANELS: list[tuple[str, str, str, float, float, float]] = [
    ("steel side 300 x 250 x 1, painted", "steel", "painted", 300, 250, 1),
    ("aluminium side 300 x 250 x 2, anodised", "aluminium_sheet", "anodised", 300, 250, 2),
    ("backplate 80 x 80 x 2, steel", "steel", "galvanised", 80, 80, 2),
    ("printed lid 200 x 150 x 3", "petg", "raw", 200, 150, 3),
]
_RADIATORS = [(120, n, t) for t in (28, 38, 45, 60) for n in (1, 2, 3)] + [
    (140, n, t) for t in (28, 45) for n in (1, 2, 3)
]
_COOLANTS = [
    ("water", 0.0),
    ("ethylene_glycol", 0.1),
    ("ethylene_glycol", 0.3),
    ("propylene_glycol", 0.1),
    ("propylene_glycol", 0.3),
]


def class_shelf() -> list[ShelfItem]:
    """Items of version 1 whose figures are those of their class: estimates until somebody states better."""
    return [*_of_classes(), *_radiators(), *_gaps(), *_obstacles(), *_panels(), *_coolants()]


def _of_classes() -> Iterator[ShelfItem]:
    for known in classes().values():
        if known.kind in KINDS:
            yield _item(known.kind, known.name, _slug(known.id), {"class": known.id} | _NEEDS.get(known.kind, {}))


def _radiators() -> Iterator[ShelfItem]:
    for section, count, thickness in _RADIATORS:
        sizes = {"section_mm": section, "sections": count, "thickness_mm": thickness}
        name = f"radiator {section * count} x {thickness}"
        yield _item("radiator", name, f"radiator-{section}-{count}-{thickness}", sizes)


def _gaps() -> Iterator[ShelfItem]:
    for name, gap, span in _GAPS:
        yield _item("gap", name, _slug(name), {"gap_mm": _about(gap, "10%"), "span_mm": _about(span, "5%")})


def _obstacles() -> Iterator[ShelfItem]:
    for name, area, share in _OBSTACLES:
        figures = {"area_cm2": _about(area, "15%"), "blocked_share": _about(share, "30%")}
        yield _item("obstacle", name, _slug(name), figures)


def _panels() -> Iterator[ShelfItem]:
    for name, material, finish, *sizes in _PANELS:
        made = {"material": material, "finish": finish, "outside": "outside"}
        figures = {key: _about(size, "3%") for key, size in zip(_PANEL_SIZES, sizes, strict=True)}
        yield _item("panel", name, _slug(name.replace(",", "")), made | figures)


def _coolants() -> Iterator[ShelfItem]:
    for fluid, share in _COOLANTS:
        name = fluid.replace("_", " ") + (f" {100 * share:.0f} % by mass" if share else "")
        mixture = {"fluid": fluid, "mass_share": share}
        yield _item("coolant", name, f"{_slug(fluid)}-{100 * share:.0f}", {"mixture": mixture})


def _about(value: float, half: str) -> dict[str, Any]:
    return {"value": value, "plus_minus": half, "from": "estimate"}


def _slug(text: str) -> str:
    return text.replace("_", "-").replace(" ", "-")


def _item(kind: str, name: str, part_id: str, says: dict[str, Any]) -> ShelfItem:
    part = {"id": part_id, "kind": kind, "name": name, **says}
    return read_item({"id": f"class-{part_id}", "name": name, "version": 1, "part": part})
