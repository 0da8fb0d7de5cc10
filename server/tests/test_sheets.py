"""Marks beside a build, its calendar and tables."""

import csv
import io
import json
import zipfile
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, date, datetime, timedelta

import pytest
from django.contrib.auth.models import User
from django.db import connection
from django.utils import timezone
from icalendar import Calendar

from builds.actions import create_build
from builds.models import Access, Build
from krill.assembly.sheet import build_sheet
from krill.document.build import leaves
from krill.document.reading import read_object, read_text, write_object
from krill.recipes.water_loop import water_loop
from runs.archive import archive_of, read_archive
from runs.demo.story import limpet, sandpiper, third
from sheets.actions import MOST_MARKS, NewMark, add_marks
from sheets.calendar import due_on
from sheets.demo import half_built
from sheets.models import Mark
from sheets.queries import marks_of, standing, timers
from wire.faults import ApiFault

NOW = datetime(2026, 11, 29, 12, tzinfo=UTC)


def mark(key="key-00000001", about="pump", kind="done", at=NOW, **more):
    return {"key": key, "about": about, "kind": kind, "at": at.isoformat(), **more}


def send(client, build, *marks, sent_at=None):
    body = {"sent_at": (sent_at or timezone.now()).isoformat(), "marks": list(marks)}
    return client.post(f"/api/builds/{build.pk}/marks", json.dumps(body), content_type="application/json")


def kept(client, build):
    return client.get(f"/api/builds/{build.pk}/marks").json()["marks"]


def test_a_tick_is_kept_once_however_often_it_is_sent(signed_in, build):
    client = signed_in("owner")
    now = timezone.now()
    for _ in range(3):
        answer = send(client, build, mark(at=now, minutes=12.5, word="tight"), sent_at=now)
        assert answer.status_code == 200
    [one] = kept(client, build)
    assert (one["about"], one["kind"], one["minutes"], one["word"], one["who"]) == (
        "pump",
        "done",
        12.5,
        "tight",
        "owner",
    )


def test_a_tick_is_no_edit_of_the_build(signed_in, build):
    client = signed_in("owner")
    before = client.get(f"/api/builds/{build.pk}").json()
    send(client, build, mark())
    after = client.get(f"/api/builds/{build.pk}").json()
    assert (after["sequence"], after["undo"], after["sha256"]) == (before["sequence"], before["undo"], before["sha256"])


def test_two_people_tick_one_sheet_and_nothing_is_lost(signed_in, build):
    owner, editor = signed_in("owner"), signed_in("editor")
    send(owner, build, mark("owner-00001", "pump"), mark("owner-00002", "tube"))
    send(editor, build, mark("editor-0001", "supply"), mark("editor-0002", "pump", "failed", word="hums"))
    assert {(m["about"], m["kind"], m["who"]) for m in kept(owner, build)} == {
        ("pump", "done", "owner"),
        ("tube", "done", "owner"),
        ("supply", "done", "editor"),
        ("pump", "failed", "editor"),
    }


@pytest.mark.django_db(transaction=True)
def test_many_at_once_are_all_kept():
    user = User.objects.create_user("busy", password="busy-long-enough")
    build = create_build(user, water_loop(125, 220, 30, 24, "busy"))

    def tick(n: int) -> None:
        try:
            marks = [NewMark(f"hand-{n}-{i:04}", f"step-{i}", "done", timezone.now()) for i in range(20)]
            add_marks(user, build.pk, timezone.now(), marks)
            add_marks(user, build.pk, timezone.now(), marks)
        finally:
            connection.close()

    with ThreadPoolExecutor(8) as pool:
        list(pool.map(tick, range(8)))
    assert Mark.objects.filter(build=build).count() == 160


def test_a_reader_sees_ticks_and_makes_none(signed_in, build):
    send(signed_in("owner"), build, mark())
    assert send(signed_in("reader"), build, mark("key-00000002")).status_code == 403
    assert len(kept(signed_in("reader"), build)) == 1
    assert signed_in("stranger").get(f"/api/builds/{build.pk}/marks").status_code == 404


def test_a_wrong_clock_is_set_right(signed_in, build):
    """The phone is two hours fast: what it did five minutes before it sent was done five minutes ago."""
    fast = timezone.now() + timedelta(hours=2)
    send(signed_in("owner"), build, mark(at=fast - timedelta(minutes=5)), sent_at=fast)
    [one] = Mark.objects.all()
    assert abs(one.at - (timezone.now() - timedelta(minutes=5))) < timedelta(seconds=20)


def test_nothing_is_done_in_the_future_nor_before_there_were_machines(signed_in, build):
    now = timezone.now()
    send(
        signed_in("owner"),
        build,
        mark("key-future1", at=now + timedelta(days=9)),
        mark("key-ancient", at=now - timedelta(days=9000)),
        sent_at=now,
    )
    at = {one.key: one.at for one in Mark.objects.all()}
    assert at["key-future1"] <= timezone.now()
    assert at["key-ancient"] >= now - timedelta(days=3651)


@pytest.mark.parametrize(
    "wrong",
    [
        {"key": "short"},
        {"key": "has space!"},
        {"kind": "burnt"},
        {"about": ""},
        {"about": "x" * 141},
        {"word": "x" * 501},
        {"word": "nul\x00"},
        {"minutes": -1},
        {"minutes": 1e9},
        {"at": "yesterday"},
    ],
)
def test_a_mark_that_cannot_be_is_refused_with_its_place(signed_in, build, wrong):
    answer = send(signed_in("owner"), build, mark() | wrong)
    assert answer.status_code == 422
    assert "/".join(["marks", "0", next(iter(wrong))]) in answer.json()["errors"][0]["where"]
    assert not Mark.objects.exists()


def test_a_build_keeps_no_endless_heap_of_marks(signed_in, build, monkeypatch):
    monkeypatch.setattr("sheets.actions.MOST_MARKS", 2)
    assert MOST_MARKS == 20_000
    client = signed_in("owner")
    assert send(client, build, mark("key-00000001"), mark("key-00000002")).status_code == 200
    assert send(client, build, mark("key-00000003")).status_code == 422
    assert len(kept(client, build)) == 2


def new(key, about, kind, minutes_ago=0.0, **more):
    return Mark(key=key, about=about, kind=kind, at=NOW - timedelta(minutes=minutes_ago), **more)


def test_the_newest_mark_of_a_thing_stands():
    marks = [
        new("a", "pump", "done", 9),
        new("b", "pump", "failed", 5),
        new("c", "tube", "done", 4),
        new("d", "pump", "read", 1),
    ]
    assert {about: one.kind for about, one in standing(marks).items()} == {"pump": "failed", "tube": "done"}


def test_a_timer_runs_until_it_is_stopped_or_ticked():
    watch = new("a", "leak", "timer", 60, minutes=120)
    [timer] = timers([watch])
    assert timer.rings == NOW + timedelta(minutes=60)
    for ends in ("stopped", "done", "failed"):
        assert timers([watch, new("b", "leak", ends)]) == []
    assert len(timers([watch, new("b", "pump", "done")])) == 1
    assert timers([watch, new("b", "leak", "timer", 0, minutes=10)])[0].rings == NOW + timedelta(minutes=10)


def calendar_of(client, build):
    answer = client.get(f"/api/builds/{build.pk}/calendar.ics")
    assert answer["Content-Type"].startswith("text/calendar")
    return answer.content


def test_the_calendar_is_read_back_by_a_library_and_keeps_the_format(signed_in, build):
    client = signed_in("owner")
    send(
        client, build, mark(about="loop-a/leak", kind="timer", minutes=1440, at=timezone.now()), sent_at=timezone.now()
    )
    raw = calendar_of(client, build)
    lines = raw.split(b"\r\n")
    assert lines[0] == b"BEGIN:VCALENDAR"
    assert all(len(line) <= 75 for line in lines)
    events = {str(event["uid"]): event for event in Calendar.from_ical(raw).walk("VEVENT")}
    watch = events[f"timer-loop-a/leak@{build.pk}"]
    assert abs(watch["dtstart"].dt - (timezone.now() + timedelta(days=1))) < timedelta(minutes=1)
    assert str(watch["summary"]).endswith("Leak watch, paper dry is over")
    sheet = build_sheet(read_text(build.text))
    for due in sheet.care:
        event = events[f"due-{due.id}@{build.pk}"]
        assert event["dtstart"].dt == timezone.localdate() + timedelta(days=round(due.days))
        [alarm] = event.walk("VALARM")
        assert alarm["trigger"].dt == timedelta(days=-7)
    assert len(events) == len(sheet.care) + 1


def test_a_part_on_order_is_in_the_calendar_and_one_in_hand_is_not(signed_in, people):
    document = write_object(water_loop(125, 220, 30, 24, "on order"))
    for part in document["parts"]:
        if part["id"] in ("pump", "tube"):
            part |= {"stock": "ordered" if part["id"] == "pump" else "in_hand", "due_on": "2027-01-05"}
    ordered = create_build(people["owner"], read_object(document))
    raw = calendar_of(signed_in("owner"), ordered)
    events = {str(e["uid"]).split("@")[0]: e for e in Calendar.from_ical(raw).walk("VEVENT")}
    assert events["part-pump"]["dtstart"].dt == date(2027, 1, 5)
    assert "part-tube" not in events


def due_of(document, due_id):
    return next(due for due in build_sheet(read_object(document)).care if due.id == due_id)


def test_what_is_due_counts_from_when_it_was_last_done():
    today = date(2026, 11, 29)
    gasket = due_of(limpet(), "door-gasket")
    assert due_on(gasket, [], today) == date(2027, 3, 1)
    cared = new("a", "door-gasket", "cared")
    assert due_on(gasket, [cared], today) == today + timedelta(days=180)
    paste = due_of(limpet(), "paste/layer")
    assert due_on(paste, [], today) == today + timedelta(days=round(paste.days))
    closed = Mark(key="b", about="close-panels", kind="done", at=NOW - timedelta(days=100))
    assert due_on(paste, [closed], today) == today + timedelta(days=round(paste.days) - 100)
    opened = Mark(key="c", about="close-panels", kind="undone", at=NOW - timedelta(days=90))
    assert due_on(paste, [closed, opened], today) == today + timedelta(days=round(paste.days))


@pytest.mark.parametrize("table", ["parts", "leads"])
def test_tables_are_read_back(signed_in, people, table):
    heron = create_build(people["owner"], third())
    answer = signed_in("owner").get(f"/api/builds/{heron.pk}/sheet.csv?table={table}")
    assert answer["Content-Type"].startswith("text/csv")
    rows = list(csv.DictReader(io.StringIO(answer.content.decode())))
    sheet = build_sheet(third())
    assert len(rows) == len(sheet.parts if table == "parts" else sheet.leads)
    assert signed_in("owner").get(f"/api/builds/{heron.pk}/sheet.csv?table=nails").status_code == 422


def test_a_sheet_of_a_document_stores_nothing(signed_in, people):
    body = json.dumps({"document": write_object(third())})
    answer = signed_in("owner").post("/api/sheet", body, content_type="application/json")
    assert answer.status_code == 200
    sheet = answer.json()
    assert sheet["order"]["conflicts"] == []
    assert [step["id"] for step in sheet["order"]["steps"]][-1] == "close-panels"
    assert sheet["sums"]["money"] == 530


def test_feeds_over_http_name_the_way_out(signed_in, people):
    document = write_object(third())
    for part in document["parts"]:
        if part["kind"] == "fan":
            part["current_a"] = 0.4
    body = json.dumps({"document": document, "workload": "both", "inlet_c": {"supply": 45.0}})
    found = signed_in("owner").post("/api/feeds", body, content_type="application/json").json()
    says = {load["feed"]: load["says"] for load in found["feeds"]}
    assert (says["fan-splitter"], says["fan-plug"], says["card-plug"]) == ("over", "over", "ok by class figure")
    assert found["supplies"][0]["inlet_c"] == 45
    assert found["unfed"] == []
    body = json.dumps({"document": document, "workload": "gone"})
    assert signed_in("owner").post("/api/feeds", body, content_type="application/json").status_code == 422


def test_suspects_follow_what_was_touched(signed_in, people):
    body = json.dumps({"document": write_object(third()), "touched": ["memory"], "tried": {"memory_seat": "no change"}})
    found = signed_in("owner").post("/api/suspects", body, content_type="application/json").json()
    assert found[-1]["id"] == "memory_seat"
    assert found[0]["tried"] is None


def test_herons_sheet_is_half_ticked_with_a_gate_that_failed(people):
    heron = create_build(people["owner"], third())
    half_built(people["owner"], heron)
    marks = marks_of(heron)
    stands = standing(marks)
    steps = build_sheet(third()).order.steps
    done = [step.id for step in steps if step.id in stands and stands[step.id].kind == "done"]
    assert stands["gate-memory-found"].kind == "failed"
    assert len(steps) / 3 < len(done) < 2 * len(steps) / 3
    assert done == [step.id for step in steps[: len(done)]]
    [watch] = timers(marks)
    assert watch.about == "loop-a/clean"
    # nobody cleans a loop that nobody closed: what comes before is done, and every part of it is in hand
    [fill] = build_sheet(third()).fills
    keys = [step.id for step in fill.steps]
    assert all(stands[key].kind == "done" for key in keys[: keys.index("loop-a/clean")])
    loop = {part for item in third().loops for part in leaves(item.elements)}
    assert {part.id for part in third().parts if part.id in loop and part.stock in ("ordered", "to_buy")} == set()


def test_the_demo_tells_what_the_issue_asks():
    assert len(build_sheet(read_object(sandpiper())).leads) == 4
    assert {due.id for due in build_sheet(read_object(limpet())).care} >= {"door-gasket", "desiccant", "log-card"}


def test_marks_go_with_their_build(signed_in, build, people):
    send(signed_in("owner"), build, mark())
    Access.objects.all().delete()
    build.delete()
    assert not Mark.objects.exists()


def test_marks_go_out_and_in_with_the_archive(signed_in, build, people):
    client = signed_in("owner")
    now = timezone.now()
    send(
        client,
        build,
        mark(word="tight", minutes=12, at=now),
        mark("key-00000002", "tube", "failed", at=now),
        sent_at=now,
    )
    copied = read_archive(people["editor"], archive_of(build))
    assert [(m.about, m.kind, m.word, m.minutes, m.who) for m in copied.marks.all()] == [
        ("pump", "done", "tight", 12.0, "owner"),
        ("tube", "failed", "", None, "owner"),
    ]
    assert [m.at for m in copied.marks.all()] == [m.at for m in build.marks.all()]


@pytest.mark.parametrize(
    ("marks", "where"),
    [
        ([{"about": "pump"}], "marks.json/0/key"),
        ({"a": 1}, "marks.json"),
        ([mark() | {"kind": "burnt"}], "marks.json/0/kind"),
    ],
)
def test_an_archive_with_marks_that_cannot_be_is_refused_as_a_whole(build, people, marks, where):
    out = io.BytesIO(archive_of(build))
    with zipfile.ZipFile(out, "a") as packed:
        packed.writestr("marks.json", json.dumps(marks))
    with pytest.raises(ApiFault) as refused:
        read_archive(people["editor"], out.getvalue())
    assert refused.value.fault.where == where
    assert not Build.objects.filter(owner=people["editor"]).exists()


def test_an_archive_without_marks_has_no_file_of_them(build):
    with zipfile.ZipFile(io.BytesIO(archive_of(build))) as packed:
        assert "marks.json" not in packed.namelist()
