"""Will it go in: every slot, every contact and the plan of a build, with what else would fit."""

from dataclasses import dataclass

from krill.document.build import Build
from krill.fit.contact import ContactFit, contact_fit
from krill.fit.limits import Largest, limits_of
from krill.fit.plan import Plan, plan_of
from krill.fit.stack import StackFit, stack_fit


@dataclass(frozen=True, slots=True)
class Fit:
    """Lengths only: nothing here asks the network."""

    slots: list[StackFit]
    contacts: list[ContactFit]
    plan: Plan
    limits: list[Largest]


def fit_of(build: Build) -> Fit:
    """All that lengths alone say of a build."""
    slots = [stack_fit(build, slot) for slot in build.slots]
    plan = plan_of(build)
    return Fit(slots, [contact_fit(contact) for contact in build.contacts], plan, limits_of(build, slots, plan))
