"""What an option of an axis means for a build: rows of one batch where figures say it all, else edits of the document."""

from collections.abc import Callable
from typing import Any, Final

from krill.components.figure_table import FigureTable
from krill.document.build import Build, Workload, leaves
from krill.document.part_base import Part
from krill.document.parts import Fan, Pump, Radiator
from krill.document.quantities import Quantity, quantities
from krill.errors import DocumentRefused, Problem
from krill.networks.states import ROOM_ADDRESS, duty_address
from krill.sizing.class_rows import class_rows
from krill.sizing.question import Axis, Option
from krill.sizing.radiator_size import MOST_SECTIONS, fans_on, sections_edits
from krill.sizing.result import Edit
from krill.sizing.steps.step import buys

DUTY: Final = Quantity("duty", group="drive", buys=False, at_least=0, at_most=1)


def movers_of(build: Build, group: str) -> list[Fan | Pump]:
    """Movers that a name stands for: one, those of a loop or air path, all fans, all pumps; empty where none is."""
    movers = [part for part in build.parts if isinstance(part, Fan | Pump)]
    if group in ("fans", "pumps"):
        return [mover for mover in movers if mover.kind == group[:-1]]
    ways = {loop.id: leaves(loop.elements) for loop in build.loops}
    ways |= {path.id: leaves(path.elements) for path in build.air_paths}
    return [mover for mover in movers if mover.id == group or mover.id in ways.get(group, [])]


def told_duty(build: Build, group: str, workload: Workload) -> float | None:
    """Duty that a workload tells the first mover of a group; None where it tells it another thing, or nothing."""
    told = [command for mover in movers_of(build, group) if (command := workload.movers.get(mover.id)) is not None]
    return None if not told or told[0].duty is None else float(told[0].duty)


def quantity_of(build: Build, table: FigureTable, address: str) -> Quantity:
    """What a figure or whole number of a build, or a duty, says of itself."""
    if address in table.figures:
        return table.figures[address].quantity
    owner, field = address.split("/", 1)
    if owner == "movers":
        return DUTY
    part: Part = build.part(owner)
    return quantities(type(part))[field]


def room_address(build: Build) -> str:
    """The temperature of the room that every question is asked in."""
    return f"{build.rooms[0].id}/air_c"


def check_axis(build: Build, table: FigureTable, axis: Axis) -> None:
    """DocumentRefused where an axis varies nothing of this build, or an option cannot be."""
    owner, field = axis.address.split("/", 1)
    if owner == "movers" and not movers_of(build, field):
        raise DocumentRefused(
            [Problem(axis.address, "there is no such fan or pump", "a mover, path, loop, fans, pumps")]
        )
    if owner not in ("movers", "housing") and axis.address not in table.figures:
        _check_owner(build, axis.address, owner, field)
    good, allowed = _what_may_be(build, table, axis.address)
    for option in axis.options:
        if not good(option.value):
            raise DocumentRefused([Problem(axis.address, f"{option.value!r}"[:80], allowed)])


def _check_owner(build: Build, address: str, owner: str, field: str) -> None:
    if field == "class" and movers_of(build, owner):
        return
    part = next((part for part in build.parts if part.id == owner), None)
    if part is None or (field not in ("class", "part") and field not in type(part).model_fields):
        raise DocumentRefused([Problem(address, "there is nothing like it in the build", "id/field of the build")])
    if isinstance(part, Radiator) and part.points is not None and field in ("sections", "thickness_mm"):
        raise DocumentRefused([Problem(address, "the radiator is stated by measured points", "a radiator of a class")])


def _what_may_be(build: Build, table: FigureTable, address: str) -> tuple[Callable[[Any], bool], str]:
    """What a value of an axis must be, and in which words; the document's own checks do the rest."""
    owner, field = address.split("/", 1)
    if owner == "movers":
        return lambda value: _is_number(value) and 0 <= value <= 1, "a duty from 0 to 1"
    if address in table.figures:
        return _is_number, "a number"
    if address == "housing/gravity":
        return (
            lambda value: isinstance(value, list) and len(value) == 3 and all(map(_is_number, value)),
            "three numbers",
        )
    if field == "class":
        return lambda value: isinstance(value, str), "the id of a class"
    if field == "part":
        kind = build.part(owner).kind
        return lambda value: isinstance(value, dict) and value.get("kind") == kind, f"a part of kind {kind}"
    if field == "sections":
        return lambda value: type(value) is int and 1 <= value <= MOST_SECTIONS, f"1 to {MOST_SECTIONS}"
    return lambda _: True, ""


def _is_number(value: Any) -> bool:
    return type(value) in (int, float)


def rows_of(build: Build, table: FigureTable, axis: Axis, option: Option) -> dict[str, float] | None:
    """What an option sets in a batch, SI by address; None where it needs a document of its own."""
    owner, field = axis.address.split("/", 1)
    if owner == "movers":
        return {duty_address(mover.id): float(option.value) for mover in movers_of(build, field)}
    if axis.address == room_address(build):
        return {ROOM_ADDRESS: float(option.value)}
    if axis.address in table.figures:
        return {axis.address: float(option.value) * table.figures[axis.address].quantity.factor}
    if field == "class":
        return class_rows(build, table, owner, str(option.value))
    return None


def edits_of(build: Build, axis: Axis, option: Option, workloads: list[str]) -> tuple[Edit, ...]:
    """Edits that take an option over into a document; duties go to the named workloads."""
    owner, field = axis.address.split("/", 1)
    value = option.value
    if owner == "movers":
        return tuple(
            {"target": workload, "field": f"movers/{mover.id}", "value": {"duty": value}}
            for workload in workloads
            for mover in movers_of(build, field)
        )
    if field == "sections" and isinstance(build.part(owner), Radiator):
        return sections_edits(build, owner, int(value))
    if field == "part":
        return ({"target": "parts", "field": "=", "value": {**value, "id": owner}},)
    group = movers_of(build, owner)
    if field == "class" and group:
        return tuple({"target": mover.id, "field": "class", "value": value} for mover in group)
    return ({"target": owner, "field": field, "value": value},)


def is_present(build: Build, table: FigureTable, axis: Axis, option: Option, workload: str) -> bool:
    """Whether an option is what the build has now."""
    owner, field = axis.address.split("/", 1)
    if owner == "movers":
        told = next(item for item in build.workloads if item.id == workload).movers
        return all(
            (command := told.get(mover.id)) is not None and command.duty == option.value
            for mover in movers_of(build, field)
        )
    if axis.address in table.figures:
        now = table.figures[axis.address].in_units
        return abs(now - float(option.value)) <= 1e-9 * max(abs(now), 1e-9)
    if field == "class" and (group := movers_of(build, owner)):
        return all(mover.class_ == option.value for mover in group)
    if owner == "housing":
        return list(getattr(build.housing, field)) == list(option.value)
    part = build.part(owner)
    if field == "part":
        return bool(option.value.get("class") == part.class_)
    return bool(getattr(part, "class_" if field == "class" else field) == option.value)


def bought_parts(build: Build, axis: Axis) -> list[str]:
    """Parts that an option of the axis replaces by something bought; empty where it costs nothing."""
    owner, field = axis.address.split("/", 1)
    if owner in ("movers", "housing") or not buys(build, owner, field):
        return []
    if field == "class" and (group := movers_of(build, owner)):
        return [mover.id for mover in group]
    if not any(part.id == owner for part in build.parts):
        return []
    return [owner, *(fans_on(build, owner) if field == "sections" else [])]
