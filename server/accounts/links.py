"""Links that let somebody in once: an invitation, or a new password. Whoever made one hands it on; no mail is sent."""

import hashlib
import secrets
from datetime import timedelta
from typing import Final

from django.contrib.auth.models import Group, User
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import transaction
from django.utils import timezone

from accounts import sessions
from accounts.models import OneTimeLink
from accounts.people import PersonRefused, must_be_free
from wire.faults import ApiFault

GOOD_FOR: Final = timedelta(days=7)
MOST_OPEN: Final = 200


@transaction.atomic
def make(made_by: User | None, *, person: User | None = None, note: str = "", groups: list[Group] = []) -> str:  # noqa: B006
    """A token; for somebody there is, links that were open before end."""
    now = timezone.now()
    if person is not None:
        OneTimeLink.objects.filter(person=person, taken=None).delete()
    if OneTimeLink.objects.filter(taken=None, ends__gt=now).count() >= MOST_OPEN:
        raise ApiFault(422, "invitations", f"{MOST_OPEN} are open", "take some back")
    token = secrets.token_urlsafe(24)
    link = OneTimeLink.objects.create(
        token_sha256=_hashed(token), person=person, note=note, made_by=made_by, ends=now + GOOD_FOR
    )
    link.groups.set(groups)
    return token


def looked_at(token: str) -> OneTimeLink:
    """The link of a token; 404 where it was taken, has ended or never was."""
    return _open(token)


@transaction.atomic
def take(token: str, username: str, password: str) -> User:
    """Somebody new with the name that they choose, or the person of the link with another password."""
    link = _open(token, lock=True)
    person = link.person or User(username=username)
    if link.person is None:
        try:
            must_be_free(username)
        except PersonRefused as refused:
            raise ApiFault(422, "username", str(refused)) from None
    try:
        validate_password(password, person)
    except ValidationError as error:
        raise ApiFault(422, "password", " ".join(error.messages)) from None
    person.set_password(password)
    person.save()
    sessions.end_all(person)
    person.groups.add(*link.groups.all())
    link.taken = timezone.now()
    link.save(update_fields=["taken"])
    return person


def open_invitations() -> list[OneTimeLink]:
    """Those that nobody has taken yet."""
    return list(OneTimeLink.objects.filter(taken=None, ends__gt=timezone.now()).select_related("person", "made_by"))


def take_back(link_id: int) -> None:
    if not OneTimeLink.objects.filter(pk=link_id, taken=None).delete()[0]:
        raise ApiFault(404, f"invitations/{link_id}", "there is no such open invitation")


def _open(token: str, *, lock: bool = False) -> OneTimeLink:
    rows = OneTimeLink.objects.select_for_update() if lock else OneTimeLink.objects
    link = rows.filter(token_sha256=_hashed(token), taken=None, ends__gt=timezone.now()).first()
    if link is None or (link.person_id is not None and not User.objects.filter(pk=link.person_id, is_active=True)):
        raise ApiFault(404, "token", "this link was used, has ended or never was", "a new one from whoever runs Krill")
    return link


def _hashed(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
