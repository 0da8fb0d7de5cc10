"""What a sink holds at how many kelvins, standing and lying; which fin pitch would give off most; and a pipe's limits."""

from dataclasses import replace
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.components.heat_pipes import pipe_limits
from krill.components.panels import side_loss
from krill.components.sinks import Fins, still_loss
from krill.document.build import Build
from krill.document.solids import Panel, Sink, Stand
from krill.errors import DocumentRefused, Problem
from krill.networks.bodies import BodyModel
from krill.prediction.answer.bodies import at, body_ways, pipe_results
from krill.prediction.answer.result import NamedCurve, PipeChart, SinkCurve, StandCurve
from krill.prediction.answer.solving import Solved, solve_cases
from krill.prediction.predict import cases_of

Array = NDArray[np.float64]

KELVINS: Final = np.array([2.0, 5.0, 10.0, 15.0, 20.0, 25.0, 30.0, 40.0, 50.0, 60.0, 70.0, 80.0])
STANDS: Final[tuple[Stand, ...]] = ("upright", "lying_fins_up", "lying_fins_down", "on_edge")
PITCHES_MM: Final = np.arange(3.0, 30.5, 0.5)
VAPOUR_C: Final = np.arange(20.0, 125.0, 5.0)


def sink_curve(build: Build, body: str, workload: str, room_c: float | None = None) -> SinkCurve:
    """Watts over kelvins of a sink or panel at its central figures, with the working point and the best pitch there.

    DocumentRefused where there is no such body, or it stands in an air path (its flow decides there).
    """
    part = next((p for p in build.parts if p.id == body), None)
    if not isinstance(part, Sink | Panel):
        raise DocumentRefused(
            [Problem(f"body/{body}", "there is no such sink or panel", "a part of kind sink or panel")]
        )
    solved = solve_cases(build, cases_of(build, [workload], room_c))
    ways = [way for way in body_ways(solved, 0, body) if way.side == "outside"]
    if not ways:
        raise DocumentRefused([Problem(f"body/{body}", "it has no side in still air", "a body with an outside zone")])
    model = solved.network.conductances.bodies[body]
    difference = float(solved.solution.temperature[0, solved.structure.body_nodes[body]]) - ways[0].air_c
    air_c, pressure = ways[0].air_c, solved.network.states.pressure_pa[0]
    curves, pitch = _curves(model, air_c, pressure), None
    if model.fins is not None:
        pitch = _pitch_curve(model.fins, air_c, max(difference, 1.0), pressure)
    return SinkCurve(
        address=body,
        air_c=air_c,
        curves=curves,
        stands=model.fins.stand if model.fins is not None else model.lie,
        point=(difference, ways[0].watts),
        pitch_mm=None if model.fins is None else 1000 * at(model.fins.pitch, 0),
        pitch_curve=[] if pitch is None else pitch,
        best_pitch_mm=None if pitch is None else max(pitch, key=lambda point: point[1])[0],
    )


def _curves(model: BodyModel, air_c: float, pressure: float) -> list[StandCurve]:
    base, air = air_c + KELVINS, np.full(KELVINS.shape, air_c)
    if model.fins is None:
        loss = side_loss(model.back, "outside", base, air, np.asarray(pressure)).total
        return [StandCurve(stands=model.lie, points=_points(loss), inside=True)]
    found: list[StandCurve] = []
    for stand in STANDS:
        still = still_loss(replace(model.fins, stand=stand), base, air, np.asarray(pressure))
        found.append(StandCurve(stands=stand, points=_points(still.total), inside=bool(np.all(still.inside))))
    return found


def _points(conductance: Array) -> list[tuple[float, float]]:
    return [(float(k), float(k * g)) for k, g in zip(KELVINS, conductance, strict=True)]


def _pitch_curve(fins: Fins, air_c: float, difference: float, pressure: float) -> list[tuple[float, float]]:
    """(pitch mm, watts) of the same outline at the working difference."""
    allowed = PITCHES_MM[at(fins.thickness, 0) + 1e-3 < PITCHES_MM / 1000]
    air = np.full(allowed.shape, air_c)
    loss = still_loss(replace(fins, pitch=allowed / 1000), air + difference, air, np.asarray(pressure)).total
    return [(float(p), float(g * difference)) for p, g in zip(allowed, loss, strict=True)]


def pipe_chart(build: Build, pipe: str, workload: str, room_c: float | None = None) -> PipeChart:
    """Each limit of one pipe of a group over its vapour temperature, and where it works. DocumentRefused: no such pipes."""
    solved = solve_cases(build, cases_of(build, [workload], room_c))
    point = next((found for found in pipe_results(solved, 0) if found.address == pipe), None)
    if point is None:
        raise DocumentRefused([Problem(f"pipes/{pipe}", "no route goes through such pipes", _known(solved))])
    index = [link.layer.part for link in solved.network.pattern.pipes].index(pipe)
    limits = pipe_limits(solved.network.conductances.pipes[index].pipe, VAPOUR_C)
    each = {name: np.broadcast_to(values, VAPOUR_C.shape) for name, values in limits.each().items()}
    return PipeChart(
        address=pipe,
        limits=[NamedCurve(name=name, points=_pairs(values)) for name, values in each.items()],
        least=_pairs(np.broadcast_to(limits.least, VAPOUR_C.shape)),
        point=(point.vapour_c, point.busiest_w),
        result=point,
    )


def _known(solved: Solved) -> str:
    return ", ".join(str(link.layer.part) for link in solved.network.pattern.pipes) or "(there are no heat pipes)"


def _pairs(values: Array) -> list[tuple[float, float]]:
    return [(float(t), float(v)) for t, v in zip(VAPOUR_C, values, strict=True)]
