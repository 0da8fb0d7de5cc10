"""Slots, gaps that they leave, contacts under plates, leads and what holds: references that end somewhere, nothing stated
twice."""

from collections.abc import Callable, Iterator
from typing import Final, get_args

from krill.document.build import Build
from krill.document.fit import Layer, parts_in
from krill.document.holding import GLUED, Holding, NearHeat
from krill.document.part_base import Face
from krill.document.parts import Gap, Obstacle, Tube
from krill.document.solids import Interface
from krill.errors import Problem

#: problems of ids that are not there: where they stand, the ids, what they should be of
Missing = Callable[[str, list[str], str], Iterator[Problem]]

#: parts with a position in one housing
MOST_PLACED: Final = 500
#: of a part's outline, where it stands and how it is turned
MOST_MM: Final = 1e4
MOST_DEG: Final = 360.0
#: thicker is no lead or tube
MOST_OUTSIDE_MM: Final = 200.0


def fit_references(build: Build, missing: Missing) -> Iterator[Problem]:
    """Ids that slots, gaps and contacts name."""
    for slot in build.slots:
        yield from missing(f"{slot.id}/stack", [item for item in parts_in(slot) if item], "part")
    for part in build.parts:
        if isinstance(part, Gap):
            yield from missing(f"{part.id}/slot", [part.slot] if part.slot else [], "slot")
    for contact in build.contacts:
        yield from missing(f"{contact.id}/plate", [contact.plate] if contact.plate else [], "part")
        for joint in contact.joints:
            yield from missing(f"{joint.id}/interface", [joint.interface] if joint.interface else [], "part")
    yield from _lead_references(build, missing)
    for holding in build.holdings:
        yield from missing(f"{holding.id}/parts", holding.parts, "part")


def _lead_references(build: Build, missing: Missing) -> Iterator[Problem]:
    for lead in build.leads:
        yield from missing(f"{lead.id}/from_part", [lead.from_part], "part")
        yield from missing(f"{lead.id}/to_part", [lead.to_part], "part")
        yield from missing(f"{lead.id}/tube", [lead.tube] if lead.tube else [], "part")
    for part in build.parts:
        if isinstance(part, Obstacle):
            yield from missing(f"{part.id}/leads", part.leads, "lead")
    for sheet in build.insulators:
        for field, side in (("first", sheet.first), ("second", sheet.second)):
            if side not in get_args(Face):
                yield from missing(f"{sheet.id}/{field}", [side], "part")
    for loop in build.loops:
        yield from missing(f"{loop.id}/fill", [loop.fill] if loop.fill else [], "part")
        yield from missing(f"{loop.id}/drain", [loop.drain] if loop.drain else [], "part")


def fit_problems(build: Build) -> Iterator[Problem]:
    """What contradicts itself: a length stated twice or not at all, one layer in two joints."""
    placed = sum(part.outline is not None and part.outline.position_mm is not None for part in build.parts)
    if placed > MOST_PLACED:
        yield Problem("parts", f"{placed} of them have a position", f"up to {MOST_PLACED}: each is held against each")
    yield from _outlines(build)
    yield from _stacks(build)
    yield from _gaps(build)
    yield from _contacts(build)
    yield from _leads(build)
    yield from _held(build)


def _outlines(build: Build) -> Iterator[Problem]:
    """Sizes and places that are beyond what stands in a housing are slips of the unit."""
    for part in build.parts:
        if part.outline is None:
            continue
        told = {"size_mm": MOST_MM, "position_mm": MOST_MM, "rotation_deg": MOST_DEG}
        for field, most in told.items():
            for value in getattr(part.outline, field) or ():
                if abs(float(value)) > most:
                    yield Problem(f"{part.id}/outline/{field}", f"{float(value):g}", f"up to {most:g} either way")
        if part.outline.plus_minus_mm is not None and float(part.outline.plus_minus_mm) > MOST_MM:
            yield Problem(
                f"{part.id}/outline/plus_minus_mm", f"{part.outline.plus_minus_mm:g}", f"up to {MOST_MM:g} mm"
            )


def _stacks(build: Build) -> Iterator[Problem]:
    for slot in build.slots:
        named: set[str] = set()
        for at, (part, item) in enumerate(zip(parts_in(slot), slot.stack, strict=True)):
            if part in named:
                yield Problem(f"{slot.id}/stack", f"'{part}' stands in it twice", "each part once")
            if part is not None:
                named.add(part)
            elif isinstance(item, Layer) and item.thickness_mm is None:
                yield Problem(f"{slot.id}/thickness_mm/{at}", "nothing says how thick it is", "a thickness, or a part")


def _gaps(build: Build) -> Iterator[Problem]:
    taken: dict[str, str] = {}
    for part in build.parts:
        if not isinstance(part, Gap):
            continue
        if (part.gap_mm is None) == (part.slot is None):
            what = "is missing" if part.slot is None else "is stated, and left by a slot as well"
            yield Problem(f"{part.id}/gap_mm", what, "a gap in mm, or the slot whose rest it is")
        if part.slot is not None and part.slot in taken:
            yield Problem(
                f"{part.id}/slot", f"'{taken[part.slot]}' is the rest of '{part.slot}' already", "one gap a slot"
            )
        elif part.slot is not None:
            taken[part.slot] = part.id


def _contacts(build: Build) -> Iterator[Problem]:
    taken: dict[str, str] = {}
    for contact in build.contacts:
        if contact.screws_used is not None and contact.screws_used > contact.screws:
            yield Problem(f"{contact.id}/screws_used", f"{contact.screws_used}", f"0 to {contact.screws}")
        for joint in contact.joints:
            if joint.filler == "pad" and joint.pad_mm is None:
                yield Problem(f"{joint.id}/pad_mm", "a pad states no thickness", "its thickness in mm")
            if joint.interface is None:
                continue
            if joint.interface in taken:
                what = f"'{joint.interface}' lies in '{taken[joint.interface]}' already"
                yield Problem(f"{joint.id}/interface", what, "each layer in one joint")
            taken[joint.interface] = joint.id
            layer = build.part(joint.interface)
            if not isinstance(layer, Interface):
                yield Problem(f"{joint.id}/interface", f"'{joint.interface}' is a {layer.kind}", "an interface")
            elif joint is not contact.joints[0] and layer.resistance_mm2k_w is not None:
                yield Problem(
                    f"{layer.id}/resistance_mm2k_w",
                    f"is stated, and follows from the joint '{joint.id}' as well",
                    "one of the two",
                )


def _leads(build: Build) -> Iterator[Problem]:
    for lead in build.leads:
        if lead.tube is not None and not isinstance(build.part(lead.tube), Tube):
            yield Problem(f"{lead.id}/tube", f"'{lead.tube}' is a {build.part(lead.tube).kind}", "a tube of a loop")
        if lead.bend_mm is not None and float(lead.bend_mm) > MOST_MM:
            yield Problem(f"{lead.id}/bend_mm", f"{lead.bend_mm:g}", f"up to {MOST_MM:g} mm")
        if lead.outside_mm is not None and float(lead.outside_mm) > MOST_OUTSIDE_MM:
            yield Problem(f"{lead.id}/outside_mm", f"{lead.outside_mm:g}", f"up to {MOST_OUTSIDE_MM:g} mm")
        for field in ("points_mm", "also_ends_at_mm"):
            for point in getattr(lead, field):
                if any(abs(float(value)) > MOST_MM for value in point):
                    yield Problem(f"{lead.id}/{field}", f"{point}", f"up to {MOST_MM:g} mm either way")
    for part in build.parts:
        if isinstance(part, Obstacle) and (part.blocked_share is None) == (not part.leads):
            what = "is stated, and follows from its leads as well" if part.leads else "is missing"
            yield Problem(f"{part.id}/blocked_share", what, "a share, or the leads that block it")


def _held(build: Build) -> Iterator[Problem]:
    """Temperatures that joints and tinder are said to have are those of something, and a tape has an area."""
    warm = {zone.id for zone in build.zones} | {part.id for part in build.parts} | set(build.place_owners())
    both: list[Holding | NearHeat] = [*build.holdings, *build.near_heat]
    for item in both:
        if item.near is not None and item.near not in warm:
            yield Problem(f"{item.id}/near", f"there is no '{item.near}'", "a place, a zone, a sink or a panel")
    for holding in build.holdings:
        if holding.by in GLUED and holding.area_cm2 is None:
            yield Problem(f"{holding.id}/area_cm2", "is missing", "the area of a tape or glue, cm²")
