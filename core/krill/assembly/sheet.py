"""The build sheet: order, parts, leads, fill, care, cautions of a build in one answer."""

from dataclasses import dataclass

from krill.assembly.care import CareDue, care_dues
from krill.assembly.cautions import StepCaution, step_cautions
from krill.assembly.fill import FillPlan, fill_plans
from krill.assembly.lead_list import LeadRow, LoopJoints, lead_rows, loop_joints
from krill.assembly.parts_list import PartRow, PartSums, part_rows, sums_of
from krill.assembly.warmth import predicted_warmth
from krill.assembly.work_order import WorkOrder, work_order
from krill.catalogue.table import table
from krill.components.figure_table import FigureTable
from krill.document.build import Build, ReadyMade
from krill.fit.fit import checks_of
from krill.fit.travel import BeforeTravel

#: of a step of a practised hand, the first time (common practice)
FIRST_TIME = 1.8


@dataclass(frozen=True, slots=True)
class TravelList:
    """What is done before the machine travels, what heavy parts want, and what is done after."""

    before: list[str]
    heavy: list[BeforeTravel]
    after: list[str]


@dataclass(frozen=True, slots=True)
class BoughtInstead:
    """Something ready-made beside the build: what it costs, weighs and takes to put in, where somebody says so."""

    id: str
    name: str
    price: float | None
    mass_g: float | None
    work_hours: float | None
    note: str


@dataclass(frozen=True, slots=True)
class BuildSheet:
    """Everything that somebody needs who has the parts on the table. Minutes are of a practised hand, ± 40 %."""

    name: str
    order: WorkOrder
    parts: list[PartRow]
    sums: PartSums
    leads: list[LeadRow]
    joints: list[LoopJoints]
    fills: list[FillPlan]
    care: list[CareDue]
    upkeep_hours_a_year: float
    cautions: list[StepCaution]
    travel: TravelList
    ready_made: list[BoughtInstead]
    first_time: float
    certifies: str


def _instead(one: ReadyMade) -> BoughtInstead:
    return BoughtInstead(
        id=one.id,
        name=one.name,
        price=_number(one.price),
        mass_g=_number(one.mass_g),
        work_hours=_number(one.work_hours),
        note=one.note,
    )


def _number(value: float | None) -> float | None:
    return None if value is None else float(value)


CERTIFIES = "Krill gives estimates; it certifies nothing. Local codes and licensed practice come first."


def build_sheet(build: Build) -> BuildSheet:
    """The sheet of a build; what wears lives by the temperatures of its hardest workload, where that can be solved."""
    figures, checks = FigureTable(build), checks_of(build)
    order = work_order(build)
    parts = part_rows(build, figures, order.steps)
    sums = sums_of(parts)
    care = care_dues(build, figures, predicted_warmth(build))
    lists = table("care")["travel"]
    return BuildSheet(
        name=build.name,
        order=order,
        parts=parts,
        sums=sums,
        leads=lead_rows(build, checks, order.steps),
        joints=loop_joints(build, checks),
        fills=fill_plans(build, figures, checks.heights),
        care=care,
        upkeep_hours_a_year=sum(due.minutes * 365.25 / due.days for due in care if due.days > 0) / 60,
        cautions=step_cautions(build, order.steps, sums.mass_g),
        travel=TravelList(lists["before"], checks.travel, lists["after"]),
        ready_made=[_instead(one) for one in build.ready_made],
        first_time=FIRST_TIME,
        certifies=CERTIFIES,
    )
