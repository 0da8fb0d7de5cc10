"""Solve for a figure: the value of one figure or duty at which a wanted margin, temperature, flow or level is met."""

from dataclasses import replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import PchipInterpolator
from scipy.optimize import brentq

from krill.components.figure_table import FigureTable
from krill.document.build import Build, Command
from krill.errors import DocumentRefused, Problem
from krill.networks.states import Case
from krill.prediction.circuits import loop_results, path_results
from krill.prediction.places import lowest_limit
from krill.prediction.predict import CERTIFIES, cases_of
from krill.prediction.result import SolvedFor
from krill.prediction.solving import Solved, solve_cases
from krill.prediction.sound import sound_result
from krill.units import to_si, unit_of

Array = NDArray[np.float64]
Goal = Literal["margin", "temperature", "flow", "level"]

#: a figure is looked for between these shares of what it is now; a duty from its lowest to full
REACH = (0.2, 5.0)
LOWEST_DUTY = 0.2
POINTS, REFINED = 13, 7
GOAL_UNITS: dict[Goal, str] = {"margin": "K", "temperature": "°C", "flow": "", "level": "dBA"}


def solve_for(
    build: Build, address: str, goal: Goal, of: str, wanted: float, workload: str, room_c: float | None = None,
    reach: tuple[float, float] | None = None,
) -> SolvedFor:  # fmt: skip
    """The value, in the document's units, of ``address`` (id/field, or movers/id for a duty of the workload).

    ``of`` is a place (margin, temperature), a loop or air path (flow, l/min or m3/h), or anything for the level.
    ``reach`` bounds the search in the document's units. DocumentRefused names an address or an ``of`` that is not there;
    where the wanted value is out of reach, the best that can be had is answered and ``reached`` is False.
    """
    case = cases_of(build, [workload], room_c)[0]
    search = _Search(build, case, address, goal, of)
    low, high = reach if reach is not None else search.reach()
    values = np.geomspace(low, high, POINTS) if low > 0 else np.linspace(low, high, POINTS)
    found = search.measure(values) - wanted
    crossing = _first_crossing(found)
    if crossing is None:
        best = int(np.argmin(np.abs(found)))
        return search.answer(float(values[best]), float(found[best] + wanted), wanted, reached=False)
    near = np.linspace(values[crossing], values[crossing + 1], REFINED)
    fine = search.measure(near) - wanted
    value = float(brentq(lambda x: float(PchipInterpolator(near, fine)(x)), near[0], near[-1], xtol=1e-9))
    return search.answer(value, float(search.measure(np.array([value]))[0]), wanted, reached=True)


def _first_crossing(differences: Array) -> int | None:
    signs = np.sign(differences)
    turns = np.flatnonzero(signs[:-1] * signs[1:] <= 0)
    return int(turns[0]) if turns.size else None


class _Search:
    """One figure or duty of one case, and what is wanted of the solution."""

    def __init__(self, build: Build, case: Case, address: str, goal: Goal, of: str) -> None:
        self.build, self.case, self.address, self.goal, self.of = build, case, address, goal, of
        self.table = FigureTable(build)
        self.mover = address.split("/")[1] if address.startswith("movers/") else None
        command = case.workload.movers.get(self.mover or "")
        if self.mover is not None and (command is None or command.duty is None):
            raise DocumentRefused(
                [Problem(address, "no duty in this workload", "a mover that the workload tells a duty")]
            )
        if self.mover is None and address not in self.table.figures:
            raise DocumentRefused([Problem(address, "there is no such figure", "id/field of a figure of the build")])
        self.duty = 1.0 if command is None or command.duty is None else float(command.duty)
        self._check()

    def _check(self) -> None:
        places = {place: owner for place, (owner, _) in self.build.place_owners().items()}
        if self.goal in ("margin", "temperature") and self.of not in places:
            raise DocumentRefused([Problem(f"of/{self.of}", "there is no such place", ", ".join(places))])
        if self.goal == "margin" and lowest_limit(places[self.of])[1] is None:
            raise DocumentRefused([Problem(f"of/{self.of}", "it has no limit", "a place with a limit")])
        ways = [loop.id for loop in self.build.loops] + [path.id for path in self.build.air_paths]
        if self.goal == "flow" and self.of not in ways:
            raise DocumentRefused([Problem(f"of/{self.of}", "there is no such loop or air path", ", ".join(ways))])

    @property
    def factor(self) -> float:
        return to_si(self.address.split("/")[1]) if self.mover is None else 1.0

    def reach(self) -> tuple[float, float]:
        if self.mover is not None:
            return min(LOWEST_DUTY, self.duty), 1.0
        now = self.table.figures[self.address].value / self.factor
        if now == 0.0:
            return 0.0, 1.0
        return now * REACH[0], now * REACH[1]

    def measure(self, values: Array) -> Array:
        """What is wanted, at every value of the figure: one batch."""
        if self.mover is not None:
            cases = [self._told(float(duty)) for duty in values]
            solved = solve_cases(self.build, cases)
            return np.array([self._of(solved, index, solved.central(index)) for index in range(len(cases))])
        if self.goal in ("flow", "level"):
            singles = [solve_cases(self.build, [self.case], overrides={self.address: v * self.factor}) for v in values]
            return np.array([self._of(single, 0, 0) for single in singles])
        solved = solve_cases(self.build, [self.case], len(values), draws={self.address: values * self.factor})
        return np.array([self._of(solved, 0, 1 + row) for row in range(len(values))])

    def _told(self, duty: float) -> Case:
        movers = self.case.workload.movers | {str(self.mover): Command(duty=duty)}
        return replace(self.case, workload=self.case.workload.model_copy(update={"movers": movers}))

    def _of(self, solved: Solved, index: int, row: int) -> float:
        if self.goal == "level":
            return sound_result(solved, index)["total_dba"]
        if self.goal == "flow":
            flows = {loop["address"]: loop["flow_l_min"] for loop in loop_results(solved, index)}
            flows |= {path["address"]: path["airflow_m3_h"] for path in path_results(solved, index)}
            return flows[self.of]
        T = float(solved.solution.temperature[row, solved.structure.node_names.index(self.of)])
        limit = lowest_limit(self.build.place_owners()[self.of][0])[1]
        return T if self.goal == "temperature" or limit is None else limit - T

    def answer(self, value: float, got: float, wanted: float, *, reached: bool) -> SolvedFor:
        field = "duty" if self.mover is not None else self.address.split("/")[1]
        unit = GOAL_UNITS[self.goal] or ("l/min" if any(loop.id == self.of for loop in self.build.loops) else "m³/h")
        because = ""
        if not reached:
            because = (
                f"within reach it never falls to that; the least is {got:.1f} {unit}"
                if got > wanted
                else f"within reach the most is {got:.1f} {unit}: the rest lies elsewhere on the way"
            )
        now = self.duty if self.mover is not None else self.table.figures[self.address].value / self.factor
        return {
            "address": self.address, "unit": unit_of(field), "now": now, "value": value, "reached": reached,
            "goal": self.goal, "of": self.of, "goal_unit": unit, "wanted": wanted, "got": got, "because": because,
            "certifies": CERTIFIES,
        }  # fmt: skip
