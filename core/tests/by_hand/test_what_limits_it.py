"""The three cases of README.md beside this file, worked out by hand before the code."""

import pytest
from fanless import chip, fanless, hop, layer, panel, sink

from krill.document.reading import read_object
from krill.prediction.predict import predict


def hops_of(raw):
    place = predict(read_object(raw), samples=0).workloads[0].places[0]
    return {found.address: found.drop_k for found in place.hops}, place


def small_sink():
    extrusion = sink(100, 100, 25, 10.94, base_mm=6, flanks="covered")  # the sum counts channels and front only
    return fanless(30, [chip(120, 18), layer(5.5), extrusion], [hop("interface", "joint"), hop("body", "sink")])


def thick_pad():
    extrusion = sink(200, 150, 40, 10.45)
    return fanless(25, [chip(150, 18), layer(230), extrusion], [hop("interface", "joint"), hop("body", "sink")])


def hot_spot():
    block = {
        "id": "block",
        "kind": "spreader",
        "class": "block_kit",
        "resistance_k_w": 0.01,
        "width_mm": 40,
        "length_mm": 40,
        "thickness_mm": 5,
    }
    parts = [chip(1600, 18), layer(7), block, layer(7, "paste"), panel(300, 250, 1)]
    hops = [hop("interface", "joint"), hop("spreader", "block"), hop("interface", "paste"), hop("body", "panel")]
    return fanless(20, parts, hops)


def test_case_1_the_sink_itself():
    drops, place = hops_of(small_sink())
    assert max(drops, key=lambda key: drops[key]) == "sink/over-air"
    assert drops["chip-place/chip"] == pytest.approx(4.5, rel=1e-6)
    assert drops["hop-joint"] == pytest.approx(1.4, rel=0.03)
    assert drops["hop-sink/contact"] == pytest.approx(8, rel=0.25)
    assert drops["sink/over-air"] == pytest.approx(65, rel=0.05)  # the second look of README.md
    assert drops["sink/over-air"] > 0.75 * place.over_room_k


def test_case_2_the_pad():
    drops, _ = hops_of(thick_pad())
    assert max(drops, key=lambda key: drops[key]) == "hop-joint"
    assert drops["hop-joint"] == pytest.approx(38, rel=0.02)
    assert drops["hop-sink/contact"] == pytest.approx(6, rel=0.25)
    assert drops["sink/over-air"] == pytest.approx(17, rel=0.15)


def test_case_3_spreading_in_the_panel():
    drops, _ = hops_of(hot_spot())
    assert max(drops, key=lambda key: drops[key]) == "hop-panel/contact"
    assert drops["hop-panel/contact"] == pytest.approx(71, rel=0.15)
    # the class figure of the film is 9 +- 2 W/m2K (value from memory)
    assert 20 / (0.075 * 11) < drops["panel/over-air"] < 20 / (0.075 * 7)
