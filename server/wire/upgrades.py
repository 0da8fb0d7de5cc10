"""Which Krill a database is of: an older program leaves the database of a newer one alone."""

from typing import Final

from django.core.management.base import CommandError
from django.db import connection
from django.db.migrations.loader import MigrationLoader

#: names that are told
TOLD: Final = 3


def must_not_be_newer() -> None:
    """CommandError where the database has been upgraded by a newer Krill than this one."""
    loader = MigrationLoader(connection)
    unknown = sorted(
        f"{app}.{name}" for app, name in loader.applied_migrations if (app, name) not in loader.disk_migrations
    )
    if unknown:
        named = ", ".join(unknown[:TOLD]) + (" ..." if len(unknown) > TOLD else "")
        raise CommandError(
            f"the database is of a newer Krill ({named}): update this checkout, or bring back the backup that was made before"
        )
