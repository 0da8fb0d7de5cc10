"""Loads that come and go: means by the share of time on, peaks by the closed form, all that stays when it never goes."""

from math import exp

import numpy as np
import pytest
from strategies import changed_recipe, load_of

from krill.errors import DocumentRefused
from krill.in_time.crossing import goes_to, peaks
from krill.in_time.forecast import forecast_in_time, output_times
from krill.in_time.run import MOST_CYCLES, Asked, Cycle
from krill.recipes.fanless_housing import fanless_housing


def build():
    return changed_recipe(lambda raw: load_of(raw).pop("burst", None))


def locked():
    """Fans and pump as in the load whatever runs."""

    def change(raw):
        load_of(raw).pop("burst", None)
        for each in raw["workloads"]:
            each["movers"] = load_of(raw)["movers"]

    return changed_recipe(change)


def curve_of(found, address):
    return next(curve for curve in found.curves if curve.address == address)


def told(minutes, on, off, **more):
    return forecast_in_time(build(), Asked("both", minutes, cycle=Cycle(on, off), **more))


@pytest.fixture(scope="module")
def stays():
    return forecast_in_time(build(), Asked("both", 180))


class TestCycles:
    def test_off_for_no_time_is_a_load_that_stays(self, stays):
        found = told(60, 30, 0)
        for curve in found.curves:
            own = curve_of(stays, curve.address)
            at = np.interp([5, 20, 55], stays.minutes, own.c)
            assert np.interp([5, 20, 55], found.minutes, curve.c) == pytest.approx(at, abs=0.15)

    def test_means_are_shared_by_the_time_on(self):
        """A linear network's mean over a settled cycle is that of its mean watts (R06); this one is nearly linear."""
        found, stays = (forecast_in_time(locked(), Asked("both", 180, cycle=cycle)) for cycle in (Cycle(4, 8), None))
        minutes = np.array(found.minutes)
        last = minutes >= 180 - 2 * 12 - 1e-9
        idle = {curve.address: curve.c[0] for curve in stays.curves}
        for address in ("processor-core", "loop-a", "graphics-chip"):
            T = np.array(curve_of(found, address).c)
            mean = np.trapezoid(T[last], minutes[last]) / (minutes[last][-1] - minutes[last][0])
            wanted = idle[address] + (curve_of(stays, address).settles_c - idle[address]) * 4 / 12
            assert mean == pytest.approx(wanted, abs=0.03 * (curve_of(stays, address).settles_c - idle[address]))

    def test_peaks_lie_under_the_load_that_stays_and_over_the_mean(self, stays):
        found = told(180, 4, 8)
        for address in ("processor-core", "loop-a", "drive-place"):
            steady, idle = curve_of(stays, address).settles_c, curve_of(stays, address).c[0]
            peak = curve_of(found, address).settles_c
            assert idle + (steady - idle) / 3 < peak < steady
            T, minutes = np.array(curve_of(found, address).c), np.array(found.minutes)
            assert peak == pytest.approx(T[minutes > 168].max(), abs=0.05)

    def test_what_has_not_settled_in_its_cycles_is_told_where_it_goes(self):
        """A fanless housing of hours: peaks after three cycles against those after a day."""
        housing = fanless_housing(35, 5, 10, 24)
        load = housing.brief.worst_workloads[0]
        short, whole = (forecast_in_time(housing, Asked(load, minutes, cycle=Cycle(15, 15))) for minutes in (150, 900))
        for curve in short.curves:
            far = curve_of(whole, curve.address)
            rise = far.settles_c - far.c[0]
            if rise > 3:
                assert curve.settles_c == pytest.approx(far.settles_c, abs=0.12 * rise)
        assert whole.minutes_needed > 30

    def test_phases_are_on_and_off_in_turn(self):
        found = told(50, 10, 20)
        assert [(p.name, p.begins_min, p.ends_min) for p in found.phases] == [
            ("Idle", -10.0, 0.0),
            ("on", 0.0, pytest.approx(10)),
            ("off", pytest.approx(10), pytest.approx(30)),
            ("on", pytest.approx(30), pytest.approx(40)),
            ("off", pytest.approx(40), pytest.approx(50)),
        ]
        assert (found.on_min, found.off_min) == (10, 20)
        assert found.hunting == []

    def test_hops_add_up_to_the_curve_also_where_it_turns(self):
        found = told(50, 10, 20)
        for curve in found.curves:
            if curve.kind == "place":
                sums = np.sum([hop.drop_k for hop in curve.hops], axis=0) + found.room_c
                for minute in (10, 12, 15, 29, 30, 31, 45):
                    shown = np.interp(minute, found.hop_minutes, sums)
                    assert shown == pytest.approx(np.interp(minute, found.minutes, curve.c), abs=1.5)
        assert "until every peak is within 1 K" in found.sentence

    def test_curves_are_told_at_every_turn(self):
        times = output_times(50, Cycle(7, 6))
        assert {0.0, 420.0, 780.0, 1200.0, 1560.0} <= {round(float(t), 6) for t in times}
        assert np.all(np.diff(times) > 0)

    def test_draws_have_bands_of_their_peaks(self):
        found = told(60, 10, 10, samples=40)
        core = curve_of(found, "processor-core")
        assert core.settles_band_c.low < core.settles_c < core.settles_band_c.high

    @pytest.mark.parametrize(("on", "off"), [(0.0, 5.0), (5.0, -1.0), (0.1, 0.1)])
    def test_a_cycle_that_is_none_is_refused(self, on, off):
        with pytest.raises(DocumentRefused, match=f"up to {MOST_CYCLES} times"):
            told(120, on, off)


def test_legs_end_with_the_time():
    assert list(Cycle(10, 20).legs(45)) == [(True, 10), (False, 20), (True, 10), (False, 5)]
    assert list(Cycle(10, 0).legs(15)) == [(True, 10), (True, 5)]


def test_peaks_are_those_between_the_ends():
    times = np.arange(7.0)
    values = np.array([0, 3, 1, 2, 5, 1, 0.0])[:, None]
    assert peaks(times, values, np.array([0.0, 3.0, 6.0]))[:, 0].tolist() == [3, 5]


def test_a_settling_sequence_goes_where_its_closed_form_does():
    """Peaks of one lump: P R (1 - e^(-on/tau)) / (1 - e^(-cycle/tau)) (R06); they near it by e^(-cycle/tau)."""
    on, cycle, tau = 5.0, 12.0, 20.0
    ends, T, peak = [], 0.0, 0.0
    for _ in range(4):
        peak = 1.0 - (1.0 - T) * exp(-on / tau)
        T = peak * exp(-(cycle - on) / tau)
        ends.append(peak)
    exact = (1.0 - exp(-on / tau)) / (1.0 - exp(-cycle / tau))
    assert goes_to(np.array(ends)[:, None])[0] == pytest.approx(exact, rel=1e-9)
    assert abs(ends[-1] - exact) > 1e-2 * exact


@pytest.mark.parametrize(("values", "goes"), [([1.0, 2.0], 2.0), ([1.0, 2.0, 3.0], 3.0), ([1.0, 2.0, 2.0], 2.0)])
def test_what_does_not_shrink_stays(values, goes):
    assert goes_to(np.array(values)[:, None])[0] == pytest.approx(goes)
