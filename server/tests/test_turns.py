"""Long questions: two of a person at a time, the newest of a place, never for ever."""

import subprocess
import sys
import threading
import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from django.contrib.auth.models import User
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import connection, connections
from django.http import HttpResponse
from django.test import RequestFactory

from krill.interruption import Interrupted, must_go_on
from krill.prediction.predict import predict
from krill.recipes.water_loop import water_loop
from wire import turns
from wire.faults import ApiFault
from wire.turns import Overtaken, Ticket, know_who_asks, worked_out

BUILD = water_loop(125, 220, 30, 24, "asked")


@pytest.fixture
def solvers(tmp_path: Path, settings: Any) -> Iterator[Path]:
    path = tmp_path / "solvers"
    process = subprocess.Popen([sys.executable, "-m", "krill.solver", str(path), "1"])
    settings.SOLVERS = str(path)
    yield path
    process.terminate()
    process.wait(10)


def asked_by(user: User, place: str, question: Any) -> Any:
    """What a question gives inside a request of somebody."""
    request = RequestFactory().post("/api/predict", headers={turns.PLACE_HEADER: place} if place else {})
    request.user = user
    found = []

    def view(_: Any) -> HttpResponse:
        found.append(question())
        return HttpResponse()

    know_who_asks(view)(request)
    return found[0]


class InThread(threading.Thread):
    """A question asked beside this test, with what came of it."""

    def __init__(self, user: User, place: str, question: Any) -> None:
        super().__init__()
        self.asked, self.came, self.error = (user, place, question), None, None
        self.start()

    def run(self) -> None:
        try:
            self.came = asked_by(*self.asked)
        except Exception as error:
            self.error = error
        finally:
            connections.close_all()


def until(met: Any) -> None:
    for _ in range(1000):
        if met():
            return
        time.sleep(0.02)
    raise AssertionError("never")


@pytest.fixture
def one(transactional_db: Any) -> User:
    return User.objects.create_user("one", password="one-long-enough")


def long_question() -> Any:
    """Some seconds of work for the solver."""
    return worked_out(predict, BUILD, None, None, 2000)


def test_the_answer_is_that_of_the_core(one, solvers):
    found = asked_by(one, "", lambda: worked_out(predict, BUILD, ["both"], samples=20))
    assert found == predict(BUILD, ["both"], samples=20)


def test_a_newer_question_of_a_place_ends_the_older_one(one, solvers):
    older = InThread(one, "page/1", long_question)
    until(lambda: any(ticket.asking for ticket in turns._open._tickets))
    newer = asked_by(one, "page/1", lambda: worked_out(predict, BUILD, ["both"], samples=0))
    older.join(20)
    assert isinstance(older.error, Overtaken)
    assert newer.workloads


@pytest.mark.parametrize(("place", "other"), [("page/1", "page/2"), ("", "")])
def test_questions_of_other_places_stand(one, solvers, place, other):
    older = InThread(one, place, long_question)
    until(lambda: any(ticket.asking for ticket in turns._open._tickets))
    asked_by(one, other, lambda: worked_out(predict, BUILD, ["both"], samples=0))
    older.join(30)
    assert older.error is None
    assert older.came.workloads


def test_somebody_else_overtakes_nobody(one, solvers):
    other = User.objects.create_user("other", password="other-long-enough")
    older = InThread(one, "page/1", long_question)
    until(lambda: any(ticket.asking for ticket in turns._open._tickets))
    asked_by(other, "page/1", lambda: worked_out(predict, BUILD, ["both"], samples=0))
    older.join(30)
    assert older.error is None


def test_two_turns_are_all_that_a_person_has_anywhere(one, solvers, monkeypatch):
    monkeypatch.setattr(turns, "PATIENCE_S", 0.3)
    keys = [one.pk * 2, one.pk * 2 + 1]
    taken = threading.Event()
    over = threading.Event()

    def elsewhere() -> None:
        with connection.cursor() as cursor:
            for key in keys:
                cursor.execute("SELECT pg_advisory_lock(%s, %s)", [turns._LOCKS, key])
        taken.set()
        over.wait(20)
        connection.close()

    thread = threading.Thread(target=elsewhere)
    thread.start()
    assert taken.wait(10)
    try:
        with pytest.raises(ApiFault) as refused:
            asked_by(one, "", lambda: worked_out(predict, BUILD, ["both"], samples=0))
    finally:
        over.set()
        thread.join()
    assert refused.value.status == 429
    monkeypatch.undo()
    assert asked_by(one, "", lambda: worked_out(predict, BUILD, ["both"], samples=0)).workloads


def test_a_turn_is_given_back_whatever_happens(one, solvers):
    for _ in range(5):
        with pytest.raises(Exception, match="nowhere"):
            asked_by(one, "", lambda: worked_out(predict, BUILD, ["nowhere"]))
    with connection.cursor() as cursor:
        cursor.execute("SELECT count(*) FROM pg_locks WHERE locktype = 'advisory' AND classid = %s", [turns._LOCKS])
        assert cursor.fetchone() == (0,)
    assert not turns._open._tickets


def test_the_ninth_open_question_of_a_person_is_refused(one, solvers):
    places = turns.OpenQuestions()
    entered = [places.entered(Ticket(7, "")) for _ in range(turns.MOST_OPEN)]
    for each in entered:
        each.__enter__()
    with pytest.raises(ApiFault) as refused, places.entered(Ticket(7, "")):
        pass
    assert refused.value.status == 429
    with places.entered(Ticket(8, "")):
        pass
    entered[0].__exit__(None, None, None)
    with places.entered(Ticket(7, "")):
        pass


def test_no_request_works_for_ever_by_itself(one, monkeypatch, settings):
    settings.SOLVERS = ""
    monkeypatch.setattr(turns, "MOST_S", 0.2)

    def question() -> None:
        while True:
            must_go_on()
            time.sleep(0.01)

    with pytest.raises(Interrupted):
        asked_by(one, "", question)


def test_too_long_and_overtaken_are_told_in_the_one_shape(people, signed_in, monkeypatch):
    monkeypatch.setattr(turns, "MOST_S", -1.0)
    body = {"document": _document(), "workloads": ["both"]}
    answer = signed_in("owner").post("/api/predict", body, content_type="application/json")
    assert answer.status_code == 422
    assert "20 s of work" in answer.json()["detail"]


def _document() -> Any:
    from krill.document.reading import write_object

    return write_object(BUILD)


def test_without_solvers_it_is_worked_out_on_the_spot(settings):
    settings.SOLVERS = "/nowhere"
    assert worked_out(predict, BUILD, ["both"], samples=0).workloads  # outside of a request


@pytest.mark.parametrize("error", [Overtaken(), turns.SolverEnded(), ApiFault(429, "question", "busy")])
def test_a_log_that_is_stored_is_told_so_though_it_cannot_be_analysed_now(people, build, signed_in, monkeypatch, error):
    """Accepted is accepted: an answer that it failed would have it brought twice."""

    def fails(*_: Any, **__: Any) -> None:
        raise error

    monkeypatch.setattr("runs.queries.worked_out", fails)
    log = b"Time [s],Processor temperature [C]\n" + b"".join(b"%d,%d\n" % (t, 40 + t // 60) for t in range(900))
    client = signed_in("owner")
    form = {"workload": "both", "file": SimpleUploadedFile("a.csv", log)}
    answer = client.post(f"/api/builds/{build.pk}/runs/log", form)
    assert answer.status_code == 201
    assert answer.json()["analysis"] is None
    assert build.runs.count() == 1
