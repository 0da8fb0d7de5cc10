"""Doubt reaches the bands: scatter of laws, skewed and wide figures, rooms and limits with a tolerance; bands of everything."""

import copy

import numpy as np
import pytest
from fanless import chip, fanless, hop, layer, sink
from machines import fan, machine, opening, path, sure
from strategies import raw_recipe, recipe

from krill.components.figure_table import FigureTable
from krill.components.law_doubt import law_doubts
from krill.document.reading import read_object
from krill.networks.states import Case
from krill.numerics.sampling import Tolerance, normal_draws
from krill.physics.correlation import REGISTRY
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import predict
from krill.recipes.book import RECIPES

NORMAL = normal_draws(5, "x", 20_000)


@pytest.mark.parametrize(("half", "skewed"), [(1.9, False), (2.0, False), (2.1, True), (8.0, True), (12.0, True)])
def test_figures_of_more_than_a_fifth_of_doubt_are_drawn_log_normally(half, skewed):
    """On 10: the ends of the interval stay those that are stated above, the middle is the figure, nothing gets negative."""
    values = Tolerance(half, half).deviate(10.0, NORMAL)
    low, middle, high = np.quantile(values, (0.05, 0.5, 0.95))
    assert middle == pytest.approx(10.0, rel=0.002)
    assert high == pytest.approx(10.0 + half, rel=0.01)
    assert low == pytest.approx(max(10.0 - half, 1.0), rel=0.02)
    assert values.min() > 0
    skewness = float(np.mean((values - values.mean()) ** 3) / values.std() ** 3)
    assert (skewness > 0.1) is ((skewed and half < 5) or half > 5)


def test_a_one_sided_doubt_keeps_its_middle():
    """Home-made clamp: 0.05 - 0.02 + 0.20 K/W."""
    values = Tolerance(0.02, 0.2).deviate(0.05, NORMAL)
    assert np.quantile(values, (0.05, 0.5, 0.95)) == pytest.approx([0.03, 0.05, 0.25], rel=0.02)


def test_temperatures_are_drawn_evenly_whatever_their_doubt():
    values = Tolerance(4.0, 4.0).deviate(-5.0, NORMAL)
    assert np.quantile(values, (0.05, 0.5, 0.95)) == pytest.approx([-9, -5, -1], abs=0.05)


@pytest.mark.parametrize("name", RECIPES)
def test_every_law_of_a_build_is_drawn_with_its_registered_scatter(name):
    recipe_ = RECIPES[name]
    build = recipe_.make(*recipe_.starts, 24.0, name)
    figures = FigureTable(build).figures
    found = list(law_doubts(build))
    assert found
    for address, _, law, half in found:
        assert figures[address].value == 1.0
        assert figures[address].origin == "law"
        assert figures[address].tolerance == Tolerance(half, half)
        if law:
            assert half == REGISTRY[law].scatter


def on_sink(stands):
    raw = fanless(
        20.0, [chip(120, 18), layer(230), sink(200, 150, 40, 10)], [hop("interface", "joint"), hop("body", "sink")]
    )
    part = next(p for p in raw["parts"] if p["kind"] == "sink")
    part["stands"] = stands
    part.pop("face", None)
    return raw, part["id"]


def with_factor(raw, address, value):
    build = read_object(raw)
    solved = solve_cases(build, [Case(build.workloads[0], float(raw["rooms"][0]["air_c"]))], overrides={address: value})
    return solved


@pytest.mark.parametrize(
    ("stands", "scatter"), [("upright", 0.15), ("lying_fins_up", 0.25), ("lying_fins_down", 0.25), ("on_edge", 0.40)]
)
def test_how_a_sink_stands_says_how_far_its_law_may_be_off(stands, scatter):
    raw, sink_id = on_sink(stands)
    table = FigureTable(read_object(raw))
    figure = table.figures[f"{sink_id}/law_outside"]
    assert (figure.tolerance.minus, figure.tolerance.plus) == (scatter, scatter)
    plain, more = (with_factor(raw, f"{sink_id}/law_outside", v).link_heat[0] for v in (1.0, 1.2))
    assert more.sum() == pytest.approx(plain.sum(), rel=1e-6)  # the same watts go out
    T = [float(with_factor(raw, f"{sink_id}/law_outside", v).solution.temperature[0].max()) for v in (0.8, 1.0, 1.2)]
    assert T[0] > T[1] > T[2]


def test_a_band_of_a_sink_on_edge_is_wider_than_of_one_that_stands():
    """All else certain but the law: half widths follow its scatter through the share that convection carries."""
    halves = {}
    for stands in ("upright", "on_edge"):
        raw, sink_id = on_sink(stands)
        build = read_object(raw)
        address = f"{sink_id}/law_outside"
        tolerance = FigureTable(build).figures[address].tolerance
        draws = {address: tolerance.deviate(1.0, NORMAL[:500])}
        solved = solve_cases(build, [Case(build.workloads[0], 23.0)], 500, draws=draws)
        T = solved.solution.temperature[1:, solved.structure.body_nodes[sink_id]]
        halves[stands] = float(np.ptp(np.quantile(T, (0.05, 0.95)))) / 2 / (float(np.median(T)) - 23.0)
    assert 0.03 < halves["upright"] < 0.15
    assert halves["on_edge"] > 1.5 * halves["upright"]


@pytest.mark.parametrize(
    ("part", "field"),
    [
        ({"id": "gap", "kind": "gap", "gap_mm": sure(10), "span_mm": sure(100)}, "law_loss"),
        ({"id": "gap", "kind": "obstacle", "area_cm2": sure(60), "blocked_share": sure(0.5)}, "law_loss"),
        ({"id": "gap", "kind": "duct", "length_m": sure(2), "bore_mm": sure(60)}, "law_friction"),
    ],
)
def test_losses_of_the_air_scale_with_their_law(part, field):
    raw = machine([fan("f", 40, 200), part, opening("o", 300)], [], [path("p", "out", "out", "f", "gap", "o")])
    flows = []
    for factor in (0.6, 1.0, 1.4):
        solved = with_factor(raw, f"gap/{field}", factor)
        flows.append(float(solved.solution.air.mass_flow[0, 0]))
    assert flows[0] > flows[1] > flows[2]


def test_friction_lids_and_moving_air_scale_with_their_law():
    raw = raw_recipe()
    build = read_object(raw)
    case = [Case(build.workloads[-1], 24.0)]

    def at(address, value):
        return solve_cases(build, case, overrides={address: value})

    flows = [float(at("tube/law_friction", v).solution.coolant.mass_flow[0, 0]) for v in (0.9, 1.1)]
    assert flows[0] > flows[1]
    for address, place in (("processor-core/law_lid", "processor-core"), ("memory-place/law_moving", "memory-place")):
        node = at(address, 1.0).structure.node_of[place]
        T = [float(at(address, v).solution.temperature[0, node]) for v in (0.9, 1.1)]
        assert abs(T[0] - T[1]) > 0.5, address
        assert (T[1] > T[0]) is (address.endswith("lid")), address


def bands(result):
    found = {place.address: place.band_c for place in result.places}
    found |= {f"{loop.address}/hottest": loop.highest_band_c for loop in result.loops}
    found |= {f"{zone.address}/air": zone.band_c for zone in result.zones if zone.kind == "box"}
    found |= {f"{body.address}/touch": body.hottest_band_c for body in result.bodies}
    return {key: band.high - band.low for key, band in found.items()}


def test_a_rooms_tolerance_widens_every_band():
    plain = raw_recipe()
    plain["rooms"][0]["air_c"] = 24
    doubted = copy.deepcopy(plain)
    doubted["rooms"][0]["air_c"] = {"value": 24, "plus_minus": 6, "from": "measured"}
    first, second = (bands(predict(read_object(raw), ["both"], samples=400).workloads[0]) for raw in (plain, doubted))
    for key in first:
        assert second[key] > first[key] + 0.2, key
    asked = bands(predict(read_object(doubted), ["both"], room_c=30.0, samples=400).workloads[0])
    assert asked["loop-a/hottest"] > first["loop-a/hottest"] + 0.2  # whatever room is asked for


def test_a_limit_with_a_tolerance_widens_the_band_of_its_margin():
    raw = raw_recipe()

    def margin():
        [result] = predict(read_object(raw), ["both"], samples=2000).workloads
        band = next(p for p in result.places if p.address == "processor-core").margin_band_k
        return band.high - band.low

    before = margin()
    place = next(p for part in raw["parts"] for p in part.get("places", []) if p["id"] == "processor-core")
    place["limits"] = [{"kind": "throttle", "at_c": {"value": 95, "plus_minus": 8, "from": "datasheet"}}]
    assert margin() == pytest.approx(np.hypot(before, 16), rel=0.06)


def test_every_figure_of_an_answer_has_a_band_around_it():
    [result] = predict(recipe(), ["both"], samples=400).workloads
    [loop] = result.loops
    pairs = [
        (loop.flow_l_min, loop.flow_band_l_min),
        (loop.highest_c, loop.highest_band_c),
        (result.sound.total_dba, result.sound.band_dba),
        *[(zone.temperature_c, zone.band_c) for zone in result.zones if zone.kind == "box"],
        *[(body.hottest_c, body.hottest_band_c) for body in result.bodies],
    ]
    fanless_box = RECIPES["fanless_housing"].make(38, 8, 4, 24.0, "box")
    [still] = predict(fanless_box, ["full"], samples=400).workloads
    pairs += [(pipe.share, pipe.share_band) for pipe in still.pipes]
    for value, band in pairs:
        assert band.low < value < band.high
    [bare] = predict(recipe(), ["both"], samples=0).workloads
    assert bare.loops[0].highest_band_c is None
    assert bare.sound.band_dba is None


@pytest.mark.parametrize(("ceiling", "level"), [(26.0, "warning"), (32.0, "note"), (40.0, None)])
def test_a_ceiling_is_judged_by_the_band(ceiling, level):
    raw = raw_recipe()
    next(w for w in raw["workloads"] if w["id"] == "both")["sound_ceiling_dba"] = ceiling
    [result] = predict(read_object(raw), ["both"], samples=400).workloads
    assert result.sound.band_dba.low < 32.0 < result.sound.band_dba.high
    told = [notice.level for notice in result.notices if "the ceiling of" in notice.text]
    assert told == ([] if level is None else [level])


def test_a_touched_face_holds_by_the_upper_end_of_its_band():
    """Its middle may hold while its band does not: a hand knows no middle."""
    raw, sink_id = on_sink("upright")
    part = next(p for p in raw["parts"] if p["id"] == sink_id)
    part["touched_for"] = "1_min"

    def body(watts, samples):
        raw["workloads"][0]["watts"] = {
            key: {"value": watts, "plus_minus": "30%"} for key in raw["workloads"][0]["watts"]
        }
        return predict(read_object(raw), samples=samples).workloads[0].bodies[0]

    watts = 20.0
    while body(watts, 0).hottest_c > 50.0:
        watts *= 0.97
    assert body(watts, 0).touch.says == "holds"
    doubted = body(watts, 400)
    assert doubted.hottest_c < 51.0 < doubted.hottest_band_c.high
    assert doubted.touch.says == "too hot"
