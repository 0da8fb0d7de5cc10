"""Hunting fan curves: the slope that ends it does, one a little steeper does not; curves run with what is typed in beside."""

from dataclasses import replace

import numpy as np
import pytest
from strategies import changed_recipe, recipe

from krill.document.build import FanCurve
from krill.errors import DocumentRefused
from krill.in_time.flatter import FLATTER, flatter, slope_between, with_slopes
from krill.in_time.hunting import hunting_of
from krill.in_time.run import Asked, run_in_time
from krill.sizing import curve_in_time as module
from krill.sizing.curve_in_time import LOADS, SETTINGS, STEEPER, curve_in_time
from krill.sizing.result import CurvePoint, Setting

#: 150 % a kelvin about where the coolant of the recipe works
STEEP = ((41.75, 0.25), (42.25, 1.0))
SLOW = {"up_s": 10, "down_s": 60}


def following(points, **more):
    def change(raw):
        fans = [part["id"] for part in raw["parts"] if part["kind"] == "fan"]
        for load in raw["workloads"]:
            told = {fan: {"curve": {"sensor": "loop-a", "points": points, **more}} for fan in fans}
            load["movers"] = load.get("movers", {}) | told

    return changed_recipe(change)


def curve(*points, **more):
    return FanCurve(sensor="loop-a", points=list(points), **more)


class TestFlatter:
    def test_it_keeps_what_it_asks_where_it_works_and_a_share_of_the_slope(self):
        found = flatter(curve((30, 0.2), (50, 0.8), hysteresis_k=4, up_s=7), 40, 0.5)
        assert np.array(found.points) == pytest.approx(np.array([(30, 0.35), (50, 0.65)]))
        assert (found.hysteresis_k, found.up_s, found.sensor) == (4, 7, "loop-a")

    def test_a_steeper_one_stays_between_nothing_and_all(self):
        found = flatter(curve((30, 0.2), (50, 0.8)), 40, 4.0)
        assert np.array(found.points) == pytest.approx(np.array([(30, 0.0), (50, 1.0)]))

    @pytest.mark.parametrize(
        ("low", "high", "slope"),
        [(30, 60, 0.08), (30, 39, 0.02), (41, 44, 0.08), (51, 60, 0.0), (40, 40, 0.08), (39.7, 39.7, 0.02)],
    )
    def test_a_slope_is_the_steepest_of_what_is_met(self, low, high, slope):
        met = curve((30, 0.2), (40, 0.4), (45, 0.8), (50, 0.8), (60, 0.8))
        assert slope_between(met, low, high) == pytest.approx(slope)

    def test_a_jump_is_no_steeper_than_a_firmware_tells_apart(self):
        assert slope_between(curve((40, 0.2), (40, 0.8)), 39, 41) == pytest.approx(0.6 / 0.25)


@pytest.fixture(scope="module")
def told():
    ran = run_in_time(following(STEEP, **SLOW), Asked("both", 30))
    return with_slopes(ran, hunting_of(ran.track, ran.network.states))


@pytest.mark.slow
class TestHunting:
    def test_the_slope_told_ends_it_in_a_run_of_its_own_and_its_own_does_not(self, told):
        one = told[0]
        assert one.slope == pytest.approx(1.5, rel=1e-6)
        assert one.slope_that_ends in [pytest.approx(share * 1.5) for share in FLATTER]
        for slope, hunts in ((one.slope_that_ends, False), (one.slope, True)):
            half = 0.375 / slope
            build = following(((42 - half, 0.25), (42 + half, 1.0)), **SLOW)
            ran = run_in_time(build, Asked("both", 40))
            assert bool(hunting_of(ran.track, ran.network.states)) is hunts

    def test_what_holds_still_has_no_slope_to_tell(self):
        ran = run_in_time(recipe(), Asked("both", 5))
        assert with_slopes(ran, []) == []

    def test_a_mover_that_follows_a_load_has_none(self, told):
        ran = run_in_time(recipe(), Asked("both", 5))
        assert with_slopes(ran, [replace(told[0], slope=None, slope_that_ends=None)]) == [
            replace(told[0], slope=None, slope_that_ends=None)
        ]


def points(*told):
    return [CurvePoint(at_c=at, duty=duty) for at, duty in told]


class TestCurveInTime:
    @pytest.mark.slow
    def test_a_flat_curve_holds_still_with_what_is_liveliest(self):
        found = curve_in_time(recipe(), "both", "loop-a", points((35, 0.5), (45, 1.0)))
        assert [one.hunts_at for one in found.settings] == [[], [], []]
        assert found.chosen == 0
        assert found.slope == pytest.approx(0.05)
        assert found.looked_to == pytest.approx(0.05 * max(STEEPER))
        assert found.says == "With 2 K of hysteresis, 3 s up and 15 s down it holds still at every load."

    def test_rows_are_settings_by_loads_and_then_slopes(self, monkeypatch):
        """What hunts in which row is said of that setting, load and slope."""
        asked = []

        def told(build, cases, T, minutes):
            asked.extend(cases)
            swings = [type("Swing", (), {"mover": "fan-a1"})()]
            rows = len(LOADS) * len(SETTINGS)
            return [swings if row in (1, 2, 5, rows + 2, rows + 3) else [] for row in range(len(cases))]

        monkeypatch.setattr(module, "followed", told)
        found = curve_in_time(recipe(), "both", "loop-a", points((35, 0.5), (45, 1.0)))
        assert [one.hunts_at for one in found.settings] == [[0.7, 1.0], [1.0], []]
        assert found.chosen == 2
        assert found.hunts_from == pytest.approx(0.05 * STEEPER[2])
        assert found.says.endswith(
            "With 5 K of hysteresis, 5 s up and 30 s down it holds still at every load, which a hysteresis of 2 K does not."
        )
        told_to = [case.workload.movers["fan-a1"].curve for case in asked]
        assert [(c.hysteresis_k, c.up_s, c.down_s) for c in told_to[:9:3]] == list(SETTINGS)
        watts = [float(case.workload.watts["processor"]) for case in asked]
        assert watts[:3] == pytest.approx([watts[2] * load for load in LOADS])
        assert watts[3:] == pytest.approx([*watts[:3], *watts[:3], *[watts[2]] * 4])

    def test_where_nothing_holds_still_another_sensor_is_advised(self):
        settings = [
            Setting(hysteresis_k=k, up_s=1, down_s=1, hunts_at=loads) for k, loads in ((2, [0.7, 1.0]), (3, [1.0]))
        ]
        assert module._says(settings, None) == (
            "It hunts at 100 % of the load whatever is typed in here: choose a sensor that follows the load more slowly."
        )

    @pytest.mark.parametrize(
        ("sensor", "group", "says"),
        [("loop-a", "wings", "no such fan or pump"), ("nowhere", "fans", "no such place, loop or zone")],
    )
    def test_what_is_not_there_is_refused_by_name(self, sensor, group, says):
        with pytest.raises(DocumentRefused, match=says):
            curve_in_time(recipe(), "both", sensor, points((35, 0.5), (45, 1.0)), group)
