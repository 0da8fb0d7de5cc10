"""Reads logs in a process of its own, so that no file can take along the one that asks.

``python -m krill.logs.apart MEGABYTES SECONDS``. It reads and writes ``krill.messages`` on its standard input and output. The
process bounds its own memory and time: where a file needs more, it ends, and who asked sees the end of its output.
"""

import contextlib
import resource
import sys
from pathlib import Path
from typing import IO, Any, NamedTuple

from krill.errors import KrillError, LogRefused
from krill.logs.limits import MB
from krill.logs.log import read_log
from krill.messages import receive, send


class Bounds(NamedTuple):
    """What one file may need: memory beyond that of the idle process, and time of work."""

    megabytes: int = 900
    seconds: int = 60

    @property
    def too_much(self) -> str:
        return f"the file needs more than {self.megabytes} MB of memory or {self.seconds} s to be read; divide it"


class Asked(NamedTuple):
    """A file to read, as ``read_log`` takes it."""

    content: bytes
    interval_s: float | None
    units: dict[str, str] | None


def answer(asked: Asked, bounds: Bounds) -> Any:
    """The log, or why it is none."""
    try:
        return read_log(asked.content, asked.interval_s, asked.units)
    except KrillError as refused:
        return refused
    except MemoryError:
        return LogRefused(bounds.too_much)


def _bound_memory(megabytes: int) -> None:
    held = next(line for line in Path("/proc/self/status").read_text().splitlines() if line.startswith("VmData"))
    resource.setrlimit(resource.RLIMIT_DATA, (int(held.split()[1]) * 1024 + megabytes * MB,) * 2)


def _bound_time(seconds: int) -> None:
    used = resource.getrusage(resource.RUSAGE_SELF)
    hard = resource.getrlimit(resource.RLIMIT_CPU)[1]
    resource.setrlimit(resource.RLIMIT_CPU, (int(used.ru_utime + used.ru_stime) + seconds, hard))


def serve(asking: IO[bytes], answering: IO[bytes], bounds: Bounds) -> None:
    """Answer until nobody asks any more."""
    while True:
        try:
            asked = receive(asking)
        except EOFError:
            return
        _bound_time(bounds.seconds)
        send(answering, answer(asked, bounds))
        del asked


if __name__ == "__main__":
    told = Bounds(*map(int, sys.argv[1:]))
    with contextlib.suppress(OSError):  # no such limit on this system: the sizes of a log are bounded all the same
        _bound_memory(told.megabytes)
    serve(sys.stdin.buffer, sys.stdout.buffer, told)
