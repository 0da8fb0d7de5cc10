"""Answers that a browser keeps as a file."""

from django.http import HttpResponse


def download(content: str | bytes, name: str, content_type: str) -> HttpResponse:
    response = HttpResponse(content, content_type=content_type)
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


def csv_download(text: str, name: str) -> HttpResponse:
    return download(text, name, "text/csv; charset=utf-8")
