"""Threads with enough stack for a solve, wherever Python is started from."""

import threading
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Final

#: LAPACK lays large blocks on the stack: in a thread of 2 MB a solve of some 150 nodes ends the process
STACK_BYTES: Final = 32 * 2**20


@contextmanager
def roomy_stacks() -> Iterator[None]:
    """Threads that are begun inside have STACK_BYTES of stack: the size is told to the process, not to a thread."""
    before = threading.stack_size(STACK_BYTES)
    try:
        yield
    finally:
        threading.stack_size(before)
