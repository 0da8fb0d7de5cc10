"""Cautions where the work can hurt somebody, each bound to the steps it belongs to, and only where it applies."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Final

from krill.assembly.work_order import WorkStep
from krill.catalogue.work import caution_text
from krill.document.build import Build, leaves
from krill.document.parts import Supply
from krill.materials.galvanic import WET_LIMIT_V, worst_pair

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


def _any(kind: str, **fields: str) -> Callable[[Build, float], bool]:
    """Whether a part of a kind is there whose fields begin so."""

    def applies(build: Build, mass_g: float) -> bool:
        return any(
            part.kind == kind
            and all(str(getattr(part, name, "") or "").startswith(start) for name, start in fields.items())
            for part in build.parts
        )

    return applies


def _glycol(build: Build, mass_g: float) -> bool:
    return bool(build.loops)


def _mixed(build: Build, mass_g: float) -> bool:
    for loop in build.loops:
        parts: list[Any] = [build.part(item) for item in leaves(loop.elements)]
        metals = {part.metal for part in parts if getattr(part, "metal", None) is not None and part.kind != "tube"}
        worst = worst_pair(metals)
        if worst is not None and worst[2] > WET_LIMIT_V:
            return True
    return False


def _heavy(build: Build, mass_g: float) -> bool:
    return mass_g > LIFT_G


def _printed(build: Build, mass_g: float) -> bool:
    return any(part.plastic is not None for part in build.parts)


def _wooden(build: Build, mass_g: float) -> bool:
    words = (build.housing.material or "").lower()
    return "wood" in words or "ply" in words or any(one.what in ("wood", "cloth", "card") for one in build.near_heat)


def _mains_inside(build: Build, mass_g: float) -> bool:
    return any(isinstance(part, Supply) for part in build.parts)


def _glued(build: Build, mass_g: float) -> bool:
    return any(holding.by == "hot_glue" for holding in build.holdings)


#: caution -> (kinds or ids of steps it stands at, whether it applies)
_BOUND: Final[dict[str, tuple[tuple[str, ...], Callable[[Build, float], bool]]]] = {
    "cutting": (("cut",), _always),
    "plastics": (("print",), _printed),
    "cells": (("board",), _always),
    "warm-air": (("spreader_off",), _always),
    "mains": (("supply", "supply_leads"), _mains_inside),
    "earth": (("gate-earth",), _always),
    "liquid-metal": (("processor_plate", "card_plate", "cooler"), _any("interface", class_="liquid_metal")),
    "soldering": (("heat_pipe",), _always),
    "blades": (("fan", "radiator", "gate-fans-turn"), _any("fan")),
    "fill": (("fill", "gate-leak-watch"), _always),
    "pump": (("gate-loop-closed", "fill", "gate-pump-moves"), _always),
    "pressure": (("tubes", "gate-leak-watch"), _always),
    "coolant": (("fill",), _glycol),
    "mixed-metals": (("fill",), _mixed),
    "hot": (("gate-bench-start", "gate-last-start"), _always),
    "wood": (("close",), _wooden),
    "lifting": (("close",), _heavy),
}
