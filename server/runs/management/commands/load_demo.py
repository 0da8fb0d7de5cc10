import secrets
from typing import Any

from django.conf import settings
from django.contrib.auth.models import User
from django.core.management.base import BaseCommand
from django.db import transaction

from builds.actions import create_build, keep_revision, save_draft
from builds.models import Build
from krill.document.reading import read_object
from krill.runs.run_document import Reading, Settings
from runs.actions import add_log, add_readings, change_run
from runs.demo.story import (
    bench,
    bench_of_limpet,
    bench_of_new_pads,
    bench_of_sandpiper,
    bench_on_a_quiet_night,
    driven,
    limpet_revisions,
    packed_csv,
    revisions,
    sandpiper,
    sandpiper_log,
    sandpiper_turned,
    third,
    typed,
    with_new_pads,
)
from runs.models import DemoLoaded, Run
from runs.queries import learn
from runs.schemas import ReadingsIn, RunChange, RunIn
from sheets.demo import half_built

DEMO_USER = "demo"


class Command(BaseCommand):
    help = "Load the demo (builds of Saltmarsh Field Station) where it is not there yet; print how to sign in"

    def handle(self, *args: Any, **options: Any) -> None:
        kept = settings.RUN / "demo.password"
        user = User.objects.filter(username=DEMO_USER).first()
        if user is None:
            password = secrets.token_urlsafe(9)
            user = User.objects.create_user(DEMO_USER, password=password, is_staff=True)
            kept.parent.mkdir(exist_ok=True)
            kept.touch(mode=0o600)
            kept.write_text(password)
        for name, load in (("Limpet", load_limpet), ("Sandpiper", load_sandpiper), ("Heron", load_heron)):
            with transaction.atomic():
                there = Build.objects.filter(owner=user, name=name).exists()
                _, new = DemoLoaded.objects.get_or_create(name=name)
                if new and not there:
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
    build.refresh_from_db()
    half_built(user, build)
    return build


def _form(workload: str, name: str, note: str, room: tuple[float, float] | None = None) -> dict[str, Any]:
    start, end = room or (None, None)
    return {"workload": workload, "name": name, "note": note, "room_start_c": start, "room_end_c": end}


def _log(user: User, build: Build, file: str, data: bytes, said: dict[str, Any]) -> Run:
    return add_log(user, build.pk, RunIn(**said), file, data)


def _runs_of_heron(user: User, build: Build) -> None:
    document = third()
    render, both = bench(document, "render", 70, 3), bench(document, "both", 75, 3)
    short, by_hand = bench(document, "both", 9, 5), bench(document, "both", 70, 3)
    locked, desk = "Fans and pump locked.", "Somebody needed the desk."
    render_run = _log(
        user, build, "render.csv", render.csv().encode(), _form("render", "Render log", locked, (24.4, 24.7))
    )
    both_run = _log(user, build, "both.csv.gz", packed_csv(both), _form("both", "Both log", locked, (24.5, 24.6)))
    change_run(user, both_run.pk, RunChange(readings=[_jobs(43.0)]))
    _log(user, build, "both-early.csv", short.csv().encode(), _form("both", "Both stopped early", desk, (24.5, 24.5)))
    readings = [Reading(**reading) for reading in typed(by_hand)]
    said = _form("both", "Both typed", "Read off the display.", (24.5, 25.0))
    add_readings(user, build.pk, ReadingsIn(**said, readings=readings))
    nobody = _form("both", "Both typed, no room", "The thermometer was at home.")
    add_readings(user, build.pk, ReadingsIn(**nobody, readings=readings))
    _quiet_night(user, build)
    build = _new_pads(user, build)
    _learnt(user, build, [both_run, render_run])


def _jobs(per_hour: float) -> Reading:
    return Reading(minute=50, role="job/jobs_per_hour", kind="mean", value=per_hour)


def _quiet_night(user: User, build: Build) -> None:
    """A run that gave up watts, with the score of its job."""
    said = _form("both", "Both, quiet night", "Fans turned down so that somebody could sleep.", (29.9, 30.2))
    run = _log(user, build, "quiet-night.csv", bench_on_a_quiet_night().csv().encode(), said)
    settings = Settings(fans_by="firmware, turned down", lid="on", filter="clean")
    change_run(user, run.pk, RunChange(readings=[_jobs(41.0)], settings=settings))


def _new_pads(user: User, build: Build) -> Build:
    """Before and after at equal sound, and a pair that changed two things at once."""
    why = "thinner pads under the graphics memory"
    build = save_draft(user, build.pk, build.sequence, read_object(with_new_pads()), why)
    keep_revision(user, build.pk, why)
    after = bench_of_new_pads(read_object(with_new_pads()), "both", 3)
    said = _form("both", "Both, new pads", "Same evening, same speeds.", (24.6, 24.5))
    _log(user, build, "new-pads.csv", after.csv().encode(), said)
    faster = driven(with_new_pads(), "both", pump=0.95, fan_bottom_left=0.9, fan_bottom_right=0.9)
    said = _form("both", "Both, new pads and faster", "Pump and lower fans turned up as well.", (24.5, 24.8))
    _log(user, build, "faster.csv", bench_of_new_pads(faster, "both", 4).csv().encode(), said)
    return build


def _learnt(user: User, build: Build, runs: list[Run]) -> None:
    """A revision with what two logs taught, and a load that neither of them had."""
    build.refresh_from_db()
    found = learn(build, [(run, None) for run in runs], ["pads-memory/resistance_mm2k_w"])
    document = with_new_pads() | {"calibration": found["calibration"]}
    why = "what both logs of the third revision taught"
    build = save_draft(user, build.pk, build.sequence, read_object(document), why)
    keep_revision(user, build.pk, why)
    log = bench_of_new_pads(read_object(with_new_pads()), "listening", 5, 27.0)
    said = _form("listening", "Listening, after learning", "A load that nobody had run yet.", (27.0, 27.1))
    _log(user, build, "listening.csv", log.csv().encode(), said)


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
    before = sandpiper_log(sandpiper(), 8).csv().encode()
    _log(user, build, "before.csv", before, _form("imaging", "Upright, before", "Blower locked.", (21.0, 21.0)))
    build = save_draft(user, build.pk, build.sequence, read_object(sandpiper_turned()), "turned on its side")
    keep_revision(user, build.pk, "on its side, as the microscope people would have it")
    turned = sandpiper_log(sandpiper_turned(), 9).csv().encode()
    _log(user, build, "side.csv", turned, _form("imaging", "On its side", "Blower locked.", (21.0, 21.1)))
    back = sandpiper_log(sandpiper(), 10).csv().encode()
    upright = _form("imaging", "Upright again", "Blower locked.", (21.1, 21.0)) | {"revision": 1}
    _log(user, build, "again.csv", back, upright)
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
    _limpet_claim(user, build)
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
        Reading(
            minute=minute,
            role="processor-core/temperature",
            kind="now",
            load_on=True,
            value=round(float(log.channels["Processor temperature"][minute * 12])),
        )
        for minute in (60, 100, 130, 150)
    ]
    add_readings(user, build.pk, ReadingsIn(**said, room_start_c=19.1, room_end_c=19.4, readings=readings))


def _limpet_claim(user: User, build: Build) -> None:
    """What a leaflet says of such housings: one figure, and nothing of the room, the watts or how long it took."""
    reading = Reading(minute=0, role="processor-core/temperature", kind="now", value=58.0)
    said = _form("full", "Leaflet of the housing", "It was not said in which room.")
    add_readings(user, build.pk, ReadingsIn(**said, kind="claim", source="leaflet", readings=[reading]))
