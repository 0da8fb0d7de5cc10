"""What in a document has an address: ids of everything, and every figure as id/field."""

from collections.abc import Iterator
from typing import Final

from krill.document.build import Bond, Build, Feed, Loop, Recirculation, Zone
from krill.document.figures import Figure
from krill.document.parts import Source, Supply


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
        ("slot", build.slots),
        ("due", build.dues),
        ("ready-made", build.ready_made),
    ):
        ids += [(item.id, kind) for item in items]
    for route in build.routes:
        ids.append((route.id, "route"))
        ids += [(hop.id, "hop") for hop in route.hops]
    return ids


_FIGURE_NAMES: Final[dict[type, list[str]]] = {}


def figure_fields(build: Build) -> Iterator[tuple[str, Figure]]:
    """Every figure that stands in the document, with its address: id/field, or id/field/key in a table by id."""
    for room in build.rooms:
        yield f"{room.id}/air_c", room.air_c
    for part in build.parts:
        yield from _figures_of(part.id, part)
        if isinstance(part, Source | Supply):
            for place in part.places:
                yield from _figures_of(place.id, place)
                for limit in place.limits:
                    yield f"{place.id}/at_c/{limit.kind}", limit.at_c
    simple: list[Zone | Loop | Recirculation | Feed | Bond] = [
        *build.zones, *build.loops, *build.recirculations, *build.feeds, *build.bonds,
    ]  # fmt: skip
    for item in simple:
        yield from _figures_of(item.id, item)
    for route in build.routes:
        for hop in route.hops:
            yield from _figures_of(hop.id, hop)
    for workload in build.workloads:
        for source, figure in workload.watts.items():
            yield f"{workload.id}/watts/{source}", figure


def _figures_of(item: str, model: object) -> Iterator[tuple[str, Figure]]:
    for field in figure_names(type(model)):
        figure = getattr(model, field)
        if figure is not None:
            yield f"{item}/{field}", figure


def figure_names(model: type) -> list[str]:
    """Names of the fields of a model that hold a figure; looked up once a model."""
    if model not in _FIGURE_NAMES:
        fields = getattr(model, "model_fields", {})
        _FIGURE_NAMES[model] = [name for name, info in fields.items() if "FigureDetail" in str(info.annotation)]
    return _FIGURE_NAMES[model]
