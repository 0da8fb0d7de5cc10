"""Classes that nobody knows are refused with the nearest of their kind; every class that ships is known."""

import pytest
from machines import fan, machine, opening, path, source, sure

from krill.catalogue.classes import classes
from krill.catalogue.known_classes import class_problems
from krill.catalogue.shelf import class_shelf
from krill.components.figure_table import FigureTable
from krill.document.part_base import Part
from krill.document.reading import read_object
from krill.errors import DocumentRefused, Problem
from krill.prediction.predict import predict


def with_classes(opening_class=None, place_class=None, gap_class=None):
    part, route = source("chip", "out")
    if place_class:
        part["places"][0]["class"] = place_class
    hole = opening("hole", **({"class": opening_class} if opening_class else {}))
    gap = {"id": "gap", "kind": "gap", "gap_mm": sure(20), "span_mm": sure(120)}
    gap |= {"class": gap_class} if gap_class else {}
    through = path("p", "out", "out", "a", "hole", "gap")
    return read_object(machine([fan("a"), hole, gap], [], [through], sources=[(part, route)], watts={"chip": 5}))


@pytest.mark.parametrize(
    ("named", "where", "what", "allowed"),
    [
        (
            {"opening_class": "opening_hole"},
            "hole/class",
            "there is no class 'opening_hole'",
            "one of the 12 classes of kind opening, the nearest: opening_holes,",
        ),
        (
            {"opening_class": "fan_40x20"},
            "hole/class",
            "class 'fan_40x20' is one of kind fan",
            "one of the 12 classes of kind opening, the nearest: opening_holes, opening_dense, opening_honeycomb",
        ),
        (
            {"place_class": "lidded_120"},
            "/class",
            "there is no class 'lidded_120'",
            "lidded_125",
        ),
        ({"gap_class": "gap_20"}, "gap/class", "there is no class 'gap_20'", "no class: kind gap has none"),
    ],
)
def test_a_class_that_is_none_of_its_kind_is_refused_with_the_nearest(named, where, what, allowed):
    build = with_classes(**named)
    [problem] = class_problems(build)
    assert (where in problem.where, problem.what, allowed in problem.allowed) == (True, what, True)
    with pytest.raises(DocumentRefused) as refused:
        predict(build, samples=0)
    assert refused.value.problems == [problem]


def test_all_of_them_are_told_at_once_by_their_part_or_place():
    build = with_classes(opening_class="x", place_class="y", gap_class="z")
    assert [type(problem) for problem in class_problems(build)] == [Problem] * 3
    assert len({problem.where for problem in class_problems(build)}) == 3
    with pytest.raises(DocumentRefused) as refused:
        FigureTable(build)
    assert refused.value.problems == class_problems(build)


def test_a_class_of_its_kind_and_none_at_all_are_sound():
    for build in (with_classes(), with_classes(opening_class="opening_holes", place_class="lidded_125")):
        assert class_problems(build) == []
        assert FigureTable(build).build is build


def test_every_item_of_the_shelf_names_a_class_of_its_kind():
    parts = [item.part for item in class_shelf() if isinstance(item.part, Part)]
    named = [(part.kind, part.class_) for part in parts if part.class_]
    assert len(named) > 50
    assert all(classes()[key].kind == kind for kind, key in named)
