"""Finned sinks, panels, joints and pipes as parts: the published whole sink, limits, orders."""

from dataclasses import replace

import numpy as np
import pytest
from other_laws.radiation import channel_emissivity_one_node

from krill.catalogue.materials import softening, touch_limit
from krill.components.heat_pipes import PipeGroup, bend_share, flattening_share, pipe_figures, pipe_limits
from krill.components.panels import Flat, side_loss
from krill.components.sinks import Fins, channel_film, driven_loss, sink_air, still_loss, wetted
from krill.components.solid_parts import interface_resistance, spreader_resistance
from krill.document.solids import HeatPipe, Interface, Sink, Spreader
from krill.materials.fluids import saturated_water
from krill.physics.heat_pipe import vapour_resistance
from krill.physics.properties import FluidState
from krill.physics.radiation import radiation_coefficient

SEA = np.asarray(101325.0)


class Given:
    """Figures by address, as the table gives them."""

    def __init__(self, **figures):
        self.figures = {key.replace("__", "/"): np.asarray(value) for key, value in figures.items()}

    def has(self, address):
        return address in self.figures

    def __call__(self, address, missing=None):
        return self.figures.get(address, np.asarray(missing))


def fins(**changed):
    plain = {
        "width": 0.2,
        "length": 0.15,
        "base": 0.008,
        "height": 0.03,
        "pitch": 0.0104,
        "thickness": 0.0015,
        "conductivity": 200.0,
        "emissivity": 0.85,
        "holes": 0.0,
        "cut": 0.0,
        "factor": 1.0,
        "facing_gap": 1.0,
    }
    words = {"stand": "upright", "flanks_free": False, "facing": "nothing"}
    figures = {key: np.asarray(changed.pop(key, value)) for key, value in plain.items()}
    return Fins(**figures, **(words | changed))


def test_a_whole_upright_sink_is_the_published_one(case):
    """N13: channels, fin efficiency, radiation of the front; total heat."""
    for point in case("N13").points:
        p, out = point["in"], point["out"]
        pitch = (p["W_m"] - p["t_m"]) / (p["n_fins"] - 1)
        sink = fins(pitch=pitch, thickness=p["t_m"], height=p["H_m"])
        assert sink.count == pytest.approx(p["n_fins"])
        assert sink.spacing == pytest.approx(out["S_m"], rel=1e-9)
        film_c = (p["Ts_C"] + p["Ta_C"]) / 2
        state = FluidState(
            np.asarray(1.0), np.asarray(p["k_air"] / p["alpha"]), np.asarray(p["nu"]), np.asarray(p["k_air"])
        )
        h, number, inside = channel_film(sink, np.asarray(p["Ts_C"] - p["Ta_C"]), state, np.asarray(film_c))
        area, efficiency = wetted(sink, h)
        assert [float(number), float(h), float(efficiency), float(area)] == pytest.approx(
            [out["El"], out["h_W_m2K"], out["eta_fin"], out["A_eff_channels_m2"]], rel=1e-6
        )
        assert inside
        openings = (sink.count - 1) * sink.spacing * sink.length
        one_node = channel_emissivity_one_node(p["emissivity"], p["H_m"] / sink.spacing)
        front = openings * one_node + sink.count * sink.thickness * sink.length * p["emissivity"]
        radiated = radiation_coefficient(1.0, p["Ts_C"], p["Ta_C"]) * front * (p["Ts_C"] - p["Ta_C"])
        assert radiated == pytest.approx(out["q_rad_front_W"], rel=1e-6)
        # with our own air and radiosity in place of the stated properties and the one node
        own = still_loss(sink, np.asarray(p["Ts_C"]), np.asarray(p["Ta_C"]), SEA).total * (p["Ts_C"] - p["Ta_C"])
        assert own == pytest.approx(out["q_total_W"], rel=0.03)


def test_more_fins_than_the_optimum_give_off_less():
    """N13's property: 20 fins beat 26 and 12."""
    watts = {
        n: float(still_loss(fins(pitch=0.1985 / (n - 1)), np.asarray(60.0), np.asarray(25.0), SEA).total)
        for n in (12, 20, 26)
    }
    assert watts[20] > watts[26]
    assert watts[20] > watts[12]


def test_ways_of_standing_are_ordered_as_practice_says():
    """Common practice: of upright convection lying fins up 0.70 +- 0.1, fins down 0.65 +- 0.15; a sink of P1 at 50 K."""
    sizes = {"length": 0.215, "width": 0.205, "height": 0.025, "thickness": 0.0018}
    loss = {
        stand: still_loss(fins(stand=stand, **sizes), np.asarray(75.0), np.asarray(25.0), SEA)
        for stand in ("upright", "lying_fins_up", "lying_fins_down", "on_edge")
    }
    share = {s: float(found.channels / loss["upright"].channels) for s, found in loss.items()}
    assert 0.6 <= share["lying_fins_up"] <= 0.8
    assert 0.5 <= share["lying_fins_down"] <= 0.8
    assert share["on_edge"] < share["lying_fins_down"]
    assert loss["upright"].inside
    assert not loss["lying_fins_down"].inside
    assert not loss["on_edge"].inside


@pytest.mark.parametrize(
    ("change", "wins"),
    [
        ({"emissivity": 0.1}, False),
        ({"flanks_free": True}, True),
        ({"cut": 0.3}, False),
        ({"holes": 0.2}, False),
        ({"height": 0.045}, True),
        ({"conductivity": 50.0}, False),
        ({"facing": "wall", "facing_gap": 0.05}, False),
    ],
)
def test_what_a_sink_gains_and_loses_by(change, wins):
    def total(sink):
        return float(still_loss(sink, np.asarray(60.0), np.asarray(25.0), SEA).total)

    assert (total(fins(**change)) > total(fins())) == wins


def test_a_twin_in_front_takes_more_radiation_than_a_wall():
    at = {"facing_gap": 0.03}
    loss = {
        f: float(still_loss(fins(facing=f, **at), np.asarray(60.0), np.asarray(25.0), SEA).radiation)
        for f in ("nothing", "wall", "sink")
    }
    assert loss["nothing"] > loss["wall"] > loss["sink"] > 0


def test_a_batch_of_sinks_equals_its_singles():
    pitches = np.array([0.006, 0.010, 0.016])
    together = still_loss(replace(fins(), pitch=pitches), np.full(3, 60.0), np.full(3, 25.0), SEA).total
    for index, pitch in enumerate(pitches):
        assert together[index] == pytest.approx(
            float(still_loss(fins(pitch=pitch), np.asarray(60.0), np.asarray(25.0), SEA).total)
        )


DRIVEN = Sink.model_validate({"id": "s", "kind": "sink"})


def test_driven_air_carries_no_more_than_it_can():
    """At small flows the air leaves as warm as the base: W/K is its capacity flow."""
    for flow in (1e-5, 3e-5):
        G = float(driven_loss(DRIVEN, fins(pitch=0.004, thickness=0.0005), Given(), np.asarray(flow)).conductance)
        assert pytest.approx(flow * 1.146 * 1006.7, rel=0.12) == G
    slow, fast = (float(driven_loss(DRIVEN, fins(), Given(), np.asarray(f)).conductance) for f in (0.005, 0.02))
    assert fast > 1.5 * slow


def test_a_way_beside_the_fins_takes_air_and_pressure_from_them():
    open_beside = Sink.model_validate({"id": "s", "kind": "sink", "bypass_cm2": 40})
    values = Given(s__bypass_cm2=40e-4)
    closed = driven_loss(DRIVEN, fins(), values, np.asarray(0.02))
    beside = driven_loss(open_beside, fins(), values, np.asarray(0.02))
    assert 0.1 < float(beside.share) < 1.0
    assert float(beside.conductance) < float(closed.conductance)
    full, shared = sink_air(DRIVEN, fins(), values), sink_air(open_beside, fins(), values)
    for q in (0.01, 0.03):
        drops = [float(f.linear * q + f.coefficient * q**2) for f in (full, shared)]
        assert drops[0] > drops[1] > 0


@pytest.mark.parametrize("flow", [0.005, 0.02, 0.05])
def test_both_ways_past_a_sink_lose_the_same_pressure(flow):
    """Entry and exit of the way beside the fins cost 1.5 of its dynamic pressure (value from memory)."""
    open_beside = Sink.model_validate({"id": "s", "kind": "sink", "bypass_cm2": 40})
    values = Given(s__bypass_cm2=40e-4)
    through = float(driven_loss(open_beside, fins(), values, np.asarray(flow)).share) * flow
    figures = sink_air(DRIVEN, fins(), values)
    between = float(figures.linear * through + figures.coefficient * through**2)
    assert between == pytest.approx(1.5 * 1.18 / 2 * ((flow - through) / 40e-4) ** 2, rel=1e-6)


def test_a_sealed_box_by_its_faces_is_the_published_sum(case):
    """N14 by our panels: four sides, a lid, a floor, each with its own film and radiation."""
    for point in case("N14").points:
        p, out = point["in"], point["out"]
        total = 0.0
        for lie, width, height in (
            [("vertical", p["W_m"], p["H_m"])] * 2
            + [("vertical", p["D_m"], p["H_m"])] * 2
            + [("facing_up", p["W_m"], p["D_m"]), ("facing_down", p["W_m"], p["D_m"])]
        ):
            flat = Flat(
                *(np.asarray(v) for v in (width, height, 0.002, 130.0, p["emissivity"], 0.0, 1.0)),
                lie,
                np.asarray(height),
            )
            total += float(side_loss(flat, "outside", np.asarray(p["Ts_C"]), np.asarray(p["Ta_C"]), SEA).total)
        assert total * (p["Ts_C"] - p["Ta_C"]) == pytest.approx(out["q_W"], rel=0.02)  # our own air properties


def test_layers_of_an_interface(case):
    """T01 by the part: bond line over conductivity; coverage and a rim of another material side by side."""
    p, out = case("T01").points[0]["in"], case("T01").points[0]["out"]
    face = np.asarray(p["side_x_m"] * p["side_y_m"])
    part = Interface.model_validate({"id": "i", "kind": "interface", "bond_line_um": 50, "conductivity_w_mk": 4})
    values = Given(i__bond_line_um=p["BLT_m"], i__conductivity_w_mk=p["k_W_mK"])
    assert interface_resistance(part, values, face) == pytest.approx(out["R_K_W"], rel=1e-9)
    half = Given(i__bond_line_um=p["BLT_m"], i__conductivity_w_mk=p["k_W_mK"], i__coverage=0.5)
    assert interface_resistance(part, half, face) == pytest.approx(2 * out["R_K_W"], rel=1e-9)
    rim = part.model_copy(update={"beside": type("B", (), {"face_share": 0.25, "resistance_mm2k_w": 75.0})()})
    parallel = 1 / (0.75 / 12.5e-6 + 0.25 / 75e-6) / float(face)
    assert interface_resistance(rim, values, face) == pytest.approx(parallel, rel=1e-9)


def test_a_bare_joint_under_pressure(case):
    """T04 (Cooper, Mikic & Yovanovich): contacts and gas of three joints."""
    part = Interface.model_validate({"id": "i", "kind": "interface", "pressure_kpa": 300})
    for point in case("T04").points:
        p, out = point["in"], point["out"]
        sigma, slope = np.hypot(p["sigma1_m"], p["sigma2_m"]), np.hypot(p["slope1"], p["slope2"])
        values = Given(
            i__pressure_kpa=p["P_Pa"],
            i__hardness_mpa=p["Hc_Pa"],
            i__roughness_um=sigma,
            i__asperity_slope=slope,
            i__faces_w_mk=out["k_harm"],
        )
        assert interface_resistance(part, values, np.asarray(1.0)) == pytest.approx(out["R_area_m2K_W"], rel=1e-6)


def test_a_block_is_slab_and_spreading(case):
    """S05, processor on a copper plate: Lee's mean and the slab."""
    point = next(x for x in case("S05").points if x["in"]["case"] == "processor on a copper cold plate")
    p, out = point["in"], point["out"]
    part = Spreader.model_validate({"id": "b", "kind": "spreader", "width_mm": 60, "length_mm": 60, "thickness_mm": 3})
    values = Given(
        b__width_mm=p["plate_x_m"], b__length_mm=p["plate_y_m"], b__thickness_mm=p["t_m"], b__conductivity_w_mk=p["k"]
    )
    R = spreader_resistance(part, values, np.asarray(p["source_x_m"] * p["source_y_m"]), np.asarray(out["R_conv"]))
    assert pytest.approx(out["Rs_mean_Lee"] + out["R_1D"], rel=1e-6) == R


def pipe(**changed):
    raw = {"id": "p", "kind": "heat_pipe", "evaporator_mm": 40, "adiabatic_mm": 80, "condenser_mm": 80, **changed}
    figures = {
        "diameter_mm": 0.006,
        "evaporator_mm": 0.04,
        "adiabatic_mm": 0.08,
        "condenser_mm": 0.08,
        "limit_w": 40.0,
        "uneven": 1.25,
        "evaporator_k_w": 0.08,
        "condenser_k_w": 0.04,
        "groove_mm2k_w": 25e-6,
    }
    figures |= {
        key: value
        for key, value in (("flat_mm", changed.get("flat_mm", 0) / 1000), ("lift_mm", changed.get("lift_mm", 0) / 1000))
        if key in changed
    }
    values = Given(**{f"p__{key}": value for key, value in figures.items()})
    return pipe_figures(HeatPipe.model_validate(raw), None, values), values


def test_a_pipe_by_rules_of_thumb(case):
    """HP07 (common practice, bands): whole resistance, bends, flattening, lift; limit as stated in its own state."""
    bands = {point["in"]["rule"]: point["out"] for point in case("HP07").points}
    plain, values = pipe()
    whole = float(PipeGroup(plain, values).resistance(np.asarray(60.0)))
    band = next(out for rule, out in bands.items() if rule.startswith("end-to-end"))
    assert band["low_K_W"] <= whole <= band["high_K_W"]
    assert float(pipe_limits(plain, 60.0).least) == pytest.approx(40.0, rel=1e-9)
    bend = next(out for rule, out in bands.items() if rule.startswith("loss of maximum heat per 90"))
    assert bend["low"] <= 1 - bend_share(pipe(bends=1)[0]) <= bend["high"]
    flat = next(out for rule, out in bands.items() if rule.startswith("loss of maximum heat when flattened"))
    assert flat["low"] <= 1 - float(flattening_share(pipe(flat_mm=3)[0])) <= flat["high"]


def test_limits_of_lifted_and_helped_pipes():
    """Common practice: evaporator 100 mm above 0.5 +- 0.2 of level, below at most 1.3-1.6 times."""
    level = float(pipe_limits(pipe()[0], 60.0).capillary)
    raised = float(pipe_limits(pipe(lift_mm=100)[0], 60.0).capillary) / level
    helped = float(pipe_limits(pipe(lift_mm=-100)[0], 60.0).capillary) / level
    assert 0.3 <= raised <= 0.7
    assert 1.0 < helped <= 1.6
    grooved = float(pipe_limits(pipe(lift_mm=100, wick="grooved")[0], 60.0).capillary)
    assert grooved < raised * level


def test_a_pipe_beyond_its_limit_dries_out_and_goes_on():
    """Heat is continuous and rises on, but each kelvin carries a tenth."""
    figures, values = pipe(count=2)
    group = PipeGroup(figures, values)
    kelvins = np.linspace(0.0, 40.0, 400)
    heat = group.heat(kelvins, np.full(400, 60.0))
    slope = np.diff(heat) / np.diff(kelvins)
    limit = float(group.limit(np.asarray(60.0)))
    assert limit == pytest.approx(2 * 40 / 1.25)
    assert np.all(np.diff(heat) > 0)
    assert np.max(np.abs(np.diff(heat))) < 1.01 * float(group.as_stated) * (kelvins[1] - kelvins[0])
    wet, dry = slope[heat[1:] < limit], slope[heat[:-1] > limit]
    assert dry == pytest.approx(np.full(dry.shape, 0.1 * wet[0]))


def test_cold_vapour_is_thin_and_costs_kelvins():
    """A 6 mm pipe pressed to 3 mm pays half a kelvin a watt more at 20 °C than at 60; only the vapour's share follows."""
    figures, values = pipe(flat_mm=3)
    group, T = PipeGroup(figures, values), np.array([10.0, 20.0, 40.0, 60.0, 90.0])
    R = group.resistance(T)
    assert np.all(np.diff(R) < 0)
    vapour = vapour_resistance(saturated_water(T), T, figures.bore, figures.effective_length)
    assert R - R[3] == pytest.approx(vapour - vapour[3], abs=1e-12)
    assert float(R[1] - R[3]) > 0.5
    assert float(group.as_stated) == pytest.approx(figures.part.count / float(R[3] * figures.uneven))


def test_touch_thresholds_are_the_published_ones(case):
    """SF01 (ISO 13732-1, value from memory) and SF02's lower end for one second on bare metal."""
    contact = {"1 min": "1_min", "10 min": "10_min", "8 h and longer": "8_h"}
    of = {
        "bare metal": ["steel", "aluminium_sheet"],
        "any material": ["steel", "glass", "petg", "wood"],
        "ceramic, glass, stone": ["glass"],
        "plastic, wood": ["petg", "wood"],
    }
    for point in case("SF01").points:
        for material in of[point["in"]["material"]]:
            assert touch_limit(material, contact[point["in"]["contact"]]) == point["out"]["T_C"]
    assert touch_limit("steel", "1_s") == case("SF02").points[0]["out"]["low_C"]
    assert touch_limit("wood", "1_s") is None


def test_plastics_soften_where_handbooks_say(case):
    """SF04: glass transition bands; what is warned at lies at or below them, with 10 K to keep away."""
    for point in case("SF04").points:
        plastic, out = point["in"]["polymer"].lower(), point["out"]
        softens, away = softening(plastic)
        assert softens <= out["Tg_low_C"]
        assert away == 10
