"""Long questions are worked out beside the server, two of a person at a time, and only while somebody waits for them.

Solver processes (``krill.solver``) are shared by all server processes of a machine; where there are none, as in tests and
commands, the question is worked out on the spot. Central figures and edits never wait for either.
"""

import contextlib
import logging
import socket
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass, field
from threading import Lock
from typing import Any, Final, ParamSpec, TypeVar, cast

from django.conf import settings
from django.db import connection
from django.http import HttpRequest, HttpResponse

from krill.document.build import Build
from krill.errors import KrillError
from krill.interruption import Interrupted, interruptible
from krill.messages import receive, send
from krill.solver import MOST_S, Begun, Failed, Question, Refused, TookTooLong
from wire.faults import ApiFault
from wire.metrics import QUESTIONS, WAITED, WORKED

#: of one person, in all processes on all machines
OF_ONE_PERSON: Final = 2
#: of one person in one process, at work or waiting
MOST_OPEN: Final = 8
#: seconds that a question waits for its turn
PATIENCE_S: Final = 30.0
#: names the place on a page that an answer is for: a newer question from there takes the place of an older one
PLACE_HEADER: Final = "X-Krill-Place"
#: a question that takes longer is logged, s
SLOW_S: Final = 2.0
_LOCKS: Final = 0x6B72  #: of the advisory locks
_POLL_S: Final = 0.05
_request: ContextVar[HttpRequest | None] = ContextVar("asking", default=None)
P = ParamSpec("P")
T = TypeVar("T")
log = logging.getLogger("krill")


class Overtaken(Interrupted):
    """The page has asked again; nobody waits for this answer."""


class SolverEnded(Exception):
    """The process that worked on a question ended under it."""


def know_who_asks(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    """A middleware behind the sign-in: long questions know who asks them, and no request works for ever by itself."""

    def middleware(request: HttpRequest) -> HttpResponse:
        token = _request.set(request)
        end = time.monotonic() + MOST_S
        try:
            with interruptible(lambda: _must_end(end)):
                return get_response(request)
        finally:
            _request.reset(token)

    return middleware


def worked_out(function: Callable[P, T], *args: P.args, **kwargs: P.kwargs) -> T:
    """What a function of the core gives, when it is this person's turn.

    Overtaken where the page asks again meanwhile, TookTooLong after MOST_S of work, ApiFault 429 where no turn comes.
    """
    request = _request.get()
    if request is None or not request.user.is_authenticated or not settings.SOLVERS:
        return function(*args, **kwargs)
    person, place = request.user.pk, request.headers.get(PLACE_HEADER, "")[:80]
    ticket = Ticket(person, place, function.__name__)
    with ticket.told(args), _open.entered(ticket), _one_of_two(person, ticket):
        return cast(T, _asked(Question(function, args, kwargs), ticket))


def _must_end(end: float) -> None:
    if time.monotonic() > end:
        raise TookTooLong


@dataclass(eq=False)
class Ticket:
    """A question that is open: who asks, for which place on a page, and since when."""

    person: int
    place: str
    asks: str = ""
    came: float = field(default_factory=time.monotonic)
    began: float | None = None
    overtaken: bool = False
    asking: socket.socket | None = None

    @property
    def patience_s(self) -> float:
        return max(self.came + PATIENCE_S - time.monotonic(), 0.0)

    @contextmanager
    def told(self, arguments: tuple[Any, ...]) -> Iterator[None]:
        """Counted as it ends, and logged with its size where it took long."""
        ended = "failed"
        try:
            yield
            ended = "answered"
        except Overtaken:
            ended = "overtaken"
            raise
        except (KrillError, ApiFault):
            ended = "refused"
            raise
        finally:
            now = time.monotonic()
            waited, worked = (self.began or now) - self.came, now - (self.began or now)
            QUESTIONS.labels(self.asks, ended).inc()
            WAITED.observe(waited)
            WORKED.labels(self.asks).observe(worked)
            if waited + worked > SLOW_S:
                size = {"parts": [len(one.parts) for one in arguments if isinstance(one, Build)], "ended": ended}
                spent = {"asks": self.asks, "waited_ms": round(1000 * waited), "worked_ms": round(1000 * worked)}
                log.warning("slow question", extra={"told": spent | size})

    def overtake(self) -> None:
        """Whoever waits for the answer stops waiting, and the solver stops working."""
        self.overtaken = True
        if self.asking is not None:
            with contextlib.suppress(OSError):
                self.asking.shutdown(socket.SHUT_RDWR)

    def must_be_wanted(self) -> None:
        if self.overtaken:
            raise Overtaken
        if not self.patience_s:
            raise ApiFault(429, "question", "Krill is busy with other questions", "ask again in a moment")


class OpenQuestions:
    """Those of this process, at work or waiting."""

    def __init__(self) -> None:
        self._tickets: list[Ticket] = []
        self._lock = Lock()

    @contextmanager
    def entered(self, ticket: Ticket) -> Iterator[None]:
        """A question is open inside; an older one for the same place on the same page is overtaken by it."""
        with self._lock:
            own = [other for other in self._tickets if other.person == ticket.person]
            for other in own:
                if ticket.place and other.place == ticket.place:
                    other.overtake()
            if sum(not other.overtaken for other in own) >= MOST_OPEN:
                what = f"{MOST_OPEN} long questions of yours are open"
                raise ApiFault(429, "question", what, "wait for an answer, or close a page")
            self._tickets.append(ticket)
        try:
            yield
        finally:
            with self._lock:
                self._tickets.remove(ticket)


_open = OpenQuestions()


@contextmanager
def _one_of_two(person: int, ticket: Ticket) -> Iterator[None]:
    """Holds one of a person's two turns in the database, which gives it back when the connection ends."""
    while (key := _taken(person)) is None:
        ticket.must_be_wanted()
        time.sleep(_POLL_S)
    try:
        yield
    finally:
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_advisory_unlock(%s, %s)", [_LOCKS, key])


def _taken(person: int) -> int | None:
    for key in range(person * OF_ONE_PERSON, (person + 1) * OF_ONE_PERSON):
        with connection.cursor() as cursor:
            cursor.execute("SELECT pg_try_advisory_lock(%s, %s)", [_LOCKS, key])
            if cursor.fetchone() == (True,):
                return key
    return None


def _asked(question: Question, ticket: Ticket) -> Any:
    with _reached(ticket) as asking:
        ticket.asking = asking
        try:
            ticket.must_be_wanted()
            asking.settimeout(ticket.patience_s)
            with asking.makefile("rwb") as stream:
                send(stream, question)
                begun = receive(stream)
                assert isinstance(begun, Begun)
                asking.settimeout(None)
                ticket.began = time.monotonic()
                answer = receive(stream)
        except (OSError, EOFError) as gone:
            ticket.must_be_wanted()
            raise SolverEnded from gone
        finally:
            ticket.asking = None
    if isinstance(answer, Refused):
        raise answer.error
    if isinstance(answer, Failed):
        raise RuntimeError(f"a solver failed:\n{answer.trace}")
    return answer.value


def _reached(ticket: Ticket) -> socket.socket:
    """A solver at the other end; those that are just being begun are waited for."""
    while True:
        asking = socket.socket(socket.AF_UNIX)
        try:
            asking.connect(settings.SOLVERS)
        except OSError:
            asking.close()
            ticket.must_be_wanted()
            time.sleep(_POLL_S)
        else:
            return asking
