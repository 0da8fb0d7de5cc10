"""The commands of live runs: the bench as CSV and over HTTP, the logger by its own command."""

import csv
import io
import json
import threading
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer

import pytest
from strategies import raw_recipe

from krill.cli import main


@pytest.fixture
def build(tmp_path):
    path = tmp_path / "build.json"
    path.write_text(json.dumps(raw_recipe()))
    return str(path)


def bench(build, *more):
    return main(["bench", build, "--workload", "both", "--minutes", "3", "--step", "5", *more])


def test_the_bench_prints_a_log_of_idle_load_and_idle(build, capsys):
    assert bench(build) == 0
    rows = list(csv.reader(io.StringIO(capsys.readouterr().out)))
    assert rows[0][0] == "Time [s]"
    assert any("Processor temperature [°C]" in cell for cell in rows[0])
    assert [float(rows[1][0]), float(rows[-1][0])] == [0.0, 60.0 * 12]
    watts = rows[0].index("Graphics power [W]")
    assert float(rows[70][watts]) > 5 * float(rows[10][watts])


def test_an_exact_bench_is_the_same_for_every_seed_but_for_noise(build, capsys):
    found = []
    for seed in ("1", "2"):
        assert bench(build, "--exact", "--seed", seed) == 0
        rows = list(csv.reader(io.StringIO(capsys.readouterr().out)))
        at = next(i for i, cell in enumerate(rows[0]) if "coolant hot" in cell)
        found.append([float(row[at]) for row in rows[1:]])
    assert max(abs(a - b) for a, b in zip(*found, strict=True)) < 1.0


@pytest.mark.parametrize(
    ("more", "says"),
    [
        (["--fault", "melts@3min"], "no fault of this build"),
        (["--workload", "none"], "no workload 'none'"),
        (["--live", "nowhere"], "no address of a live run"),
    ],
)
def test_what_cannot_be_is_told_in_a_sentence(build, capsys, more, says):
    assert bench(build, *more) == 1
    assert says in capsys.readouterr().err


def serving(codes):
    """A live run that stores what it is sent, after it has answered with some codes."""
    stored = []

    class Handler(BaseHTTPRequestHandler):
        def do_POST(self):
            body = self.rfile.read(int(self.headers["Content-Length"])).decode()
            code = codes.pop(0) if codes else 200
            if code == 200:
                stored.append((self.headers["Authorization"], body))
            self.send_response(code)
            self.end_headers()

        def log_message(self, *_):
            pass

    server = ThreadingHTTPServer(("127.0.0.1", 0), Handler)
    threading.Thread(target=server.serve_forever, daemon=True).start()
    return server, f"http://127.0.0.1:{server.server_port}/api/live/one", stored


def test_live_it_sends_every_row_in_order_whatever_the_server_answers_first(build, monkeypatch):
    monkeypatch.setenv("KRILL_TOKEN", "secret")
    server, address, stored = serving([503, 200, 500])
    assert bench(build, "--live", address, "--speed", "600", "--fault", "logger-restarts@1min") == 0
    server.shutdown()
    server.server_close()
    assert {token for token, _ in stored} == {"Bearer secret"}
    sessions = {}
    for _, text in stored:
        header, *rows = map(json.loads, text.splitlines())
        assert header["sequence"] == sum(1 for one in sessions.get(header["session"], []) if one[0] == "batch")
        sessions.setdefault(header["session"], []).extend(
            [("batch", header["steady"]), *(("row", row[0]) for row in rows)]
        )
    assert len(sessions) == 2
    for told in sessions.values():
        seconds = [at for kind, at in told if kind == "row"]
        assert seconds == sorted(seconds)
    assert sum(kind == "row" for told in sessions.values() for kind, _ in told) == 145 - 5


def test_a_run_that_takes_nothing_any_more_ends_the_bench(build, monkeypatch, capsys):
    monkeypatch.setenv("KRILL_TOKEN", "secret")
    server, address, _ = serving([410] * 50)
    assert bench(build, "--live", address, "--speed", "600") == 1
    server.shutdown()
    server.server_close()
    assert "takes nothing any more" in capsys.readouterr().err


def test_the_logger_is_begun_with_its_own_options(capsys):
    assert main(["log", "--once"]) == 0
    assert "Processor use" in capsys.readouterr().out
    with pytest.raises(SystemExit):
        main(["log"])
    assert "nowhere to write" in capsys.readouterr().err
