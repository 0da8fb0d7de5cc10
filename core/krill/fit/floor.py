"""How far the floor of a housing sinks under what stands on it.

A rectangular plate held at its edges without a moment (Timoshenko & Woinowsky-Krieger 1959, tables of the plate with simply
supported edges, Poisson's ratio 0.3; value from memory): all of it in the middle, or spread over it.
"""

from dataclasses import dataclass
from typing import Final, Literal

import numpy as np

from krill.document.build import Build, Floor
from krill.fit.extents import weight_n

FloorSays = Literal["carries", "in doubt", "sinks"]

POISSON: Final = 0.3
#: long side over short side; sag over F a^2 / D of a force in the middle; over q a^4 / D of a load that is spread
SIDES: Final = (1.0, 1.2, 1.4, 1.6, 1.8, 2.0, 3.0, 10.0)
MIDDLE: Final = (0.01160, 0.01353, 0.01484, 0.01570, 0.01620, 0.01651, 0.01690, 0.01695)
SPREAD: Final = (0.00406, 0.00564, 0.00705, 0.00830, 0.00931, 0.01013, 0.01223, 0.01302)
#: Young's modulus, GPa, thickness that it is bought or printed in, mm, and how much more it sinks in years (common practice)
FLOORS: Final[dict[Floor, tuple[float, float, float]]] = {
    "steel": (200.0, 0.8, 1.0),
    "aluminium": (70.0, 1.5, 1.0),
    "printed": (2.0, 4.0, 3.0),
    "acrylic": (3.0, 4.0, 2.0),
    "plywood": (5.5, 9.0, 1.5),
}
#: a floor sinks no more than this, nor than this share of its span (common practice)
AT_MOST_MM: Final = 1.0
SPAN_SHARE: Final = 1 / 200


@dataclass(frozen=True, slots=True)
class FloorSag:
    """What a floor sinks in years, mm: with all the weight spread over it, and with all of it in the middle."""

    floor: Floor
    thickness_mm: float
    weight_n: float
    spread_mm: float
    middle_mm: float
    at_most_mm: float
    says: FloorSays


def floor_sag(build: Build, mass_g: float) -> FloorSag | None:
    """The floor under so many grams; None where the housing does not say what its floor is of, or how large it is."""
    housing = build.housing
    if housing.floor is None or housing.inner_size_mm is None or mass_g <= 0.0:
        return None
    down = int(np.argmax(np.abs([float(v) for v in housing.gravity])))
    short, long = sorted(float(side) for axis, side in enumerate(housing.inner_size_mm) if axis != down)
    modulus, usual, years = FLOORS[housing.floor]
    thick = usual if housing.floor_mm is None else float(housing.floor_mm)
    rigidity = modulus * 1e3 * thick**3 / (12 * (1 - POISSON**2))  # N mm
    weight = weight_n(mass_g)
    middle = years * float(np.interp(long / short, SIDES, MIDDLE)) * weight * short**2 / rigidity
    spread = years * float(np.interp(long / short, SIDES, SPREAD)) * weight * short**3 / long / rigidity
    most = min(AT_MOST_MM, SPAN_SHARE * short)
    says: FloorSays = "carries" if middle <= most else "in doubt" if spread <= most else "sinks"
    return FloorSag(housing.floor, thick, weight, spread, middle, most, says)
