"""What is due when: coolant, filters, paste, fans, pumps, seals, by class with their spread; what tubes let through."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from math import log, pi
from typing import Any, Final

from krill.assembly.fill import GLYCOL_FROM
from krill.assembly.warmth import Warmth
from krill.catalogue.classes import classes
from krill.catalogue.table import table
from krill.components.coolant_volumes import part_volumes
from krill.components.figure_table import FigureTable
from krill.document.build import Build, Loop, in_one_piece, leaves
from krill.document.figures import detail
from krill.document.parts import Fan, Filter, Pump, Radiator, Supply, Tube
from krill.physics.moist_air import vapour_pressure

DAYS_A_MONTH: Final = 365.25 / 12
#: hours a day where nobody says
HOURS_A_DAY: Final = 8.0
#: one barrer, mol/(m s Pa), and the molar mass of water, kg/mol
BARRER: Final = 3.35e-16
WATER_KG_MOL: Final = 0.018015
#: relative humidity of the room that tubes breathe into
HUMID: Final = 0.5
#: bearing of a fan whose class says none
_BEARING: Final = "fan_improved"
#: less is not told of a filter
LEAST_DIRT_K: Final = 0.1
#: coolant and room where nothing was predicted, °C
_COOLANT_C, _ROOM_C = 40.0, 24.0


@dataclass(frozen=True, slots=True)
class CareDue:
    """Something due again after days (the middle, and the ends between which nine in ten lie), for minutes at it."""

    id: str
    part: str | None
    name: str
    what: str
    days: float
    early_days: float
    late_days: float
    by_hours: float | None
    minutes: float
    note: str
    next_on: str | None
    told: bool


def care_dues(build: Build, figures: FigureTable, warmth: Warmth) -> list[CareDue]:
    """Everything that is due, soonest first.

    Bearings, capacitors and tubes live by the predicted temperatures, by those of their class where there are none.
    Hours run follow from the brief's hours a day, eight where it says none.
    """
    warm = warmth.at_c
    hours = float(build.brief.hours_per_day or HOURS_A_DAY)
    found = [
        *_loops(build, figures, warm),
        *_filters(build, hours, warmth),
        *_bearings(build, hours, warm),
        *_layers(build, hours),
        *_told(build, hours),
    ]
    return sorted(found, key=lambda due: due.days)


def _by_months(due_id: str, part: str | None, name: str, key: str, note: str = "") -> CareDue:
    known = table("care")["due"][key]
    middle, early, late = (DAYS_A_MONTH * months for months in known["months"])
    return CareDue(
        due_id, part, name, known["name"], middle, early, late, None, known["minutes"], note, None, told=False
    )


def _loops(build: Build, figures: FigureTable, warm: Mapping[str, float]) -> Iterator[CareDue]:
    for loop in build.loops:
        name = loop.name or loop.id
        if loop.sealed:
            yield _by_months(f"{loop.id}/whole", loop.id, name, "closed_loop")
            continue
        yield _by_months(f"{loop.id}/coolant", loop.id, name, coolant_key(loop))
        yield _by_months(f"{loop.id}/seals", loop.id, name, "seals")
        lost = sum(
            water_lost_g_month(build, part, warm.get(loop.id, _COOLANT_C), _ROOM_C)
            for item in leaves(loop.elements)
            if isinstance(part := build.part(item), Tube)
        )
        volume = sum(part.ml for part in part_volumes(build, loop, figures))
        yield _by_months(
            f"{loop.id}/level",
            loop.id,
            name,
            "top_up",
            f"its tubes let {lost:.1f} g a month through, a factor of two either way, of {volume:.0f} ml",
        )
    whole = frozenset().union(*in_one_piece(build.loops))
    tubes = [part for part in build.parts if isinstance(part, Tube) and part.id not in whole]
    for tube in tubes:
        material = _material(build, tube)
        key = "tube_soft_clear" if material == "soft_clear" else "tube_rubber"
        yield _by_months(f"{tube.id}/tube", tube.id, tube.name or tube.id, key)
    for part in build.parts:
        if isinstance(part, Radiator):
            yield _by_months(f"{part.id}/dust", part.id, part.name or part.id, "dust", "about 10 % of its W/K a year")


def coolant_key(loop: Loop) -> str:
    """Which row of the dues a coolant is."""
    share = float(loop.coolant.mass_share)
    if loop.coolant.fluid == "water" or share == 0:
        return "coolant_water"
    return "coolant_glycol" if share >= GLYCOL_FROM else "coolant_clear"


def _material(build: Build, tube: Tube) -> str:
    return next((str(lead.material) for lead in build.leads if lead.tube == tube.id), "soft_clear")


def water_lost_g_month(build: Build, tube: Tube, coolant_c: float, room_c: float) -> float:
    """Water that goes through a tube's wall in a month, g: perm 2 pi L / ln(D/d) dp, half the vapour pressure outside.

    Steady diffusion in a cylinder (Crank 1956); permeabilities value from memory, a factor of two either way.
    """
    known: dict[str, Any] = table("care")["tube"]
    bore = detail(tube.bore_mm).value / 1000
    outside = next(
        (float(lead.outside_mm) / 1000 for lead in build.leads if lead.tube == tube.id and lead.outside_mm), 0
    )
    outside = outside if outside > bore else bore + 2 * known["wall_mm"] / 1000
    perm = float(known["barrer"][_material(build, tube)]) * BARRER
    pressure = float(vapour_pressure(coolant_c)) - HUMID * float(vapour_pressure(room_c))
    moles_s = perm * 2 * pi * detail(tube.length_m).value / log(outside / bore) * max(pressure, 0.0)
    return moles_s * WATER_KG_MOL * 1000 * 86_400 * DAYS_A_MONTH


def _filters(build: Build, hours: float, warmth: Warmth) -> Iterator[CareDue]:
    known = table("care")["due"]["filter"]
    down = build.housing.gravity
    for part in build.parts:
        if isinstance(part, Filter):
            share = (known["floor"] if part.face == "bottom" and float(down[2]) < 0 else 1.0) * HOURS_A_DAY / hours
            middle, early, late = (share * days for days in known["days_at_8h"])
            by = middle * hours
            costs, place = warmth.dirt_k.get(part.id, (0.0, ""))
            by_then = f": {costs:.1f} K on {place}" if costs >= LEAST_DIRT_K else ""
            note = f"loaded it costs three times its drop{by_then}"
            yield CareDue(
                f"{part.id}/filter",
                part.id,
                part.name or part.id,
                known["name"],
                middle,
                early,
                late,
                by,
                known["minutes"],
                note,
                None,
                told=False,
            )


def _bearings(build: Build, hours: float, warm: Mapping[str, float]) -> Iterator[CareDue]:
    lives = table("care")["life"]
    for part in build.parts:
        key = _life_key(part)
        if key is None:
            continue
        life = lives[key]
        at = warm.get(part.id, life["at_c"])
        factor = 2.0 ** ((life["at_c"] - at) / life["half_per_k"]) if life["half_per_k"] else 1.0
        middle, early, late = (factor * h / hours for h in life["hours"])
        name = part.name or part.id
        note = f"nine in ten fail between {early * hours:,.0f} and {late * hours:,.0f} h".replace(",", " ")
        yield CareDue(
            f"{part.id}/life",
            part.id,
            name,
            "Listen to it, have one in hand",
            middle,
            early,
            late,
            middle * hours,
            15,
            note,
            None,
            told=False,
        )


def _life_key(part: Any) -> str | None:
    if isinstance(part, Fan):
        return _BEARING
    if isinstance(part, Pump):
        return "pump_tiny" if part.class_ == "pump_tiny" else "pump"
    return "supply" if isinstance(part, Supply) else None


#: what a layer is called by the beginning of its class
_LAYERS: Final = {"pad": "pad", "putty": "putty", "tape": "tape", "graphite": "sheet", "glue": "glue", "phase": "layer"}


def _layers(build: Build, hours: float) -> Iterator[CareDue]:
    known = table("care")["due"]["paste"]
    for part in build.parts:
        of_class = classes().get(part.class_ or "")
        if part.kind != "interface" or of_class is None:
            continue
        if of_class.id.startswith("liquid_metal"):
            yield _by_months(f"{part.id}/layer", part.id, part.name or part.id, "liquid_metal", "on bare copper")
        elif of_class.life_years is not None:
            early, late = (known["hours_per_year"] / hours * years for years in of_class.life_years)
            middle = (early * late) ** 0.5
            yield CareDue(
                f"{part.id}/layer",
                part.id,
                part.name or part.id,
                f"Renew the {_LAYERS.get(of_class.id.split('_')[0], 'paste')}",
                middle,
                early,
                late,
                middle * hours,
                known["minutes"],
                "",
                None,
                told=False,
            )


def _told(build: Build, hours: float) -> Iterator[CareDue]:
    """What the designer looks after beside."""
    for due in build.dues:
        days = due.every_days if due.every_days is not None else due.every_hours and float(due.every_hours) / hours
        part = None if due.part is None else build.part(due.part)
        name = "" if part is None else part.name or part.id
        every = float(days or 0)
        by_hours = None if due.every_hours is None else float(due.every_hours)
        yield CareDue(due.id, due.part, name, due.what, every, every, every, by_hours, 15, "", due.next_on, told=True)
