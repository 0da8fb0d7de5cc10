"""People of a workshop, for whoever runs Krill: made, listed, given new passwords, kept out, read from a table."""

import csv
import io
import secrets
from dataclasses import dataclass

from django.contrib.auth.models import User
from django.contrib.auth.validators import UnicodeUsernameValidator
from django.contrib.sessions.models import Session
from django.core.exceptions import ValidationError
from django.db import transaction
from django.db.models import Count, Q

LONGEST_NAME = 150


class PersonRefused(Exception):
    """A sentence for whoever runs Krill."""


@dataclass(frozen=True)
class Listed:
    """A person as the list has them; ``seen`` is the day of the last sign-in."""

    name: str
    active: bool
    builds: int
    seen: str


def add(name: str) -> str:
    """Somebody new; their password, which is told here alone."""
    name = name.strip()
    try:
        UnicodeUsernameValidator()(name)
    except ValidationError:
        raise PersonRefused(f"'{name}' is no name; allowed are letters, digits and @ . + - _") from None
    if len(name) > LONGEST_NAME:
        raise PersonRefused(f"'{name[:20]}...' has {len(name)} characters; up to {LONGEST_NAME}")
    if User.objects.filter(username__iexact=name).exists():
        raise PersonRefused(f"there is somebody called '{name}' already")
    password = secrets.token_urlsafe(12)
    User.objects.create_user(name, password=password)
    return password


def reset(name: str) -> str:
    """A new password; who is signed in as this person is signed out."""
    person = _known(name)
    password = secrets.token_urlsafe(12)
    person.set_password(password)
    person.save(update_fields=["password"])
    _end_sessions(person)
    return password


def set_active(name: str, *, active: bool) -> None:
    """Let somebody in, or keep them out: their sessions end, their builds stay."""
    person = _known(name)
    person.is_active = active
    person.save(update_fields=["is_active"])
    if not active:
        _end_sessions(person)


@transaction.atomic
def read_table(text: str) -> list[tuple[str, str]]:
    """People of a CSV table with a column "name": (name, password) of each, all or none."""
    rows = csv.DictReader(io.StringIO(text))
    if "name" not in (rows.fieldnames or []):
        raise PersonRefused("the table has no column 'name'; its first line names the columns")
    made = []
    for line, row in enumerate(rows, 2):
        try:
            made.append((row["name"].strip(), add(row["name"])))
        except (PersonRefused, AttributeError) as refused:
            raise PersonRefused(f"line {line}: {refused}") from None
    return made


def listed() -> list[Listed]:
    """Everybody, by name."""
    people = User.objects.annotate(count=Count("builds", filter=Q(builds__deleted=None))).order_by("username")
    return [
        Listed(one.username, one.is_active, one.count, one.last_login.date().isoformat() if one.last_login else "never")
        for one in people
    ]


def _known(name: str) -> User:
    person = User.objects.filter(username=name).first()
    if person is None:
        raise PersonRefused(f"there is nobody called '{name}'")
    return person


def _end_sessions(person: User) -> None:
    own = [
        session.pk
        for session in Session.objects.iterator()
        if session.get_decoded().get("_auth_user_id") == str(person.pk)
    ]
    Session.objects.filter(pk__in=own).delete()
