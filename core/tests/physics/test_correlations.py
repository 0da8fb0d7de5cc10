"""What holds for every registered correlation, by its registration alone."""

import inspect
import warnings

import numpy as np
import pytest
from other_laws import heat_exchange as other_heat_exchange

import krill.materials.fluids
import krill.physics.conduction
import krill.physics.fin_channels
import krill.physics.heat_exchange
import krill.physics.natural_convection
import krill.physics.radiation
import krill.physics.sound
from krill.physics.compact_fins import FinRow
from krill.physics.correlation import REGISTRY
from krill.physics.heat_pipe import bore_of
from krill.physics.spreading import Face
from krill.sources import BIBLIOGRAPHY

FILL = {
    "thickness_m": 0.002,
    "conductivity": 200.0,
    "film_w_m2k": 500.0,
    "angle_rad": 1.0,
    "relative_roughness": 1e-3,
    "contact_m2k_w": 0.0,
    "roughness_m": 1e-6,
    "slope": 0.1,
    "gas_conductivity": 0.026,
    "gas_jump_m": 3.7e-7,
    "level_db": 30.0,
    "reference_m": 1.0,
    "plate_area": 1e-3,
    "developed": 8.235,
    "density_outside": 1.2,
    "density_inside": 1.1,
    "fins": FinRow(1.5e-3, 1e-4, 8e-3, 1e-2, 16e-3, 1.2e-3, 6.5e-3, 27.0),
    "prandtl": 0.71,
    "face_c": 60.0,
    "surroundings_c": 25.0,
    "area_ratio": 1.0,
    "yield_stress_pa": 100.0,
    "water": krill.materials.fluids.saturated_water(60.0),
    "bore": bore_of(0.006, 3e-4, 7e-4),
    "vapour_area_m2": 1.3e-5,
    "effective_length_m": 0.14,
    "wick_conductivity": 40.0,
    "evaporator_m": 0.04,
    "pore_radius_m": 2.5e-5,
    "temperature_c": 60.0,
    "inner_radius_m": 5e-5,
    "length_m": 0.04,
    "solid": 390.0,
    "liquid": 0.65,
    "first": Face((0.03, 0.03), (0.05, 0.06)),
    "second": Face((0.02, 0.03), (0.15, 0.09)),
    "plate": (0.2, 0.15),
    "length_over_diameter": 12.0,
    "aspect": 0.2,
    "linear": 3.0,
    "square": 2.0,
    "bypass_square": 4.0,
    "height_m": 0.15,
    "porosity": 0.45,
    "sphere_radius_m": 6e-5,
    "width_over_gap": 2.0,
    "height_over_gap": 3.0,
}
#: they sum along an axis, or as many terms as the thinnest sample needs: test_published and test_spreading cover them
SUMMED = ("level_sum", "influence")
FLAGS = {"larger_mixed": True, "heated": True, "axis": -1, "at_exit": True}


def arguments(entry, share):
    found = {}
    for name, parameter in inspect.signature(entry.function).parameters.items():
        if parameter.kind is parameter.KEYWORD_ONLY or name in FLAGS:
            continue
        low, high = entry.valid.get(name, (None, None))
        if low is None:
            found[name] = FILL[name]
        elif low > 0 and high / low > 100:
            found[name] = low * (high / low) ** share
        else:
            found[name] = low + share * (high - low)
    if "plate_area" in found:
        found["plate_area"] = np.maximum(found["plate_area"], 4 * np.asarray(found["source_area"]))
    return found


def call(entry, values):
    flags = {k: v for k, v in FLAGS.items() if k in inspect.signature(entry.function).parameters}
    return entry.function(**values, **flags)


@pytest.mark.parametrize("name", sorted(REGISTRY))
def test_scalar_equals_array_and_broadcasts(name):
    entry = REGISTRY[name]
    if name in SUMMED:
        return
    shares = np.array([0.1, 0.4, 0.8])
    together = np.asarray(call(entry, arguments(entry, shares)))
    singly = [float(np.asarray(call(entry, arguments(entry, float(s))))) for s in shares]
    assert together.shape == (3,)
    assert together == pytest.approx(singly, rel=1e-12)


@pytest.mark.parametrize("name", sorted(REGISTRY))
def test_finite_over_its_range(name):
    entry = REGISTRY[name]
    if name in SUMMED:
        return
    with warnings.catch_warnings():
        warnings.simplefilter("error")
        values = np.asarray(call(entry, arguments(entry, np.linspace(0.001, 0.999, 60))))
    assert np.all(np.isfinite(values))


@pytest.mark.parametrize("name", sorted(REGISTRY))
def test_mask_is_right_at_both_ends(name):
    entry = REGISTRY[name]
    inside = {key: (low + high) / 2 for key, (low, high) in entry.valid.items()}
    assert entry.inside(**inside)
    for key, (low, high) in entry.valid.items():
        assert not entry.inside(**{**inside, key: low - 1e-6 - abs(low) * 1e-3})
        assert not entry.inside(**{**inside, key: high * 1.001 + 1e-6})


@pytest.mark.parametrize("name", sorted(REGISTRY))
def test_source_and_docstring(name):
    entry = REGISTRY[name]
    assert entry.source in BIBLIOGRAPHY
    assert len(entry.function.__doc__ or "") > 40


def test_effectiveness_orders_and_limits():
    ntu, ratio = np.meshgrid(np.linspace(0.05, 6, 30), np.linspace(0.05, 1, 15))
    counter = other_heat_exchange.effectiveness_counterflow(ntu, ratio)
    cross = krill.physics.heat_exchange.effectiveness_crossflow_exact(ntu, ratio)
    parallel = other_heat_exchange.effectiveness_parallel(ntu, ratio)
    assert np.all(counter >= cross - 1e-12)
    assert np.all(cross >= parallel - 1e-12)
    assert np.all((cross > 0) & (cross < 1))
    assert krill.physics.heat_exchange.effectiveness_crossflow_exact(1.5, 0.0) == pytest.approx(1 - np.exp(-1.5))
    table = krill.physics.heat_exchange.effectiveness_crossflow(ntu, ratio)
    assert np.abs(table - cross).max() < 2e-6


def test_friction_is_continuous_through_every_regime():
    reynolds = np.geomspace(0.01, 1e7, 4000)
    friction = krill.physics.pipe_flow.friction_churchill(reynolds, 1e-4)
    assert np.abs(np.diff(np.log(friction))).max() < 0.03
    multiple, slope = krill.physics.pipe_flow.laminar_multiple_churchill(reynolds, 1e-4)
    numeric = np.gradient(multiple, np.log(reynolds))
    assert slope[5:-5] == pytest.approx(numeric[5:-5], rel=0.02, abs=0.01)
