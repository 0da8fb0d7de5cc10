"""Air-side figures of single parts: what each asks of the air, and what coolers and moving air are worth."""

import numpy as np
import pytest
from fluids.filters import round_edge_screen
from machines import fan, machine, opening, path, sure

from krill.components import air_parts
from krill.components.figure_table import FigureTable, Values
from krill.components.radiator_table import REFERENCE_AIR
from krill.document.reading import read_object
from krill.physics.pipe_flow import loss_perforated_plate


def part_and_values(raw_part):
    build = read_object(machine([fan("f"), raw_part], [], [path("p", "out", "out", "f", raw_part["id"])]))
    return build.part(raw_part["id"]), Values(FigureTable(build), 1, {})


def pressure(figures, flow):
    """Pa at a volume flow, air at the reference density."""
    return float(figures.linear * flow + figures.coefficient * flow**figures.exponent)


def test_an_opening_by_its_loss_or_by_its_free_share():
    by_loss, values = part_and_values(opening("o", 100, 2.5))
    assert pressure(air_parts.opening(by_loss, values), 0.02) == pytest.approx(2.5 * REFERENCE_AIR / 2 * 2.0**2)
    raw = {"id": "o", "kind": "opening", "area_cm2": sure(100), "free_area_share": sure(0.5)}
    by_share, values = part_and_values(raw)
    K = float(loss_perforated_plate(0.5))
    assert pressure(air_parts.opening(by_share, values), 0.02) == pytest.approx(K * REFERENCE_AIR / 2 * 2.0**2)


@pytest.mark.parametrize(("name", "linear", "square"), [("filter_fine", 2, 2), ("filter_foam", 3, 4)])
def test_filters_by_class_clean_and_loaded(name, linear, square):
    """Class figures (value from memory): linear v + square v^2 at v in m/s; loaded three times that."""
    raw = {"id": "d", "kind": "filter", "class": name, "area_cm2": sure(100)}
    clean, values = part_and_values(raw)
    at_1_5 = linear * 1.5 + square * 1.5**2
    assert pressure(air_parts.dust_filter(clean, values), 0.015) == pytest.approx(at_1_5)
    loaded, values = part_and_values(raw | {"loaded": True})
    assert pressure(air_parts.dust_filter(loaded, values), 0.015) == pytest.approx(3 * at_1_5)


def test_a_fine_filter_costs_a_free_standard_fan_a_quarter_of_its_flow():
    """Class figures (value from memory): a free fan keeps 0.74 of its flow with a clean one, 0.52 with a loaded one."""
    from krill.prediction.predict import predict

    def flow(**more):
        parts = [
            {"id": "f", "kind": "fan", "class": "fan_120x25"},
            {"id": "d", "kind": "filter", "class": "filter_fine", "area_cm2": sure(138), **more},
        ]
        raw = machine(parts, [], [path("p", "out", "out", "f", "d")])
        return predict(read_object(raw), samples=0).workloads[0].air[0].airflow_m3_h / 98

    assert flow() == pytest.approx(0.74, abs=0.06)
    assert flow(loaded=True) == pytest.approx(0.52, abs=0.06)


def test_a_gap_takes_a_square_of_its_span_unless_an_area_is_given():
    raw = {"id": "g", "kind": "gap", "gap_mm": sure(13), "span_mm": sure(120)}
    square, values = part_and_values(raw)
    wide, more = part_and_values(raw | {"area_cm2": sure(288)})
    ratio = pressure(air_parts.gap(square, values), 0.02) / pressure(air_parts.gap(wide, more), 0.02)
    assert ratio == pytest.approx((288 / 144) ** 2)


def test_a_duct_counts_its_bends_and_its_ends():
    raw = {
        "id": "d",
        "kind": "duct",
        "length_m": sure(0.2),
        "bore_mm": sure(50),
        "loss": sure(1.5),
        "bend_loss": sure(0.9),
    }
    straight, values = part_and_values(raw)
    bent, more = part_and_values(raw | {"bends": 2})
    assert float(air_parts.duct(straight, values).loss) == pytest.approx(1.5)
    assert float(air_parts.duct(bent, more).loss) == pytest.approx(3.3)
    flat, more = part_and_values(
        {
            "id": "d",
            "kind": "duct",
            "length_m": sure(0.2),
            "width_mm": sure(60),
            "height_mm": sure(28),
            "loss": sure(1.5),
        }
    )
    found = air_parts.duct(flat, more)
    through = np.pi / 4 * float(found.bore_m) ** 2
    assert float(found.loss) / through**2 == pytest.approx(
        1.5 / (0.060 * 0.028) ** 2
    )  # the loss stays that of the rectangle


def test_a_cooler_through_its_points_and_beyond_them():
    points = [{"airflow_m3_h": 10, "k_w": 0.4}, {"airflow_m3_h": 20, "k_w": 0.3}, {"airflow_m3_h": 40, "k_w": 0.24}]
    part, values = part_and_values(
        {"id": "c", "kind": "cooler", "points": points, "pressure_pa": sure(10), "rated_airflow_m3_h": sure(40)}
    )
    flows = np.array([10, 20, 40]) / 3600
    assert air_parts.cooler_resistance(part, values, flows) == pytest.approx([0.4, 0.3, 0.24])
    between = air_parts.cooler_resistance(part, values, np.array([np.sqrt(10 * 20) / 3600]))
    assert between == pytest.approx(np.sqrt(0.4 * 0.3))
    beyond = air_parts.cooler_resistance(part, values, np.array([80, 5, 0]) / 3600)
    assert beyond[0] < 0.24 < 0.4 < beyond[1] < beyond[2] < np.inf


def test_a_cooler_with_one_point_falls_like_its_kind():
    part, values = part_and_values(
        {"id": "c", "kind": "cooler", "points": [{"airflow_m3_h": 20, "k_w": 0.5, "pressure_pa": 8}]}
    )
    R = air_parts.cooler_resistance(part, values, np.array([10, 20, 40]) / 3600)
    assert R[1] == pytest.approx(0.5)
    assert pytest.approx([0.35 + 0.65 * 2**0.8, 1, 0.35 + 0.65 * 0.5**0.8], rel=1e-9) == R / 0.5
    assert pressure(air_parts.cooler_air(part, values), 20 / 3600) == pytest.approx(8)


def test_a_measured_factor_scales_a_cooler_and_never_its_pressure():
    raw = {"id": "c", "kind": "cooler", "class": "cooler_low_47"}
    plain, values = part_and_values(raw)
    worse, more = part_and_values(raw | {"factor": {"value": 1.3, "from": "calibrated", "ref": "run"}})
    flow = np.array([27.5 / 3600])
    ratio = air_parts.cooler_resistance(worse, more, flow) / air_parts.cooler_resistance(plain, values, flow)
    assert ratio == pytest.approx(1.3)
    assert pressure(air_parts.cooler_air(worse, more), 0.01) == pressure(air_parts.cooler_air(plain, values), 0.01)


def test_moving_air_is_monotone_between_its_two_class_figures():
    v = np.linspace(0.0, 5.0, 60)
    for name in ("memory_stick", "drive_m2", "board_regulators", "chipset"):
        factor = air_parts.moving_air_factor(name, v)
        assert np.all(np.diff(factor) <= 1e-12)
        assert np.all(np.isfinite(factor) & (factor > 0))
    assert air_parts.moving_air_factor("supply_body", v) is None
    assert air_parts.moving_air_factor(None, v) is None


@pytest.mark.parametrize("share", [0.6, 0.7, 0.8, 0.9])
def test_wires_block_less_than_a_sheet_of_the_same_free_area(share):
    """Round wires by fluids' screen table at a wire's Reynolds number of 1 000, within the scatter of both."""
    base = {"id": "o", "kind": "opening", "area_cm2": 100, "free_area_share": {"value": share, "plus_minus": 0}}
    wires, sheet = (
        pressure(air_parts.opening(*part_and_values(base | {"made_of": made})), 0.01) for made in ("wires", "plate")
    )
    dynamic = 1.18 / 2 * (0.01 / 100e-4) ** 2
    assert wires / dynamic == pytest.approx(round_edge_screen(share, 1000.0), rel=0.20)
    assert wires < 0.8 * sheet
    stated = base | {"made_of": "wires", "loss": {"value": 2.0, "plus_minus": 0}}
    assert pressure(air_parts.opening(*part_and_values(stated)), 0.01) == pytest.approx(2.0 * dynamic)
