"""Refusals: each wrong thing once, at an address of the document, whatever kind of thing it stands in."""

from typing import get_args

import pytest
from strategies import raw_recipe

from krill.document.parts import AnyPart
from krill.document.reading import read_object
from krill.errors import DocumentRefused

KINDS = [get_args(model.model_fields["kind"].annotation)[0] for model in get_args(get_args(AnyPart)[0])]


def refused(raw) -> list[tuple[str, str, str]]:
    with pytest.raises(DocumentRefused) as caught:
        read_object(raw)
    return [(p.where, p.what, p.allowed) for p in caught.value.problems]


def with_part(**figures):
    raw = raw_recipe()
    raw["parts"].append({"id": "odd", **figures})
    return raw


@pytest.mark.parametrize("kind", KINDS)
def test_an_unknown_key_of_every_kind_of_part_has_an_address_of_the_document(kind):
    found = refused(with_part(kind=kind, no_such_key=1))
    assert ("odd/no_such_key", "unknown key", "the keys of the published schema") in found
    assert all(where.startswith("odd/") and f"/{kind}/" not in where for where, _, _ in found)


FIGURE = 'a number or {"value": …, "plus_minus": …, "from": …}'


@pytest.mark.parametrize(
    ("figure", "where", "what", "allowed"),
    [
        ("warm", "room/air_c", '"warm"', FIGURE),
        (None, "room/air_c", "null", FIGURE),
        ({"value": "warm"}, "room/air_c/value", '"warm"', "a number"),
        ({"plus_minus": 2}, "room/air_c/value", "missing", "a value"),
        ({"value": 24, "plus_minus": "2"}, "room/air_c/plus_minus", '"2"', 'a number, or a percentage such as "15%"'),
        ({"value": 24, "minus": 2}, "room/air_c/minus", "unknown key", "the keys of the published schema"),
    ],
)
def test_one_wrong_figure_is_told_once(figure, where, what, allowed):
    raw = raw_recipe()
    raw["rooms"][0]["air_c"] = figure
    assert refused(raw) == [(where, what, allowed)]


def test_a_kind_that_is_not_known_or_not_given_is_told_where_the_kind_stands():
    (where, what, allowed), *more = refused(with_part(kind="sinc"))
    assert (where, what, more) == ("odd/kind", '"sinc"', [])
    assert "'sink'" in allowed
    assert refused(with_part(name="no kind")) == [("odd/kind", "missing", "a kind")]


def test_two_wrong_things_are_two_problems():
    raw = raw_recipe()
    raw["rooms"][0]["air_c"] = "warm"
    raw["rooms"][1]["air_c"] = []
    assert [where for where, _, _ in refused(raw)] == ["room/air_c", "cool-day/air_c"]


def test_a_slip_within_branches_is_told_within_them():
    raw = raw_recipe()
    raw["loops"][0]["elements"] = ["pump", {"parallel": [["tube"], ["No Slug"]]}]
    (where, what, _), *more = refused(raw)
    assert (where, what, more) == ("loop-a/elements/1/parallel/1/0", '"No Slug"', [])
    raw["loops"][0]["elements"] = ["pump", {"paralel": [["tube"], ["elbows"]]}]
    assert [where for where, _, _ in refused(raw)] == ["loop-a/elements/1/parallel", "loop-a/elements/1/paralel"]
