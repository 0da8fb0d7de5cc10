"""What in a document has an address: ids of everything, and every figure as id/field."""

from collections.abc import Iterator
from typing import NamedTuple

from krill.document.build import Bond, Build, Loop, Recirculation, Workload, Zone
from krill.document.feeds import Feed
from krill.document.figures import Figure, Strict
from krill.document.fit import Layer
from krill.document.parts import Limit, Source, Supply
from krill.document.quantities import Quantity, figures_of


def all_ids(build: Build) -> list[tuple[str, str]]:
    """(id, what it belongs to) of everything that has an address."""
    ids = [(item.id, "room") for item in build.rooms]
    for part in build.parts:
        ids.append((part.id, "part"))
        if isinstance(part, Source | Supply):
            ids += [(place.id, "place") for place in part.places]
    for kind, items in (
        ("machine", build.machines),
        ("zone", build.zones),
        ("air path", build.air_paths),
        ("recirculation", build.recirculations),
        ("loop", build.loops),
        ("bond", build.bonds),
        ("workload", build.workloads),
        ("feed", build.feeds),
        ("lead", build.leads),
        ("insulator", build.insulators),
        ("holding", build.holdings),
        ("near heat", build.near_heat),
        ("slot", build.slots),
        ("contact", build.contacts),
        ("step", build.steps),
        ("due", build.dues),
        ("ready-made", build.ready_made),
    ):
        ids += [(item.id, kind) for item in items]
    for route in build.routes:
        ids.append((route.id, "route"))
        ids += [(hop.id, "hop") for hop in route.hops]
    ids += [(joint.id, "joint") for contact in build.contacts for joint in contact.joints]
    return ids


class StatedFigure(NamedTuple):
    """A figure that stands in the document, where, and what its field says of itself."""

    address: str
    figure: Figure
    quantity: Quantity


def stated_figures(build: Build) -> Iterator[StatedFigure]:
    """Every figure that stands in the document, with its address: id/field, or id/field/key in a table by id."""
    for room in build.rooms:
        yield from _figures_of(room.id, room)
    for part in build.parts:
        yield from _figures_of(part.id, part)
        if isinstance(part, Source | Supply):
            for place in part.places:
                yield from _figures_of(place.id, place)
                for limit in place.limits:
                    yield StatedFigure(f"{place.id}/at_c/{limit.kind}", limit.at_c, figures_of(Limit)["at_c"])
    simple: list[Zone | Loop | Recirculation | Feed | Bond] = [
        *build.zones,
        *build.loops,
        *build.recirculations,
        *build.feeds,
        *build.bonds,
    ]
    for item in simple:
        yield from _figures_of(item.id, item)
    for route in build.routes:
        for hop in route.hops:
            yield from _figures_of(hop.id, hop)
    for workload in build.workloads:
        for source, figure in workload.watts.items():
            yield StatedFigure(watts_address(workload.id, source), figure, figures_of(Workload)["watts"])


def stated_lengths(build: Build) -> Iterator[StatedFigure]:
    """Figures that only say whether things fit: of slots, of what stands in them by its position, under plates, of leads."""
    for slot in build.slots:
        yield from _figures_of(slot.id, slot)
        for at, layer in enumerate(slot.stack):
            if isinstance(layer, Layer) and layer.thickness_mm is not None:
                yield StatedFigure(
                    f"{slot.id}/thickness_mm/{at}", layer.thickness_mm, figures_of(Layer)["thickness_mm"]
                )
    for contact in build.contacts:
        yield from _figures_of(contact.id, contact)
        for joint in contact.joints:
            yield from _figures_of(joint.id, joint)
    for lead in build.leads:
        yield from _figures_of(lead.id, lead)


def watts_address(workload: str, source: str) -> str:
    """Where the watts of a source in a workload stand."""
    return f"{workload}/watts/{source}"


def _figures_of(item: str, model: Strict) -> Iterator[StatedFigure]:
    for field, quantity in figures_of(type(model)).items():
        figure = getattr(model, field)
        if figure is not None:
            yield StatedFigure(f"{item}/{field}", figure, quantity)
