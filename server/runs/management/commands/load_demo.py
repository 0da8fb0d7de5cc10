import secrets
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.core.management.base import BaseCommand
from django.db import transaction

from builds.actions import create_build, keep_revision, save_draft
from builds.models import Build
from krill.document.reading import read_object
from runs.actions import add_log, add_readings
from runs.demo.story import (
    bench,
    bench_of_limpet,
    bench_of_sandpiper,
    limpet_revisions,
    packed_csv,
    revisions,
    sandpiper,
    sandpiper_turned,
    third,
    typed,
)
from runs.schemas import ReadingIn, ReadingsIn, RunIn

DEMO_USER = "demo"


class Command(BaseCommand):
    help = "Load the demo (builds of Saltmarsh Field Station) where it is not there yet; print how to sign in"

    def handle(self, *args: Any, **options: Any) -> None:
        kept = settings.RUN / "demo.password"
        user = User.objects.filter(username=DEMO_USER).first()
        if user is None:
            password = secrets.token_urlsafe(9)
            user = User.objects.create_user(DEMO_USER, password=password)
            kept.parent.mkdir(exist_ok=True)
            kept.touch(mode=0o600)
            kept.write_text(password)
        for name, load in (("Limpet", load_limpet), ("Sandpiper", load_sandpiper), ("Heron", load_heron)):
            if not Build.objects.filter(owner=user, name=name).exists():
                with transaction.atomic():
                    load(user)
        known = kept.read_text() if kept.exists() else "(changed; bin/demo --new-password makes another)"
        self.stdout.write(f"user {DEMO_USER}, password {known}")


def load_heron(user: User) -> Build:
    """Heron with its revisions and runs."""
    states = revisions()
    build = create_build(user, read_object(states[0][0]))
    keep_revision(user, build.pk, states[0][1])
    for changed, why in states[1:]:
        build = save_draft(user, build.pk, build.sequence, read_object(changed), why[:200])
        keep_revision(user, build.pk, why)
    _runs_of_heron(user, build)
    return build


def _runs_of_heron(user: User, build: Build) -> None:
    document = third()

    def form(workload: str, name: str, note: str, start: float | None, end: float | None) -> dict[str, Any]:
        return {"workload": workload, "name": name, "note": note, "room_start_c": start, "room_end_c": end}

    def log(name: str, data: bytes, said: dict[str, Any]) -> None:
        add_log(user, build.pk, RunIn(**said), name, data)

    render, both = bench(document, "render", 70, 3), bench(document, "both", 75, 3)
    short, by_hand = bench(document, "both", 9, 5), bench(document, "both", 70, 3)
    locked, desk = "Fans and pump locked.", "Somebody needed the desk."
    log("render.csv", render.csv().encode(), form("render", "Render log", locked, 24.4, 24.7))
    log("both.csv.gz", packed_csv(both), form("both", "Both log", locked, 24.5, 24.6))
    log("both-early.csv", short.csv().encode(), form("both", "Both stopped early", desk, 24.5, 24.5))
    readings = [ReadingIn(**reading) for reading in typed(by_hand)]
    said = form("both", "Both typed", "Read off the display.", 24.5, 25.0)
    add_readings(user, build.pk, ReadingsIn(**said, readings=readings))


def load_sandpiper(user: User) -> Build:
    """Sandpiper as built and on its side, with a log and a run that nobody noted the room of."""
    build = create_build(user, read_object(sandpiper()))
    keep_revision(user, build.pk, "as built: light first, computer behind it in the same duct")
    log, flawed = bench_of_sandpiper("imaging", 50, 4), bench_of_sandpiper("led-only", 25, 6)
    add_log(
        user,
        build.pk,
        RunIn(workload="imaging", name="Imaging log", note="Blower locked.", room_start_c=20.4, room_end_c=20.6),
        "imaging.csv",
        log.csv().encode(),
    )
    add_log(
        user,
        build.pk,
        RunIn(workload="led-only", name="Light alone, no room", note="Nobody noted the room."),
        "light.csv",
        flawed.csv().encode(),
    )
    build = save_draft(user, build.pk, build.sequence, read_object(sandpiper_turned()), "turned on its side")
    keep_revision(user, build.pk, "on its side, as the microscope people would have it")
    return build


def load_limpet(user: User) -> Build:
    """Limpet with its revisions, each with a run: a long log, typed readings, one stopped long before it had settled."""
    (three, first_why), (five, second_why), (bare, third_why) = limpet_revisions()
    build = create_build(user, read_object(three))
    keep_revision(user, build.pk, first_why)
    _limpet_log(user, build, three, (180, 2), "Three pipes, three hours", "Door of the hut shut.", (18.8, 19.3))
    build = save_draft(user, build.pk, build.sequence, read_object(five), "five heat pipes")
    keep_revision(user, build.pk, second_why)
    _limpet_typed(user, build, five)
    build = save_draft(user, build.pk, build.sequence, read_object(bare), "bare housing")
    keep_revision(user, build.pk, third_why)
    _limpet_log(user, build, bare, (22, 4), "Bare, stopped early", "Tide came in.", (19.0, 19.0))
    return build


def _limpet_log(
    user: User,
    build: Build,
    document: dict[str, Any],
    bench_run: tuple[float, int],
    name: str,
    note: str,
    room: tuple[float, float],
) -> None:
    """A log of the bench's minutes and seed, with what somebody noted."""
    log = bench_of_limpet(document, *bench_run)
    said = RunIn(workload="full", name=name, note=note, room_start_c=room[0], room_end_c=room[1])
    add_log(user, build.pk, said, f"{name.split(',')[0].lower().replace(' ', '-')}.csv", log.csv().encode())


def _limpet_typed(user: User, build: Build, document: dict[str, Any]) -> None:
    log = bench_of_limpet(document, 150, 3)
    said: dict[str, Any] = {"workload": "full", "name": "Five pipes, typed", "note": "Read off the display."}
    readings = [
        ReadingIn(
            minute=minute,
            role="processor-core/temperature",
            kind="now",
            load_on=True,
            value=round(float(log.channels["Processor temperature"][minute * 12])),
        )
        for minute in (60, 100, 130, 150)
    ]
    add_readings(user, build.pk, ReadingsIn(**said, room_start_c=19.1, room_end_c=19.4, readings=readings))
