"""Heat pipes: properties, wick, limits, resistance, flattening."""

import numpy as np
import pytest
from other_laws import heat_pipe as other_heat_pipe

from krill.materials.fluids import saturated_water
from krill.physics import heat_pipe


def bore(p):
    inner, vapour = p["r_inner_m"], p["r_vapour_m"]
    return heat_pipe.bore_of(2 * inner, 0.0, inner - vapour)


def test_saturated_water_and_its_merit(case):
    """HP01, tables at 1 K: 5e-3 for the merit, 1e-3 for its parts."""
    for point in case("HP01").points:
        T, out = point["in"]["T_C"], point["out"]
        water = saturated_water(T)
        for name, key in (
            ("pressure", "psat"),
            ("liquid_density", "rho_l"),
            ("vapour_density", "rho_v"),
            ("liquid_viscosity", "mu_l"),
            ("vapour_viscosity", "mu_v"),
            ("liquid_conductivity", "k_l"),
            ("latent_heat", "hfg"),
            ("surface_tension", "sigma"),
        ):
            assert getattr(water, name) == pytest.approx(out[key], rel=1e-5), name
        assert water.merit == pytest.approx(out["M_liquid_W_m2"], rel=1e-5)


def test_a_sintered_wick(case):
    """HP02: permeability, pore radius, Maxwell's conductivity."""
    p, out = case("HP02").points[0]["in"], case("HP02").points[0]["out"]
    assert other_heat_pipe.sintered_permeability(p["r_sphere_m"], p["porosity"]) == pytest.approx(out["K_m2"], rel=1e-9)
    assert other_heat_pipe.sintered_pore_radius(p["r_sphere_m"]) == pytest.approx(out["r_eff_m"], rel=1e-9)
    k = other_heat_pipe.wick_conductivity_maxwell(p["k_solid"], p["k_liquid"], p["porosity"])
    assert k == pytest.approx(out["k_eff_Maxwell_continuous_solid"], rel=1e-9)


def test_the_capillary_limit_of_6_and_8_mm_pipes(case):
    """HP03 (Chi, Faghri): temperature and height."""
    for point in case("HP03").points:
        p, out = point["in"], point["out"]
        inside = bore(p)
        area = np.pi * (p["r_inner_m"] ** 2 - p["r_vapour_m"] ** 2)
        psi = np.sqrt(1 - (p["H_evaporator_above_condenser_m"] / p["L_total_m"]) ** 2)
        watts, pumping, gravity = heat_pipe.capillary_limit(
            saturated_water(p["T_C"]),
            inside,
            p["r_eff_m"],
            p["K_m2"],
            area,
            p["L_eff_m"],
            p["H_evaporator_above_condenser_m"],
            psi,
        )
        assert pumping == pytest.approx(out["dp_cap_Pa"], rel=1e-5)
        assert gravity == pytest.approx(out["dp_gravity_Pa"], rel=1e-5)
        assert watts == pytest.approx(out["Q_cap_W"], rel=1e-5)


def test_the_other_limits(case):
    """HP04: sonic twice, entrainment, viscous, boiling (weak physics: arithmetic only)."""
    for point in case("HP04").points:
        p, out = point["in"], point["out"]
        water, inside = saturated_water(p["T_C"]), bore(p)
        found = [
            heat_pipe.sonic_limit(water, p["T_C"], inside.vapour_area),
            other_heat_pipe.sonic_limit_busse(water, inside.vapour_area),
            heat_pipe.entrainment_limit(water, inside.vapour_area, p["r_eff_m"]),
            heat_pipe.viscous_limit(water, inside, p["L_eff_m"]),
            heat_pipe.boiling_limit(water, p["T_C"], inside, p["k_wick"], p["Le_m"], p["r_eff_m"], p["r_nucleation_m"]),
        ]
        wanted = [out[f"Q_{key}_W"] for key in ("sonic_Levy", "sonic_Busse", "entrainment", "viscous_Busse", "boiling")]
        assert found == pytest.approx(wanted, rel=1e-5)


def test_the_resistance_of_6_and_8_mm_pipes(case):
    """HP05: walls, wick, vapour by Clausius-Clapeyron."""
    walls = {6: (0.3e-3, 0.7e-3), 8: (0.4e-3, 0.8e-3)}
    for point in case("HP05").points:
        p, out = point["in"], point["out"]
        wall, wick = walls[p["D_mm"]]
        outer, inside = p["D_mm"] / 2000, heat_pipe.bore_of(p["D_mm"] / 1000, wall, wick)
        effective = p["La_m"] + (p["Le_m"] + p["Lc_m"]) / 2
        found = {
            "R_wall_evap": other_heat_pipe.ring_resistance(outer, inside.inner_radius, p["k_wall"], p["Le_m"]),
            "R_wick_evap": other_heat_pipe.ring_resistance(
                inside.inner_radius, inside.vapour_radius, p["k_wick"], p["Le_m"]
            ),
            "R_vapour": heat_pipe.vapour_resistance(saturated_water(p["T_C"]), p["T_C"], inside, effective),
            "R_wick_cond": other_heat_pipe.ring_resistance(
                inside.inner_radius, inside.vapour_radius, p["k_wick"], p["Lc_m"]
            ),
            "R_wall_cond": other_heat_pipe.ring_resistance(outer, inside.inner_radius, p["k_wall"], p["Lc_m"]),
        }
        for key, value in found.items():
            assert value == pytest.approx(out[key], rel=1e-4), key
        assert sum(found.values()) == pytest.approx(out["R_total_K_W"], rel=1e-4)


def test_a_flattened_pipe_keeps_its_perimeter(case):
    """HP06."""
    for point in case("HP06").points:
        p, out = point["in"], point["out"]
        width, gap, area = heat_pipe.flattened(
            p["D_mm"] / 1e3, p["flattened_to_mm"] / 1e3, p["wall_plus_wick_mm"] / 1e3
        )
        assert [width * 1e3, gap * 1e3, area * 1e6] == pytest.approx(
            [out["width_mm"], out["vapour_gap_mm"], out["vapour_area_mm2"]], rel=1e-9
        )


@pytest.mark.parametrize("lift", [-0.1, 0.0, 0.05, 0.1, 0.2])
def test_a_raised_evaporator_carries_less(lift):
    water, inside = saturated_water(60.0), heat_pipe.bore_of(0.006, 3e-4, 7e-4)
    area = np.pi * (inside.inner_radius**2 - inside.vapour_radius**2)

    def limit(height):
        return float(heat_pipe.capillary_limit(water, inside, 2.46e-5, 2.89e-11, area, 0.14, height)[0])

    assert limit(lift + 0.01) < limit(lift)


def test_a_flux_of_75_watts_a_square_centimetre():
    """Common practice: 40 mm of a 6 mm pipe (bore 5.4 mm) give 6.8 cm2."""
    inside = heat_pipe.bore_of(0.006, 3e-4, 7e-4)
    assert heat_pipe.heat_flux_limit(inside, 0.04, 75e4) == pytest.approx(2 * np.pi * 0.27 * 4 * 75, rel=1e-9)
