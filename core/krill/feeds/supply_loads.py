"""What each supply has to carry in a workload: sustained, at once, its efficiency, what a year costs."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Final

import numpy as np

from krill.catalogue.table import table
from krill.components.figure_table import FigureTable, Values
from krill.components.supplies import carriers, loss_w
from krill.document.build import Build, Workload
from krill.document.figures import detail
from krill.document.parts import Mover, Source, Supply

DAYS_A_YEAR: Final = 365.25
_OTHER: Final = {"full_to_c": 40.0, "loses_per_k": 0.015, "at_once": 1.1}


@dataclass(frozen=True, slots=True)
class SupplyLoad:
    """A supply in a workload: its share of what it is good for at the air it breathes, and what it draws from the wall.

    ``peak_w`` counts a graphics card's spikes of milliseconds. ``wall_w`` is heat into the room as well. A year is by the
    brief's hours a day; its price unknown where the brief names none.
    """

    supply: str
    name: str
    sustained_w: float
    burst_w: float
    peak_w: float
    rating_w: float | None
    good_for_w: float | None
    inlet_c: float | None
    share: float | None
    efficiency: float
    loss_w: float
    wall_w: float
    kwh_a_year: float | None
    cost_a_year: float | None
    says: str
    holds: bool | None


def supply_loads(
    build: Build, figures: FigureTable, workload: Workload, inlet_c: Mapping[str, float] | None = None
) -> list[SupplyLoad]:
    """Every supply; ``inlet_c`` is the air that each breathes where something was predicted, °C."""
    values = Values(figures, 1, {})
    return [
        _load(build, figures, values, workload, part, (inlet_c or {}).get(part.id))
        for part in build.parts
        if isinstance(part, Supply)
    ]


def _load(
    build: Build, figures: FigureTable, values: Values, workload: Workload, supply: Supply, inlet_c: float | None
) -> SupplyLoad:
    sustained = burst = peak = 0.0
    for part in build.parts:
        by = carriers(build, part) if isinstance(part, Source | Mover) else []
        if supply not in by:
            continue
        watts, most, spike = _watts(build, figures, workload, part)
        sustained, burst, peak = sustained + watts / len(by), burst + most / len(by), peak + spike / len(by)
    rating = figures.figures.get(f"{supply.id}/rating_w")
    rated = None if rating is None else rating.in_units
    known = table("feeds")["supplies"].get(supply.built_as or "", _OTHER)
    over = max((inlet_c or 0.0) - known["full_to_c"], 0.0)
    good = None if rated is None else rated * max(1.0 - known["loses_per_k"] * over, 0.0)
    loss = float(np.ravel(loss_w(supply, np.asarray([sustained]), values))[0])
    hours, price = build.brief.hours_per_day, build.brief.energy_price
    kwh = None if hours is None else (sustained + loss) * float(hours) * DAYS_A_YEAR / 1000
    says, holds = _says(sustained, burst, peak, good, known["at_once"])
    return SupplyLoad(
        supply=supply.id,
        name=supply.name or supply.id,
        sustained_w=sustained,
        burst_w=burst,
        peak_w=peak,
        rating_w=rated,
        good_for_w=good,
        inlet_c=inlet_c,
        share=None if not good else sustained / good,
        efficiency=sustained / (sustained + loss) if sustained + loss else 0.0,
        loss_w=loss,
        wall_w=sustained + loss,
        kwh_a_year=kwh,
        cost_a_year=None if kwh is None or price is None else kwh * float(price),
        says=says,
        holds=holds,
    )


def _watts(build: Build, figures: FigureTable, workload: Workload, part: Any) -> tuple[float, float, float]:
    """Sustained, in a burst, and at a card's spikes; movers at full speed."""
    if isinstance(part, Mover):
        known = figures.figures.get(f"{part.id}/power_w")
        watts = 0.0 if known is None else known.in_units
        return watts, watts, watts
    figure = workload.watts.get(part.id)
    watts = 0.0 if figure is None else float(detail(figure).value)
    burst = workload.burst.get(part.id)
    most = watts if burst is None else max(watts, float(burst.power_w))
    card = any((place.class_ or "").startswith("graphics_") for place in part.places)
    return watts, most, most * table("feeds")["graphics_peak"][0] if card else most


def _says(sustained: float, burst: float, peak: float, good: float | None, at_once: float) -> tuple[str, bool | None]:
    known = table("feeds")
    if good is None:
        return "no rating stated", None
    if sustained > good:
        return f"{sustained:.0f} W asked, good for {good:.0f} W", False
    if burst > at_once * good:
        return f"a burst of {burst:.0f} W, it holds {at_once * good:.0f} W for ten seconds", False
    if peak > known["supply_peak_share"] * good:
        return f"spikes of {peak:.0f} W, it bears {known['supply_peak_share'] * good:.0f} W", False
    if sustained > known["supply_sustained_share"] * good:
        return "over four fifths of what it is good for: little headroom", True
    return "", True
