"""Recipe "low air cooler in a thin box": coolers that draw air through perforated panels and blow into a few litres."""

from typing import Any

from krill.document.build import Build
from krill.document.reading import read_object
from krill.recipes.common import board_routes, brief, checked, header, rooms, sources, workloads
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
#: gap around a low card over its panel, its outline, and what leaves by its own slot (low profile; values from memory)
RIM_MM, LOW_CARD_MM = 8.0, (165.0, 69.0)
LOW_SLOT_SHARE, LOW_SLOT_HALF = 0.10, 0.09
SHROUD_CM2 = 60.0
#: a card's own fan curve: 45 % to 72 C, 65 % at 83 C, 2 to 3 % per K from there (value from memory)
CARD_CURVE = [[58, 0.4], [72, 0.45], [83, 0.65], [95, 1.0]]
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
    checked("processor_w", processor_w, 10, 160)
    checked("graphics_w", graphics_w, 0, 350)
    checked("rest_w", rest_w, 0, 60)
    checked("room_c", room_c, 5, 45)
    return read_object(
        header(name)
        | {
            "brief": brief("both"),
            "rooms": rooms(room_c),
            "housing": {"inner_size_mm": [330, 200, 92 if tall else 62], "gravity": [0, 0, -1]},
            "parts": [*sources(processor_w, graphics_w), *_coolers(processor_w, tall), *_panels()],
            "zones": [*room_and_box(rule(1.2, "30%")), *card_zones()],
            "air_paths": _air(),
            "recirculations": [_again("processor")],
            "routes": _routes(),
            "workloads": _workloads(processor_w, graphics_w, rest_w),
        }
    )


def _workloads(processor_w: float, graphics_w: float, rest_w: float) -> list[Json]:
    """The processor's fan as the load has it; the card's fans follow the card's chip."""
    own: Json = {"curve": {"sensor": "graphics-chip", "points": CARD_CURVE, "hysteresis_k": 10}}
    found = workloads(processor_w, graphics_w, rest_w, {"fan-processor": 0.85})
    return [told | {"movers": told["movers"] | dict.fromkeys(CARD_FANS, own)} for told in found]


def _air() -> list[Json]:
    over_processor = ("panel-processor", "gap-processor", "fan-processor", "cooler-processor")
    both = {"parallel": [["fan-graphics-left"], ["fan-graphics-right"]]}
    return [
        air_path("air-processor", "In over the processor", "outside", "box", *over_processor),
        *card_ways(["panel-graphics"], [both, "cooler-graphics"]),
        air_path("air-out", "Out through the sides", "box", "outside", "vents"),
    ]


def card_zones() -> list[Json]:
    """The air under a card over a cut-out, and what its shroud lets out."""
    return [
        {"id": "under-card", "name": "Under the card", "kind": "box", "wall_w_k": 0},
        {"id": "off-card", "name": "Off the card", "kind": "box", "wall_w_k": 0},
    ]


def card_ways(cut_out: list[Any], card: list[Any]) -> list[Json]:
    """A card draws from under itself: from outside by the cut-out, from the box by the rim around it; no share is guessed.

    What it blows leaves by its own slot and past its shroud into the box, as their areas and the pressure in the box have it.
    """
    return [
        air_path("air-cut-out", "In by the cut-out", "outside", "under-card", *cut_out),
        air_path("air-rim", "Drawn in again by the rim", "box", "under-card", "card-rim"),
        air_path("air-graphics", "Over the graphics card", "under-card", "off-card", *card),
        air_path("air-slot", "Out by the card's own slot", "off-card", "outside", "card-slot"),
        air_path("air-shroud", "Past the shroud into the box", "off-card", "box", "card-shroud"),
    ]


def card_openings(rim_mm: float, card_mm: tuple[float, float], slot_share: float, half: float) -> list[Json]:
    """The rim (gap around the card's outline), and slot and shroud in the class's share of what leaves in free air."""
    rim_cm2 = 2 * sum(card_mm) * rim_mm / 100
    slot_cm2 = SHROUD_CM2 * slot_share / (1 - slot_share)
    slot = {"value": round(slot_cm2, 2), "plus_minus": round(slot_cm2 * half / slot_share, 2), "from": "class"}
    return [
        _inside("card-rim", "Rim around the card", estimate(round(rim_cm2, 1), "40%")),
        opening("card-slot", "The card's own slot", "opening_free", "back", slot),
        _inside("card-shroud", "Open sides of the shroud", rule(SHROUD_CM2, "20%")),
    ]


def _inside(part_id: str, name: str, area_cm2: Json) -> Json:
    """A gap between two airs of one housing, on none of its faces."""
    return part("opening", part_id, name, "opening_free", area_cm2=area_cm2)


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
        *card_openings(RIM_MM, LOW_CARD_MM, LOW_SLOT_SHARE, LOW_SLOT_HALF),
        opening("vents", "Side vents", "opening_dense", "back", estimate(170, "20%")),
    ]
