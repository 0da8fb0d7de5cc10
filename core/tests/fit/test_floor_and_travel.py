"""Floors against the closed series of the plate, and what is done before a machine travels; both sides of each threshold."""

from typing import Any

import numpy as np
import pytest
from housed import box, housed

from krill.fit.fit import checks_of
from krill.fit.floor import FLOORS, MIDDLE, SIDES, SPREAD
from krill.prediction.notices.fit import fit_notices


def series(ratio: float) -> tuple[float, float]:
    """Navier's double series of a plate on simple supports: (sag of a force in the middle over F a^2 / D, of a spread load over
    q a^4 / D); its long side is ``ratio`` times its short one."""
    m, n = np.meshgrid(np.arange(1, 400, 2), np.arange(1, 400, 2))
    waves = (m**2 + n**2 / ratio**2) ** 2
    middle = 4 / (np.pi**4 * ratio) * (1 / waves).sum()
    sign = (-1.0) ** ((m + n) // 2 - 1)
    spread = 16 / np.pi**6 * (sign / (m * n * waves)).sum()
    return float(middle), float(spread)


@pytest.mark.parametrize(("ratio", "middle", "spread"), list(zip(SIDES, MIDDLE, SPREAD, strict=True)))
def test_coefficients_are_those_of_the_double_series(ratio, middle, spread):
    assert series(ratio) == pytest.approx((middle, spread), rel=6e-3)


def floor(mass: float = 1000 / 9.81 * 10, **housing: Any) -> Any:
    heavy = box("heavy", [50, 50, 50], [100, 100, 25], mass_g={"value": mass, "from": "measured"})
    return checks_of(housed(heavy, inside=[300, 300, 200], housing={"floor": "steel"} | housing)).floor


@pytest.mark.parametrize(
    ("kind", "sinks"), [("steel", 1.1), ("aluminium", 0.5), ("printed", 0.9), ("acrylic", 0.6), ("plywood", 0.03)]
)
def test_ten_newtons_in_the_middle_of_300_sink_as_common_practice_has_it(kind, sinks):
    years = FLOORS[kind][2]
    assert floor(floor=kind).middle_mm / years == pytest.approx(sinks, rel=0.2)


def test_thicker_is_stiffer_by_its_cube_and_years_soften_plastics():
    assert floor(floor_mm=1.6).middle_mm == pytest.approx(floor().middle_mm / 8)
    assert (FLOORS["printed"][2], FLOORS["acrylic"][2], FLOORS["steel"][2]) == (3.0, 2.0, 1.0)


def test_one_millimetre_or_a_two_hundredth_of_the_span():
    """Spread 0.390, in the middle 1.113 mm of 10 N on 0.8 steel of 300."""
    sag = floor()
    assert (sag.spread_mm, sag.middle_mm) == pytest.approx((0.3897, 1.1133), rel=1e-3)
    assert sag.at_most_mm == 1.0
    per = 1000 / 9.81 * 10
    for newtons, says in ((0.897, "carries"), (0.899, "in doubt"), (2.56, "in doubt"), (2.57, "sinks")):
        assert floor(newtons * per).says == says
    narrow = housed(
        box("heavy", [50, 50, 50], [50, 50, 25], mass_g={"value": 100, "from": "measured"}),
        inside=[100, 300, 200],
        housing={"floor": "steel"},
    )
    assert checks_of(narrow).floor.at_most_mm == 0.5


def test_a_floor_that_sinks_is_told_and_one_that_nobody_told_is_not():
    heavy = box("heavy", [50, 50, 50], [100, 100, 25], mass_g={"value": 5000, "from": "measured"})
    build = housed(heavy, inside=[300, 300, 200], housing={"floor": "steel"})
    said = [notice.text for notice in fit_notices(checks_of(build))]
    assert any("The floor is too soft: 0.8 mm of steel sink by" in text for text in said)
    assert checks_of(housed(heavy)).floor is None
    assert checks_of(housed(housing={"floor": "steel"})).floor is None


def test_a_heavy_tower_travels_lying_and_a_heavy_card_is_propped():
    def tower(grams: float, turn: float = 90.0, **more: Any) -> Any:
        outline = {"size_mm": [120, 76, 155], "position_mm": [100, 100, 100], "rotation_deg": [turn, 0, 0]}
        return {
            "id": "tower",
            "kind": "cooler",
            "class": "cooler_tower_120",
            "mass_g": grams,
            "outline": outline,
        } | more

    def told(*parts: Any, **more: Any) -> list[str]:
        return [one.part for one in checks_of(housed(*parts, **more)).travel]

    assert told(tower(701)) == ["tower"]
    assert told(tower(699)) == []
    assert told(tower(701, turn=0)) == []
    assert told(tower(701, outline=None)) == ["tower"]
    assert told(tower(701), housing={"gravity": [0, 1, 0]}) == []
    card = {"graphics": {"body": "card_two_fans", "position_mm": [150, 100, 100]}}
    assert told(outlines=card) == ["graphics"]
    assert told(outlines={"graphics": card["graphics"] | {"body": "card_short"}}) == []
