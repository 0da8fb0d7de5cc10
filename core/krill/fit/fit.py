"""Will it go in: every slot, every contact, the plan and the leads of a build, with what else would fit."""

from dataclasses import dataclass

from krill.document.build import Build
from krill.fit.contact import ContactFit, contact_fit
from krill.fit.floor import FloorSag, floor_sag
from krill.fit.heights import HeightCheck, height_checks
from krill.fit.leads import LeadFit, TubeLength, lead_fits, tube_lengths
from krill.fit.limits import Largest, limits_of
from krill.fit.placed_boxes import boxes_of
from krill.fit.plan import Plan, plan_of
from krill.fit.reach import Reached, reached_parts
from krill.fit.shorts import Short, shorts_of
from krill.fit.stack import StackFit, stack_fit
from krill.fit.travel import BeforeTravel, travel_list


@dataclass(frozen=True, slots=True)
class Checks:
    """What goes in, touches or floats. Lengths only: nothing here asks the network."""

    slots: list[StackFit]
    contacts: list[ContactFit]
    plan: Plan
    leads: list[LeadFit]
    tubes: list[TubeLength]
    reached: list[Reached]
    shorts: list[Short]
    heights: list[HeightCheck]
    floor: FloorSag | None
    travel: list[BeforeTravel]


@dataclass(frozen=True, slots=True)
class Fit(Checks):
    """Lengths only: nothing here asks the network."""

    limits: list[Largest]


def checks_of(build: Build) -> Checks:
    """Every slot, contact, placed part and lead."""
    boxes = boxes_of(build)
    leads, plan = lead_fits(build, boxes), plan_of(build, boxes)
    return Checks(
        slots=[stack_fit(build, slot) for slot in build.slots],
        contacts=[contact_fit(contact) for contact in build.contacts],
        plan=plan,
        leads=leads,
        tubes=tube_lengths(build, leads),
        reached=reached_parts(build, boxes),
        shorts=shorts_of(build, boxes),
        heights=height_checks(build, boxes),
        floor=floor_sag(build, plan.mass_g),
        travel=travel_list(build, boxes),
    )


def fit_of(build: Build) -> Fit:
    """All that lengths alone say of a build: its checks, and what else would fit."""
    found = checks_of(build)
    every = {name: getattr(found, name) for name in Checks.__dataclass_fields__}
    return Fit(**every, limits=limits_of(build, found.slots, found.plan))
