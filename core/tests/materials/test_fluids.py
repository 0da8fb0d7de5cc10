"""Fluid tables against the library they were made from, between its grid points; and published points."""

import numpy as np
import pytest
from other_laws import fluids as other_fluids

from krill.materials import fluids
from krill.physics.moist_air import dew_point, vapour_pressure

# the tables are linear over 1 K and 10 % of share; these are their interpolation errors, well inside the data's own spread
SAME_LIBRARY = {"density": 2e-4, "heat_capacity": 2e-3, "viscosity": 6e-3, "conductivity": 1e-3}


@pytest.mark.slow
@pytest.mark.parametrize(
    ("name", "code", "share"),
    [
        ("water", "Water", 0),
        ("ethylene_glycol", "INCOMP::MEG[0.3]", 0.3),
        ("propylene_glycol", "INCOMP::MPG[0.2]", 0.2),
    ],
)
def test_coolants_between_grid_points(name, code, share):
    from CoolProp.CoolProp import PropsSI

    T = np.array([12.37, 31.5, 48.61, 77.2])
    state = fluids.coolant(name, share).state(T)
    for key, letter in (("density", "D"), ("heat_capacity", "C"), ("viscosity", "V"), ("conductivity", "L")):
        expected = [PropsSI(letter, "T", t + 273.15, "P", 101325, code) for t in T]
        assert getattr(state, key) == pytest.approx(expected, rel=SAME_LIBRARY[key])


@pytest.mark.parametrize(
    ("case_id", "name"), [("F01", "water"), ("F05", "ethylene_glycol"), ("F06", "propylene_glycol")]
)
def test_published_coolants(case, case_id, name):
    for point in case(case_id).points:
        p, out = point["in"], point["out"]
        state = fluids.coolant(name, p.get("w_glycol_mass", 0.0)).state(p["T_C"])
        assert float(state.density) == pytest.approx(out["rho_kg_m3"], rel=1e-5)
        assert float(state.heat_capacity) == pytest.approx(out["cp_J_kgK"], rel=1e-5)
        assert float(state.viscosity) == pytest.approx(out["mu_Pa_s"], rel=1e-5)


def test_air_and_saturated_water(case):
    for point in case("F09").points:
        state = fluids.air(point["in"]["T_C"])
        assert float(state.density) == pytest.approx(point["out"]["rho_kg_m3"], rel=1e-3)
        assert float(state.viscosity) == pytest.approx(point["out"]["mu_Pa_s"], rel=1e-3)
        assert float(state.prandtl) == pytest.approx(point["out"]["Pr"], rel=2e-3)
    for point in case("F02").points:
        tension = fluids.water_surface_tension(point["in"]["T_C"])
        assert float(tension) == pytest.approx(point["out"]["sigma_N_m"], rel=1e-6)
    for point in case("F03").points:
        water = fluids.saturated_water(point["in"]["T_C"])
        assert float(water.latent_heat) == pytest.approx(point["out"]["hfg_J_kg"], rel=2e-3)
        assert float(water.pressure) == pytest.approx(point["out"]["psat_Pa"], rel=1e-3)


def test_volume_share_is_not_mass_share(case):
    for point in case("F08").points:
        p = point["in"]
        if "phi_vol" in p:
            mass = other_fluids.mass_share_of_volume_share(p["phi_vol"], p["rho_glycol"], p["rho_water"])
            assert float(mass) == pytest.approx(point["out"]["w_mass"], rel=1e-6)


def test_frozen_coolant_is_said():
    assert not fluids.coolant("water").inside(-1.0)
    assert fluids.coolant("propylene_glycol", 0.5).inside(-20.0)
    assert not fluids.coolant("water").inside(101.0)


def test_published_freezing_points(case):
    """F07, and between the shares of the property tables: PG 15 % against the library, no line between 10 and 20 %."""
    from CoolProp.CoolProp import PropsSI

    names = {"MEG": "ethylene_glycol", "MPG": "propylene_glycol"}
    for point in case("F07").points:
        p = point["in"]
        found = fluids.coolant(names[p["fluid"]], p["w_glycol_mass"]).freezing_c
        assert found == pytest.approx(point["out"]["T_freeze_C"], abs=0.01)
    for code, name in names.items():
        for share in (0.05, 0.15, 0.37, 0.55):
            expected = PropsSI("T_freeze", "T", 300.0, "P", 101325, f"INCOMP::{code}[{share}]") - 273.15
            assert fluids.coolant(name, share).freezing_c == pytest.approx(
                expected, abs=0.05
            )  # straight lines over 2 %
    assert fluids.coolant("water").freezing_c == 0.0


def test_published_dew_points(case):
    """F12: Magnus to the digit, the library's real gas within 0.15 K."""
    for point in case("F12").points:
        p, out = point["in"], point["out"]
        found = float(dew_point(p["T_C"], p["RH"]))
        assert found == pytest.approx(out["T_dew_C_Magnus"], rel=1e-6)
        assert found == pytest.approx(out["T_dew_C"], abs=0.15)


@pytest.mark.parametrize("celsius", [0.5, 10.0, 25.0, 45.0])
def test_vapour_pressure_against_the_steam_tables(celsius):
    """IAPWS-95 by the library on the saturation line, within the 0.4 % that Magnus' form is off by."""
    from CoolProp.CoolProp import PropsSI

    expected = PropsSI("P", "T", celsius + 273.15, "Q", 0, "Water")
    assert float(vapour_pressure(celsius)) == pytest.approx(expected, rel=4e-3)
