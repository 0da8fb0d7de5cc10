"""Recipe "low air cooler in a thin box": coolers that draw air through perforated panels and blow into a few litres."""

from krill.document.build import Build
from krill.document.reading import read_object
from krill.recipes.common import (
    Json,
    brief,
    checked,
    estimate,
    header,
    joined,
    rooms,
    rule,
    sources,
    to_air,
    workloads,
)

STILL = ("memory-place", "drive-place", "regulators-place", "supply-body")
#: exhaust that coolers suck in again through perforated panels of a box below 8 l (value from memory)
SMALL_BOX_SHARE, SMALL_BOX_HALF = 0.35, 0.15


def thin_box(
    processor_w: float, graphics_w: float, rest_w: float, room_c: float, name: str = "Low air cooler in a thin box"
) -> Build:
    """A document with every guess marked as one.

    Watts of processor (10-130), graphics board (10-160) and the rest of the box (1-150); room 5-45 C. DocumentRefused
    outside the ranges.
    """
    checked("processor_w", processor_w, 10, 130)
    checked("graphics_w", graphics_w, 10, 160)
    checked("rest_w", rest_w, 1, 150)
    checked("room_c", room_c, 5, 45)
    share = {"value": SMALL_BOX_SHARE, "plus_minus": SMALL_BOX_HALF, "from": "class"}
    fans = {"fan-processor": 0.85, "fan-graphics-left": 0.75, "fan-graphics-right": 0.75}
    return read_object(
        header(name)
        | {
            "brief": brief("both"),
            "rooms": rooms(room_c),
            "housing": {"inner_size_mm": [330, 200, 62], "gravity": [0, 0, -1]},
            "parts": [*sources(processor_w, graphics_w), *_coolers(processor_w), *_panels()],
            "zones": [
                {"id": "outside", "name": "Room air", "kind": "outside", "room": "room"},
                {"id": "box", "name": "Box air", "kind": "box", "wall_w_k": rule(1.2, "30%")},
            ],
            "air_paths": [
                {
                    "id": "air-processor",
                    "name": "In over the processor",
                    "from_zone": "outside",
                    "to_zone": "box",
                    "elements": ["panel-processor", "gap-processor", "fan-processor", "cooler-processor"],
                },
                {
                    "id": "air-graphics",
                    "name": "In over the graphics card",
                    "from_zone": "outside",
                    "to_zone": "box",
                    "elements": [
                        "panel-graphics",
                        {"parallel": [["fan-graphics-left"], ["fan-graphics-right"]]},
                        "cooler-graphics",
                    ],
                },
                {
                    "id": "air-out",
                    "name": "Out through the sides",
                    "from_zone": "box",
                    "to_zone": "outside",
                    "elements": ["vents"],
                },
            ],
            "recirculations": [
                {
                    "id": "again-processor",
                    "from_path": "air-out",
                    "to_path": "air-processor",
                    "recirculated_share": share,
                },
                {
                    "id": "again-graphics",
                    "from_path": "air-out",
                    "to_path": "air-graphics",
                    "recirculated_share": share,
                },
            ],
            "routes": [
                joined("processor-core", "paste-processor", _on("cooler-processor")),
                joined("graphics-chip", "paste-graphics", _on("cooler-graphics")),
                joined("graphics-memory", "pads-memory", _on("cooler-graphics")),
                joined("graphics-regulators", "pads-regulators", _on("cooler-graphics")),
                *[to_air(place) for place in STILL],
            ],
            "workloads": workloads(processor_w, graphics_w, rest_w, fans),
        }
    )


def _on(cooler: str) -> Json:
    return {"kind": "stream", "part": cooler, "name": "Cooler"}


def _coolers(processor_w: float) -> list[Json]:
    low = "cooler_low_37" if processor_w <= 75 else "cooler_low_47"
    return [
        {"id": "paste-processor", "kind": "interface", "name": "Paste", "class": "paste_ordinary_lid"},
        {"id": "paste-graphics", "kind": "interface", "name": "Paste", "class": "paste_ordinary_chip"},
        {"id": "pads-memory", "kind": "interface", "name": "Pads 1 mm", "class": "pad_1mm_chip"},
        {"id": "pads-regulators", "kind": "interface", "name": "Pads 1 mm", "class": "pad_1mm_chip"},
        {"id": "cooler-processor", "kind": "cooler", "name": "Low cooler", "class": low},
        {"id": "cooler-graphics", "kind": "cooler", "name": "Graphics cooler", "class": "cooler_graphics_low"},
        {
            "id": "fan-processor",
            "kind": "fan",
            "name": "Processor fan",
            "class": "fan_92x14",
            "face": "top",
            "direction": "in",
        },
        {
            "id": "fan-graphics-left",
            "kind": "fan",
            "name": "Graphics fan left",
            "class": "fan_60x15",
            "face": "bottom",
            "direction": "in",
        },
        {
            "id": "fan-graphics-right",
            "kind": "fan",
            "name": "Graphics fan right",
            "class": "fan_60x15",
            "face": "bottom",
            "direction": "in",
        },
    ]


def _panels() -> list[Json]:
    return [
        {
            "id": "panel-processor",
            "kind": "opening",
            "name": "Panel over the processor",
            "class": "opening_dense",
            "face": "top",
            "area_cm2": estimate(110),
        },
        {
            "id": "gap-processor",
            "kind": "gap",
            "name": "Breathing room",
            "face": "top",
            "gap_mm": estimate(30, "20%"),
            "span_mm": estimate(92, "5%"),
        },
        {
            "id": "panel-graphics",
            "kind": "opening",
            "name": "Panel under the graphics card",
            "class": "opening_dense",
            "face": "bottom",
            "area_cm2": estimate(140),
        },
        {
            "id": "vents",
            "kind": "opening",
            "name": "Side vents",
            "class": "opening_dense",
            "face": "back",
            "area_cm2": estimate(170, "20%"),
        },
    ]
