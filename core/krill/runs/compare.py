"""Two runs held against each other: what differs over the room, at equal watts and speeds, and what else was changed.

What a run was driven with is taken out by the model's own derivative: the first build is solved once as it ran and once
with the second run's watts and speeds, by the same draws, so that what both share cancels. At equal sound the first keeps
its speeds, and the second is solved once more with its fans turned until it is as loud as the first.
"""

from dataclasses import dataclass, field, replace
from math import ceil, hypot
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from krill.document.addresses import watts_address
from krill.document.build import Build, Command, Workload
from krill.document.figures import detail
from krill.document.reading import write_object
from krill.networks.states import Case
from krill.numerics.sampling import QUANTILE_90
from krill.prediction.answer.lasting import must_last
from krill.prediction.answer.solving import Solved, room_of, solve_cases
from krill.runs.as_run import commanded_build, nodes_of, value_of, watts_of
from krill.runs.consistency import Inconsistency, inconsistencies
from krill.runs.equal_sound import EqualSound, equal_sound, turned
from krill.runs.unknown_room import RunRoom
from krill.runs.verdict import Measured, name_of

Array = NDArray[np.float64]

#: what two runs are brought to beside equal watts
Equal = Literal["speeds", "sound"]

#: differences under this are none; one that is not told yet is called none where it is known to so much
NONE_K, KNOWN_TO_K = 1.0, 2.0
#: a difference that is known better is said with a tenth
FINE_K = 1.5
#: watts and speeds that differ by less were the same (a meter's and a speed reading's own doubt)
SAME_SHARE = 0.03
#: a room that was read twice is known to so much: what it did between, the thermometer (estimate, 90 %)
ROOM_READ_K = 0.3
#: what the model gives of a change to count as a cause, K
MATTERS_K = 0.3
BETTER, WORSE, NO_DIFFERENCE, OPEN, NOT_COUNTED = "cooler", "warmer", "no difference", "cannot tell", "not counted"
MOST_REPEATS = 20
#: loads of lengths up to this ratio were alike long
LENGTHS_ALIKE = 4 / 3
#: members of a document that say nothing of how it cools
_NOT_DESIGN = (
    "name",
    "notes",
    "workloads",
    "rooms",
    "brief",
    "dues",
    "prices",
    "locked",
    "cautions_read",
    "written_by",
    "calibration",
)


@dataclass(frozen=True)
class RunSide:
    """One of two runs: the build at the speeds it ran, figures known from the run, its room, what was measured and noted."""

    name: str
    build: Build
    workload: str
    room: RunRoom
    measured: list[Measured]
    known: dict[str, float]
    conditions: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True)
class PartDifference:
    """The second run over the first, K over the room; ``equal_k`` at the watts of the second, and its speeds or equal sound.

    ``correction_k`` is what the model moved for that, with the half width that it adds.
    ``first_k`` and ``second_k`` were measured over each run's own room, beside what was predicted of each.
    """

    role: str
    name: str
    first_k: float
    second_k: float
    first_predicted_k: float
    second_predicted_k: float
    measured_k: float
    measured_half_k: float
    equal_k: float
    equal_half_k: float
    correction_k: float
    correction_half_k: float
    predicted_k: float
    conclusion: str  # cooler | warmer | no difference | cannot tell | not counted
    because: str


@dataclass(frozen=True)
class Change:
    """Something that differs between the runs, in words, with what the model makes of it on the part that leads, K."""

    what: str
    kelvins: float | None
    half_k: float | None = None


@dataclass(frozen=True)
class Comparison:
    """``confounded``: more than one thing that cools was changed, and the readings alone cannot part them."""

    sentence: str
    parts: list[PartDifference]
    changes: list[Change]
    confounded: bool
    inconsistent: list[Inconsistency] = field(default_factory=list)
    sound: EqualSound | None = None


@dataclass(frozen=True)
class _Steps:
    """The runs solved: the first as it ran, with the second's watts, with its speeds too; the second as it ran, and as loud."""

    as_ran: Solved
    fed: Solved
    driven: Solved
    other: Solved
    as_loud: Solved | None = None

    def moved(self, role: str, rows: str) -> Array:
        """What the model moves of the difference for equal conditions, K: ``rows`` central or drawn."""
        first = self.driven if self.as_loud is None else self.fed
        moved = -(_at(first, role, rows) - _at(self.as_ran, role, rows))
        return moved if self.as_loud is None else moved + _at(self.as_loud, role, rows) - _at(self.other, role, rows)

    def know(self, role: str) -> bool:
        solved = (self.as_ran, self.driven, self.other)
        return all(nodes_of(one, role) is not None for one in solved)


def compare(first: RunSide, second: RunSide, samples: int = 200, seed: int = 1, equal: Equal = "speeds") -> Comparison:
    """The second run against the first, part by part, for roles that both read; at equal watts, and speeds or sound."""
    as_ran = _solved(first.build, first, samples, seed)
    watts = _other_watts(first, second)
    fed = _solved(first.build, first, samples, seed, watts) if watts else as_ran
    driven = _solved(_driven_alike(first, second), first, samples, seed, watts)
    other = _solved(second.build, second, samples, seed)
    for ran in (as_ran, other):
        must_last(ran, 0)
    sound, as_loud = None, None
    if equal == "sound":
        sound = equal_sound(as_ran, other)
        as_loud = _solved(turned(second.build, second.workload, other, sound.factor), second, samples, seed)
    steps = _Steps(as_ran, fed, driven, other, as_loud)
    read = {m.role: m for m in first.measured}
    parts = [
        _difference(steps, read[m.role], m, first.room, second.room)
        for m in second.measured
        if m.role in read and steps.know(m.role)
    ]
    if not parts:
        return Comparison("The two runs read no part in common.", [], [], False)
    readings, known = (first.measured, second.measured), (set(first.known), set(second.known))
    unlike = inconsistencies(as_ran, other, readings, known)
    parts = [_unless_inconsistent(part, unlike) for part in parts]
    lead = leading(parts)
    changes = _changes(first, second, watts, steps, lead.role)
    sentence = _sentence(first, second, lead, changes, sound)
    return Comparison(sentence, parts, changes, len(_causes(changes)) > 1, unlike, sound)


def _unless_inconsistent(part: PartDifference, unlike: list[Inconsistency]) -> PartDifference:
    """A part whose own way to the coolant or air differs between the runs ranks nothing."""
    found = next((item for item in unlike if item.role == part.role), None)
    return part if found is None else replace(part, conclusion=NOT_COUNTED, because=found.says)


def _causes(changes: list[Change]) -> list[Change]:
    """Changes that the model gives some kelvins."""
    return [change for change in changes if change.kelvins is not None and abs(change.kelvins) >= MATTERS_K]


def leading(parts: list[PartDifference]) -> PartDifference:
    """The part that a comparison is told by: the one whose difference is clearest."""
    return max(parts, key=_leads)


def _leads(part: PartDifference) -> tuple[bool, float]:
    """A part whose difference is told leads by how clearly; without one, the part that reads most differently."""
    if part.conclusion == NOT_COUNTED:
        return False, -1.0
    told = part.conclusion in (BETTER, WORSE)
    return told, abs(part.equal_k) - part.equal_half_k if told else abs(part.measured_k)


def _solved(build: Build, side: RunSide, samples: int, seed: int, watts: dict[str, float] | None = None) -> Solved:
    """A build in a run's workload and room; ``watts`` by source take the place of what the run had."""
    chosen = _workload(build, side.workload)
    case = Case(chosen, side.room.air_c, float(build.rooms[0].altitude_m))
    known = dict(side.known)
    for source, value in (watts or {}).items():
        if source in chosen.watts:
            known[watts_address(side.workload, source)] = value
    return solve_cases(build, [case], samples, seed, known)


def _workload(build: Build, workload: str) -> Workload:
    return next(item for item in build.workloads if item.id == workload)


def _other_watts(first: RunSide, second: RunSide) -> dict[str, float]:
    """Watts of the second run by source, where they are other ones than in the first."""
    own, other = (watts_of(side.build, side.workload, side.known) for side in (first, second))
    return {source: other[source] for source in _differing(own, other)}


def _commands_of(side: RunSide) -> dict[str, Command]:
    return dict(_workload(side.build, side.workload).movers)


def _driven_alike(first: RunSide, second: RunSide) -> Build:
    """The first build with its movers told what the second run's were, where both have them."""
    own = _commands_of(first)
    told = {mover: command for mover, command in _commands_of(second).items() if mover in own}
    return commanded_build(first.build, first.workload, told)


def _at(solved: Solved, role: str, rows: str) -> Array:
    """A role over the room, K, at the central figures or at every draw."""
    chosen = solved.central(0) if rows == "central" else solved.drawn(0)
    return value_of(solved, role, chosen) - room_of(solved, solved.central(0))


def _difference(steps: _Steps, a: Measured, b: Measured, room_a: RunRoom, room_b: RunRoom) -> PartDifference:
    over = (a.value - room_a.air_c, b.value - room_b.air_c)
    measured = over[1] - over[0]
    half = hypot(a.half_width, b.half_width, room_a.half_k, room_b.half_k, ROOM_READ_K, ROOM_READ_K)
    moved, moved_half = float(steps.moved(a.role, "central")), QUANTILE_90 * float(np.std(steps.moved(a.role, "drawn")))
    equal, equal_half = measured + moved, hypot(half, moved_half)
    drawn_k = (float(_at(steps.as_ran, a.role, "central")), float(_at(steps.other, b.role, "central")))
    conclusion, because = _conclusion(equal, equal_half, a.settled and b.settled, max(a.more_min, b.more_min))
    if "highest" in {a.statistic, b.statistic} and a.statistic != b.statistic:
        conclusion, because = NOT_COUNTED, f"{a.statistic} in one, {b.statistic} in the other: unlike figures"
    sensors = [_sensor(solved.build, a.role) for solved in (steps.as_ran, steps.other)]
    if sensors[0] != sensors[1]:
        conclusion, because = NOT_COUNTED, f"{sensors[0]} in one, {sensors[1]} in the other: unlike sensors"
    return PartDifference(
        b.role,
        name_of(steps.other, b.role),
        *over,
        *drawn_k,
        measured,
        half,
        equal,
        equal_half,
        moved,
        moved_half,
        drawn_k[1] - drawn_k[0],
        conclusion,
        because,
    )


def _sensor(build: Build, role: str) -> str:
    """What kind of temperature a place's sensor reads, in words; "" of what is no place."""
    owner = build.place_owners().get(role.rpartition("/")[0])
    return "" if owner is None else owner[0].temperature_kind.replace("_", " ")


def _conclusion(kelvins: float, half: float, settled: bool, more_min: float = 0.0) -> tuple[str, str]:
    if abs(kelvins) >= NONE_K and abs(kelvins) > half:
        word = BETTER if kelvins < 0 else WORSE
        return (word, "") if settled else (OPEN, "one of the two was still moving when it was read")
    if half <= KNOWN_TO_K:
        return NO_DIFFERENCE, f"under {max(NONE_K, half):.0f} K"
    if more_min > 0:
        return OPEN, f"known to ± {half:.0f} K only: about {ceil(more_min)} more minutes of load would tell"
    repeats = ceil((half / max(abs(kelvins), NONE_K)) ** 2)
    more = f"about {repeats} repeats of each would tell" if repeats <= MOST_REPEATS else "repeats alone would not tell"
    return OPEN, f"known to ± {half:.0f} K only: {more}"


def _changes(first: RunSide, second: RunSide, watts: dict[str, float], steps: _Steps, role: str) -> list[Change]:
    """What differs, each cause with what it does by the model when it is changed after the ones before it."""
    found = []
    if watts:
        found.append(_cause(f"watts of {', '.join(_named(first.build, list(watts)))}", steps.as_ran, steps.fed, role))
    if _told_otherwise(_commands_of(first), _commands_of(second)):
        found.append(_cause("speeds of fans or pumps", steps.fed, steps.driven, role))
    if _design(first.build) != _design(second.build):
        found.append(_cause("the build itself", steps.driven, steps.other, role))
    if abs(first.room.air_c - second.room.air_c) >= NONE_K:
        found.append(Change(f"the room, {first.room.air_c:.1f} and {second.room.air_c:.1f} °C", None))
    if first.workload != second.workload:
        found.append(Change("the workload", None))
    return found + _noted_otherwise(first.conditions, second.conditions)


def _cause(what: str, before: Solved, after: Solved, role: str) -> Change:
    """A change with its kelvins and their half width, by the same draws before and after it."""
    kelvins = float(_at(after, role, "central") - _at(before, role, "central"))
    return Change(what, kelvins, QUANTILE_90 * float(np.std(_at(after, role, "drawn") - _at(before, role, "drawn"))))


def _noted_otherwise(first: dict[str, str], second: dict[str, str]) -> list[Change]:
    """Settings, lid, filter and length where both were noted and differ; lengths that differ by a third or less are alike."""
    found = []
    for name in first.keys() & second.keys():
        a, b = first[name], second[name]
        if a != b and not (name == "length" and _alike_long(a, b)):
            found.append(Change(f"{name}, {a} and {b}", None))
    return sorted(found, key=lambda change: change.what)


def _alike_long(a: str, b: str) -> bool:
    first, second = (float(said.removesuffix(" min")) for said in (a, b))
    return max(first, second) <= LENGTHS_ALIKE * min(first, second)


def _differing(a: dict[str, float], b: dict[str, float]) -> list[str]:
    return [key for key in a if key in b and abs(b[key] - a[key]) > SAME_SHARE * max(abs(a[key]), abs(b[key]))]


def _told_otherwise(a: dict[str, Command], b: dict[str, Command]) -> bool:
    """Whether a mover that both have was told otherwise; two speeds that were read may differ a little."""
    for mover in a.keys() & b.keys():
        one, other = a[mover].speed_rpm, b[mover].speed_rpm
        if one is None or other is None:
            if a[mover] != b[mover]:
                return True
        elif _differing({mover: float(detail(one).value)}, {mover: float(detail(other).value)}):
            return True
    return False


def _named(build: Build, sources: list[str]) -> list[str]:
    names = {part.id: part.name or part.id for part in build.parts}
    return [names.get(source, source) for source in sources]


def _design(build: Build) -> dict[str, object]:
    return {key: value for key, value in write_object(build).items() if key not in _NOT_DESIGN}


def _kelvins(value: float, half: float) -> str:
    """A difference with as many places as its band gives it."""
    places = 0 if half >= FINE_K else 1
    return f"{abs(value):.{places}f} ± {half:.{places}f}"


def _sentence(
    first: RunSide, second: RunSide, lead: PartDifference, changes: list[Change], sound: EqualSound | None
) -> str:
    at = "equal watts and speeds" if sound is None else "equal watts and sound"
    cooling = _causes(changes)
    others = [change.what for change in changes if change.kelvins is None]
    if lead.conclusion in (BETTER, WORSE):
        amount = f"{_kelvins(lead.equal_k, lead.equal_half_k)} K {lead.conclusion}"
        text = f"{second.name} is {amount} than {first.name} on {lead.name}, over the room at {at}"
    elif lead.conclusion == NOT_COUNTED:
        text = f"{second.name} and {first.name} cannot be ranked: {lead.because.rstrip('?.')}"
    elif lead.conclusion == NO_DIFFERENCE:
        text = f"{second.name} and {first.name} do not differ at {at}"
    else:
        text = f"Whether {second.name} and {first.name} differ at {at} is open: {lead.because}"
    if sound is not None:
        text += f" ({sound.says})"
    if len(cooling) > 1:
        shares = ", ".join(f"{change.what} {change.kelvins:+.1f} ± {change.half_k:.1f} K" for change in cooling)
        text += f". More than one thing was changed; the model gives {shares}"
    elif cooling:
        text += f". Changed: {cooling[0].what}"
    if others:
        text += f"; also different: {', '.join(others)}"
    return f"{text}.".replace(" -", " −")
