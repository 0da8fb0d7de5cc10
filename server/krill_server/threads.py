"""Requests are answered in threads of the application's own, with enough stack wherever it is started from."""

import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from functools import cache
from typing import Final

from django.db import close_old_connections
from django.http import HttpRequest, HttpResponse

from wire.threads import roomy_stacks

#: most of them wait, for their turn or for the database; more requests at once wait for a thread
THREADS: Final = 24
_NAME: Final = "krill-answer"


@cache
def roomy_pool() -> ThreadPoolExecutor:
    """Threads with a roomy stack, all begun at once."""
    with roomy_stacks():
        pool = ThreadPoolExecutor(THREADS, thread_name_prefix=_NAME)
        begun = threading.Barrier(THREADS + 1)
        for _ in range(THREADS):
            pool.submit(begun.wait)
        begun.wait()
    return pool


def in_roomy_thread(
    get_response: Callable[[HttpRequest], HttpResponse],
) -> Callable[[HttpRequest], HttpResponse]:
    """A middleware: what lies below it runs in a thread of the pool, which keeps its own connection to the database."""

    def answered(request: HttpRequest) -> HttpResponse:
        close_old_connections()
        try:
            return get_response(request)
        finally:
            close_old_connections()

    def middleware(request: HttpRequest) -> HttpResponse:
        return roomy_pool().submit(answered, request).result()

    return middleware
