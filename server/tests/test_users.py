"""People by command: made, listed, kept out, given new passwords, read from a table."""

import io
import json
from datetime import timedelta
from pathlib import Path

import pytest
from axes.models import AccessLog
from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.core.management import CommandError, call_command
from django.test import Client
from django.utils import timezone

from accounts.tasks import tidy


def users(*command: str) -> list[str]:
    out = io.StringIO()
    call_command("krill_users", *command, stdout=out)
    return out.getvalue().splitlines()


def can_sign_in(name: str, password: str) -> bool:
    client = Client()
    client.get("/api/session")
    body = json.dumps({"username": name, "password": password})
    token = {"HTTP_X_CSRFTOKEN": client.cookies["csrftoken"].value}
    return client.post("/api/login", body, content_type="application/json", **token).status_code == 200


def test_somebody_new_can_sign_in_with_the_password_that_is_printed(db):
    (line,) = users("add", "Mira")
    name, password = line.split(": ")
    assert name == "Mira"
    assert len(password) >= 16
    assert can_sign_in("Mira", password)
    assert not can_sign_in("Mira", password + "x")


@pytest.mark.parametrize(
    ("name", "says"),
    [
        ("owner", "already"),
        ("OWNER", "already"),
        ("a b", "is no name"),
        ("", "is no name"),
        ("x" * 151, "151 characters"),
    ],
)
def test_names_that_cannot_be(people, name, says):
    with pytest.raises(CommandError, match=says):
        users("add", name)
    assert User.objects.count() == len(people)


def test_a_name_may_be_as_long_as_it_can_be(db):
    users("add", "x" * 150)


def test_who_is_kept_out_is_signed_out_and_the_builds_stay(signed_in, build):
    client, other = signed_in("owner"), signed_in("editor")
    assert client.get("/api/builds").status_code == 200
    assert users("deactivate", "owner") == ["owner is kept out"]
    assert client.get("/api/builds").status_code == 401
    assert not can_sign_in("owner", "owner-long-enough")
    assert other.get(f"/api/builds/{build.pk}").status_code == 200
    users("activate", "owner")
    assert client.get("/api/builds").status_code == 401  # the old session has ended for good
    assert can_sign_in("owner", "owner-long-enough")


def test_a_new_password_ends_the_sessions_of_the_old_one(signed_in, people):
    client, other = signed_in("owner"), signed_in("editor")
    password = users("reset", "owner")[0].split(": ")[1]
    assert client.get("/api/builds").status_code == 401
    assert other.get("/api/builds").status_code == 200
    assert can_sign_in("owner", password)
    assert not can_sign_in("owner", "owner-long-enough")


@pytest.mark.parametrize("action", ["reset", "deactivate", "activate"])
def test_nobody_of_this_name(db, action):
    with pytest.raises(CommandError, match="there is nobody called 'nemo'"):
        users(action, "nemo")


def test_the_list_says_how_many_builds_and_when_last_seen(people, build):
    users("deactivate", "stranger")
    lines = users("list")
    assert "owner  active  builds: 1  last seen: never" in lines
    assert "stranger  kept out  builds: 0  last seen: never" in lines


def test_a_table_is_read_as_a_whole_or_not_at_all(people, tmp_path: Path):
    table = tmp_path / "people.csv"
    table.write_text("\ufeffname,desk\nMira,3\n Ole ,4\n", encoding="utf-8")
    made = [line.split(": ")[0] for line in users("import", str(table))]
    assert made == ["Mira", "Ole"]
    table.write_text("name\nPia\nowner\n")
    with pytest.raises(CommandError, match="line 3: there is somebody called 'owner' already"):
        users("import", str(table))
    assert not User.objects.filter(username="Pia").exists()
    table.write_text("who\nPia\n")
    with pytest.raises(CommandError, match="no column 'name'"):
        users("import", str(table))
    with pytest.raises(CommandError, match="cannot be read"):
        users("import", str(tmp_path / "none.csv"))


def test_every_night_expired_sessions_and_old_wrong_passwords_go(people):
    now = timezone.now()
    for key, days in (("over", -1), ("open", 1)):
        Session.objects.create(session_key=key, session_data="", expire_date=now + timedelta(days=days))
    for name, days in (("old", 31), ("new", 29)):
        tried = AccessLog.objects.create(username=name, user_agent="", path_info="")
        AccessLog.objects.filter(pk=tried.pk).update(attempt_time=now - timedelta(days=days))
    tidy(timestamp=0)
    assert list(Session.objects.values_list("session_key", flat=True)) == ["open"]
    assert list(AccessLog.objects.values_list("username", flat=True)) == ["new"]


def test_guessing_the_old_password_is_held_off_as_guessing_at_the_sign_in_is(signed_in):
    client = signed_in("owner")

    def change(old: str) -> int:
        body = json.dumps({"old": old, "new": "a-new-long-phrase"})
        return client.post("/api/password", body, content_type="application/json").status_code

    assert client.post("/api/password", "{}", content_type="application/json").status_code == 422
    assert [change(f"guess {n}") for n in range(8)] == [403] * 7 + [429]
    assert change("owner-long-enough") == 429
    assert not can_sign_in("owner", "owner-long-enough")
    assert can_sign_in("editor", "editor-long-enough")
