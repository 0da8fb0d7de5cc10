"""People of a workshop, for whoever runs Krill: made, listed, given new passwords, kept out, read from a table."""

import csv
import io
import secrets
from dataclasses import dataclass

from django.contrib.auth.models import Group, User
from django.contrib.auth.validators import UnicodeUsernameValidator
from django.core.exceptions import ValidationError
from django.db import transaction
from django.db.models import Count, Q, QuerySet

from accounts import sessions

LONGEST_NAME = 150


class PersonRefused(Exception):
    """A sentence for whoever runs Krill."""


@dataclass(frozen=True)
class Listed:
    """A person as the list has them; ``seen`` is the day of the last sign-in."""

    id: int
    name: str
    active: bool
    administrator: bool
    groups: list[str]
    builds: int
    seen: str


def must_be_free(name: str) -> None:
    """PersonRefused where nobody new can be called so."""
    try:
        UnicodeUsernameValidator()(name)
    except ValidationError:
        raise PersonRefused(f"'{name}' is no name; allowed are letters, digits and @ . + - _") from None
    if len(name) > LONGEST_NAME:
        raise PersonRefused(f"'{name[:20]}...' has {len(name)} characters; up to {LONGEST_NAME}")
    if User.objects.filter(username__iexact=name).exists():
        raise PersonRefused(f"there is somebody called '{name}' already")


def add(name: str) -> str:
    """Somebody new; their password, which is told here alone."""
    name = name.strip()
    must_be_free(name)
    password = secrets.token_urlsafe(12)
    User.objects.create_user(name, password=password)
    return password


def reset(name: str) -> str:
    """A new password; who is signed in as this person is signed out."""
    person = known(name)
    password = secrets.token_urlsafe(12)
    person.set_password(password)
    person.save(update_fields=["password"])
    sessions.end_all(person)
    return password


def set_active(name: str, *, active: bool) -> None:
    """Let somebody in, or keep them out: their sessions end, their builds stay."""
    change(known(name), active=active)


@transaction.atomic
def change(person: User, *, active: bool | None = None, administrator: bool | None = None) -> None:
    """Whether somebody may sign in, and may look after people; the last administrator stays one."""
    list(User.objects.select_for_update().filter(is_staff=True))
    stays = (person.is_active if active is None else active) and (
        person.is_staff if administrator is None else administrator
    )
    if person.is_staff and not stays and not _administrators().exclude(pk=person.pk).exists():
        raise PersonRefused(f"'{person.username}' is the last administrator; make another one first")
    if active is not None:
        person.is_active = active
    if administrator is not None:
        person.is_staff = administrator
    person.save(update_fields=["is_active", "is_staff"])
    if not person.is_active:
        sessions.end_all(person)


def _administrators() -> QuerySet[User]:
    return User.objects.filter(is_staff=True, is_active=True)


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
    counted = User.objects.annotate(count=Count("builds", filter=Q(builds__deleted=None), distinct=True))
    return [
        Listed(
            id=one.pk,
            name=one.username,
            active=one.is_active,
            administrator=one.is_staff,
            groups=sorted(group.name for group in one.groups.all()),
            builds=one.count,
            seen=one.last_login.date().isoformat() if one.last_login else "never",
        )
        for one in counted.prefetch_related("groups").order_by("username")
    ]


@transaction.atomic
def set_group(name: str, members: list[str]) -> Group:
    """A group with exactly these people in it; made where it is not there yet."""
    name = name.strip()
    if not name or len(name) > LONGEST_NAME:
        raise PersonRefused(f"'{name[:20]}' is no name of a group; 1 to {LONGEST_NAME} characters")
    group, _ = Group.objects.get_or_create(name=name)
    group.user_set.set([known(member) for member in members])
    return group


def drop_group(name: str) -> None:
    """A group that is no more: what was shared with it is not shared any longer."""
    if not Group.objects.filter(name=name).delete()[0]:
        raise PersonRefused(f"there is no group '{name}'")


def known(name: str) -> User:
    """Somebody by name."""
    person = User.objects.filter(username=name).first()
    if person is None:
        raise PersonRefused(f"there is nobody called '{name}'")
    return person
