"""A build in time against itself and others: settled states, library integrators, energy, rows, limits, curves, rooms."""

from dataclasses import replace
from math import exp, log, sqrt

import numpy as np
import pytest
from in_time.library import by_library
from strategies import changed_recipe, load_of, recipe

from krill.document.build import Burst
from krill.document.reading import read_object, write_object
from krill.in_time.hunting import hunting_of
from krill.in_time.legs import Bursts, Leg, burst_ends_s
from krill.in_time.march import Marched
from krill.in_time.room import CLOSED_ROOM, STEADY_ROOM, Room
from krill.in_time.run import Asked, march, run_in_time
from krill.networks.tr_bdf2 import STAGE
from krill.prediction.answer.capacities import node_capacities
from krill.prediction.answer.shared import loop_nodes
from krill.prediction.answer.solving import network_of, solve_cases
from krill.prediction.answer.workload_states import idle_of, worst_workload
from krill.prediction.predict import cases_of
from krill.recipes.air_box import air_box
from krill.recipes.fanless_housing import fanless_housing
from krill.recipes.small_board import small_blower

MACHINES = {
    "loop": (lambda: recipe(), "both"),
    "tower": (lambda: air_box(95, 200, 30, 24), "both"),
    "fanless": (lambda: fanless_housing(35, 5, 10, 24), None),
    "blower": (lambda: small_blower(8, 2, 2, 22), None),
}


def machine(name):
    make, workload = MACHINES[name]
    build = make()
    return build, workload or worst_workload(build)


def without_curves(build):
    raw = write_object(build)
    for load in raw["workloads"]:
        load["movers"] = {m: {"duty": 0.6} if "curve" in told else told for m, told in load.get("movers", {}).items()}
    return read_object(raw)


@pytest.mark.parametrize("name", MACHINES)
def test_after_long_enough_it_is_the_settled_state(name):
    """t -> infinity = steady, to 1e-4 K in every node."""
    build, workload = machine(name)
    ran = run_in_time(build, Asked(workload, 60 * 48))
    assert ran.track.moments[-1].T[0] == pytest.approx(ran.settled.solution.temperature[0], abs=1e-4)


@pytest.mark.parametrize(
    ("name", "method"), [("loop", "BDF"), ("tower", "Radau"), ("fanless", "BDF"), ("blower", "Radau")]
)
def test_its_way_is_that_of_a_library_on_the_same_right_hand_side(name, method):
    """To 1e-3 K of 20 to 60 K, in every node at every second of ten minutes; bursts among them."""
    build, workload = machine(name)
    build = without_curves(build)
    ran = run_in_time(build, Asked(workload, 10), tolerance_k=1e-4)
    bursts = Bursts(ran.network.states, Leg((ran.settled.cases[0],), 10), ran.before.network.states)
    times = np.arange(0.0, 601.0)
    shares = lambda t: {source: share[0] for source, share in bursts.shares(t).items()}  # noqa: E731
    known, free = by_library(ran.network, ran.begun, 600.0, times, method, shares, bursts.kinks())
    got = ran.track.at(times, free.tolist())[:, 0, :]
    assert np.abs(got[-1] - ran.begun[0, free]).max() > 15
    assert np.abs(got - known[:, free]).max() < 1e-3


def test_a_coarser_march_is_off_by_its_tolerance_and_not_by_much_more():
    build, workload = machine("loop")
    times = np.arange(0.0, 1801.0, 5.0)
    fine = run_in_time(build, Asked(workload, 30), tolerance_k=1e-4)
    nodes = list(range(fine.settled.structure.nodes))
    exact = fine.track.at(times, nodes)[:, 0]
    for tolerance in (1e-2, 2e-3):
        coarse = run_in_time(build, Asked(workload, 30), tolerance_k=tolerance)
        off = np.abs(coarse.track.at(times, nodes)[:, 0] - exact).max()
        assert off < 3 * tolerance
        assert len(coarse.track.moments) < len(fine.track.moments)


@pytest.mark.parametrize("name", ["loop", "fanless"])
def test_energy_over_a_run_is_what_went_in_and_what_stayed(name):
    """Watts in less watts that left for the rooms is what the capacities took up, to 1e-5 of what went in; both worked out
    anew from the network at the start, the stage and the end of every step, weighed as the method weighs them."""
    build, workload = machine(name)
    raw = write_object(build)
    raw["workloads"] = [{**item, "burst": {}} for item in raw["workloads"]]
    ran = run_in_time(read_object(raw), Asked(workload, 20), tolerance_k=3e-4)
    heat, C = ran.network.pattern.network, node_capacities(ran.network)[0]
    inside = np.setdiff1d(np.arange(len(C)), heat.held)
    w = sqrt(2) / 4
    weights = (w, w, 1 - sqrt(2) / 2)
    put_in = stayed = 0.0
    last = None
    moments = ran.track.moments
    for at in range(2, len(moments)):
        h = moments[at].t - moments[at - 1].t
        middle = ran.track.at(np.array([moments[at - 1].t + STAGE * h]), list(range(len(C))))[0]
        for weight, T in zip(weights, (moments[at - 1].T, middle, moments[at].T), strict=True):
            last = ran.network.frozen(T, moments[0].speeds, {}, last)
            r, _ = heat.residual(T, last.matrix, last.power, last.laws)
            put_in += h * weight * float(last.power[0, inside].sum())
            stayed += h * weight * float(r[0, inside].sum())
    took_up = float(np.sum(C[inside] * (moments[-1].T[0, inside] - moments[1].T[0, inside])))
    assert took_up > 0.05 * put_in
    assert stayed == pytest.approx(took_up, abs=1e-5 * put_in)


def test_rows_of_a_batch_go_their_own_ways():
    """Two rooms in one batch are each what they are alone."""
    build, workload = machine("loop")
    cold, warm = (cases_of(build, [workload], room)[0] for room in (20.0, 31.0))
    times = np.arange(0.0, 601.0, 10.0)

    def way(cases):
        start = solve_cases(build, [replace(case, workload=idle_of(build, case.workload)) for case in cases])
        network = network_of(build, cases)
        track = march(network, [Leg(tuple(cases), 10)], Marched(start.solution.temperature.copy()), tolerance_k=1e-3)
        return track.at(times, list(range(network.structure.nodes)))

    both = way([cold, warm])
    for row, case in enumerate((cold, warm)):
        assert np.abs(both[:, row] - way([case])[:, 0]).max() < 6e-3


@pytest.mark.parametrize("name", MACHINES)
def test_no_draw_of_a_machine_warms_itself_up(name):
    """Every mode of every draw dies away: heat flows from warm to cold in each of them."""
    build, workload = machine(name)
    solved = solve_cases(build, cases_of(build, [workload], None), 120)
    heat, C = solved.network.pattern.network, node_capacities(solved.network)
    J, _ = heat.linear(solved.solution.temperature, solved.solution.matrix, solved.solution.laws)
    free = np.setdiff1d(np.arange(C.shape[1]), heat.held)
    modes = np.linalg.eigvals(heat.dense(J)[:, free][:, :, free] / C[:, free, None])
    assert modes.real.max() < 0.0


def test_draws_of_capacities_widen_the_way_and_not_its_end():
    build, workload = machine("loop")
    ran = run_in_time(build, Asked(workload, 600, samples=40))
    C = node_capacities(ran.network)
    box = ran.settled.structure.zone_nodes[next(zone.id for zone in build.zones if zone.kind == "box")]
    assert C[1:, box].std() > 0.1 * C[0, box]
    end = ran.track.moments[-1].T
    assert end == pytest.approx(ran.settled.solution.temperature, abs=2e-3)


class TestLimits:
    def throttling(self, watts=320.0, at_c=70.0):
        def change(raw):
            load = load_of(raw)
            load["watts"]["processor"] = watts
            load.pop("burst", None)
            place = next(part for part in raw["parts"] if part["id"] == "processor")["places"][0]
            place["limits"] = [{"kind": "throttle", "at_c": at_c}]
            place["throttles"] = True

        return changed_recipe(change)

    def test_a_place_is_held_at_its_limit_from_when_it_meets_it(self):
        ran = run_in_time(self.throttling(), Asked("both", 60), tolerance_k=1e-3)
        node = ran.settled.structure.node_of["processor-core"]
        times = np.arange(0.0, 3601.0, 0.5)
        T = ran.track.at(times, [node])[:, 0, 0]
        assert T.max() < 70.0 + 0.02
        assert T[-1] == pytest.approx(70.0, abs=1e-4)
        met = int(np.argmax(T >= 70.0 - 0.02))
        assert 0 < met < len(T) - 1
        assert np.all(T[met:] > 70.0 - 0.1)
        kept = ran.track.moments[-1].kept["processor"][0]
        assert kept == pytest.approx(float(ran.settled.solution.kept["processor"][0]), abs=1e-4)
        assert 0.2 < kept < 1.0
        shares = np.array([moment.kept["processor"][0] for moment in ran.track.moments if moment.t > times[met] + 60])
        assert np.all(np.diff(shares) < 1e-4)  # ever less, as the loop warms

    def test_the_moment_is_located_and_not_stepped_over(self):
        ran = run_in_time(self.throttling(), Asked("both", 60), tolerance_k=1e-2)
        exact = run_in_time(self.throttling(), Asked("both", 1), tolerance_k=1e-3)
        held = [
            next(moment.t for moment in one.track.moments if moment.kept["processor"][0] < 1.0) for one in (ran, exact)
        ]
        assert held[0] == pytest.approx(held[1], abs=0.02)

    def test_without_its_limit_it_would_have_passed_it(self):
        free = run_in_time(self.throttling(at_c=150.0), Asked("both", 60))
        node = free.settled.structure.node_of["processor-core"]
        assert free.track.moments[-1].T[0, node] > 75.0


class TestBursts:
    def bursting(self, **burst):
        def change(raw):
            load_of(raw)["burst"] = {"processor": {"power_w": 200, "hold_s": 40, **burst}}

        return changed_recipe(change)

    def shares(self, build, seconds):
        states = network_of(build, cases_of(build, ["both"], None)).states
        idle = network_of(
            build, [replace(case, workload=build.workloads[0]) for case in cases_of(build, ["both"], None)]
        )
        bursts = Bursts(states, Leg(tuple(cases_of(build, ["both"], None)), 10), idle.states)
        return [
            float(bursts.shares(t)["processor"][0]) * float(np.ravel(states.watts("processor"))[0]) for t in seconds
        ]

    def test_it_lasts_its_hold(self):
        assert self.shares(self.bursting(), [0, 39.9, 40.1, 500]) == pytest.approx([200, 200, 125, 125])

    def test_it_falls_over_a_time(self):
        found = self.shares(self.bursting(falls_over_s=60), [39.9, 55, 70, 100.1])
        assert found == pytest.approx([200, 200 - 75 * 0.25, 200 - 75 * 0.5, 125])

    @pytest.mark.parametrize(
        ("watts", "sustained", "before", "hold", "seconds"),
        [(95, 65, 6, 28, 30.5), (180, 125, 9, 56, 63.5)],
    )
    def test_until_its_running_mean_it_lasts_as_practice_says(self, watts, sustained, before, hold, seconds):
        """95 over 65 W from 6 W with T 28 s: 30 s; 180 over 125 W from 9 W with T 56 s: 64 s (common practice)."""
        burst = Burst(power_w=watts, hold_s=hold, until="mean")
        found = burst_ends_s(burst, before, sustained)
        assert found == pytest.approx(seconds, abs=0.5)
        mean, dt = float(before), 0.01  # the exponential mean itself, step by step
        ticks = 0
        while mean < sustained:
            mean += (watts - mean) * dt / hold
            ticks += 1
        assert found == pytest.approx(ticks * dt, abs=0.05)

    def test_one_of_no_more_than_the_load_is_none(self):
        assert burst_ends_s(Burst(power_w=60, hold_s=28, until="mean"), 6, 65) == 0.0
        assert burst_ends_s(Burst(power_w=95, hold_s=28, until="mean"), 80, 65) == pytest.approx(0.0, abs=28)

    def test_the_chip_falls_once_it_is_over(self):
        ran = run_in_time(self.bursting(), Asked("both", 5), tolerance_k=1e-3)
        node = ran.settled.structure.node_of["processor-core"]
        T = ran.track.at(np.array([39.9, 41.0, 43.0]), [node])[:, 0, 0]
        assert T[0] - T[1] > 3
        assert any(moment.t == pytest.approx(40.0, abs=1e-6) for moment in ran.track.moments)


class TestCurves:
    def following(self, sensor="loop-a", points=((30, 0.3), (60, 1.0)), **more):
        def change(raw):
            fans = [part["id"] for part in raw["parts"] if part["kind"] == "fan"]
            for load in raw["workloads"]:
                load["movers"] = {
                    **load.get("movers", {}),
                    **{fan: {"curve": {"sensor": sensor, "points": points, **more}} for fan in fans},
                }

        return changed_recipe(change)

    def way(self, build, minutes=60):
        ran = run_in_time(build, Asked("both", minutes))
        fan = next(part.id for part in build.parts if part.kind == "fan")
        return ran, np.array([moment.speeds[fan][0] for moment in ran.track.moments])

    def test_speeds_rise_with_the_coolant_to_where_steady_has_them(self):
        ran, speeds = self.way(self.following(hysteresis_k=0), 600)
        fan = next(part.id for part in ran.settled.build.parts if part.kind == "fan")
        assert speeds[0] < speeds[-1] - 0.1
        assert speeds[-1] == pytest.approx(float(ran.settled.solution.speeds[fan][0]), abs=1e-4)
        assert ran.track.moments[-1].T[0] == pytest.approx(ran.settled.solution.temperature[0], abs=1e-4)

    def test_hysteresis_leaves_a_speed_up_while_the_sensor_cools(self):
        """From a warmer load back to this one the fans stay within the hysteresis above their curve."""
        build = self.following(hysteresis_k=4)
        hot, idle = (cases_of(build, [name], None)[0] for name in ("both", build.workloads[0].id))
        start = solve_cases(build, [hot])
        network = network_of(build, [idle])
        track = march(network, [Leg((idle,), 240)], Marched(start.solution.temperature.copy()))
        fan = next(part.id for part in build.parts if part.kind == "fan")
        end = track.moments[-1]
        coolant = end.T[0, loop_nodes(start, "loop-a")].max()
        on_curve = float(np.interp(coolant, [30, 60], [0.3, 1.0]))
        later = float(np.interp(coolant + 4, [30, 60], [0.3, 1.0]))
        assert end.speeds[fan][0] == pytest.approx(later, abs=5e-3)
        assert later > on_curve + 0.05 or on_curve == pytest.approx(0.3, abs=0.05)

    def test_a_speed_follows_as_slowly_as_it_is_told(self):
        """A sensor that jumps: 1 - 1/e of the way after the constant upwards (closed form)."""
        build = self.following("processor-core", ((40, 0.4), (41, 0.9)), up_s=20, hysteresis_k=0)
        ran, speeds = self.way(build, 2)
        times = ran.track.times
        first = float(times[np.argmax(speeds > 0.41)])
        at = float(np.interp(first + 20, times, speeds))
        assert at == pytest.approx(0.4 + 0.5 * (1 - exp(-1)), abs=0.03)

    @pytest.mark.slow
    def test_a_steep_curve_with_a_slow_way_down_hunts_and_a_flat_one_does_not(self):
        """150 % a kelvin of the coolant, up in 10 s and down in 60 s; against 5 % a kelvin."""
        steep = self.following("loop-a", ((41.75, 0.25), (42.25, 1.0)), up_s=10, down_s=60)
        ran, speeds = self.way(steep, 30)
        found = hunting_of(ran.track, ran.network.states)
        assert {one.mover for one in found} == {part.id for part in steep.parts if part.kind == "fan"}
        assert 200 < found[0].period_s < 350
        assert found[0].low < 0.55
        assert found[0].high > 0.95
        late = speeds[ran.track.times > 900]
        assert late.max() - late.min() > 0.4
        flat = self.following("loop-a", ((35, 0.5), (45, 1.0)), up_s=10, down_s=60)
        assert hunting_of(self.way(flat, 30)[0].track, ran.network.states) == []

    def test_curves_of_time_must_be_times(self):
        from krill.errors import DocumentRefused

        for wrong in ({"up_s": -1}, {"down_s": 601}, {"hysteresis_k": -2}):
            with pytest.raises(DocumentRefused):
                self.following(**wrong)


class TestRooms:
    def test_a_room_that_drifts_takes_the_machine_along(self):
        build, workload = machine("loop")
        still = run_in_time(build, Asked(workload, 240))
        drifting = run_in_time(build, Asked(workload, 240, room=Room(drift_k_h=1.0)))
        box = still.settled.structure.node_of["processor-core"]
        given = still.network.pattern.given[0]
        ends = drifting.track.moments[-1].T[0], still.track.moments[-1].T[0]
        assert ends[0][given] - ends[1][given] == pytest.approx(4.0, abs=1e-6)
        assert 3.8 < ends[0][box] - ends[1][box] < 4.2  # its watts' leakage and films apart, all of it

    def test_the_machine_warms_its_room_as_practice_says(self):
        """0.7 K in the first hour and 2.4 to 3.3 K in a day, for 100 W (common practice)."""
        warmed, watts = np.zeros(1), np.array([100.0])
        for _ in range(60):
            warmed = CLOSED_ROOM.warmed(warmed, watts, 60.0)
        assert 0.4 < warmed[0] < 1.0
        assert warmed[0] == pytest.approx(2.85 * (1 - exp(-1 / 3.5)), rel=1e-9)
        assert 2.4 < CLOSED_ROOM.warmed(np.zeros(1), watts, 86_400.0)[0] < 3.3
        assert STEADY_ROOM.warmed(np.zeros(1), watts, 3600.0)[0] == 0.0

    def test_a_warmed_room_is_felt_inside(self):
        build, workload = machine("loop")
        ran = run_in_time(build, Asked(workload, 480, room=CLOSED_ROOM))
        given = ran.network.pattern.given[0]
        over = ran.track.moments[-1].T[0, given] - ran.begun[0, given]
        watts = float(
            ran.settled.solution.power[0][
                np.setdiff1d(np.arange(ran.settled.structure.nodes), ran.network.pattern.network.held)
            ].sum()
        )
        assert over == pytest.approx(0.0285 * watts * (1 - exp(-8 / 3.5)), rel=0.02)


def test_a_swing_without_end_is_told_and_not_marched_for_ever(monkeypatch):
    from krill.errors import NotConverged
    from krill.in_time import march as marching

    monkeypatch.setattr(marching, "MOST_STEPS", 20)
    with pytest.raises(NotConverged, match="look at the fan curves"):
        run_in_time(recipe(), Asked("both", 90))


def test_the_closed_form_of_the_running_mean():
    burst = Burst(power_w=120, hold_s=10, until="mean")
    assert burst_ends_s(burst, 20, 70) == pytest.approx(10 * log(100 / 50))
