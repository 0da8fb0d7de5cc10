"""What may vary in a build, one class per kind: what its values may be, rows or edits, where it stands now, what it buys.

``varied`` reads an address once: ``id/field`` of a figure or whole number, ``movers/id`` for a duty (of a mover, the pumps of a
loop, the fans of a path, fans, pumps), ``id/class`` (of a part or such a group), ``id/part`` for a whole part,
``housing/gravity``, a length of the housing, the gap of a slot, or a choice such as ``id/finish``.
"""

from dataclasses import dataclass, replace
from typing import Any, Final

from krill.components.figure_table import FigureTable
from krill.document.build import Build, Workload, leaves
from krill.document.part_base import Part
from krill.document.parts import Mover, Radiator
from krill.document.quantities import Quantity, quantities
from krill.errors import DocumentRefused, Problem
from krill.networks.states import ROOM_ADDRESS, Case, duty_address
from krill.sizing.class_rows import class_rows
from krill.sizing.one_varied import Numeric, Varied
from krill.sizing.radiator_size import fans_on, sections_edits
from krill.sizing.result import Edit
from krill.sizing.room_varied import SIDES, HousingSide, SlotGap, in_a_slot

DUTY: Final = Quantity("duty", group="drive", buys=False, at_least=0, at_most=1)
#: a duty is looked for from here to full speed
LOWEST_DUTY: Final = 0.2
#: the room is looked for between these temperatures
ROOMS_C: Final = (-20.0, 60.0)


def varied(build: Build, table: FigureTable, address: str) -> Varied:
    """What an address varies. DocumentRefused where it varies nothing of this build."""
    owner, _, field = address.partition("/")
    if owner == "movers":
        return DutyOf.of(build, table, address)
    if address == room_address(build):
        return RoomAir(build, table, address, table.figures[address].quantity)
    if address in table.figures:
        return FigureAt(build, table, address, table.figures[address].quantity)
    if address == "housing/gravity":
        return GravityOf(build, table, address)
    if owner == "housing" and field in SIDES:
        return HousingSide.of(build, table, address)
    if field == "gap_mm" and any(slot.id == owner for slot in build.slots):
        return SlotGap.of(build, table, address)
    group = movers_of(build, owner)
    if field == "class" and group:
        return ClassOf(build, table, address, tuple(mover.id for mover in group))
    part: Part | None = next((part for part in build.parts if part.id == owner), None)
    if part is None or (field not in ("class", "part") and field not in type(part).model_fields):
        raise DocumentRefused([Problem(address, "there is nothing like it in the build", "id/field of the build")])
    if field == "class":
        return ClassOf(build, table, address, (owner,))
    if field == "part":
        return PartOf(build, table, address)
    return _field_of(build, table, address, part, field)


def _field_of(build: Build, table: FigureTable, address: str, part: Part, field: str) -> Varied:
    """A field of a part that is no figure."""
    if isinstance(part, Radiator) and part.points is not None and field in ("sections", "thickness_mm"):
        raise DocumentRefused([Problem(address, "the radiator is stated by measured points", "a radiator of a class")])
    quantity = quantities(type(part)).get(field)
    if quantity is None or not quantity.whole:
        return ChoiceOf(build, table, address)
    kind = SectionsOf if isinstance(part, Radiator) and field == "sections" else WholeNumber
    return kind(build, table, address, quantity)


def movers_of(build: Build, group: str) -> list[Mover]:
    """Movers that a name stands for: one, those of a loop or air path, all fans, all pumps; empty where none is."""
    movers = [part for part in build.parts if isinstance(part, Mover)]
    if group in ("fans", "pumps"):
        return [mover for mover in movers if mover.kind == group[:-1]]
    ways = {loop.id: leaves(loop.elements) for loop in build.loops}
    ways |= {path.id: leaves(path.elements) for path in build.air_paths}
    return [mover for mover in movers if mover.id == group or mover.id in ways.get(group, [])]


def told_duty(build: Build, group: str, workload: Workload) -> float | None:
    """Duty that a workload tells the first mover of a group; None where it tells it another thing, or nothing."""
    told = [command for mover in movers_of(build, group) if (command := workload.movers.get(mover.id)) is not None]
    return None if not told or told[0].duty is None else float(told[0].duty)


def room_address(build: Build) -> str:
    """The temperature of the room that every question is asked in."""
    return f"{build.rooms[0].id}/air_c"


@dataclass(frozen=True)
class FigureAt(Numeric):
    """A figure of the document or of a class; watts of a source are one of their workload."""

    def rows(self, value: Any) -> dict[str, float] | None:
        if self.quantity.unit == "mm" and in_a_slot(self.build, self.owner):
            return None  # what its slot leaves goes along
        return {self.address: float(value) * self.quantity.factor}

    def is_present(self, value: Any, workload: Workload) -> bool:
        now = self.table.figures[self.address].in_units
        return abs(now - float(value)) <= 1e-9 * max(abs(now), 1e-9)

    def now(self, case: Case) -> float:
        return self.table.figures[self.address].in_units


@dataclass(frozen=True)
class RoomAir(FigureAt):
    """The temperature of the room that is asked about, also where a question brings a room of its own."""

    def rows(self, value: Any) -> dict[str, float] | None:
        return {ROOM_ADDRESS: float(value)}

    def now(self, case: Case) -> float:
        return case.room_c

    def reach(self, now: float) -> tuple[float, float]:
        return min(ROOMS_C[0], now), max(ROOMS_C[1], now)


@dataclass(frozen=True)
class DutyOf(Numeric):
    """The duty of a fan or pump, or of several together."""

    movers: tuple[str, ...]

    @classmethod
    def of(cls, build: Build, table: FigureTable, address: str) -> "DutyOf":
        movers = tuple(mover.id for mover in movers_of(build, address.partition("/")[2]))
        if not movers:
            raise DocumentRefused(
                [Problem(address, "there is no such fan or pump", "a mover, path, loop, fans, pumps")]
            )
        return cls(build, table, address, DUTY, movers)

    def on(self, build: Build, table: FigureTable) -> "DutyOf":
        """Of another document, where a group may have other movers."""
        return DutyOf.of(build, table, self.address)

    def allows(self, value: Any) -> bool:
        return super().allows(value) and DUTY.holds(value)

    def allowed(self) -> str:
        return "a duty from 0 to 1"

    def rows(self, value: Any) -> dict[str, float] | None:
        return {duty_address(mover): float(value) for mover in self.movers}

    def edits(self, value: Any, workloads: list[str]) -> tuple[Edit, ...]:
        return tuple(
            Edit(target=workload, field=f"movers/{mover}", value={"duty": value})
            for workload in workloads
            for mover in self.movers
        )

    def is_present(self, value: Any, workload: Workload) -> bool:
        told = [workload.movers.get(mover) for mover in self.movers]
        return all(command is not None and command.duty == value for command in told)

    def now(self, case: Case) -> float:
        told = told_duty(self.build, self.field, case.workload)
        if told is None:
            raise DocumentRefused(
                [Problem(self.address, "no duty in this workload", "a mover that the workload tells a duty")]
            )
        return told

    def reach(self, now: float) -> tuple[float, float]:
        return min(LOWEST_DUTY, now), 1.0

    def touches(self) -> list[str]:
        return [self.address, *self.movers, *(f"movers/{mover}" for mover in self.movers)]

    def bought(self) -> list[str]:
        return []


@dataclass(frozen=True)
class WholeNumber(Numeric):
    """A number that shapes a part: each value is a document of its own."""

    def allows(self, value: Any) -> bool:
        return type(value) in (int, float) and self.quantity.holds(value)

    def allowed(self) -> str:
        return self.quantity.allowed()


@dataclass(frozen=True)
class SectionsOf(WholeNumber):
    """Sections of a radiator: its fans and the opening that it breathes through go along."""

    def allows(self, value: Any) -> bool:
        return type(value) is int and value in self.quantity.options

    def allowed(self) -> str:
        return f"1 to {self.quantity.options[-1]}"

    def edits(self, value: Any, workloads: list[str]) -> tuple[Edit, ...]:
        return sections_edits(self.build, self.owner, int(value))

    def touches(self) -> list[str]:
        return [*super().touches(), *fans_on(self.build, self.owner)]

    def bought(self) -> list[str]:
        return [self.owner, *fans_on(self.build, self.owner)]

    def pieces(self) -> list[str]:
        return [self.owner]


@dataclass(frozen=True)
class ClassOf(Varied):
    """Which class a part, or each mover of a group, is of."""

    parts: tuple[str, ...]

    def allows(self, value: Any) -> bool:
        return isinstance(value, str)

    def allowed(self) -> str:
        return "the id of a class"

    def rows(self, value: Any) -> dict[str, float] | None:
        if any(in_a_slot(self.build, part) for part in self.parts):
            return None  # what its slot leaves goes along
        return class_rows(self.build, self.table, self.owner, str(value))

    def edits(self, value: Any, workloads: list[str]) -> tuple[Edit, ...]:
        return tuple(Edit(target=part, field="class", value=value) for part in self.parts)

    def is_present(self, value: Any, workload: Workload) -> bool:
        return all(self.build.part(part).class_ == value for part in self.parts)

    def touches(self) -> list[str]:
        return [self.address, *self.parts, *(f"{part}/class" for part in self.parts)]

    def bought(self) -> list[str]:
        return list(self.parts)

    def on(self, build: Build, table: FigureTable) -> "ClassOf":
        """Of another document; a group may have other movers there."""
        group = tuple(mover.id for mover in movers_of(build, self.owner))
        return replace(self, build=build, table=table, parts=group or self.parts)


@dataclass(frozen=True)
class PartOf(Varied):
    """A whole part in place of the one there."""

    def allows(self, value: Any) -> bool:
        return isinstance(value, dict) and value.get("kind") == self.build.part(self.owner).kind

    def allowed(self) -> str:
        return f"a part of kind {self.build.part(self.owner).kind}"

    def edits(self, value: Any, workloads: list[str]) -> tuple[Edit, ...]:
        return (Edit(target="parts", field="=", value={**value, "id": self.owner}),)

    def is_present(self, value: Any, workload: Workload) -> bool:
        return bool(value.get("class") == self.build.part(self.owner).class_)


@dataclass(frozen=True)
class GravityOf(Varied):
    """How the housing stands."""

    def allows(self, value: Any) -> bool:
        return isinstance(value, list) and len(value) == 3 and all(type(item) in (int, float) for item in value)

    def allowed(self) -> str:
        return "three numbers"

    def is_present(self, value: Any, workload: Workload) -> bool:
        return list(self.build.housing.gravity) == list(value)


@dataclass(frozen=True)
class ChoiceOf(Varied):
    """A field of a part that is chosen: its finish, its wick, what stands before it."""
