"""Logs of many makers, none made by the generator: kept, repaired and skipped lines are counted."""

import gzip

import numpy as np
import pytest

from krill.errors import LogRefused
from krill.logs.limits import MAX_BYTES
from krill.logs.log import read_log

BODY = "".join(f"{t},{50 + t / 10:.1f},{1200 + t}\n" for t in range(0, 50, 5))
COMMAS = "".join(f"{t};{50 + t / 10:.1f}\n".replace(".", ",") for t in range(10))
FILES = {
    "comma": (("Time,CPU,Fan\n" + BODY).encode(), 10, 0, 0),
    "semicolon_decimal_comma": (("Zeit;CPU\n" + COMMAS).encode(), 10, 0, 0),
    "tab": (("t\tCPU\n" + "".join(f"{t}\t{t + 40}\n" for t in range(8))).encode(), 8, 0, 0),
    "utf16": (("Time,CPU\n" + "".join(f"{t},{t + 40}\n" for t in range(8))).encode("utf-16"), 8, 0, 0),
    "utf8_mark": (b"\xef\xbb\xbf" + b"Time,CPU\n0,40\n1,41\n2,42\n", 3, 0, 0),
    "degree_sign_in_old_encoding": (b"Time,CPU [\xb0C]\n0,40\n1,41\n", 2, 0, 0),
    "units_row": (b"Time,CPU,Power\ns,C,W\n0,40,10\n1,41,11\n2,42,12\n", 3, 0, 0),
    "repeated_header": (b"Time,CPU\n0,40\n1,41\nTime,CPU\n2,42\n3,43\n", 4, 0, 1),
    "clock_jumps_back": (b"Time,CPU\n100,40\n101,41\n3,42\n4,43\n5,44\n", 4, 1, 0),
    "columns_grow": (b"Time,CPU\n0,40\n1,41\n2,42,9\n3,43,9\n", 2, 2, 0),
    "short_lines": (b"Time,CPU,GPU\n0,40,50\n1,41\n2,42,52\n", 2, 1, 0),
    "text_marks": (b"Time,CPU\n0,40\n1,N/A\n2,throttled\n3,43\n", 2, 2, 0),
    "duplicate_names": (b"Time,CPU,CPU\n0,40,41\n1,42,43\n", 2, 0, 0),
    "gzip": (gzip.compress(b"Time,CPU\n0,40\n1,41\n2,42\n"), 3, 0, 0),
    "json_lines": (b'{"time": 0, "cpu": 40}\n{"time": 1, "cpu": 41}\nbroken\n', 2, 0, 1),
    "preamble": (b"some logger 1.2\nstarted by hand\nTime,CPU\n0,40\n1,41\n", 2, 0, 2),
    "quoted": (b'"Time","CPU, hottest"\n"0","40"\n"1","41"\n', 2, 0, 0),
    "quoted_comma": (b'Time,Note,CPU\n0,"a,b",40\n1,"c, d",41\n2,e,42\n', 3, 0, 0),
    "quoted_decimal_comma": (b'Time,CPU\n0,"40,5"\n1,"41,5"\n2,42\n', 3, 0, 0),
    "quoted_semicolon": (b'Time;Note;CPU\n0;"a;b";40\n1;c;41\n', 2, 0, 0),
    "summary": (b"Time,CPU\n0,40\n1,41\nMaximum,41\nAverage:,40.5\n", 2, 0, 2),
    "summary_without_time": (b"Time,CPU\n0,40\n1,41\n,max,41\n", 2, 0, 1),
    "empty_lines": (b"Time,CPU\n0,40\n\n1,41\n\n", 2, 0, 2),
    "missing_cells": (b"Time,CPU,GPU\n0,40,\n1,,51\n2,42,52\n", 3, 0, 0),
    "date_and_time": (b"Date,Time,CPU\n25.11.2026,10:00:00,40\n25.11.2026,10:00:05,41\n", 2, 0, 0),
    "midnight": (b"Time,CPU\n23:59:58,40\n23:59:59,41\n00:00:01,42\n", 3, 0, 0),
}


@pytest.mark.parametrize("name", FILES)
def test_counts_of_kept_repaired_and_skipped_lines(name):
    data, kept, repaired, skipped = FILES[name]
    report = read_log(data).report
    assert (report.kept, report.repaired, report.skipped) == (kept, repaired, skipped), report
    assert report.kept + report.repaired + report.skipped + report.header == report.lines
    assert sum(report.reasons.values()) >= repaired + skipped


def test_values_survive_their_dress():
    log = read_log(FILES["semicolon_decimal_comma"][0])
    assert log.report.decimal == ","
    assert log.column("CPU") == pytest.approx(50 + np.arange(10) / 10)
    log = read_log(FILES["clock_jumps_back"][0])
    assert np.all(np.diff(log.time_s) > 0)
    assert read_log(FILES["midnight"][0]).time_s == pytest.approx([0, 1, 3])
    assert read_log(FILES["date_and_time"][0]).time_s == pytest.approx([0, 5])
    assert read_log(FILES["duplicate_names"][0]).names == ["CPU", "CPU (2)"]
    assert read_log(FILES["quoted"][0]).names == ["CPU, hottest"]
    assert read_log(FILES["degree_sign_in_old_encoding"][0]).units == ["°C"]
    assert np.isnan(read_log(FILES["text_marks"][0]).column("CPU")[1])
    assert read_log(FILES["quoted_comma"][0]).column("CPU") == pytest.approx([40, 41, 42])
    assert read_log(FILES["quoted_decimal_comma"][0]).column("CPU") == pytest.approx([40.5, 41.5, 42])
    assert read_log(FILES["quoted_semicolon"][0]).column("CPU") == pytest.approx([40, 41])
    assert read_log(FILES["summary"][0]).column("CPU") == pytest.approx([40, 41])


def test_a_maximum_in_the_middle_of_a_log_is_no_summary():
    """Only the end of a file adds it up: a word elsewhere is a cell that holds no figure."""
    log = read_log(b"Time,State,CPU\n0,idle,40\n1,max,41\n2,idle,42\n")
    assert log.column("CPU") == pytest.approx([40, 41, 42])


@pytest.mark.parametrize(
    ("data", "why"),
    [
        (b"", "empty"),
        (b"\n\n", "empty"),
        (bytes(range(256)) * 8, "binary"),
        (b"just words\nand more\n", "no table"),
        (b"Time,CPU\n", "rows"),
        (b"Time,CPU\n0,40\n", "two"),
        (b"\x1f\x8bgarbage", "damaged"),
    ],
)
def test_what_is_no_log_is_refused_with_the_reason(data, why):
    with pytest.raises(LogRefused, match=why):
        read_log(data)


def test_over_the_limit_is_refused_with_the_limit():
    with pytest.raises(LogRefused, match="50 MB"):
        read_log(b" " * (MAX_BYTES + 1))
