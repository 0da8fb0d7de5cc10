"""Two runs of machines whose one change is known: its size, its sign, and what is said where there is more than one."""

import numpy as np
import pytest
from strategies import recipe

from krill.document.build import Command
from krill.document.reading import read_object, write_object
from krill.networks.states import Case
from krill.prediction.answer.solving import room_of, solve_cases
from krill.runs.as_run import commanded_build, value_of
from krill.runs.compare import Comparison, RunSide, _conclusion, compare
from krill.runs.unknown_room import RunRoom
from krill.runs.verdict import Measured

CORE, CHIP, MEMORY = "processor-core/temperature", "graphics-chip/temperature", "memory-place/temperature"
ROLES = (CORE, CHIP, MEMORY)


def with_plate(factor):
    raw = write_object(recipe())
    raw["parts"] = [part | {"factor": factor} if part["id"] == "plate-processor" else part for part in raw["parts"]]
    return read_object(raw)


def side(name, build, room=24.0, known=None, half=0.5, roles=ROLES, doubt=0.0):
    """A run of exactly what the model gives of a build: the truth of these tests."""
    load = next(item for item in build.workloads if item.id == "both")
    solved = solve_cases(build, [Case(load, room)], 0, overrides=known)
    measured = [Measured(role, float(value_of(solved, role, 0)), half) for role in roles]
    return RunSide(name, build, "both", RunRoom(room, doubt), measured, known or {})


def part(found: Comparison, role):
    return next(part for part in found.parts if part.role == role)


def slower(build, share):
    fans = {mover for mover in next(w for w in build.workloads if w.id == "both").movers if mover.startswith("fan")}
    return commanded_build(build, "both", dict.fromkeys(fans, Command(speed_rpm=1000.0 * share)))


def test_a_run_and_itself_differ_in_nothing():
    found = compare(side("one", recipe()), side("two", recipe()))
    assert [p.conclusion for p in found.parts] == ["no difference"] * 3
    assert all(p.equal_k == pytest.approx(0, abs=1e-9) for p in found.parts)
    assert (found.changes, found.confounded) == ([], False)
    assert found.sentence == "two and one do not differ at equal watts and speeds."


def test_a_warmer_room_is_no_difference_over_the_room_and_is_told():
    found = compare(side("one", recipe()), side("two", recipe(), room=29.0))
    assert [p.conclusion for p in found.parts] == ["no difference"] * 3
    assert [(c.what, c.kelvins) for c in found.changes] == [("the room, 24.0 and 29.0 °C", None)]
    assert found.sentence.endswith("also different: the room, 24.0 and 29.0 °C.")


def test_a_worse_plate_is_warmer_by_what_it_costs_on_its_part_alone():
    found = compare(side("one", recipe()), side("two", with_plate(1.8)))
    core = part(found, CORE)
    assert core.conclusion == "warmer"
    assert core.equal_k == pytest.approx(core.predicted_k)
    assert core.equal_k > 2.0
    assert part(found, CHIP).conclusion == "no difference"
    assert [c.what for c in found.changes] == ["the build itself"]
    assert found.changes[0].kelvins == pytest.approx(core.equal_k)
    assert not found.confounded
    assert found.sentence.startswith("two is ")
    assert "K warmer than one on " in found.sentence


def test_watts_that_were_read_are_taken_out():
    hot = {"both/watts/processor": 165.0}
    found = compare(side("one", recipe()), side("two", recipe(), known=hot))
    core = part(found, CORE)
    assert core.measured_k > 8.0
    assert core.equal_k == pytest.approx(0, abs=1e-3)
    assert core.conclusion != "warmer"
    assert core.equal_half_k > core.measured_half_k  # what the correction costs
    assert [c.what for c in found.changes] == ["watts of Processor"]
    assert found.changes[0].kelvins == pytest.approx(core.measured_k, abs=1e-3)


@pytest.mark.parametrize(("watts", "told"), [(125 * 1.029, []), (125 * 1.032, ["watts of Processor"])])
def test_watts_within_a_meters_doubt_were_the_same(watts, told):
    found = compare(side("one", recipe()), side("two", recipe(), known={"both/watts/processor": watts}))
    assert [c.what for c in found.changes] == told


def test_speeds_are_taken_out_and_a_little_off_is_the_same():
    fast, slow = slower(recipe(), 1.2), slower(recipe(), 0.8)
    found = compare(side("one", fast), side("two", slow))
    assert part(found, CORE).measured_k > 1.0
    assert part(found, CORE).equal_k == pytest.approx(0, abs=1e-3)
    assert [c.what for c in found.changes] == ["speeds of fans or pumps"]
    assert compare(side("one", fast), side("two", slower(recipe(), 1.2 * 1.02))).changes == []


def test_two_changes_are_confounded_and_each_has_its_share():
    hot = {"both/watts/processor": 165.0}
    found = compare(side("one", recipe()), side("two", with_plate(1.8), known=hot))
    assert found.confounded
    assert "More than one thing was changed; the model gives watts of Processor +" in found.sentence
    assert sum(c.kelvins for c in found.changes) == pytest.approx(part(found, CORE).measured_k)


def test_a_second_change_that_is_worth_nothing_does_not_confound():
    raw = write_object(recipe())
    drive = raw["workloads"][-1]["watts"]["drive"]["value"]
    found = compare(side("one", recipe()), side("two", with_plate(1.8), known={"both/watts/drive": 1.05 * drive}))
    assert [c.what for c in found.changes] == ["watts of Drive", "the build itself"]
    assert abs(found.changes[0].kelvins) < 0.3
    assert not found.confounded
    assert "Changed: the build itself" in found.sentence


def test_what_is_not_told_says_how_many_repeats_would_tell():
    found = compare(side("one", recipe(), half=4.0), side("two", with_plate(1.8), half=4.0))
    core = part(found, CORE)
    assert core.conclusion == "cannot tell"
    repeats = int(np.ceil((core.equal_half_k / core.equal_k) ** 2))
    assert core.because == f"known to ± {core.equal_half_k:.0f} K only: about {repeats} repeats of each would tell"
    assert "is open" in found.sentence


def test_a_part_that_was_still_moving_is_not_ranked():
    warm = side("two", with_plate(1.8))
    moving = [Measured(m.role, m.value, m.half_width, settled=False) for m in warm.measured]
    found = compare(side("one", recipe()), RunSide("two", warm.build, "both", warm.room, moving, {}))
    assert part(found, CORE).conclusion == "cannot tell"


def test_a_room_that_is_not_known_is_doubt_of_the_difference():
    sure = part(compare(side("one", recipe()), side("two", recipe())), CORE)
    open_ = part(compare(side("one", recipe(), doubt=1.5), side("two", recipe(), doubt=2.0)), CORE)
    assert open_.measured_half_k == pytest.approx(np.hypot(sure.measured_half_k, 2.5))


def test_runs_that_read_nothing_in_common_say_so():
    found = compare(side("one", recipe(), roles=(CORE,)), side("two", recipe(), roles=(CHIP,)))
    assert (found.sentence, found.parts) == ("The two runs read no part in common.", [])


def test_a_mover_that_one_of_them_has_not_is_part_of_the_build():
    raw = write_object(recipe())
    both = next(w for w in raw["workloads"] if w["id"] == "both")
    gone = next(iter(m for m in both["movers"] if m.startswith("fan")))
    assert gone
    build = recipe().model_copy(
        update={
            "workloads": [
                w.model_copy(update={"movers": {m: c for m, c in w.movers.items() if m != gone}})
                if w.id == "both"
                else w
                for w in recipe().workloads
            ]
        }
    )
    assert compare(side("one", recipe()), side("two", build)).parts


@pytest.mark.slow
@pytest.mark.parametrize("change", ["plate", "watts", "speeds"])
def test_the_band_of_the_difference_holds_on_machines_with_hidden_deviations(change):
    """Both runs are of one machine whose figures lie where nobody knows: same draws, sensors of their own."""
    machines, room, rng = 60, 24.0, np.random.default_rng(11)
    first = slower(recipe(), 1.2)
    second = {"plate": slower(with_plate(1.8), 1.2), "watts": first, "speeds": slower(recipe(), 0.8)}[change]
    known = {"both/watts/processor": 165.0} if change == "watts" else {}

    def truth(build, figures):
        load = next(item for item in build.workloads if item.id == "both")
        solved = solve_cases(build, [Case(load, room)], machines, 977, figures)
        return {role: value_of(solved, role, solved.drawn(0)) - room_of(solved, 0) for role in (CORE, CHIP)}

    before, after = truth(first, {}), truth(second, known)
    held = wrong = 0
    for k in range(machines):
        a, b = (
            [Measured(role, room + float(rise[role][k]) + rng.normal(0, 0.6), 1.0) for role in (CORE, CHIP)]
            for rise in (before, after)
        )
        found = compare(
            RunSide("one", first, "both", RunRoom(room), a, {}), RunSide("two", second, "both", RunRoom(room), b, known)
        )
        core = part(found, CORE)
        true = float(after[CORE][k] - before[CORE][k]) if change == "plate" else 0.0
        held += abs(core.equal_k - true) <= core.equal_half_k
        wrong += core.conclusion == ("cooler" if change == "plate" else "warmer")
    # 90 % and 5 % within two standard deviations of so many machines
    assert held >= 0.9 * machines - 2 * np.sqrt(0.09 * machines)
    assert wrong <= 0.05 * machines + 2 * np.sqrt(0.0475 * machines)


def test_commands_by_duty_are_told_apart():
    raw = recipe()
    told = [
        w.model_copy(update={"movers": {**w.movers, "fan-a1": Command(duty=0.2)}}) if w.id == "both" else w
        for w in raw.workloads
    ]
    found = compare(side("one", raw), side("two", raw.model_copy(update={"workloads": told})))
    assert [c.what for c in found.changes] == ["speeds of fans or pumps"]


class TestEqualSound:
    """The second run's fans are turned until it is as loud as the first; checked against the model solved at that speed."""

    def test_slower_fans_alone_are_no_difference_at_equal_sound(self):
        build = recipe()
        first, second = side("loud", slower(build, 1.4)), side("quiet", slower(build, 0.9))
        found = compare(first, second, equal="sound")
        assert found.sound.factor == pytest.approx(1.4 / 0.9, rel=2e-3)
        assert found.sound.reached
        assert all(abs(p.equal_k) < 0.05 for p in found.parts)
        assert part(found, CORE).measured_k > 1.0
        assert found.sentence.startswith(
            "quiet and loud do not differ at equal watts and sound (its fans at 1.56 of the speed"
        )

    def test_a_better_plate_on_slower_fans_wins_by_what_the_plate_gives(self):
        loud, quiet = slower(with_plate(1.8), 1.4), slower(recipe(), 0.9)
        found = part(compare(side("a", loud), side("b", quiet), equal="sound"), CORE)
        alike = part(compare(side("a", loud), side("b", slower(recipe(), 1.4))), CORE)
        assert found.equal_k == pytest.approx(alike.measured_k, abs=0.1)
        assert found.conclusion == "cooler"
        assert found.correction_k == pytest.approx(found.equal_k - found.measured_k)
        assert found.equal_half_k == pytest.approx(np.hypot(found.measured_half_k, found.correction_half_k))

    def test_fans_are_turned_down_as_far_as_it_takes(self):
        found = compare(side("quiet", slower(recipe(), 0.6)), side("loud", slower(recipe(), 1.5)), equal="sound").sound
        assert found.factor == pytest.approx(0.4, rel=5e-3)

    def test_a_level_beyond_the_fans_is_told(self):
        found = compare(
            side("a", slower(recipe(), 1.8)), side("b", one_fan_off(slower(recipe(), 0.9))), equal="sound"
        ).sound
        assert not found.reached
        assert "beyond them" in found.says

    def test_equal_levels_need_no_turning(self):
        found = compare(side("a", recipe()), side("b", with_plate(1.8)), equal="sound")
        assert found.sound.factor == 1.0
        assert found.sound.says.startswith("both make")


def one_fan_off(build):
    movers = next(w for w in build.workloads if w.id == "both").movers
    return commanded_build(build, "both", {sorted(m for m in movers if m.startswith("fan"))[0]: Command(off=True)})


def test_shares_of_causes_have_bands():
    found = compare(side("a", slower(with_plate(1.8), 1.4)), side("b", slower(recipe(), 0.9)))
    assert found.confounded
    assert all(change.half_k > 0 for change in found.changes if change.kelvins is not None)
    assert " ± " in found.sentence.split("the model gives")[1]


@pytest.mark.parametrize(
    ("kelvins", "half", "minutes", "says"),
    [
        (3.0, 5.0, 12.2, "about 13 more minutes of load would tell"),
        (3.0, 5.0, 0.0, "about 3 repeats of each would tell"),
        (1.0, 1.9, 12.0, "under 2 K"),
    ],
)
def test_what_is_open_says_what_would_tell(kelvins, half, minutes, says):
    assert says in _conclusion(kelvins, half, settled=True, more_min=minutes)[1]
