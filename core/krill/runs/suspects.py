"""Which cause would explain what was measured: each against the stated tolerances, near-equals named together.

A cause is weighed by how much likelier all residuals together are with it free than from the tolerances alone.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray
from scipy.special import log_ndtr

from krill.networks.states import Case
from krill.prediction.answer.shared import loop_flow, start_edges
from krill.prediction.answer.solving import Solved, solve_cases
from krill.runs.as_run import value_of
from krill.runs.causes import ROOM, Cause, causes_of

Array = NDArray[np.float64]

STEP = 0.25
#: of some dozens of causes one must explain the residuals this much better than the tolerances do; half as sure, a hint
STRONG, HINT = np.log(40.0), np.log(6.0)
CLEARER = np.log(1.6)  # and this much better than the next, else both are named
#: causes that move the readings alike, by this cosine, are named together unless one is this much likelier
ALIKE, ALIKE_CLEARER = 0.95, np.log(20.0)
MOST_NAMED = 3
#: watts that a meter read are known to this share (standard deviation)
METERED_SPREAD = 0.05
#: what every reading may be off beside its band, K (standard deviation)
READING_K = 0.2
#: readings that nobody took: what such a one would be known to, K or share, and how far apart two causes must put it
READ_TO_K, READ_TO_SHARE, PARTS_AT = 1.0, 0.05, 3.0


@dataclass(frozen=True)
class HopSuspect:
    """A cause that would explain the residuals; ``change`` is its strength, 0.4 = a resistance 40 % higher.

    One that is not ``sure`` may as well be chance: faultless machines show as much in one of ten.
    """

    address: str
    name: str
    change: float
    evidence: float
    says: str
    sure: bool


@dataclass(frozen=True)
class ReadNext:
    """A reading that nobody took: its role, "" where no field of a run has it, and its name."""

    role: str
    name: str


@dataclass(frozen=True)
class Suspicion:
    """Suspects, likeliest first, and the one reading not taken that would part the first two."""

    suspects: list[HopSuspect]
    parted_by: ReadNext | None = None


@dataclass(frozen=True)
class Reading:
    """Something that can be read of a machine: its value at each row of a solution, and what it would be known to."""

    read: ReadNext
    values: Array
    known_to: float


@dataclass(frozen=True)
class CauseEffects:
    """What each cause does to the measured roles, K per unit of strength (cause, role), and to all else that can be read."""

    causes: list[Cause]
    of_roles: Array
    others: list[Reading]

    @classmethod
    def of(cls, solved: Solved, case: Case, roles: list[str], overrides: dict[str, float] | None) -> "CauseEffects":
        """In one batch: each cause alone, by STEP."""
        causes = [_as_metered(cause, overrides or {}) for cause in causes_of(solved)]
        moved = solve_cases(solved.build, [case], len(causes), solved.seed, overrides, _draws(solved, causes))
        every = [value_of(moved, role) for role in roles]
        of_roles = np.stack([_effect(causes, values, True) for values in every], axis=1)
        others = [
            Reading(read, _effect(causes, values, kelvins), known_to)
            for read, values, kelvins, known_to in _readable(moved, roles)
        ]
        return cls(causes, of_roles, others)

    def suspicion(self, residual: Array, covariance: Array) -> Suspicion:
        """``residual`` K (role,) and the covariance of what the tolerances and the readings leave open."""
        inverse = np.asarray(np.linalg.inv(covariance), float)
        found = []
        for index, (cause, g) in enumerate(zip(self.causes, self.of_roles, strict=True)):
            strength, evidence = _weighed(cause, g, inverse, residual)
            found.append((evidence, strength, index))
        found.sort(reverse=True)
        if not found or found[0][0] < HINT:
            return Suspicion([])
        alike = self._alike(found[0][2], inverse)
        named = [
            item
            for item in found
            if item[0] > found[0][0] - (ALIKE_CLEARER if alike[item[2]] else CLEARER) and item[0] > 0
        ][:MOST_NAMED]
        sure = bool(found[0][0] >= STRONG)
        suspects = [_suspect(self.causes[index], strength, evidence, sure) for evidence, strength, index in named]
        return Suspicion(suspects, self._parted_by(named) if len(named) > 1 else None)

    def _alike(self, first: int, inverse: Array) -> NDArray[np.bool_]:
        """Causes that the readings cannot part from the first, (cause,)."""
        against = self.of_roles @ inverse @ self.of_roles[first]
        length = np.sqrt(np.einsum("ck,kl,cl->c", self.of_roles, inverse, self.of_roles))
        return np.asarray(np.abs(against) > ALIKE * np.maximum(length * length[first], 1e-30))

    def _parted_by(self, named: list[tuple[float, float, int]]) -> ReadNext | None:
        (_, first, i), (_, second, j) = named[:2]
        apart = [abs(first * r.values[i] - second * r.values[j]) / r.known_to for r in self.others]
        best = int(np.argmax(apart)) if apart else 0
        return self.others[best].read if apart and apart[best] >= PARTS_AT else None


def _as_metered(cause: Cause, overrides: dict[str, float]) -> Cause:
    metered = any(move.address in overrides for move in cause.moves)
    return replace(cause, spread=METERED_SPREAD) if metered else cause


def _draws(solved: Solved, causes: list[Cause]) -> dict[str, Array]:
    draws: dict[str, Array] = {}
    for index, cause in enumerate(causes):
        for move in cause.moves:
            value = solved.table.figures[move.address].value
            column = draws.setdefault(move.address, np.full(len(causes), value))
            column[index] = move.at(value, STEP)
    return draws


def _effect(causes: list[Cause], values: Array, kelvins: bool) -> Array:
    """Change of a value (row 0 central) for a whole unit of each cause; the room moves every temperature as much."""
    effect = (values[1:] - values[0]) / STEP
    if kelvins:
        effect = np.where([cause.address == ROOM for cause in causes], 1.0, effect)
    return np.asarray(effect if kelvins else effect / max(abs(float(values[0])), 1e-12))


def _readable(solved: Solved, taken: list[str]) -> Iterator[tuple[ReadNext, Array, bool, float]]:
    """(reading, values by row, in kelvins, what it would be known to) of everything that nobody read."""
    build = solved.build
    roles = [(f"{place.id}/temperature", place.name or place.id) for place, _ in build.place_owners().values()]
    for loop in build.loops:
        for end, where in (("hot", "hottest"), ("cold", "coolest")):
            roles.append((f"{loop.id}/coolant_{end}", f"the coolant of {loop.name or loop.id} at its {where}"))
    roles += [(f"{zone.id}/air", zone.name or zone.id) for zone in build.zones if zone.kind == "box"]
    for role, name in roles:
        if role not in taken:
            yield ReadNext(role, f"the temperature of {name}"), value_of(solved, role), True, READ_TO_K
    for loop in build.loops:
        yield (
            ReadNext(f"{loop.id}/flow", f"the flow of {loop.name or loop.id}"),
            loop_flow(solved, loop),
            False,
            READ_TO_SHARE,
        )
    flow, solution = solved.structure.air, solved.solution.air
    if flow is not None and solution is not None:
        for path in build.air_paths:
            through = solution.mass_flow[:, start_edges(flow, path.id)].sum(axis=1)
            yield ReadNext("", f"the air through {path.name or path.id}"), through, False, READ_TO_SHARE


def _weighed(cause: Cause, g: Array, inverse: Array, residual: Array) -> tuple[float, float]:
    """Likeliest strength, and log of how much likelier the residuals are with the cause than without."""
    variance = cause.spread**2
    information = variance * float(g @ inverse @ g)
    strength = variance * float(g @ inverse @ residual) / (1 + information)
    evidence = 0.5 * (strength**2 * (1 + information) / variance - np.log1p(information))
    if cause.one_sided:  # a half normal: twice as dense where it can be, and only there
        evidence += np.log(2.0) + float(log_ndtr(strength * np.sqrt(1 + information) / cause.spread))
        strength = max(strength, 0.0)
    return strength, float(evidence)


def _suspect(cause: Cause, strength: float, evidence: float, sure: bool) -> HopSuspect:
    if cause.address == ROOM:
        change = f"{abs(strength):.1f} K {'warmer' if strength > 0 else 'cooler'}"
    else:
        change = f"{100 * abs(strength):.0f} % {'higher' if strength > 0 else 'lower'}"
    less = f"{100 * (1 - 1 / (1 + max(strength, 0.0))):.0f} % smaller"
    says = cause.says.format(change=change, less=less, points=f"{100 * strength:.0f} %")
    return HopSuspect(cause.address, cause.name, strength, evidence, says, sure)
