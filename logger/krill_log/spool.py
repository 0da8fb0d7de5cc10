"""Batches on their way: each a file that grows row by row and is gone once the server has stored it.

A row counts from when it is written: it survives the end of the process, and once its batch is closed that of the machine.
"""

import fcntl
import os
from contextlib import suppress
from pathlib import Path
from typing import IO, Final

#: more than this is not kept: the CSV beside it goes on
MOST_BYTES: Final = 1024**3
_GROWING, WAITING, REFUSED = ".growing", ".jsonl", "refused"


class SpoolTaken(Exception):
    """Another logger writes to this folder."""


class Growing:
    """A batch that rows are added to."""

    def __init__(self, path: Path, header: str) -> None:
        self._path = path
        self.rows = 0
        self._file = path.open("w", encoding="utf-8")
        self._file.write(header + "\n")

    def add(self, line: str) -> None:
        """Written when this returns, whatever becomes of the process."""
        self._file.write(line + "\n")
        self._file.flush()
        self.rows += 1

    def close(self) -> Path:
        """The whole batch, ready to be sent."""
        os.fsync(self._file.fileno())
        self._file.close()
        return self._path.replace(self._path.with_suffix(WAITING))


class Spool:
    """A folder of batches, sent in the order in which they were begun; one logger at a time writes to it."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        folder.mkdir(parents=True, exist_ok=True)
        self._lock: IO[str] = (folder / "lock").open("w")
        try:
            fcntl.flock(self._lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            self._lock.close()
            raise SpoolTaken(f"another logger writes to {folder}; end it, or name another spool") from None
        for left in folder.glob(f"*{_GROWING}"):
            _finish(left)

    def close(self) -> None:
        """Let another logger in."""
        self._lock.close()

    def _listed(self) -> list[tuple[int, str, int, Path]]:
        """(when, name, bytes, file) of what waits, the oldest first; one that has just been sent is not there any more."""
        found = []
        for path in self.folder.glob(f"*{WAITING}"):
            with suppress(FileNotFoundError):
                told = path.stat()
                found.append((told.st_mtime_ns, path.name, told.st_size, path))
        return sorted(found)

    def waiting(self) -> list[Path]:
        """Files that wait, the oldest first."""
        return [path for _, _, _, path in self._listed()]

    def begin(self, name: str, header: str) -> Growing | None:
        """A batch to add rows to; None where the spool is full."""
        if sum(size for _, _, size, _ in self._listed()) > MOST_BYTES:
            return None
        return Growing(self.folder / (name + _GROWING), header)

    def drop(self, path: Path) -> None:
        path.unlink()

    def set_aside(self, path: Path) -> Path:
        """A batch that the server cannot take: kept, and never sent again by itself."""
        aside = self.folder / REFUSED
        aside.mkdir(exist_ok=True)
        return path.replace(aside / path.name)


def _finish(path: Path) -> None:
    """What a logger that was killed left growing: its whole lines are a batch, a torn last one is none."""
    text = path.read_text(encoding="utf-8", errors="replace")
    whole = text[: text.rfind("\n") + 1]
    if whole.count("\n") < 2:
        path.unlink()
        return
    path.write_text(whole, encoding="utf-8")
    path.replace(path.with_suffix(WAITING))
