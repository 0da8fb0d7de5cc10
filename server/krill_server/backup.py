"""Backups of the whole database: made, checked by listing, and restored beside the old one before the two change places."""

import subprocess
from datetime import UTC, datetime
from pathlib import Path
from typing import Final

from django.db import connection

SUFFIX: Final = ".dump"
#: a backup without this table is none of Krill
MUST_HOLD: Final = "TABLE DATA public builds_build"
MOST_NAME: Final = 63


class BackupFailed(Exception):
    """A backup could not be made or restored; the message is a sentence for whoever runs Krill."""


def make_backup(folder: Path, keep: int) -> Path:
    """A new backup in the folder, of which the newest ``keep`` stay; it has its name only when it has been checked."""
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    name = f"{_database()}-{datetime.now(UTC):%Y%m%d-%H%M%S-%f}"
    unfinished, file = folder / f"{name}.unfinished", folder / f"{name}{SUFFIX}"
    unfinished.touch(mode=0o600)
    try:
        _run("pg_dump", "--format=custom", "--no-owner", f"--file={unfinished}", _database())
        must_be_backup(unfinished)
        unfinished.rename(file)
    finally:
        unfinished.unlink(missing_ok=True)
    for old in backups_in(folder)[:-keep]:
        old.unlink()
    return file


def backups_in(folder: Path) -> list[Path]:
    """Backups of this database, the oldest first."""
    return sorted(folder.glob(f"{_database()}-*{SUFFIX}"))


def must_be_backup(file: Path) -> None:
    """BackupFailed where the file is no complete backup of Krill."""
    if not file.is_file():
        raise BackupFailed(f"there is no file {file}")
    if MUST_HOLD not in _run("pg_restore", "--list", str(file)):
        raise BackupFailed(f"{file} is a backup of something else: it holds no builds")


def restore(file: Path, *, while_serving: bool = False) -> str:
    """The backup in place of the database; the name under which the old one stays.

    BackupFailed where the file is none, or somebody is connected and ``while_serving`` does not say that this may be.
    """
    must_be_backup(file)
    others = _others()
    if others and not while_serving:
        raise BackupFailed(f"{others} connections are open: stop Krill first, or say --while-serving")
    database = _database()
    at = f"{datetime.now(UTC):%Y%m%d_%H%M%S_%f}"
    new, old = f"{database[: MOST_NAME - 30]}_new_{at}", f"{database[: MOST_NAME - 30]}_old_{at}"
    connection.close()
    _run("createdb", "--template=template0", "--encoding=UTF8", new)
    try:
        _run("pg_restore", "--exit-on-error", "--no-owner", f"--dbname={new}", str(file))
    except BackupFailed:
        _run("dropdb", new)
        raise
    _end_others()
    connection.close()
    # both or none: two names change in one transaction
    _sql(f'BEGIN; ALTER DATABASE "{database}" RENAME TO "{old}"; ALTER DATABASE "{new}" RENAME TO "{database}"; COMMIT')
    return old


def _database() -> str:
    return str(connection.settings_dict["NAME"])


def _others() -> int:
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT count(*) FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()"
        )
        return int(cursor.fetchone()[0])


def _end_others() -> None:
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT pg_terminate_backend(pid) FROM pg_stat_activity "
            "WHERE datname = current_database() AND pid <> pg_backend_pid()"
        )


def _sql(command: str) -> None:
    _run("psql", "--no-psqlrc", "--quiet", "--set=ON_ERROR_STOP=1", "--dbname=postgres", f"--command={command}")


def _run(program: str, *options: str) -> str:
    """A program of PostgreSQL on the server that the settings name."""
    told = connection.settings_dict
    environment = {
        "PATH": "/usr/local/bin:/usr/bin:/bin",
        "PGHOST": str(told["HOST"]),
        "PGPORT": str(told["PORT"]),
        "PGUSER": str(told["USER"]),
        "PGPASSWORD": str(told["PASSWORD"]),
    }
    try:
        found = subprocess.run(  # noqa: S603 - a program of PostgreSQL by name, arguments apart
            [program, *options], env=environment, capture_output=True, text=True, check=False
        )
    except FileNotFoundError:
        raise BackupFailed(f"{program} was not found; it comes with PostgreSQL's client") from None
    if found.returncode:
        raise BackupFailed(f"{program}: {found.stderr.strip()[-600:]}")
    return found.stdout
