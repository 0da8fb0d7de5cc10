"""Processes that are kept running, and that nothing of them stays behind, however the supervisor ends."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from krill_server.supervisor import main

SERVER = Path(__file__).parents[1]
#: writes its number down, begins a process of its own and waits
CHILD = """
import os, subprocess, sys, time
inner = subprocess.Popen([sys.executable, "-c", "import time; time.sleep(60)"])
print(os.getpid(), inner.pid, file=open({file!r}, "a"), flush=True)
{then}
"""


def lives(number: int) -> bool:
    try:
        return "State:\tZ" not in Path(f"/proc/{number}/status").read_text()
    except FileNotFoundError:
        return False


def soon(happens, seconds=8.0):
    """Whether it happens before long."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if happens():
            return True
        time.sleep(0.05)
    return bool(happens())


class Watched:
    def __init__(self, folder: Path, then: str) -> None:
        self.file, self.told, script = folder / "numbers", folder / "told", folder / "child.py"
        script.write_text(CHILD.format(file=str(self.file), then=then))
        with self.told.open("w") as told:
            self.supervisor = subprocess.Popen(
                [sys.executable, "-m", "krill_server.supervisor", f"child={sys.executable} {script}"],
                cwd=SERVER,
                stderr=told,
            )

    def begun(self) -> list[list[int]]:
        """Numbers of each child and of the process that it began."""
        return [[*map(int, line.split())] for line in self.file.read_text().splitlines()] if self.file.exists() else []


@pytest.fixture
def watched(tmp_path):
    made = []

    def begin(then="time.sleep(60)"):
        made.append(Watched(tmp_path, then))
        return made[-1]

    yield begin
    for one in made:
        one.supervisor.kill()
        one.supervisor.wait()
        for number in (number for line in one.begun() for number in line if lives(number)):
            os.kill(number, signal.SIGKILL)


def test_a_killed_process_is_begun_again_and_what_it_left_is_ended(watched):
    one = watched()
    assert soon(lambda: len(one.begun()) == 1)
    first, inner = one.begun()[0]
    os.kill(first, signal.SIGKILL)
    assert soon(lambda: len(one.begun()) == 2)
    assert soon(lambda: not lives(inner))
    assert lives(one.begun()[1][0])


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGKILL])
def test_its_processes_end_with_it(watched, how):
    one = watched()
    assert soon(lambda: len(one.begun()) == 1)
    one.supervisor.send_signal(how)
    one.supervisor.wait(10)
    assert soon(lambda: not lives(one.begun()[0][0]))


def test_one_that_ends_at_once_is_begun_again_ever_more_rarely(watched):
    one = watched(then="sys.exit(3)")
    assert soon(lambda: len(one.begun()) >= 3)
    time.sleep(1.0)
    assert len(one.begun()) <= 4  # after 0.4, 0.8 and 1.6 s, not all the time
    assert "child ended with 3; it is begun again" in one.told.read_text()


def test_one_that_does_not_end_is_killed(watched):
    one = watched(then="import signal; signal.signal(signal.SIGTERM, signal.SIG_IGN); time.sleep(60)")
    assert soon(lambda: len(one.begun()) == 1)
    time.sleep(0.3)
    one.supervisor.terminate()
    one.supervisor.wait(15)
    assert "child did not end within 10 s and is killed" in one.told.read_text()
    assert not any(map(lives, one.begun()[0]))


@pytest.mark.parametrize("arguments", [[], ["granian"], ["server="]])
def test_what_is_no_name_and_command_is_refused(arguments, capsys):
    assert main(arguments) == 2
    assert "NAME=COMMAND" in capsys.readouterr().err
