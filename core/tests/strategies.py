"""Documents for tests: the recipe, and the recipe with every guess made small."""

import copy
from collections.abc import Callable
from typing import Any

from krill.catalogue.classes import class_figure
from krill.document.build import Build
from krill.document.reading import read_object, write_object
from krill.recipes.water_loop import water_loop

KNOWN = "6%"
_FIELDS = {
    "place": (
        "chip_area_mm2",
        "chip_mm2k_w",
        "hot_core_mm2k_w",
        "joint_mm2k_w",
        "lid_area_mm2",
        "lid_thickness_mm",
        "lid_w_mk",
        "package_k_w",
    ),
    "interface": ("resistance_mm2k_w",),
    "plate": ("resistance_1_k_w", "resistance_4_k_w", "factor"),
    "radiator": ("factor", "air_factor"),
    "fan": ("flow_factor", "pressure_factor"),
    "pump": ("flow_factor", "pressure_factor"),
    "opening": ("loss",),
    "supply": ("efficiency",),
}


def recipe(processor_w: float = 125, graphics_w: float = 220, rest_w: float = 30, room_c: float = 24) -> Build:
    return water_loop(processor_w, graphics_w, rest_w, room_c)


def raw_recipe(*figures: float) -> dict[str, Any]:
    return copy.deepcopy(write_object(recipe(*figures)))


def changed_recipe(change: Callable[[dict[str, Any]], object]) -> Build:
    """The recipe after something of its document was changed in place."""
    raw = raw_recipe()
    change(raw)
    return read_object(raw)


def load_of(raw: dict[str, Any], workload: str = "both") -> dict[str, Any]:
    """A workload of a document."""
    return next(item for item in raw["workloads"] if item["id"] == workload)


def well_known_recipe() -> Build:
    """The recipe's machine after somebody measured its figures: each is known to a few per cent."""
    raw = raw_recipe()
    for part in raw["parts"]:
        for item, kind in [(part, part["kind"]), *((place, "place") for place in part.get("places", []))]:
            for field in _FIELDS.get(kind, ()):
                default = class_figure(item.get("class"), kind, field)
                if default is not None and field not in item:
                    item[field] = {"value": default[0], "plus_minus": KNOWN, "from": "measured"}
            if "power_share" in item:
                item["power_share"] = {**item["power_share"], "plus_minus": "3%", "from": "measured"}
    return read_object(raw)
