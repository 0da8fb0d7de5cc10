"""Batches on their way: each a file, written whole before it counts, gone once the server has stored it."""

import os
from pathlib import Path
from typing import Final

#: more than this is not kept: the CSV beside it goes on
MOST_BYTES: Final = 1024**3
_NEW: Final = ".new"
REFUSED: Final = "refused"


class Spool:
    """A folder of batches, sent in the order of their names within the order in which they came."""

    def __init__(self, folder: Path) -> None:
        self.folder = folder
        folder.mkdir(parents=True, exist_ok=True)
        for torn in folder.glob(f"*{_NEW}"):  # what a crash left half written was never counted
            torn.unlink()
        self._bytes = sum(path.stat().st_size for path in self.waiting())

    def waiting(self) -> list[Path]:
        """Files that wait, the oldest first."""
        return sorted(self.folder.glob("*.jsonl"), key=lambda path: (path.stat().st_mtime_ns, path.name))

    def put(self, name: str, text: str) -> bool:
        """Whether it is kept now: it survives the end of this process and of this machine."""
        data = text.encode()
        if self._bytes + len(data) > MOST_BYTES:
            return False
        new = self.folder / (name + _NEW)
        with new.open("wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        new.replace(self.folder / name)
        self._bytes += len(data)
        return True

    def drop(self, path: Path) -> None:
        self._bytes -= path.stat().st_size
        path.unlink()

    def set_aside(self, path: Path) -> Path:
        """A batch that the server cannot take: kept, and never sent again by itself."""
        aside = self.folder / REFUSED
        aside.mkdir(exist_ok=True)
        self._bytes -= path.stat().st_size
        return path.replace(aside / path.name)
