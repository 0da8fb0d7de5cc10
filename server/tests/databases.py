"""Databases of their own, migrated by the commands that whoever runs Krill gives."""

import os
import subprocess
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import psycopg
from django.db import connection

SERVER = Path(__file__).parents[1]


def connected(name: str) -> psycopg.Connection:
    told = connection.settings_dict
    return psycopg.connect(
        host=told["HOST"], port=told["PORT"], user=told["USER"], password=told["PASSWORD"], dbname=name, autocommit=True
    )


def environment_of(name: str, **more: str) -> dict[str, str]:
    """What a process on a database is told."""
    told = os.environ | {"PGDATABASE": name, "PYTHONPATH": f"{SERVER}:{SERVER.parent / 'core'}"}
    told.pop("DJANGO_SETTINGS_MODULE", None)
    return told | more


def manage(database: str, *command: str) -> subprocess.CompletedProcess[str]:
    return subprocess.run(
        [sys.executable, "manage.py", *command],
        cwd=SERVER,
        env=environment_of(database),
        capture_output=True,
        text=True,
        check=False,
    )


@contextmanager
def migrated(name: str) -> Iterator[str]:
    """An empty database of Krill, dropped in the end."""
    with connected("postgres") as server:
        server.execute(f'CREATE DATABASE "{name}" TEMPLATE template0')
        try:
            made = manage(name, "migrate", "--verbosity", "0")
            assert made.returncode == 0, made.stderr
            yield name
        finally:
            server.execute(f'DROP DATABASE "{name}" WITH (FORCE)')
