"""Classes of graphics coolers: with the chip that they are sold on they give the figures of the class page."""

import pytest

from krill.catalogue.classes import classes

#: chip to its sensor and ordinary paste, mm2K/W
CHIP_AND_PASTE = 9 + 10


def chip_to_intake(cooler, chip, speed):
    """K/W of the chip's watts at a share of rated speed, by R (s + (1 - s) n^-0.8)."""
    known = classes()[cooler]
    rated, fixed = known.figures["resistance_k_w"][0], known.extra["share_fixed"]
    area = classes()[chip].figures["chip_area_mm2"][0]
    return rated * (fixed + (1 - fixed) * speed**-0.8) + CHIP_AND_PASTE / area


@pytest.mark.parametrize(
    ("cooler", "chip", "full_speed", "half"),
    [
        ("cooler_graphics_220", "graphics_chip_220", 0.21 * 0.85, 0.03),
        ("cooler_graphics_320", "graphics_chip_320", 0.15 * 0.85, 0.025),
    ],
)
def test_open_cards_at_full_speed_are_15_per_cent_better(cooler, chip, full_speed, half):
    """0.21 ± 0.03 at 150 W of chip, 0.15 ± 0.025 at 240 W; 15 % less at full speed (values from memory)."""
    assert chip_to_intake(cooler, chip, 1.0) == pytest.approx(full_speed, abs=half / 3)


@pytest.mark.parametrize(("speed", "k_w"), [(0.6, 0.36), (0.85, 0.28)])
def test_a_blower_card_gains_more_by_speed(speed, k_w):
    """0.36 ± 0.05 at 60 %, 0.28 ± 0.04 at 85 % (values from memory)."""
    between = 0.5 * (
        chip_to_intake("cooler_graphics_blower", "graphics_chip_150", speed)
        + chip_to_intake("cooler_graphics_blower", "graphics_chip_220", speed)
    )
    assert between == pytest.approx(k_w, abs=0.015)
