"""Do two runs agree with themselves? K/W of what was not changed between them, and the heat of the coolant.

A part over its coolant or air by its own watts is the same in both runs unless something else changed: the load, what the
figure is, whether it had settled, the flow, the mount. Asked in that order.
"""

from dataclasses import dataclass
from math import hypot
from typing import Final

from krill.document.addresses import watts_address
from krill.document.build import Build
from krill.document.reading import write_object
from krill.networks.structure import PlaceRoute
from krill.prediction.answer.solving import Solved
from krill.runs.as_run import value_of
from krill.runs.verdict import Measured, name_of

#: a K/W that differs by more than this share, and beyond the band of its readings, was not measured alike
CHANGED_SHARE: Final = 0.15
#: watts of a run: a meter's own doubt, or a figure that nobody read (half widths of 90 %, shares)
METERED, STATED = 0.03, 0.08
REASONS: Final = ("load", "statistic", "settled", "flow", "mount")


@dataclass(frozen=True)
class HopOfRun:
    """K/W of a part over its coolant or air in one run, with the half width of 90 %."""

    k_w: float
    half: float


@dataclass(frozen=True)
class Inconsistency:
    """A hop that nothing was changed in and that two runs give differently; until it is explained the pair ranks nothing."""

    role: str
    name: str
    over: str
    first_k_w: float
    second_k_w: float
    change_share: float
    says: str


def inconsistencies(
    first: Solved, second: Solved, measured: tuple[list[Measured], list[Measured]], known: tuple[set[str], set[str]]
) -> list[Inconsistency]:
    """Hops that both runs read at both ends; ``known`` are the addresses that each run's figures were read of."""
    found = []
    routes = {route.place.id: route for route in second.structure.routes}
    for route in first.structure.routes:
        other = routes.get(route.place.id)
        if other is None or not _same_hops(first.build, second.build, route, other):
            continue
        for beneath in _beneath(route):
            a = _hop(first, route, beneath, measured[0], known[0])
            b = _hop(second, other, beneath, measured[1], known[1])
            if a is not None and b is not None:
                expected = _expected(second, other, beneath) / max(_expected(first, route, beneath), 1e-9)
                found += _held(first, route, beneath, a, b, expected)
    return found


def _beneath(route: PlaceRoute) -> list[str]:
    """Roles that a part's way ends in."""
    if route.loop:
        return [f"{route.loop}/coolant_hot", f"{route.loop}/coolant_cold"]
    return [f"{route.zone}/air"] if route.zone else []


def _same_hops(first: Build, second: Build, route: PlaceRoute, other: PlaceRoute) -> bool:
    """Whether nothing between a part and its coolant or air is another thing in the second build."""
    pieces = [_pieces(build, way) for build, way in ((first, route), (second, other))]
    return pieces[0] == pieces[1]


def _pieces(build: Build, route: PlaceRoute) -> list[object]:
    whole = write_object(build)
    parts = {part["id"]: part for part in whole["parts"]}
    names = [layer.hop.part for layer in route.layers if layer.hop is not None and layer.hop.part]
    return [route.place.model_dump(mode="json"), [parts.get(name) for name in names]]


def _hop(solved: Solved, route: PlaceRoute, beneath: str, measured: list[Measured], known: set[str]) -> HopOfRun | None:
    by_role = {m.role: m for m in measured}
    hot, cold = by_role.get(f"{route.place.id}/temperature"), by_role.get(beneath)
    if hot is None or cold is None:
        return None
    source = solved.build.place_owners()[route.place.id][1].id
    watts = float(solved.network.states.watts(source)[0])
    if watts <= 0:
        return None
    address = watts_address(solved.cases[0].workload.id, source)
    share = METERED if address in known else STATED
    drop = hot.value - cold.value
    half = hypot(hot.half_width, cold.half_width, share * drop) / watts
    return HopOfRun(drop / watts, half)


def _expected(solved: Solved, route: PlaceRoute, beneath: str) -> float:
    """K/W of the hop by the model, in the run's own state."""
    source = solved.build.place_owners()[route.place.id][1].id
    drop = value_of(solved, f"{route.place.id}/temperature")[0] - value_of(solved, beneath)[0]
    return float(drop) / max(float(solved.network.states.watts(source)[0]), 1e-9)


def _held(
    solved: Solved, route: PlaceRoute, beneath: str, a: HopOfRun, b: HopOfRun, expected: float
) -> list[Inconsistency]:
    """``expected`` is by how much the model lets the hop change, as speeds and flow did."""
    if a.k_w <= 0 or expected <= 0:
        return []
    change = b.k_w / a.k_w / expected - 1.0
    doubt = hypot(a.half / a.k_w, b.half / max(b.k_w, 1e-9))
    if abs(change) <= max(CHANGED_SHARE, doubt):
        return []
    role = f"{route.place.id}/temperature"
    name, over = name_of(solved, role), name_of(solved, beneath)
    says = (
        f"{name} over {over} changed by {100 * change:+.0f} % ({a.k_w:.2f} to {b.k_w:.2f} K/W) though nothing there was "
        f"changed: {', '.join(REASONS[:-1])} or {REASONS[-1]}?"
    ).replace("-", "−")
    return [Inconsistency(role, name, over, a.k_w, b.k_w, change, says)]
