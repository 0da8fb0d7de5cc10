"""Classes of interface materials: area-specific resistance on a lid and on a bare chip, and what to mind.

Class-typical values from memory (``sources`` key "memory"), half widths of a 90 % interval, mm2 K/W.
"""

from dataclasses import dataclass
from typing import Final


@dataclass(frozen=True)
class InterfaceClass:
    name: str
    on_lid: tuple[float, float]
    on_chip: tuple[float, float]
    life_years: str
    caution: str


INTERFACES: Final[dict[str, InterfaceClass]] = {
    "paste_ordinary": InterfaceClass("ordinary paste", (14, 5), (10, 3), "3 (1-5)", "pumps out on bare hot chips"),
    "paste_good": InterfaceClass("good paste", (7, 2.5), (5.5, 2), "4 (2-7)", "stiff pastes need pressure and warmth"),
    "paste_dry": InterfaceClass(
        "dry or patchy paste", (25, 8), (22, 8), "-", "coverage matters more than conductivity"
    ),
    "liquid_metal": InterfaceClass(
        "liquid metal", (2, 1), (1.5, 0.8), "2-5", "conducts electricity; destroys aluminium; alloys into copper"
    ),
    "phase_change": InterfaceClass("phase-change sheet", (7, 2.5), (5, 2), "5-8", "needs 50-60 C once"),
    "graphite": InterfaceClass("graphite sheet", (18, 6), (20, 7), "> 8", "conducts electrically; needs > 0.3 MPa"),
    "pad_1mm": InterfaceClass(
        "1 mm pad of 5 W/m·K", (230, 60), (230, 60), "5+", "oil seeps; too thick a pad lifts the plate off the chip"
    ),
    "putty": InterfaceClass("putty, 0.3 mm", (85, 35), (85, 35), "5", "creeps at vertical mounts"),
    "glue": InterfaceClass("thermal glue", (75, 35), (60, 25), "> 10", "for good: no second try"),
    "dry_joint": InterfaceClass("dry metal joint", (100, 60), (100, 60), "-", "paste it"),
}
