"""Live runs as they go over the wire."""

from typing import Any, Final

from django.conf import settings
from django.http import HttpRequest

from krill.watching.kinds import WORDS
from live.models import LiveRun

#: a practice run without a fault
NONE: Final = "none"
#: what goes wrong, in words
TITLES: Final[dict[str, str]] = {NONE: "Nothing is wrong"} | {str(kind): words for kind, words in WORDS.items()}


def live_out(live: LiveRun) -> dict[str, Any]:
    return {
        "id": live.pk,
        "name": live.name,
        "workload": live.workload,
        "revision": live.revision.number,
        "minutes": live.minutes,
        "room_c": live.room_c,
        "created": live.created,
        "ended": live.ended,
        "run": live.run_id,
        "practice": None if live.practice is None else practice_out(live),
        "rows": getattr(live, "held_rows", None) or 0,
        "last_arrived": getattr(live, "last_arrived", None),
    }


def live_begun(request: HttpRequest, live: LiveRun, token: str) -> dict[str, Any]:
    """With its token, and the address that a logger sends to: the host by which the page was reached."""
    scheme = "https" if settings.HTTPS else "http"
    return {**live_out(live), "token": token, "address": f"{scheme}://{request.get_host()}/api/live/{live.pk}"}


def practice_out(live: LiveRun) -> dict[str, Any]:
    """What is hidden stays so until somebody has guessed or the run is over."""
    told = live.practice or {}
    hidden, guess = bool(told.get("hidden")), told.get("guess")
    open_now = not hidden or guess is not None or live.ended is not None
    fault = told.get("fault", NONE)
    return {
        "speed": told.get("speed", 1.0),
        "hidden": hidden,
        "fault": fault if open_now else None,
        "title": TITLES[fault] if open_now else "Something is wrong, or nothing: find it",
        "guess": guess,
        "judged": None if guess is None else _judged(told, fault, guess),
    }


def _judged(told: dict[str, Any], fault: str, guess: str) -> dict[str, Any]:
    at, guessed = told.get("at_min"), told.get("guessed_at_min")
    right = guess == fault
    says = (
        f"Right: {TITLES[fault].lower()}"
        if right
        else f"You said: {TITLES[guess].lower()}. It was: {TITLES[fault].lower()}"
    )
    if fault != NONE and at is not None:
        says += f", from minute {at:.0f} on"
        if right and guessed is not None and guessed >= at:
            says += f"; found after {guessed - at:.0f} min"
    return {
        "right": right,
        "hidden": fault,
        "hidden_title": TITLES[fault],
        "on": told.get("on", ""),
        "at_min": at if fault != NONE else None,
        "guessed_at_min": guessed,
        "says": f"{says}.",
    }
