"""Cards that cool themselves by air: what they draw in, what leaves by their slot and past their shroud, who warms whom."""

from typing import Any, NamedTuple

from krill.recipes.pieces import Json, air_path, estimate, joined, opening, part, route, rule

#: open sides of a card's shroud
SHROUD_CM2 = 60.0


class Slot(NamedTuple):
    """Share of what a card blows that leaves by its own slot in free air, and its half width (values from memory)."""

    share: float
    half: float


LOW_SLOT = Slot(0.10, 0.09)
OPEN_SLOT = Slot(0.15, 0.10)
#: chip to the air behind its board: about 0.03 m² of back at 15 W/m²K (value from memory)
BACK_K_W = 2.5
#: a card's own fan curve: 45 % to 72 C, 65 % at 83 C, 2 to 3 % per K from there (value from memory)
CARD_CURVE = [[58, 0.4], [72, 0.45], [83, 0.65], [95, 1.0]]


def pocket(zone_id: str, name: str, section_cm2: float) -> Json:
    """A small air of its own inside the box: without a wall, and with its own section, so that the box keeps its own."""
    return {
        "id": zone_id,
        "name": name,
        "kind": "box",
        "wall_w_k": 0,
        "cross_section_cm2": estimate(section_cm2, "40%"),
    }


#: a card over a cut-out draws from under itself, where air comes in all over its face: from outside by the cut-out,
#: from the box by the rim around it
UNDER_CARD = pocket("under-card", "Under the card", 120)


def cut_out_ways(cut_out: str) -> list[Json]:
    """How air gets under a card: by its cut-out, and again by its rim."""
    return [
        air_path("air-cut-out", "In by the cut-out", "outside", "under-card", cut_out),
        air_path("air-rim", "Drawn in again by the rim", "box", "under-card", "card-rim"),
    ]


def card_zones(*cards: str) -> list[Json]:
    """What a shroud lets out, before it parts."""
    return [pocket(f"off-{card}", "Off the card", SHROUD_CM2) for card in cards]


def card_ways(card: str, drawn_from: str, through: list[Any]) -> list[Json]:
    """What a card blows leaves by its own slot and past its shroud into the box, as areas and the pressure there have it."""
    off = f"off-{card}"
    return [
        air_path(f"air-{card}", "Over the graphics card", drawn_from, off, *through),
        air_path(f"air-{card}-slot", "Out by the card's own slot", off, "outside", f"{card}-slot"),
        air_path(f"air-{card}-shroud", "Past the shroud into the box", off, "box", f"{card}-shroud"),
    ]


def card_openings(card: str, share: float, half: float, shroud_cm2: float = SHROUD_CM2) -> list[Json]:
    """Slot and shroud of a card, the slot in the class's share of what leaves in free air."""
    slot_cm2 = SHROUD_CM2 * share / (1 - share)
    slot = {"value": round(slot_cm2, 2), "plus_minus": round(slot_cm2 * half / share, 2), "from": "class"}
    return [
        opening(f"{card}-slot", "The card's own slot", "opening_free", "back", slot),
        inside(f"{card}-shroud", "Open sides of the shroud", rule(shroud_cm2, "20%")),
    ]


def rim(part_id: str, name: str, gap_mm: float, card_mm: tuple[float, float], sides: float = 2.0) -> Json:
    """The gap around a card's outline; ``sides`` counts how often length and width are open together."""
    return inside(part_id, name, estimate(round(sides * sum(card_mm) * gap_mm / 100, 1), "40%"))


def inside(part_id: str, name: str, area_cm2: Json) -> Json:
    """A gap between two airs of one housing, on none of its faces."""
    return part("opening", part_id, name, "opening_free", area_cm2=area_cm2)


def own_curve(card: str, fans: tuple[str, ...]) -> dict[str, Json]:
    """The card's fans follow its chip."""
    told: Json = {"curve": {"sensor": f"{card}-chip", "points": CARD_CURVE, "hysteresis_k": 10}}
    return dict.fromkeys(fans, told)


def card_joints(card: str) -> list[Json]:
    return [
        part("interface", f"paste-{card}", "Paste", "paste_ordinary_chip"),
        part("interface", f"pads-{card}-memory", "Pads 1 mm", "pad_1mm_chip"),
        part("interface", f"pads-{card}-regulators", "Pads 1 mm", "pad_1mm_chip"),
    ]


def card_routes(card: str, behind: str) -> list[Json]:
    """Chip, memory and regulators on the card's cooler, and the way through the back of its board into a zone."""
    back: Json = {"id": f"{card}-back", "kind": "air", "zone": behind, "name": "Through the back of its board"}
    on: Json = {"kind": "stream", "part": f"cooler-{card}", "name": "Cooler"}
    return [
        route(f"{card}-chip", back | {"resistance_k_w": rule(BACK_K_W, "40%")}, name=f"{card}-back"),
        joined(f"{card}-chip", f"paste-{card}", on),
        joined(f"{card}-memory", f"pads-{card}-memory", on),
        joined(f"{card}-regulators", f"pads-{card}-regulators", on),
    ]
