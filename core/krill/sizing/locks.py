"""What a build locks: a part or one figure that no next change, search or candidate may touch.

A lock is the id of a part (or source, loop, path), or an address: ``pump/flow_factor``, ``both/watts/processor``,
``movers/fan-1`` for a duty in every workload. A lock of what is not there any more holds nothing.
"""

from collections.abc import Iterable, Iterator

from krill.components.figure_table import FigureTable
from krill.document.build import Build
from krill.errors import DocumentRefused, Problem
from krill.sizing.lock_names import names_of
from krill.sizing.one_varied import Varied
from krill.sizing.result import Edit
from krill.sizing.varied import varied


def lock_on(build: Build, edits: Iterable[Edit]) -> str | None:
    """The first lock that edits would touch."""
    locked = set(build.locked)
    if not locked:
        return None
    return next((name for edit in edits for name in _names(build, edit) if name in locked), None)


def check_free(build: Build, one: Varied) -> None:
    """DocumentRefused where what varies is locked."""
    lock = locked(build, one)
    if lock is not None:
        raise DocumentRefused([Problem(one.address, f"'{lock}' is locked", "a part or figure that is not locked")])


def is_free(build: Build, table: FigureTable, address: str) -> bool:
    """Whether sizing may touch what an address varies."""
    return not build.locked or locked(build, varied(build, table, address)) is None


def locked(build: Build, one: Varied) -> str | None:
    """The lock that any value of what varies would touch."""
    return next((name for name in one.touches() if name in set(build.locked)), None)


def _names(build: Build, edit: Edit) -> Iterator[str]:
    """Everything that a lock on what an edit touches may be called."""
    if edit.target == "parts":
        touched = edit.value if isinstance(edit.value, str) else edit.value["id"]
        if edit.field != "+":
            yield touched
        return
    yield from names_of(build, f"{edit.target}/{edit.field}")
