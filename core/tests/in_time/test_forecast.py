"""Forecasts in time by number: curves, limits, what 30 minutes show, bursts, what is held back, what is off, hunting."""

import numpy as np
import pytest
from strategies import changed_recipe, load_of, recipe

from krill.errors import DocumentRefused
from krill.in_time.constants import time_constants
from krill.in_time.crossing import first_at_least, stays_within
from krill.in_time.forecast import forecast_in_time, output_times
from krill.in_time.hunting import turning_points
from krill.in_time.result import BurstHolds, TimeCurve
from krill.in_time.run import Asked, run_in_time
from krill.in_time.stopping import stopped_in_time
from krill.in_time.words import minutes_of, sentence_of
from krill.prediction.predict import predict
from krill.recipes.fanless_housing import fanless_housing


def curve_of(found, address):
    return next(curve for curve in found.curves if curve.address == address)


@pytest.fixture(scope="module")
def told():
    return forecast_in_time(recipe(), Asked("both", 90, samples=60))


class TestCurves:
    def test_they_begin_where_idle_settles_and_end_where_the_load_does(self, told):
        build = recipe()
        idle = predict(build, [build.workloads[0].id], samples=0).workloads[0]
        load = predict(build, ["both"], samples=60).workloads[0]
        for place in load.places:
            curve = curve_of(told, place.address)
            assert curve.settles_c == pytest.approx(place.temperature_c, abs=1e-6)
            assert curve.settles_band_c.low == pytest.approx(place.band_c.low, abs=1e-6)
            assert curve.settles_band_c.high == pytest.approx(place.band_c.high, abs=1e-6)
            assert curve.status == place.status
            assert curve.limit_c == place.limit_c
        names = {place.address: place.temperature_c for place in idle.places}
        for address, c in names.items():
            assert curve_of(told, address).c[0] == pytest.approx(c, abs=1e-3)

    def test_there_is_one_for_each_place_loop_box_and_body(self, told):
        kinds = {kind: sum(curve.kind == kind for curve in told.curves) for kind in ("place", "coolant", "air", "body")}
        build = recipe()
        assert kinds["place"] == len(predict(build, ["both"], samples=0).workloads[0].places)
        assert kinds["coolant"] == len(build.loops)
        assert kinds["air"] == 1

    def test_bands_hold_their_curve_and_widen_with_the_load(self, told):
        for curve in told.curves:
            low, mid, high = (np.array(values) for values in (curve.low_c, curve.c, curve.high_c))
            assert np.all(low <= mid + 0.8)
            assert np.all(mid <= high + 0.8)
        core = curve_of(told, "processor-core")
        assert core.high_c[-1] - core.low_c[-1] > 2 * (core.high_c[0] - core.low_c[0])

    def test_minutes_begin_before_the_load_and_hold_its_moment(self):
        times = output_times(90)
        assert times[0] == -600
        assert 0.0 in times
        assert times[-1] == 5400
        assert np.all(np.diff(times) > 0)
        assert output_times(0.5)[-1] == 30

    def test_shares_and_minutes_are_those_of_the_curve(self, told):
        for curve in told.curves:
            minutes, c = np.array(told.minutes), np.array(curve.c)
            rise = curve.settles_c - c[minutes >= 0][0]
            if curve.share_at_30 is not None:
                at_30 = (np.interp(30, minutes, c) - c[minutes >= 0][0]) / rise
                assert curve.share_at_30 == pytest.approx(at_30, abs=1e-9)
            if curve.within_1k_min < 90:
                after = c[minutes > curve.within_1k_min + 1e-6]
                assert np.abs(after - curve.settles_c).max() <= 1.0 + 1e-9
        assert told.minutes_needed == max(curve.within_1k_min for curve in told.curves)
        assert told.slowest == next(c.name for c in told.curves if c.within_1k_min == told.minutes_needed)

    def test_hops_add_up_to_the_curve_at_every_minute_and_end_as_they_settle(self, told):
        assert told.hop_minutes[0] == 0.0
        assert told.hop_minutes[-1] == pytest.approx(90.0)
        settled = {place.address: place for place in predict(recipe(), ["both"], samples=0).workloads[0].places}
        for curve in told.curves:
            if curve.kind != "place":
                assert curve.hops == []
                continue
            sums = np.sum([hop.drop_k for hop in curve.hops], axis=0) + told.room_c
            at = np.interp(told.hop_minutes[2:], told.minutes, curve.c)
            assert sums[2:] == pytest.approx(at, abs=0.35)  # curves are told on a coarser grid
            assert sums[-1] == pytest.approx(curve.c[-1], abs=1e-6)
            for hop, ends in zip(curve.hops, settled[curve.address].hops, strict=True):
                assert (hop.address, hop.name, hop.kind) == (ends.address, ends.name, ends.kind)
                assert hop.drop_k[-1] == pytest.approx(ends.drop_k, abs=0.3)

    def test_a_chips_own_hops_come_at_once_and_what_is_shared_comes_later(self, told):
        core = curve_of(told, "processor-core")
        at_1 = int(np.argmin(np.abs(np.array(told.hop_minutes) - 1.0)))
        share = {hop.kind: hop.drop_k[at_1] / hop.drop_k[-1] for hop in core.hops}
        assert share["shared"] < 0.75
        assert max(share.values()) > 0.9

    def test_what_is_not_settled_at_the_end_is_carried_on(self):
        """A fanless housing after 30 minutes: told from the slowest constant, near what the long march finds."""
        build = fanless_housing(35, 5, 10, 24)
        load = build.brief.worst_workloads[0]
        short, whole = (forecast_in_time(build, Asked(load, minutes)) for minutes in (30, 600))
        assert short.minutes_needed > 30
        assert short.minutes_needed == pytest.approx(whole.minutes_needed, rel=0.25)


@pytest.fixture(scope="module")
def hot():
    def change(raw):
        place = next(part for part in raw["parts"] if part["id"] == "drive")["places"][0]
        place["limits"] = [{"kind": "own", "at_c": 50}]

    return changed_recipe(change)


class TestLimits:
    def test_a_limit_is_met_when_the_curve_crosses_it(self, hot):
        found = curve_of(forecast_in_time(hot, Asked("both", 90)), "drive-place")
        ran = run_in_time(hot, Asked("both", 90), tolerance_k=1e-3)
        times = np.arange(0, 5400.0, 1.0)
        T = ran.track.at(times, [ran.settled.structure.node_of["drive-place"]])[:, 0, 0]
        exact = times[np.argmax(T >= 50 - 0.02)] / 60
        assert found.limit_min == pytest.approx(exact, abs=0.1)
        assert curve_of(forecast_in_time(hot, Asked("both", 90)), "memory-place").limit_min is None

    def test_the_share_of_draws_that_meet_it_is_between_none_and_all(self, hot, told):
        found = forecast_in_time(hot, Asked("both", 90, samples=60))
        assert 0.5 < curve_of(found, "drive-place").limit_share <= 1.0
        assert curve_of(told, "processor-core").limit_share < 0.2

    def test_held_watts_are_told_with_their_time(self):
        def change(raw):
            load = load_of(raw)
            load["watts"]["processor"] = 320
            load.pop("burst", None)
            place = next(part for part in raw["parts"] if part["id"] == "processor")["places"][0]
            place["limits"], place["throttles"] = [{"kind": "throttle", "at_c": 70}], True

        build = changed_recipe(change)
        found = forecast_in_time(build, Asked("both", 60))
        [held] = found.held_back
        steady = predict(build, ["both"], samples=0).workloads[0]
        throttled = next(place for place in steady.places if place.address == "processor-core").throttled
        assert held.source == "processor"
        assert held.share_of_time > 0.9
        assert held.full_w == pytest.approx(320)
        assert 0.6 * throttled.lost_w < held.lost_w < throttled.lost_w
        assert 0.5 < held.clock_share < 1.0
        # the watts it settles at last for most of the time: clock by its class's power of them, work by powers of the clock
        kept = 1.0 - held.lost_w / held.full_w
        assert held.clock_share == pytest.approx(kept**0.25, abs=0.01)
        assert (held.work_share.low, held.work_share.high) == pytest.approx((kept**0.225, kept**0.125), abs=0.01)
        assert forecast_in_time(recipe(), Asked("both", 10)).held_back == []


class TestBursts:
    def bursting(self, watts, hold=28, at_c=95):
        def change(raw):
            load_of(raw)["burst"] = {"processor": {"power_w": watts, "hold_s": hold}}
            place = next(part for part in raw["parts"] if part["id"] == "processor")["places"][0]
            place["limits"] = [{"kind": "own", "at_c": at_c}]

        return changed_recipe(change)

    def test_more_watts_hold_for_less_and_a_fresh_machine_for_longer(self):
        held = [forecast_in_time(self.bursting(watts), Asked("both", 5)).bursts[0] for watts in (180, 220, 260)]
        soaked = [600 if one.soaked_s is None else one.soaked_s for one in held]
        assert soaked == sorted(soaked, reverse=True)
        assert soaked[0] > soaked[-1]
        for one in held:
            assert one.fresh_s is None or one.soaked_s is not None
            if one.soaked_s is not None and one.fresh_s is not None:
                assert one.fresh_s > one.soaked_s
            assert one.wanted_s == 28
        assert held[-1].at_c == pytest.approx(92)

    def test_its_end_is_where_the_march_meets_the_level(self):
        build = self.bursting(260)
        [one] = forecast_in_time(build, Asked("both", 5)).bursts
        endless = self.bursting(260, hold=5000)
        ran = run_in_time(endless, Asked("both", 10), tolerance_k=1e-3)
        times = np.arange(0.0, 600.0, 0.25)
        T = ran.track.at(times, [ran.settled.structure.node_of["processor-core"]])[:, 0, 0]
        assert (T >= 92).any()
        assert one.fresh_s == pytest.approx(times[np.argmax(T >= 92)], abs=1.0)

    def test_no_burst_no_word(self):
        build = changed_recipe(lambda raw: load_of(raw).pop("burst", None))
        assert forecast_in_time(build, Asked("both", 5)).bursts == []
        assert [phase.name for phase in forecast_in_time(build, Asked("both", 5)).phases][-1] == "sustained"

    def test_phases_are_before_burst_and_sustained(self):
        found = forecast_in_time(self.bursting(200), Asked("both", 5))
        assert [(phase.begins_min, phase.ends_min) for phase in found.phases] == [
            (-10, 0),
            (0, pytest.approx(28 / 60)),
            (pytest.approx(28 / 60), 5),
        ]


class TestSound:
    def test_it_is_that_of_the_speeds(self, told):
        steady = predict(recipe(), ["both"], samples=0).workloads[0].sound.total_dba
        assert told.sound_dba[-1] == pytest.approx(steady, abs=0.05)

    def test_it_rises_with_fans_that_follow_the_coolant(self):
        def change(raw):
            curve = {"sensor": "loop-a", "points": [[30, 0.3], [50, 0.9]]}
            for load in raw["workloads"]:
                for part in raw["parts"]:
                    if part["kind"] == "fan":
                        load.setdefault("movers", {})[part["id"]] = {"curve": curve}

        found = forecast_in_time(changed_recipe(change), Asked("both", 60))
        sound = np.array(found.sound_dba)
        assert sound[-1] > sound[0] + 3
        assert np.all(np.diff(sound) > -0.5)


class TestStopped:
    def test_minutes_are_those_of_a_march_of_the_one_case(self):
        build = recipe()
        found = stopped_in_time(build, "both")
        at = {one.address: one for one in found.minutes}
        assert [one.address for one in found.minutes] == [case.address for case in found.settled.cases]
        pump = at["pump"].met
        assert [limit.minutes for limit in pump] == sorted(limit.minutes for limit in pump)
        assert 0.1 < pump[0].minutes < 3

    def test_a_plate_without_flow_climbs_as_practice_says(self):
        """A stopped pump: plate and 125 W climb by 0.6 K/s at first (common practice, ± 40 %)."""
        from krill.in_time.legs import Leg
        from krill.in_time.march import Marched
        from krill.in_time.run import march
        from krill.networks.states import Case
        from krill.prediction.answer.solving import network_of, solve_cases
        from krill.prediction.predict import cases_of

        build = changed_recipe(lambda raw: load_of(raw).pop("burst", None))
        as_built = cases_of(build, ["both"], None, throttles=False)[0]
        off = Case(as_built.workload, as_built.room_c, as_built.altitude_m, frozenset(["pump"]), throttles=False)
        start = solve_cases(build, [as_built])
        network = network_of(build, [off])
        track = march(network, [Leg((off,), 1)], Marched(start.solution.temperature.copy()))
        node = network.structure.node_of["processor-core-paste"]
        T = track.at(np.array([10.0, 30.0]), [node])[:, 0, 0]
        assert 0.36 < (T[1] - T[0]) / 20 < 0.84

    def test_what_passes_no_limit_has_no_minutes(self):
        found = stopped_in_time(recipe(30, 40, 10), "both")
        for case, minutes in zip(found.settled.cases, found.minutes, strict=True):
            if case.no_state is None and not case.passes:
                assert minutes.met == []

    def test_a_build_without_movers_has_no_cases(self):
        build = fanless_housing(35, 5, 10, 24)
        assert stopped_in_time(build, build.workloads[-1].id).minutes == []


class TestConstants:
    def test_they_rise_from_the_chip_to_the_box(self):
        build = recipe()
        found = time_constants(run_in_time(build, Asked("both", 1)).settled, "both")
        seconds = {one.address: one.seconds for one in found}
        assert [one.seconds for one in found] == sorted(one.seconds for one in found)
        assert seconds["processor-core"] < 30
        assert 60 < seconds["loop-a"] < 300  # custom loop of 1.2 l: 120 to 250 s (class figure)
        assert seconds["processor-core"] < seconds["loop-a"]

    def test_a_fanless_housing_takes_its_twenty_minutes(self):
        build = fanless_housing(35, 5, 10, 24)
        load = build.brief.worst_workloads[0]
        found = time_constants(run_in_time(build, Asked(load, 1)).settled, load)
        bodies = [one.seconds for one in found if one.kind == "body"]
        assert bodies
        assert 400 < max(bodies) < 4500  # extrusion 1 000 to 1 600 s, 8 to 12 kg 2 500 to 4 000 s (class figures)


class TestAsked:
    @pytest.mark.parametrize(
        ("asked", "says"),
        [
            (Asked("sleeping", 10), "there is no such workload"),
            (Asked("both", 10, before="sleeping"), "there is no load 'sleeping'"),
        ],
    )
    def test_what_is_not_there_is_refused_by_name(self, asked, says):
        with pytest.raises(DocumentRefused, match=says):
            forecast_in_time(recipe(), asked)

    def test_cold_begins_at_the_room_and_another_load_where_that_settles(self):
        build = recipe()
        cold = forecast_in_time(build, Asked("both", 10, before="cold"))
        assert {round(curve.c[0], 6) for curve in cold.curves} == {24.0}
        assert cold.phases[0].name == "off"
        warm = forecast_in_time(build, Asked("both", 10, before="graphics-only"))
        alone = predict(build, ["graphics-only"], samples=0).workloads[0]
        known = {place.address: place.temperature_c for place in alone.places}
        assert curve_of(warm, "graphics-chip").c[0] == pytest.approx(known["graphics-chip"], abs=1e-3)


def test_first_crossings_are_between_the_times_in_proportion():
    times = np.array([0.0, 10.0, 20.0])
    values = np.array([[0.0, 5.0, 9.0], [4.0, 5.0, 9.0], [8.0, 5.0, 9.0]])
    found = first_at_least(times, values, np.array([6.0, 6.0, 9.0]))
    assert found[0] == pytest.approx(15.0)
    assert np.isnan(found[1])
    assert found[2] == 0.0


def test_staying_near_counts_from_the_last_time_outside():
    times = np.array([0.0, 1.0, 2.0, 3.0, 4.0])
    assert stays_within(times, np.array([0.0, 9.5, 7.0, 9.5, 10.0]), 10.0, 1.0) == pytest.approx(2.8)
    assert stays_within(times, np.array([9.5] * 5), 10.0, 1.0) == 0.0
    assert stays_within(times, np.array([0.0, 1.0, 2.0, 3.0, 4.0]), 10.0, 1.0) is None


def test_turns_are_swings_of_so_much_to_and_fro():
    t = np.linspace(0, 40, 400)
    assert len(turning_points(0.5 + 0.1 * np.sin(t), 0.03)) == pytest.approx(13, abs=1)
    assert turning_points(0.5 + 0.01 * np.sin(t), 0.03) == []
    assert turning_points(1 - np.exp(-t), 0.03) == []


@pytest.mark.parametrize(
    ("minutes", "says"),
    [(0.5, "30 s"), (1.99, "119 s"), (2, "2 min"), (119.4, "119 min"), (120, "2.0 h"), (480, "8.0 h")],
)
def test_minutes_in_words(minutes, says):
    assert minutes_of(minutes) == says


def test_the_sentence_tells_share_minutes_and_bursts():
    curve = TimeCurve(
        address="box", name="Box air", kind="air", c=[], low_c=None, high_c=None, limit_c=None, status=None, settles_c=40.0,
        settles_band_c=None, limit_min=None, limit_share=None, within_1k_min=48.0, share_at_30=0.82, hops=[],
    )  # fmt: skip
    burst = BurstHolds(
        source="processor", name="Processor", watts=190.0, wanted_s=28.0, soaked_s=41.0, fresh_s=None, looked_s=600.0,
        place="Processor", at_c=92.0,
    )  # fmt: skip
    assert sentence_of(curve, [burst]) == (
        "30 minutes show 82 % of what Box air rises by; 48 min until every part is within 1 K of where it settles; "
        "a burst of 190 W on Processor holds 41 s."
    )
