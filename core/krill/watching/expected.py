"""What a run is held against while it goes on: the forecast of its load in time, and what the build says turns and draws."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.document.build import Build, Workload
from krill.in_time.forecast import forecast_in_time
from krill.in_time.result import InTime, TimeCurve
from krill.in_time.run import Asked
from krill.prediction.answer.solving import Solved, solve_cases
from krill.prediction.answer.workload_states import idle_of
from krill.prediction.predict import cases_of
from krill.runs.quantities import predicted_of

Array = NDArray[np.float64]

#: a sensor is believed to this, K
READ_K: Final = 0.5


@dataclass(frozen=True)
class Expected:
    """Of one load in one room; ``rpm`` of the movers that it runs, ``idle_w`` and ``load_w`` of the sources by address."""

    build: Build
    load: Workload
    forecast: InTime
    rpm: Mapping[str, float]
    idle_w: Mapping[str, float]
    load_w: Mapping[str, float]

    def curve(self, role: str) -> TimeCurve | None:
        """The curve that a role's readings follow, None where the forecast has none."""
        address, _, statistic = role.rpartition("/")
        if statistic not in ("temperature", "coolant_hot", "air"):
            return None
        return next((one for one in self.forecast.curves if one.address == address), None)

    @property
    def burst_ends_s(self) -> float:
        """When the last burst of the load is over, s after it came on."""
        return max((60.0 * phase.ends_min for phase in self.forecast.phases if phase.name == "burst"), default=0.0)


def speeds_of(solved: Solved, row: int) -> dict[str, float]:
    """Rpm of every mover in one row of a solution, as a reading would show it."""
    told = {mover.id: predicted_of(solved, f"{mover.id}/speed") for mover in solved.network.states.movers}
    return {mover: float(rpm[row]) for mover, rpm in told.items() if rpm is not None}


def expected_of(
    build: Build, workload: str, room_c: float | None, minutes: float, samples: int = 0, seed: int = 1
) -> Expected:
    """The forecast, with bands where draws are asked for. DocumentRefused and NotConverged as ``forecast_in_time``."""
    forecast = forecast_in_time(build, Asked(workload, minutes, room_c=room_c, samples=samples, seed=seed))
    case = cases_of(build, [workload], room_c)[0]
    idle = idle_of(build, case.workload)
    solved = solve_cases(build, [case])
    at_rest = solve_cases(build, [cases_of(build, [idle.id], room_c)[0]])
    sources = [part.id for part in build.heat_sources() if part.kind == "source"]
    return Expected(
        build=build,
        load=case.workload,
        forecast=forecast,
        rpm=speeds_of(solved, 0),
        idle_w={source: float(np.ravel(at_rest.network.states.watts(source))[0]) for source in sources},
        load_w={source: float(np.ravel(solved.network.states.watts(source))[0]) for source in sources},
    )
