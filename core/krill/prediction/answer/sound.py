"""Sound of all movers, and of the fans inside supplies, at the listener."""

import numpy as np
from numpy.typing import NDArray

from krill.catalogue.classes import classes
from krill.components.supply_fans import SUPPLY_FANS, supply_fan
from krill.document.build import leaves
from krill.document.parts import Fan, Gap, Mover, Opening, Radiator, Supply
from krill.physics.sound import level_at_distance, level_at_speed, level_sum
from krill.prediction.answer.result import SoundMark, SoundResult, SoundSource
from krill.prediction.answer.solving import Solved, drawn_band

Array = NDArray[np.float64]

SILENT_DBA, NOT_HEARD_DBA = 0.0, -200.0
SLOWEST_HEARD = 0.02
#: rating of a supply that states none
UNRATED_W = 500.0
#: what a fan pays at equal speed on a radiator or grille, and starved by a closed panel (common practice, 3-6 and 5-10 dB)
ON_FACE_DB, STARVED_DB, STARVED_MM = 4.0, 7.0, 10.0
#: of a pump by how it is held (common practice, ± 3 dB)
HELD_DB = {"foam": ("on foam (common practice)", -5.0), "hard": ("hard on a panel (common practice)", 6.0)}


def sound_result(solved: Solved, case: int) -> SoundResult:
    """Level of each fan and pump at its speed, brought to the listener, and their energy sum.

    By the mover's own points, else by 50 lg n; marks for where it stands are in it.
    """
    row = solved.central(case)
    one = slice(row, row + 1)
    speeds = {mover: speed[one] for mover, speed in solved.solution.speeds.items()}
    heard = _heard(solved, one, speeds)
    sources = [_source(solved, part, row, float(level[0])) for part, level in heard if level[0] > NOT_HEARD_DBA]
    ceiling = solved.cases[case].workload.sound_ceiling_dba
    return SoundResult(
        total_dba=float(_total([level for _, level in heard], 1)[0]),
        band_dba=drawn_band(solved, row, total_levels(solved)) if solved.samples else None,
        at_m=float(solved.build.brief.listener_m),
        ceiling_dba=None if ceiling is None else float(ceiling),
        sources=sorted(sources, key=lambda source: -source.level_dba),
    )


def total_at(solved: Solved, case: int, speeds: dict[str, float]) -> float:
    """Total level with the movers at other shares of their rated speeds, dBA at the listener."""
    row = solved.central(case)
    one = slice(row, row + 1)
    return float(levels_at(solved, one, {mover: np.array([speed]) for mover, speed in speeds.items()})[0])


def total_levels(solved: Solved) -> Array:
    """Total level of every row of a batch, dBA at the listener (batch,)."""
    return levels_at(solved, slice(None), solved.solution.speeds)


def levels_at(solved: Solved, rows: slice, speeds: dict[str, Array]) -> Array:
    """Total level of some rows at the given shares of rated speed, each (rows,); dBA at the listener."""
    count = len(range(*rows.indices(solved.network.values.batch)))
    return _total([level for _, level in _heard(solved, rows, speeds)], count)


def _total(levels: list[Array], rows: int) -> Array:
    """Energy sum of the movers' levels, (rows,); silent where nothing turns."""
    if not levels:
        return np.full(rows, SILENT_DBA)
    return np.asarray(np.maximum(level_sum(np.stack(levels), axis=0), SILENT_DBA))


def _heard(solved: Solved, rows: slice, speeds: dict[str, Array]) -> list[tuple[Mover | Supply, Array]]:
    """Level at the listener of each mover and of supplies with a fan of their own, (rows,); NOT_HEARD_DBA at rest."""
    at_m = float(solved.build.brief.listener_m)
    found: list[tuple[Mover | Supply, Array]] = [
        (supply, level_at_distance(own_fan(solved, supply, rows)[1], 1.0, at_m))
        for supply in solved.build.parts
        if isinstance(supply, Supply) and supply.built_as is not None
    ]
    for mover in solved.network.states.movers:
        speed = speeds[mover.id]
        heard = speed >= SLOWEST_HEARD
        level = _level(solved, mover, rows, np.maximum(speed, SLOWEST_HEARD))
        level = level + sum(mark.db for mark in _marks_of(solved, mover))
        found.append((mover, np.where(heard, level_at_distance(level, 1.0, at_m), NOT_HEARD_DBA)))
    return found


def own_fan(solved: Solved, supply: Supply, rows: slice) -> tuple[Array, Array]:
    """(rpm, dBA at 1 m) of the fan in a supply, (rows,)."""
    states, solution = solved.network.states, solved.solution
    load = states.supply_load(supply, solution.speeds, solution.kept)
    share = load / solved.network.values(f"{supply.id}/rating_w", UNRATED_W)
    T = solution.temperature
    zones = [route.zone for route in solved.structure.routes if route.source == supply.id and route.zone is not None]
    inlet = T[:, solved.structure.zone_nodes[zones[0]]] if zones else T[:, solved.network.pattern.given[0]]
    assert supply.built_as is not None
    return supply_fan(supply.built_as, share[rows], inlet[rows])


def _source(solved: Solved, part: Mover | Supply, row: int, level: float) -> SoundSource:
    return SoundSource(
        address=part.id,
        name=part.name or part.id,
        level_dba=level,
        tone_hz=_blade_tone(solved, part, row),
        marks=[] if isinstance(part, Supply) else _marks_of(solved, part),
    )


def _blade_tone(solved: Solved, mover: Mover | Supply, row: int) -> float | None:
    """Blades past a strut in a second; None of a pump, and of a fan whose class does not say how many it has."""
    if isinstance(mover, Supply):
        if mover.built_as is None:
            return None
        return SUPPLY_FANS[mover.built_as].blades * float(own_fan(solved, mover, slice(row, row + 1))[0][0]) / 60
    known = classes().get(mover.class_ or "")
    if known is None or "blades" not in known.extra:
        return None
    rpm = float(solved.solution.speeds[mover.id][row]) * solved.figure(f"{mover.id}/rated_rpm", row)
    return known.extra["blades"] * rpm / 60


def _level(solved: Solved, mover: Mover, rows: slice, speed: Array) -> Array:
    """Level at 1 m: between the mover's own points straight in the logarithm of speed, beyond them 50 lg n."""
    if mover.level_points:
        share, level = np.asarray(sorted(mover.level_points), dtype=np.float64).T
        share = np.maximum(share, 1e-3)
        inside = np.interp(np.log(speed), np.log(share), level)
        return np.asarray(inside + 50.0 * np.log10(speed / np.clip(speed, share[0], share[-1])))
    rated = solved.network.values(f"{mover.id}/level_dba", SILENT_DBA)
    return np.asarray(level_at_speed(rated[rows] if rated.ndim else rated, speed))


def _marks_of(solved: Solved, mover: Mover) -> list[SoundMark]:
    if isinstance(mover, Fan):
        return _marks(solved, mover)
    if mover.held is None:
        return []
    text, db = HELD_DB[mover.held]
    return [SoundMark(text=text, db=db)]


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
                return [SoundMark(text="starved by a panel closer than 10 mm (common practice)", db=STARVED_DB)]
        if any(isinstance(part, Radiator | Opening) for part in beside):
            return [SoundMark(text="on a radiator or grille (common practice)", db=ON_FACE_DB)]
    return []


def _beside(parts: list[object], at: int) -> list[object]:
    """The nearest element before and after that is no fan: fans in parallel share them."""
    before = next((part for part in reversed(parts[:at]) if not isinstance(part, Fan)), None)
    after = next((part for part in parts[at + 1 :] if not isinstance(part, Fan)), None)
    return [part for part in (before, after) if part is not None]
