"""The one shape of every error: RFC 9457 problem details, with the list of faults as an extension."""

import json
from collections.abc import Sequence
from http import HTTPStatus
from typing import Any

from django.http import HttpResponse
from ninja import Schema
from ninja.responses import NinjaJSONEncoder

from krill.errors import DocumentRefused, KrillError

CONTENT_TYPE = "application/problem+json"
#: answers that any operation may give
ERRORS = frozenset({400, 401, 403, 404, 413, 422, 429})


class Fault(Schema):
    """One thing wrong: the address of the figure, what, what is allowed."""

    where: str
    what: str
    allowed: str = ""


class Errors(Schema):
    """Problem details (RFC 9457): ``title`` is the status in words, ``detail`` every fault as a sentence."""

    type: str = "about:blank"
    title: str
    status: int
    detail: str
    errors: list[Fault]


class ApiFault(Exception):
    """An error with its status; the API's error table answers it as ``Errors``."""

    def __init__(self, status: int, where: str, what: str, allowed: str = "") -> None:
        self.status = status
        self.fault = Fault(where=where, what=what, allowed=allowed)
        super().__init__(what)


def faults_of(error: KrillError) -> list[Fault]:
    """What the core refuses, by address where it names any."""
    if isinstance(error, DocumentRefused):
        return [Fault(where=p.where, what=p.what, allowed=p.allowed) for p in error.problems]
    return [Fault(where="build", what=str(error))]


def problem(status: int, faults: Sequence[Fault], **more: Any) -> HttpResponse:
    """An error as it goes over the wire; ``more`` are further extensions."""
    body = {
        "type": "about:blank",
        "title": HTTPStatus(status).phrase,
        "status": status,
        "detail": "; ".join(_sentence(fault) for fault in faults),
        "errors": [fault.dict() for fault in faults],
        **more,
    }
    return HttpResponse(json.dumps(body, cls=NinjaJSONEncoder), status=status, content_type=CONTENT_TYPE)


def _sentence(fault: Fault) -> str:
    return f"{fault.where}: {fault.what}" + (f" (allowed: {fault.allowed})" if fault.allowed else "")
