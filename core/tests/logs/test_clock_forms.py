"""The clock of a log in every form that people's loggers write it, from half a second to a minute a row."""

from datetime import datetime, timedelta

import numpy as np
import pytest

from krill.errors import ClockUnknown
from krill.logs.log import read_log

START = datetime(2026, 3, 13, 22, 58, 4)
ROWS = 240


def stamped(form, step_s, shift=lambda text: text):
    return [shift((START + timedelta(seconds=step_s * i)).strftime(form)) for i in range(ROWS)]


def ms(text):
    """Six digits of a fraction cut to three."""
    return text[:-3]


FORMS = {
    "iso": ("Time", lambda s: stamped("%Y-%m-%dT%H:%M:%S.%f", s)),
    "slashes": ("Timestamp", lambda s: stamped("%Y/%m/%d %H:%M:%S.%f", s, ms)),
    "german": ("Zeit", lambda s: stamped("%d.%m.%Y %H:%M:%S.%f", s, ms)),
    "comma before milliseconds": (
        "Zeit",
        lambda s: [t.replace(".", ",", 9) for t in stamped("%d-%m-%Y %H:%M:%S.%f", s, ms)],
    ),
    "two-figure year": ("Datum", lambda s: stamped("%d.%m.%y %H:%M:%S.%f", s, ms)),
    "american, AM and PM": ("Date/Time", lambda s: stamped("%m/%d/%Y %I:%M:%S %p", s)),
    "month name": ("When", lambda s: stamped("%d %b %Y %H:%M:%S.%f", s, ms)),
    "month name first": ("stamp", lambda s: stamped("%b %d %Y %H:%M:%S.%f", s, ms)),
    "time of day over midnight": ("Uhrzeit", lambda s: stamped("%H:%M:%S.%f", s, ms)),
    "time of day with AM and PM": ("Heure", lambda s: stamped("%I:%M:%S %p", s)),
    "in a column of another name": ("Messpunkt", lambda s: stamped("%H:%M:%S.%f", s, ms)),
    "seconds": ("Time [s]", lambda s: [f"{s * i:.2f}" for i in range(ROWS)]),
    "milliseconds by name": ("elapsed_ms", lambda s: [f"{1000 * s * i:.0f}" for i in range(ROWS)]),
    "minutes by name": ("Time (min)", lambda s: [f"{s * i / 60:.6f}" for i in range(ROWS)]),
    "epoch": ("time", lambda s: [f"{1.7e9 + s * i:.2f}" for i in range(ROWS)]),
    "epoch in milliseconds": ("time", lambda s: [f"{1.7e12 + 1000 * s * i:.0f}" for i in range(ROWS)]),
}


def log(name, stamps, delimiter=";"):
    rows = [f'"{stamp}"{delimiter}{40 + i // 60}' for i, stamp in enumerate(stamps)]
    return read_log("\n".join([f"{name}{delimiter}Prozessor [°C]", *rows]).encode())


@pytest.mark.parametrize("step_s", [0.5, 1, 2, 5, 30, 60])
@pytest.mark.parametrize("form", FORMS)
def test_the_length_is_read_to_a_hundredth(form, step_s):
    name, stamps = FORMS[form]
    found = log(name, stamps(step_s))
    length = found.time_s[-1] - found.time_s[0]
    assert length == pytest.approx(step_s * (ROWS - 1), rel=0.01)
    assert np.all(np.diff(found.time_s) >= 0)


@pytest.mark.parametrize("step_s", [2, 5, 20, 60])
@pytest.mark.parametrize("form", ["%d.%m.%Y %H:%M", "%H:%M", "%m/%d/%Y %I:%M %p"])
def test_without_seconds_rows_are_spread_over_their_minute(form, step_s):
    found = log("Time", stamped(form, step_s))
    assert found.time_s[-1] - found.time_s[0] == pytest.approx(step_s * (ROWS - 1), rel=0.02)
    assert np.max(np.abs(np.diff(found.time_s) - step_s)) < 0.35 * step_s


def test_date_and_hour_apart():
    days, hours = stamped("%d.%m.%Y", 5), stamped("%H:%M:%S", 5)
    rows = [f"{day};{hour};{40 + i // 60}" for i, (day, hour) in enumerate(zip(days, hours, strict=True))]
    found = read_log("\n".join(["Datum;Uhrzeit;Prozessor [°C]", *rows]).encode())
    assert found.time_s[-1] == pytest.approx(5 * (ROWS - 1))


def test_a_row_number_is_no_time():
    rows = [f"{i},{stamp},{40 + i // 60}" for i, stamp in enumerate(stamped("%H:%M:%S", 10))]
    found = read_log("\n".join(["No,Clock reading,CPU [C]", *rows]).encode())
    assert found.time_s[-1] == pytest.approx(10 * (ROWS - 1))


def test_one_wrong_stamp_disqualifies_nothing():
    stamps = stamped("%Y-%m-%d %H:%M:%S", 2)
    stamps[17] = "error"
    found = log("Time", stamps)
    assert found.time_s[-1] == pytest.approx(2 * (ROWS - 1), rel=0.01)


class TestNoClock:
    ROWS = b"CPU [C],GPU [C]\n" + b"".join(b"%d,%d\n" % (40 + i // 60, 50 + (i * 7) % 5) for i in range(ROWS))

    def test_it_is_never_guessed(self):
        with pytest.raises(ClockUnknown, match="seconds lie between two rows"):
            read_log(self.ROWS)

    @pytest.mark.parametrize("step_s", [0.5, 60])
    def test_the_interval_that_is_told_counts(self, step_s):
        assert read_log(self.ROWS, step_s).time_s[-1] == pytest.approx(step_s * (ROWS - 1))

    def test_a_log_that_tells_its_time_needs_none(self):
        told = log("Time [s]", [str(2 * i) for i in range(ROWS)])
        assert told.time_s[-1] == 2 * (ROWS - 1)
