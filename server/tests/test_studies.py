"""Studies: asked, solved by a worker, cancelled, taken over; a killed worker and a restarted server lose nothing."""

import csv
import io
import json
import signal
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from databases import environment_of
from django.contrib.auth.models import User
from django.core.management import call_command
from django.db import OperationalError, connection
from procrastinate.contrib.django.models import ProcrastinateJob
from solving import jobs_of, run_study

from builds.actions import create_build
from builds.models import Build
from krill.document.reading import read_object, read_text
from krill.prediction.predict import predict
from krill.sizing.candidates import MAX_ROWS, Chunk
from runs.demo.story import heron
from studies import tasks
from studies.actions import MAX_OPEN, ask
from studies.models import SolvedChunk, Study
from studies.rescue import MOST_ATTEMPTS, must_not_be_deadly, queue_what_nobody_is_at
from studies.tasks import parts_of, solve_part

SERVER = Path(__file__).parents[1]
PATIENCE_S = 60


def axis(address: str, *values: Any) -> dict[str, Any]:
    return {"address": address, "options": [{"value": value} for value in values]}


SMALL = {
    "vary": [axis("radiator-a/sections", 2, 3, 4), axis("movers/fans", 0.4, 0.6, 0.8)],
    "demands": {
        "margins": [{"workload": "both", "at_least_k": 8}],
        "sounds": [{"workload": "both", "at_most_dba": 36}],
    },
}
MIDDLE = {**SMALL, "vary": [*SMALL["vary"], axis("movers/pump", *[round(0.3 + 0.005 * i, 3) for i in range(140)])]}
LARGE = {
    "vary": [
        axis("radiator-a/sections", 1, 2, 3, 4, 5, 6),
        axis("radiator-a/thickness_mm", 28, 38, 45, 60),
        axis("fans/class", "fan_120x15", "fan_120x25", "fan_120x30"),
        axis("movers/fans", *[round(0.3 + 0.05 * i, 2) for i in range(12)]),
        axis("movers/pump", *[round(0.4 + 0.1 * i, 1) for i in range(7)]),
    ],
    "demands": {"margins": [{"workload": "both", "at_least_k": 12}]},
}


def post(client: Any, url: str, body: Any = None) -> Any:
    return client.post(url, json.dumps(body or {}), content_type="application/json")


@pytest.fixture
def solved(people: Any, build: Build) -> Study:
    study = ask(people["owner"], build.pk, SMALL, "small")
    run_study(str(study.pk))
    study.refresh_from_db()
    return study


def test_a_study_is_asked_over_http_and_queued(signed_in: Any, build: Build) -> None:
    answer = post(signed_in("editor"), f"/api/builds/{build.pk}/studies", {"question": SMALL, "name": "which radiator"})
    assert answer.status_code == 202
    assert (answer.json()["state"], answer.json()["size"], answer.json()["of_draft"]) == ("waiting", 9, True)
    assert ProcrastinateJob.objects.get().args == {"study_id": answer.json()["id"], "first": 0, "end": 3}
    listed = signed_in("reader").get(f"/api/builds/{build.pk}/studies").json()
    assert [study["name"] for study in listed] == ["which radiator"]


@pytest.mark.parametrize(
    ("question", "where"),
    [
        ({"vary": []}, "vary"),
        ({"vary": [axis("radiator-z/sections", 1)]}, "radiator-z/sections"),
        ({"vary": [axis("movers/fans", *[0.5] * 200), axis("movers/pump", *[0.5] * 200)]}, "vary"),
    ],
)
def test_a_question_that_does_not_fit_is_refused_before_it_is_queued(
    signed_in: Any, build: Build, question: Any, where: str
) -> None:
    answer = post(signed_in("owner"), f"/api/builds/{build.pk}/studies", {"question": question})
    assert answer.status_code == 422
    assert answer.json()["errors"][0]["where"] == where
    assert not Study.objects.exists()
    assert not ProcrastinateJob.objects.exists()


def test_no_more_than_a_few_studies_of_a_build_are_under_way(signed_in: Any, people: Any, build: Build) -> None:
    for _ in range(MAX_OPEN):
        ask(people["owner"], build.pk, SMALL, "")
    assert post(signed_in("owner"), f"/api/builds/{build.pk}/studies", {"question": SMALL}).status_code == 422


def test_the_result_lists_figures_and_the_undominated(signed_in: Any, solved: Study) -> None:
    assert (solved.state, solved.solved) == ("done", 9)
    assert not SolvedChunk.objects.exists()
    result = signed_in("reader").get(f"/api/studies/{solved.pk}/result").json()
    assert len(result["columns"]["margin_k"]) == 9
    assert result["undominated"]
    assert "of 9 candidates" in result["sentence"]


def test_a_result_before_the_end_is_refused_in_words(signed_in: Any, people: Any, build: Build) -> None:
    study = ask(people["owner"], build.pk, SMALL, "")
    answer = signed_in("owner").get(f"/api/studies/{study.pk}/result")
    assert answer.status_code == 422
    assert "waiting" in answer.json()["errors"][0]["what"]


def test_a_candidate_part_by_part_equals_a_fresh_prediction(signed_in: Any, solved: Study) -> None:
    client = signed_in("owner")
    detail = client.get(f"/api/studies/{solved.pk}/candidates/5").json()
    document = client.get(f"/api/studies/{solved.pk}/candidates/5/document").json()
    fresh = predict(read_text(json.dumps(document)), ["both"], samples=200).workloads[0]
    assert [p["temperature_c"] for p in detail["workloads"][0]["places"]] == pytest.approx(
        [p.temperature_c for p in fresh.places]
    )
    assert {n["address"] for n in detail["neighbours"]} == {"radiator-a/sections", "movers/fans"}
    assert client.get(f"/api/studies/{solved.pk}/candidates/9").status_code == 422


def test_a_candidate_taken_over_is_a_revision_with_its_reason_and_can_be_undone(
    signed_in: Any, solved: Study, build: Build
) -> None:
    client = signed_in("editor")
    before = build.text
    answer = post(client, f"/api/studies/{solved.pk}/candidates/7/take", {"base": 0, "why": "4 sections, slow fans"})
    assert answer.status_code == 200, answer.content
    document = answer.json()["document"]
    assert next(part for part in document["parts"] if part["id"] == "radiator-a")["sections"] == 4
    revisions = client.get(f"/api/builds/{build.pk}/revisions").json()
    assert (revisions[-1]["number"], revisions[-1]["why"]) == (2, "4 sections, slow fans")
    undone = post(client, f"/api/builds/{build.pk}/undo", {"base": answer.json()["sequence"]})
    assert undone.json()["document"] == json.loads(before)
    stale = post(client, f"/api/studies/{solved.pk}/candidates/7/take", {"base": 0, "why": "again"})
    assert stale.status_code == 409


def test_a_candidate_goes_onto_a_draft_that_has_changed_since(signed_in: Any, solved: Study, build: Build) -> None:
    client = signed_in("owner")
    document = json.loads(build.text)
    document["brief"]["purpose"] = "listening desk"
    client.put(
        f"/api/builds/{build.pk}/draft",
        json.dumps({"base": 0, "document": document, "label": "purpose"}),
        content_type="application/json",
    )
    assert not client.get(f"/api/studies/{solved.pk}").json()["of_draft"]
    taken = post(client, f"/api/studies/{solved.pk}/candidates/0/take", {"base": 1, "why": "smallest"}).json()[
        "document"
    ]
    assert taken["brief"]["purpose"] == "listening desk"
    assert next(part for part in taken["parts"] if part["id"] == "radiator-a")["sections"] == 2


def test_candidates_as_csv(signed_in: Any, solved: Study) -> None:
    answer = signed_in("reader").get(f"/api/studies/{solved.pk}/candidates.csv")
    rows = list(csv.DictReader(io.StringIO(answer.content.decode())))
    assert len(rows) == 9
    assert [row["radiator-a/sections"] for row in rows] == ["2"] * 3 + ["3"] * 3 + ["4"] * 3
    assert {row["undominated"] for row in rows} == {"0", "1"}
    assert float(rows[0]["margin_k"]) == solved.result["columns"]["margin_k"][0]


def test_a_cancelled_study_stops_after_the_chunk_at_hand(
    signed_in: Any, people: Any, build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    study = ask(people["owner"], build.pk, SMALL, "")
    kept = tasks.columns_as_json

    def cancels(columns: Any) -> Any:
        assert post(signed_in("owner"), f"/api/studies/{study.pk}/cancel").json()["state"] == "cancelled"
        return kept(columns)

    monkeypatch.setattr(tasks, "columns_as_json", cancels)
    run_study(str(study.pk))
    study.refresh_from_db()
    assert (study.state, study.solved, study.result) == ("cancelled", 0, None)
    run_study(str(study.pk))  # a late worker does nothing
    study.refresh_from_db()
    assert study.state == "cancelled"


def test_a_deleted_study_stops_too(people: Any, build: Build) -> None:
    study = ask(people["owner"], build.pk, SMALL, "")
    key = str(study.pk)
    study.delete()
    run_study(key)
    assert not SolvedChunk.objects.exists()


def test_what_is_solved_is_not_solved_again(people: Any, build: Build, monkeypatch: pytest.MonkeyPatch) -> None:
    """A worker dies after its first chunk; the next one solves the others alone and the result is the same."""
    whole = ask(people["owner"], build.pk, SMALL, "")
    run_study(str(whole.pk))
    study = ask(people["owner"], build.pk, SMALL, "")
    counted: list[int] = []
    kept = tasks.columns_as_json

    def dies(columns: Any) -> Any:
        counted.append(len(columns.numbers))
        if len(counted) == 2:
            raise KeyboardInterrupt
        return kept(columns)

    monkeypatch.setattr(tasks, "columns_as_json", dies)
    with pytest.raises(KeyboardInterrupt):
        run_study(str(study.pk))
    study.refresh_from_db()
    assert (study.state, study.solved, study.chunks.count()) == ("running", 3, 1)
    run_study(str(study.pk))
    whole.refresh_from_db()
    study.refresh_from_db()
    assert study.state == "done"
    assert len(counted) == 2 + 2
    assert study.result == whole.result


def test_a_failure_is_told_and_does_not_stay_open(people: Any, build: Build, monkeypatch: pytest.MonkeyPatch) -> None:
    study = ask(people["owner"], build.pk, SMALL, "")

    def broken(_: Any) -> Any:
        raise ZeroDivisionError

    monkeypatch.setattr(tasks, "columns_as_json", broken)
    run_study(str(study.pk))
    study.refresh_from_db()
    assert study.state == "failed"
    assert "worker" in study.failure


def test_the_demo_begins_with_a_study_of_heron(db: Any) -> None:
    """Queued once, and its question fits the build."""
    for _ in range(2):
        call_command("load_demo_study")
    assert not Study.objects.exists()
    owner = User.objects.create_user("demo", password="saltmarsh-station")
    create_build(owner, read_object(heron()))
    for _ in range(2):
        call_command("load_demo_study")
    assert Study.objects.get().size == 720


def worker(*options: str) -> subprocess.Popen[bytes]:
    """A real worker process on the test database."""
    return subprocess.Popen(
        [sys.executable, "manage.py", "work", "--stalled-after", "3", *options],
        cwd=SERVER,
        env=environment_of(connection.settings_dict["NAME"], DJANGO_SETTINGS_MODULE="krill_server.settings_test"),
    )


def until(study: Study, wanted: Any) -> None:
    for _ in range(PATIENCE_S * 20):
        study.refresh_from_db()
        if wanted(study):
            return
        time.sleep(0.05)
    raise AssertionError(f"{study.state}, {study.solved} of {study.size}")


def of_sizes(*sizes: int) -> list[Chunk]:
    return [Chunk((), np.arange(size)) for size in sizes]


@pytest.mark.parametrize(
    ("sizes", "parts"),
    [
        ([9], [(0, 1)]),
        ([MAX_ROWS, 1], [(0, 1), (1, 2)]),
        ([MAX_ROWS - 1, 1, 1], [(0, 2), (2, 3)]),
        ([1] * (MAX_ROWS + 1), [(0, MAX_ROWS), (MAX_ROWS, MAX_ROWS + 1)]),
        ([3, 3, 3], [(0, 3)]),
    ],
)
def test_jobs_hold_as_many_candidates_as_one_batch(sizes: list[int], parts: list[tuple[int, int]]) -> None:
    assert parts_of(of_sizes(*sizes)) == parts


def test_the_order_of_jobs_changes_nothing_and_a_job_done_twice_neither(people: Any, build: Build) -> None:
    studies = [ask(people["owner"], build.pk, MIDDLE, "") for _ in range(2)]
    jobs = [jobs_of(str(study.pk)) for study in studies]
    assert len(jobs[0]) == 3
    for told in jobs[0]:
        solve_part(**told)
    for told in [jobs[1][1], *reversed(jobs[1])]:
        solve_part(**told)
    for study in studies:
        study.refresh_from_db()
    assert [study.state for study in studies] == ["done", "done"]
    assert studies[0].result == studies[1].result


def test_an_open_study_that_nobody_is_at_is_queued_again(people: Any, build: Build) -> None:
    study = ask(people["owner"], build.pk, MIDDLE, "")
    assert queue_what_nobody_is_at() == 0
    first, *others = jobs_of(str(study.pk))
    solve_part(**first)
    ProcrastinateJob.objects.all().delete()
    assert queue_what_nobody_is_at() == 1
    assert jobs_of(str(study.pk)) == others
    for told in others:
        solve_part(**told)
    study.refresh_from_db()
    assert study.state == "done"
    assert queue_what_nobody_is_at() == 0


def test_a_study_that_lacks_only_its_sum_is_summed_up(
    people: Any, build: Build, monkeypatch: pytest.MonkeyPatch
) -> None:
    study = ask(people["owner"], build.pk, SMALL, "")
    with monkeypatch.context() as context:
        context.setattr(tasks, "_sum_up", lambda *asked: None)
        run_study(str(study.pk))
    ProcrastinateJob.objects.all().delete()
    assert queue_what_nobody_is_at() == 1
    run_study(str(study.pk))
    study.refresh_from_db()
    assert study.state == "done"


@pytest.mark.parametrize(("attempts", "state"), [(MOST_ATTEMPTS - 1, "waiting"), (MOST_ATTEMPTS, "failed")])
def test_a_part_that_ends_its_worker_again_and_again_fails_the_study(
    people: Any, build: Build, attempts: int, state: str
) -> None:
    study = ask(people["owner"], build.pk, SMALL, "")
    must_not_be_deadly(str(study.pk), attempts)
    study.refresh_from_db()
    assert study.state == state


def test_the_database_away_fails_no_study(people: Any, build: Build, monkeypatch: pytest.MonkeyPatch) -> None:
    study = ask(people["owner"], build.pk, SMALL, "")

    def away(*asked: Any) -> Any:
        raise OperationalError("the connection is closed")

    monkeypatch.setattr(tasks, "_keep", away)
    with pytest.raises(OperationalError):
        run_study(str(study.pk))
    study.refresh_from_db()
    assert study.state == "running"


@pytest.mark.django_db(transaction=True)
def test_a_study_survives_a_killed_worker(people: Any, build: Build) -> None:
    """Killed with no chance to say so; a second worker takes the job when the first has been silent for 3 s."""
    study = ask(people["owner"], build.pk, LARGE, "")
    first = worker()
    until(study, lambda s: s.solved > 0)
    first.send_signal(signal.SIGKILL)
    first.wait()
    study.refresh_from_db()
    assert study.state == "running"
    solved_by_first = study.solved
    assert 0 < solved_by_first < study.size
    second = worker()
    try:
        until(study, lambda s: s.state == "done")
    finally:
        second.terminate()
        second.wait(20)
    failures = study.result["failures"]  # the smallest loops boil: they have no figure, and say so
    assert study.result["solved"] + len(failures) == study.size == 6048
    assert all("no lasting state" in why for why in failures.values())


@pytest.mark.django_db(transaction=True)
def test_a_study_waits_for_a_server_and_worker_that_are_started_again(people: Any, build: Build) -> None:
    """Queued while no worker runs; whoever starts next finds it in the database."""
    study = ask(people["owner"], build.pk, SMALL, "")
    only = worker("--once")
    assert only.wait(PATIENCE_S) == 0
    study.refresh_from_db()
    assert study.state == "done"


@pytest.mark.django_db(transaction=True)
def test_a_study_survives_the_database_going_away_under_its_worker(people: Any, build: Build) -> None:
    """Every connection of the worker is ended three times, as a restart of PostgreSQL does."""
    study = ask(people["owner"], build.pk, LARGE, "")
    command = f"worker={sys.executable} manage.py work --stalled-after 3"
    kept = subprocess.Popen(
        [sys.executable, "-m", "krill_server.supervisor", command],
        cwd=SERVER,
        env=environment_of(connection.settings_dict["NAME"], DJANGO_SETTINGS_MODULE="krill_server.settings_test"),
    )
    try:
        solved = 0
        for _ in range(3):
            until(study, lambda s, before=solved: s.solved > before)
            solved = study.solved
            with connection.cursor() as cursor:
                cursor.execute(
                    "SELECT pg_terminate_backend(pid) FROM pg_stat_activity "
                    "WHERE datname = current_database() AND pid <> pg_backend_pid()"
                )
        until(study, lambda s: s.state == "done")
    finally:
        kept.terminate()
        kept.wait(20)
    assert study.solved == study.size


@pytest.mark.django_db(transaction=True)
def test_two_workers_share_one_study(people: Any, build: Build) -> None:
    study = ask(people["owner"], build.pk, LARGE, "")
    both = [worker(), worker()]
    try:
        until(study, lambda s: s.solved > 2 * MAX_ROWS)
        doing = ProcrastinateJob.objects.filter(status="doing").values_list("worker_id", flat=True)
        assert len(set(doing)) == 2
        until(study, lambda s: s.state == "done")
    finally:
        for one in both:
            one.terminate()
            one.wait(20)
