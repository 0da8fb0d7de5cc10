"""What makes a band wide: against a closed form, against the drawn band, and narrowed by a measured figure."""

import pytest
from fanless import chip, fanless, hop, layer, sink
from strategies import raw_recipe, recipe

from krill.document.reading import read_object
from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.sizing.measure_first import measure_first


def test_one_uncertain_layer_is_its_closed_form():
    """20 W over a layer of 230 +- 46 mm2K/W on 120 mm2: 7.67 K, whatever the rest is."""
    joint = layer(230) | {"resistance_mm2k_w": {"value": 230, "plus_minus": 46, "from": "estimate"}}
    build = read_object(
        fanless(20.0, [chip(120, 18), joint, sink(200, 150, 40, 10)], [hop("interface", "joint"), hop("body", "sink")])
    )
    found = measure_first(build, "full")
    by_address = {item.address: item for item in found.contributions}
    assert by_address["joint/resistance_mm2k_w"].half_k == pytest.approx(20 * 46 / 120, rel=1e-3)


def test_contributions_add_to_the_band_that_is_drawn():
    """Squares of independent causes add: within a tenth of the band of 2 000 draws."""
    build = recipe()
    found = measure_first(build, "both", "memory-place")
    place = next(p for p in predict(build, ["both"], samples=2000).workloads[0].places if p.address == found.place)
    drawn = (place.band_c.high - place.band_c.low) / 2
    assert found.half_width_k == pytest.approx(drawn, rel=0.1)
    assert sum(item.share for item in found.contributions) <= 1.0
    # from half a per cent of the squares on a cause is named
    chip = measure_first(build, "both", "graphics-chip")
    assert 0.005 <= min(item.share for item in (*found.contributions, *chip.contributions)) < 0.006
    laws = [item.origin == "law" for item in found.contributions]
    assert laws == sorted(laws)  # what can be measured comes first
    for kind in (False, True):
        halves = [item.half_k for item, law in zip(found.contributions, laws, strict=True) if law is kind]
        assert halves == sorted(halves, reverse=True)
    assert any(laws)
    assert found.contributions[laws.index(True)].label.startswith("law: ")
    assert "law_" not in found.sentence


def test_a_measured_figure_narrows_the_band_to_what_was_promised():
    raw = raw_recipe()
    before = measure_first(read_object(raw), "both")
    first = next(item for item in before.contributions if item.address == "both/watts/drive")
    workload = next(w for w in raw["workloads"] if w["id"] == "both")
    workload["watts"]["drive"] = {"value": first.value, "plus_minus": 0, "from": "measured"}
    after = measure_first(read_object(raw), "both", before.place)
    assert first.half_k > 1.0
    assert after.half_width_k == pytest.approx(first.without_k, rel=0.01)
    assert first.address not in [item.address for item in after.contributions]


def test_figures_of_one_class_move_together():
    """Both pads of the graphics card are of one class: one error, two figures."""
    found = measure_first(recipe(), "both", "graphics-memory")
    pads = next(item for item in found.contributions if item.address == "pads-memory/resistance_mm2k_w")
    assert pads.together == ["pads-regulators/resistance_mm2k_w"]


def test_a_place_that_is_not_there_is_refused():
    with pytest.raises(DocumentRefused):
        measure_first(recipe(), "both", "nobody")
