"""All that a log says of itself: length, form of time, channels with reasons, every load, stretches at a limit."""

import json

import numpy as np
import pytest
from strategies import recipe

from krill.logs.log import read_log
from krill.records import to_json
from krill.runs.whole_log import whole_log

ROWS = 120


def log(cells, header="Time [min];CPU [°C];CPU Power [W];Throttling"):
    lines = [header, *(f"{i};" + ";".join(str(cell) for cell in cells(i)) for i in range(ROWS))]
    return read_log("\n".join(lines).encode())


def load(i):
    return 20 <= i < 100


def flat(i, watts=lambda i: 150 if i < 30 else 110, top=95):
    """A part that stands at its top while its watts fall."""
    return (min(40 + 12 * max(i - 20, 0), top) if load(i) else 40), (watts(i) if load(i) else 10), "no"


def test_it_names_length_interval_time_channels_and_loads():
    whole = whole_log(log(flat))
    assert (whole.length_s, whole.interval_s, whole.time) == (7140.0, 60.0, "minutes")
    cpu, watts, state = whole.channels
    assert (cpu.quantity, cpu.part, cpu.unit, cpu.role) == ("temperature", "processor", "°C", "CPU/temperature")
    assert (watts.role, state.quantity) == ("CPU Power/power", "limit state")
    assert [(one.window.start_s, one.window.end_s) for one in whole.loads] == [(1200.0, 5940.0)]
    text = json.dumps(to_json(whole), allow_nan=False)
    assert json.loads(text)["lines"]["kept"] == ROWS
    assert "load from 20.0 to 99.0 min, found by power" in whole.told()
    assert "at a limit: CPU" in whole.told()


class TestAtALimit:
    def of(self, cells, **more):
        return [(s.channel, round(s.start_s / 60), round(s.end_s / 60)) for s in whole_log(log(cells), **more).at_limit]

    def test_flat_while_watts_fall(self):
        assert self.of(flat) == [("CPU", 25, 99)]

    def test_flat_while_watts_hold_is_no_limit(self):
        assert self.of(lambda i: flat(i, watts=lambda i: 150)) == []

    @pytest.mark.parametrize(("rows", "told"), [(11, []), (14, [("CPU", 86, 99)])])
    def test_a_stand_takes_a_sixth_of_the_load(self, rows, told):
        def rising_late(i):
            top = 95 if 100 - rows <= i < 100 else 70
            return top if load(i) else 40, (150 if i < 30 else 110) if load(i) else 10, "no"

        assert self.of(rising_late) == told

    def test_a_short_top_is_no_stand(self):
        assert self.of(lambda i: (95 if i == 90 else 60 if load(i) else 40, 150 if i < 30 else 110, "no")) == []

    @pytest.mark.parametrize(("rows", "told"), [(1, []), (2, [("Throttling", 50, 51)])])
    def test_a_state_that_says_so(self, rows, told):
        assert self.of(lambda i: (60, 100, "yes" if 50 <= i < 50 + rows else "no")) == told

    @pytest.mark.parametrize(("top", "stands"), [(92, False), (93, True)])
    def test_the_build_knows_the_limit(self, top, stands):
        """The recipe's processor throttles at 95 °C; a sensor is read to 2.5 K."""
        cells = lambda i: flat(i, watts=lambda i: 150, top=top)  # noqa: E731
        assert bool(self.of(cells, build=recipe())) is stands


def test_without_a_build_settled_values_are_those_of_the_log_alone():
    t = np.arange(ROWS)
    values = np.where((t >= 20) & (t < 100), 70 - 30 * np.exp(-(t - 20) / 8), 40)
    whole = whole_log(log(lambda i: (f"{values[i]:.1f}", 150 if load(i) else 10, "no")))
    (cpu,) = [c for c in whole.loads[0].channels if c.settled is not None]
    assert cpu.settled.low - 0.1 <= 70 <= cpu.settled.high + 0.1
