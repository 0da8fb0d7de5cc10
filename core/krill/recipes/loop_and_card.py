"""Recipes with liquid on the processor alone: a ready-made closed loop, or one's own loop; the card stays in the air of the box."""

from typing import Any

from krill.document.build import Build
from krill.document.reading import read_object
from krill.recipes.air_box import STILL, box_workloads, cards_in_box, cards_routes, cards_zones
from krill.recipes.cases import Size, case_fan, vents, walls
from krill.recipes.common import board_routes, brief, header, in_ranges, rooms, sources
from krill.recipes.pieces import Json, air_path, estimate, fan, joined, opening, part, room_and_box, rule, to_air

SIZE_MM: Size = (210, 420, 420)
CARDS = ("graphics",)
#: bore of a ready-made loop's hoses, and of a custom loop's (common practice)
HOSE_BORE_MM, TUBE_BORE_MM = 5.8, 10.0


def closed_loop(
    processor_w: float,
    graphics_w: float,
    rest_w: float,
    room_c: float,
    name: str = "Ready-made closed loop",
    *,
    sections: int = 1,
) -> Build:
    """A document with every guess marked as one; the radiator of one to three sections blows out of the box.

    Watts of processor (10-400), graphics board (0-600) and the rest of the box (0-120); room 5-45 C. DocumentRefused
    outside the ranges.
    """
    watts = (processor_w, graphics_w, rest_w)
    return _build(watts, room_c, name, closed_loop_parts(), CLOSED_ORDER, sections, 27)


def loop_and_card(
    processor_w: float,
    graphics_w: float,
    rest_w: float,
    room_c: float,
    name: str = "Custom loop, card in air",
    *,
    sections: int = 2,
) -> Build:
    """A document with every guess marked as one: a loop of one's own on the processor, the card in the air of the box.

    Watts of processor (10-400), graphics board (0-600) and the rest of the box (0-120); room 5-45 C. DocumentRefused
    outside the ranges.
    """
    return _build((processor_w, graphics_w, rest_w), room_c, name, custom_loop_parts(), CUSTOM_ORDER, sections, 30)


CLOSED_ORDER = ["pump", "plate-processor", "hose", "radiator", "hose-back"]
CUSTOM_ORDER = ["pump", "tube", "plate-processor", "fittings", "radiator", "elbows", "reservoir"]


def closed_loop_parts() -> list[Json]:
    """Pump in the head, an ordinary plate and two thin hoses; the radiator is told apart."""
    hose: Json = {"length_m": estimate(0.35, "10%"), "bore_mm": estimate(HOSE_BORE_MM, "4%")}
    return [
        part("plate", "plate-processor", "Plate in the pump head", "plate_processor_ordinary"),
        part("pump", "pump", "Pump in the head", "pump_small"),
        part("tube", "hose", "Hose out", "tube_soft", **hose),
        part("tube", "hose-back", "Hose back", "tube_soft", **hose),
    ]


def custom_loop_parts() -> list[Json]:
    tube: Json = {"length_m": estimate(1.5, "25%"), "bore_mm": estimate(TUBE_BORE_MM, "5%")}
    bore = estimate(8.5)
    return [
        part("plate", "plate-processor", "Processor plate", "plate_processor_ordinary"),
        part("pump", "pump", "Pump", "pump_strong"),
        part("reservoir", "reservoir", "Reservoir", "reservoir_common", bore_mm=estimate(9)),
        part("tube", "tube", "Tube", "tube_soft", **tube),
        part("fitting", "fittings", "Straight fittings", "fitting_straight", count=8, bore_mm=bore),
        part("fitting", "elbows", "Rotary elbows", "fitting_90_rotary", count=2, bore_mm=bore),
    ]


def radiator_with_fans(sections: int, thickness_mm: float, face: str) -> tuple[list[Json], Any]:
    """A radiator of 120 mm sections with a fan on each behind a grille in a face: its parts, and what air meets in turn."""
    stands: Json = {"face": face, "direction": "out"}
    size: Json = {"section_mm": 120, "sections": sections, "thickness_mm": thickness_mm}
    fans = [f"fan-radiator-{n + 1}" for n in range(sections)]
    parts = [
        part("radiator", "radiator", f"Radiator {120 * sections}", **size, **stands),
        *[fan(fan_id, f"Radiator fan {n}", "fan_120x25", **stands) for n, fan_id in enumerate(fans, 1)],
        opening("grille", "Grille", "opening_honeycomb", face, estimate(144.0 * sections, "15%")),
    ]
    return parts, ["radiator", {"parallel": [[fan_id] for fan_id in fans]} if sections > 1 else fans[0], "grille"]


def _build(
    watts: tuple[float, float, float],
    room_c: float,
    name: str,
    liquid: list[Json],
    order: list[str],
    sections: int,
    thickness_mm: float,
) -> Build:
    processor_w, graphics_w, rest_w = watts
    sealed = order == CLOSED_ORDER
    in_ranges((processor_w, graphics_w, rest_w), ((10, 400), (0, 600), (0, 120)), room_c)
    radiator, through = radiator_with_fans(sections, thickness_mm, "top" if sections > 1 else "back")
    card_parts, card_paths = cards_in_box(graphics_w, CARDS)
    front, front_path = case_fan("fan-front", "fan_140x25", "front", "in", 150)
    slots, leak = vents("vents", "Vents at the back", "opening_dense", "back", 120)
    duties = {item["id"]: 0.65 for item in radiator if item["kind"] == "fan"} | {"fan-front": 0.6}
    return read_object(
        header(name)
        | {
            "brief": brief("both"),
            "rooms": rooms(room_c),
            "housing": {"inner_size_mm": SIZE_MM, "gravity": [0, 0, -1]},
            "parts": [
                *sources(processor_w, graphics_w),
                part("interface", "paste-processor", "Paste", "paste_ordinary_lid"),
                *liquid,
                *radiator,
                *card_parts,
                *front,
                slots,
                *walls(SIZE_MM, "steel", "painted", 0.8),
            ],
            "zones": [*room_and_box(rule(1.0, "40%")), *cards_zones(CARDS)],
            "air_paths": [
                air_path("air-radiator", "Out through the radiator", "box", "outside", *through),
                *card_paths,
                front_path,
                leak,
            ],
            "loops": [loop(order, 0.25 if sealed else 0.8, sealed=sealed)],
            "routes": [
                joined("processor-core", "paste-processor", {"kind": "plate", "part": "plate-processor"}),
                *cards_routes(CARDS),
                *[to_air(place) for place in STILL],
                *board_routes(),
            ],
            "workloads": box_workloads(watts, CARDS, duties | {"pump": 0.9 if sealed else 0.6}),
        }
    )


def loop(order: list[str], volume_l: float, *, sealed: bool = False) -> Json:
    """A loop with a tenth of propylene glycol."""
    return {
        "id": "loop-a",
        "name": "Loop A",
        "volume_l": estimate(volume_l, "25%"),
        "coolant": {"fluid": "propylene_glycol", "mass_share": 0.1},
        "elements": order,
    } | ({"sealed": True} if sealed else {})
