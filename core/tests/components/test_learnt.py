"""A calibration laid over a build: values, bands, joint draws, and what it leaves alone."""

import numpy as np
import pytest
from learnt_builds import A, B, calibrated
from pydantic import ValidationError
from strategies import recipe

from krill.components.figure_table import FigureTable
from krill.document.reading import read_object, write_object


def test_figures_stand_where_they_were_learnt():
    build, stated = calibrated()
    table = FigureTable(build)
    assert table.figures[A].value == pytest.approx(stated[A].value * np.exp(0.2))
    assert table.figures[B].value == pytest.approx(stated[B].value * np.exp(-0.1))
    assert table.figures[A].origin == "calibrated"
    half = 1.6448536 * 0.1
    assert table.figures[A].tolerance.plus == pytest.approx(table.figures[A].value * np.expm1(half), rel=1e-6)
    assert table.figures[A].tolerance.minus == pytest.approx(table.figures[A].value * (1 - np.exp(-half)), rel=1e-6)


def test_draws_have_the_joint_covariance():
    build, _ = calibrated()
    table = FigureTable(build)
    drawn = table.draws(1, 4000)
    logs = np.log(np.stack([drawn[a] / table.figures[a].value for a in (A, B)]))
    assert np.cov(logs) == pytest.approx(np.array([[0.01, -0.008], [-0.008, 0.01]]), abs=6e-4)
    assert drawn[A] == pytest.approx(FigureTable(build).draws(1, 4000)[A])  # the same again


def test_other_figures_are_drawn_as_before():
    build, _ = calibrated()
    before, after = FigureTable(recipe()).draws(1, 50), FigureTable(build).draws(1, 50)
    same = [a for a in before if a not in (A, B)]
    assert all(np.array_equal(before[a], after[a]) for a in same)


def test_another_part_has_learnt_nothing():
    build, stated = calibrated(at=5.0)
    table = FigureTable(build)
    assert table.figures[A].value == stated[A].value
    assert table.figures[A].origin == stated[A].origin


@pytest.mark.parametrize(("spread", "taught"), [(0.239, True), (0.241, False)])
def test_a_figure_that_moved_along_is_calibrated_where_it_was_narrowed_by_a_fifth(spread, taught):
    build, stated = calibrated(covariance=((spread**2, 0), (0, spread**2)), chosen=False)
    table = FigureTable(build)
    assert (table.figures[A].origin == "calibrated") is taught
    assert table.figures[A].value == pytest.approx(stated[A].value * np.exp(0.2))


def test_a_figure_that_was_measured_in_a_run_stays_measured():
    build, _ = calibrated()
    table = FigureTable(build).with_override(A, 1.5)
    assert table.figures[A].value == 1.5
    assert A not in table.draws(1, 10)


def test_the_document_keeps_it():
    build, _ = calibrated()
    assert read_object(write_object(build)) == build


def test_a_covariance_of_another_size_is_refused():
    with pytest.raises(ValidationError, match="2 rows of 2"):
        calibrated(covariance=((0.01,),))
