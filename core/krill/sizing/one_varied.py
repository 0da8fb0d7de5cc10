"""One thing that may vary, bound to a build: what kinds of it have in common."""

from dataclasses import dataclass, replace
from typing import Any, Final

from krill.components.figure_table import FigureTable
from krill.document.build import Build, Workload
from krill.document.quantities import Quantity
from krill.errors import DocumentRefused, Problem
from krill.networks.states import Case
from krill.sizing.lock_names import names_of
from krill.sizing.result import Edit
from krill.sizing.steps.step import buys

#: a figure is looked for between these shares of what it is now
REACH: Final = (0.2, 5.0)


@dataclass(frozen=True)
class Varied:
    """One thing that may vary, bound to a build. A value is in the document's units, or whatever the document holds."""

    build: Build
    table: FigureTable
    address: str

    @property
    def owner(self) -> str:
        return self.address.split("/", 1)[0]

    @property
    def field(self) -> str:
        return self.address.split("/", 1)[1]

    def on(self, build: Build, table: FigureTable) -> "Varied":
        """The same of another document."""
        return replace(self, build=build, table=table)

    def allows(self, value: Any) -> bool:
        """Whether a value makes sense; the document's own checks do the rest."""
        return True

    def allowed(self) -> str:
        return "what the document may hold there"

    def check(self, value: Any) -> None:
        """DocumentRefused where a value cannot be."""
        if not self.allows(value):
            raise DocumentRefused([Problem(self.address, f"{value!r}"[:80], self.allowed())])

    def rows(self, value: Any) -> dict[str, float] | None:
        """What a value sets in a batch, SI by address; None where it needs a document of its own."""
        return None

    def edits(self, value: Any, workloads: list[str]) -> tuple[Edit, ...]:
        """Edits that take a value over into the document; duties go to the named workloads."""
        return (Edit(target=self.owner, field=self.field, value=value),)

    def is_present(self, value: Any, workload: Workload) -> bool:
        """Whether a value is what the build has now."""
        return bool(getattr(self.build.owner(self.owner), self.field) == value)

    def touches(self) -> list[str]:
        """What a lock on it may be called: what it belongs to, and its address."""
        return list(names_of(self.build, self.address))

    def bought(self) -> list[str]:
        """Parts that another value replaces by something bought; empty where it costs nothing."""
        is_part = any(part.id == self.owner for part in self.build.parts)
        return [self.owner] if is_part and buys(self.build, self.owner, self.field) else []

    def pieces(self) -> list[str]:
        """Parts that the price of a value is stated for, each: those it buys but for those that come along."""
        return self.bought()


@dataclass(frozen=True)
class Numeric(Varied):
    """A number: it has a unit, stands somewhere now, and may be solved for."""

    quantity: Quantity

    def allows(self, value: Any) -> bool:
        return type(value) in (int, float)

    def allowed(self) -> str:
        return "a number"

    def now(self, case: Case) -> float:
        """Where it stands, in the document's units. DocumentRefused where it stands nowhere."""
        return float(getattr(self.build.owner(self.owner), self.field))

    def reach(self, now: float) -> tuple[float, float]:
        """Between which values it is looked for; the document may draw the ends in."""
        return (0.0, 1.0) if now == 0.0 else (now * REACH[0], now * REACH[1])
