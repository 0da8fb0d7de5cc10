"""Class-typical parts as data: what a figure is, and how far it may be off, while nobody has measured it."""

from dataclasses import dataclass, field
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.table import table

Array = NDArray[np.float64]


@dataclass(frozen=True)
class PartClass:
    """A class: figures as (value, below, above: half widths of 90 %) in the document's units, and what else it fixes.

    Classes that are ``alike`` may stand in place of each other; one that nobody would choose is not ``offered`` for that.
    """

    id: str
    kind: str
    name: str
    figures: dict[str, tuple[float, float, float]]
    alike: str | None = None
    offered: bool = True
    curve: list[tuple[float, float]] | None = None
    limit_c: float | None = None
    life_years: tuple[float, float] | None = None
    cautions: tuple[str, ...] = ()
    loss_curve: tuple[float, float, float] | None = None  # of a supply: loss over rating, by powers of the load share
    extra: dict[str, float] = field(default_factory=dict)


@lru_cache(maxsize=1)
def classes() -> dict[str, PartClass]:
    """Every class by its id."""
    known = {"kind", "name", "figures", "alike", "offered", "curve", "limit_c", "life_years", "cautions", "loss_curve"}
    return {
        key: PartClass(
            key,
            row["kind"],
            row["name"],
            {name: (pair[0], pair[1], pair[-1]) for name, pair in row["figures"].items()},
            row.get("alike"),
            row.get("offered", True),
            [(q, p) for q, p in row["curve"]] if "curve" in row else None,
            row.get("limit_c"),
            (row["life_years"][0], row["life_years"][1]) if "life_years" in row else None,
            tuple(row.get("cautions", ())),
            tuple(row["loss_curve"]) if "loss_curve" in row else None,
            {name: value for name, value in row.items() if name not in known},
        )
        for key, row in table("classes")["classes"].items()
    }


def alike(class_id: str | None) -> list[PartClass]:
    """Classes that may stand in place of one, itself among them where it is offered; empty where it has none alike."""
    own = classes().get(class_id or "")
    if own is None or own.alike is None:
        return []
    return [item for item in classes().values() if item.alike == own.alike and item.offered]


def class_figure(class_id: str | None, kind: str, name: str) -> tuple[float, float, float, str] | None:
    """(value, below, above, where it comes from) of a figure that the document leaves out; None if no class has it."""
    part_class = classes().get(class_id or "")
    if part_class is not None and name in part_class.figures:
        return (*part_class.figures[name], part_class.id)
    pair = table("classes")["kinds"].get(kind, {}).get(name)
    return (pair[0], pair[1], pair[-1], f"any_{kind}") if pair else None


@dataclass(frozen=True, eq=False)
class RadiatorClass:
    """One section of a radiator class at four face velocities; ``coolant_kpa`` of two sections at 4 l/min."""

    section_mm: float
    thickness_mm: float
    face_velocity: Array
    w_k: Array
    pressure_pa: Array
    coolant_kpa: float


@lru_cache(maxsize=1)
def radiator_classes() -> list[RadiatorClass]:
    """Every row of the table, by section and thickness, smallest first."""
    data = table("radiators")
    velocities = np.array(data["face_velocities_m_s"], dtype=np.float64)
    return [
        RadiatorClass(
            row["section_mm"],
            row["thickness_mm"],
            velocities,
            np.array(row["w_k"], dtype=np.float64),
            np.array(row["pa"], dtype=np.float64),
            row["coolant_kpa"],
        )
        for row in data["rows"]
    ]
