"""Slots, gaps that they leave, and contacts under plates: references that end somewhere, and nothing stated twice."""

from collections.abc import Callable, Iterator

from krill.document.build import Build
from krill.document.fit import Layer, parts_in
from krill.document.parts import Gap
from krill.document.solids import Interface
from krill.errors import Problem

#: problems of ids that are not there: where they stand, the ids, what they should be of
Missing = Callable[[str, list[str], str], Iterator[Problem]]


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


def fit_problems(build: Build) -> Iterator[Problem]:
    """What contradicts itself: a length stated twice or not at all, one layer in two joints."""
    yield from _stacks(build)
    yield from _gaps(build)
    yield from _contacts(build)


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
