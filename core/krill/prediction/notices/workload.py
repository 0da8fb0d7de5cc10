"""What a workload leaves out, tells twice or tells what cannot be."""

from collections.abc import Iterator

from krill.document.build import Command, Workload
from krill.document.parts import Fan, Mover, Source
from krill.prediction.answer.result import Notice
from krill.prediction.answer.solving import Solved
from krill.prediction.notices.notice import note, warning

#: shares of a source's places that add up to so much leave a rest that is worth a word; over one by so much they are a slip
MIN_NAMED_SHARE, MAX_NAMED_SHARE = 0.9, 1.001


def workload_notices(solved: Solved, case: int) -> Iterator[Notice]:
    """Every notice of what one workload says of its sources and movers."""
    workload = solved.cases[case].workload
    for part in solved.build.parts:
        if isinstance(part, Source):
            yield from _source(solved, case, workload, part)
        elif isinstance(part, Mover) and (command := workload.movers.get(part.id)) is not None:
            yield from _mover(solved, part, command)


def _source(solved: Solved, case: int, workload: Workload, source: Source) -> Iterator[Notice]:
    name = source.name or source.id
    if source.id not in workload.watts:
        yield note(source.id, f"{name} has no watts in this workload: it counts as off.")
    burst = workload.burst.get(source.id)
    if burst is not None:
        yield note(
            source.id, f"{name} bursts to {burst.power_w:g} W for {burst.hold_s:g} s: settled figures do not count it."
        )
        if workload.duration_min is not None and burst.hold_s > 60 * workload.duration_min:
            yield warning(
                source.id, f"The burst of {name} lasts longer than the {workload.duration_min:g} min of the workload."
            )
    row = solved.central(case)
    shares = sum(solved.figure(f"{place.id}/power_share", row, 1.0) for place in source.places)
    if shares > MAX_NAMED_SHARE:
        yield warning(
            source.id, f"The shares of the places of {name} add up to {shares:.2f}: they are scaled down to one."
        )
    elif shares < MIN_NAMED_SHARE:
        yield note(source.id, f"{100 * (1 - shares):.0f} % of {name} is named by no place: it goes into the box air.")


def _mover(solved: Solved, mover: Mover, command: Command) -> Iterator[Notice]:
    name = mover.name or mover.id
    if command.speed_rpm is not None:
        rated = solved.figure(f"{mover.id}/rated_rpm", 0)
        if float(command.speed_rpm) > rated:
            yield warning(
                mover.id, f"{name} is told {command.speed_rpm:g} rpm, more than the {rated:g} rpm that it is rated for."
            )
    start = solved.table.figures.get(f"{mover.id}/start_duty")
    if isinstance(mover, Fan) and start is not None and command.duty is not None and not command.off:
        low, high = start.value - start.tolerance.minus, start.value + start.tolerance.plus
        if low <= float(command.duty) < high:
            yield note(
                mover.id,
                f"{name} is told {float(command.duty):.0%}, and starts somewhere between {low:.0%} and {high:.0%}: it may "
                "stand still.",
            )
