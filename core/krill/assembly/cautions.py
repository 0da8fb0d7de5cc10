"""Cautions where the work can hurt somebody, each bound to the steps it belongs to, and only where it applies."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Final

from krill.assembly.work_order import WorkStep
from krill.catalogue.work import caution_text
from krill.components.coolant_parts import wetted_metals
from krill.document.build import Build, leaves
from krill.document.parts import Fan
from krill.materials.galvanic import clashing_pair

#: heavier is lifted by two, g
LIFT_G: Final = 12_000.0


@dataclass(frozen=True, slots=True)
class StepCaution:
    """A caution, and the steps that it stands at, the first one first."""

    id: str
    text: str
    steps: list[str]


def step_cautions(build: Build, steps: Sequence[WorkStep], mass_g: float) -> list[StepCaution]:
    """Those that apply to a build, in the order in which the work meets them."""
    found = []
    for caution, (kinds, applies) in _BOUND.items():
        at = [step.id for step in steps if step.kind in kinds or step.id in kinds]
        if at and applies(build, mass_g):
            found.append(StepCaution(caution, caution_text(caution), at))
    place = {step.id: at for at, step in enumerate(steps)}
    return sorted(found, key=lambda one: place[one.steps[0]])


def _always(build: Build, mass_g: float) -> bool:
    return True


def _blown(build: Build, mass_g: float) -> bool:
    return any(isinstance(part, Fan) for part in build.parts)


def _liquid_metal(build: Build, mass_g: float) -> bool:
    return any(part.kind == "interface" and (part.class_ or "").startswith("liquid_metal") for part in build.parts)


def _mixed(build: Build, mass_g: float) -> bool:
    wetted = (wetted_metals(map(build.part, leaves(loop.elements))) for loop in build.loops)
    return any(clashing_pair(metals) is not None for metals in wetted)


def _heavy(build: Build, mass_g: float) -> bool:
    return mass_g > LIFT_G


def _wooden(build: Build, mass_g: float) -> bool:
    words = (build.housing.material or "").lower()
    return "wood" in words or "ply" in words or any(one.what in ("wood", "cloth", "card") for one in build.near_heat)


#: caution -> (kinds or ids of steps it stands at, whether it applies where there is such a step)
_BOUND: Final[dict[str, tuple[tuple[str, ...], Callable[[Build, float], bool]]]] = {
    "cutting": (("cut",), _always),
    "plastics": (("print",), _always),
    "cells": (("board",), _always),
    "warm-air": (("spreader_off",), _always),
    "mains": (("supply", "supply_leads"), _always),
    "earth": (("gate-earth",), _always),
    "liquid-metal": (("processor_plate", "card_plate", "cooler"), _liquid_metal),
    "soldering": (("heat_pipe",), _always),
    "blades": (("fan", "radiator", "gate-fans-turn"), _blown),
    "fill": (("fill", "gate-leak-watch"), _always),
    "pump": (("gate-loop-closed", "fill", "gate-pump-moves"), _always),
    "pressure": (("tubes", "gate-leak-watch"), _always),
    "coolant": (("fill",), _always),
    "mixed-metals": (("fill",), _mixed),
    "hot": (("gate-bench-start", "gate-last-start"), _always),
    "wood": (("close",), _wooden),
    "lifting": (("close",), _heavy),
}
