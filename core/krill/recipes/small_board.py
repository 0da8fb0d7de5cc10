"""Recipes of a small board with one chip: fanless, a stick-on sink under a blower, a tower by a wall fan, a tiny loop."""

from typing import Any

from krill.document.build import Build
from krill.document.reading import read_object
from krill.recipes.cases import Size, case_fan, vents, walls
from krill.recipes.common import brief, header, in_ranges, rooms, still
from krill.recipes.loop_and_card import HOSE_BORE_MM, loop, radiator_with_fans
from krill.recipes.pieces import (
    Json,
    air_path,
    estimate,
    fan,
    joined,
    opening,
    own_limit,
    part,
    place,
    room_and_box,
    rule,
    source,
    throttle,
    to_air,
    workload,
)

#: ends of a chip's way, what moves air or coolant, and how the air goes, apart by the way that it is cooled
Cooled = tuple[list[Json], list[Json], list[Json], Json, dict[str, float]]
#: the rest of a small board: name, class, what its temperature is of and its limit
REST = {
    "memory": ("Memory", "memory_small", "memory", 85),
    "drive": ("Drive", "drive_m2", "case", 72),
    "others": ("Other chips", "chipset", "case", 95),
}
MOST_MEMORY_W, MOST_DRIVE_W = 1.5, 2.5
#: what lies between a chip and what cools it; the chip's class with its limit
PASTE, PAD, TAPE = ("Paste", "paste_ordinary_chip"), ("Pad 1 mm", "pad_1mm_chip"), ("Tape", "tape_stick_on")
CAPPED, BARE = ("board_small_metal", 80.0), ("bare_mobile_45", 100.0)
SMALL: Size = (110, 90, 45)
LARGE: Size = (200, 170, 190)


def small_fanless(chip_w: float, second_w: float, rest_w: float, room_c: float, name: str = "Small board") -> Build:
    """The chip pressed by a pad on the finned lid of a closed housing. Watts of the chip (0-40), the second part
    (0-12), the rest (0-30); room 5-45 C. DocumentRefused outside the ranges."""
    lid = part(
        "sink",
        "lid",
        "Finned lid",
        "sink_extrusion_100_25",
        face="top",
        outside="outside",
        inside="box",
        finish="anodised",
    )
    end: Json = {"kind": "body", "part": "lid"}
    cooled: Cooled = ([lid], [], [], end, {})
    return _board((chip_w, second_w, rest_w), (40, 12, 30), room_c, name, cooled, SMALL, PAD, CAPPED)


def small_blower(chip_w: float, second_w: float, rest_w: float, room_c: float, name: str = "Small board") -> Build:
    """The chip under a stick-on sink that a small blower blows at. Watts of the chip (0-40), the second part (0-12),
    the rest (0-30); room 5-45 C. DocumentRefused outside the ranges."""
    parts = [
        part("cooler", "cooler-chip", "Stick-on sink", "cooler_stick_on_40"),
        fan("blower", "Blower", "fan_blower_50x15", face="left", direction="in"),
        opening("grille", "Inlet", "opening_dense", "left", estimate(12)),
    ]
    out, out_path = vents("vents", "Outlet", "opening_dense", "right", 20)
    blown = air_path("air-chip", "Over the sink", "outside", "box", "grille", "blower", "cooler-chip")
    end: Json = {"kind": "stream", "part": "cooler-chip"}
    cooled: Cooled = ([*parts, out], [blown, out_path], [], end, {"blower": 0.7})
    return _board((chip_w, second_w, rest_w), (40, 12, 30), room_c, name, cooled, SMALL, TAPE, CAPPED)


def small_tower(chip_w: float, second_w: float, rest_w: float, room_c: float, name: str = "Small board") -> Build:
    """The chip under a tower without a fan of its own, a fan in the wall before it. Watts of the chip (0-300), the
    second part (0-20), the rest (0-80); room 5-45 C. DocumentRefused outside the ranges."""
    tower = part("cooler", "cooler-chip", "Tower", "cooler_tower_120")
    wall, path = case_fan("fan-front", "fan_120x25", "front", "in", 110)
    path["elements"] = [*path["elements"], "cooler-chip"]
    out, out_path = vents("vents", "Outlet", "opening_dense", "back", 120)
    end: Json = {"kind": "stream", "part": "cooler-chip"}
    cooled: Cooled = ([tower, *wall, out], [path, out_path], [], end, {"fan-front": 0.6})
    return _board((chip_w, second_w, rest_w), (300, 20, 80), room_c, name, cooled, LARGE, PASTE, BARE)


def small_loop(chip_w: float, second_w: float, rest_w: float, room_c: float, name: str = "Small board") -> Build:
    """The chip under a tiny plate, with a tiny pump and a radiator of one section. Watts of the chip (0-300), the second
    part (0-20), the rest (0-80); room 5-45 C. DocumentRefused outside the ranges."""
    hose: Json = {"length_m": estimate(0.6, "20%"), "bore_mm": estimate(HOSE_BORE_MM, "4%")}
    radiator, through = radiator_with_fans(1, 28, "back")
    parts = [
        part("plate", "plate-chip", "Tiny plate", "plate_tiny"),
        part("pump", "pump", "Tiny pump", "pump_tiny"),
        part("tube", "hose", "Hose", "tube_soft", **hose),
        part("reservoir", "reservoir", "Reservoir", "reservoir_common", bore_mm=estimate(6)),
        *radiator,
    ]
    slots, slots_path = vents("vents", "Vents", "opening_dense", "front", 90)
    out = air_path("air-radiator", "Out through the radiator", "box", "outside", *through)
    end: Json = {"kind": "plate", "part": "plate-chip"}
    run = loop(["pump", "plate-chip", "hose", "radiator", "reservoir"], 0.2)
    cooled: Cooled = ([*parts, slots], [out, slots_path], [run], end, {"pump": 0.9, "fan-radiator-1": 0.5})
    return _board((chip_w, second_w, rest_w), (300, 20, 80), room_c, name, cooled, LARGE, PASTE, BARE)


def _board(
    watts: tuple[float, float, float],
    most: tuple[float, float, float],
    room_c: float,
    name: str,
    cooled: Cooled,
    size_mm: Size,
    joint: tuple[str, str],
    chip: tuple[str, float],
) -> Build:
    parts, paths, loops, end, duties = cooled
    chip_w, second_w, rest_w = most
    in_ranges(watts, ((0, chip_w), (0, second_w), (0, rest_w)), room_c)
    return read_object(
        header(name)
        | {
            "brief": brief("full", 1.0),
            "rooms": rooms(room_c),
            "housing": {"inner_size_mm": size_mm, "gravity": [0, 0, -1], "material": "aluminium sheet"},
            "parts": [
                *_sources(*chip),
                part("interface", "joint-chip", *joint),
                *parts,
                *[
                    wall
                    for wall in walls(size_mm, "aluminium_sheet", "anodised", 1.5)
                    if wall["face"] not in {item.get("face") for item in parts if item["kind"] == "sink"}
                ],
            ],
            "zones": room_and_box(rule(0.1 if size_mm == SMALL else 0.4, "50%")),
            "air_paths": paths,
            "loops": loops,
            "routes": [
                joined("chip-place", "joint-chip", end),
                to_air("second-place"),
                *[to_air(f"{part_id}-place") for part_id in REST],
            ],
            "workloads": [
                _load("full", "Full", watts, 1.0, duties),
                _load("typical", "Typical", watts, 0.6, duties),
                _load("idle", "Idle", watts, 0.2, duties),
            ],
        }
    )


def _sources(chip_class: str, limit: float) -> list[Json]:
    second = place("second-place", "Network chip", "network_chip", "case", own_limit(95))
    return [
        source("board-chip", "Chip", "chip", place("chip-place", "Chip", chip_class, "chip_sensor", throttle(limit))),
        source("second", "Network chip", "chip", second),
        *[still(part_id, *says) for part_id, says in REST.items()],
    ]


def _shared_out(rest_w: float) -> dict[str, float]:
    """Memory and drive take what their classes take, the other chips what is left."""
    memory, drive = min(0.3 * rest_w, MOST_MEMORY_W), min(0.4 * rest_w, MOST_DRIVE_W)
    return {"memory": memory, "drive": drive, "others": rest_w - memory - drive}


def _load(key: str, name: str, watts: tuple[float, float, float], share: float, duties: dict[str, float]) -> Json:
    chip, second, rest = (share * value for value in watts)
    told = {"board-chip": chip, "second": second} | _shared_out(rest)
    more: dict[str, Any] = {"movers": {mover: {"duty": duty} for mover, duty in duties.items()}} if duties else {}
    return workload(key, name, told, 60, sound_ceiling_dba=36, **more)
