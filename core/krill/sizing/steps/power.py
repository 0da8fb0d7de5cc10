"""Lower power limits: a cooling part like any other."""

from collections.abc import Iterator

from krill.components.figure_table import FigureTable
from krill.document.addresses import watts_address
from krill.document.build import Build
from krill.sizing.result import Edit
from krill.sizing.steps.step import Step, signed

LOWER_POWER = 0.1


def power_steps(build: Build, table: FigureTable, workload: str) -> Iterator[Step]:
    for source in build.heat_sources():
        address = watts_address(workload, source.id)
        if address not in table.figures or table.figures[address].value <= 0:
            continue
        watts = table.figures[address].value
        lower = round(watts * (1 - LOWER_POWER), 2)
        edit: Edit = Edit(target=workload, field=f"watts/{source.id}", value=lower)
        yield Step(
            f"{source.name or source.id}: power limit {watts:g} → {lower:g} W",
            source.id,
            {address: lower},
            (edit,),
            (signed(lower - watts, "W", 1),),
        )
