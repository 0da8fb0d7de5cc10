"""Natural convection and radiation against published forms and a complete sink."""

import numpy as np
import pytest
from ht import conv_free_immersed
from other_laws import natural_convection as other_natural_convection
from other_laws import radiation as other_radiation
from scipy.integrate import dblquad
from scipy.optimize import minimize_scalar

from krill.materials.fluids import air
from krill.physics import conduction, natural_convection, radiation


def test_upright_channels_of_elenbaas_and_bar_cohen(case):
    """N01."""
    for point in case("N01").points:
        El, out = point["in"]["El"], point["out"]
        assert natural_convection.nusselt_channel(El) == pytest.approx(out["Nu_BarCohen_Rohsenow"], rel=1e-9)
        assert other_natural_convection.nusselt_channel_elenbaas(El) == pytest.approx(out["Nu_Elenbaas_1942"], rel=1e-9)
        one = other_natural_convection.nusselt_channel_one_warm(El)
        assert one == pytest.approx(out["Nu_one_wall_adiabatic"], rel=1e-9)


def test_upright_channels_of_uniform_flux(case):
    """N02 (constants 1.88 and 2.51: value from memory)."""
    for point in case("N02").points:
        El, out = point["in"]["El_flux"], point["out"]
        assert other_natural_convection.nusselt_channel_flux(El) == pytest.approx(out["Nu_isoflux_mean_dT"], rel=1e-9)
        at_exit = other_natural_convection.nusselt_channel_flux(El, at_exit=True)
        assert at_exit == pytest.approx(out["Nu_isoflux_exit_dT"], rel=1e-9)


def test_the_optimum_spacing_is_the_published_one(case):
    """N03, constants of four digits."""
    for point in case("N03").points:
        p, out = point["in"], point["out"]
        S = other_natural_convection.optimum_spacing(p["L_m"], out["Ra_L"])
        assert pytest.approx(out["S_opt_m"], rel=1e-3) == S


def test_the_optimum_spacing_is_the_maximum_of_the_channel_law():
    """Bar-Cohen & Rohsenow 1984 against an own maximum of Nu / S^2 of their channel law."""
    L, Ra_L = 0.15, 8e6
    best = minimize_scalar(
        lambda S: -float(natural_convection.nusselt_channel(Ra_L * (S / L) ** 4)) / S**2,
        bounds=(2e-3, 3e-2),
        method="bounded",
        options={"xatol": 1e-9},
    )
    assert best.x == pytest.approx(float(other_natural_convection.optimum_spacing(L, Ra_L)), rel=2e-3)
    at_best = natural_convection.nusselt_channel(Ra_L * (best.x / L) ** 4)
    assert at_best == pytest.approx(other_natural_convection.OPTIMUM_NUSSELT, rel=2e-3)


def test_an_upright_plate_is_churchill_and_chu(case):
    """N04."""
    for point in case("N04").points:
        p, out = point["in"], point["out"]
        Nu = natural_convection.nusselt_vertical_plate(p["Ra"], p["Pr"])
        assert Nu == pytest.approx(out["Nu_all"], rel=1e-9)
        if "Nu_laminar" in out:
            laminar = other_natural_convection.nusselt_vertical_plate_laminar(p["Ra"], p["Pr"])
            assert laminar == pytest.approx(out["Nu_laminar"], rel=1e-9)


def test_a_plate_agrees_with_the_library():
    """Churchill & Chu and McAdams as the library ``ht`` writes them."""
    for Ra in (1e5, 1e7, 1e10):
        Gr, Pr = Ra / 0.71, 0.71
        library = conv_free_immersed.Nu_vertical_plate_Churchill(Pr, Gr)
        assert natural_convection.nusselt_vertical_plate(Ra, Pr) == pytest.approx(library, rel=1e-9)


def test_a_glass_screen_is_the_worked_example(case):
    """N05: Incropera example 9.2."""
    p, out = case("N05").points[0]["in"], case("N05").points[0]["out"]
    Ra = p["g"] * p["beta"] * (p["Ts_C"] - p["Ta_C"]) * p["H_m"] ** 3 / (p["nu"] * p["alpha"])
    Nu = natural_convection.nusselt_vertical_plate(Ra, p["Pr"])
    q = Nu * p["k"] / p["H_m"] * p["H_m"] * p["W_m"] * (p["Ts_C"] - p["Ta_C"])
    assert Nu == pytest.approx(out["Nu"], rel=1e-6)
    assert q == pytest.approx(out["q_W"], rel=1e-6)
    assert q == pytest.approx(1060, rel=1e-2)


def test_lying_plates_of_mcadams(case):
    """N06, L = A/P; the jump at 1e7 is the published one."""
    for point in case("N06").points:
        Ra, out = point["in"]["Ra_on_A_over_P"], point["out"]
        up = natural_convection.nusselt_facing_up(np.nextafter(Ra, 0) if Ra == 1e7 else Ra)
        assert up == pytest.approx(out["Nu_hot_side_up"], rel=1e-9)
        down = natural_convection.nusselt_facing_down(Ra)
        assert down == pytest.approx(out["Nu_hot_side_down_McAdams"], rel=1e-9)
        newer = other_natural_convection.nusselt_facing_down_newer(Ra)
        assert newer == pytest.approx(out["Nu_hot_side_down_Incropera7"], rel=1e-9)


def test_a_lying_tube_loses_what_the_book_says(case):
    """N07."""
    for point in case("N07").points:
        p, out = point["in"], point["out"]
        Ra = p["g"] / p["Tf_K"] * p["dT_K"] * p["D_m"] ** 3 / (p["nu"] * p["alpha"])
        Nu = other_natural_convection.nusselt_lying_tube(Ra, p["Pr"])
        assert Nu == pytest.approx(out["Nu"], rel=1e-6)
        assert Nu * p["k"] * np.pi * p["dT_K"] == pytest.approx(out["q_per_m_W"], rel=1e-6)


def test_fins_on_a_lying_base_are_jones_and_smith(case):
    """N08 (formula and range: value from memory)."""
    for point in case("N08").points:
        Nu = natural_convection.nusselt_lying_fins(point["in"]["Ra_S"])
        assert Nu == pytest.approx(point["out"]["Nu_S"], rel=1e-6)


def test_lying_fins_far_apart_are_a_lying_plate():
    """Jones & Smith in its limit of large Ra against McAdams' 0.54 Ra^0.25."""
    assert natural_convection.nusselt_lying_fins(6e5) == pytest.approx(0.54 * 6e5**0.25, rel=0.12)


def test_rayleigh_by_air_properties_is_the_hand_sum():
    """One by hand: air at 40 C, 0.1 m, 20 K (properties of F09 at 40 C)."""
    film = air(40.0)
    nu, alpha = 1.916523e-5 / 1.12745, 0.02735427 / (1.12745 * 1006.921)
    assert natural_convection.rayleigh(20.0, 0.1, film, 40.0) == pytest.approx(
        9.80665 / 313.15 * 20 * 1e-3 / (nu * alpha), rel=2e-3
    )


def test_the_opening_of_a_channel_radiates_as_radiosity_says(case):
    """N10: one node in closed form, radiosity over strips, and the quick table."""
    for point in case("N10").points:
        p, out = point["in"], point["out"]
        node = other_radiation.channel_emissivity_one_node(p["emissivity"], p["H_over_S"])
        assert node == pytest.approx(out["eps_eff_network"], rel=1e-9)
        strips = radiation.channel_emissivity_radiosity(p["emissivity"], p["H_over_S"])
        assert strips == pytest.approx(out["eps_eff_radiosity"], rel=2e-3)
        table = radiation.channel_emissivity(p["emissivity"], p["H_over_S"])
        assert table == pytest.approx(out["eps_eff_radiosity"], rel=2e-2)


def test_an_opening_radiates_between_its_surface_and_a_black_one():
    for eps in (0.03, 0.2, 0.8, 1.0):
        values = radiation.channel_emissivity(eps, np.linspace(0, 30, 40))
        assert np.all(np.diff(values) > -1e-9)
        assert values[0] == pytest.approx(eps, abs=1e-3)
        assert np.all(values <= 1 + 1e-9)


def test_radiation_to_large_surroundings(case):
    """N11."""
    for point in case("N11").points:
        p, out = point["in"], point["out"]
        h = radiation.radiation_coefficient(p["emissivity"], p["T_C"], p["T_surroundings_C"])
        assert h == pytest.approx(out["h_rad_W_m2K"], rel=1e-6)
        assert h * (p["T_C"] - p["T_surroundings_C"]) == pytest.approx(out["q_W_m2"], rel=1e-6)


def test_two_faces_of_an_enclosure():
    """Closed forms (Incropera table 13.3): planes 1/(1/e1 + 1/e2 - 1); a small body in a large room: its own e."""
    assert other_radiation.exchange_emissivity(0.8, 0.5) == pytest.approx(1 / (1 / 0.8 + 1 / 0.5 - 1))
    assert other_radiation.exchange_emissivity(0.8, 0.3, 1e-6) == pytest.approx(0.8, rel=1e-5)


def test_two_rectangles_see_each_other():
    """Incropera table 13.2 against a direct integral over both faces (by differences, scipy), and in its limits."""
    X, Y = 1.5, 0.8

    def kernel(dx, dy):  # both faces at unit distance, weights of the overlap of two equal rectangles
        return (X - abs(dx)) * (Y - abs(dy)) / (1 + dx**2 + dy**2) ** 2

    direct = dblquad(lambda dy, dx: kernel(dx, dy), -X, X, -Y, Y, epsabs=1e-10)[0]
    assert radiation.view_between_rectangles(X, Y) == pytest.approx(direct / (np.pi * X * Y), rel=1e-6)
    assert radiation.view_between_rectangles(1e3, 1e3) == pytest.approx(1.0, abs=5e-3)
    assert radiation.view_between_rectangles(0.01, 0.01) == pytest.approx(1e-4 / np.pi, rel=1e-3)


def test_a_whole_sink_is_the_published_sum(case):
    """N12: watts of 14 and 15 fins at the optimum (Cengel's example, data from memory)."""
    p, out = case("N12").points[0]["in"], case("N12").points[0]["out"]
    Ra = p["g"] / p["Tf_K"] * (p["Ts_C"] - p["Ta_C"]) * p["L_vertical_m"] ** 3 * p["Pr"] / p["nu"] ** 2
    assert Ra == pytest.approx(out["Ra_L"], rel=1e-6)
    S = other_natural_convection.optimum_spacing(p["L_vertical_m"], Ra)
    assert pytest.approx(out["S_opt_m"], rel=1e-6) == S
    h = other_natural_convection.OPTIMUM_NUSSELT * p["k"] / S
    assert h == pytest.approx(out["h_W_m2K"], rel=1e-6)
    watts = h * 2 * 14 * p["L_vertical_m"] * p["fin_height_m"] * (p["Ts_C"] - p["Ta_C"])
    assert watts == pytest.approx(out["q_14_fins_W"], rel=1e-6)


def test_a_sealed_box_loses_the_sum_of_its_faces(case):
    """N14."""
    for point in case("N14").points:
        p, out = point["in"], point["out"]
        dT, film = p["Ts_C"] - p["Ta_C"], (p["Ts_C"] + p["Ta_C"]) / 2 + 273.15

        def Ra(L, p=p, dT=dT, film=film):
            return p["g"] / film * dT * L**3 / (p["nu"] * p["alpha"])

        side = natural_convection.nusselt_vertical_plate(Ra(p["H_m"]), p["Pr"]) * p["k"] / p["H_m"]
        L = p["W_m"] * p["D_m"] / (2 * (p["W_m"] + p["D_m"]))
        top = natural_convection.nusselt_facing_up(Ra(L)) * p["k"] / L
        bottom = natural_convection.nusselt_facing_down(Ra(L)) * p["k"] / L
        rad = radiation.radiation_coefficient(p["emissivity"], p["Ts_C"], p["Ta_C"])
        assert [side, top, bottom, rad] == pytest.approx(
            [out["h_side"], out["h_top"], out["h_bottom"], out["h_rad"]], rel=1e-6
        )
        sides, lids = 2 * (p["W_m"] + p["D_m"]) * p["H_m"], p["W_m"] * p["D_m"]
        watts = dT * (sides * (side + rad) + lids * (top + rad) + lids * (bottom + rad))
        assert watts == pytest.approx(out["q_W"], rel=1e-6)


def test_holes_take_conductivity_from_a_sheet():
    """Maxwell (Rayleigh 1892) in two dimensions: none, and a fifth of the area."""
    assert conduction.perforated_conductivity(200.0, 0.0) == pytest.approx(200.0)
    assert conduction.perforated_conductivity(200.0, 0.2) == pytest.approx(200 * 0.8 / 1.2)


def test_a_small_lying_plate_has_a_thick_layer():
    """Raithby & Hollands' thick layer: Nu of the thin one 0.835 C Ra^0.25 (C = 0.515 for air), within 15 %; no step at 1e4."""
    for Ra in (10.0, 100.0, 1e3, 5e3):
        thin = 0.835 * 0.515 * Ra**0.25
        assert float(natural_convection.nusselt_facing_up(Ra)) == pytest.approx(1.4 / np.log1p(1.4 / thin), rel=0.15)
        assert float(natural_convection.nusselt_facing_up(Ra)) > 0.54 * Ra**0.25  # what stood there before
    below, above = (float(natural_convection.nusselt_facing_up(Ra)) for Ra in (1e4 * (1 - 1e-9), 1e4))
    assert below == pytest.approx(above, rel=1e-6)
