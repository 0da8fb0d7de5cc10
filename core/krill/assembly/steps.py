"""Steps that a build's parts ask for, each part in exactly one, and the gates between them."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Final, get_args

from krill.catalogue.work import StepClass, gate_classes, step_classes
from krill.document.assembly import CUT, LEADS_OF, PREPARE
from krill.document.build import Build, in_one_piece, leaves
from krill.document.leads import Lead
from krill.document.part_base import Face, Part
from krill.document.parts import AnyPart, Fan, Radiator, Source, Supply

#: beginnings of the classes of places by what their source is
_ROLES: Final = (
    ("lidded_", "processor"),
    ("graphics_", "card"),
    ("memory_", "memory"),
    ("drive_", "drive"),
    ("board_", "board"),
    ("regulators_", "board"),
    ("chipset", "board"),
    ("network_chip", "board"),
)
#: kinds of part that stand in steps of their own kind
_BY_KIND: Final = {
    "supply": "supply",
    "cooler": "cooler",
    "sink": "sink",
    "panel": "panel",
    "heat_pipe": "heat_pipe",
    "spreader": "spreader",
    "pump": "pump",
    "reservoir": "reservoir",
    "radiator": "radiator",
    "fan": "fan",
    "duct": "duct",
}
#: kinds of part that close a face
_OF_PANELS: Final = ("opening", "filter", "gap", "obstacle")
#: classes of places that stand for the board that they are on
_OF_THE_BOARD: Final = ("board_regulators", "board_chips", "regulators_still", "chipset", "network_chip")
_TUBING: Final = ("tube", "fitting", "coupling")
_IN_LOOP: Final = ("flow_meter", "strainer")
#: what is pressed on something, with what lies between
_PRESSED: Final = ("plate", "cooler", "sink", "panel", "spreader", "heat_pipe")
FRONT_LEADS: Final = ("front_port", "front_port_small")


@dataclass(frozen=True, slots=True)
class Step:
    """A step or gate as proposed: what goes in with it, from which side, in minutes at it.

    A gate sees the steps of ``sees``; one that is watched takes ``watch_h`` hours by itself.
    """

    id: str
    kind: str
    name: str
    items: tuple[str, ...] = ()
    tool: str = ""
    side: str = ""
    minutes: float = 0.0
    torque_nm: float | None = None
    note: str = ""
    gate: bool = False
    sees: tuple[str, ...] = ()
    watch_h: float | None = None
    looks_h: tuple[float, ...] = ()


class Parts:
    """The parts of a build by what they are to whoever puts it together."""

    def __init__(self, build: Build) -> None:
        self.build = build

    def role(self, part: AnyPart) -> str:
        """The kind of step that a part goes in with."""
        if isinstance(part, Source):
            return self.role_of_source(part)
        if part.kind == "plate":
            return "card_plate" if self.presses_on(part.id, "card") else "processor_plate"
        return _BY_KIND.get(part.kind, "other")

    def role_of_source(self, source: Source) -> str:
        """Processor, card, memory, drive, board, or just a source."""
        for place in source.places:
            for start, role in _ROLES:
                if (place.class_ or "").startswith(start):
                    return role
        return "source"

    def sources(self, role: str) -> list[Source]:
        """The sources of a role."""
        return [part for part in self.build.parts if isinstance(part, Source) and self.role_of_source(part) == role]

    @cached_property
    def pressed_by(self) -> dict[str, list[str]]:
        """Source -> parts that are pressed on it, the first on its ways."""
        found: dict[str, list[str]] = {}
        owners = self.build.place_owners()
        for route in self.build.routes:
            source = owners[route.place][1].id
            for part in (part for hop in route.hops for part in self._parts_of(hop.part, hop.parts)):
                if self.build.part(part).kind in _PRESSED and not is_board(self.build.part(part)):
                    found.setdefault(source, []).append(part)
                    break
        return found

    @cached_property
    def lies_under(self) -> dict[str, str]:
        """Interface -> the part that is pressed on it, or the source where nothing is."""
        found: dict[str, str] = {}
        owners = self.build.place_owners()
        for route in self.build.routes:
            ways = [part for hop in route.hops for part in self._parts_of(hop.part, hop.parts)]
            for at, part in enumerate(ways):
                if self.build.part(part).kind == "interface":
                    on = (other for other in ways[at + 1 :] if self.build.part(other).kind in _PRESSED)
                    found.setdefault(part, next(on, owners[route.place][1].id))
        return found

    @cached_property
    def board(self) -> str | None:
        """The source that stands for the board: the first of those that are on it."""
        return next((source.id for source in self.sources("board")), None)

    def goes_with(self, part: AnyPart) -> str | None:
        """The source that a part comes with: the board with what is on it, a card with its own cooler."""
        if is_board(part) or (isinstance(part, Source) and self.role_of_source(part) == "board"):
            return self.board
        if part.kind == "cooler" and (part.class_ or "").startswith("cooler_graphics"):
            return next((source for source, parts in self.pressed_by.items() if part.id in parts), None)
        return None

    def is_wall(self, part: AnyPart) -> bool:
        """A panel that nothing is pressed on: a wall of the housing."""
        return part.kind == "panel" and not any(part.id in parts for parts in self.pressed_by.values())

    def presses_on(self, part: str, role: str) -> bool:
        """Whether a part is pressed on a source of a role."""
        owners = {source.id for source in self.sources(role)}
        return any(part in parts for source, parts in self.pressed_by.items() if source in owners)

    @staticmethod
    def _parts_of(part: str | None, parts: list[str]) -> list[str]:
        return [*([part] if part else []), *parts]

    @cached_property
    def screwed_to(self) -> dict[str, str]:
        """Fan -> the radiator or cooler of its air path that it is screwed to; through a duct it is screwed to none."""
        found: dict[str, str] = {}
        for path in self.build.air_paths:
            parts = [self.build.part(item) for item in leaves(path.elements)]
            bodies = [part.id for part in parts if part.kind in ("radiator", "cooler")]
            if bodies and not any(part.kind == "duct" for part in parts):
                found |= {part.id: bodies[0] for part in parts if isinstance(part, Fan)}
        return found

    def fans_of(self, body: str) -> tuple[str, ...]:
        """Fans that are screwed to a radiator or cooler."""
        return tuple(fan for fan, on in self.screwed_to.items() if on == body)

    def supply_leads(self, supply: str) -> list[Lead]:
        """Leads that begin or end at a supply."""
        return [lead for lead in self.build.leads if supply in (lead.from_part, lead.to_part)]

    def front_leads(self) -> list[Lead]:
        """Leads of the front's ports and buttons."""
        return [lead for lead in self.build.leads if lead.class_ in FRONT_LEADS]


def is_board(part: AnyPart) -> bool:
    """The board itself, or what leads heat into it: nobody puts it in by itself."""
    if part.kind == "spreader":
        return (part.class_ or "").startswith("link_")
    return part.kind == "panel" and part.material == "circuit_board"


def proposed_steps(build: Build) -> list[Step]:
    """Every step and gate that the parts ask for, in the order of common practice, before any rule is kept."""
    parts = Parts(build)
    made = [*_making(build), *_work(parts), *_loops(parts), _closing(parts)]
    steps = [step for step in made if step.items or step.kind in ("firmware", "cut", "close")]
    with_leads = _leads_go_with(parts, _companions(parts, _as_one_piece(parts, steps)))
    return _with_gates(parts, with_leads)


def step(kind: str, step_id: str, name: str = "", items: tuple[str, ...] = (), times: float = 1.0) -> Step:
    """A step by its class; minutes so many times."""
    known: StepClass = step_classes()[kind]
    return Step(
        id=step_id,
        kind=kind,
        name=name or known.name,
        items=items,
        tool=known.tool,
        minutes=known.minutes * times,
        torque_nm=known.torque_nm,
        note=known.note,
    )


def _named(kind: str, part: Part) -> str:
    """The class's words, and the part's own where they say more."""
    words, own = step_classes()[kind].name, part.name or part.id
    return words if own.lower() in words.lower() else f"{words}: {own}"


def _making(build: Build) -> Iterator[Step]:
    """What is cut and printed before anything goes in."""
    for face in get_args(Face):
        mouths = [part for part in build.parts if part.face == face and part.has_mouth]
        if mouths and face not in build.housing.closed_faces:
            yield step("cut", f"{CUT}{face}", f"Mark out and cut the {face}", times=len(mouths))
    for part in build.parts:
        if part.plastic is not None:
            yield step("print", f"{PREPARE}{part.id}", f"Print: {part.name or part.id}", (f"{PREPARE}{part.id}",))


def _work(parts: Parts) -> Iterator[Step]:
    """What goes in, in the order of common practice."""
    if parts.sources("processor") and parts.sources("board"):
        yield step("firmware", "firmware")
    for sheet in parts.build.insulators:
        yield step("insulator", sheet.id, items=(sheet.id,))
    yield from _brackets(parts)
    yield from _supplies(parts)
    yield from _sources(parts, "processor", "board")
    front = parts.front_leads()
    if front:
        yield step("front_leads", front[0].id, items=tuple(lead.id for lead in front))
    yield from _sources(parts, "memory", "drive", "source")
    yield from _pressed(parts, on_cards=True)
    yield from _sources(parts, "card")
    yield from _pressed(parts, on_cards=False)
    yield from _moving(parts)


def _brackets(parts: Parts) -> Iterator[Step]:
    for part in parts.build.parts:
        if parts.role(part) in ("cooler", "processor_plate") and parts.presses_on(part.id, "processor"):
            made = f"{PREPARE}{part.id}"
            yield step("bracket", made, f"Back bracket and frame: {part.name or part.id}", (made,))


def _supplies(parts: Parts) -> Iterator[Step]:
    for part in parts.build.parts:
        if isinstance(part, Supply):
            leads = parts.supply_leads(part.id)
            if leads:
                yield step("supply_leads", f"{LEADS_OF}{part.id}", items=tuple(lead.id for lead in leads))
            yield step("supply", part.id, _named("supply", part), (part.id,))


def _pressed(parts: Parts, on_cards: bool) -> Iterator[Step]:
    """Plates, coolers, sinks, panels, blocks and pipes with what lies under them."""
    for part in parts.build.parts:
        kind = parts.role(part)
        apart = parts.goes_with(part) is None and not parts.is_wall(part)
        if part.kind in _PRESSED and apart and (kind == "card_plate") is on_cards:
            yield step(kind, part.id, _named(kind, part), _with_interfaces(parts, part.id))


def _moving(parts: Parts) -> Iterator[Step]:
    """Radiators with the fans on them, other fans, pumps, reservoirs, ducts, what else stands in a loop."""
    along = frozenset().union(*in_one_piece(parts.build.loops))
    for part in parts.build.parts:
        if isinstance(part, Radiator):
            fans = parts.fans_of(part.id)
            words = "radiator" if not fans else "radiator and its fan" if len(fans) == 1 else "radiator and its fans"
            made = step("radiator", part.id, f"{part.name or part.id}: {words}", (part.id, *fans))
            yield replace(made, side=part.face or "")
        elif isinstance(part, Fan) and part.id not in parts.screwed_to:
            yield replace(step("fan", part.id, _named("fan", part), (part.id,)), side=part.face or "")
        elif part.id in along:
            continue
        elif part.kind in ("pump", "reservoir", "duct"):
            yield step(part.kind, part.id, _named(part.kind, part), (part.id,))
        elif part.kind in _IN_LOOP:
            yield step("loop_part", part.id, f"{part.name or part.id} into the loop", (part.id,))


def _sources(parts: Parts, *roles: str) -> Iterator[Step]:
    """Sources of the roles, with the interfaces that nothing is pressed on."""
    for role in roles:
        for part in (source for source in parts.sources(role) if parts.goes_with(source) in (None, source.id)):
            if role == "drive" and any(parts.lies_under.get(other) for other in _interfaces_of(parts, part.id)):
                made = f"{PREPARE}{part.id}"
                yield step("labels_off", made, f"Label off: {part.name or part.id}", (made,))
            on_it = any((place.class_ or "") in _OF_THE_BOARD for place in part.places)
            name = "" if on_it else _named(role, part)
            yield step(role, part.id, name, _with_interfaces(parts, part.id))


def _interfaces_of(parts: Parts, source: str) -> list[str]:
    owners = parts.build.place_owners()
    hops = [hop for route in parts.build.routes if owners[route.place][1].id == source for hop in route.hops]
    return [hop.part for hop in hops if hop.part and parts.build.part(hop.part).kind == "interface"]


def _with_interfaces(parts: Parts, part: str) -> tuple[str, ...]:
    """A part with the layers that lie under it and the fans that are screwed to it."""
    return (part, *(layer for layer, over in parts.lies_under.items() if over == part), *parts.fans_of(part))


def _as_one_piece(parts: Parts, steps: list[Step]) -> list[Step]:
    """Pump, hoses and what else of a sealed loop has no step of its own go in with its plate, else its radiator."""
    found = list(steps)
    for loop in in_one_piece(parts.build.loops):
        along = {item for item in loop if parts.build.part(item).kind not in (*_PRESSED, "radiator")}
        mine = [i for i, one in enumerate(found) if loop & set(one.items) - along]
        at = min(mine, key=lambda i: (found[i].kind == "radiator", i), default=None)
        if at is not None:
            order = [part.id for part in parts.build.parts if part.id in along]
            found[at] = replace(found[at], items=(*found[at].items, *order))
    return found


def _loops(parts: Parts) -> Iterator[Step]:
    open_loops = [loop for loop in parts.build.loops if not loop.sealed]
    for loop in open_loops:
        ids = [item for item in leaves(loop.elements) if parts.build.part(item).kind in _TUBING]
        if ids:
            made = step("tubes", ids[0], "", tuple(ids))
            yield replace(made, name=f"{loop.name or loop.id}: tubes cut and seated")
    for loop in open_loops:
        yield step("fill", loop.id, f"Fill {loop.name or loop.id}, pump alone powered", (loop.id,))


def _closing(parts: Parts) -> Step:
    closing = (
        part.id
        for part in parts.build.parts
        if part.kind in _OF_PANELS or (parts.is_wall(part) and parts.goes_with(part) is None)
    )
    return step("close", "close-panels", items=tuple(closing))


def _companions(parts: Parts, steps: list[Step]) -> list[Step]:
    """What comes with a source goes in with it, and what lies under that as well."""
    found = list(steps)
    for part in parts.build.parts:
        source = parts.goes_with(part)
        at = next((i for i, one in enumerate(found) if source in one.items), None)
        if at is not None and part.id != source:
            new = (item for item in _with_interfaces(parts, part.id) if item not in found[at].items)
            found[at] = replace(found[at], items=(*found[at].items, *new))
    return found


def _leads_go_with(parts: Parts, steps: list[Step]) -> list[Step]:
    """Leads go in with the step of the part that they come from, where no step of their own has them; parts that no step
    has are put in by one of their own, before the panels are closed."""
    taken = {item for step in steps for item in step.items}
    of_item = {item: at for at, step in enumerate(steps) for item in step.items}
    found = list(steps)
    for lead in parts.build.leads:
        if lead.id in taken:
            continue
        at = of_item.get(lead.from_part, of_item.get(lead.to_part))
        if at is not None:
            found[at] = replace(found[at], items=(*found[at].items, lead.id))
    left = [part for part in parts.build.parts if part.id not in taken]
    own = [step("other", part.id, f"{part.name or part.id} in", (part.id,)) for part in left]
    return [*found[:-1], *own, found[-1]]


def _gate(gate_id: str, sees: list[str]) -> Step:
    known = gate_classes()[gate_id]
    return Step(
        id=gate_id,
        kind="gate",
        name=known.name,
        minutes=known.minutes,
        note=known.note,
        gate=True,
        sees=tuple(dict.fromkeys(sees)),
        watch_h=known.watch_h,
        looks_h=known.looks_h,
    )


def _with_gates(parts: Parts, steps: list[Step]) -> list[Step]:
    """Steps with the gates that they ask for, each where it is usually looked at."""
    of_kind: dict[str, list[str]] = {}
    for one in steps:
        of_kind.setdefault(one.kind, []).append(one.id)

    def ids(*kinds: str) -> list[str]:
        return [step_id for kind in kinds for step_id in of_kind.get(kind, ())]

    computing = ids("processor", "memory", "card", "drive", "board")
    pressed = ids("processor_plate", "cooler")
    blowing = [one.id for one in steps if any(_is_fan(parts, item) for item in one.items)]
    after: dict[str, list[Step]] = {}
    if len(computing) > 1:
        after["firmware" if ids("firmware") else ""] = [_gate("gate-bench-start", computing)]
    if ids("drive"):
        after.setdefault(ids("drive")[-1], []).append(_gate("gate-image", ids("drive")))
    if ids("memory") and pressed:
        after.setdefault(pressed[-1], []).append(_gate("gate-memory-found", [*ids("memory"), *pressed]))
    tail = []
    if ids("insulator"):
        tail.append(_gate("gate-insulated", ids("insulator")))
    if blowing:
        tail.append(_gate("gate-fans-turn", blowing))
    if _is_metal(parts.build) and ids("supply"):
        tail.append(_gate("gate-earth", ids("supply")))
    if computing:
        tail.append(_gate("gate-last-start", []))
    fills = ids("fill")
    if fills:
        after.setdefault(ids("tubes")[-1] if ids("tubes") else "", []).append(_gate("gate-loop-closed", ids("tubes")))
        after[fills[-1]] = [_gate("gate-pump-moves", ids("tubes")), _gate("gate-leak-watch", ids("tubes"))]
    else:
        tail = [*_sealed_gates(parts, steps), *tail]
    found = list(after.get("", []))
    for one in steps:
        found += [*tail, one] if one.kind == "close" else [one]
        found += after.get(one.id, ())
    return found


def _sealed_gates(parts: Parts, steps: list[Step]) -> list[Step]:
    """Of loops that were bought filled: their pump is seen to move coolant once all of them is in."""
    one_piece = frozenset().union(*in_one_piece(parts.build.loops))
    sealed = [one.id for one in steps if one_piece & set(one.items)]
    return [_gate("gate-pump-moves", sealed)] if sealed else []


def _is_fan(parts: Parts, item: str) -> bool:
    owner = parts.build.owner(item)
    return isinstance(owner, Fan)


def _is_metal(build: Build) -> bool:
    material = (build.housing.material or "").lower()
    return any(metal in material for metal in ("steel", "alumin", "brass", "copper", "metal", "iron"))
