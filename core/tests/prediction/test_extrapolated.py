"""A band is wider where a law is used outside the range it was made for."""

import numpy as np
import pytest
from fanless import chip, fanless, hop, layer, sink
from machines import sure
from strategies import raw_recipe

from krill.document.reading import read_object, write_object
from krill.prediction.answer.bodies import body_ways
from krill.prediction.answer.doubt import EXTRAPOLATED_SHARE, model_share
from krill.prediction.answer.extrapolated import beyond, extrapolated_k
from krill.prediction.answer.model_error import share_of_rise
from krill.prediction.answer.solving import solve_cases
from krill.prediction.predict import cases_of, predict
from krill.recipes.thin_box import thin_box


def solved_of(raw, workload):
    build = read_object(raw)
    return solve_cases(build, cases_of(build, [workload], None), 0)


def route_to(solved, place):
    return next(route for route in solved.structure.routes if route.place.id == place)


@pytest.mark.parametrize(("value", "outside"), [(0.29, True), (0.3, False), (6.0, False), (6.01, True)])
def test_a_range_holds_its_ends(value, outside):
    assert beyond(value, (0.3, 6.0)) is outside


def loop_with_pump_at(duty):
    raw = raw_recipe()
    both = next(w for w in raw["workloads"] if w["id"] == "both")
    both["movers"]["pump"] = {"duty": duty}
    return raw


def test_a_plate_that_hardly_flows_is_doubted_by_the_kelvins_over_it():
    slow = solved_of(loop_with_pump_at(0.08), "both")
    loop = predict(read_object(loop_with_pump_at(0.08)), ["both"], samples=0).workloads[0].loops[0]
    plates = {e.address: e.flow_l_min for e in loop.elements if e.address.startswith("plate")}
    assert 0.0 < plates["plate-processor"] < 0.3
    route = route_to(slow, "processor-core")
    plate = next(layer for layer in route.layers if layer.kind == "plate")
    T = slow.solution.temperature[0]
    assert extrapolated_k(slow, 0, route) == pytest.approx(T[plate.inner] - T[plate.outer])
    rise = T[slow.structure.node_of["processor-core"]] - 24.0
    plain = share_of_rise(slow.table, route, T, 24.0)
    wider = EXTRAPOLATED_SHARE * (T[plate.inner] - T[plate.outer]) / rise
    assert model_share(slow, 0, "processor-core") == pytest.approx(np.hypot(plain, wider), rel=1e-6)
    assert extrapolated_k(solved_of(loop_with_pump_at(0.8), "both"), 0, route) == 0.0


def on_sink(**more):
    return fanless(
        10.0,
        [chip(), layer(10), sink(120, 120, 30, **{"pitch": 9} | more)],
        [hop("interface", "joint"), hop("body", "sink")],
    )


def test_fins_closer_than_their_law_reaches_are_doubted_by_what_that_side_carries():
    close, usual = solved_of(on_sink(pitch=2.4), "full"), solved_of(on_sink(), "full")
    ways = {way.side: way for way in body_ways(close, 0, "sink")}
    assert not ways["outside"].law.inside
    T = close.solution.temperature[0, close.structure.body_nodes["sink"]]
    share = ways["outside"].watts / sum(way.watts for way in ways.values())
    carried = extrapolated_k(close, 0, route_to(close, "chip-place"))
    assert carried == pytest.approx(share * (T - 25.0), rel=1e-3)
    assert carried > 0
    assert extrapolated_k(usual, 0, route_to(usual, "chip-place")) == 0.0


def test_fins_that_no_law_is_made_for_are_not_doubted_twice():
    """Their scatter of 40 % is drawn with them."""
    solved = solved_of(on_sink(stands="on_edge"), "full")
    assert extrapolated_k(solved, 0, route_to(solved, "chip-place")) == 0.0


@pytest.mark.parametrize(("duty", "outside"), [(0.2, True), (0.9, False)])
def test_a_cooler_in_hardly_any_air_is_doubted_by_the_kelvins_over_it(duty, outside):
    raw = write_object(thin_box(65, 75, 18, 23))
    both = next(w for w in raw["workloads"] if w["id"] == "both")
    both["movers"]["fan-processor"] = {"duty": duty}
    next(p for p in raw["parts"] if p["id"] == "cooler-processor")["rated_airflow_m3_h"] = sure(
        300.0 if outside else 40.0
    )
    solved = solved_of(raw, "both")
    route = route_to(solved, "processor-core")
    stream = next(layer for layer in route.layers if layer.kind == "stream")
    T = solved.solution.temperature[0]
    assert extrapolated_k(solved, 0, route) == pytest.approx(T[stream.inner] - T[stream.outer] if outside else 0.0)
