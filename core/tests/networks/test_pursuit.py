"""A speed that follows a temperature: against a closed form, with a lag, at a jump, in any steepness."""

import numpy as np
import pytest

from krill.networks.pursuit import Pursuit


def followed(curve, machine, rounds=70, lag=0.0):
    """The speed after some rounds; the machine's temperature follows with a lag."""
    speed = np.full(1, 0.5)
    T = machine(speed)
    pursuit = Pursuit(speed.shape)
    for _ in range(rounds):
        T = lag * T + (1.0 - lag) * machine(speed)
        speed = pursuit.next(speed, curve(T))
    return float(speed[0])


@pytest.mark.parametrize("lag", [0.0, 0.1])
@pytest.mark.parametrize("steep", [0.01, 0.06, 0.5])
def test_curve_and_machine_agree(steep, lag):
    """duty = steep (T - 40), T = 30 + 15 / speed: the root of a quadratic, or full speed."""
    found = followed(
        lambda T: np.clip(steep * (T - 40.0), 0.05, 1.0), lambda s: 30.0 + 15.0 / np.maximum(s, 0.05), lag=lag
    )
    by_hand = (-10.0 * steep + np.sqrt((10.0 * steep) ** 2 + 60.0 * steep)) / 2.0
    assert found == pytest.approx(min(by_hand, 1.0), abs=1e-4)


def test_at_a_jump_the_bracket_closes_on_it():
    """Below 45 C the fan stands, above it turns at 0.4: on average it keeps 45 C."""
    found = followed(lambda T: np.where(T > 45.0, 0.4, 0.0), lambda s: 60.0 - 100.0 * s)
    assert found == pytest.approx(0.15, abs=1e-3)


def test_rows_do_not_disturb_each_other():
    machine = np.array([15.0, 60.0])
    speed, pursuit = np.full(2, 0.5), Pursuit((2,))
    for _ in range(70):
        speed = pursuit.next(speed, np.clip(0.06 * (machine / np.maximum(speed, 0.05) - 10.0), 0.05, 1.0))
    assert speed[0] == pytest.approx(
        followed(lambda T: np.clip(0.06 * (T - 10.0), 0.05, 1.0), lambda s: 15.0 / s), abs=1e-4
    )
    assert speed[1] == 1.0
