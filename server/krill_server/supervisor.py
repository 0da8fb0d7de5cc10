"""Keeps processes running: ``python -m krill_server.supervisor NAME=COMMAND ...``, each begun again when it ends.

Standard library only. It ends with its parent, and its processes with it, however it ends: nothing stays behind that would hold
a port against the next start.
"""

import contextlib
import ctypes
import os
import shlex
import signal
import subprocess
import sys
import time
from dataclasses import dataclass, field
from types import FrameType
from typing import Final

#: waits before a process is begun again, s: doubled each time it ended soon
FIRST_WAIT_S: Final = 0.2
LONGEST_WAIT_S: Final = 10.0
#: who has run for so long is begun again without waiting
STEADY_S: Final = 20.0
#: seconds that a process has to end before it is killed
GRACE_S: Final = 10.0
LOOK_S: Final = 0.1
_PR_SET_PDEATHSIG: Final = 1


def end_with_parent() -> None:
    """This process is told to end when the one that began it ends (Linux; elsewhere nothing happens)."""
    if sys.platform == "linux":
        ctypes.CDLL(None, use_errno=True).prctl(_PR_SET_PDEATHSIG, signal.SIGTERM)


@dataclass
class Kept:
    """A process that is kept running."""

    name: str
    command: list[str]
    process: subprocess.Popen[bytes] | None = None
    began: float = 0.0
    wait_s: float = FIRST_WAIT_S
    again_at: float = field(default_factory=time.monotonic)

    def look(self, now: float) -> None:
        """Begin it where it does not run and its wait is over."""
        if self.process is not None and self.process.poll() is not None:
            say(f"{self.name} ended with {self.process.returncode}; it is begun again")
            self.end_group(self.process)
            self.process = None
            self._wait(now)
        if self.process is None and now >= self.again_at:
            self._begin(now)

    def _begin(self, now: float) -> None:
        self.began = now
        try:
            self.process = subprocess.Popen(  # noqa: S603 - the command is that of who started Krill
                self.command,
                start_new_session=True,
                preexec_fn=end_with_parent,
            )
        except OSError as error:
            say(f"{self.name} cannot be begun: {error}")
            self._wait(now)

    def _wait(self, now: float) -> None:
        steady = now - self.began > STEADY_S
        self.wait_s = FIRST_WAIT_S if steady else min(2 * self.wait_s, LONGEST_WAIT_S)
        self.again_at = now + self.wait_s

    @staticmethod
    def end_group(process: subprocess.Popen[bytes]) -> None:
        """Whatever a process that has ended began and left behind."""
        with contextlib.suppress(ProcessLookupError):
            os.killpg(process.pid, signal.SIGKILL)

    def tell_to_end(self) -> None:
        if self.process is not None and self.process.poll() is None:
            self.process.terminate()

    def must_have_ended(self, deadline: float) -> None:
        if self.process is None:
            return
        try:
            self.process.wait(max(0.0, deadline - time.monotonic()))
        except subprocess.TimeoutExpired:
            say(f"{self.name} did not end within {GRACE_S:.0f} s and is killed")
            self.process.kill()
            self.process.wait()
        self.end_group(self.process)


def say(what: str) -> None:
    sys.stderr.write(f"krill: {what}\n")
    sys.stderr.flush()


def keep(kept: list[Kept]) -> None:
    """Until this process is told to end."""
    told = False

    def end(number: int, frame: FrameType | None) -> None:
        nonlocal told
        told = True

    for number in (signal.SIGTERM, signal.SIGINT, signal.SIGHUP):
        signal.signal(number, end)
    while not told:
        for one in kept:
            one.look(time.monotonic())
        time.sleep(LOOK_S)
    for one in kept:
        one.tell_to_end()
    deadline = time.monotonic() + GRACE_S
    for one in kept:
        one.must_have_ended(deadline)


def main(arguments: list[str]) -> int:
    """Exit status 2 where an argument is no name and command."""
    kept = []
    for argument in arguments:
        name, parted, command = argument.partition("=")
        if not parted or not command.strip():
            say(f"'{argument}' is no NAME=COMMAND")
            return 2
        kept.append(Kept(name, shlex.split(command)))
    if not kept:
        say("nothing to keep; say NAME=COMMAND")
        return 2
    parent = os.getppid()
    end_with_parent()
    if os.getppid() == parent:  # it may have ended before it could be asked to tell
        keep(kept)
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
