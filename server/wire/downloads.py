"""Answers that a browser keeps: files, pictures."""

from collections.abc import Iterable, Sequence
from typing import Any

from django.http import HttpResponse

from krill.records import as_csv


def download(content: str | bytes, name: str, content_type: str) -> HttpResponse:
    response = HttpResponse(content, content_type=content_type)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


def csv_download(text: str, name: str) -> HttpResponse:
    return download(text, name, "text/csv; charset=utf-8")


def table_download(rows: Iterable[Sequence[Any]], name: str) -> HttpResponse:
    """Rows, the header first, as CSV."""
    return csv_download(as_csv(rows), name)


def picture_response(content: bytes, media_type: str) -> HttpResponse:
    """A picture named by its hash: it never changes under its name."""
    response = HttpResponse(content, content_type=media_type)
    response["Cache-Control"] = "private, max-age=31536000, immutable"
    return response
