"""Recipe "water loop in a small box": a whole document from the watts of three things and a room temperature."""

import math
from typing import Any

from krill import CORE_VERSION
from krill.document.build import Build
from krill.document.reading import read_object
from krill.errors import DocumentRefused, Problem

WATTS_A_SECTION = 125.0  # rule of thumb: 100-150 W for each 120 mm section
IDLE_PROCESSOR_W, IDLE_GRAPHICS_W = 9, 12

Json = dict[str, Any]


def _estimate(value: float, half: str = "10%") -> Json:
    return {"value": value, "plus_minus": half, "from": "estimate"}


def _rule(value: float, half: str = "20%") -> Json:
    return {"value": value, "plus_minus": half, "from": "rule_of_thumb"}


def _checked(name: str, value: float, low: float, high: float) -> None:
    if not low <= value <= high:
        raise DocumentRefused([Problem(name, f"{value}", f"{low:g} to {high:g}")])


def _processor_class(watts: float) -> str:
    return "lidded_65" if watts <= 80 else "lidded_125" if watts <= 165 else "lidded_250"


def _graphics_class(watts: float) -> int:
    return min((115, 150, 220, 320), key=lambda board: abs(board - watts))


def _limit(kind: str, at_c: float) -> Json:
    return {"kind": kind, "at_c": at_c}


def _sources(processor_w: float, graphics_w: float) -> list[Json]:
    board = _graphics_class(graphics_w)
    return [
        {
            "id": "processor", "kind": "source", "name": "Processor", "power_kind": "package",
            "places": [{
                "id": "processor-core", "name": "Processor", "class": _processor_class(processor_w),
                "temperature_kind": "hottest_core", "limits": [_limit("throttle", 95)],
            }],
        },
        {
            "id": "graphics", "kind": "source", "name": "Graphics", "power_kind": "board",
            "places": [
                {"id": "graphics-chip", "name": "Graphics", "class": f"graphics_chip_{board}",
                 "temperature_kind": "chip_sensor", "power_share": {"value": 0.73, "plus_minus": 0.06, "from": "class"},
                 "limits": [_limit("throttle", 88)]},
                {"id": "graphics-memory", "name": "Graphics memory", "class": "graphics_memory",
                 "temperature_kind": "memory", "power_share": {"value": 0.12, "plus_minus": 0.06, "from": "class"},
                 "limits": [_limit("throttle", 105)]},
                {"id": "graphics-regulators", "name": "Graphics regulators", "class": "graphics_regulators",
                 "temperature_kind": "case", "power_share": {"value": 0.10, "plus_minus": 0.06, "from": "class"},
                 "limits": [_limit("own", 105)]},
            ],
        },
        _still("memory", "Memory", "memory_pair", "memory", 85),
        _still("drive", "Drive", "drive_m2", "case", 72),
        _still("regulators", "Regulators", "board_regulators", "case", 100),
        {
            "id": "supply", "kind": "supply", "name": "Power supply", "class": "supply_good",
            "rating_w": _estimate(100 * math.ceil((processor_w + graphics_w) * 1.5 / 100)),
            "places": [{"id": "supply-body", "name": "Supply", "class": "supply_body", "temperature_kind": "case",
                        "limits": [_limit("own", 85)]}],
        },
    ]  # fmt: skip


def _still(part_id: str, name: str, class_id: str, temperature_kind: str, limit_c: float) -> Json:
    place = {
        "id": f"{part_id}-place",
        "name": name,
        "class": class_id,
        "temperature_kind": temperature_kind,
        "limits": [_limit("throttle", limit_c)],
    }
    return {"id": part_id, "kind": "source", "name": name, "power_kind": "chip", "places": [place]}


def _loop_parts(sections: int) -> tuple[list[Json], list[str]]:
    parts: list[Json] = [
        {"id": "paste-processor", "kind": "interface", "name": "Paste", "class": "paste_ordinary_lid"},
        {"id": "paste-graphics", "kind": "interface", "name": "Paste", "class": "paste_ordinary_chip"},
        {"id": "pads-memory", "kind": "interface", "name": "Pads 1 mm", "class": "pad_1mm_chip"},
        {"id": "pads-regulators", "kind": "interface", "name": "Pads 1 mm", "class": "pad_1mm_chip"},
        {"id": "plate-processor", "kind": "plate", "name": "Processor plate", "class": "plate_processor_ordinary"},
        {"id": "plate-graphics", "kind": "plate", "name": "Graphics plate", "class": "plate_graphics_typical"},
        {"id": "pump", "kind": "pump", "name": "Pump", "class": "pump_strong"},
        {"id": "reservoir", "kind": "reservoir", "name": "Reservoir", "class": "reservoir_common",
         "bore_mm": _estimate(9)},
        {"id": "tube", "kind": "tube", "name": "Tube", "class": "tube_soft", "length_m": _estimate(2.0, "25%"),
         "bore_mm": _estimate(10, "5%")},
        {"id": "fittings", "kind": "fitting", "name": "Straight fittings", "class": "fitting_straight", "count": 10,
         "bore_mm": _estimate(8.5)},
        {"id": "elbows", "kind": "fitting", "name": "Rotary elbows", "class": "fitting_90_rotary", "count": 4,
         "bore_mm": _estimate(8.5)},
    ]  # fmt: skip
    radiators = []
    for index, count in enumerate(_split(sections)):
        radiator = f"radiator-{'ab'[index]}"
        radiators.append(radiator)
        parts.append({"id": radiator, "kind": "radiator", "name": f"Radiator {120 * count}", "section_mm": 120,
                      "sections": count, "thickness_mm": 28, "face": ("bottom", "back")[index],
                      "direction": _way(index, sections)})  # fmt: skip
        parts += [
            {"id": f"fan-{'ab'[index]}{n + 1}", "kind": "fan", "name": f"Fan {'AB'[index]}{n + 1}",
             "class": "fan_120x25", "direction": _way(index, sections)}
            for n in range(count)
        ]  # fmt: skip
    return parts, radiators


def _way(index: int, sections: int) -> str:
    """One radiator blows out; of two the first breathes the room and the second blows out."""
    return "in" if len(_split(sections)) > 1 and index == 0 else "out"


def _split(sections: int) -> list[int]:
    """Sections over one or two radiators, three at most in each where two are enough."""
    return [sections] if sections <= 3 else [math.ceil(sections / 2), sections // 2]


def _fans(radiator: str, parts: list[Json]) -> Any:
    letter = radiator[-1]
    fans = [part["id"] for part in parts if part["kind"] == "fan" and part["id"].startswith(f"fan-{letter}")]
    return fans[0] if len(fans) == 1 else {"parallel": [[fan] for fan in fans]}


def _air(radiators: list[str], parts: list[Json]) -> list[Json]:
    parts += [
        {"id": "grille", "kind": "opening", "name": "Grille", "class": "opening_honeycomb", "face": "bottom",
         "area_cm2": _estimate(_face_cm2(parts), "15%")},
        {"id": "vents", "kind": "opening", "name": "Vents", "class": "opening_dense", "face": "back",
         "area_cm2": _estimate(300, "20%")},
    ]  # fmt: skip
    vents = {"id": "air-vents", "name": "Vents", "from_zone": "outside", "to_zone": "box", "elements": ["vents"]}
    if len(radiators) == 1:
        return [
            {"id": "air-out", "name": "Out through radiator A", "from_zone": "box", "to_zone": "outside",
             "elements": [_fans(radiators[0], parts), radiators[0], "grille"]},
            vents,
        ]  # fmt: skip
    paths: list[Json] = [
        {"id": "air-in", "name": "In through radiator A", "from_zone": "outside", "to_zone": "box",
         "elements": ["grille", _fans(radiators[0], parts), radiators[0]]},
        vents,
    ]  # fmt: skip
    paths.append({"id": "air-out", "name": "Out through radiator B", "from_zone": "box", "to_zone": "outside",
                  "elements": [radiators[1], _fans(radiators[1], parts)]})  # fmt: skip
    return paths


def _face_cm2(parts: list[Json]) -> float:
    """Face of the first radiator, which the grille covers."""
    return float(next(144 * part["sections"] for part in parts if part["kind"] == "radiator"))


def _routes() -> list[Json]:
    def liquid(place: str, interface: str, plate: str) -> Json:
        return {
            "id": f"route-{place}",
            "place": place,
            "hops": [
                {"id": f"{place}-{interface.split('-')[0]}", "kind": "interface", "part": interface},
                {"id": f"{place}-plate", "kind": "plate", "part": plate, "name": "Plate"},
            ],
        }

    def to_air(place: str) -> Json:
        hop = {"id": f"{place}-air", "kind": "air", "zone": "box", "name": "To box air"}
        return {"id": f"route-{place}", "place": place, "hops": [hop]}

    return [
        liquid("processor-core", "paste-processor", "plate-processor"),
        liquid("graphics-chip", "paste-graphics", "plate-graphics"),
        liquid("graphics-memory", "pads-memory", "plate-graphics"),
        liquid("graphics-regulators", "pads-regulators", "plate-graphics"),
        *[to_air(place) for place in ("memory-place", "drive-place", "regulators-place", "supply-body")],
    ]


def _workloads(processor_w: float, graphics_w: float, rest_w: float, movers: list[str]) -> list[Json]:
    rest = {"memory": 0.2 * rest_w, "drive": 0.1 * rest_w, "regulators": 0.7 * rest_w}

    def workload(key: str, name: str, p: float, g: float, share: float, duty: float, ceiling: float) -> Json:
        watts = {"processor": p, "graphics": g} | {k: round(share * w, 2) for k, w in rest.items()}
        return {
            "id": key,
            "name": name,
            "watts": {source: _estimate(value) for source, value in watts.items()},
            "movers": {mover: {"duty": 0.7 if mover == "pump" else duty} for mover in movers},
            "duration_min": 60,
            "sound_ceiling_dba": ceiling,
        }

    return [
        workload("idle", "Idle", IDLE_PROCESSOR_W, IDLE_GRAPHICS_W, 0.25, 0.35, 30),
        workload("processor-only", "Processor", processor_w, IDLE_GRAPHICS_W, 0.8, 0.6, 38),
        workload("graphics-only", "Graphics", 0.3 * processor_w, graphics_w, 0.8, 0.6, 38),
        workload("both", "Both", processor_w, graphics_w, 1.0, 0.65, 38),
    ]


def water_loop(
    processor_w: float, graphics_w: float, rest_w: float, room_c: float, name: str = "Water loop in a small box"
) -> Build:
    """A document with every guess marked as one.

    Watts of processor (10-400), graphics board (10-600) and the rest of the box (1-300); room 5-45 C. Radiator
    sections by the rule of 125 W for each; DocumentRefused outside the ranges.
    """
    _checked("processor_w", processor_w, 10, 400)
    _checked("graphics_w", graphics_w, 10, 600)
    _checked("rest_w", rest_w, 1, 300)
    _checked("room_c", room_c, 5, 45)
    sections = min(max(1, math.ceil((processor_w + graphics_w) / WATTS_A_SECTION)), 6)
    loop_parts, radiators = _loop_parts(sections)
    parts = _sources(processor_w, graphics_w) + loop_parts
    paths = _air(radiators, parts)
    movers = [part["id"] for part in parts if part["kind"] in ("fan", "pump")]
    order = ["pump", "tube", "plate-processor", "plate-graphics", "fittings", *radiators, "elbows", "reservoir"]
    return read_object(
        {
            "format": "krill-build",
            "version": 1,
            "written_by": f"krill {CORE_VERSION}",
            "name": name,
            "brief": {"purpose": "", "listener_m": 0.8, "margin_wanted_k": 3, "hottest_room": "hot-day",
                      "coolest_room": "cool-day", "worst_workloads": ["both"]},
            "rooms": [
                {"id": "room", "name": "Room", "air_c": room_c},
                {"id": "cool-day", "name": "Cool day", "air_c": max(room_c - 5, 5)},
                {"id": "hot-day", "name": "Hot day", "air_c": room_c + 5},
            ],
            "housing": {"inner_size_mm": [400, 250, 180], "gravity": [0, 0, -1]},
            "parts": parts,
            "zones": [
                {"id": "outside", "name": "Room air", "kind": "outside", "room": "room"},
                {"id": "box", "name": "Box air", "kind": "box", "wall_w_k": _rule(2.0, "30%")},
            ],
            "air_paths": paths,
            "loops": [{"id": "loop-a", "name": "Loop A", "volume_l": _estimate(0.9, "25%"),
                       "coolant": {"fluid": "propylene_glycol", "mass_share": 0.1}, "elements": order}],
            "routes": _routes(),
            "workloads": _workloads(processor_w, graphics_w, rest_w, movers),
        }
    )  # fmt: skip
