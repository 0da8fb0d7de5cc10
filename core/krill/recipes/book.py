"""Every recipe: what it is called, which three watt figures it asks for and how far, and what makes the document."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import partial
from typing import Final, NamedTuple

from krill.document.build import Build
from krill.recipes.ducted_sink import ducted_sink
from krill.recipes.fanless_housing import fanless_housing
from krill.recipes.outside_radiator import outside_radiator
from krill.recipes.thin_box import thin_box
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
    """``asks`` names the three watt figures; ``sizes`` make it from small to large."""

    id: str
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


RECIPES: Final[dict[str, Recipe]] = {
    recipe.id: recipe
    for recipe in (
        Recipe(
            "water_loop",
            "Water loop in a small box",
            "pump, plates and radiators inside the housing",
            (Ask("Processor", 125, 10, 200), Ask("Graphics", 220, 0, 400), Ask("Rest of the box", 30, 0, 45)),
            (water_loop,),
        ),
        Recipe(
            "outside_radiator",
            "Outside radiator",
            "a station with a large radiator on couplings beside the machine",
            (Ask("Processor", 125, 10, 250), Ask("Graphics", 220, 0, 480), Ask("Rest of the box", 30, 0, 35)),
            (outside_radiator,),
        ),
        Recipe(
            "fanless_housing",
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
            "Low air cooler in a thin box",
            "coolers that draw air through perforated panels",
            (Ask("Processor", 65, 10, 125), Ask("Graphics", 75, 0, 270), Ask("Rest of the box", 18, 0, 30)),
            (thin_box, partial(thin_box, tall=True)),
        ),
        Recipe(
            "ducted_sink",
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
