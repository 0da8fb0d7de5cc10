"""Room that may vary: the gap of a slot, a side of the housing with the slots that grow along."""

from dataclasses import dataclass
from typing import Any, Final

from krill.components.figure_table import FigureTable
from krill.document.build import Build, Workload
from krill.document.figures import detail
from krill.document.fit import Slot, parts_in
from krill.document.part_base import Face
from krill.document.quantities import Quantity, figures_of
from krill.errors import DocumentRefused, Problem
from krill.networks.states import Case
from krill.sizing.one_varied import Numeric
from krill.sizing.result import Edit

#: sides of a housing: their axis, the face that moves when they grow, the one across
SIDES: Final[dict[str, tuple[int, Face, Face]]] = {
    "width_mm": (0, "right", "left"),
    "depth_mm": (1, "back", "front"),
    "height_mm": (2, "top", "bottom"),
}
SIDE: Final = Quantity("inside of the housing", buys=False, unit="mm", at_most=1e4)


def in_a_slot(build: Build, part: str) -> bool:
    """Whether a part stands in the stack of a slot, so that its thickness decides what is left there."""
    return any(part in parts_in(slot) for slot in build.slots)


def growing_slots(build: Build, side: str) -> list[Slot]:
    """Slots that a longer side makes longer: those at the face that moves, else those at the face across."""
    _, moves, across = SIDES[side]
    found = [slot for slot in build.slots if slot.face == moves]
    return found or [slot for slot in build.slots if slot.face == across]


def _gap_edit(slot: Slot, mm: float) -> Edit:
    """The gap of a slot set to so many mm, as well known as before."""
    now = detail(slot.gap_mm)
    stays = now.model_dump(mode="json", by_alias=True, exclude_none=True)
    return Edit(target=slot.id, field="gap_mm", value={**stays, "value": mm})


@dataclass(frozen=True)
class _Length(Numeric):
    """A length of the room itself, each value a document of its own."""

    def allows(self, value: Any) -> bool:
        return super().allows(value) and self.quantity.holds(value)

    def allowed(self) -> str:
        return self.quantity.allowed()

    def now(self, case: Case) -> float:
        return self._now()

    def is_present(self, value: Any, workload: Workload) -> bool:
        return bool(self._now() == value)

    def _now(self) -> float:
        raise NotImplementedError


@dataclass(frozen=True)
class SlotGap(_Length):
    """The gap of a slot: what is left of it may be a gap of the air."""

    @classmethod
    def of(cls, build: Build, table: FigureTable, address: str) -> "SlotGap":
        return cls(build, table, address, figures_of(Slot)["gap_mm"])

    def edits(self, value: Any, workloads: list[str]) -> tuple[Edit, ...]:
        return (_gap_edit(self._slot, float(value)),)

    def _now(self) -> float:
        return float(detail(self._slot.gap_mm).value)

    @property
    def _slot(self) -> Slot:
        return next(slot for slot in self.build.slots if slot.id == self.owner)


@dataclass(frozen=True)
class HousingSide(_Length):
    """An inner side of the housing; slots at the face that moves grow by as much, and nothing in it moves."""

    @classmethod
    def of(cls, build: Build, table: FigureTable, address: str) -> "HousingSide":
        if build.housing.inner_size_mm is None:
            raise DocumentRefused([Problem(address, "the housing states no inner size", "a housing that was measured")])
        return cls(build, table, address, SIDE)

    def edits(self, value: Any, workloads: list[str]) -> tuple[Edit, ...]:
        axis = SIDES[self.field][0]
        sides = [float(value) if i == axis else float(side) for i, side in enumerate(self._sides)]
        longer = float(value) - self._now()
        gaps = [
            _gap_edit(slot, max(float(detail(slot.gap_mm).value) + longer, 0.1))
            for slot in growing_slots(self.build, self.field)
        ]
        return (Edit(target="housing", field="inner_size_mm", value=sides), *gaps)

    def touches(self) -> list[str]:
        return [self.address, *(slot.id for slot in growing_slots(self.build, self.field))]

    def _now(self) -> float:
        return float(self._sides[SIDES[self.field][0]])

    @property
    def _sides(self) -> tuple[float, float, float]:
        size = self.build.housing.inner_size_mm
        assert size is not None
        return float(size[0]), float(size[1]), float(size[2])
