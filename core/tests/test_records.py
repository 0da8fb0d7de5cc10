"""Records as plain JSON: names kept, nested records and tables too, what is not finite is null; records do not change."""

import dataclasses
import json

import pytest
from strategies import recipe

from krill.prediction.answer.result import Band
from krill.prediction.predict import predict
from krill.prediction.questions.loop_curves import loop_curves
from krill.records import inert, to_json


def test_a_prediction_is_json_with_the_names_of_its_records():
    prediction = predict(recipe(), ["both"], samples=20)
    data = to_json(prediction)
    assert json.loads(json.dumps(data)) == data
    place, record = data["workloads"][0]["places"][0], prediction.workloads[0].places[0]
    assert place["band_c"] == {"low": record.band_c.low, "high": record.band_c.high}
    assert list(place) == [field.name for field in dataclasses.fields(record)]
    curves = loop_curves(recipe(), "loop-a", "both")
    assert to_json(curves)["loop_curve"][3] == list(curves.loop_curve[3])


def test_what_is_not_finite_is_null_and_tables_stay_tables():
    assert to_json({"a": float("nan"), "b": (1, Band(low=0.0, high=float("inf")))}) == {
        "a": None,
        "b": [1, {"low": 0.0, "high": None}],
    }


def test_an_answer_does_not_change():
    with pytest.raises(dataclasses.FrozenInstanceError):
        Band(low=0.0, high=1.0).low = 2.0


@pytest.mark.parametrize(
    ("cell", "made"),
    [
        ("=1+1", "'=1+1"),
        ("+49 30", "'+49 30"),
        ("-cmd", "'-cmd"),
        ("@SUM(A1)", "'@SUM(A1)"),
        ("\t=1", "'\t=1"),
        ("\r=1", "'\r=1"),
        ("-3.2", "-3.2"),
        ("+5", "+5"),
        (-3.2, -3.2),
        ("", ""),
        ("a=b", "a=b"),
        (None, None),
    ],
)
def test_what_a_spreadsheet_would_work_out_is_marked_as_text(cell, made):
    assert inert(cell) == made
