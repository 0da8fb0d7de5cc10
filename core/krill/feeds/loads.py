"""What hangs on each feed in a workload: amperes and watts against what plug, contacts and wire bear."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Final, Literal

from krill.catalogue.feeds import FeedClass, contact_amperes, feed_classes, wires
from krill.catalogue.table import table
from krill.components.figure_table import FigureTable
from krill.document.build import Build, Workload
from krill.document.feeds import Feed
from krill.document.figures import detail
from krill.document.part_base import Part
from krill.document.parts import Fan, Mover, Pump, Source, Supply

#: whether a feed bears what hangs on it; "by class figure" until ratings and currents are measured or from data sheets
FeedSays = Literal["ok", "ok by class figure", "over", "start over", "empty"]
#: the plug that a board and what sits on it hang on
BOARD: Final = "main_24"
#: volts where no class says
VOLTS: Final = 12.0
#: classes of feeds by their kind, where none is named
_BY_KIND: Final = {"header": "fan_plug", "splitter": "splitter_fan", "hub": "hub_drive"}
_SURE: Final = ("measured", "datasheet")


@dataclass(frozen=True, slots=True)
class FeedLoad:
    """A feed and what hangs on it.

    ``label_a`` are amperes as printed (all that counts at a fan plug), ``start_a`` all movers starting at once, under a
    second. Allowed is the least of plug, contacts and wire, ``by`` says which; None where nobody knows.
    """

    feed: str
    name: str
    kind: str
    of_class: str
    fed_by: str | None
    consumers: list[str]
    label_a: float
    running_a: float
    start_a: float
    running_w: float
    burst_w: float
    volts: float
    allowed_a: float | None
    labels_allowed_a: float | None
    left_a: float | None
    by: str
    drop_v: float | None
    lost_w: float | None
    says: FeedSays
    because: str
    way_out: str | None
    split: bool
    foreign: list[str]


@dataclass(frozen=True, slots=True)
class _Draw:
    """What a part draws: amperes on its label, running, starting; watts running and at most."""

    label_a: float
    running_a: float
    start_a: float
    running_w: float
    burst_w: float
    sure: bool

    def times(self, share: float) -> "_Draw":
        return _Draw(
            share * self.label_a,
            share * self.running_a,
            share * self.start_a,
            share * self.running_w,
            share * self.burst_w,
            self.sure,
        )

    def plus(self, other: "_Draw") -> "_Draw":
        return _Draw(
            self.label_a + other.label_a,
            self.running_a + other.running_a,
            self.start_a + other.start_a,
            self.running_w + other.running_w,
            self.burst_w + other.burst_w,
            self.sure and other.sure,
        )


_NOTHING: Final = _Draw(0.0, 0.0, 0.0, 0.0, 0.0, sure=True)


def feed_loads(build: Build, figures: FigureTable, workload: Workload) -> list[FeedLoad]:
    """Every feed in a workload, those that hang on others counted there as well. Figures are the central ones."""
    feeds = _Feeds(build, figures, workload)
    return [feeds.load(feed) for feed in build.feeds]


def unfed(build: Build) -> list[str]:
    """Consumers that name no feed, though the build has feeds."""
    if not build.feeds:
        return []
    return [part.id for part in build.parts if isinstance(part, Source | Mover) and part.feed is None]


def class_of(feed: Feed) -> FeedClass | None:
    """The class of a feed: as named, else of its kind."""
    return feed_classes().get(feed.class_ or _BY_KIND.get(feed.kind, ""))


class _Feeds:
    def __init__(self, build: Build, figures: FigureTable, workload: Workload) -> None:
        self.build, self.figures, self.workload = build, figures, workload
        self.feeds = {feed.id: feed for feed in build.feeds}

    def load(self, feed: Feed) -> FeedLoad:
        own = class_of(feed)
        draw, consumers = self._on(feed), self._consumers(feed)
        rating, rated_by, sure = self._rating(feed, own)
        labels = None if rating is None else (1.0 if own is None else own.labels_share) * rating
        bears, by = self._bears(feed, own, rating, rated_by)
        says, because = _says(feed, draw, consumers, labels, bears, by, sure and draw.sure)
        volts = VOLTS if own is None else own.volts
        drop, lost = _lost(feed, own, draw.running_a)
        movers = any(isinstance(self.build.part(item), Mover) for item in consumers)
        return FeedLoad(
            feed=feed.id,
            name=feed.name or feed.id,
            kind=feed.kind,
            of_class="" if own is None else own.name,
            fed_by=feed.fed_by,
            consumers=consumers,
            label_a=draw.label_a,
            running_a=draw.running_a,
            start_a=draw.start_a,
            running_w=draw.running_w,
            burst_w=draw.burst_w,
            volts=volts,
            allowed_a=bears,
            labels_allowed_a=labels,
            left_a=None if labels is None or bears is None else min(labels, bears) - draw.label_a,
            by=by,
            drop_v=drop,
            lost_w=lost,
            says=says,
            because=because,
            way_out=_way_out(says, feed, movers=movers),
            split=self._is_split(feed, consumers),
            foreign=self._foreign(feed, consumers),
        )

    def _is_split(self, feed: Feed, consumers: Sequence[str]) -> bool:
        """Whether one lead feeds two sources: all but the board's own, which is made for what sits on the board."""
        return (
            feed.kind == "plug"
            and feed.class_ != BOARD
            and sum(isinstance(self.build.part(item), Source) for item in consumers) > 1
        )

    def _consumers(self, feed: Feed) -> list[str]:
        below = [other for other in self.build.feeds if other.fed_by == feed.id]
        own = [part.id for part in self.build.parts if feed.id in (part.feed, *part.also_fed)]
        return list(dict.fromkeys([*own, *(item for other in below for item in self._consumers(other))]))

    def _on(self, feed: Feed) -> _Draw:
        total = _NOTHING
        for part in self.build.parts:
            if feed.id in (part.feed, *part.also_fed):
                total = total.plus(self._draw(part, feed).times(self._share(part, feed)))
        for other in self.build.feeds:
            if other.fed_by == feed.id:
                total = total.plus(self._on(other))
        return total

    def _share(self, part: Part, feed: Feed) -> float:
        """What of a part hangs on one of its feeds: by their ratings; alike where one of them is not known."""
        ids = [item for item in dict.fromkeys([part.feed, *part.also_fed]) if item in self.feeds]
        rated = [self._rating(self.feeds[item], class_of(self.feeds[item]))[0] for item in ids if item is not None]
        if len(ids) < 2:
            return 1.0
        known = [rating for rating in rated if rating is not None]
        if len(known) < len(ids):
            return 1.0 / len(ids)
        return known[ids.index(feed.id)] / sum(known)

    def _draw(self, part: Part, feed: Feed) -> _Draw:
        own = class_of(feed)
        volts = VOLTS if own is None else own.volts
        start = table("feeds")["start"]
        if isinstance(part, Source):
            figure = self.workload.watts.get(part.id)
            watts = 0.0 if figure is None else float(detail(figure).value)
            burst = self.workload.burst.get(part.id)
            most = max(watts, float(burst.power_w)) if burst is not None else watts
            sure = figure is None or detail(figure).origin in _SURE
            return _Draw(most / volts, watts / volts, 0.0, watts, most, sure)
        if isinstance(part, Pump):
            power, sure = self._known(f"{part.id}/power_w")
            return _Draw(power / volts, power / volts, start["pump"][0] * power / volts, power, power, sure)
        if isinstance(part, Fan):
            label, sure = self._known(f"{part.id}/current_a")
            kind = "blower" if (part.class_ or "").startswith("fan_blower") else "fan"
            running = start["running_share"][0] * label
            return _Draw(label, running, start[kind][0] * label, running * volts, label * volts, sure)
        return _NOTHING

    def _known(self, address: str) -> tuple[float, bool]:
        known = self.figures.figures.get(address)
        return (0.0, False) if known is None else (known.in_units, known.origin in _SURE)

    def _rating(self, feed: Feed, own: FeedClass | None) -> tuple[float | None, str, bool]:
        """Amperes that it is made for, in words, and whether that is more than a class figure."""
        volts = VOLTS if own is None else own.volts
        if feed.limit_a is not None:
            return float(detail(feed.limit_a).value), "its limit", detail(feed.limit_a).origin in _SURE
        if feed.limit_w is not None:
            return float(detail(feed.limit_w).value) / volts, "its limit", detail(feed.limit_w).origin in _SURE
        return (None, "", False) if own is None else (own.amperes, "its plug", False)

    def _bears(self, feed: Feed, own: FeedClass | None, rating: float | None, by: str) -> tuple[float | None, str]:
        """The least of plug, contacts and wire, A."""
        found = [] if rating is None else [(rating, by)]
        contacts = None if own is None else own.contacts
        if own is not None and contacts is not None and own.contact_a is not None:
            each = own.contact_a
            if feed.gauge_awg is not None:
                each = min(each, contact_amperes(feed.gauge_awg, 2 * contacts) or each)
                found.append((contacts * _wire_a(feed.gauge_awg, contacts), f"its wires, AWG {feed.gauge_awg}"))
            found.append((contacts * each, "its contacts"))
        elif feed.gauge_awg is not None:
            found.append((wires()[feed.gauge_awg].bundle_a, f"its wire, AWG {feed.gauge_awg}"))
        return min(found, default=(None, ""), key=lambda one: one[0] if one[0] is not None else 0.0)

    def _foreign(self, feed: Feed, consumers: Sequence[str]) -> list[str]:
        """Consumers of another machine than the supply that the feed hangs on."""
        end = self.build.feeds_above(feed.id)[-1]
        supply = next((part for part in self.build.parts if isinstance(part, Supply) and part.id == end), None)
        if supply is None or supply.machine is None:
            return []
        return [item for item in consumers if self.build.part(item).machine not in (None, supply.machine)]


def _wire_a(gauge: int, contacts: int) -> float:
    known = wires()[gauge]
    return known.single_a if contacts == 1 else known.bundle_a


def _lost(feed: Feed, own: FeedClass | None, amperes: float) -> tuple[float | None, float | None]:
    """Volts that a lead drops there and back, and the watts that it warms the box with."""
    if feed.gauge_awg is None or feed.length_m is None:
        return None, None
    contacts = 1 if own is None or own.contacts is None else own.contacts
    drop = 2 * float(feed.length_m) * amperes / contacts * wires()[feed.gauge_awg].ohm_m
    return drop, drop * amperes


def _says(
    feed: Feed, draw: _Draw, consumers: Sequence[str], labels: float | None, bears: float | None, by: str, sure: bool
) -> tuple[FeedSays, str]:
    if feed.wanted and not consumers:
        return "empty", "it must not stay empty: the machine complains at start"
    if labels is not None and draw.label_a > labels:
        return "over", f"{draw.label_a:.2f} A on the labels, {labels:.2f} A are allowed"
    if bears is not None and draw.label_a > bears:
        return "over", f"{draw.label_a:.2f} A, {by} bear {bears:.2f} A"
    if bears is not None and draw.start_a > bears:
        return "start over", f"{draw.start_a:.2f} A for under a second while all start, {by} bears {bears:.2f} A"
    return ("ok" if sure else "ok by class figure"), ""


def _way_out(says: FeedSays, feed: Feed, movers: bool) -> str | None:
    if says in ("over", "start over"):
        if movers and feed.kind in ("header", "splitter"):
            return "one four-way splitter with its own feed"
        return "a second lead of its own from the supply, or a plug made for more"
    return "plug a fan in, or set its watch off in the firmware" if says == "empty" else None
