"""What does not go in, touches or floats: said with every prediction, since a part that does not fit cools nothing."""

from collections.abc import Iterator

from krill.fit.contact import ContactFit
from krill.fit.fit import Checks
from krill.fit.stack import StackFit
from krill.prediction.answer.result import Notice
from krill.prediction.notices.notice import note, warning


def fit_notices(fit: Checks) -> Iterator[Notice]:
    """Of slots, plates and placed parts; clashes are said of the plan."""
    for slot in fit.slots:
        yield from _slot(slot)
    for contact in fit.contacts:
        yield from _contact(contact)
    for clash in fit.plan.clashes:
        if clash.says == "collides":
            yield warning("plan", f"{clash.first_name} {clash.what} {clash.second_name}, by {clash.mm:.1f} mm.")


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
