"""Laws of sizing on random questions: rows equal documents, order does not matter, demands only strike out, fuzzed questions."""

import contextlib
import json
from itertools import pairwise

import numpy as np
import pytest
from asking import asked, axis
from hypothesis import given, settings
from hypothesis import strategies as st
from strategies import recipe

from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.sizing.candidates import Study
from krill.sizing.outcome import outcome
from krill.sizing.question import read_question

BUILD = recipe()
CHOICES = {
    "radiator-a/sections": [1, 2, 3, 4, 5],
    "radiator-a/thickness_mm": [28, 38, 45, 60],
    "fans/class": ["fan_120x15", "fan_120x25", "fan_120x30"],
    "pump/class": ["pump_small", "pump_strong"],
    "plate-graphics/class": ["plate_graphics_ordinary", "plate_graphics_typical", "plate_graphics_good"],
    "movers/fans": [0.35, 0.6, 1.0],
    "movers/pump": [0.5, 1.0],
    "tube/bore_mm": [8, 10, 13],
    "both/watts/processor": [65, 125],
}
questions = st.dictionaries(st.sampled_from(sorted(CHOICES)), st.integers(1, 3), min_size=1, max_size=3).map(
    lambda picked: [axis(address, *CHOICES[address][:count]) for address, count in picked.items()]
)
DEMAND = {"margins": [{"workload": "both", "at_least_k": 10}], "sounds": [{"workload": "both", "at_most_dba": 38}]}


def solved(vary, **more):
    study = Study(BUILD, asked(vary, demands=DEMAND, **more))
    return study, outcome(study, [study.solve(chunk) for chunk in study.chunks()])


@settings(max_examples=12, deadline=None)
@given(questions, st.randoms(use_true_random=False))
def test_any_candidate_of_any_question_equals_a_fresh_prediction(vary, random):
    study, result = solved(vary)
    number = random.randrange(result.size)
    alone = predict(study.document(number), ["both"], samples=0).workloads[0]
    if alone.no_state is not None:
        assert result.failures[str(number)] == alone.no_state.what
        return
    least = min(place.margin_k for place in alone.places if place.margin_k is not None)
    assert result.columns["margin_k"][number] == pytest.approx(least, abs=0.05)
    assert result.columns["level_dba"][number] == pytest.approx(alone.sound.total_dba, abs=0.05)


@settings(max_examples=6, deadline=None)
@given(questions)
def test_the_order_of_axes_changes_numbers_and_not_figures(vary):
    study, result = solved(vary)
    turned, other = solved(vary[::-1])
    for number in range(result.size):
        there = int(np.ravel_multi_index(study.options_of(number)[::-1], turned.shape))
        assert other.columns["margin_k"][there] == pytest.approx(result.columns["margin_k"][number], abs=0.01)
        assert (there in other.undominated) == (number in result.undominated)


def test_asking_more_only_strikes_out():
    vary = [axis("radiator-a/sections", 2, 3, 4), axis("movers/fans", 0.4, 0.6, 0.8)]
    sets = []
    for margin in (0, 8, 12, 16):
        study = Study(BUILD, asked(vary, demands={"margins": [{"workload": "both", "at_least_k": margin}]}))
        sets.append(set(outcome(study, [study.solve(chunk) for chunk in study.chunks()]).meets))
    for wider, narrower in pairwise(sets):
        assert narrower <= wider


json_values = st.recursive(
    st.none()
    | st.booleans()
    | st.integers(-5, 5)
    | st.floats(allow_nan=False, allow_infinity=False)
    | st.text(max_size=8),
    lambda inner: (
        st.lists(inner, max_size=3)
        | st.dictionaries(
            st.sampled_from(["vary", "address", "options", "value", "demands", "margins", "x"]), inner, max_size=4
        )
    ),
    max_leaves=12,
)


@settings(max_examples=150, deadline=None)
@given(json_values)
def test_any_json_is_a_question_or_refused_in_words(raw):
    with contextlib.suppress(DocumentRefused):
        Study(BUILD, read_question(json.loads(json.dumps(raw))))


@settings(max_examples=60, deadline=None)
@given(
    st.sampled_from([*CHOICES, "housing/gravity", "radiator-a/name", "processor/places", "pump/part", "brief/purpose"]),
    st.lists(
        st.none()
        | st.integers(-3, 9)
        | st.floats(-2, 300).map(lambda value: round(value, 3))
        | st.text(max_size=6)
        | st.just([0, 0, 1]),
        min_size=1,
        max_size=3,
    ),
)
def test_any_value_on_any_address_is_solved_refused_or_told_to_have_failed(address, values):
    """No option of a hand-written question ends in anything but words."""
    try:
        study = Study(BUILD, asked([axis(address, *values)]))
    except DocumentRefused:
        return
    result = outcome(study, [study.solve(chunk) for chunk in study.chunks()])
    for number in range(result.size):
        if result.columns["margin_k"][number] is None:
            assert result.failures[str(number)]


def test_a_value_that_no_document_may_hold_is_refused_before_it_is_a_row():
    for value in (-1, 0):
        with pytest.raises(DocumentRefused) as refused:
            Study(BUILD, asked([axis("tube/bore_mm", 8, value)]))
        assert refused.value.problems[0].where == "tube/bore_mm"
