"""Logs are read by processes beside the server: a file that is too much for one ends that process and nothing else."""

import atexit
import contextlib
import os
import queue
import subprocess
import sys
from pathlib import Path
from threading import Timer
from typing import Final

import krill
from krill.errors import LogRefused
from krill.logs.apart import Asked, Bounds
from krill.logs.log import Log
from krill.messages import receive, send

READERS: Final = 2
#: seconds on the clock for each of work, where the processors are busy with other things
PATIENCE: Final = 2
#: a file or a log of so many bytes or figures leaves its reader large: the next one gets a new reader
LARGE: Final = 4_000_000
#: nothing of the server's: no secret, no password of the database
ENVIRONMENT: Final = {
    "PATH": os.defpath,
    "LANG": "C.UTF-8",
    "PYTHONPATH": str(Path(krill.__file__).parents[1]),
    "OMP_NUM_THREADS": "1",
    "POLARS_MAX_THREADS": "1",
}


class Reader:
    """A process that reads one log after another; begun when it is first needed, and again after it has ended."""

    def __init__(self, bounds: Bounds = Bounds()) -> None:  # noqa: B008 - never changed
        self._bounds = bounds
        self.process: subprocess.Popen[bytes] | None = None

    def read(self, content: bytes, interval_s: float | None = None, units: dict[str, str] | None = None) -> Log:
        """As ``read_log``; LogRefused also where the file needs more than the bounds."""
        process = self._running()
        assert process.stdin is not None
        assert process.stdout is not None
        patience = Timer(PATIENCE * self._bounds.seconds, process.kill)
        patience.start()
        try:
            send(process.stdin, Asked(content, interval_s, units))
            answer = receive(process.stdout)
        except (OSError, EOFError):
            self.end()
            raise LogRefused(self._bounds.too_much) from None
        finally:
            patience.cancel()
        if len(content) > LARGE or not isinstance(answer, Log) or answer.values.size > LARGE:
            self.end()
        if isinstance(answer, Log):
            return answer
        raise answer

    def _running(self) -> subprocess.Popen[bytes]:
        if self.process is not None and self.process.poll() is not None:
            self.end()
        if self.process is None:
            self.process = subprocess.Popen(  # noqa: S603 - this interpreter and a module of Krill
                [sys.executable, "-m", "krill.logs.apart", *map(str, self._bounds)],
                stdin=subprocess.PIPE,
                stdout=subprocess.PIPE,
                stderr=subprocess.DEVNULL,  # allocators tell there that memory has run out; who asked is told in words
                env=ENVIRONMENT,
            )
        return self.process

    def end(self) -> None:
        """End the process, if there is one."""
        process, self.process = self.process, None
        if process is not None:
            process.kill()
            process.wait()
            for stream in filter(None, (process.stdin, process.stdout)):
                with contextlib.suppress(OSError):  # what was not sent goes with it
                    stream.close()


_readers: queue.Queue[Reader] = queue.Queue()
for _ in range(READERS):
    reader = Reader()
    atexit.register(reader.end)
    _readers.put(reader)


def read_log_apart(content: bytes, interval_s: float | None = None, units: dict[str, str] | None = None) -> Log:
    """As ``read_log``, by the next reader that is free."""
    reader = _readers.get()
    try:
        return reader.read(content, interval_s, units)
    finally:
        _readers.put(reader)
