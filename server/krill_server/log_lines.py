"""One line a request and one a failure, as JSON: what was asked, by whom, what came of it, how long it took."""

import json
import logging
import re
import secrets
import time
from collections.abc import Callable
from contextvars import ContextVar
from datetime import UTC, datetime
from typing import Any, Final

from django.http import HttpRequest, HttpResponse

from wire.metrics import LATENCY, REQUESTS

#: an answer that takes longer is told as a warning, s
SLOW_S: Final = 2.0
#: ids that proxies send are taken over where they look like ids
_ID: Final = re.compile(r"[\w-]{8,64}")
_request_id: ContextVar[str] = ContextVar("request_id", default="")
access = logging.getLogger("krill.access")


class JsonLines(logging.Formatter):
    """A record as one line of JSON; what ``extra`` tells stands beside the message."""

    def format(self, record: logging.LogRecord) -> str:
        line: dict[str, Any] = {
            "at": datetime.fromtimestamp(record.created, UTC).isoformat(timespec="milliseconds"),
            "level": record.levelname.lower(),
            "from": record.name,
            "says": record.getMessage(),
        }
        if _request_id.get():
            line["request"] = _request_id.get()
        line |= getattr(record, "told", {})
        if record.exc_info:
            line["trace"] = self.formatException(record.exc_info)
        return json.dumps(line, ensure_ascii=False, default=str)


def reference() -> str:
    """What a person can name of the request at hand so that its lines are found."""
    return _request_id.get() or secrets.token_hex(8)


def log_requests(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """A middleware: each request has an id, in the log and in the answer, and a line when it is over."""

    def middleware(request: HttpRequest) -> HttpResponse:
        given = request.headers.get("X-Request-ID", "")
        token = _request_id.set(given if _ID.fullmatch(given) else secrets.token_hex(8))
        began = time.monotonic()
        try:
            response = get_response(request)
            response["X-Request-ID"] = _request_id.get()
            _tell(request, response, time.monotonic() - began)
            return response
        finally:
            _request_id.reset(token)

    return middleware


def _tell(request: HttpRequest, response: HttpResponse, seconds: float) -> None:
    operation = getattr(request.resolver_match, "url_name", None) or "other"
    REQUESTS.labels(operation, request.method, response.status_code).inc()
    LATENCY.labels(operation).observe(seconds)
    user = getattr(request, "user", None)
    told = {
        "method": request.method,
        "path": request.path[:300],
        "status": response.status_code,
        "ms": round(1000 * seconds),
        "user": user.get_username() if user is not None and user.is_authenticated else "",
        "received": int(request.META.get("CONTENT_LENGTH") or 0)
        if request.META.get("CONTENT_LENGTH", "0").isdigit()
        else 0,
        "sent": 0 if response.streaming else len(response.content),
    }
    slow = seconds > SLOW_S
    access.log(logging.WARNING if slow else logging.INFO, "slow" if slow else "answered", extra={"told": told})
