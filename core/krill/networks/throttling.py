"""Sources that give up watts where a place of theirs would pass its throttle limit.

0 <= P_full - P, T <= T_limit, and one of the two is met exactly: a complementarity for each source, in kept shares of its
watts. Places of a round's temperatures are linear in the shares; projected Gauss-Seidel finds which hold.
"""

from typing import Final

import numpy as np
from numpy.typing import NDArray

from krill.components.figure_table import Values
from krill.document.parts import Place, Source
from krill.networks.states import MachineStates, Shares
from krill.networks.structure import Structure

Array = NDArray[np.float64]

SWEEPS: Final = 40
SETTLED: Final = 1e-9
#: a place is warmed by its own source by this much at least, K over all of its watts
LEAST_WARMED_K: Final = 1e-6


class Throttling:
    """Which sources of a build may throttle, and at which nodes they are held."""

    def __init__(self, structure: Structure, values: Values, states: MachineStates) -> None:
        self._structure, self._states, self._values = structure, states, values
        may = bool(states.may_throttle.any())
        self._sources = {part.id: part for part in structure.build.parts if isinstance(part, Source)} if may else {}
        held = {source: self._places(part) for source, part in self._sources.items()}
        self._held = {source: places for source, places in held.items() if places}

    def places_of(self, source: str) -> list[str]:
        """Places at which a source is held."""
        return [place.id for place in self._throttling(self._sources[source])]

    def _throttling(self, part: Source) -> list[Place]:
        return [
            place
            for place in part.places
            if place.throttles
            and any(limit.kind == "throttle" for limit in place.limits)
            and place.id in self._structure.node_of
        ]

    def _places(self, part: Source) -> list[tuple[int, Array]]:
        """Nodes of the places that throttle, and the limit of each, C."""
        return [
            (self._structure.node_of[place.id], self._values(f"{place.id}/at_c/throttle"))
            for place in self._throttling(part)
        ]

    def __bool__(self) -> bool:
        return bool(self._held)

    def concerns(self, T: Array, kept: Shares, beyond_k: Shares | None = None) -> bool:
        """Whether any place passes its limit by more than ``beyond_k``, or any source is held back."""
        if any((share < 1.0).any() for share in kept.values()):
            return True
        less = beyond_k or {}
        return any(bool(np.any(over > less.get(source, 0.0))) for source, over in self.over_k(T).items())

    def over_k(self, T: Array) -> Shares:
        """By how much the place of a source that is worst off passes its limit, K (batch,); below it, less than nothing."""
        return {
            source: np.maximum.reduce([T[:, node] - limit for node, limit in places])
            for source, places in self._held.items()
        }

    def of_firmware(self, quantity: str, missing: float) -> Shares:
        """What a source's firmware is told by, of its place with the least of it, (batch,); ``missing`` if unstated."""
        batch = self._values.batch
        return {
            source: np.minimum.reduce(
                [np.broadcast_to(self._values(f"{place.id}/{quantity}", missing), batch) for place in places]
            )
            for source, places in ((source, self._throttling(self._sources[source])) for source in self._held)
        }

    def meets(self, start: Array, end: Array) -> float | None:
        """Share of the way between two temperatures (node,) at which the first place meets its limit; None: none does."""
        shares = [
            (limit_c - start[node]) / (end[node] - start[node])
            for places in self._held.values()
            for node, limit in places
            if start[node] < (limit_c := float(np.ravel(limit)[0])) < end[node]
        ]
        return min(shares, default=None)

    def full_power(self) -> dict[str, Array]:
        """Watts of each source that may throttle on the heat nodes, (batch, node), at all of its watts."""
        structure, states = self._structure, self._states
        return {
            source: states.source_power(structure, self._sources[source], states.watts(source)) for source in self._held
        }

    def kept(self, before: Shares, T: Array, warmed: dict[str, Array], beyond_k: Shares | None = None) -> Shares:
        """Shares that hold every limit, from the temperatures T (batch, node) at the shares before.

        ``warmed`` says by how much all of a source's watts warm each node, K (batch, node). The places of a source may
        pass their limits by its ``beyond_k``, K (batch,).
        """
        new, less = dict(before), beyond_k or {}
        for _ in range(SWEEPS):
            moved = 0.0
            for source in self._held:
                share = self._of_one(source, before, new, T, warmed, less.get(source, 0.0))
                moved = max(moved, float(np.max(np.abs(share - new[source]))))
                new[source] = share
            if moved < SETTLED:
                break
        return new

    def _of_one(
        self, source: str, before: Shares, now: Shares, T: Array, warmed: dict[str, Array], beyond_k: Array | float
    ) -> Array:
        """The share of one source that holds its limits, and no more than K beyond, while the others keep theirs, (batch,)."""
        others = [other for other in self._held if other != source]
        rooms = []
        for node, limit in self._held[source]:
            reached = T[:, node]
            for other in others:
                reached = reached + warmed[other][:, node] * (now[other] - before[other])
            own = np.maximum(warmed[source][:, node], LEAST_WARMED_K)
            rooms.append(before[source] + (limit + beyond_k - reached) / own)
        share = np.clip(np.minimum.reduce(rooms), 0.0, 1.0)
        return np.where(self._states.may_throttle, share, 1.0)

    def start(self, batch: int) -> Shares:
        """All of their watts."""
        return {source: np.ones(batch) for source in self._held}
