"""Recipe "ducted sink": one blower, one duct, two sinks one behind the other, two outlets."""

from krill.document.build import Build
from krill.document.reading import read_object
from krill.recipes.common import Json, brief, checked, estimate, header, limit, rooms, rule, to_air


def ducted_sink(first_w: float, second_w: float, rest_w: float, room_c: float, name: str = "Ducted sink") -> Build:
    """A document with every guess marked as one.

    Watts of the part that the air meets first (1-200), of the one behind it (1-200) and of the rest of the box
    (0.5-100); room 5-45 C. DocumentRefused outside the ranges.
    """
    checked("processor_w", first_w, 1, 200)
    checked("graphics_w", second_w, 1, 200)
    checked("rest_w", rest_w, 0.5, 100)
    checked("room_c", room_c, 5, 45)
    return read_object(
        header(name)
        | {
            "brief": brief("full", 1.0),
            "rooms": rooms(room_c),
            "housing": {"inner_size_mm": [240, 140, 110], "gravity": [0, 0, -1]},
            "parts": [*_sources(), *_in_the_duct()],
            "zones": [
                {"id": "outside", "name": "Room air", "kind": "outside", "room": "room"},
                {"id": "box", "name": "Box air", "kind": "box", "wall_w_k": rule(0.8, "40%")},
            ],
            "air_paths": [
                {
                    "id": "air-duct",
                    "name": "Through the duct",
                    "from_zone": "outside",
                    "to_zone": "outside",
                    "elements": [
                        "grille",
                        "blower",
                        "duct-in",
                        "sink-first",
                        "duct-between",
                        "sink-second",
                        {"parallel": [["outlet-left"], ["outlet-right"]]},
                    ],
                },
                {
                    "id": "air-seams",
                    "name": "Seams of the box",
                    "from_zone": "box",
                    "to_zone": "outside",
                    "elements": ["seams"],
                },
            ],
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


def _on(place: str, sink: str, interface: str) -> Json:
    return {
        "id": f"route-{place}",
        "place": place,
        "hops": [
            {"id": f"{place}-joint", "kind": "interface", "part": interface},
            {"id": f"{place}-sink", "kind": "stream", "part": sink, "name": "Sink in the duct"},
        ],
    }


def _sources() -> list[Json]:
    return [
        {
            "id": "first",
            "kind": "source",
            "name": "First part",
            "power_kind": "board",
            "places": [
                {
                    "id": "first-place",
                    "name": "First part",
                    "class": "led_array_30w",
                    "temperature_kind": "case",
                    "limits": [limit("own", 75)],
                }
            ],
        },
        {
            "id": "second",
            "kind": "source",
            "name": "Second part",
            "power_kind": "board",
            "places": [
                {
                    "id": "second-place",
                    "name": "Second part",
                    "class": "board_small_metal",
                    "temperature_kind": "chip_sensor",
                    "limits": [limit("throttle", 80)],
                }
            ],
        },
        {
            "id": "drive",
            "kind": "source",
            "name": "Drive and board",
            "power_kind": "board",
            "places": [
                {
                    "id": "drive-place",
                    "name": "Drive",
                    "class": "drive_m2",
                    "temperature_kind": "case",
                    "limits": [limit("throttle", 72)],
                }
            ],
        },
    ]


def _in_the_duct() -> list[Json]:
    return [
        {"id": "pad-first", "kind": "interface", "name": "Paste", "class": "paste_ordinary_chip"},
        {"id": "pad-second", "kind": "interface", "name": "Pad 1 mm", "class": "pad_1mm_chip"},
        {
            "id": "grille",
            "kind": "opening",
            "name": "Inlet grille",
            "class": "opening_dense",
            "face": "left",
            "area_cm2": estimate(50),
        },
        {
            "id": "blower",
            "kind": "fan",
            "name": "Blower",
            "class": "fan_blower_75x30",
            "face": "left",
            "direction": "in",
        },
        {
            "id": "duct-in",
            "kind": "duct",
            "name": "Duct to the first sink",
            "class": "duct_printed",
            "length_m": estimate(0.08, "20%"),
            "width_mm": estimate(60, "5%"),
            "height_mm": estimate(28, "5%"),
            "bends": 1,
            "leak_cm2": estimate(1.0, "50%"),
            "leak_zone": "box",
        },
        {"id": "sink-first", "kind": "cooler", "name": "First sink", "class": "cooler_duct_sink_60"},
        {
            "id": "duct-between",
            "kind": "duct",
            "name": "Duct between the sinks",
            "class": "duct_closed_adapter",
            "length_m": estimate(0.04, "20%"),
            "width_mm": estimate(60, "5%"),
            "height_mm": estimate(28, "5%"),
        },
        {"id": "sink-second", "kind": "cooler", "name": "Second sink", "class": "cooler_duct_sink_60"},
        {
            "id": "outlet-left",
            "kind": "opening",
            "name": "Left outlet",
            "class": "opening_dense",
            "face": "front",
            "area_cm2": estimate(22),
        },
        {
            "id": "seams",
            "kind": "opening",
            "name": "Seams",
            "class": "opening_gaps",
            "face": "top",
            "area_cm2": estimate(6, "40%"),
        },
        {
            "id": "outlet-right",
            "kind": "opening",
            "name": "Right outlet",
            "class": "opening_dense",
            "face": "back",
            "area_cm2": estimate(22),
        },
    ]


def _workload(key: str, name: str, first: float, second: float, rest: float, duty: float, loudest: float) -> Json:
    watts = {"first": first, "second": second, "drive": rest}
    return {
        "id": key,
        "name": name,
        "watts": {source: estimate(round(value, 2)) for source, value in watts.items()},
        "movers": {"blower": {"duty": duty}},
        "duration_min": 45,
        "sound_ceiling_dba": loudest,
    }
