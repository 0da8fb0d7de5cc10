"""Recipe "furniture box": a machine behind wooden walls, air by cut openings low and one slow fan high, a wall behind."""

from krill.document.build import Build
from krill.document.reading import read_object
from krill.recipes.air_box import LOW, STILL, box_workloads, cards_in_box, cards_routes, cards_zones
from krill.recipes.cases import Size, again, case_fan, cooler_in_box, vents, walls
from krill.recipes.common import board_routes, brief, header, in_ranges, rooms, sources
from krill.recipes.pieces import Json, joined, part, room_and_box, rule, to_air

#: width, depth and height inside; area of two cut circles of 80 mm (common practice)
SIZE_MM: Size = (420, 300, 260)
CIRCLES_CM2 = 100.0
CARDS = ("graphics",)


def furniture_box(
    processor_w: float,
    graphics_w: float,
    rest_w: float,
    room_c: float,
    name: str = "Furniture box",
    *,
    large: bool = False,
) -> Build:
    """A document with every guess marked as one; a ``large`` one has a fan of 200 mm and openings four times as wide.

    Watts of processor (5-250), graphics board (0-400) and the rest of the box (0-80); room 5-45 C. DocumentRefused
    outside the ranges.
    """
    in_ranges((processor_w, graphics_w, rest_w), ((5, 250), (0, 400), (0, 80)), room_c)
    watts = (processor_w, graphics_w, rest_w)
    cooling, cooling_path = cooler_in_box("cooler-processor", LOW.name, LOW.cooler, LOW.fan)
    card_parts, card_paths = cards_in_box(graphics_w, CARDS)
    out, out_path = case_fan("fan-rear", "fan_200x30" if large else "fan_120x25", "back", "out", 300 if large else 110)
    low, low_path = vents(
        "circles", "Cut openings, low", "opening_free", "back", 4 * CIRCLES_CM2 if large else CIRCLES_CM2
    )
    wall: Json = {"gap_mm": {"value": 25, "plus_minus": 5, "from": "estimate"}, "span_mm": rule(80, "10%")}
    low_path["elements"] = ["wall-behind", *low_path["elements"]]
    duties = {"fan-processor": 0.6, "fan-rear": 0.5}
    return read_object(
        header(name)
        | {
            "brief": brief("both", 1.5),
            "rooms": rooms(room_c),
            "housing": {"inner_size_mm": SIZE_MM, "gravity": [0, 0, -1], "material": "wood board"},
            "parts": [
                *sources(processor_w, graphics_w),
                part("interface", "paste-processor", "Paste", "paste_ordinary_lid"),
                *cooling,
                *card_parts,
                *out,
                low,
                part("gap", "wall-behind", "Wall behind the box", face="back", **wall),
                *walls(SIZE_MM, "wood", "raw", 16),
            ],
            "zones": [*room_and_box(rule(0.3, "50%")), *cards_zones(CARDS)],
            "air_paths": [cooling_path, *card_paths, out_path, low_path],
            "recirculations": [again("air-circles", "air-fan-rear", 0.10, 0.05)],
            "routes": [
                joined("processor-core", "paste-processor", {"kind": "stream", "part": "cooler-processor"}),
                *cards_routes(CARDS),
                *[to_air(place) for place in STILL],
                *board_routes(),
            ],
            "workloads": box_workloads(watts, CARDS, duties, 0.42 if large else 0.35),
        }
    )
