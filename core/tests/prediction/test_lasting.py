"""No lasting state: a machine that would boil, freeze or melt has no figure, and says why; both sides of each bound."""

import pytest
from machines import box, fan, loop_parts, machine, on_plate, path, source, sure

from krill.document.reading import read_object, write_object
from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.prediction.questions.comparison import compare
from krill.prediction.questions.stopped import stopped
from krill.recipes.book import RECIPES
from krill.sizing.measure_first import measure_first
from krill.sizing.next_changes import next_changes


def loop_at(room_c, watts=0.0, fluid="water", share=0.0):
    """A loop with a radiator in the room; without watts it stands at the room's temperature."""
    raw = machine(
        [*loop_parts(), fan("f", 30, 200)],
        [],
        [path("p", "out", "out", "f", "radiator-0")],
        loops=[
            {
                "id": "loop",
                "name": "The loop",
                "coolant": {"fluid": fluid, "mass_share": share},
                "elements": ["pump-0", "plate-0", "radiator-0", "tube", "tank"],
            }
        ],
        sources=[on_plate("chip", "plate-0")],
        watts={"chip": watts},
        room_c=room_c,
    )
    for part in raw["parts"]:
        if part["kind"] == "pump":
            part["power_w"] = sure(0)
    return raw


def state_of(raw):
    [result] = predict(read_object(raw), samples=0).workloads
    return result.no_state, result


@pytest.mark.parametrize(
    ("fluid", "share", "room_c", "frozen"),
    [
        ("water", 0.0, 0.1, False),
        ("water", 0.0, -0.1, True),
        ("propylene_glycol", 0.1, -2.5, False),
        ("propylene_glycol", 0.1, -9.0, True),  # it "held" before
        ("ethylene_glycol", 0.3, -12.0, False),
        ("ethylene_glycol", 0.3, -18.0, True),
    ],
)
def test_coolant_below_its_freezing_point_is_no_state(fluid, share, room_c, frozen):
    none, result = state_of(loop_at(room_c, fluid=fluid, share=share))
    assert (none is not None) is frozen
    if frozen:
        assert (none.address, none.what) == ("loop", "no lasting state: the coolant of The loop freezes")
        assert not result.places
        assert not result.loops
        assert not result.nodes
        assert result.tightest is None
        assert result.notices[0].text == "No lasting state: the coolant of The loop freezes."
        assert result.notices[0].level == "warning"


def hottest(watts):
    raw = loop_at(25.0, watts)
    none, result = state_of(raw)
    return none, None if none else max(loop.highest_c for loop in result.loops)


def test_coolant_over_95_degrees_is_no_state():
    """Both sides, found by halving the watts between."""
    low, high = 100.0, 3000.0
    for _ in range(40):
        middle = (low + high) / 2
        none, _ = hottest(middle)
        low, high = (low, middle) if none else (middle, high)
    none, warmest = hottest(low)
    assert warmest == pytest.approx(95.0, abs=0.01)
    none, _ = hottest(high)
    assert none.what == "no lasting state: the coolant of The loop comes to boil"


@pytest.mark.parametrize(("over", "melts"), [(-0.1, False), (0.1, True)])
def test_metal_over_300_degrees_is_no_state(over, melts):
    raw = machine([], [box("box", 1.0)], [], sources=[source("chip", "box")], watts={"chip": 0.0})
    raw["zones"] = [{"id": "out", "kind": "outside", "room": "room"}]
    raw["routes"][0]["hops"][0]["zone"] = "out"
    raw["workloads"][0]["watts"]["chip"] = sure((300 + over - 25) / 0.5)
    none, _ = state_of(raw)
    assert (none is not None) is melts
    if melts:
        assert (none.address, none.what) == ("chip-place", "no lasting state: chip-place passes 300 °C")


@pytest.mark.parametrize(("room_c", "frozen"), [(5.2, False), (4.8, True)])
def test_vapour_below_5_degrees_is_no_state(room_c, frozen):
    """Pipes that carry nothing stand at the room's temperature."""
    raw = write_object(RECIPES["fanless_housing"].make(38, 8, 4, 24.0, "box"))
    for workload in raw["workloads"]:
        workload["watts"] = dict.fromkeys(workload["watts"], 0)
    raw["rooms"][0]["air_c"] = room_c
    none = predict(read_object(raw), samples=0).workloads[0].no_state
    assert (none is not None) is frozen
    assert none is None or none.what.startswith("no lasting state: the water in ")


def pumps_off():
    build = RECIPES["water_loop"].make(125, 220, 30, 24.0, "box")
    workload = build.workloads[-1]
    workload.movers["pump"] = workload.movers["pump"].model_copy(update={"duty": None, "off": True})
    return build, workload.id


def test_a_stopped_pump_has_no_figure_in_the_table_of_what_is_off():
    """It printed 159 085 °C."""
    build = RECIPES["water_loop"].make(125, 220, 30, 24.0, "box")
    table = {case.address: case for case in stopped(build, "both").cases}
    assert "comes to boil" in table["pump"].no_state.what
    assert not table["pump"].places
    assert table["pump"].coolant_c is None
    assert table["fan-a1"].no_state is None
    assert table["fan-a1"].places


def test_questions_that_need_figures_refuse_and_say_why():
    build, workload = pumps_off()
    sound = RECIPES["water_loop"].make(125, 220, 30, 24.0, "box")
    for ask in (lambda: measure_first(build, workload), lambda: compare(sound, build, workload, samples=0)):
        with pytest.raises(DocumentRefused, match="no lasting state"):
            ask()
    found = next_changes(build, workload)
    assert not found.changes
    assert found.sentence.startswith("No lasting state: the coolant of ")


def test_other_workloads_keep_their_figures():
    build, workload = pumps_off()
    results = {result.workload: result for result in predict(build, samples=0).workloads}
    assert results[workload].no_state is not None
    assert results["idle"].no_state is None
    assert results["idle"].places
    assert results[workload].power_w > 300


def test_draws_that_boil_do_not_take_the_answer_along():
    """Near the bound some of the samples lie beyond it; the central figures stand."""
    raw = loop_at(25.0, 1900.0)
    while state_of(raw)[0] is not None:
        raw["workloads"][0]["watts"]["chip"]["value"] *= 0.97
    [result] = predict(read_object(raw), samples=50).workloads
    assert result.no_state is None
    assert result.places[0].band_c is not None
