"""What is done before a machine travels: heavy coolers on upright boards, long cards (common practice)."""

from dataclasses import dataclass
from typing import Final

import numpy as np

from krill.catalogue.bodies import Body
from krill.document.build import Build
from krill.document.parts import AnyPart
from krill.fit.extents import body_of, extent_of, mass_of_body
from krill.fit.placed_boxes import PlacedBoxes

#: a tower on an upright board travels lying from so many grams, a card is propped from so many
TOWER_G: Final = 700.0
CARD_G: Final = 800.0
#: what is done
LAY_DOWN: Final = "lay the machine so that it stands on its board, or take it off"
PROP: Final = "prop its free end, or take it out"
#: a board stands upright where its own upright leans so far from the housing's
_LEANS: Final = 0.5


@dataclass(frozen=True, slots=True)
class BeforeTravel:
    """One thing to do before the machine travels."""

    part: str
    name: str
    mass_g: float
    do: str


def travel_list(build: Build, boxes: PlacedBoxes) -> list[BeforeTravel]:
    """Coolers too heavy to travel upright, cards too heavy for their slots; what has no place is taken to stand upright."""
    gravity = np.array([float(v) for v in build.housing.gravity])
    stands = {
        part.id: abs(float(boxes.turned[at][:, 2] @ gravity)) / max(float(np.linalg.norm(gravity)), 1e-9)
        for at, part in enumerate(boxes.parts)
    }
    found = []
    for part in build.parts:
        extent, body = extent_of(part), body_of(part)
        mass = mass_of_body(part, extent)
        if mass is None:
            continue
        if part.kind == "cooler" and mass[0] > TOWER_G and stands.get(part.id, 0.0) < _LEANS:
            found.append(
                BeforeTravel(
                    part.id,
                    part.name or part.id,
                    mass[0],
                    LAY_DOWN,
                )
            )
        elif _is_card(part, body) and mass[0] > CARD_G:
            found.append(BeforeTravel(part.id, part.name or part.id, mass[0], PROP))
    return found


def _is_card(part: AnyPart, body: Body | None) -> bool:
    """A card with its own cooler, or one that somebody gave a card's outline; a plate is only what lies on one."""
    return part.kind in ("source", "cooler") and body is not None and body.id.startswith("card_")
