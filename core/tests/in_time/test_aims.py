"""Aims in time: every row of a batch is what a forecast of the changed document says; next changes and solve-for by them."""

from dataclasses import replace
from types import SimpleNamespace

import numpy as np
import pytest
from strategies import changed_recipe, load_of, recipe

from krill.document.addresses import watts_address
from krill.errors import DocumentRefused
from krill.in_time import aims
from krill.in_time.aims import Aim, aimable, aimed_at
from krill.in_time.bursts import LOOKED_S
from krill.in_time.forecast import forecast_in_time
from krill.in_time.run import Asked
from krill.networks.row_status import RowStatus
from krill.networks.states import duty_address
from krill.sizing.next_changes import next_changes
from krill.sizing.result import Aimed
from krill.sizing.solve_for import solve_for
from krill.sizing.steps.step import edited
from krill.sizing.words import aimed_sentence

BURST = Aim(kind="burst", of="processor")
HELD = Aim(kind="held_back", of="processor", minutes=20)
AFTER = Aim(kind="after", of="graphics-chip", minutes=12)


def limited(at_c=92, watts=240, fans=None, load=None):
    """The recipe with a burst, and a processor that gives up watts at a limit."""

    def change(raw):
        told = load_of(raw)
        told["burst"] = {"processor": {"power_w": watts, "hold_s": 28}}
        if load is not None:
            told["watts"]["processor"] = load
        place = next(part for part in raw["parts"] if part["id"] == "processor")["places"][0]
        place["limits"], place["throttles"] = [{"kind": "throttle", "at_c": at_c}], True
        for part in raw["parts"]:
            if fans is not None and part["kind"] == "fan":
                for each in raw["workloads"]:
                    each.setdefault("movers", {})[part["id"]] = {"duty": fans}

    return changed_recipe(change)


def fans_of(build):
    return [part.id for part in build.parts if part.kind == "fan"]


def in_every_load(build, draws):
    """Draws of the fans' duty, which every load of a build is told."""
    return {duty_address(fan): draws for fan in fans_of(build)}


DUTIES = np.array([0.35, 0.6, 0.9])


class TestRows:
    def test_a_temperature_after_minutes_is_that_of_the_forecast_of_each_document(self):
        found = aimed_at(limited(), "both", AFTER, 3, in_every_load(limited(), DUTIES))
        for row, duty in enumerate(DUTIES, start=1):
            told = forecast_in_time(limited(fans=duty), Asked("both", AFTER.minutes))
            curve = next(curve for curve in told.curves if curve.address == AFTER.of)
            assert found[row] == pytest.approx(curve.c[-1], abs=0.05)
        assert found[1] > found[2] > found[3]

    def test_a_burst_holds_as_long_as_the_forecast_of_each_document_says(self):
        found = aimed_at(limited(104), "both", BURST, 3, in_every_load(limited(104), DUTIES))
        for row, duty in enumerate(DUTIES, start=1):
            [told] = forecast_in_time(limited(104, fans=duty), Asked("both", 5)).bursts
            soaked = LOOKED_S if told.soaked_s is None else told.soaked_s
            assert found[row] == pytest.approx(soaked, rel=0.03, abs=1.0)
        assert found[1] < 5 < found[2] < found[3] == LOOKED_S

    def test_the_share_held_back_is_that_of_the_forecast_of_each_document(self):
        build = limited(at_c=70, load=150)
        found = aimed_at(build, "both", HELD, 3, in_every_load(build, DUTIES))
        for row, duty in enumerate(DUTIES, start=1):
            held = forecast_in_time(limited(at_c=70, load=150, fans=duty), Asked("both", HELD.minutes)).held_back
            share = 100 * held[0].share_of_time if held else 0.0
            assert found[row] == pytest.approx(share, abs=1.5)
        assert found[1] > 80

    def test_the_first_row_is_the_build_as_it_stands(self):
        build = limited()
        one = aimed_at(build, "both", AFTER)
        many = aimed_at(build, "both", AFTER, 3, in_every_load(build, DUTIES))
        assert one.shape == (1,)
        assert many[0] == pytest.approx(one[0], abs=0.05)

    def test_watts_can_be_drawn_too(self):
        build = limited()
        watts = np.array([80.0, 160.0])
        found = aimed_at(build, "both", AFTER, 2, {watts_address("both", "graphics"): watts})
        assert found[2] > found[1] + 5

    def test_a_load_over_a_cold_machine_is_cooler_than_over_a_settled_one(self):
        build = limited()
        cold, idle = (
            aimed_at(build, "both", Aim(kind="after", of="graphics-chip", minutes=2, before=before))[0]
            for before in ("cold", "idle")
        )
        assert cold < idle

    def test_a_row_that_does_not_settle_is_no_number_and_leaves_the_others(self, monkeypatch):
        real = aims.try_cases

        def spoiled(build, cases, samples=0, **more):
            solved = real(build, cases, samples, **more)
            return replace(solved, solution=replace(solved.solution, status=RowStatus(samples + 1, {2: "no"})))

        build = limited()
        whole = aimed_at(build, "both", AFTER, 3, in_every_load(build, DUTIES))
        monkeypatch.setattr(aims, "try_cases", spoiled)
        left = aimed_at(build, "both", AFTER, 3, in_every_load(build, DUTIES))
        assert np.isnan(left[2])
        assert left[[0, 1, 3]] == pytest.approx(whole[[0, 1, 3]], abs=0.05)


class TestWhatMayBeAimedAt:
    def test_it_is_what_bursts_what_is_warm_and_what_gives_up_watts(self):
        known = aimable(limited(), "both")
        assert known["burst"] == ["processor"]
        assert known["held_back"] == ["processor"]
        assert set(known["after"]) == set(limited().place_owners())
        bare = aimable(changed_recipe(lambda raw: load_of(raw).pop("burst", None)), "both")
        assert (bare["burst"], bare["held_back"]) == ([], [])

    @pytest.mark.parametrize(
        ("aim", "says"),
        [
            (Aim(kind="burst", of="graphics"), "it has no burst in this load"),
            (Aim(kind="after", of="nowhere"), "there is no such place"),
            (Aim(kind="held_back", of="graphics"), "it gives up no watts at a limit"),
            (Aim(kind="after", of="graphics-chip", minutes=0.09), "0.09; allowed: 0.1 to 1440"),
            (Aim(kind="after", of="graphics-chip", minutes=1441), "1441"),
            (Aim(kind="louder", of="graphics-chip"), "'louder'; allowed: burst, after, held_back"),
            (Aim(kind="after", of="graphics-chip", before="sleeping"), "there is no load 'sleeping'"),
        ],
    )
    def test_what_is_not_there_is_refused_by_name(self, aim, says):
        with pytest.raises(DocumentRefused, match=says):
            aimed_at(limited(), "both", aim)
        if aim.before == "idle":
            with pytest.raises(DocumentRefused, match=says):
                next_changes(limited(), "both", quick=True, aim=aim)


class TestNextChanges:
    @pytest.mark.parametrize("aim", [AFTER, BURST, Aim(kind="held_back", of="processor", minutes=10)])
    def test_each_gain_is_that_of_the_document_with_the_step_made(self, aim):
        build = limited(at_c=104 if aim.kind == "burst" else 72, load=130)
        found = next_changes(build, "both", aim=aim)
        assert found.aim.now == pytest.approx(aimed_at(build, "both", aim)[0], abs=0.5)
        assert {change.alone for change in found.changes} == {True, False}
        for change in [*found.changes[:3], *found.changes[-2:]]:
            then = aimed_at(edited(build, tuple(change.edits)), "both", aim)[0]
            assert change.gained == pytest.approx(then - found.aim.now, rel=0.03, abs=1.5)
        better = [aim.sign * change.gained for change in found.changes if not change.breaks]
        assert np.all(np.diff(better) < 1e-5)
        assert better[0] > 0

    def test_without_an_aim_nothing_is_gained_and_kelvins_rank(self):
        found = next_changes(recipe(), "both", quick=True)
        assert found.aim is None
        assert {change.gained for change in found.changes} == {None}


class TestSolveFor:
    @pytest.mark.parametrize(
        ("aim", "wanted", "close"),
        [(AFTER, 60.0, 0.15), (BURST, 60.0, 2.0), (Aim(kind="held_back", of="processor", minutes=20), 80.0, 2.0)],
    )
    def test_the_duty_found_gives_what_was_wanted(self, aim, wanted, close):
        at_c, load = {"after": (92, 125), "burst": (104, 125), "held_back": (72, 150)}[aim.kind]
        build = limited(at_c=at_c, load=load)
        found = solve_for(build, "movers/fans", aim.kind, aim.of, wanted, "both", aim=aim)
        assert found.reached
        assert found.goal_unit == aim.unit
        assert found.got == pytest.approx(wanted, abs=close)
        assert aimed_at(build, "both", aim, 1, in_every_load(build, np.array([found.value])))[1] == pytest.approx(
            wanted, abs=close
        )

    def test_out_of_reach_the_best_is_told(self):
        found = solve_for(limited(at_c=60), "movers/fans", "burst", "processor", 500, "both", aim=BURST)
        assert not found.reached
        assert found.got < 500
        assert found.because.startswith("within reach the most is")

    @pytest.mark.parametrize("wanted", [-1.0, 601.0])
    def test_a_burst_is_followed_for_ten_minutes_and_no_longer(self, wanted):
        with pytest.raises(DocumentRefused, match="0 to 600 s"):
            solve_for(limited(), "movers/fans", "burst", "processor", wanted, "both", aim=BURST)

    def test_a_goal_in_time_and_its_aim_belong_together(self):
        for goal, of, aim in (("burst", "processor", None), ("margin", "graphics-chip", BURST), ("after", "x", AFTER)):
            with pytest.raises(DocumentRefused, match="goal and aim are not the same"):
                solve_for(limited(), "movers/fans", goal, of, 10, "both", aim=aim)


class TestWords:
    def told(self, kind, now, *gained):
        aim = Aimed(
            kind=kind,
            of="p",
            name="Processor",
            minutes=30,
            before="idle",
            unit="",
            now=now,
            more_is_better=kind == "burst",
        )
        return aimed_sentence([SimpleNamespace(label=f"step {n}", gained=g) for n, g in enumerate(gained)], aim)

    def test_a_burst(self):
        assert self.told("burst", 41.4, 12.3, 0.99) == "The burst of Processor holds 41 s; step 0 +12 s."
        assert self.told("burst", 600.0, 0.0) == (
            "The burst of Processor holds for as long as was looked, 10 min; no step here changes that for the better."
        )

    def test_a_temperature_after_minutes(self):
        assert self.told("after", 71.26, -3.04, -0.5, -0.49) == (
            "Processor stands at 71.3 °C after 30 min; step 0 −3.0 K; step 1 −0.5 K."
        )
        assert "no step here" in self.told("after", 71.26, -0.49, 3.0)

    def test_watts_given_up(self):
        assert self.told("held_back", 40.2, -30.0, -1.0, -0.9) == (
            "Processor gives up watts for 40 % of 30 min; step 0 −30 % of the time; step 1 −1 % of the time."
        )
        assert self.told("held_back", 0.0).startswith("Processor never gives up watts in 30 min;")
