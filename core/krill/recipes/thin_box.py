"""Recipe "low air cooler in a thin box": coolers that draw air through perforated panels and blow into a few litres."""

from krill.document.build import Build
from krill.document.reading import read_object
from krill.recipes.cards import LOW_SLOT, UNDER_CARD, card_openings, card_ways, card_zones, cut_out_ways, own_curve, rim
from krill.recipes.cases import walls
from krill.recipes.common import board_routes, brief, header, in_ranges, rooms, sources, workloads
from krill.recipes.pieces import (
    Json,
    air_path,
    by_class,
    estimate,
    fan,
    joined,
    opening,
    part,
    room_and_box,
    rule,
    to_air,
)

STILL = ("memory-place", "drive-place", "regulators-place", "supply-body")
#: exhaust that coolers suck in again through perforated panels of a box below 8 l (value from memory)
SMALL_BOX_SHARE, SMALL_BOX_HALF = 0.35, 0.15
#: gap around a low card over its panel, and its outline (values from memory)
RIM_MM, LOW_CARD_MM = 8.0, (165.0, 69.0)
CARD_FANS = ("fan-graphics-left", "fan-graphics-right")


def thin_box(
    processor_w: float,
    graphics_w: float,
    rest_w: float,
    room_c: float,
    name: str = "Low air cooler in a thin box",
    *,
    tall: bool = False,
) -> Build:
    """A document with every guess marked as one; ``tall`` has coolers of 70 mm and a card of the next class.

    Watts of processor (10-160), graphics board (0-350) and the rest of the box (0-60); room 5-45 C. DocumentRefused
    outside the ranges.
    """
    in_ranges((processor_w, graphics_w, rest_w), ((10, 160), (0, 350), (0, 60)), room_c)
    size_mm = (330, 200, 92 if tall else 62)
    return read_object(
        header(name)
        | {
            "brief": brief("both"),
            "rooms": rooms(room_c),
            "housing": {"inner_size_mm": size_mm, "gravity": [0, 0, -1]},
            "parts": [
                *sources(processor_w, graphics_w),
                *_coolers(processor_w, tall),
                *_panels(),
                *walls(size_mm, "steel", "painted", 0.8),
            ],
            "zones": [*room_and_box(rule(0.8, "40%")), *card_zones("graphics"), UNDER_CARD],
            "air_paths": _air(),
            "recirculations": [_again("processor")],
            "routes": _routes(),
            "workloads": _workloads(processor_w, graphics_w, rest_w),
        }
    )


def _workloads(processor_w: float, graphics_w: float, rest_w: float) -> list[Json]:
    """The processor's fan as the load has it; the card's fans follow the card's chip."""
    found = workloads(processor_w, graphics_w, rest_w, {"fan-processor": 0.85})
    return [told | {"movers": told["movers"] | own_curve("graphics", CARD_FANS)} for told in found]


def _air() -> list[Json]:
    over_processor = ("panel-processor", "gap-processor", "fan-processor", "cooler-processor")
    both = {"parallel": [["fan-graphics-left"], ["fan-graphics-right"]]}
    return [
        air_path("air-processor", "In over the processor", "outside", "box", *over_processor),
        *cut_out_ways("panel-graphics"),
        *card_ways("graphics", "under-card", [both, "cooler-graphics"]),
        air_path("air-out", "Out through the sides", "box", "outside", "vents"),
    ]


def _again(what: str) -> Json:
    share = by_class(SMALL_BOX_SHARE, SMALL_BOX_HALF)
    return {"id": f"again-{what}", "from_path": "air-out", "to_path": f"air-{what}", "recirculated_share": share}


def _routes() -> list[Json]:
    def on(what: str) -> Json:
        return {"kind": "stream", "part": f"cooler-{what}", "name": "Cooler"}

    return [
        joined("processor-core", "paste-processor", on("processor")),
        joined("graphics-chip", "paste-graphics", on("graphics")),
        joined("graphics-memory", "pads-memory", on("graphics")),
        joined("graphics-regulators", "pads-regulators", on("graphics")),
        *[to_air(place) for place in STILL],
        *board_routes(),
    ]


def _coolers(processor_w: float, tall: bool) -> list[Json]:
    low = "cooler_low_70" if tall else "cooler_low_37" if processor_w <= 75 else "cooler_low_47"
    card = "cooler_graphics_150" if tall else "cooler_graphics_low"
    over_processor, on_card = ("fan_120x15", "fan_92x14") if tall else ("fan_92x14", "fan_60x15")
    return [
        part("interface", "paste-processor", "Paste", "paste_ordinary_lid"),
        part("interface", "paste-graphics", "Paste", "paste_ordinary_chip"),
        part("interface", "pads-memory", "Pads 1 mm", "pad_1mm_chip"),
        part("interface", "pads-regulators", "Pads 1 mm", "pad_1mm_chip"),
        part("cooler", "cooler-processor", "Low cooler", low),
        part("cooler", "cooler-graphics", "Graphics cooler", card),
        fan("fan-processor", "Processor fan", over_processor, face="top", direction="in"),
        fan("fan-graphics-left", "Graphics fan left", on_card, face="bottom", direction="in"),
        fan("fan-graphics-right", "Graphics fan right", on_card, face="bottom", direction="in"),
    ]


def _panels() -> list[Json]:
    breathing: Json = {"gap_mm": estimate(30, "20%"), "span_mm": estimate(92, "5%")}
    return [
        opening("panel-processor", "Panel over the processor", "opening_dense", "top", estimate(110)),
        part("gap", "gap-processor", "Breathing room", face="top", **breathing),
        opening("panel-graphics", "Panel under the graphics card", "opening_dense", "bottom", estimate(140)),
        rim("card-rim", "Rim around the card", RIM_MM, LOW_CARD_MM),
        *card_openings("graphics", *LOW_SLOT),
        opening("vents", "Side vents", "opening_dense", "back", estimate(170, "20%")),
    ]
