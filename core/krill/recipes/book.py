"""Every recipe: what it is called, which three watt figures it asks for, and the function that makes the document."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from krill.document.build import Build
from krill.recipes.ducted_sink import ducted_sink
from krill.recipes.fanless_housing import fanless_housing
from krill.recipes.outside_radiator import outside_radiator
from krill.recipes.thin_box import thin_box
from krill.recipes.water_loop import water_loop


@dataclass(frozen=True)
class Recipe:
    """``asks`` names the three watt figures with what they start at."""

    id: str
    name: str
    says: str
    asks: tuple[tuple[str, float], tuple[str, float], tuple[str, float]]
    make: Callable[[float, float, float, float, str], Build]


RECIPES: Final[dict[str, Recipe]] = {
    recipe.id: recipe
    for recipe in (
        Recipe(
            "water_loop",
            "Water loop in a small box",
            "pump, plates and radiators inside the housing",
            (("Processor", 125), ("Graphics", 220), ("Rest of the box", 30)),
            water_loop,
        ),
        Recipe(
            "outside_radiator",
            "Outside radiator",
            "a station with a large radiator on couplings beside the machine",
            (("Processor", 125), ("Graphics", 220), ("Rest of the box", 30)),
            outside_radiator,
        ),
        Recipe(
            "fanless_housing",
            "Fanless housing",
            "heat pipes into a finned back, the side panels shed the rest; no fan at all",
            (("Part on the heat pipes", 38), ("Part pressed on the back", 8), ("Rest in the box", 4)),
            fanless_housing,
        ),
        Recipe(
            "thin_box",
            "Low air cooler in a thin box",
            "coolers that draw air through perforated panels",
            (("Processor", 65), ("Graphics", 75), ("Rest of the box", 18)),
            thin_box,
        ),
        Recipe(
            "ducted_sink",
            "Ducted sink",
            "one blower, one duct, two parts one behind the other",
            (("First part in the duct", 30), ("Second part behind it", 12), ("Rest of the box", 4)),
            ducted_sink,
        ),
    )
}
