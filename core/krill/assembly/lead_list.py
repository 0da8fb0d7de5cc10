"""Leads to buy or make: from where to where, how long to order, how stiff, when they go in; and what a loop is joined by."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final, Literal

from krill.assembly.work_order import WorkStep
from krill.catalogue.leads import lead_classes
from krill.catalogue.table import table
from krill.document.build import Build, leaves
from krill.document.figures import detail
from krill.document.leads import Lead
from krill.document.parts import Coupling, Fitting, Supply, Tube
from krill.fit.fit import Checks
from krill.fit.leads import LeadFit

#: leads that hold a bend of 90° with more are bent before they go in, N
STIFF_N: Final = 4.0


@dataclass(frozen=True, slots=True)
class Reach:
    """A plug that hangs on the supply of a lead: how long its own lead is, and by how much that is more than needed, mm."""

    feed: str
    name: str
    length_mm: float
    spare_mm: float


@dataclass(frozen=True, slots=True)
class LeadRow:
    """A lead: length to order with slack (from positions, else as typed), and whether it is bent before it goes in.

    ``step`` is the step that it goes in with; ``reaches`` is None where nobody knows the way or the length. ``sockets`` are
    the plugs of its kind on its supply whose lengths are known, those that reach first, the shortest of them first.
    """

    lead: str
    name: str
    of_class: str
    from_name: str
    to_name: str
    via: int
    order_mm: float | None
    stated_mm: float | None
    reaches: bool | None
    socket: str
    plug: str
    stiff_n: float | None
    bend: Literal["before", "in place", ""]
    step: str | None
    step_name: str
    two_hands: bool
    sockets: list[Reach]


@dataclass(frozen=True, slots=True)
class TubePiece:
    """A piece of a loop's tube to cut; its length is None where nobody laid it, mm."""

    name: str
    cut_mm: float | None


@dataclass(frozen=True, slots=True)
class LoopJoints:
    """What a loop is joined by: metres of tube to buy and pieces to cut of it, fittings by kind, couplings in pairs, ports
    in and out."""

    loop: str
    name: str
    tube_m: float
    pieces: list[TubePiece]
    fittings: int
    elbows: int
    coupling_pairs: int
    coupling_odd: bool
    ports: list[str]


def lead_rows(build: Build, checks: Checks, steps: Sequence[WorkStep]) -> list[LeadRow]:
    """Every lead, in the order in which they go in."""
    fits = {fit.lead: fit for fit in checks.leads}
    of = {item: step for step in steps for item in step.items}
    place = {step.id: at for at, step in enumerate(steps)}
    rows = [_row(build, lead, fits.get(lead.id), of.get(lead.id)) for lead in build.leads if lead.tube is None]
    return sorted(rows, key=lambda row: place[row.step] if row.step is not None else len(place))


def _row(build: Build, lead: Lead, fit: LeadFit | None, step: WorkStep | None) -> LeadRow:
    stiff = table("leads")["feel_n"].get(lead.class_ or "")
    stated = None if lead.length_mm is None else float(detail(lead.length_mm).value)
    order = None if fit is None else fit.order_mm
    ends, start = build.part(lead.to_part), build.part(lead.from_part)
    own = lead_classes().get(lead.class_ or "")
    bend: Literal["before", "in place", ""] = "" if stiff is None else "before" if stiff > STIFF_N else "in place"
    return LeadRow(
        lead=lead.id,
        name=lead.name or lead.id,
        of_class="" if own is None else own.name,
        from_name=start.name or start.id,
        to_name=ends.name or ends.id,
        via=max(len(lead.points_mm) - 2, 0),
        order_mm=order,
        stated_mm=stated,
        reaches=None if fit is None or fit.says == "unknown" else fit.says != "does not reach",
        socket=lead.socket or "",
        plug=lead.ends.plug or "",
        stiff_n=stiff,
        bend=bend,
        step=None if step is None else step.id,
        step_name="" if step is None else step.name,
        two_hands=lead.plugged_inside,
        sockets=_sockets(build, lead, order if order is not None else stated),
    )


def _sockets(build: Build, lead: Lead, needed_mm: float | None) -> list[Reach]:
    """Plugs on the supply that a lead comes from, of its kind where it has one."""
    if needed_mm is None or not isinstance(build.part(lead.from_part), Supply):
        return []
    own = [feed for feed in build.feeds if feed.fed_by == lead.from_part and lead.ends.plug in (None, feed.class_)]
    lengths = {feed.id: 1000.0 * float(feed.length_m) for feed in own if feed.length_m is not None}
    found = [
        Reach(feed.id, feed.name or feed.id, lengths[feed.id], lengths[feed.id] - needed_mm)
        for feed in own
        if feed.id in lengths
    ]
    return sorted(found, key=lambda one: (one.spare_mm < 0.0, one.length_mm, one.feed))


def loop_joints(build: Build, checks: Checks) -> list[LoopJoints]:
    """Tubes, fittings and couplings of each loop that is not bought as one piece, and what flows into what."""
    found = []
    fits = {fit.lead: fit for fit in checks.leads}
    for loop in (own for own in build.loops if not own.sealed):
        pieces = [fits[lead.id] for lead in build.leads if lead.tube in leaves(loop.elements)]
        parts = [build.part(item) for item in leaves(loop.elements)]
        fittings = [part for part in parts if isinstance(part, Fitting)]
        couplings = sum(isinstance(part, Coupling) for part in parts)
        solid = [part for part in parts if not isinstance(part, Tube | Fitting | Coupling)]
        into = [
            f"out of {part.name or part.id} into {after.name or after.id}"
            for part, after in zip(solid, [*solid[1:], *solid[:1]], strict=True)
        ]
        elbows = sum(part.count for part in fittings if "90" in (part.class_ or "") or "45" in (part.class_ or ""))
        found.append(
            LoopJoints(
                loop.id,
                loop.name or loop.id,
                sum(float(detail(part.length_m).value) for part in parts if isinstance(part, Tube)),
                [TubePiece(piece.name, piece.order_mm) for piece in pieces],
                sum(part.count for part in fittings),
                elbows,
                couplings,
                couplings % 2 == 1,
                into,
            )
        )
    return found
