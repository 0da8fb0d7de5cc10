"""What the model may be off: between measured and described, and found from rows by the stated rule."""

import numpy as np
import pytest
from accuracy_rows import Inside, Residual, Row
from model_error import found_share
from strategies import recipe, well_known_recipe

from krill.components.figure_table import FigureTable
from krill.networks.states import Case
from krill.networks.structure import PlaceRoute
from krill.prediction.answer.doubt import model_share
from krill.prediction.answer.model_error import DESCRIBED_SHARE, MEASURED_SHARE, share_of_rise
from krill.prediction.answer.solving import solve_cases


@pytest.fixture(scope="module")
def solved():
    build = recipe()
    return solve_cases(build, [Case(build.workloads[-1], 24.0)])


def route_of(solved, place) -> PlaceRoute:
    return next(route for route in solved.structure.routes if route.place.id == place)


def share(solved, table: FigureTable, place="processor-core"):
    T = solved.solution.temperature[0]
    return share_of_rise(table, route_of(solved, place), T, 24.0)


def test_a_machine_described_by_classes_is_off_by_what_the_page_found(solved):
    assert share(solved, solved.table) == pytest.approx(DESCRIBED_SHARE, rel=1e-3)


def test_a_machine_whose_every_figure_is_measured_is_off_by_the_laws_alone(solved):
    table = solved.table
    for address in list(table.figures):
        table = table.with_override(address, table.figures[address].value)
    assert {figure.origin for figure in table.figures.values()}.isdisjoint({"class", "estimate", "rule_of_thumb"})
    assert share(solved, table) == pytest.approx(MEASURED_SHARE, rel=1e-6)


def test_what_is_measured_of_the_rise_counts_by_its_kelvins(solved):
    """The layer that drops most, measured: the squares of both shares blend by the share of the rise that is left."""
    T, route = solved.solution.temperature[0], route_of(solved, "processor-core")
    table = solved.table
    drop = 0.0
    for layers in route.steps:
        layer = layers[0]
        if layer.kind in ("hot_core", "chip"):
            drop += T[layer.inner] - T[layer.outer]
            for field in ("hot_core_mm2k_w", "chip_mm2k_w", "chip_area_mm2"):
                address = f"processor-core/{field}"
                table = table.with_override(address, table.figures[address].value)
    # the lid's joint has its own figures: only hot core and chip are measured whole
    left = 1.0 - drop / (T[route.layers[0].inner] - 24.0)
    expected = np.sqrt(MEASURED_SHARE**2 + left**2 * (DESCRIBED_SHARE**2 - MEASURED_SHARE**2))
    assert share(solved, table) == pytest.approx(expected, rel=1e-6)
    assert MEASURED_SHARE < share(solved, table) < DESCRIBED_SHARE


def test_known_parts_narrow_the_model_too(solved):
    known = well_known_recipe()
    told = solve_cases(known, [Case(known.workloads[-1], 24.0)])
    assert model_share(told, 0, "processor-core") < model_share(solved, 0, "processor-core")


def rows(true_share, seed):
    """Twelve cases of three rows, off by a normal of the inputs', practice's and the model's share of a rise of 40 K."""
    rng = np.random.default_rng(seed)
    half = np.sqrt(5.0**2 + 6.0**2 + (true_share * 40.0) ** 2)
    return [
        Row(f"C{case}", "", "", "", Inside("yes", Residual(rng.normal(0, half / 1.645), 5.0, 6.0, 40.0)))
        for case in range(12)
        for _ in range(3)
    ]


def test_the_rule_finds_the_share_that_made_the_rows():
    found = [found_share(rows(0.3, seed)) for seed in range(20)]
    assert np.mean([f.share for f in found]) == pytest.approx(0.30, abs=0.04)
    assert np.mean([f.held for f in found]) == pytest.approx(0.90, abs=0.04)
    assert all(f.cautious > f.share for f in found)
    assert np.mean([found_share(rows(0.0, seed)).share for seed in range(20)]) < 0.07
    assert set(found[0].without) == {f"C{case}" for case in range(12)}


def test_a_case_weighs_one_however_many_rows_it_has():
    some = rows(0.2, 3)
    copied = some + [row for row in some if row.case == "C0"] * 5
    assert found_share(copied).share == pytest.approx(found_share(some).share, abs=1e-3)
