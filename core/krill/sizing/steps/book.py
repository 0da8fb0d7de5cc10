"""Every step that a designer would think of, in the order: solids, loops, air, power."""

from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.sizing.steps.air import air_steps
from krill.sizing.steps.loops import loop_steps
from krill.sizing.steps.power import power_steps
from krill.sizing.steps.solids import solid_steps
from krill.sizing.steps.step import Step


def steps_of_build(build: Build, table: FigureTable, workload_id: str) -> list[Step]:
    """Steps for one workload of a build."""
    workload = next(item for item in build.workloads if item.id == workload_id)
    return [
        *solid_steps(build, table),
        *loop_steps(build, table, workload),
        *air_steps(build, table, workload),
        *power_steps(build, table, workload_id),
    ]
