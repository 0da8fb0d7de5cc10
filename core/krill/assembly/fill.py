"""Filling a loop: how much goes in, where, which faces it is tilted to, what is done in which order, and when to stop."""

from collections.abc import Iterator
from dataclasses import dataclass
from math import hypot
from typing import Final

from krill.catalogue.table import table
from krill.catalogue.work import gate_classes
from krill.components.coolant_parts import wetted_metals
from krill.components.coolant_volumes import PartVolume, air_room_ml, grown_share, part_volumes
from krill.components.figure_table import FigureTable
from krill.document.build import Build, Loop, leaves
from krill.document.figures import detail
from krill.document.parts import Fitting
from krill.fit.heights import HeightCheck
from krill.materials.galvanic import clashing_pair

#: the coolant's growth is told to this, °C
GROWN_AT_C: Final = 60.0
#: glycol of this share by mass and more keeps like a glycol mixture, not like water with a biocide
GLYCOL_FROM: Final = 0.25


@dataclass(frozen=True, slots=True)
class FillStep:
    """One step of filling: minutes at it, hours that it is watched, after how many hours to look."""

    id: str
    name: str
    minutes: float
    watch_h: float | None
    looks_h: list[float]
    note: str


@dataclass(frozen=True, slots=True)
class TopUp:
    """What is topped up after so many days, ml."""

    after_days: float
    low_ml: float
    high_ml: float


@dataclass(frozen=True, slots=True)
class FillPlan:
    """How a loop is filled. Volumes in ml; pockets of air and faces to tilt to in their order."""

    loop: str
    name: str
    coolant: str
    parts: list[PartVolume]
    volume_ml: float
    half_ml: float
    stated_ml: float | None
    buy_ml: float
    rinse_ml: float
    expands_ml: float
    air_ml: float | None
    cushion_well: bool | None
    fill_at: str | None
    drain_at: str | None
    by_couplings: bool
    heights: list[HeightCheck]
    pockets: list[str]
    tilts: list[str]
    metals: list[str]
    inhibitor: str
    steps: list[FillStep]
    top_ups: list[TopUp]
    stops: list[str]


def fill_plans(build: Build, figures: FigureTable, heights: list[HeightCheck]) -> list[FillPlan]:
    """A plan for each loop that is not bought filled and sealed."""
    return [_plan(build, loop, figures, heights) for loop in build.loops if not loop.sealed]


def _plan(build: Build, loop: Loop, figures: FigureTable, heights: list[HeightCheck]) -> FillPlan:
    rules = table("care")["fill"]
    parts = part_volumes(build, loop, figures)
    ml = sum(part.ml for part in parts)
    half = hypot(*(part.half_ml for part in parts))
    ids = leaves(loop.elements)
    own = [check for check in heights if check.about in ids]
    air = air_room_ml(build, loop, figures)
    stated = None if loop.volume_l is None else 1000 * float(detail(loop.volume_l).value)
    pockets = [check for check in own if check.of == "air gathers"]
    metals = sorted(wetted_metals(build.part(item) for item in ids))
    return FillPlan(
        loop=loop.id,
        name=loop.name or loop.id,
        coolant=coolant_words(loop),
        parts=parts,
        volume_ml=ml,
        half_ml=half,
        stated_ml=stated,
        buy_ml=rules["buy"] * ml,
        rinse_ml=rules["rinse_volumes"] * ml,
        expands_ml=ml * grown_share(loop.coolant, GROWN_AT_C),
        air_ml=air,
        cushion_well=None if air is None else air >= rules["cushion"] * ml,
        fill_at=loop.fill or next((item for item in ids if build.part(item).kind == "reservoir"), None),
        drain_at=loop.drain,
        by_couplings=_by_couplings(build, loop),
        heights=own,
        pockets=[check.about for check in sorted(pockets, key=lambda check: -check.mm)],
        tilts=_tilts(build, loop),
        metals=metals,
        inhibitor=_inhibitor(loop, metals),
        steps=list(_steps(build, loop, ml)),
        top_ups=[TopUp(days, low * ml, high * ml) for days, low, high in rules["top_up_share"]],
        stops=_STOPS,
    )


#: when filling is stopped at once
_STOPS: Final = [
    "Wet paper: stop, mains out, drain, dry 24 h, start again.",
    "The pump runs dry for more than 3 s, or changes its note: off, and tilt.",
    "No flow though the pump turns: off. A coupling is open, or a tube is kinked.",
    "Coolant on electronics: mains out, nothing is switched on for 24 h in warm air.",
]


def coolant_words(loop: Loop) -> str:
    """What goes in, in words."""
    share = float(loop.coolant.mass_share)
    if loop.coolant.fluid == "water" or share == 0:
        return "distilled water with inhibitor and biocide"
    return f"distilled water with {100 * share:.0f} % {loop.coolant.fluid.replace('_', ' ')} by mass"


def _by_couplings(build: Build, loop: Loop) -> bool:
    """Two couplings stand in for a reservoir."""
    kinds = [build.part(item).kind for item in leaves(loop.elements)]
    return "reservoir" not in kinds and kinds.count("coupling") >= 2


def _inhibitor(loop: Loop, metals: list[str]) -> str:
    pair = clashing_pair(set(metals))
    if pair is not None:
        return f"{pair[0]} and {pair[1]} in one coolant: an inhibitor for both, changed in time; better one metal"
    if loop.coolant.fluid != "water" and float(loop.coolant.mass_share) >= GLYCOL_FROM:
        return "the mixture's own inhibitor, at the share that its maker names"
    kinds = " and ".join(metals) or "its metals"
    return f"an inhibitor for {kinds}, and a biocide: less than a quarter of glycol keeps nothing from growing"


def _tilts(build: Build, loop: Loop) -> list[str]:
    """Faces that the housing is tilted to, 30° each: first so that the faces with radiators look up, then round."""
    opposite = {"front": "back", "back": "front", "left": "right", "right": "left"}
    faces = [build.part(item).face for item in leaves(loop.elements) if build.part(item).kind == "radiator"]
    first = [opposite[face] for face in faces if face in opposite]
    return list(dict.fromkeys([*first, "front", "left", "back", "right"]))


def _steps(build: Build, loop: Loop, ml: float) -> Iterator[FillStep]:
    rules, watch = table("care")["fill"], gate_classes()["gate-leak-watch"]

    def one(
        key: str, name: str, minutes: float, note: str, watch_h: float | None = None, looks: tuple[float, ...] = ()
    ) -> FillStep:
        return FillStep(f"{loop.id}/{key}", name, minutes, watch_h, list(looks), note)

    joints = sum(part.count for item in leaves(loop.elements) if isinstance(part := build.part(item), Fitting))
    yield one("seals", "Seals wetted, hand-tight", 10, f"{joints or 'All'} fittings: by hand and an eighth of a turn.")
    yield one("off", "Electronics off, mains plug out", 2, "The pump alone hangs on a bench feed.")
    yield one("closed", "Loop closed, couplings joined", 3, "Never against a closed end.")
    yield one("paper", "Paper under every joint", 5, "It shows a drop that an eye does not.")
    yield one("rinse", "Rinse with hot distilled water, twice", 25, "New radiators shaken, 10 min each.")
    yield one(
        "clean",
        "Cleaning agent in, pump on",
        rules["flush_min"][0] / 2,
        "One run serves as leak watch as well.",
        rules["flush_watch_h"],
        watch.looks_h,
    )
    yield one(
        "drain", "Drain, rinse until clear", 2 * rules["drain_min"][0], "Tilt: a tenth to a fifth stays in radiators."
    )
    if _by_couplings(build, loop):
        yield one(
            "fill", "Fill through two couplings", rules["by_couplings_min"][0], "A squeezed bottle or a second pump."
        )
    else:
        minutes = rules["fill_min_per_l"][0] * ml / 1000
        yield one("fill", "Fill, pump in bursts of 5 s", max(minutes, 5), "Never dry for more than 3 s.")
    yield one(
        "bleed",
        f"Bleed: tilt to {', '.join(_tilts(build, loop))}, 30° each, tap",
        rules["bleed_min"][0],
        "Bubbles on the first run are expected; out of a slim radiator for 1 to 3 days.",
        rules["bleed_watch_h"][0],
    )
    yield one(
        "leak", "Leak watch, paper dry", 5, "Most leaks show in 30 min; 24 h is common.", watch.watch_h, watch.looks_h
    )
    low, high = (share * ml for share in rules["top_up_share"][0][1:])
    yield one("top-up", "Top up after the first day", 5, f"{low:.0f} to {high:.0f} ml.")
    yield one("waste", "Old coolant away", 5, "Not down a drain: local rules for disposal come first.")
