"""How far metals that one coolant wets are apart, by anodic index."""

import itertools
from typing import Final

from krill.errors import UnknownMaterial

#: V below gold; wrought aluminium, 18-8 stainless (anodic index tables in the style of MIL-STD-889, value from memory)
ANODIC_INDEX_V: Final[dict[str, float]] = {
    "copper": 0.35,
    "brass": 0.40,
    "nickel": 0.30,
    "stainless": 0.50,
    "aluminium": 0.90,
    "zinc": 1.25,
}
#: what a coolant, which is never dry, allows: the limit of a harsh place
WET_LIMIT_V: Final = 0.15


def anodic_difference(first: str, second: str) -> float:
    """Volts between two metals; UnknownMaterial names one that is not in the table."""
    for metal in (first, second):
        if metal not in ANODIC_INDEX_V:
            raise UnknownMaterial(f"no anodic index of '{metal}'; known are {', '.join(ANODIC_INDEX_V)}")
    return abs(ANODIC_INDEX_V[first] - ANODIC_INDEX_V[second])


def clashing_pair(metals: set[str]) -> tuple[str, str, float] | None:
    """The two metals furthest apart, where that is more than a coolant allows."""
    worst = worst_pair(metals)
    return worst if worst is not None and worst[2] > WET_LIMIT_V else None


def worst_pair(metals: set[str]) -> tuple[str, str, float] | None:
    """The two metals furthest apart; None where there are not two."""
    pairs = [(a, b, anodic_difference(a, b)) for a, b in itertools.combinations(sorted(metals), 2)]
    return max(pairs, key=lambda pair: pair[2], default=None)
