"""Backup, an edit, an upgrade, restore: rehearsed on a database of its own, by the commands that whoever runs Krill gives."""

import os
from collections.abc import Iterator

import psycopg
import pytest
from databases import connected, manage, migrated

from krill_server.backup import MUST_HOLD, BackupFailed, make_backup, must_be_backup

NAME = f"krill_rehearsal_{os.getpid()}"


@pytest.fixture(scope="module")
def template(django_db_setup) -> Iterator[str]:
    """A database of Krill with one person in it."""
    with migrated(f"template_{NAME}") as name:
        with connected(name) as database:
            add_person(database, "first")
        yield name


@pytest.fixture
def rehearsal(template, db) -> Iterator[str]:
    """A copy to work on; what comes of it is dropped afterwards."""
    with connected("postgres") as server:
        server.execute(f'CREATE DATABASE "{NAME}" TEMPLATE "{template}"')
        yield NAME
        names = server.execute("SELECT datname FROM pg_database WHERE datname LIKE %s", [f"{NAME}%"]).fetchall()
        for (name,) in names:
            server.execute(f'DROP DATABASE "{name}" WITH (FORCE)')


def add_person(database: psycopg.Connection, name: str) -> None:
    database.execute(
        "INSERT INTO auth_user (username, password, is_superuser, is_staff, is_active, first_name, last_name, email, "
        "date_joined) VALUES (%s, '', false, false, true, '', '', '', now())",
        [name],
    )


def people(name: str) -> list[str]:
    with connected(name) as database:
        return [row[0] for row in database.execute("SELECT username FROM auth_user ORDER BY username")]


def test_what_was_backed_up_comes_back_and_the_other_stays_beside_it(rehearsal, tmp_path):
    made = manage(NAME, "backup", str(tmp_path))
    assert made.returncode == 0, made.stderr
    (file,) = tmp_path.iterdir()
    assert str(file) in made.stdout
    assert file.stat().st_mode & 0o077 == 0
    with connected(rehearsal) as database:
        add_person(database, "second")
        database.execute("ALTER TABLE builds_build ADD COLUMN of_an_upgrade integer")  # which went wrong
        refused = manage(NAME, "restore", str(file))
        assert refused.returncode == 1
        assert "1 connections are open: stop Krill first" in refused.stderr
    assert people(rehearsal) == ["first", "second"]
    restored = manage(NAME, "restore", str(file))
    assert restored.returncode == 0, restored.stderr
    assert people(rehearsal) == ["first"]
    old = restored.stdout.split("as database ")[1].split(",")[0]
    assert people(old) == ["first", "second"]
    assert manage(NAME, "migrate", "--check").returncode == 0


def test_while_serving_the_open_connections_are_ended(rehearsal, tmp_path):
    manage(NAME, "backup", str(tmp_path))
    with connected(rehearsal) as database:
        restored = manage(NAME, "restore", str(next(tmp_path.iterdir())), "--while-serving")
        assert restored.returncode == 0, restored.stderr
        with pytest.raises(psycopg.OperationalError):
            database.execute("SELECT 1")


def test_a_damaged_backup_changes_nothing(rehearsal, tmp_path):
    manage(NAME, "backup", str(tmp_path))
    file = next(tmp_path.iterdir())
    half = tmp_path / "half.dump"
    half.write_bytes(file.read_bytes()[: file.stat().st_size * 2 // 3])
    refused = manage(NAME, "restore", str(half))
    assert refused.returncode == 1
    assert "pg_restore" in refused.stderr
    assert people(rehearsal) == ["first"]
    with connected("postgres") as server:
        (count,) = server.execute("SELECT count(*) FROM pg_database WHERE datname LIKE %s", [f"{NAME}%"]).fetchone()
    assert count == 1


@pytest.mark.django_db(transaction=True)
class TestMaking:
    def test_only_the_newest_stay_and_what_is_not_ours_is_left_alone(self, tmp_path):
        other = tmp_path / "another-20260101.dump"
        other.touch()
        made = [make_backup(tmp_path, keep=2) for _ in range(3)]
        assert sorted(tmp_path.iterdir()) == sorted([other, *made[1:]])

    def test_a_backup_of_something_else_is_refused(self, tmp_path, monkeypatch):
        file = make_backup(tmp_path, keep=1)
        must_be_backup(file)
        monkeypatch.setattr("krill_server.backup.MUST_HOLD", MUST_HOLD + "ings")
        with pytest.raises(BackupFailed, match="a backup of something else"):
            must_be_backup(file)
        with pytest.raises(BackupFailed, match="there is no file"):
            must_be_backup(tmp_path / "none.dump")

    def test_a_backup_that_fails_leaves_no_file(self, tmp_path, monkeypatch):
        monkeypatch.setattr("krill_server.backup.MUST_HOLD", "nothing such")
        with pytest.raises(BackupFailed):
            make_backup(tmp_path, keep=1)
        assert list(tmp_path.iterdir()) == []
