"""The pumps of a loop against what the loop asks at other flows: what a pump chart draws."""

import numpy as np
from numpy.typing import NDArray

from krill.components.edges import Medium, PipeEdges, PowerEdges, head_of, one_row
from krill.document.build import Build, Loop
from krill.errors import DocumentRefused, Problem
from krill.prediction.answer.circuits import pumps_of, stretches
from krill.prediction.answer.result import LoopCurves, PumpCurve
from krill.prediction.answer.shared import loop_coolant
from krill.prediction.answer.solving import Solved, solve_cases
from krill.prediction.predict import cases_of
from krill.units import l_min

Array = NDArray[np.float64]

PUMP_POINTS = 21
CURVE_SHARES = np.linspace(0.0, 1.6, 17)


def loop_curves(build: Build, loop: str, workload: str, room_c: float | None = None) -> LoopCurves:
    """Curves of a loop's pumps at their speeds, and the pressure that the loop asks, in a workload.

    DocumentRefused names a loop that is not there.
    """
    solved = solve_cases(build, cases_of(build, [workload], room_c))
    found = next((item for item in build.loops if item.id == loop), None)
    if found is None:
        names = ", ".join(item.id for item in build.loops) or "(there is no loop)"
        raise DocumentRefused([Problem(f"loop/{loop}", "there is no such loop", names)])
    return LoopCurves(address=loop, pumps=_pump_curves(solved, loop), loop_curve=_loop_curve(solved, found))


def _pump_curves(solved: Solved, loop: str) -> list[PumpCurve]:
    curves: list[PumpCurve] = []
    for pump, group, column in pumps_of(solved, loop):
        of_flow, of_head = stretches(solved, group, column, 0, float(solved.solution.speeds[pump.id][0]))
        rated = np.linspace(0.0, 1.0, PUMP_POINTS) * float(group.curve.free_flow[column])
        head = head_of(group.curve, column, rated)
        points = [(l_min(float(of_flow * q)), float(of_head * h) / 1000) for q, h in zip(rated, head, strict=True)]
        curves.append(PumpCurve(address=pump.id, points=points))
    return curves


def _loop_curve(solved: Solved, loop: Loop) -> list[tuple[float, float]]:
    """Pressure that the loop asks for at shares of its flow, all branches scaled alike, by the power it takes."""
    flow, model, solution = solved.structure.coolant, solved.network.coolant_model, solved.solution
    assert flow is not None
    assert model is not None
    assert solution.coolant is not None
    edges, m = flow.edges_of(loop.id), solution.coolant.mass_flow[:1]
    main = float(m[0, edges[0]])
    if abs(main) < 1e-9:
        return []
    state = loop_coolant(solved, loop)
    medium = Medium(np.full(m.shape, state.density[0]), np.full(m.shape, state.viscosity[0]))
    shares, power = CURVE_SHARES[:, None] * m, np.zeros(len(CURVE_SHARES))
    for group in model.groups:
        inside = np.isin(group.columns, edges)
        if isinstance(group, PipeEdges | PowerEdges) and inside.any():
            drop, _ = one_row(group, 0).at(medium.take(group.columns))(shares[:, group.columns])
            power += np.sum((drop * m[0, group.columns])[:, inside], axis=1)
    return [
        (l_min(float(share) * main / float(state.density[0])), float(p) / main / 1000)
        for share, p in zip(CURVE_SHARES, power, strict=True)
    ]
