"""Typed runs of every kind: minutes, seconds after the end, flows, duties, words, one evening."""

import numpy as np
import pytest
from readings import typed
from strategies import recipe

from krill.document.build import Command
from krill.document.reading import read_object, write_object
from krill.networks.states import Case
from krill.prediction.answer.shared import loop_flow
from krill.prediction.answer.solving import solve_cases
from krill.prediction.questions.warm_up import warm_up
from krill.recipes.book import RECIPES
from krill.runs.as_run import known_flows, node_of
from krill.runs.judging import judge
from krill.runs.minuted import cooled_since, settled_by_minutes
from krill.runs.quantities import hold_quantities
from krill.runs.ran import of_one_evening, ran_of
from krill.runs.run_document import Reading, read_run_object
from krill.runs.typed import measured_from_readings
from krill.runs.unknown_room import RunRoom
from krill.simulated_bench.bench import BenchPlan, run_bench

CORE = "processor-core/temperature"


def run(readings, **more):
    told = {
        "format": "krill-run",
        "version": 1,
        "name": "evening",
        "kind": "readings",
        "windows": [{"workload": "both"}],
    }
    return read_run_object(told | {"readings": readings} | more)


def at(role, value, minute=60, **more):
    return {"minute": minute, "role": role, "value": value, **more}


@pytest.mark.parametrize("name", ["water_loop", "tower_box", "fanless_housing", "ducted_sink"])
def test_a_few_minuted_figures_of_the_bench_settle_where_it_does(name):
    """The bench runs the network in time with deviations of its own; readings of whole degrees, 0.5 K of noise."""
    recipe_ = RECIPES[name]
    build = recipe_.make(*recipe_.starts, 25.0, name)
    load = next(w for w in build.workloads if w.id == build.brief.worst_workloads[0])
    ways = warm_up(build, load, 24.0)
    rng = np.random.default_rng(3)
    inside, nearer = [], []
    for seed in range(3):
        log = run_bench(
            build, BenchPlan(load.id, 24.0, load_min=26, lead_in_min=2, after_min=0, step_s=10.0, seed=seed)
        )
        for channel, role in log.roles.items():
            way = ways.of_node(node_of(ways.solved, role)) if role.endswith("/temperature") else None
            if way is None:
                continue
            minutes = np.array([5, 10, 16, 25])
            read = np.round(log.channels[channel][(minutes + 2) * 6] + rng.normal(0, 0.5, 4))
            found = settled_by_minutes(way, 60.0 * minutes, read, 2.0)
            truth = log.settled_c[role.split("/")[0]]
            inside.append(abs(found.value - truth) <= found.half_k)
            nearer.append(abs(found.value - truth) - abs(read[-1] - truth))
    assert np.mean(inside) >= 0.85
    assert np.mean(nearer) < 0.1


def test_a_figure_just_after_the_end_is_worked_back():
    """A chip falls at once, its coolant hardly: by the network's own rates, against the bench."""
    build = recipe()
    load = next(w for w in build.workloads if w.id == "both")
    log = run_bench(build, BenchPlan("both", 24.0, load_min=60, after_min=2, step_s=2.0, seed=2, hidden_spread=0.3))
    end = ((5 + 60) * 30) - 1
    ways = warm_up(build, load, 24.0)
    for channel, role in list(log.roles.items())[:4]:
        fall, doubt = cooled_since(ways.of_node(node_of(ways.solved, role)), 20.0)
        true = log.channels[channel][end] - log.channels[channel][end + 10]
        assert abs(fall - true) <= doubt + 1.5


class TestAfterTheEnd:
    def test_it_counts_where_nothing_was_read_under_load(self):
        ran = ran_of(run([at(CORE, 60, load_on=False, after_s=20)], room={"start_c": 24, "end_c": 24}), recipe(), None)
        (measured,) = ran.measured
        assert measured.value > 64
        assert measured.half_width > 2.5
        assert "s after the end" in ran.excluded[0]

    def test_it_is_left_out_beside_one_under_load(self):
        ran = ran_of(run([at(CORE, 75), at(CORE, 60, load_on=False, after_s=20)]), recipe(), None)
        assert [m.value for m in ran.measured] == [75]
        assert "1 read after the load ended" in ran.excluded[0]


class TestMinuted:
    def test_three_of_the_moment_are_fitted_and_two_are_not(self):
        three = ran_of(run([at(CORE, v, m) for v, m in ((60, 3), (66, 6), (69, 10))]), recipe(), None)
        assert three.measured[0].value > 69.5
        assert "it settles at" in three.excluded[0]
        two = ran_of(run([at(CORE, v, m) for v, m in ((66, 6), (69, 10))]), recipe(), None)
        assert two.measured[0].value == 69
        assert not two.measured[0].settled

    def test_without_the_builds_way_the_last_one_stands(self):
        told = [typed(m, CORE, "now", v, True) for v, m in ((60, 3), (66, 6), (69, 10))]
        assert measured_from_readings(told, "both").values[0].value == 69


class TestOverrides:
    def test_a_duty_takes_the_place_of_the_builds_and_a_speed_of_both(self):
        duty = measured_from_readings([typed(60, "fan-a1/duty", "now", 40, True)], "both")
        assert duty.commands == {"fan-a1": Command(duty=0.4)}
        both = [typed(60, "fan-a1/duty", "now", 40, True), typed(60, "fan-a1/speed", "now", 900, True)]
        assert measured_from_readings(both, "both").commands == {"fan-a1": Command(speed_rpm=900)}

    @pytest.mark.parametrize("wanted", [1.2, 2.5])
    def test_a_flow_is_met_by_the_pump(self, wanted):
        build = recipe()
        known = known_flows(build, "both", {}, {"loop-a": wanted})
        load = next(w for w in build.workloads if w.id == "both")
        solved = solve_cases(build, [Case(load, 24.0)], overrides=known)
        assert float(loop_flow(solved, build.loops[0])[0]) * 60_000 == pytest.approx(wanted, rel=0.02)
        ratio = known["pump/pressure_factor"] / known["pump/flow_factor"] ** 2
        assert ratio == pytest.approx(1.0, rel=1e-6)

    def test_less_flow_is_no_fault_of_the_parts(self):
        ran = ran_of(run([at(CORE, 75), at("loop-a/flow", 0.7)]), recipe(), None)
        judged = judge(ran, 100)
        flow = next(q for q in judged.quantities if q.role == "loop-a/flow")
        assert flow.conclusion == "less than predicted"
        as_built = judge(ran_of(run([at(CORE, 75)]), recipe(), None), 100)
        assert judged.verdict.places[0].predicted_c > as_built.verdict.places[0].predicted_c + 1


def hold(*readings, build=None):
    build = build or recipe()
    load = next(w for w in build.workloads if w.id == "both")
    return hold_quantities(solve_cases(build, [Case(load, 24.0)], 60), [Reading(**r) for r in readings])


class TestQuantities:
    def test_sound_is_brought_to_the_listener(self):
        near, far = hold(at("sound/level", 50, at_m=0.3)), hold(at("sound/level", 50))
        listener = float(recipe().brief.listener_m)
        assert near[0].measured == pytest.approx(50 - 20 * np.log10(listener / 0.3))
        assert far[0].measured == 50

    @pytest.mark.parametrize(
        ("share", "said"), [(1.0, "as predicted"), (1.6, "more than predicted"), (0.5, "less than predicted")]
    )
    def test_watts_against_the_build(self, share, said):
        (found,) = hold(at("processor/power", 125 * share))
        assert (found.conclusion, found.unit) == (said, "W")
        assert found.predicted == pytest.approx(125, rel=0.01)

    def test_all_watts_at_the_wall(self):
        (found,) = hold(at("wall/wall_power", 380))
        assert found.predicted > 375

    def test_scores_and_clocks_are_noted(self):
        found = hold(at("job/jobs_per_hour", 41), at("processor/clock", 4100), at("processor/limit", 125))
        assert [q.conclusion for q in found] == ["noted"] * 3
        assert [q.unit for q in found] == ["jobs/h", "MHz", "W"]

    def test_smoke_against_the_way_that_air_goes(self):
        recipe_ = RECIPES["tower_box"]
        build = recipe_.make(*recipe_.starts, 25.0, "box")
        opening = next(part.id for part in build.parts if part.kind == "opening")
        load = build.workloads[-1]
        solved = solve_cases(build, [Case(load, 24.0)], 30)
        words = ("drawn in", "still", "blown out")
        said = {
            w: hold_quantities(solved, [Reading(minute=60, role=f"{opening}/smoke", word=w)])[0].conclusion
            for w in words
        }
        assert sorted(said.values()) == ["as predicted", "otherwise than predicted", "otherwise than predicted"]

    def test_a_surface_by_hand(self):
        recipe_ = RECIPES["fanless_housing"]
        build = recipe_.make(*recipe_.starts, 25.0, "fanless")
        body = next(part.id for part in build.parts if part.kind in ("sink", "panel"))
        load = next(w for w in build.workloads if w.id == "full")
        solved = solve_cases(build, [Case(load, 24.0)], 30)
        words = ("cool", "warm", "too hot to hold")
        said = [hold_quantities(solved, [Reading(minute=60, role=f"{body}/felt", word=w)])[0].conclusion for w in words]
        assert said.count("as predicted") in (1, 2)

    def test_temperatures_are_not_among_them(self):
        assert hold(at(CORE, 75), at("room/air", 24)) == []

    def test_what_was_read_after_the_load_is_not(self):
        assert hold(at("processor/power", 20, load_on=False)) == []


class TestOneEvening:
    def known(self, room):
        return ran_of(run([at(CORE, 75)], room=room), recipe(), None)

    def test_a_known_room_of_the_other_is_taken_over_with_its_drift(self):
        lost = of_one_evening(self.known({}), self.known({"start_c": 29, "end_c": 29}))
        assert lost.room == RunRoom(29.0, 1.5)
        assert of_one_evening(self.known({"start_c": 20, "end_c": 20}), lost).room == RunRoom(20.0, 0.0)

    def test_two_lost_rooms_help_each_other(self):
        """Idle readings of one run narrow the room of the other, but no further than the drift between them."""
        build = recipe()
        load, idle = (next(w for w in build.workloads if w.id == name) for name in ("both", "idle"))
        hot, cool = (solve_cases(build, [Case(w, 28.0)]) for w in (load, idle))

        def read(solved):
            node = solved.structure.node_of["processor-core"]
            return float(solved.solution.temperature[0, node])

        own = ran_of(run([at(CORE, read(hot))]), build, None)
        waiting = ran_of(run([at(CORE, read(cool))], windows=[{"workload": "idle"}]), build, None)
        alone, together = judge(own, 150).verdict.room, judge(of_one_evening(own, waiting), 150).verdict.room
        assert together.half_k < 0.8 * alone.half_k
        assert together.half_k > 1.4
        assert abs(together.air_c - 28) < abs(alone.air_c - 28) + 0.5


def test_about_is_known_to_three_kelvin():
    assert ran_of(run([at(CORE, 75)], room={"about_c": 25}), recipe(), None).room == RunRoom(25.0, 3.0)


def test_a_build_of_two_loads_names_the_load():
    told = run(
        [at(CORE, 75)], windows=[{"id": "a", "workload": "both", "name": "render"}, {"id": "b", "workload": "idle"}]
    )
    assert ran_of(told, recipe(), None).name == "evening, render"
    assert ran_of(told, recipe(), None, told.window("b")).measured == []


def test_conditions_are_what_was_noted():
    told = run(
        [at(CORE, 75, 45)],
        settings={"lid": "off", "locked": ["pump", "fans"], "power_limits": [{"source": "processor", "granted_w": 95}]},
    )
    ran = ran_of(told, recipe(), None)
    assert ran.conditions == {
        "lid": "off",
        "locked": "fans, pump",
        "power limit of processor": "95 W",
        "length": "45 min",
    }
    assert ran.excluded == ["the lid was off: the build's air goes through a closed housing"]


def test_a_document_is_not_changed_by_being_read():
    raw = write_object(recipe())
    assert write_object(read_object(raw)) == raw
