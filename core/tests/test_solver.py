"""Solver processes: questions are answered as they would be here, dropped when nobody waits, bounded in time."""

import os
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest

from krill.errors import DocumentRefused
from krill.interruption import Interrupted, interruptible, must_go_on
from krill.messages import receive, send
from krill.prediction.predict import predict
from krill.recipes.water_loop import water_loop
from krill.sizing.solve_for import solve_for
from krill.solver import Answered, Begun, Failed, Question, Refused, TookTooLong, answer

BUILD = water_loop(125, 220, 30, 24, "asked")


@pytest.fixture
def ask(solvers: tuple[Path, subprocess.Popen[bytes]]) -> Iterator[Callable[[Question], "Asking"]]:
    asked: list[Asking] = []

    def asking(question: Question) -> "Asking":
        asked.append(Asking(solvers[0], question))
        return asked[-1]

    yield asking
    for one in asked:
        one.leave()


@pytest.fixture
def solvers(tmp_path: Path) -> Iterator[tuple[Path, subprocess.Popen[bytes]]]:
    path = tmp_path / "solvers"
    found = os.pathsep.join([str(Path(__file__).parent), *sys.path])  # questions of this file too
    process = subprocess.Popen(
        [sys.executable, "-m", "krill.solver", str(path), "2"], env=os.environ | {"PYTHONPATH": found}
    )
    try:
        for _ in range(200):
            if path.exists():
                break
            time.sleep(0.1)
        yield path, process
    finally:
        process.terminate()
        process.wait(10)


class Asking:
    """A question on its way."""

    def __init__(self, path: Path, question: Question) -> None:
        self.connection = socket.socket(socket.AF_UNIX)
        self.connection.settimeout(60)
        self.connection.connect(str(path))
        self.stream = self.connection.makefile("rwb")
        send(self.stream, question)

    def begun(self) -> bool:
        return isinstance(receive(self.stream), Begun)

    def answer(self) -> object:
        return receive(self.stream)

    def leave(self) -> None:
        self.stream.close()
        self.connection.close()


def processes_of(parent: int) -> list[int]:
    found = []
    for entry in Path("/proc").iterdir():
        if entry.name.isdigit():
            try:
                stat = (entry / "stat").read_text().rsplit(")", 1)[1].split()
            except OSError:
                continue
            if int(stat[1]) == parent and stat[0] != "Z":
                found.append(int(entry.name))
    return found


def all_processes_of(parent: int) -> list[int]:
    """Both of them: the socket is there a moment before they are forked."""
    for _ in range(200):
        found = processes_of(parent)
        if len(found) == 2:
            return found
        time.sleep(0.1)
    raise AssertionError(found)


def test_an_answer_is_the_one_that_is_worked_out_here(ask):
    asking = ask(Question(predict, (BUILD, ["both"]), {"samples": 30}))
    assert asking.begun()
    assert asking.answer() == Answered(predict(BUILD, ["both"], samples=30))


def test_a_refusal_comes_with_all_that_is_wrong(ask):
    asking = ask(Question(predict, (BUILD, ["nowhere"]), {}))
    assert asking.begun()
    with pytest.raises(DocumentRefused) as here:
        predict(BUILD, ["nowhere"])
    refused = asking.answer()
    assert isinstance(refused, Refused)
    assert refused.error.problems == here.value.problems


def test_only_who_runs_it_reaches_it(solvers):
    path, _ = solvers
    assert path.stat().st_mode & 0o077 == 0


def test_a_question_that_nobody_waits_for_is_dropped(ask):
    """Two long questions hold both processes; once they are left, the next is answered long before they would be done."""
    held = [ask(Question(endless, (30.0,), {})) for _ in range(2)]
    assert all(asking.begun() for asking in held)
    began = time.monotonic()
    waiting = ask(Question(predict, (BUILD, ["both"]), {"samples": 0}))
    for asking in held:
        asking.leave()
    assert waiting.begun()
    assert isinstance(waiting.answer(), Answered)
    assert time.monotonic() - began < 10


def test_a_process_that_is_killed_is_begun_again_and_who_asked_it_learns_that_it_ended(solvers, ask):
    _, process = solvers
    before = all_processes_of(process.pid)
    asking = ask(Question(endless, (30.0,), {}))
    assert asking.begun()
    for number in before:
        os.kill(number, signal.SIGKILL)
    with pytest.raises((EOFError, OSError)):
        asking.answer()
    again = ask(Question(predict, (BUILD, ["idle"]), {"samples": 0}))
    assert again.begun()
    assert isinstance(again.answer(), Answered)
    assert not set(processes_of(process.pid)) & set(before)


def test_its_processes_end_with_it(solvers):
    _, process = solvers
    children = all_processes_of(process.pid)
    process.kill()
    process.wait(10)
    for _ in range(50):
        left = [number for number in children if Path(f"/proc/{number}/cmdline").exists() and _runs(number)]
        if not left:
            return
        time.sleep(0.1)
    raise AssertionError(left)


def _runs(number: int) -> bool:
    try:
        return Path(f"/proc/{number}/stat").read_text().rsplit(")", 1)[1].split()[0] != "Z"
    except OSError:
        return False


def endless(seconds: float) -> None:
    """A question that iterates for so long."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        must_go_on()
        time.sleep(0.01)


def test_what_nobody_foresaw_ends_no_process():
    failed = answer(Question(int, ("no number",), {}), lambda: None)
    assert isinstance(failed, Failed)
    assert "ValueError" in failed.trace


def test_a_question_has_a_bound_in_time():
    end = time.monotonic() + 0.2

    def must_end() -> None:
        if time.monotonic() > end:
            raise TookTooLong

    refused = answer(Question(endless, (30.0,), {}), must_end)
    assert isinstance(refused, Refused)
    assert isinstance(refused.error, TookTooLong)
    assert time.monotonic() - end < 1


class Counted:
    """Stops at the so-manieth iteration."""

    def __init__(self, allowed: int) -> None:
        self.left = allowed

    def __call__(self) -> None:
        self.left -= 1
        if self.left < 0:
            raise Interrupted


@pytest.mark.parametrize("allowed", [0, 1, 5, 40])
def test_every_solve_can_be_stopped_at_any_iteration_and_goes_on_as_before_afterwards(allowed):
    before = predict(BUILD, ["both"], samples=10)

    def predict_often() -> None:
        for seed in range(2, 12):
            predict(BUILD, ["both"], samples=10, seed=seed)

    with pytest.raises(Interrupted), interruptible(Counted(allowed)):
        predict_often()
    assert predict(BUILD, ["both"], samples=10) == before


def test_a_search_that_tries_other_ways_does_not_try_on():
    counted = Counted(30)
    with pytest.raises(Interrupted), interruptible(counted):
        solve_for(BUILD, "movers/fans", "margin", "processor-core", 5.0, "both")
    assert counted.left == -1


def test_outside_nothing_is_asked():
    with interruptible(Counted(0)):
        pass
    must_go_on()
