"""Runs that were kept as columns and rows come over as files."""

import subprocess
import sys
import time
from pathlib import Path

import pytest
from databases import environment_of
from django.core.management import CommandError, call_command
from django.db import connection
from django.db.migrations.executor import MigrationExecutor
from django.db.migrations.recorder import MigrationRecorder
from procrastinate.contrib.django.models import ProcrastinateWorker

from builds.models import Revision
from krill.runs.run_document import read_run
from runs.models import Run
from runs.series import packed


@pytest.fixture
def before(transactional_db):
    """The database as it was before runs were files; brought up to date again afterwards."""
    executor = MigrationExecutor(connection)
    executor.migrate([("runs", "0001_initial")])
    yield MigrationExecutor(connection).loader.project_state([("runs", "0001_initial")]).apps
    newest = MigrationExecutor(connection)
    newest.migrate(newest.loader.graph.leaf_nodes())


def test_readings_rooms_notes_and_windows_come_over(before, build):
    import numpy as np

    old, revision = before.get_model("runs", "Run"), Revision.objects.get(build=build)
    said = {"build_id": build.pk, "revision_id": revision.pk, "workload": "both", "author_id": build.owner_id}
    typed = old.objects.create(**said, name="typed", kind="readings", room_start_c=24.5, note="Window open.")
    before.get_model("runs", "Reading").objects.create(
        run=typed, minute=60, role="processor-core/temperature", kind="highest", value=75, load_on=True
    )
    logged = old.objects.create(**said, name="logged", kind="log", room_start_c=24.0, room_end_c=25.0)
    stream = before.get_model("runs", "Stream").objects.create(run=logged, rows=300, window=[30, 200])
    clock = before.get_model("runs", "Channel").objects.create(
        stream=stream, index=0, name="time", unit="s", role="time"
    )
    for number, (data, pyramid) in enumerate(packed(2.0 * np.arange(300))):
        before.get_model("runs", "Chunk").objects.create(channel=clock, sequence=number, data=data, pyramid=pyramid)

    newest = MigrationExecutor(connection)
    newest.migrate(newest.loader.graph.leaf_nodes())

    first = read_run(Run.objects.get(pk=typed.pk).text)
    assert (first.name, first.note, first.revision) == ("typed", "Window open.", 1)
    assert (first.room.start_c, first.room.end_c) == (24.5, None)
    assert [(r.minute, r.kind, r.value, r.load_on) for r in first.readings] == [(60, "highest", 75, True)]
    second = read_run(Run.objects.get(pk=logged.pk).text)
    assert (second.windows[0].start_s, second.windows[0].end_s) == (60.0, 400.0)
    assert (second.room.start_c, second.room.end_c) == (24.0, 25.0)


@pytest.mark.parametrize("command", [("work", "--once"), ("prepare",)])
def test_the_database_of_a_newer_krill_is_left_alone_in_words(db, command):
    MigrationRecorder(connection).record_applied("studies", "9999_of_another_year")
    with pytest.raises(CommandError, match=r"newer Krill \(studies.9999_of_another_year\): update this checkout"):
        call_command(*command)


def test_a_worker_stops_when_the_database_is_upgraded_under_it(transactional_db):
    """It ends by itself: the next start, which the supervisor makes, tells why."""
    worker = subprocess.Popen(
        [sys.executable, "manage.py", "work", "--stalled-after", "1"],
        cwd=Path(__file__).resolve().parents[1],
        env=environment_of(connection.settings_dict["NAME"], DJANGO_SETTINGS_MODULE="krill_server.settings_test"),
        stderr=subprocess.PIPE,
        text=True,
    )
    try:
        for _ in range(300):
            if ProcrastinateWorker.objects.exists():
                break
            time.sleep(0.1)
        MigrationRecorder(connection).record_applied("studies", "9999_of_another_year")
        assert worker.wait(20) != 0
        _, said = worker.communicate()
        assert "newer Krill" in said
    finally:
        worker.kill()
        MigrationRecorder(connection).record_unapplied("studies", "9999_of_another_year")
