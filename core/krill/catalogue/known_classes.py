"""Whether every class that a document names is one of its kind; a document may be kept with others, not be solved."""

from collections.abc import Iterator
from difflib import get_close_matches
from itertools import chain

from krill.catalogue.bodies import bodies
from krill.catalogue.classes import classes
from krill.document.build import Build
from krill.document.part_base import Part
from krill.errors import DocumentRefused, Problem

NEAR = 3


def class_problems(build: Build) -> list[Problem]:
    """Every part and place whose class is none of its kind, with the nearest that are."""
    parts = ((part.id, part.kind, part.class_) for part in build.parts)
    places = ((place.id, "place", place.class_) for place, _ in build.place_owners().values())
    found = [problem for item, kind, named in chain(parts, places) if named for problem in _of(item, kind, named)]
    return found + [problem for part in build.parts for problem in _outline(part)]


def must_know_classes(build: Build) -> None:
    """DocumentRefused names every class that is none of its kind."""
    if unknown := class_problems(build):
        raise DocumentRefused(unknown)


def _outline(part: Part) -> Iterator[Problem]:
    named = None if part.outline is None else part.outline.body
    if named is not None and named not in bodies():
        near = get_close_matches(named, bodies(), n=NEAR, cutoff=0.5)
        what = f"one of the {len(bodies())} outlines by class" + (f", the nearest: {', '.join(near)}" if near else "")
        yield Problem(f"{part.id}/outline", f"there is no outline '{named}'", what)


def _of(item: str, kind: str, named: str) -> Iterator[Problem]:
    known = classes().get(named)
    if known is None or known.kind != kind:
        what = f"there is no class '{named}'" if known is None else f"class '{named}' is one of kind {known.kind}"
        yield Problem(f"{item}/class", what, _allowed(kind, named))


def _allowed(kind: str, named: str) -> str:
    own = [key for key, row in classes().items() if row.kind == kind]
    if not own:
        return f"no class: kind {kind} has none"
    near = get_close_matches(named, own, n=NEAR, cutoff=0.5) or own[:NEAR]
    return f"one of the {len(own)} classes of kind {kind}, the nearest: {', '.join(near)}"
