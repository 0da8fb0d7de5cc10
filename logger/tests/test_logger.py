"""The logger: what it reads, that what it read survives it, and that it sends until it is stored."""

import csv
import json
import os
import signal
import subprocess
import sys
import threading
import time
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from pathlib import Path

import pytest

from krill_log.batches import Session, row
from krill_log.command import command
from krill_log.host import Host
from krill_log.logger import Logger
from krill_log.sender import LONGEST_WAIT_S, RunOver, Sender, checked_address
from krill_log.spool import MOST_BYTES, REFUSED, Spool, SpoolTaken

HERE = Path(__file__).parents[1]


class Stub:
    """A live run that answers as it is told, and keeps what it stored."""

    def __init__(self):
        self.stored, self.answers, self.asked = [], [], []
        stub = self

        class Handler(BaseHTTPRequestHandler):
            def do_POST(self):
                body = self.rfile.read(int(self.headers["Content-Length"]))
                stub.asked.append((self.path, dict(self.headers)))
                code = stub.answers.pop(0) if stub.answers else 200
                if code == 200:
                    stub.stored.append(body.decode())
                self.send_response(code)
                self.end_headers()
                self.wfile.write(b"{}")

            def log_message(self, *_):
                pass

        self.server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
        self.url = f"http://127.0.0.1:{self.server.server_port}/api/live/one"
        threading.Thread(target=self.server.serve_forever, daemon=True).start()

    def rows(self):
        """(session, sequence, seconds) of every row that was stored."""
        found = []
        for text in self.stored:
            header, *rows = map(json.loads, text.splitlines())
            found += [(header["session"], header["sequence"], row[0]) for row in rows]
        return found


@pytest.fixture
def stub():
    made = Stub()
    yield made
    made.server.shutdown()
    made.server.server_close()


@pytest.fixture
def sender(stub, tmp_path):
    made = Sender(stub.url, "secret", Spool(tmp_path / "spool"), lambda text: None)
    yield made
    made.spool.close()


class Figures:
    """A reader of two channels."""

    def __init__(self):
        self.count = 0

    def channels(self):
        return [("Processor temperature", "°C"), ("Fan, rear", "rpm")]

    def read(self):
        self.count += 1
        return [40.0 + self.count, None]


def put(spool, count=3):
    session = Session("s1", 1.0, [("a", "°C")])
    for number in range(count):
        growing = spool.begin(*session.header(1e9 + number, float(number)))
        growing.add(row(float(number), [20.0 + number]))
        growing.close()


def test_a_batch_says_whose_it_is_and_holds_null_for_what_is_missing():
    session = Session("s1", 0.5, [("a", "°C"), ("b", "W")])
    name, header = session.header(1e9, 2.0)
    assert json.loads(header) == {
        "session": "s1",
        "sequence": 0,
        "clock": 1e9,
        "steady": 2.0,
        "interval_s": 0.5,
        "channels": [{"name": "a", "unit": "°C"}, {"name": "b", "unit": "W"}],
    }
    assert (name, session.sequence) == ("s1-00000000", 1)
    assert json.loads(row(1.25, [20.5, None])) == [1.25, 20.5, None]
    assert json.loads(row(1.75, [float("nan"), 3.0])) == [1.75, None, 3.0]


def test_a_spool_keeps_its_order_over_a_restart(tmp_path):
    spool = Spool(tmp_path)
    put(spool)
    spool.close()
    again = Spool(tmp_path)
    assert [path.stem[-2:] for path in again.waiting()] == ["00", "01", "02"]
    again.drop(again.waiting()[0])
    assert len(again.waiting()) == 2
    again.close()


@pytest.mark.parametrize(
    ("left", "lines"),
    [("h\n[0]\n[1]\n", 3), ("h\n[0]\n[1", 2), ("h\n[0", None), ("h\n", None), ("h", None), ("", None)],
)
def test_of_a_batch_that_was_growing_when_its_logger_was_killed_every_whole_row_is_kept(tmp_path, left, lines):
    (tmp_path / "s-00000000.growing").write_text(left)
    spool = Spool(tmp_path)
    waiting = spool.waiting()
    assert [len(path.read_text().splitlines()) for path in waiting] == ([] if lines is None else [lines])
    assert not list(tmp_path.glob("*.growing"))
    spool.close()


def test_two_loggers_do_not_write_to_one_spool(tmp_path):
    spool = Spool(tmp_path)
    with pytest.raises(SpoolTaken):
        Spool(tmp_path)
    spool.close()
    Spool(tmp_path).close()


def test_a_full_spool_takes_nothing_more_and_says_so(tmp_path, monkeypatch):
    spool = Spool(tmp_path)
    put(spool, 1)
    monkeypatch.setattr("krill_log.spool.MOST_BYTES", 10)
    assert spool.begin("more", "x") is None
    assert MOST_BYTES == 1024**3
    spool.close()


def test_a_batch_that_is_sent_while_the_spool_is_looked_at_does_no_harm(tmp_path):
    """A thread drops what is stored while the other one lists what waits."""
    spool, over = Spool(tmp_path), threading.Event()
    wrong = []

    def drop():
        while not over.is_set():
            for path in tmp_path.glob("*.jsonl"):
                spool.drop(path)

    dropping = threading.Thread(target=drop)
    dropping.start()
    try:
        for number in range(1500):
            growing = spool.begin(f"a-{number:08d}", "{}")
            growing.close()
            spool.waiting()
    except FileNotFoundError as error:
        wrong.append(error)
    finally:
        over.set()
        dropping.join()
        spool.close()
    assert wrong == []


def test_batches_go_out_the_oldest_first_with_the_token_and_are_dropped_once_stored(stub, sender):
    put(sender.spool)
    while sender.send_oldest():
        pass
    assert [row[1] for row in stub.rows()] == [0, 1, 2]
    assert sender.spool.waiting() == []
    path, headers = stub.asked[0]
    assert path == "/api/live/one/batches"
    assert headers["Authorization"] == "Bearer secret"


@pytest.mark.parametrize("code", [429, 500, 502, 503])
def test_what_is_not_stored_waits_longer_each_time_and_is_sent_again(stub, sender, code):
    put(sender.spool, 1)
    stub.answers = [code] * 9
    waits = []
    for _ in range(9):
        assert not sender.send_oldest()
        waits.append(sender.wait_s)
    assert waits[:3] == [0.5, 1.0, 2.0]
    assert waits[-1] == LONGEST_WAIT_S
    assert sender.send_oldest()
    assert sender.wait_s == 0.0
    assert len(stub.stored) == 1


def test_without_a_server_nothing_is_lost(stub, sender):
    put(sender.spool)
    stub.server.shutdown()
    stub.server.server_close()
    assert not sender.send_oldest()
    assert len(sender.spool.waiting()) == 3


@pytest.mark.parametrize("code", [401, 403, 404, 410])
def test_a_run_that_is_over_is_told_and_what_waits_is_kept(stub, sender, code):
    put(sender.spool, 2)
    stub.answers = [code]
    with pytest.raises(RunOver):
        sender.send_oldest()
    assert len(sender.spool.waiting()) == 2


def test_a_batch_that_cannot_be_taken_is_set_aside_and_the_next_goes_on(stub, sender):
    put(sender.spool, 2)
    stub.answers = [422]
    assert sender.send_oldest()
    assert sender.send_oldest()
    assert [row[1] for row in stub.rows()] == [1]
    assert [path.name for path in (sender.spool.folder / REFUSED).iterdir()] == ["s1-00000000.jsonl"]


@pytest.mark.parametrize("url", ["", "host/api/live/1", "ftp://host/api/live/1", "http://host/other"])
def test_an_address_that_is_none_is_refused_with_what_is(url):
    with pytest.raises(ValueError, match="allowed"):
        checked_address(url)
    assert checked_address("https://host/api/live/1/") == "https://host/api/live/1"


def test_it_reads_writes_and_sends_side_by_side(stub, sender, tmp_path):
    ended = threading.Event()
    file = tmp_path / "run.csv"
    logger = Logger(Figures(), 0.02, file, sender, lambda text: None, batch_s=0.1)
    threading.Timer(0.8, ended.set).start()
    logger.run(ended)
    rows = list(csv.reader(file.read_text().splitlines()))
    assert rows[0] == ["Time [s]", "Processor temperature [°C]", "Fan, rear [rpm]"]
    assert rows[1][2] == ""
    assert len(stub.rows()) == len(rows) - 1
    assert len(rows) > 20
    assert [row[2] for row in stub.rows()] == sorted(row[2] for row in stub.rows())
    assert sender.spool.waiting() == []


def test_when_the_run_is_over_the_csv_goes_on(stub, sender, tmp_path):
    stub.answers = [410] * 1000
    ended = threading.Event()
    file = tmp_path / "run.csv"
    threading.Timer(0.8, ended.set).start()
    Logger(Figures(), 0.02, file, sender, lambda text: None, batch_s=0.05).run(ended)
    assert len(file.read_text().splitlines()) > 20


def test_when_the_run_is_over_and_no_csv_is_written_it_ends(stub, sender):
    stub.answers = [410] * 1000
    began = time.monotonic()
    Logger(Figures(), 0.02, None, sender, lambda text: None, batch_s=0.05).run(threading.Event())
    assert time.monotonic() - began < 10


def write(path, text):
    path.parent.mkdir(parents=True, exist_ok=True)
    path.write_text(str(text))


def test_it_reads_what_the_host_tells_and_nothing_that_cannot_be(tmp_path):
    chip = tmp_path / "hwmon/hwmon0"
    write(chip / "name", "chip")
    write(chip / "temp1_input", 45500)
    write(chip / "temp1_label", "Package")
    write(chip / "temp2_input", 255000)
    write(chip / "fan1_input", 1320)
    write(chip / "power1_average", 35_000_000)
    package = tmp_path / "powercap/package-0"
    write(package / "name", "package-0")
    write(package / "energy_uj", 1_000_000)
    write(package / "max_energy_range_uj", 10_000_000)
    clock = [0.0]
    host = Host(tmp_path / "hwmon", tmp_path / "powercap", lambda: clock[0])
    names = host.channels()
    clock[0] = 2.0
    write(package / "energy_uj", 21_000_000)
    found = dict(zip(names, host.read(), strict=True))
    assert found["chip Package temperature", "°C"] == 45.5
    assert found["chip temp2 temperature", "°C"] is None  # no sensor is that hot
    assert found["chip fan1 speed", "rpm"] == 1320
    assert found["chip power1 power", "W"] == 35.0
    assert found["package-0 power", "W"] == 10.0
    assert ("Processor use", "%") in found
    # a counter that wraps goes on from its range
    clock[0] = 3.0
    write(package / "energy_uj", 16_000_000)
    assert dict(zip(names, host.read(), strict=True))["package-0 power", "W"] == 5.0
    (chip / "temp1_input").unlink()
    assert len(host.channels()) == len(names) - 1


def test_channels_of_one_name_are_numbered(tmp_path):
    for number in (0, 1, 2):
        write(tmp_path / f"hwmon{number}/name", "disk")
        write(tmp_path / f"hwmon{number}/temp1_input", 40_000)
    names = [name for name, _ in Host(tmp_path, tmp_path / "none").channels()]
    assert names[:3] == ["disk temp1 temperature", "disk temp1 temperature #2", "disk temp1 temperature #3"]


@pytest.mark.parametrize(
    ("asked", "says"),
    [
        ([], "nowhere to write"),
        (["--csv", "x", "--interval", "0.001"], "--interval"),
        (["--to", "http://host/x"], "no address"),
        (["--to", "http://host/api/live/1"], "no token"),
    ],
)
def test_a_wrong_call_is_told_in_a_sentence(asked, says, capsys, monkeypatch):
    monkeypatch.delenv("KRILL_TOKEN", raising=False)
    with pytest.raises(SystemExit) as ended:
        command(asked)
    assert ended.value.code == 2
    assert says in capsys.readouterr().err


def test_once_shows_what_would_be_read(capsys):
    command(["--once"])
    assert "Processor use" in capsys.readouterr().out


def _rows(path):
    return len(path.read_text().splitlines()) > 1


@pytest.mark.parametrize("kill", [signal.SIGKILL, signal.SIGTERM])
def test_what_was_read_before_the_logger_was_killed_is_sent_by_the_next(stub, tmp_path, kill):
    """The server is away; the logger is killed; the next one sends what the first had put aside, then its own."""
    stub.answers = [503] * 3
    environment = {**os.environ, "KRILL_TOKEN": "secret", "PYTHONPATH": str(HERE)}
    call = [sys.executable, "-m", "krill_log", "--interval", "0.05", "--to", stub.url, "--spool", str(tmp_path)]
    first = subprocess.Popen(call, env=environment, stderr=subprocess.DEVNULL)
    spool = tmp_path / "one"
    until = time.monotonic() + 20
    while len(list(spool.glob("*.jsonl"))) < 2 and time.monotonic() < until:
        time.sleep(0.05)
    first.send_signal(signal.SIGKILL)
    first.wait()
    left = {f"{path.stem}.jsonl" for path in [*spool.glob("*.jsonl"), *spool.glob("*.growing")] if _rows(path)}
    assert left
    second = subprocess.Popen(call, env=environment, stderr=subprocess.DEVNULL)
    until = time.monotonic() + 20
    while len({row[0] for row in stub.rows()}) < 2 and time.monotonic() < until:
        time.sleep(0.05)
    second.send_signal(kill)
    second.wait()
    stored = {f"{session}-{sequence:08d}.jsonl" for session, sequence, _ in stub.rows()}
    assert left <= stored
    assert len({row[0] for row in stub.rows()}) == 2
