"""Logs are read beside the server: what is too much for a reader ends the reader, and the next log is read by a new one."""

import gzip
import os
import signal
from pathlib import Path

import pytest

from krill.errors import ClockUnknown, LogRefused
from krill.logs.apart import Bounds
from krill.logs.log import read_log
from runs.reading import Reader

LOG = ("Time [s],Core [C]\n" + "\n".join(f"{t},{40 + t % 7}" for t in range(90))).encode()


def large(rows):
    """A small file with much inside."""
    return gzip.compress(("Time [s],a,b\n" + "\n".join(f"{t},{'word ' * 12},5" for t in range(rows))).encode())


@pytest.fixture
def reader():
    made = Reader(Bounds(megabytes=150, seconds=20))
    yield made
    made.end()


def test_a_log_is_what_it_is_when_it_is_read_here(reader):
    found, here = reader.read(LOG), read_log(LOG)
    assert found.names == here.names
    assert found.values.tobytes() == here.values.tobytes()
    assert found.report == here.report


def test_refusals_are_those_of_the_reader(reader):
    with pytest.raises(LogRefused, match="empty"):
        reader.read(b"")
    with pytest.raises(ClockUnknown, match="no column tells the time"):
        reader.read(LOG.replace(b"Time [s]", b"Fan [C]"))
    assert len(reader.read(LOG.replace(b"Time [s]", b"Fan [C]"), 2.0).time_s) == 90


def test_a_file_that_needs_too_much_memory_is_refused_in_words_and_the_next_one_is_read(reader):
    with pytest.raises(LogRefused, match=r"more than 150 MB of memory or 20 s to be read; divide it"):
        reader.read(large(900_000))
    assert len(reader.read(LOG).time_s) == 90


def test_a_file_that_takes_too_long_is_refused_in_words():
    reader = Reader(Bounds(megabytes=900, seconds=1))
    try:
        with pytest.raises(LogRefused, match=r"900 MB of memory or 1 s"):
            reader.read(b"t,a\n1,2\n" + b'"\n' * 2_000_000)  # quotes that nobody closes: each line is looked at alone
    finally:
        reader.end()


def test_a_reader_is_told_no_secret_of_the_server(reader, monkeypatch):
    monkeypatch.setenv("KRILL_SECRET", "of-the-server")
    reader.read(LOG)
    told = Path(f"/proc/{reader.process.pid}/environ").read_bytes()
    assert b"of-the-server" not in told
    assert b"PGPASSWORD" not in told


def test_a_reader_that_was_killed_is_begun_again(reader):
    reader.read(LOG)
    assert reader.process is not None
    os.kill(reader.process.pid, signal.SIGKILL)
    reader.process.wait()
    assert len(reader.read(LOG).time_s) == 90
