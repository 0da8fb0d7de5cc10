"""Every part and feed that is bought or in hand: class, figures that nobody measured, price, step, tool; and the sums."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from krill.assembly.steps import is_board
from krill.assembly.work_order import WorkStep
from krill.catalogue.classes import classes
from krill.catalogue.feeds import feed_classes
from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.document.feeds import Feed
from krill.document.figures import Figure, detail
from krill.document.part_base import Stock
from krill.fit.extents import extent_of, mass_of_body

#: origins of figures that nobody measured or looked up
ASSUMED = ("class", "estimate", "rule_of_thumb", "law")
#: kinds of part that nobody buys: holes, gaps, what stands in the way
_NOTHING = ("opening", "gap", "obstacle")
#: feeds that are bought beside the parts
_BOUGHT_FEEDS = ("splitter", "hub", "adapter", "brick")


@dataclass(frozen=True, slots=True)
class PartRow:
    """A part of the list; money and mass are unknown where nobody says."""

    id: str
    name: str
    kind: str
    of_class: str
    assumed: list[str]
    price: float | None
    mass_g: float | None
    stock: Stock | None
    due_on: str | None
    tool: str
    step: str | None
    step_name: str
    note: str


@dataclass(frozen=True, slots=True)
class PartSums:
    """What all of it comes to; what is unknown is counted, never guessed."""

    money: float
    prices_unknown: int
    mass_g: float
    masses_unknown: int
    in_hand: int
    ordered: int
    to_buy: int
    untold: int


def part_rows(build: Build, figures: FigureTable, steps: Sequence[WorkStep]) -> list[PartRow]:
    """Every part that is bought, made or at hand, in the order in which they go in."""
    of = {item: step for step in steps for item in [*step.items, step.id]}
    place = {step.id: at for at, step in enumerate(steps)}
    rows = [*_parts(build, figures, of), *_feeds(build, of)]
    return sorted(rows, key=lambda row: place[row.step] if row.step is not None else len(place))


def _parts(build: Build, figures: FigureTable, of: Mapping[str, WorkStep]) -> Iterator[PartRow]:
    assumed: dict[str, list[str]] = {}
    for address, figure in figures.figures.items():
        if figure.origin in ASSUMED and figure.quantity.label:
            assumed.setdefault(address.split("/")[0], []).append(figure.quantity.label)
    for part in build.parts:
        if part.kind in _NOTHING or is_board(part):
            continue
        own = classes().get(part.class_ or "")
        mass = mass_of_body(part, extent_of(part))
        step = of.get(part.id)
        yield PartRow(
            part.id,
            part.name or part.id,
            part.kind,
            "" if own is None else own.name,
            assumed.get(part.id, []),
            _figure(part.price),
            None if mass is None else mass[0],
            part.stock,
            part.due_on,
            "" if step is None else step.tool,
            None if step is None else step.id,
            "" if step is None else step.name,
            part.note or "",
        )


def _feeds(build: Build, of: Mapping[str, WorkStep]) -> Iterator[PartRow]:
    for feed in build.feeds:
        if feed.kind in _BOUGHT_FEEDS:
            fed = [part.id for part in build.parts if feed.id in (part.feed, *part.also_fed)]
            step = next((of[part] for part in fed if part in of), None)
            yield PartRow(
                feed.id,
                feed.name or feed.id,
                feed.kind,
                _feed_class(feed),
                [],
                _figure(feed.price),
                None,
                feed.stock,
                feed.due_on,
                "",
                None if step is None else step.id,
                "" if step is None else step.name,
                "",
            )


def _feed_class(feed: Feed) -> str:
    return "" if feed.class_ is None else feed_classes()[feed.class_].name


def _figure(figure: Figure | None) -> float | None:
    return None if figure is None else float(detail(figure).value)


def sums_of(rows: Sequence[PartRow]) -> PartSums:
    """Money, mass and what is still to come."""
    prices = [row.price for row in rows if row.price is not None]
    masses = [row.mass_g for row in rows if row.mass_g is not None]
    stock = [row.stock for row in rows]
    return PartSums(
        money=sum(prices),
        prices_unknown=len(rows) - len(prices),
        mass_g=sum(masses),
        masses_unknown=len(rows) - len(masses),
        in_hand=stock.count("in_hand"),
        ordered=stock.count("ordered"),
        to_buy=stock.count("to_buy"),
        untold=stock.count(None),
    )
