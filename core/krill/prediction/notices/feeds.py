"""Plugs that carry too much, start too many at once or stay empty; parts fed by another machine's supply."""

from collections.abc import Iterator

from krill.feeds.loads import FeedLoad, feed_loads
from krill.feeds.supply_loads import supply_loads
from krill.prediction.answer.result import Notice
from krill.prediction.answer.solving import Solved
from krill.prediction.notices.notice import note, warning


def feed_notices(solved: Solved, case: int) -> Iterator[Notice]:
    """Of every feed, and of what a burst or a spike asks of a supply."""
    workload = solved.cases[case].workload
    for load in feed_loads(solved.build, solved.table, workload):
        yield from _feed(load)
    for supply in supply_loads(solved.build, solved.table, workload):
        if supply.holds is False and supply.rating_w is not None and supply.sustained_w <= supply.rating_w:
            tell = warning if supply.burst_w > supply.rating_w else note
            yield tell(supply.supply, f"{supply.name}: {supply.says} (common practice).")


def _feed(load: FeedLoad) -> Iterator[Notice]:
    way = f": {load.way_out}" if load.way_out else ""
    if load.says == "over":
        count = len(load.consumers)
        parts = "part" if count == 1 else "parts"
        yield warning(
            load.feed, f"{load.name} would carry too much for {count} {parts}: {load.because} (common practice){way}."
        )
    elif load.says == "start over":
        yield note(load.feed, f"{load.name} starts too much at once: {load.because}{way}.")
    elif load.says == "empty":
        yield note(load.feed, f"{load.name} is empty: {load.because}.")
    if load.split:
        yield note(load.feed, f"{load.name} is one plug for {len(load.consumers)} parts: each wants a lead of its own.")
    for part in load.foreign:
        yield warning(
            load.feed, f"{part} hangs on the supply of another machine: with that off it stops, or back-feeds."
        )
