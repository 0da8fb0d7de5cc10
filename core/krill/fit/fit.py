"""Will it go in: every slot, every contact and the plan of a build, with what else would fit."""

from dataclasses import dataclass

from krill.document.build import Build
from krill.fit.contact import ContactFit, contact_fit
from krill.fit.limits import Largest, limits_of
from krill.fit.plan import Plan, plan_of
from krill.fit.stack import StackFit, stack_fit


@dataclass(frozen=True, slots=True)
class Checks:
    """What goes in, touches or floats. Lengths only: nothing here asks the network."""

    slots: list[StackFit]
    contacts: list[ContactFit]
    plan: Plan


@dataclass(frozen=True, slots=True)
class Fit(Checks):
    """Lengths only: nothing here asks the network."""

    limits: list[Largest]


def checks_of(build: Build) -> Checks:
    """Every slot, contact and placed part."""
    slots = [stack_fit(build, slot) for slot in build.slots]
    return Checks(slots, [contact_fit(contact) for contact in build.contacts], plan_of(build))


def fit_of(build: Build) -> Fit:
    """All that lengths alone say of a build: its checks, and what else would fit."""
    found = checks_of(build)
    return Fit(found.slots, found.contacts, found.plan, limits_of(build, found.slots, found.plan))
