"""Documents that something has broken: refused with the address, or answered in finite figures that can be."""

import json
import math
import random

import pytest
from mutated import ROUNDS, mutated, starts

from krill.document.quantities import LEAST, Quantity
from krill.document.quantities import MOST as MOST_OF
from krill.document.reading import json_value, read_object, write_object
from krill.document.storable import MOST_DEEP, must_be_storable
from krill.errors import DocumentRefused, KrillError
from krill.prediction.cost import MOST, must_be_affordable
from krill.prediction.predict import cases_of, predict
from krill.recipes.water_loop import water_loop
from krill.records import to_json
from krill.sizing.question import read_question
from krill.units import UNITS


def figures_in(value):
    if isinstance(value, dict):
        value = list(value.values())
    if isinstance(value, list):
        return [figure for inner in value for figure in figures_in(inner)]
    return [value] if isinstance(value, float) else []


def test_every_broken_document_is_refused_or_answered_in_figures_that_can_be():
    chance, answered = random.Random(11), 0
    for _ in range(250 * ROUNDS):
        raw = mutated(chance.choice(starts()), chance)
        try:
            answer = to_json(predict(read_object(raw), samples=4))
        except KrillError:
            continue
        answered += 1
        json.dumps(answer, allow_nan=False).encode()
        assert all(map(math.isfinite, figures_in(answer)))
        places = [place["temperature_c"] for load in answer["workloads"] for place in load["places"]]
        assert all(-100 < celsius < 2000 for celsius in places)
    assert answered > 10 * ROUNDS


@pytest.mark.parametrize(
    ("broken", "where", "what"),
    [
        ({"a": [1, {"id": "fan", "x": 10**400}]}, "fan/x", "beyond measure"),
        ({"a": -(10**16)}, "a", "beyond measure"),
        ({"a": float("nan")}, "a", "not a finite number"),
        ({"a": [{"id": "b", "name": "\ud800"}]}, "b/name", "cannot be stored"),
        ({"a": "x\x00"}, "a", "cannot be stored"),
        ({"a": {"\ud800": 1}}, "a", "a key with signs"),
    ],
)
def test_what_no_document_may_hold_is_told_with_its_address(broken, where, what):
    with pytest.raises(DocumentRefused) as refused:
        must_be_storable(broken)
    assert refused.value.problems[0].where == where
    assert what in refused.value.problems[0].what


def test_what_is_just_within_is_taken():
    must_be_storable({"a": 10**15, "b": -1e15, "c": "two\nlines \U0001f41f", "d": True, "e": None})


@pytest.mark.parametrize(("levels", "refused"), [(MOST_DEEP, False), (MOST_DEEP + 1, True)])
def test_depth(levels, refused):
    value = 1
    for _ in range(levels):
        value = [value]
    deep = {"a": value}
    if refused:
        with pytest.raises(DocumentRefused, match="nested too deeply"):
            must_be_storable(deep)
    else:
        must_be_storable(deep)


def test_no_more_than_twenty_things_are_told():
    with pytest.raises(DocumentRefused) as refused:
        must_be_storable([float("inf")] * 500)
    assert len(refused.value.problems) == 20


def test_a_number_of_ten_thousand_digits_is_refused_in_words():
    with pytest.raises(DocumentRefused, match="a number beyond measure"):
        json_value('{"a": ' + "9" * 10_000 + "}", "a build document")


def test_a_question_holds_nothing_that_cannot_be_stored():
    with pytest.raises(DocumentRefused, match="cannot be stored"):
        read_question({"vary": [{"address": "movers/fans", "options": [{"value": 0.5, "label": "a\x00"}]}]})


def allowed_instead(raw):
    """What is allowed instead of the one thing that is refused of a document; None where nothing is."""
    try:
        read_object(raw)
    except DocumentRefused as refused:
        (problem,) = refused.problems
        return problem.allowed
    return None


def changed(owner, field, value):
    raw = write_object(water_loop(125, 220, 30, 24, "one"))
    part = next(part for part in raw["parts"] if part["id"] == owner)
    part[field] = value
    return raw


@pytest.mark.parametrize(
    ("value", "allowed"),
    [
        (1e4, None),
        (1.01e4, "1e-09 to 10000 mm"),
        (1e-9, None),
        (0.9e-9, "1e-09 to 10000 mm"),
        ({"value": 30, "plus_minus": 300}, None),
        ({"value": 30, "plus_minus": 301}, "up to 300 mm either way"),
        ({"value": 30, "plus_minus": {"minus": 1, "plus": 301}}, "up to 300 mm either way"),
        ({"value": 30, "plus_minus": "1000%"}, None),
        ({"value": 30, "plus_minus": "1001%"}, "up to 300 mm either way"),
    ],
)
def test_a_figure_is_no_more_and_no_less_than_can_be_of_its_unit(value, allowed):
    assert allowed_instead(changed("tube", "bore_mm", value)) == allowed


@pytest.mark.parametrize(("area", "sound"), [(1, True), (0.99, False)])
def test_no_chip_is_smaller_than_a_square_millimetre(area, sound):
    raw = write_object(water_loop(125, 220, 30, 24, "one"))
    place = next(place for part in raw["parts"] for place in part.get("places", []))
    place["chip_area_mm2"] = area
    assert (allowed_instead(raw) is None) is sound


def test_every_unit_has_a_range_that_can_be():
    assert set(UNITS) == set(MOST_OF)
    assert all(most > LEAST for most in MOST_OF.values())


def test_what_may_be_nothing_may_be_next_to_nothing():
    assert Quantity("leak", unit="cm²", at_least=0).is_plausible(5e-324)
    assert not Quantity("area", unit="cm²").is_plausible(5e-324)
    assert Quantity("leak", unit="cm²", at_least=0).plausible() == "0 to 1e+08 cm²"


def test_a_tolerance_of_nothing_is_no_wider_than_what_can_be():
    assert Quantity("watts", unit="W").widest(0.0) == MOST_OF["W"]
    assert Quantity("air", unit="°C").widest(20.0) == Quantity("level", unit="dBA").widest(30.0) == 100.0


def test_workloads_named_twice_are_answered_once():
    build = water_loop(125, 220, 30, 24, "one")
    assert len(cases_of(build, ["both"] * 5000 + ["idle"], None)) == 2


def test_what_would_take_too_long_is_refused_with_the_draws_that_would_not():
    build = water_loop(125, 220, 30, 24, "one")
    rows = MOST // len(build.parts) ** 2
    must_be_affordable(build, 1, rows - 1)
    with pytest.raises(DocumentRefused, match=f"would take too long; allowed: up to {rows - 1} draws"):
        must_be_affordable(build, 1, rows)
    with pytest.raises(DocumentRefused, match=f"of 3 workloads .* up to {rows // 3 - 1} draws"):
        must_be_affordable(build, 3, rows // 3)
