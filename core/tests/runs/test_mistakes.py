"""The mistakes about runs that Krill is there to catch, one test a row, by the whole road from run files to sentences."""

import re

import numpy as np
from strategies import recipe

from krill.document.build import Command
from krill.document.reading import read_object, write_object
from krill.networks.states import Case
from krill.prediction.answer.solving import solve_cases
from krill.runs.as_run import commanded_build, value_of
from krill.runs.compare import compare
from krill.runs.held_back import NO_COOLER, held_back
from krill.runs.judging import judge, side_of
from krill.runs.ran import ran_of
from krill.runs.run_document import read_run_object
from krill.runs.settle import settle

CORE, CHIP, MEMORY, DRIVE = (
    f"{place}/temperature" for place in ("processor-core", "graphics-chip", "memory-place", "drive-place")
)
COOLANT = "loop-a/coolant_hot"
ROLES = (CORE, CHIP, MEMORY, DRIVE, COOLANT)
ROOM = {"start_c": 24, "end_c": 24}


def document(readings, **more):
    told = {"format": "krill-run", "version": 1, "name": more.pop("name", "run"), "kind": "readings"}
    return read_run_object(told | {"windows": [{"workload": "both"}], "readings": readings} | more)


def as_it_ran(build, air_c=24.0, roles=ROLES, shift=None):
    """A typed run of what the model gives of a build, in whole tenths; ``shift`` K by role on what was read."""
    load = next(item for item in build.workloads if item.id == "both")
    solved = solve_cases(build, [Case(load, air_c)], 0)
    read = {role: float(value_of(solved, role, 0)) + (shift or {}).get(role, 0.0) for role in roles}
    readings = [{"minute": 75, "role": role, "kind": "now", "value": round(value, 1)} for role, value in read.items()]
    return ran_of(document(readings, room={"start_c": air_c, "end_c": air_c}), build, None)


def held(before, after, **more):
    return compare(side_of(before), side_of(after), samples=60, **more)


def slower(build, rpm):
    movers = next(w for w in build.workloads if w.id == "both").movers
    return commanded_build(build, "both", {m: Command(speed_rpm=rpm) for m in movers if m.startswith("fan")})


def part(found, role):
    return next(p for p in found.parts if p.role == role)


def with_part(part_id, **more):
    raw = write_object(recipe())
    raw["parts"] = [part | more if part["id"] == part_id else part for part in raw["parts"]]
    return read_object(raw)


def test_a_ratio_of_celsius_figures_is_never_shown():
    """ "40 % cooler" is said of no temperature: differences are kelvins over the room."""
    found = held(as_it_ran(recipe()), as_it_ran(recipe(), shift=dict.fromkeys(ROLES, -12.0)))
    said = " ".join([found.sentence, *(p.because for p in found.parts), *(c.what for c in found.changes)])
    assert re.search(r"K (cooler|warmer)", said)
    assert "%" not in said


class TestRooms:
    def test_runs_in_other_rooms_are_brought_to_the_same_one(self):
        found = held(as_it_ran(recipe()), as_it_ran(recipe(), air_c=30.0))
        assert not any(p.conclusion in ("cooler", "warmer") for p in found.parts)
        assert all(abs(p.equal_k) < 0.7 for p in found.parts)
        assert "the room, 24.0 and 30.0 °C" in found.sentence

    def test_a_run_without_any_room_is_judged_and_says_how_poor_it_is(self):
        read = as_it_ran(recipe(), air_c=27.0).measured
        readings = [{"minute": 75, "role": m.role, "kind": "now", "value": m.value} for m in read]
        lost = judge(ran_of(document(readings), recipe(), None), 200).verdict
        assert 0.5 < lost.room.half_k < 5.0
        assert abs(lost.room.air_c - 27.0) <= lost.room.half_k
        assert not any(place.conclusion in ("hotter", "cooler") for place in lost.places)


def test_cooled_well_and_still_slow_says_what_held_it_back():
    """Ninety watts on a limit of ninety, with kelvins to spare."""
    readings = [
        {"minute": 75, "role": CORE, "kind": "now", "value": 61},
        {"minute": 75, "role": "processor/power", "kind": "mean", "value": 89},
        {"minute": 75, "role": "processor/limit", "kind": "now", "value": 90},
    ]
    ran = ran_of(document(readings, room=ROOM), recipe(), None)
    (found,) = [one for one in held_back(ran.tracks, ran.fed) if one.source == "processor"]
    assert found.by == "power limit"
    assert found.says.endswith(NO_COOLER)


def test_stopped_while_still_rising_says_so_and_how_much_longer():
    t = np.arange(0, 15 * 60, 5.0)
    rng = np.random.default_rng(3)
    found = settle(t, 70 - 12 * np.exp(-t / 30) - 18 * np.exp(-t / 900) + 0.1 * rng.standard_normal(len(t)))
    assert not found.settled
    assert found.low < 70 < found.high
    assert found.minutes_needed > 10
    assert "more minutes are needed" in found.sentence()


def test_a_figure_read_after_the_load_ended_is_no_figure_of_the_load():
    readings = [
        {"minute": 75, "role": CORE, "kind": "now", "value": 72},
        {"minute": 78, "role": CORE, "kind": "now", "value": 51, "load_on": False},
    ]
    ran = ran_of(document(readings, room=ROOM), recipe(), None)
    assert [m.value for m in ran.measured] == [72]
    assert "after the load ended" in ran.excluded[0]


class TestUnlikeFigures:
    def run(self, kind, build=None):
        readings = [{"minute": 75, "role": CORE, "kind": kind, "value": 71}]
        return ran_of(document(readings, room=ROOM), build or recipe(), None)

    def test_the_peak_of_one_is_not_held_against_the_mean_of_the_other(self):
        assert part(held(self.run("highest"), self.run("mean")), CORE).conclusion == "not counted"
        assert part(held(self.run("mean"), self.run("mean")), CORE).conclusion != "not counted"

    def test_the_hottest_core_is_not_held_against_the_average(self):
        raw = write_object(recipe())
        for owner in raw["parts"]:
            for place in owner.get("places", []):
                if place["id"] == "processor-core":
                    place["temperature_kind"] = "mean_core"
        found = part(held(self.run("now"), self.run("now", read_object(raw))), CORE)
        assert found.conclusion == "not counted"
        assert found.because == "hottest core in one, mean core in the other: unlike sensors"


def test_two_things_changed_at_once_is_called_confounded_and_both_are_listed():
    after = as_it_ran(slower(with_part("plate-processor", factor=0.6), 700.0), roles=(CORE, CHIP))
    found = held(as_it_ran(slower(with_part("plate-processor", factor=1.6), 1500.0), roles=(CORE, CHIP)), after)
    assert found.confounded
    assert [c.what for c in found.changes if c.kelvins is not None] == ["speeds of fans or pumps", "the build itself"]
    assert "More than one thing was changed" in found.sentence


def test_runs_at_unlike_noise_are_brought_to_equal_sound():
    loud, quiet = as_it_ran(slower(recipe(), 1500.0)), as_it_ran(slower(recipe(), 800.0))
    found = held(loud, quiet, equal="sound")
    assert found.sound.first_dba - found.sound.second_dba > 3.0
    assert part(found, CORE).measured_k > 1.0
    assert abs(part(found, CORE).equal_k) < 0.2
    assert part(found, CORE).conclusion not in ("cooler", "warmer")


def test_another_way_from_part_to_coolant_though_only_the_radiator_was_changed_is_flagged_and_ranks_nothing():
    shift = {CORE: 14.0}  # the mount, or another load: the coolant is as it was
    found = held(as_it_ran(recipe()), as_it_ran(recipe(), shift=shift))
    assert any(item.role == CORE for item in found.inconsistent)
    assert part(found, CORE).conclusion == "not counted"


def test_a_change_shows_all_parts_not_only_the_one_it_was_meant_for():
    found = held(as_it_ran(recipe()), as_it_ran(recipe(), shift={MEMORY: 6.0}))
    assert {p.role for p in found.parts} == set(ROLES)
    assert part(found, MEMORY).conclusion == "warmer"


def test_one_source_alone_says_nothing_of_both():
    """A load of one source is held against the forecast of that load, and beside the one of both it is called unlike."""
    told = document([{"minute": 75, "role": CORE, "value": 55.0}], room=ROOM, windows=[{"workload": "idle"}])
    idle = ran_of(told, recipe(), None)
    assert "the workload" in [c.what for c in held(as_it_ran(recipe(), roles=(CORE,)), idle).changes]
