"""Steps on the air: faster fans, larger openings, more room before a face, exhaust kept apart, paths turned round."""

from collections.abc import Iterator
from typing import Any

from krill.components.figure_table import FigureTable
from krill.document.build import AirPath, Build, Workload, leaves
from krill.document.parts import Fan, Filter, Gap, Opening, Radiator
from krill.document.reading import write_object
from krill.sizing.result import Edit
from krill.sizing.steps.movers import duty_steps
from krill.sizing.steps.step import Step, figure_step, rounded, value_in_units

FAN_STEP, OPENING_GROWTH, GAP_STEP_MM, LESS_AGAIN = 0.1, 0.2, 10.0, 0.5


def air_steps(build: Build, table: FigureTable, workload: Workload) -> Iterator[Step]:
    """Steps of everything that air goes through, path by path."""
    fans = [part for part in build.parts if isinstance(part, Fan)]
    yield from _all_fans(fans, workload)
    for fan in fans:
        yield from duty_steps(fan, workload, FAN_STEP)
    for path in build.air_paths:
        for item in leaves(path.elements):
            yield from _element_steps(table, build.part(item))
        yield from _path_steps(build, path)
    for mix in build.recirculations:
        share = table.figures[f"{mix.id}/recirculated_share"].value
        if share > 0.02:
            edit: Edit = Edit(target=mix.id, field="recirculated_share", value=round(share * LESS_AGAIN, 4))
            yield Step(
                f"halve the exhaust drawn back into {_path_name(build, mix.intake)}",
                mix.id,
                {f"{mix.id}/recirculated_share": round(share * LESS_AGAIN, 4)},
                (edit,),
            )


def _path_name(build: Build, path_id: str) -> str:
    path = next(item for item in build.air_paths if item.id == path_id)
    return path.name or path.id


def _all_fans(fans: list[Fan], workload: Workload) -> Iterator[Step]:
    steps = [step for fan in fans for step in duty_steps(fan, workload, FAN_STEP)]
    if len(steps) > 1:
        duties = {mover: duty for step in steps for mover, duty in step.duties.items()}
        edits = tuple(edit for step in steps for edit in step.edits)
        yield Step(f"all fans: {100 * FAN_STEP:.0f} % more duty", steps[0].about, {}, edits, (), duties)


def _element_steps(table: FigureTable, part: Any) -> Iterator[Step]:
    name = part.name or part.id
    if isinstance(part, Opening):
        area = value_in_units(table, f"{part.id}/area_cm2")
        wanted = rounded(area * (1 + OPENING_GROWTH), 4)
        yield figure_step(
            table, part, "area_cm2", wanted, f"{name}: {area:g} → {wanted:g} cm²", (f"+{wanted - area:.0f} cm²",)
        )
    elif isinstance(part, Gap) and part.slot is None:
        gap = value_in_units(table, f"{part.id}/gap_mm")
        wanted = gap + GAP_STEP_MM
        yield figure_step(table, part, "gap_mm", wanted, f"{name}: {gap:g} → {wanted:g} mm", (f"+{GAP_STEP_MM:g} mm",))
    elif isinstance(part, Filter) and part.loaded:
        yield Step(f"{name}: clean it", part.id, {}, (Edit(target=part.id, field="loaded", value=False),))


def _path_steps(build: Build, path: AirPath) -> Iterator[Step]:
    """A path with a fan turned round; a radiator that breathes box air let breathe the room."""
    kinds = {zone.id: zone.kind for zone in build.zones}
    parts = [build.part(item) for item in leaves(path.elements)]
    again = {mix.intake for mix in build.recirculations} | {mix.exhaust for mix in build.recirculations}
    if not any(isinstance(part, Fan) for part in parts) or path.id in again:
        return
    if path.start != path.end:
        raw = next(item for item in write_object(build)["air_paths"] if item["id"] == path.id)
        yield Step(
            f"{path.name or path.id}: reverse the airflow",
            path.id,
            {},
            (
                Edit(target=path.id, field="from_zone", value=path.end),
                Edit(target=path.id, field="to_zone", value=path.start),
                Edit(target=path.id, field="elements", value=_reversed(raw["elements"])),
            ),
        )
    outside = next((zone.id for zone in build.zones if zone.kind == "outside"), None)
    if kinds[path.start] == "box" and outside is not None and any(isinstance(part, Radiator) for part in parts):
        yield Step(
            f"{path.name or path.id}: take in room air",
            path.id,
            {},
            (Edit(target=path.id, field="from_zone", value=outside),),
        )


def _reversed(elements: list[Any]) -> list[Any]:
    return [
        item if isinstance(item, str) else {"parallel": [_reversed(branch) for branch in item["parallel"]]}
        for item in reversed(elements)
    ]
