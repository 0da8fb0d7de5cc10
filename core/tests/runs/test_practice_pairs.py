"""Common practice P6, P7, P13 and P14 as comparisons of two runs of one machine, hidden deviations and all.

The runs are of the simulated bench, read off in whole degrees; what is asserted is the sign, the order and what is told.
"""

from strategies import recipe

from krill.document.reading import read_object, write_object
from krill.recipes.thin_box import thin_box
from krill.runs.compare import compare
from krill.runs.judging import side_of
from krill.runs.ran import ran_of
from krill.runs.run_document import read_run_object
from krill.simulated_bench.bench import BenchPlan, run_bench

CORE, CHIP, MEMORY = "processor-core/temperature", "graphics-chip/temperature", "memory-place/temperature"


def typed_run(build, name, watts=()):
    """A run of a machine as somebody notes it: settled figures in whole degrees, watts of some sources."""
    bench = run_bench(
        build, BenchPlan("both", 24.0, load_min=60, lead_in_min=0, after_min=0, step_s=20.0, seed=7, hidden_spread=0.5)
    )
    row = -3
    readings = [
        {"minute": 58, "role": role, "kind": "now", "value": round(float(bench.channels[channel][row]))}
        for channel, role in bench.roles.items()
        if role.endswith(("/temperature", "/coolant_hot"))
    ]
    readings += [{"minute": 58, "role": f"{source}/power", "kind": "mean", "value": value} for source, value in watts]
    told = {"format": "krill-run", "version": 1, "name": name, "kind": "readings", "windows": [{"workload": "both"}]}
    room = {"start_c": 24, "end_c": 24}
    return side_of(ran_of(read_run_object(told | {"readings": readings, "room": room}), build, None))


def changed(raw_change, build=None):
    raw = write_object(build or recipe())
    raw_change(raw)
    return read_object(raw)


def found_of(found, role):
    return next(part for part in found.parts if part.role == role)


class TestHalfAsManyWattsAgain:
    """P6: processor 70 to 105 W on a shared loop."""

    def found(self):
        less, more = (changed(lambda raw, w=w: set_watts(raw, "processor", w)) for w in (70.0, 105.0))
        first = typed_run(less, "less", [("processor", 70.0)])
        return compare(first, typed_run(more, "more", [("processor", 105.0)]), samples=60)

    def test_everything_on_the_loop_gets_warmer_and_at_equal_watts_nothing_did(self):
        found = self.found()
        for role in (CORE, CHIP, "loop-a/coolant_hot"):
            assert found_of(found, role).measured_k > 0
        assert all(abs(part.equal_k) <= max(part.equal_half_k, 1.0) for part in found.parts)
        assert "watts of Processor" in [change.what for change in found.changes]


def set_watts(raw, source, watts):
    for workload in raw["workloads"]:
        if workload["id"] == "both":
            workload["watts"][source] = watts


class TestVeryFastFans:
    """P7: a few kelvins cooler, much louder; at equal sound that is gone."""

    def runs(self):
        def faster(raw):
            for part in raw["parts"]:
                if part["kind"] == "fan" and part["id"].startswith("fan-a"):
                    part["class"] = "fan_120x25_very_fast"

        return typed_run(recipe(), "ordinary fans"), typed_run(changed(faster), "very fast fans")

    def test_cooler_and_much_louder_and_at_equal_sound_they_win_nothing(self):
        found = compare(*self.runs(), samples=60, equal="sound")
        assert -8 <= found_of(found, CORE).measured_k <= -1
        assert found.sound.second_dba - found.sound.first_dba > 10
        part = found_of(found, CORE)
        assert part.equal_k > part.measured_k + 1.0
        assert part.conclusion != "cooler"


def test_a_strong_extra_intake_cools_memory_and_the_chip_no_more():
    """P7: in a box whose radiators blow out; memory stands in the air itself."""

    def extra(raw):
        raw["parts"].append({"id": "extra", "kind": "fan", "class": "fan_120x25_very_fast"})
        raw["air_paths"].append({"id": "air-extra", "from_zone": "outside", "to_zone": "box", "elements": ["extra"]})

    found = compare(typed_run(recipe(), "without"), typed_run(changed(extra), "with"), samples=60)
    assert -6 <= found_of(found, MEMORY).measured_k <= found_of(found, CHIP).measured_k <= -2
    assert "the build itself" in [change.what for change in found.changes]


def test_slim_top_fans_turned_round_move_all_by_a_few_kelvins_either_way():
    """P13: every part is shown, none by more than 8 K, and what was changed is told."""

    def top(raw, turned):
        raw["parts"] += [{"id": f"top-{n}", "kind": "fan", "class": "fan_120x15"} for n in (1, 2)]
        raw["parts"].append({"id": "top-grille", "kind": "opening", "class": "opening_dense", "area_cm2": 280})
        fans = {"parallel": [["top-1"], ["top-2"]]}
        zones = ("outside", "box") if turned else ("box", "outside")
        elements = ["top-grille", fans] if turned else [fans, "top-grille"]
        raw["air_paths"].append({"id": "air-top", "from_zone": zones[0], "to_zone": zones[1], "elements": elements})
        for workload in raw["workloads"]:
            workload["movers"] |= {"top-1": {"duty": 0.7}, "top-2": {"duty": 0.7}}

    intake, exhaust = (changed(lambda raw, t=t: top(raw, t)) for t in (True, False))
    found = compare(typed_run(intake, "intake"), typed_run(exhaust, "exhaust"), samples=60)
    assert len(found.parts) >= 8
    assert max(abs(part.measured_k) for part in found.parts) <= 8
    assert not found.confounded


def test_longer_feet_under_a_card_over_a_cut_out_cool_it():
    """P14: the card breathes through the gap under short feet."""

    def feet(raw, gap_mm):
        raw["parts"].append({"id": "feet", "kind": "gap", "gap_mm": gap_mm, "span_mm": 110, "area_cm2": 150})
        next(path for path in raw["air_paths"] if path["id"] == "air-cut-out")["elements"].insert(0, "feet")

    box = thin_box(20, 115, 12, 23)
    short, long = (changed(lambda raw, g=g: feet(raw, g), box) for g in (4, 20))
    found = compare(typed_run(short, "short feet"), typed_run(long, "long feet"), samples=60)
    assert found_of(found, CHIP).measured_k < 0
    assert found_of(found, CHIP).predicted_k < 0
