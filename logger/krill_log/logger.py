"""The logger's loop: read, write, put aside, send; each goes on whatever the others do."""

import contextlib
import csv
import secrets
import threading
import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import IO, Final, Protocol

from krill_log.batches import Session, row
from krill_log.sender import RunOver, Sender
from krill_log.spool import Growing

#: a batch is put together over so many seconds, or this many rows
BATCH_S: Final = 0.5
BATCH_ROWS: Final = 500
#: how often the sender looks whether there is something to send, s
LOOKS_S: Final = 0.05
#: what is left is sent for so long once the logger is told to end
LAST_S: Final = 10.0


class Reader(Protocol):
    """Where rows come from."""

    def channels(self) -> list[tuple[str, str]]: ...

    def read(self) -> Sequence[float | None]: ...


@dataclass
class Logger:
    """Reads every ``interval_s`` until told to end; CSV and sender are each there or not."""

    reader: Reader
    interval_s: float
    csv_path: Path | None
    sender: Sender | None
    say: Callable[[str], None]
    batch_s: float = BATCH_S

    def run(self, ended: threading.Event) -> None:
        """RunOver where the run takes nothing any more and no CSV is written."""
        session = Session(secrets.token_hex(6), self.interval_s, self.reader.channels())
        over, read = threading.Event(), threading.Event()
        sending = threading.Thread(target=self._send, args=(read, over), daemon=True)
        if self.sender is not None:
            sending.start()
        with contextlib.ExitStack() as stack:
            file = None if self.csv_path is None else stack.enter_context(self.csv_path.open("a", encoding="utf-8"))
            self._read(session, file, ended, over)
        read.set()
        if self.sender is not None:
            sending.join(LAST_S)
            left = len(self.sender.spool.waiting())
            if left:
                self.say(f"{left} batches wait in {self.sender.spool.folder}; the next start sends them")

    def _read(self, session: Session, file: IO[str] | None, ended: threading.Event, over: threading.Event) -> None:
        writer = None if file is None else csv.writer(file)
        if writer is not None and file is not None and file.tell() == 0:
            writer.writerow(["Time [s]", *(f"{name} [{unit}]" for name, unit in session.channels)])
        began, wall_began = time.monotonic(), time.time()
        due = began
        growing: Growing | None = None
        closes = began
        while not ended.is_set() and not (over.is_set() and writer is None):
            now = time.monotonic()
            if now < due:
                ended.wait(due - now)
                continue
            values, steady = self.reader.read(), now - began
            if self.sender is not None and not over.is_set():
                if growing is None:
                    growing, closes = self._begin(session, steady), now + self.batch_s
                if growing is not None:
                    growing.add(row(steady, values))
            if writer is not None and file is not None:
                writer.writerow([f"{wall_began + steady:.2f}", *("" if v is None else f"{v:g}" for v in values)])
                file.flush()
            if growing is not None and (now + self.interval_s > closes or growing.rows >= BATCH_ROWS):
                growing.close()
                growing = None
            # rows that could not be read in time are left out, not read late all at once
            due = max(due + self.interval_s, now - self.interval_s)
        if growing is not None:
            growing.close()

    def _begin(self, session: Session, steady: float) -> Growing | None:
        assert self.sender is not None
        growing = self.sender.spool.begin(*session.header(time.time(), steady))
        if growing is None:
            self.say("the spool is full: rows go to the CSV alone until the server answers")
        return growing

    def _send(self, read: threading.Event, over: threading.Event) -> None:
        """Send what waits, and once everything has been read what is left of it."""
        assert self.sender is not None
        until: float | None = None
        while True:
            if read.is_set():
                until = until or time.monotonic() + LAST_S
                if time.monotonic() > until or not self.sender.spool.waiting():
                    return
            try:
                went = self.sender.send_oldest()
            except RunOver as told:
                self.say(f"the run takes nothing any more: {told}")
                over.set()
                return
            if not went:
                read.wait(max(self.sender.wait_s, LOOKS_S)) if not read.is_set() else time.sleep(LOOKS_S)
