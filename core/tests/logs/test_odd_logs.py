"""Logs written by hand, each with one thing that people's logs have; the generator makes none of these."""

import json

import numpy as np
import pytest

from krill.errors import ClockUnknown, LogRefused
from krill.logs.channels import channels_of
from krill.logs.log import read_log

ROWS = 30


def rows(line, count=ROWS):
    return "\n".join(line(i) for i in range(count)) + "\n"


#: header and rows; seconds from first to last row; (name, unit, quantity, last value) of each channel
CASES = {
    "single blanks": (
        "time cpu gpu\n" + rows(lambda i: f"{i} {40 + i / 10} 50"),
        29,
        [("cpu", "°C", "temperature", 42.9), ("gpu", "°C", "temperature", 50)],
    ),
    "lines of another table above": (
        "Device, X, Serial, 5\nUser, me\n\nTime,CPU (°C)\n" + rows(lambda i: f"{i},{40 + i}"),
        29,
        [("CPU", "°C", "temperature", 69)],
    ),
    "quantity, part and unit in three rows": (
        "Time,Temperature,Temperature,Power\n,CPU,GPU,CPU\ns,°C,°C,W\n" + rows(lambda i: f"{i},{40 + i},50,60"),
        29,
        [
            ("Temperature CPU", "°C", "temperature", 69),
            ("Temperature GPU", "°C", "temperature", 50),
            ("Power CPU", "W", "power", 60),
        ],
    ),
    "part above, quantity below": (
        "Time,CPU,,GPU\n,Temp,Power,Temp\n" + rows(lambda i: f"{i},{40 + i},60,50"),
        29,
        [("CPU Temp", "°C", "temperature", 69), ("CPU Power", "W", "power", 60), ("GPU Temp", "°C", "temperature", 50)],
    ),
    "points part thousands, a comma decimals": (
        "Zeit;Leistung (mW)\n" + rows(lambda i: f"{i},5;1.23{i % 10},56"),
        29,
        [("Leistung", "W", "power", 1.23956)],
    ),
    "a grouped speed beside decimal commas": (
        "Zeit;CPU;Lüfter\n" + rows(lambda i: f"{i};{40 + i},5;1.10{i % 10}"),
        29,
        [("CPU", "°C", "temperature", 69.5), ("Lüfter", "rpm", "speed", 1109)],
    ),
    "a time zone": (
        "Timestamp,CPU Temp\n" + rows(lambda i: f"2026-03-01T10:00:{i:02d}+01:00,{40 + i}"),
        29,
        [("CPU Temp", "°C", "temperature", 69)],
    ),
    "minutes and seconds with a fraction": (
        "Elapsed,CPU Temp\n" + rows(lambda i: f"{i}:00.5,{40 + i}"),
        29 * 60,
        [("CPU Temp", "°C", "temperature", 69)],
    ),
    "minutes and seconds beyond a day's hours": (
        "Elapsed,CPU Temp\n" + rows(lambda i: f"{i + 1}:30,{40 + i}"),
        29 * 60,
        [("CPU Temp", "°C", "temperature", 69)],
    ),
    "units in every cell, of time as well": (
        "Elapsed,CPU Temp\n" + rows(lambda i: f"{i} min,{40 + i} °C"),
        29 * 60,
        [("CPU Temp", "°C", "temperature", 69)],
    ),
    "nanoseconds since 1970": (
        "time,cpu_temp\n" + rows(lambda i: f"{(1760000000 + i) * 10**9},{40 + i}"),
        29,
        [("cpu_temp", "°C", "temperature", 69)],
    ),
    "days of a spreadsheet": (
        "Date,cpu_temp\n" + rows(lambda i: f"{46000 + i / 1440:.8f},{40 + i}"),
        29 * 60,
        [("cpu_temp", "°C", "temperature", 69)],
    ),
    "hours, minutes and seconds in letters": (
        "Heure;Temp. CPU\n" + rows(lambda i: f"10h{i:02d}m05s;{40 + i}"),
        29 * 60,
        [("Temp. CPU", "°C", "temperature", 69)],
    ),
    "symbols of a laboratory": (
        "Time[s],T_cpu[degC],T_amb[degC],P_cpu[W],n_fan[1/min]\n" + rows(lambda i: f"{i},{40 + i},22.5,60,1200"),
        29,
        [
            ("T_cpu", "°C", "temperature", 69),
            ("T_amb", "°C", "temperature", 22.5),
            ("P_cpu", "W", "power", 60),
            ("n_fan", "rpm", "speed", 1200),
        ],
    ),
    "lowest and highest below the header": (
        "Time,CPU [C]\nMin,40\nMax,70\n" + rows(lambda i: f"{i},{40 + i}"),
        29,
        [("CPU", "°C", "temperature", 69)],
    ),
    "a line break in quoted names": (
        '"Time";"CPU\nTemp\n(°C)"\n' + rows(lambda i: f'"{i}";"{40 + i},5"'),
        29,
        [("CPU Temp", "°C", "temperature", 69.5)],
    ),
    "newest first": (
        "Time,CPU Temp\n" + rows(lambda i: f"10:00:{59 - i:02d},{40 + i}"),
        29,
        [("CPU Temp", "°C", "temperature", 40)],
    ),
    "objects within objects": (
        rows(lambda i: json.dumps({"ts": 1760000000 + i, "cpu": {"temp": 40 + i}, "fan": "on"})),
        29,
        [("cpu temp", "°C", "temperature", 69), ("fan", "", "state", 1)],
    ),
}


@pytest.mark.parametrize("name", CASES)
def test_odd_logs(name):
    text, length, channels = CASES[name]
    log = read_log(text.encode())
    report = log.report
    assert log.time_s[-1] == pytest.approx(length)
    assert len(log.time_s) == ROWS
    told = [(c.name, c.unit, c.quantity, float(log.values[-1, i])) for i, c in enumerate(channels_of(log))]
    assert told == [(n, u, q, pytest.approx(v)) for n, u, q, v in channels]
    assert report.kept + report.repaired + report.skipped + report.header == report.lines == text.count("\n")


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("Time,CPU [digits]\n" + rows(lambda i: f"{i},{320 + i}"), "the unit 'digits' is not known"),
        ("Time,CPU Temp\n" + rows(lambda i: f"{i},{320 + i}"), "349 would be hot in °C"),
        ("Time;A;B\n" + rows(lambda i: f"{i};{40 + i};50"), "neither unit nor name tells"),
    ],
)
def test_what_no_one_can_know_is_asked(text, says):
    asked = channels_of(read_log(text.encode()))[0]
    assert says in asked.ask
    assert (asked.unit, asked.quantity) == ("", "unknown")


@pytest.mark.parametrize("high", [129.0, 131.0])
def test_from_here_on_a_temperature_without_unit_is_asked_about(high):
    text = "Time,CPU Temp\n" + rows(lambda i: f"{i},{high}") + f"30,{high}\n"
    assert bool(channels_of(read_log(text.encode()))[0].ask) is (high > 130)


def test_hours_and_minutes_from_nought_may_be_minutes_and_seconds():
    with pytest.raises(ClockUnknown, match="may be of hours or of minutes; say how many seconds"):
        read_log(("Elapsed,CPU Temp\n" + rows(lambda i: f"00:{i:02d},{40 + i}")).encode())
    told = read_log(("Elapsed,CPU Temp\n" + rows(lambda i: f"00:{i:02d},{40 + i}")).encode(), 5.0)
    assert told.time_s[-1] == 145.0


class TestDead:
    @pytest.mark.parametrize("at", [0, 127, -127, 128, 255])
    def test_a_sensor_that_is_not_there(self, at):
        found = self.read(lambda i: f"{at}")
        assert found.dead
        assert f"stands at {at}" in found.reason

    @pytest.mark.parametrize("written", ["22.5", "126"])
    def test_a_temperature_that_stands_elsewhere_is_one(self, written):
        assert not self.read(lambda i: written).dead

    def test_one_that_moves_is_none(self):
        assert not self.read(lambda i: str(127 - i % 2)).dead

    def test_where_nothing_moves_nobody_can_tell(self):
        log = read_log(("Time,CPU [C],T4 [C]\n" + rows(lambda i: f"{i},0,0")).encode())
        assert not any(channel.dead for channel in channels_of(log))

    def read(self, cell):
        log = read_log(("Time,CPU [C],T4 [C]\n" + rows(lambda i: f"{i},{40 + i},{cell(i)}")).encode())
        return channels_of(log)[1]


@pytest.mark.parametrize(
    ("cells", "values"),
    [
        (("~71", "72?", "73"), (71, 72, 73)),
        (("1'104", "998", "1'200"), (1104, 998, 1200)),
        (("1 104", "998", "1 200"), (1104, 998, 1200)),
        (("1.104,5", "998,5", "1.200,5"), (1104.5, 998.5, 1200.5)),
        (("1,104.5", "998.5", "1,200.5"), (1104.5, 998.5, 1200.5)),
        (("1.5e3", "2e2", "-3"), (1500, 200, -3)),
        (("−5", "+6", ".5"), (-5, 6, 0.5)),
        (("12.0 W", "13.0 W", "14 W"), (12, 13, 14)),
    ],
)
def test_cells(cells, values):
    log = read_log(("Time;Power\n" + rows(lambda i: f"{i};{cells[i % 3]}")).encode())
    assert log.values[:3, 0] == pytest.approx(values)


def test_a_file_that_is_no_table_is_refused():
    with pytest.raises(LogRefused, match="no table"):
        read_log(b"some words\nand some more of them\nno figures at all\n")


def test_missing_cells_stay_missing():
    log = read_log(("Time,CPU [C]\n" + rows(lambda i: f"{i},{'' if i % 3 else 40 + i}")).encode())
    assert np.isnan(log.values[1, 0])
    assert np.isfinite(log.values[3, 0])


class TestThresholds:
    """Both sides of what decides how a cell, a name or a clock is taken."""

    def one(self, header, line, count=ROWS):
        log = read_log((header + "\n" + rows(line, count)).encode())
        return log, channels_of(log)

    @pytest.mark.parametrize(("glitches", "dead"), [(3, True), (6, False)])
    def test_a_dead_sensor_may_twitch_in_two_of_a_hundred_rows(self, glitches, dead):
        _, channels = self.one("Time,CPU [C],T4 [C]", lambda i: f"{i},{40 + i % 9},{127 if i >= glitches else 90}", 200)
        assert channels[1].dead is dead

    def test_a_clock_is_written_without_decimals(self):
        log, _ = self.one("Time;CPU [MHz];Probe [GHz]", lambda i: f"{i};1.10{i % 10};1.104")
        assert log.values[3] == pytest.approx([1103, 1104])
        log, _ = self.one("Time;CPU [MHz];Pressure [bar]", lambda i: f"{i};1.10{i % 10};1.104")
        assert log.values[3] == pytest.approx([1103, 1.104e5])

    @pytest.mark.parametrize(("share", "unit"), [(0.5, ""), (0.9, "W")])
    def test_a_unit_is_the_columns_where_most_cells_carry_it(self, share, unit):
        log, _ = self.one("Time;T9", lambda i: f"{i};{70 + i} W" if i < share * ROWS else f"{i};{70 + i}")
        assert log.units == [unit]
        assert log.values[-1] == pytest.approx([99])

    @pytest.mark.parametrize(
        ("unit", "unit_kept", "kept"),
        [
            ("gpm", "l/min", 3.785411784),
            ("l/h", "l/min", 1 / 60),
            ("°F", "°C", (1 - 32) / 1.8),
            ("K", "°C", 1 - 273.15),
            ("GHz", "MHz", 1000),
            ("mW", "W", 0.001),
            ("kW", "W", 1000),
            ("mV", "V", 0.001),
            ("psi", "Pa", 6894.757),
        ],
    )
    def test_units_are_kept_in_one_each(self, unit, unit_kept, kept):
        log, _ = self.one(f"Time;A [{unit}]", lambda i: f"{i};1")
        assert log.units == [unit_kept]
        assert log.values[0, 0] == pytest.approx(kept)

    @pytest.mark.parametrize(
        ("header", "names", "units"),
        [
            ("Time;Rail C;CPU;GPU;Pump", ["Rail C", "CPU", "GPU", "Pump"], ["", "", "", ""]),
            ("Time;CPU C;GPU C;Drive C;Pump", ["CPU", "GPU", "Drive", "Pump"], ["°C", "°C", "°C", ""]),
            ("Time;CPU C;GPU C;Drive C;Fan C", ["CPU", "GPU", "Drive", "Fan C"], ["°C", "°C", "°C", ""]),
        ],
    )
    def test_a_lone_letter_is_a_unit_where_most_names_end_so(self, header, names, units):
        log, _ = self.one(header, lambda i: f"{i};40;50;60;70")
        assert (log.names, log.units) == (names, units)

    def test_large_seconds_are_no_days_of_a_spreadsheet(self):
        log, _ = self.one("Time,CPU Temp", lambda i: f"{45000 + i},{40 + i}")
        assert log.time_s[-1] == 29

    def test_of_two_forms_the_one_in_which_least_time_passes(self):
        """Written month first, over midnight: day first it would be a month."""
        stamps = ["02/01/2026 23:59:58", "02/01/2026 23:59:59", "02/02/2026 00:00:00", "02/02/2026 00:00:01"]
        log = read_log(("When,CPU [C]\n" + "".join(f"{s},{40 + i}\n" for i, s in enumerate(stamps))).encode())
        assert log.time_s == pytest.approx([0, 1, 2, 3])
        assert log.report.repaired == 0

    def test_a_stamp_that_stands_once_is_no_rounding(self):
        log = read_log(b"Time [s],CPU [C]\n" + b"".join(b"%d,40\n" % t for t in (0, 1, 2, 2, 3, 4, 5, 6)))
        assert log.time_s == pytest.approx([0, 1, 2, 2, 3, 4, 5, 6])

    def test_a_later_header_adds_a_column(self):
        text = "Time,CPU [C],GPU [C]\n0,40,50\n1,41,51\nTime,CPU [C],GPU [C],Fan [rpm]\n2,42,52,900\n3,43,53,910\n"
        log = read_log(text.encode())
        assert (log.names, log.units) == (["CPU", "GPU", "Fan"], ["°C", "°C", "rpm"])
        assert log.column("Fan") == pytest.approx([np.nan, np.nan, 900, 910], nan_ok=True)
        assert (log.report.header, log.report.kept) == (2, 4)

    def test_brackets_in_a_name_above_a_row_of_units_stay_out_of_the_name(self):
        log = read_log(b"Time,CPU [C],Mains watts\ns,C,mW\n0,40,5000\n1,41,6000\n")
        assert (log.names, log.units) == (["CPU", "Mains watts"], ["°C", "W"])
        assert log.column("Mains watts") == pytest.approx([5, 6])

    @pytest.mark.parametrize(
        ("name", "page"), [("Temperatura pamięci i grzałki", "cp1250"), ("Lüftergeräusch für Gehäuse", "cp1252")]
    )
    def test_code_pages_are_told_by_their_letters(self, name, page):
        log = read_log((f"Time,{name} [C]\n" + rows(lambda i: f"{i},{40 + i}")).encode(page))
        assert log.names == [name]
        assert log.report.encoding == page
