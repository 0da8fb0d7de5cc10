"""What runs teach about a build: a joint posterior of its figures from settled readings of one or several runs.

Every uncertain figure is an unknown with its own tolerance as prior; what somebody asks for, and what a place's own layers
may be off by the model, is so beside them with wider ones. Gauss-Newton with priors, Laplace about the likeliest.
"""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from typing import Final

import numpy as np
from numpy.typing import NDArray
from scipy.linalg import block_diag

from krill.components.figure_table import FigureTable, ResolvedFigure
from krill.components.learnt import stands_at
from krill.document.build import Build
from krill.document.calibration import Calibration, LearntFrom, Moved, Unknown
from krill.errors import DocumentRefused, Problem
from krill.networks.states import Case
from krill.numerics.gauss_newton import Linearised, gauss_newton, posterior_of
from krill.numerics.sampling import QUANTILE_90
from krill.prediction.answer.doubt import model_share
from krill.prediction.answer.model import Model
from krill.prediction.answer.solving import Solved, solve_cases
from krill.runs.as_run import nodes_of, value_of
from krill.runs.causes import Cause, causes_of
from krill.runs.ran import Ran
from krill.runs.suspects import READING_K
from krill.runs.unknown_room import spread_of
from krill.runs.verdict import name_of

Array = NDArray[np.float64]

#: step of a derivative, in standard deviations of the unknown before
STEP: Final = 0.3
#: what moves no reading by more, at one standard deviation, is not looked for, K
SEEN_K: Final = 0.1
#: who asks for a cause thinks that it is off: it may be so by so much more than one among dozens of suspects
ASKED: Final = 2.0
#: no unknown goes further than this from where it was assumed, in standard deviations
FURTHEST: Final = 4.0
#: an unknown that was moved or narrowed by less is left out of what is kept
KEPT_MOVE, KEPT_NARROWED = 0.05, 0.98
MOST_KEPT: Final = 120
#: figures that the sentence names where nobody asked for any
MOST_NAMED: Final = 2
#: two unknowns of a stronger correlation cannot be parted by the readings
NOT_PARTED: Final = 0.6


@dataclass(frozen=True)
class LearntUnknown:
    """One thing learnt, as factors on what was assumed: its 90 % before, its value and 90 % after."""

    id: str
    name: str
    chosen: bool
    assumed_low: float
    assumed_high: float
    factor: float
    low: float
    high: float
    says: str


@dataclass(frozen=True)
class Residual:
    """One reading of one run: measured less predicted, before and after, K, and what it is known to."""

    run: str
    role: str
    name: str
    before_k: float
    after_k: float
    half_k: float


@dataclass(frozen=True)
class FromOthers:
    """A run predicted from the others: root mean square of what it is off, K, as assumed and as learnt."""

    run: str
    assumed_k: float
    learnt_k: float | None


@dataclass(frozen=True)
class NotParted:
    """Two unknowns that the readings know only together."""

    first: str
    second: str
    correlation: float


@dataclass(frozen=True)
class Learning:
    """What runs teach, for the eye and for the document."""

    sentence: str
    unknowns: list[LearntUnknown]
    residuals: list[Residual]
    from_others: list[FromOthers]
    not_parted: list[NotParted]
    rms_before_k: float
    rms_after_k: float
    calibration: Calibration


@dataclass(frozen=True)
class _Free:
    """An unknown before anything was read: what it moves by which power, and its standard deviation, ln.

    It moves a figure where that stands ``at`` its value, SI: in another revision another part may stand there.
    """

    id: str
    name: str
    powers: dict[str, float]
    spread: float
    at: dict[str, float]
    chosen: bool = False

    def moves(self, address: str, table: FigureTable) -> bool:
        figure = table.figures.get(address)
        return figure is not None and stands_at(figure.value, self.at[address])


@dataclass(frozen=True)
class _Readings:
    """Readings of one run beside its prediction: K (reading,), their derivatives (reading, unknown), their doubt."""

    ran: Ran
    roles: list[str]
    names: list[str]
    measured: Array
    predicted: Array
    slopes: Array
    covariance: Array


def calibrate(rans: list[Ran], chosen: list[str], seed: int = 1, runs: list[LearntFrom] | None = None) -> Learning:
    """Learn from loads of one or several runs; ``chosen`` are causes (by address) whose prior is widened.

    ``runs`` says where the loads are from, in their order. DocumentRefused where nothing that was read belongs to the
    build, or a cause is not one of it.
    """
    rans = [replace(ran, build=_as_assumed(ran.build), as_kept=_as_assumed(ran.as_kept)) for ran in rans]
    free = _unknowns(_central(rans[-1], seed), rans, chosen)
    free += _of_other_revisions(free, rans, chosen, seed)
    start, free = _that_matter([_read(ran, free, np.zeros(len(free)), seed) for ran in rans], free)
    spreads = np.array([unknown.spread for unknown in free])

    def model(x: Array) -> Linearised[list[_Readings]]:
        return _together_of([_read(ran, free, x, seed) for ran in rans])

    measured = np.concatenate([r.measured for r in start])
    noise = block_diag(*[r.covariance for r in start])
    prior = np.diag(spreads**2)
    fit = gauss_newton(model, _together_of(start), measured, noise, prior, FURTHEST * spreads)
    x, covariance, after = fit.x, fit.covariance, fit.at.state
    told = runs or [LearntFrom(run=ran.name[:200], name=ran.name[:200]) for ran in rans]
    others = [_from_others(after, start, i, x, spreads) for i in range(len(rans))]
    return _learning(free, x, covariance, start, after, others, told)


def _as_assumed(build: Build) -> Build:
    """A build without what was learnt of it before."""
    return build.model_copy(update={"calibration": None})


def _that_matter(readings: list[_Readings], free: list[_Free]) -> tuple[list[_Readings], list[_Free]]:
    """Without the unknowns that move no reading by anything that could be seen; what was asked for stays."""
    spreads = np.array([unknown.spread for unknown in free])
    moves = np.max([np.abs(r.slopes).max(axis=0, initial=0.0) for r in readings], axis=0) * spreads
    kept = [j for j, unknown in enumerate(free) if unknown.chosen or moves[j] >= SEEN_K]
    return [replace(r, slopes=r.slopes[:, kept]) for r in readings], [free[j] for j in kept]


def _unknowns(solved: Solved, rans: list[Ran], chosen: list[str]) -> list[_Free]:
    """Every uncertain figure, the causes that were asked for, and the own layers of each place that was read."""
    free = list(_of_figures(solved))
    causes = {cause.address: cause for cause in causes_of(solved)}
    for address in dict.fromkeys(chosen):
        cause = causes.get(address)
        if cause is None or not _can_be_learnt(cause):
            wanted = ", ".join(a for a, c in causes.items() if _can_be_learnt(c))
            raise DocumentRefused([Problem("free", f"'{address}' is nothing that can be learnt", wanted)])
        free.append(_of_cause(solved, cause))
    roles = {m.role for ran in rans for m in ran.measured}
    free += list(_own_layers(solved, roles))
    if not any(nodes_of(solved, role) for role in roles):
        raise DocumentRefused([Problem("runs", "nothing that was read belongs to this build", "a temperature of it")])
    return free


def _of_other_revisions(free: list[_Free], rans: list[Ran], chosen: list[str], seed: int) -> list[_Free]:
    """What stands otherwise in the revisions of other runs: unknowns of their own, which teach the newest one nothing."""
    known = {(unknown.id, tuple(sorted(unknown.at.items()))) for unknown in free}
    found = []
    for number, ran in enumerate(rans[:-1]):
        solved = _central(ran, seed)
        asked = [_of_cause(solved, cause) for cause in causes_of(solved) if cause.address in chosen]
        for unknown in [*_of_figures(solved), *(replace(one, chosen=False) for one in asked)]:
            key = (unknown.id, tuple(sorted(unknown.at.items())))
            if key not in known:
                known.add(key)
                found.append(replace(unknown, id=f"{unknown.id}#{number}", name=f"{unknown.name}, before"))
    return found


def _can_be_learnt(cause: Cause) -> bool:
    """A cause that is a factor on figures; what is added to a share is none."""
    return bool(cause.moves) and not any(move.added for move in cause.moves)


def _is_free(figure: ResolvedFigure) -> bool:
    return figure.uncertain and figure.value > 0 and figure.quantity.unit != "°C"


def _of_figures(solved: Solved) -> Iterable[_Free]:
    """An unknown for each group of uncertain figures that are drawn together."""
    groups: dict[str, list[ResolvedFigure]] = {}
    for figure in solved.table.figures.values():
        if _is_free(figure):
            groups.setdefault(figure.draw_key, []).append(figure)
    for key, members in groups.items():
        spreads = {figure.address: _log_spread(figure) for figure in members}
        widest = max(spreads.values())
        if widest <= 0:
            continue
        powers = {address: spread / widest for address, spread in spreads.items()}
        at = {figure.address: figure.value for figure in members}
        yield _Free(key, _name_of_figure(solved, members[0], len(members)), powers, widest, at)


def _log_spread(figure: ResolvedFigure) -> float:
    """Standard deviation of the logarithm of a figure by its tolerance."""
    low = -np.log(max(1.0 - figure.tolerance.minus / figure.value, 0.1))
    high = np.log1p(figure.tolerance.plus / figure.value)
    return float((low + high) / 2 / QUANTILE_90)


def _name_of_figure(solved: Solved, figure: ResolvedFigure, alike: int) -> str:
    owner = solved.build.owner(figure.address.split("/")[0])
    name = getattr(owner, "name", "") or figure.address.split("/")[0]
    return f"{name}: {figure.quantity.label}" + (f" and {alike - 1} alike" if alike > 1 else "")


def _of_cause(solved: Solved, cause: Cause) -> _Free:
    powers = {move.address: move.power for move in cause.moves}
    at = {address: solved.table.figures[address].value for address in powers}
    return _Free(cause.address, cause.name, powers, ASKED * float(np.log1p(cause.spread)), at, True)


def _own_layers(solved: Solved, roles: set[str]) -> Iterable[_Free]:
    """For each place that was read, a factor on its own layers that is worth what the model may be off there."""
    for route in solved.structure.routes:
        place = route.place
        if f"{place.id}/temperature" not in roles:
            continue
        T = solved.solution.temperature[0]
        own = [layer for layer in route.layers if layer.kind in _OWN]
        fields = {f"{place.id}/{_OWN[layer.kind]}" for layer in own} & solved.table.figures.keys()
        drop = sum(abs(float(T[layer.inner] - T[layer.outer])) for layer in own)
        rise = abs(float(T[route.layers[0].inner]) - float(T[solved.network.pattern.given[0]])) if route.layers else 0.0
        if fields and drop > 0:
            spread = min(model_share(solved, 0, place.id) * rise / drop / QUANTILE_90, 1.0)
            at = {address: solved.table.figures[address].value for address in fields}
            name = f"{place.name or place.id}: its own layers"
            yield _Free(f"model/{place.id}", name, dict.fromkeys(fields, 1.0), spread, at)


_OWN: Final = {"hot_core": "hot_core_mm2k_w", "package": "package_k_w", "chip": "chip_mm2k_w", "joint": "joint_mm2k_w"}


def _case(ran: Ran, build: Build) -> Case:
    load = next(item for item in build.workloads if item.id == ran.workload)
    return Case(load, ran.room.air_c, float(build.rooms[0].altitude_m))


def _central(ran: Ran, seed: int) -> Solved:
    """The revision of a run as it stands, at its central figures."""
    return solve_cases(ran.as_kept, [_case(ran, ran.as_kept)], 0, seed, ran.known)


def _read(ran: Ran, free: list[_Free], x: Array, seed: int) -> _Readings:
    """A run's readings at factors x, with the derivative to each unknown: one batch."""
    table = Model.of(ran.build).table
    rows = len(free) + 1
    steps = np.array([STEP * unknown.spread for unknown in free])
    factors: dict[str, Array] = {}
    for j, unknown in enumerate(free):
        for address, power in unknown.powers.items():
            if unknown.moves(address, table) and address not in ran.known:
                column = factors.setdefault(address, np.zeros(rows))
                column += power * x[j]
                column[j + 1] += power * steps[j]
    draws = {address: table.figures[address].value * np.exp(column) for address, column in factors.items()}
    solved = solve_cases(ran.build, [_case(ran, ran.build)], rows, seed, ran.known, draws or None)
    read = [m for m in ran.measured if nodes_of(solved, m.role) is not None and m.settled]
    values = (
        np.stack([value_of(solved, m.role, solved.drawn(0)) for m in read], axis=1) if read else np.empty((rows, 0))
    )
    noise = np.array([m.half_width for m in read]) / QUANTILE_90
    covariance = np.diag(noise**2 + READING_K**2) + spread_of(ran.room) ** 2
    return _Readings(
        ran,
        [m.role for m in read],
        [name_of(solved, m.role) for m in read],
        np.array([m.value for m in read]),
        values[0],
        ((values[1:] - values[0]) / steps[:, None]).T,
        covariance,
    )


def _together_of(readings: list[_Readings]) -> Linearised[list[_Readings]]:
    """Readings of all runs as one model."""
    values = np.concatenate([r.predicted for r in readings])
    return Linearised(values, np.concatenate([r.slopes for r in readings]), readings)


def _from_others(after: list[_Readings], start: list[_Readings], left: int, x: Array, spreads: Array) -> FromOthers:
    """A run as the others predict it, by the linearisation at what all of them teach."""
    own = after[left]
    others = [r for i, r in enumerate(after) if i != left and r.roles]
    assumed = _rms(own, start[left].measured - start[left].predicted)
    if not others:
        return FromOthers(own.ran.name, assumed, None)
    measured, noise = np.concatenate([r.measured for r in others]), block_diag(*[r.covariance for r in others])
    without, _ = posterior_of(_together_of(others), x, measured, noise, np.diag(spreads**2), np.zeros(x.size))
    predicted = own.predicted + own.slopes @ (without - x)
    return FromOthers(own.ran.name, assumed, _rms(own, own.measured - predicted))


def _rms(readings: _Readings, residual: Array) -> float:
    """Root mean square, the run's own unknown room taken out."""
    if not residual.size:
        return 0.0
    spread = spread_of(readings.ran.room)
    if spread:
        noise = np.diag(readings.covariance) - spread**2
        weights = 1.0 / noise
        residual = residual - float(weights @ residual) / (float(weights.sum()) + spread**-2)
    return float(np.sqrt(np.mean(residual**2)))


def _learning(
    free: list[_Free],
    x: Array,
    covariance: Array,
    start: list[_Readings],
    after: list[_Readings],
    others: list[FromOthers],
    runs: list[LearntFrom],
) -> Learning:
    spread = np.sqrt(np.maximum(np.diag(covariance), 1e-12))
    before = np.array([unknown.spread for unknown in free])
    worth = np.abs(x) / before + (1.0 - spread / before)
    kept = [
        j
        for j in np.argsort(-worth)
        if free[j].chosen or abs(x[j]) > KEPT_MOVE * before[j] or spread[j] < KEPT_NARROWED * before[j]
    ][:MOST_KEPT]
    table = Model.of(start[-1].ran.as_kept).table
    own = [j for j in kept if any(free[j].moves(address, table) for address in free[j].powers)]
    kept = sorted({*own, *(j for j, unknown in enumerate(free) if unknown.chosen)})
    unknowns = [
        Unknown(
            id=free[j].id[:200],
            name=free[j].name[:200],
            moves=[
                Moved(address=address, power=power, at=table.figures[address].value)
                for address, power in free[j].powers.items()
                if free[j].moves(address, table)
            ],
            assumed=before[j],
            mean=float(x[j]),
            chosen=free[j].chosen,
        )
        for j in kept
    ]
    shown = [_shown(free[j], x[j], spread[j]) for j in sorted(kept, key=lambda j: (not free[j].chosen, -worth[j]))]
    residuals = [
        Residual(r.ran.name, role, name, float(b), float(a), float(np.sqrt(r.covariance[i, i]) * QUANTILE_90))
        for r0, r in zip(start, after, strict=True)
        for i, (role, name, b, a) in enumerate(
            zip(r.roles, r.names, r0.measured - r0.predicted, r.measured - r.predicted, strict=True)
        )
    ]
    rms_before = _together([_rms(r, r.measured - r.predicted) for r in start])
    rms_after = _together([_rms(r, r.measured - r.predicted) for r in after])
    calibration = Calibration(
        runs=runs,
        unknowns=unknowns,
        covariance=[[float(covariance[i, j]) for j in kept] for i in kept],
        places=[role for role in dict.fromkeys(role for r in after for role in r.roles)],
    )
    sentence = _sentence(shown, others, rms_before, rms_after)
    return Learning(
        sentence, shown, residuals, others, _not_parted(free, covariance, kept), rms_before, rms_after, calibration
    )


def _together(values: list[float]) -> float:
    return float(np.sqrt(np.mean(np.square(values)))) if values else 0.0


def _shown(free: _Free, x: float, spread: float) -> LearntUnknown:
    half = QUANTILE_90 * spread
    says = ""
    if abs(x) >= (FURTHEST - 0.05) * free.spread:
        says = "at the edge of what is plausible: check the readings first"
    elif free.chosen and spread > 0.9 * free.spread:
        says = "these runs say nothing about it"
    return LearntUnknown(
        free.id,
        free.name,
        free.chosen,
        float(np.exp(-QUANTILE_90 * free.spread)),
        float(np.exp(QUANTILE_90 * free.spread)),
        float(np.exp(x)),
        float(np.exp(x - half)),
        float(np.exp(x + half)),
        says,
    )


def _not_parted(free: list[_Free], covariance: Array, kept: list[int]) -> list[NotParted]:
    """Pairs with one that was asked for and that the readings cannot tell from the other."""
    spread = np.sqrt(np.maximum(np.diag(covariance), 1e-12))
    correlation = covariance / np.outer(spread, spread)
    pairs = [
        NotParted(free[i].name, free[j].name, float(correlation[i, j]))
        for n, i in enumerate(kept)
        for j in kept[n + 1 :]
        if (free[i].chosen or free[j].chosen) and abs(correlation[i, j]) > NOT_PARTED
    ]
    return sorted(pairs, key=lambda pair: -abs(pair.correlation))


def _sentence(shown: list[LearntUnknown], others: list[FromOthers], before: float, after: float) -> str:
    asked = [unknown for unknown in shown if unknown.chosen]
    told_of = asked or [u for u in shown if not u.assumed_low <= u.factor <= u.assumed_high][:MOST_NAMED]
    pieces = [f"{u.name} is {u.says}" for u in told_of if u.says and not u.chosen]
    pieces += [
        f"{u.name} {100 * abs(u.factor - 1):.0f} % {'more' if u.factor >= 1 else 'less'} than assumed"
        for u in told_of
        if not u.says
    ]
    silent = "These runs say nothing about what was asked for" if asked else "Every figure is about as assumed"
    text = "; ".join(pieces) or silent
    told = [run for run in others if run.learnt_k is not None]
    if told:
        assumed = _together([run.assumed_k for run in told])
        learnt = _together([run.learnt_k or 0.0 for run in told])
        return f"{text}; a run it has not seen is then predicted to {learnt:.1f} K, before to {assumed:.1f} K."
    met = f"its own readings are met to {after:.1f} K, before to {before:.1f} K"
    return f"{text}; {met}. A second run would say how far this carries."


@dataclass(frozen=True)
class Learnable:
    """A cause that may be asked for, in words."""

    address: str
    name: str


def learnable(build: Build, workload: str) -> list[Learnable]:
    """Everything that runs of a workload may teach when it is asked for, in the order of the build."""
    load = next(item for item in build.workloads if item.id == workload)
    solved = solve_cases(build, [Case(load, 25.0, float(build.rooms[0].altitude_m))])
    return [Learnable(c.address, c.name) for c in causes_of(solved) if _can_be_learnt(c)]
