"""What may be off in a machine, each as a move of figures: layers, plates, radiators, fans, pumps, pipes, openings, watts.

A cause is one thing that one would go and look at; what it moves, it moves together. Its strength is a share: 0.4 is
a resistance 40 % higher, or a flow that is 1.4 times too small.
"""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from typing import Final

from krill.components.solid_parts import HOT_CORE
from krill.document.addresses import watts_address
from krill.document.build import AirPath, Loop, leaves
from krill.document.parts import Duct, Opening
from krill.document.solids import HeatPipe, Panel, Sink
from krill.networks.structure import PlaceRoute
from krill.prediction.answer.origins import GUESSES
from krill.prediction.answer.solving import Solved

#: standard deviation of what may be off: a guess may be further off than a stated figure, a flow less than a layer
GUESS_SPREAD, STATED_SPREAD = 0.4, 0.3
FLOW_SPREAD, WATTS_SPREAD, ROOM_SPREAD_K, SHARE_SPREAD = 0.4, 0.2, 2.0, 0.2
#: what is blocked, runs dry or stands hollow is off by factors, not by shares
BLOCKED_SPREAD, DRY_SPREAD, HOLLOW_SPREAD = 2.0, 2.0, 2.0

ROOM: Final = "room/air_c"


@dataclass(frozen=True)
class Move:
    """How one figure follows the strength s of a cause: × (1 + s)^power, or + s where it is added."""

    address: str
    power: float = 1.0
    added: bool = False

    def at(self, value: float, strength: float) -> float:
        return value + strength if self.added else float(value * (1.0 + strength) ** self.power)


@dataclass(frozen=True)
class Cause:
    """``says`` tells what it would be, with the strength as a share put in; ``one_sided``: such a thing only gets worse."""

    address: str
    name: str
    says: str
    moves: tuple[Move, ...]
    spread: float
    one_sided: bool = False


#: figure of a place that may be off, by kind of the layer inside it
_OF_PLACE: Final = {
    "hot_core": "hot_core_mm2k_w",
    "package": "package_k_w",
    "chip": "chip_mm2k_w",
    "joint": "joint_mm2k_w",
    "lid": "lid_w_mk",
}
#: figures of the part that a hop goes through, the one that it states
_OF_PART: Final = {
    "interface": ("resistance_mm2k_w", "thickness_mm"),
    "spreader": ("resistance_mm2k_w", "resistance_k_w"),
    "contact": ("resistance_mm2k_w",),
    "plate": ("factor",),
    "stream": ("factor",),
}
#: a larger figure means a smaller resistance
_INVERSE: Final = ("lid_w_mk",)
_RESISTANCE: Final = "a resistance {change} than predicted"


def causes_of(solved: Solved) -> list[Cause]:
    """Everything that can be looked at in a build, in the workload of its first case; each once."""
    every = [
        *(cause for route in solved.structure.routes for cause in _of_route(solved, route)),
        *_radiators(solved),
        *_movers(solved),
        *_passages(solved),
        *_solids(solved),
        *_watts(solved),
        *_recirculations(solved),
        Cause(ROOM, "Room", "a room {change} than written down", (), ROOM_SPREAD_K),
    ]
    known = [cause for cause in every if all(move.address in solved.table.figures for move in cause.moves)]
    return list({cause.address: cause for cause in reversed(known)}.values())[::-1]


def _resistance(solved: Solved, address: str, name: str, power: float = 1.0) -> Cause:
    figure = solved.table.figures.get(address)
    spread = GUESS_SPREAD if figure is not None and figure.origin in GUESSES else STATED_SPREAD
    return Cause(address, name, _RESISTANCE, (Move(address, power),), spread)


def _of_route(solved: Solved, route: PlaceRoute) -> Iterator[Cause]:
    place, owner = route.place, route.place.name or route.place.id
    hot_core = HOT_CORE[solved.cases[0].workload.cores]
    for layer in route.layers:
        if layer.kind in _OF_PLACE:
            field = hot_core if layer.kind == "hot_core" else _OF_PLACE[layer.kind]
            yield _resistance(
                solved, f"{place.id}/{field}", f"{owner}: {layer.name}", -1.0 if field in _INVERSE else 1.0
            )
        elif layer.hop is not None and layer.hop.part and layer.kind in _OF_PART:
            part = solved.build.part(layer.hop.part)
            under = f" under {owner}" if layer.kind == "interface" else ""
            addresses = [f"{part.id}/{field}" for field in _OF_PART[layer.kind]]
            address = next((a for a in addresses if a in solved.table.figures), addresses[0])
            cause = _resistance(solved, address, f"{part.name or part.id}{under}")
            yield replace(cause, spread=HOLLOW_SPREAD) if layer.kind in ("spreader", "contact") else cause


def _radiators(solved: Solved) -> Iterator[Cause]:
    for link in solved.network.pattern.radiators:
        yield _resistance(solved, f"{link.part.id}/factor", f"{link.part.name or link.part.id} (or its dust)", -1.0)


def _movers(solved: Solved) -> Iterator[Cause]:
    """The fans of a path and the pumps of a loop each together: temperatures do not part them."""
    ways: list[AirPath | Loop] = [*solved.build.air_paths, *solved.build.loops]
    for path in ways:
        inside = set(leaves(path.elements))
        movers = [mover for mover in solved.network.states.movers if mover.id in inside]
        if not movers:
            continue
        pumps = movers[0].kind == "pump"
        names = {mover.name or mover.id for mover in movers}
        name = names.pop() if len(names) == 1 else f"{'Pumps' if pumps else 'Fans'} of {path.name or path.id}"
        moves = [Move(f"{mover.id}/flow_factor", -1.0) for mover in movers]
        moves += [Move(f"{mover.id}/pressure_factor", -2.0) for mover in movers]
        blocked = f"{name} (or what blocks {path.name or path.id})" if pumps else name
        yield Cause(moves[0].address, blocked, "a flow {less} than predicted", tuple(moves), FLOW_SPREAD, True)


def _passages(solved: Solved) -> Iterator[Cause]:
    """Openings and ducts that let less through: their loss grows, their free area shrinks."""
    for part in solved.build.parts:
        if isinstance(part, Opening | Duct):
            area = f"{part.id}/free_area_share"
            moves = [Move(f"{part.id}/loss"), *([Move(area, -1.0)] if area in solved.table.figures else [])]
            name = part.name or part.id
            yield Cause(
                moves[0].address, name, "a flow loss {change} than predicted", tuple(moves), BLOCKED_SPREAD, True
            )


def _solids(solved: Solved) -> Iterator[Cause]:
    for part in solved.build.parts:
        name = part.name or part.id
        if isinstance(part, HeatPipe):
            moves = tuple(Move(f"{part.id}/{field}") for field in ("evaporator_k_w", "condenser_k_w"))
            yield Cause(moves[0].address, name, _RESISTANCE, moves, DRY_SPREAD, True)
        if isinstance(part, Sink | Panel):
            yield _resistance(solved, f"{part.id}/factor", name, -1.0)
    for bond in solved.build.bonds:
        yield _resistance(solved, f"{bond.id}/joint_mm2k_w", f"Seam {bond.id}")


def _watts(solved: Solved) -> Iterator[Cause]:
    for part in solved.build.heat_sources():
        address = watts_address(solved.cases[0].workload.id, part.id)
        yield Cause(
            address, f"Watts of {part.name or part.id}", "watts {change} than stated", (Move(address),), WATTS_SPREAD
        )


def _recirculations(solved: Solved) -> Iterator[Cause]:
    names = {path.id: path.name or path.id for path in solved.build.air_paths}
    for item in solved.build.recirculations:
        address, says = f"{item.id}/recirculated_share", "{points} more of the exhaust recirculates"
        name = f"Recirculation into {names[item.intake]}"
        yield Cause(address, name, says, (Move(address, added=True),), SHARE_SPREAD, True)
