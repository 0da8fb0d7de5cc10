"""Sound of all movers at the listener."""

import numpy as np

from krill.document.build import leaves
from krill.document.parts import Fan, Gap, Opening, Pump, Radiator
from krill.physics.sound import level_at_distance, level_at_speed, level_sum
from krill.prediction.result import SoundMark, SoundResult, SoundSource
from krill.prediction.solving import Solved

SILENT_DBA = 0.0
SLOWEST_HEARD = 0.02
#: what a fan pays at equal speed on a radiator or grille, and starved by a closed panel (common practice, 3-6 and 5-10 dB)
ON_FACE_DB, STARVED_DB, STARVED_MM = 4.0, 7.0, 10.0


def sound_result(solved: Solved, case: int) -> SoundResult:
    """Level of each fan and pump at its speed, brought to the listener, and their energy sum.

    By the mover's own points, else by 50 lg n; marks for where it stands are in it.
    """
    row = solved.central(case)
    speeds = {mover: float(speed[row]) for mover, speed in solved.solution.speeds.items()}
    sources = _sources(solved, row, speeds)
    ceiling = solved.cases[case].workload.sound_ceiling_dba
    return {
        "total_dba": _total(sources),
        "at_m": float(solved.build.brief.listener_m),
        "ceiling_dba": None if ceiling is None else float(ceiling),
        "sources": sorted(sources, key=lambda source: -source["level_dba"]),
    }


def total_at(solved: Solved, case: int, speeds: dict[str, float]) -> float:
    """Total level with the movers at other shares of their rated speeds, dBA at the listener."""
    return _total(_sources(solved, solved.central(case), speeds))


def _total(sources: list[SoundSource]) -> float:
    total = float(level_sum([source["level_dba"] for source in sources])) if sources else SILENT_DBA
    return max(total, SILENT_DBA)


def _sources(solved: Solved, row: int, speeds: dict[str, float]) -> list[SoundSource]:
    at_m = float(solved.build.brief.listener_m)
    found: list[SoundSource] = []
    for mover in solved.network.states.movers:
        speed = speeds[mover.id]
        if speed < SLOWEST_HEARD:
            continue
        marks = _marks(solved, mover) if isinstance(mover, Fan) else []
        level = _level(solved, mover, row, speed) + sum(mark["db"] for mark in marks)
        at_ear = float(level_at_distance(level, 1.0, at_m))
        found.append({"address": mover.id, "name": mover.name or mover.id, "level_dba": at_ear, "marks": marks})
    return found


def _level(solved: Solved, mover: Fan | Pump, row: int, speed: float) -> float:
    """Level at 1 m: between the mover's own points straight in the logarithm of speed, beyond them 50 lg n."""
    if mover.level_points:
        share, level = np.asarray(sorted(mover.level_points), dtype=np.float64).T
        share = np.maximum(share, 1e-3)
        inside = float(np.interp(np.log(speed), np.log(share), level))
        return inside + 50.0 * float(np.log10(speed / np.clip(speed, share[0], share[-1])))
    return float(level_at_speed(solved.figure(f"{mover.id}/level_dba", row, SILENT_DBA), speed))


def _marks(solved: Solved, fan: Fan) -> list[SoundMark]:
    """What stands close to a fan in its path: the element before or after it."""
    for path in solved.build.air_paths:
        items = leaves(path.elements)
        if fan.id not in items:
            continue
        others = [solved.build.part(item) for item in items]
        at = items.index(fan.id)
        beside = [part for part in _beside(others, at) if not isinstance(part, Fan)]
        for part in beside:
            if isinstance(part, Gap) and 1000 * float(solved.table.figures[f"{part.id}/gap_mm"].value) < STARVED_MM:
                return [{"text": "starved by a panel closer than 10 mm (common practice)", "db": STARVED_DB}]
        if any(isinstance(part, Radiator | Opening) for part in beside):
            return [{"text": "on a radiator or grille (common practice)", "db": ON_FACE_DB}]
    return []


def _beside(parts: list[object], at: int) -> list[object]:
    """The nearest element before and after that is no fan: fans in parallel share them."""
    before = next((part for part in reversed(parts[:at]) if not isinstance(part, Fan)), None)
    after = next((part for part in parts[at + 1 :] if not isinstance(part, Fan)), None)
    return [part for part in (before, after) if part is not None]
