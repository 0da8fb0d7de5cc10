"""Solves for others, beside a server: ``python -m krill.solver SOCKET COUNT``.

COUNT processes take questions from one Unix socket, whichever is free the next one, so that whoever asks shares them all. A
question is a function of this package with its arguments. It is dropped as soon as who asked hangs up, and has a bound in time.
"""

import contextlib
import os
import select
import signal
import socket
import sys
import time
import traceback
from collections.abc import Callable
from pathlib import Path
from threading import Thread, stack_size
from typing import Any, Final, NamedTuple

from krill.errors import KrillError
from krill.interruption import Interrupted, interruptible
from krill.messages import receive, send
from krill.prediction.predict import predict
from krill.recipes.water_loop import water_loop

#: seconds of work on one question
MOST_S: Final = 20.0
#: a process that has answered so many questions makes room for a new one
MOST_QUESTIONS: Final = 500
#: LAPACK lays large blocks on the stack
STACK_BYTES: Final = 64 * 2**20
LOOK_S: Final = 0.05
_PARENT_LOOK_S: Final = 1.0
_REST_S: Final = 0.2


class TookTooLong(Interrupted):
    """More work than one question may ask for."""


class Begun(NamedTuple):
    """The question's turn has come."""


class Question(NamedTuple):
    function: Callable[..., Any]
    arguments: tuple[Any, ...]
    named: dict[str, Any]


class Answered(NamedTuple):
    value: Any


class Refused(NamedTuple):
    error: KrillError | Interrupted


class Failed(NamedTuple):
    """Nobody foresaw it; ``trace`` is for the log."""

    trace: str


class _Wanted:
    """Whether somebody still waits, looked at now and then."""

    def __init__(self, asking: socket.socket, most_s: float) -> None:
        self._asking, self._end, self._looked = asking, time.monotonic() + most_s, 0.0

    def must_go_on(self) -> None:
        now = time.monotonic()
        if now > self._end:
            raise TookTooLong
        if now - self._looked > LOOK_S:
            self._looked = now
            if select.select([self._asking], [], [], 0)[0]:  # nothing more is sent but the end
                raise Interrupted


def answer(question: Question, must_go_on: Callable[[], None]) -> Answered | Refused | Failed:
    """What comes of a question; nothing that it does ends the process."""
    try:
        with interruptible(must_go_on):
            return Answered(question.function(*question.arguments, **question.named))
    except (KrillError, Interrupted) as error:
        return Refused(error)
    except Exception:
        return Failed(traceback.format_exc())


def _answer_one(asking: socket.socket, most_s: float) -> None:
    stream = asking.makefile("rwb")
    with asking, stream, contextlib.suppress(OSError, EOFError):  # who asked has gone
        try:
            question = receive(stream)
        except (AttributeError, ImportError):  # of another version of Krill
            send(stream, Begun())
            send(stream, Failed(traceback.format_exc()))
            return
        send(stream, Begun())
        send(stream, answer(question, _Wanted(asking, most_s).must_go_on))


def _answer_many(listening: socket.socket, parent: int, most_s: float) -> None:
    """Until the parent has ended, or it is time for a new process."""
    listening.settimeout(_PARENT_LOOK_S)
    answered = 0
    while answered < MOST_QUESTIONS and os.getppid() == parent:
        try:
            asking, _ = listening.accept()
        except (TimeoutError, BlockingIOError):
            continue
        asking.settimeout(None)
        _answer_one(asking, most_s)
        answered += 1


def _begin(listening: socket.socket, most_s: float) -> int:
    """Another process that answers; its number."""
    parent = os.getpid()
    child = os.fork()
    if child == 0:
        signal.signal(signal.SIGTERM, signal.SIG_DFL)
        stack_size(STACK_BYTES)
        thread = Thread(target=_answer_many, args=(listening, parent, most_s))
        thread.start()
        thread.join()
        os._exit(0)
    return child


def listen(path: Path) -> socket.socket:
    """A socket that this user alone can reach; one that a process before left behind is taken away."""
    path.unlink(missing_ok=True)
    listening = socket.socket(socket.AF_UNIX)
    before = os.umask(0o177)
    try:
        listening.bind(str(path))
    finally:
        os.umask(before)
    listening.listen(256)
    return listening


def serve(path: Path, count: int, most_s: float = MOST_S) -> None:
    """Keep so many processes answering until told to end."""
    predict(
        water_loop(125, 220, 30, 24, "warm"), samples=20
    )  # what all of them need is read once, before there are several
    listening = listen(path)
    children = {_begin(listening, most_s) for _ in range(count)}

    def end(*_: object) -> None:
        for child in children:
            with contextlib.suppress(ProcessLookupError):
                os.kill(child, signal.SIGKILL)
        path.unlink(missing_ok=True)
        os._exit(0)

    signal.signal(signal.SIGTERM, end)
    signal.signal(signal.SIGINT, end)
    while True:
        ended, status = os.wait()
        children.discard(ended)
        if status:  # not in a hurry where it may end again at once
            time.sleep(_REST_S)
        children.add(_begin(listening, most_s))


def main(arguments: list[str]) -> None:
    serve(Path(arguments[0]), int(arguments[1]))


if __name__ == "__main__":
    from krill import solver  # messages name this module, not __main__

    solver.main(sys.argv[1:])
