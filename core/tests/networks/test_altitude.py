"""Thin air: films follow the mass that moves, fans what their blades displace."""

import copy

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from machines import fan, machine, opening, path, sure
from scipy.optimize import brentq

from krill.components.edges import Medium, PowerEdges
from krill.document.reading import read_object, write_object
from krill.prediction.predict import predict
from krill.recipes.book import RECIPES

R_AIR, CP = 287.05287, 1006.5


def pressure(altitude_m):
    return 101325 * (1 - 0.0065 * altitude_m / 288.15) ** 5.2558797


def ducted_cooler(altitude_m):
    """20 W on a cooler of 0.4 K/W at 30 m3/h behind a parabolic fan of 40 Pa and 60 m3/h; 10 Pa at its rated flow."""
    part = {"id": "chip", "kind": "source", "places": [{"id": "base", "temperature_kind": "case", "limits": []}]}
    cooler = {"id": "cooler", "kind": "cooler", "resistance_k_w": sure(0.8), "rated_airflow_m3_h": sure(30)}
    cooler |= {"pressure_pa": sure(10), "still_k_w": sure(12)}
    hop = {"id": "into", "kind": "stream", "part": "cooler"}
    raw = machine(
        [fan("f", 40, 60), cooler, opening("o", 20, 2.0)],
        [],
        [path("p", "out", "out", "f", "cooler", "o")],
        sources=[(part, {"id": "route", "place": "base", "hops": [hop]})],
        watts={"chip": 20},
    )
    raw["rooms"][0]["altitude_m"] = altitude_m
    return raw


@pytest.mark.parametrize("altitude_m", [0, 1500, 4000])
def test_a_ducted_cooler_by_plain_equations(altitude_m):
    """Fan and losses go with the density, the film with the mass: flow by brentq, then R (s + (1 - s) n^-0.8)."""
    rho = pressure(altitude_m) / (R_AIR * 298.15)

    def left(Q):
        fan_pa = rho / 1.18 * 40 * (1 - (Q / (60 / 3600)) ** 2)
        return fan_pa - rho / 1.18 * 10 * (Q * 3600 / 30) ** 2 - rho / 2 * 2.0 * (Q / 20e-4) ** 2

    Q = brentq(left, 1e-6, 60 / 3600)
    n = Q * rho / 1.18 / (30 / 3600)
    rise = 20 * 0.8 * (0.35 + 0.65 * n**-0.8)
    [result] = predict(read_object(ducted_cooler(altitude_m)), samples=0).workloads
    assert result.places[0].temperature_c - 25 == pytest.approx(rise, rel=0.005)  # the opening behind sees warmer air


def test_at_4_000_m_a_driven_body_is_a_third_warmer():
    """It was a tenth: films forgot that thin air carries less."""
    rises = [
        predict(read_object(ducted_cooler(h)), samples=0).workloads[0].places[0].temperature_c - 25 for h in (0, 4000)
    ]
    assert 1.25 < rises[1] / rises[0] < 1.4


ALTITUDES = (0, 1000, 2000, 3500, 5000)


@pytest.mark.parametrize("name", RECIPES)
@settings(max_examples=6, deadline=None)
@given(data=st.data())
def test_every_machine_gets_warmer_with_altitude(name, data):
    asked = [data.draw(st.floats(0.3, 1.0)) * watts for watts in RECIPES[name].starts]
    raw = write_object(RECIPES[name].make(*asked, 24.0, "machine"))
    for workload in raw["workloads"]:
        workload["movers"] = {
            key: ({"duty": 0.7} if "curve" in told else told) for key, told in workload.get("movers", {}).items()
        }
    found = []
    for altitude in ALTITUDES:
        raw["rooms"][0]["altitude_m"] = altitude
        [result] = predict(read_object(copy.deepcopy(raw)), [raw["workloads"][0]["id"]], samples=0).workloads
        found.append([place.temperature_c for place in result.places])
    assert np.all(np.diff(found, axis=0) > -1e-6)


def test_a_linear_drop_knows_the_viscosity_and_not_the_density():
    """Poiseuille: a filter's linear part asks the same pressure of the same flow at any altitude."""
    one = np.ones((1, 1))
    edge = PowerEdges(np.array([0]), 500 * one, 0 * one, 2 * one, 1.18 * one, 1.85e-5 * one)
    drops = [
        float(edge.at(Medium(rho * one, mu * one))(rho * 0.01 * one)[0][0, 0])
        for rho, mu in ((1.18, 1.85e-5), (0.7, 1.85e-5), (1.18, 2.0e-5))
    ]
    assert drops == pytest.approx([5.0, 5.0, 5.0 * 2.0 / 1.85], rel=1e-4)
