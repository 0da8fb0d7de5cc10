"""Answers that a browser keeps as a file."""

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
