"""Plugs, slots, splitters and leads: what they are made for, what their contacts and wires bear."""

from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from krill.catalogue.table import table
from krill.document.feeds import FeedKind


@dataclass(frozen=True, slots=True)
class FeedClass:
    """Made for so many amperes (from its watts, where those are stated); labels add up to a share of it at most.

    ``contacts`` of the hot side bear ``contact_a`` each. ``origin``: S of a standard, M from memory, P common practice.
    """

    name: str
    kind: FeedKind
    volts: float
    amperes: float
    watts: float | None
    labels_share: float
    contacts: int | None
    contact_a: float | None
    origin: str


@dataclass(frozen=True, slots=True)
class Wire:
    """Section, resistance at 20 °C, amperes for 30 K rise of one in air and of each in a bundle of six."""

    mm2: float
    ohm_m: float
    single_a: float
    bundle_a: float


@lru_cache(maxsize=1)
def feed_classes() -> dict[str, FeedClass]:
    """Every class of feed by its id."""
    return {key: _class(row) for key, row in table("feeds")["classes"].items()}


def _class(row: dict[str, Any]) -> FeedClass:
    watts, volts = row.get("watts"), row["volts"]
    amperes = row["amperes"] if watts is None else watts / volts
    share, contacts = row.get("labels_share", 1.0), row.get("contacts")
    return FeedClass(
        row["name"], row["kind"], volts, amperes, watts, share, contacts, row.get("contact_a"), row["origin"]
    )


@lru_cache(maxsize=1)
def wires() -> dict[int, Wire]:
    """Wires by gauge."""
    return {
        int(key): Wire(row["mm2"], row["milliohm_m"] / 1000, row["single_a"], row["bundle_a"])
        for key, row in table("feeds")["wire"].items()
    }


def contact_amperes(gauge: int, contacts: int) -> float | None:
    """What each contact of a plug bears for 30 K rise, all loaded, by wire and number of contacts (2 to 24).

    None for gauges that the table has none of. A plug family's data sheet, value from memory, ± 1 A.
    """
    row = table("feeds")["contact_a"].get(str(gauge))
    if row is None:
        return None
    return next((float(amperes) for most, amperes in row.items() if contacts <= int(most)), float(row["24"]))
