"""A fan curve as a result: followed as a curve it holds the margin, with the least duty, between start and highest duty."""

from itertools import pairwise

import numpy as np
import pytest
from strategies import raw_recipe, recipe

from krill.document.reading import read_object
from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.sizing.fan_curve import STEEPEST, fan_curve


@pytest.fixture(scope="module", params=["loop-a", "processor-core"])
def curve(request):
    return fan_curve(recipe(), "both", request.param, margin_k=12)


def typed_in(curve):
    """The recipe with a curve's points as what its fans follow in the workload."""
    raw = raw_recipe()
    both = next(w for w in raw["workloads"] if w["id"] == "both")
    points = [[point.at_c, point.duty] for point in curve.points]
    for fan in curve.fans:
        both["movers"][fan] = {"curve": {"sensor": curve.sensor, "points": points}}
    return read_object(raw)


def test_points_rise_between_start_duty_and_highest_safe_duty_no_steeper_than_a_firmware_holds_still(curve):
    points = [(point.at_c, point.duty) for point in curve.points]
    assert 2 <= len(points) <= 6
    assert points[0][1] == pytest.approx(0.2, abs=0.01)
    assert points[-1][1] <= 1.0
    for (t0, d0), (t1, d1) in pairwise(points):
        assert t1 > t0
        assert d1 >= d0
        assert (d1 - d0) / (t1 - t0) <= STEEPEST * 1.1


def test_the_points_typed_into_the_workload_hold_the_margin_in_a_fresh_prediction(curve):
    alone = predict(typed_in(curve), ["both"], samples=0).workloads[0]
    least = min(p.margin_k for p in alone.places if p.margin_k is not None)
    assert least == pytest.approx(curve.checks[-1].margin_k, abs=0.05)
    assert least >= 12 - 0.1
    assert alone.sound.total_dba == pytest.approx(curve.checks[-1].level_dba, abs=0.05)


def test_central_figures_and_the_whole_band_are_told_apart(curve):
    """The curve asks of the central margin alone; with the band at full load less is held: said, not hidden."""
    at_full = curve.checks[-1]
    assert at_full.holds
    assert not at_full.surely
    assert all(check.holds for check in curve.checks if check.surely)
    assert "by its central figures; " in curve.says
    drawn = predict(typed_in(curve), ["both"], samples=400).workloads[0]
    assert min(p.margin_band_k.low for p in drawn.places if p.margin_band_k is not None) < 12


def test_what_holds_with_its_whole_band_says_so():
    easy = fan_curve(recipe(40, 40, 8), "idle", "loop-a", margin_k=3)
    assert all(check.surely for check in easy.checks)
    assert easy.says == "The margin of 3 K holds at every load up to this workload's watts."


def test_a_hundredth_less_duty_at_full_load_would_not_hold():
    """Least sound: no lower duty keeps the margin. A sensor in a chip asks for more: its coolant is warm at part loads."""
    curve = fan_curve(recipe(), "both", "loop-a", margin_k=12)
    raw = raw_recipe()
    both = next(w for w in raw["workloads"] if w["id"] == "both")
    for fan in curve.fans:
        both["movers"][fan] = {"duty": round(curve.checks[-1].speed_share - 0.02, 4)}
    alone = predict(read_object(raw), ["both"], samples=0).workloads[0]
    assert min(p.margin_k for p in alone.places if p.margin_k is not None) < 12


def test_coolant_under_60_degrees_asks_for_duty_where_parts_are_still_cool(curve):
    """At the loads between, where a chip has 20 K and more to spare."""
    warm = [check for check in curve.checks if check.tightest_name == "coolant of Loop A" and check.speed_share > 0.21]
    assert warm
    assert all(check.margin_k > 14 for check in warm)


def test_checks_tell_every_load_and_the_sentence_agrees(curve):
    assert [check.load for check in curve.checks] == pytest.approx(np.linspace(0.1, 1, 9).tolist())
    assert all(check.holds for check in curve.checks)
    assert "at every load" in curve.says
    speeds = [check.speed_share for check in curve.checks]
    assert speeds == sorted(speeds)


def test_a_margin_that_no_duty_holds_is_said_so():
    found = fan_curve(recipe(), "both", "loop-a", margin_k=25)
    assert not all(check.holds for check in found.checks)
    assert "not above it" in found.says
    assert max(point.duty for point in found.points) == 1.0


@pytest.mark.parametrize(
    ("sensor", "group", "where"), [("nowhere", "fans", "sensor/nowhere"), ("loop-a", "choir", "group/choir")]
)
def test_a_sensor_or_group_that_is_not_there_is_refused(sensor, group, where):
    with pytest.raises(DocumentRefused) as refused:
        fan_curve(recipe(), "both", sensor, group)
    assert refused.value.problems[0].where == where


@pytest.mark.parametrize("sensor", ["loop-a", "processor-core", "drive-place"])
def test_a_build_that_follows_its_curve_settles_with_its_bands(sensor):
    """A draw whose fan starts late stands on the jump: it is bracketed, not given up."""
    found = fan_curve(recipe(), "both", sensor)
    raw = raw_recipe()
    both = next(w for w in raw["workloads"] if w["id"] == "both")
    points = [[point.at_c, point.duty] for point in found.points]
    for fan in found.fans:
        both["movers"][fan] = {"curve": {"sensor": sensor, "points": points}}
    places = predict(read_object(raw), ["both"], samples=200).workloads[0].places
    assert all(place.band_c.high > place.band_c.low for place in places)
