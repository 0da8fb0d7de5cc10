"""Materials and finishes as data: conductivity, emissivity, softening of plastics, burn thresholds of skin."""

from typing import Any

from krill.catalogue.table import table
from krill.document.part_base import Plastic
from krill.document.solids import Contact, Material


def _pair(row: dict[str, Any], field: str) -> tuple[float, float] | None:
    return (row[field][0], row[field][1]) if field in row else None


def material_pair(material: str, field: str) -> tuple[float, float] | None:
    """(value, half width) of a material's conductivity or emissivity."""
    return _pair(table("materials")["materials"][material], field)


def finish_pair(finish: str, field: str) -> tuple[float, float] | None:
    """(value, half width) of a finish's emissivity; None where the material's counts."""
    return _pair(table("materials")["finishes"][finish], field)


def material_figure(material: str, finish: str | None, field: str) -> tuple[float, float, str] | None:
    """(value, half width, where it comes from) of conductivity or emissivity; a finish beats its material."""
    by_finish = finish_pair(finish, field) if finish is not None else None
    if by_finish is not None:
        return (*by_finish, str(finish))
    pair = material_pair(material, field)
    return None if pair is None else (*pair, material)


def heat_capacity_of(material: Material, volume_m3: float) -> float:
    """J/K of a volume."""
    row = table("materials")["materials"][material]
    return float(row["density_kg_m3"] * row["heat_capacity_j_kgk"] * volume_m3)


def mass_of(material: Material, volume_m3: float) -> float:
    """Kilograms of a volume."""
    return float(table("materials")["materials"][material]["density_kg_m3"] * volume_m3)


def material_names() -> dict[str, str]:
    return {key: row["name"] for key, row in table("materials")["materials"].items()}


def finish_names() -> dict[str, str]:
    return {key: row["name"] for key, row in table("materials")["finishes"].items()}


def touch_limit(material: Material, contact: Contact) -> float | None:
    """Burn threshold of skin, C, at the lower end of its spread; None where the table has no figure.

    ISO 13732-1:2006 (value from memory). One second is known for bare metal only.
    """
    row = table("materials")["touch"][contact].get(table("materials")["materials"][material]["skin"])
    return None if row is None else float(row[0] if isinstance(row, list) else row)


def softening(plastic: Plastic) -> tuple[float, float]:
    """(C that common practice takes as softening, K to keep away from it)."""
    return float(table("materials")["plastics"][plastic]["softens_c"]), float(table("materials")["keep_away_k"])


def plastic_of(material: str) -> Plastic | None:
    """The plastic that a material is, if it is one."""
    found: dict[str, Plastic] = {key: key for key in table("materials")["plastics"]}
    return found.get(material)
