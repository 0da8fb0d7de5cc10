"""Things that are put into a build in one step: parts with their zones, paths, loops and routes, as recipes write them."""

from dataclasses import dataclass, field
from typing import Any, Final

from krill.recipes.air_box import card_fans, cards_in_box, cards_routes, cards_zones
from krill.recipes.cards import (
    OPEN_SLOT,
    UNDER_CARD,
    card_joints,
    card_openings,
    card_routes,
    card_ways,
    card_zones,
    cut_out_ways,
    own_curve,
    rim,
)
from krill.recipes.cases import case_fan, cooler_in_box
from krill.recipes.common import card_source
from krill.recipes.loop_and_card import CLOSED_ORDER, closed_loop_parts, loop, radiator_with_fans
from krill.recipes.pieces import Json, air_path, estimate, fan, opening, part

CARD_W = 150.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Assembly:
    """What is put in: its zones ``box`` and ``outside`` are those of the build, ``into_loop`` goes into a loop of it.

    ``movers`` are what its fans and pumps are told in every workload, ``watts`` what its sources draw.
    """

    id: str
    name: str
    says: str
    parts: list[Json]
    zones: list[Json] = field(default_factory=list)
    air_paths: list[Json] = field(default_factory=list)
    loops: list[Json] = field(default_factory=list)
    into_loop: list[str] = field(default_factory=list)
    routes: list[Json] = field(default_factory=list)
    movers: dict[str, Json] = field(default_factory=dict)
    watts: dict[str, Any] = field(default_factory=dict)


def _cooler_in_box() -> Assembly:
    parts, path = cooler_in_box("cooler-air", "Tower", "cooler_tower_120", "fan_120x25")
    return Assembly(
        id="cooler_in_box",
        name="Cooler that breathes the box",
        says="a tower with its fan; it draws the air of the box and blows into it",
        parts=parts,
        air_paths=[path],
        movers={"fan-air": {"duty": 0.7}},
    )


def _cooler_by_opening() -> Assembly:
    return Assembly(
        id="cooler_by_opening",
        name="Cooler through an opening of its own",
        says="a low cooler that draws room air through a perforated panel over it",
        parts=[
            opening("cooler-panel", "Panel over the cooler", "opening_dense", "top", estimate(110)),
            part("gap", "cooler-gap", "Breathing room", face="top", gap_mm=estimate(20, "20%"), span_mm=estimate(92)),
            fan("cooler-fan", "Fan of the cooler", "fan_92x14", face="top", direction="in"),
            part("cooler", "cooler-low", "Low cooler", "cooler_low_47"),
        ],
        air_paths=[
            air_path(
                "air-cooler",
                "In over the cooler",
                "outside",
                "box",
                "cooler-panel",
                "cooler-gap",
                "cooler-fan",
                "cooler-low",
            )
        ],
        movers={"cooler-fan": {"duty": 0.8}},
    )


def _cooler_in_duct() -> Assembly:
    inlet, path = case_fan("duct-fan", "fan_120x25", "front", "in", 110)
    section = {"width_mm": estimate(120, "3%"), "height_mm": estimate(120, "3%")}
    parts = [
        *inlet,
        part("duct", "cooler-duct", "Duct to the cooler", "duct_sheet", length_m=estimate(0.08, "20%"), **section),
        part("cooler", "cooler-ducted", "Cooler in the duct", "cooler_tower_120"),
        opening("duct-outlet", "Outlet of the duct", "opening_dense", "back", estimate(110)),
    ]
    path |= {"name": "Through the duct", "to_zone": "outside"}
    path["elements"] = [*path["elements"], "cooler-duct", "cooler-ducted", "duct-outlet"]
    return Assembly(
        id="cooler_in_duct",
        name="Cooler in a duct",
        says="a fan in the front, a duct of 120 mm, a tower without a fan, an outlet behind",
        parts=parts,
        air_paths=[path],
        movers={"duct-fan": {"duty": 0.6}},
    )


def _card_in_box() -> Assembly:
    return _cards("card_in_box", "Graphics card in the air of the box", "its own fans, slot and shroud", ("graphics",))


def _two_cards() -> Assembly:
    says = "the upper one breathes from the gap of 15 mm to the lower one"
    return _cards("two_cards", "Two graphics cards, one above the other", says, ("graphics", "graphics-2"))


def _cards(id_: str, name: str, says: str, cards: tuple[str, ...]) -> Assembly:
    parts, paths = cards_in_box(CARD_W, cards)
    names = dict(zip(cards, ("Graphics", "Second card"), strict=False))
    return Assembly(
        id=id_,
        name=name,
        says=says,
        parts=[*[card_source(card, names[card], CARD_W) for card in cards], *parts],
        zones=cards_zones(cards),
        air_paths=paths,
        routes=cards_routes(cards),
        movers={mover: told for card in cards for mover, told in own_curve(card, card_fans(CARD_W, card)).items()},
        watts={card: estimate(CARD_W) for card in cards},
    )


def _card_over_cut_out() -> Assembly:
    fans = card_fans(CARD_W, "graphics")
    beside = {"parallel": [[fan_id] for fan_id in fans]}
    return Assembly(
        id="card_over_cut_out",
        name="Graphics card over a cut-out",
        says="it draws room air by the cut-out, and box air by the rim that is left around it",
        parts=[
            card_source("graphics", "Graphics", CARD_W),
            *card_joints("graphics"),
            part("cooler", "cooler-graphics", "Graphics cooler", "cooler_graphics_150"),
            *[fan(fan_id, f"Graphics fan {n}", "fan_92x14", face="bottom") for n, fan_id in enumerate(fans, 1)],
            opening("cut-out", "Cut-out under the card", "opening_dense", "bottom", estimate(140)),
            rim("card-rim", "Rim around the card", 8.0, (240.0, 110.0)),
            *card_openings("graphics", *OPEN_SLOT),
        ],
        zones=[*card_zones("graphics"), UNDER_CARD],
        air_paths=[
            *cut_out_ways("cut-out"),
            *card_ways("graphics", "under-card", [beside, "cooler-graphics"]),
        ],
        routes=card_routes("graphics", "box"),
        movers=own_curve("graphics", fans),
        watts={"graphics": estimate(CARD_W)},
    )


def _outside_radiator() -> Assembly:
    fans = [f"station-fan-{n}" for n in range(1, 5)]
    tube: Json = {"length_m": estimate(1.0, "25%"), "bore_mm": estimate(10, "5%")}
    return Assembly(
        id="outside_radiator",
        name="Outside radiator on couplings",
        says="a station with a radiator of 9 x 140, four fans, two couplings and a metre of tube each way",
        parts=[
            part("coupling", "coupling-out", "Coupling out", "coupling_large"),
            part("tube", "station-tube", "Tube out", "tube_soft", **tube),
            part("radiator", "radiator-station", "Radiator 9 x 140", section_mm=140, sections=9, thickness_mm=45),
            part("tube", "station-tube-back", "Tube back", "tube_soft", **tube),
            part("coupling", "coupling-back", "Coupling back", "coupling_large"),
            *[fan(fan_id, f"Station fan {n}", "fan_200x30") for n, fan_id in enumerate(fans, 1)],
        ],
        zones=[{"id": "station", "name": "Air at the station", "kind": "outside", "room": "room"}],
        air_paths=[
            air_path(
                "air-station",
                "Through the station",
                "station",
                "station",
                {"parallel": [[fan_id] for fan_id in fans]},
                "radiator-station",
            )
        ],
        into_loop=["coupling-out", "station-tube", "radiator-station", "station-tube-back", "coupling-back"],
        movers={fan_id: {"duty": 0.6} for fan_id in fans},
    )


def _radiator() -> Assembly:
    parts, through = radiator_with_fans(2, 28, "top")
    return Assembly(
        id="radiator_with_fans",
        name="Radiator with its fans",
        says="two sections of 120 mm on the top, blowing out of the box",
        parts=parts,
        air_paths=[air_path("air-radiator", "Out through the radiator", "box", "outside", *through)],
        into_loop=["radiator"],
        movers={f"fan-radiator-{n}": {"duty": 0.65} for n in (1, 2)},
    )


def _closed_loop() -> Assembly:
    parts, through = radiator_with_fans(2, 28, "top")
    return Assembly(
        id="closed_loop",
        name="Ready-made closed loop",
        says="plate with the pump in it, two hoses and a radiator of two sections; 3.5 to 10 years until it has lost too much",
        parts=[*closed_loop_parts(), *parts],
        air_paths=[air_path("air-radiator", "Out through the radiator", "box", "outside", *through)],
        loops=[loop(CLOSED_ORDER, 0.25, sealed=True) | {"name": "Closed loop"}],
        movers={"pump": {"duty": 0.9}} | {f"fan-radiator-{n}": {"duty": 0.65} for n in (1, 2)},
    )


ASSEMBLIES: Final = (
    _cooler_in_box(),
    _cooler_by_opening(),
    _cooler_in_duct(),
    _card_in_box(),
    _card_over_cut_out(),
    _two_cards(),
    _radiator(),
    _outside_radiator(),
    _closed_loop(),
)
