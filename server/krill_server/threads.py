"""Requests are answered in threads of the application's own, with enough stack wherever it is started from.

LAPACK lays large blocks on the stack: in a server's thread of 2 MB a solve of some 150 nodes ends the process.
"""

import threading
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from functools import cache
from typing import Final

from django.db import close_old_connections
from django.http import HttpRequest, HttpResponse

STACK_BYTES: Final = 32 * 2**20
#: more requests at once wait; the server itself has no more threads than this
THREADS: Final = 8
_NAME: Final = "krill-answer"


@cache
def roomy_pool() -> ThreadPoolExecutor:
    """Threads with STACK_BYTES of stack, all begun at once: the size is told to the process, not to a thread."""
    before = threading.stack_size(STACK_BYTES)
    try:
        pool = ThreadPoolExecutor(THREADS, thread_name_prefix=_NAME)
        begun = threading.Barrier(THREADS + 1)
        for _ in range(THREADS):
            pool.submit(begun.wait)
        begun.wait()
    finally:
        threading.stack_size(before)
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
