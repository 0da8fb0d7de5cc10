"""What does not go in, touches or floats: said with every prediction, since a part that does not fit cools nothing."""

from collections.abc import Iterator
from typing import Final

from krill.document.part_base import ReachedBy
from krill.fit.contact import ContactFit
from krill.fit.fit import Checks
from krill.fit.heights import HeightCheck
from krill.fit.holding import ROOM_C, BesideHeat, JointHolds
from krill.fit.leads import LeadFit
from krill.fit.reach import Reached
from krill.fit.shorts import APART_MM as SOLDER_MM
from krill.fit.shorts import Short
from krill.fit.stack import StackFit
from krill.prediction.answer.result import Notice
from krill.prediction.notices.notice import note, warning

#: what reaches, in words
_TOOL: Final[dict[ReachedBy, str]] = {
    "finger": "a finger",
    "fingers": "finger and thumb",
    "hand": "a hand",
    "screwdriver": "a screwdriver",
}


def fit_notices(fit: Checks) -> Iterator[Notice]:
    """Of slots, plates and placed parts; clashes are said of the plan."""
    for slot in fit.slots:
        yield from _slot(slot)
    for contact in fit.contacts:
        yield from _contact(contact)
    for clash in fit.plan.clashes:
        if clash.says == "collides":
            yield warning("plan", f"{clash.first_name} {clash.what} {clash.second_name}, by {clash.mm:.1f} mm.")
    for lead in fit.leads:
        yield from _lead(lead)
    for tube in fit.tubes:
        if tube.longer:
            says = (
                f"{tube.name} is told {tube.stated_mm / 1000:.2f} m, its pieces as laid are {tube.laid_mm / 1000:.2f} m"
            )
            yield note(tube.tube, f"{says}: the loop is computed with what it is told.")
    for reached in fit.reached:
        yield from _reached(reached)
    for short in fit.shorts:
        yield from _short(short)
    for height in fit.heights:
        yield from _height(height)
    if fit.floor is not None and fit.floor.says == "sinks":
        sag = f"{fit.floor.thickness_mm:g} mm of {fit.floor.floor} sink by {fit.floor.spread_mm:.1f} mm in years"
        yield warning("plan", f"The floor is too soft: {sag} under what is placed, {fit.floor.at_most_mm:.1f} at most.")


def held_notices(joints: list[JointHolds], beside: list[BesideHeat]) -> Iterator[Notice]:
    """What lets go at the temperature it has, or on the way; what chars or softens beside hot parts."""
    for joint in joints:
        if joint.weight_n is None or joint.carries_n is None:
            yield note(joint.holding, f"{joint.name}: nobody knows what it weighs, so nobody knows whether it holds.")
            continue
        at = ROOM_C if joint.at_c is None else joint.at_c
        carries = f"{joint.joint} carries {joint.carries_n:.1f} N at {at:.0f} °C, {joint.weight_n:.1f} N hang on it"
        if joint.says == "lets go":
            yield warning(joint.holding, f"{joint.name} comes off: {carries} (common practice).")
        elif joint.says == "in doubt":
            yield note(joint.holding, f"{joint.name} may come off in time: {carries} (common practice).")
        if joint.by_car == "lets go":
            yield warning(
                joint.holding, f"{joint.name} comes off on the way: {joint.joint} does not bear 5 g; lay it flat."
            )
    for one in beside:
        if one.at_c is None or one.says == "stays cool":
            continue
        text = f"{one.name} gets {one.at_c:.0f} °C: {one.what} stays under {one.under_c:.0f} °C for years"
        way = "keep 20 mm, or a metal sheet with 10 mm of air between"
        if one.says == "too hot":
            yield warning(one.near_heat, f"{text}; {way} (common practice).")
        else:
            yield note(one.near_heat, f"{text}, and may pass that; {way}.")


def _lead(fit: LeadFit) -> Iterator[Notice]:
    for bend in fit.bends:
        if bend.says == "kinks":
            yield warning(
                fit.lead,
                f"{fit.name} kinks: it has room for a bend of {bend.radius_mm:.0f} mm, "
                f"its kind takes {bend.least_mm:.0f} ± {bend.half_mm:.0f} mm.",
            )
    for near in fit.near:
        yield warning(
            fit.lead,
            f"{fit.name} lies {near.mm:.0f} mm from the blades of {near.name}: keep 10 mm, or tie it within 40.",
        )
    if fit.through:
        yield warning(fit.lead, f"{fit.name} runs through {_listed(fit.through)}.")
    if fit.says == "does not reach" and fit.stated_mm is not None and fit.longest_mm is not None:
        yield warning(
            fit.lead, f"{fit.name} does not reach: {fit.stated_mm:.0f} mm for a way of {fit.longest_mm:.0f} mm."
        )
    elif fit.says == "taut" and fit.stated_mm is not None and fit.order_mm is not None:
        yield note(fit.lead, f"{fit.name} is taut: {fit.stated_mm:.0f} mm, {fit.order_mm:.0f} mm would lie with slack.")
    for end in fit.ends:
        if end.says == "tight":
            yield note(
                fit.lead, f"{fit.name} wants {end.wants_mm:.0f} mm of {end.what}, {end.has_mm:.0f} mm are there."
            )
        elif end.says == "too thick":
            what = f"{end.has_mm:g} mm of {end.what}: more than {end.wants_mm:g} mm want an extension"
            yield note(fit.lead, f"{fit.name}: {what}.")


def _reached(fit: Reached) -> Iterator[Notice]:
    if fit.says == "in the way":
        who = _listed(fit.in_the_way)
        yield warning("plan", f"{fit.name} is out of reach from the {fit.face}: {who} in the way of {_TOOL[fit.by]}.")
    elif fit.says == "closed":
        yield note(
            fit.part,
            f"{fit.name} is out of reach once closed: the {fit.face} wants a door, or a hole for {_TOOL[fit.by]}.",
        )


def _short(fit: Short) -> Iterator[Notice]:
    apart = f"{fit.live_name} lies {fit.apart_mm:.1f} mm over {fit.metal_name}"
    codes = ""
    if fit.wants_mm > SOLDER_MM:
        codes = "; local codes decide, and work on mains belongs to a licensed practitioner"
        apart = f"{fit.live_name} has mains {fit.apart_mm:.1f} mm from {fit.metal_name}"
    if fit.says == "insulate":
        yield warning("plan", f"{apart}: {fit.wants_mm:g} mm of air, or an insulating sheet before first power{codes}.")
    elif fit.says == "too near":
        yield warning("plan", f"{apart}: with the sheet between it still wants 1 mm.")


def _height(fit: HeightCheck) -> Iterator[Notice]:
    if fit.well or not fit.known or fit.of == "reservoir over pump":
        return
    if fit.of == "air gathers":
        yield note(
            fit.about, f"{fit.name} stands {fit.mm:.0f} mm over {fit.against}: air gathers there; tilt it to bleed."
        )
    elif fit.of == "fill on top":
        yield note("plan", f"{fit.name}, where it is filled, lies {-fit.mm:.0f} mm below the top of {fit.against}.")
    elif fit.of == "drain below":
        yield note(
            fit.about, f"{fit.name}, where it is emptied, lies {-fit.mm:.0f} mm above the foot of {fit.against}."
        )
    elif fit.of == "room over the fill":
        yield note(
            fit.about, f"{fit.name} has {fit.mm:.0f} mm free above its fill opening: 120, or a funnel with a hose."
        )
    else:
        yield warning(
            fit.about, f"{fit.name} breathes beneath the housing: feet of {fit.mm:.0f} mm, {fit.against} wanted."
        )


def _listed(names: list[str]) -> str:
    return ", ".join(names[:3]) + (f" and {len(names) - 3} more" if len(names) > 3 else "")


def _slot(fit: StackFit) -> Iterator[Notice]:
    if fit.takes_mm is None or fit.left_mm is None or fit.half_mm is None:
        yield note(fit.slot, f"{fit.name}: {fit.unknown[0]} has no thickness, so nobody knows whether it goes in.")
        return
    takes = f"the stack takes {fit.takes_mm:.1f} of {fit.gap_mm:.1f} mm"
    if fit.says == "does not fit":
        yield warning(fit.slot, f"{fit.name} does not go in: {takes}, {-fit.left_mm:.1f} too much.")
    elif fit.says == "measure":
        yield note(fit.slot, f"{fit.name}: {takes}, {fit.left_mm:.1f} ± {fit.half_mm:.1f} mm are left: measure it.")
    if fit.breathes == "starved" and fit.says != "does not fit":
        yield warning(
            fit.slot, f"{fit.name} is starved: {fit.left_mm:.1f} mm are left to breathe, {fit.wants_mm:.0f} wanted."
        )
    if fit.blades_mm is not None and fit.blades_half_mm is not None and fit.blades_mm < -fit.blades_half_mm:
        yield warning(fit.slot, f"{fit.name}: blades rub on {fit.rubs_on}.")
    if fit.screws is not None and fit.screws.says in ("too short", "reach the tubes"):
        yield warning(fit.slot, f"{fit.name}: screws of {fit.screws.length_mm:g} mm {_reach(fit.screws.says)}.")


def _reach(says: str) -> str:
    return "are too short to hold" if says == "too short" else "reach the radiator's tubes"


def _contact(fit: ContactFit) -> Iterator[Notice]:
    if fit.lifted_mm > 0.0:
        by = next(joint.name for joint in fit.joints if joint.joint == fit.carried_by)
        yield warning(fit.contact, f"{fit.name} rests on {by}: its chip floats by {fit.lifted_mm:.2f} mm.")
    for joint in fit.joints[1:]:
        if joint.says == "floats":
            take = "putty" if joint.take_mm is None else f"a pad of {joint.take_mm:g} mm"
            yield warning(fit.contact, f"{fit.name}: {joint.name} floats by {joint.air_mm:.2f} mm; take {take}.")
    if fit.force_n is not None and fit.chip_n is not None and fit.chip_n < fit.force_n / 2:
        yield warning(
            fit.contact,
            f"{fit.name}: pads take {fit.pads_n:.0f} of {fit.force_n:.0f} N, the chip keeps less than half.",
        )
