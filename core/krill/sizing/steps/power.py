"""Lower power limits: a cooling part like any other."""

from collections.abc import Iterator
from typing import Final

from krill.components.figure_table import FigureTable
from krill.document.addresses import watts_address
from krill.document.build import Build
from krill.document.parts import Source, Supply
from krill.sizing.result import Edit
from krill.sizing.steps.step import Step, signed

LOWER_POWER = 0.1
#: a board of fewer watts has no limit that anybody could set (estimate)
MIN_LIMITED_W: Final = 20


def has_power_limit(source: Source | Supply, watts: float) -> bool:
    """Whether somebody can set how much a source draws: a processor's package, a board of some size, no chip by itself."""
    if not isinstance(source, Source) or source.power_kind == "chip":
        return False
    return source.power_kind == "package" or watts >= MIN_LIMITED_W


def power_steps(build: Build, table: FigureTable, workload: str) -> Iterator[Step]:
    for source in build.heat_sources():
        address = watts_address(workload, source.id)
        watts = table.figures[address].value if address in table.figures else 0.0
        if watts <= 0 or not has_power_limit(source, watts):
            continue
        lower = round(watts * (1 - LOWER_POWER), 2)
        edit: Edit = Edit(target=workload, field=f"watts/{source.id}", value=lower)
        yield Step(
            f"{source.name or source.id}: power limit {watts:g} → {lower:g} W",
            source.id,
            {address: lower},
            (edit,),
            (signed(lower - watts, "W", 1),),
        )
