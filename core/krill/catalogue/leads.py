"""Leads, plugs and fittings by class: how thick, how tightly laid, what room their ends take."""

from dataclasses import dataclass
from functools import lru_cache

from krill.catalogue.bodies import Length
from krill.catalogue.table import table


@dataclass(frozen=True, slots=True)
class LeadClass:
    """Outside (the width of a flat one) and the tightest radius it is laid with once, mm."""

    name: str
    outside_mm: Length
    bend_mm: float
    flat_mm: float | None


@dataclass(frozen=True, slots=True)
class PlugClass:
    """Mated body, what the bend of its lead adds, both together over the socket, and what must stay straight; mm."""

    name: str
    body_mm: float
    bend_mm: float
    plan_mm: float
    straight_mm: float


@dataclass(frozen=True, slots=True)
class FittingClass:
    """Height over the port, outside, what stays free straight before it, to one side for the hand, elsewhere, to the next."""

    name: str
    height_mm: Length
    outside_mm: Length
    straight_mm: float
    turn_mm: float
    beside_mm: float
    apart_mm: float


#: ports stand so far apart, axis to axis, unless a fitting wants more (common practice)
PORTS_APART_MM = 22.0


@lru_cache(maxsize=1)
def lead_classes() -> dict[str, LeadClass]:
    """Every class of lead by its id."""
    return {
        key: LeadClass(row["name"], (row["outside_mm"][0], row["outside_mm"][1]), row["bend_mm"], row.get("flat_mm"))
        for key, row in table("leads")["leads"].items()
    }


@lru_cache(maxsize=1)
def plug_classes() -> dict[str, PlugClass]:
    """Every class of plug by its id."""
    return {
        key: PlugClass(row["name"], row["body_mm"], row["bend_mm"], row["plan_mm"], row.get("straight_mm", 0.0))
        for key, row in table("leads")["plugs"].items()
    }


@lru_cache(maxsize=1)
def fitting_classes() -> dict[str, FittingClass]:
    """Every class of fitting at the end of a tube by its id."""
    return {
        key: FittingClass(
            row["name"],
            (row["height_mm"][0], row["height_mm"][1]),
            (row["outside_mm"][0], row["outside_mm"][1]),
            row.get("straight_mm", row["height_mm"][0]),
            row.get("turn_mm", 0.0),
            row.get("beside_mm", 0.0),
            row.get("apart_mm", PORTS_APART_MM),
        )
        for key, row in table("leads")["fittings"].items()
    }
