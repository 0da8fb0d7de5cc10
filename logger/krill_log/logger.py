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

from krill_log.batches import Session
from krill_log.sender import RunOver, Sender

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
        over = threading.Event()
        sending = threading.Thread(target=self._send, args=(ended, over), daemon=True)
        if self.sender is not None:
            sending.start()
        with contextlib.ExitStack() as stack:
            file = None if self.csv_path is None else stack.enter_context(self.csv_path.open("a", encoding="utf-8"))
            self._read(session, file, ended, over)
        self._put(session)
        ended.set()
        if self.sender is not None:
            sending.join(LAST_S)
            left = len(self.sender.spool.waiting())
            if left:
                self.say(f"{left} batches wait in {self.sender.spool.folder}; the next start sends them")

    def _read(self, session: Session, file: IO[str] | None, ended: threading.Event, over: threading.Event) -> None:
        writer = None if file is None else csv.writer(file)
        if writer is not None and file is not None and file.tell() == 0:
            writer.writerow(["Time [s]", *(f"{name} [{unit}]" for name, unit in session.channels)])
        began = time.monotonic()
        wall_began = time.time()
        due, last_batch = began, began
        while not ended.is_set() and not (over.is_set() and writer is None):
            now = time.monotonic()
            if now < due:
                ended.wait(due - now)
                continue
            values = self.reader.read()
            steady = now - began
            if self.sender is not None and not over.is_set():
                session.add(steady, values)
            if writer is not None and file is not None:
                writer.writerow([f"{wall_began + steady:.2f}", *("" if v is None else f"{v:g}" for v in values)])
                file.flush()
            if session.rows and (now - last_batch >= self.batch_s or len(session.rows) >= BATCH_ROWS):
                self._put(session, steady)
                last_batch = now
            # rows that could not be read in time are left out, not read late all at once
            due = max(due + self.interval_s, now - self.interval_s)

    def _put(self, session: Session, steady: float | None = None) -> None:
        if self.sender is None or not session.rows:
            return
        name, text = session.batch(time.time(), session.rows[-1][0] if steady is None else steady)
        if not self.sender.spool.put(name, text):
            self.say("the spool is full: rows go to the CSV alone until the server answers")

    def _send(self, ended: threading.Event, over: threading.Event) -> None:
        assert self.sender is not None
        until: float | None = None
        while True:
            if ended.is_set():
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
                ended.wait(max(self.sender.wait_s, LOOKS_S)) if not ended.is_set() else time.sleep(0.2)
