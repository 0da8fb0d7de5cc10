"""Sends a spool to a live run, the oldest batch first, for as long as it takes."""

import urllib.error
import urllib.request
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from http.client import HTTPException
from pathlib import Path
from typing import Final

from krill_log.spool import Spool

TIMEOUT_S: Final = 10.0
#: waits after a failure, s: doubled each time
FIRST_WAIT_S, LONGEST_WAIT_S = 0.5, 15.0
#: the run is over, or is not this token's: nothing of this spool will ever be taken
OVER: Final = frozenset({401, 403, 404, 410})
#: this batch will never be taken, others may
NOT_THIS: Final = frozenset({400, 413, 415, 422})


class RunOver(Exception):
    """The run has ended, or the token was taken back; the message is the server's."""


@dataclass
class Sender:
    """One live run: its address, its token, and the spool of what it has not stored yet."""

    url: str
    token: str
    spool: Spool
    say: Callable[[str], None]
    headers: Mapping[str, str] = field(default_factory=dict)
    wait_s: float = 0.0

    def send_oldest(self) -> bool:
        """Whether a batch went its way. Where the server does not answer, ``wait_s`` says for how long to leave it alone.

        RunOver where nothing will be taken any more.
        """
        waiting = self.spool.waiting()
        if not waiting:
            return False
        return self._send(waiting[0])

    def _send(self, path: Path) -> bool:
        request = urllib.request.Request(  # noqa: S310 - the address was checked by whoever made the sender
            f"{self.url}/batches",
            path.read_bytes(),
            {"Authorization": f"Bearer {self.token}", "Content-Type": "application/jsonl", **self.headers},
            method="POST",
        )
        try:
            with urllib.request.urlopen(request, timeout=TIMEOUT_S) as answer:  # noqa: S310
                answer.read()
        except urllib.error.HTTPError as error:
            told = error.read(2000).decode(errors="replace")
            if error.code in OVER:
                raise RunOver(f"{error.code}: {told}") from None
            if error.code in NOT_THIS:
                aside = self.spool.set_aside(path)
                self.say(f"the server cannot take {path.name} ({error.code}); it is kept as {aside}: {told[:300]}")
                return True
            return self._later(f"the server answers {error.code}")
        except (OSError, HTTPException) as error:
            return self._later(f"no answer: {error}")
        if self.wait_s:
            self.say("the server answers again")
        self.wait_s = 0.0
        self.spool.drop(path)
        return True

    def _later(self, why: str) -> bool:
        if not self.wait_s:
            self.say(f"{why}; what is read is kept and sent later")
        self.wait_s = min(max(2 * self.wait_s, FIRST_WAIT_S), LONGEST_WAIT_S)
        return False


def checked_address(url: str) -> str:
    """The address without a slash at its end; ValueError where it is none."""
    if not url.startswith(("http://", "https://")) or "/api/live/" not in url:
        raise ValueError(
            f"'{url}' is no address of a live run; allowed: http(s)://HOST/api/live/RUN, as Bench shows it"
        )
    return url.rstrip("/")
