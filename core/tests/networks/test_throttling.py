"""Throttling as a law: held at the limit or at all of its watts, one of the two exactly; against bisection."""

import copy

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from machines import box, machine, source, sure
from scipy.optimize import brentq, root

from krill.document.reading import read_object, write_object
from krill.prediction.predict import predict
from krill.recipes.book import RECIPES
from krill.sizing.next_changes import next_changes
from krill.sizing.solve_for import solve_for


def throttled(raw, *places, at_c=None):
    """The document with places told to throttle, at limits of their own where given."""
    raw = copy.deepcopy(raw)
    for part in raw["parts"]:
        for place in part.get("places", []):
            if place["id"] in places:
                place["throttles"] = True
                if at_c is not None:
                    place["limits"] = [{"kind": "throttle", "at_c": at_c}]
    return raw


def answer(raw, workload=None, samples=0):
    [result] = predict(read_object(raw), workload and [workload], samples=samples).workloads
    return result, {place.address: place for place in result.places}


def one_in_air(watts, limit_c, room_c=25.0):
    """A chip at 0.5 K/W over the room."""
    raw = machine([], [], [], sources=[source("chip", "out")], watts={"chip": watts}, room_c=room_c)
    return throttled(raw, "chip-place", at_c=limit_c)


@pytest.mark.parametrize(("watts", "lost"), [(99.9, 0.0), (100.1, 0.1), (150.0, 50.0), (1000.0, 900.0)])
def test_one_chip_in_air_by_hand(watts, lost):
    """Limit 75, room 25, 0.5 K/W: 100 W and no more."""
    _, places = answer(one_in_air(watts, 75.0))
    chip = places["chip-place"]
    assert chip.temperature_c == pytest.approx(min(25 + 0.5 * watts, 75.0), abs=1e-3)
    assert chip.watts == pytest.approx(watts - lost, rel=1e-4)
    if lost:
        assert chip.status == "throttled"
        assert chip.throttled.lost_w == pytest.approx(lost, rel=0.01)
        assert chip.throttled.full_w == watts
        assert chip.because == f"held at 75 °C, loses {lost:.0f} of {watts:.0f} W"
        assert chip.margin_k == pytest.approx(0.0, abs=1e-3)
    else:
        assert chip.throttled is None
        assert chip.status == "tight"


def test_a_place_that_may_not_throttle_takes_all_its_watts():
    raw = one_in_air(150.0, 75.0)
    raw["parts"][0]["places"][0]["throttles"] = False
    _, places = answer(raw)
    assert places["chip-place"].temperature_c == pytest.approx(100.0, abs=1e-3)
    assert places["chip-place"].status == "too hot"
    other = one_in_air(150.0, 75.0)
    other["parts"][0]["places"][0]["limits"] = [{"kind": "own", "at_c": 75.0}]  # nothing says where it throttles
    assert answer(other)[1]["chip-place"].temperature_c == pytest.approx(100.0, abs=1e-3)


def test_a_room_over_the_limit_leaves_it_without_watts_and_too_hot():
    _, places = answer(one_in_air(50.0, 30.0, room_c=40.0))
    assert places["chip-place"].watts == pytest.approx(0.0, abs=1e-9)
    assert places["chip-place"].temperature_c == pytest.approx(40.0, abs=1e-3)
    assert places["chip-place"].status == "too hot"


@pytest.fixture(scope="module")
def water():
    return write_object(RECIPES["water_loop"].make(125, 220, 30, 24.0, "loop"))


def at_watts(raw, **watts):
    raw = copy.deepcopy(raw)
    workload = next(w for w in raw["workloads"] if w["id"] == "both")
    workload["watts"] |= watts
    for mover, told in workload["movers"].items():
        if "curve" in told:
            workload["movers"][mover] = {"duty": 0.6}
    return raw


@pytest.mark.parametrize("limit_c", [45.0, 55.0, 65.0, 72.0])
def test_against_a_bisection_on_the_whole_machine(water, limit_c):
    """What the law leaves is what, given as all watts, just meets the limit: supply loss, coolant and box included."""
    free = at_watts(water)

    def over(watts):
        return answer(at_watts(water, processor=watts), "both")[1]["processor-core"].temperature_c - limit_c

    watts = brentq(over, 1.0, 125.0, xtol=1e-4)
    result, places = answer(throttled(free, "processor-core", at_c=limit_c), "both")
    chip = places["processor-core"]
    assert chip.watts == pytest.approx(watts, rel=2e-4)
    assert chip.temperature_c == pytest.approx(limit_c, abs=2e-3)
    assert result.balance_w < 1e-6 * result.power_w
    given_less, _ = answer(at_watts(water, processor=watts), "both")
    assert result.power_w == pytest.approx(given_less.power_w, rel=1e-4)


def test_two_that_throttle_on_one_loop_by_scipys_root(water):
    limits = {"processor-core": 60.0, "graphics-chip": 52.0}
    free = at_watts(water)

    def over(watts):
        _, places = answer(at_watts(water, processor=float(watts[0]), graphics=float(watts[1])), "both")
        return [places[place].temperature_c - limit for place, limit in limits.items()]

    found = root(over, [80.0, 150.0], tol=1e-6).x
    raw = throttled(throttled(free, "processor-core", at_c=60.0), "graphics-chip", at_c=52.0)
    _, places = answer(raw, "both")
    assert places["processor-core"].throttled.full_w - places["processor-core"].throttled.lost_w == pytest.approx(
        found[0], rel=5e-4
    )
    assert places["graphics-chip"].throttled.full_w - places["graphics-chip"].throttled.lost_w == pytest.approx(
        found[1], rel=5e-4
    )


def test_the_hotter_of_two_places_of_a_card_holds_all_of_it(water):
    raw = throttled(at_watts(water), "graphics-chip", at_c=60.0)
    raw = throttled(raw, "graphics-memory", at_c=50.0)
    _, places = answer(raw, "both")
    assert places["graphics-memory"].status == "throttled"
    assert places["graphics-memory"].temperature_c == pytest.approx(50.0, abs=2e-3)
    assert places["graphics-chip"].temperature_c < 60.0
    assert places["graphics-chip"].throttled is None
    shares = [places[p].watts for p in ("graphics-chip", "graphics-memory")]
    assert shares[0] / shares[1] == pytest.approx(0.73 / 0.12, rel=1e-6)  # one board, one share


@settings(max_examples=15, deadline=None)
@given(st.sampled_from(sorted(RECIPES)), st.floats(0.3, 1.0), st.floats(35.0, 90.0), st.data())
def test_complementarity_on_every_machine(name, size, limit_c, data):
    recipe = RECIPES[name]
    raw = write_object(recipe.make(*(size * watts for watts in recipe.starts), 22.0, name))
    places = [p["id"] for part in raw["parts"] for p in part.get("places", []) if part["kind"] == "source"]
    chosen = data.draw(st.lists(st.sampled_from(places), min_size=1, max_size=2, unique=True))
    workload = raw["workloads"][0 if name in ("fanless_housing", "ducted_sink") else -1]["id"]
    raw = throttled(raw, *chosen, at_c=limit_c)
    result, found = answer(raw, workload)
    full = {k: v["value"] for k, v in next(w for w in raw["workloads"] if w["id"] == workload)["watts"].items()}
    for address in chosen:
        place = found[address]
        assert place.temperature_c <= limit_c + 0.01 or place.watts == pytest.approx(0.0, abs=1e-6)  # others warm it
        if place.temperature_c < limit_c - 0.02 and not any(found[c].throttled for c in chosen):
            total = sum(p.watts for p in result.places if p.source == place.source)
            assert total <= full[place.source] * (1 + 1e-9)
        if place.throttled:
            assert 0 < place.throttled.lost_w <= place.throttled.full_w


def test_the_clock_goes_with_the_watts_by_the_class(water):
    raw = throttled(at_watts(water), "processor-core", at_c=60.0)
    _, places = answer(raw, "both")
    lost = places["processor-core"].throttled
    assert lost.clock_share == pytest.approx(
        (1 - lost.lost_w / lost.full_w) ** 0.25
    )  # 95-125 W class (value from memory)
    next(p for p in raw["parts"] if p["id"] == "processor")["places"][0]["clock_exponent"] = sure(0.5)
    _, places = answer(raw, "both")
    assert places["processor-core"].throttled.clock_share == pytest.approx((1 - lost.lost_w / lost.full_w) ** 0.5)
    assert answer(one_in_air(150.0, 75.0))[1]["chip-place"].throttled.clock_share is None


def test_its_band_ends_at_its_limit(water):
    raw = throttled(at_watts(water), "processor-core", at_c=76.0)
    _, places = answer(raw, "both", samples=200)
    assert places["processor-core"].band_c.high <= 76.0 + 1e-3
    assert places["processor-core"].band_c.low < 76.0 - 2


def test_sizing_asks_for_all_of_the_watts(water):
    """A machine is sized for what it is told to carry: questions answer as if nothing throttled."""
    free, held = at_watts(water), throttled(at_watts(water), "processor-core", at_c=60.0)
    plain = throttled(free, "processor-core", at_c=60.0)
    for part in plain["parts"]:
        for place in part.get("places", []):
            place.pop("throttles", None)
    builds = [read_object(raw) for raw in (plain, held)]
    won = [[c.won_k for c in next_changes(build, "both", "processor-core").changes] for build in builds]
    assert won[0] == pytest.approx(won[1], abs=1e-6)
    found = [solve_for(build, "both/watts/processor", "margin", "processor-core", 0.0, "both") for build in builds]
    assert found[0].value == pytest.approx(found[1].value, rel=1e-6)
    assert np.isfinite(found[0].value)


def test_a_fan_that_follows_the_temperature_and_a_limit_settle_together(water):
    raw = copy.deepcopy(water)
    workload = next(w for w in raw["workloads"] if w["id"] == "both")
    curve = {"curve": {"sensor": "processor-core", "points": [[40, 0.3], [60, 0.6], [90, 1.0]]}}
    workload["movers"] |= {mover: curve for mover in workload["movers"] if mover.startswith("fan")}
    _, places = answer(throttled(raw, "processor-core", at_c=62.0), "both")
    assert places["processor-core"].temperature_c <= 62.0 + 2e-3


def test_a_box_that_warms_others_is_counted(water):
    """What one source gives up cools its neighbours in the same air: memory of one box, two sources."""
    raw = machine([], [box("box", 2.0)], [], sources=[source("a", "box"), source("b", "box")], watts={"a": 60, "b": 30})
    _, before = answer(raw)
    _, after = answer(throttled(raw, "a-place", at_c=60.0))
    assert after["a-place"].temperature_c == pytest.approx(60.0, abs=1e-3)
    assert after["b-place"].temperature_c < before["b-place"].temperature_c - 5
