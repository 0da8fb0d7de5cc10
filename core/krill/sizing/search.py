"""One figure or duty of a case as the unknown of a search: where it may lie, what each value gives, the answer in words."""

import math
from collections.abc import Iterable
from dataclasses import replace
from functools import cached_property
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import FigureTable
from krill.document.addresses import watts_address
from krill.document.build import Build, Command
from krill.document.solids import Body
from krill.errors import DocumentRefused, Problem
from krill.in_time.aims import Aim, aimed_at, check_aim
from krill.networks.states import Case
from krill.prediction.answer.places import lowest_limit, place_results
from krill.prediction.answer.solving import Solved, solve_cases, try_cases
from krill.prediction.answer.sound import total_levels
from krill.prediction.predict import CERTIFIES, cases_of
from krill.sizing.bounds import bounds_of
from krill.sizing.by_row import flow, hottest, over_room
from krill.sizing.locks import check_free
from krill.sizing.measures import highest_stack
from krill.sizing.one_varied import Numeric
from krill.sizing.result import Edit, SolvedFor
from krill.sizing.steps.step import edited, rounded
from krill.sizing.varied import DutyOf, RoomAir, WholeNumber, varied
from krill.sizing.words import rest_lies

Array = NDArray[np.float64]
Goal = Literal["margin", "temperature", "rise", "flow", "level", "watts", "height", "burst", "after", "held_back"]
Curve = Iterable[tuple[float, float]]

#: halvings towards the last value that may stand in a document
DRAWN_IN = 10
GOAL_UNITS: dict[Goal, str] = {
    "margin": "K",
    "temperature": "°C",
    "rise": "K",
    "flow": "",
    "level": "dBA",
    "watts": "W",
    "height": "mm",
    "burst": "s",
    "after": "°C",
    "held_back": "%",
}


def warm_things(build: Build) -> list[str]:
    """Whatever has a temperature that may be asked for: places, airs inside, loops, bodies."""
    airs = [zone.id for zone in build.zones if zone.kind == "box"]
    bodies = [part.id for part in build.parts if isinstance(part, Body)]
    return [*build.place_owners(), *airs, *(loop.id for loop in build.loops), *bodies]


class Search:
    """One figure or duty of one case, and what is wanted of the solution."""

    def __init__(
        self, build: Build, case: Case, address: str, goal: Goal, of: str, wanted: float, aim: Aim | None = None
    ) -> None:
        self.build, self.case, self.address, self.goal, self.of, self.wanted = build, case, address, goal, of, wanted
        self.aim = aim
        self.unknown = self._unknown(FigureTable(build))
        self.whole = isinstance(self.unknown, WholeNumber)
        self.now = self.unknown.now(case)
        self._check()

    def _unknown(self, table: FigureTable) -> Numeric:
        found = varied(self.build, table, self.address)
        if not isinstance(found, Numeric):
            raise DocumentRefused(
                [Problem(self.address, "there is no such figure", "id/field of a figure of the build")]
            )
        check_free(self.build, found)
        if not found.quantity.varies:
            raise DocumentRefused([Problem(self.address, "it is given, not solved for", "another figure")])
        return found

    def _check(self) -> None:
        if self.aim is not None:
            check_aim(self.build, self.case.workload.id, self.aim)
            if not 0.0 <= self.wanted <= self.aim.most:
                raise DocumentRefused(
                    [Problem("wanted", f"{self.wanted:g}", f"0 to {self.aim.most:g} {self.aim.unit}")]
                )
        places = {place: owner for place, (owner, _) in self.build.place_owners().items()}
        if self.goal == "margin" and self.of not in places:
            raise DocumentRefused([Problem(f"of/{self.of}", "there is no such place", ", ".join(places))])
        if self.goal in ("temperature", "rise") and self.of not in (warm := warm_things(self.build)):
            raise DocumentRefused([Problem(f"of/{self.of}", "there is nothing warm of this name", ", ".join(warm))])
        if self.goal == "margin" and lowest_limit(places[self.of])[1] is None:
            raise DocumentRefused([Problem(f"of/{self.of}", "it has no limit", "a place with a limit")])
        ways = [loop.id for loop in self.build.loops] + [path.id for path in self.build.air_paths]
        if self.goal == "flow" and self.of not in ways:
            raise DocumentRefused([Problem(f"of/{self.of}", "there is no such loop or air path", ", ".join(ways))])
        if self.goal == "watts" and self.of not in self.case.workload.watts:
            sources = ", ".join(self.case.workload.watts)
            raise DocumentRefused([Problem(f"of/{self.of}", "this workload gives it no watts", sources)])

    def reach(self) -> tuple[float, float]:
        """Between which values it is looked for: as far as they may stand in a document."""
        low, high = sorted(self._within(end) for end in self.unknown.reach(self.now))
        return low, high

    def checked(self, reach: tuple[float, float]) -> tuple[float, float]:
        """A reach that was asked for. DocumentRefused where its ends are not in order or may not stand in a document."""
        low, high = reach
        if not low < high < math.inf:
            raise DocumentRefused([Problem("reach", f"{low:g} to {high:g}", "two numbers, the smaller one first")])
        for end in reach:
            if not self.unknown.allows(end):
                raise DocumentRefused([Problem("reach", f"{end:g}", self.unknown.allowed())])
            self._document(end)
        return low, high

    def edits(self, value: float) -> tuple[Edit, ...]:
        """Edits that take a value over: to four digits, a whole number as one."""
        rounded_value = int(value) if self.whole else rounded(value, 4)
        return self.unknown.edits(rounded_value, [self.case.workload.id])

    def _document(self, value: float) -> Build:
        """The build with the figure at a value. DocumentRefused where it may not stand there."""
        return edited(self.build, self.unknown.edits(value, [self.case.workload.id]))

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

    def _draws(self, values: Array) -> dict[str, Array]:
        return {address: values * factor for address, factor in (self.unknown.rows(1.0) or {}).items()}

    def _in_time(self, values: Array, aim: Aim) -> Array:
        """The figure of a load in time at every value, NaN at one that does not settle."""
        draws = self._draws(values)
        return aimed_at(self.stated, self.case.workload.id, aim, len(values), draws, self.case.room_c)[1:]

    def _tried(self, values: Array) -> Solved:
        """Every value of the figure as one batch; where watts are the goal, with these drawn."""
        draws = self._draws(values)
        if self.goal == "watts":
            draws[watts_address(self.case.workload.id, self.of)] = np.full(len(values), self.wanted)
        return try_cases(self.stated, [self.case], len(values), draws=draws)

    @cached_property
    def stated(self) -> Build:
        """The build with the figure stated as it is now: what a class says follows its air, what somebody states does not."""
        stands = isinstance(self.unknown, DutyOf | RoomAir)
        return self.build if stands else self._document(self.now)

    def on(self, build: Build) -> "Search":
        """The same search on another document."""
        case = cases_of(build, [self.case.workload.id], self.case.room_c, throttles=False)[0]
        return Search(build, case, self.address, self.goal, self.of, self.wanted, self.aim)

    def missing(self, values: Array) -> Array:
        """What is got less what is wanted, at every value; of watts what is left of the least margin.

        NaN at a value that does not settle; NotConverged where none does.
        """
        if self.aim is not None:
            return self._in_time(values, self.aim) - self.wanted
        solved = self._tried(values)
        settled = solved.solution.status.settled[1:]
        if not settled.any():
            solved.solution.status.must_all_settle()
        return np.where(settled, self._missing(solved)[1:], np.nan)

    def missing_as_it_stands(self) -> float:
        if self.aim is not None:
            return self._aimed_as_it_stands(self.aim) - self.wanted
        return float(self._missing(self.as_it_stands())[-1])

    def _aimed_as_it_stands(self, aim: Aim) -> float:
        return float(aimed_at(self.build, self.case.workload.id, aim, room_c=self.case.room_c)[0])

    def as_it_stands(self) -> Solved:
        """The document itself, where watts are the goal with these drawn."""
        watts = {watts_address(self.case.workload.id, self.of): np.array([self.wanted])} if self.goal == "watts" else {}
        return solve_cases(self.build, [self.case], len(watts), draws=watts)

    def _missing(self, solved: Solved) -> Array:
        if self.goal == "watts":
            return bounds_of(solved, float(self.build.brief.margin_wanted_k)).least
        return self._got(solved) - self.wanted

    def _got(self, solved: Solved) -> Array:
        if self.goal == "level":
            return total_levels(solved)
        if self.goal == "flow":
            return flow(solved, self.of)
        if self.goal == "height":
            rows = solved.network.values.batch
            return np.asarray(np.broadcast_to(highest_stack(solved.build, solved.network.values), (rows,)))
        if self.goal == "rise":
            return over_room(solved, self.of)
        T = hottest(solved, self.of)
        if self.goal == "temperature":
            return T
        limit = lowest_limit(self.build.place_owners()[self.of][0])[1]
        return T if limit is None else limit - T

    def answer(self, value: float, looked_at: Curve, *, reached: bool, now: float | None = None) -> SolvedFor:
        """The value with what it gives; ``looked_at`` are values and what each gets less what is wanted."""
        solved = self.as_it_stands() if self.whole else self._tried(np.array([value]))
        solved.solution.status.must_settle(solved.stride - 1)
        got = self._reached(solved, value)
        unit = GOAL_UNITS[self.goal] or ("l/min" if any(loop.id == self.of for loop in self.build.loops) else "m³/h")
        level = float(self.build.brief.margin_wanted_k) if self.goal == "watts" else self.wanted
        return SolvedFor(
            edits=list(self.edits(value)) if isinstance(self.unknown, DutyOf) else [],
            curve=[(float(at), float(missing) + level) for at, missing in looked_at if np.isfinite(missing)],
            curve_unit="K" if self.goal == "watts" else unit,
            curve_wanted=level,
            address=self.address,
            unit=self.unknown.quantity.unit,
            now=self.now if now is None else now,
            value=value,
            reached=reached,
            goal=self.goal,
            of=self.of,
            goal_unit=unit,
            wanted=self.wanted,
            got=got,
            because="" if reached else self._because(solved, value, got, unit),
            certifies=CERTIFIES,
        )

    def _reached(self, solved: Solved, value: float) -> float:
        """What a value gives, of the goal."""
        if self.aim is not None:
            return (
                self._aimed_as_it_stands(self.aim)
                if self.whole
                else float(self._in_time(np.array([value]), self.aim)[0])
            )
        return self.wanted if self.goal == "watts" else float(self._got(solved)[-1])

    def _because(self, solved: Solved, value: float, got: float, unit: str) -> str:
        """The best that can be had, and where the rest lies."""
        if self.goal == "watts":
            bounds, row = bounds_of(solved, float(self.build.brief.margin_wanted_k)), solved.stride - 1
            least = bounds.tightest(row)
            first = "" if least is None else f"; {bounds.names[least]} is passed first"
            return f"no value within reach holds {got:.0f} W there{first}"
        best = f"within reach the {'least' if got > self.wanted else 'most'} is {got:.1f} {unit}"
        if self.of not in self.build.place_owners():
            return f"{best}: the rest is made by other parts"
        place = next(found for found in place_results(self._alone(value), 0) if found.address == self.of)
        return f"{best}: {rest_lies(place)}"

    def _alone(self, value: float) -> Solved:
        """The case at one value of what is searched."""
        if isinstance(self.unknown, RoomAir):
            return solve_cases(self.build, [replace(self.case, room_c=value)])
        if isinstance(self.unknown, DutyOf):
            told = self.case.workload.movers | {mover: Command(duty=value) for mover in self.unknown.movers}
            workload = self.case.workload.model_copy(update={"movers": told})
            return solve_cases(self.build, [replace(self.case, workload=workload)])
        overrides = {} if self.whole else self.unknown.rows(value)
        return solve_cases(self.build if self.whole else self.stated, [self.case], overrides=overrides)

    def _name(self, place: str) -> str:
        return self.build.place_owners()[place][0].name or place
