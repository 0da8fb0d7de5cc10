"""Whether Krill lives and can serve, for whoever watches it."""

import shutil
from typing import Any, Final

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import HttpRequest, JsonResponse
from django.views.decorators.http import require_safe

#: less room on the disk than this cannot hold what people bring
LEAST_DISK_MB: Final = 200
#: seconds without a sign of life from any worker
WORKER_SILENT_S: Final = 30


@require_safe
def alive(request: HttpRequest) -> JsonResponse:
    """/readyz: this process answers and reaches the database."""
    return _answer({"database": _database()})


@require_safe
def healthy(request: HttpRequest) -> JsonResponse:
    """/healthz: the database, a worker, the disk; 503 where one of them is not well."""
    database = _database()
    return _answer({"database": database, "worker": _worker() if database == "ok" else "unknown", "disk": _disk()})


def _answer(found: dict[str, Any]) -> JsonResponse:
    well = all(value == "ok" for value in found.values())
    return JsonResponse({"well": well, **found}, status=200 if well else 503)


def _database() -> str:
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT 1")
    except DatabaseError:
        return "does not answer"
    return "ok"


def _worker() -> str:
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT count(*) FROM procrastinate_workers WHERE last_heartbeat > now() - make_interval(secs => %s)",
            [WORKER_SILENT_S],
        )
        row = cursor.fetchone()
    return "ok" if row and row[0] else f"none has been heard of for {WORKER_SILENT_S} s"


def _disk() -> str:
    free = shutil.disk_usage(settings.RUN).free / 2**20
    return "ok" if free >= LEAST_DISK_MB else f"{free:.0f} MB left; {LEAST_DISK_MB} MB are needed"
