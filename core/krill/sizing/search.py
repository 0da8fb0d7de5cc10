"""One figure or duty of a case as the unknown of a search: where it may lie, what each value gives, the answer in words."""

import math
from collections.abc import Iterable
from dataclasses import replace
from functools import cached_property
from typing import Final, Literal

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable
from krill.document.build import Build, Command
from krill.errors import DocumentRefused, Problem
from krill.networks.states import ROOM_ADDRESS, Case, duty_address
from krill.prediction.places import lowest_limit, place_results
from krill.prediction.predict import CERTIFIES, cases_of
from krill.prediction.solving import Solved, solve_cases
from krill.prediction.sound import total_levels
from krill.sizing.axis import edits_of, movers_of, quantity_of, room_address, told_duty
from krill.sizing.by_row import flow, margins, temperatures
from krill.sizing.question import Axis, Option
from krill.sizing.radiator_size import MOST_SECTIONS
from krill.sizing.result import Edit, SolvedFor
from krill.sizing.steps.step import edited, rounded
from krill.sizing.words import rest_lies

Array = NDArray[np.float64]
Goal = Literal["margin", "temperature", "flow", "level", "watts"]
Curve = Iterable[tuple[float, float]]

#: a figure is looked for between these shares of what it is now; a duty from its lowest to full
REACH = (0.2, 5.0)
LOWEST_DUTY = 0.2
#: rooms that are looked at, C
ROOMS_C = (-20.0, 60.0)
#: halvings towards the last value that may stand in a document
DRAWN_IN = 10
#: numbers that shape a part: each value is a document of its own
WHOLE: Final[dict[str, tuple[int, ...]]] = {
    "sections": tuple(range(1, MOST_SECTIONS + 1)),
    "count": tuple(range(1, 21)), "thickness_mm": (28, 38, 45, 60), "bends": tuple(range(11)),
}  # fmt: skip
GOAL_UNITS: dict[Goal, str] = {"margin": "K", "temperature": "°C", "flow": "", "level": "dBA", "watts": "W"}


class Search:
    """One figure or duty of one case, and what is wanted of the solution."""

    def __init__(self, build: Build, case: Case, address: str, goal: Goal, of: str, wanted: float) -> None:
        self.build, self.case, self.address, self.goal, self.of, self.wanted = build, case, address, goal, of, wanted
        self.table = FigureTable(build)
        owner, _, name = address.partition("/")
        part = next((part for part in build.parts if part.id == owner), None)
        self.whole = part is not None and name in WHOLE and hasattr(part, name) and address not in self.table.figures
        self.movers = [mover.id for mover in movers_of(build, name)] if owner == "movers" else []
        self.room = address == room_address(build)
        if owner == "movers":
            self.now = self._duty()
        elif self.room:
            self.now = case.room_c
        elif self.whole:
            self.now = float(getattr(build.part(owner), name))
        elif address not in self.table.figures:
            raise DocumentRefused([Problem(address, "there is no such figure", "id/field of a figure of the build")])
        elif not self.table.figures[address].quantity.varies:
            raise DocumentRefused([Problem(address, "it is given, not solved for", "another figure")])
        else:
            self.now = self.table.figures[address].in_units
        self.quantity = quantity_of(build, self.table, address)
        self._check()

    def _duty(self) -> float:
        """What the workload tells the first mover of the group."""
        told = told_duty(self.build, self.address.split("/")[1], self.case.workload)
        if told is None:
            raise DocumentRefused(
                [Problem(self.address, "no duty in this workload", "a mover that the workload tells a duty")]
            )
        return told

    def _check(self) -> None:
        places = {place: owner for place, (owner, _) in self.build.place_owners().items()}
        if self.goal in ("margin", "temperature") and self.of not in places:
            raise DocumentRefused([Problem(f"of/{self.of}", "there is no such place", ", ".join(places))])
        if self.goal == "margin" and lowest_limit(places[self.of])[1] is None:
            raise DocumentRefused([Problem(f"of/{self.of}", "it has no limit", "a place with a limit")])
        ways = [loop.id for loop in self.build.loops] + [path.id for path in self.build.air_paths]
        if self.goal == "flow" and self.of not in ways:
            raise DocumentRefused([Problem(f"of/{self.of}", "there is no such loop or air path", ", ".join(ways))])
        if self.goal == "watts" and self.of not in self.case.workload.watts:
            sources = ", ".join(self.case.workload.watts)
            raise DocumentRefused([Problem(f"of/{self.of}", "this workload gives it no watts", sources)])

    @property
    def field(self) -> str:
        """What kind of figure is looked for."""
        return "duty" if self.movers else self.address.split("/")[1]

    @property
    def factor(self) -> float:
        return self.quantity.factor

    def reach(self) -> tuple[float, float]:
        if self.movers:
            return min(LOWEST_DUTY, self.now), 1.0
        if self.room:
            return min(ROOMS_C[0], self.now), max(ROOMS_C[1], self.now)
        ends = (0.0, 1.0) if self.now == 0.0 else (self.now * REACH[0], self.now * REACH[1])
        low, high = sorted(self._within(end) for end in ends)
        return low, high

    def checked(self, reach: tuple[float, float]) -> tuple[float, float]:
        """A reach that was asked for. DocumentRefused where its ends are not in order or may not stand in a document."""
        low, high = reach
        if not low < high < math.inf:
            raise DocumentRefused([Problem("reach", f"{low:g} to {high:g}", "two numbers, the smaller one first")])
        for end in reach:
            if self.movers and not 0 <= end <= 1:
                raise DocumentRefused([Problem("reach", f"{end:g}", "duties from 0 to 1")])
            self._document(end)
        return low, high

    def edits(self, value: float) -> tuple[Edit, ...]:
        """Edits that take a value over: to four digits, a whole number as one."""
        rounded_value = int(value) if self.whole else rounded(value, 4)
        axis = Axis(address=self.address, options=[Option(value=rounded_value)])
        return edits_of(self.build, axis, axis.options[0], [self.case.workload.id])

    def _document(self, value: float) -> Build:
        """The build with the figure at a value. DocumentRefused where it may not stand there."""
        axis = Axis(address=self.address, options=[Option(value=value)])
        return edited(self.build, edits_of(self.build, axis, axis.options[0], [self.case.workload.id]))

    def _stands(self, value: float) -> bool:
        try:
            self._document(value)
        except DocumentRefused:
            return False
        return True

    def _within(self, end: float) -> float:
        """An end of the reach, drawn in to what may stand in a document: a share ends at 1, fins leave a gap."""
        if self._stands(end):
            return end
        if self.now <= 1.0 < end and self._stands(1.0):
            return 1.0
        inside, outside = self.now, end
        for _ in range(DRAWN_IN):
            middle = 0.5 * (inside + outside)
            inside, outside = (middle, outside) if self._stands(middle) else (inside, middle)
        return inside

    def solved(self, values: Array) -> Solved:
        """Every value of the figure as one batch; where watts are the goal, with these drawn."""
        addresses = [duty_address(mover) for mover in self.movers] or [ROOM_ADDRESS if self.room else self.address]
        draws = {address: values * self.factor for address in addresses}
        if self.goal == "watts":
            draws[f"{self.case.workload.id}/watts/{self.of}"] = np.full(len(values), self.wanted)
        return solve_cases(self.stated, [self.case], len(values), draws=draws)

    @cached_property
    def stated(self) -> Build:
        """The build with the figure stated as it is now: what a class says follows its air, what somebody states does not."""
        return self.build if self.movers or self.room else self._document(self.now)

    def on(self, build: Build) -> "Search":
        """The same search on another document."""
        case = cases_of(build, [self.case.workload.id], self.case.room_c)[0]
        return Search(build, case, self.address, self.goal, self.of, self.wanted)

    def missing(self, values: Array) -> Array:
        """What is got less what is wanted, at every value; of watts what is left of the least margin."""
        return self._missing(self.solved(values))[1:]

    def missing_as_it_stands(self) -> float:
        return float(self._missing(self.as_it_stands())[-1])

    def as_it_stands(self) -> Solved:
        """The document itself, where watts are the goal with these drawn."""
        watts = {f"{self.case.workload.id}/watts/{self.of}": np.array([self.wanted])} if self.goal == "watts" else {}
        return solve_cases(self.build, [self.case], len(watts), draws=watts)

    def _missing(self, solved: Solved) -> Array:
        if self.goal == "watts":
            return np.asarray(margins(solved)[1].min(axis=1) - float(self.build.brief.margin_wanted_k))
        return self._got(solved) - self.wanted

    def _got(self, solved: Solved) -> Array:
        if self.goal == "level":
            return total_levels(solved)
        if self.goal == "flow":
            return flow(solved, self.of)
        T = temperatures(solved, self.of)
        limit = lowest_limit(self.build.place_owners()[self.of][0])[1]
        return T if self.goal == "temperature" or limit is None else limit - T

    def answer(self, value: float, looked_at: Curve, *, reached: bool, now: float | None = None) -> SolvedFor:
        """The value with what it gives; ``looked_at`` are values and what each gets less what is wanted."""
        solved = self.as_it_stands() if self.whole else self.solved(np.array([value]))
        got = self.wanted if self.goal == "watts" else float(self._got(solved)[-1])
        unit = GOAL_UNITS[self.goal] or ("l/min" if any(loop.id == self.of for loop in self.build.loops) else "m³/h")
        level = float(self.build.brief.margin_wanted_k) if self.goal == "watts" else self.wanted
        return {
            "edits": list(self.edits(value)) if self.movers else [],
            "curve": [(float(at), float(missing) + level) for at, missing in looked_at if np.isfinite(missing)],
            "curve_unit": "K" if self.goal == "watts" else unit, "curve_wanted": level,
            "address": self.address, "unit": self.quantity.unit, "now": self.now if now is None else now, "value": value,
            "reached": reached, "goal": self.goal, "of": self.of, "goal_unit": unit, "wanted": self.wanted, "got": got,
            "because": "" if reached else self._because(solved, value, got, unit), "certifies": CERTIFIES,
        }  # fmt: skip

    def _because(self, solved: Solved, value: float, got: float, unit: str) -> str:
        """The best that can be had, and where the rest lies."""
        if self.goal == "watts":
            places, left = margins(solved)
            least = int(np.argmin(left[-1]))
            best = f"the nearest is {left[-1, least]:.1f} K of margin on {self._name(places[least])}"
            return f"no value within reach holds {got:.0f} W there; {best}"
        best = f"within reach the {'least' if got > self.wanted else 'most'} is {got:.1f} {unit}"
        if self.goal in ("flow", "level"):
            return f"{best}: the rest is made by other parts"
        place = next(found for found in place_results(self._alone(value), 0) if found["address"] == self.of)
        return f"{best}: {rest_lies(place)}"

    def _alone(self, value: float) -> Solved:
        """The case at one value of what is searched."""
        told = self.case.workload.movers | {mover: Command(duty=value) for mover in self.movers}
        case = replace(self.case, workload=self.case.workload.model_copy(update={"movers": told}))
        if self.room:
            case = replace(case, room_c=value)
        overrides = {} if self.movers or self.whole or self.room else {self.address: value * self.factor}
        return solve_cases(self.build if self.whole else self.stated, [case], overrides=overrides)

    def _name(self, place: str) -> str:
        return self.build.place_owners()[place][0].name or place
