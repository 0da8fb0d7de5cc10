"""How much of the database rows take."""

from typing import Any

from django.db.models import BigIntegerField, F, Func, QuerySet, Sum


def data_bytes(rows: QuerySet[Any]) -> int:
    """Bytes of the ``data`` of rows, counted where they are stored."""
    size = Sum(Func(F("data"), function="octet_length", output_field=BigIntegerField()))
    return int(rows.aggregate(size=size)["size"] or 0)
