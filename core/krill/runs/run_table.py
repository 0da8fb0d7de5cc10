"""Several runs in one table: parts over the room and K/W, the best and the worst, drift over a year, before-after-before."""

from collections import Counter
from dataclasses import dataclass
from datetime import datetime
from math import ceil, hypot
from typing import Final

import numpy as np

from krill.numerics.sampling import QUANTILE_90
from krill.runs.as_run import watts_of
from krill.runs.bought import Bought, ScoredLoad, bought, score_of
from krill.runs.compare import BETTER, NO_DIFFERENCE, NONE_K, OPEN, WORSE, RunSide, compare
from krill.runs.ran import Ran
from krill.runs.unknown_room import RunRoom
from krill.runs.verdict import role_name

#: runs that a drift needs, and days that they must span
DRIFT_RUNS, DRIFT_DAYS = 3, 30.0
YEAR_DAYS: Final = 365.25
MOST_REPEATS: Final = 30


@dataclass(frozen=True)
class Cell:
    """One part in one run: K over the room with its half width, and K/W of all watts of its source."""

    role: str
    over_k: float
    half_k: float
    k_w: float | None


@dataclass(frozen=True)
class RunRow:
    run: str
    name: str
    workload: str
    revision: int
    created: datetime
    room: RunRoom
    watts: float
    cells: list[Cell]


@dataclass(frozen=True)
class PartDrift:
    """What a part gains over a year, K, with the half width of 90 %, from runs of one workload and one revision."""

    role: str
    k_year: float
    half_k: float


@dataclass(frozen=True)
class RunTable:
    """``best`` and ``worst`` are runs by role: the least and the most over the room among runs of its commonest workload."""

    rows: list[RunRow]
    roles: list[str]
    names: dict[str, str]
    best: dict[str, str]
    worst: dict[str, str]
    drifts: list[PartDrift]
    bought: list[Bought]


@dataclass(frozen=True)
class TableRun:
    """A load with what a list knows of it, its room as its own readings have it."""

    run: str
    revision: int
    created: datetime
    ran: Ran
    room: RunRoom


def run_table(runs: list[TableRun]) -> RunTable:
    """Runs in the order of their time."""
    runs = sorted(runs, key=lambda item: item.created)
    rows = [_row(item) for item in runs]
    names: dict[str, str] = {}
    for item in runs:
        for m in item.ran.measured:
            names.setdefault(m.role, role_name(item.ran.as_kept, m.role))
    roles = list(names)
    extremes = {role: _extremes(rows, role) for role in roles}
    best = {role: ends[0] for role, ends in extremes.items() if ends}
    worst = {role: ends[1] for role, ends in extremes.items() if ends}
    drifts = [drift for role in roles if (drift := _drift(rows, role)) is not None]
    scored = [load for item, row in zip(runs, rows, strict=True) if (load := _scored(item, row)) is not None]
    return RunTable(rows, roles, names, best, worst, drifts, bought(scored))


def _scored(item: TableRun, row: RunRow) -> ScoredLoad | None:
    """A load whose job has a score, with what it drew, how loud it was and how far its hottest part lay over the room."""
    score = score_of(item.ran.readings)
    if score is None:
        return None
    role, value, better = score
    levels = [float(r.value) for r in item.ran.readings if r.role.endswith("/level") and r.value is not None]
    over = max((cell.over_k for cell in row.cells), default=None)
    return ScoredLoad(row.name, role, value, better, row.watts, levels[-1] if levels else None, over)


def _row(item: TableRun) -> RunRow:
    ran = item.ran
    watts = watts_of(ran.build, ran.workload, ran.known)
    owners = ran.as_kept.place_owners()
    cells = []
    for m in ran.measured:
        place = owners.get(m.role.rpartition("/")[0])
        own = watts.get(place[1].id) if place else sum(watts.values())
        over = m.value - item.room.air_c
        cells.append(Cell(m.role, over, hypot(m.half_width, item.room.half_k), over / own if own else None))
    total = sum(watts.values())
    return RunRow(item.run, ran.name, ran.workload, item.revision, item.created, item.room, total, cells)


def _of_role(rows: list[RunRow], role: str) -> list[tuple[RunRow, Cell]]:
    return [(row, cell) for row in rows for cell in row.cells if cell.role == role]


def _extremes(rows: list[RunRow], role: str) -> tuple[str, str] | None:
    """Coolest and warmest run of a part; None where fewer than two runs of one workload read it."""
    read = _of_role(rows, role)
    if not read:
        return None
    commonest = Counter(row.workload for row, _ in read).most_common(1)[0][0]
    alike = sorted(((cell.over_k, row.run) for row, cell in read if row.workload == commonest))
    return (alike[0][1], alike[-1][1]) if len(alike) > 1 else None


def _drift(rows: list[RunRow], role: str) -> PartDrift | None:
    """Slope over time among runs of one revision and workload, by weighted least squares."""
    read = _of_role(rows, role)
    groups = Counter((row.revision, row.workload) for row, _ in read)
    if not groups or groups.most_common(1)[0][1] < DRIFT_RUNS:
        return None
    chosen = groups.most_common(1)[0][0]
    alike = [(row, cell) for row, cell in read if (row.revision, row.workload) == chosen]
    days = np.array([(row.created - alike[0][0].created).total_seconds() / 86_400 for row, _ in alike])
    if float(np.ptp(days)) < DRIFT_DAYS:
        return None
    weights = np.array([(cell.half_k / QUANTILE_90) ** -2 for _, cell in alike])
    values = np.array([cell.over_k for _, cell in alike])
    years = (days - float(weights @ days / weights.sum())) / YEAR_DAYS
    spread = float(weights @ years**2)
    return PartDrift(role, float(weights @ (years * values)) / spread, QUANTILE_90 * spread**-0.5)


@dataclass(frozen=True)
class RepeatedPart:
    """One part before, after and before again: what the change did, K, and what the machine differs from itself."""

    role: str
    name: str
    change_k: float
    half_k: float
    itself_k: float
    conclusion: str
    because: str


@dataclass(frozen=True)
class BeforeAfterBefore:
    sentence: str
    parts: list[RepeatedPart]


def before_after_before(before: RunSide, after: RunSide, again: RunSide) -> BeforeAfterBefore:
    """What a change did, at equal watts and speeds, with what the machine differs from itself between two runs before it."""
    first, second = compare(before, after), compare(again, after)
    halves = [{m.role: m.half_width for m in side.measured} for side in (before, after, again)]
    others = {part.role: part for part in second.parts}
    parts = []
    for one in first.parts:
        two = others.get(one.role)
        if two is None:
            continue
        change, itself = (one.equal_k + two.equal_k) / 2, one.equal_k - two.equal_k
        rooms = hypot(after.room.half_k, before.room.half_k / 2, again.room.half_k / 2)
        half = hypot(halves[1][one.role], halves[0][one.role] / 2, halves[2][one.role] / 2, rooms, itself / 2)
        parts.append(RepeatedPart(one.role, one.name, change, half, itself, *_conclusion(change, half)))
    if not parts:
        return BeforeAfterBefore("The three runs read no part in common.", [])
    lead = max(parts, key=lambda part: abs(part.change_k) - part.half_k)
    return BeforeAfterBefore(_said(lead), parts)


def _conclusion(change: float, half: float) -> tuple[str, str]:
    if abs(change) > half and abs(change) >= NONE_K:
        return (BETTER if change < 0 else WORSE), ""
    repeats = ceil((half / max(abs(change), NONE_K)) ** 2)
    if half <= NONE_K:
        return NO_DIFFERENCE, f"under {NONE_K:.0f} K"
    if repeats > MOST_REPEATS:
        return OPEN, f"known to ± {half:.1f} K: repeats alone would not tell"
    return OPEN, f"known to ± {half:.1f} K: about {repeats} repeats of each would tell"


def _said(lead: RepeatedPart) -> str:
    itself = f"the machine differs from itself by {abs(lead.itself_k):.1f} K"
    if lead.conclusion in (BETTER, WORSE):
        return f"{lead.name} became {abs(lead.change_k):.1f} ± {lead.half_k:.1f} K {lead.conclusion}; {itself}."
    return (
        f"What it did to {lead.name} is open: {lead.because}; {itself}."
        if lead.because
        else f"No difference; {itself}."
    )
