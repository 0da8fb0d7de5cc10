"""Runs that were kept as columns and rows come over as files."""

import pytest
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

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
    MigrationExecutor(connection).migrate([("runs", "0002_run_files")])


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

    MigrationExecutor(connection).migrate([("runs", "0002_run_files")])

    first = read_run(Run.objects.get(pk=typed.pk).text)
    assert (first.name, first.note, first.revision) == ("typed", "Window open.", 1)
    assert (first.room.start_c, first.room.end_c) == (24.5, None)
    assert [(r.minute, r.kind, r.value, r.load_on) for r in first.readings] == [(60, "highest", 75, True)]
    second = read_run(Run.objects.get(pk=logged.pk).text)
    assert (second.windows[0].start_s, second.windows[0].end_s) == (60.0, 400.0)
    assert (second.room.start_c, second.room.end_c) == (24.0, 25.0)
