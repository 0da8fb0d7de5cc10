"""Work that can be stopped on the way: who asked has asked anew, gave up, or has waited long enough."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar

_check: ContextVar[Callable[[], None] | None] = ContextVar("check", default=None)


class Interrupted(Exception):
    """Stopped on the way; no failure of the model, so nothing that tries another way goes on after it."""


@contextmanager
def interruptible(check: Callable[[], None]) -> Iterator[None]:
    """What is solved inside calls ``check`` at every iteration, which raises ``Interrupted`` to stop it."""
    token = _check.set(check)
    try:
        yield
    finally:
        _check.reset(token)


def must_go_on() -> None:
    """Raises ``Interrupted`` where nobody waits for the work any more."""
    check = _check.get()
    if check is not None:
        check()
