"""Recipes of an ordinary box: a tower or a low cooler on the processor, case fans, one card or two in the air of the box."""

from typing import Final, NamedTuple

from krill.document.build import Build
from krill.document.reading import read_object
from krill.recipes.cards import (
    OPEN_SLOT,
    SHROUD_CM2,
    card_joints,
    card_openings,
    card_routes,
    card_ways,
    card_zones,
    inside,
    own_curve,
    pocket,
    rim,
)
from krill.recipes.cases import Size, case_fan, cooler_in_box, vents, walls
from krill.recipes.common import board_routes, brief, card_source, header, in_ranges, rooms, sources, workloads
from krill.recipes.pieces import Json, air_path, fan, joined, part, room_and_box, rule, to_air

STILL = ("memory-place", "drive-place", "regulators-place", "supply-body")
#: outline of an open card, and the gap to the next one two slots on (common practice: 10 to 20 mm)
CARD_MM, BETWEEN_CARDS_MM = (267.0, 111.0), 15.0


class ProcessorCooler(NamedTuple):
    name: str
    cooler: str
    fan: str


LOW: Final = ProcessorCooler("Low cooler", "cooler_low_70", "fan_120x15")
TOWER: Final = ProcessorCooler("Tower", "cooler_tower_120", "fan_120x25")
TWIN_TOWER: Final = ProcessorCooler("Twin tower", "cooler_tower_140", "fan_140x25")


class Card(NamedTuple):
    """A card's cooler, its fans and what leaves by its slot."""

    cooler: str
    fan: str
    fans: int


def card_for(watts: float) -> Card:
    """The class of cooler that boards of so many watts are sold with."""
    if watts <= 120:
        return Card("cooler_graphics_low", "fan_60x15", 2)
    if watts <= 180:
        return Card("cooler_graphics_150", "fan_92x14", 2)
    return Card("cooler_graphics_220", "fan_92x25", 2) if watts <= 260 else Card("cooler_graphics_320", "fan_92x25", 3)


def air_box(
    processor_w: float,
    graphics_w: float,
    rest_w: float,
    room_c: float,
    name: str = "Box with an air cooler",
    *,
    cooler: ProcessorCooler = TOWER,
    size_mm: Size = (200, 400, 380),
) -> Build:
    """A document with every guess marked as one; ``size_mm`` is width, depth and height inside.

    Watts of processor (10-400), graphics board (0-600) and the rest of the box (0-120); room 5-45 C. DocumentRefused
    outside the ranges.
    """
    in_ranges((processor_w, graphics_w, rest_w), ((10, 400), (0, 600), (0, 120)), room_c)
    parts, path = cooler_in_box("cooler-processor", cooler.name, cooler.cooler, cooler.fan)
    return _box(name, (processor_w, graphics_w, rest_w), room_c, size_mm, parts, [path], ("graphics",))


def two_cards(
    processor_w: float, card_w: float, rest_w: float, room_c: float, name: str = "Two cards in one box"
) -> Build:
    """A document with every guess marked as one: the upper card breathes from between the two.

    Watts of processor (10-400), of each graphics board (0-600) and the rest of the box (0-120); room 5-45 C.
    DocumentRefused outside the ranges.
    """
    in_ranges((processor_w, card_w, rest_w), ((10, 400), (0, 600), (0, 120)), room_c)
    parts, path = cooler_in_box("cooler-processor", TOWER.name, TOWER.cooler, TOWER.fan)
    cards = ("graphics", "graphics-2")
    return _box(name, (processor_w, card_w, rest_w), room_c, (210, 450, 450), parts, [path], cards)


def _box(
    name: str,
    watts: tuple[float, float, float],
    room_c: float,
    size_mm: Size,
    cooling: list[Json],
    cooling_paths: list[Json],
    cards: tuple[str, ...],
) -> Build:
    processor_w, card_w, _ = watts
    case, case_paths = _case(len(cards))
    card_parts, card_paths = cards_in_box(card_w, cards)
    return read_object(
        header(name)
        | {
            "brief": brief("both"),
            "rooms": rooms(room_c),
            "housing": {"inner_size_mm": size_mm, "gravity": [0, 0, -1]},
            "parts": [
                *sources(processor_w, card_w),
                *[card_source(card, "Second card", card_w) for card in cards[1:]],
                part("interface", "paste-processor", "Paste", "paste_ordinary_lid"),
                *cooling,
                *card_parts,
                *case,
                *walls(size_mm, "steel", "painted", 0.8),
            ],
            "zones": [*room_and_box(rule(1.0, "40%")), *cards_zones(cards)],
            "air_paths": [*cooling_paths, *card_paths, *case_paths],
            "routes": [
                joined("processor-core", "paste-processor", {"kind": "stream", "part": "cooler-processor"}),
                *cards_routes(cards),
                *[to_air(place) for place in STILL],
                *board_routes(),
            ],
            "workloads": box_workloads(watts, cards, {"fan-processor": 0.7, "fan-front": 0.6, "fan-rear": 0.6}),
        }
    )


def _case(cards: int) -> tuple[list[Json], list[Json]]:
    """A fan in front and one behind, and vents; a second card brings a second fan in front."""
    parts: list[Json] = []
    paths: list[Json] = []
    front = ["fan-front", "fan-front-2"][:cards]
    for fan_id in front:
        some, path = case_fan(fan_id, "fan_140x25", "front", "in", 150)
        parts += some
        paths.append(path)
    rear, out = case_fan("fan-rear", "fan_120x25", "back", "out", 110)
    slots, leak = vents("vents", "Vents at the back", "opening_dense", "back", 120)
    return [*parts, *rear, slots], [*paths, out, leak]


def cards_zones(cards: tuple[str, ...]) -> list[Json]:
    between = pocket("between-cards", "Between the cards", BETWEEN_CARDS_MM * CARD_MM[0] / 100)
    return [*card_zones(*cards), *([between] if len(cards) > 1 else [])]


def cards_in_box(watts: float, cards: tuple[str, ...]) -> tuple[list[Json], list[Json]]:
    """Cards in the air of the box: their parts, and their paths.

    The upper card of two draws from the gap between them: box air by the rim of the gap, and what the lower one blows
    out at its upper side.
    """
    lower, *upper = cards
    parts, paths = _one_card(watts, lower, "box", SHROUD_CM2 / 2 if upper else SHROUD_CM2)
    for card in upper:
        more, ways = _one_card(watts, card, "between-cards", SHROUD_CM2)
        parts += [
            *more,
            rim("cards-rim", "Rim of the gap between the cards", BETWEEN_CARDS_MM, CARD_MM, 1.5),
            inside(f"{lower}-upper", "Upper side of the lower card", rule(SHROUD_CM2 / 2, "20%")),
        ]
        paths += [
            *ways,
            air_path("air-between", "In between the cards", "box", "between-cards", "cards-rim"),
            air_path(
                "air-lower-card", "From the lower card to the upper", f"off-{lower}", "between-cards", f"{lower}-upper"
            ),
        ]
    return parts, paths


def cards_routes(cards: tuple[str, ...]) -> list[Json]:
    """The lower card's back faces what the upper one breathes; the last one's faces the box."""
    behind = ["between-cards" if card != cards[-1] else "box" for card in cards]
    return [route for card, zone in zip(cards, behind, strict=True) for route in card_routes(card, zone)]


def _one_card(watts: float, card: str, drawn_from: str, shroud_cm2: float) -> tuple[list[Json], list[Json]]:
    has = card_for(watts)
    fans = card_fans(watts, card)
    beside = {"parallel": [[fan_id] for fan_id in fans]}
    parts = [
        *card_joints(card),
        part("cooler", f"cooler-{card}", "Graphics cooler", has.cooler),
        *[fan(fan_id, f"Graphics fan {n}", has.fan) for n, fan_id in enumerate(fans, 1)],
        *card_openings(card, *OPEN_SLOT, shroud_cm2),
    ]
    return parts, card_ways(card, drawn_from, [beside, f"cooler-{card}"])


def card_fans(watts: float, card: str) -> tuple[str, ...]:
    return tuple(f"fan-{card}-{n + 1}" for n in range(card_for(watts).fans))


def box_workloads(
    watts: tuple[float, float, float], cards: tuple[str, ...], duties: dict[str, float], lowest: float = 0.35
) -> list[Json]:
    """Workloads of the usual machine; cards follow their own chips, a second card does what the first does."""
    _, card_w, _ = watts
    duties = duties | {f"fan-front-{n}": duties["fan-front"] for n in range(2, len(cards) + 1)}
    found = workloads(*watts, duties, lowest=dict.fromkeys(duties, lowest))
    own = {fan_id: told for card in cards for fan_id, told in own_curve(card, card_fans(card_w, card)).items()}
    return [
        told
        | {"watts": told["watts"] | {card: told["watts"]["graphics"] for card in cards[1:]}}
        | {"movers": told["movers"] | own}
        for told in found
    ]
