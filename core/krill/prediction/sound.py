"""Sound of all movers at the listener."""

import numpy as np

from krill.physics.sound import level_at_distance, level_at_speed, level_sum
from krill.prediction.result import SoundResult, SoundSource
from krill.prediction.solving import Solved

SILENT_DBA = 0.0
SLOWEST_HEARD = 0.02


def sound_result(solved: Solved, case: int) -> SoundResult:
    """Level of each fan and pump at its speed by 50 lg n, brought to the listener, and their energy sum."""
    row, at_m = solved.central(case), float(solved.build.brief.listener_m)
    sources: list[SoundSource] = []
    for mover in solved.network.states.movers:
        speed = float(solved.solution.speeds[mover.id][row])
        if speed < SLOWEST_HEARD:
            continue
        rated = float(np.atleast_1d(solved.network.values(f"{mover.id}/level_dba", SILENT_DBA))[0])
        level = float(level_at_distance(level_at_speed(rated, speed), 1.0, at_m))
        sources.append({"address": mover.id, "name": mover.name or mover.id, "level_dba": level})
    total = float(level_sum([source["level_dba"] for source in sources])) if sources else SILENT_DBA
    ceiling = solved.cases[case].workload.sound_ceiling_dba
    return {
        "total_dba": max(total, SILENT_DBA),
        "at_m": at_m,
        "ceiling_dba": None if ceiling is None else float(ceiling),
        "sources": sorted(sources, key=lambda source: -source["level_dba"]),
    }
