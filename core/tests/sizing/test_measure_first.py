"""What makes a band wide: against a closed form, against the drawn band, and narrowed by a measured figure."""

import numpy as np
import pytest
from fanless import chip, fanless, hop, layer, sink
from learnt_builds import calibrated
from strategies import raw_recipe, recipe

from krill.components.learnt import Learnt
from krill.document.reading import read_object
from krill.errors import DocumentRefused
from krill.prediction.predict import predict
from krill.sizing.measure_first import _known_together, measure_first


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


class TestLearntTogether:
    """Two plates known from runs with a correlation of -0.8: what measuring one says of the other counts."""

    def found(self, covariance):
        build, _ = calibrated(covariance=covariance)
        return measure_first(build, "both", "processor-core")

    def of(self, found, address):
        return next(item for item in found.contributions if item.address == address)

    def test_the_other_plate_takes_its_share_by_what_it_says_of_this_one(self):
        found = self.found(((0.01, -0.008), (-0.008, 0.01)))
        own, other = self.of(found, "plate-processor/factor"), self.of(found, "plate-graphics/factor")
        assert other.half_k == pytest.approx(0.8 * own.half_k, rel=0.02)

    def test_a_band_without_it_is_the_band_that_is_left_once_it_is_measured(self):
        """The conditional variance of a joint normal: 0.01 - 0.008^2 / 0.01 = 0.0036."""
        before, after = self.found(((0.01, -0.008), (-0.008, 0.01))), self.found(((0.0036, 0.0), (0.0, 1e-10)))
        assert self.of(before, "plate-graphics/factor").without_k == pytest.approx(after.half_width_k, rel=0.01)

    def test_without_correlation_nothing_is_said_of_the_other(self):
        found = self.found(((0.01, 0.0), (0.0, 0.01)))
        assert not any(item.address == "plate-graphics/factor" for item in found.contributions)


def test_known_together_is_the_conditional_variance():
    """Three figures, the last two of a random joint covariance: the closed form of a normal's conditional variance."""
    rng = np.random.default_rng(4)
    root = rng.normal(size=(2, 3))
    covariance, moved = root @ root.T, np.array([1.5, 0.7, -0.4])
    learnt = Learnt(["b/x", "c/x"], np.zeros(2), root, ["u", "v", "w"], frozenset())
    spread = np.sqrt(np.diag(covariance))
    halves, together = _known_together(learnt, ["a/x", "b/x", "c/x"], moved)
    s = moved[1:] / spread  # per unit of each figure
    whole = s @ covariance @ s
    assert together == pytest.approx(1.5**2 + whole)
    for i, half in enumerate(halves[1:]):
        j = 1 - i
        left = s[j] ** 2 * (covariance[j, j] - covariance[i, j] ** 2 / covariance[i, i])
        assert whole - half**2 == pytest.approx(left)
    assert halves[0] == 1.5
