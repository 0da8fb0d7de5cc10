"""What tapes, glues, clips, ties and screws carry at the temperature they have, and what chars or softens beside hot parts.

A joint carries at 25 °C what its class does, half of that at a warmth of its own, and so on from there, nothing from where
it lets go (common practice, as form); plus or minus 40 %. On the way a car asks for 5 g beside what hangs, a fall of
100 mm on foam for 15.
"""

from dataclasses import dataclass
from typing import Final, Literal

from krill.catalogue.joints import JointClass, far_enough_mm, joint_classes, stays_under_c
from krill.document.build import Build
from krill.document.holding import Holding, NearHeat
from krill.fit.extents import extent_of, mass_of_body, weight_n

HoldsSays = Literal["holds", "in doubt", "lets go", "unknown"]
BesideSays = Literal["stays cool", "in doubt", "too hot"]

ROOM_C: Final = 25.0
#: what a class carries is known to this share
HALF_SHARE: Final = 0.4
#: accelerations of transport, in g: in a car, and dropped by 100 mm on foam
CAR_G: Final = 5.0


@dataclass(frozen=True, slots=True)
class JointHolds:
    """What hangs on a joint and what it carries, N, at the temperature it has; None where nobody knows. ``by_car`` says
    whether it bears 5 g as well."""

    holding: str
    name: str
    joint: str
    weight_n: float | None
    weight_half_n: float
    carries_n: float | None
    carries_half_n: float
    at_c: float | None
    says: HoldsSays
    by_car: HoldsSays
    note: str


@dataclass(frozen=True, slots=True)
class BesideHeat:
    """Wood, card, cloth, foam or felt beside a hot part: what it gets, and what it stays under for years, C."""

    near_heat: str
    name: str
    what: str
    at_c: float | None
    under_c: float
    says: BesideSays


def joint_holds(build: Build, holding: Holding, at_c: float | None = None) -> JointHolds:
    """A joint at a temperature; at 25 °C where none is known."""
    joint = joint_classes()[holding.by]
    cold = _cold(joint, holding)
    weight = _weight(build, holding)
    warmth = ROOM_C if at_c is None else at_c
    carries = None if cold is None else cold * left_of(joint, warmth)
    half = 0.0 if carries is None else HALF_SHARE * carries
    by_car: HoldsSays = "unknown"
    if weight is not None and carries is not None and holding.travels:
        by_car = _says((1.0 + CAR_G) * weight[0], 0.0, joint.sudden * carries, joint.sudden * half)
    return JointHolds(
        holding=holding.id,
        name=holding.name or ", ".join(build.part(part).name or part for part in holding.parts),
        joint=joint.name,
        weight_n=None if weight is None else weight[0],
        weight_half_n=0.0 if weight is None else weight[1],
        carries_n=carries,
        carries_half_n=half,
        at_c=at_c,
        says="unknown" if weight is None or carries is None else _says(*weight, carries, half),
        by_car=by_car,
        note=joint.note,
    )


def left_of(joint: JointClass, at_c: float) -> float:
    """The share of what it carries at 25 °C that a joint carries at a temperature.

    >>> tape = joint_classes()["foam_tape"]
    >>> [round(left_of(tape, at), 2) for at in (20, 25, 50, 69, 70)]
    [1.0, 1.0, 0.5, 0.3, 0.0]
    """
    if joint.lets_go_c is not None and at_c >= joint.lets_go_c:
        return 0.0
    if joint.half_at_c is None or at_c <= ROOM_C:
        return 1.0
    return float(0.5 ** ((at_c - ROOM_C) / (joint.half_at_c - ROOM_C)))


def beside_heat(near: NearHeat, at_c: float | None, half_k: float = 0.0) -> BesideHeat:
    """What lies beside something hot, at that temperature: 20 mm away, or behind a metal sheet with air, all is well."""
    under = stays_under_c(near.what)
    far = near.behind_sheet or near.apart_mm >= far_enough_mm()
    says: BesideSays = "stays cool"
    if at_c is not None and not far:
        says = "too hot" if at_c > under else "in doubt" if at_c + half_k > under else "stays cool"
    return BesideHeat(near.id, near.name or near.what, near.what, at_c, under, says)


def _cold(joint: JointClass, holding: Holding) -> float | None:
    if joint.each_n is not None:
        return holding.count * joint.each_n
    per = joint.pull_n_cm2 if holding.pull == "pulls" else joint.shear_n_cm2
    return None if holding.area_cm2 is None or per is None else float(holding.area_cm2) * per


def _weight(build: Build, holding: Holding) -> tuple[float, float] | None:
    masses = [mass_of_body(build.part(part), extent_of(build.part(part))) for part in holding.parts]
    known = [mass for mass in masses if mass is not None]
    if len(known) < len(masses):
        return None
    return weight_n(sum(m for m, _ in known)), weight_n(sum(h * h for _, h in known) ** 0.5)


def _says(weight: float, weight_half: float, carries: float, half: float) -> HoldsSays:
    """Surely where the least that it carries bears the most that hangs; in doubt where only one of the two would do."""
    if carries - half >= weight + weight_half:
        return "holds"
    return "lets go" if carries < weight else "in doubt"
