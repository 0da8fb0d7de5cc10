"""A water loop in a housing with parts, leads and more of one's own, for tests of what stands in it."""

from typing import Any

from krill.document.reading import read_object, write_object
from krill.recipes.water_loop import water_loop

Data = dict[str, Any]


def housed(
    *parts: Data,
    inside: list[float] | None = None,
    at: dict[str, list[float]] | None = None,
    outlines: dict[str, Data] | None = None,
    **more: Any,
) -> Any:
    """The recipe with no outlines but those told for its parts: cubes of 60 ``at`` places, or whole ``outlines``.

    ``more`` replaces lists of the build, and adds to what it says of its housing.
    """
    told = {
        part: {"size_mm": [60, 60, 60], "plus_minus_mm": 0.1, "position_mm": place}
        for part, place in (at or {}).items()
    }
    told |= outlines or {}
    data = write_object(water_loop(125, 220, 30, 24, "housed"))
    for part in data["parts"]:
        part["outline"] = told.get(part["id"])
    data["housing"] |= {"inner_size_mm": inside or [400, 300, 200]} | more.pop("housing", {})
    data["parts"] += list(parts)
    return read_object(data | more)


def box(part_id: str, size: list[float], at: list[float], kind: str = "reservoir", **more: Any) -> Data:
    outline = {"size_mm": size, "plus_minus_mm": 0.1, "position_mm": at} | more.pop("outline", {})
    figures = {"reservoir": {"bore_mm": 9}, "radiator": {"section_mm": 120, "sections": 1, "thickness_mm": 30}}
    return {"id": part_id, "kind": kind, "outline": outline} | figures.get(kind, {}) | more


def lead(points: list[list[float]] | None = None, **more: Any) -> Data:
    return {"id": "lead", "name": "Lead", "from_part": "first", "to_part": "last", "points_mm": points or []} | more


ENDS = (box("first", [10, 10, 10], [5, 150, 100]), box("last", [10, 10, 10], [395, 150, 100]))
