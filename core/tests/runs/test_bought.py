"""What the last watts bought."""

import pytest
from readings import typed

from krill.runs.bought import ScoredLoad, bought, score_of

JOBS, SECONDS = "job/jobs_per_hour", "job/seconds_per_job"


def load(name, score, watts, role=JOBS, better=True, level=None, over=None):
    return ScoredLoad(name, role, score, better, watts, level, over)


def test_loads_in_the_order_of_their_watts():
    found = bought([load("b", 103, 310), load("a", 100, 250), load("c", 103.5, 370)])
    assert [(b.first, b.second, b.watts) for b in found] == [("a", "b", 60), ("b", "c", 60)]
    assert found[0].score_share == pytest.approx(0.03)
    assert found[0].says == "From a to b: the last 60 W bought 3 % of jobs per hour."
    assert found[1].says.endswith("bought nothing of jobs per hour.")


def test_less_is_better_of_seconds():
    (found,) = bought([load("a", 100, 250, SECONDS, False), load("b", 80, 300, SECONDS, False)])
    assert found.score_share == pytest.approx(0.25)


def test_sound_and_kelvins_are_told_from_one_on():
    (found,) = bought([load("a", 100, 250, level=35.0, over=40.0), load("b", 110, 300, level=36.0, over=40.9)])
    assert "the last 50 W and +1 dBA bought 10 %" in found.says
    (quiet,) = bought([load("a", 100, 250, level=35.0, over=40.0), load("b", 110, 300, level=34.1, over=39.0)])
    assert "the last 50 W and −1 K bought" in quiet.says


def test_other_scores_are_not_held_against_it():
    assert bought([load("a", 100, 250), load("b", 90, 300, SECONDS, False)]) == []
    assert bought([]) == []


@pytest.mark.parametrize(
    ("reading", "found"),
    [
        (typed(1, JOBS, "mean", 41, True), (JOBS, 41.0, True)),
        (typed(1, SECONDS, "mean", 41, True), (SECONDS, 41.0, False)),
        (typed(1, "job/score", "mean", 41, True, more_is_better=False), ("job/score", 41.0, False)),
        (typed(1, "job/score", "mean", 41, True), None),
        (typed(1, JOBS, "mean", 41, False), None),
        (typed(1, "processor-core/temperature", "now", 41, True), None),
    ],
)
def test_the_score_of_a_load(reading, found):
    assert score_of([reading]) == found
