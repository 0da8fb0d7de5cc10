"""Fins and pastes by closed forms and a worked example."""

import numpy as np
import pytest
from other_laws import conduction as other_conduction

from krill.physics import conduction


def test_an_array_of_fins_is_its_fins_and_its_base(case):
    """S02 (Incropera eq. 3.102, 3.103): fins by the corrected length, the base between them."""
    for point in case("S02").points:
        p, out = point["in"], point["out"]
        corrected = p["L_m"] + p["t_m"] / 2
        efficiency = conduction.fin_efficiency(p["h"], p["k"], p["t_m"], corrected)
        assert efficiency == pytest.approx(out["eta_fin"], rel=1e-6)
        fins, base = 2 * p["n"] * corrected * p["depth_m"], out["A_total_m2"] - 2 * p["n"] * corrected * p["depth_m"]
        overall = (efficiency * fins + base) / out["A_total_m2"]
        assert overall == pytest.approx(out["eta_overall"], rel=1e-6)
        assert 1 / (p["h"] * out["A_total_m2"] * overall) == pytest.approx(out["R_K_W"], rel=1e-6)


def test_a_very_long_fin_gives_off_what_a_rod_does(case):
    """S04 (Incropera example 3.9): tanh(mL)/(mL) of a long fin against sqrt(h P k A) of an endless rod.

    A rod of diameter D has the m of a fin of thickness D/2.
    """
    for point in case("S04").points:
        p, out = point["in"], point["out"]
        long = 20.0
        efficiency = conduction.fin_efficiency(p["h"], p["k"], p["D_m"] / 2, long)
        watts = efficiency * p["h"] * np.pi * p["D_m"] * long * (p["Tb_C"] - p["Ta_C"])
        assert watts == pytest.approx(out["q_infinite_W"], rel=1e-6)


def test_the_bond_line_of_a_paste(case):
    """T03 (Prasher 2006, formula from memory)."""
    for point in case("T03").points:
        p = point["in"]
        assert other_conduction.bond_line(p["yield_stress_Pa"], p["pressure_Pa"]) == pytest.approx(
            point["out"]["BLT_m"], rel=1e-9
        )
