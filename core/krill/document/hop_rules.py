"""Hops that cannot be: one rule per kind of hop, and what stands on the way of a route and at its end."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import cached_property
from typing import Final

from krill.document.build import Build, Hop, Route, leaves
from krill.document.kinds import kinds_with
from krill.document.part_base import Part
from krill.errors import Problem

#: kinds that a route goes through; all others end it
ON_THE_WAY: Final = ("interface", "spreader", "pipes")


@dataclass(frozen=True)
class _Where:
    """What the rules of hops look things up in."""

    build: Build

    @cached_property
    def in_loops(self) -> set[str]:
        return {item for loop in self.build.loops for item in leaves(loop.elements)}

    @cached_property
    def in_paths(self) -> set[str]:
        return {item for path in self.build.air_paths for item in leaves(path.elements)}

    def part(self, hop: Hop) -> Part | None:
        found: Part | None = self.build.part(hop.part) if hop.part else None
        return found


def hop_problems(build: Build) -> Iterator[Problem]:
    """Every hop that cannot be, route by route."""
    where = _Where(build)
    for route in build.routes:
        for hop in route.hops:
            yield from _order(route, hop)
            yield from RULES[hop.kind](where, hop)


def _order(route: Route, hop: Hop) -> Iterator[Problem]:
    """Something to go through before the end, something to end in at it."""
    last = hop is route.hops[-1]
    if last and hop.kind == "pipes":
        yield Problem(hop.id, "the route ends in its pipes", "a body, an interface or a block behind them")
    elif last and hop.kind in ON_THE_WAY:
        yield Problem(hop.id, "the route ends nowhere", "a plate, a stream, an air hop or a body at its end")
    if not last and hop.kind not in ON_THE_WAY:
        what = f"a hop of kind {hop.kind} ends the route"
        yield Problem(hop.id, what, "interfaces, blocks and pipes before it, nothing after it")


def _is_of(where: _Where, hop: Hop, kinds: tuple[str, ...], allowed: str) -> Iterator[Problem]:
    part = where.part(hop)
    kind = getattr(part, "kind", None)
    if kind not in kinds:
        yield Problem(f"{hop.id}/part", f"{hop.part!r} is {kind or 'not given'}", allowed)


def _interface(where: _Where, hop: Hop) -> Iterator[Problem]:
    yield from _is_of(where, hop, ("interface",), "a part of kind interface")


def _spreader(where: _Where, hop: Hop) -> Iterator[Problem]:
    yield from _is_of(where, hop, ("spreader",), "a part of kind spreader")


def _pipes(where: _Where, hop: Hop) -> Iterator[Problem]:
    if not hop.parts:
        yield Problem(f"{hop.id}/parts", "missing", "one or more parts of kind heat_pipe")
    for item in hop.parts:
        if where.build.part(item).kind != "heat_pipe":
            yield Problem(f"{hop.id}/parts", f"'{item}' is not a heat pipe", "parts of kind heat_pipe")


def _plate(where: _Where, hop: Hop) -> Iterator[Problem]:
    wrong = list(_is_of(where, hop, ("plate",), "a part of kind plate"))
    yield from wrong
    if not wrong and hop.part not in where.in_loops:
        yield Problem(f"{hop.id}/part", f"plate '{hop.part}' sits in no loop", "a plate that a loop lists")


def _stream(where: _Where, hop: Hop) -> Iterator[Problem]:
    kinds = kinds_with("takes_routes")
    wrong = list(_is_of(where, hop, kinds, ", ".join(kinds)))
    yield from wrong
    if wrong:
        return
    kind = getattr(where.part(hop), "kind", "")
    if hop.part not in where.in_paths:
        yield Problem(f"{hop.id}/part", f"'{hop.part}' stands in no air path", "a part that an air path lists")
    elif kind in ("obstacle", "duct") and hop.resistance_k_w is None:
        yield Problem(f"{hop.id}/resistance_k_w", "missing", f"a resistance, which a {kind} does not have of itself")


def _air(where: _Where, hop: Hop) -> Iterator[Problem]:
    if hop.zone is None:
        yield Problem(f"{hop.id}/zone", "missing", "the zone whose air takes the heat")


def _body(where: _Where, hop: Hop) -> Iterator[Problem]:
    yield from _is_of(where, hop, ("sink", "panel"), "a part of kind sink or panel")


RULES: Final[dict[str, Callable[[_Where, Hop], Iterator[Problem]]]] = {
    "interface": _interface,
    "spreader": _spreader,
    "pipes": _pipes,
    "plate": _plate,
    "stream": _stream,
    "air": _air,
    "body": _body,
}
