"""People, groups and invitations over HTTP, for administrators."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import asdict
from datetime import datetime
from typing import Annotated, Any

from django.contrib.auth.models import Group, User
from django.http import HttpRequest
from ninja import Field, Router, Schema, Status

from accounts import links, people
from wire.faults import ERRORS, ApiFault, Errors
from wire.people import user_of
from wire.text import Text

router = Router(tags=["people"], by_alias=True)
Name = Annotated[Text, Field(min_length=1, max_length=150)]


class PersonListed(Schema):
    id: int
    name: str
    active: bool
    administrator: bool
    groups: list[str]
    builds: int
    seen: str


class PersonChange(Schema):
    active: bool | None = None
    administrator: bool | None = None


class InvitationIn(Schema):
    """``note`` says for whom, to whoever looks at the list."""

    note: Annotated[Text, Field(max_length=120)] = ""
    groups: Annotated[list[Name], Field(max_length=50)] = []


class InvitationOut(Schema):
    id: int
    note: str
    person: str | None
    made_by: str
    ends: datetime


class Made(Schema):
    """A link's token, told once: the browser makes the address of it."""

    token: str


class GroupIn(Schema):
    members: Annotated[list[Name], Field(max_length=1000)]


class GroupOut(Schema):
    name: str
    members: list[str]


@router.get("/people", response={200: list[PersonListed], ERRORS: Errors}, operation_id="list_people")
def list_people(request: HttpRequest) -> list[dict[str, Any]]:
    _must_administer(request)
    return [asdict(one) for one in people.listed()]


@router.patch("/people/{person_id}", response={204: None, ERRORS: Errors}, operation_id="change_person")
def change_person(request: HttpRequest, person_id: int, data: PersonChange) -> Status[Any]:
    """Keep somebody out or let them in again; make them an administrator or not."""
    _must_administer(request)
    with _told():
        people.change(_person(person_id), active=data.active, administrator=data.administrator)
    return Status(204, None)


@router.post("/people/{person_id}/reset", response={201: Made, ERRORS: Errors}, operation_id="reset_person")
def reset_person(request: HttpRequest, person_id: int) -> Status[Any]:
    """A link by which somebody chooses another password; the present one stays good until then."""
    me = _must_administer(request)
    return Status(201, {"token": links.make(me, person=_person(person_id))})


@router.get("/invitations", response={200: list[InvitationOut], ERRORS: Errors}, operation_id="list_invitations")
def list_invitations(request: HttpRequest) -> list[dict[str, Any]]:
    """Links that nobody has taken yet."""
    _must_administer(request)
    return [
        {
            "id": one.pk,
            "note": one.note,
            "person": one.person.username if one.person else None,
            "made_by": one.made_by.username if one.made_by else "",
            "ends": one.ends,
        }
        for one in links.open_invitations()
    ]


@router.post("/invitations", response={201: Made, ERRORS: Errors}, operation_id="invite")
def invite(request: HttpRequest, data: InvitationIn) -> Status[Any]:
    """A link by which somebody new chooses a name and a password."""
    me = _must_administer(request)
    groups = list(Group.objects.filter(name__in=data.groups))
    return Status(201, {"token": links.make(me, note=data.note, groups=groups)})


@router.delete("/invitations/{link_id}", response={204: None, ERRORS: Errors}, operation_id="take_back_invitation")
def take_back_invitation(request: HttpRequest, link_id: int) -> Status[Any]:
    _must_administer(request)
    links.take_back(link_id)
    return Status(204, None)


@router.get("/groups", response={200: list[GroupOut], ERRORS: Errors}, operation_id="list_groups")
def list_groups(request: HttpRequest) -> list[dict[str, Any]]:
    """One's own groups; an administrator's list has all."""
    user = user_of(request)
    seen = Group.objects.all() if user.is_staff else user.groups.all()
    return [
        {"name": group.name, "members": sorted(one.username for one in group.user_set.all())}
        for group in seen.prefetch_related("user_set").order_by("name")
    ]


@router.put("/groups/{name}", response={204: None, ERRORS: Errors}, operation_id="set_group")
def set_group(request: HttpRequest, name: Name, data: GroupIn) -> Status[Any]:
    """A group with exactly these members; made where it is not there yet."""
    _must_administer(request)
    with _told():
        people.set_group(name, data.members)
    return Status(204, None)


@router.delete("/groups/{name}", response={204: None, ERRORS: Errors}, operation_id="drop_group")
def drop_group(request: HttpRequest, name: Name) -> Status[Any]:
    _must_administer(request)
    with _told():
        people.drop_group(name)
    return Status(204, None)


def _must_administer(request: HttpRequest) -> User:
    user = user_of(request)
    if not user.is_staff:
        raise ApiFault(403, "people", "only an administrator may do this")
    return user


def _person(person_id: int) -> User:
    person = User.objects.filter(pk=person_id).first()
    if person is None:
        raise ApiFault(404, f"people/{person_id}", "there is no such person")
    return person


@contextmanager
def _told() -> Iterator[None]:
    try:
        yield
    except people.PersonRefused as refused:
        raise ApiFault(422, "people", str(refused)) from None
