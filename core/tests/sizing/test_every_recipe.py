"""Every question of sizing put to every recipe: each answer is what a fresh prediction of the changed document says."""

import numpy as np
import pytest
from asking import asked, axis

from krill.components.figure_table import FigureTable
from krill.document.parts import Fan
from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.recipes.book import RECIPES
from krill.sizing.candidates import Study
from krill.sizing.fan_curve import fan_curve
from krill.sizing.holds import watts_it_holds
from krill.sizing.map_of import map_of
from krill.sizing.measure_first import measure_first
from krill.sizing.next_changes import next_changes
from krill.sizing.outcome import outcome
from krill.sizing.result import Edit
from krill.sizing.solve_for import solve_for
from krill.sizing.steps.step import edited
from krill.sizing.varied import varied

ROOM_C = 26.0


def made(name):
    recipe = RECIPES[name]
    return recipe.make(*recipe.starts, ROOM_C, name)


def hardest(build):
    return build.brief.worst_workloads[0] if build.brief.worst_workloads else build.workloads[-1].id


def fresh(build, workload):
    found = predict(build, [workload], samples=0).workloads[0]
    return found, {place.address: place for place in found.places}


def with_value(build, address, value, workload):
    return edited(build, varied(build, FigureTable(build), address).edits(value, [workload]))


@pytest.fixture(params=list(RECIPES))
def build(request):
    return made(request.param)


def test_every_next_change_is_what_a_fresh_prediction_says(build):
    """0.05 K on the part in view and on all others, 0.05 dB on the sound; changes of kind too."""
    workload = hardest(build)
    now, before = fresh(build, workload)
    found = next_changes(build, workload)
    assert len(found.changes) >= 5
    order = [(bool(c.breaks), -round(c.won_k, 5)) for c in found.changes]
    assert order == sorted(order)
    for change in found.changes:
        changed, after = fresh(edited(build, tuple(change.edits)), workload)
        won = {place: before[place].temperature_c - after[place].temperature_c for place in before if place in after}
        assert change.won_k == pytest.approx(won[found.place], abs=0.05), change["label"]
        broken = [p.name for p in after.values() if p.limit_c is not None and _breaks(before.get(p.address), p)]
        assert sorted(change.breaks) == sorted(broken), change.label
        louder = changed.sound.total_dba - now.sound.total_dba
        assert change.louder_db == pytest.approx(louder, abs=0.05), change["label"]
        told = {other.address: other.won_k for other in change.others}
        for place, kelvins in won.items():
            if place in told:
                assert told[place] == pytest.approx(kelvins, abs=0.05), (change["label"], place)
            elif place != found.place:
                assert abs(kelvins) < 0.15, (change["label"], place)


def _breaks(before, after):
    """Whether a place passes its limit that it kept before."""
    return before is not None and before.temperature_c <= after.limit_c < after.temperature_c


@pytest.mark.slow
def test_any_figure_solved_for_a_margin_gives_it(build):
    """Every figure of the build in turn: what is reached holds in a document with the value in it."""
    workload = hardest(build)
    _, before = fresh(build, workload)
    place = min((p for p in before.values() if p.margin_k is not None), key=lambda p: p.margin_k)
    figures = FigureTable(build).figures.items()
    addresses = [a for a, f in figures if f.quantity.varies and "/watts/" not in a and "/at_c/" not in a]
    reached = 0
    for address in np.random.default_rng(len(addresses)).permutation(addresses)[:25]:
        found = solve_for(build, address, "margin", place.address, place.margin_k + 0.8, workload)
        if not found.reached:
            assert found.because, address
            continue
        reached += 1
        _, after = fresh(with_value(build, address, found.value, workload), workload)
        assert after[place.address].margin_k == pytest.approx(found.got, abs=0.05), address
        assert found.got == pytest.approx(found.wanted, abs=0.1), address
    assert reached


def test_what_to_measure_first_adds_up_to_the_band(build):
    found = measure_first(build, hardest(build))
    squares = found.model_k**2 + sum(item.half_k**2 for item in found.contributions)
    assert squares**0.5 == pytest.approx(found.half_width_k, rel=0.02)
    drawn = predict(build, [found.workload], samples=400).workloads[0]
    band = next(place.band_c for place in drawn.places if place.address == found.place)
    assert (band.high - band.low) / 2 == pytest.approx(found.half_width_k, rel=0.15)
    assert all(item.half_k >= 0 for item in found.contributions)


def test_watts_that_are_held_leave_just_the_margin_wanted(build):
    """At the watts told the bound that is named is just met, all others that counted are kept; a tenth more and one is not."""
    workload = hardest(build)
    wanted = float(build.brief.margin_wanted_k)
    for item in watts_it_holds(build, [ROOM_C], [workload]).held:
        if item.watts is None or item.watts <= 0:
            continue
        for watts, holds in ((item.watts, True), (1.1 * item.watts, False)):
            changed = with_value(build, f"{workload}/watts/{item.source}", watts, workload)
            result, places = fresh(changed, workload)
            named = {p.name: p.margin_k - wanted for p in places.values() if p.margin_k is not None}
            named |= {f"coolant of {loop.name}": 60.0 - loop.highest_c for loop in result.loops}
            named |= {
                f"limit of {pipe.name}": (pipe.limit_w - pipe.busiest_w) * pipe.count / 1.25 for pipe in result.pipes
            }
            named |= {f"touch of {b.name}": b.touch.limit_c - b.hottest_c for b in result.bodies if b.touch is not None}
            counted = [left for name, left in named.items() if name not in item.held_out]
            supply_over = any("are asked of a supply" in notice.text for notice in result.notices)
            if item.first_name.startswith("rating of "):
                assert supply_over is not holds or abs(min(counted)) < 0.25, item.name
            elif holds:
                assert named[item.first_name] == pytest.approx(0.0, abs=0.25), item.name
                assert min(counted) > -0.25, item.name
            else:
                assert min(counted) < 0, item.name


def fans_told(build, workload):
    told = next(w for w in build.workloads if w.id == workload).movers
    return [part.id for part in build.parts if isinstance(part, Fan) and part.id in told and not told[part.id].off]


def test_a_map_over_speed_and_watts_is_made_of_fresh_predictions(build):
    workload = hardest(build)
    first, second = list(next(w for w in build.workloads if w.id == workload).watts)[:2]
    speeds = (
        axis("movers/fans", 0.5, 0.75, 1.0)
        if fans_told(build, workload)
        else axis(f"{workload}/watts/{second}", 1, 2, 3)
    )
    found = map_of(build, asked([speeds, axis(f"{workload}/watts/{first}", 20, 40, 60)]))
    rng = np.random.default_rng(7)
    for _ in range(4):
        i, j = (int(n) for n in rng.integers(0, 3, 2))
        document = build
        for number, option in ((0, i), (1, j)):
            address, value = found.axes[number].address, found.axes[number].values[option]
            document = with_value(document, address, value, workload)
        _, places = fresh(document, workload)
        least = min(p.margin_k for p in places.values() if p.margin_k is not None)
        assert found.margin_k[i][j] == pytest.approx(least, abs=0.05)


@pytest.mark.parametrize("name", ["water_loop", "outside_radiator", "thin_box", "ducted_sink"])
def test_a_fan_curve_typed_into_the_workload_settles_and_keeps_to_its_promise(name):
    build = made(name)
    workload = hardest(build)
    _, places = fresh(build, workload)
    sensor = max(places, key=lambda place: places[place].temperature_c)
    found = fan_curve(build, workload, sensor, "fans")
    points = [[point.at_c, point.duty] for point in found.points]
    assert points == sorted(points)
    told = {"curve": {"sensor": sensor, "points": points}}
    document = build
    for fan in fans_told(build, workload):
        document = edited(document, (Edit(target=workload, field=f"movers/{fan}", value=told),))
    result, after = fresh(document, workload)
    full = next(check for check in found.checks if check.load == pytest.approx(1.0))
    least = min(p.margin_k for p in after.values() if p.margin_k is not None)
    assert least == pytest.approx(full.margin_k, abs=0.3)
    assert result.sound.total_dba == pytest.approx(full.level_dba, abs=0.3)


def room_of(build):
    return f"{build.rooms[0].id}/air_c"


def test_the_hottest_room_it_holds_in_is_solved_for(build):
    """At the room found the margin is the one wanted, and a kelvin more costs nearly a kelvin."""
    workload = hardest(build)
    _, before = fresh(build, workload)
    place = min((p for p in before.values() if p.margin_k is not None), key=lambda p: p.margin_k).address
    found = solve_for(build, room_of(build), "margin", place, 3.0, workload)
    if not found.reached:
        _, hottest = fresh(with_value(build, room_of(build), found.value, workload), workload)
        assert found.value == pytest.approx(60.0)
        assert hottest[place].margin_k > 3.0
        return
    assert found.now == ROOM_C
    assert found.unit == "°C"
    _, after = fresh(with_value(build, room_of(build), found.value, workload), workload)
    assert after[place].margin_k == pytest.approx(3.0, abs=0.05)
    _, warmer = fresh(with_value(build, room_of(build), found.value + 1.0, workload), workload)
    assert 1.3 > after[place].margin_k - warmer[place].margin_k > 0.6


def test_the_room_may_vary_like_any_figure(build):
    workload = hardest(build)
    first = next(iter(next(w for w in build.workloads if w.id == workload).watts))
    vary = [axis(room_of(build), 18, 30), axis(f"{workload}/watts/{first}", 20, 60)]
    study = Study(build, asked(vary, demands={"margins": [{"workload": workload, "at_least_k": 3}]}))
    result = outcome(study, [study.solve(chunk) for chunk in study.chunks()])
    for number in range(4):
        _, places = fresh(study.document(number), workload)
        least = min(p.margin_k for p in places.values() if p.margin_k is not None)
        assert result.columns["margin_k"][number] == pytest.approx(least, abs=0.05)
    with pytest.raises(DocumentRefused, match="the room varies already"):
        Study(build, asked(vary, room_c=24))
