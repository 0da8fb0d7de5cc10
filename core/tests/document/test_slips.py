"""Slips of the hand in a document: every one is refused in words, told not to settle, or answered in finite numbers."""

import contextlib
import copy
import math
from pathlib import Path
from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from strategies import raw_recipe

from krill.document.reading import read_object, read_text, write_object
from krill.errors import DocumentRefused, KrillError
from krill.prediction.predict import predict
from krill.sizing.measure_first import measure_first
from krill.sizing.measures import measures_of
from krill.sizing.next_changes import next_changes

SAVED = Path(__file__).parents[1] / "saved_documents"
MACHINES = [write_object(read_text(path.read_text())) for path in sorted(SAVED.glob("*.json"))]
FACTORS = (0, 1e-6, 0.01, 0.1, 10, 100, 1e6, -1)
STRANGERS = (
    None,
    -1,
    0,
    0.5,
    3,
    1e9,
    "x",
    "",
    [],
    {},
    [1, 2],
    True,
    {"value": 1},
    {"value": 2, "plus_minus": "15%"},
    {"off": True},
)

Json = Any
Path_ = tuple[str | int, ...]


def inside(value: Json, path: Path_ = ()) -> list[Path_]:
    """Paths of everything in a document."""
    if isinstance(value, dict):
        items = list(value.items())
    elif isinstance(value, list):
        items = list(enumerate(value))
    else:
        return []
    return [found for key, inner in items for found in [(*path, key), *inside(inner, (*path, key))]]


def at(value: Json, path: Path_) -> Json:
    for key in path:
        value = value[key]
    return value


def is_number(value: Json) -> bool:
    return isinstance(value, int | float) and not isinstance(value, bool)


PLACES = [[path for path in inside(raw) if path[0] != "written_by"] for raw in MACHINES]
NUMBERS = [[path for path in paths if is_number(at(raw, path))] for raw, paths in zip(MACHINES, PLACES, strict=True)]


def not_finite(value: Json, path: str = "") -> list[str]:
    if isinstance(value, float):
        return [] if math.isfinite(value) else [path]
    items = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list | tuple) else ()
    return [found for key, inner in items for found in not_finite(inner, f"{path}/{key}")]


def answered(raw: Json) -> None:
    """Whatever the document is, its questions end in finite numbers or in words with a place."""
    refused: KrillError | None = None
    try:
        build = read_object(raw)
    except DocumentRefused as error:
        refused = error
    if isinstance(refused, DocumentRefused):
        assert all(problem.where and problem.what for problem in refused.problems)
        return
    workload = build.workloads[-1].id if build.workloads else ""
    asked = (
        lambda: predict(build, samples=0),
        lambda: measures_of(build),
        lambda: measure_first(build, workload),
        lambda: next_changes(build, workload, quick=True),
    )
    for ask in asked:
        with contextlib.suppress(KrillError):
            assert not_finite(ask()) == []


@pytest.mark.slow
@settings(max_examples=80, deadline=None)
@given(st.integers(0, len(MACHINES) - 1), st.integers(0, 10**6), st.sampled_from(FACTORS))
def test_a_number_that_is_off_by_a_factor(machine, pick, factor):
    raw = copy.deepcopy(MACHINES[machine])
    path = NUMBERS[machine][pick % len(NUMBERS[machine])]
    parent = at(raw, path[:-1])
    parent[path[-1]] = at(raw, path) * factor
    answered(raw)


@pytest.mark.slow
@settings(max_examples=80, deadline=None)
@given(st.integers(0, len(MACHINES) - 1), st.integers(0, 10**6), st.sampled_from(STRANGERS))
def test_something_strange_in_the_place_of_something(machine, pick, stranger):
    raw = copy.deepcopy(MACHINES[machine])
    path = PLACES[machine][pick % len(PLACES[machine])]
    at(raw, path[:-1])[path[-1]] = copy.deepcopy(stranger)
    answered(raw)


@pytest.mark.slow
@settings(max_examples=40, deadline=None)
@given(st.integers(0, len(MACHINES) - 1), st.integers(0, 10**6))
def test_something_that_is_missing(machine, pick):
    raw = copy.deepcopy(MACHINES[machine])
    path = PLACES[machine][pick % len(PLACES[machine])]
    at(raw, path[:-1]).pop(path[-1])
    answered(raw)


@pytest.mark.parametrize(
    ("path", "value", "where"),
    [
        (("housing", "inner_size_mm", 2), 0, "housing/inner_size_mm/2"),
        (("housing", "inner_size_mm", 0), 1e7, "housing/inner_size_mm/0"),
        (("workloads", 0, "watts", "processor"), 1e9, "/watts/processor"),
    ],
)
def test_a_figure_beyond_any_housing_is_refused_where_it_stands(path, value, where):
    raw = raw_recipe()
    at(raw, path[:-1])[path[-1]] = value
    with pytest.raises(DocumentRefused) as refused:
        read_object(raw)
    assert refused.value.problems[0].where.endswith(where)


def test_a_tolerance_wider_than_its_figure_does_not_turn_it_round():
    """A bore of 10 mm, give or take 12: no figure falls below a tenth of itself."""
    raw = raw_recipe()
    tube = next(part for part in raw["parts"] if part["kind"] == "tube")
    tube["bore_mm"] = {"value": 10, "plus_minus": 12}
    found = measure_first(read_object(raw), "both")
    assert not_finite(found) == []
