"""Batches of live runs: the same by JSON lines and by CSV, and refused with where, what and what is allowed."""

import csv
import io
import json

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from krill.errors import DocumentRefused
from krill.logs.live import MOST_CHANNELS, MOST_NAME, MOST_ROWS, read_csv, read_json_lines

TOLD = {"session": "a-1", "sequence": 3, "clock": 1.7e9, "steady": 12.5, "interval_s": 0.5}
FIGURES = st.none() | st.floats(-1e9, 1e9).map(lambda x: float(f"{x:.6g}"))
NAMES = st.text("abcXYZäΩ07.-/", min_size=1, max_size=20)


def json_lines(names, rows, **told):
    channels = [{"name": name, "unit": "W"} for name in names]
    return "\n".join(json.dumps(one) for one in [{**TOLD, "channels": channels, **told}, *rows])


def as_csv(names, rows):
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["t [s]", *(f"{name} [W]" for name in names)])
    writer.writerows([["" if cell is None else repr(cell) for cell in row] for row in rows])
    return out.getvalue()


@given(st.data())
def test_both_forms_say_the_same(data):
    names = data.draw(st.lists(NAMES, min_size=1, max_size=4, unique=True))
    row = st.tuples(st.floats(0, 1e6), *[FIGURES for _ in names]).map(list)
    rows = data.draw(st.lists(row, min_size=1, max_size=5))
    one, other = read_json_lines(json_lines(names, rows)), read_csv(as_csv(names, rows), TOLD)
    assert [c.name for c in one.channels] == names
    assert one.channels == other.channels
    np.testing.assert_array_equal(one.values, other.values)
    np.testing.assert_array_equal(one.steady_s, [row[0] for row in rows])
    np.testing.assert_array_equal(np.isnan(one.values), [[cell is None for cell in row[1:]] for row in rows])
    assert (one.session, one.sequence, one.clock_s, one.steady_at_s, one.interval_s) == ("a-1", 3, 1.7e9, 12.5, 0.5)


def refused(text):
    with pytest.raises(DocumentRefused) as caught:
        read_json_lines(text)
    problem = caught.value.problems[0]
    assert problem.allowed
    return problem.where


@pytest.mark.parametrize(
    ("told", "where"),
    [
        ({"session": ""}, "session"),
        ({"session": "a" * 41}, "session"),
        ({"session": "ä"}, "session"),
        ({"session": None}, "session"),
        ({"sequence": 2**31}, "sequence"),
        ({"sequence": 1.0}, "sequence"),
        ({"clock": None}, "clock"),
        ({"clock": True}, "clock"),
        ({"steady": float("inf")}, "steady"),
        ({"interval_s": 0.009}, "interval_s"),
        ({"interval_s": 3601}, "interval_s"),
        ({"channels": {}}, "line 1/channels"),
        ({"channels": [1]}, "line 1/channels"),
        ({"channels": [{"name": ""}]}, "channels"),
        ({"channels": [{"name": "a" * (MOST_NAME + 1)}]}, "channels"),
        ({"channels": [{"name": "a\n"}]}, "channels"),
        ({"channels": [{"name": "a", "unit": 3}]}, "channels"),
        ({"channels": [{"name": "a", "unit": "W" * 21}]}, "channels"),
    ],
)
def test_a_header_that_cannot_be(told, where):
    assert refused(json_lines(["a"], [[0.0, 1.0]], **told)) == where


def test_bounds_are_met_and_not_passed():
    rows = [[float(t), 1.0] for t in range(MOST_ROWS)]
    assert len(read_json_lines(json_lines(["a"], rows)).values) == MOST_ROWS
    assert refused(json_lines(["a"], [*rows, [0.0, 1.0]])) == "rows"
    names = [f"c{n}" for n in range(MOST_CHANNELS)]
    assert read_json_lines(json_lines(names, [[0.0] * (MOST_CHANNELS + 1)])).values.shape == (1, MOST_CHANNELS)
    assert refused(json_lines([*names, "more"], [[0.0] * (MOST_CHANNELS + 2)])) == "channels"
    assert read_json_lines(json_lines(["a" * MOST_NAME], [[0.0, 1.0]], session="a" * 40)).session == "a" * 40


@pytest.mark.parametrize("row", [[0.0], [0.0, 1.0, 2.0], [0.0, True], [0.0, "1"], [0.0, [1]], [None, 1.0], {"t": 0}, 7])
def test_a_row_that_is_none_is_named_by_its_line(row):
    assert refused(json_lines(["a"], [[0.0, 1.0], row])) == "line 3"


@pytest.mark.parametrize(
    "text", ["", "\n", "nothing", "t [s]\n1\n", "t [s],a [W]\n0,warm\n", "t [s],a [W]\n,1\n", "t [s],a [W]\n0\n"]
)
def test_csv_that_is_none(text):
    with pytest.raises(DocumentRefused) as caught:
        read_csv(text, TOLD)
    assert caught.value.problems[0].allowed


def test_csv_keeps_a_comma_in_a_quoted_name_and_needs_no_unit():
    found = read_csv('t [s],"Fan, rear [rpm]",load\n0,900,1\n', TOLD)
    assert [(c.name, c.unit) for c in found.channels] == [("Fan, rear", "rpm"), ("load", "")]


def test_empty_lines_at_the_end_do_no_harm():
    assert len(read_json_lines(json_lines(["a"], [[0.0, 1.0]]) + "\n\n").values) == 1
