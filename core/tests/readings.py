"""Readings as a person would type them."""

from krill.runs.run_document import Reading


def typed(minute, role, kind, value, load_on, **more):
    return Reading(minute=minute, role=role, kind=kind, value=value, load_on=load_on, **more)
