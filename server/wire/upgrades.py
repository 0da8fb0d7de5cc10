"""Which Krill a database is of: an older program leaves the database of a newer one alone."""

from functools import cache
from typing import Final

from django.core.management.base import CommandError
from django.db import connection
from django.db.migrations.loader import MigrationLoader
from django.db.migrations.recorder import MigrationRecorder

#: names that are told
TOLD: Final = 3


@cache
def _known() -> frozenset[tuple[str, str]]:
    """Upgrades that this program knows: they are read once, though a worker looks at its database every few seconds."""
    return frozenset(MigrationLoader(None).disk_migrations or ())


def must_not_be_newer() -> None:
    """CommandError where the database has been upgraded by a newer Krill than this one."""
    applied = MigrationRecorder(connection).applied_migrations()
    unknown = sorted(f"{app}.{name}" for app, name in applied.keys() - _known())
    if unknown:
        named = ", ".join(unknown[:TOLD]) + (" ..." if len(unknown) > TOLD else "")
        raise CommandError(
            f"the database is of a newer Krill ({named}): update this checkout, or bring back the backup that was made before"
        )
