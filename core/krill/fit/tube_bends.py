"""How tightly a soft tube bends before it kinks, and what room a U or an S of it takes.

R = 1.5 * 0.46 (D - t)^2 / t * material: the collapse of a bent tube (Brazier 1927, as form, Poisson's ratio 0.5), held off by
half as much again (common practice); D outside diameter, t wall. Plus or minus a quarter.
"""

from dataclasses import dataclass
from math import sqrt
from typing import Final, Literal

from krill.errors import DocumentRefused, Problem

TubeMaterial = Literal["soft_clear", "rubber", "polyurethane", "silicone"]

COLLAPSE: Final = 0.46
HELD_OFF: Final = 1.5
#: of what it is made (common practice)
MATERIALS: Final[dict[TubeMaterial, float]] = {
    "soft_clear": 1.0,
    "rubber": 0.9,
    "polyurethane": 1.0,
    "silicone": 0.85,
}
#: stiff below this, soft in the wall above that (common practice)
COLD_C: Final = 15.0
WARM_C: Final = 45.0
COLD_FACTOR: Final = 1.2
WARM_FACTOR: Final = 1.15
HALF_SHARE: Final = 0.25
SIZES_MM: Final = (1.0, 60.0)
OFFSETS_MM: Final = (0.0, 2000.0)


@dataclass(frozen=True, slots=True)
class SoftTube:
    """A tube by its bore and outside diameter, mm, and how warm it gets."""

    bore_mm: float
    outside_mm: float
    material: TubeMaterial = "soft_clear"
    at_c: float = 30.0


@dataclass(frozen=True, slots=True)
class TubeBend:
    """Smallest radius of its middle line with its half width; ports of a U that far apart; length of an S; all mm."""

    radius_mm: float
    half_mm: float
    u_pitch_mm: float
    s_length_mm: float
    s_offset_mm: float


def tube_bend(tube: SoftTube, offset_mm: float = 0.0) -> TubeBend:
    """The smallest bend of a tube. DocumentRefused names a figure that no soft tube has.

    >>> round(tube_bend(SoftTube(10, 16)).radius_mm)
    39
    """
    _must_be_a_tube(tube, offset_mm)
    wall = (tube.outside_mm - tube.bore_mm) / 2
    radius = HELD_OFF * COLLAPSE * (tube.outside_mm - wall) ** 2 / wall * MATERIALS[tube.material]
    if tube.at_c < COLD_C:
        radius *= COLD_FACTOR
    elif tube.at_c >= WARM_C:
        radius *= WARM_FACTOR
    return TubeBend(radius, HALF_SHARE * radius, 2 * radius, s_length(radius, offset_mm), offset_mm)


def s_length(radius_mm: float, offset_mm: float) -> float:
    """Way along that a tube needs to be set off sideways by two bends of a radius: R = (l^2 + e^2) / (4 e)."""
    if offset_mm >= 4 * radius_mm:
        return 0.0
    return sqrt(offset_mm * (4 * radius_mm - offset_mm))


def _must_be_a_tube(tube: SoftTube, offset_mm: float) -> None:
    low, high = SIZES_MM
    found = []
    if not low <= tube.bore_mm <= high:
        found.append(Problem("tube/bore_mm", f"{tube.bore_mm:g}", f"{low:g} to {high:g} mm"))
    if not tube.bore_mm + 0.4 <= tube.outside_mm <= high:
        found.append(Problem("tube/outside_mm", f"{tube.outside_mm:g}", f"0.4 mm over the bore, up to {high:g} mm"))
    if not -40 <= tube.at_c <= 100:
        found.append(Problem("tube/at_c", f"{tube.at_c:g}", "-40 to 100 °C"))
    if not OFFSETS_MM[0] <= offset_mm <= OFFSETS_MM[1]:
        found.append(Problem("tube/offset_mm", f"{offset_mm:g}", f"{OFFSETS_MM[0]:g} to {OFFSETS_MM[1]:g} mm"))
    if found:
        raise DocumentRefused(found)
