"""Steps on water loops: more or thicker radiator, better plates, pumps."""

from collections.abc import Iterator
from typing import Any, Final

from krill.catalogue.classes import classes
from krill.components.figure_table import FigureTable
from krill.document.build import Build, Loop, Workload, leaves
from krill.document.parts import Plate, Pump, Radiator
from krill.document.reading import write_object
from krill.sizing.class_rows import class_rows
from krill.sizing.radiator_size import MAX_SECTIONS, fans_on, sections_edits
from krill.sizing.result import Edit
from krill.sizing.steps.movers import duty_steps
from krill.sizing.steps.step import Step, figure_step

THICKER: Final = {28.0: 38.0, 38.0: 45.0, 45.0: 60.0}
BETTER_PLATE: Final = {
    "plate_processor_ordinary": "plate_processor_good",
    "plate_graphics_ordinary": "plate_graphics_typical",
    "plate_graphics_typical": "plate_graphics_good",
}
DUTY_STEP = 0.2


def loop_steps(build: Build, table: FigureTable, workload: Workload) -> Iterator[Step]:
    """Steps of every loop, in the order of its elements."""
    for loop in build.loops:
        for item in leaves(loop.elements):
            part = build.part(item)
            if isinstance(part, Radiator):
                yield from _radiator_steps(build, table, part)
            elif isinstance(part, Plate):
                yield from _plate_steps(build, table, part)
            elif isinstance(part, Pump):
                yield from duty_steps(part, workload, DUTY_STEP)
        yield from _second_pump(build, loop, workload)


def _radiator_steps(build: Build, table: FigureTable, radiator: Radiator) -> Iterator[Step]:
    name = radiator.name or radiator.id

    def field(key: str, value: Any) -> tuple[Edit, ...]:
        return (Edit(target=radiator.id, field=key, value=value),)

    if radiator.points is None and radiator.sections < MAX_SECTIONS:
        more = radiator.sections + 1
        with_fan = ("+1 fan",) if fans_on(build, radiator.id) else ()
        yield Step(
            f"{name}: {radiator.sections} → {more} sections",
            radiator.id,
            {},
            sections_edits(build, radiator.id, more),
            (f"+{radiator.section_mm:g} mm long", *with_fan),
        )
    thicker = THICKER.get(float(radiator.thickness_mm))
    if radiator.points is None and thicker is not None:
        yield Step(
            f"{name}: {radiator.thickness_mm:g} → {thicker:g} mm thick",
            radiator.id,
            {},
            field("thickness_mm", thicker),
            (f"+{thicker - float(radiator.thickness_mm):g} mm deep",),
        )
    for figure, label, wanted in (("dust", "blow it clean", 0.0), ("covered_share", "let its whole face breathe", 1.0)):
        if abs(table.figures[f"{radiator.id}/{figure}"].value - wanted) > 0.02:
            yield figure_step(table, radiator, figure, wanted, f"{name}: {label}")


def _plate_steps(build: Build, table: FigureTable, plate: Plate) -> Iterator[Step]:
    better = BETTER_PLATE.get(plate.class_ or "")
    if better is not None:
        figures = class_rows(build, table, plate.id, better) or {}
        yield Step(
            f"{plate.name or plate.id}: {classes()[better].name}",
            plate.id,
            figures,
            (Edit(target=plate.id, field="class", value=better),),
        )


def _second_pump(build: Build, loop: Loop, workload: Workload) -> Iterator[Step]:
    """A pump like the first behind it, told the same in this workload."""
    pump = next(
        (build.part(item) for item in loop.elements if isinstance(item, str) and isinstance(build.part(item), Pump)),
        None,
    )
    second = f"{pump.id}-second" if pump is not None else ""
    if pump is None or any(part.id == second for part in build.parts):
        return
    raw = write_object(build)
    first = next(part for part in raw["parts"] if part["id"] == pump.id)
    copied = first | {"id": second, "name": f"{pump.name or pump.id}, second"}
    elements = next(item for item in raw["loops"] if item["id"] == loop.id)["elements"]
    at = elements.index(pump.id) + 1
    edits: list[Edit] = [
        Edit(target="parts", field="+", value=copied),
        Edit(target=loop.id, field="elements", value=[*elements[:at], second, *elements[at:]]),
    ]
    for item in raw["workloads"]:
        told = item.get("movers", {}).get(pump.id)
        if told is not None:
            edits.append(Edit(target=item["id"], field=f"movers/{second}", value=told))
    yield Step(f"{loop.name or loop.id}: a second pump", loop.id, {}, tuple(edits), ("one more pump",))
