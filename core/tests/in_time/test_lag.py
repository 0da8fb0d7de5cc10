"""Firmware that is late: a place passes its limit as far as the machine without a limit goes in that time, no further."""

from math import exp, inf

import numpy as np
import pytest
from strategies import changed_recipe, load_of

from krill.catalogue.classes import class_figure
from krill.in_time.forecast import forecast_in_time
from krill.in_time.lag import _Firmware, _share_over
from krill.in_time.run import Asked, run_in_time
from krill.prediction.predict import predict

LIMIT = 55.0


def card(late=3.0, back=2.0, throttles=True, at_c=LIMIT, watts=None, class_=None):
    """The recipe with a graphics chip that gives up watts at a limit, so many seconds late."""

    def change(raw):
        part = next(part for part in raw["parts"] if part["id"] == "graphics")
        place = part["places"][0]
        place |= {"throttles": throttles, "limits": [{"kind": "throttle", "at_c": at_c}]}
        place |= {"gives_up_after_s": late, "gives_back_k": back}
        place["class"] = class_ or place["class"]
        load = load_of(raw)
        load.pop("burst", None)
        if watts is not None:
            load["watts"]["graphics"] = watts

    return changed_recipe(change)


def ran(build, minutes=20, samples=0):
    found = run_in_time(build, Asked("both", minutes, samples=samples), tolerance_k=1e-3)
    node = found.network.structure.node_of["graphics-chip"]
    return found, found.track.times, np.array([moment.T[:, node] for moment in found.track.moments])


def met(times, T):
    """When a rising curve first meets the limit, s."""
    over = int(np.argmax(T > LIMIT))
    return float(np.interp(LIMIT, T[over - 1 : over + 1], times[over - 1 : over + 1]))


class TestPassing:
    @pytest.mark.parametrize("late", [0.5, 3.0, 12.0])
    def test_a_place_goes_as_far_as_without_a_limit_in_that_time_and_no_further(self, late):
        free, times, T = ran(card(throttles=False, watts=260))
        node = free.network.structure.node_of["graphics-chip"]
        at = met(times, T[:, 0])
        reached = free.track.at(np.array([at + late]), [node])[0, 0, 0]
        assert reached > LIMIT + 0.01 * late
        held = ran(card(late, watts=260))[2]
        assert held.max() == pytest.approx(reached, abs=0.02 + 0.02 * (reached - LIMIT))

    def test_then_it_is_brought_back_to_its_limit_and_stays(self):
        _, times, T = ran(card(12.0, watts=260))
        peak = int(np.argmax(T[:, 0]))
        after = times > times[peak] + 6 * 12.0
        assert np.abs(T[after, 0] - LIMIT).max() < 0.01
        assert (np.diff(T[peak:, 0]) < 1e-6).all()

    def test_what_it_settles_at_is_the_steady_state(self):
        found, _, T = ran(card(12.0, watts=260), minutes=240)
        assert T[-1, 0] == pytest.approx(LIMIT, abs=1e-6)
        share = found.track.moments[-1].kept["graphics"][0]
        place = next(p for p in predict(card(12.0, watts=260), ["both"], samples=0).workloads[0].places if p.throttled)
        assert (1.0 - share) * 260 == pytest.approx(place.throttled.lost_w, rel=1e-4)

    @pytest.mark.parametrize(("late", "passes"), [(0.0, False), (0.099, False), (0.101, True)])
    def test_who_is_late_by_less_than_a_tenth_of_a_second_is_not_late(self, late, passes):
        found, _, T = ran(card(late, watts=260), minutes=3)
        assert (T.max() > LIMIT + 1e-6) == passes
        assert found.network.throttling.of_firmware("gives_up_after_s", 0.0)["graphics"].tolist() == [late]

    def test_draws_are_held_at_once(self):
        _, _, T = ran(card(12.0, watts=260), samples=20)
        assert T[:, 0].max() > LIMIT + 0.3
        assert T[:, 1:].max() <= LIMIT + 1e-6

    def test_the_forecast_tells_how_late_how_far_and_where_it_gives_back(self):
        [held] = forecast_in_time(card(12.0, watts=260), Asked("both", 20)).held_back
        assert held.over_k == pytest.approx(ran(card(12.0, watts=260))[2].max() - LIMIT, abs=0.05)
        # a bare number of these is good to 60 and to 50 %
        assert (held.late_s.low, held.late_s.high) == pytest.approx((4.8, 19.2))
        assert (held.gives_back_k.low, held.gives_back_k.high) == pytest.approx((1.0, 3.0))

    @pytest.mark.parametrize(("watts", "status"), [(260, "throttled"), (60, "holds")])
    def test_a_place_that_is_held_at_its_limit_is_throttled_as_in_steady_state(self, watts, status):
        build = card(watts=watts)
        curves = forecast_in_time(build, Asked("both", 60)).curves
        steady = predict(build, ["both"], samples=0).workloads[0].places
        told = next(curve.status for curve in curves if curve.address == "graphics-chip")
        assert told == status == next(place.status for place in steady if place.address == "graphics-chip")

    def test_nothing_is_told_of_a_firmware_that_nobody_knows(self):
        unknown = card(None, None, class_="graphics_regulators", watts=260)
        [held] = forecast_in_time(unknown, Asked("both", 20)).held_back
        assert (held.late_s, held.gives_back_k, held.over_k) == (None, None, pytest.approx(0.0, abs=1e-6))


class TestFirmware:
    """What one firmware does between two steps, by hand."""

    def test_it_acts_once_its_place_was_over_the_limit_for_as_long_as_it_is_late(self):
        one = _Firmware(2.0, 1.0)
        assert not one.after(-1.0, 1.0, False, 2.0)
        assert one.over_s == pytest.approx(2.0 * 1.01 / 2.0)
        assert not one.after(1.0, 1.2, False, 0.98)
        assert one.after(1.2, 1.3, False, 0.02)
        assert one.acts

    def test_who_comes_back_below_before_that_begins_anew(self):
        one = _Firmware(2.0, 1.0)
        one.after(0.5, 1.0, False, 1.5)
        one.after(1.0, -0.02, False, 1.0)
        assert (one.over_s, one.acts) == (0.0, False)

    @pytest.mark.parametrize(("below", "acts"), [(-1.9, True), (-2.1, False)])
    def test_it_goes_on_until_it_gives_back(self, below, acts):
        one = _Firmware(1.0, 2.0, acts=True)
        assert not one.after(0.0, below, True, 1.0)
        assert one.acts == acts

    def test_within_a_step_it_runs_freely_where_it_is_told_after_the_middle_of_it(self):
        one = _Firmware(2.0, 1.0, over_s=1.0)
        assert one.beyond_k(0.4, 1.99) == inf
        assert one.beyond_k(0.4, 2.01) == pytest.approx(0.4 * exp(-1.005))
        assert _Firmware(2.0, 1.0, acts=True).beyond_k(-3.0, 0.1) == 0.0

    def test_it_waits_only_at_its_limit(self):
        one = _Firmware(2.0, 1.0, over_s=0.5)
        assert one.waits_s(0.1) == one.waits_s(-0.009) == pytest.approx(1.5)
        assert one.waits_s(-0.011) == _Firmware(2.0, 1.0, acts=True).waits_s(0.1) == inf

    @pytest.mark.parametrize(
        ("before", "now", "share"),
        [(-1.0, 1.0, 0.5), (-0.3, 0.1, 0.75), (-0.011, 0.5, 0.011 / 0.511), (-0.009, 0.5, None), (-1.0, 0.009, None)],
    )
    def test_a_step_that_comes_over_the_limit_ends_there(self, before, now, share):
        assert _Firmware(2.0, 1.0).crosses(before, now) == (None if share is None else pytest.approx(share))
        assert _Firmware(2.0, 1.0, acts=True).crosses(before, now) is None

    @pytest.mark.parametrize(
        ("before", "now", "share"), [(0.5, 0.2, 1.0), (-0.005, 0.5, 1.0), (-1.0, 0.0, 0.01), (-1.01, 0.99, 0.5)]
    )
    def test_the_share_of_a_step_over_the_limit(self, before, now, share):
        assert _share_over(before, now) == pytest.approx(share, abs=1e-12)


class TestClasses:
    """By class: chips see a limit in milliseconds, graphics in a second, drives in some; value from memory."""

    @pytest.mark.parametrize(
        ("name", "late", "back"),
        [
            ("lidded_125", (0.001, 0.01), (1, 3)),
            ("bare_mobile_15", (0.001, 0.01), (1, 3)),
            ("board_small_3_8w", (0.001, 0.01), (1, 3)),
            ("graphics_chip_220", (0.5, 2.0), (1, 3)),
            ("graphics_memory", (0.5, 2.0), (1, 3)),
            ("drive_m2", (1.0, 5.0), (5, 10)),
            ("drive_25_still", (1.0, 5.0), (5, 10)),
        ],
    )
    def test_what_is_known_of_its_firmware(self, name, late, back):
        for quantity, ends in (("gives_up_after_s", late), ("gives_back_k", back)):
            value, minus, plus, _ = class_figure(name, "place", quantity)
            assert (value - minus, value + plus) == pytest.approx(ends)
