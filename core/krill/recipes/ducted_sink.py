"""Recipe "ducted sink": one blower, one duct, two sinks one behind the other, two outlets."""

from dataclasses import dataclass

from krill.document.build import Build
from krill.document.reading import read_object
from krill.recipes.cases import walls
from krill.recipes.common import brief, header, in_ranges, rooms
from krill.recipes.pieces import (
    Json,
    air_path,
    estimate,
    fan,
    opening,
    own_limit,
    part,
    place,
    room_and_box,
    route,
    rule,
    source,
    throttle,
    to_air,
    workload,
)


@dataclass(frozen=True)
class _Size:
    """Fan, sinks and duct that go together: the classes, the duct's width and height, its inlet and an outlet."""

    fan: str
    fan_name: str
    sink: str
    duct_mm: tuple[float, float]
    inlet_cm2: float
    outlet_cm2: float
    inside_mm: tuple[float, float, float]


SMALL = _Size("fan_blower_75x30", "Blower", "cooler_duct_sink_60", (60, 28), 50, 22, (240, 140, 110))
TOWER = _Size("fan_120x25_strong", "Fan", "cooler_tower_120", (120, 120), 150, 90, (380, 160, 150))


def ducted_sink(
    first_w: float, second_w: float, rest_w: float, room_c: float, name: str = "Ducted sink", *, tower: bool = False
) -> Build:
    """A document with every guess marked as one; a ``tower`` stands in a duct of 120 mm with a fan before it.

    Watts of the part that the air meets first (1-120), of the one behind it (0-60) and of the rest of the box
    (0-20); room 5-45 C. DocumentRefused outside the ranges.
    """
    in_ranges((first_w, second_w, rest_w), ((1, 120), (0, 60), (0, 20)), room_c)
    size = TOWER if tower else SMALL
    return read_object(
        header(name)
        | {
            "brief": brief("full", 1.0),
            "rooms": rooms(room_c),
            "housing": {"inner_size_mm": size.inside_mm, "gravity": [0, 0, -1]},
            "parts": [
                *_sources(),
                *_in_the_duct(size),
                *_openings(size),
                *walls(size.inside_mm, "steel", "painted", 0.8),
            ],
            "zones": room_and_box(rule(0.5, "40%")),
            "air_paths": _air(),
            "routes": [
                _on("first-place", "sink-first", "pad-first"),
                _on("second-place", "sink-second", "pad-second"),
                to_air("drive-place"),
            ],
            "workloads": [
                _workload("full", "Full", first_w, second_w, rest_w, 0.8, 42),
                _workload("first-only", "First alone", first_w, 0.3 * second_w, 0.5 * rest_w, 0.7, 40),
                _workload("idle", "Idle", 0.05 * first_w, 0.3 * second_w, 0.5 * rest_w, 0.4, 30),
            ],
        }
    )


def _air() -> list[Json]:
    outlets = {"parallel": [["outlet-left"], ["outlet-right"]]}
    through = ("grille", "blower", "duct-in", "sink-first", "duct-between", "sink-second", outlets)
    return [
        air_path("air-duct", "Through the duct", "outside", "outside", *through),
        air_path("air-seams", "Seams of the box", "box", "outside", "seams"),
    ]


def _on(place_id: str, sink: str, interface: str) -> Json:
    return route(
        place_id,
        {"id": f"{place_id}-joint", "kind": "interface", "part": interface},
        {"id": f"{place_id}-sink", "kind": "stream", "part": sink, "name": "Sink in the duct"},
    )


def _sources() -> list[Json]:
    first = place("first-place", "First part", "led_array_30w", "case", own_limit(75))
    second = place("second-place", "Second part", "board_small_metal", "chip_sensor", throttle(80))
    return [
        source("first", "First part", "board", first),
        source("second", "Second part", "board", second),
        source("drive", "Drive and board", "board", place("drive-place", "Drive", "drive_m2", "case", throttle(72))),
    ]


def _in_the_duct(size: _Size) -> list[Json]:
    width, height = size.duct_mm
    section = {"width_mm": estimate(width, "5%"), "height_mm": estimate(height, "5%")}
    leak = {"bends": 1, "leak_cm2": estimate(1.0, "50%"), "leak_zone": "box"}
    return [
        part("interface", "pad-first", "Paste", "paste_ordinary_chip"),
        part("interface", "pad-second", "Pad 1 mm", "pad_1mm_chip"),
        opening("grille", "Inlet grille", "opening_dense", "left", estimate(size.inlet_cm2)),
        fan("blower", size.fan_name, size.fan, face="left", direction="in"),
        part(
            "duct",
            "duct-in",
            "Duct to the first sink",
            "duct_printed",
            length_m=estimate(0.08, "20%"),
            **section,
            **leak,
        ),
        part("cooler", "sink-first", "First sink", size.sink),
        part(
            "duct",
            "duct-between",
            "Duct between the sinks",
            "duct_closed_adapter",
            length_m=estimate(0.04, "20%"),
            **section,
        ),
        part("cooler", "sink-second", "Second sink", size.sink),
    ]


def _openings(size: _Size) -> list[Json]:
    return [
        opening("outlet-left", "Left outlet", "opening_dense", "front", estimate(size.outlet_cm2)),
        opening("seams", "Seams", "opening_gaps", "top", estimate(6, "40%")),
        opening("outlet-right", "Right outlet", "opening_dense", "back", estimate(size.outlet_cm2)),
    ]


def _workload(key: str, name: str, first: float, second: float, rest: float, duty: float, loudest: float) -> Json:
    watts = {"first": first, "second": second, "drive": rest}
    return workload(key, name, watts, 45, movers={"blower": {"duty": duty}}, sound_ceiling_dba=loudest)
