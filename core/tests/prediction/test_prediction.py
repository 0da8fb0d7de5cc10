"""The whole model asked end to end: balances, sums, limits, monotony, bands."""

import copy

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from strategies import raw_recipe, recipe, well_known_recipe

from krill.components.figure_table import FigureTable
from krill.components.radiator import with_coolant
from krill.components.radiator_class import class_core
from krill.components.radiator_table import AIR_HEAT_CAPACITY, REFERENCE_AIR
from krill.document.reading import read_object, write_object
from krill.networks.states import Case
from krill.physics.heat_exchange import effectiveness_crossflow_exact
from krill.prediction.answer.doubt import place_samples
from krill.prediction.answer.result import Band
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import predict


def place(prediction, name, workload=0):
    return spot_of(prediction.workloads[workload], name)


def spot_of(result, name):
    return next(p for p in result.places if p.address == name)


def both(build, **asked):
    return predict(build, ["both"], samples=asked.pop("samples", 0), **asked)


@settings(max_examples=25, deadline=None)
@given(st.floats(20, 250), st.floats(20, 350), st.floats(5, 80), st.floats(10, 38))
def test_energy_closes_and_drops_add_up(processor, graphics, rest, room):
    result = both(recipe(processor, graphics, rest, room)).workloads[0]
    assert result.balance_w < 1e-6 * result.power_w
    for spot in result.places:
        assert sum(hop.drop_k for hop in spot.hops) == pytest.approx(spot.over_room_k, abs=1e-9)
        assert spot.over_room_k > 0
    for loop in result.loops:
        assert sum(element.drop_kpa for element in loop.elements) == pytest.approx(0, abs=1e-5)
    gained = sum(a.airflow_m3_h for a in result.air if a.address in ("vents", "grille"))
    assert np.isfinite(gained)


def test_heat_that_enters_leaves_by_air_and_walls():
    raw = write_object(recipe())
    raw["parts"] = [part for part in raw["parts"] if not part["id"].startswith("wall-")]
    build = read_object(raw)
    solved = solve_cases(build, [Case(build.workloads[-1], 24.0)])
    T, flow = solved.solution.temperature[0], solved.structure.air
    assert flow is not None
    carried = 0.0
    for edge, part in enumerate(flow.parts):
        if part in ("vents", "grille"):
            outlet = T[flow.active_nodes[edge]] if flow.active_nodes[edge] >= 0 else T[flow.tail_nodes[edge]]
            carried += solved.solution.streams[1][0, edge] * (outlet - 24.0) * (1 if part == "grille" else -1)
    box = T[solved.structure.zone_nodes["box"]]
    walls = solved.link_heat[0, 0]
    assert walls == pytest.approx(solved.figure("box/wall_w_k", 0) * ((box - 24.0) / 15.0) ** 0.2 * (box - 24.0))
    entered = solved.solution.power[0].sum() - solved.solution.power[0, solved.network.pattern.given].sum()
    assert carried + walls == pytest.approx(entered, rel=1e-6)


def test_more_watts_warm_everything_on_the_loop():
    cool, hot = both(recipe(80, 220, 30, 24)), both(recipe(120, 220, 30, 24))
    # the recipe keeps its size here: three sections in both
    for name in ("processor-core", "graphics-chip", "graphics-memory"):
        assert place(hot, name).temperature_c > place(cool, name).temperature_c


def test_a_warmer_room_shifts_everything_by_about_as_much():
    cool, warm = both(recipe(), room_c=20.0), both(recipe(), room_c=30.0)
    for spot in cool.workloads[0].places:
        rise = place(warm, spot.address).temperature_c - spot.temperature_c
        assert rise == pytest.approx(10.0, abs=0.8)


def test_faster_fans_cool_and_are_louder():
    raw = raw_recipe()
    for mover, command in raw["workloads"][3]["movers"].items():
        if mover.startswith("fan"):
            command["duty"] = 0.95
    slow, fast = both(recipe()), both(read_object(raw))
    assert place(fast, "processor-core").temperature_c < place(slow, "processor-core").temperature_c - 1
    levels = [{s.address: s.level_dba for s in x.workloads[0].sound.sources} for x in (slow, fast)]
    assert levels[1]["fan-a1"] - levels[0]["fan-a1"] == pytest.approx(50 * np.log10(0.95 / 0.65))
    assert fast.workloads[0].sound.total_dba > slow.workloads[0].sound.total_dba + 3


def test_the_order_of_parts_in_series_does_not_change_the_flow():
    """Without heat: warm, the order moves the loop's mean temperature, and with it the viscosity."""
    raw = raw_recipe()
    raw["workloads"][3]["watts"] = dict.fromkeys(raw["workloads"][3]["watts"], 0)
    for part in raw["parts"]:
        if part["kind"] in ("pump", "fan"):
            part["power_w"] = 0
    turned = copy.deepcopy(raw)
    turned["loops"][0]["elements"] = raw["loops"][0]["elements"][::-1]
    a, b = both(read_object(raw)).workloads[0], both(read_object(turned)).workloads[0]
    assert a.loops[0].flow_l_min == pytest.approx(b.loops[0].flow_l_min, rel=1e-9)


def test_the_order_of_parallel_branches_does_not_matter():
    def split(branches):
        raw = raw_recipe()
        raw["loops"][0]["elements"] = [
            "pump",
            "tube",
            {"parallel": branches},
            "fittings",
            "radiator-a",
            "elbows",
            "reservoir",
        ]
        return both(read_object(raw))

    a, b = split([["plate-processor"], ["plate-graphics"]]), split([["plate-graphics"], ["plate-processor"]])
    for spot in a.workloads[0].places:
        assert place(b, spot.address).temperature_c == pytest.approx(spot.temperature_c, abs=1e-6)
    assert a.workloads[0].loops[0].flow_l_min > both(recipe()).workloads[0].loops[0].flow_l_min


def test_a_batch_equals_its_singles():
    build = recipe()
    together = predict(build, samples=0)
    for index, workload in enumerate(build.workloads):
        alone = predict(build, [workload.id], samples=0)
        for spot in together.workloads[index].places:
            assert place(alone, spot.address).temperature_c == pytest.approx(spot.temperature_c, abs=2e-4)


def test_a_stopped_pump_has_no_state_and_says_why():
    raw = raw_recipe()
    raw["workloads"][0]["movers"]["pump"] = {"off": True}
    idle = predict(read_object(raw), ["idle"], samples=0).workloads[0]
    assert idle.no_state is not None
    assert "comes to boil" in idle.notices[0].text
    assert any("stands still" in notice.text for notice in idle.notices)


def test_a_fan_that_follows_a_temperature_settles():
    raw = raw_recipe()
    curve = {"sensor": "processor-core", "points": [[40, 0.3], [90, 1.0]]}
    for mover in raw["workloads"][3]["movers"]:
        if mover.startswith("fan"):
            raw["workloads"][3]["movers"][mover] = {"curve": curve}
    result = both(read_object(raw)).workloads[0]
    T = spot_of(result, "processor-core").temperature_c
    speed = next(a.speed_share for a in result.air if a.address == "fan-a1")
    assert speed == pytest.approx(np.interp(T, [40, 90], [0.3, 1.0]), abs=1e-4)


def test_radiator_coolant_and_chip_against_the_closed_form():
    """X07 and T05 through ``predict``: effectiveness, coolant hot and cold, then the layers of the chip."""
    build = recipe()
    solved = solve_cases(build, [Case(build.workloads[-1], 24.0)])
    result = both(build).workloads[0]
    row, (link,) = 0, solved.network.pattern.radiators
    water, stream = (
        float(s[row, e]) for s, e in zip(solved.solution.streams, (link.coolant_edge, link.air_edge), strict=True)
    )
    assert solved.structure.air is not None
    face = link.part.sections * 0.96 * 0.12**2
    air_in = next(a.inlet_c for a in result.air if a.address == "radiator-a")
    assert solved.solution.coolant is not None
    one = class_core(120.0, 28.0).conductance_at(np.array([stream / AIR_HEAT_CAPACITY / REFERENCE_AIR / face]))
    (state,) = solved.coolants.values()
    flow = solved.solution.coolant.mass_flow[row, link.coolant_edge] / state.density
    UA = link.part.sections * float(with_coolant(link.part, one, flow, state)[0])
    least, most = sorted((abs(water), abs(stream)))
    eps = float(effectiveness_crossflow_exact(UA / least, least / most))
    elements = {e.address: e for e in result.loops[0].elements}
    hot, cold = elements["radiator-a"].inlet_c, elements["radiator-a"].outlet_c
    heat = water * (hot - cold)
    whole = np.cbrt((eps * least) ** 3 + (3 * 0.3) ** 3)  # three sections in still air beside the stream
    assert hot == pytest.approx(air_in + heat / whole, abs=2e-4)  # X07: T_hot = T_air + P / (eps Cmin)
    spot = spot_of(result, "processor-core")
    own = [hop for hop in spot.hops if hop.kind in ("hot_core", "chip", "joint", "lid", "interface", "plate")]
    mean = (elements["plate-processor"].inlet_c + elements["plate-processor"].outlet_c) / 2
    chip = mean + sum(hop.drop_k for hop in own)  # T05: a stack of layers on the coolant
    assert spot.temperature_c == pytest.approx(chip, abs=1e-6)
    silicon = 6e-6 / 200e-6
    chip_hop = next(h for h in own if h.kind == "chip")
    assert chip_hop.drop_k == pytest.approx(chip_hop.watts * silicon, rel=1e-6)
    aside = sum(way.watts for way in spot.side_ways)  # through the socket into the board
    assert chip_hop.watts + aside == pytest.approx(125, rel=1e-6)


def test_every_figure_with_a_tolerance_is_drawn():
    build = recipe()
    table = FigureTable(build)
    uncertain = [f for f in table.figures.values() if f.tolerance.minus or f.tolerance.plus]
    drawn = table.draws(1, 20)
    assert set(drawn) == {f.address for f in uncertain}
    assert all(np.ptp(values) > 0 for values in drawn.values())
    assert sum(f.origin == "class" for f in uncertain) > 60
    assert both(build, samples=5).drawn_figures == len(uncertain)


def test_identical_class_parts_share_their_draw():
    """Most of the class's doubt they have in common, a little each has of its own (0.4 of the deviation; estimate)."""
    draws = FigureTable(recipe()).draws(1, 4000)
    alike = np.corrcoef(draws["fan-a1/flow_factor"], draws["fan-a2/flow_factor"])[0, 1]
    assert alike == pytest.approx(1 - 0.4**2, abs=0.02)
    assert abs(np.corrcoef(draws["fan-a1/flow_factor"], draws["pump/flow_factor"])[0, 1]) < 0.06
    spread = [np.std(draws[f"fan-a{n}/flow_factor"]) for n in (1, 2)]
    assert spread == pytest.approx([0.12 / 1.645] * 2, rel=0.05)  # each has the class's whole doubt


def test_ten_thousand_draws_move_the_half_width_by_less_than_seven_per_cent():
    few, many = both(recipe(), samples=1000), both(recipe(), samples=10_000)
    for spot in few.workloads[0].places:
        other = place(many, spot.address).band_c
        half = (spot.band_c.high - spot.band_c.low) / (other.high - other.low)
        assert half == pytest.approx(1.0, abs=0.07), spot["address"]


def test_the_band_holds_nine_of_ten_generated_machines():
    """200 machines with hidden figures drawn from the stated tolerances and an own model error."""
    build = recipe()
    band = {p.address: p.band_c for p in both(build, samples=1000).workloads[0].places}
    machines = solve_cases(build, [Case(build.workloads[-1], 24.0)], samples=200, seed=987)
    inside = []
    for address, ends in band.items():
        T = place_samples(machines, 0, address)
        inside.append(np.mean((ends.low <= T) & (ends.high >= T)))
    assert 0.85 <= float(np.mean(inside)) <= 0.95
    assert min(inside) >= 0.82


def test_status_words_by_the_lower_end_of_the_margin():
    from krill.prediction.answer.places import status_of

    for band, wanted, status in (
        ((3.0, 16.0), 3.0, "holds"),
        ((2.999, 16.0), 3.0, "tight"),
        ((0.8, 6.0), 3.0, "tight"),
        ((-4.0, 0.001), 3.0, "tight"),
        ((-9.0, -0.001), 3.0, "too hot"),
        ((5.0, 9.0), 5.001, "tight"),
    ):
        middle = sum(band) / 2
        assert status_of(middle, Band(low=band[0], high=band[1]), wanted)[0] == status, band
    assert status_of(3.0, None, 3.0)[0] == "holds"
    assert status_of(2.999, None, 3.0)[0] == "tight"
    assert status_of(-0.001, None, 3.0)[0] == "too hot"
    assert status_of(None, None, 3.0)[0] == "unknown"


def test_bands_are_narrower_where_figures_are_known():
    wide, narrow = both(recipe(), samples=200), both(well_known_recipe(), samples=200)
    for spot in ("processor-core", "graphics-chip"):
        a, b = place(wide, spot).band_c, place(narrow, spot).band_c
        assert b.high - b.low < 0.7 * (a.high - a.low)


def test_a_result_is_named_by_what_was_asked():
    assert both(recipe()).id == both(recipe()).id
    assert both(recipe()).id != both(recipe(), room_c=25.0).id
