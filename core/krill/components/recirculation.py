"""How much of an exhaust an intake draws in again, by how far apart and how the two mouths lie, where nobody states it.

share = 0.35 e^(-d / (1.5 D)) f with d from edge to edge and D the smaller mouth's diameter; over feet by their height.
Common practice, weak: its ends are those of the class figures (3 % free standing, 35 % in a small box).
"""

from collections.abc import Callable
from typing import Any, Final

import numpy as np

from krill.components.radiator_table import core_face
from krill.document.build import AirPath, Build, Mouths, Recirculation, leaves
from krill.document.parts import Radiator

TOUCHING_SHARE: Final = 0.35
#: diameters of the smaller mouth over which the share falls to 1/e
FALLS_OVER: Final = 1.5
#: one face, or round a corner with a wall nearer than a quarter of the diameter; nothing near; faces turned away
BY_MOUTHS: Final[dict[Mouths, float]] = {"one_face": 1.0, "free": 0.4}
OPPOSITE_SHARE: Final = 0.03
#: (height of the feet, mm; share of what is blown out beneath that the intake draws again)
FEET_MM: Final = (5.0, 13.0, 25.0)
FEET_SHARE: Final = (0.20, 0.08, 0.03)
#: half width of 90 %, of the share
HALF: Final = 0.5
#: where a path states no mouth at all
UNKNOWN_MOUTH_M: Final = 0.1

#: a figure of the build in SI by its address; None where neither document nor class states it
FigureOf = Callable[[str], float | None]


def drawn_again(build: Build, item: Recirculation, figure: FigureOf) -> tuple[float, float]:
    """(share, half width of 90 %) of a recirculation that states its mouths and not its share."""
    share = _share(build, item, figure)
    return share, HALF * share


def _share(build: Build, item: Recirculation, figure: FigureOf) -> float:
    if item.mouths == "opposite_faces":
        return OPPOSITE_SHARE
    apart_m = figure(f"{item.id}/apart_mm") or 0.0
    if item.mouths == "over_feet":
        return float(np.exp(np.interp(apart_m * 1000, FEET_MM, np.log(FEET_SHARE))))
    paths = {path.id: path for path in build.air_paths}
    across = min(
        _mouth_m(build, paths[item.intake], figure, first=True),
        _mouth_m(build, paths[item.exhaust], figure, first=False),
    )
    return float(TOUCHING_SHARE * np.exp(-apart_m / (FALLS_OVER * across)) * BY_MOUTHS[item.mouths])


def _mouth_m(build: Build, path: AirPath, figure: FigureOf, *, first: bool) -> float:
    """Diameter of the outermost element of a path that has an area."""
    elements = leaves(path.elements)
    for part in map(build.part, elements if first else reversed(elements)):
        area = _area_m2(part, figure)
        if area:
            return float(np.sqrt(4 * area / np.pi))
    return UNKNOWN_MOUTH_M


def _area_m2(part: Any, figure: FigureOf) -> float | None:
    if isinstance(part, Radiator):
        return core_face(part.sections, part.section_mm)
    across = figure(f"{part.id}/size_mm")
    return figure(f"{part.id}/area_cm2") if across is None else np.pi / 4 * across**2
