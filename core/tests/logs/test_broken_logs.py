"""Logs that something has broken: every one is read or refused in words, and its lines add up."""

import gzip
import json
import random

import numpy as np
import pytest
from independent.any_logs import any_log
from mutated import ROUNDS

from krill.errors import ClockUnknown, KrillError, LogRefused
from krill.logs.channels import channels_of
from krill.logs.log import read_log
from krill.records import to_json
from krill.runs.settle import settle
from krill.runs.whole_log import whole_log

JUNK = (
    b'"',
    b'""',
    b",",
    b";",
    b"\x00",
    b"\xff",
    b"1e999",
    b"9" * 400,
    b"inf",
    b"nan",
    b"\n\n",
    b"\r",
    b"99999-01-01 00:00:00",
    b"\xed\xa0\x80",
    b"\t",
    b"-",
    b"~",
    b"?",
    b"{",
    b"\x1f",
    b"\x85",
    b"\xe2\x80\xa8",
)


def broken(seed):
    """The beginning of a made log with bytes put in, taken out and doubled."""
    chance = random.Random(seed)
    data = bytearray(any_log(seed % 40).data[:6000])
    for _ in range(chance.randrange(1, 8)):
        at, kind = chance.randrange(len(data)), chance.random()
        if kind < 0.5:
            data[at:at] = chance.choice(JUNK)
        elif kind < 0.8:
            del data[at : at + chance.randrange(1, 60)]
        else:
            start = chance.randrange(len(data))
            data[at:at] = data[start : start + 200]
    return bytes(data)


def test_broken_logs_are_read_or_refused_in_words():
    kept = 0
    for seed in range(160 * ROUNDS):
        try:
            log = read_log(broken(seed), 5.0)
        except KrillError:
            continue
        report = log.report
        assert report.kept + report.repaired + report.skipped + report.header == report.lines, seed
        assert report.kept >= 0, seed
        channels_of(log)
        kept += 1
    assert kept > 100


@pytest.mark.parametrize("seed", range(6))
def test_what_is_said_of_a_broken_log_is_json(seed):
    try:
        log = read_log(broken(seed), 5.0)
    except KrillError:
        return
    json.dumps(to_json(whole_log(log)), allow_nan=False)


@pytest.mark.parametrize("at", [12, 30, 200])
def test_a_damaged_gzip_is_refused(at):
    data = bytearray(gzip.compress(any_log(3).data))
    data[at : at + 3] = b"xyz"
    with pytest.raises(LogRefused, match="gzip file is damaged"):
        read_log(bytes(data))


def rows(cell):
    return "".join(f"{i},{cell(i)}\n" for i in range(30))


@pytest.mark.parametrize(("figure", "read"), [("9" * 18, True), ("9" * 20, False), ("1e999", False), ("inf", False)])
def test_a_figure_beyond_anything_measured_is_none(figure, read):
    log = read_log(("Time,Count\n" + rows(lambda i: figure if i == 3 else i)).encode())
    assert bool(log.values[3, 0] == log.values[3, 0]) is read


def test_a_sign_that_no_text_has_parts_no_cell():
    log = read_log(("Time,Note,CPU [C]\n" + "".join(f"{i},a\x1fb,{40 + i}\n" for i in range(30))).encode())
    assert log.column("CPU")[-1] == 69


def test_a_clock_that_stands_still_is_none():
    text = "Time [s],CPU [C],CPU Power [W]\n" + "".join(f"7,{40 + i % 3},0\n" for i in range(60))
    with pytest.raises(ClockUnknown):
        read_log(text.encode())


def test_where_no_time_passes_nothing_settles():
    assert settle(np.full(60, 7.0), 40.0 + np.arange(60) % 3) is None
