"""Every recipe: what it is called, which three watt figures it asks for and how far, and what makes the document."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Final, NamedTuple

from krill.document.build import Build
from krill.recipes.air_box import LOW, TOWER, TWIN_TOWER, air_box, two_cards
from krill.recipes.ducted_sink import ducted_sink
from krill.recipes.fanless_housing import fanless_housing
from krill.recipes.furniture_box import furniture_box
from krill.recipes.loop_and_card import closed_loop, loop_and_card
from krill.recipes.outside_radiator import outside_radiator
from krill.recipes.small_board import small_blower, small_fanless, small_loop, small_tower
from krill.recipes.thin_box import thin_box
from krill.recipes.two_machines import two_machines
from krill.recipes.water_loop import water_loop


class Ask(NamedTuple):
    """A watt figure: what it starts at, and up to what the recipe's largest first size holds it beside the other two."""

    label: str
    start_w: float
    least_w: float
    holds_w: float


#: watts of three things, a room in C and a name
Make = Callable[[float, float, float, float, str], Build]


@dataclass(frozen=True)
class Recipe:
    """``asks`` names the three watt figures; ``sizes`` make it from small to large.

    Recipes of one ``shape`` differ in how they are cooled: ``variant`` says by what.
    """

    id: str
    shape: str
    variant: str
    name: str
    says: str
    asks: tuple[Ask, Ask, Ask]
    sizes: tuple[Make, ...]

    @property
    def make(self) -> Make:
        """The smallest size."""
        return self.sizes[0]

    @property
    def starts(self) -> tuple[float, float, float]:
        """The watts that its figures start at."""
        first, second, rest = (ask.start_w for ask in self.asks)
        return first, second, rest


def _small_board(id_: str, variant: str, says: str, chip: Ask, others: tuple[float, float], make: Make) -> Recipe:
    """``others`` are the watts up to which it holds a network chip and the rest of the board."""
    network, rest = others
    asks = (chip, Ask("Network chip", 1, 0, network), Ask("Rest of the board", 2, 0, rest))
    return Recipe(id_, "Small board, one chip", variant, f"Small board with {variant}", says, asks, (make,))


RECIPES: Final[dict[str, Recipe]] = {
    recipe.id: recipe
    for recipe in (
        _small_board(
            "small_fanless",
            "a finned lid",
            "no fan: the chip is pressed on a finned lid",
            Ask("Chip", 5, 0, 8),
            (2, 3.5),
            small_fanless,
        ),
        _small_board(
            "small_blower",
            "a stick-on sink and blower",
            "a small blower over a stick-on sink",
            Ask("Chip", 8, 0, 12),
            (3, 11),
            small_blower,
        ),
        _small_board(
            "small_tower",
            "a tower and wall fan",
            "a tower that a fan in the wall blows at",
            Ask("Chip", 45, 0, 175),
            (3, 12),
            small_tower,
        ),
        _small_board(
            "small_loop",
            "a tiny loop",
            "tiny plate, tiny pump, one radiator section",
            Ask("Chip", 45, 0, 130),
            (3, 12),
            small_loop,
        ),
        Recipe(
            "tower_box",
            "Box, air cooler",
            "a tower",
            "Box with a tower cooler",
            "a tower, fans in front and behind, the card in the air of the box",
            (Ask("Processor", 95, 10, 180), Ask("Graphics", 150, 0, 350), Ask("Rest of the box", 25, 0, 38)),
            (partial(air_box, cooler=TOWER), partial(air_box, cooler=TWIN_TOWER)),
        ),
        Recipe(
            "low_cooler_box",
            "Box, air cooler",
            "a low cooler",
            "Box with a low cooler",
            "a low cooler, fans in front and behind, the card in the air of the box",
            (Ask("Processor", 65, 10, 120), Ask("Graphics", 115, 0, 350), Ask("Rest of the box", 20, 0, 42)),
            (partial(air_box, cooler=LOW, size_mm=(300, 330, 150)),),
        ),
        Recipe(
            "closed_loop",
            "Ready-made closed loop",
            "",
            "Ready-made closed loop",
            "pump in the head, two hoses, a radiator of one to three sections; the card in air",
            (Ask("Processor", 125, 10, 200), Ask("Graphics", 220, 0, 400), Ask("Rest of the box", 25, 0, 42)),
            tuple(partial(closed_loop, sections=n) for n in (1, 2, 3)),
        ),
        Recipe(
            "water_loop",
            "Custom loop",
            "processor and graphics on the loop",
            "Water loop in a small box",
            "pump, plates and radiators inside the housing",
            (Ask("Processor", 125, 10, 200), Ask("Graphics", 220, 0, 400), Ask("Rest of the box", 30, 0, 45)),
            (water_loop,),
        ),
        Recipe(
            "loop_and_card",
            "Custom loop",
            "the processor on the loop, the card in air",
            "Custom loop, card in air",
            "pump, plate and radiator for the processor; the card keeps its own fans",
            (Ask("Processor", 125, 10, 200), Ask("Graphics", 220, 0, 400), Ask("Rest of the box", 25, 0, 40)),
            tuple(partial(loop_and_card, sections=n) for n in (1, 2, 3)),
        ),
        Recipe(
            "two_cards",
            "Two cards",
            "",
            "Two cards in one box",
            "the upper card breathes from the gap to the lower one",
            (Ask("Processor", 95, 10, 150), Ask("Each card", 150, 0, 190), Ask("Rest of the box", 25, 0, 40)),
            (two_cards,),
        ),
        Recipe(
            "two_machines",
            "Two machines",
            "",
            "Two machines in one box",
            "two boards with coolers and supplies of their own in one air",
            (Ask("Processor A", 95, 10, 145), Ask("Processor B", 35, 0, 120), Ask("Rest of each", 8, 0, 10)),
            (two_machines,),
        ),
        Recipe(
            "furniture_box",
            "Furniture box",
            "",
            "Furniture box",
            "wooden walls, cut openings low at the back, one slow fan high",
            (Ask("Processor", 65, 5, 110), Ask("Graphics", 0, 0, 280), Ask("Rest of the box", 15, 0, 40)),
            (furniture_box, partial(furniture_box, large=True)),
        ),
        Recipe(
            "outside_radiator",
            "Outside radiator",
            "",
            "Outside radiator",
            "a station with a large radiator on couplings beside the machine",
            (Ask("Processor", 125, 10, 250), Ask("Graphics", 220, 0, 480), Ask("Rest of the box", 30, 0, 35)),
            (outside_radiator,),
        ),
        Recipe(
            "fanless_housing",
            "Fanless housing",
            "",
            "Fanless housing",
            "heat pipes into a finned back, the side panels shed the rest; no fan at all",
            (
                Ask("Part on the heat pipes", 38, 1, 140),
                Ask("Part pressed on the back", 8, 0, 70),
                Ask("Rest in the box", 4, 0, 5.5),
            ),
            (fanless_housing,),
        ),
        Recipe(
            "thin_box",
            "Thin box",
            "",
            "Low air cooler in a thin box",
            "coolers that draw air through perforated panels",
            (Ask("Processor", 65, 10, 125), Ask("Graphics", 75, 0, 240), Ask("Rest of the box", 18, 0, 30)),
            (thin_box, partial(thin_box, tall=True)),
        ),
        Recipe(
            "ducted_sink",
            "Duct",
            "",
            "Ducted sink",
            "one blower, one duct, two parts one behind the other",
            (
                Ask("First part in the duct", 30, 1, 65),
                Ask("Second part behind it", 12, 0, 22),
                Ask("Rest of the box", 4, 0, 4),
            ),
            (ducted_sink, partial(ducted_sink, tower=True)),
        ),
    )
}
