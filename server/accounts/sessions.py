"""Sessions of people: begun at the sign-in, seen at requests, listed and ended."""

import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Final

from django.contrib.auth.models import User
from django.contrib.sessions.models import Session
from django.db import transaction
from django.db.models import QuerySet
from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from accounts.models import SignedIn
from wire.addresses import address_of
from wire.faults import ApiFault

#: when somebody was seen is written down at most so often
SEEN_EVERY: Final = timedelta(minutes=5)


def begin(request: HttpRequest, person: User) -> None:
    """Write down the session that a sign-in has just made."""
    now = timezone.now()
    request.session["seen"] = now.timestamp()
    told = {
        "person": person,
        "seen": now,
        "address": (address_of(request) or "")[:45],
        "browser": request.headers.get("User-Agent", "")[:200],
    }
    SignedIn.objects.update_or_create(key=request.session.session_key or "", defaults=told)


def note_seen(get_response: Callable[[HttpRequest], HttpResponse]) -> Callable[[HttpRequest], HttpResponse]:
    """A middleware behind the sign-in: when a session was last used."""

    def middleware(request: HttpRequest) -> HttpResponse:
        if request.user.is_authenticated:
            now, key = timezone.now(), request.session.session_key or ""
            before = request.session.get("seen", 0)
            if now.timestamp() - before > SEEN_EVERY.total_seconds():
                request.session["seen"] = now.timestamp()
                if not SignedIn.objects.filter(key=key).update(seen=now):
                    begin(request, request.user)  # of before sessions were written down
        return get_response(request)

    return middleware


def of(person: User) -> QuerySet[SignedIn]:
    """Somebody's sessions that have not ended, last seen first."""
    alive = Session.objects.filter(expire_date__gt=timezone.now())
    return SignedIn.objects.filter(person=person, key__in=alive.values("session_key"))


def moved(before: str, after: str) -> None:
    """A session that goes on under another key."""
    SignedIn.objects.filter(key=before).update(key=after)


@transaction.atomic
def end(person: User, session_id: uuid.UUID) -> None:
    """Sign out one of one's own sessions; 404 for any other."""
    found = SignedIn.objects.filter(pk=session_id, person=person).first()
    if found is None:
        raise ApiFault(404, f"sessions/{session_id}", "there is no such session of yours")
    _end([found.key])


@transaction.atomic
def end_all(person: User, but: str = "") -> int:
    """Sign somebody out everywhere but in one session; how many those were."""
    keys = list(SignedIn.objects.filter(person=person).exclude(key=but).values_list("key", flat=True))
    _end(keys)
    return len(keys)


def _end(keys: list[str]) -> None:
    Session.objects.filter(pk__in=keys).delete()
    SignedIn.objects.filter(key__in=keys).delete()


def forget_ended() -> None:
    """Rows of sessions that are no more."""
    SignedIn.objects.exclude(key__in=Session.objects.values("session_key")).delete()
