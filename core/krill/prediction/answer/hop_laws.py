"""What each hop is computed with: the law, where it is from, its range, and whether it is used inside it."""

from functools import lru_cache
from typing import Final

from krill.document.solids import Interface
from krill.networks.structure import Layer
from krill.prediction.answer.result import Law
from krill.prediction.answer.solving import Solved
from krill.sources import source

#: kind of layer -> (what is done, key of its source, range in words)
LAYER_SOURCES: Final[dict[str, tuple[str, str, str]]] = {
    "hot_core": ("Hottest core over the chip's mean, by class", "memory", "class figure"),
    "package": ("Resistance of the package, by class or stated", "memory", "class figure"),
    "chip": ("Area-specific resistance of the chip", "memory", "class figure"),
    "joint": ("Area-specific resistance of the lid's joint", "memory", "class figure"),
    "lid": ("Slab and spreading under the film above", "lee-1995", "within 10 % for a centred chip"),
    "interface": ("Layer of a given area-specific resistance", "fourier", "any"),
    "spreader": ("Slab and spreading under the film above", "lee-1995", "within 10 % for a centred face"),
    "contact": (
        "Series of all faces on one base, mutual heating included",
        "muzychka-2003",
        "any rectangle, even film",
    ),
    "pipes": ("Class resistances by length; limit scaled by Chi's form", "chi-1976", "20 to 150 °C vapour"),
    "plate": ("Power law through two points, on mean coolant", "memory", "0.3 to 6 l/min"),
    "stream": ("Resistance against air flow, still air beside it", "memory", "5 to 200 % of the rated flow"),
    "air": ("Stated or class resistance to still or moving air", "memory", "class figure"),
}
_STILL: Final[dict[str, tuple[str, str, str]]] = {
    "upright": (
        "Channels between upright fins, radiation from their openings",
        "bar-cohen-1984",
        "Elenbaas number 0.1 to 1e5",
    ),
    "lying_fins_up": (
        "Fins upward on a lying base, with radiation",
        "jones-smith-1970",
        "Rayleigh number of a channel 200 to 6e5",
    ),
    "lying_fins_down": ("Upright channels × 0.65 (± 0.15)", "common-practice", "no published law: ± 25 %"),
    "on_edge": ("Upright channels × 0.5", "common-practice", "no published law: ± 40 %"),
    "vertical": ("Upright plate, with radiation", "churchill-chu-1975", "Rayleigh number 1e4 to 1e12"),
    "facing_up": ("Lying plate, warm face up, with radiation", "mcadams", "Rayleigh number 1 to 1e11"),
    "facing_down": ("Lying plate, warm face down, with radiation", "mcadams", "Rayleigh number 1e5 to 1e10"),
}
BARE_JOINT: Final = (
    "Bare joint under pressure, with the air in it",
    "cooper-1969",
    "pressure over hardness 1e-6 to 2e-2",
)
DRIVEN: Final = ("Developing laminar flow between the fins", "teertstra-2000", "Reynolds number below 2300")


@lru_cache(maxsize=128)
def _law(entry: tuple[str, str, str], inside: bool = True) -> Law:
    name, key, valid = entry
    return Law(name=name, source=source(key), valid=valid, inside=inside)


def layer_law(solved: Solved, layer: Layer) -> Law:
    """Law of a layer of a route."""
    return _law(BARE_JOINT if _is_bare_joint(solved, layer) else LAYER_SOURCES[layer.kind])


def _is_bare_joint(solved: Solved, layer: Layer) -> bool:
    """Whether nothing but a pressure says how two faces touch."""
    part = solved.build.part(layer.hop.part) if layer.hop is not None and layer.hop.part else None
    stated = isinstance(part, Interface) and part.resistance_mm2k_w is not None
    return isinstance(part, Interface) and not stated and solved.network.values.has(f"{part.id}/pressure_kpa")


def still_law(stands: str, inside: bool) -> Law:
    """Law of a side in still air, by how it stands or lies."""
    return _law(_STILL[stands], inside)


def seam_law() -> Law:
    return _law(("Seam of two sheets, a third of each extent behind it", "fourier", "even loss over the sheets"))


def driven_law(inside: bool) -> Law:
    return _law(DRIVEN, inside)
