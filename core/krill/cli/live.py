"""Commands of live runs: the simulated bench that sends as a logger does, and the logger itself."""

import argparse
import csv
import os
import shutil
import signal
import sys
import tempfile
import threading
import time
from pathlib import Path
from typing import TYPE_CHECKING, Any, Final

from krill.cli.documents import build_from
from krill.cli.figures import ROOM, whole_within, within
from krill.document.build import Build
from krill.document.reading import read_text
from krill.errors import KrillError

if TYPE_CHECKING:
    from krill.simulated_bench.machines import LivePlan
    from krill.simulated_bench.readings import Readings
    from krill_log.sender import Sender

#: the command whose options are the logger's own
LOG: Final = "log"
#: a batch is sent every so many seconds of the wall
SEND_S: Final = 0.5
MOST_ROWS: Final = 2000
FASTEST: Final = 600.0
#: who cannot reach the server for so long gives up, s
GIVES_UP_S: Final = 600.0


def add_commands(command: Any) -> None:
    """``command(name, run, text)`` adds a parser."""
    bench = command("bench", _bench, "run a build on the simulated bench, in time, with what goes wrong on the way")
    bench.add_argument("file", metavar="build", help="build document, - for standard input")
    bench.add_argument("--workload", help="the load (the last one where left out)")
    bench.add_argument("--minutes", type=within(1, 600, "min"), default=60.0, help="how long the load is on")
    bench.add_argument("--room", type=ROOM, default=22.0, help="room temperature, degrees C")
    bench.add_argument("--seed", type=whole_within(0, 2**31), default=1, help="another machine, other noise for each")
    bench.add_argument("--fault", action="append", default=[], help="what goes wrong and when: pump-stops@12min")
    bench.add_argument("--exact", action="store_true", help="as the document says: no hidden deviations, a steady room")
    bench.add_argument("--live", metavar="ADDRESS", help="send to this live run; its token stands in KRILL_TOKEN")
    bench.add_argument("--speed", type=within(1, FASTEST, "times"), default=1.0, help="times as fast as the clock")
    bench.add_argument("--step", type=within(0.1, 60, "s"), default=2.0, help="seconds between two rows")
    command(LOG, None, "log this machine's sensors: CSV, or sent to a live run; krill log --help tells more")


def log(options: list[str]) -> None:
    """The logger with its own options. KrillError where it is not installed."""
    try:
        from krill_log.command import command
    except ModuleNotFoundError as missing:
        raise KrillError(
            f"{missing.name} is not installed; the logger is a distribution of its own: krill-log"
        ) from None
    command(options)


def _bench(options: argparse.Namespace) -> None:
    from krill.simulated_bench.faults import fault_from
    from krill.simulated_bench.machines import LivePlan, run_machines
    from krill.simulated_bench.readings import readings_of

    build = read_text(sys.stdin.read()) if options.file == "-" else build_from(options.file)
    workload = _workload(build, options.workload)
    faults = tuple(fault_from(text, build, workload) for text in options.fault)
    plan = LivePlan(workload, options.room, load_min=options.minutes, step_s=options.step, faults=faults)
    plan = plan.exactly() if options.exact else plan
    readings = readings_of(run_machines(build, plan, 1, options.seed), plan, 0, options.seed)
    if options.live is None:
        _write(readings)
        return
    sender = _sender(options.live)
    try:
        _send(sender, readings, plan, options)
    finally:
        sender.spool.close()


def _workload(build: Build, asked: str | None) -> str:
    known = [workload.id for workload in build.workloads]
    if asked is not None and asked not in known:
        raise KrillError(f"there is no workload '{asked}'; known: {', '.join(known)}")
    return asked or known[-1]


def _write(readings: "Readings") -> None:
    writer = csv.writer(sys.stdout, lineterminator="\n")
    titles = [f"{name} [{unit}]" for name, unit in zip(readings.names, readings.units, strict=True)]
    writer.writerow(["Time [s]", *titles])
    for t, row in zip(readings.time_s, readings.values, strict=True):
        writer.writerow([f"{t:g}", *(f"{value:g}" for value in row)])


def _sender(address: str) -> "Sender":
    try:
        from krill_log.sender import Sender, checked_address
        from krill_log.spool import Spool
    except ModuleNotFoundError:
        raise KrillError("the bench sends by the logger, a distribution of its own: install krill-log") from None
    try:
        url = checked_address(address)
    except ValueError as wrong:
        raise KrillError(str(wrong)) from None
    spool = Spool(Path(tempfile.mkdtemp(prefix="krill-bench-")))
    forwarded = os.environ.get("KRILL_FORWARDED", "")
    headers = {"X-Forwarded-Proto": forwarded} if forwarded else {}
    return Sender(url, os.environ.get("KRILL_TOKEN", ""), spool, lambda text: print(text, file=sys.stderr), headers)


def _send(sender: "Sender", readings: "Readings", plan: "LivePlan", options: argparse.Namespace) -> None:
    """Rows go out as fast as ``--speed`` says; what cannot be sent waits in the spool."""
    from krill.simulated_bench.readings import sessions_of
    from krill_log.batches import Session, row

    ended = threading.Event()
    for number in (signal.SIGINT, signal.SIGTERM):
        signal.signal(number, lambda *_: ended.set())
    began, wall = time.monotonic(), time.time()
    channels = list(zip(readings.names, readings.units, strict=True))
    due_s = 0.0
    for part in sessions_of(readings, plan, options.seed, wall):
        session = Session(part.key, plan.step_s, channels)
        first = 0
        while first < len(part.steady_s) and not ended.is_set():
            passed = options.speed * (time.monotonic() - began)
            run_s = part.run_s
            last = min(int(run_s.searchsorted(passed, side="right")), first + MOST_ROWS)
            if last > first:
                growing = sender.spool.begin(*session.header(float(part.clock_s[first]), float(part.steady_s[first])))
                if growing is None:
                    raise KrillError(f"{sender.spool.folder} is full")
                for at in range(first, last):
                    growing.add(row(float(part.steady_s[at]), part.values[at].tolist()))
                growing.close()
                first = last
            _drain(sender)
            due_s += SEND_S
            ended.wait(max(due_s - (time.monotonic() - began), 0.0))
    until = time.monotonic() + GIVES_UP_S
    # what the server did not take in this time stays in the spool, whose name is told
    while sender.spool.waiting() and time.monotonic() < until and not ended.is_set():
        if not _drain(sender):
            ended.wait(max(sender.wait_s, SEND_S))
    if sender.spool.waiting():
        raise KrillError(f"{len(sender.spool.waiting())} batches were not taken; they lie in {sender.spool.folder}")
    shutil.rmtree(sender.spool.folder)


def _drain(sender: "Sender") -> bool:
    """Send what waits until the server does not answer; the command ends where the run takes nothing any more."""
    from krill_log.sender import RunOver

    try:
        sent = sender.send_oldest()
        while sent and sender.send_oldest():
            pass
    except RunOver as over:
        raise KrillError(f"the run takes nothing any more: {over}") from None
    return sent
